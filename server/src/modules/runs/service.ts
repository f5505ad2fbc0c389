import type { KeptRun, ListedRun } from '@plain-relief/api';
import { type Run, runFault } from '@plain-relief/core/runs';
import { randomUUID } from 'node:crypto';
import type { Database } from '../../platform/database/database.js';
import type { RunRow } from '../../platform/database/models/runs.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';

/** Of one job. */
const MOST_RUNS = 20;

const view = ({ id, title, revision, document, savedAt }: RunRow): KeptRun => ({
  id,
  title,
  revision,
  document,
  savedAt: savedAt.toISOString(),
});

/** Signs of jobs with lists. */
export class RunService {
  constructor(private readonly db: Database) {}

  async list(jobId: string): Promise<ListedRun[]> {
    const rows = await this.db.RunRow.findAll({ where: { jobId }, order: [['createdAt', 'ASC']], attributes: { exclude: ['document'] } }); // prettier-ignore
    return rows.map(({ id, title, sign, rowCount, savedAt }) => ({ id, title, sign, rows: rowCount, savedAt: savedAt.toISOString() })); // prettier-ignore
  }

  async read(id: string): Promise<KeptRun> {
    return view(await this.find(id));
  }

  /** @throws ServerError where the run cannot be, or the job has too many */
  async create(jobId: string, title: string, document: Run): Promise<KeptRun> {
    await this.judge(jobId, document);
    if ((await this.db.RunRow.count({ where: { jobId } })) >= MOST_RUNS) throw errors.tooManyRuns(MOST_RUNS);
    const now = new Date();
    const row = { id: randomUUID(), jobId, revision: 1, ...stored(title, document), savedAt: now, createdAt: now };
    return view(await this.db.RunRow.create(row));
  }

  /** @throws ServerError where it cannot be, or was changed meanwhile */
  async save(id: string, base: number, title: string, document: Run): Promise<{ revision: number; savedAt: string }> {
    const { jobId } = await this.find(id, ['jobId']);
    await this.judge(jobId, document);
    const savedAt = new Date();
    const change = { ...stored(title, document), revision: base + 1, savedAt };
    const [saved] = await this.db.RunRow.update(change, { where: { id, revision: base } });
    if (saved !== 1) throw errors.staleRun({ base, revision: (await this.find(id, ['revision'])).revision });
    return { revision: base + 1, savedAt: savedAt.toISOString() };
  }

  async remove(id: string): Promise<void> {
    await (await this.find(id, ['id'])).destroy();
  }

  private async find(id: string, attributes?: (keyof RunRow)[]): Promise<RunRow> {
    const row = isUuid(id) ? await this.db.RunRow.findByPk(id, attributes && { attributes: attributes as string[] }) : null;
    if (!row) throw errors.notFound('run', id);
    return row;
  }

  /** Its sign is the job's, and its rows have as many values as it has columns. */
  private async judge(jobId: string, document: Run): Promise<void> {
    const fault = runFault(document);
    if (fault) throw errors.badRequest([{ ...fault, path: `document.${fault.path}` }]);
    const { sign } = document;
    const own = isUuid(sign) ? await this.db.SignRow.findOne({ where: { id: sign, jobId }, attributes: ['id'] }) : null;
    if (!own) throw errors.badRequest([{ path: 'document.sign', message: `The job has no sign “${sign}”: choose one of its own.` }]); // prettier-ignore
  }
}

const stored = (title: string, document: Run) => ({
  title: title.trim(),
  document,
  sign: document.sign,
  rowCount: document.rows.length,
});
