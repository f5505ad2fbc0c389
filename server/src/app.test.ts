import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newSign, type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { freeCode } from './modules/jobs/service.js';
import { digest } from './modules/signs/service.js';
import { TestServer } from './testing/server.js';

interface JobAnswer {
  readonly id: string;
  readonly number: string;
  readonly customer: string;
  readonly state: string;
  readonly signs: { readonly id: string; readonly title: string; readonly revision: number }[];
}
interface SignAnswer {
  readonly id: string;
  readonly revision: number;
  readonly document: Sign;
}
interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly faults?: { readonly path: string; readonly message: string }[];
}

const NOWHERE = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());

const newJob = { customer: 'Fernhollow Arboretum', title: 'Labels', dueOn: '2027-03-01', quantity: 12, unit: 'mm' };

async function makeSign(): Promise<SignAnswer> {
  const { body: job } = await server.call<JobAnswer>('POST', '/api/jobs', newJob);
  return (await server.call<SignAnswer>('POST', `/api/jobs/${job.id}/signs`, { title: 'West gate' })).body;
}

const thicker = (sign: SignAnswer, thickness: number): Sign => ({
  ...sign.document,
  blank: { ...sign.document.blank, thickness },
});

describe('jobs', () => {
  it('are numbered by customer, and customers are made once', async () => {
    const first = await server.call<JobAnswer>('POST', '/api/jobs', { ...newJob, customer: 'Osprey Point Ferry' });
    const second = await server.call<JobAnswer>('POST', '/api/jobs', { ...newJob, customer: 'Osprey Point Ferry', dueOn: null });
    expect(first.status).toBe(201);
    expect([first.body.number, second.body.number]).toEqual(['OP-0101', 'OP-0102']);
    const { body } = await server.call<{ jobs: JobAnswer[]; customers: { name: string }[] }>('GET', '/api/jobs');
    expect(body.customers.filter(({ name }) => name === 'Osprey Point Ferry')).toHaveLength(1);
  });

  it('get numbers of their own when many are made at once', async () => {
    const made = await Promise.all(
      Array.from({ length: 6 }, () =>
        server.call<JobAnswer>('POST', '/api/jobs', { ...newJob, customer: 'Quill Street Library' }),
      ),
    );
    expect(made.map(({ status }) => status)).toEqual(Array(6).fill(201));
    expect(new Set(made.map(({ body }) => body.number)).size).toBe(6);
  });

  it('change and go', async () => {
    const { body: job } = await server.call<JobAnswer>('POST', '/api/jobs', newJob);
    const changed = await server.call<JobAnswer>('PATCH', `/api/jobs/${job.id}`, { state: 'proof out', dueOn: null });
    expect(changed.body).toMatchObject({ state: 'proof out', dueOn: null });
    expect((await server.call('DELETE', `/api/jobs/${job.id}`)).status).toBe(204);
    expect((await server.call('GET', `/api/jobs/${job.id}`)).status).toBe(404);
  });

  it.each<[string, object, string]>([
    ['no customer', { ...newJob, customer: '   ' }, 'customer'],
    ['a quantity that is none', { ...newJob, quantity: 0 }, 'quantity'],
    ['a quantity as text', { ...newJob, quantity: '12' }, 'quantity'],
    ['a day that is none', { ...newJob, dueOn: '2027-02-31' }, 'dueOn'],
    ['a unit that is none', { ...newJob, unit: 'ell' }, 'unit'],
    ['a field too many', { ...newJob, colour: 'red' }, 'colour'],
    ['a field too few', { customer: 'A', title: 'B', dueOn: null, unit: 'mm' }, 'quantity'],
  ])('are refused with %s', async (_, body, path) => {
    const { status, body: refusal } = await server.call<Refusal>('POST', '/api/jobs', body);
    expect(status).toBe(400);
    expect(refusal.code).toBe('BAD_REQUEST');
    expect(refusal.faults!.map((fault) => fault.path)).toContain(path);
  });

  it('give a customer letters that are not taken', () => {
    expect(freeCode('Quill Street Library', new Set())).toBe('QS');
    expect(freeCode('Quill Street Library', new Set(['QS', 'QS2']))).toBe('QS3');
    expect(freeCode('Ümlaut', new Set())).toBe('UM');
    expect(freeCode('渡船', new Set())).toBe('XX');
  });
});

describe('signs', () => {
  it('are saved on top of the revision they began from, and every revision is kept', async () => {
    const sign = await makeSign();
    expect(sign.revision).toBe(1);
    const saved = await server.call<{ revision: number }>('PUT', `/api/signs/${sign.id}`, {
      base: 1,
      document: thicker(sign, 8),
    });
    expect([saved.status, saved.body.revision]).toEqual([200, 2]);
    const { body } = await server.call<SignAnswer>('GET', `/api/signs/${sign.id}`);
    expect(body.document.blank.thickness).toBe(8);
    const { body: kept } = await server.call<{ revisions: { id: string; revision: number }[] }>(
      'GET',
      `/api/signs/${sign.id}/revisions`,
    );
    expect(kept.revisions.map(({ revision }) => revision).sort()).toEqual([1, 2]);
    const first = kept.revisions.find(({ revision }) => revision === 1)!;
    const { body: old } = await server.call<SignAnswer>('GET', `/api/revisions/${first.id}`);
    expect(old.document.blank.thickness).toBe(12);
  });

  it('refuse a stale save with 409 and keep both', async () => {
    const sign = await makeSign();
    await server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document: thicker(sign, 8) });
    const stale = await server.call<Refusal & { revision: number; theirs: Sign }>('PUT', `/api/signs/${sign.id}`, {
      base: 1,
      document: thicker(sign, 9),
    });
    expect(stale.status).toBe(409);
    expect(stale.body).toMatchObject({ code: 'STALE_SAVE', revision: 2 });
    expect(stale.body.theirs.blank.thickness).toBe(8);
    // The same again is set aside once.
    await server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document: thicker(sign, 9) });
    const asides = await server.db.RevisionRow.findAll({ where: { signId: sign.id, kind: 'aside' } });
    expect(asides.map(({ document }) => document.blank.thickness)).toEqual([9]);
  });

  it('take one of many saves at once', async () => {
    const sign = await makeSign();
    const answers = await Promise.all(
      [5, 6, 7, 8, 9].map((mm) => server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document: thicker(sign, mm) })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409]);
    expect(await server.db.RevisionRow.count({ where: { signId: sign.id } })).toBe(6);
  });

  it('take the same save again as the answer that got lost', async () => {
    const sign = await makeSign();
    const document = thicker(sign, 8);
    await server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document });
    const again = await server.call<{ revision: number }>('PUT', `/api/signs/${sign.id}`, { base: 1, document });
    expect([again.status, again.body.revision]).toEqual([200, 2]);
  });

  it('are refused by the path of what is wrong, and nothing is changed', async () => {
    const sign = await makeSign();
    const bad = { ...sign.document, blank: { ...sign.document.blank, thickness: -1 }, extra: true };
    const { status, body } = await server.call<Refusal>('PUT', `/api/signs/${sign.id}`, { base: 1, document: bad });
    expect(status).toBe(400);
    expect(body.faults!.map(({ path }) => path).sort()).toEqual(['document.blank.thickness', 'document.extra']);
    const unknownFont = { ...sign.document, parts: [{ ...newTextPart(), font: 'papyrus' }] };
    expect(
      (await server.call<Refusal>('PUT', `/api/signs/${sign.id}`, { base: 1, document: unknownFont })).body.faults![0].path,
    ).toBe('document.parts[0].font');
    expect((await server.call<SignAnswer>('GET', `/api/signs/${sign.id}`)).body.revision).toBe(1);
  });

  it('are compared by what they say, not by the order of their fields', () => {
    expect(digest({ a: 1, b: [{ c: 2, d: 3 }] })).toBe(digest({ b: [{ d: 3, c: 2 }], a: 1 }));
    expect(digest({ a: [1, 2] })).not.toBe(digest({ a: [2, 1] }));
  });
});

const newTextPart = () => ({
  kind: 'text',
  id: 'line-1',
  name: 'Line 1',
  words: 'Oak',
  font: 'barlow-semibold',
  size: { kind: 'capitals', height: 20, stretch: 100 },
  tracking: 0,
  leading: { kind: 'percent', of: 155 },
  align: 'centre',
  place: { x: 0, y: 0, turn: 0, mirror: false },
  sitsOn: { kind: 'face' },
  tiers: [],
});

describe('tasks', () => {
  it('are queued, listed and cancelled', async () => {
    const sign = await makeSign();
    const { status, body: task } = await server.call<{ id: string; state: string }>('POST', `/api/signs/${sign.id}/tasks`, {
      kind: 'glb',
    });
    expect([status, task.state]).toEqual([202, 'waiting']);
    expect(server.sent).toContainEqual({ taskId: task.id });
    expect((await server.call<Refusal>('GET', `/api/tasks/${task.id}/file`)).status).toBe(409);
    const cancelled = await server.call<{ state: string }>('POST', `/api/tasks/${task.id}/cancel`, {});
    expect(cancelled.body.state).toBe('cancelled');
    const { body } = await server.call<{ tasks: { state: string }[] }>('GET', `/api/signs/${sign.id}/tasks`);
    expect(body.tasks.map(({ state }) => state)).toEqual(['cancelled']);
  });

  it('are refused for what cannot be made', async () => {
    const sign = await makeSign();
    expect((await server.call<Refusal>('POST', `/api/signs/${sign.id}/tasks`, { kind: 'gcode' })).body.faults![0].path).toBe(
      'kind',
    );
  });
});

/** Every route of the server with what a malformed call to it looks like. */
const ROUTES: readonly (readonly [string, string, unknown])[] = [
  ['GET', '/api/jobs/ID', undefined],
  ['PATCH', '/api/jobs/ID', { quantity: 2 }],
  ['DELETE', '/api/jobs/ID', undefined],
  ['POST', '/api/jobs/ID/signs', { title: 'A sign' }],
  ['GET', '/api/jobs/ID/files', undefined],
  ['GET', '/api/files/ID', undefined],
  ['GET', '/api/files/ID/picture', undefined],
  ['DELETE', '/api/files/ID', undefined],
  ['GET', '/api/signs/ID', undefined],
  ['PUT', '/api/signs/ID', { base: 1, document: newSign('A', 'mm') }],
  ['DELETE', '/api/signs/ID', undefined],
  ['GET', '/api/signs/ID/revisions', undefined],
  ['GET', '/api/revisions/ID', undefined],
  ['GET', '/api/signs/ID/picture.png', undefined],
  ['POST', '/api/signs/ID/tasks', { kind: 'stl' }],
  ['GET', '/api/signs/ID/tasks', undefined],
  ['GET', '/api/tasks/ID', undefined],
  ['POST', '/api/tasks/ID/cancel', {}],
  ['GET', '/api/tasks/ID/file', undefined],
];

describe('a full disk', () => {
  it('is told as such, and the sign stays as it was', async () => {
    const sign = await makeSign();
    // What PostgreSQL says when it cannot extend a file: SQLSTATE 53100, appendix A of its manual.
    await server.db.sequelize.query(`
      CREATE FUNCTION is_full() RETURNS trigger LANGUAGE plpgsql AS
        $$ BEGIN RAISE EXCEPTION 'could not extend file' USING ERRCODE = '53100'; END $$;
      CREATE TRIGGER full_disk BEFORE INSERT ON sign_revisions EXECUTE FUNCTION is_full();`);
    try {
      const answer = await server.call<Refusal>('PUT', `/api/signs/${sign.id}`, { base: 1, document: thicker(sign, 9) });
      expect(answer).toMatchObject({
        status: 507,
        body: { code: 'DISK_FULL', message: expect.stringContaining('free some space') },
      });
    } finally {
      await server.db.sequelize.query('DROP FUNCTION is_full CASCADE');
    }
    const { body } = await server.call<SignAnswer>('GET', `/api/signs/${sign.id}`);
    expect(body).toMatchObject({ revision: 1, document: sign.document });
  });
});

describe('files of a job', () => {
  it('are kept as they came, given back as files only, and once', async () => {
    const { body: job } = await server.call<JobAnswer>('POST', '/api/jobs', newJob);
    const text = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script>é</svg>';
    const files = `/api/jobs/${job.id}/files`;
    const sent = await server.upload<{ id: string; size: number }>(files, 'Crozier é.svg', text);
    expect(sent).toMatchObject({ status: 201, body: { name: 'Crozier é.svg', size: Buffer.byteLength(text) } });
    const again = await server.upload<{ id: string }>(files, 'Crozier é.svg', text);
    expect(again.body.id).toBe(sent.body.id);
    expect((await server.call<unknown[]>('GET', `/api/jobs/${job.id}/files`)).body).toHaveLength(1);
    const file = await server.inject({ method: 'GET', url: `/api/files/${sent.body.id}` });
    expect(file.payload).toBe(text);
    expect(file.headers).toMatchObject({
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment; filename="Crozier ?.svg"; filename*=UTF-8\'\'Crozier%20%C3%A9.svg',
      'x-content-type-options': 'nosniff',
    });
    expect((await server.call('DELETE', `/api/files/${sent.body.id}`)).status).toBe(204);
    expect((await server.call('GET', `/api/files/${sent.body.id}`)).status).toBe(404);
  });

  it('are refused without a name or content, or too large', async () => {
    const { body: job } = await server.call<JobAnswer>('POST', '/api/jobs', newJob);
    const files = `/api/jobs/${job.id}/files`;
    const post = async (name: string, content: string) => (await server.upload(files, name, content)).status;
    expect(await post(' ', 'x')).toBe(400);
    expect(await post('x'.repeat(201), 'x')).toBe(400);
    expect(await post('x.svg', '')).toBe(400);
    expect(await post('x.svg', 'x'.repeat(8_000_001))).toBe(413);
    // Objects are larger than drawings.
    expect(await post('x.STL', 'x'.repeat(8_000_001))).toBe(201);
    expect(await post('x.glb', 'x'.repeat(40_000_001))).toBe(413);
    expect((await server.call('POST', files, { name: 'x.png', text: 'x' })).status).toBe(400);
    expect((await server.upload(`/api/jobs/${NOWHERE}/files`, 'x.svg', 'x')).status).toBe(404);
  });

  it('are shown as pictures only where they are such, whatever their name says', async () => {
    const { body: job } = await server.call<JobAnswer>('POST', '/api/jobs', newJob);
    const keep = async (name: string, content: Uint8Array | string) =>
      (await server.upload<{ id: string }>(`/api/jobs/${job.id}/files`, name, content)).body.id;
    const png = PNG.sync.write(new PNG({ width: 3, height: 2 }));
    const kept = await keep('Quill.svg', png);
    const shown = await server.inject({ method: 'GET', url: `/api/files/${kept}/picture` });
    expect(shown.headers).toMatchObject({ 'content-type': 'image/png', 'x-content-type-options': 'nosniff' });
    expect(shown.rawPayload.equals(png)).toBe(true);
    const page = await keep('Quill.png', '<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>');
    const refused = await server.call<Refusal>('GET', `/api/files/${page}/picture`);
    expect([refused.status, refused.body.code]).toEqual([415, 'NOT_A_PICTURE']);
  });
});

describe('every route', () => {
  it.each(ROUTES)('%s %s answers 404 for ids that are not there or are none', async (method, url, body) => {
    for (const id of [NOWHERE, 'abc', "'; DROP TABLE jobs; --", '%00']) {
      const { status, body: refusal } = await server.call<Refusal>(
        method as 'GET',
        url.replace('ID', encodeURIComponent(id)),
        body,
      );
      expect([status, refusal.code]).toEqual([404, 'NOT_FOUND']);
    }
  });

  it.each(ROUTES.filter(([method]) => ['POST', 'PUT', 'PATCH'].includes(method)).filter(([, url]) => !url.endsWith('/cancel')))(
    '%s %s answers 400 with the path for a malformed body',
    async (method, url) => {
      for (const body of [[], { unheardOf: 1 }]) {
        const { status, body: refusal } = await server.call<Refusal>(method as 'POST', url.replace('ID', NOWHERE), body);
        expect([status, refusal.code]).toEqual([400, 'BAD_REQUEST']);
        expect(refusal.faults!.length).toBeGreaterThan(0);
      }
      const broken = await server.inject({
        method: method as 'POST',
        url: url.replace('ID', NOWHERE),
        payload: '{"a":',
        headers: { 'content-type': 'application/json' },
      });
      expect(broken.statusCode).toBe(400);
    },
  );

  it('answers 404 for addresses that are none, 413 for what is too large, and sets safe headers', async () => {
    const nowhere = await server.inject({ url: '/api/nothing' });
    expect([nowhere.statusCode, nowhere.json<Refusal>().code]).toEqual([404, 'NO_SUCH_ADDRESS']);
    expect(nowhere.headers['content-security-policy']).toContain("default-src 'self'");
    expect(nowhere.headers['x-content-type-options']).toBe('nosniff');
    const large = await server.inject({ method: 'POST', url: '/api/jobs', payload: { title: 'x'.repeat(5_000_000) } });
    expect([large.statusCode, large.json<Refusal>().code]).toEqual([413, 'TOO_LARGE']);
  });

  it('serves no file outside its folders', async () => {
    for (const url of ['/fonts/../package.json', '/fonts/%2e%2e/package.json', '/fonts/..%2fpackage.json'])
      expect((await server.inject({ url: url })).statusCode).toBeGreaterThanOrEqual(400);
    expect((await server.inject({ url: '/fonts/catalogue.json' })).statusCode).toBe(200);
  });
});
