import { readdirSync, readFileSync } from 'node:fs';
import { type Action, newSign, newText, newTier, type Sign, type SitsOn, type TextPart } from '../src/sign/index.js';

const DEMO = new URL('../../demo/', import.meta.url);

/** The signs of the demo scenario by file name. */
export const demoSigns = (): [string, unknown][] =>
  readdirSync(DEMO)
    .filter((name) => name.endsWith('.sign.json'))
    .map((name) => [name, JSON.parse(readFileSync(new URL(name, DEMO), 'utf8')) as unknown]);

/** A blank of the given size in mm with square corners. */
export function bareSign(width: number, height: number, thickness: number): Sign {
  const sign = newSign('Test', 'mm');
  sign.blank = { outline: { kind: 'rectangle', width, height, cornerRadius: 0 }, thickness, material: '' };
  return sign;
}

/** Adds a rectangle or circle with one action; gives its id. */
export function addShape(
  sign: Sign,
  shape: [number, number] | number,
  action: Action,
  at: { x?: number; y?: number; turn?: number; sitsOn?: SitsOn } = {},
): string {
  const id = `part-${sign.parts.length + 1}`;
  sign.parts.push({
    kind: 'shape',
    id,
    name: id,
    shape:
      typeof shape === 'number'
        ? { kind: 'circle', diameter: shape }
        : { kind: 'rectangle', width: shape[0], height: shape[1], cornerRadius: 0 },
    place: { x: at.x ?? 0, y: at.y ?? 0, turn: at.turn ?? 0, mirror: false },
    sitsOn: at.sitsOn ?? { kind: 'face' },
    tiers: [newTier('tier-1', action)],
  });
  return id;
}

/** Adds a text part; gives it for further changes. */
export function addText(sign: Sign, words: string, font: string, capHeight: number, action: Action): TextPart {
  const part: TextPart = {
    ...newText(sign, font),
    words,
    size: { kind: 'capitals', height: capHeight, stretch: 100 },
    tiers: [newTier('tier-1', action)],
  };
  part.place = { x: 0, y: 0, turn: 0, mirror: false };
  sign.parts.push(part);
  return part;
}
