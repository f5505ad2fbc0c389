import { type Motion, type Place, placeOn } from '@plain-relief/core/program';
import type { Description } from './description.js';

/** A straight stretch that is driven, with how fast it may be. */
export interface Block {
  readonly line: number;
  readonly from: Place;
  readonly to: Place;
  readonly length: number;
  /** Where it heads, as a vector of length 1. */
  readonly heading: readonly [number, number, number];
  readonly isRapid: boolean;
  /** mm/s, before a feed override. */
  readonly most: number;
  readonly motion: Motion;
}

/** mm by which chords may leave an arc, and radians that one spans at most. */
const CHORD = 0.002;
const WIDEST = Math.PI / 12;

/** A move as the straight stretches that are driven: an arc as its chords, no faster than what holds it on its curve. */
export function blocksOf(motion: Motion, { acceleration, rapid, mostFeed }: Description): Block[] {
  const { arc, kind, feed } = motion;
  const isRapid = kind === 'rapid';
  const asked = (isRapid ? rapid : Math.min(feed, mostFeed)) / 60;
  // What presses outwards is v²/R.
  const most = arc ? Math.min(asked, Math.sqrt(acceleration * arc.radius)) : asked;
  const spanned = arc ? Math.min(WIDEST, 2 * Math.acos(Math.max(-1, 1 - CHORD / arc.radius))) : Infinity;
  const pieces = arc ? Math.max(1, Math.ceil(Math.abs(arc.sweep) / spanned)) : 1;
  const blocks: Block[] = [];
  let from = motion.from;
  for (let i = 1; i <= pieces; i++) {
    const to = i === pieces ? motion.to : placeOn(motion, i / pieces);
    const [dx, dy, dz] = [to.x - from.x, to.y - from.y, to.z - from.z];
    const length = Math.hypot(dx, dy, dz);
    if (length > 1e-9)
      blocks.push({
        line: motion.line,
        from,
        to,
        length,
        heading: [dx / length, dy / length, dz / length],
        isRapid,
        most,
        motion,
      });
    from = to;
  }
  return blocks;
}

/**
 * How fast a corner may be passed in mm/s, if it may be rounded by so much: on the circle that touches both ways and misses the corner by
 * the deviation, what presses outwards is no more than the acceleration (junction deviation, common practice).
 */
export function cornerSpeed(before: Block, after: Block, { acceleration, deviation }: Description): number {
  const straight =
    before.heading[0] * after.heading[0] + before.heading[1] * after.heading[1] + before.heading[2] * after.heading[2];
  // Half of the angle by which the way turns.
  const half = Math.acos(Math.min(1, Math.max(-1, straight))) / 2;
  const cosine = Math.cos(half);
  if (half < 1e-6) return Infinity;
  // A circle of radius R misses the corner by R/cos(half) − R.
  const radius = (deviation * cosine) / Math.max(1e-12, 1 - cosine);
  return Math.sqrt(acceleration * radius);
}
