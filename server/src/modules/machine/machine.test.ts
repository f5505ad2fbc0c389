import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { MachineView } from '@plain-relief/api';
import type { PlanOutcome } from '@plain-relief/core/making';
import { Controller } from '../../../../machine/src/controller.js';
import { listen } from '../../../../machine/src/listen.js';
import { waitingTask } from '../../platform/database/models/tasks.js';
import { OWNER, TestServer } from '../../testing/server.js';
import { loadDemo } from '../demo/load.js';
import { shopLibrary } from '../shop/library.js';
import { zeroOn } from './service.js';

const PROGRAM = 'G21 G90\nT1 M6\nM3 S9000\nG0 X5 Y5 Z5\nG1 Z-1 F600\nG1 X75 F1200\nG1 Y45\nG0 Z5\nM30\n';
const STOCK = { box: { minX: -40, minY: -25, maxX: 40, maxY: 25 }, top: 2, bottom: -10 };
const ZERO = { x: -40, y: -25, z: 2 };

let server: TestServer;
let machine: Awaited<ReturnType<typeof listen>>;
let plan: string;
let other: string;

/** The machine on a port, as it comes up: nothing is in it. */
async function started(port = 0): Promise<number> {
  machine = await listen(new Controller(), port);
  return (machine.server.address() as AddressInfo).port;
}

beforeAll(async () => {
  const machinePort = await started();
  server = await TestServer.start({ machinePort });
  await loadDemo(server.db, server.settings);
  await server.call('POST', '/api/people', {
    name: 'Piet Maker',
    email: 'piet@example.org',
    role: 'maker',
    password: 'another long one',
  });
  const signedIn = await server.inject({
    method: 'POST',
    url: '/api/session',
    payload: { email: 'piet@example.org', password: 'another long one' },
  });
  other = String(signedIn.headers['set-cookie']).split(';')[0];
  plan = await releasedPlan();
});

afterAll(async () => {
  await server?.stop();
  machine?.close();
});

/** A plan whose programs were let out. */
async function releasedPlan(): Promise<string> {
  const sign = (await server.db.SignRow.findOne({ where: { title: 'Keyring plate' } }))!;
  const { library } = await shopLibrary(server.db);
  const task = await waitingTask(server.db, { signId: sign.id, proofId: null, revision: 1, kind: 'cuts', option: null });
  const outcome = { stock: STOCK, zero: ZERO, files: [{ name: '01-end-6.ngc' }] } as unknown as PlanOutcome;
  const row = await server.db.PlanRow.create({
    id: randomUUID(),
    signId: sign.id,
    revision: 1,
    taskId: task.id,
    order: { side: 'front', machine: 'long-bed', material: 'oak', tools: ['end-6'] },
    madeWith: { machine: library.machines[0], material: library.materials[0], tools: library.tools, rates: library.rates },
    askedBy: OWNER,
    askedAt: new Date(),
    outcome,
    programs: [{ name: '01-end-6.ngc', text: PROGRAM }],
    picture: Buffer.of(1),
    sheet: Buffer.of(1),
    released: { by: OWNER, at: new Date().toISOString(), reason: null },
  });
  return row.id;
}

const see = async (): Promise<MachineView> => (await server.call<MachineView>('GET', '/api/machine')).body;
const tell = (command: string, value?: number, cookie?: string) =>
  server.call<MachineView & { message: string }>(
    'POST',
    '/api/machine/commands',
    { command, ...(value !== undefined && { value }) },
    cookie,
  );
const send = (cookie?: string, more: object = {}) =>
  server.call<MachineView & { code: string; message: string }>(
    'POST',
    '/api/machine/programs',
    { plan, file: 0, ...more },
    cookie,
  );

async function until(what: (view: MachineView) => boolean): Promise<MachineView> {
  for (let tries = 0; tries < 800; tries++) {
    const view = await see();
    if (what(view)) return view;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`It did not come to that: ${JSON.stringify(await see())}`);
}

describe('the machine of the shop', () => {
  it('has the stock in its middle, and reaches a little below it', async () => {
    const { library } = await shopLibrary(server.db);
    const [router] = library.machines;
    const at = zeroOn(router, { stock: STOCK, zero: ZERO });
    // The lower left of the stock is the program's zero; 80 × 50 lies in the middle.
    expect([at.x, at.y]).toEqual([(router.area.width - 80) / 2, (router.area.height - 50) / 2]);
    // The underside, 12 below the program's zero, is 6 mm above the lowest.
    expect(at.z - 12).toBe(-router.travel + 6);
  });

  it('takes a program, waits for what a person does, and is done', async () => {
    const sent = await send();
    expect([sent.status, sent.body.run]).toEqual([
      200,
      expect.objectContaining({ name: '01-end-6.ngc', title: 'Keyring plate', sentBy: OWNER, end: null }),
    ]);
    await tell('faster', 100);
    expect((await tell('run')).body.report?.state).toBe('running');
    const view = await until(({ run }) => run?.end === 'done');
    expect([view.report?.state, view.report?.job?.isDone]).toEqual(['idle', true]);
    const history = (await server.db.JobEvent.findAll({ order: [['at', 'ASC']] })).map(({ text }) => text);
    for (const words of ['sent to the machine', 'begun', 'done'])
      expect(history).toContain(`01-end-6.ngc of “Keyring plate” ${words}`);
  });

  it('is not taken from under somebody’s hands', async () => {
    await send();
    const taken = await send(other);
    expect([taken.status, taken.body.code]).toEqual([409, 'MACHINE_TAKEN']);
    expect(taken.body.message).toContain(OWNER);
    await tell('faster', 1);
    await tell('run');
    const busy = await send(other, { instead: true });
    expect([busy.status, busy.body.code]).toEqual([409, 'MACHINE_REFUSED']);
    expect(busy.body.message).toMatch(/waits until nothing runs: the machine is running/u);
    expect((await tell('hold', undefined, other)).status).toBe(200);
    await until(({ report }) => report?.state === 'held');
    expect((await tell('stop')).body.run?.end).toBe('stopped');
    const [one, two] = await Promise.all([send(), send(other, { instead: true })]);
    expect([one.status, two.status].filter((status) => status === 200).length).toBeGreaterThan(0);
  });

  it('that dies in the middle is told of, and goes on from the line', async () => {
    await send(undefined, { instead: true });
    await tell('faster', 1);
    await tell('run');
    const running = await until(({ report, run }) => (report?.job?.line ?? 0) >= 6 && (run?.line ?? 0) >= 6);
    const { port } = machine.server.address() as AddressInfo;
    machine.close();
    const away = await until(({ trouble }) => trouble !== '');
    expect(away.trouble).toMatch(/does not answer/u);
    expect(away.run?.id).toBe(running.run?.id);
    expect((await tell('hold')).status).toBe(503);
    await started(port);
    const back = await until(({ report }) => report !== undefined);
    expect(back.run).toMatchObject({ id: running.run!.id, end: 'lost' });
    expect(back.run!.line).toBeGreaterThanOrEqual(6);
    expect((await send()).body.run?.line).toBe(back.run!.line);
    await tell('faster', 100);
    expect((await tell('run', back.run!.line)).status).toBe(200);
    const done = await until(({ run }) => run?.end === 'done');
    expect(done.report!.place).toMatchObject({ x: 75, y: 45 });
  });

  it('says what it would not do, in its own sentence', async () => {
    expect((await tell('go')).body.message).toMatch(/not held/u);
    expect((await tell('feed', 900)).body.message).toMatch(/10 to 200/u);
    expect((await tell('dance')).status).toBe(400);
    const gone = await server.call<{ code: string }>('POST', '/api/machine/programs', { plan: randomUUID(), file: 0 });
    expect(gone.status).toBe(404);
    await server.db.PlanRow.update({ released: null }, { where: { id: plan } });
    expect((await send()).body.code).toBe('NOT_RELEASED');
  });
});
