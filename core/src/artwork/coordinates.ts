import { compose, degrees, HERE, type Placement, radians } from '../geometry/index.js';

const MM: Readonly<Record<string, number>> = {
  '': 25.4 / 96,
  px: 25.4 / 96,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  mm: 1,
  cm: 10,
  q: 0.25,
  in: 25.4,
};

/** A length of the file: a number with its unit. */
export interface FileLength {
  readonly value: number;
  /** Empty for user units; `%` of something; else a unit of CSS Values 4, chapter 6. */
  readonly unit: string;
}

export function readLength(text: string | undefined): FileLength | undefined {
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)\s*([a-zA-Z%]*)\s*$/u.exec(text ?? '');
  if (!match) return undefined;
  const value = Number(match[1]);
  const unit = match[2].toLowerCase();
  return Number.isFinite(value) ? { value, unit } : undefined;
}

/** Millimetres of a length of the page; undefined where it is of no fixed unit. */
export const inMm = ({ value, unit }: FileLength): number | undefined => (MM[unit] === undefined ? undefined : value * MM[unit]);

/** User units (CSS pixels) of a length; percent of a whole, em as 16. */
export function inUser(text: string | undefined, whole: number, otherwise = 0): number {
  const length = readLength(text);
  if (!length) return otherwise;
  if (length.unit === '%') return (length.value / 100) * whole;
  if (length.unit === 'em' || length.unit === 'rem') return length.value * 16;
  if (length.unit === 'ex') return length.value * 8;
  return ((MM[length.unit] ?? MM['']) / MM['']) * length.value;
}

const numbersOf = (text: string): number[] => (text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/gu) ?? []).map(Number);

/** Numbers of a list attribute, such as points or a view box. */
export const readNumbers = (text: string | undefined): number[] => numbersOf(text ?? '').filter(Number.isFinite);

/** Degrees in a unit of angle (CSS Values 4, chapter 7.1). */
const DEGREES: Readonly<Record<string, number>> = { deg: 1, grad: 0.9, rad: degrees(1), turn: 360 };

/** Arguments of a transform: numbers, lengths in pixels, angles in degrees. */
const argumentsOf = (list: string): number[] =>
  [...list.matchAll(/([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)([a-zA-Z]*)/gu)].map(
    ([, figure, unit]) => Number(figure) * (DEGREES[unit] ?? (MM[unit] ?? MM['']) / MM['']),
  );

const moved = (e: number, f: number): Placement => ({ ...HERE, e, f });

/** A list of transforms, the first outermost (CSS Transforms 1, chapter 8). What cannot be read ends the list. */
export function readTransform(text: string | undefined): Placement {
  let out = HERE;
  for (const [, name, list] of (text ?? '').matchAll(/([a-zA-Z]{1,12})\s{0,40}\(([^()]*)\)/gu)) {
    const n = argumentsOf(list);
    const next = one(name, n);
    if (!next || ![next.a, next.b, next.c, next.d, next.e, next.f].every(Number.isFinite)) return out;
    out = compose(out, next);
  }
  return out;
}

function one(name: string, n: readonly number[]): Placement | undefined {
  switch (name) {
    case 'matrix':
      return n.length === 6 ? { a: n[0], b: n[1], c: n[2], d: n[3], e: n[4], f: n[5] } : undefined;
    case 'translate':
      return n.length > 0 ? moved(n[0], n[1] ?? 0) : undefined;
    case 'translateX':
      return n.length === 1 ? moved(n[0], 0) : undefined;
    case 'translateY':
      return n.length === 1 ? moved(0, n[0]) : undefined;
    case 'scaleX':
      return n.length === 1 ? { ...HERE, a: n[0] } : undefined;
    case 'scaleY':
      return n.length === 1 ? { ...HERE, d: n[0] } : undefined;
    case 'scale':
      return n.length > 0 ? { ...HERE, a: n[0], d: n[1] ?? n[0] } : undefined;
    case 'rotate': {
      if (n.length !== 1 && n.length !== 3) return undefined;
      const [cos, sin] = [Math.cos(radians(n[0])), Math.sin(radians(n[0]))];
      const turned: Placement = { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
      return n.length === 1 ? turned : compose(compose(moved(n[1], n[2]), turned), moved(-n[1], -n[2]));
    }
    case 'skewX':
      return n.length === 1 ? { ...HERE, c: Math.tan(radians(n[0])) } : undefined;
    case 'skewY':
      return n.length === 1 ? { ...HERE, b: Math.tan(radians(n[0])) } : undefined;
    default:
      return undefined;
  }
}

/** How a view box lies in its viewport (SVG 2, chapter 8.2): `preserveAspectRatio`. */
export function fitted(
  box: readonly [number, number, number, number],
  width: number,
  height: number,
  aspect: string | undefined,
): Placement {
  const [x, y, w, h] = box;
  let [sx, sy] = [width / w, height / h];
  const [align = 'xMidYMid', how = 'meet'] = (aspect ?? '').trim().split(/\s+/u).filter(Boolean);
  if (align === 'none') return { ...HERE, a: sx, d: sy, e: -x * sx, f: -y * sy };
  sx = sy = how === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (part: string) => (part === 'Min' ? 0 : part === 'Max' ? 1 : 0.5);
  const e = -x * sx + (width - w * sx) * share(align.slice(1, 4));
  const f = -y * sy + (height - h * sy) * share(align.slice(5, 8));
  return { ...HERE, a: sx, d: sy, e, f };
}
