import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import fc from 'fast-check';
import type { Manifold } from 'manifold-3d';
import { contourArea, rectangle } from '../geometry/index.js';
import { type Evaluation, regionOf } from '../relief/index.js';
import { type Action, hasBack, readSign, type Sign } from '../sign/index.js';
import { crossSection, manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight, meshBounds, surfaceArea, volume } from '../mesh/index.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();
const evaluate = (sign: Sign): Evaluation => workshop.evaluate(sign);

/** The same sign by general 3D booleans on extruded outlines, as the relief function reads: raise, carve, cut through. */
function byBooleans(evaluation: Evaluation): Manifold {
  const { sign, blank, parts, rungs } = evaluation;
  const { thickness } = sign.blank;
  const ceiling = Math.max(0, ...rungs.map(({ z }) => z).filter(Number.isFinite)) + 1;
  const above = (contours: readonly Float64Array[], from: number, to: number) =>
    crossSection(workshop.m, contours)
      .extrude(to - from)
      .translate(0, 0, from);
  const column = above([blank], -thickness, ceiling);
  let solid = above([blank], -thickness, 0);
  let holes = workshop.m.Manifold.union([]);
  for (const part of sign.parts) {
    const { contours } = parts.find(({ id }) => id === part.id)!.area;
    for (const tier of part.tiers) {
      const { z } = rungs.find((rung) => rung.part === part.id && rung.tier === tier.id)!;
      if (!Number.isFinite(z)) holes = holes.add(above(contours, -thickness - 1, ceiling));
      else if (tier.action.kind === 'carve') solid = solid.subtract(above(contours, z, ceiling));
      else {
        const raised = above(contours, -thickness, z).intersect(column);
        solid =
          tier.action.kind === 'raise' ? solid.add(raised) : solid.subtract(above(contours, -thickness - 1, ceiling)).add(raised);
      }
    }
  }
  return solid.subtract(holes);
}

function expectSound(evaluation: Evaluation, { compare = true } = {}): void {
  const { mm3 } = workshop.soundSolid(evaluation);
  if (compare) expect(Math.abs(byBooleans(evaluation).volume() - mm3)).toBeLessThan(1e-6 * mm3);
}

describe('solidOf', () => {
  it('is a plain block for a bare blank', () => {
    const mesh = solidOf(evaluate(bareSign(100, 60, 8)));
    expect(volume(mesh)).toBeCloseTo(100 * 60 * 8, 6);
    expect(surfaceArea(mesh)).toBeCloseTo(2 * (100 * 60 + 100 * 8 + 60 * 8), 6);
    expect(mesh.triangles.length / 3).toBe(12);
    expect(meshBounds(mesh)).toEqual({ min: [-50, -30, -8], max: [50, 30, 0] });
  });

  it('has the genus of its holes', () => {
    const sign = bareSign(100, 60, 8);
    for (const x of [-30, 0, 30]) addShape(sign, 10, { kind: 'cut-through' }, { x });
    expect(manifoldOf(workshop.m, solidOf(evaluate(sign))).genus()).toBe(3);
    const letters = bareSign(200, 60, 8);
    addText(letters, 'BOA', 'barlow-bold', 30, { kind: 'cut-through' });
    const cut = manifoldOf(workshop.m, solidOf(evaluate(letters)));
    // B, O and A leave 4 islands; each of the three letters is a hole.
    expect(cut.decompose()).toHaveLength(5);
  });

  it('puts raised on recessed on raised', () => {
    const sign = bareSign(100, 100, 20);
    addShape(sign, [80, 80], { kind: 'raise', by: 5 });
    addShape(sign, [60, 60], { kind: 'carve', by: 3 });
    const panel = sign.parts[1].id;
    addShape(sign, [20, 20], { kind: 'raise', by: 4 }, { sitsOn: { kind: 'part', part: panel, at: 'floor' } });
    const evaluation = evaluate(sign);
    expect(evaluation.levels.map(({ z, areaMm2 }) => [z, areaMm2])).toEqual([
      [5, 6400 - 3600],
      [1, 400],
      [0, 10_000 - 6400],
      [-3, 3600 - 400],
    ]);
    expectSound(evaluation);
  });

  it('closes where corners and edges of levels meet in one point', () => {
    const sign = bareSign(40, 40, 5);
    addShape(sign, [10, 10], { kind: 'raise', by: 2 }, { x: -5, y: -5 });
    addShape(sign, [10, 10], { kind: 'raise', by: 2 }, { x: 5, y: 5 });
    addShape(sign, [10, 10], { kind: 'raise', by: 1 }, { x: 5, y: -5 });
    addShape(sign, [10, 10], { kind: 'cut-through' }, { x: 15, y: 15 });
    expectSound(evaluate(sign));
  });

  it.each(demoSigns())('is closed and right for %s', (_, document) => {
    const evaluation = evaluate(readSign(document));
    // Line engraving and set levels have no counterpart in the simple booleans.
    const isPlain =
      !hasBack(evaluation.sign) &&
      evaluation.sign.parts.every((part) =>
        part.tiers.every(({ action, area, edge }) => action.kind !== 'line' && area.kind === 'outline' && !edge),
      );
    expectSound(evaluation, { compare: isPlain && evaluation.parts.reduce((sum, part) => sum + part.letters, 0) < 200 });
    expect(notesOf(evaluation).filter(({ weight }) => weight !== 'said')).toEqual([]);
    // Over a plan in k pieces with h holes stands a solid of genus h − k + 1 (by the Euler characteristic).
    const rings = regionOf(evaluation, ...evaluation.places.map(({ label }) => label));
    const pieces = rings.filter((ring) => contourArea(ring) > 0).length;
    expect(manifoldOf(workshop.m, solidOf(evaluation)).genus()).toBe(rings.length - pieces - pieces + 1);
  });

  it('is closed and right for random signs', () => {
    const action: fc.Arbitrary<Action> = fc.oneof(
      fc.integer({ min: 1, max: 12 }).map((n) => ({ kind: 'raise', by: n / 2 }) as const),
      fc.integer({ min: 1, max: 15 }).map((n) => ({ kind: 'carve', by: n / 2 }) as const),
      fc.integer({ min: -7, max: 6 }).map((to) => ({ kind: 'set', to }) as const),
      fc.constant({ kind: 'cut-through' } as const),
    );
    const piece = fc.record({
      what: fc.oneof(
        fc.tuple(fc.integer({ min: 4, max: 90 }), fc.integer({ min: 4, max: 60 })),
        fc.integer({ min: 3, max: 50 }),
        fc.constantFrom('Ag', 'RO8', '&', 'ﬁ', 'مشتل', 'क्षेत्र'),
      ),
      x: fc.integer({ min: -50, max: 50 }),
      y: fc.integer({ min: -35, max: 35 }),
      turn: fc.constantFrom(0, 0, 90, 17, -45),
      action,
    });
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 6 }), (pieces) => {
        const sign = bareSign(110, 80, 9);
        for (const [i, { what, x: atX, y: atY, turn, action: does }] of pieces.entries()) {
          const [x, y] = [atX * 1.0173 + i * 0.313, atY * 0.9871 - i * 0.177];
          if (typeof what === 'string') {
            const font = what === 'مشتل' ? 'amiri-bold' : what === 'क्षेत्र' ? 'noto-sans-devanagari-semibold' : 'lora-bold';
            addText(sign, what, font, 22, does).place = { x, y, turn, mirror: turn === 17 };
          } else addShape(sign, what, does, { x, y, turn });
        }
        const evaluation = evaluate(sign);
        if (evaluation.levels.length > 0) expectSound(evaluation);
      }),
      // manifold-3d drops slivers such as those between a circle and its tangent: odd places and a fixed seed avoid them.
      { numRuns: 60, seed: 20261125 },
    );
  });
});

describe('isWatertight', () => {
  it('sees a missing triangle and one turned round', () => {
    const mesh = solidOf(evaluate(bareSign(10, 10, 2)));
    expect(isWatertight({ ...mesh, triangles: mesh.triangles.slice(3) })).toBe(false);
    const turned = mesh.triangles.slice();
    [turned[0], turned[1]] = [turned[1], turned[0]];
    expect(isWatertight({ ...mesh, triangles: turned })).toBe(false);
    expect(isWatertight({ positions: new Float64Array(), triangles: new Uint32Array() })).toBe(false);
  });

  it('is asked of a blank with a rounded corner too', () => {
    const sign = bareSign(50, 30, 3);
    Object.assign(sign.blank.outline, { cornerRadius: 15 });
    const mesh = solidOf(evaluate(sign));
    expect(isWatertight(mesh)).toBe(true);
    expect(volume(mesh)).toBeCloseTo(3 * crossSection(workshop.m, [rectangle(50, 30, 15)]).area(), 6);
  });
});
