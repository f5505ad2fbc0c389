import { degrees, radians } from '../../geometry/index.js';
import { tidy } from '../document/new-sign.js';
import { unrolledCone } from './round-blank.js';
import { type Copies, type Part, type Place, type Support } from '../document/schema.js';

/** Degrees round a support, from the middle, of a place of the plan; undefined where nothing is gone round. */
export function degreesRound(support: Support, { x, y }: Pick<Place, 'x' | 'y'>): number | undefined {
  if (support.kind === 'cylinder') return degrees((support.axis === 'level' ? y : x) / support.radius);
  if (support.kind !== 'cone' || support.bottom === support.top) return undefined;
  const { middle, angle, isApexAbove } = unrolledCone(support);
  return degrees((Math.atan2(x, isApexAbove ? middle - y : middle + y) * 2 * Math.PI) / angle);
}

/** Brings a part so many degrees round its support; on a cone along the level line that it is on, turned with it. */
export function bringRound(support: Support, part: Part, round: number): void {
  const was = degreesRound(support, part.place);
  if (was === undefined) return;
  const { place } = part;
  if (support.kind === 'cylinder') {
    part.place = { ...place, [support.axis === 'level' ? 'y' : 'x']: tidy(radians(round) * support.radius) };
  } else if (support.kind === 'cone') {
    const { middle, angle, isApexAbove } = unrolledCone(support);
    const up = isApexAbove ? 1 : -1;
    const distance = Math.hypot(place.x, middle - up * place.y);
    const [now, then] = [was, round].map((degreesOf) => (radians(degreesOf) * angle) / (2 * Math.PI));
    part.place = {
      ...place,
      x: tidy(distance * Math.sin(then)),
      y: tidy(up * (middle - distance * Math.cos(then))),
      turn: tidy(place.turn + up * degrees(then - now)),
    };
  }
}

/**
 * The arc about the apex of a cone that stays level through a place, for words to run along: its middle and its radius; undefined of anything
 * else.
 */
export function levelArc(
  support: Support | undefined,
  { x, y }: Pick<Place, 'x' | 'y'>,
): { readonly y: number; readonly radius: number; readonly isApexAbove: boolean } | undefined {
  if (support?.kind !== 'cone' || support.bottom === support.top) return undefined;
  const { apex, isApexAbove } = unrolledCone(support);
  return { y: tidy(apex), radius: tidy(Math.hypot(x, apex - y)), isApexAbove };
}

/** Whether copies in a row are at equal angles all the way round. */
export const areAllRound = (support: Support | undefined, copies: Extract<Copies, { kind: 'row' }>): boolean =>
  support?.kind === 'cylinder' &&
  copies.stepY === 0 &&
  Math.abs(copies.stepX * copies.count - 2 * Math.PI * support.radius) < 0.001 * copies.count;
