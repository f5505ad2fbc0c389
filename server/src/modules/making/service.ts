import { randomUUID } from 'node:crypto';
import type { KeptPlan, MadeWith, PlanOrder } from '@plain-relief/api';
import { isProven, troubleOf } from '@plain-relief/core/dry-run';
import { readCutChoice } from '@plain-relief/core/making';
import { facesOf } from '@plain-relief/core/sign';
import { type Shop, ShopError } from '@plain-relief/core/shop';
import type { Database } from '../../platform/database/database.js';
import type { KeptProgram, PlanRow } from '../../platform/database/models/plans.js';
import { waitingTask } from '../../platform/database/models/tasks.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import { queueOf, type Send } from '../../platform/queue/queue.js';
import { record } from '../history/record.js';
import { type Clearance, clearance } from '../proof-states/production-lock.js';
import { shopLibrary } from '../shop/library.js';
import type { SignService } from '../signs/service.js';

/** Whoever asks or lets out. */
export interface Asking {
  readonly name: string;
}

const SHOWN = { exclude: ['programs', 'picture', 'sheet', 'madeWith'] };
const TASK = { association: 'task', attributes: { exclude: ['file'] } };
/** Plans of a sign that are listed. */
const MOST_LISTED = 20;

/** Plans of cuts: asked for, looked at, and let out as programs. */
export class PlanService {
  constructor(
    private readonly db: Database,
    private readonly signs: SignService,
    private readonly send: Send,
  ) {}

  async ofSign(signId: string): Promise<KeptPlan[]> {
    await this.signs.find(signId);
    const rows = await this.db.PlanRow.findAll({
      where: { signId },
      attributes: SHOWN,
      include: [TASK],
      order: [['askedAt', 'DESC']],
      limit: MOST_LISTED,
    });
    return rows.map(told);
  }

  async find(id: string): Promise<PlanRow> {
    const row = isUuid(id) ? await this.db.PlanRow.findByPk(id, { attributes: SHOWN, include: [TASK] }) : null;
    if (!row) throw errors.notFound('plan', id);
    return row;
  }

  async told(id: string): Promise<KeptPlan> {
    return told(await this.find(id));
  }

  /** Asks for a plan of the sign as it was saved last, made with what the shop has now. */
  async ask(signId: string, order: PlanOrder, { name }: Asking): Promise<KeptPlan> {
    const { library } = await shopLibrary(this.db);
    return this.order(signId, order, madeWith(library, order), name);
  }

  /** Asks for the same once more, with the very tools, material and rates as then, of the sign as it is now. */
  async again(id: string, { name }: Asking): Promise<KeptPlan> {
    const row = await this.whole(id, ['madeWith', 'order', 'signId']);
    return this.order(row.signId, row.order, row.madeWith, name);
  }

  /** What a plan's programs are measured by: the proof that was approved. */
  async clearance(id: string): Promise<Clearance> {
    const { signId, revision, order } = await this.find(id);
    const sign = await this.signs.find(signId);
    const { document } = await this.signs.revision(signId, revision);
    return clearance(this.db, { id: signId, jobId: sign.jobId, revision, document }, order.option, await this.signs.catalogue());
  }

  /**
   * Lets the programs out. What the dry run found wrong, or the customer did not approve, leaves only where somebody takes it on
   * themselves; either goes into the job's history.
   */
  async release(id: string, { name }: Asking, reason?: string): Promise<KeptPlan> {
    const row = await this.done(id);
    const sign = await this.signs.find(row.signId);
    const { isCleared, reason: why, changes } = await this.clearance(id);
    const isSound = isProven(row.outcome!.run);
    if (reason === undefined && !isSound) throw errors.notProven(troubleOf(row.outcome!.run));
    if (reason === undefined && !isCleared) throw errors.notApproved(why, changes);
    const missing = [...(isSound ? [] : [`not proven (${troubleOf(row.outcome!.run)})`]), ...(isCleared ? [] : ['not approved'])];
    const of = `programs of “${sign.title}” (revision ${row.revision})`;
    const text =
      missing.length > 0
        ? `${of} let out though ${missing.join(' and ')}: ${reason!.trim()}`
        : `${of} let out, proven and approved`;
    await this.db.sequelize.transaction(async (transaction) => {
      const released = { by: name, at: new Date().toISOString(), reason: missing.length > 0 ? reason!.trim() : null };
      await this.db.PlanRow.update({ released }, { where: { id }, transaction });
      await record(this.db, { jobId: sign.jobId, who: name, text }, transaction);
    });
    return this.told(id);
  }

  /** What leaves the shop, once it was let out. */
  async leaving(
    id: string,
  ): Promise<{ readonly programs: readonly KeptProgram[]; readonly sheet: Buffer; readonly plan: PlanRow }> {
    const plan = await this.done(id);
    if (!plan.released) throw errors.notReleased();
    const { programs, sheet } = await this.whole(id, ['programs', 'sheet']);
    return { programs: programs!, sheet: sheet!, plan };
  }

  /** What is shown of a plan, let out or not. */
  async shown<K extends 'programs' | 'madeWith' | 'picture' | 'sheet'>(
    id: string,
    what: readonly K[],
  ): Promise<Pick<PlanRow, K>> {
    await this.done(id);
    return this.whole(id, what);
  }

  /** A plan with its task; one that is under way is stopped first. */
  async remove(id: string): Promise<void> {
    const { taskId } = await this.find(id);
    await this.db.Task.update({ cancelAsked: true }, { where: { id: taskId } });
    await this.db.Task.destroy({ where: { id: taskId } });
  }

  private async order(signId: string, order: PlanOrder, made: MadeWith, name: string): Promise<KeptPlan> {
    const sign = await this.signs.find(signId);
    if (order.option !== undefined && !sign.document.options?.some(({ id }) => id === order.option))
      throw errors.notFound('option', order.option);
    const faces = facesOf(sign.document.support);
    if (order.face !== undefined && !faces.some(({ id }) => id === order.face)) throw errors.notFound('face', order.face);
    if (faces.length > 0 && order.face === undefined)
      throw errors.badRequest([
        {
          path: 'face',
          message: `is missing: the sign is a block, so say which face is cut, one of ${faces.map(({ id }) => id).join(', ')}`,
        },
      ]);
    judgeChoice(order.choice ?? {});
    const of = { signId, proofId: null, revision: sign.revision, kind: 'cuts', option: order.option ?? null } as const;
    const task = await waitingTask(this.db, of);
    const { id } = await this.db.PlanRow.create({
      id: randomUUID(),
      signId,
      revision: sign.revision,
      taskId: task.id,
      order,
      madeWith: made,
      askedBy: name,
      askedAt: task.askedAt,
      outcome: null,
      programs: null,
      picture: null,
      sheet: null,
      released: null,
    });
    await this.send({ taskId: task.id }, queueOf('cuts'));
    return this.told(id);
  }

  private async done(id: string): Promise<PlanRow> {
    const row = await this.find(id);
    if (!row.outcome) throw errors.notReady(row.task?.state ?? 'lost');
    return row;
  }

  private async whole(id: string, attributes: (keyof PlanRow)[] | readonly (keyof PlanRow)[]): Promise<PlanRow> {
    const row = isUuid(id) ? await this.db.PlanRow.findByPk(id, { attributes: [...attributes] as string[] }) : null;
    if (!row) throw errors.notFound('plan', id);
    return row;
  }
}

function judgeChoice(choice: unknown): void {
  try {
    readCutChoice(choice);
  } catch (error) {
    if (error instanceof ShopError)
      throw errors.badRequest(error.faults.map(({ path, message }) => ({ path: `choice.${path}`, message })));
    throw error;
  }
}

function madeWith({ machines, materials, tools, rates }: Shop, order: PlanOrder): MadeWith {
  const pick = <T extends { readonly id: string }>(what: string, list: readonly T[], id: string): T => {
    const found = list.find((each) => each.id === id);
    if (found) return found;
    throw errors.notInShop(what, id, list.map((each) => each.id)); // prettier-ignore
  };
  return {
    machine: pick('The machine', machines, order.machine),
    material: pick('The material', materials, order.material),
    tools: order.tools.map((id) => pick('The tool', tools, id)),
    rates,
  };
}

function told(row: PlanRow): KeptPlan {
  const { id, signId, revision, order, taskId, askedBy, askedAt, outcome, released, task } = row;
  return {
    id,
    signId,
    revision,
    order,
    taskId,
    askedBy,
    askedAt: askedAt.toISOString(),
    state: task?.state ?? 'failed',
    progress: task?.progress ?? 0,
    step: task?.step ?? '',
    error: task?.error ?? null,
    finishedAt: task?.finishedAt?.toISOString() ?? null,
    outcome,
    released,
  };
}
