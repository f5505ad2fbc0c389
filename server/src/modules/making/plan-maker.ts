import type { MessagePort } from 'node:worker_threads';
import { troubleOf } from '@plain-relief/core/dry-run';
import type { Database } from '../../platform/database/database.js';
import type { Task } from '../../platform/database/models/tasks.js';
import { LimitedThreads } from '../../platform/http/limited.js';
import type { ShopFonts } from '../fonts/fonts.js';
import { record } from '../history/record.js';
import { shopCard } from '../shop/card.js';
import type { PlanAnswer, PlanWork, RefusedPlan } from './plan-thread.js';

/** Plans that are laid at once: they keep nothing else from its turn. */
export const PLANS_AT_ONCE = 2;
const LIMITS = { threads: PLANS_AT_ONCE, seconds: 1200, megabytes: 3000 };

/** Lays plans of cuts for the worker, in threads that end where they take too long or are wanted no longer. */
export class PlanMaker {
  private readonly threads = new LimitedThreads<PlanWork, PlanAnswer | RefusedPlan>('./plan-thread.js', import.meta.url, LIMITS);

  constructor(
    private readonly db: Database,
    private readonly fonts: ShopFonts,
    private readonly fontsDir: string,
  ) {}

  /**
   * Lays the plan of a task and keeps what came of it.
   * @param port where it is told how far it is
   * @throws Error with a sentence where it cannot be laid, TooMuchWork, Stopped
   */
  async lay(task: Task, { port, stop }: { readonly port: MessagePort; readonly stop: AbortSignal }): Promise<void> {
    const plan = await this.db.PlanRow.findOne({
      where: { taskId: task.id },
      attributes: ['id', 'signId', 'revision', 'order', 'madeWith'],
    });
    const revision =
      plan && (await this.db.RevisionRow.findOne({ where: { signId: plan.signId, revision: plan.revision, kind: 'saved' } }));
    const row =
      plan && (await this.db.SignRow.findByPk(plan.signId, { include: [{ association: 'job', include: ['customer'] }] }));
    if (!plan || !revision || !row?.job) throw new Error('The sign was removed before its plan was laid.');
    const { document: sign } = revision;
    const work: PlanWork = {
      sign,
      order: plan.order,
      madeWith: plan.madeWith,
      subject: {
        shop: (await shopCard(this.db)).name,
        customer: row.job.customer?.name ?? '',
        job: { number: row.job.number, title: row.job.title },
        revision: plan.revision,
        date: task.askedAt,
      },
      fontsDir: this.fontsDir,
      fonts: await this.fonts.usedBy(sign),
      port,
    };
    const laid = await this.threads.run(work, `“${sign.title}”`, { transfer: [port], stop });
    if ('refused' in laid) throw new Error(laid.refused);
    const { outcome, programs } = laid;
    await this.db.PlanRow.update(
      { outcome, programs, picture: Buffer.from(laid.picture), sheet: Buffer.from(laid.sheet) },
      { where: { id: plan.id } },
    );
    const found = troubleOf(outcome.run);
    await record(this.db, {
      jobId: row.jobId,
      who: 'the shop',
      text: `Cuts of “${sign.title}” (revision ${plan.revision}) planned: ${outcome.files.length} programs, ${outcome.minutes.toFixed(0)} min. Dry run: ${found || 'nothing wrong'}.`,
    });
  }

  close(): Promise<void> {
    return this.threads.close();
  }
}
