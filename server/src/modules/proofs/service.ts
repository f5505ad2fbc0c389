import type { Approval, NewCorrection, NewProof, NewRemark, ShopRemark, Wishes } from '@plain-relief/api';
import type { JobState, ProofState, SheetKind } from '@plain-relief/api/states';
import { randomBytes, randomUUID } from 'node:crypto';
import { changesBetween } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { Op, type Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { record, SHOP } from '../history/record.js';
import { isUuid } from '../../platform/http/ids.js';
import type { PostOffice } from '../mail/post-office.js';
import type { Settings } from '../../platform/settings.js';
import { digest } from '../signs/service.js';
import { type Task, waitingTask } from '../../platform/database/models/tasks.js';
import type { Send } from '../../platform/queue/queue.js';
import { aboutOf } from './about.js';
import type { OpenNotes } from './open-notes.js';
import { signProofs } from '../proof-states/sign-proofs.js';
import { freezePlaces } from './frozen-places.js';
import { correct, plateNumber, runsToFreeze } from './frozen-runs.js';
import { reminderLetter, sentLetter } from './letters.js';
import type { Proof, ProofSign } from '../../platform/database/models/proofs.js';

const DAY_MS = 86_400_000;
const MOST_REMARKS = 500;
/** 256 bits: nobody guesses that. */
const TOKEN_BYTES = 32;

/** A, B … Z, AA, AB … */
export function proofLetter(index: number): string {
  const last = String.fromCharCode(65 + (index % 26));
  return index < 26 ? last : proofLetter(Math.floor(index / 26) - 1) + last;
}

/** Told at once of an answer that is refused. */
const MOST_FAULTS = 20;

/** How a proof ends: its state, the one that its job comes to, and the line of its history. */
interface ProofEnd {
  readonly state: ProofState;
  readonly job: JobState;
  readonly who: string;
  readonly text: string;
}

/** Freezes signs, sends them to customers, and takes down what they answer. */
export class ProofService {
  constructor(
    private readonly db: Database,
    private readonly post: PostOffice,
    private readonly settings: Pick<Settings, 'publicUrl'>,
    private readonly send: Send,
    readonly catalogue: () => Promise<readonly FontEntry[]>,
    /** Tells the time; a scenario brings one of its own. */
    private readonly clock: () => Date = () => new Date(),
  ) {}

  /** The address that a customer opens. */
  address = ({ token }: Pick<Proof, 'token'>): string => `${this.settings.publicUrl}/proof/${token}`;

  async find(id: string): Promise<Proof> {
    const proof = isUuid(id) ? await this.db.Proof.findByPk(id, { include: this.whole, order: this.inTime }) : null;
    if (!proof) throw errors.notFound('proof', id);
    return proof;
  }

  /** The proof of a customer's address, while it may be seen. */
  async byToken(token: string): Promise<Proof> {
    const proof = await this.db.Proof.findOne({ where: { token }, include: this.whole, order: this.inTime });
    if (!proof) throw errors.noSuchLink();
    if (proof.state === 'withdrawn') throw errors.linkWithdrawn();
    if (proof.expiresAt.getTime() <= Date.now()) throw errors.linkExpired(proof.expiresAt);
    return proof;
  }

  /** The proof that took the place of a replaced one, while it may be seen. */
  async newerThan({ jobId, state, createdAt }: Proof): Promise<Proof | undefined> {
    if (state !== 'replaced') return undefined;
    const newer = await this.db.Proof.findOne({
      where: {
        jobId,
        createdAt: { [Op.gt]: createdAt },
        state: { [Op.notIn]: ['replaced', 'withdrawn'] },
        expiresAt: { [Op.gt]: new Date() },
      },
      attributes: ['letter', 'token'],
      order: [['createdAt', 'DESC']],
    });
    return newer ?? undefined;
  }

  /** The proofs of a job, newest first, each with what was changed in its signs since. */
  async ofJob(jobId: string): Promise<{ proof: Proof; changes: Record<string, string[]>; sheets: Task[] }[]> {
    const proofs = await this.db.Proof.findAll({
      where: { jobId },
      include: this.whole,
      order: [['createdAt', 'DESC'], ...this.inTime],
    });
    const now = await this.db.SignRow.findAll({ where: { jobId } });
    const sheets = await this.db.Task.findAll({
      where: { proofId: proofs.map(({ id }) => id) },
      attributes: { exclude: ['file'] },
      order: [['askedAt', 'ASC']],
    });
    const catalogue = await this.catalogue();
    return proofs.map((proof) => {
      const changes: Record<string, string[]> = {};
      for (const { signId, revision, document } of proof.contents) {
        const sign = now.find(({ id }) => id === signId);
        if (!sign) changes[signId] = ['The sign was removed from the job'];
        else if (sign.revision !== revision) changes[signId] = changesBetween(document, sign.document, catalogue);
        else changes[signId] = [];
      }
      return { proof, changes, sheets: sheets.filter(({ proofId }) => proofId === proof.id) };
    });
  }

  /**
   * Freezes signs of a job as they are saved, and sends the customer's address. An earlier proof that waits for an answer is
   * replaced: there is one that counts.
   */
  async freeze(jobId: string, wanted: NewProof, by: string, leftOpen: readonly OpenNotes[] = []): Promise<Proof> {
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    const id = randomUUID();
    const catalogue = await this.catalogue();
    await this.db.sequelize.transaction(async (transaction) => {
      // Of two at once the second waits here, and takes the next letter.
      const job = await this.db.Job.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE });
      if (!job) throw errors.notFound('job', jobId);
      const rows = await this.db.SignRow.findAll({ where: { jobId }, transaction });
      const contents = wanted.signs.map((signId, i): ProofSign => {
        const row = rows.find((one) => one.id === signId);
        if (!row)
          throw errors.badRequest([{ path: `signs.${i}`, message: `The job has no sign “${signId}”: choose from its signs.` }]);
        return { signId, title: row.title, revision: row.revision, document: row.document };
      });
      const runs = await runsToFreeze(this.db, jobId, contents, wanted.runs, transaction);
      const letter = proofLetter(await this.db.Proof.count({ where: { jobId }, transaction }));
      const now = this.clock();
      await this.db.Proof.update({ state: 'replaced', endedAt: now }, { where: { jobId, state: 'open' }, transaction });
      const proof = await this.db.Proof.create(
        {
          id,
          jobId,
          letter,
          state: 'open',
          contents,
          covers: contents.map(({ signId, revision }) => ({ signId, revision })),
          digest: digest(runs.length === 0 ? contents : { contents, runs: runs.map(({ signId, title, document }) => ({ signId, title, document })) }), // prettier-ignore
          about: await aboutOf(this.db, { job, letter, contents, wanted, now, catalogue }, transaction),
          message: wanted.message.trim(),
          recipient: wanted.recipient,
          token,
          createdAt: now,
          expiresAt: new Date(now.getTime() + wanted.days * DAY_MS),
          seenAt: null,
          endedAt: null,
          answeredBy: null,
          ticks: null,
          choices: null,
          wishes: null,
          remindAt: wanted.remindAfter === undefined ? null : new Date(now.getTime() + wanted.remindAfter * DAY_MS),
        },
        { transaction },
      );
      await this.db.FrozenRun.bulkCreate(runs.map((run) => ({ ...run, proofId: id })), { transaction }); // prettier-ignore
      await freezePlaces(this.db, proof, wanted.places, transaction);
      await job.update({ state: 'proof out' }, { transaction });
      await this.post.write(sentLetter(job, proof, this.address(proof)), transaction, now);
      const titles = contents.map(({ title }) => `“${title}”`).join(', ');
      const plates = runs.map(({ title, rowCount }) => ` with ${rowCount} ${rowCount === 1 ? 'plate' : 'plates'} of “${title}”`).join(' and'); // prettier-ignore
      const frozen = `Proof ${letter} of ${titles}${plates} frozen and sent to ${wanted.recipient}`;
      await record(this.db, { jobId, who: by, text: frozen, at: now }, transaction);
      for (const { title, notes } of leftOpen) {
        const text = `Sent proof ${letter} with ${notes.length === 1 ? 'a note' : `${notes.length} notes`} on “${title}” left open: ${notes.join(' ')}`;
        await record(this.db, { jobId, who: by, text, at: now }, transaction);
      }
    });
    await this.post.send(this.clock());
    await this.sheet(id, 'sheet');
    return this.find(id);
  }

  /** The task of a sheet of a proof; asked for where there is none, or where it failed. */
  async sheet(proofId: string, kind: SheetKind): Promise<Task> {
    const known = await this.db.Task.findOne({
      where: { proofId, kind, state: { [Op.in]: ['waiting', 'running', 'done'] } },
      attributes: { exclude: ['file'] },
      order: [['askedAt', 'ASC']],
    });
    if (known) return known;
    const task = await waitingTask(this.db, { signId: null, proofId, revision: 0, kind, option: null });
    await this.send({ taskId: task.id });
    return task;
  }

  /** Id of the sheet that a customer gets, if it is made. */
  async readySheet({ id, state }: Proof): Promise<string | undefined> {
    const kind: SheetKind = state === 'approved' ? 'stamped sheet' : 'sheet';
    const task = await this.db.Task.findOne({ where: { proofId: id, kind, state: 'done' }, attributes: ['id'] });
    return task?.id;
  }

  /** What a crash between two steps left undone: letters, sheets that were never asked for; and reminders that are due. */
  async upkeep(now = new Date()): Promise<void> {
    await this.remind(now);
    const proofs = await this.db.Proof.findAll({ attributes: ['id', 'state'] });
    const asked = await this.db.Task.findAll({ where: { proofId: { [Op.ne]: null } }, attributes: ['proofId', 'kind'] });
    const known = new Set(asked.map(({ proofId, kind }) => `${proofId} ${kind}`));
    for (const { id, state } of proofs) {
      const kinds: SheetKind[] = state === 'approved' ? ['sheet', 'stamped sheet'] : ['sheet'];
      for (const kind of kinds) if (!known.has(`${id} ${kind}`)) await this.sheet(id, kind);
    }
  }

  /** Takes the customer's address back. */
  async withdraw(id: string, by: string): Promise<Proof> {
    const proof = await this.find(id);
    await this.end(proof, { state: 'withdrawn', job: 'layout', who: by, text: `Proof ${proof.letter} withdrawn` });
    return this.find(id);
  }

  async approve(proof: Proof, { name, ticks, choices, digest: seen }: Approval): Promise<Proof> {
    if (seen !== proof.digest) throw errors.otherContents();
    const faults = proof.contents.flatMap(({ signId, title, document: { options } }) => {
      const chosen = choices[signId];
      if (options?.length ? options.some((option) => option.id === chosen) : chosen === undefined) return [];
      const message = options?.length
        ? `Choose one of the options of “${title}”: ${options.map((option) => option.name).join(', ')}.`
        : `“${title}” has no options to choose from.`;
      return [{ path: `choices.${signId}`, message }];
    });
    for (const signId of Object.keys(choices))
      if (!proof.contents.some((content) => content.signId === signId))
        faults.push({ path: `choices.${signId.slice(0, 40)}`, message: 'The proof has no such sign.' });
    const corrections = proof.corrections?.length ?? 0;
    if (corrections > 0)
      faults.push({ path: 'corrections', message: `${corrections === 1 ? 'A correction is' : `${corrections} corrections are`} asked for: ask for changes, or take ${corrections === 1 ? 'it' : 'them'} back before you approve.` }); // prettier-ignore
    if (faults.length > 0) throw errors.badRequest(faults.slice(0, MOST_FAULTS));
    const who = name.trim();
    const chosen = proof.contents.flatMap(({ signId, title, document: { options } }) => {
      const option = options?.find(({ id }) => id === choices[signId]);
      return option ? [`, “${title}” as ${option.name}`] : [];
    });
    const text = `Proof ${proof.letter} approved${chosen.join('')}: spelling, sizes and colours ticked`;
    await this.end(proof, { state: 'approved', job: 'approved', who, text }, { answeredBy: who, ticks, choices });
    await this.sheet(proof.id, 'stamped sheet');
    return this.find(proof.id);
  }

  async askChanges(proof: Proof, { name, wishes }: Wishes): Promise<Proof> {
    const who = name.trim();
    const end = { answeredBy: who, wishes: wishes.trim() };
    const text = `Changes asked to proof ${proof.letter}: ${wishes.trim()}`;
    await this.end(proof, { state: 'changes asked', job: 'changes asked', who, text }, end);
    return this.find(proof.id);
  }

  /** Notes the first time that the customer opens a proof. */
  async seen(proof: Proof): Promise<void> {
    if (proof.seenAt) return;
    const [changed] = await this.db.Proof.update({ seenAt: this.clock() }, { where: { id: proof.id, seenAt: null } });
    if (changed === 1)
      await record(this.db, { jobId: proof.jobId, who: 'the customer', text: `Proof ${proof.letter} opened`, at: this.clock() });
  }

  /**
   * Something said about a sign; by the customer only while the proof waits for an answer.
   * @param by who of the shop says it; nobody where it is the customer
   */
  async remark(proof: Proof, said: NewRemark | ShopRemark, by?: string): Promise<Proof> {
    const isFromShop = by !== undefined;
    const sign = proof.contents.find(({ signId }) => signId === said.signId);
    if (!sign) throw errors.badRequest([{ path: 'signId', message: 'The proof has no such sign.' }]);
    if (said.option !== undefined && !sign.document.options?.some(({ id }) => id === said.option))
      throw errors.badRequest([{ path: 'option', message: `“${sign.title}” has no such option.` }]);
    if ((said.run === undefined) !== (said.row === undefined))
      throw errors.badRequest([{ path: 'run, row', message: 'A plate has both, or neither.' }]);
    if (said.run !== undefined && !proof.runs?.some(({ id, signId }) => id === said.run && signId === said.signId))
      throw errors.badRequest([{ path: 'run', message: `The proof has no such run of “${sign.title}”.` }]);
    const number =
      said.run !== undefined && said.row !== undefined ? await plateNumber(this.db, proof, said.run, said.row) : null;
    if ((said.across === undefined) !== (said.down === undefined))
      throw errors.badRequest([{ path: 'across, down', message: 'A place has both, or neither.' }]);
    const who = 'who' in said ? said.who.trim() : SHOP;
    await this.db.sequelize.transaction(async (transaction) => {
      const now = await this.db.Proof.findByPk(proof.id, { transaction, lock: transaction.LOCK.UPDATE });
      if (!now) throw errors.notFound('proof', proof.id);
      if (!isFromShop && now.state !== 'open') throw errors.proofEnded(now.letter, now.state);
      if ((await this.db.ProofRemark.count({ where: { proofId: proof.id }, transaction })) >= MOST_REMARKS)
        throw errors.tooManyRemarks(MOST_REMARKS);
      await this.db.ProofRemark.create(
        {
          id: randomUUID(),
          proofId: proof.id,
          signId: said.signId,
          option: said.option ?? null,
          run: said.run ?? null,
          row: said.row ?? null,
          number,
          across: said.across ?? null,
          down: said.down ?? null,
          isFromShop,
          who,
          text: said.text.trim(),
          at: this.clock(),
        },
        { transaction },
      );
      const plate = number === null ? '' : `, plate ${number}`;
      const text = `On proof ${now.letter}, “${sign.title}”${plate}: ${said.text.trim()}`;
      await record(this.db, { jobId: now.jobId, who: by ?? who, text, at: this.clock() }, transaction);
    });
    return this.find(proof.id);
  }

  /** A value of a plate that the customer would have otherwise. */
  async correct(proof: Proof, wanted: NewCorrection): Promise<Proof> {
    await correct(this.db, proof, wanted, this.clock());
    return this.find(proof.id);
  }

  /** Writes to customers whose proofs wait for longer than was agreed; each once. */
  async remind(now = new Date()): Promise<void> {
    const due = await this.db.Proof.findAll({
      where: { state: 'open', remindAt: { [Op.lte]: now }, expiresAt: { [Op.gt]: now } },
      include: [{ association: 'job', required: true }],
    });
    for (const proof of due) {
      await this.db.sequelize.transaction(async (transaction) => {
        const [claimed] = await this.db.Proof.update(
          { remindAt: null },
          { where: { id: proof.id, state: 'open', remindAt: { [Op.ne]: null } }, transaction },
        );
        if (claimed !== 1 || !proof.job) return;
        await this.post.write(reminderLetter(proof.job, proof, this.address(proof)), transaction);
        const text = `Reminder of proof ${proof.letter} sent to ${proof.recipient}`;
        await record(this.db, { jobId: proof.jobId, who: SHOP, text }, transaction);
      });
    }
    await this.post.send();
  }

  /** Where a job stands after an answer: approved only when every one of its signs is. */
  private async after({ jobId }: Proof, state: JobState, transaction: Transaction): Promise<JobState> {
    if (state !== 'approved') return state;
    const signs = await this.db.SignRow.findAll({ where: { jobId }, attributes: ['id'], transaction });
    const proofs = await signProofs(this.db, [jobId], transaction);
    return signs.every(({ id }) => proofs.get(id)?.state === 'approved') ? 'approved' : 'layout';
  }

  private readonly whole = [
    { association: 'remarks' },
    { association: 'runs', attributes: { exclude: ['document'] } },
    { association: 'corrections' },
    { association: 'job', required: true, include: [{ association: 'customer' }] },
  ];
  private readonly inTime = [['remarks', 'at', 'ASC'] as [string, string, string]];

  /** Gives a proof its end, if it has none yet: the condition and the change are one statement, so that of two ends one counts. */
  private async end(
    proof: Proof,
    { state, job, who, text }: ProofEnd,
    how: Partial<Pick<Proof, 'answeredBy' | 'ticks' | 'choices' | 'wishes'>> = {},
  ): Promise<void> {
    const isEnded = await this.db.sequelize.transaction(async (transaction: Transaction) => {
      const now = this.clock();
      const isAnswer = state === 'approved' || state === 'changes asked';
      const [changed] = await this.db.Proof.update(
        { state, endedAt: now, remindAt: null, ...how },
        { where: { id: proof.id, state: 'open', ...(isAnswer && { expiresAt: { [Op.gt]: now } }) }, transaction },
      );
      if (changed !== 1) return false;
      await this.db.Job.update({ state: await this.after(proof, job, transaction) }, { where: { id: proof.jobId }, transaction });
      await record(this.db, { jobId: proof.jobId, who, text, at: now }, transaction);
      return true;
    });
    if (isEnded) return;
    const now = await this.find(proof.id);
    if (now.state === 'open') throw errors.linkExpired(now.expiresAt);
    throw errors.proofEnded(now.letter, now.state);
  }
}
