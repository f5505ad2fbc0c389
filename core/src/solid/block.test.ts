import { beforeAll, describe, expect, it } from '@jest/globals';
import type { CrossSection, Manifold, ManifoldToplevel } from 'manifold-3d';
import { hullOf, onFace } from '../../testing/block-definition.js';
import { Random } from '../../testing/random.js';
import { manifoldOf } from '../../testing/referee.js';
import { bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { bounds } from '../geometry/index.js';
import { volume } from '../mesh/index.js';
import { type BlockBody, type BlockFace, facesOf, laidBlock, newTier, setField, type Sign } from '../sign/index.js';
import { inSpace, solidOf } from './index.js';

const workshop = new Workshop();
let m: ManifoldToplevel;
beforeAll(() => {
  m = workshop.m;
});

/** A bare sign that is a block. */
function blockSign(body: BlockBody): Sign {
  const sign = bareSign(45, 45, 45);
  setField(sign, ['support', 'kind'], 'block');
  sign.support = { kind: 'block', body };
  setField(sign, ['support', 'body', 'width'], body.width);
  return sign;
}

interface Put {
  readonly face: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** mm raised, or with a minus carved; −Infinity cuts through. */
  readonly z: number;
}

function withPut(sign: Sign, { face, x, y, width, height, z }: Put): void {
  const on = facesOf(sign.support).find(({ id }) => id === face)!;
  const id = `part-${sign.parts.length + 1}`;
  const action =
    z === -Infinity
      ? ({ kind: 'cut-through' } as const)
      : z > 0
        ? ({ kind: 'raise', by: z } as const)
        : ({ kind: 'carve', by: -z } as const);
  sign.parts.push({
    kind: 'shape',
    id,
    name: id,
    shape: { kind: 'rectangle', width, height, cornerRadius: 0 },
    place: { x: on.x + x, y: on.y + y, turn: 0, mirror: false },
    sitsOn: { kind: 'face' },
    tiers: [newTier('tier-1', action)],
  });
}

const clamped = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** The relief of a face by the definition: what is raised is as high at least, what is carved as deep, and what is cut through stays so. */
function levelsOn({ outline, x: fx, y: fy }: BlockFace, puts: readonly Put[]): { area: CrossSection; z: number }[] {
  const corners = Array.from({ length: outline.length / 2 }, (_, i): [number, number] => [
    outline[2 * i] - fx,
    outline[2 * i + 1] - fy,
  ]);
  let levels = [{ area: new m.CrossSection([corners], 'NonZero'), z: 0 }];
  for (const put of puts) {
    const own = m.CrossSection.square([put.width, put.height], true).translate(put.x, put.y);
    levels = levels.flatMap(({ area, z }) => [
      { area: area.subtract(own), z },
      { area: area.intersect(own), z: z === -Infinity ? z : put.z > 0 ? Math.max(z, put.z) : Math.min(z, put.z) },
    ]);
  }
  return levels.filter(({ area, z }) => z !== 0 && area.area() > 1e-6);
}

/** The block by the definition: less what every face carves, with what every face raises. */
function definition(sign: Sign, puts: readonly Put[]): Manifold {
  const deep = 2 * sign.blank.thickness;
  const columns = facesOf(sign.support).flatMap((face) => {
    return levelsOn(
      face,
      puts.filter((put) => put.face === face.id),
    ).map(({ area, z: level }) => {
      const z = Math.max(level, -deep);
      return { z, solid: onFace(area.extrude(Math.abs(z)).translate(0, 0, Math.min(0, z)), face) };
    });
  });
  const left = columns.reduce((all, { z, solid }) => (z < 0 ? all.subtract(solid) : all), hullOf(m, facesOf(sign.support)));
  return columns.reduce((all, { z, solid }) => (z > 0 ? all.add(solid) : all), left);
}

function check(sign: Sign, puts: readonly Put[], within = 2e-4): Manifold {
  for (const put of puts) withPut(sign, put);
  const evaluation = workshop.evaluate(sign);
  const { mesh } = inSpace(evaluation, solidOf(evaluation));
  const ours = manifoldOf(m, mesh);
  const theirs = definition(sign, puts);
  // Of solids whose faces all but lie in each other the reference library now and then tells too much on one side; both are as large as each other
  // where the volumes are.
  const beyond = Math.min(ours.subtract(theirs).volume(), theirs.subtract(ours).volume());
  const body = sign.support;
  const size = ours.surfaceArea();
  const off = Math.abs(volume(mesh) - theirs.volume());
  expect({ body, puts, isSame: beyond < within * size, isAsLarge: off < within * size }).toEqual({
    body,
    puts,
    isSame: true,
    isAsLarge: true,
  });
  return ours;
}

const BOX: BlockBody = { kind: 'box', width: 45, height: 45, depth: 45 };
const BODIES: readonly BlockBody[] = [
  BOX,
  { kind: 'box', width: 60, height: 40, depth: 25, chamfer: 4 },
  { kind: 'prism', sides: 6, width: 30, height: 50 },
  { kind: 'prism', sides: 3, width: 40, height: 30 },
  { kind: 'wedge', width: 80, depth: 40, front: 8, back: 30 },
  { kind: 'wedge', width: 80, depth: 40, front: 0, back: 30 },
];

describe('blocks', () => {
  it.each(BODIES.map((body) => [`${body.kind} ${JSON.stringify(body)}`, body] as const))('plain: %s', (_, body) => {
    const sign = blockSign(body);
    const made = check(sign, []);
    expect(made.volume()).toBeCloseTo(hullOf(m, facesOf(sign.support)).volume(), 2);
    // The volumes of a box, of a prism over a regular polygon, and of one over a trapezium.
    if (body.kind === 'box' && body.chamfer === undefined) expect(made.volume()).toBeCloseTo(45 ** 3, 2);
    if (body.kind === 'prism')
      expect(made.volume()).toBeCloseTo((body.sides * body.width ** 2 * body.height) / 4 / Math.tan(Math.PI / body.sides), 1);
    if (body.kind === 'wedge') expect(made.volume()).toBeCloseTo(((body.front + body.back) / 2) * body.depth * body.width, 1);
  });

  it('something raised and something carved in the middle of every face', () => {
    for (const body of BODIES) {
      for (const z of [1.5, -1.5]) {
        const sign = blockSign(body);
        check(
          sign,
          facesOf(sign.support)
            .filter(({ id }) => body.kind !== 'wedge' || id !== 'front')
            .map(({ id }) => ({ face: id, x: 0, y: 0, width: 3, height: 2, z })),
        );
      }
    }
  });

  it('what is carved from two faces meets, and what is cut through comes out on the other side', () => {
    const at = (face: string, z: number, x = 0, y = 0, width = 20, height = 20): Put => ({ face, z, x, y, width, height });
    check(blockSign(BOX), [at('front', -20), at('right', -20)]);
    check(blockSign(BOX), [at('front', -Infinity), at('right', -Infinity, 0, 3, 12, 8)]);
    check(blockSign(BOX), [at('front', -20, 12), at('right', -18, -10, 5)]);
    check(blockSign(BOX), [at('front', -4, 20, 0), at('top', 3, 0, 0, 60, 60)]);
    check(blockSign(BOX), [at('front', -4, 0, 0, 60, 60), at('top', -3, 0, 0, 60, 60)]);
  });

  it('anything on any face of any block', () => {
    const random = new Random(7);
    for (let i = 0; i < Number(process.env.BLOCKS ?? 60); i++) {
      const sign = blockSign(random.pick(BODIES));
      const faces = facesOf(sign.support);
      const puts = Array.from({ length: random.whole(1, 5) }, (): Put => {
        const { id, outline, x: fx, y: fy } = random.pick(faces);
        const { minX, maxX, minY, maxY } = bounds([outline])!;
        const [wide, high] = [(maxX - minX) / 2, (maxY - minY) / 2];
        const inHundredths = (value: number): number => Number(value.toFixed(2));
        // As far over the edges of the face as it has room in the plan.
        const [width, height] = [wide, high].map((half) => inHundredths(random.between(1, 2 * half + 10)));
        const at = (half: number, size: number): number => inHundredths(random.between(-1, 1) * Math.max(0, half + 9 - size / 2));
        const z = random.pick([-Infinity, -12, -3, -1, 2, 5]);
        const [x, y] = [at(wide, width), at(high, height)];
        return { face: id, x: clamped(x, minX - fx, maxX - fx), y: clamped(y, minY - fy, maxY - fy), width, height, z };
      });
      check(sign, puts);
    }
  });

  it('lays faces out beside each other, the first in the middle', () => {
    for (const body of BODIES) {
      const { faces, box } = laidBlock({ kind: 'block', body });
      expect([faces[0].x, faces[0].y]).toEqual([0, 0]);
      for (const face of faces) {
        expect(
          face.outline.every((value, i) =>
            i % 2 === 0 ? value > box.minX && value < box.maxX : value > box.minY && value < box.maxY,
          ),
        ).toBe(true);
        // Directions of every face: at right angles, to the right, up and out.
        const {
          across: [a, b, c],
          up: [d, e, f],
          out,
        } = face;
        [b * f - c * e, c * d - a * f, a * e - b * d].forEach((value, k) => expect(value).toBeCloseTo(out[k], 9));
      }
    }
  });
});
