import type { Role } from '@plain-relief/api/states';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { loadDemo } from '../demo/load.js';
import { OWNER, TestServer } from '../../testing/server.js';
import { COOKIE } from './access.js';
import { SIGN_IN_TRIES } from '../../platform/settings.js';
import { hashed, isPassword } from './passwords.js';
import { PeopleService } from './service.js';

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const PASSWORD = 'a long password';

let server: TestServer;
let people: PeopleService;
beforeAll(async () => {
  server = await TestServer.start();
  people = new PeopleService(server.db);
});
afterAll(() => server?.stop());

/** Every address below /api that changes or tells something, and the least that a caller must be. Written by hand, to be compared. */
const ADDRESSES: readonly (readonly [string, Role | 'anyone'])[] = [
  ['GET /api/health', 'anyone'],
  ['GET /api/session', 'anyone'],
  ['POST /api/session', 'anyone'],
  ['POST /api/session/first', 'anyone'],
  ['DELETE /api/session', 'maker'],
  ['DELETE /api/sessions', 'maker'],
  ['PUT /api/session/password', 'maker'],
  ['GET /api/people', 'owner'],
  ['POST /api/people', 'owner'],
  ['PATCH /api/people/:id', 'owner'],
  ['GET /api/audit', 'owner'],
  ['GET /api/bin', 'designer'],
  ['POST /api/bin/jobs/:id/return', 'designer'],
  ['POST /api/bin/signs/:id/return', 'designer'],
  ['GET /api/jobs', 'maker'],
  ['POST /api/jobs', 'designer'],
  ['GET /api/jobs/:id', 'maker'],
  ['PATCH /api/jobs/:id', 'maker'],
  ['DELETE /api/jobs/:id', 'designer'],
  ['GET /api/jobs/:id/files', 'maker'],
  ['POST /api/jobs/:id/files', 'designer'],
  ['GET /api/jobs/:id/history', 'maker'],
  ['GET /api/jobs/:id/runs', 'maker'],
  ['POST /api/jobs/:id/runs', 'designer'],
  ['GET /api/runs/:id', 'maker'],
  ['PUT /api/runs/:id', 'designer'],
  ['DELETE /api/runs/:id', 'designer'],
  ['GET /api/jobs/:id/places', 'maker'],
  ['POST /api/jobs/:id/places', 'designer'],
  ['PUT /api/places/:id', 'designer'],
  ['DELETE /api/places/:id', 'designer'],
  ['GET /api/proof-links/:token/runs/:runId', 'anyone'],
  ['GET /api/proof-links/:token/runs/:runId/plates/:row/picture.png', 'anyone'],
  ['POST /api/proof-links/:token/corrections', 'anyone'],
  ['GET /api/proofs/:id/runs/:runId/plates/:row/picture.png', 'maker'],
  ['GET /api/runs/:id/proof', 'maker'],
  ['POST /api/runs/:id/files', 'maker'],
  ['POST /api/runs/:id/makings', 'maker'],
  ['GET /api/runs/:id/makings', 'maker'],
  ['GET /api/makings/:id', 'maker'],
  ['POST /api/makings/:id', 'maker'],
  ['GET /api/makings/:id/file', 'maker'],
  ['GET /api/proofs/:id/runs/:runId', 'maker'],
  ['POST /api/corrections/:id', 'designer'],
  ['GET /api/proof-links/:token/places/:placeId/picture.png', 'anyone'],
  ['GET /api/proof-links/:token/places/:placeId/photograph', 'anyone'],
  ['GET /api/jobs/:id/proofs', 'maker'],
  ['POST /api/jobs/:id/proofs', 'designer'],
  ['POST /api/jobs/:id/signs', 'designer'],
  ['GET /api/files/:id', 'maker'],
  ['DELETE /api/files/:id', 'designer'],
  ['GET /api/files/:id/picture', 'maker'],
  ['GET /api/signs/:id', 'maker'],
  ['PUT /api/signs/:id', 'designer'],
  ['DELETE /api/signs/:id', 'designer'],
  ['GET /api/signs/:id/clearance', 'maker'],
  ['GET /api/signs/:id/picture.png', 'maker'],
  ['GET /api/signs/:id/revisions', 'maker'],
  ['GET /api/signs/:id/tasks', 'maker'],
  ['POST /api/signs/:id/copies', 'designer'],
  ['POST /api/signs/:id/move', 'designer'],
  ['POST /api/signs/:id/tasks', 'maker'],
  ['GET /api/revisions/:id', 'maker'],
  ['GET /api/tasks/:id', 'maker'],
  ['POST /api/tasks/:id/cancel', 'maker'],
  ['GET /api/tasks/:id/file', 'maker'],
  ['GET /api/tasks/:id/report', 'maker'],
  ['GET /api/proofs/:id', 'maker'],
  ['POST /api/proofs/:id/withdraw', 'designer'],
  ['POST /api/proofs/:id/remarks', 'designer'],
  ['POST /api/proofs/:id/sheets', 'maker'],
  ['GET /api/proofs/:id/signs/:signId/picture.png', 'maker'],
  ['GET /api/proofs/:id/signs/:signId/comparison.svg', 'maker'],
  ['GET /api/turnaround', 'designer'],
  ['GET /api/proof-links/:token', 'anyone'],
  ['POST /api/proof-links/:token/remarks', 'anyone'],
  ['POST /api/proof-links/:token/approval', 'anyone'],
  ['POST /api/proof-links/:token/wishes', 'anyone'],
  ['GET /api/proof-links/:token/sheet.pdf', 'anyone'],
  ['GET /api/proof-links/:token/signs/:signId/picture.png', 'anyone'],
  ['GET /api/proof-links/:token/signs/:signId/sizes.svg', 'anyone'],
  ['GET /api/proof-links/:token/signs/:signId/model.glb', 'anyone'],
  ['GET /api/outbox', 'designer'],
  ['POST /api/outbox/:id/again', 'designer'],
  ['POST /api/braille', 'maker'],
  ['POST /api/braille/words', 'maker'],
  ['GET /api/machine', 'maker'],
  ['POST /api/machine/programs', 'maker'],
  ['POST /api/machine/commands', 'maker'],
  ['GET /api/shop/library', 'maker'],
  ['PUT /api/shop/library', 'designer'],
  ['GET /api/signs/:id/plans', 'maker'],
  ['POST /api/signs/:id/plans', 'maker'],
  ['GET /api/plans/:id', 'maker'],
  ['DELETE /api/plans/:id', 'designer'],
  ['GET /api/plans/:id/clearance', 'maker'],
  ['GET /api/plans/:id/programs', 'maker'],
  ['GET /api/plans/:id/dry-run.png', 'maker'],
  ['GET /api/plans/:id/sheet.pdf', 'maker'],
  ['GET /api/plans/:id/package.zip', 'maker'],
  ['GET /api/plans/:id/files/:name', 'maker'],
  ['POST /api/plans/:id/again', 'maker'],
  ['POST /api/plans/:id/release', 'maker'],
  ['GET /api/shop/card', 'maker'],
  ['PUT /api/shop/card', 'owner'],
  ['GET /api/shop/layouts', 'maker'],
  ['POST /api/shop/layouts', 'designer'],
  ['DELETE /api/shop/layouts/:id', 'designer'],
  ['GET /api/shop/fonts', 'maker'],
  ['POST /api/shop/fonts', 'designer'],
  ['DELETE /api/shop/fonts/:id', 'designer'],
  ['GET /api/shop/kinds', 'maker'],
  ['POST /api/shop/kinds', 'designer'],
  ['GET /api/shop/kinds/:id', 'maker'],
  ['DELETE /api/shop/kinds/:id', 'designer'],
  ['GET /api/kinds/:id/picture.png', 'maker'],
  ['GET /api/shop/blanks', 'maker'],
  ['POST /api/shop/blanks', 'designer'],
  ['DELETE /api/shop/blanks/:id', 'designer'],
  ['GET /api/shop/finishes', 'maker'],
  ['POST /api/shop/finishes', 'designer'],
  ['DELETE /api/shop/finishes/:id', 'designer'],
];

/** The addresses of the server as Fastify prints them: a tree of stretches, each with its methods. */
function addressesOf(tree: string): Set<string> {
  const found = new Set<string>();
  const path: string[] = [];
  for (const line of tree.split('\n')) {
    const parts = /^((?:│ {3}| {4})*)[├└]── (\S*)(?: \((.*)\))?/u.exec(line);
    if (!parts) continue;
    const [, indent, stretch, methods] = parts;
    path.length = indent.length / 4;
    path.push(stretch);
    const whole = path.join('');
    for (const method of methods?.split(', ') ?? [])
      if (whole.startsWith('/api/') && !['HEAD', 'OPTIONS'].includes(method)) found.add(`${method} ${whole}`);
  }
  return found;
}

describe('who may call what', () => {
  it('the table below names every address of the server', () => {
    const there = addressesOf(server.app.printRoutes({ commonPrefix: false }));
    expect([...there].sort()).toEqual(ADDRESSES.map(([address]) => address).sort());
  });

  const order = ['anyone', 'maker', 'designer', 'owner'];
  it.each(['nobody', 'maker', 'designer', 'owner'] as const)('as %s', async (role) => {
    const cookie = role === 'nobody' ? '' : await server.signIn(`Matrix${role}`, role);
    const rank = role === 'nobody' ? 0 : order.indexOf(role);
    for (const [address, least] of ADDRESSES) {
      // Those that end the session that asks come last, below.
      if (address.startsWith('DELETE /api/session')) continue;
      const [method, path] = address.split(' ');
      const url = path.replace(':token', 'x'.repeat(43)).replaceAll(/:\w+/gu, NOWHERE);
      const { status, body } = await server.call<{ code?: string }>(
        method as 'GET',
        url,
        method === 'GET' ? undefined : {},
        cookie,
      );
      const isAdmitted = rank >= order.indexOf(least);
      const refusal = role === 'nobody' ? [401, 'NOT_SIGNED_IN'] : [403, 'NOT_FOR_ROLE'];
      // A maker may change the state of a job and nothing else: an empty change is not theirs.
      const isLessThanTheirs = role === 'maker' && address === 'PATCH /api/jobs/:id';
      if (!isAdmitted || isLessThanTheirs) expect([address, status, body?.code]).toEqual([address, ...refusal]);
      else expect([address, status, ['NOT_SIGNED_IN', 'NOT_FOR_ROLE', 'OTHER_SITE'].includes(body?.code ?? '')]).toEqual([address, status, false]); // prettier-ignore
    }
    if (role === 'nobody') return;
    expect((await server.call('DELETE', '/api/session', undefined, cookie)).status).toBe(204);
    expect((await server.call('GET', '/api/jobs', undefined, cookie)).status).toBe(401);
  });

  it('a maker moves jobs through the shop, gets no address of a customer, and overrides no lock', async () => {
    await loadDemo(server.db, server.settings);
    const maker = await server.signIn('Piet', 'maker');
    const { body } = await server.call<{ jobs: { id: string; signs: { id: string }[] }[] }>('GET', '/api/jobs', undefined, maker);
    const [job] = body.jobs;
    const patch = (change: object) => server.call('PATCH', `/api/jobs/${job.id}`, change, maker).then(({ status }) => status);
    expect(await patch({ state: 'in the shop' })).toBe(200);
    expect(await patch({ state: 'layout' })).toBe(403);
    expect(await patch({ state: 'done', title: 'Mine' })).toBe(403);
    const proof = { signs: [job.signs[0].id], recipient: 'desk@example.org', message: '', days: 3 };
    expect((await server.call('POST', `/api/jobs/${job.id}/proofs`, proof)).status).toBe(201);
    const seen = await server.call<{ proofs: object[] }>('GET', `/api/jobs/${job.id}/proofs`, undefined, maker);
    expect(seen.body.proofs).toHaveLength(1);
    expect(JSON.stringify(seen.body)).not.toContain('/proof/');
    const asked = { kind: 'stl', override: 'Because I can' };
    expect((await server.call('POST', `/api/signs/${job.signs[0].id}/tasks`, asked, maker)).status).toBe(403);
    expect((await server.call<{ code: string }>('POST', `/api/signs/${job.signs[0].id}/tasks`, { kind: 'stl' }, maker)).body.code).toBe('NOT_APPROVED'); // prettier-ignore
  });

  it('what does not come from a page of the application changes nothing, whoever is signed in', async () => {
    const headers = { cookie: await server.signIn('Crossed', 'owner'), origin: 'http://elsewhere.example.org' };
    const title = 'Forged';
    const payload = { customer: 'Nobody', title, dueOn: null, quantity: 1, unit: 'mm' };
    const answer = await server.app.inject({ method: 'POST', url: '/api/jobs', headers, payload });
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([403, 'OTHER_SITE']);
    // Another origin that asks whether it may send the header is not told that it may.
    const asked = await server.app.inject({
      method: 'OPTIONS',
      url: '/api/jobs',
      headers: { ...headers, 'access-control-request-method': 'POST', 'access-control-request-headers': 'x-plain-relief' },
    });
    expect(asked.headers['access-control-allow-origin']).toBeUndefined();
    expect(await server.db.Job.count({ where: { title } })).toBe(0);
  });
});

describe('signing in', () => {
  const tryWith = (email: string, password: string) => server.inject({ method: 'POST', url: '/api/session', payload: { email, password } }, ''); // prettier-ignore
  let n = 0;
  let email: string;
  beforeEach(async () => {
    email = `person${n++}@example.org`;
    await people.add({ name: `Person ${n}`, email, role: 'designer', password: PASSWORD });
  });

  it('gives a cookie that scripts and other sites do not get, for the right password alone', async () => {
    const right = await tryWith(` ${email.toUpperCase()} `, PASSWORD);
    expect(right.statusCode).toBe(200);
    const [cookie] = right.cookies as { name: string; value: string; httpOnly?: boolean; sameSite?: string; path?: string }[];
    expect(cookie).toMatchObject({ name: COOKIE, httpOnly: true, sameSite: 'Strict', path: '/' });
    expect((await server.call('GET', '/api/jobs', undefined, `${COOKIE}=${cookie.value}`)).status).toBe(200);
    // The database holds nothing that one could sign in with.
    const rows = JSON.stringify([await server.db.Session.findAll(), await server.db.Person.findAll()]);
    expect(rows).not.toContain(cookie.value);
    expect(rows).not.toContain(PASSWORD);
    const wrong = await tryWith(email, 'another password');
    const unknown = await tryWith('nobody@example.org', PASSWORD);
    expect([wrong.statusCode, unknown.statusCode]).toEqual([401, 401]);
    expect(unknown.body).toBe(wrong.body);
  });

  it('an account rests after five wrong passwords in a row, also for the right one, and wakes', async () => {
    const now = new Date();
    const attempt = (password: string, at: Date) => people.signIn({ email, password }, at).then(() => true, () => false); // prettier-ignore
    // Wrong ones at once are all counted.
    await Promise.all(Array.from({ length: 4 }, () => attempt('wrong', now)));
    expect(await attempt(PASSWORD, now)).toBe(true);
    await Promise.all(Array.from({ length: 5 }, () => attempt('wrong', now)));
    expect(await attempt(PASSWORD, now)).toBe(false);
    expect(await attempt(PASSWORD, new Date(now.getTime() + 14 * 60_000))).toBe(false);
    expect(await attempt(PASSWORD, new Date(now.getTime() + 16 * 60_000))).toBe(true);
  });

  it('a session ends when it is not used, when it is old, and when all of them are ended', async () => {
    const now = new Date();
    const days = (count: number) => new Date(now.getTime() + count * 86_400_000);
    const first = await people.signIn({ email, password: PASSWORD }, now);
    expect((await people.whose(first.token, days(6)))?.email).toBe(email);
    expect((await people.whose(first.token, days(12)))?.email).toBe(email);
    expect(await people.whose(first.token, days(20))).toBeUndefined();
    const second = await people.signIn({ email, password: PASSWORD }, now);
    for (let day = 5; day <= 30; day += 5) expect(await people.whose(second.token, days(day))).toBeDefined();
    expect(await people.whose(second.token, days(31))).toBeUndefined();
    const both = await Promise.all([1, 2].map(() => people.signIn({ email, password: PASSWORD }, now)));
    const cookies = both.map(({ token }) => `${COOKIE}=${token}`);
    expect((await server.call('DELETE', '/api/sessions', undefined, cookies[0])).status).toBe(204);
    for (const cookie of cookies) expect((await server.call('GET', '/api/jobs', undefined, cookie)).status).toBe(401);
  });

  it('a new password ends every other session; who leaves is out at once', async () => {
    const [here, there] = await Promise.all([1, 2].map(() => people.signIn({ email, password: PASSWORD })));
    const change = (before: string, password: string) =>
      server.inject({ method: 'PUT', url: '/api/session/password', payload: { before, password } }, `${COOKIE}=${here.token}`);
    expect((await change('not it', 'an even longer password')).statusCode).toBe(403);
    expect((await change(PASSWORD, 'short')).statusCode).toBe(400);
    const changed = await change(PASSWORD, 'an even longer password');
    expect(changed.statusCode).toBe(200);
    expect(await people.whose(there.token)).toBeUndefined();
    const [{ value }] = changed.cookies as { value: string }[];
    const person = await people.whose(value);
    expect(person?.email).toBe(email);
    expect((await server.call('PATCH', `/api/people/${person!.id}`, { hasLeft: true })).status).toBe(200);
    expect(await people.whose(value)).toBeUndefined();
    expect((await tryWith(email, 'an even longer password')).statusCode).toBe(401);
  });

  it('passwords are salted, and compared by their letters however they were typed', async () => {
    const [one, other] = await Promise.all([hashed('Zürich am Fluss'), hashed('Zürich am Fluss')]);
    expect(one).not.toBe(other);
    // ü as one sign and as u with a diaeresis (Unicode Standard Annex 15: NFC).
    expect(await isPassword('Zu\u0308rich am Fluss', one)).toBe(true);
    expect(await isPassword('Zurich am Fluss', one)).toBe(false);
    expect(await isPassword('anything', undefined)).toBe(false);
  });
});

// A database of its own each, which takes the place of the one before.
describe('people', () => {
  it('there is always an owner, also when two leave at once; an address is taken once', async () => {
    const fresh = await TestServer.start();
    const second = { name: 'Second', email: 'second@example.org', role: 'owner', password: PASSWORD };
    const { body: added } = await fresh.call<{ id: string }>('POST', '/api/people', second);
    expect((await fresh.call('POST', '/api/people', { ...second, email: 'SECOND@example.org' })).status).toBe(409);
    const [{ id }] = await fresh.db.Person.findAll({ where: { name: OWNER } });
    const service = new PeopleService(fresh.db);
    const ends = await Promise.allSettled([service.change(id, { hasLeft: true }), service.change(added.id, { role: 'maker' })]);
    expect(ends.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect(await fresh.db.Person.count({ where: { role: 'owner', hasLeft: false } })).toBe(1);
    await fresh.stop();
  });

  it('the first to come owns the shop, and of two at once one', async () => {
    const fresh = await TestServer.start();
    await fresh.db.Person.destroy({ where: {} });
    expect((await fresh.call<{ isNew: boolean }>('GET', '/api/session', undefined, '')).body.isNew).toBe(true);
    const come = (name: string) =>
      fresh.call('POST', '/api/session/first', { name, email: `${name}@example.org`, password: PASSWORD }, '');
    const came = await Promise.all(['ida', 'corin'].map(come));
    expect(came.map(({ status }) => status).sort()).toEqual([201, 409]);
    expect((await come('late')).status).toBe(409);
    await fresh.stop();
  });

  it('what is done is written down with who did it, saving once in a while; also who could not sign in', async () => {
    const fresh = await TestServer.start();
    const { body: job } = await fresh.call<{ id: string }>('POST', '/api/jobs', { customer: 'Quill Street Library', title: 'Shelf', dueOn: null, quantity: 1, unit: 'mm' }); // prettier-ignore
    const { body: sign } = await fresh.call<{ id: string; document: object }>('POST', `/api/jobs/${job.id}/signs`, {
      title: 'A',
    });
    for (let base = 1; base < 5; base++) await fresh.call('PUT', `/api/signs/${sign.id}`, { base, document: sign.document });
    await fresh.call('DELETE', `/api/signs/${NOWHERE}`);
    await fresh.inject({ method: 'POST', url: '/api/session', payload: { email: 'guess@example.org', password: 'x' } }, '');
    const { body } = await fresh.call<{ entries: { who: string; action: string; subject: string }[] }>('GET', '/api/audit');
    expect(body.entries.map(({ who, action, subject }) => [who, action, subject]).reverse()).toEqual([
      [OWNER, 'made a job', '/api/jobs'],
      [OWNER, 'made a sign', `/api/jobs/${job.id}/signs`],
      [OWNER, 'saved a sign', `/api/signs/${sign.id}`],
      ['guess@example.org', 'could not sign in', ''],
    ]);
    await fresh.stop();
  });

  it('so many tries a minute are enough', async () => {
    expect(SIGN_IN_TRIES).toEqual({ account: 20, any: 100 });
    const limited = await TestServer.start({ trustedProxy: '127.0.0.1', signInTries: { account: 4, any: 9 } });
    const tried = async (email: string, from: string): Promise<number> => {
      const asked = { method: 'POST', url: '/api/session', payload: { email, password: 'guess' } } as const;
      return (await limited.inject({ ...asked, headers: { 'x-forwarded-for': from } }, '')).statusCode;
    };
    const answers: number[] = [];
    for (let i = 0; i < 7; i++) answers.push(await tried('guess@example.org', '203.0.113.1'));
    expect(answers).toEqual([401, 401, 401, 401, 429, 429, 429]);
    // Somebody else behind the same address, and the same account from elsewhere, are not locked out by it.
    expect(await tried('other@example.org', '203.0.113.1')).toBe(401);
    expect(await tried('guess@example.org', '203.0.113.2')).toBe(401);
    for (let i = 0; i < 8; i++) await tried(`guess${i}@example.org`, '203.0.113.1');
    expect(await tried('another@example.org', '203.0.113.1')).toBe(429);
    expect(await tried('another@example.org', '203.0.113.2')).toBe(401);
    await limited.stop();
  });
});
