import { NodingError } from '../arrangement/index.js';
import { type Box, joinBoxes, type Contour, CoordinateError, type Outline } from '../geometry/index.js';
import { crossings } from './crossings.js';
import { type Drawn, type DrawnLine } from './drawn.js';
import { readDxf } from './dxf.js';
import { joinEnds } from './ends.js';
import { type Finding, type Findings } from './findings.js';
import { type ColourArea, type Layer, type OpenLine, type Overlap, type Rule, seenColours } from './layers.js';
import { ArtworkError, MOST_CROSSINGS } from './limits.js';
import { refuseTangles } from './tangles.js';
import { readSvg } from './svg.js';

/** How a file is taken over. */
export interface ArtworkChoice {
  /** Width of the page, or of what is drawn where there is no page, in mm; as the file says where it is not given. */
  readonly width?: number;
  /** Pieces of less area than this, in mm², are left out. */
  readonly speck: number;
  /** Ends of lines no further apart than this, in mm, are joined. */
  readonly joinWithin: number;
  /** What is inside where outlines cross; as the file says where it says so. */
  readonly rule: 'as-drawn' | Rule;
  /** Whether drawn lines are areas of their width, or the outlines that are meant. */
  readonly strokes: 'areas' | 'outlines';
  readonly overlap: Overlap;
}

export type ArtworkFormat = 'svg' | 'dxf';

/** How a file of a format is taken over where nothing else is chosen: the layers of a DXF drawing do not hide each other. */
export const plainChoice = (format: ArtworkFormat): ArtworkChoice => ({
  speck: 0.01,
  joinWithin: 0.1,
  rule: 'as-drawn',
  strokes: format === 'dxf' ? 'outlines' : 'areas',
  overlap: format === 'dxf' ? 'whole' : 'hidden',
});

/** Artwork as areas and lines of colours, in mm, y up, about the middle of the file's page, with what was found and mended. */
export interface Artwork {
  readonly colours: readonly ColourArea[];
  readonly width: number;
  readonly height: number;
  /** What is seen of it. */
  readonly seen: Box;
  /** Whether the file says its size in a unit of length; otherwise it has to be asked. */
  readonly isSized: boolean;
  /** What was found first of all, in a sentence. */
  readonly summary: string;
  readonly findings: readonly Finding[];
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

/**
 * An SVG or DXF file as areas of colours with a report.
 * @throws ArtworkError where it cannot be read or holds nothing that has an outline
 */
export function importArtwork(format: ArtworkFormat, source: string, choice: Partial<ArtworkChoice> = {}): Artwork {
  const chosen = { ...plainChoice(format), ...choice };
  return settledArtwork(
    () => (format === 'dxf' ? readDxf(source, chosen.width) : readSvg(source, chosen.width, chosen.strokes)),
    chosen,
  );
}

/** Artwork from what was drawn: ends joined, crossings and overlaps resolved, specks left out. @throws ArtworkError */
export function settledArtwork(read: () => Drawn, choice: ArtworkChoice): Artwork {
  try {
    const { layers, lines, findings, ...page } = read();
    const { rings, open } = joinedLines(lines, choice, findings);
    const all = [...rings, ...layers];
    const distinct = withoutDoubles(all, findings).map((layer) =>
      choice.rule === 'as-drawn' || layer.isStroke ? layer : { ...layer, rule: choice.rule },
    );
    refuseTangles(
      distinct.flatMap(({ contours }) => contours),
      MOST_CROSSINGS,
    );
    markCrossings(distinct, findings);
    const { colours, specks } = seenColours(distinct, open, choice.speck, choice.overlap);
    for (const speck of specks) findings.add('speck', String(Number(choice.speck.toFixed(4))), speck);
    if (colours.length === 0) throw new ArtworkError('nothing');
    const summary = `${count(all.length, 'outlined area')}${open.length > 0 ? ` and ${count(open.length, 'line')}` : ''} found, of which ${count(colours.length, 'colour')} can be seen.`;
    const seen = colours.map(({ box }) => box).reduce((a, b) => joinBoxes(a, b)!);
    return { ...page, colours, seen, summary, findings: findings.list() };
  } catch (error) {
    if (error instanceof CoordinateError || error instanceof NodingError) throw new ArtworkError('too-far');
    throw error;
  }
}

/** Lines of each colour joined to rings, which are one layer by the even-odd rule, so that a ring in a ring is a hole. */
function joinedLines(
  lines: readonly DrawnLine[],
  { joinWithin, rule }: ArtworkChoice,
  findings: Findings,
): { rings: Layer[]; open: OpenLine[] } {
  const groups = new Map<string, DrawnLine[]>();
  for (const line of lines) {
    const key = `${line.colour} ${line.name ?? ''}`;
    const group = groups.get(key);
    if (group) group.push(line);
    else groups.set(key, [line]);
  }
  const rings: Layer[] = [];
  const open: OpenLine[] = [];
  for (const group of groups.values()) {
    const { colour, name } = group[0];
    const joined = joinEnds(group.filter(({ closed }) => !closed).map(({ points }) => points), joinWithin); // prettier-ignore
    for (const { gap, ...spot } of joined.joints) findings.add('joined', '', spot, gap);
    for (let i = 0; i < joined.doubles; i++) findings.add('double');
    for (const points of joined.open) {
      const n = points.length;
      const gap = Math.hypot(points[n - 2] - points[0], points[n - 1] - points[1]);
      findings.add('open', '', { x: points[0], y: points[1] }, gap);
      open.push({ colour, name, points });
    }
    const closed = group.filter((line) => line.closed).map(({ points }) => points);
    const contours = distinctRings([...closed, ...joined.rings], findings);
    if (contours.length > 0) rings.push({ colour, name, contours, rule: rule === 'nonzero' ? 'nonzero' : 'evenodd' });
  }
  return { rings, open };
}

/** Rings of which none is drawn twice from the same point: by the even-odd rule a double would empty what it should fill. */
function distinctRings(rings: readonly Contour[], findings: Findings): Contour[] {
  const seen = new Set<string>();
  return rings.filter((ring) => {
    const key = ring.join();
    if (seen.has(key)) findings.add('double', '', { x: ring[0], y: ring[1] });
    return !seen.has(key) && seen.add(key) !== undefined;
  });
}

/** Layers of which none is drawn again with the very same outline and colour later. */
function withoutDoubles(layers: readonly Layer[], findings: Findings): Layer[] {
  const last = new Map<string, number>();
  layers.forEach((layer, i) => last.set(keyOf(layer), i));
  return layers.filter((layer, i) => {
    if (last.get(keyOf(layer)) === i) return true;
    findings.add('double', '', { x: layer.contours[0][0], y: layer.contours[0][1] });
    return false;
  });
}

const keyOf = ({ colour, name, contours, rule }: Layer): string =>
  `${colour} ${name ?? ''} ${rule} ${contours.map((polyline) => polyline.join()).join(';')}`;

/** Most crossings that are counted and shown. */
const MOST_MARKED = 200;

function markCrossings(layers: readonly Layer[], findings: Findings): void {
  let left = MOST_MARKED;
  for (const { contours, rule, isStroke } of layers) {
    if (isStroke || left <= 0) continue;
    const spots = crossings(contours, left);
    left -= spots.length;
    for (const spot of spots) findings.add('crossing', rule === 'evenodd' ? 'even-odd' : 'non-zero', spot);
  }
}

/** Path data with y up, in mm, for the outline of a sign's shape: areas are closed, lines are not. */
export function outlinePath(outline: Outline, strokes: readonly Contour[] = []): string {
  const figure = (mm: number) => String(Number(mm.toFixed(4)));
  const polyline = (points: Contour) => {
    let path = `M${figure(points[0])} ${figure(points[1])}`;
    for (let i = 2; i < points.length; i += 2) path += `L${figure(points[i])} ${figure(points[i + 1])}`;
    return path;
  };
  return [...outline.map((ring) => `${polyline(ring)}Z`), ...strokes.map(polyline)].join('');
}
