import { combinedSolids, type Operation } from '../boolean/index.js';
import { DisjointSets, dot, minus, type Vector, weightedSum } from '../geometry/index.js';
import { type ReliefMesh } from '../mesh/index.js';
import { type BlockFace } from '../sign/index.js';
import { type BlockMesh, Corners, fronts, type Fronts, joined, LEVEL } from './block-edges.js';
import { PlainFaces, type Solid } from './plain-faces.js';

/**
 * The faces of a flat solid put together to a block. What of the relief leaves the edges of the block as they are, and comes near nothing that is
 * carved from another face, is joined to it along those edges. What of it does not is taken from the block, or added to it, as by the definition:
 * the block is its body less what each face takes away, with what each face adds.
 * @param flat the solid of the plan @param thickness of the blank
 */
export function blockSolid(flat: ReliefMesh, faces: readonly BlockFace[], thickness: number): BlockMesh {
  const on = new Corners(flat.positions, faces);
  const front = fronts(flat, on);
  const apart = meetingTriangles(flat.positions, front, on, faces, thickness);
  return apart ? withEachOthers(flat, { front, on, faces, thickness, apart }) : joined(flat.positions, front, on, faces);
}

/** What of the relief of a face hangs together, in the coordinates of that face. */
interface Piece {
  readonly face: number;
  readonly min: [number, number, number];
  readonly max: [number, number, number];
  /** Whether it reaches an edge of the face at another level, or goes through. */
  isApart: boolean;
}

/** By triangle whether it is of a piece of the relief that meets something else, or an edge; undefined where none does. */
function meetingTriangles(
  plan: Float64Array,
  { triangles }: Fronts,
  on: Corners,
  faces: readonly BlockFace[],
  thickness: number,
): Uint8Array | undefined {
  const isGround = (t: number): boolean => [0, 1, 2].every((k) => Math.abs(plan[3 * triangles[3 * t + k] + 2]) < LEVEL);
  const sets = new DisjointSets(plan.length / 3);
  const count = triangles.length / 3;
  for (let t = 0; t < count; t++) {
    if (isGround(t)) continue;
    sets.join(triangles[3 * t], triangles[3 * t + 1]);
    sets.join(triangles[3 * t], triangles[3 * t + 2]);
  }
  const pieces = new Map<number, Piece>();
  for (let t = 0; t < count; t++) {
    if (isGround(t)) continue;
    const root = sets.rootOf(triangles[3 * t]);
    let piece = pieces.get(root);
    if (!piece) {
      piece = { face: on.face[triangles[3 * t]], min: [Infinity, Infinity, 0], max: [-Infinity, -Infinity, 0], isApart: false };
      pieces.set(root, piece);
    }
    for (let k = 0; k < 3; k++) {
      const v = triangles[3 * t + k];
      const z = plan[3 * v + 2];
      const at = [plan[3 * v] - faces[piece.face].x, plan[3 * v + 1] - faces[piece.face].y, z];
      for (let i = 0; i < 3; i++) {
        piece.min[i] = Math.min(piece.min[i], at[i]);
        piece.max[i] = Math.max(piece.max[i], at[i]);
      }
      if ((on.edges[v] !== 0 && Math.abs(z) > LEVEL) || z <= -thickness + LEVEL) piece.isApart = true;
    }
  }
  findMeeting([...pieces.values()], faces);
  if (![...pieces.values()].some(({ isApart }) => isApart)) return undefined;
  const apart = new Uint8Array(count);
  for (let t = 0; t < count; t++) if (!isGround(t) && pieces.get(sets.rootOf(triangles[3 * t]))!.isApart) apart[t] = 1;
  return apart;
}

/** mm that what is carved from two faces is apart at least to be known as such. */
const APART = 0.01;

/** Marks pieces that are carved out of the block, and those of two faces of which one is carved where the other is. */
function findMeeting(pieces: readonly Piece[], faces: readonly BlockFace[]): void {
  const carved = pieces.filter(({ min }) => min[2] < -LEVEL);
  for (const piece of carved) {
    const behind = spacePlaces(piece, faces[piece.face], 0);
    const whole = spacePlaces(piece, faces[piece.face], Infinity);
    faces.forEach((other, j) => {
      if (j === piece.face) return;
      const spans = (places: readonly Vector[]) =>
        [other.across, other.up, other.out].map((axis) => {
          const along = places.map((place) => dot(minus(place, other.middle), axis));
          return [Math.min(...along), Math.max(...along)] as const;
        });
      if (spans(behind)[2][1] > -APART) piece.isApart = true;
      const own = spans(whole);
      for (const one of pieces) {
        if (one.face !== j || !own.every(([low, high], k) => low < one.max[k] && high > one.min[k])) continue;
        piece.isApart = true;
        one.isApart = true;
      }
    });
  }
}

/** The corners of the box of a piece in space, a little larger than it is, no higher than said. */
const spacePlaces = ({ min, max }: Piece, { across, up, out, middle }: BlockFace, most: number): Vector[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((bits) => {
    const [x, y, z] = [0, 1, 2].map((k) => ((bits >> k) & 1 ? max[k] + APART : min[k] - APART));
    return weightedSum([1, middle], [x, across], [y, up], [Math.min(most, z), out]);
  });

interface Meeting {
  readonly front: Fronts;
  readonly on: Corners;
  readonly faces: readonly BlockFace[];
  readonly thickness: number;
  readonly apart: Uint8Array;
}

/** The block without the pieces that meet something, from which each of their faces takes away what it carves, and to which it adds what it raises. */
function withEachOthers(flat: ReliefMesh, { front, on, faces, thickness, apart }: Meeting): BlockMesh {
  const plain = new PlainFaces(flat, front, on, faces, apart);
  let highest = 1;
  for (let v = 2; v < flat.positions.length; v += 3) highest = Math.max(highest, flat.positions[v] + 1);
  const parts = faces.flatMap((face, i) => {
    if (!plain.isWorked(i)) return [];
    const relief = pieceOn(flat, on, i);
    return {
      face,
      away: part(plain.prism(i, -thickness, 0), relief, 'cut', face),
      more: part(relief, plain.prism(i, 0, highest), 'common', face),
    };
  });
  let block = joined(plain.positions, plain.fronts, plain.on, faces);
  // What is raised from one face is not cut from another.
  for (const { face, away } of parts)
    if (away.from.length > 0) block = onFace(block, face, (own) => part(own, deeper(away, thickness), 'cut'));
  for (const { face, more } of parts) if (more.from.length > 0) block = onFace(block, face, (own) => part(own, more, 'join'));
  return block;
}

/** Two solids put together, with the flat triangles that theirs come from; in the coordinates of a face where one is given. */
function part(first: Solid, second: Solid, operation: Operation, face?: BlockFace): Solid {
  const [one, other] = face
    ? [first, second].map((mesh) => onGrid(mesh, (p) => [p[0] - face.x, p[1] - face.y, p[2]]))
    : [first, second];
  const made = combinedSolids(one, other, operation);
  const count = one.from.length;
  return { ...made, from: made.from.map((f) => (f < count ? one.from[f] : other.from[f - count])) };
}

/** A block worked on as one face sees it, where its own corners are level with it and where the plan has them. */
function onFace({ plan, ...block }: BlockMesh, face: BlockFace, made: (own: Solid) => Solid): BlockMesh {
  const { across, up, out, middle } = face;
  const own = onGrid(block, (p) => {
    const from = minus(p, middle);
    return [dot(from, across), dot(from, up), dot(from, out)];
  });
  const { positions, ...rest } = made(own);
  return {
    ...rest,
    plan,
    positions: eachCorner(positions, ([x, y, z]) => weightedSum([1, middle], [x, across], [y, up], [z, out])),
  };
}

/** mm further than any block is deep. */
const BEYOND = 2000;

/** Through and through: what is carved as deep as the block goes further than that. */
const deeper = (mesh: Solid, thickness: number): Solid => ({
  ...mesh,
  positions: mesh.positions.map((value, i) => (i % 3 === 2 && value < -thickness + LEVEL ? value - BEYOND : value)),
});

/** mm that coordinates are multiples of, where what is turned in space and back is to be where it was. */
const GRID = 1e-9;

const onGrid = (mesh: Solid, at: (p: Vector) => Vector): Solid => ({
  ...mesh,
  positions: eachCorner(mesh.positions, (p) => at(p).map((value) => Math.round(value / GRID) * GRID) as unknown as Vector),
});

function eachCorner(positions: Float64Array, at: (p: Vector) => Vector): Float64Array {
  const out = new Float64Array(positions.length);
  for (let v = 0; v < out.length; v += 3) out.set(at([positions[v], positions[v + 1], positions[v + 2]]), v);
  return out;
}

/** The solid of one face, by itself. */
function pieceOn({ positions, triangles }: ReliefMesh, { face }: Corners, i: number): Solid {
  const from: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) if (face[triangles[t]] === i) from.push(t / 3);
  const number = new Map<number, number>();
  const kept = from.flatMap((f) =>
    [0, 1, 2].map((k) => {
      const v = triangles[3 * f + k];
      if (!number.has(v)) number.set(v, number.size);
      return number.get(v)!;
    }),
  );
  const own = new Float64Array(3 * number.size);
  for (const [v, n] of number) own.set(positions.subarray(3 * v, 3 * v + 3), 3 * n);
  return { positions: own, triangles: Uint32Array.from(kept), from: Int32Array.from(from) };
}
