import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { newRun, type Run, withList } from '@plain-relief/core/runs';
import { TestServer } from '../../testing/server.js';

interface Kept {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly document: Run;
}
interface Refusal {
  readonly code: string;
  readonly message: string;
}

const NOWHERE = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
let job: { id: string };
let sign: { id: string };

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());
beforeEach(async () => {
  const wanted = { customer: 'Fernhollow Arboretum', title: 'Tree labels', dueOn: null, quantity: 120, unit: 'mm' };
  job = (await server.call<typeof job>('POST', '/api/jobs', wanted)).body;
  sign = (await server.call<typeof sign>('POST', `/api/jobs/${job.id}/signs`, { title: 'Label' })).body;
});

const labels = (count = 2): Run =>
  withList(newRun(sign.id), { columns: ['no', 'name'], rows: Array.from({ length: count }, (_, i) => [String(i), `Rowan ${i}`]) }).run; // prettier-ignore
const create = (document: unknown, title = 'Spring') =>
  server.call<Kept & Refusal>('POST', `/api/jobs/${job.id}/runs`, { title, document });

describe('runs of a job', () => {
  it('are kept, listed without their rows, changed and removed', async () => {
    const { status, body } = await create(labels());
    expect([status, body.revision, body.document]).toEqual([201, 1, labels()]);
    const listed = await server.call<{ runs: unknown[] }>('GET', `/api/jobs/${job.id}/runs`);
    expect(listed.body.runs).toEqual([{ id: body.id, title: 'Spring', sign: sign.id, rows: 2, savedAt: expect.any(String) }]);
    const saved = await server.call<Kept>('PUT', `/api/runs/${body.id}`, { base: 1, title: 'Autumn', document: labels(3) });
    expect([saved.status, saved.body.revision]).toEqual([200, 2]);
    const read = await server.call<Kept>('GET', `/api/runs/${body.id}`);
    expect([read.body.title, read.body.document.rows.length]).toEqual(['Autumn', 3]);
    expect((await server.call('DELETE', `/api/runs/${body.id}`)).status).toBe(204);
    expect((await server.call<Refusal>('GET', `/api/runs/${body.id}`)).body.code).toBe('NOT_FOUND');
  });

  it('keep what is otherwise on one plate alone', async () => {
    const run = labels();
    const sets = { kind: 'length', part: 'name', of: 'height', least: 1, most: 9 } as const;
    const corrected: Run = { ...run, rows: run.rows.map((row, i) => (i === 0 ? { ...row, corrections: [{ sets, value: '4 mm' }] } : row)) }; // prettier-ignore
    const { status, body } = await create(corrected);
    expect([status, body.document]).toEqual([201, corrected]);
  });

  it('of two who change one at once the second is told', async () => {
    const { body } = await create(labels());
    const save = (title: string) => server.call<Refusal>('PUT', `/api/runs/${body.id}`, { base: 1, title, document: labels() });
    const answers = await Promise.all([save('One'), save('Two')]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(answers.find(({ status }) => status === 409)!.body).toMatchObject({ code: 'STALE_RUN', revision: 2, base: 1 });
  });

  it('are refused with the field where they cannot be', async () => {
    const run = labels();
    const cases: [unknown, string][] = [
      [{ ...run, sign: NOWHERE }, 'document.sign: The job has no sign'],
      [{ ...run, columns: ['no'] }, 'document.rows.0.values: There are 2, and 1 columns'],
      [{ ...run, columns: ['no', 'no'] }, 'document.columns: Two have the same name'],
      [{ ...run, rows: [{ id: 1, values: ['a\0', 'b'] }] }, 'document.rows[0].values[0]: has the character NUL'],
      [{ ...run, rows: [{ id: 1, values: ['a', '\ud800'] }] }, 'document.rows[0].values[1]: has half of a character in it'],
      [{ ...run, rows: [{ id: 0, values: ['a', 'b'] }] }, 'document.rows.0.id'],
      [{ ...run, sheet: { ...run.sheet, width: 1e9 } }, 'document.sheet.width'],
      [{ ...run, extra: 1 }, 'document.extra'],
      [{ ...run, columns: Array.from({ length: 201 }, (_, i) => `c${i}`) }, 'document.columns'],
      [{ ...run, rows: [{ id: 1, values: ['a', 'b'], corrections: [{ sets: { kind: 'weight' }, value: '1' }] }] }, 'kind'],
      [
        { ...run, rows: [{ id: 1, values: ['a', 'b'], corrections: [{ sets: { kind: 'option' }, value: '' }] }] },
        'document.rows.0.corrections.0.value',
      ],
      [null, 'document'],
    ];
    for (const [document, message] of cases) {
      const { status, body } = await create(document);
      expect([status, body.code, body.message.includes(message) ? message : body.message]).toEqual([400, 'BAD_REQUEST', message]);
    }
  });

  it('have as many rows as a list may have, and no more than twenty are kept', async () => {
    const { status, body } = await create(labels(20_000));
    expect([status, body.document?.rows.length]).toEqual([201, 20_000]);
    expect((await create(labels(20_001))).body.message).toContain('document.rows');
    for (let i = 1; i < 20; i++) await create(labels());
    expect((await create(labels())).body.code).toBe('TOO_MANY_RUNS');
  });
});
