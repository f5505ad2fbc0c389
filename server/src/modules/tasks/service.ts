import type { ProcessChoice } from '@plain-relief/api';
import { PLAN_KINDS, type TaskKind } from '@plain-relief/api/states';
import { Op } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { SignService } from '../signs/service.js';
import { record } from '../history/record.js';
import { type Clearance, clearance } from '../proof-states/production-lock.js';
import { type SheetLayout, type TemplatePaper } from '@plain-relief/core/sheet';
import { PRODUCTION_KINDS, type Task, waitingTask } from '../../platform/database/models/tasks.js';
import type { Send } from '../../platform/queue/queue.js';

/** Who lets something be made that was not approved, and why. */
export interface Override {
  readonly name: string;
  readonly reason: string;
}

/** What is asked for: a file, of an option; a template on a paper, a sheet by a layout. */
export interface Asked {
  readonly kind: TaskKind;
  readonly option?: string;
  readonly paper?: TemplatePaper;
  readonly layout?: SheetLayout;
  readonly process?: ProcessChoice;
}

const EVERYTHING_BUT_FILE = { exclude: ['file'] };

export class TaskService {
  constructor(
    private readonly db: Database,
    private readonly signs: SignService,
    private readonly send: Send,
  ) {}

  /** Whether production files may be made of the sign, or of one of its options. */
  async clearance(signId: string, option?: string): Promise<Clearance> {
    const sign = await this.signs.find(signId);
    return clearance(this.db, sign, option, await this.signs.catalogue());
  }

  /**
   * Asks for a file of the sign, or of one of its options, as it was saved last. Files for production are made of what the customer
   * approved; of anything else only where somebody takes it on themselves, which goes into the job's history.
   */
  async ask(signId: string, { kind, option, paper, layout, process }: Asked, override?: Override): Promise<Task> {
    const sign = await this.signs.find(signId);
    if (option !== undefined && !sign.document.options?.some(({ id }) => id === option)) throw errors.notFound('option', option);
    if (PRODUCTION_KINDS.has(kind)) {
      const { isCleared, reason, changes } = await this.clearance(signId, option);
      if (!isCleared && !override) throw errors.notApproved(reason, changes);
      const of = `“${sign.title}” (revision ${sign.revision})`;
      if (!isCleared && override)
        await record(this.db, {
          jobId: sign.jobId,
          who: override.name,
          text: `${kind} of ${of} asked for without approval: ${override.reason.trim()}`,
        });
    }
    const task = await waitingTask(this.db, {
      signId,
      proofId: null,
      revision: sign.revision,
      kind,
      option: option ?? null,
      paper: paper ?? null,
      layout: layout ?? null,
      process: process ?? null,
    });
    await this.send({ taskId: task.id });
    return task;
  }

  async find(id: string): Promise<Task> {
    const task = isUuid(id) ? await this.db.Task.findByPk(id, { attributes: EVERYTHING_BUT_FILE }) : null;
    if (!task) throw errors.notFound('task', id);
    return task;
  }

  async ofSign(signId: string): Promise<Task[]> {
    await this.signs.find(signId);
    return this.db.Task.findAll({
      where: { signId, kind: { [Op.notIn]: [...PLAN_KINDS] } },
      attributes: EVERYTHING_BUT_FILE,
      order: [['askedAt', 'DESC']],
      limit: 30,
    });
  }

  /** A task that has not begun is cancelled at once; a running one stops at its next step. */
  async cancel(id: string): Promise<Task> {
    await this.find(id);
    await this.db.Task.update({ cancelAsked: true }, { where: { id } });
    await this.db.Task.update({ state: 'cancelled', finishedAt: new Date() }, { where: { id, state: 'waiting' } });
    return this.find(id);
  }

  /** What is to be sent in of a file that was refused, since its solid is open. */
  async report(id: string): Promise<Task> {
    const known = await this.find(id);
    const task = await this.db.Task.findOne({ where: { id, state: 'failed', file: { [Op.ne]: null } } });
    if (!task) throw errors.notFound('report of task', known.id);
    return task;
  }

  async file(id: string): Promise<Task> {
    const known = await this.find(id);
    const task = await this.db.Task.findOne({ where: { id, state: 'done', file: { [Op.ne]: null } } });
    if (!task) throw errors.notReady(known.state);
    return task;
  }
}
