import { describe, expect, it } from '@jest/globals';
import { union } from '../../arrangement/index.js';
import { area, bounds, CHORD_TOLERANCE, contains, squareToSegment, type Stroke } from '../../geometry/index.js';
import { type Bridges, newTier, type ShapePart, type TextPart, type Tier } from '../../sign/index.js';
import { Random } from '../../../testing/random.js';
import { addText, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { TierAreas } from './tier-area.js';

const workshop = new Workshop();

function distanceToStroke({ points, closed }: Stroke, x: number, y: number): number {
  const n = points.length;
  let least = Math.hypot(points[0] - x, points[1] - y) ** 2;
  for (let i = closed ? 0 : 2; i < n; i += 2) {
    const j = (i - 2 + n) % n;
    least = Math.min(least, squareToSegment(points[j], points[j + 1], points[i], points[i + 1], x, y));
  }
  return Math.sqrt(least);
}

describe('the area of an engraved line', () => {
  const words: readonly [string, string, number, Partial<TextPart>][] = [
    ['letters of one stroke and of several', 'hershey-sans', 0.6, { words: 'Quercus robur & Æ 8' }],
    ['letters that run into each other', 'ems-readability', 1.5, { words: 'willow\nmeadow', tracking: -60 }],
    ['lines wider than their letters are high', 'hershey-sans', 9, { words: 'lime' }],
    ['turned letters', 'ems-readability', 0.8, { words: 'noon', place: { x: 3.21, y: -1.7, turn: 33, mirror: true } }],
    ['outlines of letters', 'barlow-semibold', 0.7, { words: 'oak' }],
  ];

  it.each(words)('is what lies within half its width of a stroke: %s', (_, font, width, change) => {
    const sign = bareSign(300, 120, 5);
    Object.assign(addText(sign, '', font, 8, { kind: 'line', depth: 0.3, width }), change);
    const [placed] = workshop.evaluate(sign).parts;
    const { tiers } = sign.parts[0] as TextPart;
    const areas = new TierAreas();
    const { area: drawn } = areas.of({ ...placed, areas: new Map() }, tiers[0], 0.3);
    // Outlines that do not touch, as `arrange` takes them for.
    expect(Math.abs(area(union(drawn.contours)) - area(drawn.contours))).toBeLessThan(1e-6);
    const strokes = [...placed.strokes, ...union(placed.area).map((points) => ({ points, closed: true }))];
    const box = bounds(drawn.contours)!;
    const random = new Random(width);
    let decided = 0;
    for (let i = 0; i < 3000; i++) {
      const [x, y] = [random.between(box.minX - 1, box.maxX + 1), random.between(box.minY - 1, box.maxY + 1)];
      const off = Math.min(...strokes.map((stroke) => distanceToStroke(stroke, x, y))) - width / 2;
      if (Math.abs(off) < CHORD_TOLERANCE) continue;
      decided++;
      expect([x, y, contains(drawn.contours, x, y)]).toEqual([x, y, off < 0]);
    }
    expect(decided).toBeGreaterThan(2500);
  });

  it('is the same to the last step of the grid, whatever was drawn before', () => {
    const sign = bareSign(300, 120, 5);
    const part = addText(sign, '', 'hershey-sans', 4, { kind: 'line', depth: 0.3, width: 0.5 });
    const used = new TierAreas();
    const random = new Random(2);
    for (let i = 0; i < 40; i++) {
      // Dots are strokes that come back to where they began.
      part.words = `Bed no. ${i}.`;
      part.place = { x: random.between(-90, 90), y: random.between(-40, 40), turn: 0, mirror: false };
      const [plan] = workshop.evaluate(sign).parts;
      const drawn = (areas: TierAreas) => areas.of({ ...plan, areas: new Map() }, part.tiers[0], 0.3).area.contours;
      expect(drawn(used)).toEqual(drawn(new TierAreas()));
    }
  });
});

describe('areas of several kinds', () => {
  it('do not move each other: grown, an engraved line, with bridges, and each of them alone', () => {
    const sign = bareSign(300, 120, 5);
    const part = addText(sign, 'oak % 8', 'barlow-semibold', 12, { kind: 'raise', by: 1 });
    part.place = { x: -41, y: 23, turn: 0, mirror: false };
    const [plan] = workshop.evaluate(sign).parts;
    const asked: readonly [Tier, Bridges?][] = [
      [{ ...newTier('grown', { kind: 'raise', by: 1 }), area: { kind: 'offset', by: 0.6 } }],
      [newTier('line', { kind: 'line', depth: 0.3, width: 0.5 })],
      [{ ...newTier('around', { kind: 'raise', by: 1 }), area: { kind: 'stroke', width: 0.8, side: 'on' } }],
      [newTier('cut', { kind: 'cut-through' }), { width: 0.7, count: 2, turn: 0 }],
      [{ ...newTier('sloped', { kind: 'raise', by: 1 }), edge: { kind: 'sloped', angle: 60, sized: 'top' } }],
    ];
    const drawn = (areas: TierAreas, [tier, bridges]: (typeof asked)[number]) =>
      areas.of({ ...plan, areas: new Map() }, tier, 1, bridges).area.contours;
    const alone = asked.map((one) => drawn(new TierAreas(), one));
    for (const order of [asked, [...asked].reverse()]) {
      const used = new TierAreas();
      for (const one of order) expect(drawn(used, one)).toEqual(alone[asked.indexOf(one)]);
    }
    // Each where the words stand; mitred tips reach furthest.
    const ink = bounds(plan.area.contours)!;
    for (const contours of alone) {
      const box = bounds(contours)!;
      for (const side of ['minX', 'maxX', 'minY', 'maxY'] as const) expect(Math.abs(box[side] - ink[side])).toBeLessThan(2);
    }
  });
});

describe('the area of a code', () => {
  it.each([
    { turn: 0, mirror: false },
    { turn: 90, mirror: true },
    { turn: 17.3, mirror: false },
    { turn: 201, mirror: true },
  ])('is one settled outline, turned by $turn°, mirrored: $mirror', ({ turn, mirror }) => {
    const sign = bareSign(100, 100, 5);
    sign.parts.push({
      kind: 'shape',
      id: 'code',
      name: 'Code',
      shape: { kind: 'code', symbology: 'qr', words: 'Quercus robur 1042', module: 0.37 },
      place: { x: 1.234, y: -5.5, turn, mirror },
      sitsOn: { kind: 'face' },
      tiers: [newTier('tier-1', { kind: 'raise', by: 1 })],
    } as ShapePart);
    const evaluation = workshop.evaluate(sign);
    const [{ area: drawn }] = evaluation.parts;
    expect(drawn.glyphs).toHaveLength(1);
    expect(drawn.loose).toEqual([]);
    const whole = union(drawn.contours);
    expect(area(whole)).toBeCloseTo(area(drawn.contours), 9);
    expect(area(whole) / 0.37 ** 2).toBeCloseTo(Math.round(area(whole) / 0.37 ** 2), 1);
    workshop.soundSolid(evaluation);
  });
});
