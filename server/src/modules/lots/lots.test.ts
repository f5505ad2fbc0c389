import { type ChildProcess, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { RunMaking } from '@plain-relief/api';
import { newRun, readList, type Run, withList } from '@plain-relief/core/runs';
import type { Shop } from '@plain-relief/core/shop';
import { newShape, type Sign } from '@plain-relief/core/sign';
import { unzipSync } from 'fflate';
import type PgBoss from 'pg-boss';
import { openQueue, LOT_QUEUE, QUEUE } from '../../platform/queue/queue.js';
import { TestServer } from '../../testing/server.js';
import { treeLabels } from '../../testing/tree-labels.js';
import { rowBraille } from '../braille/row-braille.js';
import { shopLibrary } from '../shop/library.js';
import { ShopFonts } from '../fonts/fonts.js';
import { Worker } from '../tasks/worker.js';
import { LotMaker } from './lot-maker.js';

interface Refusal {
  readonly code: string;
  readonly message: string;
}

const WORKER = fileURLToPath(new URL('../../../dist/worker.js', import.meta.url));
const override = 'A test';
let server: TestServer;
let boss: PgBoss;
let job: { id: string };
let sign: { id: string; document: Sign };
let run: { id: string };
/** Whoever is at work. */
let makers: { close(): Promise<void> }[] = [];

beforeAll(async () => {
  server = await TestServer.start();
  boss = await openQueue(server.settings.databaseUrl);
});
afterEach(restOf);
afterAll(async () => {
  await boss?.stop({ graceful: false });
  await server?.stop();
});
beforeEach(async () => {
  ({ job, sign } = await treeLabels(server, '{name} {no}', 'refuse'));
  run = await listed(40);
});

/** A run of so many trees, of which the fifth has no name and the seventh one that is far too long. */
async function listed(count: number): Promise<{ id: string }> {
  const names = Array.from({ length: count }, (_, i) => (i === 4 ? '' : i === 6 ? 'Hybrid '.repeat(30) : `Tree ${i}`));
  const list = readList(new TextEncoder().encode(['name,bed', ...names.map((name) => `${name},A`)].join('\r\n')));
  const document = withList(newRun(sign.id), list).run;
  return (await server.call<{ id: string }>('POST', `/api/jobs/${job.id}/runs`, { title: 'Spring', document })).body;
}

async function asked(what: object = {}, id = run.id): Promise<RunMaking> {
  const order = { kinds: ['svg'], onSheets: true, hasContact: false, override, ...what };
  const { status, body } = await server.call<RunMaking & Refusal>('POST', `/api/runs/${id}/makings`, order);
  expect([status, body.message]).toEqual([202, undefined]);
  await boss.send(LOT_QUEUE, { makingId: body.id });
  return body;
}

/** Workers of this process. */
function atWork(count: number, isBusy = (): boolean => false): void {
  const begun = Array.from({ length: count }, () => {
    const maker = new LotMaker(server.db, boss, new ShopFonts(server.db), server.settings.fontsDir, { silentMs: 2000, isBusy });
    maker.start();
    return maker;
  });
  makers.push(...begun);
}

async function restOf(): Promise<void> {
  await Promise.all(makers.map((maker) => maker.close()));
  makers = [];
}

const read = async (id: string): Promise<RunMaking> => (await server.call<RunMaking>('GET', `/api/makings/${id}`)).body;

async function until(id: string, isIt: (making: RunMaking) => boolean): Promise<RunMaking> {
  for (let tries = 0; tries < 1200; tries++) {
    const making = await read(id);
    if (isIt(making)) return making;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`It did not come to that: ${JSON.stringify(await read(id))}`);
}

async function filesOf(id: string): Promise<Record<string, Uint8Array>> {
  const { statusCode, rawPayload } = await server.inject({ url: `/api/makings/${id}/file` });
  expect(statusCode).toBe(200);
  return unzipSync(new Uint8Array(rawPayload));
}

const digestOf = (files: Record<string, Uint8Array>): Record<string, string> =>
  Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, createHash('sha256').update(bytes).digest('hex')]));

describe('files of a run by workers', () => {
  it('are made of every row, with sheets, contact sheet and a report, and given out in one file', async () => {
    atWork(2);
    const { id, rows, lots } = await asked({ kinds: ['svg', 'stl'], hasContact: true });
    expect([rows, lots]).toEqual([40, 4]);
    const done = await until(id, ({ state }) => state === 'done');
    await restOf();
    expect([done.made, done.held, done.error, done.laid?.sheets]).toEqual([40, 2, null, expect.any(Number)]);
    const files = await filesOf(id);
    const names = Object.keys(files);
    // The fifth is refused; the seventh is written and on no sheet.
    expect(names.filter((name) => name.endsWith('.stl'))).toHaveLength(39);
    expect(names.slice(0, 2)).toEqual(['0001 Tree 0 001.svg', '0001 Tree 0 001.stl']);
    for (const name of ['sheets map.pdf', 'sheet 1.svg', 'sheet 1 map.svg', 'contact sheet 1.pdf', 'report.csv'])
      expect(names).toContain(name);
    const text = (name: string): string => new TextDecoder().decode(files[name]);
    expect(text('contact sheet 1.pdf').slice(0, 5)).toBe('%PDF-');
    const report = text('report.csv').replace(/^\ufeff/u, '').trim().split('\r\n'); // prettier-ignore
    expect(report).toHaveLength(41);
    expect(report[5]).toContain('5,refused');
    expect(report[7]).toContain('7,too large');
    const maps = names.filter((name) => name.endsWith('map.svg')).map(text).join(''); // prettier-ignore
    expect(maps).toContain('>40<');
    expect(maps).not.toContain('>7<');
    // What only later lots needed is not kept.
    const [{ edges, drawings, pictures }] = await server.db.RunLot.findAll({ where: { makingId: id }, limit: 1 });
    expect([edges, drawings, pictures]).toEqual([null, null, null]);
  });

  it('of chosen plates are those alone, with their own numbers', async () => {
    atWork(1);
    const { id } = await asked({ plates: [3, 40], onSheets: false });
    await until(id, ({ state }) => state === 'done');
    await restOf();
    expect(Object.keys(await filesOf(id))).toEqual(['0003 Tree 2 003.svg', '0040 Tree 39 040.svg', 'report.csv']);
  });

  it('have the braille of their own words, by liblouis', async () => {
    const braille = newShape(sign.document, 'braille');
    const { document } = (await server.call<{ document: Sign }>('GET', `/api/signs/${sign.id}`)).body;
    if (braille.shape.kind === 'braille') Object.assign(braille.shape, { follows: document.parts[0].id, table: 'ueb-1' });
    await server.call('PUT', `/api/signs/${sign.id}`, {
      base: 2,
      document: { ...document, parts: [...document.parts, braille] },
    });
    atWork(1);
    const { id } = await asked({ plates: [2, 3], onSheets: false });
    await until(id, ({ state }) => state === 'done');
    const [{ made }] = await server.db.RunLot.findAll({ where: { makingId: id } });
    expect(made!.map(({ told }) => told.filter((note) => note.includes('cells')))).toEqual([[], []]);
    // Rules of Unified English Braille 2013, 6.1: ⠼ begins figures, ⠁ is 1; ⠠ a capital (8.1).
    const cellsOf = await rowBraille({ ...document, parts: [...document.parts, braille] }, [{ values: new Map([['name', 'Tree 1'], ['no', '002']]) }]); // prettier-ignore
    expect(cellsOf('tree 1\n002', 'ueb-1') ?? cellsOf('Tree 1\n002', 'ueb-1')).toMatch(/^⠠?⠞⠗⠑⠑\u2800⠼⠁\n⠼⠚⠚⠃$/u);
  });

  it('have programs of every sheet, with the tools of all its plates, or why there are none', async () => {
    const library = JSON.parse(readFileSync(new URL('../../../../demo/shop.json', import.meta.url), 'utf8')) as Shop;
    await server.call('PUT', '/api/shop/library', { base: (await shopLibrary(server.db)).revision, library });
    const { document } = (await server.call<{ document: Sign }>('GET', `/api/signs/${sign.id}`)).body;
    const label = {
      ...document.blank,
      outline: { kind: 'rectangle', width: 120, height: 70, cornerRadius: 2 },
      thickness: 6,
      material: 'oak',
    };
    await server.call('PUT', `/api/signs/${sign.id}`, { base: 2, document: { ...document, blank: label } });
    const { body: shown } = await server.call<{ document: Run; revision: number }>('GET', `/api/runs/${run.id}`);
    const sheet = { ...shown.document.sheet, width: 290, height: 180, spacing: 8 };
    await server.call('PUT', `/api/runs/${run.id}`, {
      base: shown.revision,
      title: 'Spring',
      document: { ...shown.document, sheet },
    });
    atWork(1);
    const programs = { machine: 'long-bed' };
    const { id } = await asked({ kinds: [], plates: [1, 2, 3, 4, 6], programs });
    const shares: number[] = [];
    const done = await until(id, ({ state, lotsMade, underWay }) => shares.push(lotsMade + underWay) > 0 && state === 'done');
    // How far a sheet's programs are is known while they are made, and nothing is taken back.
    expect(shares.some((share) => share % 1 > 0)).toBe(true);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect([done.laid?.sheets, done.error, done.programs?.machine]).toEqual([2, null, 'Long bed router']);
    expect(done.programs!.minutes).toBeGreaterThan(1);
    const files = await filesOf(id);
    const written = Object.keys(files).filter((name) => /^sheet \d\//u.test(name));
    expect(new Set(written.map((name) => name.slice(0, 7)))).toEqual(new Set(['sheet 1', 'sheet 2']));
    const text = written.map((name) => new TextDecoder().decode(files[name])).join('');
    for (const plate of [1, 2, 3, 4, 6]) expect(text).toContain(`of plate ${plate}`);
    // Too near for the tool that frees them: said once, and all else is made.
    await server.call('PUT', `/api/runs/${run.id}`, {
      base: shown.revision + 1,
      title: 'Spring',
      document: { ...shown.document, sheet: { ...sheet, spacing: 3 } },
    });
    const near = await asked({ kinds: [], plates: [1, 2, 3, 4, 6], programs: { ...programs, tools: ['end-6'] } });
    const told = await until(near.id, ({ state }) => state === 'done');
    expect(told.error).toMatch(/^Sheet.* Plates lie 3 mm apart and are cut out by a tool of 6 mm/u);
    expect(Object.keys(await filesOf(near.id))).toContain('sheet 1 map.svg');
    const refused: [object, string][] = [
      [{ programs: { machine: 'lathe' } }, 'programs.machine: The shop has this machine no longer'],
      [{ programs: { ...programs, tools: ['end-99'] } }, 'programs.tools'],
      [{ programs, onSheets: false }, 'programs: Programs are made by sheet'],
      [{ programs: {} }, 'machine'],
    ];
    for (const [what, message] of refused) {
      const order = { kinds: ['svg'], onSheets: true, hasContact: false, override, ...what };
      const { status, body } = await server.call<Refusal>('POST', `/api/runs/${run.id}/makings`, order);
      expect([status, body.message.includes(message) ? message : body.message]).toEqual([400, message]);
    }
  });

  it('pause, go on and end', async () => {
    const { id } = await asked();
    const turn = (state: string) => server.call<RunMaking>('POST', `/api/makings/${id}`, { state });
    expect((await turn('paused')).body.state).toBe('paused');
    atWork(1);
    await new Promise((done) => setTimeout(done, 1500));
    expect(await read(id)).toMatchObject({ state: 'paused', made: 0 });
    expect((await server.call<Refusal>('GET', `/api/makings/${id}/file`)).body.code).toBe('NOT_READY');
    expect((await turn('running')).body.state).toBe('running');
    await boss.send(LOT_QUEUE, { makingId: id });
    await until(id, ({ made }) => made > 0);
    expect((await turn('cancelled')).body.state).toBe('cancelled');
    await restOf();
    expect(await server.db.RunLot.count({ where: { makingId: id } })).toBe(0);
    // An end is one.
    expect((await turn('running')).body.state).toBe('cancelled');
  });

  it('stand back behind files of single signs, and a short run is not kept waiting by a long one', async () => {
    const long = await listed(240);
    const { id } = await asked({ kinds: ['svg', 'stl'] }, long.id);
    const short = await asked({ plates: [1, 2, 3] });
    const worker = new Worker(server.db, boss, server.settings.fontsDir);
    await worker.start();
    atWork(1, () => worker.isMakingFiles);
    const task = await server.call<{ id: string }>('POST', `/api/signs/${sign.id}/tasks`, { kind: 'proof', override });
    await boss.send(QUEUE, { taskId: task.body.id });
    await until(short.id, ({ state }) => state === 'done');
    expect((await read(id)).state).toBe('running');
    for (;;) {
      const { state } = (await server.db.Task.findByPk(task.body.id))!;
      if (state === 'done') break;
      expect(['waiting', 'running']).toContain(state);
      await new Promise((done) => setTimeout(done, 50));
    }
    const meanwhile = await read(id);
    expect([meanwhile.state, meanwhile.made < 240]).toEqual(['running', true]);
    await server.call('POST', `/api/makings/${id}`, { state: 'cancelled' });
    worker.stop();
    await restOf();
    await worker.close();
  });

  it('are refused with the field where they cannot be, and no more than three at once', async () => {
    const order = (what: object) => server.call<Refusal>('POST', `/api/runs/${run.id}/makings`, { kinds: ['svg'], onSheets: true, hasContact: false, override, ...what }); // prettier-ignore
    const cases: [object, string][] = [
      [{ plates: [41] }, 'plates: The list has 40 rows, and no plate 41.'],
      [{ plates: [] }, 'plates'],
      [{ kinds: ['exe'] }, 'kinds'],
      [{ onSheets: 'yes' }, 'onSheets'],
      [{ override: ' ' }, 'override'],
    ];
    for (const [what, message] of cases) {
      const { status, body } = await order(what);
      expect([status, body.message.includes(message) ? message : body.message]).toEqual([400, message]);
    }
    expect((await order({ override: undefined })).body.code).toBe('NOT_APPROVED');
    const ids = [];
    for (let i = 0; i < 3; i++) ids.push((await asked()).id);
    expect((await order({})).body.code).toBe('TOO_MANY_MAKINGS');
    for (const id of ids) await server.call('POST', `/api/makings/${id}`, { state: 'cancelled' });
    expect((await server.call<{ makings: RunMaking[] }>('GET', `/api/runs/${run.id}/makings`)).body.makings).toHaveLength(3);
  });
});

describe('a killed worker', () => {
  let workers: ChildProcess[] = [];
  const begin = (): void => {
    const env = { ...process.env, DATABASE_URL: server.settings.databaseUrl, LOT_SILENCE_S: '1' };
    workers.push(spawn(process.execPath, [WORKER], { env, stdio: ['ignore', 'ignore', 'inherit'] }));
  };
  const kill = (worker: ChildProcess): void => {
    workers = workers.filter((each) => each !== worker);
    worker.kill('SIGKILL');
  };
  afterAll(() => workers.forEach(kill));

  it('loses nothing, and nothing is made twice', async () => {
    const many = await listed(Number(process.env.KILLED_ROWS ?? 96));
    const kills = Number(process.env.KILLS ?? 6);
    begin();
    begin();
    const calm = await asked({}, many.id);
    await until(calm.id, ({ state }) => state === 'done');
    const { id } = await asked({}, many.id);
    const seen = { killed: 0, atWork: 0 };
    while ((await read(id)).state !== 'done' && seen.killed < kills) {
      // While a lot is made, at a time by chance; every third as it comes: between two lots, or while it starts.
      if (seen.killed % 3 < 2) {
        const { workers: busy } = await until(id, ({ state, workers: own }) => own > 0 || state === 'done');
        if (busy > 0) seen.atWork++;
      }
      await new Promise((done) => setTimeout(done, 300 * Math.random()));
      kill(workers[0]);
      begin();
      seen.killed++;
    }
    const done = await until(id, ({ state }) => state === 'done');
    // A quick machine may be done before the last of them.
    expect(seen.killed).toBeGreaterThan(0);
    expect(seen.atWork).toBeGreaterThan(0);
    const lots = await server.db.RunLot.findAll({ where: { makingId: id, kind: 'rows' }, attributes: ['made'] });
    const rows = lots.flatMap(({ made }) => made!.map(({ row }) => row)).sort((a, b) => a - b);
    expect(rows).toEqual(Array.from({ length: done.rows }, (_, i) => i));
    expect(digestOf(await filesOf(id))).toEqual(digestOf(await filesOf(calm.id)));
  });
});
