import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { CustomerProof, ProofPlates, RunProof, ShopProof } from '@plain-relief/api';
import { newRun, type Run, withList, withValues } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { TestServer } from '../../testing/server.js';
import { treeLabels } from '../../testing/tree-labels.js';

interface Refusal {
  readonly code: string;
  readonly message: string;
  /** Signs with notes left open. */
  readonly signs?: readonly { readonly notes: readonly string[] }[];
}

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const TREES = ['Rowan', 'Alder', 'Yewe', 'Elm', ...Array.from({ length: 26 }, (_, i) => `Oak ${i + 1}`)];
let server: TestServer;
let job: { id: string };
let sign: { id: string; document: Sign };
let run: { id: string; revision: number; document: Run };

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());
beforeEach(async () => {
  ({ job, sign } = await treeLabels(server, '{name}', 'close'));
  const list = withList(newRun(sign.id), { columns: ['name', 'bed'], rows: TREES.map((name) => [name, 'A']) }).run;
  run = (await server.call<typeof run>('POST', `/api/jobs/${job.id}/runs`, { title: 'Spring', document: list })).body;
});

const freeze = (more: object = {}) =>
  server.call<ShopProof & Refusal>('POST', `/api/jobs/${job.id}/proofs`, { signs: [sign.id], recipient: 'grounds@fernhollow.example.org', message: '', days: 14, ...more }); // prettier-ignore
const link = (proof: ShopProof): string => `/api/proof-links/${proof.address!.split('/').at(-1)}`;
const correct = (proof: ShopProof, change: object) =>
  server.call<CustomerProof & Refusal>('POST', `${link(proof)}/corrections`, { run: proof.runs[0].id, row: 3, column: 'name', value: 'Yew', who: 'Marit Solheim', ...change }); // prettier-ignore
const approve = (proof: ShopProof) =>
  server.call<CustomerProof & Refusal>('POST', `${link(proof)}/approval`, { name: 'Marit Solheim', ticks: { spelling: true, sizes: true, colours: true }, choices: {}, digest: proof.digest }); // prettier-ignore
const standing = async () => (await server.call<{ proof: RunProof | null }>('GET', `/api/runs/${run.id}/proof`)).body.proof;
const save = async (document: Run): Promise<void> => {
  const { status } = await server.call('PUT', `/api/runs/${run.id}`, { base: run.revision, title: 'Spring', document });
  expect(status).toBe(200);
  run = { ...run, revision: run.revision + 1, document };
};

describe('a run in a proof', () => {
  it('goes out with its sign, and its plates are read a page at a time', async () => {
    const { status, body: proof } = await freeze();
    expect(status).toBe(201);
    expect(proof.runs).toEqual([{ id: expect.any(String), title: 'Spring', signId: sign.id, rows: 30, slots: [{ slot: 'name', column: 'name' }, { slot: 'no' }] }]); // prettier-ignore
    const plates = async (query: string) => (await server.call<ProofPlates>('GET', `${link(proof)}/runs/${proof.runs[0].id}?${query}`)).body; // prettier-ignore
    const [first, second, found] = [await plates(''), await plates('from=24'), await plates('words=yewe')];
    expect([first.of, first.plates.length, second.plates.length]).toEqual([30, 24, 6]);
    expect(found).toEqual({ of: 1, plates: [{ row: 3, number: 3, title: 'Yewe', values: ['Yewe', '003'] }] });
    // The column “bed” is nothing that customers read.
    expect(JSON.stringify(first)).not.toContain('"A"');
    const picture = `${link(proof)}/runs/${proof.runs[0].id}/plates/3/picture.png`;
    const drawn = await server.inject({ method: 'GET', url: picture });
    expect([drawn.statusCode, drawn.headers['content-type']]).toEqual([200, 'image/png']);
    expect((await server.call('GET', picture.replace('/3/', '/99/'))).status).toBe(404);
    expect((await server.call('GET', picture.replace(proof.runs[0].id, NOWHERE))).status).toBe(404);
  });

  it('with plates that cannot be made goes out only where somebody has seen which', async () => {
    const { body: kept } = await server.call<{ revision: number }>('GET', `/api/signs/${sign.id}`);
    const slots = sign.document.slots!.map((slot) => (slot.name === 'name' ? { ...slot, empty: 'refuse' as const } : slot));
    await server.call('PUT', `/api/signs/${sign.id}`, { base: kept.revision, document: { ...sign.document, slots } });
    await save({ ...run.document, rows: run.document.rows.map((row) => (row.id === 4 ? { ...row, values: ['', 'A'] } : row)) });
    const refused = await freeze();
    expect([refused.status, refused.body.code, refused.body.signs?.[0].notes]).toEqual([409, 'NOTES_OPEN', ['Spring: Plate 4 is not made.']]); // prettier-ignore
    expect((await freeze({ runs: [] })).status).toBe(201);
    const confirmed = [{ signId: sign.id, notes: ['Spring: Plate 4 is not made.'] }];
    expect((await freeze({ confirmed })).status).toBe(201);
  });

  it('is chosen or left out, and cannot go without its sign', async () => {
    expect((await freeze({ runs: [] })).body.runs).toEqual([]);
    const other = (await server.call<typeof sign>('POST', `/api/jobs/${job.id}/signs`, { title: 'Other' })).body;
    expect((await freeze({ signs: [other.id] })).body.runs).toEqual([]);
    expect((await freeze({ signs: [other.id], runs: [run.id] })).body.message).toContain('runs.0: The sign of “Spring” does not go out'); // prettier-ignore
    expect((await freeze({ runs: [NOWHERE] })).body.message).toContain(`runs.0: The job has no run “${NOWHERE}”`);
  });

  it('is part of what is approved: its contents have another name when a row has', async () => {
    const a = (await freeze()).body;
    const same = (await freeze()).body;
    await save(withValues(run.document, [{ row: 3, column: 'name', was: 'Yewe', value: 'Yew' }]).run);
    const b = (await freeze()).body;
    expect([a.digest === same.digest, a.digest === b.digest]).toEqual([true, false]);
    expect((await server.db.FrozenRun.findOne({ where: { proofId: a.id } }))?.document.rows[2].values[0]).toBe('Yewe');
    await expect(server.db.FrozenRun.update({ title: 'Autumn' }, { where: { proofId: a.id } })).rejects.toThrow(
      'A proof is frozen',
    );
  });
});

describe('files of a run', () => {
  const release = (body: object, cookie?: string) =>
    server.call<{ letter: string | null } & Refusal>('POST', `/api/runs/${run.id}/files`, { plates: [1, 2, 3], what: 'Outlines', ...body }, cookie); // prettier-ignore

  it('are made of what was approved, of anything else by somebody who says why', async () => {
    expect((await release({})).body.message).toContain('No proof of these plates has been approved.');
    const a = (await freeze()).body;
    expect((await release({})).body.message).toContain('No proof of these plates has been approved.');
    await approve(a);
    expect((await release({})).body).toEqual({ letter: 'A' });
    await save(withValues(run.document, [{ row: 3, column: 'name', was: 'Yewe', value: 'Yew' }]).run);
    expect([(await release({})).status, (await release({})).body.message]).toEqual([409, expect.stringContaining('Plate 3 has changed since proof A was approved.')]); // prettier-ignore
    // What is sent since changes nothing of what was approved.
    await freeze();
    // One plate again, which is as it was.
    expect((await release({ plates: [2] })).body).toEqual({ letter: 'A' });
    expect((await release({ override: 'Told on the telephone' })).body).toEqual({ letter: null });
    const piet = await server.signIn('Piet of runs', 'maker');
    expect((await release({ override: 'Because' }, piet)).status).toBe(403);
    expect((await release({ plates: [2] }, piet)).body).toEqual({ letter: 'A' });
    expect((await release({ plates: [] })).status).toBe(400);
    const { body: history } = await server.call<{ events: { text: string }[] }>('GET', `/api/jobs/${job.id}/history`);
    expect(history.events.map(({ text }) => text)).toEqual(expect.arrayContaining([
      'Outlines of 3 plates of “Spring” made as approved in proof A',
      'Outlines of plate 2 of “Spring” made as approved in proof A',
      'Outlines of 3 plates of “Spring” made without approval: Told on the telephone',
    ])); // prettier-ignore
  });
});

describe('plates of a sign with options', () => {
  it('are shown as the option that is looked at, and made as the one that was chosen', async () => {
    const part = sign.document.parts[0];
    const options = [
      { id: 'low', name: 'Low', tiers: [{ part: part.id, tier: part.tiers[0].id, amount: 0.5 }] },
      { id: 'none', name: 'Bare', tiers: [{ part: part.id, tier: part.tiers[0].id, on: false }] },
    ];
    await server.call('PUT', `/api/signs/${sign.id}`, { base: 2, document: { ...sign.document, options } });
    await save({ ...run.document, option: 'low' });
    const a = (await freeze()).body;
    const picture = async (query: string) => {
      const url = `${link(a)}/runs/${a.runs[0].id}/plates/3/picture.png${query}`;
      const { statusCode, rawPayload } = await server.inject({ method: 'GET', url });
      return { statusCode, bytes: rawPayload.toString('base64') };
    };
    const [usual, low, bare, strange] = await Promise.all(['', '?option=low', '?option=none', '?option=gone'].map(picture));
    expect([usual.bytes === low.bytes, bare.bytes === low.bytes, bare.statusCode, strange.statusCode]).toEqual([true, false, 200, 404]); // prettier-ignore
    // The sign is seen as its first plate, not as names of columns, as whichever option: alike where its words are off.
    const front = async (query: string) => (await server.inject({ method: 'GET', url: `${link(a)}/signs/${sign.id}/picture.png${query}` })).rawPayload.toString('base64'); // prettier-ignore
    const [shown, shownLow, shownBare] = await Promise.all(['', '?option=low', '?option=none'].map(front));
    expect([shown === shownLow, shownBare === shownLow]).toEqual([true, false]);
    const approved = await server.call<CustomerProof & Refusal>('POST', `${link(a)}/approval`, { name: 'Marit Solheim', ticks: { spelling: true, sizes: true, colours: true }, choices: { [sign.id]: 'none' }, digest: a.digest }); // prettier-ignore
    expect(approved.status).toBe(200);
    expect((await standing())!.option).toEqual({ id: 'none', name: 'Bare', isMade: false });
    const release = () => server.call<{ letter: string | null } & Refusal>('POST', `/api/runs/${run.id}/files`, { plates: [1], what: 'Outlines' }); // prettier-ignore
    expect((await release()).body.message).toContain('“Bare” was chosen in proof A, and the plates are made otherwise.');
    await save({ ...run.document, option: 'none' });
    expect((await standing())!.option?.isMade).toBe(true);
    expect((await release()).body).toEqual({ letter: 'A' });
    // Where the list chooses, what the run named before is no more: its first plate is as its row says.
    const kept = await server.call<{ revision: number }>('GET', `/api/signs/${sign.id}`);
    const slots = [...sign.document.slots!, { name: 'made', empty: 'keep', default: 'Low', sets: { kind: 'option' } }];
    await server.call('PUT', `/api/signs/${sign.id}`, {
      base: kept.body.revision,
      document: { ...sign.document, options, slots },
    });
    const b = (await freeze()).body;
    const frozen = await server.db.FrozenRun.findOne({ where: { proofId: b.id } });
    expect([frozen?.option, frozen?.sample?.parts[0].tiers[0].on]).toEqual([null, true]);
  });
});

describe('corrections of a customer', () => {
  it('come back into the list as proposals; the next proof is approved', async () => {
    const a = (await freeze()).body;
    const { status, body } = await correct(a, {});
    expect([status, body.corrections]).toEqual([201, [expect.objectContaining({ row: 3, number: 3, column: 'name', was: 'Yewe', value: 'Yew', end: null })]]); // prettier-ignore
    expect((await approve(a)).body.message).toContain('corrections: A correction is asked for');
    const asked = await server.call('POST', `${link(a)}/wishes`, { name: 'Marit Solheim', wishes: 'The yew, please.' });
    expect(asked.status).toBe(200);
    const told = (await standing())!;
    expect([told.letter, told.state, told.corrections.map(({ value }) => value)]).toEqual(['A', 'changes asked', ['Yew']]);
    await save(withValues(run.document, told.corrections).run);
    const taken = await server.call<{ end: string }>('POST', `/api/corrections/${told.corrections[0].id}`, { end: 'taken' });
    expect([taken.status, taken.body.end]).toEqual([200, 'taken']);
    expect((await standing())!.changes).toEqual({ isSignChanged: false, changed: [3], added: [], removed: 0 });
    const b = (await freeze()).body;
    expect(b.corrections).toEqual([]);
    expect((await approve(b)).body.state).toBe('approved');
    const approved = (await standing())!;
    expect([approved.letter, approved.state, approved.changes.changed, approved.answeredBy]).toEqual(['B', 'approved', [], 'Marit Solheim']); // prettier-ignore
    const { body: history } = await server.call<{ events: { who: string; text: string }[] }>(
      'GET',
      `/api/jobs/${job.id}/history`,
    );
    const lines = history.events.map(({ who, text }) => `${who}: ${text}`);
    expect(lines).toEqual(expect.arrayContaining([
      'Marit Solheim: On proof A, plate 3 of “Spring”: name “Yewe” to be “Yew”',
      expect.stringContaining('Proof A, plate 3: name “Yew” taken into the list'),
      expect.stringContaining('with 30 plates of “Spring” frozen'),
    ])); // prettier-ignore
  });

  it('are one for a value, changed and taken back by the customer', async () => {
    const a = (await freeze()).body;
    await correct(a, { value: 'Yow' });
    const [first] = (await standing())!.corrections;
    await server.call('POST', `/api/corrections/${first.id}`, { end: 'left' });
    // Said once more it waits for the shop once more.
    expect((await correct(a, { value: 'Yew' })).body.corrections.map(({ value, end }) => [value, end])).toEqual([['Yew', null]]);
    expect((await correct(a, { row: 1, value: 'Rowan tree' })).body.corrections.map(({ number }) => number)).toEqual([1, 3]);
    await correct(a, { value: ' Yewe ' });
    expect((await correct(a, { row: 1, value: 'Rowan' })).body.corrections).toEqual([]);
    expect((await approve(a)).body.state).toBe('approved');
    expect((await correct(a, {})).body.code).toBe('PROOF_ENDED');
  });

  it('of two at once for the same value leave one', async () => {
    const a = (await freeze()).body;
    const all = await Promise.all(Array.from({ length: 8 }, (_, i) => correct(a, { value: `Yew ${i}` })));
    expect(all.every(({ status }) => status === 201)).toBe(true);
    expect(await server.db.CorrectionRow.count({ where: { proofId: a.id } })).toBe(1);
  });

  it('and remarks are refused where there is no such plate or column', async () => {
    const a = (await freeze()).body;
    expect((await correct(a, { row: 99 })).body.message).toContain('row: The run has no plate of row 99.');
    expect((await correct(a, { column: 'bed' })).body.message).toContain('column: The plates have no words of a column “bed”.');
    expect((await correct(a, { run: NOWHERE })).status).toBe(404);
    expect((await correct(a, { value: 'x'.repeat(5000) })).status).toBe(400);
    const remark = (more: object) => server.call<CustomerProof & Refusal>('POST', `${link(a)}/remarks`, { signId: sign.id, text: 'Larger?', who: 'Marit Solheim', run: a.runs[0].id, row: 7, ...more }); // prettier-ignore
    const said = (await remark({})).body.remarks;
    expect(said.map(({ run: of, row, number }) => [of, row, number])).toEqual([[a.runs[0].id, 7, 7]]);
    expect((await remark({ row: undefined })).body.message).toContain('A plate has both, or neither.');
    expect((await remark({ row: 99 })).body.message).toContain('no plate of row 99');
    expect((await remark({ run: NOWHERE })).body.message).toContain('no such run');
    // What was said of plates is found without looking through all.
    const found = await server.call<ProofPlates>('GET', `${link(a)}/runs/${a.runs[0].id}?only=said`);
    expect(found.body.plates.map(({ number }) => number)).toEqual([7]);
    expect((await server.call<Refusal>('POST', `/api/corrections/${NOWHERE}`, { end: 'taken' })).status).toBe(404);
  });
});
