import { arrange, cleaned, triangulate, windingOf } from '../arrangement/index.js';
import { circle, type Contour, cornersOf, IntList, type Outline, PointSet, STEPS_PER_MM, toStep } from '../geometry/index.js';
import { isWatertight, type Mesh } from '../mesh/index.js';

/** x, y or z. */
export type Axis = 0 | 1 | 2;

/** A hole in a cut face, straight into the solid on either side, for a peg. */
export interface Socket {
  /** Middle of its mouth on the plane. */
  readonly u: number;
  readonly v: number;
  readonly radius: number;
  /** mm that it goes into the solid. */
  readonly deep: number;
}

/** One side of a solid that was cut, with what its triangles come from: numbers of triangles of the solid, −1 on the cut face. */
export interface CutPart {
  readonly mesh: Mesh;
  readonly from: Int32Array;
}

/** mm by which a socket's outline may leave its circle. */
const SOCKET_TOLERANCE = 0.01;
/** A plane that corners lie on is moved by this until none does: corners lie on a grid of twice that. */
const ASIDE = 0.5 / STEPS_PER_MM;

/**
 * A closed solid cut in two by the plane at which a coordinate has a value, with closed faces there, and sockets in them. The plane's own
 * coordinates u, v are those that follow in x, y, z, x, y. Corners of the faces lie on the grid, and are the same on both.
 * @returns the sides of lower and of higher values; undefined where the plane meets the solid so that the faces do not close: one nearby does
 */
export function cutByPlane(
  solid: Mesh,
  axis: Axis,
  wanted: number,
  sockets: readonly Socket[] = [],
): readonly [CutPart, CutPart] | undefined {
  const section = new Section(solid, axis, wanted);
  const [low, high] = [new Side(section), new Side(section)];
  section.eachPart((codes, triangle, isLow) => (isLow ? low : high).add(codes, triangle));
  const holes = sockets.map(({ u, v, radius }) => circle(u, v, radius, SOCKET_TOLERANCE));
  const inside = (label: number): boolean => label === 1;
  const { edges } = arrange([section.rings(), holes], (w) => (windingOf(w, 0) > 0 && windingOf(w, 1) === 0 ? 1 : 0));
  const codes = Array.from(edges.x, (u, i) => section.placed(u, edges.y[i]));
  const { corners } = triangulate(edges, inside);
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [codes[corners[t]], codes[corners[t + 1]], codes[corners[t + 2]]];
    low.add([a, b, c], -1);
    high.add([a, c, b], -1);
  }
  sockets.forEach(({ deep }, i) => {
    low.addSocket(holes[i], -deep);
    high.addSocket(holes[i], deep);
  });
  const parts = [low.part(), high.part()] as const;
  return parts.every(({ mesh }) => mesh.triangles.length === 0 || isWatertight(mesh)) ? parts : undefined;
}

/** The outlines of a solid where the plane at which a coordinate has a value cuts it, in the plane's coordinates. */
export const planeSection = (solid: Mesh, axis: Axis, wanted: number): Outline => {
  const section = new Section(solid, axis, wanted);
  section.cutAll();
  // The walls' triangles are cut along their diagonals, too: points that are no corners.
  return cleaned(section.rings().map(cornersOf)).map(cornersOf);
};

/** Where a plane cuts a solid. Corners are told by codes: those of the solid by their numbers, those of the cut from −1 down. */
class Section {
  readonly at: number;
  /** Places of the cut's corners on the plane's grid, by their codes from −1 down. */
  private readonly places = new PointSet(1024);
  /** Sides of the lower part's face, from one place to the next: anticlockwise around material, seen from the higher part. */
  private readonly rims = { from: new IntList(), to: new IntList() };

  constructor(
    readonly solid: Mesh,
    readonly axis: Axis,
    wanted: number,
  ) {
    this.at = clearOf(solid, axis, wanted);
  }

  get axes(): readonly [number, number] {
    return [(this.axis + 1) % 3, (this.axis + 2) % 3];
  }

  /** Every triangle as it is, or what the plane leaves of it on either side. */
  eachPart(told: (codes: readonly number[], triangle: number, isLow: boolean) => void): void {
    this.cutAll(
      (triangle, isLow) => told(Array.from(this.solid.triangles.subarray(3 * triangle, 3 * triangle + 3)), triangle, isLow),
      (triangle, [a, b, c], [m, n], isTipLow) => {
        told([a, m, n], triangle, isTipLow);
        told([m, b, c], triangle, !isTipLow);
        told([m, c, n], triangle, !isTipLow);
      },
    );
  }

  /**
   * Cuts all triangles, of which the face is known after.
   * @param whole told of every triangle on one side
   * @param cut told of every other, by its corners from the one that is alone on, and by the corners of the cut beside that
   */
  cutAll(
    whole?: (triangle: number, isLow: boolean) => void,
    cut?: (triangle: number, corners: readonly number[], ends: readonly [number, number], isTipLow: boolean) => void,
  ): void {
    const { at, axis, rims } = this;
    const { positions: p, triangles } = this.solid;
    for (let t = 0; t < triangles.length; t += 3) {
      const isLow0 = p[3 * triangles[t] + axis] < at;
      const isLow1 = p[3 * triangles[t + 1] + axis] < at;
      const isLow2 = p[3 * triangles[t + 2] + axis] < at;
      if (isLow0 === isLow1 && isLow1 === isLow2) {
        whole?.(t / 3, isLow0);
        continue;
      }
      const tip = isLow0 === isLow1 ? 2 : isLow0 === isLow2 ? 1 : 0;
      const isTipLow = p[3 * triangles[t + tip] + axis] < at;
      const [a, b, c] = [triangles[t + tip], triangles[t + ((tip + 1) % 3)], triangles[t + ((tip + 2) % 3)]];
      const [m, n] = [this.onEdge(a, b), this.onEdge(a, c)];
      cut?.(t / 3, [a, b, c], [m, n], isTipLow);
      if (m === n) continue;
      rims.from.push(-1 - (isTipLow ? n : m));
      rims.to.push(-1 - (isTipLow ? m : n));
    }
  }

  /** The code of a corner of the cut, by its place on the grid. */
  placed(u: number, v: number): number {
    return -1 - this.places.add(u, v);
  }

  /** The sides of the face as rings, in mm. */
  rings(): Contour[] {
    const { places } = this;
    const [from, to] = [this.rims.from.toArray(), this.rims.to.toArray()];
    // Of every place the last side that leaves it, and of every side the one before.
    const last = new Int32Array(places.size).fill(-1);
    const before = new Int32Array(from.length);
    from.forEach((place, side) => {
      before[side] = last[place];
      last[place] = side;
    });
    const rings: Contour[] = [];
    for (let start = 0; start < last.length; start++) {
      while (last[start] >= 0) {
        const ring: number[] = [];
        let at = start;
        do {
          ring.push(places.x[at] / STEPS_PER_MM, places.y[at] / STEPS_PER_MM);
          const side = last[at];
          if (side < 0) break;
          last[at] = before[side];
          at = to[side];
        } while (at !== start);
        if (ring.length >= 6) rings.push(Float64Array.from(ring));
      }
    }
    return rings;
  }

  /** x, y, z of a code. */
  positionOf(code: number): number[] {
    if (code >= 0) return Array.from(this.solid.positions.subarray(3 * code, 3 * code + 3));
    const [u, v] = [this.places.x[-1 - code], this.places.y[-1 - code]];
    return this.positionAt(this.at, u / STEPS_PER_MM, v / STEPS_PER_MM);
  }

  positionAt(along: number, u: number, v: number): number[] {
    const position = [0, 0, 0];
    const [uAxis, vAxis] = this.axes;
    position[this.axis] = along;
    position[uAxis] = u;
    position[vAxis] = v;
    return position;
  }

  /** Both triangles of an edge find the same corner on it. */
  private onEdge(a: number, b: number): number {
    const { at, axis } = this;
    const { positions: p } = this.solid;
    const [from, to] = a < b ? [3 * a, 3 * b] : [3 * b, 3 * a];
    const share = (at - p[from + axis]) / (p[to + axis] - p[from + axis]);
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    return this.placed(
      toStep(p[from + u] + share * (p[to + u] - p[from + u])),
      toStep(p[from + v] + share * (p[to + v] - p[from + v])),
    );
  }
}

/** The value, or the nearest above it at which no corner lies. */
function clearOf({ positions }: Mesh, axis: Axis, wanted: number): number {
  const taken = new Set<number>();
  for (let i = axis; i < positions.length; i += 3) if (Math.abs(positions[i] - wanted) < 0.01) taken.add(positions[i]);
  let at = wanted;
  while (taken.has(at)) at += ASIDE;
  return at;
}

/** What lies on one side of a section. */
class Side {
  private readonly codes: number[] = [];
  private readonly from: number[] = [];
  /** Corners of sockets, whose codes follow those of the solid. */
  private readonly extra: number[][] = [];
  private readonly own: number;

  constructor(private readonly section: Section) {
    this.own = section.solid.positions.length / 3;
  }

  add(codes: readonly number[], triangle: number): void {
    const [a, b, c] = codes;
    if (a === b || b === c || c === a) return;
    this.codes.push(a, b, c);
    this.from.push(triangle);
  }

  /** A round hole behind a mouth, whose sides and ground are inside the solid. @param by mm that the ground lies from the plane */
  addSocket(mouth: Contour, by: number): void {
    const { section } = this;
    const n = mouth.length / 2;
    const rim = Array.from({ length: n }, (_, i) => section.placed(toStep(mouth[2 * i]), toStep(mouth[2 * i + 1])));
    const ground = rim.map((_, i) => this.point(section.positionAt(section.at + by, mouth[2 * i], mouth[2 * i + 1])));
    // Anticlockwise seen from the higher part, as the mouth is: into the lower part its sides look the other way than into the higher.
    const face = (a: number, b: number, c: number): void => this.add(by < 0 ? [a, b, c] : [a, c, b], -1);
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      face(rim[i], rim[j], ground[j]);
      face(rim[i], ground[j], ground[i]);
      if (i > 0 && j > 0) face(ground[0], ground[i], ground[j]);
    }
  }

  part(): CutPart {
    const { codes, extra, own, section } = this;
    const indices = new Map<number, number>();
    const positions: number[] = [];
    const triangles = Uint32Array.from(codes, (code) => {
      let index = indices.get(code);
      if (index === undefined) {
        indices.set(code, (index = positions.length / 3));
        positions.push(...(code >= own ? extra[code - own] : section.positionOf(code)));
      }
      return index;
    });
    return { mesh: { positions: Float64Array.from(positions), triangles }, from: Int32Array.from(this.from) };
  }

  private point(position: number[]): number {
    return this.own + this.extra.push(position) - 1;
  }
}
