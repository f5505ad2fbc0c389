import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addShape, bareSign, demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { contains } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { BARE, bareFinish, readSign, type Sign } from '../sign/index.js';
import { type ReliefMesh } from '../mesh/index.js';
import { coloured, figuresOf, solidOf } from '../solid/index.js';
import { type CallOut, callOutsOf, type FinishedSide, withCallOuts } from './callouts.js';
import { type Drawing, type LabelItem, type LineItem } from './drawing.js';
import { dimensionedPlan, planDrawing } from './plan.js';
import { sizesDrawing } from './sizes.js';

const workshop = new Workshop();
const sideOf = (evaluation: Evaluation, mesh = solidOf(evaluation)): FinishedSide => ({
  solid: coloured(evaluation, mesh),
  areas: figuresOf(evaluation, mesh).areas,
});
/** A board of 100 × 60 mm with two finishes at hand. */
function board(): Sign {
  const sign = bareSign(100, 60, 10);
  sign.finishes = [
    { id: 'red', name: 'signal red', colour: '#a5281f', gloss: 'gloss' },
    { id: 'gold', name: 'gold leaf', colour: '#d4a72c', gloss: 'metal' },
  ];
  return sign;
}

/** Adds a shape whose tier wears finishes; gives the part. */
function addFinished(sign: Sign, finish: { top?: string; sides?: string }, ...shape: Shape): Sign['parts'][number] {
  addShape(sign, ...shape);
  const part = sign.parts[sign.parts.length - 1];
  part.tiers[0].finish = finish;
  return part;
}
type Shape = Parameters<typeof addShape> extends [Sign, ...infer Rest] ? Rest : never;

const outsOf = (
  sign: Sign,
): { outs: CallOut[]; drawn: (textHeight: number) => Drawing; plan: (textHeight: number) => Drawing } => {
  const evaluation = workshop.evaluate(sign);
  const [outs] = callOutsOf([sideOf(evaluation, workshop.soundSolid(evaluation).mesh)]);
  const plan = (textHeight: number) => dimensionedPlan(evaluation, { textHeight });
  return { outs, plan, drawn: (textHeight) => withCallOuts(plan(textHeight), outs, textHeight) };
};

const added = ({ items }: Drawing) => items.filter(({ layer }) => layer === 'call-outs');
/** Every second line is the light one under it. */
const leadersOf = (drawing: Drawing): Float64Array[] =>
  added(drawing)
    .filter((item): item is LineItem => item.kind === 'line')
    .filter((_, i) => i % 2 === 1)
    .map(({ points }) => points);

/** The triangle that a reader sees over a point: the highest that holds it. */
function seenAt({ positions: p, triangles }: ReliefMesh, x: number, y: number): number {
  let [best, highest] = [-1, -Infinity];
  for (let f = 0; f < triangles.length / 3; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => 3 * triangles[3 * f + k]);
    const twice = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
    if (Math.abs(twice) < 1e-12) continue;
    const s = ((x - p[a]) * (p[c + 1] - p[a + 1]) - (y - p[a + 1]) * (p[c] - p[a])) / twice;
    const t = ((p[b] - p[a]) * (y - p[a + 1]) - (p[b + 1] - p[a + 1]) * (x - p[a])) / twice;
    if (s < 0 || t < 0 || s + t > 1) continue;
    const z = p[a + 2] + s * (p[b + 2] - p[a + 2]) + t * (p[c + 2] - p[a + 2]);
    if (z > highest) [best, highest] = [f, z];
  }
  return best;
}

describe('call-outs', () => {
  it('number what covers most first, and point into it', () => {
    const sign = board();
    addFinished(sign, { top: 'red' }, [60, 30], { kind: 'carve', by: 2 });
    addFinished(sign, { top: 'gold' }, 5, { kind: 'raise', by: 3 }, { x: 40, y: 20 });
    const { outs, plan, drawn } = outsOf(sign);
    expect(outs.map(({ number, finish }) => [number, finish.id])).toEqual([
      [1, BARE],
      [2, 'red'],
      [3, 'gold'],
    ]);
    const drawing = drawn(2.6);
    expect(added(drawing).filter((item): item is LabelItem => item.kind === 'label').map(({ text }) => text).sort()).toEqual(['1', '2', '3']); // prettier-ignore
    const ends = new Map(
      leadersOf(drawing).map(([, , x, y], i) => [
        added(drawing).filter((item): item is LabelItem => item.kind === 'label')[i].text,
        [x, y],
      ]),
    );
    const [redX, redY] = ends.get('2')!;
    expect([Math.abs(redX) < 30, Math.abs(redY) < 15]).toEqual([true, true]);
    const [goldX, goldY] = ends.get('3')!;
    expect(Math.hypot(goldX - 40, goldY - 20)).toBeLessThan(2.5);
    const [bareX, bareY] = ends.get('1')!;
    expect(Math.abs(bareX) > 30 || Math.abs(bareY) > 15).toBe(true);
    // The row stands clear above the plan and its dimensions.
    for (const points of leadersOf(drawing)) expect(points[1]).toBeGreaterThan(plan(2.6).bounds.maxY);
  });

  it('are listed below the sizes on a screen, each with its swatch', () => {
    const sign = board();
    sign.blank.material = 'oak';
    addFinished(sign, { top: 'red', sides: 'gold' }, [60, 30], { kind: 'carve', by: 2 });
    const evaluation = workshop.evaluate(sign);
    const { outs } = outsOf(sign);
    const plain = sizesDrawing(evaluation);
    const { items, bounds } = sizesDrawing(evaluation, outs);
    const list = items.filter(({ layer }) => layer === 'finishes');
    const labels = list.filter((item): item is LabelItem => item.kind === 'label');
    expect(labels.map(({ text }) => text)).toEqual(['1', 'oak, bare', '2', 'signal red, glossy', '3', 'gold leaf, metallic (upright sides)']); // prettier-ignore
    expect(list.flatMap((item) => (item.kind === 'area' ? [item.fill] : []))).toEqual(
      outs.map(({ finish }) => ({ kind: 'plain', colour: finish.colour })),
    );
    for (const { y } of labels) expect([y < plain.bounds.minY, y > bounds.minY]).toEqual([true, true]);
    // One finish alone is named, and not pointed at.
    const bare = board();
    const [alone] = callOutsOf([sideOf(workshop.evaluate(bare))]);
    expect(added(sizesDrawing(workshop.evaluate(bare), alone))).toEqual([]);
  });

  it('name what only upright sides wear, without a leader', () => {
    const sign = board();
    addFinished(sign, { sides: 'red' }, [60, 30], { kind: 'raise', by: 2 });
    const { outs, drawn } = outsOf(sign);
    expect(outs.map(({ finish, places }) => [finish.id, places.length > 0])).toEqual([
      [BARE, true],
      ['red', false],
    ]);
    expect(leadersOf(drawn(2))).toHaveLength(1);
  });

  it('point at what is narrow near its top, and not wherever it is a little wider', () => {
    const sign = board();
    // A rim of 1 mm all round, which has no room for the dot anywhere.
    addFinished(sign, { top: 'red' }, [90, 50], { kind: 'raise', by: 2 });
    addFinished(sign, { top: 'gold' }, [88, 48], { kind: 'set', to: 1 });
    const [end] = leadersOf(outsOf(sign).drawn(4)).filter(([, , x, y]) => Math.abs(x) > 44 || Math.abs(y) > 24).filter(([, , x, y]) => Math.abs(x) < 45 && Math.abs(y) < 25); // prettier-ignore
    expect(end[3]).toBeGreaterThan(0);
  });

  it('keep their numbers on the back', () => {
    const sign = board();
    addFinished(sign, { top: 'red' }, [60, 30], { kind: 'carve', by: 2 });
    addFinished(sign, { top: 'red' }, [90, 50], { kind: 'carve', by: 1 }).side = 'back';
    const views = (['front', 'back'] as const).map((side) => {
      const evaluation = workshop.evaluate(sign, side);
      return sideOf(evaluation, workshop.soundSolid(evaluation).mesh);
    });
    const [front, back] = callOutsOf(views);
    expect(front.map(({ number, finish }) => [number, finish.id])).toEqual([[1, 'bare'], [2, 'red']]); // prettier-ignore
    expect(back.find(({ finish }) => finish.id === 'red')).toMatchObject({ number: 2 });
  });

  // The donor plaque takes minutes in the sandbox of the test runner, and is no other.
  it.each(demoSigns().filter(([name]) => !name.startsWith('donor')))('of %s end where the finish is seen', (_, document) => {
    const sign = readSign(document);
    const evaluation = workshop.evaluate(sign);
    const { mesh, finishes, wears } = coloured(evaluation, solidOf(evaluation));
    const [outs] = callOutsOf([sideOf(evaluation, mesh)]);
    const areas = planDrawing(evaluation, { textHeight: 2, isInFinishes: true }).items.filter((item) => item.kind === 'area');
    for (const { finish, places } of outs)
      for (const { x, y, room } of places) {
        expect(finishes[wears[seenAt(mesh, x, y)]]).toEqual(finish);
        // The plan in its finishes is painted by the same.
        const painted = [...areas].reverse().find(({ outline }) => contains(outline, x, y))?.fill;
        if (room > 0.01) expect(painted).toEqual({ kind: 'plain', colour: finish.colour });
        expect(room).toBeGreaterThan(0);
      }
  });

  it('never cross, nor does a number lie on another', () => {
    const plan: Drawing = { items: [], bounds: { minX: -50, minY: -30, maxX: 50, maxY: 30 } };
    const spot = fc.record({ x: fc.integer({ min: -50, max: 50 }), y: fc.integer({ min: -30, max: 30 }) });
    fc.assert(
      fc.property(
        fc.uniqueArray(spot, { minLength: 2, maxLength: 14, selector: ({ x, y }) => `${x} ${y}` }),
        fc.double({ min: 1, max: 9, noNaN: true }),
        (spots, textHeight) => {
          const outs = spots.map((at, i): CallOut => ({ number: i + 1, finish: bareFinish(''), places: [{ ...at, room: 1 }] }));
          const drawing = withCallOuts(plan, outs, textHeight);
          const leaders = leadersOf(drawing);
          expect(leaders).toHaveLength(spots.length);
          const side = (l: Float64Array, x: number, y: number) => (l[2] - l[0]) * (y - l[1]) - (l[3] - l[1]) * (x - l[0]);
          leaders.forEach((one, i) =>
            leaders.slice(0, i).forEach((other) => {
              const crosses =
                side(one, other[0], other[1]) * side(one, other[2], other[3]) < -1e-9 &&
                side(other, one[0], one[1]) * side(other, one[2], one[3]) < -1e-9;
              expect(crosses).toBe(false);
            }),
          );
          const discs = added(drawing).filter((item): item is LabelItem => item.kind === 'label').map(({ x }) => x).sort((a, b) => a - b); // prettier-ignore
          discs.slice(1).forEach((x, i) => expect(x - discs[i]).toBeGreaterThan(2.5 * textHeight));
          for (const x of discs) expect([x >= drawing.bounds.minX, x <= drawing.bounds.maxX]).toEqual([true, true]);
        },
      ),
      { numRuns: 200 },
    );
  });
});
