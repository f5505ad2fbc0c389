import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { type Run } from '@plain-relief/core/runs';
import { unzipSync } from 'fflate';
import { Visit } from './visit.js';
import { PATIENCE } from './patience.js';

const visit = new Visit('runs');
const { faults } = visit;
const button = (name: string | RegExp, exact = false) => visit.page.getByRole('button', { name, exact });
const cell = (column: string, row: number) => visit.page.getByLabel(`${column} of row ${row}`, { exact: true });
const state = (row: number) => visit.page.locator('tbody tr', { has: visit.page.getByLabel(`Mark row ${row}`, { exact: true }) }).locator('.state'); // prettier-ignore
const folder = mkdtempSync(join(tmpdir(), 'runs-'));

function listOf(name: string, ...rows: string[]): string {
  const path = join(folder, name);
  writeFileSync(path, `No,Name,Post\r\n${rows.join('\r\n')}\r\n`);
  return path;
}

/** The run of a job, once it is kept so. */
async function keptSo(job: string, isSo: (run: Run) => boolean): Promise<Run> {
  const { application, page } = visit;
  for (let tries = 0; ; tries++) {
    const { body } = await application.api<{ runs: { id: string }[] }>(`/jobs/${job}/runs`);
    const { document } = (await application.api<{ document: Run }>(`/runs/${body.runs.at(-1)!.id}`)).body;
    if (isSo(document) || tries === 60) return document;
    await page.waitForTimeout(200);
  }
}

describe('a run', () => {
  let job: string;
  it('is made of a sign with words and a list: columns are put into words, rows mended, undone and kept', async () => {
    const { page, application } = visit;
    const wanted = { customer: 'Quill Street Library', title: 'Badges', dueOn: null, quantity: 4, unit: 'mm' };
    job = (await application.api<{ id: string }>('/jobs', { method: 'POST', body: wanted })).body.id;
    const document = JSON.parse(readFileSync(new URL('../demo/runs/tree-labels.sign.json', import.meta.url), 'utf8')) as {
      slots?: unknown;
      title: string;
      parts: { id: string; kind: string; words?: string; shape?: { words?: string } }[];
    };
    delete document.slots;
    document.title = 'Badge';
    document.parts = document.parts.filter(({ id }) => ['latin', 'common', 'code'].includes(id));
    for (const part of document.parts) if (part.kind === 'text') part.words = '';
    document.parts.find(({ id }) => id === 'code')!.shape!.words = '';
    await application.api(`/jobs/${job}/signs`, { method: 'POST', body: { title: 'Badge', document } });
    await page.goto(`${application.url}/jobs/${job}/runs`);
    await page.getByLabel('New run of a sign').selectOption('Badge');
    await page.getByText('No rows yet.').waitFor();
    const list = listOf('staff.csv', '1,Anna Birk,Desk', '2,"Christopher Featherstonehaugh-Marjoribanks of Elderbrook",Archive', '3,Ben  Oro,', '3,Cleo Dahl,Desk'); // prettier-ignore
    await page.locator('input[type=file]').setInputFiles(list);
    await page.getByText('staff.csv: 4 new, 0 changed, 0 gone.').waitFor();
    await page.getByText('No words of the sign have a column in them yet').waitFor();
    await page.getByLabel('Put a column into Latin name').selectOption('Name');
    await page.getByLabel('Put a column into Common name').selectOption('Post');
    await page.getByLabel('Put a column into Code').selectOption('No');
    await expect(state(1).textContent()).resolves.toBeDefined();
    await page.locator('[data-state="too large"]').first().waitFor();
    await page.locator('[data-state="fits"], [data-state="fitted"]').nth(2).waitFor();
    await page.getByText('Name has two blanks in a row').first().waitFor();
    await cell('Name', 2).fill('Chris Marjoribanks');
    await cell('Name', 2).press('Enter');
    await cell('Name', 3).fill('Ben Oro');
    await cell('Name', 3).press('Enter');
    await page.locator('[data-state="too large"]').first().waitFor({ state: 'detached' });
    await cell('No', 4).fill('4');
    await cell('No', 4).press('Tab');
    await button(/^Undo: cell/u).click();
    const undone = await keptSo(job, ({ rows }) => rows[2]?.values[1] === 'Ben Oro' && rows[3].values[0] === '3');
    expect(undone.rows.map(({ values }) => values[0])).toEqual(['1', '2', '3', '3']);
    await button(/^Redo: cell/u).click();
    const kept = await keptSo(job, ({ rows }) => rows[3]?.values[0] === '4');
    expect([kept.columns, kept.came?.name, kept.rows.length]).toEqual([['No', 'Name', 'Post'], 'staff.csv', 4]);
  });

  it('takes a newer list: what is new is told, and what is known keeps its place', async () => {
    const { page } = visit;
    const list = listOf('staff 2.csv', '4,Cleo Dahl,Desk', '2,Chris Marjoribanks,Archive', '5,Dora Ek,Desk', '1,Anna Birk-Holm,Desk'); // prettier-ignore
    await page.locator('input[type=file]').setInputFiles(list);
    await page.getByText('staff 2.csv: 1 new, 1 changed, 1 gone.').waitFor();
    const { rows } = await keptSo(job, (run) => run.came?.name === 'staff 2.csv');
    expect(rows.map(({ id, values }) => [id, values[1]])).toEqual([[4, 'Cleo Dahl'], [2, 'Chris Marjoribanks'], [5, 'Dora Ek'], [1, 'Anna Birk-Holm']]); // prettier-ignore
    // A list that is none is refused with the row, and nothing is lost.
    writeFileSync(join(folder, 'broken.csv'), 'No,Name\r\n1,"Anna\r\n2,Ben');
    await page.locator('input[type=file]').setInputFiles(join(folder, 'broken.csv'));
    await page.getByRole('alert').filter({ hasText: 'a quotation mark is opened' }).waitFor();
    await expect(cell('Name', 3).inputValue()).resolves.toBe('Dora Ek');
  });

  it('lets a column choose what is made of a plate: what chooses nothing holds its row back, in a sentence', async () => {
    const { page } = visit;
    await page.getByLabel('Column that chooses').selectOption('Post');
    await page.getByLabel('What it chooses').selectOption('whether Code is made');
    await page.getByText('Chooses whether Code is made.').waitFor();
    await page.getByText('Post is “Desk”: say yes or no.').first().waitFor();
    await page.locator('[data-state="refused"]').nth(3).waitFor();
    await cell('Post', 1).fill('no');
    await cell('Post', 1).press('Enter');
    await page.locator('[data-state="refused"]').nth(3).waitFor({ state: 'detached' });
    await state(1)
      .filter({ hasText: /fits|narrowed/u })
      .waitFor();
    await button(/^Undo: cell/u).click();
    await button('Let it choose nothing: Post').click();
    await page.locator('[data-state="refused"]').first().waitFor({ state: 'detached' });
    await keptSo(job, ({ rows }) => rows[0].values[2] === 'Desk');
  });

  /** Drags a plate onto another one, puts it right by figures, frees it, and takes that back. */
  async function layByHand(): Promise<void> {
    const { page } = visit;
    const map = page.getByRole('group', { name: 'Sheet 1 with the numbers of plates' });
    const middle = async (name: string) => {
      const { x, y, width, height } = (await map.locator('.plate').filter({ hasText: name }).boundingBox())!;
      return [x + width / 2, y + height / 2] as const;
    };
    const [from, to] = [await middle('1'), await middle('2')];
    await page.mouse.move(...from);
    await page.mouse.down();
    // Onto the other one, a little towards the middle of the sheet: over its edge nothing could give way.
    const sheet = (await map.boundingBox())!;
    const inwards = (at: number, middleOf: number): number => at + 3 * Math.sign(middleOf - at);
    await page.mouse.move(inwards(to[0], sheet.x + sheet.width / 2), inwards(to[1], sheet.y + sheet.height / 2), { steps: 4 });
    await page.getByText(/too near to something/u).waitFor();
    await page.mouse.up();
    // The others give way.
    await button('Free the one put by hand').waitFor();
    await page.getByText(/too near to something/u).waitFor({ state: 'detached' });
    await page.getByLabel('From the left').fill('300');
    await page.getByLabel('From the left').press('Enter');
    await keptSo(job, ({ sheet }) => sheet.locked?.[0].row === 1 && sheet.locked[0].x >= 300);
    await button('Free the one put by hand').click();
    await keptSo(job, ({ sheet }) => sheet.locked === undefined);
    await page.getByRole('button', { name: /^Undo: sheets/u }).click();
    await button('Free the one put by hand').click();
    await keptSo(job, ({ sheet }) => sheet.locked === undefined);
  }

  /** Has the page make the files, and reads the names of those in its archive. */
  async function made(): Promise<string[]> {
    const { page } = visit;
    await button('Make the files').click();
    const link = page.getByRole('link', { name: /\.zip$/u });
    await link.waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    return Object.keys(unzipSync(new Uint8Array(readFileSync(await download.path())))).sort();
  }

  it('is seen plate by plate, and laid on sheets, by hand too', async () => {
    const { page } = visit;
    await button('Contact sheet').click();
    await page.getByRole('img', { name: 'Plate 4' }).waitFor();
    await page.locator('button.plate').nth(1).click();
    await page.getByRole('heading', { name: /^Plate 2: / }).waitFor();
    // What is otherwise on one plate alone is told of it, and stays.
    await page.getByLabel('What is otherwise on this plate').selectOption('the height of Latin name');
    await page.getByLabel('is', { exact: true }).fill('5 mm');
    await button('Correct it').click();
    await page.getByText('alone: the height of Latin name, 5 mm').waitFor();
    const { rows } = await keptSo(job, (run) => run.rows[1].corrections !== undefined);
    expect(rows.map(({ corrections }) => corrections?.[0].value)).toEqual([undefined, '5 mm', undefined, undefined]);
    await button('Next').click();
    await page.getByRole('heading', { name: /^Plate 3: / }).waitFor();
    await page.getByText('As the sign is. Words are corrected in the list.').waitFor();
    // On the bench it is as it will be made, and nothing of it can be changed there.
    await page.getByRole('link', { name: 'On the bench' }).click();
    await page.locator('pr-plate-strip b', { hasText: 'Plate 3' }).waitFor();
    await page.getByRole('link', { name: 'Before', exact: true }).click();
    await page.locator('pr-plate-strip b', { hasText: 'Plate 2' }).waitFor();
    await page.locator('pr-ticket-text').getByText(/ 5 mm/u).first().waitFor(); // prettier-ignore
    await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
    expect([await button('Add a line').count(), await button(/^Proof/u).count()]).toEqual([0, 0]);
    await page.getByRole('link', { name: 'Back to the run' }).click();
    await button('Sheets', true).click();
    await button('Lay them out').click();
    await page.getByText(/4 plates on 1 sheet, \d+ % of them used/u).waitFor();
    await layByHand();
    expect(faults).toEqual([]);
  });

  it('is written once somebody says why, by the page and by the workers', async () => {
    const { page } = visit;
    await button('Files', true).click();
    // Nobody has approved these plates: files are made only where somebody says why.
    await button('Make the files').click();
    await page.getByText('These plates are not approved: say why they are made all the same').waitFor();
    await page.getByLabel('Why they are made all the same').fill('A trial on offcuts');
    expect(await made()).toEqual(['0001 Badge.svg', '0002 Badge.svg', '0003 Badge.svg', '0004 Badge.svg', 'report.csv', 'sheet 1 map.svg', 'sheet 1.svg']); // prettier-ignore
    // The shop's workers make them as well, and go on without this page.
    await page.getByLabel('Contact sheet (PDF), by the workers').check();
    await button('Have the workers make them').click();
    const all = page.getByRole('link', { name: /, all files$/u });
    await all.waitFor({ timeout: PATIENCE });
    await page.getByText('4 plates made. 1 sheet,').waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), all.click()]);
    expect(Object.keys(unzipSync(new Uint8Array(readFileSync(await download.path()))))).toEqual(['0001 Badge.svg', '0002 Badge.svg', '0003 Badge.svg', '0004 Badge.svg', 'sheets map.pdf', 'contact sheet 1.pdf', 'sheet 1.svg', 'sheet 1 map.svg', 'report.csv']); // prettier-ignore
    expect(faults).toEqual([]);
  });

  it('is written as programs by sheet; one plate again, alone', async () => {
    const { page } = visit;
    // Programs by sheet need room for the tool that frees plates; they are told with their minutes, proven.
    await page.getByLabel('Machine that programs are for').selectOption({ index: 1 });
    await button('Make the files').click();
    await page.getByText(/Plates lie 4 mm apart and are cut out by a tool of/u).waitFor({ timeout: PATIENCE });
    await button('Sheets', true).click();
    await page.getByLabel('Between plates').fill('8');
    await page.getByLabel('Between plates').press('Enter');
    await button('Files', true).click();
    await button('Make the files').click();
    await page.getByText(/Its programs take/u).waitFor({ timeout: PATIENCE });
    await expect(page.getByText('is not proven').count()).resolves.toBe(0);
    const programs = (await made()).filter((name) => name.startsWith('sheet 1/'));
    expect(programs.length).toBeGreaterThan(1);
    // The workers make the same.
    await button('Have the workers make them').click();
    const told = page.getByText(/Programs for .+ take/u);
    await told.waitFor({ timeout: PATIENCE });
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page
        .getByRole('link', { name: /, all files$/u })
        .first()
        .click(),
    ]);
    const byWorkers = Object.keys(unzipSync(new Uint8Array(readFileSync(await download.path()))));
    expect(byWorkers.filter((name) => name.startsWith('sheet 1/'))).toEqual(programs);
    await page.getByLabel('Machine that programs are for').selectOption('none');
    await button('List', true).click();
    await page.getByLabel('Mark row 3').check();
    await button('Files', true).click();
    await page.getByLabel('only the 1 marked').check();
    await page.getByLabel('Solids (STL)').check();
    expect(await made()).toEqual(['0003 Badge.stl', '0003 Badge.svg', 'report.csv', 'sheet 1 map.svg', 'sheet 1.svg']);
    expect(faults).toEqual([]);
  });

  it('goes to the customer, who puts a word right; that comes back into the list, and the next proof is approved', async () => {
    const { page, application } = visit;
    const send = async (letter: string): Promise<string> => {
      await page.goto(`${application.url}/jobs/${job}/proofs`);
      if (letter !== 'A') await button(`New proof ${letter}`).click();
      await page.getByText('4 plates', { exact: true }).waitFor();
      await page.getByRole('textbox', { name: 'To', exact: true }).fill('desk@quillstreet.example.org');
      await button(`Freeze and send proof ${letter}`).click();
      const confirm = page.getByLabel(/goes out all the same/u);
      const sent = page.getByRole('heading', { name: `Proof ${letter} waits for the customer` });
      await confirm.or(sent).first().waitFor();
      if (await confirm.isVisible()) {
        await confirm.check();
        await button(`Freeze and send proof ${letter}`).click();
        await sent.waitFor();
      }
      return (await page.getByRole('link', { name: 'See it as the customer' }).getAttribute('href'))!.replace('?by=shop', '');
    };
    const customer = await visit.browser.newPage();
    await customer.goto(await send('A'));
    await customer.getByRole('button', { name: /^3 / }).click();
    await customer.getByLabel('Name', { exact: true }).fill('Dora Ekk');
    await customer.getByRole('button', { name: 'Put it right' }).first().click();
    await customer.getByRole('button', { name: 'Leave “Dora Ek”' }).waitFor();
    await customer.getByLabel('About this plate').fill('She sits upstairs now.');
    await customer.getByRole('button', { name: 'Put the remark' }).click();
    await customer.getByText('She sits upstairs now.').waitFor();
    await customer.getByRole('button', { name: 'Close' }).click();
    await customer.getByText('You corrected a plate: ask for changes').waitFor();
    await customer.getByLabel('Your name').fill('Ada Fern');
    await customer.getByRole('button', { name: 'Ask for changes' }).click();
    await customer.getByRole('button', { name: 'Send the wishes' }).click();
    await customer.getByText('Ada Fern asked for changes').waitFor();
    await page.goto(`${application.url}/jobs/${job}/runs`);
    await page.getByText('“Dora Ek” to be “Dora Ekk”').waitFor();
    await page.getByText('customer: She sits upstairs now.').waitFor();
    await button('Take it', true).click();
    await page.getByText('Otherwise since: plate 3.').waitFor();
    await expect(cell('Name', 3).inputValue()).resolves.toBe('Dora Ekk');
    await customer.goto(await send('B'));
    await customer.getByText('4 plates.').waitFor();
    await customer.getByLabel('Your name').fill('Ada Fern');
    for (const tick of await customer.getByRole('checkbox').all()) await tick.check();
    await customer.getByRole('button', { name: 'Approve proof B' }).click();
    await customer.getByText('Approved by Ada Fern').waitFor();
    await customer.close();
    await page.goto(`${application.url}/jobs/${job}/runs`);
    await page.getByText('The plates are as approved.').waitFor();
    await button('Files', true).click();
    await button('Make the files').click();
    await page.getByRole('link', { name: /\.zip$/u }).waitFor();
    const { body } = await application.api<{ events: { text: string }[] }>(`/jobs/${job}/history`);
    expect(body.events.map(({ text }) => text)).toEqual(expect.arrayContaining(['SVG of 4 plates of “Badge” made as approved in proof B', expect.stringContaining('without approval: A trial on offcuts')])); // prettier-ignore
    expect(faults).toEqual([]);
  });
});
