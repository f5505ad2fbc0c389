import { beforeAll, describe, expect, it } from '@jest/globals';
import { createRequire } from 'node:module';
import type { IDxf, ILwpolylineEntity } from 'dxf-parser';
import { type BufferGeometry } from 'three';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { dxfFile, stlFile, svgFile } from '../format/index.js';
import { area, type Contour } from '../geometry/index.js';
import { heightPaint, pictureOf, THREE_QUARTER } from '../picture/index.js';
import { type Evaluation, Evaluator, regionOf } from '../relief/index.js';
import { readSign, type Sign } from '../sign/index.js';
import { volume } from '../mesh/index.js';
import { solidOf } from '../solid/index.js';
import { loadedBook } from '../../testing/fonts.js';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { type FontBook } from '../type/index.js';
import { dimension } from './dimension.js';
import { FACE, heightColour } from './palette.js';
import { dimensionedPlan, planDrawing, productionOutlines } from './plan.js';
import { sectionDrawing, sectionSpans } from './section.js';

// The package's module form cannot be loaded by Node.js.
const DxfParser = createRequire(import.meta.url)('dxf-parser') as new () => { parseSync(text: string): IDxf | null };

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});
const evaluate = (sign: Sign): Evaluation => new Evaluator(book).evaluateLoaded(sign);

function busySign(): Sign {
  const sign = bareSign(304.8, 152.4, 12.7);
  addShape(sign, [280, 130], { kind: 'carve', by: 2 });
  addText(sign, 'OSPREY', 'roboto-slab-bold', 30, { kind: 'raise', by: 3 }).place.y = 30;
  addText(sign, 'point', 'hershey-sans', 12, { kind: 'line', depth: 3, width: 1 }).place.y = -30;
  addShape(sign, 6, { kind: 'cut-through' }, { x: 120, y: -50 });
  return sign;
}

describe('the section', () => {
  it('reads the relief along the line, exactly for axis-parallel steps', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [60, 40], { kind: 'carve', by: 3 });
    addShape(sign, [20, 20], { kind: 'raise', by: 4 });
    addShape(sign, [10, 10], { kind: 'cut-through' }, { x: 20 });
    const spans = sectionSpans(evaluate(sign), { x: 0, y: 0, turn: 0 }).map(({ from, to, z }) => [
      Math.round(from * 1e6) / 1e6,
      Math.round(to * 1e6) / 1e6,
      z,
    ]);
    expect(spans).toEqual([
      [-50, -30, 0],
      [-30, -10, -3],
      [-10, 10, 4],
      [10, 15, -3],
      [25, 30, -3],
      [30, 50, 0],
    ]);
  });

  it('is as long at an angle as geometry says: w/cos α', () => {
    const spans = sectionSpans(evaluate(bareSign(100, 100, 10)), { x: 0, y: 0, turn: 30 });
    expect(spans).toHaveLength(1);
    expect(spans[0].to - spans[0].from).toBeCloseTo(100 / Math.cos(Math.PI / 6), 3);
  });

  it('runs along edges and through corners without losing its way', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [60, 40], { kind: 'carve', by: 3 });
    const evaluation = evaluate(sign);
    for (const line of [
      { x: 0, y: 20, turn: 0 },
      { x: 30, y: 0, turn: 90 },
      { x: 0, y: 0, turn: (Math.atan2(40, 60) * 180) / Math.PI },
    ]) {
      const spans = sectionSpans(evaluation, line);
      for (let i = 1; i < spans.length; i++) expect(spans[i].from).toBeGreaterThanOrEqual(spans[i - 1].to - 1e-9);
      expect(spans.length).toBeGreaterThan(0);
    }
    expect(sectionSpans(evaluation, { x: 0, y: 500, turn: 0 })).toEqual([]);
  });

  it('agrees with the areas of the plan: summed over many lines it gives them back', () => {
    const evaluation = evaluate(busySign());
    const step = 0.05;
    const sums = new Map<number, number>();
    for (let y = -76.2 + step / 2; y < 76.2; y += step)
      for (const { from, to, z } of sectionSpans(evaluation, { x: 0, y, turn: 0 }))
        sums.set(z, (sums.get(z) ?? 0) + (to - from) * step);
    for (const { z, areaMm2 } of evaluation.levels) expect(Math.abs(sums.get(z)! / areaMm2 - 1)).toBeLessThan(0.005);
  });

  it('labels its levels and its thickness', () => {
    const evaluation = evaluate(busySign());
    const texts = sectionDrawing(evaluation, { x: 0, y: 30, turn: 0 }, { heightsTimes: 1, textHeight: 3 }).items.flatMap(
      (item) => (item.kind === 'label' ? [item.text] : []),
    );
    expect(texts).toEqual(['carved 2 mm', 'face', 'raised 3 mm', '12.7 mm']);
    expect(sectionDrawing(evaluation, { x: 0, y: 900, turn: 0 }, { heightsTimes: 4, textHeight: 3 }).items).toEqual([]);
  });
});

describe('the plan', () => {
  it('colours by height and hatches what is cut through', () => {
    const plan = planDrawing(evaluate(busySign()), { textHeight: 3 });
    const fills = plan.items.flatMap((item) => (item.kind === 'area' && item.fill ? [item.fill.kind] : []));
    expect(fills.filter((kind) => kind === 'cross-hatch')).toHaveLength(1);
    expect(heightColour(0, 5)).toBe(FACE);
    expect(heightColour(5, 5)).not.toBe(heightColour(1, 5));
    expect(heightColour(-9, 5)).toBe(heightColour(-5, 5));
  });

  it('dimensions the overall size in the unit of the sign', () => {
    const sign = busySign();
    sign.unit = 'in';
    const texts = dimensionedPlan(evaluate(sign), { textHeight: 3 }).items.flatMap((item) =>
      item.kind === 'label' ? [item.text] : [],
    );
    expect(texts).toEqual(['12 in', '6 in']);
  });

  it('draws a dimension as long as what it measures', () => {
    const items = dimension({ from: [0, 0], to: [30, 40], beside: 5, text: '50', textHeight: 2 });
    const lengths = items.flatMap((item) =>
      item.kind === 'line' ? [Math.hypot(item.points[2] - item.points[0], item.points[3] - item.points[1])] : [],
    );
    expect(Math.max(...lengths)).toBeCloseTo(50, 9);
    expect(dimension({ from: [1, 1], to: [1, 1], beside: 5, text: '0', textHeight: 2 })).toEqual([]);
  });
});

describe('SVG', () => {
  it('declares its size in the sign’s unit and keeps every outline', () => {
    const evaluation = evaluate(busySign());
    const drawing = productionOutlines(evaluation);
    const mm = svgFile(drawing, { unit: 'mm', title: 'Osprey <&> Point' });
    expect(mm).toContain('width="304.8mm" height="152.4mm" viewBox="-152.4 -76.2 304.8 152.4"');
    expect(mm).toContain('<title>Osprey &#60;&#38;&#62; Point</title>');
    expect(svgFile(drawing, { unit: 'in', title: '' })).toContain('width="12in" height="6in" viewBox="-6 -3 12 6"');
    const layers = [...mm.matchAll(/data-layer="([^"]+)"/gu)].map(([, name]) => name);
    expect(layers).toEqual(['blank edge', 'raised 3 mm', 'carved 2 mm', 'carved 3 mm', 'cut through', 'centre lines']);
  });

  it('gives the areas back when its paths are read', () => {
    const evaluation = evaluate(busySign());
    const svg = svgFile(productionOutlines(evaluation), { unit: 'mm', title: '' });
    const group = /data-layer="raised 3 mm">\s*<path [^>]*d="([^"]+)"/u.exec(svg)![1];
    const rings: Contour[] = group
      .split('Z')
      .filter(Boolean)
      .map((ring) => Float64Array.from(ring.match(/-?[\d.]+/gu)!.map(Number)));
    const level = evaluation.levels.find(({ z }) => z === 3)!;
    expect(Math.abs(area(rings))).toBeCloseTo(area(regionOf(evaluation, ...level.labels)), 3);
  });
});

describe('DXF', () => {
  it('is read back by dxf-parser with its unit, layers, sizes and closed rings', () => {
    const evaluation = evaluate(busySign());
    const drawing = productionOutlines(evaluation);
    for (const [unit, code, width] of [
      ['mm', 4, 304.8],
      ['in', 1, 12],
    ] as const) {
      const parsed = new DxfParser().parseSync(dxfFile(drawing, unit))!;
      // DXF reference, $INSUNITS: 1 inches, 4 millimetres.
      expect(parsed.header.$INSUNITS).toBe(code);
      // $MEASUREMENT: 0 English, 1 metric.
      expect(parsed.header.$MEASUREMENT).toBe(code === 4 ? 1 : 0);
      const lines = parsed.entities as ILwpolylineEntity[];
      const edge = lines.filter(({ layer }) => layer === 'BLANK_EDGE').flatMap(({ vertices }) => vertices.map(({ x }) => x));
      expect(Math.max(...edge) - Math.min(...edge)).toBeCloseTo(width, 6);
      const rings = drawing.items.reduce((sum, item) => sum + (item.kind === 'area' ? item.outline.length : 1), 0);
      expect(lines).toHaveLength(rings);
      expect(lines.filter(({ shape }) => shape)).toHaveLength(rings - drawing.items.filter(({ kind }) => kind === 'line').length);
    }
  });
});

describe('STL', () => {
  it.each(demoSigns())('of %s is read back by three as the same closed solid', (_, document) => {
    const mesh = solidOf(evaluate(readSign(document)));
    const bytes = stlFile(mesh, 'Test');
    const facets = mesh.triangles.length / 3;
    expect(bytes.length).toBe(84 + 50 * facets);
    const geometry: BufferGeometry = new STLLoader().parse(bytes.buffer as ArrayBuffer);
    const { array } = geometry.getAttribute('position');
    expect(array.length).toBe(9 * facets);
    let six = 0;
    const edges = new Map<string, number>();
    for (let f = 0; f < array.length; f += 9) {
      const [a, b, c] = [0, 3, 6].map((k) => [array[f + k], array[f + k + 1], array[f + k + 2]]);
      six += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
      for (const [p, q] of [
        [a, b],
        [b, c],
        [c, a],
      ]) {
        const [from, to] = [p.join(), q.join()];
        const key = from < to ? `${from} ${to}` : `${to} ${from}`;
        edges.set(key, (edges.get(key) ?? 0) + (from < to ? 1 : -1));
      }
    }
    expect([...edges.values()].every((sum) => sum === 0)).toBe(true);
    expect(Math.abs(six / 6 / volume(mesh) - 1)).toBeLessThan(1e-6);
  });
});

describe('files', () => {
  it('are the same bytes for the same sign', () => {
    const [one, two] = [evaluate(busySign()), evaluate(busySign())];
    expect(stlFile(solidOf(one), 'a')).toEqual(stlFile(solidOf(two), 'a'));
    expect(dxfFile(productionOutlines(one), 'mm')).toBe(dxfFile(productionOutlines(two), 'mm'));
    expect(svgFile(productionOutlines(one), { unit: 'mm', title: 'a' })).toBe(
      svgFile(productionOutlines(two), { unit: 'mm', title: 'a' }),
    );
  });
});

describe('the picture', () => {
  it('shows the solid in the colours of its heights on the ground of the paper', () => {
    const sign = bareSign(100, 60, 10);
    addShape(sign, [40, 30], { kind: 'raise', by: 4 });
    const mesh = solidOf(evaluate(sign));
    const { rgba, width, height } = pictureOf(mesh, heightPaint(mesh, 4), { turn: 0, tilt: 0 }, 200, 120);
    const at = (x: number, y: number) =>
      '#' + [...rgba.slice(4 * (y * width + x), 4 * (y * width + x) + 3)].map((c) => c.toString(16).padStart(2, '0')).join('');
    expect(at(100, 60)).toBe(heightColour(4, 4));
    expect(at(30, 60)).toBe(FACE);
    expect(at(1, 1)).toBe('#f4ecdc');
    // Seen straight on, the 100 mm of the blank take 94 % of the width.
    const row = Array.from({ length: width }, (_, x) => at(x, Math.floor(height / 2)));
    expect(row.filter((colour) => colour !== '#f4ecdc')).toHaveLength(188);
  });

  it('is drawn from any side', () => {
    const mesh = solidOf(evaluate(busySign()));
    const { rgba } = pictureOf(mesh, heightPaint(mesh, 3), THREE_QUARTER, 60, 40);
    expect(new Set(rgba).size).toBeGreaterThan(20);
  });
});
