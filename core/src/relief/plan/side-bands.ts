import { FACE_LAYER, type Material, middleHeight } from './relief-function.js';

/** A stretch of the upright sides of a place, from the one below it upwards. */
export interface SideBand {
  /** Height to which it reaches. */
  readonly to: number;
  /** The layer that made it; {@link FACE_LAYER} for the edge of the blank. */
  readonly layer: number;
}

/**
 * What the upright sides of a place are made by, from its back upwards: every layer has made what lies between the height that it found
 * and the one that it came to, unless another came later, and the rest is the edge of the blank.
 * @param appearanceOf of a layer's sides: stretches that look alike are one
 * @returns nothing where all of them look as the sides of what made the surface
 */
export function sideBandsOf(
  { surface, under, steps }: Material,
  appearanceOf: (layer: number) => string,
): SideBand[] | undefined {
  const lowest = middleHeight(under);
  const heights = [...new Set(steps.flatMap(({ low, high }) => [low, high]).concat(middleHeight(surface)))]
    .filter((z) => z > lowest)
    .sort((a, b) => a - b);
  const bands: SideBand[] = [];
  let from = lowest;
  for (const to of heights) {
    const middle = (from + to) / 2;
    const layer = [...steps].reverse().find(({ low, high }) => low < middle && middle < high)?.layer ?? FACE_LAYER;
    const last = bands[bands.length - 1];
    if (last && appearanceOf(last.layer) === appearanceOf(layer)) bands.pop();
    bands.push({ to, layer });
    from = to;
  }
  const isPlain = bands.every(({ layer }) => appearanceOf(layer) === appearanceOf(surface.layer));
  return isPlain ? undefined : bands;
}
