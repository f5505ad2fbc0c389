import {
  bounds,
  type Box,
  contains,
  type Contour,
  cross,
  dot,
  minus,
  snap,
  unit,
  type Vector,
  weightedSum,
} from '../../geometry/index.js';
import { type BlockBody, type Support } from '../document/schema-support.js';

/** A face of a block: a plan of its own, which the plan of the sign shows beside the others. */
export interface BlockFace {
  /** Told apart from the other faces of the block by this: "front", "side-3". */
  readonly id: string;
  readonly name: string;
  /** Corners in space, anticlockwise as one sees them who stands before it. */
  readonly corners: readonly Vector[];
  /** Directions in space: to the right and up as it is read, and towards the reader. */
  readonly across: Vector;
  readonly up: Vector;
  readonly out: Vector;
  /** The middle of its box, in the plan and in space. */
  readonly x: number;
  readonly y: number;
  readonly middle: Vector;
  /** Its corners in the plan, as they follow one another in space. */
  readonly outline: Contour;
  /** Whether it stands upright, as one of those that are gone round. */
  readonly isSide: boolean;
  /** mm that the block is deep behind it, as far as a blank may be thick. */
  readonly depth: number;
}

/** A block laid out: its faces, the box of the plan that shows them, and how large that is. The middle of the first face is that of the plan. */
export interface LaidBlock {
  readonly faces: readonly BlockFace[];
  readonly box: Box;
  readonly width: number;
  readonly height: number;
  /** mm from its foremost to its rearmost corner behind any face. */
  readonly depth: number;
}

/** mm that a blank may be thick. */
const DEEPEST = 1000;

/** mm between faces in the plan. */
const BETWEEN_FACES = 20;

/** A face as it is described: what is up on it, and in which column and row of the plan it stands. */
interface Described {
  readonly id: string;
  readonly name: string;
  readonly corners: readonly Vector[];
  readonly up: Vector;
  readonly column: number;
  readonly row: number;
  /** Whether it stands over, or under, the middle of its column, however wide it is. */
  readonly isOver?: boolean;
}

const UPRIGHT: Vector = [0, 1, 0];
const TO_BACK: Vector = [0, 0, -1];
const TO_FRONT: Vector = [0, 0, 1];

/**
 * The faces of a block. In space x is to the right, y up and z towards the reader; the middle of the box around it lies in x = y = 0, and its
 * foremost corners in z = 0.
 */
export function laidBlock(support: Extract<Support, { kind: 'block' }>): LaidBlock {
  let known = laid.get(support);
  if (!known) laid.set(support, (known = laidBody(support.body)));
  return known;
}

/** Blocks as they are laid out, by supports, which nobody changes. */
const laid = new WeakMap<Support, LaidBlock>();

/** The faces of what a sign stands on; none where it is no block. */
export const facesOf = (support: Support | undefined): readonly BlockFace[] =>
  support?.kind === 'block' ? laidBlock(support).faces : [];

/** The face that a place of the plan is on, or is nearest to. */
export function faceAt(faces: readonly BlockFace[], x: number, y: number): BlockFace | undefined {
  const on = faces.find(({ outline }) => contains([outline], x, y));
  if (on) return on;
  const away = ({ outline }: BlockFace): number => {
    const { minX, maxX, minY, maxY } = bounds([outline])!;
    return Math.hypot(Math.max(minX - x, 0, x - maxX), Math.max(minY - y, 0, y - maxY));
  };
  return [...faces].sort((a, b) => away(a) - away(b))[0];
}

/** The face that a place in space is on, or whose level it is nearest to. */
export function faceNear(faces: readonly BlockFace[], place: Vector): BlockFace | undefined {
  const away = ({ middle, out }: BlockFace): number => Math.abs(dot(minus(place, middle), out));
  return [...faces].sort((a, b) => away(a) - away(b))[0];
}

function laidBody(body: BlockBody): LaidBlock {
  const described = facesOfBody(body);
  const corners = described.flatMap((face) => face.corners);
  const faces = described.map((face) => ({ ...face, ...framed(face) }));
  const columns = cells(faces.flatMap(({ column, wide, isOver }) => (isOver ? [] : [[column, wide] as const])));
  const rows = cells(faces.map(({ row, high }) => [row, high]));
  const middleOf = (among: readonly Cell[], at: number): number => among.find((cell) => cell.at === at)!.middle;
  const [left, top] = [middleOf(columns, faces[0].column), middleOf(rows, faces[0].row)];
  const placed = faces.map(({ id, name, corners: own, column, row, ...frame }): BlockFace => {
    const x = snap(middleOf(columns, column) - left);
    const y = snap(top - middleOf(rows, row));
    const outline = Float64Array.from(
      own.flatMap((corner) => {
        const from = minus(corner, frame.middle);
        return [snap(x + dot(from, frame.across)), snap(y + dot(from, frame.up))];
      }),
    );
    const behind = corners.map((corner) => -dot(minus(corner, frame.middle), frame.out));
    const depth = Math.min(DEEPEST, Math.max(...behind));
    const { across, up, out, middle } = frame;
    return { id, name, corners: own, across, up, out, x, y, middle, outline, isSide: Math.abs(out[1]) < 1e-9, depth };
  });
  const drawn = bounds(placed.map(({ outline }) => outline))!;
  const margin = BETWEEN_FACES / 2;
  const box = { minX: drawn.minX - margin, minY: drawn.minY - margin, maxX: drawn.maxX + margin, maxY: drawn.maxY + margin };
  return {
    faces: placed,
    box,
    width: box.maxX - box.minX,
    height: box.maxY - box.minY,
    depth: Math.max(...placed.map(({ depth }) => depth)),
  };
}

/** A column, or a row: how large it is, and where its middle is. */
interface Cell {
  readonly at: number;
  readonly size: number;
  readonly middle: number;
}

/** Columns, or rows, one after another. */
function cells(sized: readonly (readonly [number, number])[]): Cell[] {
  let from = 0;
  return [...new Set(sized.map(([at]) => at))]
    .sort((a, b) => a - b)
    .map((at) => {
      const size = Math.max(...sized.filter(([other]) => other === at).map(([, own]) => own));
      const middle = from + (size + BETWEEN_FACES) / 2;
      from += size + BETWEEN_FACES;
      return { at, size, middle };
    });
}

/** How a face lies: its directions, the middle of its box as it is read, and how large that is. */
function framed({ corners, up: upwards }: Described) {
  const out = unit(normalOf(corners));
  const lean = dot(upwards, out);
  const up = unit(weightedSum([1, upwards], [-lean, out]));
  const across = cross(up, out);
  const spans = [across, up].map((axis) => {
    const along = corners.map((corner) => dot(corner, axis));
    return [Math.min(...along), Math.max(...along)] as const;
  });
  const [[left, right], [low, high]] = spans;
  const middle = weightedSum([(left + right) / 2, across], [(low + high) / 2, up], [dot(corners[0], out), out]);
  return { across, up, out, middle, wide: right - left, high: high - low };
}

function facesOfBody(body: BlockBody): Described[] {
  switch (body.kind) {
    case 'box':
      return boxFaces(body);
    case 'prism':
      return prismFaces(body);
    case 'wedge':
      return wedgeFaces(body);
  }
}

const face = (
  id: string,
  name: string,
  corners: readonly Vector[],
  column: number,
  row: number,
  up: Vector = UPRIGHT,
): Described => ({ id, name, corners, up, column, row });

function boxFaces({ width, height, depth, chamfer: asked = 0 }: Extract<BlockBody, { kind: 'box' }>): Described[] {
  const chamfer = Math.min(asked, mostChamfer({ width, height, depth }));
  const [w, h] = [width / 2, height / 2];
  // The corners of a rectangle that is so much smaller all round, so far behind, from the lower left one on.
  const ring = (less: number, z: number): readonly Vector[] => [
    [less - w, less - h, z],
    [w - less, less - h, z],
    [w - less, h - less, z],
    [less - w, h - less, z],
  ];
  const [near, edge, far] = [ring(chamfer, 0), ring(0, -chamfer), ring(0, -depth)];
  const faces = [
    face('front', 'front', near, 2, 2),
    face('right', 'right side', [edge[1], far[1], far[2], edge[2]], 4, 2),
    face('back', 'back', [far[1], far[0], far[3], far[2]], 5, 2),
    face('left', 'left side', [far[0], edge[0], edge[3], far[3]], 0, 2),
    face('top', 'top', [edge[3], edge[2], far[2], far[3]], 2, 0, TO_BACK),
    face('bottom', 'bottom', [far[0], far[1], edge[1], edge[0]], 2, 4, TO_FRONT),
  ];
  if (chamfer === 0) return faces;
  return [
    ...faces,
    face('chamfer-top', 'upper chamfer', [near[3], near[2], edge[2], edge[3]], 2, 1),
    face('chamfer-right', 'right chamfer', [near[1], edge[1], edge[2], near[2]], 3, 2),
    face('chamfer-bottom', 'lower chamfer', [edge[0], edge[1], near[1], near[0]], 2, 3),
    face('chamfer-left', 'left chamfer', [edge[0], near[0], near[3], edge[3]], 1, 2),
  ];
}

/** mm that the edges of a box may be chamfered by at most, so that something of its front and sides is left. */
export const mostChamfer = ({ width, height, depth }: { width: number; height: number; depth: number }): number =>
  Math.min(0.49 * width, 0.49 * height, 0.98 * depth);

/** mm that the sides of a prism may take up beside each other in the plan. */
const LARGEST_ROW = 3900;

/** mm that each side of a prism may be wide. */
export const mostSide = (sides: number): number => LARGEST_ROW / sides - BETWEEN_FACES;

function prismFaces({ sides, width: asked, height }: Extract<BlockBody, { kind: 'prism' }>): Described[] {
  const width = Math.min(asked, mostSide(sides));
  const h = height / 2;
  const turn = (2 * Math.PI) / sides;
  const around = width / 2 / Math.sin(turn / 2);
  const middle = around * Math.cos(turn / 2);
  // Seen from above the sides follow one another to the right of the one who stands before the first.
  const corner = (i: number, y: number): Vector => {
    const angle = (i - 0.5) * turn;
    return [around * Math.sin(angle), y, around * Math.cos(angle) - middle];
  };
  const names = Array.from({ length: sides }, (_, i) => i);
  return [
    ...names.map((i): Described => ({
      id: `side-${i + 1}`,
      name: `side ${i + 1}`,
      corners: [corner(i, -h), corner(i + 1, -h), corner(i + 1, h), corner(i, h)],
      up: UPRIGHT,
      column: i,
      row: 1,
    })),
    { id: 'top', name: 'top', corners: names.map((i) => corner(i, h)), up: TO_BACK, column: 0, row: 0, isOver: true },
    { id: 'bottom', name: 'bottom', corners: names.map((i) => corner(-i, -h)), up: TO_FRONT, column: 0, row: 2, isOver: true },
  ];
}

/** mm below which the front of a wedge counts as none. */
const LEAST_FRONT = 0.5;

function wedgeFaces({ width, depth, front: asked, back }: Extract<BlockBody, { kind: 'wedge' }>): Described[] {
  const front = asked < LEAST_FRONT ? 0 : asked;
  const [w, low] = [width / 2, -Math.max(front, back) / 2];
  const at = (x: number, y: number, z: number): Vector => [x, low + y, z];
  const hasFront = front > 0;
  const rows = { slope: 0, middle: 1, bottom: 2 };
  const profile = (x: number): Vector[] => [
    at(x, 0, 0),
    at(x, 0, -depth),
    at(x, back, -depth),
    ...(hasFront ? [at(x, front, 0)] : []),
  ];
  // What slopes is read from the front, from above where it lies level.
  return [
    face(
      'slope',
      'slope',
      [at(-w, front, 0), at(w, front, 0), at(w, back, -depth), at(-w, back, -depth)],
      1,
      rows.slope,
      TO_BACK,
    ),
    ...(hasFront ? [face('front', 'front', [at(-w, 0, 0), at(w, 0, 0), at(w, front, 0), at(-w, front, 0)], 1, rows.middle)] : []),
    face('right', 'right side', profile(w), 2, rows.middle),
    face('back', 'back', [at(w, 0, -depth), at(-w, 0, -depth), at(-w, back, -depth), at(w, back, -depth)], 3, rows.middle),
    face('left', 'left side', [...profile(-w)].reverse(), 0, rows.middle),
    face('bottom', 'bottom', [at(-w, 0, -depth), at(w, 0, -depth), at(w, 0, 0), at(-w, 0, 0)], 1, rows.bottom, TO_FRONT),
  ];
}

/** The area of a polygon in space as a vector along its normal (Newell). */
const normalOf = (corners: readonly Vector[]): Vector =>
  weightedSum(
    ...corners.map((corner, i): readonly [number, Vector] => [
      1,
      cross(minus(corner, corners[0]), minus(corners[(i + 1) % corners.length], corners[0])),
    ]),
  );
