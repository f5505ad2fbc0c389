import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Binned, Job } from '@plain-relief/api';
import { newSign, newText } from '@plain-relief/core/sign';
import { TestServer } from '../../testing/server.js';
import { Bin } from './bin.js';

interface Refusal {
  readonly code: string;
  readonly message: string;
}
const DAY_MS = 24 * 60 * 60 * 1000;

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const board = async () => (await server.call<{ jobs: Job[] }>('GET', '/api/jobs')).body.jobs;
const binned = async () => (await server.call<{ days: number; things: Binned[] }>('GET', '/api/bin')).body.things;
const makeJob = async (title: string) => {
  const asked = { customer: 'Fernhollow Arboretum', title, dueOn: null, quantity: 1, unit: 'mm' };
  return (await server.call<Job>('POST', '/api/jobs', asked)).body;
};
const makeSign = async (job: string, title: string, words = 'OAK') => {
  const document = newSign(title, 'mm');
  document.parts.push({ ...newText(document, 'barlow-semibold'), words });
  return (await server.call<{ id: string }>('POST', `/api/jobs/${job}/signs`, { title, document })).body.id;
};

describe('the bin', () => {
  it('has a sign that was removed, as it was, until it is taken back', async () => {
    const job = await makeJob('Labels');
    const [gone, kept] = [await makeSign(job.id, 'Oak', 'Quercus “robur”\nH\\0231'), await makeSign(job.id, 'Elm')];
    const before = await server.call<object>('GET', `/api/signs/${gone}`);
    expect((await server.call('DELETE', `/api/signs/${gone}`)).status).toBe(204);
    expect((await server.call('GET', `/api/signs/${gone}`)).status).toBe(404);
    const answer = await server.call<Refusal>('PUT', `/api/signs/${gone}`, { base: 1, document: newSign('Oak', 'mm') });
    expect(answer.status).toBe(404);
    expect((await board())[0].signs.map(({ id }) => id)).toEqual([kept]);
    expect(await binned()).toMatchObject([{ id: gone, what: 'sign', title: 'Oak', job: `${job.number} Labels`, signs: 0 }]);
    expect((await server.call('POST', `/api/bin/signs/${gone}/return`)).status).toBe(204);
    expect((await server.call<object>('GET', `/api/signs/${gone}`)).body).toEqual(before.body);
    expect(await binned()).toEqual([]);
    // The board has its words, to be searched.
    const [{ signs }] = await board();
    expect(signs.find(({ id }) => id === gone)?.words).toBe('Quercus “robur”\nH\\0231');
    const again = await server.call<Refusal>('POST', `/api/bin/signs/${gone}/return`);
    expect([again.status, again.body.message]).toEqual([404, expect.stringContaining('sign in the bin')]);
  });

  it('has a job with the signs that went with it, and keeps its number', async () => {
    const job = await makeJob('Gates');
    const [first, second] = [await makeSign(job.id, 'West gate'), await makeSign(job.id, 'East gate')];
    await server.call('DELETE', `/api/signs/${second}`);
    expect((await server.call('DELETE', `/api/jobs/${job.id}`)).status).toBe(204);
    expect((await board()).map(({ id }) => id)).not.toContain(job.id);
    expect((await server.call('GET', `/api/jobs/${job.id}`)).status).toBe(404);
    expect((await server.call('GET', `/api/jobs/${job.id}/proofs`)).status).toBe(404);
    expect((await binned()).filter(({ id }) => id === job.id)).toMatchObject([{ what: 'job', title: 'Gates', signs: 1 }]);
    // A sign whose job lies there has nowhere to go.
    const early = await server.call<Refusal>('POST', `/api/bin/signs/${second}/return`);
    expect([early.status, early.body.code]).toEqual([409, 'JOB_IS_REMOVED']);
    const other = await makeJob('Bridges');
    expect(other.number).not.toBe(job.number);
    const back = await server.call<Job>('POST', `/api/bin/jobs/${job.id}/return`);
    expect([back.status, back.body.number, back.body.signs.map(({ id }) => id)]).toEqual([200, job.number, [first]]);
    expect((await server.call('POST', `/api/bin/signs/${second}/return`)).status).toBe(204);
    expect((await server.call<Job>('GET', `/api/jobs/${job.id}`)).body.signs).toHaveLength(2);
    expect((await server.call('POST', '/api/bin/jobs/none/return')).status).toBe(404);
  });

  it('is emptied of what has lain there for 30 days, and of nothing else', async () => {
    const job = await makeJob('Stones');
    const [old, fresh] = [await makeSign(job.id, 'Old'), await makeSign(job.id, 'Fresh')];
    for (const id of [old, fresh]) await server.call('DELETE', `/api/signs/${id}`);
    const now = new Date();
    await server.db.SignRow.update(
      { removedAt: new Date(now.getTime() - 30 * DAY_MS - 1000) },
      { where: { id: old }, paranoid: false },
    );
    await new Bin(server.db).empty(now);
    expect((await binned()).map(({ id }) => id)).toEqual([fresh]);
    expect(await server.db.RevisionRow.count({ where: { signId: old } })).toBe(0);
    await new Bin(server.db).empty(new Date(now.getTime() + 31 * DAY_MS));
    expect(await binned()).toEqual([]);
    expect((await board()).map(({ id }) => id)).toContain(job.id);
  });

  it('shows a customer nothing of a job that lies there, and all of it again once it is back', async () => {
    const job = await makeJob('Panels');
    const sign = await makeSign(job.id, 'Map room');
    const proof = { signs: [sign], recipient: 'ines@fernhollow.example.org', message: '', days: 30 };
    const sent = await server.call<{ id: string }>('POST', `/api/jobs/${job.id}/proofs`, proof);
    expect(sent.status).toBe(201);
    const { token } = (await server.db.Proof.findByPk(sent.body.id))!;
    const seen = async () => (await server.inject({ method: 'GET', url: `/api/proof-links/${token}` })).statusCode;
    expect(await seen()).toBe(200);
    await server.call('DELETE', `/api/jobs/${job.id}`);
    expect(await seen()).toBe(404);
    await server.call('POST', `/api/bin/jobs/${job.id}/return`);
    expect(await seen()).toBe(200);
  });
});
