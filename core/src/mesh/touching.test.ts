import { describe, expect, it } from '@jest/globals';
import { stlFile, readStl } from '../format/index.js';
import { type Sign } from '../sign/index.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { solidOf } from '../solid/index.js';
import { edgeFaults } from './closed.js';
import { volume } from './mesh.js';
import { piecesOf } from './pieces.js';

const workshop = new Workshop();

/** A plate with two squares of side 10 that share a corner. */
function squares(action: Parameters<typeof addShape>[2], second = action): Sign {
  const sign = bareSign(60, 40, 5);
  addShape(sign, [10, 10], action, { x: -5, y: -5 });
  addShape(sign, [10, 10], second, { x: 5, y: 5 });
  return sign;
}

describe('solids that touch in a line', () => {
  it.each([
    ['raised', squares({ kind: 'raise', by: 3 }), 60 * 40 * 5 + 2 * 300],
    ['of two heights', squares({ kind: 'raise', by: 3 }, { kind: 'raise', by: 1 }), 60 * 40 * 5 + 400],
    ['carved', squares({ kind: 'carve', by: 2 }), 60 * 40 * 5 - 2 * 200],
    ['cut through', squares({ kind: 'cut-through' }), (60 * 40 - 200) * 5],
    ['raised beside carved', squares({ kind: 'raise', by: 2 }, { kind: 'carve', by: 2 }), 60 * 40 * 5],
  ])('are closed, each by corners of its own: %s', (_, sign, mm3) => {
    const mesh = solidOf(workshop.evaluate(sign));
    expect(edgeFaults(mesh)).toEqual({ count: 0 });
    expect(edgeFaults(readStl(stlFile(mesh, 'Test')))).toEqual({ count: 0 });
    // Corners move by hairs.
    expect(Math.abs(volume(mesh) - mm3)).toBeLessThan(0.2);
    expect(manifoldOf(workshop.m, mesh).status()).toBe('NoError');
  });

  it('are pieces of their own where nothing else joins them', () => {
    const sign = bareSign(60, 40, 5);
    sign.blank.cutTo = { parts: ['part-1', 'part-2'] };
    addShape(sign, [10, 10], { kind: 'raise', by: 1 }, { x: -5, y: -5 });
    addShape(sign, [10, 10], { kind: 'raise', by: 1 }, { x: 5, y: 5 });
    expect(piecesOf(solidOf(workshop.evaluate(sign)))).toHaveLength(2);
  });

  it('where a vee comes out at the back along a line', () => {
    const sign = bareSign(60, 40, 5);
    addShape(sign, [30, 10], { kind: 'carve', by: 5 });
    sign.parts[0].tiers[0].edge = { kind: 'ridged', angle: 90, capped: false };
    const mesh = solidOf(workshop.evaluate(sign));
    expect(edgeFaults(mesh)).toEqual({ count: 0 });
    expect(edgeFaults(readStl(stlFile(mesh, 'Test')))).toEqual({ count: 0 });
  });
});
