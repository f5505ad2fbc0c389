import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { newOption, newText, type Sign } from '@plain-relief/core/sign';
import fc from 'fast-check';
import { PostOffice } from '../mail/post-office.js';
import { digest } from '../signs/service.js';
import { TestServer } from '../../testing/server.js';
import { proofLetter, ProofService } from './service.js';

interface ProofAnswer {
  readonly id: string;
  readonly letter: string;
  readonly state: string;
  readonly digest: string;
  readonly address: string;
  readonly answeredBy: string | null;
  readonly remarks: { readonly text: string; readonly isFromShop: boolean; readonly across: number | null }[];
  readonly changes?: Record<string, string[]>;
}
interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly changes?: string[];
}

const TICKS = { spelling: true, sizes: true, colours: true };
const NOWHERE = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
let job: { id: string; number: string };
let sign: { id: string; revision: number; document: Sign };

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());
beforeEach(async () => {
  const wanted = { customer: 'Fernhollow Arboretum', title: 'Gate signs', dueOn: null, quantity: 2, unit: 'mm' };
  job = (await server.call<typeof job>('POST', '/api/jobs', wanted)).body;
  sign = (await server.call<typeof sign>('POST', `/api/jobs/${job.id}/signs`, { title: 'West gate' })).body;
  const line = { ...newText(sign.document, 'barlow-semibold'), words: 'Anna Wilmott' };
  await save({ ...sign.document, parts: [line] });
});

async function save(document: Sign): Promise<void> {
  const { status } = await server.call('PUT', `/api/signs/${sign.id}`, { base: sign.revision, document });
  expect(status).toBe(200);
  sign = { ...sign, revision: sign.revision + 1, document };
}

const wanted = (more: object = {}) => ({
  signs: [sign.id],
  recipient: 'grounds@fernhollow.example.org',
  message: 'Please look at the spelling.',
  days: 14,
  ...more,
});
const freeze = async (more: object = {}): Promise<ProofAnswer> => {
  const { status, body } = await server.call<ProofAnswer>('POST', `/api/jobs/${job.id}/proofs`, wanted(more));
  expect([status, (body as unknown as Refusal).message]).toEqual([201, 'Please look at the spelling.']);
  return body;
};
/** The service by itself, with nobody at the queue. */
const serviceOf = (): ProofService =>
  new ProofService(
    server.db,
    new PostOffice(server.db, server.settings),
    server.settings,
    async () => {},
    async () => [],
  );
const link = ({ address }: ProofAnswer): string => `/api/proof-links/${address.split('/').at(-1)}`;
const approve = (proof: ProofAnswer, more: object = {}) =>
  server.call<ProofAnswer & Refusal>('POST', `${link(proof)}/approval`, {
    name: 'Marit Solheim',
    ticks: TICKS,
    choices: {},
    digest: proof.digest,
    ...more,
  });
const jobState = async (): Promise<string> => (await server.call<{ state: string }>('GET', `/api/jobs/${job.id}`)).body.state;
const history = async (): Promise<string[]> =>
  (await server.call<{ events: { who: string; text: string }[] }>('GET', `/api/jobs/${job.id}/history`)).body.events.map(
    ({ who, text }) => `${who}: ${text}`,
  );

describe('freezing a proof', () => {
  it('counts letters within the job, replaces the one before, and writes to the customer', async () => {
    const [a, b] = [await freeze(), await freeze()];
    expect([a.letter, b.letter]).toEqual(['A', 'B']);
    const { body } = await server.call<{ proofs: ProofAnswer[] }>('GET', `/api/jobs/${job.id}/proofs`);
    expect(body.proofs.map(({ letter, state }) => [letter, state])).toEqual([
      ['B', 'open'],
      ['A', 'replaced'],
    ]);
    expect(await jobState()).toBe('proof out');
    const outbox = await server.call<{ isSimulated: boolean; mails: { to: string; text: string; state: string }[] }>(
      'GET',
      '/api/outbox',
    );
    expect(outbox.body.isSimulated).toBe(true);
    const letter = outbox.body.mails.find(({ text }) => text.includes(b.address))!;
    expect([letter.to, letter.state]).toEqual(['grounds@fernhollow.example.org', 'sent']);
    expect(letter.text).toContain('Please look at the spelling.');
    expect((await approve(a)).body.code).toBe('PROOF_ENDED');
    expect([25, 26, 27, 701, 702].map(proofLetter)).toEqual(['Z', 'AA', 'AB', 'ZZ', 'AAA']);
  });

  it('gives each of many at once a letter of its own, and leaves one that counts', async () => {
    // More than there are connections: none may wait for a second one while it holds the job.
    const all = await Promise.all(Array.from({ length: 15 }, () => freeze()));
    expect(all.map(({ letter }) => letter).sort()).toEqual([...'ABCDEFGHIJKLMNO']);
    expect(await server.db.Proof.count({ where: { jobId: job.id, state: 'open' } })).toBe(1);
  });

  it('keeps its bytes whatever is done to the sign afterwards (property)', async () => {
    const proof = await freeze();
    const kept = async () => {
      const [rows] = await server.db.sequelize.query('SELECT contents::text AS contents, digest FROM proofs WHERE id = ?', {
        replacements: [proof.id],
      });
      return JSON.stringify(rows);
    };
    const before = await kept();
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 2, max: 80 }), fc.stringMatching(/^[A-Za-z ]{1,20}$/u), async (thickness, words) => {
        const [line] = sign.document.parts;
        const parts = line.kind === 'text' ? [{ ...line, words }] : [line];
        await save({ ...sign.document, blank: { ...sign.document.blank, thickness }, parts });
        expect(await kept()).toBe(before);
      }),
      { numRuns: 15 },
    );
    await server.call('DELETE', `/api/signs/${sign.id}`);
    expect(await kept()).toBe(before);
    const row = (await server.db.Proof.findByPk(proof.id))!;
    expect(digest(row.getDataValue('contents'))).toBe(proof.digest);
  });

  it('keeps layout, card, order and revisions as they were', async () => {
    const layout = { paper: 'Letter', isUpright: true, isInBothUnits: true, shows: ['picture', 'terms'] };
    await freeze();
    await save({ ...sign.document, blank: { ...sign.document.blank, thickness: 7 } });
    const proof = await freeze({ layout });
    const kept = async () => (await server.db.Proof.findByPk(proof.id))!.about!;
    const before = await kept();
    expect(before.layout).toEqual(layout);
    expect(before.brief.quantity).toBe(2);
    expect(before.revisions.map(({ letter, state, changes }) => [letter, state, changes])).toEqual([
      ['A', 'replaced', []],
      ['B', 'this proof', ['Blank: thickness 12 mm → 7 mm']],
    ]);
    // Its customer sees the same list.
    const { token } = (await server.db.Proof.findByPk(proof.id))!;
    const { body: seen } = await server.call<{ changes: unknown }>('GET', `/api/proof-links/${token}`);
    expect(seen.changes).toEqual({ since: 'A', changes: ['Blank: thickness 12 mm → 7 mm'] });
    const card = { name: 'Another Name', contact: 'elsewhere', terms: 'All is due.' };
    expect((await server.call('PUT', '/api/shop/card', card)).status).toBe(200);
    await server.call('PATCH', `/api/jobs/${job.id}`, { quantity: 9 });
    expect(await kept()).toEqual(before);
    await expect(server.db.sequelize.query(`UPDATE proofs SET about = '{}' WHERE id = '${proof.id}'`)).rejects.toThrow(
      'never changes',
    );
    // The next one says what is so now.
    const next = (await server.db.Proof.findByPk((await freeze()).id))!.about!;
    expect([next.shop, next.brief.quantity]).toEqual([card, 9]);
    for (const wrong of [{ ...layout, paper: 'A9' }, { ...layout, shows: ['everything'] }, { ...layout, shows: ['terms', 'terms'] }, {}])
      expect((await server.call('POST', `/api/jobs/${job.id}/proofs`, wanted({ layout: wrong }))).status).toBe(400); // prettier-ignore
  });

  it('is compared with the sign as it is now in a drawing of both', async () => {
    const proof = await freeze();
    const { outline } = sign.document.blank;
    if (outline.kind !== 'rectangle') throw new Error('The blank is a rectangle.');
    await save({
      ...sign.document,
      title: '<script>',
      blank: { ...sign.document.blank, outline: { ...outline, width: outline.width + 50 } },
    });
    const answer = await server.inject({ url: `/api/proofs/${proof.id}/signs/${sign.id}/comparison.svg` });
    expect([answer.statusCode, answer.headers['content-type']]).toEqual([200, 'image/svg+xml; charset=utf-8']);
    for (const words of ['was edge', 'is edge', '#b3402e', '#1f5f57']) expect(answer.body).toContain(words);
    expect(answer.body).not.toContain('<script>');
  });

  it('is counted in the turnaround: rounds, days to the answer, days to the approval', async () => {
    const proof = await freeze();
    await server.call('POST', `${link(proof)}/wishes`, { name: 'Marit', wishes: 'Larger.' });
    await approve(await freeze());
    const { body } = await server.call<{ jobs: { number: string; rounds: number; approvedAt: string; firstSentAt: string; daysToAnswer: number[] }[] }>('GET', '/api/turnaround'); // prettier-ignore
    const mine = body.jobs.find(({ number }) => number === job.number)!;
    expect(mine.rounds).toBe(2);
    expect(mine.daysToAnswer).toHaveLength(2);
    expect(Math.max(...mine.daysToAnswer)).toBeLessThan(0.01);
    expect(Date.parse(mine.approvedAt)).toBeGreaterThanOrEqual(Date.parse(mine.firstSentAt));
    // What was agreed is not removed.
    const removed = await server.call<Refusal>('DELETE', `/api/jobs/${job.id}`);
    expect([removed.status, removed.body.code]).toEqual([409, 'JOB_IS_APPROVED']);
  });

  it('is refused any change by the database itself', async () => {
    const proof = await freeze();
    const change = (sql: string) => server.db.sequelize.query(`UPDATE proofs SET ${sql} WHERE id = '${proof.id}'`);
    await expect(change(`contents = '[]'`)).rejects.toThrow('A proof is frozen');
    await expect(change(`digest = 'x'`)).rejects.toThrow('A proof is frozen');
    await approve(proof);
    await expect(change(`state = 'open'`)).rejects.toThrow('A proof has one end');
    await expect(change(`answered_by = 'Somebody else'`)).rejects.toThrow('A proof has one end');
  });

  it('says what has changed since', async () => {
    await freeze();
    const [line] = sign.document.parts;
    if (line.kind !== 'text') throw new Error('The part is words.');
    await save({ ...sign.document, parts: [{ ...line, words: 'Anna Willmott' }] });
    const { body } = await server.call<{ proofs: ProofAnswer[] }>('GET', `/api/jobs/${job.id}/proofs`);
    expect(body.proofs[0].changes![sign.id]).toEqual(['Line 1: ‘Wilmott’ → ‘Willmott’']);
    await save({ ...sign.document, parts: [line] });
    const again = await server.call<{ proofs: ProofAnswer[] }>('GET', `/api/jobs/${job.id}/proofs`);
    expect(again.body.proofs[0].changes![sign.id]).toEqual([]);
  });

  it.each([
    [{ signs: [] }, 'signs'],
    [{ signs: [NOWHERE] }, 'signs.0'],
    [{ recipient: 'Marit' }, 'recipient'],
    [{ recipient: 'a@b.example, c@d.example' }, 'recipient'],
    [{ days: 0 }, 'days'],
    [{ message: 'x'.repeat(4001) }, 'message'],
  ])('refuses what is wrong by its field (%#)', async (more, field) => {
    const { status, body } = await server.call<Refusal>('POST', `/api/jobs/${job.id}/proofs`, wanted(more));
    expect([status, body.message.startsWith(field)]).toEqual([400, true]);
  });
});

describe('the customer', () => {
  it('sees the proof and nothing of the shop besides, and is noted as having seen it', async () => {
    const proof = await freeze();
    const { body } = await server.call<Record<string, unknown>>('GET', link(proof));
    expect(Object.keys(body).sort()).toEqual(
      [
        'answeredBy', 'choices', 'corrections', 'createdAt', 'customer', 'digest', 'endedAt', 'expiresAt', 'isSheetReady', 'job', 'letter',
        'message', 'places', 'remarks', 'runs', 'shop', 'signs', 'state', 'wishes',
      ], // prettier-ignore
    );
    expect(JSON.stringify(body)).not.toContain('grounds@fernhollow');
    await server.call('GET', link(proof));
    expect((await history()).filter((text) => text === 'the customer: Proof A opened')).toHaveLength(1);
  });

  it('approves with a name and every tick, which moves the job and is written down', async () => {
    const proof = await freeze();
    for (const ticks of [{}, { ...TICKS, sizes: false }, { spelling: true, colours: true }])
      expect((await approve(proof, { ticks })).status).toBe(400);
    expect((await approve(proof, { name: '  ' })).status).toBe(400);
    expect((await approve(proof, { digest: 'f'.repeat(64) })).body.code).toBe('OTHER_CONTENTS');
    const { status, body } = await approve(proof);
    expect([status, body.state, body.answeredBy]).toEqual([200, 'approved', 'Marit Solheim']);
    expect(await jobState()).toBe('approved');
    expect((await history())[0]).toBe('Marit Solheim: Proof A approved: spelling, sizes and colours ticked');
    const kinds = (await server.db.Task.findAll({ where: { proofId: proof.id } })).map(({ kind }) => kind);
    expect(kinds.sort()).toEqual(['sheet', 'stamped sheet']);
  });

  it('chooses an option of every sign that has any', async () => {
    await save({ ...sign.document, options: [newOption(sign.document)] });
    const proof = await freeze();
    const [option] = sign.document.options!;
    const refused = await approve(proof);
    expect([refused.status, refused.body.message]).toEqual([
      400,
      `choices.${sign.id}: Choose one of the options of “West gate”: Option A.`,
    ]);
    expect((await approve(proof, { choices: { [sign.id]: 'option-99' } })).status).toBe(400);
    expect((await approve(proof, { choices: { [sign.id]: option.id } })).status).toBe(200);
    expect((await history())[0]).toContain('“West gate” as Option A');
  });

  it('puts remarks at places, asks for changes, and gets an answer', async () => {
    const proof = await freeze();
    const said = { signId: sign.id, who: 'Marit', text: 'Two l in Willmott', across: 0.4, down: 0.5 };
    expect((await server.call('POST', `${link(proof)}/remarks`, said)).status).toBe(201);
    await server.call('POST', `/api/proofs/${proof.id}/remarks`, { signId: sign.id, text: 'Thank you, B will have it.' });
    const { body } = await server.call<ProofAnswer>('GET', link(proof));
    expect(body.remarks.map(({ text, isFromShop, across }) => [text, isFromShop, across])).toEqual([
      ['Two l in Willmott', false, 0.4],
      ['Thank you, B will have it.', true, null],
    ]);
    const wishes = { name: 'Marit Solheim', wishes: 'Willmott with two l' };
    expect((await server.call<ProofAnswer>('POST', `${link(proof)}/wishes`, wishes)).body.state).toBe('changes asked');
    expect(await jobState()).toBe('changes asked');
    const late = await server.call<Refusal>('POST', `${link(proof)}/remarks`, said);
    expect([late.status, late.body.code]).toEqual([409, 'PROOF_ENDED']);
  });

  it.each([
    [{ across: 1.2, down: 0 }, 400],
    [{ across: 0.5 }, 400],
    [{ signId: NOWHERE }, 400],
    [{ option: 'none-such' }, 400],
    [{ text: ' ' }, 400],
    [{ text: 'x'.repeat(2001) }, 400],
    [{ text: '<script>alert(1)</script>' }, 201],
  ])('answers a remark as it is good or bad (%#)', async (more, status) => {
    const proof = await freeze();
    const said = { signId: sign.id, who: 'Marit', text: 'Hello', ...more };
    expect((await server.call('POST', `${link(proof)}/remarks`, said)).status).toBe(status);
  });

  it('finds nothing at a guessed, an expired or a withdrawn address', async () => {
    const guessed = await server.call<Refusal>('GET', `/api/proof-links/${'A'.repeat(43)}`);
    expect([guessed.status, guessed.body.code]).toEqual([404, 'NO_SUCH_LINK']);
    expect((await server.call('GET', '/api/proof-links/short')).status).toBe(400);
    const proof = await freeze();
    const withdrawn = await server.call<ProofAnswer>('POST', `/api/proofs/${proof.id}/withdraw`, {});
    expect(withdrawn.body.state).toBe('withdrawn');
    const gone = await server.call<Refusal>('GET', link(proof));
    expect([gone.status, gone.body.code]).toEqual([410, 'LINK_WITHDRAWN']);
    const next = await freeze();
    await server.db.Proof.update({ expiresAt: new Date(Date.now() - 1000) }, { where: { id: next.id } });
    for (const answer of [await server.call<Refusal>('GET', link(next)), await approve(next)])
      expect([answer.status, answer.body.code]).toEqual([410, 'LINK_EXPIRED']);
    expect((await server.db.Proof.findByPk(next.id))!.state).toBe('open');
  });

  it('gets one outcome where approval and withdrawal, or two approvals, come at the same moment', async () => {
    for (let round = 0; round < 8; round++) {
      const proof = await freeze();
      const answers = await Promise.all([
        approve(proof),
        round % 2 === 0 ? server.call('POST', `/api/proofs/${proof.id}/withdraw`, {}) : approve(proof, { name: 'Tobias Renn' }),
      ]);
      expect(answers.map(({ status }) => status).sort()).toEqual([200, expect.any(Number)]);
      const { state, answeredBy } = (await server.db.Proof.findByPk(proof.id))!;
      expect(state).toBe(answers[0].status === 200 || round % 2 === 1 ? 'approved' : 'withdrawn');
      if (state === 'approved') expect(answeredBy).toBe(answers[0].status === 200 ? 'Marit Solheim' : 'Tobias Renn');
      const ends = (await history()).filter((text) => new RegExp(`Proof ${proof.letter} (approved|withdrawn)`, 'u').test(text));
      expect(ends).toHaveLength(1);
    }
  });

  it('does not count as having opened it when the shop looks, nor asks for a sheet by looking', async () => {
    const proof = await freeze();
    await server.db.Task.update({ state: 'failed' }, { where: { proofId: proof.id } });
    for (let look = 0; look < 3; look++) {
      const { status, body } = await server.call<{ isSheetReady: boolean }>('GET', `${link(proof)}?by=shop`);
      expect([status, body.isSheetReady]).toEqual([200, false]);
    }
    expect((await server.call('GET', `${link(proof)}?by=somebody`)).status).toBe(400);
    expect((await history()).some((text) => text.includes('opened'))).toBe(false);
    expect(await server.db.Task.count({ where: { proofId: proof.id } })).toBe(1);
    expect((await server.call<Refusal>('GET', `${link(proof)}/sheet.pdf`)).body.code).toBe('NOT_READY');
  });

  it('gets the sheets that a crash between two steps kept from being asked for', async () => {
    const proof = await freeze();
    await approve(proof);
    await server.db.Task.destroy({ where: { proofId: proof.id } });
    await serviceOf().upkeep();
    const tasks = await server.db.Task.findAll({ where: { proofId: proof.id } });
    expect(tasks.map(({ kind, state }) => [kind, state]).sort()).toEqual([
      ['sheet', 'waiting'],
      ['stamped sheet', 'waiting'],
    ]);
    await serviceOf().upkeep();
    expect(await server.db.Task.count({ where: { proofId: proof.id } })).toBe(2);
  });

  it('is reminded once, when the time has come and nothing came back', async () => {
    const proof = await freeze({ remindAfter: 3 });
    const service = serviceOf();
    const letters = () => server.db.Mail.count({ where: { jobId: job.id } });
    await service.remind();
    expect(await letters()).toBe(1);
    const later = new Date(Date.now() + 4 * 86_400_000);
    await Promise.all([service.remind(later), service.remind(later)]);
    await service.remind(later);
    expect(await letters()).toBe(2);
    const [reminder] = await server.db.Mail.findAll({ where: { jobId: job.id }, order: [['writtenAt', 'DESC']], limit: 1 });
    expect(reminder.subject).toBe('Waiting for you: proof A of Gate signs');
    expect(reminder.text).toContain(proof.address);
  });
});

describe('production', () => {
  const ask = (more: object = {}) => server.call<Refusal>('POST', `/api/signs/${sign.id}/tasks`, { kind: 'stl', ...more });

  it('is locked until a proof is approved, and again when the sign changes', async () => {
    const before = await ask();
    expect([before.status, before.body.code]).toEqual([409, 'NOT_APPROVED']);
    expect((await server.call('POST', `/api/signs/${sign.id}/tasks`, { kind: 'proof' })).status).toBe(202);
    await approve(await freeze());
    expect((await ask()).status).toBe(202);
    const [line] = sign.document.parts;
    await save({ ...sign.document, parts: [{ ...line, locked: true }] });
    expect((await ask()).status).toBe(202);
    await save({ ...sign.document, blank: { ...sign.document.blank, thickness: 5 } });
    const after = await ask();
    expect([after.status, after.body.changes]).toEqual([409, ['Blank: thickness 12 mm → 5 mm']]);
    const { body } = await server.call<{ isCleared: boolean; reason: string; letter: string }>(
      'GET',
      `/api/signs/${sign.id}/clearance`,
    );
    expect([body.isCleared, body.letter, body.reason]).toEqual([false, 'A', 'The sign has changed since proof A was approved.']);
  });

  it('can be unlocked by somebody who gives name and reason, and that is written down', async () => {
    for (const override of ['', '   ', {}, 'x'.repeat(2000)]) expect((await ask({ override })).status).toBe(400);
    expect((await ask({ override: 'Test cut in foam' })).status).toBe(202);
    expect((await history())[0]).toBe(
      'Runa Aldous: stl of “West gate” (revision 2) asked for without approval: Test cut in foam',
    );
  });

  it('makes the option that was chosen, and no other', async () => {
    const one = newOption(sign.document);
    await save({ ...sign.document, options: [one, { ...one, id: 'option-2', name: 'Option B' }] });
    await approve(await freeze(), { choices: { [sign.id]: 'option-2' } });
    expect((await ask({ option: 'option-2' })).status).toBe(202);
    const other = await ask({ option: one.id });
    expect([other.status, other.body.message]).toEqual([409, expect.stringContaining('The customer chose Option B in proof A.')]);
    expect((await ask()).status).toBe(409);
  });
});
