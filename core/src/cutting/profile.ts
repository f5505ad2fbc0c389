import { type Contour, type Outline, reversed } from '../geometry/index.js';
import { type Holding } from './choice.js';
import { backwards } from './clearing.js';
import { grown } from './regions.js';
import { AIR, Loop, passHeights, RAMP, rampInto, type Run, type Stretch } from './toolpath.js';

/** How steeply a path climbs over a tab: 30°. */
const TAB_RISE = Math.tan(Math.PI / 6);
/** mm of a way within which it is straight enough to hold by, and radians by which it may turn there. */
const STRAIGHT = 0.35;
/** Places that are tried for a tab. */
const TRIES = 24;

/** A contour that is cut through, with the heights that it goes between. */
export interface Profile {
  readonly ring: Contour;
  readonly from: number;
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
}

/** Once around for each pass, without coming up between them; in the last ones over tabs, or down to a skin. */
export function profileRun({ ring, from }: Profile, choice: ProfileChoice): Run {
  const loop = new Loop(choice.isClimb ? ring : backwards(ring));
  const { holding, bottom, safe } = choice;
  const floor = holding.kind === 'skin' ? Math.min(from, bottom + holding.thickness) : bottom;
  const tabs = holding.kind === 'tabs' ? tabsOn(loop, holding, choice) : [];
  const over = (along: number): number =>
    tabs.reduce((most, tab) => Math.max(most, tab.top - TAB_RISE * Math.max(0, tab.apart(along) - tab.half)), -Infinity);
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
    const held = (low: Height) => (at: number) => Math.max(low(at), over(loop.within(at)));
    stretches.push({
      points: loop.between(
        begin,
        begin + ramp,
        held((at) => high - (at - begin) * RAMP),
        turns,
      ),
      pace: 'ramp',
    });
    stretches.push({
      points: loop.between(
        begin + ramp,
        begin + ramp + loop.length,
        held(() => z),
        turns,
      ),
      pace: 'cut',
    });
    along = begin + ramp + loop.length;
    height = z;
  }
  return { ...(start ?? { x: ring[0], y: ring[1] }), airTo, stretches };
}

type Height = (along: number) => number;

interface Tab {
  readonly middle: number;
  /** Half of its flat top, along the path of the tool's middle. */
  readonly half: number;
  /** How long a rise to it is. */
  readonly run: number;
  readonly top: number;
  apart(along: number): number;
}

/** Tabs spread over a ring, each where the ring is straight near its place. */
function tabsOn(loop: Loop, holding: Holding & { kind: 'tabs' }, { bottom, radius }: ProfileChoice): Tab[] {
  const half = holding.width / 2 + radius;
  const run = holding.height / TAB_RISE;
  const most = Math.floor(loop.length / (4 * (half + run)));
  const count = Math.min(most, Math.max(2, Math.round(loop.length / holding.every)));
  return Array.from({ length: Math.max(0, count) }, (_, i) => {
    const space = loop.length / count;
    const middle = straightNear(loop, (i + 0.5) * space, space / 3, half);
    const apart = (along: number): number => {
      const distance = Math.abs(along - middle);
      return Math.min(distance, loop.length - distance);
    };
    return { middle, half, run, top: bottom + holding.height, apart };
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
