import { describe, expect, it } from '@jest/globals';
import { generatedSign } from '../../testing/sign-generator.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight, meshBounds, volume } from '../mesh/index.js';
import { type Sign } from '../sign/index.js';
import { solidOf } from '../solid/index.js';
import { pegMesh, printFindings, printSentences, proposedLines, split, SplitError, USUAL_PEGS, USUAL_PRINT } from './index.js';

const workshop = new Workshop();

const found = (sign: Sign, choice = USUAL_PRINT) => {
  const evaluation = workshop.evaluate(sign);
  return printFindings(evaluation, solidOf(evaluation), choice);
};

type Added = Parameters<typeof addShape> extends [unknown, ...infer R] ? R : never;

function plate(...shapes: readonly Added[]): Sign {
  const sign = bareSign(60, 40, 5);
  for (const shape of shapes) addShape(sign, ...shape);
  return sign;
}

describe('what a printer would have trouble with', () => {
  it('are undersides that hang over nothing, and not those that lie on the bed or lean little', () => {
    const sign = plate([[20, 10], { kind: 'carve', by: 2 }]);
    sign.parts[0] = { ...sign.parts[0], side: 'back' };
    expect(found(sign).overhang).toMatchObject({ areaMm2: expect.closeTo(200, 6), worst: 90, at: { z: -3 } });
    const leaning = (angle: number): Sign => {
      const carved = structuredClone(sign);
      carved.parts[0].tiers[0].edge = { kind: 'sloped', angle, sized: 'foot' };
      return carved;
    };
    // Sides of the pocket that lean 40° from upright print; the ceiling stays.
    expect(found(leaning(40)).overhang!.areaMm2).toBeCloseTo(200, 6);
    expect(found(leaning(60)).overhang!.areaMm2).toBeGreaterThan(200);
    expect(found(plate([[20, 10], { kind: 'carve', by: 2 }])).overhang).toBeUndefined();
  });

  it('are walls and strokes thinner than two lines, with the thinnest', () => {
    const wall = (width: number) => found(plate([[30, width], { kind: 'raise', by: 3 }, { x: 0, y: 8 }])).walls;
    expect(wall(1)).toBeUndefined();
    expect(wall(0.82)).toBeUndefined();
    const thin = wall(0.6)!;
    expect(thin.areaMm2).toBeCloseTo(18, 0);
    expect(thin.worst).toBeCloseTo(0.6, 1);
    expect(thin.at).toMatchObject({ z: 1.5 });
    expect(Math.abs(thin.at.y - 8)).toBeLessThan(0.1);
    // A finer nozzle makes it: two lines of 0.25.
    expect(found(plate([[30, 0.6], { kind: 'raise', by: 3 }]), { ...USUAL_PRINT, line: 0.25 }).walls).toBeUndefined();
  });

  it('are floors thinner than three layers', () => {
    const floor = (by: number) => found(plate([[20, 10], { kind: 'carve', by }])).floors;
    expect(floor(4.3)).toBeUndefined();
    expect(floor(4.5)).toMatchObject({ areaMm2: expect.closeTo(200, 6), worst: expect.closeTo(0.5, 6) });
  });

  it('is a sign that is larger than the bed, whichever way it lies', () => {
    const on = (width: number, depth: number, height = 50) =>
      found(plate(), { ...USUAL_PRINT, bed: { width, depth, height } }).fits;
    expect([on(60, 40), on(40, 60), on(59, 59), on(60, 40, 4)]).toEqual([true, true, false, false]);
  });

  it('is told in sentences that say what to do', () => {
    expect(printSentences(found(plate()), USUAL_PRINT)).toEqual(['Nothing hangs, and no wall or floor is too thin.']);
    const sign = plate([[30, 0.6], { kind: 'raise', by: 3 }], [[20, 10], { kind: 'carve', by: 4.6 }, { x: 0, y: -10 }]);
    const said = printSentences(found(sign, { ...USUAL_PRINT, bed: { width: 50, depth: 50, height: 50 } }), USUAL_PRINT);
    expect(said).toHaveLength(3);
    expect(said[0]).toMatch(
      /^1[78]\.\d mm² of walls and strokes are thinner than two lines of 0\.4 mm, the thinnest about 0\.(?:59|60|61) mm/u,
    );
    expect(said[1]).toContain('the thinnest 0.40 mm');
    expect(said[2]).toContain('It is 60.0 × 40.0 × 8.0 mm, and larger than the bed: split it.');
  });
});

describe('a sign that is split', () => {
  it('is pieces in columns and rows, closed, with sockets within the material', () => {
    const sign = bareSign(180, 90, 12);
    addText(sign, 'PIER', 'barlow-semibold', 40, { kind: 'raise', by: 3 });
    addShape(sign, 20, { kind: 'cut-through' }, { x: 0, y: -30 });
    const solid = solidOf(workshop.evaluate(sign));
    const { pieces, pegs, loose } = split(solid, { upright: [0.3, -50], level: [7] }, USUAL_PEGS);
    expect(pieces.map(({ name }) => name)).toEqual(['A1', 'A2', 'B1', 'B2', 'C1', 'C2']);
    expect(loose).toEqual([]);
    const radius = USUAL_PEGS.diameter / 2 + USUAL_PEGS.play;
    const deep = USUAL_PEGS.deep + USUAL_PEGS.play;
    const sum = pieces.reduce((all, { mesh }) => all + volume(mesh), 0);
    expect(pegs.length).toBeGreaterThanOrEqual(2 * 2 + 3 * 2);
    expect((volume(solid) - sum) / (pegs.length * 2 * Math.PI * radius ** 2 * deep)).toBeCloseTo(1, 2);
    const whole = manifoldOf(workshop.m, solid);
    for (const { mesh, from } of pieces) {
      expect(isWatertight(mesh)).toBe(true);
      expect(manifoldOf(workshop.m, mesh).status()).toBe('NoError');
      expect(Math.max(...from)).toBeLessThan(solid.triangles.length / 3);
    }
    // Every socket has material around it, by a general library.
    for (const { axis, x, y, z } of pegs) {
      const round = workshop.m.Manifold.cylinder(2 * deep, radius + 0.8, radius + 0.8, 40, true);
      const lying = round.rotate(axis === 'x' ? [0, 90, 0] : [90, 0, 0]).translate([x, y, z]);
      expect(lying.intersect(whole).volume() / lying.volume()).toBeGreaterThan(0.999);
    }
  });

  it('has pegs within the material of generated signs as well', () => {
    let many = 0;
    for (let seed = 30; seed < 38; seed++) {
      const solid = solidOf(workshop.evaluate(generatedSign(seed, 'plain', workshop.book.catalogue)));
      if (solid.triangles.length === 0) continue;
      const { min, max } = meshBounds(solid);
      const at = (min[0] + max[0]) / 2 + 0.37;
      const pegs = { diameter: 2, deep: 4, play: 0.1 };
      const { pieces, pegs: places, loose } = split(solid, { upright: [at], level: [] }, pegs);
      expect(pieces).toHaveLength(2);
      if (places.length < 2) expect(loose).toHaveLength(1);
      many += places.length;
      const whole = manifoldOf(workshop.m, solid);
      for (const { x, y, z } of places) {
        const peg = workshop.m.Manifold.cylinder(2 * 4.1, 1.1, 1.1, 24, true)
          .rotate([0, 90, 0])
          .translate([x, y, z]);
        expect([seed, peg.intersect(whole).volume() / peg.volume()]).toEqual([seed, expect.closeTo(1, 3)]);
      }
    }
    expect(many).toBeGreaterThan(4);
  });

  it('says where there is no room for pegs, and where a line cuts nothing off', () => {
    const thin = solidOf(workshop.evaluate(bareSign(60, 40, 3)));
    expect(split(thin, { upright: [0], level: [] }, USUAL_PEGS)).toMatchObject({
      pegs: [],
      loose: [{ axis: 'x', at: 0, pegs: 0 }],
    });
    expect(split(thin, { upright: [0], level: [] }, { ...USUAL_PEGS, diameter: 0 })).toMatchObject({ pegs: [], loose: [] });
    expect(() => split(thin, { upright: [80], level: [] }, USUAL_PEGS)).toThrow(SplitError);
    expect(() => split(thin, { upright: [], level: [-19.5] }, USUAL_PEGS)).toThrow(
      /line at y = -19\.5 mm cuts nothing off: the sign lies between -20\.0 and 20\.0 mm/u,
    );
  });

  it('is held by pegs as long as two sockets less their play', () => {
    const peg = pegMesh(USUAL_PEGS);
    expect(isWatertight(peg)).toBe(true);
    expect(volume(peg) / (Math.PI * 4 * 20)).toBeCloseTo(1, 2);
  });

  it('is proposed to be cut evenly, beside letters rather than through them', () => {
    expect(proposedLines(-50, 50, 120, [])).toEqual([]);
    expect(proposedLines(-150, 150, 110, [])).toEqual([-50, 50]);
    const [line] = proposedLines(-90, 90, 100, [[-4, 3]]);
    expect(Math.abs(line)).toBeLessThanOrEqual(5);
    expect(line <= -4 || line >= 3).toBe(true);
    expect(proposedLines(0, 100, 0, [])).toEqual([]);
  });
});
