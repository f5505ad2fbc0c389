import Flatbush from 'flatbush';
import { type Contour, snapStroke, snapRing } from '../geometry/index.js';
import { type Spot } from './findings.js';

/** Lines after their ends were joined. */
export interface JoinedLines {
  readonly rings: readonly Contour[];
  readonly open: readonly Contour[];
  /** Where two ends were joined that did not meet, and over what distance in mm. */
  readonly joints: readonly (Spot & { readonly gap: number })[];
  /** For every line that stays open, its two ends. */
  readonly ends: readonly Spot[];
  readonly doubles: number;
}

/**
 * Joins open lines end to end, those nearest to each other first, until no two ends are closer than `within` mm. A line whose own
 * ends meet becomes a ring. The same line drawn twice, in either direction, is taken once.
 */
export function joinEnds(lines: readonly Contour[], within: number): JoinedLines {
  const { distinct, doubles } = withoutDoubles(lines);
  const partner = partners(distinct, within);
  const joints: (Spot & { gap: number })[] = [];
  partner.forEach((other, end) => {
    if (other < end) return;
    const [ax, ay] = endOf(distinct, end);
    const [bx, by] = endOf(distinct, other);
    const gap = Math.hypot(bx - ax, by - ay);
    if (gap > 0) joints.push({ x: (ax + bx) / 2, y: (ay + by) / 2, gap });
  });
  const done = new Uint8Array(distinct.length);
  const open: Contour[] = [];
  const rings: Contour[] = [];
  // Open chains begin at an end that has no partner; what is left runs round.
  for (let end = 0; end < 2 * distinct.length; end++)
    if (partner[end] < 0 && !done[end >> 1]) open.push(snapStroke(chainFrom(distinct, partner, end, done)));
  for (let line = 0; line < distinct.length; line++)
    if (!done[line]) {
      const ring = snapRing(chainFrom(distinct, partner, 2 * line, done));
      if (ring.length >= 6) rings.push(ring);
    }
  const kept = open.filter((polyline) => polyline.length >= 4);
  const ends = kept.flatMap((polyline) => [
    { x: polyline[0], y: polyline[1] },
    { x: polyline[polyline.length - 2], y: polyline[polyline.length - 1] },
  ]);
  return { rings, open: kept, joints, ends, doubles };
}

/** End 2i is the beginning of line i, end 2i + 1 its end. */
function endOf(lines: readonly Contour[], end: number): readonly [number, number] {
  const line = lines[end >> 1];
  return end % 2 === 0 ? [line[0], line[1]] : [line[line.length - 2], line[line.length - 1]];
}

/** For every end the one that it is joined to, or −1. */
function partners(lines: readonly Contour[], within: number): Int32Array {
  const ends = 2 * lines.length;
  const partner = new Int32Array(ends).fill(-1);
  if (ends === 0) return partner;
  const index = new Flatbush(ends);
  for (let end = 0; end < ends; end++) {
    const [x, y] = endOf(lines, end);
    index.add(x, y, x, y);
  }
  index.finish();
  const pairs: { readonly a: number; readonly b: number; readonly gap: number }[] = [];
  for (let a = 0; a < ends; a++) {
    const [x, y] = endOf(lines, a);
    for (const b of index.neighbors(x, y, MOST_NEAR, within)) {
      if (b <= a || (b >> 1 === a >> 1 && lines[a >> 1].length < 6)) continue;
      const [bx, by] = endOf(lines, b);
      const gap = Math.hypot(bx - x, by - y);
      if (gap <= within) pairs.push({ a, b, gap });
    }
  }
  pairs.sort((p, q) => p.gap - q.gap || p.a - q.a || p.b - q.b);
  for (const { a, b } of pairs) {
    if (partner[a] >= 0 || partner[b] >= 0) continue;
    partner[a] = b;
    partner[b] = a;
  }
  return partner;
}

/** Ends that are looked at about each; where more lie together, the nearest. */
const MOST_NEAR = 12;

/** The points of a chain from an end of a line onwards, until it stops or comes back. */
function chainFrom(lines: readonly Contour[], partner: Int32Array, start: number, done: Uint8Array): number[] {
  const out: number[] = [];
  for (let end = start; ;) {
    const line = lines[end >> 1];
    done[end >> 1] = 1;
    if (end % 2 === 0) for (let i = 0; i < line.length; i++) out.push(line[i]);
    else for (let i = line.length - 2; i >= 0; i -= 2) out.push(line[i], line[i + 1]);
    const next = partner[end ^ 1];
    if (next < 0 || done[next >> 1]) return out;
    end = next;
  }
}

function withoutDoubles(lines: readonly Contour[]): { distinct: Contour[]; doubles: number } {
  const seen = new Set<string>();
  const distinct = lines.filter((line) => {
    const there = line.join();
    const back: number[] = [];
    for (let i = line.length - 2; i >= 0; i -= 2) back.push(line[i], line[i + 1]);
    const isKnown = seen.has(there) || seen.has(back.join());
    seen.add(there);
    return !isKnown && line.length >= 4;
  });
  return { distinct, doubles: lines.length - distinct.length };
}
