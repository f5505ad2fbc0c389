import { bounds, joinBoxes, type Outline } from '../geometry/index.js';
import { type Evaluation, HOLE, levelOutline, regionOf } from '../relief/index.js';
import { type AreaItem, type Drawing, withMargin } from './drawing.js';
import { PAPER } from './palette.js';
import { edgeOf, levelName } from './plan.js';

/** What was, and what is: a red and a green that also differ in lightness, so that nobody needs to tell them by hue. */
export const WAS = '#b3402e';
export const IS = '#1f5f57';

/** The outlines of every level of a sign, in one colour. */
function outlines(evaluation: Evaluation, layer: string, colour: string, width: number): AreaItem[] {
  const pen = { width, colour };
  const item = (outline: Outline, name: string): AreaItem => ({ kind: 'area', layer: `${layer} ${name}`, outline, pen });
  const holes = regionOf(evaluation, HOLE);
  return [
    item(edgeOf(evaluation), 'edge'),
    ...evaluation.levels
      .filter(({ z }) => Math.abs(z) > 1e-9)
      .map((level) => item(levelOutline(evaluation, level), levelName(level.z))),
    ...(holes.length > 0 ? [item(holes, 'cut through')] : []),
  ];
}

/** Two plans laid over each other: what was in red, broader, and what is in green over it; where both agree both are seen. */
export function comparisonDrawing(was: Evaluation, is: Evaluation, textHeight: number): Drawing {
  const ground: AreaItem = { kind: 'area', layer: 'ground', outline: edgeOf(is), fill: { kind: 'plain', colour: PAPER } };
  const box = joinBoxes(bounds(edgeOf(was)), bounds(edgeOf(is))) ?? bounds([is.blank])!;
  return {
    bounds: withMargin(box, textHeight),
    items: [ground, ...outlines(was, 'was', WAS, textHeight / 7), ...outlines(is, 'is', IS, textHeight / 14)],
  };
}
