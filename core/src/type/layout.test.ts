import { beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import * as fontkit from 'fontkit';
import { arcTrack, bounds, circle, gapBetween, reversedTrack, polylineTrack, straightTrack } from '../geometry/index.js';
import { catalogue, fontBytes, loadedBook } from '../../testing/fonts.js';
import { crossSection, referee } from '../../testing/referee.js';
import { type FontBook } from './font-book.js';
import { breakLine, breakPlaces } from './line-breaks.js';
import { placeLetter, plainWords, setBlock, type SetBlock, type TextTrack } from './setting.js';
import { letterGaps, openUp } from './spacing.js';
import { type TextChoice, type TextFrame } from './text-choice.js';

let book: FontBook;
let m: Awaited<ReturnType<typeof referee>>;
beforeAll(async () => {
  book = await loadedBook();
  m = await referee();
});

function choice(font: string, words: string, more: Partial<TextChoice> = {}): TextChoice {
  return {
    words,
    font: book.font(font),
    size: { kind: 'capitals', height: 20, stretch: 100 },
    tracking: 0,
    leading: { kind: 'percent', of: 155 },
    align: 'centre',
    ...more,
  };
}
const set = (font: string, words: string, more: Partial<TextChoice> = {}, on?: TextTrack): SetBlock =>
  setBlock(book, choice(font, words, more), on);
const width = ({ ink }: SetBlock): number => ink!.maxX - ink!.minX;
const height = ({ ink }: SetBlock): number => ink!.maxY - ink!.minY;
/** What is seen of each line, by its letters. */
const inkOfLines = ({ letters, baselines }: SetBlock) =>
  baselines.map((_, index) =>
    bounds(letters.filter(({ line }) => line === index).flatMap((letter) => placeLetter(letter).outline))!,
  );

describe('sizes', () => {
  it('by the size of the font is its em', () => {
    const block = set('barlow-semibold', 'H', { size: { kind: 'em', size: 100, stretch: 100 } });
    const other = fontkit.create(Buffer.from(fontBytes(catalogue.find(({ id }) => id === 'barlow-semibold')!))) as fontkit.Font;
    expect(block.capHeight).toBeCloseTo((100 * other.capHeight) / other.unitsPerEm, 3);
  });

  it('by what is seen are met to the grid, with tracking, kerning by hand, accents and several lines', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('lora-bold', 'barlow-semibold', 'great-vibes-regular', 'heebo-semibold'),
        fc.constantFrom('Ålesund', 'Fernhollow\nArboretum', 'gypsum', 'AVATAR'),
        fc.double({ min: 20, max: 900, noNaN: true }),
        fc.double({ min: 3, max: 300, noNaN: true }),
        fc.integer({ min: -5, max: 40 }),
        (font, words, across, up, tracking) => {
          const more = { tracking, letters: [{ at: 1, kern: 0.7 }] };
          const near = (value: number, wanted: number) => expect(Math.abs(value - wanted)).toBeLessThan(0.002);
          near(width(set(font, words, { ...more, size: { kind: 'seen-width', width: across, stretch: 100 } })), across);
          near(height(set(font, words, { ...more, size: { kind: 'seen-height', height: up, stretch: 100 } })), up);
          const both = set(font, words, { ...more, size: { kind: 'seen', width: across, height: up } });
          near(width(both), across);
          near(height(both), up);
        },
      ),
      { numRuns: 25, seed: 7 },
    );
  });

  it('stretch letters across and leave their height', () => {
    const [plain, wide] = [100, 150].map((stretch) =>
      set('barlow-semibold', 'OAK', { size: { kind: 'capitals', height: 20, stretch } }),
    );
    expect(width(wide)).toBeCloseTo(1.5 * width(plain), 1);
    expect(height(wide)).toBeCloseTo(height(plain), 2);
    expect(wide.stretch).toBeCloseTo(150, 9);
  });
});

describe('alignment and leading', () => {
  it('is flush on both sides where justified, but for a short last line', () => {
    const block = set('barlow-semibold', 'Head gardener and\nkeeper of the seed\nroom', { align: 'justified' });
    const [a, b, c] = inkOfLines(block);
    expect([a.minX, a.maxX]).toEqual([expect.closeTo(b.minX, 2), expect.closeTo(b.maxX, 2)]);
    expect(c.minX).toBeCloseTo(a.minX, 2);
    expect(c.maxX).toBeLessThan(a.maxX - 20);
    // A line of one word is spaced between its letters.
    const [wide, one] = inkOfLines(set('barlow-semibold', 'ARBORETUM OF\nFERNHOLLOW', { align: 'justified' }));
    expect(one.maxX - one.minX).toBeCloseTo(wide.maxX - wide.minX, 2);
  });

  it('leaves short lines as they are where it is justified', () => {
    const none = { kind: 'length', length: 0 } as const;
    const frame = { width: 400, height: 60, marginAcross: none, marginUp: none, upright: 'middle', fit: [] } as const;
    const words = 'OAK\nof the upper nursery and orchard';
    const [short, long] = inkOfLines(set('barlow-semibold', words, { align: 'justified', frame }));
    const [plain] = inkOfLines(set('barlow-semibold', 'OAK'));
    expect(short.maxX - short.minX).toBeCloseTo(plain.maxX - plain.minX, 2);
    expect([long.minX, long.maxX]).toEqual([expect.closeTo(-200, 2), expect.closeTo(200, 2)]);
  });

  it('leads by a length', () => {
    const { baselines } = set('barlow-semibold', 'A\nB', { leading: { kind: 'length', length: 31.75 } });
    expect(baselines[0] - baselines[1]).toBeCloseTo(31.75, 3);
  });
});

describe('alternates', () => {
  it('are those of the font, on or off', () => {
    const glyphs = (words: string, features: Partial<TextChoice['features']> = {}) =>
      set('eb-garamond-medium', words, {
        features: { ligatures: true, smallCapitals: false, oldStyleFigures: false, ...features },
      }).letters.map(({ shape }) => shape);
    expect(glyphs('oak', { smallCapitals: true })).not.toEqual(glyphs('oak'));
    expect(glyphs('1987', { oldStyleFigures: true })).not.toEqual(glyphs('1987'));
    expect(glyphs('office').length).toBeLessThan(glyphs('office', { ligatures: false }).length);
    expect(book.font('eb-garamond-medium').features.has('smcp')).toBe(true);
    expect(book.font('great-vibes-regular').features.has('smcp')).toBe(false);
  });
});

describe('letters by hand', () => {
  it('are spaced in mm from the next, in the direction of reading', () => {
    const left = (block: SetBlock, at: number) => {
      const letter = block.letters.find((each) => each.at === at)!;
      return bounds(placeLetter(letter).outline)!;
    };
    const plain = set('barlow-semibold', 'OAK', { align: 'left' });
    const apart = set('barlow-semibold', 'OAK', { align: 'left', letters: [{ at: 0, kern: 2.5 }] });
    expect(left(apart, 1).minX - left(plain, 1).minX).toBeCloseTo(2.5, 3);
    expect(left(apart, 0).minX).toBeCloseTo(left(plain, 0).minX, 3);
    const [hebrew, moved] = [[], [{ at: 0, kern: 2.5 }]].map((letters) =>
      set('heebo-semibold', 'אבג', { align: 'right', letters }),
    );
    expect(left(moved, 0).maxX).toBeCloseTo(left(hebrew, 0).maxX, 3);
    expect(left(hebrew, 1).maxX - left(moved, 1).maxX).toBeCloseTo(2.5, 3);
  });

  it('are shifted, turned about their middle, and sized', () => {
    const of = (letters: TextChoice['letters']) =>
      bounds(placeLetter(set('barlow-semibold', 'HIH', { align: 'left', letters }).letters[1]).outline)!;
    const plain = of([]);
    const shifted = of([{ at: 1, x: 1.5, y: -2 }]);
    expect([shifted.minX - plain.minX, shifted.minY - plain.minY]).toEqual([expect.closeTo(1.5, 3), expect.closeTo(-2, 3)]);
    const turned = of([{ at: 1, turn: 90 }]);
    expect(turned.maxX - turned.minX).toBeCloseTo(plain.maxY - plain.minY, 2);
    expect((turned.minX + turned.maxX) / 2).toBeCloseTo((plain.minX + plain.maxX) / 2, 2);
    expect((turned.minY + turned.maxY) / 2).toBeCloseTo((plain.minY + plain.maxY) / 2, 2);
    const large = of([{ at: 1, size: 150 }]);
    expect(large.maxY - large.minY).toBeCloseTo(1.5 * (plain.maxY - plain.minY), 2);
    expect(large.minY).toBeCloseTo(plain.minY, 3);
  });
});

describe('frames', () => {
  const none = { kind: 'length', length: 0 } as const;
  const frame = (across: number, up: number, fit: TextFrame['fit'], more: Partial<TextFrame> = {}): TextFrame => ({
    width: across,
    height: up,
    marginAcross: none,
    marginUp: none,
    upright: 'middle',
    fit,
    ...more,
  });
  const ALL: TextFrame['fit'] = [
    { kind: 'tighten', floor: -4 },
    { kind: 'narrow', floor: 80 },
    { kind: 'reduce', floor: 50 },
  ];

  it('leave words alone that fit', () => {
    const block = set('barlow-semibold', 'OAK', { frame: frame(200, 50, ALL) });
    expect(block.fitted).toEqual([]);
    expect(width(block)).toBeCloseTo(width(set('barlow-semibold', 'OAK')), 3);
  });

  it('take each way only as far as needed, in the order given', () => {
    const natural = width(set('barlow-semibold', 'FERNHOLLOW'));
    const narrowed = set('barlow-semibold', 'FERNHOLLOW', { frame: frame(natural * 0.9, 50, [ALL[1], ALL[2]]) });
    expect(narrowed.fitted).toEqual([{ kind: 'narrow', percent: expect.closeTo(90, 1) }]);
    expect(width(narrowed)).toBeCloseTo(natural * 0.9, 2);
    expect(narrowed.capHeight).toBeCloseTo(20, 9);
    const reduced = set('barlow-semibold', 'FERNHOLLOW', { frame: frame(natural * 0.9, 50, [ALL[2], ALL[1]]) });
    expect(reduced.fitted).toEqual([{ kind: 'reduce', percent: expect.closeTo(90, 1) }]);
    expect(reduced.capHeight).toBeCloseTo(18, 1);
    const all = set('barlow-semibold', 'FERNHOLLOW', { frame: frame(natural * 0.6, 50, ALL) });
    expect(all.fitted.map(({ kind }) => kind)).toEqual(['tighten', 'narrow', 'reduce']);
    expect(all.fitted[0]).toEqual({ kind: 'tighten', tracking: -4 });
    expect(all.fitted[1]).toEqual({ kind: 'narrow', percent: 80 });
    expect(width(all)).toBeCloseTo(natural * 0.6, 2);
  });

  it('take no way that does not help: words too high are not narrowed', () => {
    const fit: TextFrame['fit'] = [
      { kind: 'tighten', floor: -4 },
      { kind: 'narrow', floor: 40 },
      { kind: 'reduce', floor: 10 },
      { kind: 'wrap', lines: 2 },
    ];
    const natural = set('barlow-bold', 'HOTEL');
    const block = set('barlow-bold', 'HOTEL', { frame: frame(200, 10, fit) });
    expect(block.fitted.map(({ kind }) => kind)).toEqual(['reduce']);
    const { minY, maxY } = block.ink!;
    expect(maxY - minY).toBeCloseTo(10, 3);
    const share = (maxY - minY) / (natural.ink!.maxY - natural.ink!.minY);
    expect(width(block)).toBeCloseTo(width(natural) * share, 2);
  });

  it('break lines between words, and then take back what that made needless', () => {
    const words = 'Sessile oak grove';
    const one = width(set('barlow-semibold', words));
    const fit: TextFrame['fit'] = [
      { kind: 'narrow', floor: 90 },
      { kind: 'wrap', lines: 2 },
    ];
    const block = set('barlow-semibold', words, { frame: frame(one * 0.7, 80, fit) });
    expect(block.fitted).toEqual([{ kind: 'wrap', lines: 2 }]);
    expect(block.stretch).toBeCloseTo(100, 9);
    expect(block.baselines).toHaveLength(2);
    const tight = set('barlow-semibold', words, { frame: frame(one * 0.5, 80, fit) });
    expect(tight.fitted[0]).toMatchObject({ kind: 'narrow' });
    expect(tight.fitted.at(-1)).toMatchObject({ kind: 'wrap', lines: 2 });
  });

  it('tell of words that do not fit, with how much is over, and cut nothing off', () => {
    const natural = set('barlow-semibold', 'FERNHOLLOW');
    const block = set('barlow-semibold', 'FERNHOLLOW', { frame: frame(width(natural) - 12, 10, []) });
    expect(block.fitted).toEqual([
      { kind: 'too-large', across: expect.closeTo(12, 1), up: expect.closeTo(height(natural) - 10, 1) },
    ]);
    expect(block.letters).toHaveLength(10);
  });

  it('keep margins, given in mm or percent, and hold words at the top, in the middle or at the bottom', () => {
    const within = (upright: TextFrame['upright'], words: string) =>
      set('barlow-semibold', words, {
        align: 'left',
        frame: frame(300, 100, ALL, {
          marginAcross: { kind: 'percent', of: 10 },
          marginUp: { kind: 'length', length: 5 },
          upright,
        }),
      }).ink!;
    expect(within('middle', 'HOH').minX).toBeCloseTo(-120, 2);
    expect(within('top', 'HHH').maxY).toBeCloseTo(45, 2);
    expect(within('bottom', 'HHH').minY).toBeCloseTo(-45, 2);
    // A descender or an accent stays in the room, too.
    expect(within('bottom', 'Hgy').minY).toBeCloseTo(-45, 2);
    expect(within('top', 'ÅÉ').maxY).toBeCloseTo(45, 2);
  });

  it('never overflow where a way is left: any words, any room', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Oak', 'Quercus petraea', 'Witch hazel of the western slope', 'IIIIIII'),
        fc.integer({ min: 20, max: 200 }),
        fc.integer({ min: 8, max: 60 }),
        (words, across, up) => {
          const fit: TextFrame['fit'] = [...ALL.slice(0, 2), { kind: 'reduce', floor: 10 }, { kind: 'wrap', lines: 3 }];
          const block = set('lora-bold', words, { frame: frame(across, up, fit) });
          if (block.fitted.some(({ kind }) => kind === 'too-large')) return;
          expect(width(block)).toBeLessThan(across + 0.05);
          expect(height(block)).toBeLessThan(up + 0.05);
          expect(Math.abs(block.ink!.minY)).toBeLessThan(up / 2 + 0.05);
          expect(block.ink!.maxY).toBeLessThan(up / 2 + 0.05);
        },
      ),
      { numRuns: 60, seed: 11 },
    );
  });
});

describe('line breaks', () => {
  // UAX #14 (Unicode line breaking algorithm): LB18 after spaces, LB21 after hyphens, LB11 and LB12 no-break characters.
  it('stand after spaces and hyphens, not at no-break ones', () => {
    expect(breakPlaces('witch-hazel grove')).toEqual([6, 12]);
    expect(breakPlaces('No.\u00a07 well\u2011known')).toEqual([6]);
    expect(breakPlaces('two  spaces')).toEqual([5]);
    expect(breakPlaces('1914-18')).toEqual([]);
    // LB13 and LB25: a solidus holds what is before it, and figures together.
    expect(breakPlaces('and/or 3/4')).toEqual([4, 7]);
    expect(breakPlaces('「東屋」入口')).toEqual([2, 4, 5]);
  });

  it('fill lines from the top, and even them out where there are too few', () => {
    const count = (from: number, to: number) => to - from;
    const pieces = (text: string, most: number, room: number) =>
      breakLine(text, most, room, count).map(([a, b]) => text.slice(a, b));
    expect(pieces('the old mill by the weir', 5, 9)).toEqual(['the old', 'mill by', 'the weir']);
    expect(pieces('the old mill by the weir', 2, 9)).toEqual(['the old mill', 'by the weir']);
    expect(pieces('weir', 3, 2)).toEqual(['weir']);
    expect(pieces('', 3, 2)).toEqual(['']);
  });

  it('counts words as they are set', () => {
    expect(plainWords('A\r\nB\rC\tD')).toBe('A\nB\nC D');
    expect(plainWords('e\u0301')).toBe('é');
  });
});

describe('words along a line', () => {
  it.each(['FERNHOLLOW', 'LTAVLYTo'])(
    '%s stands on a circle with its feet on it, spaced by its advances (closed form)',
    (words) => {
      const radius = 100;
      const font = book.font('barlow-semibold');
      const scale = 20 / font.capHeight;
      const shaped = font.shape(words, { rightToLeft: false, script: 'Latn', features: {} });
      // With kerning, and each letter's own.
      const advances = shaped.map(({ advance }) => advance * scale);
      const own = shaped.map(({ glyph }) => font.advanceOf(glyph) * scale);
      if (words.startsWith('LT')) expect(advances[0]).toBeLessThan(own[0] - 1);
      for (const [reads, sense, middle] of [
        ['top', -1, 90],
        ['bottom', 1, 270],
      ] as const) {
        const block = set('barlow-semibold', words, {}, { track: arcTrack(radius, 360, reads), hangs: false, shift: 0 });
        let before: number | undefined;
        block.letters.forEach((letter, i) => {
          const turn = (letter.turn * Math.PI) / 180;
          // The middle of its own advance, half of it along the baseline from the origin.
          const [x, y] = [letter.x + (own[i] / 2) * Math.cos(turn), letter.y + (own[i] / 2) * Math.sin(turn)];
          expect(Math.hypot(x, y)).toBeCloseTo(radius, 2);
          const angle = Math.atan2(y, x) * (180 / Math.PI);
          // Upright at the middle: the letter stands across the radius.
          const upright = ((letter.turn - (angle + (reads === 'top' ? -90 : 90)) + 540) % 360) - 180;
          expect(upright).toBeCloseTo(0, 2);
          if (before !== undefined) {
            const along = (((sense * (angle - before) + 540) % 360) - 180) * (Math.PI / 180) * radius;
            expect(along).toBeCloseTo(advances[i - 1] - own[i - 1] / 2 + own[i] / 2, 2);
          }
          before = angle;
        });
        const centre = (Math.atan2(block.ink!.minY + block.ink!.maxY, block.ink!.minX + block.ink!.maxX) * 180) / Math.PI;
        expect((((centre - middle + 540) % 360) - 180) / 180).toBeCloseTo(0, 1);
      }
    },
  );

  it('hang from it where they should, and say how far they run past an end', () => {
    const inside = set('barlow-semibold', 'HHH', {}, { track: arcTrack(100, 360, 'top'), hangs: true, shift: 0 });
    const radii = inside.letters.flatMap((letter) => [...placeLetter(letter).outline].flatMap((ring) => {
      const out: number[] = [];
      for (let i = 0; i < ring.length; i += 2) out.push(Math.hypot(ring[i], ring[i + 1]));
      return out;
    })); // prettier-ignore
    expect(Math.max(...radii)).toBeLessThan(101);
    expect(Math.min(...radii)).toBeGreaterThan(79);
    expect(inside.past).toBe(0);
    const long = set('barlow-semibold', 'FERNHOLLOW', {}, { track: straightTrack(100), hangs: false, shift: 0 });
    expect(long.past).toBeCloseTo((width(set('barlow-semibold', 'FERNHOLLOW')) - 100) / 2, 1);
  });

  it('follow a run of points as they follow the circle it is taken from', () => {
    const ring = circle(0, 0, 80);
    const exact = arcTrack(80, 360, 'bottom');
    const track = polylineTrack(ring, true);
    expect(track.length).toBeCloseTo(exact.length, 0);
    for (const s of [0, 50, 200, 499]) {
      const { x, y, cos, sin } = track.at(s, 6);
      expect(Math.hypot(x, y)).toBeCloseTo(80, 1);
      expect(Math.abs(x * cos + y * sin)).toBeLessThan(0.6);
      const back = reversedTrack(track).at(track.length - s, 6);
      expect([back.x, back.y, back.cos]).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9), expect.closeTo(-cos, 9)]);
    }
  });
});

describe('gaps', () => {
  it('are the least distances of outlines', () => {
    expect(gapBetween([circle(0, 0, 5)], [circle(13, 0, 5)])).toBeCloseTo(3, 2);
    expect(gapBetween([circle(0, 0, 5)], [circle(9, 0, 5)])).toBe(0);
    expect(gapBetween([circle(0, 0, 5)], [circle(0, 0, 2)])).toBe(0);
    expect(gapBetween([Float64Array.of(0, 0, 10, 0)], [Float64Array.of(5, 2, 5, 8)], 'strokes')).toBeCloseTo(2, 9);
    expect(gapBetween([], [circle(0, 0, 2)])).toBe(Infinity);
  });

  it('are zero and joined in scripts that join', () => {
    expect(letterGaps(set('amiri-bold', 'ببب')).every(({ gap, isJoined }) => gap === 0 && isJoined)).toBe(true);
    expect(letterGaps(set('barlow-semibold', 'AV VA')).map(({ from, to }) => [from, to])).toEqual([
      [0, 1],
      [1, 3],
      [3, 4],
    ]);
    expect(letterGaps(set('barlow-semibold', 'AVA')).every(({ gap, isJoined }) => gap > 0 && !isJoined)).toBe(true);
  });
});

describe('gaps between letters that do not follow each other', () => {
  const others = (words: string, more: Partial<TextChoice> = {}) =>
    letterGaps(set('barlow-semibold', words, more)).filter(({ areNeighbours }) => !areNeighbours);

  it('are told where lines are set close, and only the narrowest', () => {
    expect(others('gyp\nHHH', { leading: { kind: 'length', length: 60 } })).toEqual([]);
    const [met, ...more] = others('gyp\nHHH', { leading: { kind: 'length', length: 22 } });
    expect(more).toEqual([]);
    expect(met.gap).toBe(0);
    expect([met.from, met.to].map((at) => at < 3)).toEqual([true, false]);
  });

  it('are told where the last letter around a circle comes to the first', () => {
    const around = (radius: number) =>
      letterGaps(
        setBlock(book, choice('barlow-semibold', 'FERNHOLLOW ARBORETUM'), {
          track: arcTrack(radius, 360, 'top'),
          hangs: false,
          shift: 0,
        }),
      );
    const width = (({ ink }) => ink!.maxX - ink!.minX)(set('barlow-semibold', 'FERNHOLLOW ARBORETUM'));
    const full = around(width / (2 * Math.PI) - 1);
    const closest = full.reduce((a, b) => (b.gap < a.gap ? b : a));
    expect(closest).toMatchObject({ from: 0, to: 19, gap: 0, areNeighbours: false });
    expect(around(width).every(({ areNeighbours }) => areNeighbours)).toBe(true);
  });

  it('are what every pair of letters measured gives', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('gj', 'HT', 'y', 'ÅQ', '.'), { minLength: 2, maxLength: 4 }),
        fc.integer({ min: 12, max: 40 }),
        (lines, length) => {
          const block = set('barlow-semibold', lines.join('\n'), { leading: { kind: 'length', length } });
          const gaps = letterGaps(block);
          const runs = block.letters.map((letter) => placeLetter(letter).outline);
          let least = Infinity;
          for (let i = 0; i < runs.length; i++)
            for (let k = i + 1; k < runs.length; k++) least = Math.min(least, gapBetween(runs[i], runs[k]));
          expect(Math.min(...gaps.map(({ gap }) => gap))).toBeCloseTo(least, 9);
        },
      ),
      { numRuns: 40, seed: 5 },
    );
  });
});

describe('opening up for a tool', () => {
  const SYLLABLES = ['fern', 'AV', 'oak', 'Ty', 'wil', 'gro', 'ja', 'LT', 'ffi', 'mon', 'er', 'Qu', 'y', 'W.', '&', 'ro'];
  const FONTS = ['barlow-semibold', 'lora-bold', 'cinzel-bold', 'great-vibes-regular', 'roboto-slab-bold', 'amiri-bold'];

  it('lets the tool through every gap: 50 random words in 6 fonts, by offsets of half the tool', () => {
    let n = 0;
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...SYLLABLES), { minLength: 1, maxLength: 3 }),
        fc.constantFrom(1.5, 3, 6.35),
        (parts, tool) => {
          const words = parts.join('');
          const font = FONTS[n++ % FONTS.length];
          const plain = choice(font, words);
          const features = { ligatures: false, smallCapitals: false, oldStyleFigures: false };
          const joined = new Set(
            letterGaps(setBlock(book, { ...plain, features }))
              .filter(({ isJoined }) => isJoined)
              .map(({ from }) => from),
          );
          const opened = openUp(book, plain, tool);
          if (!opened) return;
          const block = setBlock(book, { ...plain, tracking: opened.tracking });
          // manifold-3d grows every letter by half the tool; its round corners stay inside the true ones.
          const grown = block.letters.map((letter) =>
            crossSection(m, placeLetter(letter).outline).offset(tool / 2 - 1e-3, 'Round', 2, 128),
          );
          for (let i = 1; i < grown.length; i++) {
            const [one, other] = [block.letters[i - 1].at, block.letters[i].at];
            if (one === other || joined.has(Math.min(one, other))) continue;
            expect([words, font, grown[i - 1].intersect(grown[i]).area()]).toEqual([words, font, 0]);
          }
          for (const each of grown) each.delete();
          // And no wider than needed: the least gap is the tool, unless taking ligatures apart was enough.
          if (opened.tracking > 0.001) expect(opened.gap - tool).toBeLessThan(0.01);
          expect(opened.grownBy).toBeCloseTo(width(block) - width(setBlock(book, plain)), 9);
        },
      ),
      { numRuns: 300, seed: 3 },
    );
    expect(n).toBeGreaterThanOrEqual(300);
  });

  it.each([60, 100, 160])('opens letters stretched to %s %% as far as is needed and no further', (stretch) => {
    const plain = choice('barlow-semibold', 'AVATAR');
    const stretched = { ...plain, size: { kind: 'capitals' as const, height: 20, stretch } };
    const opened = openUp(book, stretched, 6)!;
    const leastAt = (tracking: number) =>
      Math.min(...letterGaps(setBlock(book, { ...stretched, tracking })).map(({ gap }) => gap));
    expect(opened.gap - 6).toBeLessThan(0.01);
    expect(leastAt(opened.tracking)).toBeGreaterThanOrEqual(6);
    expect(leastAt(opened.tracking - 0.2)).toBeLessThan(6);
  });

  it('says so where there is no gap', () => expect(openUp(book, choice('barlow-semibold', 'O'), 3)).toBeUndefined());
});
