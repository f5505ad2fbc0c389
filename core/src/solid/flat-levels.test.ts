import { describe, expect, it } from '@jest/globals';
import { Columns } from '../../testing/columns.js';
import { Random } from '../../testing/random.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { edgeFaults, type ReliefMesh, volume } from '../mesh/index.js';
import { type Action, type ShapePart, type Sign, type Support } from '../sign/index.js';
import { surfaceOf } from '../support/index.js';
import { inSpace } from './in-space.js';
import { solidOf, volumeOf } from './solid.js';

const workshop = new Workshop();

const [LONG, HIGH, THICK] = [110, 60, 8];

/** A sign bent around something, with a rectangle set to a level. */
function withPad(support: Support | undefined, to: number, width: number, height: number, flat = true): Sign {
  const sign: Sign = { ...bareSign(LONG, HIGH, THICK), ...(support && { support }) };
  put(sign, { kind: 'set', to, ...(flat && { flat: true as const }) }, width, height);
  return sign;
}

function put(sign: Sign, action: Action, width: number, height: number): ShapePart {
  addShape(sign, 10, action);
  const part = sign.parts[sign.parts.length - 1] as ShapePart;
  part.shape = { kind: 'rectangle', width, height, cornerRadius: 0 };
  return part;
}

/** The solid in space, closed to a general library. */
function bent(sign: Sign, side: 'front' | 'back' = 'front', tolerance = 0.001): { mesh: ReliefMesh; mm3: number } {
  const evaluation = workshop.evaluate(sign, side);
  const { mesh } = inSpace(evaluation, solidOf(evaluation), tolerance);
  expect(edgeFaults(mesh)).toEqual({ count: 0 });
  const theirs = manifoldOf(workshop.m, mesh);
  expect(theirs.status()).toBe('NoError');
  theirs.delete();
  return { mesh, mm3: volume(mesh) };
}

/** mm³ of the blank alone on a cylinder. */
const shell = (inner: number, outer: number, radius: number): number => ((outer ** 2 - inner ** 2) / 2) * (LONG / radius) * HIGH;

/** mm³ that chords may cost: 0.02 mm over what lies in a plane, 0.001 mm elsewhere. */
const near = (area: number): number => 0.01 * area + 0.002 * LONG * HIGH;

describe('levels in planes', () => {
  it('take from the outside of a cylinder what lies between it and the plane, between radii', () => {
    const radius = 50;
    const { mm3 } = bent(withPad({ kind: 'cylinder', radius, facing: 'outside' }, -3, 30, 20));
    // Sector less triangles: R²θ − (R − d)² tan θ of a slab that is 20 mm high.
    const angle = 15 / radius;
    const taken = 20 * (radius ** 2 * angle - (radius - 3) ** 2 * Math.tan(angle));
    expect(Math.abs(mm3 - (shell(radius - THICK, radius, radius) - taken))).toBeLessThan(near(600));
    expect(taken).toBeGreaterThan(20 * near(600));
  });

  it('take from the inside of a cylinder more the further from the middle it is', () => {
    const radius = 90;
    const { mm3 } = bent(withPad({ kind: 'cylinder', radius, facing: 'inside' }, -2, 40, 20));
    const angle = 20 / radius;
    const taken = 20 * ((radius + 2) ** 2 * Math.tan(angle) - radius ** 2 * angle);
    expect(Math.abs(mm3 - (shell(radius, radius + THICK, radius) - taken))).toBeLessThan(near(800));
  });

  it('lie in one plane in space, with what stands on them', () => {
    const sign = withPad({ kind: 'cylinder', radius: 60, facing: 'outside' }, -4, 40, 30);
    const text = addText(sign, 'Fern', 'barlow-bold', 9, { kind: 'raise', by: 1.5 });
    text.sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'floor' };
    text.tiers[0].edge = { kind: 'chamfered', width: 0.3, height: 0.3 };
    const { mesh } = bent(sign);
    const levelAt = [-4, -2.5].map((z) => cornersAt(mesh, z));
    // The floor's edge and each letter's top: hundreds of corners, the middle of the sign touching z = 0.
    expect(levelAt.every((count) => count > 100)).toBe(true);
  });

  it('have what sits on them true in the plane, at its level', () => {
    const supports: Support[] = [
      { kind: 'cylinder', radius: 60, facing: 'outside' },
      { kind: 'cylinder', radius: 90, facing: 'inside', axis: 'level' },
      { kind: 'dome', radius: 120, facing: 'outside', stretch: 9 },
    ];
    for (const support of supports) {
      const sign = withPad(support, -5, 56, 40);
      const dot = put(sign, { kind: 'raise', by: 2 }, 10, 10);
      dot.shape = { kind: 'circle', diameter: 12 };
      dot.place = { x: 17, y: 6, turn: 0, mirror: false };
      dot.sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'floor' };
      const { positions: p } = bent(sign).mesh;
      // Its top lies 3 mm under the plane through the face's middle: a circle of 12 mm about its place.
      const far = [...p.keys()].flatMap((i) =>
        i % 3 === 0 && Math.abs(p[i + 2] + 3) < 1e-6 ? [Math.hypot(p[i] - 17, p[i + 1] - 6)] : [],
      );
      // Within are corners where the surface is creased; along the rim some lie in the middle of its chords.
      expect(Math.max(...far)).toBeLessThan(6.003);
      const sectors = new Set(
        [...p.keys()].flatMap((i) => {
          if (i % 3 !== 0 || Math.abs(p[i + 2] + 3) > 1e-6 || Math.hypot(p[i] - 17, p[i + 1] - 6) < 5.978) return [];
          return [Math.floor((Math.atan2(p[i + 1] - 6, p[i] - 17) / Math.PI) * 8)];
        }),
      );
      expect(sectors.size).toBeGreaterThanOrEqual(16);
    }
  });

  it('are square to a cone, a dome and a swept face at their place, too', () => {
    const supports: Support[] = [
      { kind: 'cone', bottom: 70, top: 50, height: 90, facing: 'outside' },
      { kind: 'dome', radius: 120, facing: 'outside', stretch: 9 },
      { kind: 'swept', line: { kind: 'ellipse', width: 240, depth: 90, bends: 'away' }, profile: [], stretch: 3 },
    ];
    const normal = new Float64Array(3);
    for (const support of supports) {
      const sign = withPad(support, -3, 30, 20);
      surfaceOf(sign)!.normal(0, 0, normal, 0);
      expect([support.kind, cornersAt(bent(sign).mesh, -3, normal) > 20]).toEqual([support.kind, true]);
    }
  });

  it('touch the surface at each copy of their part', () => {
    const radius = 70;
    const sign = withPad({ kind: 'cylinder', radius, facing: 'outside' }, -2, 16, 20);
    sign.parts[0].copies = { kind: 'row', count: 3, stepX: 34, stepY: 0 };
    const one = 20 * (radius ** 2 * (8 / radius) - (radius - 2) ** 2 * Math.tan(8 / radius));
    expect(Math.abs(bent(sign).mm3 - (shell(radius - THICK, radius, radius) - 3 * one))).toBeLessThan(near(960));
  });

  it('are levels as any where nothing is bent, and on the faces of a block', () => {
    for (const support of [undefined, { kind: 'block', body: { kind: 'box', width: 40, height: 40, depth: 30 } } as const]) {
      const [flat, following] = [true, false].map((isFlat) => withPad(support as Support | undefined, -3, 20, 20, isFlat));
      expect(volumeOf(workshop.evaluate(flat))).toBe(volumeOf(workshop.evaluate(following)));
    }
  });

  it('have the same solid from behind, and on the back', () => {
    for (const side of ['front', 'back'] as const) {
      const sign = withPad({ kind: 'cylinder', radius: 60, facing: 'outside' }, -2, 24, 20);
      sign.parts[0].place = { x: 12, y: 5, turn: 15, mirror: false };
      if (side === 'back') sign.parts[0].side = side;
      const [front, back] = [bent(sign).mm3, bent(sign, 'back').mm3];
      expect(Math.abs(front - back)).toBeLessThan(1e-4 * front);
      // Behind the wall bends towards one who stands there: what is taken out is more than its level says, and not less.
      const [whole, by] = [bent({ ...sign, parts: [] }).mm3, 24 * 20 * 2];
      expect(whole - front > by * ((60 - THICK) / 60)).toBe(side === 'back');
    }
  });

  it('leave a little where they would come out behind, beside what is carved there as well', () => {
    const sign = withPad({ kind: 'cylinder', radius: 60, facing: 'inside' }, -6, 70, 20);
    const behind = put(sign, { kind: 'carve', by: 1 }, 20, 40);
    behind.side = 'back';
    behind.place.x = 30;
    const columns = new Columns(solidOf(workshop.evaluate(sign)));
    // (R + d)/cos θ − R is 13.9 mm there, and the wall 8 mm thick.
    for (const [x, bottom] of [
      [33, -THICK],
      [-30, -(THICK - 1)],
    ] as const) {
      // prettier-ignore
      const [low, high] = columns.at(x, 1).map(({ z }) => z);
      expect(low).toBeCloseTo(bottom, 6);
      expect(high - low).toBeCloseTo(0.02, 3);
    }
  });

  it('leave the face as it is where they meet it', () => {
    const radius = 60;
    for (const reach of [9, 8.97]) {
      // At the rim, this far from the middle, plane and face are at one height.
      const sign = withPad({ kind: 'cylinder', radius, facing: 'outside' }, radius * Math.cos(reach / radius) - radius, 1, 1);
      (sign.parts[0] as ShapePart).shape = { kind: 'circle', diameter: 18 };
      const { positions: p } = solidOf(workshop.evaluate(sign));
      let beside = 0;
      for (let i = 0; i < p.length; i += 3) {
        const isOnEdge = Math.abs(p[i]) > LONG / 2 - 0.01 || Math.abs(p[i + 1]) > HIGH / 2 - 0.01;
        if (isOnEdge || Math.hypot(p[i], p[i + 1]) < 9.01) continue;
        beside++;
        expect(p[i + 2] === 0 || p[i + 2] === -THICK).toBe(true);
      }
      expect(beside).toBeGreaterThan(20);
    }
  });

  it('are closed solids on random signs', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = new Random(seed);
      const facing = random.pick(['outside', 'inside'] as const);
      const radius = random.between(40, 160);
      const support: Support = random.pick([
        { kind: 'cylinder', radius, facing, axis: random.pick(['upright', 'level'] as const) },
        { kind: 'cone', bottom: radius, top: radius * 0.8, height: 100, facing },
        { kind: 'dome', radius: radius + 60, facing, stretch: 9 },
        { kind: 'bent', neutral: 40, pieces: [{ kind: 'straight', length: 40 }, { kind: 'arc', radius, angle: 50, bends: 'away' }] }, // prettier-ignore
      ] as const);
      const sign = withPad(support, random.between(-6, 4), random.between(5, 60), random.between(5, 40));
      sign.parts[0].place = {
        x: random.between(-30, 30),
        y: random.between(-15, 15),
        turn: random.between(0, 90),
        mirror: false,
      };
      const other = put(sign, random.pick([{ kind: 'raise', by: 2 }, { kind: 'carve', by: 2 }, { kind: 'cut-through' }] as const), 20, 20); // prettier-ignore
      if (random.chance(0.5)) other.tiers[0].edge = { kind: 'sloped', angle: 20, sized: 'foot' };
      if (random.chance(0.5)) other.sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'top' };
      const text = addText(sign, 'AB8', 'barlow-bold', 9, { kind: 'raise', by: 1 });
      text.sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'floor' };
      text.place.x = random.between(-20, 20);
      expect([seed, bent(sign, 'front', 0.02).mm3 > 0]).toEqual([seed, true]);
    }
  });
});

/** How many corners lie so far from the plane that touches the face in the middle of the plan. */
function cornersAt({ positions: p }: ReliefMesh, mm: number, [nx, ny, nz]: readonly number[] | Float64Array = [0, 0, 1]): number {
  let count = 0;
  for (let i = 0; i < p.length; i += 3) if (Math.abs(p[i] * nx + p[i + 1] * ny + p[i + 2] * nz - mm) < 1e-6) count++;
  return count;
}
