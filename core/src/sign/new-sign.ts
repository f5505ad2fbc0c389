import type { LengthUnit } from '../units/index.js';
import type { Action, Part, ShapePart, Sign, TextPart, Tier } from './schema.js';
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

/** A line of text below those there are, raised 2 mm (1/16 in). */
export function newText(sign: Sign, font: string): TextPart {
  const id = freeId(
    'line',
    sign.parts.map((part) => part.id),
  );
  const isMetric = sign.unit === 'mm';
  const texts = sign.parts.filter((part) => part.kind === 'text');
  const lowest = Math.min(...texts.map((part) => part.place.y - part.capHeight / 2));
  const capHeight = isMetric ? 20 : 19.05;
  const y = texts.length === 0 ? 0 : Math.round(lowest - capHeight * 1.05);
  return {
    kind: 'text',
    id,
    name: id.replace('line-', 'Line '),
    words: '',
    font,
    capHeight,
    tracking: 0,
    leading: 155,
    align: 'centre',
    place: { x: 0, y, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [newTier('tier-1', { kind: 'raise', by: isMetric ? 2 : 1.5875 })],
  };
}

/** A plain shape in the middle of the blank: a rectangular sunk panel, or a hole of 6 mm (1/4 in). */
export function newShape(sign: Sign, kind: 'rectangle' | 'circle'): ShapePart {
  const stem = kind === 'circle' ? 'hole' : 'panel';
  const id = freeId(
    stem,
    sign.parts.map((part: Part) => part.id),
  );
  const isMetric = sign.unit === 'mm';
  const { width, height } = sign.blank.outline;
  return {
    kind: 'shape',
    id,
    name: kind === 'circle' ? id.replace('hole-', 'Hole ') : id.replace('panel-', 'Panel '),
    shape:
      kind === 'circle'
        ? { kind, diameter: isMetric ? 6 : 6.35 }
        : { kind, width: width * 0.8, height: height * 0.6, cornerRadius: 0 },
    place: { x: 0, y: 0, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [newTier('tier-1', kind === 'circle' ? { kind: 'cut-through' } : { kind: 'carve', by: isMetric ? 2 : 1.5875 })],
  };
}
