import { spawnSync } from 'node:child_process';
import { createServer } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { Application, freePort, openBrowser } from './application.js';
import { BenchPage } from './bench-page.js';
import { until } from './hands.js';
import { PATIENCE } from './patience.js';

interface SignAnswer {
  readonly revision: number;
  readonly document: { readonly parts: { readonly words?: string }[]; readonly blank: { readonly thickness: number } };
}

const application = new Application('saving');
let browser: Browser;
let signId: string;

beforeAll(async () => {
  await application.start();
  browser = await openBrowser();
  const { body } = await application.api<{ jobs: { signs: { id: string; title: string }[] }[] }>('/jobs');
  signId = body.jobs.flatMap(({ signs }) => signs).find(({ title }) => title === 'Reading room')!.id;
});

afterAll(async () => {
  await browser?.close();
  await application.stop();
});

const stored = async (): Promise<SignAnswer> => (await application.api<SignAnswer>(`/signs/${signId}`)).body;

describe('saving', () => {
  it('keeps both of two saves that meet and lets the designer choose', async () => {
    const [mine, theirs] = [
      new BenchPage(await application.openPage(browser)),
      new BenchPage(await application.openPage(browser)),
    ];
    await mine.open(application.url, signId);
    await theirs.open(application.url, signId);
    await theirs.set(theirs.order('Blank'), 'thickness', '5 mm');
    await until(async () => (await stored()).document.blank.thickness === 5);
    await mine.set(mine.order('Blank'), 'thickness', '7 mm');
    await mine.page.getByText('Blank: thickness 5 mm → 7 mm').waitFor();
    expect((await stored()).document.blank.thickness).toBe(5);
    await mine.page.getByRole('button', { name: 'Mine goes on' }).click();
    await until(async () => (await stored()).document.blank.thickness === 7);
    const { body } = await application.api<{ revisions: { kind: string }[] }>(`/signs/${signId}/revisions`);
    expect(body.revisions.filter(({ kind }) => kind === 'aside')).toHaveLength(1);
    expect(body.revisions.filter(({ kind }) => kind === 'saved')).toHaveLength(3);

    await theirs.set(theirs.order('Blank'), 'thickness', '9 mm');
    await theirs.page.getByRole('button', { name: /^Theirs goes on/u }).click();
    await theirs.shows(theirs.order('Blank'), 'thickness', '7 mm');
    // What was set aside can be seen, and taken up after all.
    await theirs.page.getByRole('button', { name: 'Show the revisions' }).click();
    await theirs.page
      .getByRole('button', { name: /^set aside/u })
      .first()
      .click();
    await theirs.page.getByText('Blank: thickness 9 mm → 7 mm').waitFor();
    await theirs.page.getByRole('button', { name: 'Take it up on the bench' }).click();
    await theirs.shows(theirs.order('Blank'), 'thickness', '9 mm');
    await theirs.page.getByRole('button', { name: 'Undo: take up set aside' }).click();
    // Keys in a dialog are the dialog's: “n” adds no line, and Esc closes it.
    await theirs.page.locator('nav.steps').getByRole('button', { name: 'Brief' }).click();
    await theirs.page.getByRole('button', { name: 'Revisions …' }).click();
    await theirs.page.getByRole('dialog').waitFor();
    await theirs.page.keyboard.press('n');
    await theirs.page.keyboard.press('Escape');
    await theirs.page.getByRole('dialog').waitFor({ state: 'detached' });
    await theirs.page.locator('nav.steps').getByRole('button', { name: 'Layout' }).click();
    expect(await theirs.page.locator('.order[data-part]', { hasText: 'Line 1' }).count()).toBe(0);
    await theirs.shows(theirs.order('Blank'), 'thickness', '7 mm');
    await mine.page.close();
    await theirs.page.context().close();
  });

  it.each(['main.js', 'postgres'])('loses nothing when %s is killed while typing', async (name) => {
    const bench = new BenchPage(await application.openPage(browser));
    await bench.open(application.url, signId);
    const words = await bench.field(bench.order('Room'), 'Words of Room');
    const text = `QUIET ROOM ${name.length}`;
    await words.fill('');
    application.kill(name);
    await words.pressSequentially(text, { delay: 40 });
    // A database that is back within moments may go unnoticed; a server does not.
    if (name === 'main.js') await bench.page.getByText('not saved yet').waitFor({ timeout: PATIENCE });
    expect(await bench.page.evaluate((id) => localStorage.getItem(`plain-relief/draft/${id}`), signId)).toContain(text);
    // It is started again, and what the browser kept is saved without being asked.
    await until(async () => (await stored()).document.parts[0].words === text);
    await bench.page.locator('pr-save-mark .mark.saved').waitFor();
    await bench.page.close();
  });

  it('takes up a draft that the browser kept when the page went away', async () => {
    const bench = new BenchPage(await application.openPage(browser));
    await bench.open(application.url, signId);
    const { revision, document } = await stored();
    const draft = { base: revision, document: { ...document, blank: { ...document.blank, thickness: 6.5 } } };
    await bench.page.evaluate(
      ([id, text]) => localStorage.setItem(`plain-relief/draft/${id}`, text),
      [signId, JSON.stringify(draft)],
    );
    await bench.page.reload();
    await until(async () => (await stored()).document.blank.thickness === 6.5);
    await bench.page.close();
  });

  it('makes files behind what people ask for: the threads that make them stand back', async () => {
    const { body } = await application.api<{ id: string }>(`/signs/${signId}/tasks`, { method: 'POST', body: { kind: 'proof' } });
    await until(async () => (await application.api<{ state: string }>(`/tasks/${body.id}`)).body.state !== 'waiting');
    // Its main thread, from which every other one has it.
    expect(Math.max(...application.nicenessOf('worker.js'))).toBeGreaterThan(Math.max(...application.nicenessOf('main.js')));
  });

  it('ends queued work though the worker is killed in between, and cancels on request', async () => {
    const body = { kind: 'package', override: 'Test cut' };
    const ask = async () => (await application.api<{ id: string }>(`/signs/${signId}/tasks`, { method: 'POST', body })).body.id;
    const state = async (id: string) => (await application.api<{ state: string }>(`/tasks/${id}`)).body.state;
    const cancel = (id: string) => application.api<{ state: string }>(`/tasks/${id}/cancel`, { method: 'POST', body: {} });
    // Three are made at once: of five the last waits.
    const ids = [await ask(), await ask(), await ask(), await ask(), await ask()];
    await until(async () => (await state(ids[0])) === 'running');
    application.kill('worker.js');
    expect((await cancel(ids[4])).body.state).toBe('cancelled');
    await cancel(ids[2]);
    await until(async () => (await Promise.all(ids.map(state))).join() === 'done,done,cancelled,done,cancelled');
  });

  it('keeps everything over a restart, which takes seconds', async () => {
    const before = await stored();
    await application.stop();
    const began = Date.now();
    await application.start({ keep: true });
    expect(Date.now() - began).toBeLessThan(PATIENCE);
    expect(await stored()).toEqual(before);
  });
});

describe('./start', () => {
  it('says in one sentence that it already runs, and where', async () => {
    const second = new Application('saving');
    const child = second.run([]);
    expect(await new Promise((done) => child.once('exit', done))).toBe(1);
    expect(second.output.trim()).toBe(
      `Plain Relief already runs from this folder at ${application.url}: use that, or stop it with Ctrl-C there.`,
    );
  });

  it('says what to do about a taken port and a port that is none', async () => {
    const port = await freePort();
    const blocker = createServer().listen(port, '127.0.0.1');
    const other = new Application('ports');
    const child = other.run(['--port', String(port)]);
    expect(await new Promise((done) => child.once('exit', done))).toBe(1);
    expect(other.output.trim()).toBe(`Port ${port} is taken: stop what uses it, or give another with --port.`);
    blocker.close();
    other.output = '';
    const wrong = other.run(['--port', 'eighty']);
    expect(await new Promise((done) => wrong.once('exit', done))).toBe(1);
    expect(other.output).toContain('--port eighty is not a port');
    const none = other.run(['--workers', '0']);
    expect(await new Promise((done) => none.once('exit', done))).toBe(1);
    expect(other.output).toContain('--workers 0 is no number of processes');
  });

  it('leaves nothing running behind', async () => {
    await application.stop();
    const left = spawnSync('pgrep', ['-f', application.home], { encoding: 'utf8' }).stdout.trim();
    expect(left).toBe('');
  });
});
