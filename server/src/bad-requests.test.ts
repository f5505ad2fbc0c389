import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newSign } from '@plain-relief/core/sign';
import type { Fault } from './platform/errors.js';
import { TestServer } from './testing/server.js';

let server: TestServer;
let job: string;
let sign: string;

beforeAll(async () => {
  server = await TestServer.start();
  const wanted = { customer: 'Fernhollow Arboretum', title: 'Gate', dueOn: null, quantity: 1, unit: 'mm' };
  job = (await server.call<{ id: string }>('POST', '/api/jobs', wanted)).body.id;
  sign = (await server.call<{ id: string }>('POST', `/api/jobs/${job}/signs`, { title: 'West gate' })).body.id;
});
afterAll(() => server?.stop());

interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly faults?: readonly Fault[];
}

const save = (document: unknown, base: unknown = 1) => server.call<Refusal>('PUT', `/api/signs/${sign}`, { base, document });

describe('requests that are refused', () => {
  it('are answered in short and before anybody waits, however many faults they have', async () => {
    const unknown = Object.fromEntries(Array.from({ length: 20_000 }, (_, i) => [`field${i}`, i]));
    for (const document of [
      { ...newSign('Many', 'mm'), ...unknown },
      { ...newSign('Many', 'mm'), parts: Array.from({ length: 500 }, () => ({ kind: 'text', ...unknownFew })) },
      { ...newSign('Many', 'mm'), blank: Array.from({ length: 100_000 }, () => 0) },
    ]) {
      const began = performance.now();
      const { status, body } = await save(document);
      // A hundredth of this alone on a machine: it is only passed by work that grows with the square of the faults.
      expect(performance.now() - began).toBeLessThan(30_000);
      expect([status, body.code]).toEqual([400, 'BAD_REQUEST']);
      expect(body.faults!.length).toBeGreaterThan(0);
      expect(body.faults!.length).toBeLessThanOrEqual(20);
      expect(JSON.stringify(body).length).toBeLessThan(8000);
    }
  });

  const unknownFew = Object.fromEntries(Array.from({ length: 50 }, (_, i) => [`field${i}`, i]));

  it.each([
    ['arrays nested 50,000 deep', `${'['.repeat(50_000)}${']'.repeat(50_000)}`, /nested more than 40 deep/u],
    ['NUL in a title', JSON.stringify({ ...newSign('T', 'mm'), title: 'a\0b' }), /document.title: has the character NUL/u],
    ['half a character', '{"version":2,"title":"\\ud800"}', /document.title: has half of a character/u],
    ['NUL in the name of a field', '{"a\\u0000":1}', /name of a field has the character NUL/u],
  ])('%s', async (_, document, sentence) => {
    const payload = `{"base":1,"document":${document}}`;
    const headers = { 'content-type': 'application/json' };
    const answer = await server.inject({ method: 'PUT', url: `/api/signs/${sign}`, payload, headers });
    expect(answer.statusCode).toBe(400);
    expect(answer.json<Refusal>().message).toMatch(sentence);
  });

  it('numbers and days that the database does not have', async () => {
    for (const base of [2 ** 31, 2 ** 53, 1e300, -1, 0.5, '1', null]) {
      const { status, body } = await save(newSign('T', 'mm'), base);
      expect([status, body.code]).toEqual([400, 'BAD_REQUEST']);
    }
    for (const dueOn of ['0000-01-01', '1066-10-14', '2026-02-30', '9999-99-99', '']) {
      const { status, body } = await server.call<Refusal>('PATCH', `/api/jobs/${job}`, { dueOn });
      expect([status, body.code]).toEqual([400, 'BAD_REQUEST']);
    }
  });

  it('texts that no database keeps, in every field of a job', async () => {
    for (const field of ['customer', 'title']) {
      const wanted = { customer: 'C', title: 'T', dueOn: null, quantity: 1, unit: 'mm', [field]: 'a\0b' };
      const { status, body } = await server.call<Refusal>('POST', '/api/jobs', wanted);
      expect([status, body.faults?.[0].path]).toEqual([400, field]);
    }
  });

  it('bodies that are larger than their address needs, by the size that is allowed', async () => {
    const long = 'x'.repeat(300_000);
    const answer = await server.call<Refusal>('PATCH', `/api/jobs/${job}`, { title: long });
    expect([answer.status, answer.body.message]).toEqual([413, 'The request is larger than the 256 kB that are taken here.']);
    const document = { ...newSign('T', 'mm'), title: 'x'.repeat(5_000_000) };
    expect((await save(document)).body.message).toContain('4 MB');
    // Nobody who is not signed in gets this far.
    expect((await server.call('PATCH', `/api/jobs/${job}`, { title: long }, '')).status).toBe(401);
  });
});
