import { type Box, type Contour, contourArea, STEPS_PER_MM, toStep, PointSet } from '../geometry/index.js';
import { type Contours, contourSet } from './contour-set.js';
import { type IsolatedGlyph, isolatedGlyphs } from './isolated-glyphs.js';
import { node, type Segments } from './noding.js';
import { type NodingMemory } from './noding-memory.js';
import { sweep, type UpwardEdges } from './sweep.js';

/**
 * How often each layer winds around a place: layer and winding number in turn, layers ascending, no zeros. A winding
 * number other than 0 is inside by the non-zero rule, above 0 by the positive rule.
 */
export type Windings = readonly number[];

/** Segments in grid steps, x and y of both ends in turn, that part places without changing what they are. */
export type Constraints = ArrayLike<number>;

/** Segments to keep as edges inside the places whose label `on` accepts, so that triangles do not reach over them. */
export interface Constrained {
  readonly segments: Constraints;
  on(label: number): boolean;
  /** What is remembered of clusters that were laid before. */
  readonly memory?: NodingMemory;
  /** Borders of further layers, in grid steps, that close though not in the order of rings; the inside is on their left. */
  readonly borders?: readonly { readonly layer: number; readonly segments: Constraints }[];
}

const NO_CONSTRAINTS: Constrained = { segments: [], on: () => false };
const CONSTRAINT = -1;

/** What a place is, from the windings around it: any whole number the caller gives a meaning to. */
export type Labelling = (windings: Windings) => number;

/** Edges that part places of different labels, and constraints inside of places; the first border every place exactly once. */
export interface LabelledEdges extends UpwardEdges {
  /** The label on the left and on the right of an edge, seen from `lo` to `hi`. */
  readonly left: Int32Array;
  readonly right: Int32Array;
}

/** A glyph that lies apart from everything else: its own rings are its border. */
export interface Inset {
  /** Rings as they were given. */
  readonly contours: readonly Contour[];
  /** The layers that it is part of, ascending. */
  readonly layers: readonly number[];
  readonly box: Box;
  /** Whether the inside lies on the left of its rings. */
  readonly isLeft: boolean;
  /** Labels of the place around it (and in its counters) and of its inside; they differ. */
  readonly around: number;
  readonly inside: number;
}

/** Every place of a plan with its label. */
export interface Arrangement {
  /** The label of the unbounded outside. */
  readonly outside: number;
  /** What the insets leave over: edges of everything that meets or overlaps, and of what is no glyph. */
  readonly base: LabelledEdges;
  readonly insets: readonly Inset[];
  /** All edges, those of the insets among them; put together when first asked for. */
  readonly edges: LabelledEdges;
}

/**
 * Lays the contours of all layers into one plan, splits them where they meet, and labels every place. Edges with the
 * same label on both sides are left out.
 *
 * Each face is labelled by the windings carried across its edges, so that islands, overlaps, doubled outlines and either
 * direction of drawing are right by construction.
 */
export function arrange(areas: readonly Contours[], label: Labelling, constrained = NO_CONSTRAINTS): Arrangement {
  const layers = areas.map(contourSet);
  const { segments: constraints, borders = [], memory } = constrained;
  let count = constraints.length / 2;
  for (const { contours } of layers) for (const contour of contours) count += contour.length / 2;
  const points = new PointSet(count);
  const isolated = isolatedGlyphs(layers, constraints);
  const apart = new Set(isolated.flatMap(({ contours }) => contours));
  const segments: Segments = { from: [], to: [], tag: [] };
  layers.forEach(({ contours }, layer) => {
    for (const contour of contours) {
      if (contour.length < 6 || apart.has(contour)) continue;
      const ring = ringPoints(contour, points);
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        if (ring[i] === ring[j]) continue;
        segments.from.push(ring[j]);
        segments.to.push(ring[i]);
        segments.tag.push(layer);
      }
    }
  });
  for (const { layer, segments: list } of [{ layer: CONSTRAINT, segments: constraints }, ...borders]) {
    for (let i = 0; i < list.length; i += 4) {
      segments.from.push(points.add(list[i], list[i + 1]));
      segments.to.push(points.add(list[i + 2], list[i + 3]));
      segments.tag.push(layer);
    }
  }
  const noded = memory ? memory.node(points, segments) : node(points, segments);
  const probes = isolated.map((glyph) => probeOf(glyph, points));
  return labelled(points, noded, probes, label, constrained);
}

const ringPoints = (contour: Contour, points: PointSet): number[] =>
  Array.from({ length: contour.length / 2 }, (_, i) => points.add(toStep(contour[2 * i]), toStep(contour[2 * i + 1])));

/** An edge inside the box of a glyph, by which the sweep learns what is around the glyph. */
interface Probe {
  readonly glyph: IsolatedGlyph;
  readonly isLeft: boolean;
  readonly lo: number;
  readonly hi: number;
}

function probeOf(glyph: IsolatedGlyph, points: PointSet): Probe {
  const [first] = glyph.contours;
  let lowest = 0;
  for (let i = 2; i < first.length; i += 2) if (first[i + 1] < first[lowest + 1]) lowest = i;
  const [x, y] = [toStep(first[lowest]), toStep(first[lowest + 1])];
  const isLeft = glyph.contours.reduce((sum, contour) => sum + contourArea(contour), 0) > 0;
  return { glyph, isLeft, lo: points.add(x, y), hi: points.add(x, y + 1) };
}

/**
 * Numbers for equal lists, and the lists by number. Steps are such lists: the change of windings across an edge from its right
 * to its left, layer and difference in turn, layers ascending; states are the windings themselves.
 */
class Interner {
  readonly lists: (readonly number[])[] = [];
  private readonly numbers = new Map<string, number>();

  number(list: readonly number[]): number {
    const key = list.join(',');
    let known = this.numbers.get(key);
    if (known === undefined) {
      known = this.lists.length;
      this.lists.push(list);
      this.numbers.set(key, known);
    }
    return known;
  }
}

/** The windings that occur in a plan, each with a number and asked for its label once. */
class WindingStates {
  private readonly states = new Interner();
  private readonly labels: number[];
  private readonly across = new Map<number, number>();
  /** The state outside of everything. */
  readonly nothing: number;

  constructor(
    private readonly label: Labelling,
    private readonly steps: Interner,
  ) {
    this.nothing = this.states.number([]);
    this.labels = [label([])];
  }

  labelOf(state: number): number {
    return this.labels[state];
  }

  /** The state right of an edge, from the one left of it. */
  crossed(state: number, step: number): number {
    const key = state * 0x200000 + step;
    let next = this.across.get(key);
    if (next === undefined) {
      next = this.stateOf(minus(this.states.lists[state], this.steps.lists[step]));
      this.across.set(key, next);
    }
    return next;
  }

  /** The label where to the windings of a state others are added. */
  labelWith(state: number, step: Windings): number {
    return this.labelOf(this.stateOf(plus(this.states.lists[state], step)));
  }

  private stateOf(windings: Windings): number {
    const state = this.states.number(windings);
    this.labels[state] ??= this.label(windings);
    return state;
  }
}

function labelled(
  points: PointSet,
  segments: Segments,
  probes: readonly Probe[],
  label: Labelling,
  constraints: Constrained,
): Arrangement {
  const { x, y } = points;
  const steps = new Interner();
  const merged = mergeCoincident(points, segments, steps);
  const n = merged.lo.length;

  const states = new WindingStates(label, steps);
  // Behind the edges stand the probes, which change nothing and only learn where they are.
  const swept: UpwardEdges = {
    x,
    y,
    lo: Int32Array.from([...merged.lo, ...probes.map(({ lo }) => lo)]),
    hi: Int32Array.from([...merged.hi, ...probes.map(({ hi }) => hi)]),
  };
  const rightState = new Int32Array(n + probes.length);
  const left = new Int32Array(n);
  const right = new Int32Array(n);
  sweep(swept, (event) => {
    let state = event.left < 0 ? states.nothing : rightState[event.left];
    for (const e of event.begun) {
      if (e < n) {
        left[e] = states.labelOf(state);
        state = states.crossed(state, merged.step[e]);
        right[e] = states.labelOf(state);
      }
      rightState[e] = state;
    }
  });

  const kept = partingEdges(left, right, (e) => merged.isConstraint[e] === 1 && constraints.on(left[e]));
  const base: LabelledEdges = {
    x: x.slice(0, points.size),
    y: y.slice(0, points.size),
    lo: picked(merged.lo, kept),
    hi: picked(merged.hi, kept),
    left: picked(left, kept),
    right: picked(right, kept),
  };
  const insets: Inset[] = [];
  probes.forEach(({ glyph, isLeft }, i) => {
    const state = rightState[n + i];
    // What changes from outside the glyph to its inside.
    const step = glyph.layers.flatMap((layer) => [layer, isLeft ? 1 : -1]);
    const [around, inside] = [states.labelOf(state), states.labelWith(state, step)];
    if (inside !== around) insets.push({ ...glyph, isLeft, around, inside });
  });
  let edges: LabelledEdges | undefined;
  return {
    outside: states.labelOf(states.nothing),
    base,
    insets,
    get edges() {
      edges ??= withInsets(base, insets, points);
      return edges;
    },
  };
}

function withInsets(base: LabelledEdges, insets: readonly Inset[], points: PointSet): LabelledEdges {
  let count = base.lo.length;
  for (const { contours } of insets) for (const contour of contours) count += contour.length / 2;
  const list = new EdgeList(count);
  for (let e = 0; e < base.lo.length; e++) list.add(base.lo[e], base.hi[e], base.left[e], base.right[e]);
  // Points may move to larger arrays while they are added: they are read when all are there.
  const rings = insets.map(({ contours }) => contours.map((contour) => ringPoints(contour, points)));
  const { x, y } = points;
  insets.forEach(({ isLeft, inside, around }, i) => {
    for (const ring of rings[i]) {
      for (let k = 0, j = ring.length - 1; k < ring.length; j = k++) {
        const a = ring[j];
        const b = ring[k];
        const isUp = y[a] < y[b] || (y[a] === y[b] && x[a] < x[b]);
        if (isUp === isLeft) list.add(isUp ? a : b, isUp ? b : a, inside, around);
        else list.add(isUp ? a : b, isUp ? b : a, around, inside);
      }
    }
  });
  return { x: x.slice(0, points.size), y: y.slice(0, points.size), ...list.arrays() };
}

/** Edges of a plan with their labels, as they are found. */
class EdgeList {
  private readonly lo: Int32Array;
  private readonly hi: Int32Array;
  private readonly left: Int32Array;
  private readonly right: Int32Array;
  private count = 0;

  constructor(most: number) {
    this.lo = new Int32Array(most);
    this.hi = new Int32Array(most);
    this.left = new Int32Array(most);
    this.right = new Int32Array(most);
  }

  add(lo: number, hi: number, left: number, right: number): void {
    this.lo[this.count] = lo;
    this.hi[this.count] = hi;
    this.left[this.count] = left;
    this.right[this.count++] = right;
  }

  arrays(): Pick<LabelledEdges, 'lo' | 'hi' | 'left' | 'right'> {
    const cut = (values: Int32Array) => (values.length === this.count ? values : values.slice(0, this.count));
    return { lo: cut(this.lo), hi: cut(this.hi), left: cut(this.left), right: cut(this.right) };
  }
}

/** Segments between the same two points become one edge with the sum of their steps; edges that change nothing go, constraints stay. */
function mergeCoincident(
  points: PointSet,
  segments: Segments,
  steps: Interner,
): { lo: Int32Array; hi: Int32Array; step: Int32Array; isConstraint: Int32Array } {
  const { x, y } = points;
  const { from, to, tag } = segments;
  const lo = new Int32Array(from.length);
  const hi = new Int32Array(from.length);
  const step = new Int32Array(from.length);
  const isConstraint = new Int32Array(from.length);
  const nothing = steps.number([]);
  // The edges that begin at each point, as chains.
  const newest = new Int32Array(points.size).fill(-1);
  const older = new Int32Array(from.length);
  // Nearly all edges are of one layer and one direction: their numbers are looked up without a search.
  const single: number[] = [];
  let count = 0;
  for (let s = 0; s < from.length; s++) {
    const a = from[s];
    const b = to[s];
    const isUp = y[a] < y[b] || (y[a] === y[b] && x[a] < x[b]);
    const low = isUp ? a : b;
    const high = isUp ? b : a;
    const change =
      tag[s] === CONSTRAINT ? nothing : (single[2 * tag[s] + (isUp ? 1 : 0)] ??= steps.number([tag[s], isUp ? 1 : -1]));
    let known = newest[low];
    while (known >= 0 && hi[known] !== high) known = older[known];
    if (known >= 0) {
      step[known] = steps.number(plus(steps.lists[step[known]], steps.lists[change]));
      if (tag[s] === CONSTRAINT) isConstraint[known] = 1;
    } else {
      isConstraint[count] = tag[s] === CONSTRAINT ? 1 : 0;
      lo[count] = low;
      hi[count] = high;
      step[count] = change;
      older[count] = newest[low];
      newest[low] = count++;
    }
  }
  const kept = new Int32Array(count);
  let keptCount = 0;
  for (let e = 0; e < count; e++) if (steps.lists[step[e]].length > 0 || isConstraint[e] === 1) kept[keptCount++] = e;
  const edges = kept.subarray(0, keptCount);
  return { lo: picked(lo, edges), hi: picked(hi, edges), step: picked(step, edges), isConstraint: picked(isConstraint, edges) };
}

/** The values at some places of an array. */
function picked(values: Int32Array, places: Int32Array): Int32Array {
  const out = new Int32Array(places.length);
  for (let i = 0; i < places.length; i++) out[i] = values[places[i]];
  return out;
}

/** Edges whose two sides differ, and those that stay anyway. */
function partingEdges(left: Int32Array, right: Int32Array, stays: (edge: number) => boolean = () => false): Int32Array {
  const kept = new Int32Array(left.length);
  let count = 0;
  for (let e = 0; e < left.length; e++) if (left[e] !== right[e] || stays(e)) kept[count++] = e;
  return kept.subarray(0, count);
}

/** Sum of two sparse ascending lists of (layer, number), zeros dropped; `sign` −1 takes the second away. */
function plus(a: readonly number[], b: readonly number[], sign = 1): number[] {
  const out: number[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    const layerA = i < a.length ? a[i] : Infinity;
    const layerB = j < b.length ? b[j] : Infinity;
    const layer = Math.min(layerA, layerB);
    let value = 0;
    if (layerA === layer) value += a[i + 1];
    if (layerB === layer) value += sign * b[j + 1];
    if (layerA === layer) i += 2;
    if (layerB === layer) j += 2;
    if (value !== 0) out.push(layer, value);
  }
  return out;
}

const minus = (a: readonly number[], b: readonly number[]): number[] => plus(a, b, -1);

/**
 * The same edges under coarser labels; those whose two sides become the same are left out.
 * @param constrained labels in which constraints stay
 */
export function relabelled(
  edges: LabelledEdges,
  label: (old: number) => number,
  constrained: (label: number) => boolean = () => false,
): LabelledEdges {
  const left = edges.left.map(label);
  const right = edges.right.map(label);
  const kept = partingEdges(left, right, (e) => edges.left[e] === edges.right[e] && constrained(left[e]));
  return {
    x: edges.x,
    y: edges.y,
    lo: picked(edges.lo, kept),
    hi: picked(edges.hi, kept),
    left: picked(left, kept),
    right: picked(right, kept),
  };
}

/** Area in mm² of every label that the outside does not have. */
export function areasByLabel({ base, insets, outside }: Arrangement): Map<number, number> {
  const { x, y, lo, hi, left, right } = base;
  const sums = new Map<number, number>();
  const add = (label: number, value: number) => {
    if (label !== outside) sums.set(label, (sums.get(label) ?? 0) + value);
  };
  for (let e = 0; e < lo.length; e++) {
    const [ax, ay, bx, by] = [x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]]];
    const cross = ax * by - ay * bx;
    add(left[e], cross);
    add(right[e], -cross);
  }
  // Exact in grid steps up to here.
  for (const [label, twice] of sums) sums.set(label, twice / 2 / STEPS_PER_MM ** 2);
  for (const { contours, isLeft, inside, around } of insets) {
    const size = contours.reduce((sum, contour) => sum + contourArea(contour), 0) * (isLeft ? 1 : -1);
    add(inside, size);
    add(around, -size);
  }
  return sums;
}

/**
 * Visits every edge with its two ends (grid points) and the labels on its left and right, seen from the first end; insets whose
 * box does not pass `reaches` are left out.
 */
export function visitEdges(
  { base, insets }: Arrangement,
  reaches: (box: Box) => boolean,
  visit: (ax: number, ay: number, bx: number, by: number, left: number, right: number) => void,
): void {
  const { x, y, lo, hi, left, right } = base;
  for (let e = 0; e < lo.length; e++) visit(x[lo[e]], y[lo[e]], x[hi[e]], y[hi[e]], left[e], right[e]);
  for (const { contours, box, isLeft, inside, around } of insets) {
    if (!reaches(box)) continue;
    const [onLeft, onRight] = isLeft ? [inside, around] : [around, inside];
    for (const contour of contours) {
      const n = contour.length;
      for (let i = 0, j = n - 2; i < n; j = i, i += 2)
        visit(toStep(contour[j]), toStep(contour[j + 1]), toStep(contour[i]), toStep(contour[i + 1]), onLeft, onRight);
    }
  }
}
