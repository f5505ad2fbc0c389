import {
  arrange,
  area,
  bounds,
  type Box,
  type Contour,
  keepCommon,
  type Outline,
  polygonsOf,
  ringsOf,
  windingOf,
} from '../outline/index.js';

/** What is inside of overlapping outlines. */
export type Rule = 'nonzero' | 'evenodd';

/** An area of one colour, as drawn. */
export interface Layer {
  /** “#rrggbb” */
  readonly colour: string;
  readonly contours: readonly Contour[];
  readonly rule: Rule;
}

const isInside = (winding: number, rule: Rule): boolean => (rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0);

/** The area that outlines cover by a rule, free of crossings. */
export const covered = (contours: readonly Contour[], rule: Rule): Outline =>
  ringsOf(
    arrange([contours], (windings) => (isInside(windingOf(windings, 0), rule) ? 1 : 0)),
    (label) => label === 1,
  );

/** What of an area lies within every one of several others. */
export const within = (outline: Outline, clips: readonly Outline[]): Outline =>
  clips.reduce((left, clip) => (left.length === 0 ? left : keepCommon(left, clip)), outline);

/** What is seen of a colour. */
export interface ColourArea {
  readonly colour: string;
  readonly outline: Outline;
  readonly areaMm2: number;
  readonly box: Box;
}

export interface SeenColours {
  /** In the order in which they first appear, from the bottom. */
  readonly colours: readonly ColourArea[];
  /** Pieces smaller than the least size, which were left out. */
  readonly specks: number;
}

/**
 * What is seen of each colour when the layers are painted one over the other: every place has the colour of the topmost layer
 * that covers it, so that areas of two colours share their edge and never overlap.
 * @param speck pieces of less area than this, in mm², are left out
 */
export function seenColours(layers: readonly Layer[], speck: number): SeenColours {
  const colours = [...new Set(layers.map(({ colour }) => colour))];
  const labelOf = layers.map(({ colour }) => colours.indexOf(colour) + 1);
  const arrangement = arrange(
    layers.map(({ contours }) => contours),
    (windings) => {
      for (let i = windings.length - 2; i >= 0; i -= 2)
        if (isInside(windings[i + 1], layers[windings[i]].rule)) return labelOf[windings[i]];
      return 0;
    },
  );
  let specks = 0;
  const out: ColourArea[] = [];
  colours.forEach((colour, index) => {
    const polygons = polygonsOf(ringsOf(arrangement, (label) => label === index + 1));
    const kept = polygons.filter(({ outer }) => Math.abs(area([outer])) >= speck);
    specks += polygons.length - kept.length;
    const outline = kept.flatMap(({ outer, holes }) => [outer, ...holes]);
    const box = bounds(outline);
    if (box) out.push({ colour, outline, areaMm2: area(outline), box });
  });
  return { colours: out, specks };
}
