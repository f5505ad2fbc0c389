import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Workshop } from '../../testing/workshop.js';
import { bounds } from '../geometry/index.js';
import { notesOf } from '../checks/index.js';
import { readSign, SIGN_KINDS, type Sign, signLike, type SignKind, signOfKind } from '../sign/index.js';

const workshop = new Workshop();

/** A sign of a kind that can be read, made, and has nothing that cannot be made. */
function sound(sign: Sign): ReturnType<typeof workshop.evaluate> {
  expect(() => readSign(JSON.parse(JSON.stringify(sign)))).not.toThrow();
  const evaluation = workshop.evaluate(sign);
  workshop.soundSolid(evaluation);
  expect(notesOf(evaluation).filter(({ weight }) => weight === 'error')).toEqual([]);
  return evaluation;
}

describe('kinds of signs', () => {
  it.each(SIGN_KINDS.map((kind) => [kind.name, kind] as const))('%s is sound as it is offered, without a warning', (_, kind) => {
    const evaluation = sound(signOfKind(kind, 'Sample', 'mm', kind.usual));
    expect(notesOf(evaluation).filter(({ weight }) => weight === 'warning')).toEqual([]);
    const made = evaluation.parts.filter(({ role }) => role !== 'hidden');
    expect(made.length > 0).toBe(kind.id !== 'bare');
    // Every word that was given is there.
    const words = evaluation.sign.parts.flatMap((part) => (part.kind === 'text' ? part.words.split(/\s+/u) : []));
    expect(words.sort()).toEqual(kind.usual.words.split(/\s+/u).filter((word) => word !== '').sort()); // prettier-ignore
  });

  const words = fc.oneof(
    fc.constantFrom('A', 'Oak', 'FERNHOLLOW ARBORETUM', 'Metasequoia glyptostroboides', 'one\ntwo\nthree', 'M\nil\nMW\nWW'),
    fc
      .array(fc.constantFrom('Alder Wren', 'Birch Tye', 'Cedar', 'IO'), { minLength: 1, maxLength: 40 })
      .map((all) => all.join('\n')),
  );
  const ofKind = fc.constantFrom<SignKind>(...SIGN_KINDS);

  it('stay on their blank and sound whatever is answered', () => {
    fc.assert(
      fc.property(
        ofKind,
        words,
        fc.integer({ min: 40, max: 900 }),
        fc.integer({ min: 20, max: 600 }),
        (kind, text, width, height) => {
          const answers = { words: text, width, height: kind.isEven ? width : height, material: 'oak' };
          const evaluation = sound(signOfKind(kind, 'Any', 'in', answers));
          // So many words in so small a room: a note says so.
          if (notesOf(evaluation).some(({ code }) => code === 'too-large')) return;
          const blank = bounds([evaluation.blank])!;
          for (const { ink } of evaluation.parts) {
            if (!ink) continue;
            // An inch of a font's own ink may stand beyond the room of its capitals.
            const reach = 0.12 * Math.min(width, answers.height) + 0.5;
            expect(ink.minX).toBeGreaterThan(blank.minX - reach);
            expect(ink.maxX).toBeLessThan(blank.maxX + reach);
            expect(ink.minY).toBeGreaterThan(blank.minY - reach);
            expect(ink.maxY).toBeLessThan(blank.maxY + reach);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('may be any sign that the shop keeps: other words in its lines, and another material', () => {
    const kept = signOfKind(SIGN_KINDS[0], 'Kept', 'mm', SIGN_KINDS[0].usual);
    const made = signLike(kept, 'Another', { words: 'Otter\npond\nand weir', material: 'slate' });
    expect([made.title, made.blank.material]).toEqual(['Another', 'slate']);
    expect(made.parts.flatMap((part) => (part.kind === 'text' ? [part.words] : []))).toEqual(['Otter', 'pond\nand weir']);
    expect(kept.title).toBe('Kept');
    sound(made);
    expect(signLike(kept, 'Same', {}).parts).toEqual(kept.parts);
  });
});
