import type { NewCorrection } from '@plain-relief/api';
import { type CorrectionEnd, COUNTING_PROOF_STATES, type ProofState } from '@plain-relief/api/states';
import {
  isOptionOfList,
  numbersInWords,
  plateDocument,
  type ReadPlates,
  readPlates,
  readSlots,
  type Run,
  type RunChanges,
  runChanges,
  type Values,
  valuesOfRun,
} from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { LRUCache } from 'lru-cache';
import { randomUUID } from 'node:crypto';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { Proof, ProofSign } from '../../platform/database/models/proofs.js';
import type { CorrectionRow, FrozenRun, RunRow } from '../../platform/database/models/runs.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import { record } from '../history/record.js';
import type { NamedPicture, SignPictures } from '../signs/pictures.js';
import { rowBraille } from '../braille/row-braille.js';

/** Plates that a customer is shown at once. */
const PLATES_AT_ONCE = 24;
/** Of one proof. */
const MOST_CORRECTIONS = 2000;

/** A run that goes out with a proof. */
export type RunToFreeze = Omit<FrozenRun['dataValues'], 'proofId'>;

/**
 * The runs of a job that go out with signs of it, as they are now.
 * @param wanted ids; all of those signs where nothing is said
 * @throws ServerError where there is no such run, or its sign does not go out
 */
export async function runsToFreeze(
  db: Database,
  jobId: string,
  contents: readonly ProofSign[],
  wanted: readonly string[] | undefined,
  transaction: Transaction,
): Promise<RunToFreeze[]> {
  const rows = await db.RunRow.findAll({ where: { jobId }, order: [['createdAt', 'ASC']], transaction });
  const signOf = (run: Run): ProofSign | undefined => contents.find(({ signId }) => signId === run.sign);
  for (const [i, id] of (wanted ?? []).entries()) {
    const run = rows.find((row) => row.id === id);
    if (!run) throw errors.badRequest([{ path: `runs.${i}`, message: `The job has no run “${id}”: choose from its runs.` }]);
    if (!signOf(run.document)) throw errors.badRequest([{ path: `runs.${i}`, message: `The sign of “${run.title}” does not go out with this proof: choose it as well.` }]); // prettier-ignore
  }
  const shown = rows.filter(({ id, document, rowCount }) => (wanted ? wanted.includes(id) : rowCount > 0 && signOf(document)));
  const frozen = shown.map(async ({ id: runId, title, rowCount, document }, position) => {
    const { signId, document: sign } = signOf(document)!;
    const sample = document.rows.length > 0 ? await plateSaid(sign, unchosen(document), document.rows[0].id, valuesOfRun(sign, document)) : null; // prettier-ignore
    return {
      id: randomUUID(),
      position,
      runId,
      signId,
      title,
      rowCount,
      slots: readSlots(sign, document),
      document,
      // A list that chooses it has said so in its sample.
      option: isOptionOfList(sign) ? null : (document.option ?? null),
      sample: sample ?? null,
    };
  });
  return Promise.all(frozen);
}

/** A run whose plates are as the sign is: which option they are seen as is asked later. */
const unchosen = ({ option: _, ...run }: Run): Run => run;

/** A plate with what its braille says; undefined where the run has no such row. */
async function plateSaid(sign: Sign, run: Run, row: number, values: readonly Values[]): Promise<Sign | undefined> {
  const at = run.rows.findIndex(({ id }) => id === row);
  if (at < 0) return undefined;
  const cellsOf = await rowBraille(sign, [{ values: values[at], corrections: run.rows[at].corrections }]);
  return plateDocument(sign, run, row, values, cellsOf);
}

/** A frozen run with its sign, and the values of its rows. */
interface Frozen {
  readonly run: FrozenRun;
  readonly sign: Sign;
  readonly values: readonly Values[];
}

/** Frozen runs that were looked at of late: they never change, are large, and a page of plates asks for one many times. */
const looked = new LRUCache<string, Frozen>({ max: 6 });

async function frozenRun(db: Database, proof: Proof, id: string): Promise<Frozen> {
  const known = looked.get(id);
  if (known?.run.proofId === proof.id) return known;
  const run = isUuid(id) ? await db.FrozenRun.findOne({ where: { id, proofId: proof.id } }) : null;
  const sign = run && proof.contents.find(({ signId }) => signId === run.signId)?.document;
  if (!run || !sign) throw errors.notFound('run', id);
  const found = { run, sign, values: valuesOfRun(sign, run.document) };
  looked.set(id, found);
  return found;
}

/** What of a frozen run is asked for. */
export interface PlatesAsked {
  /** How many are passed over, as it is written. */
  readonly from?: string;
  readonly words?: string;
  readonly only?: 'said';
}

/** Plates of a frozen run, as they are read. */
export async function platesOfRun(
  db: Database,
  proof: Proof,
  id: string,
  { from = '0', words, only }: PlatesAsked,
): Promise<ReadPlates> {
  const { run, sign, values } = await frozenRun(db, proof, id);
  const said = [...(proof.remarks ?? []), ...(proof.corrections ?? [])].flatMap((each) => (each.run === id && each.row !== null ? [each.row] : [])); // prettier-ignore
  const choice = { from: Number(from), most: PLATES_AT_ONCE, words, ...(only && { rows: new Set(said) }) };
  return readPlates(sign, run.document, choice, values);
}

/** A plate of a frozen run from the front, as a PNG file. @param option of its sign that it is seen as; none: the one that the run names */
export async function platePicture(
  db: Database,
  pictures: SignPictures,
  proof: Proof,
  id: string,
  row: number,
  option = '',
): Promise<NamedPicture> {
  const { run, sign, values } = await frozenRun(db, proof, id);
  if (option !== '' && !sign.options?.some((each) => each.id === option)) throw errors.notFound('option', option);
  const document = await plateSaid(sign, option === '' ? run.document : { ...run.document, option }, row, values);
  if (!document) throw errors.notFound('plate', String(row));
  return pictures.plate(`${run.id} ${row} ${option}`, document);
}

/** The number in its list of a row of a frozen run. @throws ServerError where there is none */
export async function plateNumber(db: Database, proof: Proof, id: string, row: number): Promise<number> {
  const { run } = await frozenRun(db, proof, id);
  const at = run.document.rows.findIndex((each) => each.id === row);
  if (at < 0) throw errors.badRequest([{ path: 'row', message: `The run has no plate of row ${row}.` }]);
  return at + 1;
}

/**
 * Takes down that a customer would have a value of a plate otherwise, in place of what was said of it before; the value that it has takes
 * that back.
 */
export async function correct(
  db: Database,
  proof: Proof,
  { run: id, row, column, value, who }: NewCorrection,
  at: Date,
): Promise<void> {
  const { run } = await frozenRun(db, proof, id);
  const number = await plateNumber(db, proof, id, row);
  if (!run.slots.some((slot) => slot.column === column))
    throw errors.badRequest([{ path: 'column', message: `The plates have no words of a column “${column}”.` }]);
  const was = run.document.rows[number - 1].values[run.document.columns.indexOf(column)];
  const words = value.trim();
  const where = { run: id, row, column };
  await db.sequelize.transaction(async (transaction) => {
    const now = await db.Proof.findByPk(proof.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!now) throw errors.notFound('proof', proof.id);
    if (now.state !== 'open') throw errors.proofEnded(now.letter, now.state);
    const before = await db.CorrectionRow.findOne({ where, transaction });
    if (words === was.trim()) {
      if (!before) return;
      await before.destroy({ transaction });
      await record(db, { jobId: now.jobId, who: who.trim(), text: `On proof ${now.letter}, plate ${number} of “${run.title}”: the correction of ${column} taken back`, at }, transaction); // prettier-ignore
      return;
    }
    if (!before && (await db.CorrectionRow.count({ where: { proofId: proof.id }, transaction })) >= MOST_CORRECTIONS)
      throw errors.tooManyRemarks(MOST_CORRECTIONS);
    // What the shop made of an earlier one is none of this one.
    const change = { value: words, who: who.trim(), at, end: null };
    if (before) await before.update(change, { transaction });
    else await db.CorrectionRow.create({ ...where, ...change, id: randomUUID(), proofId: proof.id, number, was, end: null }, { transaction }); // prettier-ignore
    await record(db, { jobId: now.jobId, who: who.trim(), text: `On proof ${now.letter}, plate ${number} of “${run.title}”: ${column} “${was}” to be “${words}”`, at }, transaction); // prettier-ignore
  });
}

/** Takes down what the shop made of a correction. */
export async function endCorrection(db: Database, id: string, end: CorrectionEnd | null, by: string): Promise<CorrectionRow> {
  const correction = isUuid(id) ? await db.CorrectionRow.findByPk(id, { include: [{ association: 'proof' }] }) : null;
  if (!correction?.proof) throw errors.notFound('correction', id);
  const { number, column, value, proof } = correction;
  if (correction.end === end) return correction;
  await db.sequelize.transaction(async (transaction) => {
    await correction.update({ end }, { transaction });
    const made = end === 'taken' ? 'taken into the list' : end === 'left' ? 'left as it was' : 'opened again';
    await record(db, { jobId: proof.jobId, who: by, text: `Proof ${proof.letter}, plate ${number}: ${column} “${value}” ${made}` }, transaction); // prettier-ignore
  });
  return correction;
}

/** What was changed since a run was frozen, by the frozen run and the revisions of now. */
const compared = new LRUCache<string, RunChanges>({ max: 200 });

/** Where a run stands with its customer. */
export interface RunStanding {
  readonly proof: Proof;
  readonly frozenId: string;
  readonly changes: RunChanges;
  /** The option that the customer chose, and whether plates are made as that one now. */
  readonly option: { readonly id: string; readonly name: string; readonly isMade: boolean } | null;
}

/** The newest proof of a run in one of some states, with the id of its frozen run, and what is otherwise since. */
export async function proofOfRun(
  db: Database,
  runId: string,
  states: readonly ProofState[] = COUNTING_PROOF_STATES,
): Promise<RunStanding | undefined> {
  const row = isUuid(runId) ? await db.RunRow.findByPk(runId, { attributes: ['id', 'sign', 'revision'] }) : null;
  if (!row) throw errors.notFound('run', runId);
  const all = await db.FrozenRun.findAll({ where: { runId }, attributes: ['proofId'] });
  const proof = await db.Proof.findOne({
    where: { id: all.map(({ proofId }) => proofId), state: { [Op.in]: [...states] } },
    include: [{ association: 'remarks' }, { association: 'corrections' }],
    order: [['createdAt', 'DESC']],
  });
  const frozen = proof && (await db.FrozenRun.findOne({ where: { runId, proofId: proof.id }, attributes: ['id'] }));
  if (!proof || !frozen) return undefined;
  const now = await db.SignRow.findByPk(row.sign, { attributes: ['revision'] });
  const key = `${frozen.id} ${row.revision} ${now?.revision}`;
  let changes = compared.get(key);
  if (!changes) compared.set(key, (changes = await changesSince(db, proof, frozen.id, row)));
  return { proof, frozenId: frozen.id, changes, option: await chosenOption(db, proof, row) };
}

async function chosenOption(
  db: Database,
  { choices, contents }: Proof,
  { id, sign }: Pick<RunRow, 'id' | 'sign'>,
): Promise<RunStanding['option']> {
  const shown = contents.find(({ signId }) => signId === sign)?.document;
  const option = shown?.options?.find((each) => each.id === choices?.[sign]);
  if (!shown || !option || isOptionOfList(shown)) return null;
  // Of what may be a list of 20,000 rows the option alone.
  const [made] = await db.sequelize.query<{ option: string | null }>(`SELECT document->>'option' AS option FROM runs WHERE id = :id`, { replacements: { id }, type: QueryTypes.SELECT }); // prettier-ignore
  return { id: option.id, name: option.name, isMade: made.option === option.id };
}

/** Files of plates that somebody is about to make. */
export interface FilesOfRun {
  /** Numbers in the list as it is now, from 1. */
  readonly plates: readonly number[];
  readonly what: string;
  readonly override?: string;
}

/**
 * Takes down that files of plates are made. They are made of what was approved; of anything else only where somebody takes it on themselves.
 * @returns the letter of the proof that they were approved in, where they were
 * @throws ServerError where they were not approved as they are, and no reason is given
 */
export async function releaseFiles(
  db: Database,
  runId: string,
  { plates, what, override }: FilesOfRun,
  by: string,
): Promise<string | null> {
  // As signs are: by the newest proof that was approved, whatever was sent since.
  const found = await proofOfRun(db, runId, ['approved']);
  const run = await db.RunRow.findByPk(runId, { attributes: ['jobId', 'title'] });
  if (!run) throw errors.notFound('run', runId);
  const why = whyNot(found, new Set(plates));
  if (why !== '' && override === undefined) throw errors.notApproved(why, []);
  const count = plates.length === 1 ? `plate ${plates[0]}` : `${plates.length} plates`;
  const told = why === '' ? `as approved in proof ${found!.proof.letter}` : `without approval: ${override!.trim()}`;
  await record(db, { jobId: run.jobId, who: by, text: `${what.trim()} of ${count} of “${run.title}” made ${told}` });
  return why === '' ? found!.proof.letter : null;
}

/** Why plates are not made as they were approved, in a sentence; empty where they are. */
function whyNot(found: RunStanding | undefined, plates: ReadonlySet<number>): string {
  if (!found) return 'No proof of these plates has been approved.';
  const { proof, changes, option } = found;
  if (option && !option.isMade) return `“${option.name}” was chosen in proof ${proof.letter}, and the plates are made otherwise.`;
  if (changes.isSignChanged) return `The sign has changed since proof ${proof.letter} was approved.`;
  const other = [...changes.changed, ...changes.added].filter((number) => plates.has(number));
  if (other.length === 0) return '';
  return other.length === 1 ? `Plate ${other[0]} has changed since proof ${proof.letter} was approved.` : `Plates ${numbersInWords(other)} have changed since proof ${proof.letter} was approved.`; // prettier-ignore
}

async function changesSince(
  db: Database,
  proof: Proof,
  frozenId: string,
  { id, sign }: Pick<RunRow, 'id' | 'sign'>,
): Promise<RunChanges> {
  const was = await frozenRun(db, proof, frozenId);
  const [row, now] = [await db.RunRow.findByPk(id), await db.SignRow.findByPk(sign)];
  if (!row || !now) return { isSignChanged: true, changed: [], added: [], removed: 0 };
  return runChanges({ sign: was.sign, run: was.run.document }, { sign: now.document, run: row.document });
}
