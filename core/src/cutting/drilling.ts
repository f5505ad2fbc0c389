import { area, type Outline } from '../geometry/index.js';
import { type ShopTool } from '../shop/index.js';
import { veeDepth } from '../tooling/index.js';
import { AIR, NEAR, type Run, type Stretch } from './toolpath.js';

/** mm by which a hole may be wider or narrower than the drill, and its edge may be off a circle. */
const FIT = 0.05;
const ROUND = 0.03;
/** Diameters that a drill goes down before it comes up to clear its flutes (common practice, no source). */
const PECK = 1;

/** A round hole. */
export interface Hole {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
}

/** A window as a round hole; undefined where it is none. */
export function holeOf(opening: Outline): Hole | undefined {
  if (opening.length !== 1 || opening[0].length < 16) return undefined;
  const [ring] = opening;
  const n = ring.length / 2;
  let [x, y] = [0, 0];
  for (let i = 0; i < ring.length; i += 2) [x, y] = [x + ring[i] / n, y + ring[i + 1] / n];
  const radii = Array.from({ length: n }, (_, i) => Math.hypot(ring[2 * i] - x, ring[2 * i + 1] - y));
  const [least, most] = [Math.min(...radii), Math.max(...radii)];
  // As wide as a circle of its area: corners of chords stand out.
  return most - least <= ROUND
    ? { x, y, diameter: 2 * Math.max(Math.sqrt(area(opening) / Math.PI), most - ROUND / 2) }
    : undefined;
}

/** How much deeper the point of a drill goes than the hole is as wide as it. */
export const pointDepth = ({ form }: ShopTool): number => (form.kind === 'drill' ? veeDepth(form.diameter, form.angle) : 0);

/** The drill of a hole among tools. */
export const drillFor = ({ diameter }: Hole, tools: readonly ShopTool[], depth: number): ShopTool | undefined =>
  tools.find(
    ({ form, left, cuttingLength }) =>
      form.kind === 'drill' && left > 0 && Math.abs(form.diameter - diameter) <= FIT && cuttingLength >= depth,
  );

/** Down a hole by pecks: up to its face after each, fast back to where the last one ended, and on. */
export function drillRun({ x, y }: Hole, diameter: number, from: number, to: number, safe: number): Run {
  const airTo = Math.min(safe, from + AIR);
  const count = Math.max(1, Math.ceil((from - to) / (PECK * diameter) - 1e-9));
  const stretches: Stretch[] = [];
  const goTo = (z: number, pace: Stretch['pace']): void => {
    stretches.push({ points: Float64Array.of(x, y, z), pace });
  };
  for (let i = 1; i <= count; i++) {
    const z = from + ((to - from) * i) / count;
    goTo(z, 'plunge');
    if (i === count) break;
    goTo(airTo, 'rapid');
    goTo(z + NEAR, 'rapid');
  }
  return { x, y, airTo, stretches };
}
