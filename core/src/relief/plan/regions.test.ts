import { describe, expect, it } from '@jest/globals';
import { area, contains } from '../../geometry/index.js';
import { productionOutlines, sectionDrawing, sectionSpans } from '../../drawing/index.js';
import { type Edge, type Sign } from '../../sign/index.js';
import { volume } from '../../mesh/index.js';
import { solidOf } from '../../solid/index.js';
import { Definition } from '../../../testing/heights.js';
import { addShape, addText, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { type Evaluation } from './evaluation.js';
import { levelOutline, slopeBands } from './regions.js';

const workshop = new Workshop();
const evaluate = (sign: Sign): Evaluation => workshop.evaluate(sign);

const SLOPED: Edge = { kind: 'sloped', angle: 45, sized: 'foot' };

/** Words that keep their slopes to themselves, beside a panel that is embedded. */
function slopedSign(): Sign {
  const sign = bareSign(200, 80, 12);
  addShape(sign, [60, 50], { kind: 'carve', by: 3 }, { x: -60 });
  sign.parts[0].tiers[0].edge = { kind: 'cove', radius: 3 };
  addText(sign, 'Eg', 'barlow-bold', 30, { kind: 'raise', by: 2 }).place.x = 40;
  sign.parts[1].tiers[0].edge = SLOPED;
  return sign;
}

describe('regions of a relief with slopes', () => {
  it('share the blank out among levels and bands', () => {
    const evaluation = evaluate(slopedSign());
    expect(evaluation.levels.map(({ z }) => z)).toEqual([2, 0, -3]);
    for (const level of evaluation.levels) expect(area(levelOutline(evaluation, level))).toBeCloseTo(level.areaMm2, 6);
    // The foot of letters is their first band; later ones lie on it.
    const bands = slopeBands(evaluation).filter(({ rank }) => rank === undefined || rank === 0);
    const sloped = bands.reduce((sum, { outline }) => sum + area(outline), 0);
    const flat = evaluation.levels.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
    const tops = evaluation.levels.find(({ z }) => z === 2)!.areaMm2;
    expect(sloped + flat - tops).toBeCloseTo(200 * 80, 4);
  });

  it('have every height of a band between its lines', () => {
    const evaluation = evaluate(slopedSign());
    const definition = new Definition(evaluation);
    const bands = slopeBands(evaluation);
    let tried = 0;
    for (let i = 1; i < 4000; i++) {
      const [x, y] = [((i * 0.6180339887) % 1) * 200 - 100, ((i * 0.7548776662) % 1) * 80 - 40];
      const band = [...bands].reverse().find(({ outline }) => contains(outline, x, y));
      const right = definition.at(x, y, 0.002);
      if (!band || !right) continue;
      // Six bands of height between the face and the farthest level, 3 mm.
      expect(Math.abs(band.z - (right.least + right.most) / 2)).toBeLessThan(0.5);
      tried++;
    }
    expect(tried).toBeGreaterThan(150);
  });

  it('are told as one outline a tier in production files', () => {
    const layers = productionOutlines(evaluate(slopedSign())).items.map(({ layer }) => layer);
    expect([...new Set(layers)]).toEqual([
      'blank edge',
      'raised 2 mm',
      'carved 3 mm',
      'slopes to carved 3 mm',
      'slopes to raised 2 mm',
    ]);
  });
});

describe('the section of slopes', () => {
  it('is the profile of the edge: a ridge of 90° over a bar 20 mm wide', () => {
    const sign = bareSign(100, 100, 12);
    addShape(sign, [20, 60], { kind: 'raise', by: 1 });
    sign.parts[0].tiers[0].edge = { kind: 'ridged', angle: 90, capped: false };
    const spans = sectionSpans(evaluate(sign), { x: 0, y: 0, turn: 0 }).map(({ from, to, z, zEnd }) =>
      [from, to, z, zEnd].map((value) => Math.round(value * 1000) / 1000 + 0),
    );
    expect(spans).toEqual([
      [-50, -10, 0, 0],
      [-10, 0, 0, 10],
      [0, 10, 10, 0],
      [10, 50, 0, 0],
    ]);
  });

  it('follows a quarter circle within its chords, and agrees with the definition along any line', () => {
    const sign = slopedSign();
    const evaluation = evaluate(sign);
    const definition = new Definition(evaluation);
    for (const line of [
      { x: 0, y: 3, turn: 0 },
      { x: 40, y: 0, turn: 71 },
      { x: -60, y: 5, turn: -23 },
    ]) {
      const [cos, sin] = [Math.cos((line.turn * Math.PI) / 180), Math.sin((line.turn * Math.PI) / 180)];
      const spans = sectionSpans(evaluation, line);
      let tried = 0;
      for (const { from, to, z, zEnd } of spans) {
        for (const share of [0.17, 0.5, 0.81]) {
          const at = from + share * (to - from);
          const right = definition.at(line.x + at * cos, line.y + at * sin, 0.002);
          if (!right) continue;
          const height = z + share * (zEnd - z);
          expect([at, height > right.least - 0.013 && height < right.most + 0.013]).toEqual([at, true]);
          tried++;
        }
      }
      expect(tried).toBeGreaterThan(10);
      for (let i = 1; i < spans.length; i++) expect(spans[i].from).toBeGreaterThanOrEqual(spans[i - 1].to - 1e-9);
    }
  });

  it('summed over many lines is the volume of the solid', () => {
    const evaluation = evaluate(slopedSign());
    const step = 0.1;
    let sum = 0;
    for (let y = -40 + step / 2; y < 40; y += step)
      for (const { from, to, z, zEnd } of sectionSpans(evaluation, { x: 0, y, turn: 0 }))
        sum += ((z + zEnd) / 2 + 12) * (to - from) * step;
    expect(Math.abs(sum / volume(solidOf(evaluation)) - 1)).toBeLessThan(2e-4);
  });

  it('names levels and no slopes', () => {
    const { items } = sectionDrawing(evaluate(slopedSign()), { x: 0, y: 0, turn: 0 }, { heightsTimes: 1, textHeight: 3 });
    expect(items.flatMap((item) => (item.kind === 'label' ? [item.text] : []))).toEqual([
      'carved 3 mm',
      'face',
      'raised 2 mm',
      '12 mm',
    ]);
  });
});

describe('areas of tiers', () => {
  it('grown letter by letter are the whole text grown, as a general library grows it', () => {
    const sign = bareSign(400, 100, 12);
    addText(sign, 'Willmott & Söhne', 'lora-bold', 24, { kind: 'raise', by: 2 });
    for (const by of [0.4, 2.5, -0.5]) {
      sign.parts[0].tiers[0].area = { kind: 'offset', by };
      const { parts, layers } = evaluate(sign);
      const rings = parts[0].area.contours.map((ring) =>
        Array.from({ length: ring.length / 2 }, (_, i): [number, number] => [ring[2 * i], ring[2 * i + 1]]),
      );
      const theirs = new workshop.m.CrossSection(rings, 'NonZero').offset(by, 'Round', 2, 400).area();
      expect(Math.abs(area(layers[0].area.contours) / theirs - 1)).toBeLessThan(0.001);
    }
  });

  it('of lines with a vee are as deep as the groove is wide: (w/2)/tan(θ/2) (textbook)', () => {
    const sign = bareSign(100, 40, 12);
    addShape(sign, [1, 1], { kind: 'line', depth: 5, width: 2 });
    Object.assign(sign.parts[0], { shape: { kind: 'line', length: 60 } });
    sign.parts[0].tiers[0].edge = { kind: 'ridged', angle: 60, capped: false };
    expect(evaluate(sign).lowest).toBeCloseTo(-1 / Math.tan(Math.PI / 6), 2);
  });
});
