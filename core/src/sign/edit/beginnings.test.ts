import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bareSign } from '../../../testing/signs.js';
import { newText, sizeAbout } from '../document/new-sign.js';
import { type TextPart } from '../document/schema.js';

import { nextTier } from './edit.js';
import { readSign } from '../document/validate.js';
import { setField } from './set-field.js';

describe('new things begin well', () => {
  const size = fc.integer({ min: 12, max: 1500 });

  it('lines stand on the blank, the next below the last while there is room, whatever its size', () => {
    fc.assert(
      fc.property(size, size, fc.integer({ min: 1, max: 7 }), (width, height, count) => {
        const sign = bareSign(width, height, 12);
        for (let i = 0; i < count; i++) sign.parts.push({ ...newText(sign, 'lora-bold'), words: 'OAK' });
        const texts = sign.parts as TextPart[];
        for (const text of texts) {
          expect(Math.abs(text.place.y) + sizeAbout(text) / 2).toBeLessThanOrEqual(height / 2 + 0.5);
          expect(sizeAbout(text)).toBeGreaterThan(0);
        }
        expect(() => readSign(structuredClone(sign))).not.toThrow();
      }),
    );
    const usual = bareSign(300, 200, 12);
    for (let i = 0; i < 3; i++) usual.parts.push({ ...newText(usual, 'lora-bold'), words: 'OAK' });
    const [first, second, third] = usual.parts as TextPart[];
    expect([first, second, third].map(sizeAbout)).toEqual([20, 20, 20]);
    expect(first.place.y).toBe(0);
    expect(second.place.y).toBeLessThan(-20);
    expect(third.place.y).toBeLessThan(second.place.y - 20);
  });

  it('frames and arcs lie on the blank', () => {
    fc.assert(
      fc.property(size, size, (width, height) => {
        const sign = bareSign(width, height, 12);
        sign.parts.push({ ...newText(sign, 'lora-bold'), words: 'A long name of an oak' });
        const seen = { width: 900, height: 25, capHeight: 20, em: 28, stretch: 100 };
        setField(sign, ['parts', 0, 'frame', 'kind'], 'frame', { seen });
        const [text] = sign.parts as TextPart[];
        expect(text.frame!.width).toBeLessThanOrEqual(width);
        expect(text.frame!.height).toBeLessThanOrEqual(height);
        setField(sign, ['parts', 0, 'frame', 'kind'], 'none');
        setField(sign, ['parts', 0, 'path', 'kind'], 'arc', { seen });
        const path = (sign.parts as TextPart[])[0].path!;
        const reach = path.kind === 'arc' ? path.radius + sizeAbout(text) : Infinity;
        expect(reach).toBeLessThanOrEqual(Math.max(Math.min(width, height) / 2, 2 * sizeAbout(text) + 1));
        expect(() => readSign(structuredClone(sign))).not.toThrow();
      }),
    );
  });

  it('a further tier makes a step on the last one', () => {
    const sign = bareSign(300, 200, 12);
    const text = { ...newText(sign, 'lora-bold'), words: 'OAK' };
    expect(nextTier(text)).toMatchObject({ action: { kind: 'raise', by: 3 }, area: { kind: 'offset', by: -0.7 } });
    const cut: TextPart = { ...text, tiers: [{ ...text.tiers[0], action: { kind: 'cut-through' } }] };
    expect(nextTier(cut)).toMatchObject({ action: { kind: 'carve', by: 2 }, area: { kind: 'offset', by: 1 } });
  });
});
