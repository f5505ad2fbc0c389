import { describe, expect, it } from '@jest/globals';
import { bentVolume } from '../../testing/bent-volume.js';
import { Columns } from '../../testing/columns.js';
import { Random } from '../../testing/random.js';
import { manifoldOf } from '../../testing/referee.js';
import { roundSign } from '../../testing/round-signs.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { edgeFaults, type ReliefMesh, volume } from '../mesh/index.js';
import { type ShapePart, type Sign, type Support, unrolledCone } from '../sign/index.js';
import { surfaceOf } from '../support/index.js';
import { inSpace } from './in-space.js';
import { namedPieces } from './named-pieces.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();

/** The solid of a sign in space: closed, and taken by a general library that finds the same volume. */
function bent(sign: Sign, tolerance?: number): { mesh: ReliefMesh; mm3: number; expected: number } {
  const evaluation = workshop.evaluate(sign);
  const flat = solidOf(evaluation);
  const { mesh } = inSpace(evaluation, flat, tolerance);
  expect(edgeFaults(mesh)).toEqual({ count: 0 });
  const theirs = manifoldOf(workshop.m, mesh);
  expect(theirs.status()).toBe('NoError');
  const mm3 = volume(mesh);
  expect(Math.abs(theirs.volume() - mm3)).toBeLessThan(1e-5 * mm3);
  return { mesh, mm3, expected: bentVolume(flat, surfaceOf(sign)!, 20) };
}

/** A post all the way round: a rectangle as wide as its face is round. */
const post = (radius: number, height: number, thickness: number, more: object = {}): Sign =>
  roundSign({ kind: 'cylinder', radius, facing: 'outside', round: true, ...more }, height, thickness);

const band = (sign: Sign, height: number, action: ShapePart['tiers'][number]['action']): Sign => {
  addShape(sign, 10, action);
  (sign.parts[sign.parts.length - 1] as ShapePart).shape = { kind: 'rectangle', width: 2000, height, cornerRadius: 0 };
  return sign;
};

/** mm³ that chords 0.002 mm inside of the true surface may cost. */
const FINE = 0.002;

const TRUE_SUPPORTS: readonly Support[] = [
  { kind: 'cylinder', radius: 60, facing: 'outside' },
  { kind: 'cylinder', radius: 90, facing: 'inside' },
  { kind: 'cylinder', radius: 30, facing: 'outside', axis: 'level' },
  { kind: 'cone', bottom: 60, top: 40, height: 90, facing: 'outside' },
  { kind: 'cone', bottom: 60, top: 90, height: 90, facing: 'inside' },
  { kind: 'bent', neutral: 40, pieces: [{ kind: 'arc', radius: 40, angle: 80, bends: 'away' }, { kind: 'arc', radius: 60, angle: 60, bends: 'towards' }] }, // prettier-ignore
  { kind: 'swept', line: { kind: 'ellipse', width: 200, depth: 60, bends: 'away' }, profile: [], stretch: 3 },
  { kind: 'swept', line: { kind: 'ellipse', width: 220, depth: 60, bends: 'towards' }, profile: [{ kind: 'arc', radius: 90, angle: 40, bends: 'towards' }], stretch: 9 }, // prettier-ignore
  { kind: 'dome', radius: 120, facing: 'outside', stretch: 9 },
  { kind: 'dome', radius: 160, facing: 'inside', stretch: 9 },
];

/** Triangles of a solid by where they lie in the plan, to be met by rays. */
class Cells {
  private readonly byCell = new Map<string, number[]>();

  constructor(
    private readonly mesh: ReliefMesh,
    plan: Float64Array,
  ) {
    const { triangles } = mesh;
    for (let t = 0; t < triangles.length; t += 3) {
      const corners = [0, 1, 2].map((k) => 3 * triangles[t + k]);
      const [xs, ys] = [0, 1].map((axis) => corners.map((v) => Math.floor(plan[v + axis] / 5)));
      for (let i = Math.min(...xs); i <= Math.max(...xs); i++)
        for (let j = Math.min(...ys); j <= Math.max(...ys); j++)
          this.byCell.set(`${i} ${j}`, [...(this.byCell.get(`${i} ${j}`) ?? []), t]);
    }
  }

  /** Lengths along a ray at which it meets the triangles about a place of the plan, ascending (Möller and Trumbore, 1997). */
  heightsAlong(from: Float64Array, along: Float64Array, x: number, y: number): number[] {
    const { positions: p, triangles } = this.mesh;
    const near = new Set<number>();
    for (const dx of [-0.5, 0.5]) for (const dy of [-0.5, 0.5]) for (const t of this.byCell.get(`${Math.floor((x + dx) / 5)} ${Math.floor((y + dy) / 5)}`) ?? []) near.add(t); // prettier-ignore
    const found = new Set<number>();
    const minus = (a: ArrayLike<number>, b: ArrayLike<number>): number[] => [0, 1, 2].map((k) => a[k] - b[k]);
    const cross = (a: ArrayLike<number>, b: ArrayLike<number>): number[] => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]; // prettier-ignore
    const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    for (const t of near) {
      const [a, b, c] = [0, 1, 2].map((k) => p.subarray(3 * triangles[t + k], 3 * triangles[t + k] + 3));
      const [u, v, w] = [minus(b, a), minus(c, a), minus(from, a)];
      const h = cross(along, v);
      const det = dot(u, h);
      if (Math.abs(det) < 1e-9) continue;
      const s = dot(w, h) / det;
      const q = cross(w, u);
      const r = dot(along, q) / det;
      if (s < 0 || r < 0 || s + r > 1) continue;
      found.add(Number((dot(v, q) / det).toFixed(6)));
    }
    return [...found].filter((z) => z > -8 && z < 8).sort((one, other) => one - other);
  }
}

describe('the solid in space', () => {
  it('of a band raised all round a post: π((R + h)² − R²)w more than the tube', () => {
    const tube = bent(post(60, 100, 6), FINE).mm3;
    expect(tube / (Math.PI * (60 ** 2 - 54 ** 2) * 100)).toBeCloseTo(1, 4);
    const raised = bent(band(post(60, 100, 6), 30, { kind: 'raise', by: 4 }), FINE).mm3;
    expect((raised - tube) / (Math.PI * (64 ** 2 - 60 ** 2) * 30)).toBeCloseTo(1, 3);
    const carved = bent(band(post(60, 100, 6), 30, { kind: 'carve', by: 2 }), FINE).mm3;
    expect((tube - carved) / (Math.PI * (60 ** 2 - 58 ** 2) * 30)).toBeCloseTo(1, 3);
  });

  it('of a ring of round dots: each A·h(1 + h/2R) (Pappus)', () => {
    const sign = post(40, 60, 5);
    addShape(sign, 10, { kind: 'raise', by: 3 });
    const dots = sign.parts[0] as ShapePart;
    dots.shape = { kind: 'circle', diameter: 12 };
    dots.copies = { kind: 'row', count: 8, stepX: (2 * Math.PI * 40) / 8, stepY: 0 };
    const more = bent(sign, FINE).mm3 - bent(post(40, 60, 5), FINE).mm3;
    // Eight of them in a row about the middle: the outermost lie half a step from the seam.
    expect(more / (8 * Math.PI * 36 * 3 * (1 + 3 / 80))).toBeCloseTo(1, 2);
  });

  it('of a post that is solid through, a cup with a floor, and a tube with both', () => {
    const solid = bent(post(60, 100, 6, { filled: true }), FINE).mm3;
    expect(solid / (Math.PI * 60 ** 2 * 100)).toBeCloseTo(1, 4);
    const tube = Math.PI * (60 ** 2 - 54 ** 2) * 100;
    expect(bent(post(60, 100, 6, { floor: 8 }), FINE).mm3 / (tube + Math.PI * 54 ** 2 * 8)).toBeCloseTo(1, 4);
    expect(bent(post(60, 100, 6, { floor: 8, lid: 5 }), FINE).mm3 / (tube + Math.PI * 54 ** 2 * 13)).toBeCloseTo(1, 4);
  });

  it('of a post with a lid and an insert below it: each piece is closed, and the insert gets no lid', () => {
    const sign = post(60, 100, 6, { lid: 8 });
    addShape(sign, 10, { kind: 'insert', below: 0, thickness: 6, material: 'clear acrylic' });
    (sign.parts[0] as ShapePart).shape = { kind: 'circle', diameter: 20 };
    const evaluation = workshop.evaluate(sign);
    const pieces = namedPieces(evaluation).map(({ mesh }) => inSpace(evaluation, mesh, FINE).mesh);
    expect(pieces.map(edgeFaults)).toEqual([{ count: 0 }, { count: 0 }]);
    const insert = Math.min(...pieces.map(volume));
    // A disc of the wall: its area by the mean of the factors, (1 + 1 − 6/60) / 2, times its thickness.
    expect(insert / (Math.PI * 100 * 6 * 0.95)).toBeCloseTo(1, 2);
    const tube = Math.PI * (60 ** 2 - 54 ** 2) * 100 + Math.PI * 54 ** 2 * 8;
    expect((Math.max(...pieces.map(volume)) + insert) / tube).toBeCloseTo(1, 3);
  });

  it('of a cup, all round: its wall by Pappus, floor and filling as frustums; words go over its seam', () => {
    const cone = { bottom: 30, top: 45, height: 100 };
    const { angle, middle, slant } = unrolledCone(cone);
    const sign = bareSign(10, 10, 4);
    sign.blank.outline = { kind: 'sector', radius: middle, height: slant, span: (angle * 180) / Math.PI, apex: 'below' };
    sign.support = { kind: 'cone', ...cone, facing: 'outside', round: true };
    const { mm3 } = bent(sign, FINE);
    // The wall's section turned about the axis: its area times the way of its centroid, which lies 2 mm inside along the normal.
    const inside = 37.5 - 2 * (cone.height / slant);
    const wall = slant * 4 * 2 * Math.PI * inside;
    expect(mm3 / wall).toBeCloseTo(1, 3);
    // A word across the seam is as much as one in the middle.
    const text = addText(sign, 'CUP', 'cinzel-bold', 16, { kind: 'raise', by: 2 });
    const word = bent(sign, FINE).mm3 - mm3;
    const [half, place] = [angle / 2, text.place];
    [place.x, place.y, place.turn] = [middle * Math.sin(half), middle * Math.cos(half) - middle, (-half * 180) / Math.PI];
    expect((bent(sign, FINE).mm3 - mm3) / word).toBeCloseTo(1, 3);
    // Floor and filling: frustums of the wall's inside, whose ends are square to the slant.
    sign.parts = [];
    const [up, out] = [cone.height / slant, (cone.top - cone.bottom) / slant];
    const frustum = (r: number, s: number, h: number): number => ((Math.PI * h) / 3) * (r * r + r * s + s * s);
    const [low, high] = [cone.bottom - 4 * up, cone.top - 4 * up];
    sign.support = { kind: 'cone', ...cone, facing: 'outside', round: true, filled: true };
    expect(bent(sign, FINE).mm3 / (wall + frustum(low, high, cone.height))).toBeCloseTo(1, 3);
    sign.support = { kind: 'cone', ...cone, facing: 'outside', round: true, floor: 10 };
    expect(bent(sign, FINE).mm3 / (wall + frustum(low, low + 10 * out, 10 * up))).toBeCloseTo(1, 3);
  });

  it.each<[string, Support]>([
    ['an arc of a cylinder', { kind: 'cylinder', radius: 90, facing: 'outside' }],
    ['the inside of a drum', { kind: 'cylinder', radius: 90, facing: 'inside' }],
    ['a level half-pipe', { kind: 'cylinder', radius: 40, facing: 'outside', axis: 'level' }],
    ['a cone', { kind: 'cone', bottom: 90, top: 60, height: 120, facing: 'outside' }],
    ['the inside of a cone', { kind: 'cone', bottom: 90, top: 110, height: 120, facing: 'inside' }],
    [
      'a tent',
      {
        kind: 'bent',
        neutral: 40,
        axis: 'level',
        pieces: [
          { kind: 'straight', length: 35 },
          { kind: 'arc', radius: 3, angle: 110, bends: 'away' },
          { kind: 'straight', length: 35 },
        ],
      },
    ],
    [
      'a wave',
      {
        kind: 'bent',
        neutral: 50,
        pieces: [
          { kind: 'arc', radius: 60, angle: 60, bends: 'away' },
          { kind: 'arc', radius: 60, angle: 60, bends: 'towards' },
        ],
      },
    ],
    [
      'a desk',
      {
        kind: 'swept',
        line: { kind: 'ellipse', width: 220, depth: 60, bends: 'away' },
        profile: [{ kind: 'arc', radius: 150, angle: 40, bends: 'away' }],
        stretch: 3,
      },
    ],
    ['a dome', { kind: 'dome', radius: 150, facing: 'outside', stretch: 3 }],
    ['a bowl', { kind: 'dome', radius: 150, facing: 'inside', stretch: 3 }],
  ])('of %s is closed, and is ∫ of the relief with the factor of the surface', (_, support) => {
    const sign = bareSign(200, 80, 5);
    addText(sign, 'WEST', 'cinzel-bold', 30, { kind: 'raise', by: 3 });
    const gate = addText(sign, 'Gate 4', 'barlow-bold', 14, { kind: 'carve', by: 1.5 });
    gate.place.y = -26;
    gate.tiers[0].edge = { kind: 'rounded', radius: 0.6 };
    sign.support = support;
    const { mm3, expected } = bent(sign, FINE);
    expect(Math.abs(mm3 / expected - 1)).toBeLessThan(1e-4);
  });

  it('lets words run over the seam, upright or sloped', () => {
    for (const edge of [undefined, { kind: 'sloped', angle: 20, sized: 'foot' } as const]) {
      const sign = post(50, 60, 5);
      const text = addText(sign, 'SEAM', 'cinzel-bold', 25, { kind: 'raise', by: 2 });
      if (edge) text.tiers[0].edge = edge;
      const middle = bent(sign, FINE).mm3;
      for (const x of [Math.PI * 50, -Math.PI * 50, 140, 2.5 * Math.PI * 50]) {
        text.place.x = x;
        const { mm3 } = bent(sign, FINE);
        expect(Math.abs(mm3 / middle - 1)).toBeLessThan(2e-5);
      }
    }
  });

  it('stands as high above its surface as the relief says, by rays along normals at a thousand places', () => {
    const random = new Random(5);
    let met = 0;
    for (const support of TRUE_SUPPORTS) {
      const sign = bareSign(160, 60, 5);
      addText(sign, 'RAY 8', 'cinzel-bold', 26, { kind: 'raise', by: 3 });
      addText(sign, 'low', 'barlow-bold', 12, { kind: 'carve', by: 2 }).place.y = -20;
      sign.support = support;
      const evaluation = workshop.evaluate(sign);
      const flat = solidOf(evaluation);
      const [columns, surface] = [new Columns(flat), surfaceOf(sign)!];
      const { mesh, plan } = inSpace(evaluation, flat);
      const triangles = new Cells(mesh, plan);
      const [foot, normal] = [new Float64Array(3), new Float64Array(3)];
      for (let i = 0; i < 100; i++) {
        const [x, y] = [random.between(-75, 75), random.between(-25, 25)];
        const heights = columns.at(x, y).map(({ z }) => z);
        // Not beside an upright side, where a hair's breadth tells which it is.
        if ([[0.1, 0], [-0.1, 0], [0, 0.1], [0, -0.1]].some(([dx, dy]) => columns.at(x + dx, y + dy).map(({ z }) => z).join() !== heights.join())) continue; // prettier-ignore
        surface.place(x, y, 0, foot, 0);
        surface.normal(x, y, normal, 0);
        const along = triangles.heightsAlong(foot, normal, x, y);
        expect(along).toHaveLength(heights.length);
        along.forEach((z, k) => expect(Math.abs(z - heights[k])).toBeLessThan(0.021));
        met++;
      }
    }
    expect(met).toBeGreaterThan(600);
  });

  it('unrolls to the letters of the plan: corners of the solid lie where the plan has them, within 0.01 mm', () => {
    const sign = post(60, 60, 5);
    const text = addText(sign, 'ROLL', 'cinzel-bold', 26, { kind: 'raise', by: 3 });
    text.place.x = 40;
    const evaluation = workshop.evaluate(sign);
    const { mesh } = inSpace(evaluation, solidOf(evaluation));
    // By the cylinder's own measure: the arc to a corner at the radius of the letters' tops is R·θ of the plan.
    const seen = new Set<string>();
    for (let v = 0; v < mesh.positions.length; v += 3) {
      const [x, y, z] = mesh.positions.subarray(v, v + 3);
      if (Math.abs(Math.hypot(x, z + 60) - 63) < 1e-6)
        seen.add(`${Math.round(60 * Math.atan2(x, z + 60) * 100)} ${Math.round(y * 100)}`);
    }
    const near = (x: number, y: number): boolean =>
      [-1, 0, 1].some((i) => [-1, 0, 1].some((j) => seen.has(`${Math.round(x * 100) + i} ${Math.round(y * 100) + j}`)));
    const contours = evaluation.parts[0].area.contours;
    expect(contours.length).toBeGreaterThan(4);
    for (const contour of contours) for (let i = 0; i < contour.length; i += 2) expect([contour[i], contour[i + 1], near(contour[i], contour[i + 1])]).toEqual([contour[i], contour[i + 1], true]); // prettier-ignore
  });

  it('seen from behind is the same solid', () => {
    const sign = post(60, 60, 5);
    addText(sign, 'SAME', 'cinzel-bold', 26, { kind: 'raise', by: 3 }).place.x = 170;
    const behind = workshop.evaluate(sign, 'back');
    const { mesh } = inSpace(behind, solidOf(behind));
    expect(edgeFaults(mesh)).toEqual({ count: 0 });
    expect(volume(mesh) / bent(sign).mm3).toBeCloseTo(1, 4);
  });

  it('is told why it cannot be made', () => {
    const of = (sign: Sign) => () => bent(sign);
    expect(of(post(5, 60, 6))).toThrow('leaves 5 mm behind the face');
    const wide = bareSign(400, 60, 5);
    wide.support = { kind: 'cylinder', radius: 60, facing: 'outside' };
    expect(of(wide)).toThrow('once round is 376.99 mm');
    expect(of({ ...wide, support: { kind: 'cylinder', radius: 60, facing: 'outside', round: true } })).toThrow(
      'a rectangle 376.99 mm wide',
    );
    expect(of({ ...wide, support: { kind: 'cone', bottom: 60, top: 60, height: 90, facing: 'outside' } })).toThrow(
      'is a cylinder',
    );
    expect(of({ ...wide, support: { kind: 'dome', radius: 100, facing: 'outside', stretch: 3 } })).toThrow('ends at 157.08 mm');
    const inside = bareSign(60, 60, 5);
    addText(inside, 'W', 'cinzel-bold', 25, { kind: 'raise', by: 12 });
    expect(of({ ...inside, support: { kind: 'cylinder', radius: 11, facing: 'inside' } })).toThrow('stands 12 mm above its face');
    const loop = {
      kind: 'bent',
      neutral: 50,
      pieces: [
        { kind: 'straight', length: 100 },
        { kind: 'arc', radius: 20, angle: 300, bends: 'away' },
        { kind: 'straight', length: 100 },
      ],
    } as const;
    expect(of({ ...wide, support: { ...loop, pieces: [...loop.pieces] } })).toThrow('crosses itself');
    const over = {
      kind: 'swept',
      line: { kind: 'pieces', pieces: [{ kind: 'straight', length: 400 }] },
      profile: [{ kind: 'arc', radius: 15, angle: 220, bends: 'away' }],
      stretch: 3,
    } as const;
    expect(
      of({
        ...wide,
        support: { ...over, line: { kind: 'pieces', pieces: [{ kind: 'straight', length: 400 }] }, profile: [...over.profile] },
      }),
    ).toThrow('runs backwards');
    const through = band(post(60, 100, 6, { floor: 20 }), 30, { kind: 'cut-through' });
    through.parts[0].place.y = -40;
    (through.parts[0] as ShapePart).shape = { kind: 'circle', diameter: 8 };
    expect(of(through)).toThrow('and there are 3');
  });
});
