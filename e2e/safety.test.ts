import { spawnSync } from 'node:child_process';
import { copyFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { type Sign } from '@plain-relief/core/sign';
import { Application, ROOT } from './application.js';
import { PATIENCE } from './patience.js';

const application = new Application('safety');
const elsewhere = join(ROOT, '.run', 'test', 'restored');
const file = join(ROOT, '.run', 'test', 'everything.backup');

beforeAll(() => application.start());
afterAll(async () => {
  await application.stop();
  for (const path of [elsewhere, file, `${file}.cut`]) rmSync(path, { recursive: true, force: true });
});

interface Answer<T> {
  readonly status: number;
  readonly body: T;
}

/** Asks until something answers; whether an answer got lost on the way is not known. */
async function insist<T>(path: string, init?: { method?: string; body?: unknown }): Promise<Answer<T>> {
  for (const end = Date.now() + PATIENCE; Date.now() < end;) {
    const answer = await application.api<T>(path, init).catch(() => undefined);
    if (answer && answer.status < 500) return answer;
    await wait(60);
  }
  throw new Error(`Nothing answered at ${path} for minutes: ${application.output}`);
}

const TICKS = { spelling: true, sizes: true, colours: true };
/** bench/kills.mjs does it a hundred times. */
const KILLS = 8;
/** So many at most where a slow machine has got nothing approved by then. */
const MOST_KILLS = 40;

it('loses nothing that was acknowledged while the server is killed again and again', async () => {
  const newJob = { customer: 'Osprey Point Ferry', title: 'Killed plates', dueOn: null, quantity: 1, unit: 'mm' };
  const { body: job } = await insist<{ id: string }>('/jobs', { method: 'POST', body: newJob });
  interface Stored {
    id: string;
    revision: number;
    document: Sign;
  }
  const { body: sign } = await insist<Stored>(`/jobs/${job.id}/signs`, { method: 'POST', body: { title: 'Killed plate' } });
  const saved = new Map<number, number>();
  const frozen = new Map<string, string>();
  const approved = new Map<string, string>();
  let isOver = false;

  const script = async () => {
    for (let step = 1; !isOver; step++) {
      const { body: now } = await insist<Stored>(`/signs/${sign.id}`);
      const thickness = 2 + (step % 900) / 10;
      const document = { ...now.document, blank: { ...now.document.blank, thickness } };
      const put = { method: 'PUT', body: { base: now.revision, document } };
      const answer = await application.api<{ revision: number }>(`/signs/${sign.id}`, put).catch(() => undefined);
      if (answer?.status === 200) saved.set(answer.body.revision, thickness);
      if (step % 3 > 0) continue;
      const wanted = { signs: [sign.id], recipient: 'works@ospreypoint.example.org', message: '', days: 5 };
      const sent = await application
        .api<{ id: string; letter: string; digest: string; address: string }>(`/jobs/${job.id}/proofs`, {
          method: 'POST',
          body: wanted,
        })
        .catch(() => undefined);
      if (sent?.status !== 201) continue;
      frozen.set(sent.body.id, sent.body.digest);
      const name = `Captain ${step}`;
      const approval = { name, ticks: TICKS, choices: {}, digest: sent.body.digest };
      const path = `/proof-links/${sent.body.address.split('/').at(-1)}/approval`;
      const done = await application.api(path, { method: 'POST', body: approval }).catch(() => undefined);
      if (done?.status === 200) approved.set(sent.body.id, name);
    }
  };
  const working = script();
  try {
    const isEnough = () => saved.size > KILLS / 2 && frozen.size > 0 && approved.size > 0;
    for (let kill = 0; kill < KILLS || (kill < MOST_KILLS && !isEnough()); kill++) {
      await insist('/health');
      // The longer a machine takes to get something done, the more time it is left between two kills.
      await wait(30 + Math.random() * (1800 + 200 * kill));
      application.kill('main.js');
    }
    await insist('/health');
  } finally {
    isOver = true;
    await working;
  }

  expect([saved.size > KILLS / 2, frozen.size > 0, approved.size > 0]).toEqual([true, true, true]);
  const { body: kept } = await insist<{ revisions: { id: string; revision: number; kind: string }[] }>(
    `/signs/${sign.id}/revisions`,
  );
  for (const { id, revision, kind } of kept.revisions) {
    const thickness = saved.get(revision);
    if (kind !== 'saved' || thickness === undefined) continue;
    const { body } = await insist<{ document: Sign }>(`/revisions/${id}`);
    expect(body.document.blank.thickness).toBe(thickness);
    saved.delete(revision);
  }
  // The list holds the newest 200.
  expect([...saved.keys()].filter((revision) => revision > Math.max(...kept.revisions.map((one) => one.revision)) - 190)).toEqual(
    [],
  );
  interface Kept {
    id: string;
    letter: string;
    digest: string;
    state: string;
    answeredBy: string | null;
  }
  const { proofs } = (await insist<{ proofs: Kept[] }>(`/jobs/${job.id}/proofs`)).body;
  for (const [id, digest] of frozen) expect(proofs.find((proof) => proof.id === id)?.digest).toBe(digest);
  for (const [id, name] of approved)
    expect(proofs.find((proof) => proof.id === id)).toMatchObject({ state: 'approved', answeredBy: name });
  expect(new Set(proofs.map(({ letter }) => letter)).size).toBe(proofs.length);
  expect(proofs.filter(({ state }) => state === 'open').length).toBeLessThanOrEqual(1);
});

describe('everything', () => {
  const run = (command: 'backup' | 'restore', args: string[], home = application.home) => {
    const ran = spawnSync(join(ROOT, command), args, { env: { ...process.env, PLAIN_RELIEF_HOME: home }, encoding: 'utf8' });
    return { status: ran.status, words: ran.stdout + ran.stderr };
  };
  /** What the application tells of all that is kept, the files included: an answer as text by its path. */
  const contents = async (from: Application) => {
    const told: Record<string, string> = {};
    const get = async (path: string) => {
      const { status, body } = await from.api(path);
      if (status !== 200) throw new Error(`${path} answers ${status}: ${JSON.stringify(body)}`);
      // Addresses begin with the port of the application.
      told[path] = JSON.stringify(body).replace(/127\.0\.0\.1:\d+/gu, '');
      return body as never;
    };
    const { jobs } = (await get('/jobs')) as { jobs: { id: string; signs: { id: string }[] }[] };
    const ofJobs = jobs.flatMap(({ id }) => [`/jobs/${id}/proofs`, `/jobs/${id}/history`]);
    const ofSigns = jobs.flatMap(({ signs }) => signs.flatMap(({ id }) => [`/signs/${id}`, `/signs/${id}/tasks`]));
    await Promise.all([...ofJobs, ...ofSigns, '/outbox'].map(get));
    return told;
  };
  const isAtWork = async (from: Application) =>
    Object.values(await contents(from)).some((answer) => /"state":"(waiting|running)"/u.test(answer));

  it('is backed up while the application runs, and restored into an empty folder the same', async () => {
    // Work that is still in the queue would go on, here and there. Asking more often would be too many requests a minute.
    // What is done may order more, such as a letter: it has to be quiet for a while.
    let quiet = 0;
    for (const end = Date.now() + 2 * PATIENCE; quiet < 3 && Date.now() < end; await wait(5000))
      quiet = (await isAtWork(application)) ? 0 : quiet + 1;
    expect(quiet).toBe(3);
    expect(run('backup', [file])).toEqual({ status: 0, words: expect.stringContaining('Everything is in') });
    expect(run('backup', [file]).words).toContain('is there already');
    expect(run('restore', [file]).words).toContain('Plain Relief runs from this folder');
    const before = await contents(application);
    rmSync(elsewhere, { recursive: true, force: true });
    const restored = run('restore', [file], elsewhere);
    expect([restored.status, restored.words]).toEqual([0, expect.stringMatching(/Restored \d+ jobs with \d+ signs/u)]);
    await application.stop();
    const other = new Application('restored');
    await other.start({ keep: true });
    const after = await contents(other);
    await other.stop();
    const paths = [...new Set([...Object.keys(before), ...Object.keys(after)])];
    expect(paths.length).toBeGreaterThan(20);
    expect(paths.filter((path) => after[path] !== before[path])).toEqual([]);
  });

  it('is not overwritten unasked, nor by what is no back-up', () => {
    writeFileSync(`${file}.cut`, 'no back-up at all');
    expect(run('restore', [`${file}.cut`], elsewhere).words).toContain('is no back-up of Plain Relief');
    copyFileSync(file, `${file}.cut`);
    truncateSync(`${file}.cut`, Math.round(statSync(file).size * 0.6));
    const cut = run('restore', [`${file}.cut`, '--replace'], elsewhere);
    expect([cut.status, cut.words]).toEqual([1, expect.stringContaining('is damaged')]);
    // What was there is there still.
    expect(run('restore', [file], elsewhere).words).toMatch(/There are \d+ jobs here already/u);
    expect(run('restore', [join(ROOT, 'no-such.backup')], elsewhere).words).toContain('There is no file');
    expect(run('restore', [], elsewhere).words).toContain('./restore FILE');
    expect(run('restore', ['--rubbish', file], elsewhere).status).toBe(1);
  });
});
