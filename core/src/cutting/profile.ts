import { contains, type Contour, type Outline, reversed } from '../geometry/index.js';
import { type Holding, type TabPlace } from './choice.js';
import { backwards } from './clearing.js';
import { grown } from './regions.js';
import { AIR, Loop, passHeights, RAMP, rampInto, type Run, type Stretch } from './toolpath.js';

/** How steeply a path climbs over a tab: 30°. */
const TAB_RISE = Math.tan(Math.PI / 6);
/** mm of a way within which it is straight enough to hold by, and radians by which it may turn there. */
const STRAIGHT = 0.35;
/** mm along a ring from one place to the next at which it is asked whether a clamp lies there, and how steeply a path climbs over one: 60°. */
const CLAMP_STEP = 0.5;
const CLAMP_RISE = Math.sqrt(3);
/** Places that are tried for a tab. */
const TRIES = 24;

/** A contour that is cut through, with the height that it begins at. */
export interface Profile {
  readonly ring: Contour;
  readonly from: number;
  /** Where tabs are by hand; undefined where they are spread over the ring. */
  readonly places?: readonly TabPlace[];
}

/** A run around a contour, with where it holds. */
export interface ProfileRun {
  readonly run: Run;
  readonly tabs: readonly TabPlace[];
}

/** Of places for tabs those that are nearest to each of some rings. */
export function placesByRing(rings: readonly Contour[], places: readonly TabPlace[]): TabPlace[][] {
  const loops = rings.map((ring) => new Loop(ring));
  const found = rings.map((): TabPlace[] => []);
  for (const place of places) {
    const apart = loops.map((loop) => nearestOn(loop, place).distance);
    const nearest = apart.indexOf(Math.min(...apart));
    if (nearest >= 0) found[nearest].push(place);
  }
  return found;
}

/** How far along a ring the place lies that is nearest to another, and how far off. */
function nearestOn(loop: Loop, { x, y }: TabPlace): { readonly along: number; readonly distance: number } {
  let best = { along: 0, distance: Infinity };
  const step = Math.max(0.25, loop.length / 4000);
  for (let along = 0; along < loop.length; along += step) {
    const [px, py] = loop.at(along);
    const distance = Math.hypot(px - x, py - y);
    if (distance < best.distance) best = { along, distance };
  }
  return best;
}

/** Where a tool goes around what stays, so far from it that it only touches: outer rings and those of windows, what stays on their right. */
export const aroundAll = (kept: Outline, radius: number): Outline => grown(kept, radius).map(reversed);

export interface ProfileChoice {
  readonly bottom: number;
  readonly mostDepth: number;
  readonly radius: number;
  readonly holding: Holding;
  readonly isClimb: boolean;
  readonly safe: number;
  /** Where the tool's middle may not go below the free height: clamps, grown by its radius. */
  readonly keepOff: Outline;
}

/** Once around for each pass, without coming up between them; in the last ones over tabs, or down to a skin. */
export function profileRun({ ring, from, places }: Profile, choice: ProfileChoice): ProfileRun {
  const loop = new Loop(choice.isClimb ? ring : backwards(ring));
  const { holding, bottom, safe } = choice;
  const floor = holding.kind === 'skin' ? Math.min(from, bottom + holding.thickness) : bottom;
  const clamped = clampedOn(loop, choice);
  const held = holding.kind === 'tabs' ? tabsOn(loop, holding, choice, places) : [];
  const tabs = [...held, ...clamped];
  const over = (along: number): number =>
    tabs.reduce((most, tab) => Math.max(most, tab.top - tab.rise * Math.max(0, tab.apart(along) - tab.half)), -Infinity);
  const turns = tabs.flatMap(({ middle, half, run }) => [middle - half - run, middle - half, middle + half, middle + half + run].map((at) => loop.within(at))); // prettier-ignore
  const airTo = Math.min(safe, from + AIR);
  const stretches: Stretch[] = [];
  let [along, height] = [0, airTo];
  let start: { readonly x: number; readonly y: number } | undefined;
  for (const z of passHeights(from, floor, choice.mostDepth)) {
    const ramp = (height - z) / RAMP;
    if (!start && loop.length < 0.05) {
      const { x, y, stretch } = rampInto(loop, height, z);
      start = { x, y };
      stretches.push(stretch);
      height = z;
      continue;
    }
    const [x, y] = loop.at(along);
    start ??= { x, y };
    const [begin, high] = [along, height];
    const kept = (low: Height) => (at: number) => Math.max(low(at), over(loop.within(at)));
    stretches.push({
      points: loop.between(
        begin,
        begin + ramp,
        kept((at) => high - (at - begin) * RAMP),
        turns,
      ),
      pace: 'ramp',
    });
    stretches.push({
      points: loop.between(
        begin + ramp,
        begin + ramp + loop.length,
        kept(() => z),
        turns,
      ),
      pace: 'cut',
    });
    along = begin + ramp + loop.length;
    height = z;
  }
  const run = { ...(start ?? { x: ring[0], y: ring[1] }), airTo, stretches };
  return { run, tabs: held.map(({ middle }) => placeAt(loop, middle)) };
}

type Height = (along: number) => number;

interface Tab {
  readonly middle: number;
  /** Half of its flat top, along the path of the tool's middle. */
  readonly half: number;
  /** How long a rise to it is. */
  readonly run: number;
  readonly top: number;
  /** How steeply the path climbs to it. */
  readonly rise: number;
  apart(along: number): number;
}

/** How far along a ring from a place, either way. */
const apartFrom =
  (middle: number, { length }: Loop) =>
  (along: number): number => {
    const distance = Math.abs(along - middle);
    return Math.min(distance, length - distance);
  };

/** Stretches of a ring that clamps lie on, as tabs as high as the tool moves freely. */
function clampedOn(loop: Loop, { keepOff, safe, bottom }: ProfileChoice): Tab[] {
  if (keepOff.length === 0) return [];
  const count = Math.ceil(loop.length / CLAMP_STEP);
  const step = loop.length / count;
  const isUnder = Array.from({ length: count }, (_, i) => contains(keepOff, ...loop.at(i * step)));
  const first = isUnder.findIndex((under, i) => under && !isUnder[(i + count - 1) % count]);
  const run = (safe - bottom) / CLAMP_RISE;
  if (first < 0) return isUnder[0] ? [{ middle: 0, half: loop.length, run, top: safe, rise: CLAMP_RISE, apart: () => 0 }] : [];
  const tabs: Tab[] = [];
  for (let k = 0; k < count;) {
    const from = k;
    while (k < count && isUnder[(first + k) % count]) k++;
    if (k > from) {
      const middle = loop.within((first + (from + k - 1) / 2) * step);
      const half = ((k - from + 1) * step) / 2;
      tabs.push({ middle, half, run, top: safe, rise: CLAMP_RISE, apart: apartFrom(middle, loop) });
    }
    while (k < count && !isUnder[(first + k) % count]) k++;
  }
  return tabs;
}

const placeAt = (loop: Loop, along: number): TabPlace => {
  const [x, y] = loop.at(along);
  return { x, y };
};

/** Tabs spread over a ring, each where the ring is straight near its place; or those that were placed by hand. */
function tabsOn(
  loop: Loop,
  holding: Holding & { kind: 'tabs' },
  { bottom, radius }: ProfileChoice,
  places: readonly TabPlace[] | undefined,
): Tab[] {
  const half = holding.width / 2 + radius;
  const run = holding.height / TAB_RISE;
  const tabAt = (middle: number): Tab => ({
    middle,
    half,
    run,
    top: bottom + holding.height,
    rise: TAB_RISE,
    apart: apartFrom(middle, loop),
  });
  // Beside a corner it slides as far as to be on straight edge.
  if (places) return places.map((place) => tabAt(straightNear(loop, nearestOn(loop, place).along, half, half)));
  const most = Math.floor(loop.length / (4 * (half + run)));
  const count = Math.min(most, Math.max(2, Math.round(loop.length / holding.every)));
  return Array.from({ length: Math.max(0, count) }, (_, i) => {
    const space = loop.length / count;
    return tabAt(straightNear(loop, (i + 0.5) * space, space / 3, half));
  });
}

/** The place near one at which a ring turns least. */
function straightNear(loop: Loop, wanted: number, reach: number, half: number): number {
  let [best, least] = [wanted, Infinity];
  for (let i = 0; i <= TRIES; i++) {
    const at = wanted + (i % 2 === 0 ? 1 : -1) * Math.ceil(i / 2) * ((2 * reach) / TRIES);
    const turn = turnAround(loop, at, half);
    if (turn < least - 0.02) [best, least] = [at, turn];
    if (least < STRAIGHT / 10) break;
  }
  return loop.within(best);
}

/** Radians that a ring turns by around a place. */
function turnAround(loop: Loop, at: number, half: number): number {
  const [a, b, c] = [loop.at(at - half), loop.at(at), loop.at(at + half)];
  const turn = Math.atan2(c[1] - b[1], c[0] - b[0]) - Math.atan2(b[1] - a[1], b[0] - a[0]);
  return Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)));
}
