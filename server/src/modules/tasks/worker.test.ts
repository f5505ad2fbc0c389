import { spawnSync } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newSign, newText, spellingOf } from '@plain-relief/core/sign';
import type PgBoss from 'pg-boss';
import { unzipSync } from 'fflate';
import { loadDemo } from '../demo/load.js';
import { TestServer } from '../../testing/server.js';
import type { Task } from '../../platform/database/models/tasks.js';
import { openQueue, QUEUE } from '../../platform/queue/queue.js';
import { Worker } from './worker.js';

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
  signId = (await server.db.SignRow.findOne({ where: { title: 'Bilge pump plate' } }))!.id;
});

afterAll(async () => {
  worker?.stop();
  await boss?.stop({ graceful: false });
  await worker?.close();
  await server?.stop();
});

/** Whoever takes it on themselves that this is not approved. */
const override = 'A test';

async function ask(kind: string): Promise<string> {
  const { body } = await server.call<{ id: string }>('POST', `/api/signs/${signId}/tasks`, { kind, override });
  return body.id;
}

async function ended(id: string): Promise<Task> {
  for (let tries = 0; tries < 1400; tries++) {
    const task = (await server.db.Task.findByPk(id))!;
    if (task.state !== 'waiting' && task.state !== 'running') return task;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('The task did not end.');
}

describe('the worker', () => {
  it('makes every file from the queue, with its name and type', async () => {
    const id = await ask('package');
    await boss.send(QUEUE, { taskId: id });
    const task = await ended(id);
    expect([task.state, task.progress, task.fileType]).toEqual(['done', 1, 'application/zip']);
    const names = Object.keys(unzipSync(new Uint8Array(task.file!)));
    expect(names).toEqual([
      'OP-0101-Bilge-pump-plate-r1.stl',
      'OP-0101-Bilge-pump-plate-r1.3mf',
      'OP-0101-Bilge-pump-plate-r1.svg',
      'OP-0101-Bilge-pump-plate-r1.dxf',
      'OP-0101-Bilge-pump-plate-r1-proof.pdf',
      'OP-0101-Bilge-pump-plate.sign.json',
    ]);
    const answer = await server.inject({ url: `/api/tasks/${id}/file` });
    expect(answer.headers['content-disposition']).toContain('OP-0101-Bilge-pump-plate-r1.zip');
    expect(answer.rawPayload.equals(task.file!)).toBe(true);
  });

  it.each([
    ['3mf', 'model/3mf', 'PK'],
    ['glb', 'model/gltf-binary', 'glTF'],
    ['pieces', 'application/zip', 'PK'],
  ])('makes %s as %s', async (kind, type, magic) => {
    const id = await ask(kind);
    await boss.send(QUEUE, { taskId: id });
    const task = await ended(id);
    expect([task.state, task.fileType]).toEqual(['done', type]);
    expect(task.file!.subarray(0, magic.length).toString('latin1')).toBe(magic);
  });

  it('makes files of an option, and says so in their names; refuses options that are not there', async () => {
    const row = (await server.db.SignRow.findByPk(signId))!;
    const document = structuredClone(row.document);
    document.options = [{ id: 'option-1', name: 'Brass screws', tiers: [] }];
    const saved = await server.call<{ revision: number }>('PUT', `/api/signs/${signId}`, { base: row.revision, document });
    expect(saved.status).toBe(200);
    const asked = await server.call<{ id: string; option: string }>('POST', `/api/signs/${signId}/tasks`, { kind: 'svg', option: 'option-1', override }); // prettier-ignore
    expect([asked.status, asked.body.option]).toEqual([202, 'option-1']);
    await boss.send(QUEUE, { taskId: asked.body.id });
    const task = await ended(asked.body.id);
    expect([task.state, task.fileName]).toEqual(['done', `OP-0101-Bilge-pump-plate-Brass-screws-r${saved.body.revision}.svg`]);
    const refused = await server.call<{ message: string }>('POST', `/api/signs/${signId}/tasks`, { kind: 'svg', option: 'gone' });
    expect([refused.status, refused.body.message]).toEqual([404, expect.stringContaining('There is no option “gone”')]);
  });

  it('makes a sheet by the layout that was asked for, and refuses one that is none', async () => {
    const layout = { paper: 'Tabloid', isUpright: true, isInBothUnits: true, shows: ['ticket'] };
    const order = (what: object) => server.call<{ id: string; message: string }>('POST', `/api/signs/${signId}/tasks`, { kind: 'proof', layout: what }); // prettier-ignore
    const asked = await order(layout);
    await boss.send(QUEUE, { taskId: asked.body.id });
    const task = await ended(asked.body.id);
    expect(task.state).toBe('done');
    // ANSI/ASME Y14.1: 11 × 17 in.
    const info = spawnSync('pdfinfo', ['-'], { input: task.file!, encoding: 'utf8' }).stdout;
    expect(info).toMatch(/Page size:\s+792(?:\.0\d*)? x 1224/u);
    const refused = await order({ ...layout, paper: 'A0' });
    expect([refused.status, refused.body.message]).toEqual([400, expect.stringContaining('paper')]);
  });

  it('makes a task once, however often it is handed out', async () => {
    const id = await ask('stl');
    await Promise.all([1, 2, 3].map(() => boss.send(QUEUE, { taskId: id })));
    const task = await ended(id);
    expect(task.state).toBe('done');
    const finished = task.finishedAt!.getTime();
    await new Promise((done) => setTimeout(done, 1500));
    expect((await server.db.Task.findByPk(id))!.finishedAt!.getTime()).toBe(finished);
  });

  it('stops at the next step when asked to', async () => {
    const id = await ask('proof');
    await server.db.Task.update({ cancelAsked: true }, { where: { id } });
    await boss.send(QUEUE, { taskId: id });
    expect((await ended(id)).state).toBe('cancelled');
  });

  it('gives up what has ended its worker five times, and says so', async () => {
    const id = await ask('svg');
    await server.db.Task.update({ state: 'running', tries: 5, beatAt: new Date(Date.now() - 60_000) }, { where: { id } });
    const task = await ended(id);
    expect([task.state, task.file]).toEqual(['failed', null]);
    expect(task.error).toContain('begun 5 times');
  });

  it('takes up what a killed worker left behind', async () => {
    const id = await ask('svg');
    await server.db.Task.update({ state: 'running', beatAt: new Date(Date.now() - 60_000) }, { where: { id } });
    expect((await ended(id)).state).toBe('done');
  });

  it('says why a file could not be made', async () => {
    const id = await ask('stl');
    await server.db.Task.update({ revision: 99 }, { where: { id } });
    await boss.send(QUEUE, { taskId: id });
    const task = await ended(id);
    expect([task.state, task.error]).toEqual(['failed', 'The sign was removed before its file was made.']);
  });

  it('makes the sheet of a frozen proof, and the same with the stamp once it is approved', async () => {
    const { jobId } = (await server.db.SignRow.findByPk(signId))!;
    const document = { ...newSign('Small plate', 'mm'), finishes: [] };
    const line = { ...newText(document, 'barlow-semibold'), words: 'Ida & Marit\nWillmott' };
    await server.call('POST', `/api/jobs/${jobId}/signs`, { title: 'Small plate', document: { ...document, parts: [line] } });
    const signs = await server.db.SignRow.findAll({ where: { jobId, title: 'Small plate' } });
    const wanted = {
      signs: signs.map(({ id }) => id),
      recipient: 'works@ospreypoint.example.org',
      message: 'Have a look.',
      days: 9,
    };
    const { body: proof } = await server.call<{ id: string; digest: string; address: string }>('POST', `/api/jobs/${jobId}/proofs`, wanted); // prettier-ignore
    const sheet = await sheetOf(proof.id, 'sheet');
    expect(sheet.task.fileName).toBe('OP-0101-Control-panel-plates-proof-A.pdf');
    for (const { document } of signs)
      for (const line of spellingOf(document, [])) expect(sheet.text).toContain(line.replace(/\s+/gu, ' ').trim());
    for (const words of ['Spelling: please read every word', 'Have a look.', 'Quantity: 36', proof.digest.slice(0, 16)])
      expect(sheet.text).toContain(words);
    expect(sheet.text).not.toContain('Proof A approved');
    const token = proof.address.split('/').at(-1);
    const choices = Object.fromEntries(
      signs.flatMap(({ id, document }) => (document.options ? [[id, document.options[0].id]] : [])),
    );
    const ticks = { spelling: true, sizes: true, colours: true };
    const answer = { name: 'Captain Ida Brandt', ticks, choices, digest: proof.digest };
    expect((await server.call('POST', `/api/proof-links/${token}/approval`, answer)).status).toBe(200);
    const stamped = await sheetOf(proof.id, 'stamped sheet');
    expect(stamped.task.fileName).toBe('OP-0101-Control-panel-plates-proof-A-approved.pdf');
    expect(stamped.text).toContain('Proof A approved by Captain Ida Brandt');
    const file = await server.inject({ url: `/api/proof-links/${token}/sheet.pdf` });
    expect(file.rawPayload.equals(stamped.task.file!)).toBe(true);
  });

  it('stops a file that would take minutes at once, and makes others meanwhile', async () => {
    const heavy = newSign('Takes minutes', 'mm');
    heavy.blank.outline = { kind: 'circle', diameter: 400 };
    const part = { ...newText(heavy, 'barlow-bold'), words: Array.from({ length: 60 }, () => 'MARSH TIT & 24 OAKS').join('\n') };
    part.size = { kind: 'em', size: 12, stretch: 100 };
    const area = { kind: 'offset', by: 2 } as const;
    const edge = { kind: 'rounded', radius: 60 } as const;
    part.tiers = [{ id: 'wide', on: true, area, action: { kind: 'raise', by: 60 }, edge }];
    heavy.parts.push(part);
    const { jobId } = (await server.db.SignRow.findByPk(signId))!;
    const made = { title: 'Takes minutes', document: heavy };
    const { body: sign } = await server.call<{ id: string }>('POST', `/api/jobs/${jobId}/signs`, made);
    const { body: slow } = await server.call<{ id: string }>('POST', `/api/signs/${sign.id}/tasks`, { kind: 'stl', override });
    await boss.send(QUEUE, { taskId: slow.id });
    const quick = await ask('svg');
    await boss.send(QUEUE, { taskId: quick });
    expect((await ended(quick)).state).toBe('done');
    expect((await server.db.Task.findByPk(slow.id))!.state).toBe('running');
    const began = performance.now();
    await server.call('POST', `/api/tasks/${slow.id}/cancel`);
    expect((await ended(slow.id)).state).toBe('cancelled');
    // It looks twice a second; the rest is the machine's.
    expect(performance.now() - began).toBeLessThan(20_000);
  });
});

/** A sheet of a proof, when it is done, with the text that poppler-utils finds in it. */
async function sheetOf(proofId: string, kind: string): Promise<{ task: Task; text: string }> {
  const { id } = (await server.db.Task.findOne({ where: { proofId, kind } }))!;
  await boss.send(QUEUE, { taskId: id });
  const task = await ended(id);
  expect([task.state, task.error]).toEqual(['done', null]);
  const { stdout } = spawnSync('pdftotext', ['-', '-'], { input: task.file!, encoding: 'utf8' });
  return { task, text: stdout.replace(/\s+/gu, ' ') };
}
