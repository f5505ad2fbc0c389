import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { newSign, newText } from '@plain-relief/core/sign';
import type { Page } from 'playwright-core';
import { Visit } from './visit.js';
import { PATIENCE } from './patience.js';

const visit = new Visit('proof');
const { application, faults } = visit;

/** The job of the library's room signs. */
async function jobId(): Promise<string> {
  const { body } = await application.api<{ jobs: { id: string; title: string }[] }>('/jobs');
  return body.jobs.find(({ title }) => title === 'Room signs, second floor')!.id;
}

/** What a customer has: a telephone, and the address from the letter. */
async function telephone(address: string): Promise<Page> {
  const page = await visit.browser.newPage({ viewport: { width: 390, height: 780 } });
  page.setDefaultTimeout(PATIENCE);
  page.on('pageerror', (error) => faults.push(error.message));
  await page.goto(application.url + new URL(address).pathname);
  return page;
}

/** What an address of the page's gives. */
const fetchAs = (from: typeof application, path: string): Promise<Response> => from.fetch(path.replace(/^\/api/u, ''));

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
    // The form has that heading, too, until the proof is there.
    await visit.page.getByRole('heading', { name: /^Proof A waits for the customer/u }).waitFor();
    await visit.page.getByRole('link', { name: 'Sheet (PDF)' }).waitFor({ timeout: PATIENCE });
    expect(await bodyText(visit.page)).toContain('not opened yet');
  });

  it('is opened by the customer on a telephone, from the letter', async () => {
    const { body } = await application.api<{ mails: { text: string }[] }>('/outbox');
    customer = await telephone(/https?:\S+/u.exec(body.mails[0].text)![0]);
    await customer.getByRole('heading', { name: 'Room signs, second floor' }).waitFor();
    expect(await bodyText(customer)).toContain('Please look at the braille, too.');
    await customer.locator('pr-remark-board img').first().waitFor();
    await customer.getByRole('button', { name: 'Sizes and finishes' }).first().click();
    const drawing = customer.getByRole('img', { name: /^Plan and section of/u });
    await drawing.waitFor();
    await customer.waitForFunction(() => document.querySelector<HTMLImageElement>('img.sizes')?.naturalWidth);
    const answer = await fetch(application.url + (await drawing.getAttribute('src'))!);
    expect(answer.headers.get('content-type')).toContain('image/svg+xml');
    expect(await answer.text()).toContain('data-layer="dimensions"');
    await customer.getByRole('button', { name: 'Picture' }).first().click();
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
  });

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
  });

  it('asks for changes, which the designer sees', async () => {
    await customer.getByRole('button', { name: 'Ask for changes' }).click();
    await customer.getByLabel('What should be otherwise?').fill('The welcome sign thicker');
    await customer.getByRole('button', { name: 'Send the wishes' }).click();
    await customer.getByRole('alert').getByText('Write your name.').waitFor();
    await customer.getByLabel('Your name').fill('Tobias Renn');
    await customer.getByRole('button', { name: 'Send the wishes' }).click();
    await customer.getByText('Tobias Renn asked for changes').waitFor();
    await visit.page.getByText('The welcome sign thicker').first().waitFor();
  });

  it('is answered with revision B, told apart from A', async () => {
    const id = await visit.openSign('Welcome in five tongues');
    await visit.bench.set(visit.bench.order('Blank'), 'thickness', '9');
    await visit.bench.saved();
    expect((await visit.stored(id)).blank.thickness).toBe(9);
    await visit.page.goto(`${application.url}/jobs/${await jobId()}/proofs`);
    await visit.page.getByText('Changed since proof A:').waitFor();
    await visit.page.getByText(/Blank: thickness .* → 9 mm/u).waitFor();
    // Both plans over each other.
    await visit.page.getByRole('button', { name: 'Lay the plans over each other' }).click();
    const drawing = visit.page.getByRole('img', { name: /plan of the proof in red/u });
    await drawing.scrollIntoViewIfNeeded();
    await visit.page.waitForFunction(
      () => (document.querySelector('figcaption')?.previousElementSibling as HTMLImageElement | null)?.naturalWidth,
    );
    const shown = await (await fetchAs(application, (await drawing.getAttribute('src'))!)).text();
    for (const words of ['was edge', 'is edge']) expect(shown).toContain(words);
    await visit.page.getByRole('button', { name: 'New proof B' }).click();
    await visit.page.getByLabel('Reading room wall letters').uncheck();
    await visit.page.locator('pr-layout-choice summary').click();
    await visit.page.getByLabel('paper', { exact: true }).selectOption('Letter');
    await visit.page.getByLabel('which way the paper lies').selectOption('upright');
    await visit.page.getByLabel('notes', { exact: true }).uncheck();
    await visit.page.getByLabel('Name of the layout').fill('Letter, short');
    await visit.page.getByRole('button', { name: 'Keep for the shop' }).click();
    await visit.page.locator('summary', { hasText: 'Letter upright, Letter, short' }).waitFor();
    await visit.page.getByRole('button', { name: 'Freeze and send proof B' }).click();
    await visit.page.getByRole('heading', { name: /^Proof B waits for the customer/u }).waitFor();
    expect(await bodyText(visit.page)).not.toContain('Changed since proof B');
  });

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
    await link.waitFor({ timeout: PATIENCE });
    const [file] = await Promise.all([visit.page.waitForEvent('download'), link.click()]);
    const path = await file.path();
    expect(readFileSync(path).subarray(0, 5).toString()).toBe('%PDF-');
    const stamped = spawnSync('pdftotext', [path, '-'], { encoding: 'utf8' }).stdout;
    for (const words of ['Proof B approved', 'Half is due with the approval']) expect(stamped).toContain(words);
    expect(spawnSync('pdfinfo', [path], { encoding: 'utf8' }).stdout).toMatch(/Page size:\s+612 x 792 pts \(letter\)/u);

    await visit.bench.open(application.url, id);
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    await visit.page.getByRole('button', { name: 'Outlines and solids' }).click();
    await visit.page.getByText('Approved with proof B: what is made').waitFor();
    await visit.bench.make(/^Make Solid \(STL\)/u, 'stl');
    await visit.page.getByLabel('paper of the template').selectOption('A3');
    const template = await visit.bench.make(/^Make Template/u, 'template');
    const sheets = spawnSync('pdftotext', [await template.path(), '-'], { encoding: 'utf8' }).stdout;
    expect(sheets).toContain('full size: this line is 100 mm');
    await visit.page.goto(`${application.url}/turnaround`);
    await visit.page.getByRole('heading', { name: 'Days from the first proof to approval' }).waitFor();
    await visit.page.locator('apx-chart svg').first().waitFor();
    expect(await bodyText(visit.page)).toContain('Room signs, second floor');
  });

  it('leaves an old or a guessed address with nothing to see', async () => {
    await customer.goto(`${application.url}/proof/${'A'.repeat(43)}`);
    await customer.getByRole('heading', { name: 'Nothing to show here' }).waitFor();
    expect(await bodyText(customer)).toContain('There is no proof at this address');
    // The page says so itself; a refused request is no fault of it.
    expect(faults.filter((text) => !text.includes('404'))).toEqual([]);
  });
});

describe('many', () => {
  /** A job with small signs, each with a word of its own. */
  async function jobOf(words: readonly string[]): Promise<{ id: string; signs: string[] }> {
    const wanted = { customer: 'Fernhollow Arboretum', title: 'Bed labels', dueOn: null, quantity: 4, unit: 'mm' };
    const { body: job } = await application.api<{ id: string }>('/jobs', { method: 'POST', body: wanted });
    const signs: string[] = [];
    for (const word of words) {
      const document = newSign(`Bed ${word}`, 'mm');
      document.blank.outline = { kind: 'rectangle', width: 90, height: 50, cornerRadius: 2 };
      document.parts.push({ ...newText(document, 'barlow-semibold'), words: word });
      const body = { title: document.title, document };
      signs.push((await application.api<{ id: string }>(`/jobs/${job.id}/signs`, { method: 'POST', body })).body.id);
    }
    return { id: job.id, signs };
  }

  async function ended(id: string, progresses: number[] = []): Promise<string> {
    for (const end = Date.now() + PATIENCE; Date.now() < end; await new Promise((done) => setTimeout(done, 150))) {
      const { state, progress } = (await application.api<{ state: string; progress: number }>(`/tasks/${id}`)).body;
      progresses.push(progress);
      if (state !== 'waiting' && state !== 'running') return state;
    }
    throw new Error('The task did not end.');
  }

  it('signs of one proof are listed on a page before them, from four on', async () => {
    const words = ['Oak', 'Ash', 'Elm', 'Yew'];
    const { id, signs } = await jobOf(words);
    const body = { signs, recipient: 'grounds@fernhollow.example.org', message: '', days: 5 };
    await application.api(`/jobs/${id}/proofs`, { method: 'POST', body });
    const { proofs } = (await application.api<{ proofs: { sheets: { id: string }[] }[] }>(`/jobs/${id}/proofs`)).body;
    const [{ id: task }] = proofs[0].sheets;
    expect(await ended(task)).toBe('done');
    const pdf = Buffer.from(await (await application.fetch(`/tasks/${task}/file`)).arrayBuffer());
    const page = (n: number) =>
      spawnSync('pdftotext', ['-f', String(n), '-l', String(n), '-', '-'], { input: pdf, encoding: 'utf8' }).stdout;
    for (const word of ['4 signs', ...words.map((each, i) => `${i + 1} Bed ${each}`)])
      expect(page(1).replace(/ +/gu, ' ')).toContain(word);
    words.forEach((word, i) => expect(page(i + 2)).toContain(`Bed ${word}`));
    const last = page(6).split('\n');
    for (const word of words) expect(last).toContain(word);
    const info = spawnSync('pdfinfo', ['-'], { input: pdf, encoding: 'utf8' }).stdout;
    expect([/Pages:\s+(\d+)/u.exec(info)?.[1], /Page size:.*\(A4\)/u.test(info)]).toEqual(['6', true]);
  });

  it('proofs asked for at once are all made, though a worker is killed among them', async () => {
    const { signs } = await jobOf(['Birch']);
    const asked = await Promise.all(
      Array.from({ length: 20 }, () =>
        application.api<{ id: string }>(`/signs/${signs[0]}/tasks`, { method: 'POST', body: { kind: 'proof' } }),
      ),
    );
    const ids = asked.map(({ body }) => body.id);
    expect(await ended(ids[2])).toBe('done');
    application.kill('worker.js');
    const progresses: number[] = [];
    // One after the other: all at once would be more requests a minute than the server takes.
    for (const id of ids) expect(await ended(id, progresses)).toBe('done');
    expect(progresses.some((share) => share > 0 && share < 1)).toBe(true);
  });
});
