import { type Place } from '@plain-relief/core/program';

/** What the practice machine is like. Lengths in mm, feeds in mm a minute. */
export interface Description {
  readonly name: string;
  readonly area: { readonly width: number; readonly height: number };
  readonly travel: number;
  readonly rapid: number;
  readonly mostFeed: number;
  /** mm/s². */
  readonly acceleration: number;
  /** mm by which a corner may be rounded. */
  readonly deviation: number;
  /** Seconds that it takes to change a tool by itself. */
  readonly toolChange: number;
  /** Else a person changes tools, and says so. */
  readonly hasChanger: boolean;
}

export const USUAL: Description = {
  name: 'Practice machine',
  area: { width: 1300, height: 900 },
  travel: 150,
  rapid: 10_000,
  mostFeed: 6000,
  acceleration: 500,
  deviation: 0.02,
  toolChange: 12,
  hasChanger: false,
};

/** Where the zero of a program lies on the machine: x and y from the corner of its area, z from the top of its travel, downwards. */
export type Zero = Place;

/** A description as it came over the line. @throws Error naming the field that is wrong */
export function readDescription(source: unknown): Description {
  const given = (typeof source === 'object' && source !== null ? source : {}) as Record<string, unknown>;
  const area = (given['area'] ?? {}) as Record<string, unknown>;
  const figure = (name: string, value: unknown): number => {
    if (typeof value === 'number' && Number.isFinite(value) && value > 0) return value;
    throw new Error(`${name} is ${JSON.stringify(value) ?? 'missing'} and must be a figure above 0.`);
  };
  return {
    name: typeof given['name'] === 'string' ? given['name'].slice(0, 80) : USUAL.name,
    area: { width: figure('area.width', area['width']), height: figure('area.height', area['height']) },
    travel: figure('travel', given['travel']),
    rapid: figure('rapid', given['rapid']),
    mostFeed: figure('mostFeed', given['mostFeed']),
    acceleration: figure('acceleration', given['acceleration']),
    deviation: figure('deviation', given['deviation']),
    toolChange: given['toolChange'] === 0 ? 0 : figure('toolChange', given['toolChange']),
    hasChanger: given['hasChanger'] === true,
  };
}
