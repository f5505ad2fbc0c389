import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { notesOf } from '../checks/index.js';
import { area } from '../geometry/index.js';
import { type FontEntry } from '../type/index.js';
import { type CodeShape, costliestPart, factorsToSize, hasSize, newShape, newTier, partLine, readSign, resized, sentenceText, setField, type ShapePart, type Sign, sizesApart, ticket } from './index.js'; // prettier-ignore

const workshop = new Workshop();
let catalogue: FontEntry[];
beforeAll(() => {
  catalogue = JSON.parse(readFileSync(new URL('../../../fonts/catalogue.json', import.meta.url), 'utf8')) as FontEntry[];
});

function coded(change: Partial<CodeShape> = {}): { sign: Sign; part: ShapePart; shape: CodeShape } {
  const sign = bareSign(100, 80, 6);
  const part = newShape(sign, 'code');
  const shape = { ...(part.shape as CodeShape), words: 'PIER 9', module: 2, ...change };
  part.shape = shape;
  sign.parts.push(part);
  return { sign, part, shape };
}
const shapeOf = (sign: Sign): CodeShape => (sign.parts[0] as ShapePart).shape as CodeShape;
const sentences = (sign: Sign): string => ticket(sign, catalogue).map(sentenceText).join(' '); // prettier-ignore

describe('a code as a part of a sign', () => {
  it('begins as a QR code without words, sunk by half a module, in either unit', () => {
    for (const [unit, module] of [
      ['mm', 1],
      ['in', 0.79375],
    ] as const) {
      // prettier-ignore
      const sign = { ...bareSign(100, 80, 6), unit };
      const part = newShape(sign, 'code');
      expect(part).toMatchObject({ name: 'Code 1', shape: { kind: 'code', symbology: 'qr', words: '', module }, tiers: [{ action: { kind: 'carve', by: module / 2 } }] }); // prettier-ignore
      sign.parts.push(part);
      expect(readSign(structuredClone(sign), catalogue).parts[0]).toEqual(part);
      expect(notesOf(workshop.evaluate(sign)).map(({ code }) => code)).toEqual(['no-words']);
    }
  });

  it('is a closed solid of as much as is dark, raised, sunk and as the ground around it', () => {
    for (const [kind, ground, sunk] of [
      ['raise', undefined, -1],
      ['carve', undefined, 1],
      ['carve', true, 1],
    ] as const) {
      // prettier-ignore
      const { sign, part } = coded({ ground, module: 1.5 });
      part.place.turn = 37;
      part.tiers = [newTier('tier-1', { kind, by: 1 })];
      const evaluation = workshop.evaluate(sign);
      const { mm3 } = workshop.soundSolid(evaluation);
      // Where modules touch in a corner alone the solid keeps them a hair apart.
      expect(Math.abs(mm3 - 100 * 80 * 6 + sunk * area(evaluation.parts[0].area.contours))).toBeLessThan(0.1);
    }
  });

  it('says why it cannot be made, and is not', () => {
    const { sign } = coded({ symbology: 'ean-13', words: '978-0-306-40615-1', height: 15 });
    const evaluation = workshop.evaluate(sign);
    const [note] = notesOf(evaluation);
    expect([note.code, note.weight, note.text]).toEqual(['code-unmade', 'error', 'Code 1 is not made: its check digit has to be 7, not 1.']); // prettier-ignore
    expect(evaluation.parts[0].area.isEmpty).toBe(true);
  });

  it('is said in sentences, whose values are set', () => {
    const { sign } = coded();
    expect(sentences(sign)).toContain('Code 1 says “PIER 9” as QR code, of which about 15 % may be lost.');
    expect(sentences(sign)).toContain('Its modules are 2 mm, 21 across: 42 mm by 42 mm, middle at 0 mm across');
    expect(partLine(sign, sign.parts[0], catalogue)).toBe('Code 1 · QR code “PIER 9” · carved 0.5 mm');
    const set = (field: string, value: unknown): void => setField(sign, ['parts', 0, 'shape', field], value);
    set('correction', 'H');
    set('ground', 'true');
    expect(shapeOf(sign)).toMatchObject({ correction: 'H', ground: true });
    set('symbology', 'code-128');
    expect(shapeOf(sign)).toEqual({ kind: 'code', symbology: 'code-128', words: 'PIER 9', module: 2, height: 15, ground: true });
    expect(sentences(sign)).toContain('Its modules are 2 mm wide, its bars 15 mm high, 101 across: 202 mm, middle at');
    set('ground', 'false');
    set('symbology', 'upc-a');
    set('words', '036000291452');
    expect(sentences(sign)).toContain('as UPC-A. Its modules');
    set('words', '03600029145');
    expect(sentences(sign)).toContain(': a reader says 036000291452.');
    set('symbology', 'qr');
    expect(shapeOf(sign)).toEqual({ kind: 'code', symbology: 'qr', words: '03600029145', module: 2 });
    // It stays a code whatever other shape is asked for.
    setField(sign, ['parts', 0, 'shape', 'kind'], 'circle');
    expect(shapeOf(sign).kind).toBe('code');
    expect(readSign(structuredClone(sign), catalogue)).toEqual(sign);
  });

  it('is made larger by its modules, and its bars as they are asked for', () => {
    const { part } = coded();
    expect([hasSize(part), sizesApart(part)]).toEqual([true, false]);
    expect(shapeModule(resized(part, { across: 1.5, up: 1.2 }))).toBe(3);
    const box = { minX: -21, minY: -21, maxX: 21, maxY: 21 };
    expect(shapeModule(resized(part, factorsToSize(part, box, 'width', 84)))).toBe(4);
    expect(shapeModule(resized(part, { across: 100, up: 100 }))).toBe(100);
    const bars = coded({ symbology: 'code-128', height: 20 }).part;
    expect(sizesApart(bars)).toBe(true);
    expect(resized(bars, { across: 0.5, up: 2 })).toMatchObject({ shape: { module: 1, height: 40 } });
  });

  it('takes more working out the more it says', () => {
    const { sign } = coded({ words: 'x'.repeat(400) });
    addText(sign, 'PIER', 'barlow-semibold', 10, { kind: 'raise', by: 1 });
    expect(costliestPart(sign)?.id).toBe('code-1');
  });
});

const shapeModule = (part: ReturnType<typeof resized>): number => ((part as ShapePart).shape as CodeShape).module;
