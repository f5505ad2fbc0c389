import { type Box, bounds, contains, degrees } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import { type Evaluation, partsSeen } from '../relief/index.js';
import { type SupportSurface, supportFaults, surfaceOf } from '../support/index.js';

/** Degrees that a word may go round: letters more than 60° from its middle turn away (common practice, no source). */
const MOST_ROUND = 120;
/** Places a side at which the stretch of a surface is looked at. */
const SAMPLES = 24;

/** What is told of a sign that is bent around something. */
export function supportNotes(evaluation: Evaluation): Note[] {
  const { sign, side, blank, rearmost, highest } = evaluation;
  const surface = surfaceOf(sign);
  if (!surface || side !== 'front') return [];
  return [
    ...supportFaults(sign, { blank, reach: { low: rearmost, high: highest } }),
    ...stretchNotes(evaluation, surface),
    ...wordNotes(evaluation, surface),
  ];
}

/** Where the surface is stretched by more than is allowed: of the parts, or where there are none of the blank. */
function stretchNotes({ sign: { support }, parts, blank }: Evaluation, surface: SupportSurface): Note[] {
  if (!support || !('stretch' in support)) return [];
  const inks = parts.flatMap(({ ink, role }) => (ink && role === 'made' ? [ink] : []));
  const worst = worstStretch(surface, inks.length > 0 ? inks : [bounds([blank])!], (x, y) => contains([blank], x, y));
  if (!worst || Math.abs(worst.share) <= support.stretch / 100) return [];
  return [note('support-stretch', { x: worst.x, y: worst.y }, worst.share, support.stretch / 100)];
}

/** The place of the plan at which the face is stretched most, and by which share; undefined where there is none. */
function worstStretch(
  surface: SupportSurface,
  boxes: readonly Box[],
  isThere: (x: number, y: number) => boolean,
): { readonly share: number; readonly x: number; readonly y: number } | undefined {
  let worst: { share: number; x: number; y: number } | undefined;
  for (const { minX, maxX, minY, maxY } of boxes) {
    for (let i = 0; i <= SAMPLES; i++) {
      for (let j = 0; j <= SAMPLES; j++) {
        const [x, y] = [minX + ((maxX - minX) * i) / SAMPLES, minY + ((maxY - minY) * j) / SAMPLES];
        if (!isThere(x, y)) continue;
        for (const stretch of surface.stretch(x, y, 0)) {
          if (!worst || Math.abs(stretch - 1) > Math.abs(worst.share)) worst = { share: stretch - 1, x, y };
        }
      }
    }
  }
  return worst;
}

/** Words of which no one place shows all, and such as run into themselves. */
function wordNotes(evaluation: Evaluation, surface: SupportSurface): Note[] {
  const { sign } = evaluation;
  const notes: Note[] = [];
  for (const { id, ink, role, letters } of partsSeen(evaluation)) {
    const part = sign.parts.find((other) => other.id === id);
    if (!ink || role !== 'made' || part?.kind !== 'text' || letters === 0) continue;
    const round = degrees(turningAway(surface, ink));
    if (round > MOST_ROUND) notes.push(note('support-out-of-sight', { part: id }, part.name, round));
    const by = surface.round ? ink.maxX - ink.minX - surface.round.length : 0;
    if (by > 0) notes.push(note('support-meets-itself', { part: id }, part.name, by, sign.unit));
  }
  return notes;
}

/** Radians that a surface turns away from the reader across a box: what turns towards him hides nothing. */
function turningAway(surface: SupportSurface, { minX, maxX, minY, maxY }: Box): number {
  const [before, after] = [new Float64Array(3), new Float64Array(3)];
  const along = (from: readonly [number, number], to: readonly [number, number]): number => {
    let sum = 0;
    for (let i = 0; i < SAMPLES; i++) {
      const at = (share: number, out: Float64Array): void =>
        surface.normal(from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1]), out, 0);
      at(i / SAMPLES, before);
      at((i + 1) / SAMPLES, after);
      const middle = (i + 0.5) / SAMPLES;
      const [x, y] = [from[0] + middle * (to[0] - from[0]), from[1] + middle * (to[1] - from[1])];
      const [flat, raised] = [surface.stretch(x, y, 0), surface.stretch(x, y, 1)];
      if (raised[0] + raised[1] <= flat[0] + flat[1]) continue;
      const cos = before[0] * after[0] + before[1] * after[1] + before[2] * after[2];
      sum += Math.acos(Math.min(1, Math.max(-1, cos)));
    }
    return sum;
  };
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  return Math.max(along([minX, y], [maxX, y]), along([x, minY], [x, maxY]));
}
