import { describe, expect, it } from '@jest/globals';
import { solidsOf, stlVolume } from './solids.js';
import { Visit } from './visit.js';

const visit = new Visit('heights');
const { faults } = visit;

const figure = async (name: string): Promise<string> =>
  (await visit.page.locator('.facts div', { hasText: name }).locator('dd').first().textContent()) ?? '';

describe('heights', () => {
  it('shows the carved panel by heights, finishes, light and shade, and outlines', async () => {
    await visit.openSign('Map room panel');
    await visit.page.locator('.facts div', { hasText: 'gold leaf' }).waitFor();
    expect(await figure('deepest carve')).toBe('7 mm');
    expect(await figure('thinnest floor')).toBe('12 mm');
    expect(await figure('weight')).toMatch(/kg$/u);
    const paint = visit.page.getByLabel('What the plan is painted by');
    const fills = () =>
      visit.page
        .locator('pr-plan-view path.level')
        .evaluateAll((paths) => [...new Set(paths.map((path) => path.getAttribute('fill')))]);
    const byHeight = await fills();
    await paint.selectOption('finishes');
    expect(await fills()).toEqual(expect.arrayContaining(['#4d5b3a', '#d3a93f', '#ece2c6', '#b08a58']));
    expect(byHeight).not.toContain('#4d5b3a');
    await paint.selectOption('relief');
    await visit.page.locator('pr-plan-view image.relief').waitFor({ state: 'attached' });
    await paint.selectOption('outlines');
    await visit.page.locator('pr-plan-view .outlines').waitFor({ state: 'attached' });
    await paint.selectOption('heights');
  });

  it('gives a ridge to letters in the ticket, says how high it comes, and takes it back', async () => {
    const id = await visit.openSign('Keyring plate');
    const order = visit.bench.order('Name');
    await (await visit.bench.field(order, 'edge')).selectOption('ridged');
    await visit.page.locator('pr-notes-list', { hasText: 'runs to the middle of its strokes and comes to' }).waitFor();
    await order.getByLabel('included angle').waitFor();
    await visit.bench.saved();
    expect((await visit.stored(id)).parts[1].tiers[0].edge).toEqual({ kind: 'ridged', angle: 90, capped: false });
    await visit.page.getByRole('button', { name: /^Undo/u }).click();
    await visit.page.locator('pr-notes-list', { hasText: 'Nothing to note' }).waitFor();
    await visit.bench.saved();
    expect((await visit.stored(id)).parts[1].tiers[0].edge).toEqual({ kind: 'sloped', angle: 10, sized: 'foot' });
  });

  it('offers bridges for letters that are cut through, and makes them', async () => {
    const id = await visit.openSign('Hollow letters');
    const order = visit.bench.order('Word');
    await (await visit.bench.field(order, 'action')).selectOption('cut-through');
    await visit.page.getByRole('button', { name: 'Hold them by bridges' }).click();
    await order.getByLabel('bridge width').waitFor();
    await visit.page.locator('pr-notes-list', { hasText: 'cut loose' }).waitFor({ state: 'detached' });
    await visit.bench.saved();
    expect((await visit.stored(id)).parts[0].bridges?.count).toBe(2);
    for (let undone = 0; undone < 2; undone++) await visit.page.getByRole('button', { name: /^Undo: / }).click();
    await visit.bench.saved();
    expect((await visit.stored(id)).parts[0].bridges).toBeUndefined();
    expect((await visit.stored(id)).parts[0].tiers[0].action.kind).toBe('raise');
  });

  it.each(['Map room panel', 'Hollow letters', 'Keyring plate'])(
    'exports %s as closed solids of the same volume',
    async (title) => {
      await visit.openSign(title);
      await visit.page.locator('.facts div', { hasText: 'taken out' }).waitFor();
      await visit.page.getByRole('button', { name: /^Make/u }).first().click();
      const solid = await visit.bench.make(/^Make Solid with finishes/u, '3mf');
      const found = await solidsOf(await solid.path());
      expect(found.map(({ status }) => status)).toEqual(found.map(() => 'NoError'));
      const stl = await visit.bench.make(/^Make Solid \(STL\)/u, 'stl');
      const sum = found.reduce((all, { volume }) => all + volume, 0);
      expect(Math.abs(sum / stlVolume(await stl.path()) - 1)).toBeLessThan(1e-5);
      expect(faults).toEqual([]);
    },
  );
});
