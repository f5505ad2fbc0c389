import { describe, expect, it } from '@jest/globals';
import DxfParser from 'dxf-parser';
import { type ArtworkChoice, importArtwork } from './artwork.js';
import { ArtworkError } from './limits.js';

type Groups = readonly (number | string)[];

/** A DXF file of groups given as code, value, code, value … */
const dxf = (
  entities: Groups,
  { header = [9, '$INSUNITS', 70, 4], tables = [], blocks = [] }: Record<string, Groups> = {},
): string => {
  const section = (name: string, groups: Groups) => [0, 'SECTION', 2, name, ...groups, 0, 'ENDSEC'];
  return [
    ...section('HEADER', header),
    ...section('TABLES', tables),
    ...section('BLOCKS', blocks),
    ...section('ENTITIES', entities),
    0,
    'EOF',
  ].join('\n');
};

const read = (entities: Groups, more?: Record<string, Groups>, choice: Partial<ArtworkChoice> = { speck: 0 }) =>
  importArtwork('dxf', dxf(entities, more), choice);
const areaOf = (entities: Groups, more?: Record<string, Groups>) => read(entities, more).colours.reduce((sum, { areaMm2 }) => sum + areaMm2, 0); // prettier-ignore

const line = (x1: number, y1: number, x2: number, y2: number, layer = '0') => [0, 'LINE', 8, layer, 10, x1, 20, y1, 11, x2, 21, y2]; // prettier-ignore
const square = (x: number, y: number, side: number, layer = '0') => [
  0, 'LWPOLYLINE', 8, layer, 90, 4, 70, 1, 10, x, 20, y, 10, x + side, 20, y, 10, x + side, 20, y + side, 10, x, 20, y + side,
]; // prettier-ignore

describe('shapes', () => {
  it('have the areas of the textbook', () => {
    expect(areaOf([0, 'CIRCLE', 8, '0', 10, 5, 20, 5, 40, 20])).toBeCloseTo(400 * Math.PI, 0);
    expect(areaOf([0, 'ELLIPSE', 8, '0', 10, 0, 20, 0, 11, 18, 21, 24, 40, 0.4, 41, 0, 42, 2 * Math.PI])).toBeCloseTo(
      360 * Math.PI,
      0,
    );
    expect(areaOf(square(3, 4, 50))).toBe(2500);
    // Four corners of a SOLID stand 1, 2, 4, 3 around it.
    expect(areaOf([0, 'SOLID', 8, '0', 10, 0, 20, 0, 11, 10, 21, 0, 12, 0, 22, 10, 13, 10, 23, 10])).toBe(100);
  });

  it('bulges are arcs: 1 a half circle, tan 22.5° a quarter', () => {
    const two = [0, 'LWPOLYLINE', 8, '0', 90, 2, 70, 1, 10, -20, 20, 0, 42, 1, 10, 20, 20, 0, 42, 1];
    expect(areaOf(two)).toBeCloseTo(400 * Math.PI, 0);
    const bulge = Math.tan(Math.PI / 8);
    const at = (x: number, y: number) => [10, x, 20, y, 42, bulge];
    const four = [0, 'LWPOLYLINE', 8, '0', 90, 4, 70, 1, ...at(30, 0), ...at(0, 30), ...at(-30, 0), ...at(0, -30)];
    expect(areaOf(four) / (900 * Math.PI)).toBeCloseTo(1, 3);
    // Bulging inwards it lacks as much: a square of 2r² less four segments of r²(π/2 − 1)/2.
    const inward = four.map((value) => (value === bulge ? -bulge : value));
    expect(areaOf(inward) / (1800 - 900 * (Math.PI - 2))).toBeCloseTo(1, 2);
    const vertex = (x: number, y: number) => [0, 'VERTEX', 8, '0', 10, x, 20, y, 42, 1];
    expect(areaOf([0, 'POLYLINE', 8, '0', 66, 1, 70, 1, ...vertex(-20, 0), ...vertex(20, 0), 0, 'SEQEND'])).toBeCloseTo(
      400 * Math.PI,
      0,
    );
  });

  it('splines follow their closed forms', () => {
    // A circle as nine rational control points of degree 2 (Piegl & Tiller, The NURBS Book, ch. 7).
    const w = Math.SQRT1_2;
    const points = [[1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0], [-1, -1], [0, -1], [1, -1], [1, 0]]; // prettier-ignore
    const knots = [0, 0, 0, 0.25, 0.25, 0.5, 0.5, 0.75, 0.75, 1, 1, 1].flatMap((knot) => [40, knot]);
    const control = points.flatMap(([x, y], i) => [10, 30 * x, 20, 30 * y, 41, i % 2 === 0 ? 1 : w]);
    expect(areaOf([0, 'SPLINE', 8, '0', 70, 4, 71, 2, 72, 12, 73, 9, ...knots, ...control])).toBeCloseTo(900 * Math.PI, 0);
    // One Bézier arch closed by a line: the area under it is 3/20·(…) of its control points, here 0.6 · 40 · 30.
    const bezier = [10, 0, 20, 0, 10, 0, 20, 30, 10, 40, 20, 30, 10, 40, 20, 0];
    const clamped = [0, 0, 0, 0, 1, 1, 1, 1].flatMap((knot) => [40, knot]);
    expect(areaOf([0, 'SPLINE', 8, '0', 71, 3, ...clamped, ...bezier, ...line(40, 0, 0, 0)])).toBeCloseTo(0.6 * 40 * 30, 0);
  });

  it('hatches are areas with their holes', () => {
    const path = (flag: number, ...pairs: number[]) => [92, flag, 72, 0, 73, 1, 93, pairs.length / 2, ...pairs.flatMap((v, i) => [i % 2 ? 20 : 10, v]), 97, 0]; // prettier-ignore
    const outer = path(3, 0, 0, 40, 0, 40, 40, 0, 40);
    expect(areaOf([0, 'HATCH', 8, '0', 2, 'SOLID', 70, 1, 91, 2, ...outer, ...path(18, 10, 10, 20, 10, 20, 20, 10, 20)])).toBe(
      1500,
    );
    // A half disc of a line and an arc, either way round.
    const arc = (from: number, to: number, sense: number) => [72, 2, 10, 0, 20, 0, 40, 20, 50, from, 51, to, 73, sense];
    const half = (edge: number[], x1: number, x2: number) => [
      0,
      'HATCH',
      8,
      '0',
      91,
      1,
      92,
      1,
      93,
      2,
      ...edge,
      72,
      1,
      10,
      x1,
      20,
      0,
      11,
      x2,
      21,
      0,
    ];
    expect(areaOf(half(arc(0, 180, 1), -20, 20))).toBeCloseTo(200 * Math.PI, 0);
    expect(areaOf(half(arc(180, 360, 0), 20, -20))).toBeCloseTo(200 * Math.PI, 0);
    const elliptic = [72, 3, 10, 0, 20, 0, 11, 20, 21, 0, 40, 0.5, 50, 0, 51, 360, 73, 1];
    expect(areaOf([0, 'HATCH', 8, '0', 91, 1, 92, 1, 93, 1, ...elliptic])).toBeCloseTo(200 * Math.PI, 0);
  });
});

describe('drawings', () => {
  it.each([
    [1, 25.4],
    [2, 304.8],
    [4, 1],
    [5, 10],
    [6, 1000],
  ])('in unit %d have %d mm to it', (code, mm) => {
    const art = read(square(0, 0, 2), { header: [9, '$INSUNITS', 70, code] });
    expect([art.width, art.height, art.isSized]).toEqual([expect.closeTo(2 * mm, 6), expect.closeTo(2 * mm, 6), true]);
  });

  it('without a unit are asked for their size, and take one that is given', () => {
    const art = read(square(1e7, -1e7, 2), { header: [] }, { width: 300, speck: 0 });
    expect([art.isSized, art.width]).toEqual([false, 300]);
    // Far from the origin as it was drawn, it lies about the middle.
    expect(art.colours[0].box).toEqual({ minX: -150, minY: -150, maxX: 150, maxY: 150 });
  });

  it('single lines become rings, with a ring in a ring as its hole', () => {
    const box = (x: number, side: number) => [
      ...line(x, x, x + side, x),
      ...line(x + side, x + side, x + side, x),
      ...line(x + side, x + side, x, x + side),
      ...line(x, x + side, x, x),
    ];
    expect(areaOf([...box(0, 40), ...box(10, 10)])).toBe(1500);
    const { findings } = read([...box(0, 40), ...line(0, 0, 40, 0), ...line(100, 0, 120, 5)]);
    expect(findings.map(({ kind }) => kind).sort()).toEqual(['double', 'open']);
  });

  it('blocks are placed, scaled, turned, mirrored and repeated', () => {
    const blocks = [0, 'BLOCK', 2, 'B', 10, 1, 20, 1, ...square(1, 1, 10), 0, 'ENDBLK'];
    const insert = (...more: number[]) => [0, 'INSERT', 8, '0', 2, 'B', 10, 100, 20, 0, ...more];
    expect(areaOf(insert(41, 2, 42, -3), { blocks })).toBeCloseTo(600, 6);
    expect(areaOf(insert(50, 30), { blocks })).toBeCloseTo(100, 1);
    const row = read(insert(70, 3, 71, 2, 44, 15, 45, 20), { blocks });
    expect([row.width, row.height, row.colours[0].areaMm2]).toEqual([40, 30, 600]);
  });

  it('layers and colours are told apart, and those switched off left out', () => {
    const layer = (name: string, colour: number, flags = 0) => [0, 'LAYER', 2, name, 70, flags, 62, colour];
    const tables = [...layer('letters', 1), ...layer('plate', 5), ...layer('notes', -3), ...layer('old', 2, 1)];
    const art = read(
      [...square(0, 0, 50, 'plate'), ...square(10, 10, 10, 'letters'), ...square(0, 0, 5, 'notes'), ...square(0, 0, 5, 'old')],
      { tables },
    );
    // Layers do not hide each other.
    expect(art.colours.map(({ name, colour, areaMm2 }) => [name, colour, areaMm2])).toEqual([
      ['plate', '#0000ff', 2500],
      ['letters', '#ff0000', 100],
    ]);
    expect(art.findings.map(({ sentence }) => sentence)).toEqual([
      '2 layers switched off in the file and left out: “notes”, “old”.',
    ]);
    const own = read([...square(0, 0, 50).slice(0, 4), 420, 0x102030, ...square(0, 0, 50).slice(4)]);
    expect(own.colours[0].colour).toBe('#102030');
  });

  it('what lies in a mirrored plane is mirrored, and text is told', () => {
    const arc = (normal: number) => [0, 'ARC', 8, '0', 10, 10, 20, 0, 40, 5, 50, 90, 51, 270, 230, normal];
    const west = read([...arc(1), ...line(0, 0, 1, 0)]).colours[0].strokes;
    const east = read([...arc(-1), ...line(0, 0, 1, 0)]).colours[0].strokes;
    expect(Math.max(...west.map((polyline) => polyline.length))).toBe(Math.max(...east.map((polyline) => polyline.length)));
    expect(read([...arc(1), ...line(0, 0, 1, 0)]).width).toBeCloseTo(10, 6);
    expect(read([...arc(-1), ...line(0, 0, 1, 0)]).width).toBeCloseTo(11, 6);
    const { findings } = read([...square(0, 0, 9), 0, 'MTEXT', 8, '0', 10, 3, 20, 3, 1, '{\\fArial;Herb}\\Parium']);
    expect(findings[0].sentence).toContain('“Herb arium”');
    expect(findings[0].spots).toEqual([{ x: -1.5, y: -1.5 }]);
  });

  it('dxf-parser reads the same corners from the same file', () => {
    const source = dxf([...square(3, 4, 50), ...line(0, 0, 100, 0)]);
    const parsed = new DxfParser().parseSync(source)!;
    const polyline = parsed.entities[0] as unknown as { vertices: { x: number; y: number }[] };
    const { colours, width, height } = importArtwork('dxf', source, { speck: 0 });
    const ours = [...colours[0].outline[0]];
    const middle = [100 / 2, 54 / 2];
    expect([width, height]).toEqual([100, 54]);
    for (const { x, y } of polyline.vertices) {
      const found = ours.some((_, i) => i % 2 === 0 && ours[i] === x - middle[0] && ours[i + 1] === y - middle[1]);
      expect(found).toBe(true);
    }
  });
});

describe('hostile files', () => {
  const nest = Array.from({ length: 40 }, (_, i) => [
    0, 'BLOCK', 2, `B${i + 1}`, ...Array.from({ length: 10 }, () => [0, 'INSERT', 2, `B${i}`, 10, i, 20, 0]).flat(), 0, 'ENDBLK',
  ]).flat(); // prettier-ignore
  const files: readonly (readonly [string, string])[] = [
    ['empty', ''],
    ['words', 'hello\nworld\nagain'],
    ['a code that is none', '0\nSECTION\n2\nENTITIES\nxyz\n5'],
    ['binary', 'AutoCAD Binary DXF\r\n\x1a\0'],
    ['no entities', dxf([])],
    ['cut off', dxf(square(0, 0, 5)).slice(0, 60)],
    ['a line of nothing', dxf(line(0, 0, 0, 0))],
    ['NaN', dxf([0, 'LINE', 10, 'NaN', 20, 'x', 11, 'Infinity', 21, '1e999'])],
    ['vast', dxf(line(-1e8, 0, 1e8, 1e8))],
    ['a circle of no radius', dxf([0, 'CIRCLE', 10, 0, 20, 0, 40, 0])],
    ['a block in itself', dxf([0, 'INSERT', 2, 'B', 10, 0, 20, 0], { blocks: [0, 'BLOCK', 2, 'B', 0, 'INSERT', 2, 'B', 0, 'ENDBLK'] })],
    ['blocks of blocks', dxf([0, 'INSERT', 2, 'B40', 10, 0, 20, 0], { blocks: [0, 'BLOCK', 2, 'B0', ...square(0, 0, 1), 0, 'ENDBLK', ...nest] })],
    ['a million copies', dxf([0, 'INSERT', 2, 'B', 10, 0, 20, 0, 70, 30000, 71, 30000, 44, 1, 45, 1], { blocks: [0, 'BLOCK', 2, 'B', ...square(0, 0, 1), 0, 'ENDBLK'] })],
    ['a missing block', dxf([0, 'INSERT', 2, 'nothing', 10, 0, 20, 0])],
    ['a spline of no knots', dxf([0, 'SPLINE', 71, 3, 10, 0, 20, 0, 10, 1, 20, 1])],
    ['a spline of degree 900', dxf([0, 'SPLINE', 71, 900, ...Array.from({ length: 2000 }, (_, i) => [40, i]).flat(), 10, 0, 20, 0, 10, 1, 20, 1])],
    ['a hatch of a billion edges', dxf([0, 'HATCH', 91, 1e9, 92, 1, 93, 1e9, 72, 1, 10, 0, 20, 0])],
    ['a million points', dxf([0, 'LWPOLYLINE', 70, 1, ...Array.from({ length: 1_000_000 }, (_, i) => [10, i % 7, 20, i % 11]).flat()])],
    ['too large', ' \n'.repeat(5_000_000)],
  ]; // prettier-ignore

  // One that went on for ever would end with the time of the test.
  it.each(files)('%s: a sentence, in time', (_, source) => {
    let refusal: unknown;
    try {
      importArtwork('dxf', source);
    } catch (error) {
      refusal = error;
    }
    expect(refusal).toBeInstanceOf(ArtworkError);
    expect((refusal as Error).message).toMatch(/[.:]/u);
  });
});
