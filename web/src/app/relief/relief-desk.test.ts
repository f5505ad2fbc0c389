import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { heightColour, heightReach } from '@plain-relief/core/drawing';
import { contains } from '@plain-relief/core/geometry';
import { Evaluator, regionOf } from '@plain-relief/core/relief';
import { extentOfShape, readSign } from '@plain-relief/core/sign';
import { FontBook, type FontEntry } from '@plain-relief/core/type';
import { ReliefDesk } from './relief-desk';
import { screenRings, screenStrokes } from './screen-path';

const ROOT = join(dirname(fileURLToPath(import.meta.url)), '../../../..');
const demo = (name: string) => readSign(JSON.parse(readFileSync(join(ROOT, `demo/${name}.sign.json`), 'utf8')));

describe('screenPath', () => {
  it('is relative, in whole micrometres with y downwards, and drifts nowhere', () => {
    expect(screenRings([Float64Array.of(0, 0, 1.0004, 0, 1.0004, -2)])).toBe('M0 0l1000 0l0 2000z');
    const many = Float64Array.from(Array.from({ length: 2000 }, (_, i) => (i % 2 ? 0 : i * 0.0003)));
    const numbers = screenStrokes([many]).match(/-?\d+/gu)!.map(Number);
    const end = numbers.filter((_, i) => i % 2 === 0).reduce((sum, dx) => sum + dx, 0);
    expect(end).toBe(Math.round(1998 * 0.0003 * 1000));
  });
});

describe('ReliefDesk', () => {
  const asked: string[] = [];
  const desk = new ReliefDesk((path) => {
    if (path === '/api/shop/fonts') return Promise.resolve(new TextEncoder().encode('[]'));
    asked.push(path);
    return Promise.resolve(new Uint8Array(readFileSync(join(ROOT, path))));
  });

  it('answers a sign with everything that the page shows, and loads only its fonts', async () => {
    const view = await desk.show(demo('west-gate'));
    expect(asked.filter((path) => !path.endsWith('catalogue.json'))).toHaveLength(3);
    expect(view.plan.parts.map(({ name }) => name)).toContain('Second line');
    expect(view.ladder.rungs.filter(({ isThrough }) => isThrough)).toHaveLength(4);
    expect(view.section.surfaces.length).toBeGreaterThan(10);
    expect(view.facts.letters).toBe(26);
    expect(view.notes).toEqual([]);
  });

  it('cuts the last sign along another line and builds its model', () => {
    const along = desk.section({ x: 0, y: 150, turn: 0 })!;
    expect(along.surfaces.every(({ z }) => z === 0)).toBe(true);
    const model = desk.model()!;
    expect(model.positions.length % 9).toBe(0);
    expect(model.normals.length).toBe(model.positions.length);
  });

  it('shows the other side: its parts, its heights from its own face, and the cut as it is seen from there', async () => {
    const sign = demo('pier-hanging');
    const [front, back] = [await desk.show(sign), await desk.show(sign, 'back')];
    expect(front.plan.parts.map(({ id }) => id)).toEqual(['rim', 'front', 'window']);
    expect(back.plan.parts.map(({ id }) => id)).toEqual(['back', 'back-rim']);
    expect([front.ladder.limit, back.ladder.limit]).toEqual([4, undefined]);
    expect(back.ladder.rungs.map(({ z }) => z)).toEqual([4, 2]);
    // One cut, mirrored: what is 100 mm right of the middle in front is 100 mm left of it behind.
    const at = (view: typeof front, mm: number) => view.section.surfaces.find(({ from, to }) => from <= mm && mm < to);
    expect(Math.abs((at(front, 0)?.z ?? 0) - (at(back, 0)?.z ?? 0))).toBeGreaterThan(1);
    expect([-front.section.from, -front.section.to]).toEqual([expect.closeTo(back.section.to, 6), expect.closeTo(back.section.from, 6)]); // prettier-ignore
    // Of the front it is no matter where letters of the back are.
    expect(front.plan.paths.filter(({ key }) => key.startsWith('level 0')).length).toBeLessThan(4);
  });

  it('shows the sheet that letters are cut from beside what is left of it', async () => {
    const { plan, notes } = await desk.show(demo('wall-letters'));
    expect(plan.sheet).toMatch(/^M/u);
    expect(plan.edge.split('M').length).toBeGreaterThan(12);
    expect(notes.map(({ code }) => code)).toEqual(['letters-apart']);
  });

  it.each(['donor-plaque', 'west-gate', 'welcome'])('paints every place of %s in the colour of its level', async (name) => {
    const sign = demo(name);
    const { plan } = await desk.show(sign);
    const book = new FontBook(JSON.parse(readFileSync(join(ROOT, 'fonts/catalogue.json'), 'utf8')) as FontEntry[], ({ file }) =>
      Promise.resolve(new Uint8Array(readFileSync(join(ROOT, 'fonts', file)))),
    );
    const evaluation = await new Evaluator(book).evaluate(sign);
    const reach = heightReach(evaluation);
    const regions = evaluation.levels.map(({ labels, z }) => ({
      outline: regionOf(evaluation, ...labels),
      colour: heightColour(z, reach),
    }));
    const painted = plan.paths.filter(({ isLine }) => !isLine).map((path) => ({ ...path, runs: runsOf(path.d) }));
    expect(new Set(plan.paths.map(({ key }) => key)).size).toBe(plan.paths.length);
    const { width, height } = extentOfShape(sign.blank.outline);
    let tried = 0;
    for (let i = 0; i < 500; i++) {
      // A grid that no outline follows.
      const [x, y] = [(((i * 0.6180339887) % 1) - 0.5) * width, (((i * 0.7548776662) % 1) - 0.5) * height];
      const seen = [...painted].reverse().find(({ runs }) => contains(runs, x, y));
      const level = regions.find(({ outline }) => contains(outline, x, y));
      if (!level || !seen) continue;
      tried++;
      expect([x, y, seen.fill]).toEqual([x, y, level.colour]);
    }
    expect(tried).toBeGreaterThan(400);
  });

  it('leaves the letters of other parts as they were when one is edited', async () => {
    const sign = demo('donor-plaque');
    const before = new Map((await desk.show(sign)).plan.paths.map(({ key, d }) => [key, d]));
    const edited = demo('donor-plaque');
    const text = edited.parts.find((part) => part.kind === 'text')!;
    text.words += 'S';
    const changed = (await desk.show(edited)).plan.paths.filter(({ key, d }) => before.get(key) !== d);
    expect(changed.length).toBeGreaterThan(0);
    expect(changed.map(({ key }) => key).filter((key) => key.startsWith('letters of') && !key.includes(text.id))).toEqual([]);
  });
});

/** Runs of path data of the screen, in mm with y upwards. */
function runsOf(d: string): Float64Array[] {
  return d
    .split('M')
    .slice(1)
    .map((run) => {
      let [x, y] = [0, 0];
      const steps = run.match(/-?\d+/gu)!.map(Number);
      return Float64Array.from(steps.flatMap((_, i) => (i % 2 ? [] : [(x += steps[i]) / 1000, -(y += steps[i + 1]) / 1000])));
    });
}
