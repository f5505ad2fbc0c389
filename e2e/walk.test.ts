import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { IDxf } from 'dxf-parser';
import { ROOT } from './application.js';
import { Visit } from './visit.js';
import { PATIENCE } from './patience.js';

// The package's module form cannot be loaded by Node.js.
const DxfParser = createRequire(import.meta.url)('dxf-parser') as new () => { parseSync(text: string): IDxf | null };

const visit = new Visit('walk');
const { application, faults } = visit;

async function fileOf(download: { path(): Promise<string> }): Promise<{ path: string; bytes: Buffer }> {
  const path = await download.path();
  return { path, bytes: readFileSync(path) };
}

const command = (program: string, ...args: string[]): string => spawnSync(program, args, { encoding: 'utf8' }).stdout;

describe('from the words to the files', () => {
  it('shows the jobs of the three customers with pictures of their signs', async () => {
    await visit.page.goto(application.url);
    for (const customer of ['Fernhollow Arboretum', 'Quill Street Library', 'Osprey Point Ferry'])
      await visit.page.getByText(customer).first().waitFor();
    const pictures = visit.page.locator('.sign img');
    expect(await pictures.count()).toBe(19);
    await visit.page.waitForFunction(
      () => [...document.querySelectorAll<HTMLImageElement>('.sign img')].slice(0, 3).every((img) => img.naturalWidth === 360),
      undefined,
      { timeout: PATIENCE },
    );
  });

  it('makes a job and a sign', async () => {
    await visit.page.getByRole('button', { name: 'New job' }).click();
    await visit.page.getByRole('button', { name: 'Make the job' }).click();
    await visit.page.getByText('Whose job is it?').waitFor();
    await visit.page.getByLabel('Customer', { exact: true }).fill('Fernhollow Arbor');
    // Esc closes the list of customers, and not the form around it.
    await visit.page.locator('ngb-typeahead-window').waitFor();
    await visit.page.keyboard.press('Escape');
    await visit.page.locator('ngb-typeahead-window').waitFor({ state: 'detached' });
    await visit.page.getByLabel('What is wanted').fill('Heron pond plaque');
    await visit.page.getByLabel('Due on', { exact: true }).fill('2027-03-05');
    await visit.page.getByLabel('Customer', { exact: true }).fill('Fernhollow Arboretum');
    await visit.page.getByLabel('How many').fill('2');
    await visit.page.getByRole('button', { name: 'Make the job' }).click();
    const card = visit.page.locator('.card-job', { hasText: 'Heron pond plaque' });
    await card.waitFor();
    expect(await card.textContent()).toContain('2 to make');
    // It asks for its first sign at once, and offers kinds to begin from.
    await visit.page.waitForFunction(() => document.activeElement?.getAttribute('formcontrolname') === 'title');
    const dialog = visit.page.getByRole('dialog');
    expect(await dialog.locator('.kind').count()).toBeGreaterThan(9);
    await dialog.getByText('Bare blank').click();
    await dialog.getByLabel('Name of the sign').fill('Heron pond');
    await dialog.getByRole('button', { name: 'Make the sign' }).click();
    await visit.page.waitForURL(/\/signs\//u);
    await visit.page.getByText('The blank is bare').waitFor();
  });

  it('sets blank and lines in any unit and shows them everywhere', async () => {
    const blank = visit.bench.order('Blank');
    await visit.bench.set(blank, 'width', '1 ft');
    await visit.bench.set(blank, 'height', '150mm');
    await visit.bench.set(blank, 'thickness', '6 mm + 1/8 in');
    await visit.bench.set(blank, 'corner radius', '1/4 in');
    await visit.bench.shows(blank, 'width', '304.8 mm');
    await visit.bench.shows(blank, 'thickness', '9.18 mm');

    const first = await visit.bench.addLine('HERON POND');
    await visit.bench.set(first, 'cap height', '3/4 in');
    await visit.bench.set(first, 'place up', '40');
    await visit.bench.set(first, 'height', '2 mm');
    const second = await visit.bench.addLine('please keep the gate shut');
    await visit.bench.set(second, 'cap height', '8');
    await visit.bench.set(second, 'place up', '5');
    await (await visit.bench.field(second, 'action')).selectOption('carve');
    await visit.bench.set(second, 'depth', '1.5 mm');
    const third = await visit.bench.addLine('IO');
    await visit.bench.set(third, 'place up', '-40');
    await (await visit.bench.field(third, 'action')).selectOption('cut-through');

    const rungs = visit.page.locator('pr-ladder li');
    await visit.page.locator('pr-ladder li', { hasText: 'cut through' }).waitFor();
    expect(await rungs.count()).toBe(3);
    await visit.bench.shows(visit.page.locator('pr-ladder'), 'level of Line 1', '2 mm');
    await visit.bench.shows(visit.page.locator('pr-ladder'), 'level of Line 2', '−1.5 mm');
    await visit.page.locator('pr-notes-list', { hasText: 'One piece of' }).waitFor();
    expect(await visit.page.locator('pr-plan-view path.level').count()).toBeGreaterThan(3);
    expect(await visit.page.locator('pr-section-view .surface').count()).toBeGreaterThan(0);
  });

  it('keeps what is not a length in its field and says what was not understood', async () => {
    const blank = visit.bench.order('Blank');
    await visit.bench.set(blank, 'width', '30 parsecs');
    await visit.page.getByText('“parsecs” in “30 parsecs” was not understood').waitFor();
    await blank.getByLabel('width', { exact: true }).press('Escape');
    await visit.bench.shows(blank, 'width', '304.8 mm');
  });

  it('drags the cut line, and the section follows', async () => {
    const before = await visit.page.locator('pr-section-view .surface').count();
    const box = (await visit.page.locator('pr-plan-view').boundingBox())!;
    const line = (await visit.page.locator('pr-plan-view .cut .mark').boundingBox())!;
    const x = line.x + line.width * 0.2;
    await visit.page.mouse.move(x, line.y);
    await visit.page.mouse.down();
    // The capitals of the first line stand 40 mm above the middle; the blank is 304.8 mm wide in the window.
    const scale = (await visit.page.locator('pr-plan-view path.edge').boundingBox())!.width / 304.8;
    await visit.page.mouse.move(x, line.y - 40 * scale, { steps: 6 });
    await visit.page.mouse.up();
    expect(box.width).toBeGreaterThan(300);
    await visit.page.waitForFunction((count) => document.querySelectorAll('pr-section-view .surface').length > count, before);
    await visit.page.locator('pr-section-view').hover();
    expect(await visit.page.locator('pr-section-view .read').textContent()).toMatch(/along: (the face|raised 2 mm)/u);
  });

  it('drags a rung, undoes and redoes it by name', async () => {
    const level = visit.page.getByLabel('level of Line 1');
    const grip = (await visit.page.locator('pr-ladder li', { hasText: 'Line 1' }).locator('.grip').boundingBox())!;
    await visit.page.mouse.move(grip.x + 8, grip.y + 10);
    await visit.page.mouse.down();
    await visit.page.mouse.move(grip.x + 8, grip.y - 20, { steps: 4 });
    await visit.page.mouse.up();
    await visit.page.waitForFunction(
      () => (document.querySelector<HTMLInputElement>('[aria-label="level of Line 1"]')?.value ?? '') !== '2 mm',
    );
    const dragged = await level.inputValue();
    expect(parseFloat(dragged)).toBeGreaterThan(2);
    await visit.page.getByRole('button', { name: 'Undo: height of Line 1' }).click();
    await visit.page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[aria-label="level of Line 1"]')?.value === '2 mm',
    );
    await visit.page.keyboard.press('Control+Shift+Z');
    await visit.page.waitForFunction(
      (value) => document.querySelector<HTMLInputElement>('[aria-label="level of Line 1"]')?.value === value,
      dragged,
    );
    await visit.page.keyboard.press('Control+Z');
  });

  it('turns the model', async () => {
    await visit.page.getByRole('button', { name: 'Model', exact: true }).click();
    await visit.page.locator('pr-model-view .say').waitFor({ state: 'detached', timeout: PATIENCE });
    const canvas = visit.page.locator('pr-model-view canvas');
    await visit.page.waitForTimeout(600);
    const before = await canvas.screenshot();
    await visit.page.getByRole('button', { name: 'left', exact: true }).click();
    await visit.page.waitForTimeout(600);
    expect((await canvas.screenshot()).equals(before)).toBe(false);
    await visit.page.getByRole('button', { name: 'Plan', exact: true }).click();
  });

  it('has everything after a reload', async () => {
    const revision = await visit.bench.saved();
    expect(revision).toBeGreaterThan(1);
    await visit.page.reload();
    await visit.page.locator('pr-ladder li', { hasText: 'cut through' }).waitFor();
    const valueOf = async (part: string, label: string) => (await visit.bench.field(visit.bench.order(part), label)).inputValue();
    expect(await valueOf('Line 1', 'Words of Line 1')).toBe('HERON POND');
    expect(await valueOf('Line 2', 'depth')).toBe('1.5 mm');
  });

  it('makes the proof: A4, the sign’s words, to scale', async () => {
    await visit.page.getByRole('button', { name: /^Proof/u }).click();
    const { path } = await fileOf(await visit.bench.make(/^Make Proof/u, 'proof'));
    expect(command('pdfinfo', path)).toMatch(/Page size:\s+841\.89 x 595\.27/u);
    const text = command('pdftotext', path, '-').replace(/\s+/gu, ' ');
    for (const words of [
      'HERON POND',
      'please keep the gate shut',
      '304.8 mm',
      'Millrace Signworks',
      'Heron pond',
      'Raised by 2 mm',
      'Cut through',
    ])
      expect(text).toContain(words);
  });

  it('makes the production files at true size', async () => {
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    await visit.page.getByRole('button', { name: 'Outlines and solids' }).waitFor();
    const stl = await fileOf(await visit.bench.make(/^Make Solid \(STL\)/u, 'stl'));
    const facets = stl.bytes.readUInt32LE(80);
    expect(stl.bytes.length).toBe(84 + 50 * facets);
    let [min, max] = [Infinity, -Infinity];
    for (let f = 0; f < facets; f++) {
      for (let corner = 0; corner < 3; corner++) {
        const x = stl.bytes.readFloatLE(84 + 50 * f + 12 + 12 * corner);
        [min, max] = [Math.min(min, x), Math.max(max, x)];
      }
    }
    expect(max - min).toBeCloseTo(304.8, 3);

    const svg = await fileOf(await visit.bench.make(/^Make Outlines \(SVG\)/u, 'svg'));
    const viewer = await visit.browser.newPage();
    await viewer.setContent(svg.bytes.toString('utf8').replace(/^<\?xml[^>]*>/u, ''));
    // CSS: 96 px are an inch, so that 304.8 mm are 1152 px.
    const measured = await viewer.locator('svg').first().boundingBox();
    expect(measured!.width).toBeCloseTo((304.8 * 96) / 25.4, 1);
    expect(measured!.height).toBeCloseTo((150 * 96) / 25.4, 1);
    await viewer.close();

    const dxf = await fileOf(await visit.bench.make(/^Make Outlines \(DXF\)/u, 'dxf'));
    const parsed = new DxfParser().parseSync(dxf.bytes.toString('utf8'))!;
    expect(parsed.header.$INSUNITS).toBe(4);
    expect(Object.keys(parsed.tables.layer.layers)).toEqual(
      expect.arrayContaining(['BLANK_EDGE', 'RAISED_2_MM', 'CARVED_1.5_MM', 'CUT_THROUGH']),
    );
  });

  it('gives the same from the command line', async () => {
    const signId = visit.page.url().split('/').at(-1)!;
    const { body } = await application.api<{ document: object }>(`/signs/${signId}`);
    const inspected = spawnSync(join(ROOT, 'relief'), ['inspect', '-'], {
      input: JSON.stringify(body.document),
      encoding: 'utf8',
    });
    const result = JSON.parse(inspected.stdout) as {
      watertight: boolean;
      boundsMm: { min: number[]; max: number[] };
      levels: { z: number }[];
    };
    expect(result.watertight).toBe(true);
    expect(result.boundsMm.max[2]).toBe(2);
    expect(result.levels.map(({ z }) => z)).toEqual([2, 0, -1.5]);
  });

  it('finds the sign by its words, puts it into the bin, and takes it back', async () => {
    const { page } = visit;
    await page.goto(`${application.url}/jobs`);
    await page.getByLabel('Find a job').fill('keep the gate shut');
    const sign = page.locator('.sign', { hasText: 'Heron pond' });
    await sign.waitFor();
    expect(await page.locator('.card-job').count()).toBe(1);
    const remove = async () => {
      await sign.hover();
      await page.getByRole('button', { name: 'Remove sign Heron pond' }).click();
      await sign.waitFor({ state: 'detached' });
    };
    await page.getByLabel('Find a job').fill('Heron');
    await remove();
    await page.getByRole('button', { name: 'Take it back' }).click();
    await sign.waitFor();
    await remove();
    await page.getByRole('link', { name: 'Bin', exact: true }).click();
    const lying = page.locator('pr-bin-page li', { hasText: 'Heron pond' });
    await lying.getByRole('button', { name: 'Take it back' }).click();
    await page.getByText('“Heron pond” is in').waitFor();
    await lying.waitFor({ state: 'detached' });
    await page.getByRole('link', { name: 'Jobs', exact: true }).click();
    await sign.waitFor();
  });

  it('asks before a finish of the shop is taken out', async () => {
    const { page } = visit;
    await page.goto(`${application.url}/shop`);
    await page.getByLabel('Name', { exact: true }).last().fill('Heron grey');
    await page.getByRole('button', { name: 'Add a finish' }).click();
    const row = page.locator('.finishes li', { hasText: 'Heron grey' });
    await row.waitFor();
    await row.getByRole('button', { name: 'Take out Heron grey' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Keep it' }).click();
    expect(await row.count()).toBe(1);
    await row.getByRole('button', { name: 'Take out Heron grey' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Take it out' }).click();
    await row.waitFor({ state: 'detached' });
  });

  it('says where words are cut at their greatest length', async () => {
    const { page } = visit;
    await page.goto(`${application.url}/jobs`);
    await page.getByRole('button', { name: 'New job' }).click();
    await page.getByLabel('What is wanted').focus();
    await page.keyboard.insertText('Heron '.repeat(50));
    await page.getByText('takes 200 characters; what is more was left out.').waitFor();
  });

  it('reports no fault on the console', () => {
    expect(faults).toEqual([]);
  });
});
