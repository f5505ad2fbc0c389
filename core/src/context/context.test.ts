import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { glbFile, stlFile } from '../format/index.js';
import { cross, dot, minus, unit, type Vector, weightedSum } from '../geometry/index.js';
import { type Mesh, meshBounds, surfaceArea } from '../mesh/index.js';
import { coloured, solidOf } from '../solid/index.js';
import { surfaceOfSupport } from '../support/index.js';
import {
  asItComes,
  ContextError,
  type ContextMesh,
  type FitKind,
  fitted,
  type FittedPlane,
  type FittedRound,
  laidOn,
  lengthAlong,
  placed,
  readContext,
  smoothFace,
} from './index.js';

const workshop = new Workshop();
const text = (words: string): Uint8Array => new TextEncoder().encode(words);
const all = ({ triangles }: Mesh): number[] => Array.from({ length: triangles.length / 3 }, (_, t) => t);

/** A tube of quads, each as two triangles, seen from outside: r(h) about an axis, with discs above and below. */
function turned(
  radiusAt: (h: number) => number,
  heights: readonly number[],
  sides: number,
  frame = FRAME,
  from = 0,
  to = 2 * Math.PI,
): Mesh {
  const [positions, triangles]: [number[], number[]] = [[], []];
  const isWhole = to - from > 6.28;
  const across = isWhole ? sides : sides + 1;
  for (const h of heights)
    for (let i = 0; i < across; i++) {
      const angle = from + ((to - from) * i) / sides;
      positions.push(...frame(radiusAt(h) * Math.cos(angle), radiusAt(h) * Math.sin(angle), h));
    }
  for (let row = 0; row + 1 < heights.length; row++)
    for (let i = 0; i < sides; i++) {
      const [a, b] = [row * across + i, row * across + ((i + 1) % across)];
      triangles.push(a, b, b + across, a, b + across, a + across);
    }
  if (isWhole)
    for (const row of [0, heights.length - 1]) {
      const middle = positions.length / 3;
      positions.push(...frame(0, 0, heights[row]));
      for (let i = 0; i < sides; i++) {
        const [a, b] = [row * across + i, row * across + ((i + 1) % sides)];
        triangles.push(middle, ...(row === 0 ? [b, a] : [a, b]));
      }
    }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}
const FRAME = (x: number, y: number, z: number): Vector => [x, y, z];

/** A place and directions at random. */
function somewhere(random: Random): { readonly frame: typeof FRAME; readonly at: Vector; readonly axis: Vector } {
  const any = (): Vector => [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)];
  const axis = unit(any());
  const u = unit(cross(axis, any()));
  const v = cross(axis, u);
  const at = weightedSum([300, any()]);
  return { at, axis, frame: (x, y, z) => weightedSum([1, at], [x, u], [y, v], [z, axis]) };
}

/** Triangles so small that each is a point, upright and looking away from an upright axis. */
function ofSmallTriangles(points: readonly Vector[], middle: Vector): Mesh {
  const corners = points.flatMap(([x, y, z]) => {
    const [u, v] = unit([x - middle[0], y - middle[1], 0]);
    return [0, 1, 2].flatMap((k) => {
      const [along, up] = [1e-4 * Math.cos((2 * Math.PI * k) / 3), 1e-4 * Math.sin((2 * Math.PI * k) / 3)];
      return [x - v * along, y + u * along, z + up];
    });
  });
  return {
    positions: Float64Array.from(corners),
    triangles: Uint32Array.from(points.flatMap((_, i) => [3 * i, 3 * i + 1, 3 * i + 2])),
  };
}

/** A sheet of 10 by 8 places, 10 mm apart. */
function sheet(frame: typeof FRAME): Mesh {
  const positions = Array.from({ length: 80 }, (_, i) => frame(10 * (i % 10), 10 * Math.floor(i / 10), 0)).flat();
  const triangles: number[] = [];
  for (let i = 0; i < 70; i++) if (i % 10 < 9) triangles.push(i, i + 1, i + 11, i, i + 11, i + 10);
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** Mean of the squares of the distances of corners, each weighted by the area around it: what is to be least. */
function squares(
  fit: Omit<FittedPlane, 'rms' | 'most'> | Omit<FittedRound, 'rms' | 'most'>,
  { positions: p, triangles }: Mesh,
): number {
  const placeOf = (corner: number): Vector => [p[3 * corner], p[3 * corner + 1], p[3 * corner + 2]];
  let [sum, total] = [0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => placeOf(triangles[t + k]));
    const area = Math.hypot(...cross(minus(b, a), minus(c, a))) / 2;
    for (const place of [a, b, c]) {
      const from = minus(place, fit.at);
      let distance = 0;
      if (fit.kind === 'plane') distance = dot(from, fit.normal);
      else {
        const along = dot(from, fit.axis);
        const gap = Math.hypot(...cross(from, fit.axis)) - (fit.radius + fit.slope * along);
        distance = gap / Math.hypot(1, fit.slope);
      }
      sum += (area / 3) * distance ** 2;
      total += area / 3;
    }
  }
  return sum / total;
}

const cornersOf = ({ positions: p, triangles }: Mesh, t: number): Vector[] =>
  [0, 1, 2].map((k) => 3 * triangles[3 * t + k]).map((at) => [p[at], p[at + 1], p[at + 2]]);

/** Where the object has a place of space. */
function unplaced(m: readonly number[], place: ArrayLike<number>): Vector {
  const [x, y, z] = [place[0] - m[3], place[1] - m[7], place[2] - m[11]];
  return [m[0] * x + m[4] * y + m[8] * z, m[1] * x + m[5] * y + m[9] * z, m[2] * x + m[6] * y + m[10] * z];
}

function stlWith(value: number): Uint8Array {
  const bytes = Uint8Array.from(
    stlFile(
      turned(() => 30, [0, 50], 6),
      'x',
    ),
  );
  new DataView(bytes.buffer).setFloat32(84 + 12, value, true);
  return bytes;
}
const emptyStl = (): Uint8Array => stlFile({ positions: new Float64Array(3), triangles: new Uint32Array(0) }, 'x');
const glbHead = (): Uint8Array =>
  Uint8Array.of(0x67, 0x6c, 0x54, 0x46, 2, 0, 0, 0, 99, 0, 0, 0, 8, 0, 0, 0, 0x4a, 0x53, 0x4f, 0x4e, 123);

/** A file as a document says it, in one chunk of text. */
function glbOf(json: object): Uint8Array {
  const words = text(JSON.stringify(json));
  const bytes = new Uint8Array(20 + 4 * Math.ceil(words.length / 4)).fill(0x20);
  const view = new DataView(bytes.buffer);
  [0x46546c67, 2, bytes.length, bytes.length - 20, 0x4e4f534a].forEach((value, i) => view.setUint32(4 * i, value, true));
  bytes.set(words, 20);
  return bytes;
}
const compressed = (): Uint8Array => glbOf({ asset: { version: '2.0' }, extensionsRequired: ['KHR_draco_mesh_compression'] });

async function wrongIndex(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const places = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array(9).map((_, i) => i))
    .setBuffer(buffer);
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([0, 1, 9]))
    .setBuffer(buffer);
  const primitive = document.createPrimitive().setAttribute('POSITION', places).setIndices(indices);
  document.createScene().addChild(document.createNode().setMesh(document.createMesh().addPrimitive(primitive)));
  return new WebIO().writeBinary(document);
}

const asContext = async (mesh: Mesh): Promise<ContextMesh> => readContext(stlFile(mesh, 'a thing'), 1);
const centreOn = (fit: FittedRound, place: Vector): number => Math.hypot(...cross(minus(place, fit.at), fit.axis));

describe('a file of an object', () => {
  const mesh = turned(() => 30, [0, 50], 48);

  it('is read as STL and as GLB with the same surface as was written, each corner once', async () => {
    const sign = bareSign(60, 40, 8);
    const evaluation = workshop.evaluate(sign);
    const solid = solidOf(evaluation);
    const stl = await readContext(stlFile(solid, 'solid that is none'), 1);
    const glb = await readContext(glbFile(coloured(evaluation, solid), 'x'), 1);
    for (const read of [stl, glb]) {
      expect(surfaceArea(read) / surfaceArea(solid)).toBeCloseTo(1, 5);
      expect(read.triangles.length).toBe(solid.triangles.length);
      expect(Array.from(read.beside).every((other) => other >= 0)).toBe(true);
    }
    expect([stl.kind, glb.kind]).toEqual(['stl', 'glb']);
  });

  it('is read as text, in the unit that is told', async () => {
    const facet = (z: number) =>
      `facet normal 0 0 1\n outer loop\n  vertex 0 0 ${z}\n  vertex 1.5e1 0 ${z}\r\n  vertex 0 +20 ${z}\n endloop\nendfacet\n`;
    const read = await readContext(text(`  solid plate\n${facet(0)}${facet(1)}endsolid`), 25.4);
    expect(surfaceArea(read)).toBeCloseTo(2 * 150 * 25.4 ** 2, 6);
  });

  it('is put together from the nodes of its scene, strips and fans too', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const square = document
      .createAccessor()
      .setType('VEC3')
      .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0]))
      .setBuffer(buffer);
    const round = document
      .createAccessor()
      .setType('VEC3')
      .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]))
      .setBuffer(buffer);
    const node = (places: typeof square, mode: 5 | 6, scale: number) =>
      document
        .createNode()
        .setMesh(document.createMesh().addPrimitive(document.createPrimitive().setMode(mode).setAttribute('POSITION', places)))
        .setScale([scale, scale, scale]);
    const parent = document
      .createNode()
      .setTranslation([0, 0, 2])
      .addChild(node(square, 5, 0.1))
      .addChild(node(round, 6, 0.2));
    document.createScene().addChild(parent);
    const read = await readContext(await new WebIO().writeBinary(document), 1);
    // 100 and 200 mm squares, 2 m in front, all triangles seen from there.
    expect(surfaceArea(read)).toBeCloseTo(100 ** 2 + 200 ** 2, 1);
    expect(read.positions.filter((_, i) => i % 3 === 2).every((z) => Math.abs(z - 2000) < 1e-3)).toBe(true);
    const fit = fitted('plane', read, all(read));
    expect(fit.kind === 'plane' && fit.normal[2]).toBeCloseTo(1, 9);
  });

  it.each<[string, Uint8Array | (() => Promise<Uint8Array>), RegExp, number?]>([
    ['nothing', new Uint8Array(0), /neither GLB .* nor STL/u],
    ['a picture', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2, 3), /neither GLB .* nor STL/u],
    ['a cut off STL file', stlFile(mesh, 'x').subarray(0, 2000), /neither GLB .* nor STL/u],
    ['a count of triangles that is none', emptyStl(), /no triangles/u],
    ['places that are none', stlWith(NaN), /Corner 1 of the file is at no place/u],
    ['places without end', stlWith(Infinity), /at no place/u],
    ['text without numbers', text('solid x\nfacet\nvertex 1 2\nendsolid'), /Line 3 has “vertex 1 2”/u],
    [
      'text that ends within a triangle',
      text('solid x\nvertex 1 2 3\nvertex 1 2 4'),
      /ends within a triangle: it has 2 corners/u,
    ],
    [
      'text of points that are one',
      text(`solid x\n${'vertex 1 2 3\n'.repeat(3)}vertex 9 9 9\nvertex 9 9 9\nvertex 9 9 9`),
      /no triangles/u,
    ],
    ['a unit that makes it large', stlFile(mesh, 'x'), /60,?0* mm large|6\.00e\+5 mm large/u, 10_000],
    ['a unit that makes it small', stlFile(mesh, 'x'), /choose the unit/u, 1e-6],
    ['GLB that ends', glbHead(), /no glTF 2.0 that can be read/u],
    ['GLB that needs what is not read', compressed(), /needs KHR_draco_mesh_compression, which is not read here/u],
    ['GLB with corners that it does not have', wrongIndex, /uses corner 9 of 3/u],
  ])('is refused with a sentence: %s', async (_, bytes, sentence, unitMm = 1) => {
    const refusal = await readContext(typeof bytes === 'function' ? await bytes() : bytes, unitMm).catch(
      (error: unknown) => error,
    );
    expect(refusal).toBeInstanceOf(ContextError);
    expect((refusal as Error).message).toMatch(sentence);
  });

  it('is seen by faces: a tube’s wall without its lids, one facet where it may not turn', async () => {
    const read = await asContext(mesh);
    const wall = smoothFace(read, 0);
    expect(wall.length).toBe(96);
    expect(smoothFace(read, 0, 5).length).toBe(2);
    const lid = all(read).find((t) => !wall.includes(t))!;
    expect(smoothFace(read, lid).length).toBe(48);
    expect(lengthAlong(read, wall, [0, 0, 1])).toBeCloseTo(50, 4);
  });
});

describe('what is fitted', () => {
  it('is the circle of Gander, Golub and Strebel (1994), led upwards', () => {
    // Least-squares fitting of circles and ellipses, BIT 34: geometric fit to these six points.
    const points = [
      [1, 7],
      [2, 6],
      [5, 8],
      [7, 7],
      [9, 5],
      [3, 7],
    ];
    const mesh = ofSmallTriangles(
      points.flatMap(([x, y]) => [-40, 40].map((z): Vector => [x, y, z])),
      [4.7, 3, 0],
    );
    const fit = fitted('cylinder', mesh, all(mesh)) as FittedRound;
    const centre = weightedSum([1, fit.at], [-fit.at[2] / fit.axis[2], fit.axis]);
    expect(centre[0]).toBeCloseTo(4.7398, 3);
    expect(centre[1]).toBeCloseTo(2.9835, 3);
    expect(fit.radius).toBeCloseTo(4.7142, 3);
  });

  it('finds cylinders and cones wherever they stand, from a quarter of their way round', () => {
    const random = new Random(7);
    for (let i = 0; i < 30; i++) {
      const { frame, at, axis } = somewhere(random);
      const slope = i % 2 === 0 ? 0 : random.between(0.03, 0.6);
      const radius = random.between(30, 90);
      const mesh = turned((h) => radius + slope * h, [-30, -7, 11, 40], 16, frame, 1, 1 + random.between(Math.PI / 2, 5));
      const fit = fitted(slope === 0 ? 'cylinder' : 'cone', mesh, all(mesh)) as FittedRound;
      expect(fit.rms).toBeLessThan(1e-6);
      expect(Math.abs(dot(fit.axis, axis))).toBeCloseTo(1, 9);
      expect(centreOn(fit, at)).toBeLessThan(1e-4);
      const sense = Math.sign(dot(fit.axis, axis));
      expect(fit.slope * sense).toBeCloseTo(slope, 6);
      expect(fit.radius).toBeCloseTo(radius + slope * dot(minus(fit.at, at), axis), 4);
      expect(fit.facing).toBe('outside');
      const inside = { ...mesh, triangles: mesh.triangles.slice().reverse() };
      expect((fitted('cone', inside, all(inside)) as FittedRound).facing).toBe('inside');
    }
  });

  it('is off by what the object is: no other place, axis, radius or slope is nearer to a rough one', () => {
    const random = new Random(11);
    for (const kind of ['cylinder', 'cone', 'plane'] as const) {
      const { frame } = somewhere(random);
      const rough = (x: number, y: number, z: number): Vector =>
        frame(x + random.between(-1, 1), y + random.between(-1, 1), z + random.between(-1, 1));
      const slope = kind === 'cone' ? 0.3 : 0;
      const mesh = kind === 'plane' ? sheet(rough) : turned((h) => 60 + slope * h, [0, 15, 30, 45, 60], 24, rough, 0, 3);
      const fit = fitted(kind, mesh, all(mesh));
      const best = squares(fit, mesh);
      expect(fit.rms).toBeCloseTo(Math.sqrt(best), 9);
      expect(fit.rms).toBeGreaterThan(0.3);
      for (let i = 0; i < 200; i++) {
        const by = (mm: number): Vector =>
          weightedSum([mm, [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)]]);
        const size = 10 ** random.between(-4, -1);
        const at = weightedSum([1, fit.at], [1, by(size)]);
        const other =
          fit.kind === 'plane'
            ? { ...fit, at, normal: unit(weightedSum([1, fit.normal], [1, by(size / 50)])) }
            : {
                ...fit,
                at,
                axis: unit(weightedSum([1, fit.axis], [1, by(size / 50)])),
                radius: fit.radius + random.between(-size, size),
                slope: kind === 'cone' ? fit.slope + random.between(-size, size) / 50 : 0,
              };
        expect(squares(other, mesh)).toBeGreaterThanOrEqual(best - 1e-9);
      }
    }
  });

  it.each<[string, FitKind, Mesh, RegExp]>([
    ['a plane, as a cylinder', 'cylinder', sheet((x, y) => [x, y, 0]), /too flat for a cylinder/u],
    [
      'one triangle, as a cone',
      'cone',
      { positions: Float64Array.of(0, 0, 0, 9, 0, 0, 0, 9, 1), triangles: Uint32Array.of(0, 1, 2) },
      /3 corners, and a cone needs 6/u,
    ],
    [
      'triangles without area',
      'plane',
      { positions: new Float64Array(9), triangles: Uint32Array.of(0, 1, 2) },
      /No triangles are chosen/u,
    ],
  ])('is refused where it is none: %s', (_, kind, mesh, sentence) => {
    expect(() => fitted(kind, mesh, all(mesh))).toThrow(ContextError);
    expect(() => fitted(kind, mesh, all(mesh))).toThrow(sentence);
  });
});

describe('a sign that is laid on an object', () => {
  it('has its back on the surface all over: what is behind its face by its thickness is what was fitted', async () => {
    const random = new Random(5);
    for (const slope of [0, 0.35, -0.2])
      for (const inside of [false, true])
        for (const off of [0, 6]) {
          const { frame } = somewhere(random);
          const shell = turned((h) => 80 + slope * h, [-60, 0, 60], 90, frame, 0, 4);
          const context = await asContext(inside ? { ...shell, triangles: shell.triangles.slice().reverse() } : shell);
          const fit = fitted(slope === 0 ? 'cylinder' : 'cone', context, all(context)) as FittedRound;
          const middle: Vector = frame(80 * Math.cos(2), 80 * Math.sin(2), 0);
          const { support, place } = laidOn(fit, { middle, off, height: 60, kind: 'glb' });
          expect(support && 'facing' in support && support.facing).toBe(inside ? 'inside' : 'outside');
          const surface = surfaceOfSupport(support!, 6);
          const out = new Float64Array(3);
          for (let i = 0; i < 50; i++) {
            surface.place(random.between(-60, 60), random.between(-25, 25), -off, out, 0);
            const [x, y, z] = unplaced(place, out);
            const along = dot(minus([x, y, z], fit.at), fit.axis);
            expect(centreOn(fit, [x, y, z])).toBeCloseTo(fit.radius + fit.slope * along, 4);
          }
          // The middle of the plan is beside the place that was pointed at.
          surface.place(0, 0, -off, out, 0);
          expect(Math.hypot(...minus(unplaced(place, out), middle))).toBeLessThan(0.01);
        }
  });

  it('stands upright as the file does, and lies level around what lies', async () => {
    const upright = await asContext(turned(() => 40, [0, 100], 60));
    const fit = fitted('cylinder', upright, smoothFace(upright, 0));
    const laid = laidOn(fit, { middle: [40, 0, 30], off: 4, height: 100, kind: 'stl' });
    expect(laid.support).toMatchObject({ kind: 'cylinder', facing: 'outside' });
    expect(laid.support && 'radius' in laid.support && laid.support.radius).toBeCloseTo(44, 4);
    // What is up in the file is up in space; the middle is behind the face by the sign's thickness.
    expect(placed(laid.place, [40, 0, 60])[1]).toBeCloseTo(30, 4);
    expect(placed(laid.place, [40, 0, 30])[2]).toBeCloseTo(-4, 4);
    const lying = laidOn(fit, { middle: [0, 40, 50], off: 0, height: 100, kind: 'glb' });
    expect(lying.support).toMatchObject({ axis: 'level' });
    expect(placed(lying.place, [0, 41, 50]).map(Math.round)).toEqual([0, 0, 1]);
  });

  it('lies flat on a plane, with room behind it, and as the file comes before it is laid', async () => {
    const box = await asContext(
      turned(
        () => 40,
        [0, 100],
        4,
        (x, y, z) => [(x - y) / Math.SQRT2, (x + y) / Math.SQRT2, z],
      ),
    );
    const front = all(box).find((t) => smoothFace(box, t).every((each) => cornersOf(box, each).every(([, y]) => y < -20)))!;
    const fit = fitted('plane', box, smoothFace(box, front));
    const { support, place } = laidOn(fit, { middle: [5, -30, 70], off: 10, height: 0, kind: 'stl' });
    expect(support).toBeUndefined();
    expect(placed(place, [5, -30, 70])[2]).toBeLessThan(-10 + 2);
    expect(placed(place, [5, 0, 90])[1]).toBeCloseTo(20, 3);
    const [x, y, z] = placed(asItComes({ kind: 'stl', ...meshBounds(box) }, 12), [0, 0, 50]);
    expect([x, y].map((mm) => Math.abs(mm) < 1e-3)).toEqual([true, true]);
    expect(z).toBeLessThan(-12);
  });

  it('is refused where there is no room for it, and where a cone is none', () => {
    const tube = turned(() => 5, [0, 30], 40);
    const inside = { ...tube, triangles: tube.triangles.slice(0, 240).reverse() };
    const fit = fitted('cylinder', inside, all(inside));
    expect(() => laidOn(fit, { middle: [5, 0, 9], off: 6, height: 30, kind: 'stl' })).toThrow(/no room for a sign 6 mm thick/u);
    const straight = fitted('cone', tube, all(tube).slice(0, 80));
    expect(() => laidOn(straight, { middle: [5, 0, 9], off: 1, height: 30, kind: 'stl' })).toThrow(/take a cylinder/u);
  });
});
