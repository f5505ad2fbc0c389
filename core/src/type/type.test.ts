import { beforeAll, describe, expect, it } from '@jest/globals';
import * as fontkit from 'fontkit';
import { area } from '../geometry/index.js';
import { catalogue, fontBytes, loadedBook } from '../../testing/fonts.js';
import { covers, ranges } from './catalogue.js';
import { type FontBook } from './font-book.js';
import { FontError, type LetterFont } from './letter-font.js';
import { textRuns } from './runs.js';
import { setBlock, type SetBlock } from './setting.js';
import { type TextChoice } from './text-choice.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

const outlineFonts = catalogue.filter(({ kind }) => kind === 'outline');
const singleLineFonts = catalogue.filter(({ kind }) => kind === 'single-line');

const capitals = (height: number): TextChoice['size'] => ({ kind: 'capitals', height, stretch: 100 });

function set(font: string, words: string, more: Partial<TextChoice> = {}): SetBlock {
  const leading = { kind: 'percent', of: 155 } as const;
  return setBlock(book, { words, font: book.font(font), size: capitals(20), tracking: 0, leading, align: 'centre', ...more });
}

/** Width of a line in font units, as shaped. */
const advanceOf = (font: LetterFont, text: string): number =>
  textRuns(text)
    .flatMap((run) => font.shape(run.text, { ...run, features: {} }))
    .reduce((sum, { advance }) => sum + advance, 0);

describe('the shipped fonts', () => {
  it('are at least 16 families, with every kind that signs need', () => {
    expect(new Set(catalogue.map(({ family }) => family)).size).toBeGreaterThanOrEqual(16);
    const classes = new Set(catalogue.map((entry) => entry.class));
    for (const kind of [
      'sans',
      'narrow sans',
      'serif',
      'inscriptional capitals',
      'slab',
      'script',
      'stencil',
      'Arabic',
      'Devanagari',
      'Hebrew',
      'single line',
    ])
      expect(classes).toContain(kind);
    expect(new Set(catalogue.map(({ id }) => id)).size).toBe(catalogue.length);
  });

  // fontkit reads and shapes fonts independently of HarfBuzz.
  it.each(outlineFonts.map((entry) => [entry.id, entry] as const))(
    '%s has the advances, kerning and capitals that fontkit finds',
    (_, entry) => {
      const other = fontkit.create(Buffer.from(fontBytes(entry))) as fontkit.Font;
      const font = book.font(entry.id);
      expect(font.unitsPerEm).toBe(other.unitsPerEm);
      for (const text of ['AVATAR To Wave', 'Ty. LT 1711 “Yew”', 'Fernhollow & Co.', 'HOSPITAL office']) {
        const theirs = other.layout(text).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0);
        const ours = advanceOf(font, text);
        expect(Math.abs(ours - theirs)).toBeLessThanOrEqual(1);
      }
      const capital = other.glyphForCodePoint('H'.codePointAt(0)!);
      expect(font.capHeight).toBeCloseTo(capital.bbox.maxY, 0);
      // fontkit also gives 0xffff, which ends a table of the file and is no character.
      expect(other.characterSet.filter((point) => point !== 0xffff).sort((a, b) => a - b)).toEqual(expand(entry.coverage));
    },
  );

  it.each(outlineFonts.map((entry) => [entry.id, entry] as const))('%s draws the outlines that fontkit finds', (_, entry) => {
    const other = fontkit.create(Buffer.from(fontBytes(entry))) as fontkit.Font;
    const font = book.font(entry.id);
    for (const character of 'OHgR') {
      const glyph = other.glyphForCodePoint(character.codePointAt(0)!);
      const box = font
        .glyphPath(glyph.id)
        .reduce(
          (seen, command) =>
            command.kind === 'close' ? seen : { maxX: Math.max(seen.maxX, command.x), maxY: Math.max(seen.maxY, command.y) },
          { maxX: -Infinity, maxY: -Infinity },
        );
      expect(Math.abs(box.maxX - glyph.bbox.maxX)).toBeLessThanOrEqual(font.unitsPerEm * 0.012);
      expect(Math.abs(box.maxY - glyph.bbox.maxY)).toBeLessThanOrEqual(font.unitsPerEm * 0.012);
    }
  });

  it.each(singleLineFonts.map((entry) => [entry.id, entry] as const))('%s is open strokes measured on its H', (id) => {
    const block = set(id, 'H', { size: capitals(12) });
    expect(block.letters[0].shape.outline).toEqual([]);
    expect(block.letters[0].shape.strokes.every(({ closed }) => !closed)).toBe(true);
    // The highest end of a stroke is the cap height; hand-drawn letters may begin a little off the baseline.
    expect(block.ink!.maxY).toBeCloseTo(6, 2);
    expect(block.ink!.maxY - block.ink!.minY).toBeLessThan(12.7);
  });
});

const expand = (coverage: readonly number[]): number[] => {
  const out: number[] = [];
  for (let i = 0; i < coverage.length; i += 2) for (let point = coverage[i]; point <= coverage[i + 1]; point++) out.push(point);
  return out;
};

describe('setBlock', () => {
  it('sizes by the height of capitals, to a thousandth of a millimetre', () => {
    for (const { id } of outlineFonts) {
      const { ink, baselines } = set(id, 'H', { size: capitals(25.4) });
      // A script's H may dip below the baseline: capitals are measured from it.
      expect(ink!.maxY - baselines[0]).toBeCloseTo(25.4, 2);
    }
  });

  it('centres what is seen, and a descender moves nothing', () => {
    const plain = set('barlow-semibold', 'HOH');
    const deep = set('barlow-semibold', 'HgH');
    expect(plain.ink!.minX + plain.ink!.maxX).toBeCloseTo(0, 2);
    expect(deep.baselines).toEqual(plain.baselines);
    expect(deep.ink!.minY).toBeLessThan(plain.ink!.minY - 2);
    expect(set('barlow-semibold', 'HOH', { align: 'left' }).ink!.minX).toBeCloseTo(0, 3);
    expect(set('barlow-semibold', 'HOH', { align: 'right' }).ink!.maxX).toBeCloseTo(0, 3);
  });

  it('leads lines by a share of the cap height and tracks by a share of it', () => {
    const { baselines } = set('barlow-semibold', 'ONE\nTWO\nTEN', { leading: { kind: 'percent', of: 155 } });
    expect(baselines[0] - baselines[1]).toBeCloseTo(31, 3);
    expect(baselines[0] + 20 + baselines[2]).toBeCloseTo(0, 3);
    const [tight, wide] = [set('barlow-semibold', 'HHHH'), set('barlow-semibold', 'HHHH', { tracking: 10 })];
    const width = ({ ink }: SetBlock) => ink!.maxX - ink!.minX;
    expect(width(wide) - width(tight)).toBeCloseTo(3 * 2, 2);
  });

  it('joins letters into ligatures where the font does, and not when tracked', () => {
    const clusters = (block: SetBlock) => block.letters.length;
    expect(clusters(set('eb-garamond-medium', 'office'))).toBeLessThan(6);
    expect(clusters(set('eb-garamond-medium', 'office', { tracking: 5 }))).toBe(6);
  });

  it('reads Hebrew and Arabic from the right and joins Arabic letters', () => {
    const hebrew = set('heebo-semibold', 'אב');
    expect(hebrew.letters.find(({ at }) => at === 0)!.x).toBeGreaterThan(hebrew.letters.find(({ at }) => at === 1)!.x);
    const apart = ['ب', 'ب', 'ب'].map((letter) => set('amiri-bold', letter).letters[0].shape);
    const joined = set('amiri-bold', 'ببب').letters.map(({ shape }) => shape);
    expect(joined.every((shape) => !apart.includes(shape))).toBe(true);
  });

  it('forms conjuncts in Devanagari', () => {
    // क + ् + ष is one letter क्ष.
    expect(set('noto-sans-devanagari-semibold', 'क्ष').letters).toHaveLength(1);
  });

  it('lays mixed directions out in the order they are read', () => {
    expect(textRuns('Gate שער 12').map(({ text }) => text.trim())).toEqual(
      ['Gate', '12', 'שער'].sort((a, b) => 'Gate 12 שער'.indexOf(a) - 'Gate 12 שער'.indexOf(b)),
    );
    expect(textRuns('שער').map(({ rightToLeft }) => rightToLeft)).toEqual([true]);
    expect(textRuns('')).toEqual([]);
  });

  it('names what the font lacks and draws no box for it', () => {
    const block = set('cinzel-bold', 'A漢B漢');
    expect(block.missing).toEqual(['漢']);
    expect(block.letters).toHaveLength(2);
    expect(book.covering('א'.codePointAt(0)!).map(({ family }) => family)).toContain('Heebo');
    expect(
      covers(
        catalogue.find(({ id }) => id === 'cinzel-bold')!,
        '漢'.codePointAt(0)!,
      ),
    ).toBe(false);
  });

  it('gives clean outlines: positive area, counters taken off', () => {
    const [o] = set('montserrat-bold', 'O').letters;
    expect(o.shape.outline).toHaveLength(2);
    expect(area(o.shape.outline)).toBeGreaterThan(0);
    expect(area([o.shape.outline[0]]) * area([o.shape.outline[1]])).toBeLessThan(0);
  });

  it('keeps glyphs of one size once', () => {
    const [first, second] = set('lora-bold', 'AA').letters;
    expect(first.shape).toBe(second.shape);
  });
});

describe('fonts that are not', () => {
  it('are refused with their name and the reason', async () => {
    const { openOutlineFont } = await import('./outline-font.js');
    expect(() => openOutlineFont('shop-font', Uint8Array.of(1, 2, 3, 4))).toThrow(FontError);
    expect(() => openOutlineFont('shop-font', Uint8Array.of(1, 2, 3, 4))).toThrow('“shop-font”');
    expect(() => book.font('no-such-font')).toThrow('no font has this name');
  });
});

describe('ranges', () => {
  it('puts neighbours together', () => expect(ranges([3, 1, 2, 7, 7])).toEqual([1, 3, 7, 7]));
});
