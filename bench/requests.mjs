// Malformed requests: 3000 from a seed, each answered with what is wrong, none with a fault of the server's, and none that holds up the others.
// Bars: no answer of 500 and more; the server's event loop never blocked for more than 200 ms.
import { application, percentile } from './application.mjs';
import { randomFrom } from './random.mjs';
import { signIn } from '../ops/sign-in.mjs';

const COUNT = 3000;
const AT_ONCE = 4;
const MOST_BLOCKED_MS = 200;

const random = randomFrom(20261127);
const whole = (to) => Math.floor(random() * to);
const pick = (list) => list[whole(list.length)];

const { url, stop, begin, blocked } = await application('requests', 54880);
const people = [];
for (const email of ['runa@millrace.example.org']) people.push(await signIn(url, email));
for (let i = 0; i < 7; i++) {
  const email = `person-${i}@millrace.example.org`;
  await people[0].send('POST', '/people', { name: `Person ${i}`, email, password: 'demo-millrace', role: 'owner' });
  people.push(await signIn(url, email));
}
const { jobs } = await people[0].send('GET', '/jobs');
const job = jobs.find(({ signs }) => signs.length > 0);
const sign = await people[0].send('GET', `/signs/${job.signs[0].id}`);
const proof = (await people[0].send('GET', `/jobs/${job.id}/proofs`)).proofs?.[0]?.id ?? sign.id;

/** Addresses with a body that is right but for what is done to it. */
const CALLS = [
  ['POST', '/jobs', () => ({ customer: 'Fernhollow Arboretum', title: 'Gate', dueOn: null, quantity: 1, unit: 'mm' })],
  ['PATCH', `/jobs/${job.id}`, () => ({ title: 'Gate', quantity: 2, dueOn: '2026-12-01' })],
  ['POST', `/jobs/${job.id}/signs`, () => ({ title: 'Gate' })],
  ['PUT', `/signs/${sign.id}`, () => ({ base: sign.revision, document: structuredClone(sign.document) })],
  ['POST', `/signs/${sign.id}/copies`, () => ({ title: 'Copy', job: job.id })],
  ['POST', `/signs/${sign.id}/move`, () => ({ job: job.id })],
  ['POST', `/signs/${sign.id}/tasks`, () => ({ kind: 'svg', option: 'a', layout: {} })],
  ['POST', `/jobs/${job.id}/proofs`, () => ({ signs: [{ signId: sign.id, revision: 1 }], to: 'a@example.org', confirmed: [] })],
  ['POST', `/proofs/${proof}/remarks`, () => ({ text: 'Larger', signId: sign.id })],
  ['POST', `/proof-links/${'a'.repeat(43)}/remarks`, () => ({ text: 'Larger', who: 'Ada' })],
  ['POST', `/proof-links/${'a'.repeat(43)}/approval`, () => ({ who: 'Ada', signs: [sign.id] })],
  ['PUT', '/shop/card', () => ({ name: 'Millrace', lines: ['A'], logo: null })],
  ['POST', '/shop/layouts', () => ({ name: 'L', layout: { paper: 'A4' } })],
  ['POST', '/shop/blanks', () => ({ name: 'B', blank: structuredClone(sign.document.blank) })],
  ['POST', '/shop/finishes', () => ({ finish: { id: 'f', name: 'F', colour: '#ffffff', gloss: 'satin' } })],
  ['POST', '/people', () => ({ name: 'A', email: 'a@example.org', password: 'demo-millrace', role: 'maker' })],
  ['GET', '/signs/x', () => undefined],
  ['GET', `/signs/${sign.id}/picture.png`, () => undefined],
]; // prettier-ignore

const WILD = [
  null, true, [], {}, '', 'x'.repeat(100_000), -1, 2 ** 31, 2 ** 53, 1e308, 0.1, '0000-01-01', '2026-02-31', '\0', '\ud800', '‮', 'é'.repeat(3000), [[[[[]]]]], { constructor: 1 },
  Array.from({ length: 5000 }, (_, i) => i), Object.fromEntries(Array.from({ length: 3000 }, (_, i) => [`field${i}`, i])), { kind: 'text' }, '../../etc/passwd', "'; DROP TABLE signs; --",
]; // prettier-ignore

/** Something else in one place of a value. */
function mutate(value, depth = 0) {
  const isLeaf = value === null || typeof value !== 'object';
  if (isLeaf || (depth > 0 && random() < 0.15)) return structuredClone(pick(WILD));
  const copy = Array.isArray(value) ? [...value] : { ...value };
  const keys = Object.keys(copy);
  switch (keys.length === 0 ? 3 : whole(6)) {
    case 0:
      delete copy[pick(keys)];
      return copy;
    case 3:
      copy[pick(['extra', '__proto__', 'constructor', 'a\0', '𝒳', 'x'.repeat(500)])] = structuredClone(pick(WILD));
      return copy;
    default: {
      const key = pick(keys);
      copy[key] = mutate(copy[key], depth + 1);
      return copy;
    }
  }
}

/** The bytes of a body: mostly of a value that is wrong somewhere, sometimes of no value at all. */
function bodyOf(value) {
  if (value === undefined) return undefined;
  const text = JSON.stringify(mutate(value));
  switch (whole(14)) {
    case 0:
      return text.slice(0, whole(text.length));
    case 1:
      return `${'['.repeat(1 + whole(60_000))}`;
    case 2:
      return `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`;
    case 3:
      return text.replace(/"/gu, pick(["'", '\\', '\u0000']));
    case 4:
      return Buffer.from(Array.from({ length: 1 + whole(2000) }, () => whole(256)));
    case 5:
      return text.replace(/\d+/u, '9'.repeat(1 + whole(400)));
    default:
      return text;
  }
}

const answers = new Map();
const wrong = [];
const times = [];
async function one(i) {
  const [method, path, make] = pick(CALLS);
  const { cookie } = people[i % people.length];
  const body = bodyOf(make());
  const headers = {
    'x-plain-relief': 'script',
    cookie: `${cookie.name}=${cookie.value}`,
    ...(body !== undefined && {
      'content-type': random() < 0.95 ? 'application/json' : pick(['text/plain', 'multipart/form-data', 'application/xml']),
    }),
  };
  const query = random() < 0.1 ? `?option=${encodeURIComponent(String(pick(WILD)).slice(0, 500).toWellFormed())}` : '';
  const from = performance.now();
  const answer = await fetch(`${url}/api${path}${query}`, { method, headers, body });
  const text = Buffer.from(await answer.arrayBuffer()).toString();
  times.push(performance.now() - from);
  console.log(
    'slow',
    i,
    (performance.now() - from).toFixed(0),
    method,
    path,
    answer.status,
    String(body).length,
    String(body).slice(0, 150),
    text.slice(0, 120),
  );
  answers.set(answer.status, (answers.get(answer.status) ?? 0) + 1);
  if (answer.status >= 500)
    wrong.push(`${method} ${path}: ${answer.status} ${text.slice(0, 200)} to ${String(body).slice(0, 200)}`);
  if (answer.status >= 400 && text.length > 20_000) wrong.push(`${method} ${path}: an answer of ${text.length} characters`);
}

try {
  begin();
  let next = 0;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (next < COUNT) await one(next++);
    }),
  );
  const { maxMs } = await blocked();
  console.log(
    `${COUNT} malformed requests: ${[...answers]
      .sort()
      .map(([status, count]) => `${count} × ${status}`)
      .join(', ')}`,
  );
  console.log(
    `answered in a median of ${percentile(times, 0.5).toFixed(0)} ms, 95 % within ${percentile(times, 0.95).toFixed(0)} ms, the longest ${Math.max(...times).toFixed(0)} ms`,
  );
  console.log(`event loop blocked ${maxMs.toFixed(0)} ms at most (bar ${MOST_BLOCKED_MS} ms)`);
  for (const line of wrong.slice(0, 20)) console.log(line);
  process.exitCode = wrong.length > 0 || maxMs > MOST_BLOCKED_MS ? 1 : 0;
} finally {
  await stop();
}
process.exit();
