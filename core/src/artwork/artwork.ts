import { type Box, CoordinateError, type Outline } from '../outline/index.js';
import { type ColourArea, type Layer, seenColours } from './layers.js';
import { ArtworkError } from './limits.js';
import { readSvg, type SvgFinding } from './svg.js';

/** How a file is taken over. */
export interface ArtworkChoice {
  /** Width of the page in mm; as the file says where it is not given. */
  readonly width?: number;
  /** Pieces of less area than this, in mm², are left out. */
  readonly speck: number;
}

export const PLAIN_CHOICE: ArtworkChoice = { speck: 0.01 };

/** Artwork as areas of colours, in mm, y up, about the middle of the file's page, with what was found and mended. */
export interface Artwork {
  readonly colours: readonly ColourArea[];
  readonly width: number;
  readonly height: number;
  /** Whether the file says its size in a unit of length; otherwise it has to be asked. */
  readonly isSized: boolean;
  /** In sentences. */
  readonly report: readonly string[];
}

const TOLD: Readonly<Record<SvgFinding, (texts: readonly string[]) => string>> = {
  text: (texts) =>
    `${count(texts.length, 'text')} (${texts.slice(0, 3).map((text) => `“${text.slice(0, 40)}”`).join(', ')}) ${texts.length === 1 ? 'has' : 'have'} no outline and ${texts.length === 1 ? 'was' : 'were'} left out: set the words here, or turn them into outlines where they were drawn.`, // prettier-ignore
  picture: (texts) => `${count(texts.length, 'picture')} left out: a picture has no outline.`,
  gradient: (texts) => `${count(new Set(texts).size, 'gradient')} taken as one colour each.`,
  pattern: (texts) => `${count(new Set(texts).size, 'pattern')} taken as plain grey.`,
  mask: () => 'Masks have no effect here; what they hide is shown.',
  filter: () => 'Effects such as shadows and blurs were left out.',
  dashes: (texts) => `${count(texts.length, 'dashed line')} taken as unbroken.`,
  selector: (texts) => `Styles for ${[...new Set(texts)].slice(0, 3).map((text) => `“${text}”`).join(', ')} were not understood.`, // prettier-ignore
  script: () => 'A script in the file was left out.',
  outside: (texts) => `${count(texts.length, 'reference')} to something that is not in the file left out.`,
  unknown: (texts) => `Not understood and left out: ${[...new Set(texts)].slice(0, 5).join(', ')}.`,
};

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

/**
 * An SVG file as areas of colours with a report.
 * @throws ArtworkError where it cannot be read or holds nothing that has an outline
 */
export function importSvg(source: string, choice: ArtworkChoice = PLAIN_CHOICE): Artwork {
  try {
    const { layers, findings, ...page } = readSvg(source, choice.width);
    const { distinct, doubles } = withoutDoubles(layers);
    const { colours, specks } = seenColours(distinct, choice.speck);
    if (colours.length === 0) throw new ArtworkError('nothing');
    const report = [
      `${count(layers.length, 'outlined area')} found, of which ${count(colours.length, 'colour')} can be seen.`,
      ...(doubles > 0 ? [`${count(doubles, 'double')} of the same outline and colour removed.`] : []),
      ...(specks > 0 ? [`${count(specks, 'speck')} of less than ${choice.speck} mm² left out.`] : []),
      ...[...findings].map(([what, texts]) => TOLD[what](texts)),
    ];
    return { ...page, colours, report };
  } catch (error) {
    if (error instanceof CoordinateError) throw new ArtworkError('too-far');
    throw error;
  }
}

/** Layers of which none is drawn again with the very same outline and colour later. */
function withoutDoubles(layers: readonly Layer[]): { distinct: Layer[]; doubles: number } {
  const last = new Map<string, number>();
  layers.forEach((layer, i) => last.set(keyOf(layer), i));
  const distinct = layers.filter((layer, i) => last.get(keyOf(layer)) === i);
  return { distinct, doubles: layers.length - distinct.length };
}

const keyOf = ({ colour, contours, rule }: Layer): string => `${colour} ${rule} ${contours.map((run) => run.join()).join(';')}`;

/** Path data with y up, in mm, for the outline of a sign's shape. */
export function outlinePath(outline: Outline): string {
  const figure = (mm: number) => String(Number(mm.toFixed(4)));
  return outline
    .map((ring) => {
      let path = `M${figure(ring[0])} ${figure(ring[1])}`;
      for (let i = 2; i < ring.length; i += 2) path += `L${figure(ring[i])} ${figure(ring[i + 1])}`;
      return `${path}Z`;
    })
    .join('');
}

/** The middle of a box. */
export const middleOf = ({ minX, minY, maxX, maxY }: Box) => ({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 });
