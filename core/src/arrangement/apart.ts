import FlatQueue from 'flatqueue';
import { union } from './combine.js';
import {
  area,
  bounds,
  type Box,
  DisjointSets,
  gapBetween,
  movedBy,
  type Outline,
  reversed,
  ShapeCache,
} from '../geometry/index.js';
import { ContourSet } from './contour-set.js';
import { crowds, neighbourhoods } from './isolated-glyphs.js';

/** Nearer than this, in mm, two outlines are one. */
const TOUCHING = 0.001;

/** Groups of outlines that come to touch each other, by their numbers. */
export const touchingGroups = (outlines: readonly Outline[]): number[][] => neighbourhoods(outlines, TOUCHING);

const clean = new ShapeCache<Outline>(200_000);

/**
 * Rings that wind once around an area, each as it is, in rings that do not cross: what rounding let touch or cross is mended. Rings that
 * are alike, as the letters of words, are mended once.
 */
export function cleaned(rings: Outline): Outline {
  return crowds(rings, TOUCHING).flatMap((crowd) => {
    const { value, dx, dy } = clean.get(crowd, '', (placed) => {
      // What stands within material is a hole in it.
      return area(placed) >= 0 ? union(placed) : union(placed.map(reversed)).map(reversed);
    });
    return movedBy(value, dx, dy);
  });
}

/** With more outlines than this the pairs of them are too many to look at. */
const MOST_OUTLINES = 1500;

/**
 * The widest gap in mm that has to be bridged so that all outlines hang together by the narrowest gaps there are (the longest edge
 * of a minimum spanning tree, after Kruskal); undefined for too many outlines.
 */
export function widestGap(outlines: readonly Outline[]): number | undefined {
  const n = outlines.length;
  if (n > MOST_OUTLINES) return undefined;
  const boxes = outlines.map((outline) => bounds(outline)!);
  const pairs: { readonly i: number; readonly j: number; readonly least: number }[] = [];
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) pairs.push({ i, j, least: boxGap(boxes[i], boxes[j]) });
  pairs.sort((a, b) => a.least - b.least);
  const joined = new DisjointSets(n);
  let [apartStill, widest] = [n, 0];
  /** Pairs that were measured, by their gaps. */
  const measured = new FlatQueue<{ readonly i: number; readonly j: number }>();
  const joinUpTo = (least: number): void => {
    while (measured.length > 0 && measured.peekValue()! <= least && apartStill > 1) {
      const gap = measured.peekValue()!;
      const { i, j } = measured.pop()!;
      if (joined.areJoined(i, j)) continue;
      joined.join(i, j);
      apartStill--;
      widest = Math.max(widest, gap);
    }
  };
  for (const { i, j, least } of pairs) {
    joinUpTo(least);
    if (apartStill <= 1) break;
    // Boxes tell that most are further apart than what hangs together already.
    if (joined.areJoined(i, j)) continue;
    measured.push({ i, j }, gapBetween(outlines[i], outlines[j]));
  }
  joinUpTo(Infinity);
  return widest;
}

function boxGap(a: Box, b: Box): number {
  const across = Math.max(a.minX - b.maxX, b.minX - a.maxX, 0);
  const up = Math.max(a.minY - b.maxY, b.minY - a.maxY, 0);
  return Math.hypot(across, up);
}

/** What sets are made up of: tiers of a part ask for the same again and again. */
const known = new WeakMap<ContourSet, readonly Outline[]>();

/** A set as outlines that do not touch each other: glyph by glyph, those that do joined into one. Worked out once for each set. */
export function connectedComponents(contours: ContourSet): readonly Outline[] {
  let outlines = known.get(contours);
  if (!outlines) known.set(contours, (outlines = outlinesApart(contours)));
  return outlines;
}

function outlinesApart({ glyphs, loose }: ContourSet): Outline[] {
  const all = [...glyphs, ...(loose.length > 0 ? [union(loose)] : [])].filter((each) => each.length > 0);
  return touchingGroups(all).map((group) =>
    group.length === 1 ? all[group[0]] : union(ContourSet.of(group.map((i) => all[i]))),
  );
}
