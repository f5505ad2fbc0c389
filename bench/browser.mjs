// What a designer waits for, measured in Debian's Chromium on the application as it is served.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { HOME } from '../ops/build.mjs';
import { freePort } from '../ops/ports.mjs';
import { serve } from '../ops/serve.mjs';

const COMMON = ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking'];
/** Pages drawn by the processor alone, as where there is no graphics card; and with software WebGL for the model. */
const PLAIN = [...COMMON, '--disable-gpu'];
const WEBGL = [...COMMON, '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-gpu-rasterization'];
const open = (args) => chromium.launch({ executablePath: '/usr/bin/chromium', args });
const home = join(HOME, 'bench');
rmSync(home, { recursive: true, force: true });
const { url, stop } = await serve({ home, port: await freePort(4600), databasePort: 54850 });
let browser = await open(PLAIN);
const send = async (method, path, body) =>
  (
    await fetch(`${url}/api${path}`, {
      method,
      headers: { 'content-type': 'application/json' },
      body: body && JSON.stringify(body),
    })
  ).json();
const medianOf = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const { jobs } = await send('GET', '/jobs');

async function firstLoad() {
  const page = await browser.newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  const types = new Map();
  let script = 0;
  session.on('Network.responseReceived', ({ requestId, response }) => types.set(requestId, response.mimeType));
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (/javascript/u.test(types.get(requestId) ?? '')) script += encodedDataLength;
  });
  await page.goto(url, { waitUntil: 'networkidle' });
  const jobsOnly = script;
  await page.goto(`${url}/signs/${jobs[0].signs[0].id}`, { waitUntil: 'networkidle' });
  console.log(
    `compressed script: jobs ${(jobsOnly / 1000).toFixed(0)} kB, and ${(script / 1000).toFixed(0)} kB when the bench is opened after it`,
  );
  await page.close();
}

/** A sign of three lines of twenty letters. */
async function sixtyLetters() {
  const sign = await send('POST', `/jobs/${jobs[0].id}/signs`, { title: 'Sixty letters' });
  const [model] = (await send('GET', `/signs/${jobs[0].signs[0].id}`)).document.parts.filter(({ kind }) => kind === 'text');
  sign.document.parts = ['FERNHOLLOW ARBORETUM', 'Quercus petraea oaks', 'planted in 1987 here'].map((words, i) => ({
    ...model, id: `line-${i + 1}`, name: `Line ${i + 1}`, words, font: 'lora-bold', size: { kind: 'capitals', height: 14, stretch: 100 }, sitsOn: { kind: 'face' },
    place: { ...model.place, y: 40 - 40 * i }, tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: 2 } }],
  })); // prettier-ignore
  await send('PUT', `/signs/${sign.id}`, { base: 1, document: sign.document });
  return sign.id;
}

async function typing(id, showing) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${id}`);
  await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: showing, exact: true }).click();
  await page.waitForTimeout(2500);
  await page.getByRole('textbox', { name: 'Words of Line 1' }).press('End');
  // From the key to the end of the frame in which the new plan, or the new model, is drawn.
  await page.evaluate(() => {
    const measured = (window.measured = { plan: [], model: [], blocked: [] });
    let typedAt = 0;
    document.addEventListener('input', (event) => (typedAt = event.timeStamp), true);
    const plan = document.querySelector('pr-plan-view');
    if (plan) {
      new MutationObserver(() => {
        const from = typedAt;
        // A timer set in the last moment before a frame runs when the frame has been painted.
        if (from > 0) requestAnimationFrame(() => setTimeout(() => measured.plan.push(performance.now() - from)));
      }).observe(plan, { subtree: true, childList: true, attributes: true, attributeFilter: ['d'] });
    }
    document.addEventListener('model-drawn', () => {
      if (typedAt > 0) measured.model.push(performance.now() - typedAt);
    });
    new PerformanceObserver((entries) => measured.blocked.push(...entries.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    });
  });
  for (const letter of 'ABERDEENSHIREOAKSOLD') {
    await page.keyboard.press(letter);
    await page.waitForTimeout(400);
  }
  const { plan, model, blocked } = await page.evaluate(() => window.measured);
  const times = showing === 'Plan' ? plan : model;
  const most = blocked.length > 0 ? `, at most ${Math.max(...blocked).toFixed(0)} ms` : '';
  console.log(
    `typing a letter into 60, ${showing.toLowerCase()} drawn: median ${medianOf(times).toFixed(0)} ms of ${times.length}; ` +
      `main thread blocked over 50 ms: ${blocked.length} times${most}`,
  );
  await page.close();
}

/** A block of 300 letters dragged across its sign for three seconds: how many frames are painted, and the same of a bare page. */
async function dragging() {
  const sign = await send('POST', `/jobs/${jobs[0].id}/signs`, { title: 'Three hundred letters' });
  const [model] = (await send('GET', `/signs/${jobs[0].signs[0].id}`)).document.parts.filter(({ kind }) => kind === 'text');
  sign.document.blank.outline = { kind: 'rectangle', width: 500, height: 400, cornerRadius: 0 };
  sign.document.parts = [
    {
      ...model, id: 'line-1', name: 'Line 1', words: Array(15).fill('FERNHOLLOW ARBORETUMS').join('\n'), font: 'lora-bold',
      size: { kind: 'capitals', height: 10, stretch: 100 }, sitsOn: { kind: 'face' }, place: { ...model.place, x: 0, y: 0 },
      tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: 2 } }],
    },
  ]; // prettier-ignore
  await send('PUT', `/signs/${sign.id}`, { base: 1, document: sign.document });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${sign.id}`);
  await page.locator('pr-plan-view rect.grab').first().waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'Line 1', exact: true }).click();
  await page.waitForTimeout(3000);
  const count = (seconds) =>
    page.evaluate(
      (ms) =>
        new Promise((done) => {
          let frames = 0;
          const began = performance.now();
          const frame = (now) => (now - began < ms ? (frames++, requestAnimationFrame(frame)) : done(frames / (ms / 1000)));
          requestAnimationFrame(frame);
        }),
      seconds * 1000,
    );
  const still = await count(1);
  const box = await page.locator('pr-plan-view rect.grab').first().boundingBox();
  // Off the cut line.
  const [x, y] = [box.x + box.width / 2, box.y + box.height * 0.8];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const moving = (async () => {
    for (const end = Date.now() + 3200; Date.now() < end;) {
      const t = Date.now() / 300;
      await page.mouse.move(x + 40 * Math.cos(t), y + 25 * Math.sin(t));
      await page.waitForTimeout(8);
    }
  })();
  const moved = await page
    .evaluate(() => {
      window.plans = 0;
      new MutationObserver(() => window.plans++).observe(document.querySelector('pr-plan-view'), {
      subtree: true, attributes: true, attributeFilter: ['d'],
    }); // prettier-ignore
    })
    .then(() => count(3));
  await moving;
  await page.mouse.up();
  const plans = await page.evaluate(() => window.plans / 3);
  console.log(
    `dragging a block of 300 letters: ${moved.toFixed(0)} frames a second (${still.toFixed(0)} with nothing moving), the relief drawn anew ${plans.toFixed(0)} times a second`,
  );
  await page.close();
}

/** What the machine takes for a letter in a plain field, key to painted frame: nothing on the page can be faster. */
async function floor() {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.setContent('<textarea></textarea>');
  await page.locator('textarea').focus();
  await page.evaluate(() => {
    window.times = [];
    document.addEventListener('input', (event) => {
      requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - event.timeStamp)));
    });
  });
  for (const letter of 'ABERDEENSHIREOAKSOLD') {
    await page.keyboard.press(letter);
    await page.waitForTimeout(400);
  }
  console.log(`a letter in a plain field: median ${medianOf(await page.evaluate(() => window.times)).toFixed(0)} ms`);
  await page.close();
}

await firstLoad();
const id = await sixtyLetters();
await floor();
await typing(id, 'Plan');
await dragging();
await browser.close();
browser = await open(WEBGL);
await typing(id, 'Model');
await browser.close();
await stop();
process.exit(0);
