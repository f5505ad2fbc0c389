import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readSign } from '@plain-relief/core/sign';
import { ReliefDesk } from './relief-desk';
import { screenPath } from './screen-path';

const ROOT = join(dirname(fileURLToPath(import.meta.url)), '../../../..');
const demo = (name: string) => readSign(JSON.parse(readFileSync(join(ROOT, `demo/${name}.sign.json`), 'utf8')));

describe('screenPath', () => {
  it('is relative, in whole micrometres with y downwards, and drifts nowhere', () => {
    expect(screenPath([Float64Array.of(0, 0, 1.0004, 0, 1.0004, -2)], true)).toBe('m0 0l1000 0l0 2000z');
    const many = Float64Array.from(Array.from({ length: 2000 }, (_, i) => (i % 2 ? 0 : i * 0.0003)));
    const numbers = screenPath([many], false).match(/-?\d+/gu)!.map(Number);
    const end = numbers.filter((_, i) => i % 2 === 0).reduce((sum, dx) => sum + dx, 0);
    expect(end).toBe(Math.round(1998 * 0.0003 * 1000));
  });
});

describe('ReliefDesk', () => {
  const asked: string[] = [];
  const desk = new ReliefDesk((path) => {
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

  it('paints every place of a busy sign though large grounds are painted whole', async () => {
    const { plan } = await desk.show(demo('donor-plaque'));
    expect(plan.paths.length).toBeGreaterThan(40);
    expect(plan.paths.reduce((sum, { d }) => sum + d.length, 0)).toBeLessThan(1_000_000);
  });
});
