import { bounds, type Box, direction, STEPS_PER_MM, visitEdges } from '../outline/index.js';
import { type Evaluation, isSolid, levelOf } from '../relief/index.js';
import type { SectionLine } from '../sign/index.js';
import { formatLength } from '../units/index.js';
import { dimension } from './dimension.js';
import type { Drawing, Item } from './drawing.js';
import { FAINT, heightColour, INK } from './palette.js';
import { heightReach, levelName } from './plan.js';

/** A stretch of the cut line with material under it. */
export interface Span {
  /** mm along the line, from the point that the line is given by. */
  readonly from: number;
  readonly to: number;
  /** Level of the surface, mm above the face. */
  readonly z: number;
}

/** A line that runs through no point of the grid: moved aside by less than a grid step. */
const ASIDE_STEPS = 0.3819660113;

/** The relief along a line, from one end to the other; gaps are holes or outside. */
export function sectionSpans(evaluation: Evaluation, line: SectionLine): Span[] {
  const { cos, sin } = direction(line.turn);
  const px = line.x * STEPS_PER_MM - sin * ASIDE_STEPS;
  const py = line.y * STEPS_PER_MM + cos * ASIDE_STEPS;
  const sideOf = (x: number, y: number): number => cos * (y - py) - sin * (x - px);
  /** Whether a box in mm has corners on both sides. */
  const reaches = ({ minX, minY, maxX, maxY }: Box): boolean => {
    const xs = [minX * STEPS_PER_MM, maxX * STEPS_PER_MM];
    const sides = [minY, maxY].flatMap((y) => xs.map((x) => sideOf(x, y * STEPS_PER_MM)));
    return Math.min(...sides) <= 0 && Math.max(...sides) >= 0;
  };
  const crossings: { at: number; after: number }[] = [];
  visitEdges(evaluation.arrangement, reaches, (ax, ay, bx, by, left, right) => {
    const sideA = sideOf(ax, ay);
    const sideB = sideOf(bx, by);
    if (sideA > 0 === sideB > 0) return;
    const t = sideA / (sideA - sideB);
    const at = cos * (ax - px + t * (bx - ax)) + sin * (ay - py + t * (by - ay));
    crossings.push({ at: at / STEPS_PER_MM, after: sideA < sideB ? right : left });
  });
  crossings.sort((a, b) => a.at - b.at);
  const spans: Span[] = [];
  for (let i = 0; i + 1 < crossings.length; i++) {
    const { at, after } = crossings[i];
    const end = crossings[i + 1].at;
    if (!isSolid(after) || end - at < 1e-9) continue;
    const z = levelOf(evaluation, after);
    const last = spans[spans.length - 1];
    if (last && last.z === z && at - last.to < 1e-9) spans[spans.length - 1] = { ...last, to: end };
    else spans.push({ from: at, to: end, z });
  }
  return spans;
}

export interface SectionChoice {
  /** Heights are drawn this many times as tall as they are. */
  readonly heightsTimes: number;
  readonly textHeight: number;
}

/** The section as a drawing: x along the line, y the height (times the exaggeration), thickness and levels dimensioned. */
export function sectionDrawing(evaluation: Evaluation, line: SectionLine, choice: SectionChoice): Drawing {
  const { heightsTimes: k, textHeight } = choice;
  const { sign, levels } = evaluation;
  const spans = sectionSpans(evaluation, line);
  const back = -sign.blank.thickness * k;
  const items: Item[] = [];
  const reach = heightReach(levels);
  for (const body of bodies(spans)) {
    const profile = body.flatMap(({ from, to, z }) => [from, z * k, to, z * k]);
    const outline = Float64Array.from([...profile, body[body.length - 1].to, back, body[0].from, back]);
    items.push({
      kind: 'area',
      layer: 'section',
      outline: [outline],
      fill: { kind: 'plain', colour: '#d9cdb4' },
      pen: { width: textHeight / 12, colour: INK },
    });
    for (const { from, to, z } of body) {
      items.push({
        kind: 'line',
        layer: 'surface',
        points: Float64Array.of(from, z * k, to, z * k),
        closed: false,
        pen: { width: textHeight / 5, colour: Math.abs(z) < 1e-9 ? INK : heightColour(z, reach) },
      });
    }
  }
  const box = bounds(items.flatMap((item) => (item.kind === 'area' ? item.outline : [])));
  if (!box) return { items, bounds: { minX: -1, minY: back, maxX: 1, maxY: 1 } };

  const seen = [...new Set(spans.map(({ z }) => z))].sort((a, b) => b - a);
  let lowest = Infinity;
  for (const z of seen) {
    // Labels one under the other where levels are close.
    const y = Math.min(z * k, lowest - textHeight * 1.5);
    lowest = y;
    items.push({
      kind: 'line',
      layer: 'dimensions',
      points: Float64Array.of(box.maxX + textHeight * 0.5, z * k, box.maxX + textHeight * 1.6, y),
      closed: false,
      pen: { width: textHeight / 14, colour: FAINT },
    });
    items.push({
      kind: 'label',
      layer: 'dimensions',
      x: box.maxX + textHeight * 2,
      y: y - textHeight / 2,
      text: z === 0 ? 'face' : formatLevel(z, sign.unit),
      height: textHeight,
      align: 'left',
      turn: 0,
      colour: INK,
    });
  }
  items.push(
    ...dimension({
      from: [box.minX, back],
      to: [box.minX, 0],
      beside: textHeight * 2,
      text: formatLength(sign.blank.thickness, sign.unit),
      textHeight,
    }),
  );
  return {
    items,
    bounds: {
      minX: box.minX - textHeight * 8,
      minY: Math.min(box.minY, lowest - textHeight) - textHeight,
      maxX: box.maxX + textHeight * 12,
      maxY: box.maxY + textHeight,
    },
  };
}

const formatLevel = (z: number, unit: 'mm' | 'in'): string => `${levelName(z).split(' ')[0]} ${formatLength(Math.abs(z), unit)}`;

/** Spans that touch, as one body each. */
function bodies(spans: readonly Span[]): Span[][] {
  const out: Span[][] = [];
  for (const span of spans) {
    const last = out[out.length - 1];
    if (last && span.from - last[last.length - 1].to < 1e-6) last.push(span);
    else out.push([span]);
  }
  return out;
}
