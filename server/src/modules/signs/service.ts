import { createHash, randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import { newSign, readSign, type Sign, SignError } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import { filesOf, showsFile, withFiles } from '../files/used-files.js';
import type { ShopFonts } from '../fonts/fonts.js';
import type { Job } from '../../platform/database/models/jobs.js';
import type { SignProof } from '@plain-relief/api';
import { signProofs } from '../proof-states/sign-proofs.js';
import type { RevisionRow, SignRow } from '../../platform/database/models/signs.js';

export class SignService {
  constructor(
    private readonly db: Database,
    private readonly shipped: readonly FontEntry[],
    private readonly shopFonts: ShopFonts,
  ) {}

  async find(id: string): Promise<SignRow> {
    const sign = isUuid(id)
      ? await this.db.SignRow.findByPk(id, { include: [{ association: 'job', include: [{ association: 'customer' }] }] })
      : null;
    if (!sign) throw errors.notFound('sign', id);
    return sign;
  }

  /** The number of the newest revision, without its document. */
  async revisionNumber(id: string): Promise<number> {
    const row = isUuid(id) ? await this.db.SignRow.findByPk(id, { attributes: ['revision'], raw: true }) : null;
    if (!row) throw errors.notFound('sign', id);
    return row.revision;
  }

  /** Where a sign stands with the customer, if a proof shows it. */
  async proofOf({ id, jobId }: SignRow): Promise<SignProof | undefined> {
    return (await signProofs(this.db, [jobId])).get(id);
  }

  async revision(id: string, revision: number): Promise<RevisionRow> {
    const row = isUuid(id) ? await this.db.RevisionRow.findOne({ where: { signId: id, revision, kind: 'saved' } }) : null;
    if (!row) throw errors.notFound('revision', `${revision} of sign ${id}`);
    return row;
  }

  async revisions(id: string) {
    await this.find(id);
    const rows = await this.db.RevisionRow.findAll({ where: { signId: id }, order: [['savedAt', 'DESC']], limit: 200 });
    return rows.map(({ id: rowId, revision, kind, savedAt }) => ({ id: rowId, revision, kind, savedAt }));
  }

  async revisionById(id: string): Promise<RevisionRow> {
    const row = isUuid(id) ? await this.db.RevisionRow.findByPk(id) : null;
    if (!row) throw errors.notFound('revision', id);
    return row;
  }

  /** Every font that a sign may be set in. */
  async catalogue(): Promise<FontEntry[]> {
    return [...this.shipped, ...(await this.shopFonts.entries())];
  }

  /** A document from outside, or a 400 with every fault. */
  async read(document: unknown): Promise<Sign> {
    const catalogue = await this.catalogue();
    try {
      return readSign(document, catalogue);
    } catch (error) {
      if (!(error instanceof SignError)) throw error;
      throw errors.badRequest(
        error.faults.map(({ path, message }) => ({ path: path ? `document.${path}` : 'document', message })),
      );
    }
  }

  async create(job: Job, title: string, document?: unknown): Promise<SignRow> {
    const sign = document === undefined ? newSign(title, job.unit) : await this.read(document);
    const now = new Date();
    const id = randomUUID();
    await this.db.sequelize.transaction(async (transaction) => {
      const row = { jobId: job.id, title: sign.title, revision: 1, document: sign, savedAt: now, createdAt: now };
      await this.db.SignRow.create({ id, ...row }, { transaction });
      await this.keep({ signId: id, revision: 1, kind: 'saved', document: sign, savedAt: now }, transaction);
    });
    return this.find(id);
  }

  /**
   * Saves a document that began from revision `base`. Where another was saved meanwhile, the document is set aside
   * beside it and a 409 tells both.
   */
  async save(id: string, base: number, document: unknown) {
    const sign = await this.read(document);
    const now = new Date();
    const current = await this.find(id);
    const isSaved = await this.db.sequelize.transaction(async (transaction) => {
      // The condition on the revision and the new number are one statement: of two saves at once, one finds no row.
      const [changed] = await this.db.SignRow.update(
        { title: sign.title, document: sign, revision: base + 1, savedAt: now },
        { where: { id, revision: base }, transaction },
      );
      if (changed === 1)
        await this.keep({ signId: id, revision: base + 1, kind: 'saved', document: sign, savedAt: now }, transaction);
      return changed === 1;
    });
    if (isSaved) return { revision: base + 1, savedAt: now };

    const theirs = await this.find(current.id);
    // The answer to a save that got lost on the way: the same document again is no second save.
    if (theirs.revision === base + 1 && digest(theirs.document) === digest(sign))
      return { revision: theirs.revision, savedAt: theirs.savedAt };
    await this.setAside(id, base, sign, now);
    throw errors.staleSave({
      base,
      revision: theirs.revision,
      aside: base,
      theirs: theirs.document,
      savedAt: theirs.savedAt.toISOString(),
    });
  }

  private async setAside(id: string, base: number, sign: Sign, now: Date): Promise<void> {
    const earlier = await this.db.RevisionRow.findOne({
      where: { signId: id, kind: 'aside', revision: base },
      order: [['savedAt', 'DESC']],
    });
    if (earlier && digest(earlier.document) === digest(sign)) return;
    await this.keep({ signId: id, revision: base, kind: 'aside', document: sign, savedAt: now });
  }

  /** A copy of a sign as it is saved, in its own job or in another, with a title of its own. */
  async copy(id: string, job: Job, title: string): Promise<SignRow> {
    const { document, jobId } = await this.find(id);
    if (jobId === job.id) return this.create(job, title, { ...document, title });
    // What it was drawn over, and what it is for, go along.
    const own = new Map<string, string>();
    for (const file of await this.db.JobFile.findAll({ where: { id: filesOf(document) } })) {
      const { name, size, content } = file;
      const copy = await this.db.JobFile.create({ id: randomUUID(), jobId: job.id, name, size, content, createdAt: new Date() });
      own.set(file.id, copy.id);
    }
    return this.create(job, title, { ...withFiles(document, own), title });
  }

  /** Takes a sign to another job, while no proof of its job shows it. */
  async move(id: string, job: Job): Promise<SignRow> {
    const sign = await this.find(id);
    if (sign.jobId === job.id) return sign;
    const proof = (await signProofs(this.db, [sign.jobId])).get(id);
    if (proof) throw errors.signIsProved(sign.title, proof.letter);
    await this.db.sequelize.transaction(async (transaction) => {
      for (const file of filesOf(sign.document)) {
        // Where another sign shows it, too, it stays: it is found from both jobs.
        const uses = await this.db.SignRow.count({ where: { [Op.and]: [showsFile(file), { jobId: sign.jobId }] }, transaction });
        if (uses === 1) await this.db.JobFile.update({ jobId: job.id }, { where: { id: file }, transaction });
      }
      await this.db.SignRow.update({ jobId: job.id }, { where: { id }, transaction });
    });
    return this.find(id);
  }

  /** Puts a sign into the bin. */
  async remove(id: string): Promise<void> {
    await (await this.find(id)).destroy();
  }

  private async keep(
    revision: Pick<RevisionRow, 'signId' | 'revision' | 'kind' | 'document' | 'savedAt'>,
    transaction?: NonNullable<Parameters<SignRow['save']>[0]>['transaction'],
  ): Promise<void> {
    await this.db.RevisionRow.create({ id: randomUUID(), ...revision }, { transaction });
  }
}

/** The same for equal documents, in whatever order the database gives back their fields. */
export function digest(document: unknown): string {
  const ordered = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(ordered);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([key, inner]) => [key, ordered(inner)]),
    );
  };
  return createHash('sha256')
    .update(JSON.stringify(ordered(document)))
    .digest('hex');
}
