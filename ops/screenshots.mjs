// Takes the pictures of docs/screenshots/ from the demo data: node ops/screenshots.mjs
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { buildCommandLine, buildWeb, HOME, installPackages, ROOT } from './build.mjs';
import { needFromDebian } from './debian.mjs';
import { freePort } from './ports.mjs';
import { main } from './say.mjs';
import { serve } from './serve.mjs';
import { signIn } from './sign-in.mjs';

const FLAGS = [
  '--no-sandbox',
  '--disable-quic',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--disable-gpu-rasterization',
];

main(async () => {
  needFromDebian('postgres', 'chromium', 'poppler', 'liblouis');
  installPackages();
  buildCommandLine();
  buildWeb();
  const home = join(HOME, 'screenshots');
  rmSync(home, { recursive: true, force: true });
  const { url, stop } = await serve({ home, port: await freePort(4500), databasePort: 54800 });
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: FLAGS });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript("localStorage['plain-relief-tour'] ??= '0'");
  const { send, cookie } = await signIn(url);
  await page.context().addCookies([cookie]);
  const { jobs } = await send('GET', '/jobs');
  const signs = new Map(jobs.flatMap((job) => job.signs.map((sign) => [sign.title, sign.id])));
  const take = async (name) => {
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(ROOT, 'docs', 'screenshots', `${name}.png`) });
  };
  const open = async (id) => {
    await page.goto(`${url}/signs/${id}`);
    await page.locator('pr-plan-view path.edge').or(page.locator('pr-make-place')).first().waitFor({ state: 'attached' });
  };
  await page.goto(`${url}/jobs`, { waitUntil: 'networkidle' });
  await take('jobs');
  await open(signs.get('West gate sign'));
  await take('bench');
  await open(signs.get('West gate post'));
  await page.getByRole('button', { name: 'Both', exact: true }).click();
  await page.getByRole('button', { name: 'laid flat' }).click();
  await page.getByText('face: radius 90 mm, outside').waitFor();
  await page.waitForTimeout(2500);
  await take('both');

  // Making: the carved panel planned and proven, its first program on the practice machine, and the shop's lists.
  const panel = signs.get('Map room panel');
  const tools = ['end-quarter', 'end-eighth', 'ball-3'];
  const ordered = await send('POST', `/signs/${panel}/plans`, {
    side: 'front',
    machine: 'long-bed',
    material: 'oak',
    tools,
    cell: 0.3,
  });
  for (let plan = ordered; plan.state !== 'done'; plan = await send('GET', `/plans/${ordered.id}`)) {
    if (plan.state === 'failed') throw new Error(plan.error);
    await page.waitForTimeout(1000);
  }
  await open(panel);
  await page.getByRole('button', { name: /^Make/u }).first().click();
  await page.locator('pr-plan-film input[type=range]').waitFor();
  await page.locator('pr-plan-facts .cuts button', { hasText: 'Finish slopes' }).click();
  await page.waitForTimeout(2500);
  await take('make');
  await send('POST', `/plans/${ordered.id}/release`, { override: 'A sample in scrap' });
  await send('POST', '/machine/programs', { plan: ordered.id, file: 0 });
  await send('POST', '/machine/commands', { command: 'faster', value: 100 });
  await send('POST', '/machine/commands', { command: 'run' });
  await page.reload();
  await page.getByRole('button', { name: 'At the machine' }).click();
  await page.waitForTimeout(9000);
  await take('machine');
  await page.goto(`${url}/shop`);
  await page.getByRole('button', { name: 'Tools', exact: true }).click();
  await page.locator('pr-library-section li button', { hasText: '60° vee bit' }).click();
  await page.locator('pr-library-section').evaluate((section) => section.scrollIntoView());
  await take('library');

  // Heights: the carved panel lit from the upper left, and its model.
  await open(signs.get('Map room panel'));
  await page
    .getByRole('button', { name: /^Heights/u })
    .first()
    .click();
  await page.locator('.facts div', { hasText: 'gold leaf' }).waitFor();
  await page.getByLabel('What the plan is painted by').selectOption('relief');
  await page.locator('pr-plan-view image.relief').waitFor({ state: 'attached' });
  await take('heights');
  await page.getByRole('button', { name: 'Model', exact: true }).click();
  await page.locator('pr-model-view .say').waitFor({ state: 'detached' });
  await page.waitForTimeout(1500);
  await take('model');

  await open(signs.get('Map store 2.17, first draft'));
  await page.getByRole('button', { name: /^Check /u }).click();
  await page.locator('pr-standard-table tr.fails button', { hasText: 'Spacing' }).click();
  await page.locator('pr-check-panel .all').evaluate((all) => {
    all.scrollTop = all.querySelector('pr-standard-table').offsetTop - all.offsetTop;
  });
  await page.locator('i.found').first().waitFor();
  await take('check');

  await page.goto(`${url}/jobs/${jobs.find(({ title }) => title.startsWith('Rooms with braille')).id}/places`);
  await page.locator('polygon.sign').first().waitFor();
  await page.waitForTimeout(1500);
  await take('places');

  await page.goto(`${url}/jobs/${jobs.find(({ title }) => title.startsWith('Tree labels')).id}/runs`);
  await page.locator('[data-state="too large"]').first().waitFor();
  await page.getByRole('button', { name: 'Contact sheet' }).click();
  await page.waitForTimeout(9000);
  await take('run');

  // Laying out: a framed name that narrows, letters by hand, words around a circle, artwork with faults, measuring.
  const layout = await send('POST', `/jobs/${jobs.find(({ customer }) => customer === 'Fernhollow Arboretum').id}/signs`, {
    title: 'West gate, arched',
  });
  const text = { ...(await send('GET', `/signs/${signs.get('Reading room')}`)).document.parts[0] };
  const { document: arched } = layout;
  arched.blank.outline = { kind: 'arch', width: 500, height: 400, rise: 150 };
  const placed = (x, y) => ({ x, y, turn: 0, mirror: false });
  const tier = (action) => [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action }];
  const shape = (id, name, outline, place, action) => ({
    kind: 'shape', id, name, shape: outline, place, sitsOn: { kind: 'face' }, tiers: tier(action),
  }); // prettier-ignore
  const words = (id, name, text_, height, place, action, more) => ({
    ...text, id, name, words: text_, size: { kind: 'capitals', height, stretch: 100 }, place, tiers: tier(action), sitsOn: { kind: 'face' }, ...more,
  }); // prettier-ignore
  const margin = { kind: 'length', length: 2 };
  arched.parts = [
    shape('border', 'Border', { kind: 'border', of: 'blank', inset: 12, width: 4 }, placed(0, 0), { kind: 'raise', by: 2 }),
    shape('medallion', 'Medallion', { kind: 'circle', diameter: 150 }, placed(0, 62), { kind: 'carve', by: 4 }),
    words('round', 'Round', 'FERNHOLLOW ARBORETUM', 17, placed(0, 0), { kind: 'raise', by: 2 }, {
      font: 'cinzel-bold', path: { kind: 'part', part: 'medallion', side: 'outside', shift: 0 },
    }),
    words('name', 'Name', 'Waverley Tye', 32, placed(0, -128), { kind: 'raise', by: 2 }, {
      font: 'lora-bold', frame: { width: 380, height: 64, marginAcross: margin, marginUp: margin, upright: 'middle', fit: [{ kind: 'tighten', floor: -3 }, { kind: 'narrow', floor: 60 }] },
    }),
    shape('fixings', 'Fixing holes', { kind: 'fixings', diameter: 6, inset: 27, places: 'ends', count: 2 }, placed(0, 0), { kind: 'cut-through' }),
  ]; // prettier-ignore
  await send('PUT', `/signs/${layout.id}`, { base: 1, document: arched });
  await open(layout.id);
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: 'Name', exact: true }).click();
  await page.getByLabel('Words of Name').fill('Waverley and Tye Meadows');
  await page.locator('pr-notes-list li', { hasText: 'narrowed' }).waitFor();
  await page.getByRole('button', { name: 'Letters and gaps' }).click();
  await page.waitForTimeout(500);
  await page.locator('pr-letter-strip .gap').nth(8).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.locator('pr-letter-strip').scrollIntoViewIfNeeded();
  await take('letters');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add something else' }).click();
  await page.getByText('A logo or other artwork').click();
  await page.setInputFiles('input[type=file]', join(ROOT, 'demo/artwork/leaf.dxf'));
  await page.locator('.report li').nth(2).hover();
  await take('artwork');

  // A proof that came back, with what has changed since; and one as its customer sees it.
  const jobOf = (title) => jobs.find((job) => job.title === title);
  const frozen = async (job, signs, message) => {
    const proof = await send('POST', `/jobs/${job.id}/proofs`, { signs, recipient: 'desk@example.org', message, days: 30 });
    return { ...proof, link: `/proof-links/${proof.address.split('/').at(-1)}` };
  };
  const rooms = jobOf('Room signs, second floor');
  const reading = signs.get('Reading room');
  const back = await frozen(rooms, [reading, signs.get('Welcome in five tongues')], 'Dear Tobias, here are the room signs.');
  const asked = { signId: reading, who: 'Tobias Renn', text: 'Could the number be larger?', across: 0.5, down: 0.8 };
  await send('POST', `${back.link}/remarks`, asked);
  await send('POST', `${back.link}/wishes`, { name: 'Tobias Renn', wishes: 'The number larger, and the plate 5 mm thick.' });
  await send('POST', `/proofs/${back.id}/remarks`, { signId: reading, text: 'Proof B will have it so.' });
  const { document, revision } = await send('GET', `/signs/${reading}`);
  document.blank.thickness = 5;
  for (const part of document.parts) if (part.kind === 'text' && part.size.kind === 'capitals') part.size.height *= 1.15;
  await send('PUT', `/signs/${reading}`, { base: revision, document });
  await page.goto(`${url}/jobs/${rooms.id}/proofs`);
  await page.waitForTimeout(6000);
  await take('proofs');
  await page.getByRole('button', { name: 'Lay the plans over each other' }).first().click();
  await page.waitForTimeout(3000);
  await page.locator('figcaption').first().scrollIntoViewIfNeeded();
  await take('compared');
  const gate = signs.get('West gate sign');
  const out = await frozen(jobOf('Entrance and donor signs'), [gate], 'Dear Marit, here is the sign for the west gate.');
  const said = { signId: gate, who: 'Marit Solheim', text: 'Is this the fern that we sent?', across: 0.5, down: 0.3 };
  await send('POST', `${out.link}/remarks`, said);
  await page.goto(`${url}/proof/${out.link.split('/').at(-1)}`);
  await page.locator('i.pin').waitFor();
  await take('customer');

  await browser.close();
  await stop();

  const pdf = join(home, 'proof.pdf');
  spawnSync(join(ROOT, 'relief'), ['export', join(ROOT, 'demo/map-room.sign.json'), '--pdf', pdf, '--date', '2026-11-25']);
  spawnSync('pdftoppm', [
    '-r',
    '100',
    '-f',
    '1',
    '-l',
    '1',
    '-png',
    '-singlefile',
    pdf,
    join(ROOT, 'docs', 'screenshots', 'proof'),
  ]);
  process.exit(0);
});
