import { afterAll, beforeAll, describe, it } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { Application, openBrowser } from '../e2e/application.js';
import { BenchPage } from '../e2e/bench-page.js';

const application = new Application('bench', 4420);
let browser: Browser;
beforeAll(async () => {
  await application.start();
  browser = await openBrowser();
}, 300_000);
afterAll(async () => {
  await browser?.close();
  await application.stop();
}, 60_000);

const medianOf = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** What the page measures of itself while letters are typed. */
interface Measured {
  readonly plan: number[];
  readonly model: number[];
  readonly longTasks: number[];
}

describe('the page', () => {
  it('typing a letter into a 60-letter sign', async () => {
    const { body: list } = await application.api<{ jobs: { id: string }[] }>('/jobs');
    const { body: sign } = await application.api<{ id: string }>(`/jobs/${list.jobs[0].id}/signs`, {
      method: 'POST',
      body: { title: 'Sixty letters' },
    });
    const bench = new BenchPage(await browser.newPage({ viewport: { width: 1280, height: 800 } }));
    const { page } = bench;
    await bench.open(application.url, sign.id);
    for (const [i, words] of ['FERNHOLLOW ARBORETUM', 'Quercus petraea, oak', 'planted in 1987 here'].entries()) {
      const order = await bench.addLine(words);
      await bench.set(order, 'cap height', '14 mm');
      await bench.set(order, 'place up', `${40 - 40 * i}`);
    }
    for (const showing of ['Plan', 'Model'] as const) {
      await page.getByRole('button', { name: showing, exact: true }).click();
      await page.waitForTimeout(2500);
      const words = bench.order('Line 1').getByRole('textbox', { name: /^Words/u });
      await words.press('End');
      // From the key to the frame in which the new plan, or the new model, is drawn.
      await page.evaluate(() => {
        const measured = { plan: [] as number[], model: [] as number[], longTasks: [] as number[] };
        Object.assign(window, { measured });
        let typedAt = 0;
        document.addEventListener('keydown', () => (typedAt = performance.now()), true);
        const drawn = (into: number[]) =>
          requestAnimationFrame(() => requestAnimationFrame(() => into.push(performance.now() - typedAt)));
        new MutationObserver(() => {
          if (typedAt > 0) drawn(measured.plan);
        }).observe(document.querySelector('.views')!, {
          subtree: true,
          childList: true,
          attributes: true,
          attributeFilter: ['d'],
        });
        document.addEventListener('model-drawn', () => {
          if (typedAt > 0) measured.model.push(performance.now() - typedAt);
        });
        new PerformanceObserver((entries) => {
          for (const entry of entries.getEntries()) measured.longTasks.push(entry.duration);
        }).observe({ type: 'longtask' });
      });
      for (const letter of 'ABERDEENSHIRE OAKS OLD') {
        await page.keyboard.press(letter === ' ' ? 'Space' : letter);
        await page.waitForTimeout(350);
      }
      const measured = (await page.evaluate(() => (window as unknown as { measured: Measured }).measured)) as Measured;
      const times = showing === 'Plan' ? measured.plan : measured.model;
      process.stdout.write(
        `typing, ${showing.toLowerCase()} redrawn: median ${medianOf(times).toFixed(0)} ms of ${times.length}, ` +
          `main thread blocked over 50 ms: ${measured.longTasks.length} times${measured.longTasks.length > 0 ? `, at most ${Math.max(...measured.longTasks).toFixed(0)} ms` : ''}\n`,
      );
    }
  }, 240_000);

  it('first load', async () => {
    const page = await browser.newPage();
    const session = await page.context().newCDPSession(page);
    await session.send('Network.enable');
    const types = new Map<string, string>();
    let script = 0;
    session.on('Network.responseReceived', ({ requestId, response }) => types.set(requestId, response.mimeType));
    session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      if (/javascript/u.test(types.get(requestId) ?? '')) script += encodedDataLength;
    });
    await page.goto(application.url, { waitUntil: 'networkidle' });
    const jobs = script;
    const { body: list } = await application.api<{ jobs: { signs: { id: string }[] }[] }>('/jobs');
    await page.goto(`${application.url}/signs/${list.jobs[0].signs[0].id}`, { waitUntil: 'networkidle' });
    process.stdout.write(
      `compressed script of the first load: jobs ${(jobs / 1000).toFixed(0)} kB, with the bench and its worker ${(script / 1000).toFixed(0)} kB\n`,
    );
  }, 60_000);
});
