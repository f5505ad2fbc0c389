import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import fc from 'fast-check';
import { offset } from '../arrangement/index.js';
import { area, circle, perimeter, rectangle } from '../geometry/index.js';
import { type Evaluation, regionOf } from '../relief/index.js';
import { type Action, type Area, type Edge, type Sign } from '../sign/index.js';
import { Definition, Tops } from '../../testing/heights.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight, type Mesh, meshBounds } from '../mesh/index.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();
const evaluate = (sign: Sign): Evaluation => workshop.evaluate(sign);

/** Gives the last part's only tier an edge, and another area. */
function edged(sign: Sign, edge: Edge | undefined, on: Area = { kind: 'outline' }): Sign {
  const [tier] = sign.parts[sign.parts.length - 1].tiers;
  tier.area = on;
  if (edge) tier.edge = edge;
  return sign;
}

/** Material added to, or taken from, a plain 100 × 80 × 20 mm blank. */
function difference(build: (sign: Sign) => void): number {
  const sign = bareSign(100, 80, 20);
  build(sign);
  return soundVolume(evaluate(sign)) - 100 * 80 * 20;
}

const soundVolume = (evaluation: Evaluation): number => workshop.soundSolid(evaluation).mm3;

/** Compares a mesh with the relief function at odd places of a blank. */
function expectAsDefined(evaluation: Evaluation, mesh: Mesh, width: number, height: number, places: number): void {
  const [definition, tops] = [new Definition(evaluation), new Tops(mesh)];
  for (let i = 1; i <= places; i++) {
    const [x, y] = [(((i * 0.6180339887) % 1) - 0.5) * width, (((i * 0.7548776662) % 1) - 0.5) * height];
    const right = definition.at(x, y, 0.003);
    if (!right) continue;
    const z = tops.at(x, y);
    expect([x, y, z !== undefined && z > right.least - 0.012 && z < right.most + 0.012]).toEqual([x, y, true]);
  }
}

const frustum = (height: number, lower: number, upper: number): number =>
  (height / 3) * (lower + upper + Math.sqrt(lower * upper));
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

describe('slopes against closed forms (textbook)', () => {
  it('a 90° vee in a square is a pyramid half its side deep, in a disc a cone as deep as its radius', () => {
    const vee: Edge = { kind: 'ridged', angle: 90, capped: false };
    expect(difference((sign) => edged((addShape(sign, [20, 20], { kind: 'carve', by: 1 }), sign), vee))).toBeCloseTo(
      (-400 * 10) / 3,
      2,
    );
    const disc = circle(0, 0, 8);
    const cone = difference((sign) => edged((addShape(sign, 16, { kind: 'carve', by: 1 }), sign), vee));
    // The chords of the disc lie 0.02 mm inside of it.
    expect(Math.abs(cone + (area([disc]) * 8 * Math.cos(Math.PI / (disc.length / 2))) / 3)).toBeLessThan(0.2);
    expect(Math.abs(cone / ((-Math.PI * 512) / 3) - 1)).toBeLessThan(0.01);
  });

  it('sloped squares and discs are frusta, sized at their foot or at their top', () => {
    for (const angle of [5, 10, 30, 60]) {
      const move = 3 * Math.tan(radians(angle));
      const at = (sized: 'foot' | 'top') =>
        difference((sign) => edged((addShape(sign, [20, 20], { kind: 'raise', by: 3 }), sign), { kind: 'sloped', angle, sized }));
      expect(Math.abs(at('foot') - frustum(3, 400, (20 - 2 * move) ** 2))).toBeLessThan(0.01);
      // The grown foot lies on the grid.
      expect(Math.abs(at('top') - frustum(3, (20 + 2 * move) ** 2, 400))).toBeLessThan(0.02);
      const carved = difference((sign) =>
        edged((addShape(sign, [20, 20], { kind: 'carve', by: 3 }), sign), { kind: 'sloped', angle, sized: 'foot' }),
      );
      expect(Math.abs(carved + frustum(3, (20 + 2 * move) ** 2, 400))).toBeLessThan(0.02);
    }
    const disc = difference((sign) =>
      edged((addShape(sign, 30, { kind: 'raise', by: 4 }), sign), { kind: 'sloped', angle: 20, sized: 'foot' }),
    );
    const r = 15 - 4 * Math.tan(radians(20));
    expect(Math.abs(disc / frustum(4, Math.PI * 225, Math.PI * r * r) - 1)).toBeLessThan(0.003);
  });

  it('a recess of stadium form takes out w·h + πh²/4 by its depth', () => {
    const taken = difference((sign) => {
      addShape(sign, [1, 1], { kind: 'carve', by: 2 });
      Object.assign(sign.parts[0], { shape: { kind: 'stadium', width: 60, height: 20 } });
    });
    expect(Math.abs(taken / (-2 * (40 * 20 + Math.PI * 100)) - 1)).toBeLessThan(0.001);
  });

  it('a rounded edge takes away (1 − π/4)·r² along the way of its centroid (Pappus), a cove π/4·r²', () => {
    const [r, h] = [2, 5];
    // Chords are up to 0.012 mm too low, over the plan of the rounding.
    const chords = 0.012 * 80 * r;
    // Of a square of side s: along its sides, less what the mitred corners share: ∫ over d of the perimeter 4(s − 2d) × (h − z(d)).
    const taken = (missing: (d: number) => number): number => {
      let sum = 0;
      const steps = 200_000;
      for (let i = 0; i < steps; i++) {
        const d = ((i + 0.5) / steps) * r;
        sum += 4 * (20 - 2 * d) * missing(d) * (r / steps);
      }
      return sum;
    };
    const rounded = difference((sign) =>
      edged((addShape(sign, [20, 20], { kind: 'raise', by: h }), sign), { kind: 'rounded', radius: r }),
    );
    expect(Math.abs(400 * h - rounded - taken((d) => r - Math.sqrt(r * r - (r - d) ** 2)))).toBeLessThan(chords);
    const cove = difference((sign) =>
      edged((addShape(sign, [20, 20], { kind: 'raise', by: h }), sign), { kind: 'cove', radius: r }),
    );
    expect(Math.abs(400 * h - cove - taken((d) => Math.sqrt(r * r - d * d)))).toBeLessThan(chords);
    // The disc by Pappus: area × 2π × distance of the centroid from the axis; of the corner left by a quarter circle that is
    // r·(10 − 3π)/(12 − 3π) from the upright side.
    const disc = difference((sign) =>
      edged((addShape(sign, 40, { kind: 'raise', by: h }), sign), { kind: 'rounded', radius: r }),
    );
    const outline = circle(0, 0, 20);
    const corner = (1 - Math.PI / 4) * r * r;
    const centroid = 20 - (r * (10 - 3 * Math.PI)) / (12 - 3 * Math.PI);
    expect(Math.abs(area([outline]) * h - disc - corner * 2 * Math.PI * centroid)).toBeLessThan(2 * chords);
    expect(perimeter([outline])).toBeGreaterThan(125);
  });

  it('a chamfer all round the blank takes off a frustum’s difference', () => {
    const sign = bareSign(100, 80, 20);
    sign.blank.edge = { kind: 'chamfered', width: 3, height: 2 };
    const top = 94 * 74;
    const prismatoid = (2 / 6) * (8000 + top + 4 * (97 * 77));
    expect(soundVolume(evaluate(sign))).toBeCloseTo(8000 * 18 + prismatoid, 2);
  });

  it('stepped letters are the sum of their steps: block letters with a second tier of 2 mm at 10°', () => {
    // An L of two bars, whose second tier is shrunk by 1 mm: every band of it is the L shrunk further.
    const outline = { kind: 'outline', width: 30, height: 40, path: 'M0 0H30V10H10V40H0Z' } as const;
    const build = (sign: Sign) => {
      addShape(sign, [1, 1], { kind: 'raise', by: 3 });
      Object.assign(sign.parts[0], { shape: outline });
      const [first] = sign.parts[0].tiers;
      sign.parts[0].tiers.push({
        ...first,
        id: 'upper',
        action: { kind: 'raise', by: 5 },
        area: { kind: 'offset', by: -1 },
        edge: { kind: 'sloped', angle: 10, sized: 'foot' },
      });
    };
    // At inset d the L has the area (10 − 2d)·(40 − 2d) + 20·(10 − 2d), and the inner corner rounds off (1 − π/4)·d² of nothing but itself.
    const at = (d: number) => (10 - 2 * d) * (40 - 2 * d) + 20 * (10 - 2 * d) + (1 - Math.PI / 4) * d * d;
    const move = Math.tan(radians(10));
    let upper = 3 * at(1) * 0;
    const steps = 20_000;
    for (let i = 0; i < steps; i++) upper += at(1 + (((i + 0.5) / steps) * 5 - 0) * move) * (5 / steps);
    // The second tier stands on the face, too: what it adds begins where it rises over the first.
    let added = 0;
    for (let i = 0; i < steps; i++) {
      const z = ((i + 0.5) / steps) * 5;
      if (z > 3) added += at(1 + z * move) * (5 / steps);
    }
    expect(upper).toBeGreaterThan(added);
    expect(Math.abs(difference(build) - (3 * 600 + added))).toBeLessThan(0.5);
  });
});

describe('slopes that meet', () => {
  const vee: Edge = { kind: 'ridged', angle: 90, capped: false };

  it('are the higher of both: two crossing ridges share the pyramid of their crossing', () => {
    const both = difference((sign) => {
      edged((addShape(sign, [60, 10], { kind: 'raise', by: 1 }), sign), vee);
      edged((addShape(sign, [10, 60], { kind: 'raise', by: 1 }), sign), vee);
    });
    // A hipped ridge over w × h has h²(3w − h)/12; both share the square pyramid over their crossing.
    const one = (100 * (180 - 10)) / 12;
    expect(Math.abs(both - (2 * one - (100 * 5) / 3))).toBeLessThan(0.05);
  });

  it('stop at levels: a ridge over a raised panel stands out only above it', () => {
    const out = difference((sign) => {
      addShape(sign, [90, 70], { kind: 'raise', by: 2 });
      edged((addShape(sign, [20, 20], { kind: 'raise', by: 1 }), sign), vee);
    });
    // Above 2 mm the pyramid is one of side 16.
    expect(Math.abs(out - (90 * 70 * 2 + (256 * 8) / 3))).toBeLessThan(0.02);
  });

  it('leave a level plate under letters: words on a panel with a cove keep their slopes to themselves', () => {
    const sign = bareSign(200, 80, 20);
    edged((addShape(sign, [180, 60], { kind: 'carve', by: 4 }), sign), { kind: 'cove', radius: 4 });
    const words = addText(sign, 'Ga', 'lora-bold', 20, { kind: 'raise', by: 2 });
    words.sitsOn = { kind: 'part', part: sign.parts[0].id, at: 'floor' };
    edged(sign, { kind: 'sloped', angle: 10, sized: 'foot' });
    const evaluation = evaluate(sign);
    expect(evaluation.slopeMeshes.size).toBe(2);
    soundVolume(evaluation);
    expect(evaluation.levels.map(({ z }) => z)).toEqual([0, -2, -4]);
  });

  it('come out at the back as holes and leave the rest closed', () => {
    const sign = bareSign(100, 80, 6);
    edged((addShape(sign, [30, 30], { kind: 'carve', by: 1 }), sign), vee);
    const evaluation = evaluate(sign);
    // A pyramid of 15 mm cut at 6 mm leaves a square hole of 18 mm.
    expect(soundVolume(evaluation)).toBeCloseTo(100 * 80 * 6 - frustum(6, 900, 324), 1);
    expect(notesOf(evaluation).map(({ code }) => code)).toContain('through-back');
    expect(area(regionOf(evaluation, 1))).toBeCloseTo(324, 1);
  });

  it('hold where raised, set and carved letters with slopes lie across each other', () => {
    const sign = bareSign(120, 60, 20);
    addText(sign, 'SR&', 'lora-bold', 24, { kind: 'raise', by: 5 });
    edged(sign, vee);
    addText(sign, 'OX', 'lora-bold', 24, { kind: 'set', to: 3 }).place = { x: 3, y: 5, turn: 17, mirror: false };
    addText(sign, '8', 'lora-bold', 24, { kind: 'carve', by: 3 }).place = { x: 3, y: -5, turn: -10, mirror: true };
    edged(sign, { kind: 'sloped', angle: 20, sized: 'top' });
    const evaluation = evaluate(sign);
    soundVolume(evaluation);
    expectAsDefined(evaluation, solidOf(evaluation), 120, 60, 600);
  });

  it('of a letter that another part has too are those of its own place, wherever it was met first', () => {
    const sign = bareSign(90, 60, 12);
    const first = addText(sign, 'g&', 'barlow-bold', 22, { kind: 'raise', by: 0.5 });
    first.place.x = -17.3;
    first.tiers[0].edge = { kind: 'cove', radius: 0.6 };
    const second = addText(sign, 'g&', 'barlow-bold', 22, { kind: 'carve', by: 0.5 });
    second.id = 'line-2';
    second.place.x = 9.1;
    second.tiers[0].edge = { kind: 'sloped', angle: 15, sized: 'top' };
    const evaluation = evaluate(sign);
    soundVolume(evaluation);
    expectAsDefined(evaluation, solidOf(evaluation), 88, 58, 600);
  });

  it('are level beyond their run, also where the run is the whole field: a cove carved over a sloped letter', () => {
    const sign = bareSign(60, 44, 8);
    addText(sign, 'R', 'lora-bold', 14, { kind: 'set', to: 2 });
    edged(sign, { kind: 'sloped', angle: 35, sized: 'top' });
    addText(sign, 'R', 'lora-bold', 14, { kind: 'carve', by: 0.5 }).place.turn = 90;
    edged(sign, { kind: 'cove', radius: 1.5 }, { kind: 'offset', by: 1 });
    const evaluation = evaluate(sign);
    expectAsDefined(evaluation, solidOf(evaluation), 30, 30, 500);
  });

  it('give the same solid whatever the order of parts that do not meet', () => {
    const build = (order: readonly number[]): number => {
      const sign = bareSign(100, 80, 20);
      for (const i of order) {
        addShape(sign, [12, 9], { kind: i % 2 ? 'carve' : 'raise', by: 2 + i }, { x: 24 * i - 36, y: i * 3 });
        edged(sign, { kind: 'sloped', angle: 12, sized: 'foot' });
      }
      return soundVolume(evaluate(sign));
    };
    expect(build([3, 1, 0, 2])).toBeCloseTo(build([0, 1, 2, 3]), 9);
  });

  it('close over any stack of tiers on any letters, between back and highest tier', () => {
    const edge: fc.Arbitrary<Edge | undefined> = fc.constantFrom<(Edge | undefined)[]>(
      undefined,
      { kind: 'sloped', angle: 10, sized: 'foot' },
      { kind: 'sloped', angle: 35, sized: 'top' },
      { kind: 'rounded', radius: 1 },
      { kind: 'chamfered', width: 0.7, height: 1.2 },
      { kind: 'cove', radius: 1.5 },
      { kind: 'ridged', angle: 90, capped: false },
      { kind: 'ridged', angle: 60, capped: true },
    );
    const on: fc.Arbitrary<Area> = fc.constantFrom<Area[]>(
      { kind: 'outline' },
      { kind: 'offset', by: 1 },
      { kind: 'offset', by: -0.4, corners: 'mitred' },
      { kind: 'stroke', width: 0.8, side: 'outside' },
      { kind: 'stroke', width: 0.6, side: 'inside' },
    );
    const action: fc.Arbitrary<Action> = fc.oneof(
      fc.integer({ min: 1, max: 8 }).map((n) => ({ kind: 'raise', by: n / 2 }) as const),
      fc.integer({ min: 1, max: 10 }).map((n) => ({ kind: 'carve', by: n / 2 }) as const),
      fc.integer({ min: -6, max: 6 }).map((to) => ({ kind: 'set', to }) as const),
      fc.constant({ kind: 'cut-through' } as const),
    );
    const tier = fc.record({ edge, on, action });
    const part = fc.record({
      what: fc.constantFrom('R', '&', 'g', 'pane', 'disc'),
      x: fc.integer({ min: -20, max: 20 }),
      y: fc.integer({ min: -14, max: 14 }),
      turn: fc.constantFrom(0, 0, 90, 23),
      tiers: fc.array(tier, { minLength: 1, maxLength: 3 }),
    });
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 2 }), (parts) => {
        const sign = bareSign(60, 44, 8);
        for (const [i, { what, x, y, turn, tiers }] of parts.entries()) {
          const first: Action = { kind: 'raise', by: 1 };
          if (what === 'pane') addShape(sign, [18, 13], first, { turn });
          else if (what === 'disc') addShape(sign, 14, first);
          else addText(sign, what, 'lora-bold', 14, first);
          const added = sign.parts[sign.parts.length - 1];
          Object.assign(added.place, { x: x * 1.0173 + i * 0.313, y: y * 0.9871 - i * 0.177, turn });
          added.tiers = tiers.map((each, k) => ({
            id: `tier-${k}`,
            on: true,
            area: each.on,
            action: each.action,
            ...(each.edge ? { edge: each.edge } : {}),
          }));
        }
        const evaluation = evaluate(sign);
        if (evaluation.places.length === 0) return;
        const mesh = solidOf(evaluation);
        expect(isWatertight(mesh)).toBe(true);
        expect(manifoldOf(workshop.m, mesh).status()).toBe('NoError');
        const { min, max } = meshBounds(mesh);
        expect(min[2]).toBeGreaterThanOrEqual(-8);
        const tallest = Math.max(0, ...evaluation.rungs.map(({ z, reached }) => Math.max(z, reached ?? z)));
        expect(max[2]).toBeLessThanOrEqual(tallest + 1e-6);
        expectAsDefined(evaluation, mesh, 60, 44, 150);
      }),
      { numRuns: 6, seed: 20261125, endOnFailure: true },
    );
  });
});

describe('slopes that lean outwards of places that meet in a point', () => {
  it.each([
    ['two points', 'M-20 0L0 0L-16 -14ZM0 0L20 2L6 -12Z'],
    ['a point and an inner corner', 'M-20 -10L20 -10L20 10L0 0L-20 10ZM0 0L6 14L-6 14Z'],
    ['three points', 'M0 0L-20 4L-18 -6ZM0 0L14 -12L18 -2ZM0 0L8 16L-6 14Z'],
  ])('take up what growing does: %s', (_, path) => {
    const [height, angle] = [6, 20];
    const sign = bareSign(100, 80, 20);
    addShape(sign, [40, 30], { kind: 'raise', by: height });
    Object.assign(sign.parts[0], { shape: { kind: 'outline', width: 40, height: 30, path } });
    const evaluation = evaluate(edged(sign, { kind: 'sloped', angle, sized: 'top' }));
    const volume = soundVolume(evaluation) - 100 * 80 * 20;
    const level = evaluation.layers[0].level!;
    const run = height * Math.tan((angle * Math.PI) / 180);
    const steps = 400;
    let sum = 0;
    for (let i = 0; i < steps; i++) sum += area(offset(level.contours, ((i + 0.5) / steps) * run, undefined, 'mitred'));
    expect(volume / ((sum * height) / steps) - 1).toBeCloseTo(0, 4);
  });
});

describe('letters by hand', () => {
  it('rise or sink more than the others, with their edges', () => {
    const sign = bareSign(200, 60, 10);
    const words = addText(sign, 'RISE', 'barlow-bold', 30, { kind: 'raise', by: 2 });
    const even = evaluate(sign).levels.find(({ z }) => z === 2)!.areaMm2;
    words.letters = [{ at: 2, more: 1.5 }];
    const [first, second] = evaluate(sign).levels;
    expect([first.z, second.z]).toEqual([3.5, 2]);
    expect(first.areaMm2 + second.areaMm2).toBeCloseTo(even, 6);
    edged(sign, { kind: 'sloped', angle: 10, sized: 'foot' });
    const sloped = evaluate(sign);
    soundVolume(sloped);
    expect(sloped.highest).toBe(3.5);
    expectAsDefined(sloped, solidOf(sloped), 200, 60, 300);
    words.tiers[0].action = { kind: 'carve', by: 2 };
    words.letters = [{ at: 0, more: -9 }];
    expect(evaluate(sign).levels.map(({ z }) => z)).toEqual([0, -2]);
  });
});

describe('strokes', () => {
  const areaOf = (on: Area): number => {
    const sign = bareSign(200, 60, 10);
    addText(sign, 'RSG&', 'lora-bold', 30, { kind: 'raise', by: 2 });
    edged(sign, undefined, on);
    return evaluate(sign).levels.find(({ z }) => z === 2)?.areaMm2 ?? 0;
  };

  it('and fills of one letter share an edge: ring and fill are the grown outline, and nothing lies in both', () => {
    const whole = areaOf({ kind: 'outline' });
    const ring = areaOf({ kind: 'stroke', width: 1, side: 'outside' });
    expect(whole + ring).toBeCloseTo(areaOf({ kind: 'offset', by: 1 }), 6);
    const wall = areaOf({ kind: 'stroke', width: 0.8, side: 'inside' });
    expect(wall + areaOf({ kind: 'offset', by: -0.8 })).toBeCloseTo(whole, 6);
    const on = areaOf({ kind: 'stroke', width: 1, side: 'on' });
    expect(on).toBeCloseTo(areaOf({ kind: 'offset', by: 0.5 }) - areaOf({ kind: 'offset', by: -0.5 }), 6);
    // Both in one sign, on different levels.
    const sign = bareSign(200, 60, 10);
    addText(sign, 'RSG&', 'lora-bold', 30, { kind: 'raise', by: 2 });
    const [fill] = sign.parts[0].tiers;
    sign.parts[0].tiers.push({
      ...fill,
      id: 'ring',
      area: { kind: 'stroke', width: 1, side: 'outside' },
      action: { kind: 'raise', by: 3 },
    });
    const levels = new Map(evaluate(sign).levels.map(({ z, areaMm2 }) => [z, areaMm2]));
    expect(levels.get(2)).toBeCloseTo(whole, 6);
    expect(levels.get(3)).toBeCloseTo(ring, 6);
  });

  it('grow with the letter where that is chosen', () => {
    const scaled = areaOf({ kind: 'stroke', width: 5, side: 'outside', scales: true });
    expect(scaled).toBeCloseTo(areaOf({ kind: 'stroke', width: 1.5, side: 'outside' }), 6);
  });

  it('tell where they swallow something, with the largest that keeps all', () => {
    const sign = bareSign(200, 60, 10);
    addText(sign, 'Ro', 'lora-bold', 30, { kind: 'raise', by: 2 });
    edged(sign, undefined, { kind: 'offset', by: 5 });
    const [note] = notesOf(evaluate(sign)).filter(({ code }) => code === 'area-loses');
    const largest = Number(/at most ([\d.]+) mm/u.exec(note.text)![1]);
    expect(note.x).toBeDefined();
    const codes = (by: number) => {
      edged(sign, undefined, { kind: 'offset', by });
      return notesOf(evaluate(sign)).map(({ code }) => code);
    };
    expect(codes(largest - 0.02)).not.toContain('area-loses');
    expect(codes(largest + 0.02)).toContain('area-loses');
    expect(codes(-9)).toContain('offset-swallowed');
    // A counter as wide as a disc closes at its radius.
    const ring = bareSign(100, 80, 10);
    addShape(ring, [1, 1], { kind: 'raise', by: 1 });
    Object.assign(ring.parts[0], { shape: { kind: 'border', of: 'blank', inset: 10, width: 20 } });
    edged(ring, undefined, { kind: 'offset', by: 12 });
    const closed = notesOf(evaluate(ring)).find(({ code }) => code === 'area-loses')!;
    expect(closed.text).toContain('at most 10 mm');
    expect(area([rectangle(40, 20)])).toBe(800);
  });

  it('tell how high a slope comes where the strokes are too narrow for it', () => {
    const sign = bareSign(200, 60, 10);
    addShape(sign, [40, 10], { kind: 'raise', by: 8 });
    edged(sign, { kind: 'sloped', angle: 45, sized: 'foot' });
    const evaluation = evaluate(sign);
    expect(notesOf(evaluation).map(({ text }) => text)).toEqual([
      'part-1: its strokes are too narrow for these sides to come to 8 mm; the narrowest comes to 5 mm.',
    ]);
    expect(evaluation.highest).toBeCloseTo(5, 6);
    expect(evaluation.rungs[0].reached).toBeCloseTo(5, 6);
  });
});
