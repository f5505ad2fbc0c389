import { describe, expect, it } from '@jest/globals';
import { type Item } from '../drawing/index.js';
import { contourArea } from '../geometry/index.js';
import { volume } from '../mesh/index.js';
import { type Edge, type Sign } from '../sign/index.js';
import { solidOf } from '../solid/index.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import {
  beamPlan,
  draftLack,
  inlayDrawing,
  InlayError,
  maskDrawing,
  patternOf,
  USUAL_BEAM,
  USUAL_INLAY,
  USUAL_MASK,
  withDraft,
} from './index.js';

const workshop = new Workshop();
const layersOf = (items: readonly Item[]): string[] => [...new Set(items.map(({ layer }) => layer))];
const linesOf = (items: readonly Item[], layer: string): Float64Array[] =>
  items.flatMap((item) => (item.kind === 'line' && item.layer === layer ? [item.points] : []));

/** A plate of 60 × 40 with a round window of 20, off its middle. */
function windowed(): Sign {
  const sign = bareSign(60, 40, 3);
  addShape(sign, 20, { kind: 'cut-through' }, { x: 10, y: 0 });
  return sign;
}

describe('a sign for a laser', () => {
  it('has its kerf off the right side: a disc and a square', () => {
    const bare = { kerf: 0.3, leadIn: 0, overlap: 0 };
    const { drawing, cutMm } = beamPlan(workshop.evaluate(windowed()), bare);
    const [hole] = linesOf(drawing.items, 'cut inside');
    // The beam takes 0.15 to either side: for a window of 20 it goes along a circle of 19.7.
    for (let i = 0; i < hole.length; i += 2) expect(Math.abs(Math.hypot(hole[i] - 10, hole[i + 1]) - 9.85)).toBeLessThan(0.025);
    const [edge] = linesOf(drawing.items, 'cut outside');
    const xs = [...edge].filter((_, i) => i % 2 === 0);
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(-30.15, 6), expect.closeTo(30.15, 6)]);
    // Around a rectangle at a distance d: its own way and a circle of that radius.
    expect(cutMm).toBeCloseTo(2 * (60 + 40) + 2 * Math.PI * 0.15 + 2 * Math.PI * 9.85, 0);
  });

  it('is cut inside before outside, led in through waste and beyond where it began', () => {
    const { drawing } = beamPlan(workshop.evaluate(windowed()), USUAL_BEAM);
    expect(layersOf(drawing.items)).toEqual(['cut inside', 'cut outside']);
    const [hole] = linesOf(drawing.items, 'cut inside');
    expect(Math.hypot(hole[0] - 10, hole[1])).toBeCloseTo(9.9 - 2, 1);
    const [edge] = linesOf(drawing.items, 'cut outside');
    const isOutside = Math.abs(edge[0]) > 31 || Math.abs(edge[1]) > 21;
    expect(isOutside).toBe(true);
    // Where it ends is as far past where it began as is asked.
    expect(Math.hypot(edge.at(-2)! - edge[2], edge.at(-1)! - edge[3])).toBeCloseTo(0.5, 6);
  });

  it('fills what is carved or coloured, scores lines, and says what a beam cannot', () => {
    const sign = windowed();
    addShape(sign, [20, 10], { kind: 'carve', by: 0.5 }, { x: -15, y: 5 });
    addShape(sign, [8, 8], { kind: 'raise', by: 1 }, { x: -15, y: -10 });
    const { drawing, fillMm2, cannot } = beamPlan(workshop.evaluate(sign), USUAL_BEAM);
    expect(layersOf(drawing.items)).toEqual(['fill', 'cut inside', 'cut outside']);
    expect(fillMm2).toBeCloseTo(200, 3);
    expect(cannot.join()).toMatch(/raises nothing/u);
    const line = bareSign(60, 40, 3);
    addShape(line, [30, 10], { kind: 'line', depth: 0.2, width: 0.2 });
    expect(beamPlan(workshop.evaluate(windowed()), USUAL_BEAM).cannot).toEqual([]);
    expect(layersOf(beamPlan(workshop.evaluate(line), USUAL_BEAM).drawing.items)).toContain('cut outside');
  });
});

describe('masks for paint', () => {
  function painted(): Sign {
    const sign = bareSign(60, 40, 6);
    addShape(sign, [20, 10], { kind: 'carve', by: 1 }, { x: -10, y: 0 });
    sign.parts[0].tiers[0] = { ...sign.parts[0].tiers[0], finish: { top: 'gold-leaf' } };
    return sign;
  }

  it('are as large as what is painted, and the choke; with a border, and mirrored', () => {
    const evaluation = workshop.evaluate(painted());
    const { items, bounds } = maskDrawing(evaluation, { ...USUAL_MASK, choke: 0.5 });
    expect(layersOf(items)).toEqual([expect.stringMatching(/^mask /u), 'border']);
    const [mask] = items;
    const own = mask.kind === 'area' ? mask.outline.reduce((sum, ring) => sum + contourArea(ring), 0) : 0;
    expect(own).toBeCloseTo(20 * 10 + 2 * (20 + 10) * 0.5 + Math.PI * 0.25, 1);
    expect([bounds.minX, bounds.maxX, bounds.maxY]).toEqual([-40, 40, 30]);
    const turned = maskDrawing(evaluation, { choke: 0, isMirrored: true, border: 0 });
    expect([turned.bounds.minX, turned.bounds.maxX]).toEqual([expect.closeTo(0, 9), 20]);
    const [other] = turned.items;
    expect(other.kind === 'area' && contourArea(other.outline[0])).toBeCloseTo(200, 6);
  });
});

describe('a pattern for casting', () => {
  const raised = (edge?: Edge): Sign => {
    const sign = bareSign(60, 40, 10);
    addShape(sign, [20, 10], { kind: 'raise', by: 3 });
    if (edge) sign.parts[0].tiers[0] = { ...sign.parts[0].tiers[0], edge };
    return sign;
  };

  it('is larger by what the metal shrinks', () => {
    const mesh = solidOf(workshop.evaluate(raised()));
    const pattern = patternOf(mesh, 1.5);
    // Bronze: 1.5 %, as in trade handbooks 3/16 in a foot (1.56 %).
    expect(volume(pattern) / volume(mesh)).toBeCloseTo(1.015 ** 3, 9);
    expect(Math.max(...pattern.positions)).toBeCloseTo(30 * 1.015, 5);
  });

  it('says which sides lack draft, and how much they lean', () => {
    const upright = draftLack(solidOf(workshop.evaluate(raised())), 2);
    // The plate's own sides and those of what is raised: 10 × 200 and 3 × 60.
    expect(upright.areaMm2).toBeCloseTo(200 * 10 + 60 * 3, 3);
    expect(upright.least).toBeCloseTo(0, 6);
    const leaning = draftLack(solidOf(workshop.evaluate(raised({ kind: 'sloped', angle: 5, sized: 'foot' }))), 2);
    expect(leaning.areaMm2).toBeCloseTo(200 * 10, 3);
    const more = draftLack(solidOf(workshop.evaluate(raised({ kind: 'sloped', angle: 5, sized: 'foot' }))), 6);
    expect(more.areaMm2).toBeGreaterThan(200 * 10 + 150);
    expect(draftLack({ positions: new Float32Array(), triangles: new Uint32Array() } as never, 2)).toEqual({
      areaMm2: 0,
      least: 2,
      at: undefined,
    });
  });

  it('gets draft where its sides were upright, on asking, and keeps what leans already', () => {
    const sign = withDraft(raised(), 2);
    const lack = draftLack(solidOf(workshop.evaluate(sign)), 2);
    // What is left are the plate's own sides.
    expect(lack.areaMm2).toBeCloseTo(200 * 10, 3);
    expect(sign.parts[0].tiers[0].edge).toEqual({ kind: 'sloped', angle: 2, sized: 'foot' });
    const leaning = raised({ kind: 'sloped', angle: 5, sized: 'top' });
    expect(withDraft(leaning, 2)).toEqual(leaning);
    const windows = windowed();
    expect(withDraft(windows, 2)).toEqual(windows);
  });
});

describe('inlays', () => {
  /** A plate with a round insert of 20 mm. */
  const filled = (): Sign => {
    const sign = bareSign(60, 40, 6);
    addShape(sign, 20, { kind: 'insert', below: 0, thickness: 6, material: 'maple' });
    sign.parts[0].name = 'Sun';
    return sign;
  };
  const radii = (items: readonly Item[]): [string, number][] =>
    items.flatMap((item) => (item.kind === 'area' ? [[item.layer, Math.sqrt(contourArea(item.outline[0]) / Math.PI)]] : []));

  it('are a pocket and a plug from one outline, with room for glue', () => {
    const { items } = inlayDrawing(workshop.evaluate(filled()), { ...USUAL_INLAY, gap: 0.15 });
    expect(radii(items)).toEqual([
      ['pocket 1 Sun', expect.closeTo(10, 1)],
      ['plug 1 Sun', expect.closeTo(9.85, 1)],
    ]);
  });

  it('that are cut with a vee bit narrow by the tangent of half its angle', () => {
    const sign = filled();
    const { items } = inlayDrawing(workshop.evaluate(sign), { gap: 1, angle: 60, depth: 5, radius: 0 });
    const [face, floor, plug, tip] = radii(items);
    // 5 mm and 4 mm deep through tan 30°.
    expect([face[1], plug[1]]).toEqual([expect.closeTo(10, 1), expect.closeTo(10, 1)]);
    expect(face[1] - floor[1]).toBeCloseTo(5 * Math.tan(Math.PI / 6), 2);
    expect(plug[1] - tip[1]).toBeCloseTo(4 * Math.tan(Math.PI / 6), 2);
    expect(tip[0]).toBe('plug 1 Sun tip (mirrored)');
  });

  it('have corners that a tool comes into, alike in both', () => {
    const sign = bareSign(60, 40, 6);
    addShape(sign, [20, 10], { kind: 'insert', below: 0, thickness: 6, material: 'maple' });
    const { items } = inlayDrawing(workshop.evaluate(sign), { ...USUAL_INLAY, gap: 0, radius: 2 });
    // A rectangle with round corners: r²(4 − π) less.
    for (const item of items)
      if (item.kind === 'area') expect(contourArea(item.outline[0])).toBeCloseTo(200 - 4 * (4 - Math.PI), 0);
  });

  it('are refused where nothing is filled, or the gap is deeper than the pocket', () => {
    expect(() => inlayDrawing(workshop.evaluate(bareSign(60, 40, 6)), USUAL_INLAY)).toThrow(InlayError);
    expect(() => inlayDrawing(workshop.evaluate(filled()), { gap: 5, angle: 60, depth: 5, radius: 0 })).toThrow(
      /less than the depth/u,
    );
  });
});
