import { describe, expect, it } from '@jest/globals';
import { roundSign, TENT } from '../../testing/round-signs.js';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { area, bounds } from '../geometry/index.js';
import { setField, type Sign, type Support } from '../sign/index.js';
import { spaceSolid } from '../solid/index.js';
import { OVERLAP } from './template.js';
import {
  dimensionedPlan,
  sizesOf,
  spaceSection,
  spaceSectionDrawing,
  stretchCells,
  supportFigures,
  supportLines,
  templateDrawing,
  withBends,
  productionOutlines,
} from './index.js';

const workshop = new Workshop();

const POST: Support = { kind: 'cylinder', radius: 60, facing: 'outside', round: true };
const CUP: Support = { kind: 'cone', bottom: 30, top: 45, height: 100, facing: 'outside', round: true };

const points = (sign: Sign, layer: string): number[][] =>
  templateDrawing(workshop.evaluate(sign)).items.flatMap((item) =>
    item.kind === 'line' && item.layer === layer ? [[...item.points]] : [],
  );

describe('a section in space', () => {
  it('across a post is the true ring, along it two walls, askew a ring of ellipses', () => {
    const sign = roundSign(POST, 100, 6);
    const solid = spaceSolid(workshop.evaluate(sign));
    const ring = Math.PI * (60 ** 2 - 54 ** 2);
    const section = (turn: number) => spaceSection(sign, solid, { x: 20, y: 10, turn });
    expect(area(section(0)) / ring).toBeCloseTo(1, 3);
    expect(area(section(90)) / (2 * 6 * 100)).toBeCloseTo(1, 3);
    // A plane that leans by 45° cuts a cylinder's ring in ellipses √2 as long, where its ends do not come in the way.
    expect(
      area(
        spaceSection(roundSign(POST, 300, 6), spaceSolid(workshop.evaluate(roundSign(POST, 300, 6))), { x: 0, y: 0, turn: 45 }),
      ) /
        (ring * Math.SQRT2),
    ).toBeCloseTo(1, 3);
    // The face lies in 0, out of the surface: the ring reaches from there a diameter back.
    const { minY, maxY } = bounds(section(0))!;
    expect([minY, maxY]).toEqual([expect.closeTo(-120, 1), expect.closeTo(0, 1)]);
  });

  it('along a level line of a cone is the ring across its axis, askew one that is square to the face', () => {
    const cone = roundSign(CUP, 100, 4);
    const solid = spaceSolid(workshop.evaluate(cone));
    const lean = Math.atan2(15, 100);
    // Across the axis the wall is as thick as along its normal, divided by the cosine of its lean.
    for (const y of [-20, 0, 25]) {
      const radius = 37.5 + 0.15 * y * Math.cos(lean);
      const ring = spaceSection(cone, solid, { x: 0, y, turn: 0 });
      // Chords stray by 0.02 mm at most, half a thousandth of such a wall.
      expect(Math.abs(area(ring) / (Math.PI * (radius ** 2 - (radius - 4 / Math.cos(lean)) ** 2)) - 1)).toBeLessThan(1e-3);
      const { minX, maxX, minY, maxY } = bounds(ring)!;
      expect([maxX - minX, maxY - minY, maxY].map((mm, i) => mm - [2 * radius, 2 * radius, 0][i])).toEqual([expect.closeTo(0, 1), expect.closeTo(0, 1), expect.closeTo(0, 2)]); // prettier-ignore
      const words = supportFigures(workshop.evaluate(cone), { line: { x: 0, y, turn: 0 } });
      expect(words[1]).toBe(`radius ${Number(radius.toFixed(2))} mm in the section`);
    }
    const upright = spaceSection(cone, solid, { x: 0, y: 0, turn: 90 });
    expect(area(upright) / (2 * 4 * Math.hypot(100, 15))).toBeCloseTo(1, 3);
    expect(supportFigures(workshop.evaluate(cone), { line: { x: 0, y: 0, turn: 90 } })).toHaveLength(2);
    // A ring that leans is longer one way.
    const askew = bounds(spaceSection(cone, solid, { x: 0, y: 0, turn: 20 }))!;
    expect(askew.maxX - askew.minX).toBeGreaterThan(2 * 37.5);
  });

  it('is drawn with what it is bent around, in figures', () => {
    const sign = roundSign(POST, 100, 6);
    const evaluation = workshop.evaluate(sign);
    const { items } = spaceSectionDrawing(evaluation, spaceSolid(evaluation), { x: 0, y: 0, turn: 0 }, 3);
    expect(items.flatMap((item) => (item.kind === 'label' ? [item.text] : []))).toEqual([
      'face: radius 60 mm, outside',
      '376.99 mm, once round',
    ]);
  });
});

describe('a plan laid flat', () => {
  it('shows seam and quarters of a post, and where a sheet bends', () => {
    const lines = supportLines(workshop.evaluate(roundSign(POST, 100, 6)));
    expect(lines.map(({ words, from }) => [words, Math.round(from[0])])).toEqual([['seam', -188], ['−90°', -94], ['0°', 0], ['90°', 94], ['seam', 188]]); // prettier-ignore
    const tent: Sign = { ...bareSign(206, 80, 2), support: TENT };
    const evaluation = workshop.evaluate(tent);
    // 5.969 mm of bend, half of it on either side of the middle.
    const bends = supportLines(evaluation).filter(({ kind }) => kind === 'bend');
    expect(bends.map(({ from }) => Number(from[0].toFixed(3)))).toEqual([-2.985, 2.985]);
    expect(withBends(productionOutlines(evaluation), evaluation).items.filter(({ layer }) => layer === 'bends')).toHaveLength(3);
    expect(supportLines(workshop.evaluate(bareSign(100, 50, 5)))).toEqual([]);
  });

  it.each([
    ['a post', roundSign(POST, 100, 6), 2 * Math.PI * 60, 2 * Math.PI * 60],
    ['a cup', roundSign(CUP, 100, 4), 2 * Math.PI * 30, 2 * Math.PI * 45],
  ])('wrapped round %s meets at its seam within 0.2 mm, with a strip to stick', (_, sign, low, high) => {
    const seams = points(sign, 'seam');
    expect(seams).toHaveLength(2);
    const isCone = sign.support!.kind === 'cone';
    // Of a cylinder the seams are as far apart as it is round; of a cone along arcs about the apex, by the angle between them.
    const [left, right] = seams;
    if (isCone) {
      const span = (sign.blank.outline as { span: number }).span;
      const lengths = [0, 2].map((k) => {
        const apex = -(sign.blank.outline as { radius: number }).radius;
        return (Math.hypot(right[k], right[k + 1] - apex) * span * Math.PI) / 180;
      });
      expect(Math.abs(Math.min(...lengths) - low)).toBeLessThan(0.2);
      expect(Math.abs(Math.max(...lengths) - high)).toBeLessThan(0.2);
    } else for (const k of [0, 2]) expect(Math.abs(right[k] - left[k] - high)).toBeLessThan(0.2);
    // The strip begins at the right seam, and is as wide as said.
    const [strip] = points(sign, 'overlap');
    expect(Math.hypot(strip[0] - right[0], strip[1] - right[1])).toBeLessThan(0.2);
    expect(Math.hypot(strip[2] - strip[0], strip[3] - strip[1]) / OVERLAP).toBeGreaterThan(0.75);
  });

  it('tells how its surface is stretched: not on what can be unrolled, by sin θ / θ on a dome', () => {
    expect(stretchCells(workshop.evaluate(roundSign(POST, 100, 6)))).toEqual([]);
    const dome = { ...bareSign(200, 200, 4), support: { kind: 'dome', radius: 200, facing: 'outside', stretch: 3 } } as Sign;
    const cells = stretchCells(workshop.evaluate(dome));
    const outermost = cells.reduce((a, b) => (b.share < a.share ? b : a));
    const angle = Math.hypot(outermost.x, outermost.y) / 200;
    expect(outermost.share).toBeCloseTo(Math.sin(angle) / angle - 1, 12);
    addText(dome, 'FAR', 'cinzel-bold', 20, { kind: 'raise', by: 1 });
    dome.parts[0].place.y = 80;
    expect(workshop.evaluate(dome).parts).toHaveLength(1);
  });
});

describe('letters that are cut flat and bent on', () => {
  it('bear the radius of their backs: on a cylinder that less their thickness, inside of one with it, on a cone by their height', () => {
    const radii = (support: Support): string[] => {
      const sign = bareSign(200, 60, 5);
      const text = addText(sign, 'OAK', 'barlow-bold', 20, { kind: 'raise', by: 0 });
      sign.blank.cutTo = { parts: [text.id] };
      sign.support = support;
      const evaluation = workshop.evaluate(sign);
      return withBends(productionOutlines(evaluation), evaluation).items.flatMap((item) =>
        item.kind === 'label' ? [item.text] : [],
      );
    };
    expect(radii({ kind: 'cylinder', radius: 80, facing: 'outside' })).toEqual(['R 75 mm', 'R 75 mm', 'R 75 mm']);
    expect(radii({ kind: 'cylinder', radius: 80, facing: 'inside' })).toEqual(Array(3).fill('R 85 mm towards'));
    expect(radii({ kind: 'bent', neutral: 40, pieces: [{ kind: 'straight', length: 200 }] })).toEqual([]);
    // 3, 4, 5: normal to the face the radius is that of the ring over the cosine of half the apex angle, 4/5.
    const [, ring] = radii({ kind: 'cone', bottom: 90, top: 60, height: 40, facing: 'outside' });
    const [, mm] = /R ([\d.]+) mm/u.exec(ring)!;
    // The feet of the letter in the middle are 10 mm below the middle, along the slant: 3/5 of that further out.
    expect(Number(mm) + 5).toBeCloseTo((75 + 10 * 0.6) / 0.8, 0);
  });
});

describe('a block', () => {
  it('is drawn face by face with sizes, and cut by planes square to them', () => {
    const sign = bareSign(45, 45, 45);
    setField(sign, ['support', 'kind'], 'block');
    setField(sign, ['support', 'body', 'depth'], 30);
    const evaluation = workshop.evaluate(sign);
    expect(supportLines(evaluation).map(({ words }) => words)).toEqual(['front, 45 mm × 45 mm', 'right side, 30 mm × 45 mm', 'back, 45 mm × 45 mm', 'left side, 30 mm × 45 mm', 'top, 45 mm × 30 mm', 'bottom, 45 mm × 30 mm']); // prettier-ignore
    expect(sizesOf(evaluation)).toMatchObject({ width: 45, height: 45, thickness: 30 });
    const solid = spaceSolid(evaluation);
    expect(area(spaceSection(sign, solid, { x: 0, y: 5, turn: 0 }))).toBeCloseTo(45 * 30, 3);
    // On the right side, whose middle lies beside that of the front.
    expect(area(spaceSection(sign, solid, { x: 57.5, y: 0, turn: 90 }))).toBeCloseTo(45 * 45, 3);
    const { items } = spaceSectionDrawing(evaluation, solid, { x: 0, y: 0, turn: 0 }, 3);
    expect(items.flatMap((item) => (item.kind === 'label' ? [item.text] : []))).toEqual([
      'block 45 mm wide, 45 mm high, 30 mm deep',
    ]);
    expect(dimensionedPlan(evaluation, { textHeight: 3 }).items.filter(({ kind }) => kind === 'label')).toHaveLength(6);
  });
});
