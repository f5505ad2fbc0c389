import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Page } from 'playwright-core';
import { Visit } from './visit.js';

const visit = new Visit('proof', 20_000);
const { application, faults } = visit;

/** The job of the library's room signs. */
async function jobId(): Promise<string> {
  const { body } = await application.api<{ jobs: { id: string; title: string }[] }>('/jobs');
  return body.jobs.find(({ title }) => title === 'Room signs, second floor')!.id;
}

/** What a customer has: a telephone, and the address from the letter. */
async function telephone(address: string): Promise<Page> {
  const page = await visit.browser.newPage({ viewport: { width: 390, height: 780 } });
  page.setDefaultTimeout(20_000);
  page.on('pageerror', (error) => faults.push(error.message));
  await page.goto(application.url + new URL(address).pathname);
  return page;
}

const bodyText = (page: Page): Promise<string> => page.locator('main').innerText();

describe('a proof goes out and comes back', () => {
  let customer: Page;

  it('freezes the signs of a job and writes to the customer', async () => {
    await visit.page.goto(`${application.url}/jobs/${await jobId()}/proofs`);
    await visit.page.getByRole('button', { name: 'Freeze and send proof A' }).waitFor();
    expect(await visit.page.getByLabel('To', { exact: true }).inputValue()).toBe('desk@quillstreet.example.org');
    // The letters of the wall go out another time.
    await visit.page.getByLabel('Reading room wall letters').uncheck();
    await visit.page.getByLabel('To', { exact: true }).fill('Tobias');
    await visit.page.getByRole('button', { name: 'Freeze and send proof A' }).click();
    expect(await visit.page.getByRole('alert').innerText()).toContain('“Tobias” is no mail address');
    await visit.page.getByLabel('To', { exact: true }).fill('desk@quillstreet.example.org');
    await visit.page.getByLabel('What you say to the customer').fill('Please look at the braille, too.');
    await visit.page.getByRole('button', { name: 'Freeze and send proof A' }).click();
    await visit.page.getByRole('heading', { name: /^Proof A/u }).waitFor();
    await visit.page.getByRole('link', { name: 'Sheet (PDF)' }).waitFor({ timeout: 60_000 });
    expect(await bodyText(visit.page)).toContain('not opened yet');
  }, 120_000);

  it('is opened by the customer on a telephone, from the letter', async () => {
    const { body } = await application.api<{ mails: { text: string }[] }>('/outbox');
    customer = await telephone(/https?:\S+/u.exec(body.mails[0].text)![0]);
    await customer.getByRole('heading', { name: 'Room signs, second floor' }).waitFor();
    expect(await bodyText(customer)).toContain('Please look at the braille, too.');
    await customer.locator('pr-remark-board img').first().waitFor();
    // Nothing is wider than the telephone.
    expect(await customer.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    const [file] = await Promise.all([
      customer.waitForEvent('download'),
      customer.getByRole('link', { name: 'Open the sheet with all sizes (PDF)' }).click(),
    ]);
    const text = spawnSync('pdftotext', [await file.path(), '-'], { encoding: 'utf8' }).stdout;
    expect(text).toContain('Spelling: please read every word');
    await visit.page
      .getByText(/opened \d/u)
      .first()
      .waitFor();
  }, 120_000);

  it('takes a remark to its place, and shows it to the designer without reloading', async () => {
    const board = customer.getByRole('button', { name: /^Put a remark on/u }).first();
    await board.scrollIntoViewIfNeeded();
    const box = (await board.boundingBox())!;
    await board.click({ position: { x: box.width * 0.75, y: box.height * 0.25 } });
    await customer.getByLabel('What about this place?').fill('A little larger, please <b>here</b>');
    await customer.getByRole('button', { name: 'Put the remark' }).click();
    await customer.getByText('A little larger, please <b>here</b>').waitFor();
    await visit.page.getByText('A little larger, please <b>here</b>').first().waitFor();
    const pin = (await visit.page.locator('i.pin').first().boundingBox())!;
    const picture = (await visit.page.locator('pr-remark-board img').first().boundingBox())!;
    expect((pin.x + pin.width / 2 - picture.x) / picture.width).toBeCloseTo(0.75, 1);
    expect((pin.y + pin.height / 2 - picture.y) / picture.height).toBeCloseTo(0.25, 1);
  }, 60_000);

  it('asks for changes, which the designer sees', async () => {
    await customer.getByRole('button', { name: 'Ask for changes' }).click();
    await customer.getByLabel('What should be otherwise?').fill('The welcome sign thicker');
    await customer.getByRole('button', { name: 'Send the wishes' }).click();
    await customer.getByRole('alert').getByText('Write your name.').waitFor();
    await customer.getByLabel('Your name').fill('Tobias Renn');
    await customer.getByRole('button', { name: 'Send the wishes' }).click();
    await customer.getByText('Tobias Renn asked for changes').waitFor();
    await visit.page.getByText('The welcome sign thicker').first().waitFor();
  }, 60_000);

  it('is answered with revision B, told apart from A', async () => {
    const id = await visit.openSign('Welcome in five tongues');
    await visit.page.getByLabel('thickness', { exact: true }).fill('9');
    await visit.page.getByLabel('thickness', { exact: true }).press('Enter');
    await visit.bench.saved();
    expect((await visit.stored(id)).blank.thickness).toBe(9);
    await visit.page.goto(`${application.url}/jobs/${await jobId()}/proofs`);
    await visit.page.getByText('Changed since proof A:').waitFor();
    await visit.page.getByText(/Blank: thickness .* → 9 mm/u).waitFor();
    await visit.page.getByRole('button', { name: 'New proof B' }).click();
    await visit.page.getByLabel('Reading room wall letters').uncheck();
    await visit.page.getByRole('button', { name: 'Freeze and send proof B' }).click();
    await visit.page.getByRole('heading', { name: /^Proof B/u }).waitFor();
    expect(await bodyText(visit.page)).not.toContain('Changed since proof B');
  }, 90_000);

  it('is approved with a name and every tick, and unlocks production', async () => {
    const id = await visit.signId('Welcome in five tongues');
    const cleared = async () => (await application.api<{ isCleared: boolean }>(`/signs/${id}/clearance`)).body.isCleared;
    expect(await cleared()).toBe(false);
    const { body } = await application.api<{ mails: { text: string }[] }>('/outbox');
    await customer.goto(application.url + new URL(/https?:\S+/u.exec(body.mails[0].text)![0]).pathname);
    await customer.getByRole('button', { name: 'Approve proof B' }).click();
    await customer.getByRole('alert').getByText('Tick all three once you have looked.').waitFor();
    for (const words of ['I have read every word', 'The sizes are right', 'The colours and finishes are right'])
      await customer.getByLabel(words).check();
    await customer.getByLabel('Your name').fill('Tobias Renn');
    await customer.getByRole('button', { name: 'Approve proof B' }).click();
    await customer.getByText('Approved by Tobias Renn').waitFor();
    await visit.page.getByText('spelling, sizes and colours ticked.').first().waitFor();
    expect(await cleared()).toBe(true);
    const link = visit.page.getByRole('link', { name: 'Sheet with the stamp (PDF)' });
    await link.waitFor({ timeout: 60_000 });
    const [file] = await Promise.all([visit.page.waitForEvent('download'), link.click()]);
    const path = await file.path();
    expect(readFileSync(path).subarray(0, 5).toString()).toBe('%PDF-');
    expect(spawnSync('pdftotext', [path, '-'], { encoding: 'utf8' }).stdout).toContain('Proof B approved');

    await visit.bench.open(application.url, id);
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    await visit.page.getByText('Approved with proof B').waitFor();
    await visit.bench.make(/^Make Solid \(STL\)/u, 'stl');
  }, 120_000);

  it('leaves an old or a guessed address with nothing to see', async () => {
    await customer.goto(`${application.url}/proof/${'A'.repeat(43)}`);
    await customer.getByRole('heading', { name: 'Nothing to show here' }).waitFor();
    expect(await bodyText(customer)).toContain('There is no proof at this address');
    // The page says so itself; a refused request is no fault of it.
    expect(faults.filter((text) => !text.includes('404'))).toEqual([]);
  });
});
