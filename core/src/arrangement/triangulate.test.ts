import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { arrange, areasByLabel } from './arrangement.js';
import { type Contour, STEPS_PER_MM, orient2d, circle, rectangle } from '../geometry/index.js';
import { triangulate } from './triangulate.js';

/** Every place that some layer covers, one label per set of layers. */
const bySet = (windings: readonly number[]): number => {
  let label = 0;
  for (let i = 0; i < windings.length; i += 2) label |= 1 << windings[i];
  return label;
};

/** Checks that the triangles are anticlockwise, cover each label's area exactly and share every inner edge. */
function expectExactCover(layers: readonly (readonly Contour[])[]): void {
  const plan = arrange(layers, bySet);
  const areas = areasByLabel(plan);
  const { x, y } = plan.edges;
  const { corners, labels } = triangulate(plan.edges, (label) => label !== 0);
  const sums = new Map<number, number>();
  const halfEdges = new Map<string, number>();
  for (let t = 0; t < labels.length; t++) {
    const [a, b, c] = corners.slice(3 * t, 3 * t + 3);
    const twice = orient2d(x[a], y[a], x[b], y[b], x[c], y[c]);
    if (twice <= 0) throw new Error(`Triangle ${t} is not anticlockwise.`);
    sums.set(labels[t], (sums.get(labels[t]) ?? 0) + twice / 2 / STEPS_PER_MM ** 2);
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ]) {
      const key = `${labels[t]}:${p}>${q}`;
      if (halfEdges.has(key)) throw new Error(`The edge ${key} is met twice.`);
      halfEdges.set(key, t);
    }
  }
  for (const [label, value] of areas) expect(sums.get(label)).toBeCloseTo(value, 9);
  // An edge without its opposite in the same label must be a border of the plan, and every border must be there.
  const borders = new Set<string>();
  for (let e = 0; e < plan.edges.lo.length; e++) {
    if (plan.edges.left[e] !== 0) borders.add(`${plan.edges.left[e]}:${plan.edges.lo[e]}>${plan.edges.hi[e]}`);
    if (plan.edges.right[e] !== 0) borders.add(`${plan.edges.right[e]}:${plan.edges.hi[e]}>${plan.edges.lo[e]}`);
  }
  const open = [...halfEdges.keys()].filter((key) => {
    const [label, p, q] = key.split(/[:>]/);
    return !halfEdges.has(`${label}:${q}>${p}`);
  });
  expect(new Set(open)).toEqual(borders);
}

const coordinate = fc.integer({ min: -8, max: 8 });
/** Rings on a coarse grid: crossings, touching corners, overlaps and degenerate pieces are the rule. */
const coarseRing = fc
  .array(fc.tuple(coordinate, coordinate), { minLength: 3, maxLength: 9 })
  .map((points) => Float64Array.from(points.flat()));
/** Rings with coordinates off the grid, whose crossings must be rounded. */
const fineRing = fc
  .array(fc.tuple(fc.double({ min: -9, max: 9, noNaN: true }), fc.double({ min: -9, max: 9, noNaN: true })), {
    minLength: 3,
    maxLength: 12,
  })
  .map((points) => Float64Array.from(points.flat()));

describe('triangulate', () => {
  it('covers a plate with holes exactly', () => {
    expectExactCover([[rectangle(100, 60, 5)], [circle(-20, 0, 10), circle(20, 0, 10)], [circle(20, 0, 4)]]);
  });

  it('covers any rings on a coarse grid, touching and overlapping', () => {
    fc.assert(fc.property(fc.array(fc.array(coarseRing, { maxLength: 3 }), { maxLength: 3 }), expectExactCover), {
      numRuns: 300,
    });
  });

  it('covers any crossing rings off the grid', () => {
    fc.assert(fc.property(fc.array(fc.array(fineRing, { maxLength: 2 }), { maxLength: 3 }), expectExactCover), {
      numRuns: 200,
    });
  });
});
