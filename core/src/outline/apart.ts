import { join } from './combine.js';
import type { Contour, Outline } from './contour.js';
import { neighbourhoods, partedLetters } from './letters.js';

/** Nearer than this, in mm, two outlines are one. */
const TOUCHING = 0.001;

/** Groups of outlines that come to touch each other, by their numbers. */
export const touching = (outlines: readonly Outline[]): number[][] => neighbourhoods(outlines, TOUCHING);

/** Contours as outlines that do not touch each other: letter by letter, those that do joined into one. */
export function apart(contours: readonly Contour[]): Outline[] {
  const { letters, others } = partedLetters(contours);
  const all = [...letters, ...(others.length > 0 ? [join(others)] : [])].filter((each) => each.length > 0);
  return touching(all).map((group) => (group.length === 1 ? all[group[0]] : join(group.flatMap((i) => all[i]))));
}
