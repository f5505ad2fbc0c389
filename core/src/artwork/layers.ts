import { arrange, joinedByPairs, ringsOf, windingOf } from '../arrangement/index.js';
import { area, bounds, type Box, CHORD_TOLERANCE, type Contour, type Outline, perimeter, polygonsOf } from '../geometry/index.js';

/** What is inside of overlapping outlines. */
export type Rule = 'nonzero' | 'evenodd';

/** An area of one colour, as drawn. */
export interface Layer {
  /** “#rrggbb” */
  readonly colour: string;
  /** The layer of the drawing, where it has such; each layer's colours are told apart. */
  readonly name?: string;
  readonly contours: readonly Contour[];
  readonly rule: Rule;
  /** Made from the width of a line, so that its pieces overlap by nature. */
  readonly isStroke?: boolean;
}

const isInside = (winding: number, rule: Rule): boolean => (rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0);

/** The area that outlines cover by a rule, free of crossings. */
export const covered = (contours: readonly Contour[], rule: Rule): Outline =>
  ringsOf(
    arrange([contours], (windings) => (isInside(windingOf(windings, 0), rule) ? 1 : 0)),
    (label) => label === 1,
  );

/** Pieces of a line that are worked out together. */
const TOGETHER = 48;

/** The area that the pieces of a drawn line cover: stretch by stretch, since a scribble covers its places many times over. */
export function strokeCover(pieces: readonly Contour[]): Outline {
  const stretches = Array.from({ length: Math.ceil(pieces.length / TOGETHER) }, (_, i) =>
    covered(pieces.slice(TOGETHER * i, TOGETHER * (i + 1)), 'nonzero'),
  );
  return joinedByPairs(stretches);
}

/** What is seen of a colour. */
export interface ColourArea {
  readonly colour: string;
  readonly name?: string;
  readonly outline: Outline;
  /** Lines that did not close. */
  readonly strokes: readonly Contour[];
  readonly areaMm2: number;
  readonly box: Box;
}

/** Whether an upper colour hides the lower, or each is kept whole. */
export type Overlap = 'hidden' | 'whole';

export interface SeenColours {
  /** In the order in which they first appear, from the bottom. */
  readonly colours: readonly ColourArea[];
  /** Middles of pieces smaller than the least size, which were left out. */
  readonly specks: readonly { readonly x: number; readonly y: number }[];
}

/** An open line of a colour. */
export interface OpenLine {
  readonly colour: string;
  readonly name?: string;
  readonly points: Contour;
}

const groupOf = ({ colour, name }: { readonly colour: string; readonly name?: string }): string => `${colour} ${name ?? ''}`;

/**
 * What is thinner than the tolerance of curves is left where outlines meet that were drawn alike and parted otherwise; nobody drew it.
 * Twice its area by its perimeter is how wide a thin piece is.
 */
const isSeam = (ring: Contour): boolean => 2 * Math.abs(area([ring])) < CHORD_TOLERANCE * perimeter([ring]);

/**
 * The areas of each colour when layers are painted one over the other. Where upper colours hide lower ones every place has the
 * colour of the topmost layer that covers it, so that areas of two colours share their edge and never overlap.
 * @param speck pieces of less area than this, in mm², are left out
 */
export function seenColours(
  layers: readonly Layer[],
  lines: readonly OpenLine[],
  speck: number,
  overlap: Overlap = 'hidden',
): SeenColours {
  const groups = new Map<string, { readonly colour: string; readonly name?: string }>();
  for (const { colour, name } of [...layers, ...lines]) {
    const group = { colour, name };
    if (!groups.has(groupOf(group))) groups.set(groupOf(group), group);
  }
  const keys = [...groups.keys()];
  const outlines =
    overlap === 'hidden' ? topmost(layers, keys) : keys.map((key) => whole(layers.filter((layer) => groupOf(layer) === key)));
  const specks: { x: number; y: number }[] = [];
  const out: ColourArea[] = [];
  keys.forEach((key, index) => {
    const kept: Contour[] = [];
    for (const { outer, holes } of polygonsOf(outlines[index])) {
      if (Math.abs(area([outer])) >= speck) kept.push(outer, ...holes);
      else if (!isSeam(outer)) specks.push(middleOf(bounds([outer])!));
    }
    const strokes = lines.filter((line) => groupOf(line) === key).map(({ points }) => points);
    const box = bounds([...kept, ...strokes]);
    if (box) out.push({ ...groups.get(key)!, outline: kept, strokes, areaMm2: area(kept), box });
  });
  return { colours: out, specks };
}

/** For every group the places where one of its layers lies on top. */
function topmost(layers: readonly Layer[], keys: readonly string[]): Outline[] {
  const labelOf = layers.map((layer) => keys.indexOf(groupOf(layer)) + 1);
  const arrangement = arrange(
    layers.map(({ contours }) => contours),
    (windings) => {
      for (let i = windings.length - 2; i >= 0; i -= 2)
        if (isInside(windings[i + 1], layers[windings[i]].rule)) return labelOf[windings[i]];
      return 0;
    },
  );
  return keys.map((_, index) => ringsOf(arrangement, (label) => label === index + 1));
}

/** All that some layers cover together. */
function whole(layers: readonly Layer[]): Outline {
  const arrangement = arrange(
    layers.map(({ contours }) => contours),
    (windings) => {
      for (let i = 0; i < windings.length; i += 2) if (isInside(windings[i + 1], layers[windings[i]].rule)) return 1;
      return 0;
    },
  );
  return ringsOf(arrangement, (label) => label === 1);
}

/** The middle of a box. */
export const middleOf = ({ minX, minY, maxX, maxY }: Box) => ({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 });
