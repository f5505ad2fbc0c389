// What a designer waits for, measured in Debian's Chromium on the application as it is served.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { HOME } from '../ops/build.mjs';
import { freePort } from '../ops/ports.mjs';
import { serve } from '../ops/serve.mjs';
import { signIn } from '../ops/sign-in.mjs';

const COMMON = ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking'];
/** Pages drawn by the processor alone, as where there is no graphics card; and with software WebGL for the model. */
const PLAIN = [...COMMON, '--disable-gpu'];
const WEBGL = [...COMMON, '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-gpu-rasterization'];
const open = (args) => chromium.launch({ executablePath: '/usr/bin/chromium', args });
const home = join(HOME, 'bench');
rmSync(home, { recursive: true, force: true });
const { url, stop } = await serve({ home, port: await freePort(4600), databasePort: 54850 });
let browser = await open(PLAIN);
const { send, cookie } = await signIn(url);
/** A page of somebody who is signed in. */
const newPage = async (options) => {
  const page = await browser.newPage(options);
  await page.context().addCookies([cookie]);
  return page;
};
const medianOf = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const { jobs } = await send('GET', '/jobs');

async function firstLoad() {
  const page = await newPage();
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
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${id}`);
  await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: showing, exact: true }).click();
  await page.waitForTimeout(2500);
  await page.locator('.order[data-part="line-1"] .line').click();
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

/** Frames a second of a page over so many seconds. */
const framesOf = (page, seconds) =>
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

/** From now on the page keeps, in `window.follows`, how long after a move of the pointer the model is drawn, in ms. */
const followModels = (page) =>
  page.evaluate(() => {
    window.follows = [];
    let movedAt = 0;
    document.addEventListener('pointermove', (event) => (movedAt = event.timeStamp), true);
    document.addEventListener('model-drawn', () => {
      if (movedAt > 0) window.follows.push(performance.now() - movedAt);
      movedAt = 0;
    });
  });

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
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${sign.id}`);
  await page.locator('pr-plan-view rect.grab').first().waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'Line 1', exact: true }).click();
  await page.waitForTimeout(3000);
  const still = await framesOf(page, 1);
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
    .then(() => framesOf(page, 3));
  await moving;
  await page.mouse.up();
  const plans = await page.evaluate(() => window.plans / 3);
  console.log(
    `dragging a block of 300 letters: ${moved.toFixed(0)} frames a second (${still.toFixed(0)} with nothing moving), the relief drawn anew ${plans.toFixed(0)} times a second`,
  );
  await page.close();
}

/**
 * The rung of a line of a 60-letter sign dragged up and down for three seconds: frames painted, and from the last move of a burst to
 * the model that shows it.
 * @param edge of the letters, or none
 */
async function rung(id, showing, edge) {
  const { revision, document } = await send('GET', `/signs/${id}`);
  for (const part of document.parts) part.tiers = part.tiers.map((tier) => ({ ...tier, edge }));
  await send('PUT', `/signs/${id}`, { base: revision, document });
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${id}`);
  await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: showing, exact: true }).click();
  await page.locator('.facts div', { hasText: 'taken out' }).waitFor();
  await page.waitForTimeout(4000);
  const still = await framesOf(page, 1);
  const grip = page.getByRole('button', { name: /^Height of Line 1/u });
  const box = await grip.boundingBox();
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const moving = (async () => {
    for (const end = Date.now() + 3200; Date.now() < end;) {
      await page.mouse.move(x, y - 30 + 25 * Math.sin(Date.now() / 250));
      await page.waitForTimeout(12);
    }
  })();
  await page.evaluate(() => {
    window.models = 0;
    document.addEventListener('model-drawn', () => window.models++);
  });
  const moved = await framesOf(page, 3);
  const models = (await page.evaluate(() => window.models)) / 3;
  await moving;
  // One step at a time: from the move to the model drawn.
  await followModels(page);
  for (let i = 0; i < 20; i++) {
    await page.mouse.move(x, y - 55 + 2.5 * i);
    await page.waitForTimeout(450);
  }
  await page.mouse.up();
  const follows = await page.evaluate(() => window.follows);
  const after =
    follows.length > 0
      ? `, the model drawn ${models.toFixed(0)} times a second and after ${medianOf(follows).toFixed(0)} ms (median of ${follows.length})`
      : '';
  console.log(
    `dragging a rung of 60 letters ${edge ? `sloped by ${edge.angle}°` : 'with upright sides'}, ${showing.toLowerCase()} shown: ` +
      `${moved.toFixed(0)} frames a second (${still.toFixed(0)} with nothing moving)${after}`,
  );
  await page.close();
}

/** A plaque of 2,000 letters opened: until its plan and until its model is drawn, and the memory that the browser takes for it. */
/** A word of six dragged round a post for three seconds, without and with the model: frames painted, and from a move to the model that shows it. */
async function post() {
  const sign = await send('POST', `/jobs/${jobs[0].id}/signs`, { title: 'A post' });
  const [model] = (await send('GET', `/signs/${jobs[0].signs[0].id}`)).document.parts.filter(({ kind }) => kind === 'text');
  const words = ['FERNHOLLOW ARBORETUM', 'planted in 1987 here'];
  sign.document.blank = { ...sign.document.blank, outline: { kind: 'rectangle', width: 180 * Math.PI, height: 260, cornerRadius: 0 }, thickness: 12 }; // prettier-ignore
  sign.document.support = { kind: 'cylinder', radius: 90, facing: 'outside', round: true, lid: 12 };
  sign.document.parts = [-1, 0, 1].flatMap((third) =>
    words.map((line, i) => ({
      ...model, id: `line-${third}-${i}`, name: `Line ${third} ${i}`, words: line, font: 'lora-bold', size: { kind: 'capitals', height: 9, stretch: 100 }, sitsOn: { kind: 'face' },
      place: { ...model.place, x: 60 * third * Math.PI, y: 30 - 60 * i }, tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: 2 } }],
    })),
  ); // prettier-ignore
  await send('PUT', `/signs/${sign.id}`, { base: 1, document: sign.document });
  for (const showing of ['Plan', 'Both']) {
    const page = await newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${url}/signs/${sign.id}`);
    await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
    await page.getByRole('button', { name: showing, exact: true }).click();
    await page.locator('.facts div', { hasText: 'taken out' }).waitFor();
    await page.waitForTimeout(5000);
    const still = await framesOf(page, 1);
    const box = await page.locator('pr-plan-view rect.grab').nth(3).boundingBox();
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.evaluate(() => {
      window.models = 0;
      document.addEventListener('model-drawn', () => window.models++);
    });
    await page.mouse.move(x, y);
    await page.mouse.down();
    const moving = (async () => {
      for (const end = Date.now() + 3200; Date.now() < end;) {
        await page.mouse.move(x + 30 * Math.sin(Date.now() / 300), y + 6 * Math.cos(Date.now() / 300));
        await page.waitForTimeout(10);
      }
    })();
    const moved = await framesOf(page, 3);
    const models = (await page.evaluate(() => window.models)) / 3;
    await moving;
    await followModels(page);
    for (let i = 0; i < 20 && showing === 'Both'; i++) {
      await page.mouse.move(x + 2 * i, y);
      await page.waitForTimeout(600);
    }
    await page.mouse.up();
    const follows = await page.evaluate(() => window.follows);
    const after = follows.length > 0 ? `, the model drawn ${models.toFixed(0)} times a second and after ${medianOf(follows).toFixed(0)} ms (median of ${follows.length})` : ''; // prettier-ignore
    console.log(
      `dragging a word round a post of 120 letters, ${showing.toLowerCase()} shown: ${moved.toFixed(0)} frames a second (${still.toFixed(0)} with nothing moving)${after}`,
    );
    await page.close();
  }
}

async function plaque() {
  const sign = await send('POST', `/jobs/${jobs[0].id}/signs`, { title: 'Two thousand letters' });
  const [model] = (await send('GET', `/signs/${jobs[0].signs[0].id}`)).document.parts.filter(({ kind }) => kind === 'text');
  const names = 'Marit Solheim Tobias Renn Ida Brandt Alden Quarles Brisa Tamsin Corin Vale'.split(' ');
  const lines = Array.from({ length: 198 }, (_, i) => `${names[(2 * i) % 12]} ${names[(7 * i + 3) % 12]}`);
  sign.document.blank.outline = { kind: 'rectangle', width: 700, height: 900, cornerRadius: 8 };
  sign.document.parts = [0, 1, 2].map((column) => ({
    ...model, id: `column-${column}`, name: `Column ${column}`, words: lines.slice(66 * column, 66 * column + 66).join('\n'), font: 'lora-bold',
    size: { kind: 'capitals', height: 9, stretch: 100 }, sitsOn: { kind: 'face' }, place: { ...model.place, x: -230 + 230 * column, y: 0 },
    tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: 2 } }],
  })); // prettier-ignore
  await send('PUT', `/signs/${sign.id}`, { base: 1, document: sign.document });
  const letters = lines.join('').replaceAll(' ', '').length;
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  // Opened as from the jobs, with the page's scripts at hand.
  await page.goto(`${url}/signs/${jobs[0].signs[0].id}`, { waitUntil: 'networkidle' });
  await page.evaluate(() => {
    const watch = () => {
      if (document.querySelectorAll('pr-plan-view path.level').length > 3 && !window.planAt)
        requestAnimationFrame(() => setTimeout(() => (window.planAt ??= performance.now())));
    };
    window.open2 = (path) => {
      window.planAt = undefined;
      const link = document.createElement('a');
      link.href = path;
      window.began = performance.now();
      history.pushState({}, '', path);
      dispatchEvent(new PopStateEvent('popstate'));
      new MutationObserver(watch).observe(document.body, { subtree: true, childList: true });
    };
  });
  await page.evaluate((path) => window.open2(path), `/signs/${sign.id}`);
  await page.waitForFunction(() => window.planAt !== undefined, undefined, { timeout: 60_000 });
  const plan = await page.evaluate(() => window.planAt - window.began);
  await page.waitForTimeout(1500);
  await page.evaluate(() => (window.began = performance.now()));
  await page.getByRole('button', { name: 'Model', exact: true }).click();
  // Drawn for the first time in the frame after the words that it is being built are gone.
  await page.locator('pr-model-view .say').waitFor({ state: 'attached' });
  const drawn = await page.evaluate(
    () =>
      new Promise((done) => {
        const look = () => {
          if (document.querySelector('pr-model-view .say')) return requestAnimationFrame(look);
          document.addEventListener('model-drawn', () => done(performance.now() - window.began), { once: true });
        };
        look();
      }),
  );
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  const { readFileSync } = await import('node:fs');
  const megabytes = processInfo
    .filter(({ type }) => type === 'renderer')
    .map(({ id }) => Number(/VmRSS:\s+(\d+)/u.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1000);
  console.log(
    `a plaque of ${letters} letters: plan drawn ${plan.toFixed(0)} ms after it is opened, model ${drawn.toFixed(0)} ms after it is asked for; ` +
      `the page's process holds ${Math.max(...megabytes).toFixed(0)} MB`,
  );
  await page.close();
}

/** All checks of a sign after an edit, and the evaluation and the solid that they are made of, in the worker that makes them. */
async function checks(id, name, part, edits) {
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/signs/${id}`);
  await page.locator('pr-plan-view path.edge').first().waitFor({ state: 'attached' });
  await page
    .getByRole('button', { name: /^Check/u })
    .first()
    .click();
  const taken = async (what = 'checks') => {
    const each = await Promise.all(
      page
        .workers()
        .map((worker) => worker.evaluate((name) => performance.getEntriesByName(name).map(({ duration }) => duration), what)),
    );
    return each.flat();
  };
  const until = async (count) => {
    for (const end = Date.now() + 90_000; Date.now() < end; await page.waitForTimeout(100))
      if ((await taken()).length >= count) return;
    throw new Error(`${name}: checks were made ${(await taken()).length} times of ${count}`);
  };
  await until(1);
  for (let i = 0; i < edits; i++) {
    const before = (await taken()).length;
    await page
      .getByRole('button', { name: /^Layout/u })
      .first()
      .click();
    // Folded up until it is chosen.
    const line = page.locator(`.order[data-part="${part}"]`);
    await line.waitFor();
    if (await line.locator('.line').count()) await line.locator('.line').click();
    await line.getByRole('textbox', { name: /^Words of/u }).press('End');
    await page.keyboard.press('AEIOSTRNLDHG'[i % 12]);
    await page.waitForTimeout(500);
    await page
      .getByRole('button', { name: /^Check/u })
      .first()
      .click();
    await until(before + 1);
  }
  const [first, ...later] = await taken();
  const [, ...before] = await taken('evaluation and solid to check');
  console.log(
    `all checks of ${name}: ${first.toFixed(0)} ms at first, median ${medianOf(later).toFixed(0)} ms of ${later.length} edits, after ${medianOf(before).toFixed(0)} ms of evaluation and solid`,
  );
  await page.close();
}

/** What the machine takes for a letter in a plain field, key to painted frame: nothing on the page can be faster. */
async function floor() {
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
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

/** A list of 10,000 rows scrolled through while its plates are laid out, and when they rest. */
async function longList() {
  const job = jobs.find(({ title }) => title.startsWith('Tree labels')).id;
  const [{ id }] = (await send('GET', `/jobs/${job}/runs`)).runs;
  const { document } = await send('GET', `/runs/${id}`);
  const rows = Array.from({ length: 10_000 }, (_, i) => ({ id: i + 1, values: document.rows[i % document.rows.length].values.map((value, at) => (at === 0 ? String(10_000 + i) : value)) })); // prettier-ignore
  await send('POST', `/jobs/${job}/runs`, { title: 'Long list', document: { ...document, rows } });
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/jobs/${job}/runs`);
  const began = performance.now();
  await page.getByRole('button', { name: /^Long list/u }).click();
  await page.getByText('all 10000 rows').waitFor({ state: 'attached' });
  const shown = performance.now() - began;
  const scrolled = () =>
    page.evaluate(async () => {
      const box = document.querySelector('pr-run-table .box');
      const end = performance.now() + 5000;
      let frames = 0;
      await new Promise((done) => {
        const next = () => {
          frames++;
          box.scrollTop += 240;
          if (performance.now() < end) requestAnimationFrame(next);
          else done();
        };
        requestAnimationFrame(next);
      });
      return { perSecond: frames / 5, top: box.scrollTop };
    });
  const busy = await scrolled();
  await page.getByRole('button', { name: 'Pause' }).click();
  const resting = await scrolled();
  if (!(resting.top > busy.top && busy.top > 10_000)) throw new Error('The list was not scrolled.');
  console.log(
    `a list of 10,000 rows: shown after ${shown.toFixed(0)} ms; scrolled at ${busy.perSecond.toFixed(0)} frames a second while its plates are laid out, ${resting.perSecond.toFixed(0)} when they rest`,
  );
  await page.close();
}

async function allChecks() {
  await checks(id, 'a sign of 60 letters', 'line-1', 12);
  for (const [title, part] of [['donor', 'left']]) {
    const sign = jobs.flatMap(({ signs }) => signs).find((each) => each.title.toLowerCase().includes(title));
    await checks(sign.id, `the ${title} plaque`, part, 5);
  }
}

const id = await sixtyLetters();
/** What is measured, on a plain page and on one with WebGL; `node bench/browser.mjs NAME …` measures these alone. */
const plain = {
  load: firstLoad,
  floor,
  checks: () => allChecks(),
  typing: () => typing(id, 'Plan'),
  dragging,
  rung: () => rung(id, 'Plan'),
  list: longList,
};
const webgl = {
  typing: () => typing(id, 'Model'),
  rung: async () => {
    // What the software that stands for a graphics card leaves: the same page without a model.
    await rung(id, 'Plan');
    await rung(id, 'Model');
  },
  post,
  sloped: () => rung(id, 'Model', { kind: 'sloped', angle: 10, sized: 'foot' }),
  plaque,
};
const wanted = process.argv.slice(2);
const measure = async (steps) => {
  for (const [name, step] of Object.entries(steps)) if (wanted.length === 0 || wanted.includes(name)) await step();
};
await measure(plain);
await browser.close();
browser = await open(WEBGL);
await measure(webgl);
await browser.close();
await stop();
process.exit(0);
