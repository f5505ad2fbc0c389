import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../../testing/signs.js';
import { degrees } from '../../geometry/index.js';
import {
  canGoAround,
  facesOf,
  goAround,
  layingWords,
  readSign,
  sentenceText,
  setField,
  type Sign,
  signOfFace,
  type Support,
  ticket,
  unrolledCone,
} from '../index.js';

/** A sign with fields of its ticket set, one after the other; it stays one that can be read. */
function edited(sign: Sign, ...fields: readonly (readonly [readonly (string | number)[], unknown])[]): Sign {
  const copy = structuredClone(sign);
  for (const [path, value] of fields) setField(copy, path, value);
  return readSign(JSON.parse(JSON.stringify(copy)));
}
const said = (sign: Sign): string => ticket(sign, []).map(sentenceText).join(' ');
const at = (...path: (string | number)[]) => path;

describe('what a sign is bent around, in its ticket', () => {
  it('goes round as far as its blank is wide, and the blank follows what it goes round', () => {
    const flat = bareSign(300, 100, 5);
    expect(said(flat)).not.toContain('bent');
    const arc = edited(flat, [at('support', 'kind'), 'cylinder']);
    expect(arc.support).toEqual({ kind: 'cylinder', radius: 143.239, facing: 'outside' });
    const whole = edited(arc, [at('support', 'radius'), 60], [at('support', 'round'), 'whole']);
    expect(whole.blank.outline).toMatchObject({ kind: 'rectangle', width: 120 * Math.PI, height: 100 });
    expect(said(whole)).toContain('bent around a cylinder of 60 mm radius, on its outside, all the way round (376.99 mm round)');
    // As wide, or as far round, as it is asked to be: the radius follows.
    for (const path of [at('support', 'around'), at('blank', 'outline', 'width')]) {
      const wider = edited(whole, [path, 400]);
      expect(wider.support).toMatchObject({ radius: 200 / Math.PI });
      expect(wider.blank.outline).toMatchObject({ width: expect.closeTo(400, 9) as unknown });
    }
    const cup = edited(whole, [at('support', 'ends'), 'both'], [at('support', 'floor'), 8]);
    expect(cup.support).toMatchObject({ lid: 5, floor: 8 });
    expect(said(cup)).toContain('with a floor and a lid, the floor 8 mm thick, the lid 5 mm thick');
    const open = edited(cup, [at('support', 'round'), 'part']);
    expect(open.support).toEqual({ kind: 'cylinder', radius: 60, facing: 'outside' });
  });

  it('unrolls a cone, and lets words run level on it, or so many degrees round', () => {
    const sign = bareSign(200, 100, 4);
    addText(sign, 'CUP', 'cinzel-bold', 12, { kind: 'carve', by: 1 });
    const cone = edited(
      sign,
      [at('support', 'kind'), 'cone'],
      [at('support', 'bottom'), 30],
      [at('support', 'top'), 45],
      [at('support', 'round'), 'whole'],
    );
    expect(cone.blank.outline).toMatchObject({
      kind: 'sector',
      apex: 'below',
      span: expect.closeTo((360 * 15) / Math.hypot(15, 100), 6) as unknown,
    });
    const level = edited(cone, [at('parts', 0, 'path', 'kind'), 'level']);
    const middle = (37.5 * Math.hypot(15, 100)) / 15;
    expect(level.parts[0]).toMatchObject({
      place: { x: 0, y: expect.closeTo(-middle, 3) as unknown },
      path: { kind: 'arc', radius: expect.closeTo(middle, 3) as unknown, reads: 'top' },
    });
    const aside = edited(cone, [at('parts', 0, 'place', 'round'), 90]);
    expect(aside.parts[0].place.turn).toBeCloseTo((-90 * 15) / Math.hypot(15, 100), 3);
    expect(said(aside)).toContain('(90° round)');
    expect(edited(aside, [at('parts', 0, 'place', 'round'), 0]).parts[0].place).toMatchObject({
      x: 0,
      y: 0,
      turn: expect.closeTo(0, 3) as unknown,
    });
  });

  it('bends a sheet piece by piece; the blank is as long as the line, and what lies on it keeps its share', () => {
    const sign = bareSign(200, 100, 2);
    addText(sign, 'TENT', 'cinzel-bold', 12, { kind: 'carve', by: 1 });
    sign.parts[0].place.x = 50;
    const bent = edited(sign, [at('support', 'kind'), 'bent']);
    expect(bent.blank.outline).toMatchObject({ width: 200 });
    const longer = edited(bent, [at('support', 'pieces', 0, 'length'), 150], [at('support', 'pieces', 3, 'kind'), 'towards']);
    const width = (longer.blank.outline as { width: number }).width;
    expect(longer.support).toMatchObject({ pieces: [{}, {}, {}, { kind: 'arc', bends: 'towards', angle: 30 }] });
    expect(width).toBeGreaterThan(300);
    expect(longer.parts[0].place.x).toBeCloseTo(width / 4, 3);
    expect(edited(longer, [at('support', 'pieces', 3, 'kind'), 'none']).support).toMatchObject({ pieces: [{}, {}, {}] });
    // A blank of a length of its own stays.
    const own = edited(edited(bent, [at('blank', 'outline', 'width'), 120]), [at('support', 'pieces', 0, 'length'), 150]);
    expect(own.blank.outline).toMatchObject({ width: 120 });
    expect(edited(bent, [at('support', 'kind'), 'flat']).support).toBeUndefined();
  });

  it('re-fits a desk: frames are as wide a share of it as before', () => {
    const sign = bareSign(2000, 400, 18);
    const text = addText(sign, 'QUILL STREET', 'cinzel-bold', 80, { kind: 'raise', by: 8 });
    text.frame = {
      width: 1000,
      height: 200,
      marginAcross: { kind: 'length', length: 0 },
      marginUp: { kind: 'length', length: 0 },
      upright: 'middle',
      fit: [{ kind: 'narrow', floor: 50 }],
    };
    const desk = edited(sign, [at('support', 'kind'), 'swept']);
    const before = (desk.blank.outline as { width: number }).width;
    const smaller = edited(desk, [at('support', 'line', 'width'), 1200]);
    const after = (smaller.blank.outline as { width: number }).width;
    expect(after).toBeLessThan(before);
    const frameOf = (of: Sign): number => (of.parts[0] as typeof text).frame!.width;
    expect(frameOf(smaller) / frameOf(desk)).toBeCloseTo(after / before, 4);
    const arched = edited(smaller, [at('support', 'profile', 0, 'kind'), 'away'], [at('support', 'line', 'kind'), 'pieces']);
    expect(arched.support).toMatchObject({ line: { kind: 'pieces' }, profile: [{ kind: 'arc', bends: 'away' }] });
  });

  it('sets copies at equal angles', () => {
    const sign = bareSign(300, 100, 5);
    addText(sign, 'I', 'cinzel-bold', 12, { kind: 'carve', by: 1 });
    const round = edited(
      sign,
      [at('support', 'kind'), 'cylinder'],
      [at('support', 'radius'), 50],
      [at('support', 'round'), 'whole'],
      [at('parts', 0, 'copies', 'kind'), 'row'],
      [at('parts', 0, 'copies', 'count'), 12],
      [at('parts', 0, 'copies', 'evenly'), 'round'],
    );
    expect(round.parts[0].copies).toMatchObject({ stepX: expect.closeTo((100 * Math.PI) / 12, 3) as unknown, stepY: 0 });
    expect(said(round)).toContain('evenly all the way round');
  });

  it('lets words go once around, with a letter between their end and their beginning', () => {
    const sign = bareSign(300, 100, 5);
    addText(sign, 'WEST GATE', 'cinzel-bold', 12, { kind: 'raise', by: 1 });
    expect(canGoAround(sign, sign.parts[0])).toBe(false);
    const post = edited(
      sign,
      [at('support', 'kind'), 'cylinder'],
      [at('support', 'radius'), 50],
      [at('support', 'round'), 'whole'],
    );
    expect(canGoAround(post, post.parts[0])).toBe(true);
    goAround(post, post.parts[0].id);
    expect(post.parts[0]).toMatchObject({
      size: { kind: 'seen-width', width: expect.closeTo(100 * Math.PI * 0.9, 3) as unknown },
    });
    const cup = edited(sign, [at('support', 'kind'), 'cone'], [at('support', 'round'), 'whole']);
    goAround(cup, cup.parts[0].id);
    const { support } = cup;
    const { angle } = unrolledCone(support as Extract<Support, { kind: 'cone' }>);
    expect(cup.parts[0]).toMatchObject({
      align: 'justified',
      path: { kind: 'arc', span: expect.closeTo(degrees(angle) * 0.9, 3) as unknown },
    });
  });

  it('is a block, whose blank follows it, and whose parts stay on their faces', () => {
    const sign = bareSign(50, 40, 30);
    addText(sign, 'A', 'cinzel-bold', 12, { kind: 'raise', by: 1 });
    const block = edited(
      sign,
      [at('support', 'kind'), 'block'],
      [at('parts', 0, 'place', 'face'), 'back'],
      [at('parts', 0, 'place', 'faceUp'), 5],
    );
    expect(block.support).toEqual({ kind: 'block', body: { kind: 'box', width: 50, height: 40, depth: 30 } });
    expect(block.blank.thickness).toBe(50);
    expect(said(block)).toContain('0 mm across and 5 mm up from the middle of the face back');
    // Front, right and back beside each other, 20 mm apart.
    expect(block.parts[0].place).toMatchObject({ x: 25 + 20 + 30 + 20 + 25, y: 5 });
    const wider = edited(block, [at('support', 'body', 'width'), 80]);
    expect(wider.parts[0].place).toMatchObject({ x: 40 + 20 + 30 + 20 + 40, y: 5 });
    const chamfered = edited(wider, [at('support', 'body', 'edges'), 'chamfered']);
    expect(facesOf(chamfered.support).map(({ id }) => id)).toContain('chamfer-left');
    expect(said(chamfered)).toContain('chamfered by 3 mm');
    expect(said(chamfered)).toContain('of the face back');
    const prism = edited(wider, [at('support', 'body', 'kind'), 'prism'], [at('parts', 0, 'copies', 'kind'), 'faces']);
    expect(prism.support).toMatchObject({ body: { kind: 'prism', sides: 6, width: 80, height: 40 } });
    expect(said(prism)).toContain('repeated on every side');
    const wedge = edited(prism, [at('support', 'body', 'kind'), 'wedge']);
    expect(facesOf(wedge.support)[0].id).toBe('slope');
  });

  it('gives a face as a sign of its own, with what others sit on, and how the block lies', () => {
    const sign = bareSign(50, 40, 30);
    addShape(sign, [30, 20], { kind: 'carve', by: 2 });
    const block = edited(sign, [at('support', 'kind'), 'block'], [at('parts', 0, 'copies', 'kind'), 'faces']);
    const faces = facesOf(block.support);
    const right = faces.find(({ id }) => id === 'right')!;
    const top = faces.find(({ id }) => id === 'top')!;
    const on = addShape(
      block,
      10,
      { kind: 'raise', by: 2 },
      { x: top.x, y: top.y, sitsOn: { kind: 'part', part: block.parts[0].id, at: 'floor' } },
    );
    const own = signOfFace(block, right);
    expect(own).toMatchObject({ title: 'Test, right side', blank: { thickness: 50, outline: { width: 30, height: 40 } } });
    expect(own.parts).toEqual([expect.objectContaining({ id: 'part-1', place: { x: 0, y: 0, turn: 0, mirror: false } })]);
    expect(own.parts[0].copies).toBeUndefined();
    const above = signOfFace(block, top);
    expect(above.parts.map(({ id, hidden }) => [id, hidden])).toEqual([['part-1', true], [on, undefined]]); // prettier-ignore
    expect(readSign(JSON.parse(JSON.stringify(above)))).toEqual(above);
    expect(layingWords(faces, right)).toBe('right side up, its upper edge away from you, on the left side');
  });
});
