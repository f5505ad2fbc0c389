import { bounds, type Contour, creasesOf, type Curve, curvePlace, PieceCurve, type Reach } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import {
  laidBlock,
  lineCurve,
  mostChamfer,
  mostSide,
  profileCurve,
  sheetPieces,
  type Sign,
  type Support,
} from '../sign/index.js';
import { type LengthUnit } from '../units/index.js';
import { ConeSurface } from './cone.js';
import { surfaceOf } from './surface-of.js';
import { type Round, type SupportSurface } from './surface.js';

/** What is bent, as the front sees it. */
export interface ToBend {
  readonly blank: Contour;
  /** How far the relief reaches from the face. */
  readonly reach: Reach;
}

/** A sign cannot be bent as its support says; the notes say why. */
export class SupportError extends Error {
  constructor(readonly notes: readonly Note[]) {
    super(notes.map(({ text }) => text).join(' '));
    this.name = 'SupportError';
  }
}

/** mm by which the ends of a blank that goes all the way round may miss each other. */
const SEAM = 0.006;
/** mm that what is compared may be off by rounding. */
const ROUNDED = 1e-6;

/** Why a sign cannot be bent as its support says, each with the number; none where it can, or is flat. */
export function supportFaults(sign: Sign, { blank, reach }: ToBend): Note[] {
  const { support, unit } = sign;
  if (support?.kind === 'block') return blockFaults(support, sign);
  const surface = surfaceOf(sign);
  if (!support || !surface || blank.length === 0) return [];
  if (support.kind === 'cone' && support.bottom === support.top) return [note('support-straight-cone', {}, support.bottom, unit)];
  if (support.kind === 'cylinder' && support.round && support.axis === 'level') return [note('support-level-round', {})];
  const faults: Note[] = [];
  const { behind, front } = surface.room;
  if (-reach.low > behind - LEAST_ROOM) faults.push(note('support-wall', {}, -reach.low, behind, unit));
  if (reach.high > front - LEAST_ROOM) faults.push(note('support-front', {}, reach.high, front, unit));
  if (surface.round) {
    if (!isRound(blank, surface.round)) faults.push(note('support-seam', {}, surface.round.length, unit));
    return faults;
  }
  return [...faults, ...shapeFaults(support, sign, surface, { blank, reach })];
}

/** What of a sign a block cannot have, and sizes that leave nothing of it. */
function blockFaults({ body }: Extract<Support, { kind: 'block' }>, { parts, blank, unit }: Sign): Note[] {
  const faults: Note[] = [];
  if (body.kind === 'box' && body.chamfer !== undefined && body.chamfer > mostChamfer(body))
    faults.push(note('block-chamfer', {}, body.chamfer, mostChamfer(body), unit));
  if (body.kind === 'prism' && body.width > mostSide(body.sides))
    faults.push(note('block-large', {}, body.sides, body.width, mostSide(body.sides), unit));
  const { depth } = laidBlock({ kind: 'block', body });
  if (Math.abs(depth - blank.thickness) > ROUNDED + 1e-3) faults.push(note('block-depth', {}, blank.thickness, depth, unit));
  if (blank.edge ?? blank.backEdge) faults.push(note('block-without', {}, 'edge forms of the blank'));
  if (blank.cutTo) faults.push(note('block-without', {}, 'letters that the blank is cut to'));
  for (const { id, name, side, tiers, hidden } of parts) {
    if (hidden) continue;
    if (side === 'back') faults.push(note('block-back', { part: id }, name));
    if (tiers.some(({ on, action }) => on && action.kind === 'insert')) faults.push(note('block-insert', { part: id }, name));
  }
  return faults;
}

/** mm that are left in front of, or behind, what is bent, where it would come together in a line. */
const LEAST_ROOM = 0.01;

/** What one shape of support, going on without end, asks of a blank. */
function shapeFaults(
  support: Exclude<Support, { kind: 'block' }>,
  { unit, blank: { thickness } }: Sign,
  surface: SupportSurface,
  { blank, reach }: ToBend,
): Note[] {
  const { minX, maxX, minY, maxY } = bounds([blank])!;
  switch (support.kind) {
    case 'cylinder': {
      const [wide, round] = [support.axis === 'level' ? maxY - minY : maxX - minX, 2 * Math.PI * support.radius];
      return wide > round + ROUNDED ? [note('support-overlaps', {}, wide, round, unit)] : [];
    }
    case 'cone':
      return surface instanceof ConeSurface ? coneFaults(surface, blank, unit) : [];
    case 'bent': {
      const curve = new PieceCurve(sheetPieces(support, thickness), support.centre);
      return crossingFaults(curve, support.axis === 'level' ? [minY, maxY] : [minX, maxX], reach, unit);
    }
    case 'swept': {
      const backwards = firstBackwards(profileCurve(support), minY, maxY);
      if (backwards !== undefined) return [note('support-backwards', {}, backwards, unit)];
      return crossingFaults(lineCurve(support.line, support.centre), [minX, maxX], reach, unit);
    }
    case 'dome': {
      let furthest = 0;
      for (let i = 0; i < blank.length; i += 2) furthest = Math.max(furthest, Math.hypot(blank[i], blank[i + 1]));
      const most = (support.radius * Math.PI) / 2;
      return furthest > most ? [note('support-past', {}, furthest, most, unit)] : [];
    }
  }
}

function coneFaults({ around, toApex }: ConeSurface, blank: Contour, unit: LengthUnit): Note[] {
  let [least, most, past] = [0, 0, 0];
  for (let i = 0; i < blank.length; i += 2) {
    const turns = around.turns(blank[i], blank[i + 1]);
    [least, most] = [Math.min(least, turns), Math.max(most, turns)];
    past = Math.max(past, around.towardsApex(blank[i], blank[i + 1]));
  }
  if (past > toApex - LEAST_ROOM) return [note('support-past', {}, past, toApex, unit)];
  if (most - least <= 1 + ROUNDED) return [];
  return [note('support-overlaps', {}, (most - least) * around.length, around.length, unit)];
}

/** Whether the ends of a blank lie on the seam from both sides, at the same places along it. */
function isRound(blank: Contour, { turns, up, length }: Round): boolean {
  let [left, right] = [0, 0];
  for (let i = 0; i < blank.length; i += 2) {
    const j = (i + 2) % blank.length;
    const [a, b] = [turns(blank[i], blank[i + 1]), turns(blank[j], blank[j + 1])];
    if ((Math.abs(a) - 0.5) * length > SEAM) return false;
    if ((0.5 - Math.abs(a)) * length > SEAM || (0.5 - Math.abs(b)) * length > SEAM || a > 0 !== b > 0) continue;
    const rise = up(blank[j], blank[j + 1]) - up(blank[i], blank[i + 1]);
    if (a < 0) left -= rise;
    else right += rise;
  }
  return Math.abs(left) > SEAM && Math.abs(left - right) < SEAM;
}

/** Length from its middle at which a profile turns over; undefined where it does not. */
function firstBackwards(profile: Curve, from: number, to: number): number | undefined {
  const place = curvePlace();
  const lengths = [from, to, ...profile.breaks.filter((at) => at > from && at < to)].sort((a, b) => Math.abs(a) - Math.abs(b));
  return lengths.find((at) => {
    profile.at(at, place);
    return Math.abs(place.turned) > Math.PI / 2 - 1e-9;
  });
}

/** mm by which chords may leave a curve where it is looked for crossings. */
const COARSE = 0.5;

/** Where a curve crosses itself: at the face, or as far before and behind it as the relief reaches. */
function crossingFaults(curve: Curve, [from, to]: readonly number[], reach: Reach, unit: LengthUnit): Note[] {
  const lengths = [from, ...creasesOf(curve, from, to, reach, COARSE), to];
  const place = curvePlace();
  for (const z of new Set([0, reach.low, reach.high])) {
    const points = lengths.map((at) => {
      curve.at(at, place);
      return [place.across - z * Math.sin(place.turned), place.out + z * Math.cos(place.turned)] as const;
    });
    for (let i = 0; i + 1 < points.length; i++)
      for (let j = i + 2; j + 1 < points.length; j++)
        if (areCrossing(points[i], points[i + 1], points[j], points[j + 1]))
          return [note('support-crosses', {}, Math.abs(lengths[j]), unit)];
  }
  return [];
}

type Point = readonly [number, number];
const sideOf = (a: Point, b: Point, p: Point): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
const areCrossing = (a: Point, b: Point, c: Point, d: Point): boolean =>
  sideOf(a, b, c) > 0 !== sideOf(a, b, d) > 0 && sideOf(c, d, a) > 0 !== sideOf(c, d, b) > 0;
