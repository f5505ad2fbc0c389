import { type ContourSet, withoutRepeats } from '../../arrangement/index.js';
import {
  area,
  arcTrack,
  bounds,
  type Contour,
  direction,
  polylineTrack,
  reversed,
  straightTrack,
  type Stroke,
  type Track,
} from '../../geometry/index.js';
import { type BlockFace, faceAt, facesOf, type Sign, type TextPart } from '../../sign/index.js';
import { type TextTrack } from '../../type/index.js';

/** The line that a text part is set along, in the coordinates of its block. @param placed earlier parts, whose outlines it may run along */
export function trackOf(
  part: TextPart,
  { support }: Pick<Sign, 'support'>,
  placed: ReadonlyMap<string, { readonly area: ContourSet; readonly strokes: readonly Stroke[] }>,
): TextTrack | undefined {
  const { path } = part;
  switch (path?.kind) {
    case undefined:
      return undefined;
    case 'straight':
      return { track: straightTrack(path.length), hangs: false, shift: path.shift };
    case 'arc':
      // Letters stand on the left: outside of a clockwise arc, inside of an anticlockwise one.
      return {
        track: arcTrack(path.radius, path.span, path.reads),
        hangs: (path.reads === 'top') !== (path.side === 'outside'),
        shift: path.shift,
      };
    case 'sides': {
      const track = sidesTrack(facesOf(support), part);
      return track && { track, hangs: false, shift: path.shift };
    }
    case 'part': {
      const host = placed.get(path.part);
      const ring = [...(host?.area.contours ?? [])].sort((a, b) => Math.abs(area([b])) - Math.abs(area([a])))[0];
      const stroke = host?.strokes[0];
      if (stroke && !ring) {
        return { track: polylineTrack(stroke.points, stroke.closed), hangs: path.side === 'inside', shift: path.shift };
      }
      if (!ring) return undefined;
      return { track: polylineTrack(clockwiseFromBottom(ring), true), hangs: path.side === 'inside', shift: path.shift };
    }
  }
}

/** A ring run clockwise from the lowest place in its middle, so that half-way round is about the top. */
export function clockwiseFromBottom(ring: Contour): Contour {
  const { minX, maxX } = bounds([ring])!;
  const middle = (minX + maxX) / 2;
  const clockwise = area([ring]) > 0 ? reversed(ring) : ring;
  const n = clockwise.length;
  let [after, lowest] = [0, Infinity];
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    const [ax, ay, bx, by] = [clockwise[i], clockwise[i + 1], clockwise[j], clockwise[j + 1]];
    if (ax > middle === bx > middle) continue;
    const y = ay + ((middle - ax) / (bx - ax)) * (by - ay);
    if (y < lowest) [after, lowest] = [j, y];
  }
  const points = [middle, lowest, ...clockwise.subarray(after), ...clockwise.subarray(0, after)];
  // Where a point of the ring lies there it is enough.
  return withoutRepeats(Float64Array.from(points), true);
}

/** Of a face at least this share is gone along, however large letters are. */
const LEAST_SHARE = 0.2;
/** How wide letters usually are, in the height of capitals: middles of letters keep half of that from the edges of faces. */
const USUAL_WIDTH = 0.8;

/** About how high capitals are: of words of a given width as if they were eight letters long. */
function capitalsOf(size: TextPart['size']): number {
  if (size.kind === 'em') return 0.7 * size.size;
  return size.kind === 'seen-width' ? size.width / 8 : size.height;
}

/** How far a face is gone along, from which length of the way round on. */
interface Stretch {
  readonly face: BlockFace;
  readonly from: number;
  readonly length: number;
  readonly width: number;
}

/**
 * Around the upright sides of a block at the height of the part's place, from face to face without a letter on an edge: half-way along it is
 * there. However the part is turned its letters stand upright. Undefined where its place is on no side.
 */
function sidesTrack(faces: readonly BlockFace[], { place, size }: TextPart): Track | undefined {
  const around = faces.filter(({ isSide }) => isSide).sort((a, b) => roundOf(a) - roundOf(b));
  const own = faceAt(faces, place.x, place.y);
  if (!own?.isSide) return undefined;
  const room = USUAL_WIDTH * capitalsOf(size);
  const stretches: Stretch[] = [];
  let length = 0;
  for (const face of around) {
    const { minX, maxX } = bounds([face.outline])!;
    const gone = Math.max(LEAST_SHARE * (maxX - minX), maxX - minX - room);
    stretches.push({ face, from: length, length: gone, width: maxX - minX });
    length += gone;
  }
  const first = stretches.find(({ face }) => face === own)!;
  const begin = first.from + first.length / 2 + Math.max(-first.length / 2, Math.min(first.length / 2, place.x - own.x));
  const sense = place.mirror ? -1 : 1;
  const { cos, sin } = direction(place.turn);
  return {
    length,
    closed: true,
    at(s, width = 0) {
      const round = (((begin + sense * (s - length / 2)) % length) + length) % length;
      const stretch = stretches.find((each) => round <= each.from + each.length) ?? stretches[stretches.length - 1];
      const { face } = stretch;
      // Wider letters than usual keep off the edges, too.
      const most = Math.max(0, (stretch.width - width) / 2);
      const across = Math.max(-most, Math.min(most, round - stretch.from - stretch.length / 2));
      const [dx, dy] = [face.x + across - place.x, face.y - own.y];
      return {
        x: sense * (cos * dx + sin * dy),
        y: cos * dy - sin * dx,
        cos,
        sin: -sense * sin,
      };
    },
  };
}

/** Radians round from the front, to the right. */
function roundOf({ out }: BlockFace): number {
  const angle = Math.atan2(out[0], out[2]);
  return angle < -1e-9 ? angle + 2 * Math.PI : angle;
}
