import { beforeAll, describe, expect, it } from '@jest/globals';
import { loadedBook } from '../../../testing/fonts.js';
import { addShape, addText, bareSign } from '../../../testing/signs.js';
import { bounds } from '../../geometry/index.js';
import {
  type BlockBody,
  type BlockFace,
  canGoAround,
  faceAt,
  facesOf,
  goAround,
  setField,
  type Sign,
  type TextPart,
} from '../../sign/index.js';
import { type FontBook } from '../../type/index.js';
import { Evaluator } from '../plan/evaluate.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

const BODIES: readonly BlockBody[] = [
  { kind: 'box', width: 60, height: 60, depth: 40 },
  { kind: 'box', width: 60, height: 60, depth: 40, chamfer: 6 },
  { kind: 'prism', sides: 6, width: 30, height: 40 },
  { kind: 'prism', sides: 24, width: 14, height: 40 },
];

/** Words around the sides of a block, their middle at a place. */
function around(body: BlockBody, words: string, place: Partial<TextPart['place']> = {}, capHeight = 8): [Sign, TextPart] {
  const sign = bareSign(60, 60, 40);
  setField(sign, ['support', 'kind'], 'block');
  sign.support = { kind: 'block', body };
  setField(sign, ['support', 'body', 'height'], 'height' in body ? body.height : 40);
  const part = addText(sign, words, 'barlow-semibold', capHeight, { kind: 'raise', by: 1 });
  part.place = { ...part.place, ...place };
  setField(sign, ['parts', sign.parts.indexOf(part), 'path', 'kind'], 'sides');
  return [sign, part];
}

/** Letters with the face that each is on, as they are read. */
function lettersOf([sign, part]: readonly [Sign, TextPart]) {
  const evaluator = new Evaluator(book);
  const faces = facesOf(sign.support);
  return evaluator.letters(evaluator.evaluateLoaded(sign), part.id).map(({ character, box }) => {
    const [x, y] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
    return { character, box, x, y, face: faceAt(faces, x, y)! };
  });
}

/** Degrees round from the front, to the right. */
const roundOf = ({ out }: BlockFace): number => (Math.atan2(out[0], out[2]) * 180) / Math.PI;

describe('words around the sides of a block', () => {
  it('go on from face to face as they are read, each letter whole on one', () => {
    for (const body of BODIES) {
      const letters = lettersOf(around(body, 'FERNHOLLOW LIBRARY'));
      expect(letters.map(({ character }) => character).join('')).toBe('FERNHOLLOWLIBRARY');
      const rounds = letters.map(({ face }) => roundOf(face));
      for (let i = 1; i < rounds.length; i++) expect((rounds[i] - rounds[i - 1] + 360.001) % 360).toBeLessThan(180);
      expect(new Set(rounds).size).toBeGreaterThan(1);
      for (const { box, face } of letters) {
        const on = bounds([face.outline])!;
        expect([box.minX >= on.minX - 0.01, box.maxX <= on.maxX + 0.01]).toEqual([true, true]);
        expect(face.isSide).toBe(true);
      }
      // On one face letters are as far apart as the font has them.
      const straight = lettersOf(
        (([sign, part]) => (delete part.path, [sign, part] as const))(around(body, 'FERNHOLLOW LIBRARY')),
      );
      const pairs = letters.flatMap(({ face, x }, i) => (i > 0 && letters[i - 1].face === face ? [[x - letters[i - 1].x, straight[i].x - straight[i - 1].x]] : [])); // prettier-ignore
      const kept = pairs.filter(([now, then]) => Math.abs(now - then) < 0.05).length;
      expect(kept / Math.max(1, pairs.length)).toBeGreaterThan(body.kind === 'prism' ? 0 : 0.6);
    }
  });

  it('are where their place is: half of them on each side of it, and all the way round', () => {
    const [front] = facesOf({ kind: 'block', body: BODIES[0] });
    const middle = lettersOf(around(BODIES[0], 'OXO'));
    expect(middle.every(({ face }) => face.id === front.id)).toBe(true);
    expect(Math.abs(middle[1].x)).toBeLessThan(0.2);
    // On the back, beside its edge: what goes over it comes to the left side.
    const back = facesOf({ kind: 'block', body: BODIES[0] }).find(({ id }) => id === 'back')!;
    const over = lettersOf(around(BODIES[0], 'OXO', { x: back.x + 26, y: back.y }));
    expect(over.map(({ face }) => face.id)).toEqual(['back', 'back', 'left']);
    const long = lettersOf(around(BODIES[0], 'ROUND AND ROUND THE HOUSE AND HOME', {}, 8));
    expect(new Set(long.map(({ face }) => face.id))).toEqual(new Set(['front', 'right', 'back', 'left']));
  });

  it('stand upright however the part is turned, and are mirrored with it', () => {
    const plain = lettersOf(around(BODIES[0], 'WEST GATE'));
    const turned = lettersOf(around(BODIES[0], 'WEST GATE', { turn: 90 }));
    turned.forEach(({ box }, i) => expect([box.minX, box.minY].map((mm, k) => Math.abs(mm - [plain[i].box.minX, plain[i].box.minY][k]) < 0.02)).toEqual([true, true])); // prettier-ignore
    const mirrored = lettersOf(around(BODIES[0], 'WEST GATE', { mirror: true }));
    // The first letters are to the right of its place now.
    expect(mirrored[0].face.id).toBe('front');
    expect(mirrored.map(({ y }) => Math.round(y * 10))).toEqual(plain.map(({ y }) => Math.round(y * 10)));
    expect(mirrored[0].x).toBeCloseTo(-plain[0].x, 1);
  });

  it('are straight on what is no block, and on a face that is no side', () => {
    const [sign, part] = around(BODIES[0], 'TOP');
    const top = facesOf(sign.support).find(({ id }) => id === 'top')!;
    part.place = { ...part.place, x: top.x, y: top.y };
    expect(new Set(lettersOf([sign, part]).map(({ face }) => face.id))).toEqual(new Set(['top']));
    setField(sign, ['support', 'kind'], 'flat');
    expect(part.path).toBeUndefined();
  });
});

describe('words that fill the line they run along', () => {
  /** Letters along a path, and how far each is along it: mm on a straight line, of an arc of 100 mm in degrees. */
  function along(words: string, path: TextPart['path'], align: TextPart['align'] = 'justified') {
    const sign = bareSign(600, 400, 10);
    const part = Object.assign(addText(sign, words, 'barlow-semibold', 12, { kind: 'raise', by: 1 }), { path, align });
    const evaluator = new Evaluator(book);
    return { part, letters: evaluator.letters(evaluator.evaluateLoaded(sign), part.id) };
  }
  const gapsOf = (letters: ReturnType<typeof along>['letters']): number[] => letters.slice(1).map(({ box }, i) => box.minX - letters[i].box.maxX); // prettier-ignore

  it('go from its beginning to its end, words or letters of one word being set apart', () => {
    const line: TextPart['path'] = { kind: 'straight', length: 300, shift: 0 };
    for (const words of ['PIER', 'TO THE PIER']) {
      const { letters } = along(words, line);
      expect(letters[0].box.minX).toBeCloseTo(-150, 2);
      expect(letters.at(-1)!.box.maxX).toBeCloseTo(150, 2);
      const before = gapsOf(along(words, line, 'centre').letters);
      const grown = gapsOf(letters).map((gap, i) => gap - before[i]);
      const given = grown.filter((each) => each > 0.01);
      // As much at every place that gives: all of one word, else those between words.
      expect(given).toHaveLength(words.includes(' ') ? 2 : 3);
      expect(Math.max(...given) - Math.min(...given)).toBeLessThan(0.01);
    }
    // What is longer than its line stays as it is, and is told as before.
    const short: TextPart['path'] = { kind: 'straight', length: 40, shift: 0 };
    expect(gapsOf(along('TO THE PIER', short).letters)).toEqual(gapsOf(along('TO THE PIER', short, 'centre').letters));
  });

  it('have on a closed one between end and beginning what is between their letters, or their words', () => {
    const sign = bareSign(400, 400, 10);
    const ring = addShape(sign, 200, { kind: 'mark' });
    const angleOf = ({ box }: { readonly box: { minX: number; maxX: number; minY: number; maxY: number } }): number =>
      (Math.atan2(box.minX + box.maxX, box.minY + box.maxY) * 180) / Math.PI;
    for (const words of ['OOOOOO', 'OO OO OO']) {
      const part = Object.assign(addText(sign, words, 'barlow-semibold', 12, { kind: 'raise', by: 1 }), { align: 'justified', path: { kind: 'part', part: ring, side: 'outside', shift: 0 } }); // prettier-ignore
      const evaluator = new Evaluator(book);
      const at = evaluator.letters(evaluator.evaluateLoaded(sign), part.id).map(angleOf);
      const steps = at.map((angle, i) => (at[(i + 1) % at.length] - angle + 720) % 360);
      // Letters of six alike are 60° apart; words of two alike 120°, end to beginning as the others.
      if (words === 'OOOOOO') for (const step of steps) expect(step).toBeCloseTo(60, 0);
      else for (const i of [1, 3, 5]) expect(steps[i]).toBeCloseTo(steps[1], 0);
      sign.parts.pop();
    }
  });

  it('go once around a cone, and around a block by all its sides', () => {
    const cup = bareSign(300, 100, 5);
    addText(cup, 'WEST GATE', 'barlow-semibold', 12, { kind: 'raise', by: 1 });
    setField(cup, ['support', 'kind'], 'cone');
    setField(cup, ['support', 'round'], 'whole');
    const own = cup.parts[0] as TextPart;
    goAround(cup, own.id);
    const evaluator = new Evaluator(book);
    const reach = (align: TextPart['align']): number => {
      own.align = align;
      const { ink } = evaluator.evaluateLoaded(cup).parts[0];
      return ink!.maxX - ink!.minX;
    };
    // A letter of nine is left between their end and their beginning.
    expect(reach('justified')).toBeGreaterThan(1.3 * reach('centre'));
    const [block, part] = around({ kind: 'box', width: 60, height: 60, depth: 40 }, 'FERNHOLLOW');
    delete part.path;
    expect(canGoAround(block, part)).toBe(true);
    goAround(block, part.id);
    const letters = lettersOf([block, part]);
    expect(new Set(letters.map(({ face }) => face.id)).size).toBe(4);
    const usual = lettersOf([block, { ...part, align: 'centre' }]);
    expect(new Set(usual.map(({ face }) => face.id)).size).toBeLessThanOrEqual(4);
  });
});
