import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { newText, type Sign } from '@plain-relief/core/sign';
import { TestServer } from '../../testing/server.js';

interface SignAnswer {
  readonly id: string;
  readonly revision: number;
  readonly document: Sign;
  readonly job: { readonly id: string };
  readonly proof?: { readonly letter: string; readonly state: string; readonly revision: number };
}
interface JobAnswer {
  readonly id: string;
  readonly state: string;
  readonly signs: readonly { readonly id: string; readonly title: string; readonly proof?: object }[];
}
interface ProofAnswer {
  readonly id: string;
  readonly digest: string;
  readonly address: string;
  readonly newer?: { readonly letter: string; readonly token: string };
  readonly signs: readonly { readonly spelling: readonly string[] }[];
}
interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly signs: readonly { readonly signId: string; readonly title: string; readonly notes: readonly string[] }[];
}

let server: TestServer;
let job: JobAnswer;

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());
beforeEach(async () => {
  job = await newJob('Gate signs');
});

async function newJob(title: string): Promise<JobAnswer> {
  const wanted = { customer: 'Fernhollow Arboretum', title, dueOn: null, quantity: 2, unit: 'mm' };
  return (await server.call<JobAnswer>('POST', '/api/jobs', wanted)).body;
}

async function addSign(title: string, words = 'Anna Wilmott', change: (sign: Sign) => void = () => {}): Promise<SignAnswer> {
  const { body } = await server.call<SignAnswer>('POST', `/api/jobs/${job.id}/signs`, { title });
  const document: Sign = { ...body.document, parts: [{ ...newText(body.document, 'barlow-semibold'), words }] };
  change(document);
  const { status } = await server.call('PUT', `/api/signs/${body.id}`, { base: body.revision, document });
  expect(status).toBe(200);
  return { ...body, document, revision: body.revision + 1 };
}

const freeze = <T = ProofAnswer>(signs: readonly SignAnswer[], more: object = {}) =>
  server.call<T>('POST', `/api/jobs/${job.id}/proofs`, {
    signs: signs.map(({ id }) => id),
    recipient: 'grounds@fernhollow.example.org',
    message: '',
    days: 14,
    ...more,
  });
const link = ({ address }: ProofAnswer): string => `/api/proof-links/${address.split('/').at(-1)}`;
const approve = (proof: ProofAnswer) =>
  server.call('POST', `${link(proof)}/approval`, {
    name: 'Marit Solheim',
    ticks: { spelling: true, sizes: true, colours: true },
    choices: {},
    digest: proof.digest,
  });
const shown = async (): Promise<JobAnswer> => (await server.call<JobAnswer>('GET', `/api/jobs/${job.id}`)).body;
const signOf = async ({ id }: SignAnswer): Promise<SignAnswer> => (await server.call<SignAnswer>('GET', `/api/signs/${id}`)).body;

describe('where signs stand with the customer', () => {
  it('is told of each by itself: a job is approved when all its signs are', async () => {
    const [west, east] = [await addSign('West gate'), await addSign('East gate')];
    const { body: a } = await freeze([west]);
    expect((await signOf(west)).proof).toEqual({ letter: 'A', state: 'open', revision: west.revision });
    expect((await approve(a)).status).toBe(200);
    expect((await shown()).state).toBe('layout');
    expect((await shown()).signs.map(({ proof }) => proof)).toEqual([
      { letter: 'A', state: 'approved', revision: west.revision },
      undefined,
    ]);
    const { body: b } = await freeze([east]);
    await approve(b);
    expect((await shown()).state).toBe('approved');
    // A withdrawn proof counts no more: what was approved before does.
    const { body: c } = await freeze([west]);
    expect((await signOf(west)).proof).toMatchObject({ letter: 'C', state: 'open' });
    await server.call('POST', `/api/proofs/${c.id}/withdraw`, {});
    expect((await signOf(west)).proof).toMatchObject({ letter: 'A', state: 'approved' });
  });

  it('leads from a replaced proof to the one that took its place', async () => {
    const sign = await addSign('West gate');
    const [{ body: a }, { body: b }] = [await freeze([sign]), await freeze([sign])];
    const { body } = await server.call<ProofAnswer>('GET', link(a));
    expect(body.newer).toEqual({ letter: 'B', token: b.address.split('/').at(-1) });
    await server.call('POST', `/api/proofs/${b.id}/withdraw`, {});
    expect((await server.call<ProofAnswer>('GET', link(a))).body.newer).toBeUndefined();
  });
});

describe('notes that are left open', () => {
  /** A pocket that leaves a floor of less than a tenth. */
  const thin = (sign: Sign): void => {
    sign.blank.thickness = 3;
    sign.parts[0].tiers[0].action = { kind: 'carve', by: 2.95 };
  };

  it('are confirmed sign by sign before a proof goes out, and stand in the history under a name', async () => {
    const [west, east] = [await addSign('West gate'), await addSign('East gate', 'East', thin)];
    const { status, body } = await freeze<Refusal>([west, east]);
    expect([status, body.code]).toEqual([409, 'NOTES_OPEN']);
    expect(body.signs.map(({ title }) => title)).toEqual(['East gate']);
    expect(await server.db.Proof.count({ where: { jobId: job.id } })).toBe(0);
    const [{ signId, notes }] = body.signs;
    expect((await freeze([west, east], { confirmed: [{ signId, notes: notes.slice(1) }] })).status).toBe(409);
    expect((await freeze([west, east], { confirmed: [{ signId, notes }] })).status).toBe(201);
    const { body: told } = await server.call<{ events: { text: string }[] }>('GET', `/api/jobs/${job.id}/history`);
    const sentence = told.events.find(({ text }) => text.includes('left open'))!.text;
    expect(sentence).toContain('on “East gate” left open');
    expect(sentence).toContain(notes[0]);
    // Without the sign nothing is left open.
    expect((await freeze([west])).status).toBe(201);
  });

  it('do not come with characters that are not made: those are not in the spelling', async () => {
    const sign = await addSign('West gate', 'Anna 🙂 Wilmott\u{e000}');
    const { body: refused } = await freeze<Refusal>([sign]);
    const [{ notes }] = refused.signs;
    const { body } = await freeze([sign], { confirmed: [{ signId: sign.id, notes }] });
    expect(body.signs[0].spelling).toEqual(['Anna  Wilmott']);
  });
});

describe('a sign', () => {
  it('is copied within its job and to another, with a title of its own and the picture that it is drawn over', async () => {
    const other = await newJob('Other gates');
    const file = await server.db.JobFile.create({
      id: '6f1b2c3d-0000-4000-8000-000000000001',
      jobId: job.id,
      name: 'rubbing.png',
      size: 3,
      content: Buffer.from('png'),
      createdAt: new Date(),
    });
    const sign = await addSign('West gate', 'West', (document) => {
      document.ground = { file: file.id, x: 0, y: 0, width: 50, height: 40, shows: 50 };
      document.context = { file: file.id, name: 'rubbing.png', unit: 1, place: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, -9] };
    });
    const kept = await server.call<Refusal>('DELETE', `/api/files/${file.id}`);
    expect([kept.status, kept.body.message]).toEqual([409, expect.stringContaining('shown with the sign “West gate”')]);
    const near = await server.call<SignAnswer>('POST', `/api/signs/${sign.id}/copies`, { title: ' East gate ' });
    expect([near.status, near.body.document.title, near.body.job.id]).toEqual([201, 'East gate', job.id]);
    expect(near.body.document.ground).toEqual(sign.document.ground);
    const far = await server.call<SignAnswer>('POST', `/api/signs/${sign.id}/copies`, { title: 'South gate', job: other.id });
    expect(far.body.job.id).toBe(other.id);
    const { ground, context, ...rest } = far.body.document;
    const { ground: before, context: object, ...wanted } = sign.document;
    expect(context).toEqual({ ...object, file: ground!.file });
    expect(rest).toEqual({ ...wanted, title: 'South gate' });
    expect({ ...ground, file: '' }).toEqual({ ...before, file: '' });
    expect(ground!.file).not.toBe(file.id);
    expect((await server.db.JobFile.findByPk(ground!.file))!.jobId).toBe(other.id);
    const refused = await server.call<Refusal>('POST', `/api/signs/${sign.id}/copies`, { title: ' ' });
    expect(refused.status).toBe(400);
    expect((await server.call('POST', `/api/signs/${sign.id}/copies`, { title: 'X', job: 'none' })).status).toBe(404);
  });

  it('goes to another job while no proof shows it', async () => {
    const other = await newJob('Other gates');
    const sign = await addSign('West gate');
    const moved = await server.call<SignAnswer>('POST', `/api/signs/${sign.id}/move`, { job: other.id });
    expect([moved.status, moved.body.job.id]).toEqual([200, other.id]);
    expect((await shown()).signs).toEqual([]);
    await server.call('POST', `/api/signs/${sign.id}/move`, { job: job.id });
    await freeze([sign]);
    const refused = await server.call<Refusal>('POST', `/api/signs/${sign.id}/move`, { job: other.id });
    expect([refused.status, refused.body.code]).toEqual([409, 'SIGN_IS_PROVED']);
    expect(refused.body.message).toContain('proof A shows it');
  });
});
