import { USUAL_BRAILLE } from '../../braille/index.js';
import { type LengthUnit } from '../../units/index.js';
import { sideOf } from './levels.js';
import { type Action, type BrailleShape, type Part, type ShapePart, type Sign, type TextPart, type Tier } from './schema.js';
import { SIGN_VERSION } from './version.js';

/** A sign with a bare blank, to begin with: 300 × 200 × 12 mm, or 12 × 8 × 1/2 in. */
export function newSign(title: string, unit: LengthUnit): Sign {
  const [width, height, thickness, cornerRadius] = unit === 'mm' ? [300, 200, 12, 6] : [304.8, 203.2, 12.7, 6.35];
  return {
    version: SIGN_VERSION,
    title,
    unit,
    blank: { outline: { kind: 'rectangle', width, height, cornerRadius }, thickness, material: '' },
    parts: [],
    section: { x: 0, y: 0, turn: 0 },
  };
}

/** The first of "stem-1", "stem-2" … that is not taken. */
export function freeId(stem: string, taken: Iterable<string>): string {
  const ids = new Set(taken);
  let n = 1;
  while (ids.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

export function newTier(id: string, action: Action): Tier {
  return { id, on: true, area: { kind: 'outline' }, action };
}

/** About how tall a text's capitals are, in mm, from what its size says alone. */
export function sizeAbout({ size, words }: TextPart): number {
  switch (size.kind) {
    case 'capitals':
      return size.height;
    case 'em':
      return size.size * 0.7;
    case 'seen-height':
    case 'seen':
      return size.height / Math.max(1, words.split('\n').length);
    case 'seen-width':
      return (size.width / Math.max(4, words.length)) * 1.4;
  }
}

/** A line of text on the blank, below those there are as far as there is room, raised 2 mm (1/16 in). */
export function newText(sign: Sign, font: string): TextPart {
  const id = freeId(
    'line',
    sign.parts.map((part) => part.id),
  );
  const isMetric = sign.unit === 'mm';
  const { capHeight, y } = roomForLine(sign);
  return {
    kind: 'text',
    id,
    name: id.replace('line-', 'Line '),
    words: '',
    font,
    size: { kind: 'capitals', height: capHeight, stretch: 100 },
    tracking: 0,
    leading: { kind: 'percent', of: 155 },
    align: 'centre',
    place: { x: 0, y, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [newTier('tier-1', { kind: 'raise', by: isMetric ? 2 : 1.5875 })],
  };
}

/** Of the blank's height a first line takes at most this share; between lines stays this share of their capitals. */
const LINE_SHARE = 0.25;
const LINE_GAP = 0.55;

/** Where a further line goes, and how high its capitals are, in mm: below the lowest line, above the highest, or in the middle. */
function roomForLine(sign: Sign): { readonly capHeight: number; readonly y: number } {
  const { height } = extentOfShape(sign.blank.outline);
  const wanted = Math.min(sign.unit === 'mm' ? 20 : 19.05, Math.max(1, tidy(height * LINE_SHARE)));
  const texts = sign.parts.filter((part) => part.kind === 'text').filter(({ hidden }) => !hidden);
  if (texts.length === 0) return { capHeight: wanted, y: 0 };
  const lowest = Math.min(...texts.map(lowestOf));
  const highest = Math.max(...texts.map((part) => part.place.y + sizeAbout(part) / 2));
  const [below, above] = [lowest + height / 2, height / 2 - highest];
  // As high as the wider of the two leaves it, with a gap on either side; no lower than is worth it.
  const fits = (room: number) => room / (1 + 2 * LINE_GAP) >= wanted * 0.3;
  if (!fits(below) && !fits(above)) return { capHeight: wanted, y: 0 };
  const isBelow = fits(below);
  const capHeight = Math.min(wanted, tidy((isBelow ? below : above) / (1 + 2 * LINE_GAP)));
  const aside = capHeight * (LINE_GAP + 0.5);
  return { capHeight, y: Math.round(isBelow ? lowest - aside : highest + aside) };
}

/** About where the capitals of a text's last line stand, in mm. */
function lowestOf(part: TextPart): number {
  const size = sizeAbout(part);
  const lines = part.words.split('\n').length;
  const leading = part.leading.kind === 'percent' ? (size * part.leading.of) / 100 : part.leading.length;
  return part.place.y - size / 2 - (lines - 1) * (leading / 2);
}

/** How wide and high a piece of a ring is. */
function extentOfSector({ radius, height, span }: { radius: number; height: number; span: number }): {
  width: number;
  height: number;
} {
  const [inner, outer] = [Math.max(0, radius - height / 2), radius + height / 2];
  const half = (span / 360) * Math.PI;
  const lowest = Math.min(inner * Math.cos(half), outer * Math.cos(half));
  return { width: tidy(2 * outer * Math.sin(Math.min(half, Math.PI / 2))), height: tidy(outer - lowest) };
}

/** A piece of a ring, a quarter round, that fits within a box: its edges are 0.3 of the outer radius apart. */
export function sectorWithin({ width, height }: { readonly width: number; readonly height: number }): {
  readonly radius: number;
  readonly height: number;
  readonly span: number;
  readonly apex: 'below';
} {
  // As wide as a chord of the outer edge over a quarter circle, and as high as from the inner corners to its top.
  const outer = Math.min(width * Math.SQRT1_2, height / (1 - 0.7 * Math.SQRT1_2));
  return { radius: tidy(outer * 0.85), height: tidy(outer * 0.3), span: 90, apex: 'below' };
}

export type ShapeKind = ShapePart['shape']['kind'];

const SHAPE_NAMES: Readonly<Record<ShapeKind, string>> = {
  rectangle: 'Panel',
  circle: 'Hole',
  ellipse: 'Ellipse',
  stadium: 'Stadium',
  polygon: 'Polygon',
  arch: 'Arch',
  sector: 'Ring piece',
  line: 'Rule',
  outline: 'Outline',
  border: 'Border',
  combined: 'Combined',
  fixings: 'Fixing holes',
  braille: 'Braille',
  code: 'Code',
};

/** A plain shape in the middle of the blank, as large as suits it: a sunk panel, a hole of 6 mm (1/4 in), a border … */
export function newShape(sign: Sign, kind: Exclude<ShapeKind, 'combined'>): ShapePart {
  const isMetric = sign.unit === 'mm';
  const { width, height } = extentOfShape(sign.blank.outline);
  const sizes = { width: tidy(width * 0.8), height: tidy(height * 0.6) };
  const amount = isMetric ? 2 : 1.5875;
  const shapes = {
    rectangle: { kind: 'rectangle', ...sizes, cornerRadius: 0 },
    circle: { kind: 'circle', diameter: isMetric ? 6 : 6.35 },
    ellipse: { kind: 'ellipse', ...sizes },
    stadium: { kind: 'stadium', ...sizes },
    polygon: { kind: 'polygon', sides: 6, diameter: sizes.height, stands: 'flat' },
    arch: { kind: 'arch', ...sizes, rise: Math.min(sizes.width / 2, tidy(sizes.height / 3)) },
    sector: { kind: 'sector', ...sectorWithin(sizes) },
    line: { kind: 'line', length: sizes.width },
    border: { kind: 'border', of: 'blank', inset: isMetric ? 8 : 7.9375, width: isMetric ? 2 : 1.5875 },
    // Four points to begin with, each to be moved, and more to be added.
    outline: {
      kind: 'outline',
      width: tidy(width * 0.4),
      height: tidy(height * 0.4),
      path: 'M-2 -1L2 -1L2 1L-2 1Z',
    },
    braille: newBraille(sign),
    code: { kind: 'code', symbology: 'qr', words: '', module: isMetric ? 1 : 0.79375 },
    fixings: { kind: 'fixings', diameter: isMetric ? 5 : 4.7625, inset: isMetric ? 12 : 12.7, places: 'corners', count: 4 },
  } as const;
  const action: Action = {
    circle: { kind: 'cut-through' } as const,
    fixings: { kind: 'cut-through' } as const,
    border: { kind: 'raise', by: amount } as const,
    line: { kind: 'line', depth: isMetric ? 1 : 0.79375, width: isMetric ? 1.5 : 1.5875 } as const,
    braille: { kind: 'raise', by: USUAL_BRAILLE.height } as const,
    // Half a module: what is deeper shades its neighbours.
    code: { kind: 'carve', by: isMetric ? 0.5 : 0.396875 } as const,
  }[kind as string] ?? { kind: 'carve', by: amount };
  const part = { ...shapePart(sign, shapes[kind]), tiers: [newTier('tier-1', action)] };
  return kind === 'braille' ? belowItsText(sign, part) : part;
}

/** Braille of the first text of the front, by usual sizes. */
function newBraille(sign: Sign): BrailleShape {
  const text = sign.parts.find((part) => part.kind === 'text' && sideOf(part) === 'front');
  const { base, dots, cells: cell, lines: line } = USUAL_BRAILLE;
  const align = text?.kind === 'text' && text.align !== 'justified' ? text.align : 'centre';
  return {
    kind: 'braille',
    words: '',
    ...(text && { follows: text.id }),
    table: 'ueb-2',
    cells: '',
    align,
    base,
    dots,
    cell,
    line,
  };
}

/** mm between a text and its braille (2010 ADA Standards for Accessible Design, 703.3.2: 3/8 in at least). */
const BRAILLE_BELOW = 10;

/** Domed dots below all words of the front, aligned with those that they say. */
function belowItsText(sign: Sign, part: ShapePart): ShapePart {
  const { shape } = part;
  if (shape.kind !== 'braille') return part;
  const texts = sign.parts.filter((each): each is TextPart => each.kind === 'text' && sideOf(each) === 'front' && !each.hidden);
  const followed = texts.find(({ id }) => id === shape.follows);
  const lowest = Math.min(...texts.map(lowestOf));
  const y = Number.isFinite(lowest) ? tidy(lowest - BRAILLE_BELOW - shape.dots - shape.base / 2) : 0;
  return {
    ...part,
    place: { ...part.place, x: followed?.place.x ?? 0, y },
    tiers: part.tiers.map((tier) => ({ ...tier, edge: { kind: 'domed', width: shape.base / 2 } })),
  };
}

/** A part made from the outlines of others; it raises nothing until it is told to. */
export function newCombined(sign: Sign, how: 'join' | 'cut' | 'common', of: readonly string[]): ShapePart {
  const part = shapePart(sign, { kind: 'combined', how, of: [...of] });
  return { ...part, tiers: [newTier('tier-1', { kind: 'raise', by: sign.unit === 'mm' ? 2 : 1.5875 })] };
}

/** An outline of its own, such as a colour of a logo, raised like a line of text. */
export function newOutline(
  sign: Sign,
  name: string,
  outline: { readonly width: number; readonly height: number; readonly path: string },
  at: { readonly x: number; readonly y: number },
): ShapePart {
  const { width, height, path } = outline;
  const part = shapePart(sign, {
    kind: 'outline',
    width: Math.max(0.01, tidy(width)),
    height: Math.max(0.01, tidy(height)),
    path,
  });
  return {
    ...part,
    name: name.trim().slice(0, 80) || part.name,
    place: { ...part.place, x: tidy(at.x), y: tidy(at.y) },
    tiers: [newTier('tier-1', { kind: 'raise', by: sign.unit === 'mm' ? 2 : 1.5875 })],
  };
}

function shapePart(sign: Sign, shape: ShapePart['shape']): ShapePart {
  const name = SHAPE_NAMES[shape.kind];
  const id = freeId(
    name.toLowerCase().replace(/ /gu, '-'),
    sign.parts.map((part: Part) => part.id),
  );
  return {
    kind: 'shape',
    id,
    name: `${name} ${id.split('-').at(-1)}`,
    shape,
    place: { x: 0, y: 0, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [],
  };
}

/** mm as documents keep them. */
export const tidy = (mm: number): number => Number(mm.toFixed(3));

/** Width and height of a shape that has its own, in mm; of a line its length and nothing. */
export function extentOfShape(
  shape: Exclude<ShapePart['shape'], { kind: 'border' | 'combined' | 'fixings' | 'braille' | 'code' }>,
): {
  width: number;
  height: number;
} {
  switch (shape.kind) {
    case 'circle':
      return { width: shape.diameter, height: shape.diameter };
    case 'polygon':
      return { width: shape.diameter, height: shape.diameter };
    case 'sector':
      return extentOfSector(shape);
    case 'line':
      return { width: shape.length, height: 0 };
    default:
      return { width: shape.width, height: shape.height };
  }
}
