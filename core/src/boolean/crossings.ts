import { type Vector } from '../geometry/index.js';
import { type HalfEdges } from './half-edges.js';

/** A place, and how often, and which way, something passes through something else there; without a place where they do not come over each other. */
interface Crossing<P> {
  readonly times: number;
  readonly place: P | undefined;
}

/** An edge of one solid that passes through a face of the other. */
export interface EdgeCrossing {
  /** The half edge that stands for the edge, and the face. */
  readonly edge: number;
  readonly face: number;
  /** How often it passes out of the face less how often into it. */
  readonly times: number;
  readonly at: Vector;
}

/**
 * Where the edges of two solids P and Q pass through faces of the other, and how often corners are inside. Each question is answered from answers
 * to simpler ones, of one dimension less: a corner beside an edge in x, an edge over an edge in the plan, a corner under a face, an edge through a
 * face. What is equal is told apart as if P were a little larger, or smaller, than it is; so answers never contradict each other, whatever
 * rounding does, and the solid that is put together by them is closed.
 *
 * J. M. Smith and N. A. Dodgson, A topologically robust algorithm for Boolean operations on polyhedral shapes using approximate arithmetic,
 * Computer-Aided Design 39 (2007).
 */
export class Crossings {
  private readonly edges = new Map<number, Crossing<readonly [number, number, number, number]>>();
  private readonly under: readonly [Map<number, Crossing<number>>, Map<number, Crossing<number>>] = [new Map(), new Map()];

  /** @param grows 1 where P counts as a little larger, −1 where as a little smaller */
  constructor(
    private readonly p: HalfEdges,
    private readonly q: HalfEdges,
    private readonly grows: 1 | -1,
  ) {}

  /** Where edges of P pass through faces of Q, or the other way round. */
  through(isForward: boolean): EdgeCrossing[] {
    const [own, other] = isForward ? [this.p, this.q] : [this.q, this.p];
    const found: EdgeCrossing[] = [];
    for (let edge = 0; edge < own.pair.length; edge++) {
      if (!own.isForward(edge)) continue;
      const [a, b] = [own.point(own.start(edge)), own.point(own.end(edge))];
      const min: Vector = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.min(a[2], b[2])];
      const max: Vector = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.max(a[2], b[2])];
      for (const face of other.facesNear(min, max)) {
        if (other.isApart(face, a, b)) continue;
        const { times, place } = this.edgeThroughFace(edge, face, isForward);
        if (times !== 0 && place) found.push({ edge, face, times, at: place });
      }
    }
    return found;
  }

  /** How often a corner is inside of the other solid: 0 or 1 of what does not cross itself. */
  inside(v: number, isForward: boolean): number {
    const [own, other] = isForward ? [this.p, this.q] : [this.q, this.p];
    const [x, y] = own.point(v);
    let times = 0;
    for (const face of other.facesNear([x, y, -Infinity], [x, y, Infinity]))
      times += this.cornerUnderFace(v, face, isForward).times;
    return isForward ? times : -times;
  }

  /** Whether a is less than b, and where they are equal whether a, of P, moves that way. */
  private isLess(a: number, b: number, outwards: number): boolean {
    return a === b ? this.grows * outwards < 0 : a < b;
  }

  /** A corner of one solid under an edge of the other: where it is between its ends in x, and below it in y. */
  private cornerByEdge(v: number, edge: number, isForward: boolean): Crossing<readonly [number, number]> {
    const [own, other] = isForward ? [this.p, this.q] : [this.q, this.p];
    const { outwards } = this.p;
    const [x, y] = own.point(v);
    const [start, end] = [other.start(edge), other.end(edge)];
    const [a, b] = [other.point(start), other.point(end)];
    const times = isForward
      ? Number(this.isLess(x, b[0], outwards[3 * v])) - Number(this.isLess(x, a[0], outwards[3 * v]))
      : Number(this.isLess(a[0], x, outwards[3 * start])) - Number(this.isLess(b[0], x, outwards[3 * end]));
    if (times === 0) return NOWHERE;
    const place = interpolated(a, b, x);
    if (isForward) return { times: this.isLess(y, place[0], outwards[3 * v + 1]) ? times : 0, place };
    const here = own.point(v);
    const nearer = distance2(a, here) < distance2(b, here) ? start : end;
    return { times: this.isLess(place[0], y, outwards[3 * nearer + 1]) ? times : 0, place };
  }

  /** An edge of P over one of Q in the plan: x, y and the heights of both; and whether that of P is below. */
  private edgeOverEdge(ofP: number, ofQ: number): Crossing<readonly [number, number, number, number]> {
    const key = ofP * this.q.pair.length + ofQ;
    let known = this.edges.get(key);
    if (!known) this.edges.set(key, (known = this.edgeOverEdgeAnew(ofP, ofQ)));
    return known;
  }

  private edgeOverEdgeAnew(ofP: number, ofQ: number): Crossing<readonly [number, number, number, number]> {
    const { p, q } = this;
    let times = 0;
    const between = new Between<readonly [Vector, Vector]>();
    [p.start(ofP), p.end(ofP)].forEach((v, i) => {
      const by = this.cornerByEdge(v, ofQ, true);
      if (!by.place) return;
      times += i === 0 ? -by.times : by.times;
      const here = p.point(v);
      between.add(by.times !== 0, [here, [here[0], by.place[0], by.place[1]]]);
    });
    [q.start(ofQ), q.end(ofQ)].forEach((v, i) => {
      const by = this.cornerByEdge(v, ofP, false);
      if (!by.place) return;
      times += i === 0 ? -by.times : by.times;
      const here = q.point(v);
      between.add(by.times !== 0, [[here[0], by.place[0], by.place[1]], here]);
    });
    if (times === 0 || !between.isWhole) return NOWHERE;
    const [[pl, ql], [pr, qr]] = between.both;
    const place = intersected(pl, pr, ql, qr);
    const [start, end] = [p.start(ofP), p.end(ofP)];
    const here: Vector = [place[0], place[1], place[2]];
    const nearer = distance2(p.point(start), here) < distance2(p.point(end), here) ? start : end;
    return { times: this.isLess(place[2], place[3], p.outwards[3 * nearer + 2]) ? times : 0, place };
  }

  /** A corner of one solid over or under a face of the other: the height of the face there, and whether P is below. */
  private cornerUnderFace(v: number, face: number, isForward: boolean): Crossing<number> {
    const memory = this.under[isForward ? 0 : 1];
    const key = v * (isForward ? this.q : this.p).faces + face;
    let known = memory.get(key);
    if (!known) memory.set(key, (known = this.cornerUnderFaceAnew(v, face, isForward)));
    return known;
  }

  private cornerUnderFaceAnew(v: number, face: number, isForward: boolean): Crossing<number> {
    const [own, other] = isForward ? [this.p, this.q] : [this.q, this.p];
    const here = own.point(v);
    let times = 0;
    let [nearest, least] = [0, Infinity];
    const between = new Between<Vector>();
    for (let k = 0; k < 3; k++) {
      const half = 3 * face + k;
      const corner = other.start(half);
      const away = distance2(other.point(corner), here);
      if (away < least) [nearest, least] = [corner, away];
      const by = this.cornerByEdge(v, other.forward(half), isForward);
      if (!by.place) continue;
      times += isForward === other.isForward(half) ? -by.times : by.times;
      between.add(by.times !== 0, [by.place[0], by.place[1], by.place[1]]);
    }
    if (times === 0 || !between.isWhole) return NOWHERE;
    const [left, right] = between.both;
    const [place] = interpolated(left, right, here[1]);
    const { outwards } = this.p;
    const isBelow = isForward
      ? this.isLess(here[2], place, outwards[3 * v + 2])
      : this.isLess(place, here[2], outwards[3 * nearest + 2]);
    return { times: isBelow ? times : 0, place };
  }

  private edgeThroughFace(edge: number, face: number, isForward: boolean): Crossing<Vector> {
    const [own, other] = isForward ? [this.p, this.q] : [this.q, this.p];
    let times = 0;
    // x, height and y: of what is of the edge, and of what is of the face.
    const between = new Between<readonly [Vector, Vector]>();
    [own.start(edge), own.end(edge)].forEach((v, i) => {
      const by = this.cornerUnderFace(v, face, isForward);
      if (by.place === undefined) return;
      times += (i === 0) === isForward ? by.times : -by.times;
      const [x, y, z] = own.point(v);
      between.add(by.times !== 0, [[x, z, y], [x, by.place, y]]); // prettier-ignore
    });
    for (let k = 0; k < 3; k++) {
      const half = 3 * face + k;
      const forward = other.forward(half);
      const by = isForward ? this.edgeOverEdge(edge, forward) : this.edgeOverEdge(forward, edge);
      if (!by.place) continue;
      times -= other.isForward(half) ? by.times : -by.times;
      const [x, y, ofP, ofQ] = by.place;
      const [mine, its] = isForward ? [ofP, ofQ] : [ofQ, ofP];
      between.add(by.times !== 0, [[x, mine, y], [x, its, y]]); // prettier-ignore
    }
    if (times === 0 || !between.isWhole) return NOWHERE;
    const [[ownLeft, itsLeft], [ownRight, itsRight]] = between.both;
    const [x, z, y] = intersected(ownLeft, ownRight, itsLeft, itsRight);
    return { times, place: [x, y, z] };
  }
}

const NOWHERE = { times: 0, place: undefined } as const;

/** The first two places found of which one is passed and the other is not: what is looked for lies between them. */
class Between<P> {
  private readonly found: P[] = [];
  private isPassed = false;

  add(isPassed: boolean, place: P): void {
    if (this.found.length === 2 || (this.found.length === 1 && isPassed === this.isPassed)) return;
    this.isPassed = isPassed;
    this.found.push(place);
  }

  get isWhole(): boolean {
    return this.found.length === 2;
  }

  get both(): readonly [P, P] {
    return [this.found[0], this.found[1]];
  }
}

const distance2 = (a: Vector, b: Vector): number => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;

/** y and z of a line at x, from the nearer of its ends. */
function interpolated(a: Vector, b: Vector, x: number): readonly [number, number] {
  const [fromA, fromB] = [x - a[0], x - b[0]];
  const near = Math.abs(fromA) < Math.abs(fromB) ? a : b;
  const share = (near === a ? fromA : fromB) / (b[0] - a[0]);
  if (!Number.isFinite(share)) return [a[1], a[2]];
  return [share * (b[1] - a[1]) + near[1], share * (b[2] - a[2]) + near[2]];
}

/** Where two lines over the same stretch of x have the same y: x, that y, and the third coordinate of each. */
function intersected(pl: Vector, pr: Vector, ql: Vector, qr: Vector): readonly [number, number, number, number] {
  const [left, right] = [ql[1] - pl[1], qr[1] - pr[1]];
  const isLeft = Math.abs(left) < Math.abs(right);
  const raw = (isLeft ? left : right) / (left - right);
  const share = Number.isFinite(raw) ? raw : 0;
  const [p, q] = isLeft ? [pl, ql] : [pr, qr];
  const [pRise, qRise] = [pr[1] - pl[1], qr[1] - ql[1]];
  const isP = Math.abs(pRise) < Math.abs(qRise);
  return [
    share * (pr[0] - pl[0]) + p[0],
    share * (isP ? pRise : qRise) + (isP ? p[1] : q[1]),
    share * (pr[2] - pl[2]) + p[2],
    share * (qr[2] - ql[2]) + q[2],
  ];
}
