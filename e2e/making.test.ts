import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { newShape, newSign, type Sign } from '@plain-relief/core/sign';
import { settle } from './hands.js';
import { Visit } from './visit.js';
import { PATIENCE } from './patience.js';

const visit = new Visit('making');
const { faults } = visit;
let signId: string;

/** A plate with a carved panel, which is planned in a second. */
function plate(): Sign {
  const sign = newSign('Depth plate', 'mm');
  const blank = {
    ...sign.blank,
    outline: { kind: 'rectangle', width: 60, height: 40, cornerRadius: 0 },
    thickness: 8,
    material: 'oak',
  };
  return { ...sign, blank, parts: [newShape(sign, 'rectangle')] } as Sign;
}

const button = (name: string | RegExp) => visit.page.getByRole('button', { name });

describe('from the shop’s lists to the machine', () => {
  it('keeps a tool in the shop’s lists, and says what is wrong with one', async () => {
    const { body } = await visit.application.api<{ jobs: { id: string }[] }>('/jobs');
    const made = await visit.application.api<{ id: string }>(`/jobs/${body.jobs[0].id}/signs`, {
      method: 'POST',
      body: { title: 'Depth plate', document: plate() },
    });
    signId = made.body.id;
    await visit.page.goto(`${visit.application.url}/shop#library`);
    await button('Tools').click();
    await visit.page.getByLabel('Search tools').fill('3 mm end');
    await visit.page.locator('pr-library-section li button', { hasText: '3 mm end mill' }).first().click();
    const lists = visit.page.locator('pr-library-section');
    await button('Copy').click();
    await lists.getByLabel('Name', { exact: true }).fill('Worn 3 mm end mill');
    await lists.getByLabel('Diameter', { exact: true }).fill('2.8 mm');
    await lists.getByLabel('Flutes').fill('two');
    await lists.getByRole('button', { name: 'Keep' }).click();
    await visit.page.locator('pr-library-section .trouble', { hasText: '“two” is no figure' }).first().waitFor();
    await lists.getByLabel('Flutes').fill('0');
    await lists.getByRole('button', { name: 'Keep' }).click();
    await visit.page.locator('pr-library-section label .trouble').waitFor();
    await lists.getByLabel('Flutes').fill('2');
    await lists.getByRole('button', { name: 'Keep' }).click();
    await visit.page.locator('pr-library-section .told.good', { hasText: 'Worn 3 mm end mill is kept' }).waitFor();
    const { body: kept } = await visit.application.api<{ library: { tools: { name: string; form: { diameter: number } }[] } }>(
      '/shop/library',
    );
    expect(kept.library.tools.find(({ name }) => name.startsWith('Worn'))?.form.diameter).toBe(2.8);
    // A dialect is tried while it is typed.
    await button('Machines').click();
    await visit.page.locator('pr-library-section li button', { hasText: 'Long bed' }).click();
    await lists.getByLabel('Last lines').fill('');
    await visit.page.locator('.sample .trouble', { hasText: 'no end' }).waitFor();
    await button('As it was').click();
    await visit.page.locator('.sample', { hasText: 'It is read back whole' }).waitFor();
  });

  it('plans the cuts with what is proposed, proves them, and shows them', async () => {
    await visit.bench.open(visit.application.url, signId);
    await button(/^Make/u).first().click();
    await visit.page.getByText('Nothing is planned yet').waitFor();
    await button('Plan the cuts').click();
    await visit.page.locator('pr-plan-facts .verdict.good').waitFor({ timeout: PATIENCE });
    await visit.page.locator('pr-plan-film input[type=range]').waitFor();
    await visit.page.locator('pr-plan-facts .cuts button').first().click();
    await visit.page.waitForFunction(() => (document.querySelector('.way:not(.rapid)')?.getAttribute('d')?.length ?? 0) > 100);
    // Back to the beginning, and on: what is cut grows.
    const shade = () =>
      visit.page.locator('pr-plan-film canvas').evaluate((canvas: HTMLCanvasElement) => {
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        return data.reduce((sum, value, i) => (i % 4 === 0 ? sum + value : sum), 0);
      });
    const end = await shade();
    const scrubber = visit.page.getByLabel('Moment of the film');
    await scrubber.fill('0');
    await visit.page.getByText('The stock before the first cut').waitFor();
    expect(await shade()).not.toBe(end);
    await button('Play').click();
    await button('Pause').click();
    await button('What is left').click();
    await visit.page.locator('pr-plan-film img').waitFor();
  });

  it('lets programs out by name, with their setup sheet', async () => {
    const link = visit.page.getByRole('link', { name: 'Setup sheet (PDF)' });
    const [sheet] = await Promise.all([visit.page.waitForEvent('download'), link.click()]);
    expect(
      readFileSync(await sheet.path())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    expect(await button('Let the programs out').isDisabled()).toBe(true);
    await visit.page.getByLabel('Why it is let out all the same').fill('A test in scrap');
    await button('Let the programs out').click();
    const all = visit.page.getByRole('link', { name: 'All of it (ZIP)' });
    const [archive] = await Promise.all([visit.page.waitForEvent('download'), all.click()]);
    expect(archive.suggestedFilename()).toBe('programs-r1.zip');
  });

  it('runs them on the practice machine until all is done, as a maker', async () => {
    const page = await visit.application.openPage(visit.browser, { viewport: { width: 1280, height: 800 } }, 'piet');
    page.setDefaultTimeout(PATIENCE);
    const press = (name: string | RegExp) => page.getByRole('button', { name });
    await page.goto(`${visit.application.url}/signs/${signId}`);
    await press(/^Make/u).first().click();
    await page.locator('pr-plan-facts .verdict.good').waitFor();
    await page.getByText('Let out by').waitFor();
    const [sheet] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Setup sheet (PDF)' }).click(),
    ]);
    expect(sheet.suggestedFilename()).toMatch(/\.pdf$/u);
    await press('At the machine').click();
    await page.locator('pr-machine-panel .files button').first().waitFor();
    const programs = await page.locator('pr-machine-panel .files button').count();
    expect(programs).toBeGreaterThan(0);
    await page.getByLabel('Runs').selectOption('500');
    for (let i = 0; i < programs; i++) {
      await page.locator('pr-machine-panel .files button').nth(i).click();
      await press(/^Run 0/u).click();
      const tool = press(/^T\d+ is in$/u);
      const done = page.locator('pr-machine-panel b', { hasText: 'done' });
      await tool.or(done).first().waitFor();
      if (await tool.isVisible()) await tool.click();
      await done.waitFor();
      await page.locator('.state', { hasText: 'at rest' }).waitFor();
    }
    const { body } = await visit.application.api<{ run: { end: string } }>('/machine');
    expect(body.run.end).toBe('done');
    await page.context().close();
  });

  it('moves a tab on the plan, and lays it with that', async () => {
    const tabs = visit.page.locator('pr-plan-film circle.tab');
    const count = await tabs.count();
    expect(count).toBeGreaterThan(1);
    await tabs.first().focus();
    await visit.page.keyboard.press('Delete');
    await visit.page.getByText('Tabs were moved.').waitFor();
    await tabs.first().press('Shift+ArrowRight');
    await button('Lay it with them').click();
    await visit.page.getByText('Tabs were moved.').waitFor({ state: 'detached' });
    await visit.page.waitForFunction((most) => document.querySelectorAll('pr-plan-film circle.tab').length === most, count - 1);
    const { body } = await visit.application.api<{ plans: { state: string; order: { choice: { holding: { at: unknown[] } } } }[] }>(`/signs/${signId}/plans`); // prettier-ignore
    expect(body.plans[0].order.choice.holding.at).toHaveLength(count - 1);
    await visit.page.locator('pr-plan-facts .verdict.good').waitFor();
  });

  it('says when the sign has changed, and lays the plan again', async () => {
    await button(/^Heights/u).click();

    await visit.bench.set(visit.bench.order('Blank'), 'thickness', '9');
    await visit.bench.saved();
    await button(/^Make/u).first().click();
    await visit.page.locator('.behind', { hasText: 'The sign has changed since' }).waitFor();
    await button('Lay it again').click();
    await visit.page.locator('.behind').waitFor({ state: 'detached', timeout: PATIENCE });
    await visit.page.locator('pr-plan-facts .verdict.good').waitFor();
    await settle(visit.page);
    // What was let out before stays as it was.
    await visit.page.getByLabel('Plan that is looked at').selectOption({ index: 2 });
    await visit.page.getByText('Let out by').waitFor();
  });

  it('cuts both sides on pins, and changes the sign for what no tool comes into', async () => {
    const sign = plate();
    const groove = { ...newShape(sign, 'rectangle'), id: 'groove', name: 'Groove' };
    groove.shape = { kind: 'rectangle', width: 30, height: 1.5, cornerRadius: 0 };
    const behind = { ...groove, id: 'behind', name: 'Behind', side: 'back' as const };
    const { body } = await visit.application.api<{ jobs: { id: string }[] }>('/jobs');
    const made = await visit.application.api<{ id: string }>(`/jobs/${body.jobs[0].id}/signs`, {
      method: 'POST',
      body: { title: 'Two sides', document: { ...sign, title: 'Two sides', parts: [groove, behind] } },
    });
    await visit.bench.open(visit.application.url, made.body.id);
    await button(/^Make/u).first().click();
    await visit.page.getByText('The back is cut first').waitFor();
    await button('on pins …').click();
    await visit.page.getByLabel('diameter of the pins').fill('8 mm');
    await visit.page.getByLabel('diameter of the pins').press('Enter');
    const ticked = visit.page.locator('.tools input:checked');
    for (let left = await ticked.count(); left > 0; left--) await ticked.first().uncheck();
    for (const name of ['6 mm end mill', '90° vee bit'])
      await visit.page.locator('.tools label', { hasText: name }).first().locator('input').check();
    await visit.page.getByRole('group', { name: 'Side that is cut' }).getByRole('button', { name: 'Back' }).click();
    await button('Plan the cuts').click();
    const facts = visit.page.locator('pr-plan-facts');
    await facts.locator('.cuts', { hasText: 'Holes for pins' }).waitFor({ timeout: PATIENCE });
    await facts.locator('.verdict.good').waitFor();
    await visit.page.locator('pr-film-section').waitFor();
    await facts.getByRole('button', { name: 'Carve “Behind” as the 90° vee bit does' }).click();
    await visit.page.locator('.behind', { hasText: 'The sign has changed since' }).waitFor();
    await button('Lay it again').click();
    await visit.page.locator('.behind').waitFor({ state: 'detached', timeout: PATIENCE });
    await facts.locator('.cuts', { hasText: 'Cut with the vee' }).waitFor();
    expect(await facts.locator('.mendings').count()).toBe(0);
  });

  it('reported nothing wrong on the way', () => {
    // Refusals that were asked for above are answered as such.
    expect(faults.filter((fault) => !/status of (?:400|409)/u.test(fault))).toEqual([]);
  });
});
