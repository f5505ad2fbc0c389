import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { crossSection } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { difference } from '../arrangement/index.js';
import { area, type Contour, contourArea, perimeter, rectangle } from '../geometry/index.js';
import { writtenPlan } from '../making/index.js';
import { readShop } from '../shop/index.js';
import { solidOf } from '../solid/index.js';
import { type CutChoice, FreeSpace, ringsIn, Terrain, USUAL } from './index.js';
import { Loop } from './toolpath.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));
const choiceOf = (tools: readonly string[]): CutChoice => ({
  ...USUAL,
  machine: shop.machines[0],
  material: shop.materials.find(({ id }) => id === 'urethane')!,
  tools: shop.tools.filter(({ id }) => tools.includes(id)),
});

/** A slot 2 mm wide that widens in its middle to a regular polygon around a circle. */
function bulgingSlot(corners: number, radius: number): Contour {
  const at = (k: number): number => 0.3 + (2 * Math.PI * k) / corners;
  const all = Array.from({ length: corners }, (_, k) => [Math.cos(at(k)), Math.sin(at(k))]);
  const places = all.map((place) => place.map((value) => (value * radius) / Math.cos(Math.PI / corners)));
  const lower = places.filter(([, y]) => y < -1).sort((a, b) => a[0] - b[0]);
  const upper = places.filter(([, y]) => y > 1).sort((a, b) => b[0] - a[0]);
  return Float64Array.from([[-20, -1], ...lower, [20, -1], [20, 1], ...upper, [-20, 1]].flat());
}

/** mm from a way to a place, looked for every 0.02 mm. */
function apart(way: Loop, x: number, y: number): number {
  const count = Math.ceil(way.length / 0.02);
  const all = Array.from({ length: count }, (_, i) => way.at((way.length * i) / count));
  return Math.min(...all.map(([px, py]) => Math.hypot(px - x, py - y)));
}

describe('the space of a tool', () => {
  const panel = [rectangle(100, 60)];
  it('is all of a pocket but r²(1 − π/4) in each corner, as its opening by a general library', () => {
    const frame = [rectangle(140, 100), Float64Array.from(panel[0])];
    // What stands is the frame around the pocket.
    const keepOut = [frame[0], frame[1].slice().reverse().reduce<number[]>((all, value, i, from) => (i % 2 === 0 ? [...all, from[i + 1], value] : all), [])].map((ring) => Float64Array.from(ring)); // prettier-ignore
    expect(contourArea(keepOut[1])).toBeLessThan(0);
    const space = new FreeSpace({ z: 0, needed: panel, keepOut, below: [frame[0]], kind: 'level' }, 4, 3.6, [frame[0]]);
    const left = space.left(4);
    expect(area(space.rings(4, 3.6, 3.6).filter(({ depth }) => depth < 4).map(({ points }) => points))).toBeCloseTo(92.004 * 52.004, 1); // prettier-ignore
    expect(area(left) / (4 * 16 * (1 - Math.PI / 4))).toBeCloseTo(1, 1);
    const theirs = crossSection(workshop.m, panel);
    const opened = theirs.offset(-4, 'Round', 2, 256).offset(4, 'Round', 2, 256);
    expect(area(left) / (theirs.area() - opened.area())).toBeCloseTo(1, 1);
  });

  it('is run over in rings as long as those of a general library', () => {
    const text = bareSign(200, 60, 10);
    addText(text, 'RINGS', 'barlow-semibold', 40, { kind: 'carve', by: 2 });
    const terrain = new Terrain(solidOf(workshop.evaluate(text)));
    const region = crossSection(workshop.m, terrain.footprint).subtract(crossSection(workshop.m, terrain.above(-2)));
    const own = region.toPolygons().map((ring) => Float64Array.from(ring.flat()));
    const rings = ringsIn(own, 0.7);
    const length = perimeter(rings.map(({ points }) => points));
    let theirs = 0;
    for (let inset = 0; ; inset += 0.7) {
      const shrunk = inset === 0 ? region : region.offset(-inset, 'Round', 2, 256);
      if (shrunk.isEmpty()) break;
      theirs += perimeter(shrunk.toPolygons().map((ring) => Float64Array.from(ring.flat())));
    }
    expect(Math.abs(length / theirs - 1)).toBeLessThan(0.003);
  });

  it('is open only where the larger tool has a way: where it hardly fits it may have none', () => {
    let open = 0;
    for (let corners = 3; corners <= 20; corners++)
      for (const more of [-1e-4, 1e-6, 1e-5, 1e-4, 5e-4, 5e-3, 0.2]) {
        const ring = bulgingSlot(corners, 2 - 0.002 + more);
        const space = new FreeSpace({ z: 0, needed: [ring], keepOut: [], below: [ring], kind: 'window' }, 2, 1.8, []);
        const ways = space.within(2).map((points) => new Loop(points));
        for (const { x, y } of space.restLines(0.8, 2, 0.7).flatMap(({ begin, end }) => [begin ?? [], end ?? []].flat())) {
          open++;
          expect(Math.min(...ways.map((way) => apart(way, x, y)))).toBeLessThan(0.05);
        }
      }
    expect(open).toBeGreaterThan(200);
  });

  it('leaves room in a slot exactly as wide as the tool', () => {
    const sign = bareSign(80, 40, 10);
    addShape(sign, [50, 6], { kind: 'carve', by: 3 });
    const evaluation = workshop.evaluate(sign);
    const { run, left, cuts } = writtenPlan(evaluation, choiceOf(['end-6']), { cell: 0.1 });
    expect([cuts.map(({ purpose }) => purpose), run.gougeMm]).toEqual([['clear', 'cut out'], 0]);
    // Two round ends: r²(2 − π/2) of them.
    const ends = 2 * 9 * (1 - Math.PI / 4) * 2;
    expect(left.reduce((sum, { areaMm2 }) => sum + areaMm2, 0) / ends).toBeCloseTo(1, 1);
  });

  it('is cleared as a whole where going round each thing in it would be as long', () => {
    const sign = bareSign(60, 40, 12);
    addShape(sign, [50, 30], { kind: 'carve', by: 6 });
    for (let x = -22; x <= 22; x += 4)
      for (let y = -12; y <= 12; y += 3.4) addShape(sign, [2, 2], { kind: 'set', to: -3 }, { x, y });
    const evaluation = workshop.evaluate(sign);
    const terrain = new Terrain(solidOf(evaluation));
    const terrace = { z: -3, needed: difference(terrain.above(-6), terrain.above(-3)), keepOut: terrain.above(-3), below: terrain.above(-6), kind: 'level' } as const; // prettier-ignore
    expect(new FreeSpace(terrace, 0.6, 1, terrain.footprint).isWide).toBe(false);
    expect(new FreeSpace(terrace, 6, 5.4, terrain.footprint).isWide).toBe(true);
  });

  it('tells the same that is left whichever tool comes first', () => {
    const text = bareSign(200, 60, 10);
    addText(text, 'REACH', 'lora-bold', 40, { kind: 'raise', by: 2 });
    const terrain = new Terrain(solidOf(workshop.evaluate(text)));
    const terrace = { z: 0, needed: difference(terrain.footprint, terrain.above(0)), keepOut: terrain.above(0), below: terrain.footprint, kind: 'level' } as const; // prettier-ignore
    const [large, small] = [3.175, 0.75].map((radius) => new FreeSpace(terrace, radius, radius, terrain.footprint));
    expect(area(large.left(0.75)) / area(small.left(0.75))).toBeCloseTo(1, 2);
    expect(area(large.left(3.175))).toBeGreaterThan(2 * area(large.left(0.75)));
  });
});
