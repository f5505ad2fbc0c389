import { type PathCommand } from '../geometry/index.js';
import SvgPath from 'svgpath';
import { inUser, readLength, readNumbers } from './coordinates.js';
import { ArtworkError, MOST_POINTS } from './limits.js';
import { type Element } from './xml.js';

/** Size of the viewport that percentages are of. */
export interface Viewport {
  readonly width: number;
  readonly height: number;
}

/**
 * The outline of a shape element in its own coordinates, y downwards; undefined for other elements.
 * @param broken told of what of its figures cannot be read
 */
export function pathOf(
  { name, attributes }: Element,
  view: Viewport,
  broken: (figure: string) => void = () => {},
): PathCommand[] | undefined {
  const checked = (key: string): string | undefined => {
    const text = attributes[key]?.trim();
    if (text && text !== 'auto' && !readLength(text)) broken(`${key}="${text}"`);
    return text;
  };
  const across = (key: string, otherwise = 0) => inUser(checked(key), view.width, otherwise);
  const down = (key: string, otherwise = 0) => inUser(checked(key), view.height, otherwise);
  const diagonal = Math.hypot(view.width, view.height) / Math.SQRT2;
  switch (name) {
    case 'path':
      return readSvgPath(attributes.d ?? '', broken);
    case 'rect':
      return rect(across('x'), down('y'), across('width'), down('height'), across('rx', NaN), down('ry', NaN));
    case 'circle':
      return oval(across('cx'), down('cy'), inUser(checked('r'), diagonal), inUser(attributes.r, diagonal));
    case 'ellipse':
      return oval(across('cx'), down('cy'), across('rx', down('ry')), down('ry', across('rx')));
    case 'line':
      return [
        { kind: 'move', x: across('x1'), y: down('y1') },
        { kind: 'line', x: across('x2'), y: down('y2') },
      ];
    case 'polyline':
    case 'polygon': {
      const n = readNumbers(attributes.points);
      if (/[^\d\s,.eE+-]/u.test(attributes.points ?? '')) broken(`points="${attributes.points}"`);
      const out: PathCommand[] = [];
      for (let i = 0; i + 1 < n.length; i += 2) out.push({ kind: i === 0 ? 'move' : 'line', x: n[i], y: n[i + 1] });
      if (name === 'polygon' && out.length > 0) out.push({ kind: 'close' });
      return out;
    }
    default:
      return undefined;
  }
}

/** Path data with every command, arcs as cubic curves. What follows a fault in it is left out, as SVG 2, chapter 9.5.4 has it. */
export function readSvgPath(data: string, broken: (figure: string) => void = () => {}): PathCommand[] {
  const out: PathCommand[] = [];
  if ((data.match(/[a-z]/giu)?.length ?? 0) > MOST_POINTS) throw new ArtworkError('too-many-points', MOST_POINTS);
  const path = new SvgPath(data);
  // Its types do not tell of the fault that it keeps.
  if ((path as unknown as { readonly err?: string }).err) broken(`d="${data.trim()}"`);
  path
    .abs()
    .unshort()
    .unarc()
    .iterate((segment, _, x0, y0) => {
      const [command, ...n] = segment as [string, ...number[]];
      switch (command) {
        case 'M':
          out.push({ kind: 'move', x: n[0], y: n[1] });
          break;
        case 'L':
          out.push({ kind: 'line', x: n[0], y: n[1] });
          break;
        case 'H':
          out.push({ kind: 'line', x: n[0], y: y0 });
          break;
        case 'V':
          out.push({ kind: 'line', x: x0, y: n[0] });
          break;
        case 'Q':
          out.push({ kind: 'quadratic', x1: n[0], y1: n[1], x: n[2], y: n[3] });
          break;
        case 'C':
          out.push({ kind: 'cubic', x1: n[0], y1: n[1], x2: n[2], y2: n[3], x: n[4], y: n[5] });
          break;
        case 'Z':
          out.push({ kind: 'close' });
          break;
      }
    });
  return out;
}

/** Handle length of the cubic curve nearest to a quarter circle. */
const KAPPA = 0.5522847498;

function oval(cx: number, cy: number, rx: number, ry: number): PathCommand[] {
  if (!(rx > 0 && ry > 0)) return [];
  return rect(cx - rx, cy - ry, 2 * rx, 2 * ry, rx, ry);
}

function rect(x: number, y: number, width: number, height: number, askedX: number, askedY: number): PathCommand[] {
  if (!(width > 0 && height > 0)) return [];
  // A missing radius is as the other (SVG 2, chapter 10.2).
  const rx = Math.min(Number.isNaN(askedX) ? (Number.isNaN(askedY) ? 0 : askedY) : askedX, width / 2);
  const ry = Math.min(Number.isNaN(askedY) ? (Number.isNaN(askedX) ? 0 : askedX) : askedY, height / 2);
  const [right, bottom] = [x + width, y + height];
  if (!(rx > 0 && ry > 0)) {
    return [
      { kind: 'move', x, y },
      { kind: 'line', x: right, y },
      { kind: 'line', x: right, y: bottom },
      { kind: 'line', x, y: bottom },
      { kind: 'close' },
    ];
  }
  const [kx, ky] = [rx * (1 - KAPPA), ry * (1 - KAPPA)];
  return [
    { kind: 'move', x: x + rx, y },
    { kind: 'line', x: right - rx, y },
    { kind: 'cubic', x1: right - kx, y1: y, x2: right, y2: y + ky, x: right, y: y + ry },
    { kind: 'line', x: right, y: bottom - ry },
    { kind: 'cubic', x1: right, y1: bottom - ky, x2: right - kx, y2: bottom, x: right - rx, y: bottom },
    { kind: 'line', x: x + rx, y: bottom },
    { kind: 'cubic', x1: x + kx, y1: bottom, x2: x, y2: bottom - ky, x, y: bottom - ry },
    { kind: 'line', x, y: y + ry },
    { kind: 'cubic', x1: x, y1: y + ky, x2: x + kx, y2: y, x: x + rx, y },
    { kind: 'close' },
  ];
}
