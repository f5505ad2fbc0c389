import { beforeAll, describe, expect, it } from '@jest/globals';
import { loadedBook } from '../../../testing/fonts.js';
import { addText, bareSign } from '../../../testing/signs.js';
import { bounds } from '../../geometry/index.js';
import { type BlockBody, type BlockFace, faceAt, facesOf, setField, type Sign, type TextPart } from '../../sign/index.js';
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
