import { Evaluator } from '@plain-relief/core/relief';
import { newSign, newTier, type Sign } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { FontBook } from '@plain-relief/core/type';
import { modelOf } from './model-of';

const evaluator = new Evaluator(new FontBook([], () => Promise.resolve(new Uint8Array())));

function disc(): Sign {
  const sign = newSign('Disc', 'mm');
  sign.blank = { outline: { kind: 'rectangle', width: 80, height: 80, cornerRadius: 0 }, thickness: 5, material: '' };
  sign.finishes = [{ id: 'red', name: 'red', colour: '#ff0000', gloss: 'matt' }];
  sign.parts.push({
    kind: 'shape',
    id: 'disc',
    name: 'Disc',
    shape: { kind: 'circle', diameter: 40 },
    place: { x: 0, y: 0, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [{ ...newTier('tier-1', { kind: 'raise', by: 4 }), finish: { sides: 'red' } }],
  });
  return sign;
}

describe('modelOf', () => {
  const evaluation = evaluator.evaluateLoaded(disc());
  const { positions, normals, colours, finishes } = modelOf(coloured(evaluation, solidOf(evaluation)), 4);
  const corners = Array.from({ length: positions.length / 3 }, (_, i) => ({
    at: [...positions.slice(3 * i, 3 * i + 3)],
    normal: [...normals.slice(3 * i, 3 * i + 3)],
    finish: [...finishes.slice(3 * i, 3 * i + 3)],
  }));

  it('shades the wall of a disc as the curve that it stands for, and keeps corners and caps crisp', () => {
    const wall = corners.filter(({ at: [x, y], normal: [, , z] }) => Math.hypot(x, y) < 21 && Math.abs(z) < 1e-6);
    expect(wall.length).toBeGreaterThan(100);
    for (const { at, normal } of wall) {
      const radius = Math.hypot(at[0], at[1]);
      expect((at[0] * normal[0] + at[1] * normal[1]) / radius).toBeGreaterThan(0.998);
    }
    for (const { normal } of corners) expect(Math.hypot(...normal)).toBeCloseTo(1, 5);
    const edge = corners.filter(({ at, normal }) => Math.abs(at[0]) > 39 && Math.abs(normal[2]) < 0.5);
    for (const { normal } of edge) expect(Math.max(...normal.map(Math.abs))).toBeCloseTo(1, 6);
  });

  it('keeps triangles of one gloss together, and loses none', () => {
    const { glosses } = modelOf(coloured(evaluation, solidOf(evaluation)), 4);
    expect(glosses.map(({ gloss }) => gloss)).toEqual(['matt', 'satin', 'gloss', 'metal']);
    expect(glosses.reduce((sum, { count }) => sum + count, 0)).toBe(positions.length / 3);
    const sign = disc();
    sign.finishes![0].gloss = 'metal';
    const shiny = evaluator.evaluateLoaded(sign);
    const model = modelOf(coloured(shiny, solidOf(shiny)), 4);
    const metal = model.glosses[3].count;
    expect(metal).toBe(corners.filter(({ finish: [r, g] }) => r > 0.9 && g < 0.1).length);
    // Those of metal come last.
    const colours = [...model.finishes.slice(-3 * metal)];
    expect(colours.every((value, i) => Math.abs(value - (i % 3 === 0 ? 1 : 0)) < 1e-6)).toBe(true);
  });

  it('has the colour of the finish where one is worn, and of heights in any case', () => {
    const red = corners.filter(({ finish: [r, g] }) => r > 0.9 && g < 0.1);
    expect(red.length).toBeGreaterThan(100);
    for (const { at, normal } of red) {
      expect(Math.hypot(at[0], at[1])).toBeCloseTo(20, 1);
      expect(Math.abs(normal[2])).toBeLessThan(1e-6);
    }
    expect(colours).toHaveLength(positions.length);
    expect(new Set(colours).size).toBeGreaterThan(5);
  });
});
