import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { KeptPlan, PlanPrograms, ShopLibrary } from '@plain-relief/api';
import { newSign, newShape, setField, type Sign } from '@plain-relief/core/sign';
import { unzipSync } from 'fflate';
import type PgBoss from 'pg-boss';
import { openQueue } from '../../platform/queue/queue.js';
import { OWNER, TestServer } from '../../testing/server.js';
import { loadDemo } from '../demo/load.js';
import { Worker } from '../tasks/worker.js';

let server: TestServer;
let boss: PgBoss;
let worker: Worker;
let signId: string;

beforeAll(async () => {
  server = await TestServer.start();
  await loadDemo(server.db, server.settings);
  boss = await openQueue(server.settings.databaseUrl);
  worker = new Worker(server.db, boss, server.settings.fontsDir);
  await worker.start();
  const { body } = await server.call<{ jobs: { id: string }[] }>('GET', '/api/jobs');
  signId = await plate(body.jobs[0].id);
});

afterAll(async () => {
  worker?.stop();
  await boss?.stop({ graceful: false });
  await worker?.close();
  await server?.stop();
});

/** A plate with a hole, quickly planned. */
async function plate(job: string): Promise<string> {
  const document = newSign('Depth plate', 'mm');
  const hole = newShape(document, 'circle');
  const blank = {
    ...document.blank,
    outline: { kind: 'rectangle', width: 80, height: 50, cornerRadius: 0 },
    thickness: 12,
    material: 'oak',
  };
  const { status, body } = await server.call<{ id: string }>('POST', `/api/jobs/${job}/signs`, {
    title: 'Depth plate',
    document: { ...document, blank, parts: [hole] },
  });
  expect([status, body]).toEqual([201, expect.objectContaining({ id: expect.any(String) })]);
  return body.id;
}

const ORDER = { side: 'front', machine: 'long-bed', material: 'oak', tools: ['end-6', 'end-3'], cell: 0.2 };

async function ask(order: unknown = ORDER): Promise<KeptPlan> {
  const { status, body } = await server.call<KeptPlan>('POST', `/api/signs/${signId}/plans`, order);
  expect([status, body]).toEqual([202, expect.objectContaining({ state: 'waiting', outcome: null })]);
  await boss.send('sign-cuts', { taskId: body.taskId });
  return body;
}

async function laid(order?: unknown): Promise<KeptPlan> {
  const { id } = await ask(order);
  for (let tries = 0; tries < 600; tries++) {
    const { body } = await server.call<KeptPlan>('GET', `/api/plans/${id}`);
    if (body.state !== 'waiting' && body.state !== 'running') return body;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('The plan was not laid.');
}

/** Does something with another sign than the plate. */
async function withSign(document: Sign, then: () => Promise<void>): Promise<void> {
  const { body: jobs } = await server.call<{ jobs: { id: string }[] }>('GET', '/api/jobs');
  const { title } = document;
  const { body } = await server.call<{ id: string }>('POST', `/api/jobs/${jobs.jobs[0].id}/signs`, { title, document });
  const before = signId;
  signId = body.id;
  try {
    await then();
  } finally {
    signId = before;
  }
}

describe('the shop’s lists', () => {
  const library = async () => (await server.call<ShopLibrary>('GET', '/api/shop/library')).body;

  it('are there as the demo has them, and kept by revision', async () => {
    const { revision, library: lists } = await library();
    expect([revision, lists.machines.length > 0, lists.tools.length > 5]).toEqual([1, true, true]);
    const changed = { ...lists, rates: { ...lists.rates, machineHour: 51 } };
    const kept = await server.call<ShopLibrary>('PUT', '/api/shop/library', { base: 1, library: changed });
    expect([kept.status, kept.body.revision, kept.body.library.rates.machineHour]).toEqual([200, 2, 51]);
    // Whoever began from the first is told, and nothing is overwritten.
    const late = await server.call<{ code: string }>('PUT', '/api/shop/library', { base: 1, library: lists });
    expect([late.status, late.body.code]).toEqual([409, 'STALE_LIBRARY']);
    expect((await library()).library.rates.machineHour).toBe(51);
  });

  it('of two who keep them at once take one', async () => {
    const { revision, library: lists } = await library();
    const both = await Promise.all([1, 2].map(() => server.call('PUT', '/api/shop/library', { base: revision, library: lists })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('are refused with field, value and what would be right', async () => {
    const { revision, library: lists } = await library();
    const tools = lists.tools.map((tool, i) => (i === 0 ? { ...tool, flutes: 0 } : tool));
    const { status, body } = await server.call<{ faults: { path: string; message: string }[] }>('PUT', '/api/shop/library', {
      base: revision,
      library: { ...lists, tools },
    });
    expect(status).toBe(400);
    expect(body.faults[0].path).toBe('tools[0].flutes');
    expect(body.faults[0].message).toMatch(/0.*1/u);
    for (const bad of [null, 7, 'lists', [], {}])
      expect((await server.call('PUT', '/api/shop/library', { base: revision, library: bad })).status).toBe(400);
  });
});

describe('plans of cuts', () => {
  it('are laid by the worker, proven, and let out by name', async () => {
    const plan = await laid();
    expect([plan.state, plan.error]).toEqual(['done', null]);
    const { outcome } = plan;
    expect([outcome!.gougeMm, outcome!.isProven, outcome!.cell]).toEqual([0, true, 0.2]);
    expect(outcome!.files.map(({ tool }) => tool.kind)).toEqual(expect.arrayContaining(['end']));
    expect(outcome!.minutes).toBeCloseTo(
      outcome!.files.reduce((sum, { minutes }) => sum + minutes, 0),
      6,
    );
    // What cuts take is what their files take, but for the way between, and the changes of tools.
    const cutting = outcome!.cuts.reduce((sum, { minutes }) => sum + minutes, 0);
    expect(cutting).toBeLessThanOrEqual(outcome!.minutes);
    const picture = await server.inject({ url: `/api/plans/${plan.id}/dry-run.png` });
    expect([...picture.rawPayload.subarray(1, 4)].map((byte) => String.fromCharCode(byte)).join('')).toBe('PNG');
    const sheet = await server.inject({ url: `/api/plans/${plan.id}/sheet.pdf` });
    expect(sheet.rawPayload.subarray(0, 5).toString()).toBe('%PDF-');

    const locked = await server.call<{ code: string }>('GET', `/api/plans/${plan.id}/package.zip`);
    expect([locked.status, locked.body.code]).toEqual([409, 'NOT_RELEASED']);
    const refused = await server.call<{ code: string }>('POST', `/api/plans/${plan.id}/release`, {});
    expect([refused.status, refused.body.code]).toEqual([409, 'NOT_APPROVED']);
    const out = await server.call<KeptPlan>('POST', `/api/plans/${plan.id}/release`, { override: 'A test cut in scrap' });
    expect([out.status, out.body.released]).toEqual([200, { by: OWNER, at: expect.any(String), reason: 'A test cut in scrap' }]);
    const archive = await server.inject({ url: `/api/plans/${plan.id}/package.zip` });
    const files = unzipSync(new Uint8Array(archive.rawPayload));
    const names = outcome!.files.map(({ name }) => name);
    expect(Object.keys(files)).toEqual(['setup-sheet.pdf', ...names, 'plan.json']);
    const hashes = names.map((name) => createHash('sha256').update(files[name]).digest('hex'));
    expect(hashes).toEqual(outcome!.files.map(({ sha256 }) => sha256));
    const one = await server.inject({ url: `/api/plans/${plan.id}/files/${names[0]}` });
    expect(Buffer.from(files[names[0]]).equals(one.rawPayload)).toBe(true);
    const history = await server.db.JobEvent.findAll({ order: [['at', 'ASC']] });
    expect(history.map(({ text }) => text)).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^Cuts of “Depth plate” \(revision 1\) planned: .*nothing wrong/u),
        expect.stringMatching(/let out though not approved: A test cut in scrap$/u),
      ]),
    );
  });

  it('are made again with the very tools of then, byte for byte', async () => {
    const first = await laid();
    const { revision, library } = (await server.call<ShopLibrary>('GET', '/api/shop/library')).body;
    const worn = library.tools.filter(({ id }) => id !== 'end-3');
    await server.call('PUT', '/api/shop/library', { base: revision, library: { ...library, tools: worn } });
    const gone = await server.call<{ code: string; message: string }>('POST', `/api/signs/${signId}/plans`, ORDER);
    expect([gone.status, gone.body.code]).toEqual([422, 'NOT_IN_SHOP']);
    expect(gone.body.message).toContain('“end-3”');
    const { body: again } = await server.call<KeptPlan>('POST', `/api/plans/${first.id}/again`);
    await boss.send('sign-cuts', { taskId: again.taskId });
    for (;;) {
      const { body } = await server.call<KeptPlan>('GET', `/api/plans/${again.id}`);
      if (body.state === 'done') break;
      expect(['waiting', 'running']).toContain(body.state);
      await new Promise((done) => setTimeout(done, 100));
    }
    const programs = async (id: string) => (await server.call<PlanPrograms>('GET', `/api/plans/${id}/programs`)).body;
    expect((await programs(again.id)).programs).toEqual((await programs(first.id)).programs);
    await server.call('PUT', '/api/shop/library', { base: revision + 1, library });
  });

  it.each<[unknown, number, RegExp]>([
    [{ ...ORDER, tools: [] }, 400, /tools/u],
    [{ ...ORDER, machine: 'lathe' }, 422, /“lathe” is none of the shop’s.*long-bed/u],
    [{ ...ORDER, material: 'soap' }, 422, /“soap”/u],
    [{ ...ORDER, choice: { stepover: 3 } }, 400, /choice\.stepover.*0\.5/u],
    [{ ...ORDER, side: 'edge' }, 400, /side/u],
    [{ ...ORDER, option: 'none' }, 404, /option “none”/u],
    [{}, 400, /machine/u],
  ])('%j is refused with a sentence', async (order, status, words) => {
    const answer = await server.call<{ message: string }>('POST', `/api/signs/${signId}/plans`, order);
    expect([answer.status, answer.body.message]).toEqual([status, expect.stringMatching(words)]);
  });

  it('of a block are of one of its faces, which is there before it is cut', async () => {
    const document = newSign('Block', 'mm');
    setField(document, ['support', 'kind'], 'block');
    document.blank.material = 'oak';
    const groove = { ...newShape(document, 'rectangle'), place: { x: 0, y: 0, turn: 0, mirror: false } };
    document.parts = [groove];
    setField(document, ['parts', 0, 'place', 'face'], 'right');
    await withSign(document, async () => {
      const post = async (order: unknown) => server.call<{ message: string }>('POST', `/api/signs/${signId}/plans`, order);
      const none = await post(ORDER);
      expect([none.status, JSON.stringify(none.body)]).toEqual([400, expect.stringContaining('one of front, right, back, left')]);
      expect((await post({ ...ORDER, face: 'lid' })).status).toBe(404);
      const plan = await laid({ ...ORDER, face: 'right' });
      expect([plan.state, plan.error]).toEqual(['done', null]);
      const { stock, cuts } = plan.outcome!;
      // As wide as the block is deep, and no cut goes around it.
      const { depth, height } = (document.support as { body: { depth: number; height: number } }).body;
      expect([stock.box.maxX - stock.box.minX, stock.box.maxY - stock.box.minY]).toEqual([depth, height]);
      expect(cuts.map(({ purpose }) => purpose)).not.toContain('cut out');
    });
  });

  it('turn the work of a post on a machine that does so', async () => {
    const document = newSign('Post', 'mm');
    document.blank = { ...document.blank, outline: { kind: 'rectangle', width: 80, height: 50, cornerRadius: 0 }, thickness: 12, material: 'oak' }; // prettier-ignore
    document.support = { kind: 'cylinder', radius: 60, facing: 'outside' };
    document.parts = [newShape(document, 'circle')];
    await withSign(document, async () => {
      const plan = await laid();
      expect([plan.state, plan.outcome!.isProven]).toEqual(['done', true]);
      const [{ name }] = plan.outcome!.files;
      const programs = await server.call<PlanPrograms>('GET', `/api/plans/${plan.id}/programs`);
      const text = JSON.stringify(programs.body);
      expect([programs.status, name]).toEqual([200, expect.stringMatching(/^01-/u)]);
      expect(text).toContain('A turns the work about Y, X of the plan goes round, the face 60 mm from the axis');
      expect(text).toMatch(/\\n(?:G1 )?A-?[\d.]+ Y/u);
      expect(text).not.toMatch(/\\n(?:G[01] )?X/u);
    });
  });

  it('that cannot be laid say why, and those that nobody wants end', async () => {
    const failed = await laid({ ...ORDER, tools: ['ball-3'] });
    expect([failed.state, failed.error]).toEqual(['failed', expect.stringMatching(/No end mill/u)]);
    const notReady = await server.call<{ code: string }>('GET', `/api/plans/${failed.id}/programs`);
    expect([notReady.status, notReady.body.code]).toEqual([409, 'NOT_READY']);
    const slow = await ask({ ...ORDER, cell: 0.02 });
    await server.call('POST', `/api/tasks/${slow.taskId}/cancel`);
    for (let tries = 0; ; tries++) {
      const { body } = await server.call<KeptPlan>('GET', `/api/plans/${slow.id}`);
      if (body.state === 'cancelled') break;
      expect(['waiting', 'running']).toContain(body.state);
      expect(tries).toBeLessThan(300);
      await new Promise((done) => setTimeout(done, 100));
    }
    expect((await server.call('DELETE', `/api/plans/${slow.id}`)).status).toBe(204);
    expect((await server.call('GET', `/api/plans/${slow.id}`)).status).toBe(404);
    const { body } = await server.call<{ plans: KeptPlan[] }>('GET', `/api/signs/${signId}/plans`);
    expect(body.plans[0].id).toBe(failed.id);
  });
});
