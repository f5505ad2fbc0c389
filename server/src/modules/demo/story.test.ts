import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { TestServer } from '../../testing/server.js';
import { loadDemo } from './load.js';

interface JobAnswer {
  readonly id: string;
  readonly number: string;
  readonly state: string;
  readonly signs: readonly { readonly title: string; readonly revision: number; readonly proof?: { readonly state: string } }[];
}
interface ProofAnswer {
  readonly letter: string;
  readonly state: string;
  readonly remarks: readonly object[];
}

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
  await loadDemo(server.db, server.settings, true);
});
afterAll(() => server?.stop());

const DAY_MS = 86_400_000;

it('gives every job the proofs that its state speaks of, some with remarks, a second letter and an approval', async () => {
  const { jobs } = (await server.call<{ jobs: JobAnswer[] }>('GET', '/api/jobs')).body;
  const letters = new Map<string, string[]>();
  for (const { id, number, state, signs } of jobs) {
    const { proofs } = (await server.call<{ proofs: ProofAnswer[] }>('GET', `/api/jobs/${id}/proofs`)).body;
    letters.set(
      number,
      proofs.map((proof) => `${proof.letter} ${proof.state}`),
    );
    if (state === 'proof out') expect(proofs[0].state).toBe('open');
    if (state === 'changes asked') expect(proofs[0].state).toBe('changes asked');
    if (['approved', 'in the shop', 'done'].includes(state))
      expect(signs.every(({ proof }) => proof?.state === 'approved')).toBe(true);
    const { events } = (await server.call<{ events: { at: string }[] }>('GET', `/api/jobs/${id}/history`)).body;
    expect(events.every(({ at }) => Date.parse(at) <= Date.now())).toBe(true);
  }
  expect([...letters.values()].flat().sort()).toEqual(['A approved', 'A approved', 'A approved', 'A changes asked', 'A changes asked', 'B open']); // prettier-ignore
  expect(await server.db.ProofRemark.count()).toBeGreaterThan(4);
  const [first, ...rest] = await server.db.JobEvent.findAll({ order: [['at', 'ASC']] });
  expect(rest.at(-1)!.at.getTime() - first.at.getTime()).toBeGreaterThan(21 * DAY_MS);
});

it('has sent every letter, and lets the turnaround be counted', async () => {
  const outbox = (await server.call<{ mails: { state: string; subject: string }[] }>('GET', '/api/outbox')).body;
  expect(outbox.mails).toHaveLength(6);
  expect(outbox.mails.every(({ state }) => state === 'sent')).toBe(true);
  const { status, body } = await server.call('GET', '/api/turnaround');
  expect(status).toBe(200);
  expect(JSON.stringify(body)).not.toContain('null,null');
});
