import { bounds } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { type CallOut, withCallOuts, withFinishList } from './callouts.js';
import { type Drawing, type Item } from './drawing.js';
import { dimensionedPlan, edgeOf } from './plan.js';
import { sectionDrawing } from './section.js';

/** Figures are this share of the longer side of the plan. */
const FIGURES = 1 / 48;

/**
 * The plan in its finishes with its dimensions and call-outs over the section along the sign's cut line, at one scale, and the list of finishes: what a
 * screen shows of a sign's sizes.
 */
export function sizesDrawing(evaluation: Evaluation, callOuts: readonly CallOut[] = []): Drawing {
  const { minX, minY, maxX, maxY } = bounds(edgeOf(evaluation)) ?? bounds([evaluation.blank])!;
  const textHeight = Math.max(maxX - minX, maxY - minY) * FIGURES;
  const plan = withCallOuts(dimensionedPlan(evaluation, { textHeight, isInFinishes: true }), callOuts, textHeight);
  const section = sectionDrawing(evaluation, evaluation.sign.section, { heightsTimes: 1, textHeight });
  // A level cut stands right under where it cuts; another one in the middle.
  const { x, turn } = evaluation.sign.section;
  const middles = (plan.bounds.minX + plan.bounds.maxX - section.bounds.minX - section.bounds.maxX) / 2;
  const across = turn === 0 ? x : middles;
  const down = plan.bounds.minY - 2 * textHeight - section.bounds.maxY;
  const below = { minX: section.bounds.minX + across, maxX: section.bounds.maxX + across, minY: section.bounds.minY + down };
  const drawing: Drawing = {
    items: [...plan.items, ...section.items.map((item) => moved(item, across, down))],
    bounds: {
      minX: Math.min(plan.bounds.minX, below.minX),
      maxX: Math.max(plan.bounds.maxX, below.maxX),
      minY: below.minY,
      maxY: plan.bounds.maxY,
    },
  };
  return withFinishList(drawing, callOuts, evaluation.sign.blank.material, textHeight);
}

function moved(item: Item, dx: number, dy: number): Item {
  const run = (points: Float64Array): Float64Array => points.map((value, i) => value + (i % 2 === 0 ? dx : dy));
  switch (item.kind) {
    case 'area':
      return { ...item, outline: item.outline.map(run) };
    case 'line':
      return { ...item, points: run(item.points) };
    case 'label':
      return { ...item, x: item.x + dx, y: item.y + dy };
  }
}
