import { type Contour, simplified, snapRing } from '../geometry/index.js';
import { type Artwork, settledArtwork } from './artwork.js';
import { Findings } from './findings.js';
import { ArtworkError, MOST_POINTS } from './limits.js';

/** A picture in shades of grey, row by row from the top: 0 is black, 255 white. */
export interface GreyPicture {
  readonly width: number;
  readonly height: number;
  readonly shades: Uint8Array;
}

/** How a picture is traced. */
export interface TraceChoice {
  /** Width of the whole picture in mm. */
  readonly width: number;
  /** What is darker than this shade, 1 to 255, is traced. */
  readonly threshold: number;
  /** Over how many pixels edges are smoothed, 0 to 10. */
  readonly smoothing: number;
  /** What is lighter is traced instead. */
  readonly isLight: boolean;
  /** Pieces of less area than this, in mm², are left out. */
  readonly speck: number;
}

/** Most pixels of a picture that is traced. */
export const MOST_PIXELS = 4_000_000;
/** Most pixels that the edges of a picture run through. */
const MOST_STEPS = 4 * MOST_POINTS;

const tooManyEdges = (): ArtworkError =>
  new ArtworkError(
    'not-traced',
    'it is full of dots and edges, as noise and photographs are: smooth it more, or make it smaller.',
  );

/** How far, in pixels, points of an outline may lie off the edge that was found. */
const STRAY = 0.12;

/**
 * The outlines of what is dark (or light) in a picture: the line at which the smoothed shade passes the threshold, between pixels
 * in proportion.
 * @throws ArtworkError where the picture is too large or nothing in it passes the threshold
 */
export function tracePicture(picture: GreyPicture, choice: TraceChoice): Artwork {
  const { width, height, shades } = picture;
  if (!(width > 0 && height > 0) || shades.length !== width * height)
    throw new ArtworkError('not-traced', `it has ${width} × ${height} pixels and ${shades.length} shades.`);
  if (shades.length > MOST_PIXELS)
    throw new ArtworkError('not-traced', `it has ${shades.length} pixels and may have ${MOST_PIXELS}: make it smaller.`);
  const scale = choice.width / width;
  const dark = blurred(picture, choice.smoothing);
  if (choice.isLight) for (let i = 0; i < dark.length; i++) dark[i] = 255 - dark[i];
  const level = choice.isLight ? 255 - choice.threshold : choice.threshold;
  const contours = levelLines(dark, width, height, level)
    .map((line) => simplified(line, STRAY))
    .map((line) => onSheet(line, width, height, scale))
    .filter((polyline) => polyline.length >= 6);
  if (contours.reduce((sum, { length }) => sum + length / 2, 0) > MOST_POINTS) throw tooManyEdges();
  return settledArtwork(
    () => ({
      layers: contours.length === 0 ? [] : [{ colour: '#000000', contours, rule: 'evenodd', isStroke: true }],
      lines: [],
      width: choice.width,
      height: height * scale,
      isSized: false,
      findings: new Findings(),
    }),
    { speck: choice.speck, joinWithin: 0, rule: 'as-drawn', strokes: 'areas', overlap: 'hidden' },
  );
}

const onSheet = (line: readonly number[], width: number, height: number, scale: number): Contour => {
  const out = new Float64Array(line.length);
  for (let i = 0; i < line.length; i += 2) {
    out[i] = (line[i] - width / 2) * scale;
    out[i + 1] = (height / 2 - line[i + 1]) * scale;
  }
  return snapRing(out);
};

/** Shades averaged over a square three times, which comes close to a bell curve; beyond the edge all is as at the edge. */
function blurred({ width, height, shades }: GreyPicture, radius: number): Float32Array {
  const from = Float32Array.from(shades);
  const reach = Math.round(Math.max(0, Math.min(10, radius)));
  if (reach === 0) return from;
  const to = new Float32Array(from.length);
  for (let pass = 0; pass < 3; pass++) {
    averaged(from, to, width, height, width, 1, reach);
    averaged(to, from, height, width, 1, width, reach);
  }
  return from;
}

/** Running averages along lines of `n` shades `step` apart; there are `lines` of them, `stride` apart. */
function averaged(
  from: Float32Array,
  to: Float32Array,
  n: number,
  lines: number,
  stride: number,
  step: number,
  reach: number,
): void {
  for (let line = 0; line < lines; line++) {
    const base = line * stride;
    const at = (i: number) => from[base + Math.min(n - 1, Math.max(0, i)) * step];
    let sum = 0;
    for (let i = -reach; i <= reach; i++) sum += at(i);
    for (let i = 0; i < n; i++) {
      to[base + i * step] = sum / (2 * reach + 1);
      sum += at(i + reach + 1) - at(i - reach);
    }
  }
}

/**
 * Closed lines at which the shade passes a level (marching squares), in pixels, dark on the left. Shades stand in the middles of
 * pixels; around the picture all is white. Where two dark and two light corners face each other, the dark ones stay apart.
 */
function levelLines(shades: Float32Array, width: number, height: number, level: number): number[][] {
  // Corners (x, y) from −1 to width and height; a cell has its lower left corner's name.
  const [w, h] = [width + 2, height + 2];
  const at = (x: number, y: number) => (x > 0 && y > 0 && x <= width && y <= height ? shades[(y - 1) * width + x - 1] : 255);
  // For every crossed edge of the grid the next one along its line: edges to the right are 2·corner, edges down 2·corner + 1.
  const next = new Int32Array(2 * w * h).fill(-1);
  const right = (x: number, y: number) => 2 * (y * w + x);
  const down = (x: number, y: number) => 2 * (y * w + x) + 1;
  for (let y = 0; y < h - 1; y++)
    for (let x = 0; x < w - 1; x++) {
      const [a, b, c, d] = [at(x, y) < level, at(x + 1, y) < level, at(x + 1, y + 1) < level, at(x, y + 1) < level];
      if (a === b && b === c && c === d) continue;
      const [top, east, bottom, west] = [right(x, y), down(x + 1, y), right(x, y + 1), down(x, y)];
      const go = (from: number, to: number) => (next[from] = to);
      // One line around each dark corner, or along the border of two or three.
      const code = (a ? 8 : 0) | (b ? 4 : 0) | (c ? 2 : 0) | (d ? 1 : 0);
      switch (code) {
        case 8: go(west, top); break; // prettier-ignore
        case 4: go(top, east); break; // prettier-ignore
        case 2: go(east, bottom); break; // prettier-ignore
        case 1: go(bottom, west); break; // prettier-ignore
        case 12: go(west, east); break; // prettier-ignore
        case 6: go(top, bottom); break; // prettier-ignore
        case 3: go(east, west); break; // prettier-ignore
        case 9: go(bottom, top); break; // prettier-ignore
        case 14: go(west, bottom); break; // prettier-ignore
        case 7: go(top, west); break; // prettier-ignore
        case 11: go(east, top); break; // prettier-ignore
        case 13: go(bottom, east); break; // prettier-ignore
        case 10: go(west, top); go(east, bottom); break; // prettier-ignore
        case 5: go(top, east); go(bottom, west); break; // prettier-ignore
      }
    }
  const pointOn = (edge: number): readonly [number, number] => {
    const corner = edge >> 1;
    const [x, y] = [corner % w, Math.floor(corner / w)];
    const isDown = edge % 2 === 1;
    const [p, q] = [at(x, y), isDown ? at(x, y + 1) : at(x + 1, y)];
    const t = (level - p) / (q - p);
    // Corner 1 is the middle of the first pixel, half a pixel in.
    return isDown ? [x - 0.5, y - 0.5 + t] : [x - 0.5 + t, y - 0.5];
  };
  // Noise has an edge at every other pixel; drawings have few.
  if (next.reduce((count, edge) => (edge < 0 ? count : count + 1), 0) > MOST_STEPS) throw tooManyEdges();
  const lines: number[][] = [];
  for (let start = 0; start < next.length; start++) {
    if (next[start] < 0) continue;
    const line: number[] = [];
    for (let edge = start; next[edge] >= 0;) {
      line.push(...pointOn(edge));
      const to = next[edge];
      next[edge] = -1;
      edge = to;
    }
    lines.push(line);
  }
  return lines;
}
