import type { Binned } from '@plain-relief/api';
import { Op } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import type { Told } from '../../platform/http/endpoint.js';
import { isUuid } from '../../platform/http/ids.js';

/** Days that removed jobs and signs lie in the bin. */
export const BIN_DAYS = 30;
const DAY_MS = 24 * 60 * 60 * 1000;
/** Things of the bin that are shown, the newest first. */
const MOST_SHOWN = 500;

/** What lies in the bin, as it is told. */
type BinnedThing = Told<Binned>;

/** Removed jobs and signs, which can be taken back for a time. */
export class Bin {
  constructor(private readonly db: Database) {}

  /** What lies there, the newest first. A sign that went with its job is there as part of the job. */
  async all(): Promise<{ days: number; things: BinnedThing[] }> {
    const removed = { where: { removedAt: { [Op.ne]: null } }, paranoid: false, limit: MOST_SHOWN } as const;
    const newest = [['removedAt', 'DESC']] as [string, string][];
    const jobs = await this.db.Job.findAll({
      ...removed,
      order: newest,
      include: [{ association: 'customer' }, { association: 'signs', attributes: ['id'] }],
    });
    const signs = await this.db.SignRow.findAll({
      ...removed,
      order: newest,
      attributes: ['id', 'title', 'removedAt'],
      // Those whose job is there itself come back with it.
      include: [{ association: 'job', required: true, include: [{ association: 'customer' }] }],
    });
    const things = [
      ...jobs.map(({ id, number, title, customer, signs: own, removedAt }) => ({
        ...{ id, what: 'job' as const, title, job: `${number} ${title}`, customer: customer?.name ?? '' },
        ...{ signs: own?.length ?? 0, removedAt: removedAt! },
      })),
      ...signs.map(({ id, title, job, removedAt }) => ({
        ...{ id, what: 'sign' as const, title, job: `${job!.number} ${job!.title}`, customer: job!.customer?.name ?? '' },
        ...{ signs: 0, removedAt: removedAt! },
      })),
    ];
    return { days: BIN_DAYS, things: things.sort((a, b) => b.removedAt.getTime() - a.removedAt.getTime()) };
  }

  /** Takes a job back with the signs that went with it. @throws ServerError where no such job lies there */
  async returnJob(id: string): Promise<void> {
    const job = isUuid(id) ? await this.db.Job.findByPk(id, { paranoid: false }) : null;
    if (!job?.removedAt) throw errors.notFound('job in the bin', id);
    await job.restore();
  }

  /** Takes a sign back into its job. @throws ServerError where no such sign lies there, or its job does, too */
  async returnSign(id: string): Promise<void> {
    const sign = isUuid(id) ? await this.db.SignRow.findByPk(id, { paranoid: false, include: [{ association: 'job' }] }) : null;
    if (!sign?.removedAt) throw errors.notFound('sign in the bin', id);
    if (!sign.job) throw errors.jobIsRemoved(sign.title);
    await sign.restore();
  }

  /** Removes for good what has lain there for longer than its days. */
  async empty(now: Date): Promise<void> {
    const where = { removedAt: { [Op.lt]: new Date(now.getTime() - BIN_DAYS * DAY_MS) } };
    await this.db.SignRow.destroy({ where, force: true });
    await this.db.Job.destroy({ where, force: true });
  }
}
