import { intersection, ringsOf } from '../arrangement/index.js';
import { bounds, type Box, type Outline } from '../geometry/index.js';
import {
  type Band,
  type Evaluation,
  HOLE,
  insertAt,
  isSolid,
  type Level,
  levelOutline,
  partsSeen,
  placeOf,
  regionOf,
  slopeBands,
  surfaceFinishOf,
} from '../relief/index.js';
import { finishOfSurface } from '../solid/index.js';
import { type Blank, type BlockFace, extentOfShape, facesOf } from '../sign/index.js';
import { surfaceOf } from '../support/index.js';
import { lengthWords } from '../units/index.js';
import { dimension } from './dimension.js';
import { type AreaItem, type Drawing, type Item, type LineItem } from './drawing.js';
import { FAINT, heightColour, INK, PAPER } from './palette.js';
import { supportLineItems } from './support-lines.js';
import { partDimensions } from './part-dimensions.js';

/** The greatest distance from the face, where the height colours end; at least 1 mm. */
export const heightReach = ({ lowest, highest }: Pick<Evaluation, 'lowest' | 'highest'>): number =>
  Math.max(1, ...[lowest, highest].filter(Number.isFinite).map(Math.abs));

export interface PlanChoice {
  /** Height of figures and measure of line widths, in mm of the plan. */
  readonly textHeight: number;
  /** Lengths in the sign's unit and in the other. */
  readonly isInBothUnits?: boolean;
  /** Painted in its finishes and not by its heights. */
  readonly isInFinishes?: boolean;
}

/** Where the material ends in the plan: the edge of the blank, or of the letters that it is cut to with what is behind them. */
export const edgeOf = (evaluation: Evaluation): Outline =>
  evaluation.kept ? ringsOf(evaluation.arrangement, isSolid) : [evaluation.blank];

/** The plan: every level in the colour of its height, or of its finish, holes cross-hatched, the edge of the blank. */
export const planDrawing = (evaluation: Evaluation, choice: PlanChoice): Drawing => plansOf(evaluation)(choice);

/** The plan for any choice; its outlines, which no choice changes, are found once. */
export function plansOf(evaluation: Evaluation): (choice: PlanChoice) => Drawing {
  const edge = edgeOf(evaluation);
  const reach = heightReach(evaluation);
  const byHeight = once(() => ({
    levels: evaluation.levels.map((level) => ({
      z: level.z,
      colour: heightColour(level.z, reach),
      outline: levelOutline(evaluation, level),
    })),
    bandColour: ({ z }: Band) => heightColour(z, reach),
  }));
  const byFinish = once(() => ({
    levels: evaluation.levels.flatMap((level) => levelInFinishes(evaluation, level)),
    bandColour: (band: Band) => finishOfSurface(evaluation, surfaceFinishOf(evaluation, band, !band.isTop, band.z)).colour,
  }));
  const bands = slopeBands(evaluation);
  const holes = regionOf(evaluation, HOLE);
  const strokes = partsSeen(evaluation).flatMap((part) => part.strokes);
  const box = bounds(edge) ?? bounds([evaluation.blank])!;
  return ({ textHeight, isInFinishes = false }) => {
    const { levels, bandColour } = isInFinishes ? byFinish() : byHeight();
    const fine = { width: textHeight / 60, colour: INK };
    const items: Item[] = levels.map(({ z, colour, outline }): AreaItem => ({
      kind: 'area',
      layer: levelName(z),
      outline,
      fill: { kind: 'plain', colour },
      pen: fine,
    }));
    for (const band of bands) {
      const colour = bandColour(band);
      items.push({
        kind: 'area',
        layer: 'slopes',
        outline: band.outline,
        fill: { kind: 'plain', colour },
        pen: { ...fine, colour },
      });
    }
    if (holes.length > 0) {
      items.push({
        kind: 'area',
        layer: 'cut through',
        outline: holes,
        fill: { kind: 'cross-hatch', colour: FAINT, ground: PAPER, spacing: textHeight / 2 },
        pen: fine,
      });
    }
    for (const { points, closed } of strokes) items.push(centreLine(points, closed, textHeight));
    for (const points of edge)
      items.push({ kind: 'line', layer: 'blank edge', points, closed: true, pen: { ...fine, width: textHeight / 10 } });
    return { items, bounds: box };
  };
}

/** The flat places of a level by the colours of their finishes; level tops of sloped letters are among the bands of slopes. */
function levelInFinishes(evaluation: Evaluation, { z, labels }: Level): { z: number; colour: string; outline: Outline }[] {
  const byColour = new Map<string, number[]>();
  for (const label of labels) {
    const { colour } = finishOfSurface(evaluation, surfaceFinishOf(evaluation, placeOf(evaluation, label)!.surface, false, z));
    byColour.set(colour, [...(byColour.get(colour) ?? []), label]);
  }
  return [...byColour].map(([colour, own]) => ({ z, colour, outline: regionOf(evaluation, ...own) }));
}

/** What a function gives, worked out when it is first asked for. */
function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | undefined;
  return () => (made ??= { value: make() }).value;
}

const centreLine = (points: Float64Array, closed: boolean, textHeight: number): LineItem => ({
  kind: 'line',
  layer: 'centre lines',
  points,
  closed,
  pen: { width: textHeight / 24, colour: FAINT },
});

/**
 * The plan with its overall width and height dimensioned below and on the left, and those of its parts that are to be between.
 * @param plan of the same choice, where it is drawn already
 */
export function dimensionedPlan(
  evaluation: Evaluation,
  choice: PlanChoice,
  plan: Drawing = planDrawing(evaluation, choice),
): Drawing {
  const { textHeight, isInBothUnits = false } = choice;
  const { minX, minY, maxX, maxY } = plan.bounds;
  const { unit } = evaluation.sign;
  const words = (mm: number): string => lengthWords(mm, unit, isInBothUnits);
  // A curved edge is drawn in chords, and as large as it was asked for.
  const { width, height } = sizesOf(evaluation);
  const beside = textHeight * 3;
  const parts = partDimensions(evaluation, plan.bounds, textHeight, words);
  const below = beside + parts.below;
  const bends = supportLineItems(evaluation, textHeight);
  return {
    bounds: {
      minX: minX - beside - 2 * textHeight,
      minY: minY - below - 2 * textHeight,
      maxX: maxX + textHeight + parts.right,
      maxY: maxY + textHeight * (bends.length > 0 ? 2.4 : 1),
    },
    items: [
      ...plan.items,
      ...bends,
      ...parts.items,
      // The faces of a block have their sizes each for itself.
      ...(evaluation.sign.support?.kind === 'block'
        ? []
        : [
            ...dimension({ from: [maxX, minY], to: [minX, minY], beside: below, text: words(width), textHeight }),
            ...dimension({ from: [minX, minY], to: [minX, maxY], beside, text: words(height), textHeight }),
          ]),
    ],
  };
}

/** Overall width and height of a blank, as they were asked for; of a polygon, which is given by its circle, as it is. */
function extentOfBlank({ outline }: Blank, { minX, minY, maxX, maxY }: Box): { width: number; height: number } {
  return outline.kind === 'polygon' ? { width: maxX - minX, height: maxY - minY } : extentOfShape(outline);
}

/**
 * How large a sign is: overall width and height of the blank, or of the letters that it is cut to; its thickness, with what stands above
 * its face and behind its back.
 */
export function sizesOf(evaluation: Evaluation): {
  width: number;
  height: number;
  thickness: number;
  above: number;
  behind: number;
} {
  const { blank, kept, sign, highest, rearmost } = evaluation;
  if (sign.support?.kind === 'block') return { ...sizeOfBlock(facesOf(sign.support)), above: Math.max(0, highest), behind: 0 };
  const box = bounds(edgeOf(evaluation)) ?? bounds([blank])!;
  const { thickness } = sign.blank;
  const size = kept ? { width: box.maxX - box.minX, height: box.maxY - box.minY } : extentOfBlank(sign.blank, box);
  const over = (z: number): number => (Number.isFinite(z) ? Math.max(0, Number(z.toFixed(6))) : 0);
  return { ...size, thickness, above: over(highest), behind: over(-thickness - rearmost) };
}

/** How wide, high and deep the box around a block is. */
function sizeOfBlock(faces: readonly BlockFace[]): { width: number; height: number; thickness: number } {
  const corners = faces.flatMap((face) => face.corners);
  const [width, height, thickness] = [0, 1, 2].map((k) => {
    const at = corners.map((corner) => corner[k]);
    return Number((Math.max(...at) - Math.min(...at)).toFixed(6));
  });
  return { width, height, thickness };
}

/** "face", "raised 2 mm" or "carved 1.5 mm": the name of a level's layer in files. */
export function levelName(z: number): string {
  if (Math.abs(z) < 1e-9) return 'face';
  return `${z > 0 ? 'raised' : 'carved'} ${Number(Math.abs(z).toFixed(3))} mm`;
}

/**
 * The outlines for production, one layer a level: the edge of the blank, every level but the face, what is cut through,
 * and the centre lines of line engraving. Rings only, no fills.
 */
export function productionOutlines(evaluation: Evaluation): Drawing {
  const { kept, levels } = evaluation;
  const pen = { width: 0.1, colour: INK };
  const area = (layer: string, outline: Outline): AreaItem => ({ kind: 'area', layer, outline, pen });
  const items: Item[] = [area(kept ? 'letters' : 'blank edge', edgeOf(evaluation))];
  const inserts = insertsOf(evaluation);
  const ofInserts = new Set(inserts.flatMap(({ labels }) => labels));
  for (const level of levels) {
    const labels = level.labels.filter((label) => !ofInserts.has(label));
    const outline = Math.abs(level.z) > 1e-9 ? levelOutline(evaluation, { ...level, labels }) : [];
    if (outline.length > 0) items.push(area(levelName(level.z), outline));
  }
  // Slopes by the outlines of the tiers that make them.
  const sloped = new Set(slopeBands(evaluation).map(({ layer }) => layer));
  const isRound = surfaceOf(evaluation.sign)?.round !== undefined;
  for (const index of sloped) {
    const { z, area: own, profile } = evaluation.layers[index];
    const to = Number.isFinite(z) && Math.abs(z) < 4000 ? ` to ${levelName(z)}` : '';
    // What comes in at the other end of a seam goes no further than the blank.
    if (profile) items.push(area(`slopes${to}`, isRound ? intersection(own.contours, [evaluation.blank]) : own.contours));
  }
  // An insert lies in an opening of its own.
  const holes = regionOf(evaluation, HOLE, ...ofInserts);
  if (holes.length > 0) items.push(area('cut through', holes));
  for (const { name, labels } of inserts) items.push(area(name, regionOf(evaluation, ...labels)));
  for (const part of partsSeen(evaluation)) {
    for (const { points, closed } of part.strokes) items.push({ kind: 'line', layer: 'centre lines', points, closed, pen });
  }
  // Where nothing is left the blank says how large the drawing is.
  return { items, bounds: boundsOf(items) ?? bounds([evaluation.blank])! };
}

/** mm of the words that tell radii in files. */
const RADIUS_WORDS = 4;

/** Outlines with the lines along which a sheet is bent, on a layer of their own, and under letters that are bent on the radii of their backs. */
export function withBends(drawing: Drawing, evaluation: Evaluation): Drawing {
  const isSheet = evaluation.sign.support?.kind === 'bent';
  const bends = supportLineItems(evaluation, RADIUS_WORDS).flatMap((item): Item[] => {
    if (item.kind === 'line' && isSheet) return [{ ...item, pen: { width: 0.1, colour: FAINT } }];
    return item.kind === 'label' && item.layer === 'bends' ? [item] : [];
  });
  return bends.length === 0 ? drawing : { ...drawing, items: [...drawing.items, ...bends] };
}

/** The inserts of other materials by the names of their layers, with the places that they are there. */
function insertsOf(evaluation: Evaluation): { readonly name: string; readonly labels: readonly number[] }[] {
  const byName = new Map<string, number[]>();
  for (const place of evaluation.places) {
    const layer = insertAt(evaluation, place);
    if (layer === undefined) continue;
    const name = insertName(evaluation, layer);
    byName.set(name, [...(byName.get(name) ?? []), place.label]);
  }
  return [...byName].map(([name, labels]) => ({ name, labels }));
}

/** "insert Window clear acrylic 3 mm": the layer of an insert in files. */
function insertName({ sign, layers }: Evaluation, layer: number): string {
  const own = layers[layer];
  const part = sign.parts.find(({ id }) => id === own.part);
  const action = part?.tiers.find(({ id }) => id === own.tier)?.action;
  const what = action?.kind === 'insert' ? `${action.material} ${Number(action.thickness.toFixed(3))} mm` : '';
  return `insert ${part?.name ?? ''} ${what}`.replace(/\s+/gu, ' ').trim();
}

function boundsOf(items: readonly Item[]): Box | undefined {
  const runs = items.flatMap((item) => (item.kind === 'area' ? item.outline : item.kind === 'line' ? [item.points] : []));
  return bounds(runs);
}
