// Fifty people at once: they look at the board with its pictures, open a job and a sign, and save it. Bar: 95 % of the answers within 500 ms.
import { setTimeout as wait } from 'node:timers/promises';
import { application, percentile } from './application.mjs';
import { signIn } from '../ops/sign-in.mjs';

const PEOPLE = 50;
const ROUNDS = 4;
/** ms between what one person does and what they do next: short for a person. */
const PAUSE = 1000;

const { url, stop, begin, blocked } = await application('load', 54870);
const owner = await signIn(url);
const own = { 'x-plain-relief': 'script', 'content-type': 'application/json' };
const people = [];
for (let i = 0; i < PEOPLE; i++) {
  const email = `person-${i}@millrace.example.org`;
  await owner.send('POST', '/people', { name: `Person ${i}`, email, password: 'demo-millrace', role: 'designer' });
  people.push(email);
}
const { jobs } = await owner.send('GET', '/jobs');
const busiest = jobs.reduce((a, b) => (b.signs.length > a.signs.length ? b : a));
const cookies = [];
for (const email of people) {
  const { cookie } = await signIn(url, email);
  cookies.push(`${cookie.name}=${cookie.value}`);
}
/** Signs whose pictures are there; those that are saved all the time have new ones. */
const drawn = new Set();
const mine = [];
for (let i = 0; i < PEOPLE; i++)
  mine.push(await owner.send('POST', `/signs/${busiest.signs[i % busiest.signs.length].id}/copies`, { title: `Sign of ${i}` }));

/** Calls an address and writes down how long it took. */
async function call(times, kind, cookie, method, path, body) {
  const from = performance.now();
  const answer = await fetch(`${url}/api${path}`, { method, headers: { ...own, cookie }, body: body && JSON.stringify(body) });
  const bytes = await answer.arrayBuffer();
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${Buffer.from(bytes).toString().slice(0, 200)}`);
  (times[kind] ??= []).push(performance.now() - from);
  return kind === 'picture' ? undefined : JSON.parse(Buffer.from(bytes).toString());
}

async function person(i, times) {
  // As a browser that has kept nothing: every picture is fetched.
  const own = cookies[i];
  let { revision, document, id } = mine[i];
  await wait((PAUSE * i) / PEOPLE);
  for (let round = 0; round < ROUNDS; round++) {
    const board = await call(times, 'board', own, 'GET', '/jobs');
    const shown = board.jobs
      .flatMap(({ signs }) => signs)
      .filter((sign) => drawn.has(sign.id))
      .slice(0, 12);
    await Promise.all(
      shown.map((sign) => call(times, 'picture', own, 'GET', `/signs/${sign.id}/picture.png?revision=${sign.revision}`)),
    );
    await wait(PAUSE * (0.5 + Math.random()));
    await call(times, 'job', own, 'GET', `/jobs/${board.jobs[i % board.jobs.length].id}`);
    await call(times, 'sign', own, 'GET', `/signs/${id}`);
    for (let save = 0; save < 3; save++) {
      document = { ...document, title: `Sign of ${i}, ${round}.${save}` };
      ({ revision } = await call(times, 'save', own, 'PUT', `/signs/${id}`, { base: revision, document }));
      await wait((PAUSE / 2) * (0.5 + Math.random()));
    }
  }
}

function print(name, times) {
  for (const [kind, list] of Object.entries(times))
    console.log(
      `${name}, ${kind}: ${list.length} answers, median ${percentile(list, 0.5).toFixed(0)} ms, 95 % within ${percentile(list, 0.95).toFixed(0)} ms, the longest ${Math.max(...list).toFixed(0)} ms`,
    );
}

try {
  // Pictures are made once, before: what is new takes as long as it is to draw.
  const made = await owner.send('GET', '/jobs');
  const isMine = new Set(mine.map(({ id }) => id));
  const others = made.jobs.flatMap(({ signs }) => signs).filter(({ id }) => !isMine.has(id));
  const from = performance.now();
  for (const { id, revision } of others) {
    drawn.add(id);
    const headers = { cookie: `${owner.cookie.name}=${owner.cookie.value}` };
    await (await fetch(`${url}/api/signs/${id}/picture.png?revision=${revision}`, { headers })).arrayBuffer();
  }
  console.log(`${others.length} new pictures one after the other: ${((performance.now() - from) / 1000).toFixed(1)} s`);
  const alone = {};
  await person(0, alone);
  mine[0] = await owner.send('GET', `/signs/${mine[0].id}`);
  print('one person', alone);
  begin();
  const times = {};
  await Promise.all(people.map((_, i) => person(i, times)));
  print(`${PEOPLE} people`, times);
  const all = percentile(Object.values(times).flat(), 0.95);
  console.log(
    `all: 95 % within ${all.toFixed(0)} ms, ${(all / percentile(Object.values(alone).flat(), 0.95)).toFixed(1)} times one person's`,
  );
  console.log(`event loop blocked ${(await blocked()).maxMs.toFixed(0)} ms at most`);
} finally {
  await stop();
}
process.exit(0);
