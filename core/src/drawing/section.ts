import { visitEdges } from '../arrangement/index.js';
import { bounds, type Box, degrees, direction, STEPS_PER_MM } from '../geometry/index.js';
import { type Evaluation, heightOf, isInPlane, isSolid, type Place, type PlacedSlopeMesh, placeOf } from '../relief/index.js';
import { type SectionLine, type Side } from '../sign/index.js';
import { lengthWords } from '../units/index.js';
import { dimension } from './dimension.js';
import { type Drawing, type Item } from './drawing.js';
import { FAINT, heightColour, INK } from './palette.js';
import { heightReach, levelName } from './plan.js';
import { spread } from './spread.js';

/** A stretch of the cut line with material under it. */
export interface Span {
  /** mm along the line, from the point that the line is given by. */
  readonly from: number;
  readonly to: number;
  /** Height of the surface where it begins and where it ends, mm above the face. */
  readonly z: number;
  readonly zEnd: number;
  /** The same of the side that is turned away. */
  readonly under: number;
  readonly underEnd: number;
}

/** A line that runs through no point of the grid: moved aside by less than a grid step. */
const ASIDE_STEPS = 0.3819660113;

/** Where the line crosses an edge of the plan: the places before and after, and their heights there. */
interface Crossed {
  readonly at: number;
  readonly after: Place | undefined;
  readonly before: Heights | undefined;
  readonly here: Heights | undefined;
}

/** Heights of both sides. */
interface Heights {
  readonly z: number;
  readonly under: number;
}

/** The relief along a line, from one end to the other; gaps are holes or outside. */
export function sectionSpans(evaluation: Evaluation, line: SectionLine): Span[] {
  const { cos, sin } = direction(line.turn);
  const px = line.x * STEPS_PER_MM - sin * ASIDE_STEPS;
  const py = line.y * STEPS_PER_MM + cos * ASIDE_STEPS;
  const sideOf = (x: number, y: number): number => cos * (y - py) - sin * (x - px);
  /** Where the line crosses between two points on different sides, mm along it, and which share of the way that is. */
  const crossing = (ax: number, ay: number, bx: number, by: number): { at: number; t: number } => {
    const [sideA, sideB] = [sideOf(ax, ay), sideOf(bx, by)];
    const t = sideA / (sideA - sideB);
    return { at: (cos * (ax - px + t * (bx - ax)) + sin * (ay - py + t * (by - ay))) / STEPS_PER_MM, t };
  };
  /** Whether a box in mm has corners on both sides. */
  const reaches = ({ minX, minY, maxX, maxY }: Box): boolean => {
    const xs = [minX * STEPS_PER_MM, maxX * STEPS_PER_MM];
    const sides = [minY, maxY].flatMap((y) => xs.map((x) => sideOf(x, y * STEPS_PER_MM)));
    return Math.min(...sides) <= 0 && Math.max(...sides) >= 0;
  };
  const crossings: Crossed[] = [];
  visitEdges(evaluation.arrangement, reaches, (ax, ay, bx, by, left, right) => {
    const sideA = sideOf(ax, ay);
    if (sideA > 0 === sideOf(bx, by) > 0) return;
    const { at, t } = crossing(ax, ay, bx, by);
    const heights = (place: Place | undefined): Heights | undefined => {
      if (!place) return undefined;
      const height = (surface: Place['surface']): number => {
        const [a, b] = [heightOf(surface, ax, ay), heightOf(surface, bx, by)];
        return a === b ? a : (1 - t) * a + t * b;
      };
      return { z: height(place.surface), under: height(place.under) };
    };
    const [before, after] = sideA <= 0 ? [left, right] : [right, left];
    const place = isSolid(after) ? placeOf(evaluation, after) : undefined;
    crossings.push({
      at,
      after: place,
      before: heights(isSolid(before) ? placeOf(evaluation, before) : undefined),
      here: heights(place),
    });
  });
  crossings.sort((a, b) => a.at - b.at);
  const spans: Span[] = [];
  for (let i = 0; i + 1 < crossings.length; i++) {
    const { at, after, here } = crossings[i];
    const { at: end, before } = crossings[i + 1];
    if (!after || !here || !before || end - at < 1e-9 || after.surface.kind === 'profile') continue;
    if (isInPlane(after.surface) || isInPlane(after.under)) {
      spans.push(...overPlane(after, at, end, (mm) => [px + mm * STEPS_PER_MM * cos, py + mm * STEPS_PER_MM * sin]));
      continue;
    }
    spans.push({ from: at, to: end, z: here.z, zEnd: before.z, under: here.under, underEnd: before.under });
  }
  for (const [{ inside, box }, placed] of evaluation.slopeMeshes) {
    const place = placeOf(evaluation, inside);
    if (place?.surface.kind === 'profile' && reaches(box)) spans.push(...patchSpans(placed, place, sideOf, crossing));
  }
  return merged(spans.sort((a, b) => a.from - b.from));
}

/** mm of the line over which a level in a plane is drawn straight. */
const STRAIGHT_OVER = 0.5;
const MOST_PIECES = 2000;

/** The spans over a place of which a side lies in a plane, which is curved over a surface that is unrolled. */
function overPlane(
  { surface, under }: Place,
  from: number,
  to: number,
  placeAt: (mm: number) => readonly [number, number],
): Span[] {
  const pieces = Math.min(MOST_PIECES, Math.ceil((to - from) / STRAIGHT_OVER));
  const marks = Array.from({ length: pieces + 1 }, (_, i) => {
    const at = from + ((to - from) * i) / pieces;
    const [x, y] = placeAt(at);
    return { at, z: heightOf(surface, x, y), under: heightOf(under, x, y) };
  });
  return marks.slice(1).map((end, i) => {
    const begin = marks[i];
    return { from: begin.at, to: end.at, z: begin.z, zEnd: end.z, under: begin.under, underEnd: end.under };
  });
}

/** The spans over the slopes of one letter. */
function patchSpans(
  { slopeMesh, stepX, stepY }: PlacedSlopeMesh,
  { surface, under: behind }: Place,
  sideOf: (x: number, y: number) => number,
  crossing: (ax: number, ay: number, bx: number, by: number) => { at: number; t: number },
): Span[] {
  const { x, y, corners, distances } = slopeMesh;
  if (surface.kind !== 'profile') return [];
  const { profile } = surface;
  const under = heightOf(behind, 0, 0);
  const spans: Span[] = [];
  for (let f = 0; f < corners.length; f += 3) {
    const ends: { at: number; z: number }[] = [];
    for (let k = 0; k < 3; k++) {
      const [p, q] = [corners[f + k], corners[f + ((k + 1) % 3)]];
      const [ax, ay, bx, by] = [x[p] + stepX, y[p] + stepY, x[q] + stepX, y[q] + stepY];
      if (sideOf(ax, ay) > 0 === sideOf(bx, by) > 0) continue;
      const { at, t } = crossing(ax, ay, bx, by);
      ends.push({ at, z: (1 - t) * profile.at(distances[p]) + t * profile.at(distances[q]) });
    }
    if (ends.length < 2) continue;
    const [a, b] = ends[0].at < ends[1].at ? ends : [ends[1], ends[0]];
    if (b.at - a.at > 1e-9) spans.push({ from: a.at, to: b.at, z: a.z, zEnd: b.z, under, underEnd: under });
  }
  return spans;
}

/** mm by which a point between two spans may lie beside the straight line over both. */
const STRAIGHT = 0.0005;

/** Spans that go on straight on both sides become one. */
function merged(spans: readonly Span[]): Span[] {
  const out: Span[] = [];
  for (const span of spans) {
    const last = out[out.length - 1];
    const goesOn = (start: number, end: number, next: number, nextEnd: number): boolean => {
      const between = start + ((nextEnd - start) * (last.to - last.from)) / (span.to - last.from);
      return Math.abs(end - next) < STRAIGHT && Math.abs(between - end) < STRAIGHT;
    };
    const isOne =
      last &&
      Math.abs(span.from - last.to) < 1e-9 &&
      goesOn(last.z, last.zEnd, span.z, span.zEnd) &&
      goesOn(last.under, last.underEnd, span.under, span.underEnd);
    if (isOne) out[out.length - 1] = { ...last, to: span.to, zEnd: span.zEnd, underEnd: span.underEnd };
    else out.push(span);
  }
  return out;
}

/** The outline of a body that is cut: along its surface, and back along the side that is turned away. */
export const profileOf = (body: readonly Span[]): number[] => [
  ...body.flatMap(({ from, to, z, zEnd }) => [from, z, to, zEnd]),
  ...[...body].reverse().flatMap(({ from, to, under, underEnd }) => [to, underEnd, from, under]),
];

/** A line as it is seen from a side: the same line of the sign, x counted the other way from behind. */
export const lineSeenFrom = ({ x, y, turn }: SectionLine, side: Side): SectionLine =>
  side === 'front' ? { x, y, turn } : { x: x === 0 ? 0 : -x, y, turn: turn === 0 ? 0 : -turn };

/** Mean width of a letter of a label as a share of the height of its capitals (measured on the shipped faces). */
const LETTER_WIDTH = 0.68;

/** The cut face. */
export const SECTION_FILL = '#d9cdb4';

export interface SectionChoice {
  /** Heights are drawn this many times as tall as they are. */
  readonly heightsTimes: number;
  readonly textHeight: number;
  readonly isInBothUnits?: boolean;
}

/** The section as a drawing: x along the line, y the height (times the exaggeration), thickness and levels dimensioned. */
export function sectionDrawing(evaluation: Evaluation, line: SectionLine, choice: SectionChoice): Drawing {
  const { heightsTimes: k, textHeight, isInBothUnits = false } = choice;
  const { sign } = evaluation;
  const words = (mm: number): string => lengthWords(mm, sign.unit, isInBothUnits);
  const spans = sectionSpans(evaluation, line);
  const back = -sign.blank.thickness * k;
  const items: Item[] = [];
  const reach = heightReach(evaluation);
  for (const body of bodies(spans)) {
    const outline = Float64Array.from(profileOf(body), (value, i) => (i % 2 === 0 ? value : value * k));
    items.push({
      kind: 'area',
      layer: 'section',
      outline: [outline],
      fill: { kind: 'plain', colour: SECTION_FILL },
      pen: { width: textHeight / 12, colour: INK },
    });
    for (const { from, to, z, zEnd } of body) {
      items.push({
        kind: 'line',
        layer: 'surface',
        points: Float64Array.of(from, z * k, to, zEnd * k),
        closed: false,
        pen: { width: textHeight / 5, colour: surfaceColour((z + zEnd) / 2, reach) },
      });
    }
  }
  const box = bounds(items.flatMap((item) => (item.kind === 'area' ? item.outline : [])));
  if (!box) return { items, bounds: { minX: -1, minY: back, maxX: 1, maxY: 1 } };

  // Levels, and no slopes.
  const seen = [...new Set(spans.filter(({ z, zEnd }) => Math.abs(z - zEnd) < 1e-6).map(({ z }) => Number(z.toFixed(6))))].sort(
    (a, b) => a - b,
  );
  const places = spread(
    seen.map((z) => z * k),
    textHeight * 1.5,
  );
  const names = seen.map((z) => (z === 0 ? 'face' : `${levelName(z).split(' ')[0]} ${words(Math.abs(z))}`));
  for (const [i, z] of seen.entries()) {
    const y = places[i];
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
      text: names[i],
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
      text: words(sign.blank.thickness),
      textHeight,
    }),
    ...slopeLabels(spans, k, textHeight),
  );
  return {
    items,
    bounds: {
      minX: box.minX - textHeight * (3 + LETTER_WIDTH * words(sign.blank.thickness).length),
      minY: Math.min(box.minY, ...places.map((y) => y - textHeight)) - textHeight,
      maxX: box.maxX + textHeight * (2.5 + LETTER_WIDTH * Math.max(0, ...names.map(({ length }) => length))),
      maxY: Math.max(box.maxY + textHeight, ...places) + textHeight,
    },
  };
}

const surfaceColour = (z: number, reach: number): string => (Math.abs(z) < 1e-9 ? INK : heightColour(z, reach));

/** Slopes shorter than this in height, in mm, and gentler or steeper than these, in degrees from upright, are not labelled. */
const LEAST_RISE = 0.2;
const SLOPES = { least: 2, most: 88 };

/** The angle of every different slope from upright, once, over its longest stretch; none over another. */
function slopeLabels(spans: readonly Span[], k: number, textHeight: number): Item[] {
  const longest = new Map<number, Span>();
  for (const span of spans) {
    const [run, rise] = [span.to - span.from, Math.abs(span.zEnd - span.z)];
    const angle = Math.round(degrees(Math.atan2(run, rise)));
    if (rise < LEAST_RISE || angle < SLOPES.least || angle > SLOPES.most) continue;
    const known = longest.get(angle);
    if (!known || run > known.to - known.from) longest.set(angle, span);
  }
  // Many short stretches are a curve, which has no angle.
  if (longest.size > 6) return [];
  const taken: number[] = [];
  return [...longest].flatMap(([angle, { from, to, z, zEnd }]): Item[] => {
    const x = (from + to) / 2;
    if (taken.some((other) => Math.abs(other - x) < textHeight * 3)) return [];
    taken.push(x);
    const y = Math.max(z, zEnd) * k + textHeight * 0.6;
    return [
      { kind: 'label', layer: 'dimensions', x, y, text: `${angle}°`, height: textHeight, align: 'centre', turn: 0, colour: INK },
    ];
  });
}

/** Spans that touch, as one body each. */
export function bodies(spans: readonly Span[]): Span[][] {
  const out: Span[][] = [];
  for (const span of spans) {
    const last = out[out.length - 1];
    const before = last?.[last.length - 1];
    const meet = before && span.from - before.to < 1e-6 && span.under < before.zEnd && before.underEnd < span.z;
    if (meet) last.push(span);
    else out.push([span]);
  }
  return out;
}
