import { describe, expect, it } from '@jest/globals';
import { roundSign } from '../../testing/round-signs.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type BlockBody, newTier, setField, type Sign, type Support } from '../sign/index.js';
import { notesOf } from './index.js';

const workshop = new Workshop();
const codes = (sign: Sign): string[] => notesOf(workshop.evaluate(sign)).map(({ code }) => code);
const texts = (sign: Sign): string => notesOf(workshop.evaluate(sign)).map(({ text }) => text).join(' '); // prettier-ignore

const POST: Support = { kind: 'cylinder', radius: 60, facing: 'outside', round: true };
const post = (words: string, cap: number): Sign => {
  const sign = roundSign(POST, 100, 6);
  addText(sign, words, 'barlow-bold', cap, { kind: 'raise', by: 2 });
  return sign;
};

describe('what is told of signs that are bent', () => {
  it('tells words that go further round than can be seen, and such as meet themselves', () => {
    expect(codes(post('GATE', 20))).toEqual([]);
    expect(texts(post('WEST GATE OF', 24))).toMatch(/goes 2\d\d° round: from no one place all of it is seen/u);
    expect(texts(post('WEST GATE OF THE ARBORETUM', 24))).toMatch(/is longer than once round by \d+/u);
    // Inside of a drum all of it is seen from its middle.
    const sign = post('WEST GATE OF', 24);
    sign.support = { ...POST, facing: 'inside' };
    expect(codes(sign)).toEqual([]);
  });

  it('does not take what goes over the seam for something over the edge, but what reaches over its ends', () => {
    const sign = post('GATE', 20);
    sign.parts[0].place.x = 60 * Math.PI;
    expect(codes(sign)).toEqual([]);
    sign.parts[0].place.y = 45;
    expect(texts(sign)).toMatch(/runs 5\.\d+ mm over the edge/u);
  });

  it('tells how much a surface is stretched, where words are', () => {
    const dome: Sign = { ...bareSign(200, 200, 4), support: { kind: 'dome', radius: 200, facing: 'outside', stretch: 3 } };
    addText(dome, 'IN', 'cinzel-bold', 20, { kind: 'raise', by: 1 });
    expect(codes(dome)).toEqual([]);
    dome.parts[0].place.y = 80;
    // sin θ / θ at the letters' upper edge, about 92 mm out: 3.5 % shorter.
    expect(texts(dome)).toMatch(/The surface is 3\.[4-6] % shorter than the plan, more than the 3 % that are allowed/u);
  });

  it('tells why it cannot be bent', () => {
    expect(codes({ ...post('GATE', 20), blank: { ...post('GATE', 20).blank, thickness: 60 } })).toContain('support-wall');
    expect(codes({ ...bareSign(400, 100, 6), support: { ...POST, round: false } })).toEqual(['support-overlaps']);
  });

  it('goes all the way round about an upright axis alone', () => {
    expect(codes({ ...post('GATE', 20), support: { ...POST, axis: 'level' } as Support })).toContain('support-level-round');
  });

  it('tells what a block cannot have, and sizes that leave nothing of it', () => {
    const block = (body: BlockBody): Sign => {
      const sign = bareSign(50, 50, 50);
      setField(sign, ['support', 'kind'], 'block');
      sign.support = { kind: 'block', body };
      setField(sign, ['support', 'body', 'width'], body.width);
      return sign;
    };
    const box = block({ kind: 'box', width: 50, height: 40, depth: 30 });
    expect(codes(box)).toEqual([]);
    // Faces lie apart, and none of them falls out; a ring of one does.
    addShape(box, 20, { kind: 'cut-through' });
    addShape(box, 10, { kind: 'carve', by: 1 });
    expect(codes(box)).not.toContain('loose-pieces');
    expect(codes({ ...box, blank: { ...box.blank, thickness: 40 } })).toContain('block-depth');
    expect(codes({ ...box, blank: { ...box.blank, edge: { kind: 'rounded', radius: 2 } } })).toContain('block-without');
    expect(codes({ ...box, parts: box.parts.map((part) => ({ ...part, side: 'back' as const })) })).toContain('block-back');
    const window = { ...box.parts[1], tiers: [newTier('tier-1', { kind: 'insert', below: 0, thickness: 2, material: 'brass' })] };
    expect(codes({ ...box, parts: [window] })).toContain('block-insert');
    expect(codes(block({ kind: 'box', width: 50, height: 40, depth: 30, chamfer: 25 }))).toContain('block-chamfer');
    expect(codes(block({ kind: 'prism', sides: 24, width: 400, height: 40 }))).toContain('block-large');
  });
});
