import { randomUUID } from 'node:crypto';
import type { MachineReport, MachineRun, MachineView } from '@plain-relief/api';
import type { MachineCommand } from '@plain-relief/api/states';
import type { PlanOutcome } from '@plain-relief/core/making';
import type { ShopMachine } from '@plain-relief/core/shop';
import type { Database } from '../../platform/database/database.js';
import type { MachineRunRow } from '../../platform/database/models/plans.js';
import { errors } from '../../platform/errors.js';
import { record } from '../history/record.js';
import type { PlanService } from '../making/service.js';
import { MachineAway, type MachineDriver, MachineRefusal, type MachineZero } from './driver.js';

const WATCH_MS = 1000;
/** mm that a machine may go below the underside of the stock. */
const BELOW = 6;
const WHOLE = {
  association: 'plan',
  attributes: ['id', 'signId', 'outcome'],
  include: [{ association: 'sign', attributes: ['title', 'jobId'] }],
};

/** Programs on the machine: sent, watched, and known again after a restart of the server or of the machine. */
export class MachineService {
  private readonly watch: NodeJS.Timeout | undefined;
  private isWatching = false;

  constructor(
    private readonly db: Database,
    private readonly plans: PlanService,
    private readonly driver: MachineDriver | undefined,
  ) {
    if (driver) this.watch = setInterval(() => void this.look().catch(() => undefined), WATCH_MS);
    this.watch?.unref();
  }

  close(): void {
    clearInterval(this.watch);
    this.driver?.close();
  }

  /** The machine as it is now, with the program that was sent last. */
  async view(): Promise<MachineView> {
    const run = await this.last();
    let [report, trouble]: [MachineReport | undefined, string] = [undefined, ''];
    try {
      report = await this.machine().report();
    } catch (error) {
      trouble = sentenceOf(error);
    }
    if (run && report) await this.keep(run, report);
    return { ...(report && { report }), trouble, run: run ? told(run) : null };
  }

  /** Sends a program of a plan that was let out. @param instead whether what somebody else sent is taken out for it */
  async send(planId: string, file: number, who: string, instead = false): Promise<MachineView> {
    const { programs, plan } = await this.plans.leaving(planId);
    const program = programs.at(file);
    if (!program) throw errors.notFound('program', String(file));
    const { madeWith } = await this.plans.shown(planId, ['madeWith']);
    const before = await this.last();
    if (before && before.end === null && before.sentBy !== who && !instead)
      throw errors.machineTaken(before.sentBy, before.plan?.outcome?.files[before.file]?.name ?? 'a program');
    const id = randomUUID();
    await this.asked((driver) => driver.take({ id, ...program }, madeWith.machine, zeroOn(madeWith.machine, plan.outcome!)));
    if (before && before.end === null) await this.end(before, 'replaced');
    // What was lost, or stopped, is gone on with from there.
    const isSame = before?.planId === planId && before.file === file && (before.end === 'lost' || before.end === 'stopped');
    const line = isSame ? before.line : 0;
    await this.db.MachineRunRow.create({ id, planId, file, sentBy: who, sentAt: new Date(), line, end: null });
    const run = await this.last();
    if (run) await this.happened(run, who, 'sent to the machine');
    return this.view();
  }

  async command(command: MachineCommand, who: string, value?: number): Promise<MachineView> {
    await this.asked((driver) => driver.command(command, value));
    const run = await this.last();
    if (run && command === 'stop') {
      await this.happened(run, who, `stopped at line ${run.line}`);
      await this.end(run, 'stopped');
    }
    if (run && command === 'run') {
      await this.db.MachineRunRow.update({ end: null }, { where: { id: run.id } });
      await this.happened(run, who, value === undefined ? 'begun' : `gone on with from line ${value}`);
    }
    return this.view();
  }

  /** Writes down how far the program is, so that it is known after whatever ends the machine or the server. */
  private async look(): Promise<void> {
    if (this.isWatching) return;
    this.isWatching = true;
    try {
      const run = await this.last();
      if (run && run.end === null) await this.keep(run, await this.machine().report());
    } finally {
      this.isWatching = false;
    }
  }

  private async keep(run: MachineRunRow, { job, state }: MachineReport): Promise<void> {
    if (run.end !== null) return;
    if (job?.id !== run.id) {
      // Its power was cut, or its process died: what was in it is gone.
      await this.happened(run, 'the shop', `lost by the machine at line ${run.line}`);
      await this.end(run, 'lost');
    } else if (job.isDone) {
      await this.end(run, 'done');
      await this.happened(run, 'the shop', 'done');
    } else if (job.line > run.line || state === 'running') {
      run.line = job.line;
      await this.db.MachineRunRow.update({ line: job.line }, { where: { id: run.id } });
    }
  }

  private async end(run: MachineRunRow, end: NonNullable<MachineRun['end']>): Promise<void> {
    run.end = end;
    await this.db.MachineRunRow.update({ end, line: run.line }, { where: { id: run.id } });
  }

  private async happened(run: MachineRunRow, who: string, what: string): Promise<void> {
    const { sign, outcome } = run.plan ?? {};
    if (!sign) return;
    const name = outcome?.files[run.file]?.name ?? 'A program';
    await record(this.db, { jobId: sign.jobId, who, text: `${name} of “${sign.title}” ${what}` });
  }

  private last(): Promise<MachineRunRow | null> {
    return this.db.MachineRunRow.findOne({ order: [['sentAt', 'DESC']], include: [WHOLE] });
  }

  private machine(): MachineDriver {
    if (!this.driver) throw new MachineAway('none was started');
    return this.driver;
  }

  private async asked(act: (driver: MachineDriver) => Promise<void>): Promise<void> {
    try {
      await act(this.machine());
    } catch (error) {
      if (error instanceof MachineRefusal) throw errors.machineRefused(error.message);
      if (error instanceof MachineAway) throw errors.machineAway(error.message);
      throw error;
    }
  }
}

/** The stock in the middle of the machine, its underside a little above the lowest that is reached. */
export function zeroOn({ area, travel }: ShopMachine, { stock, zero }: Pick<PlanOutcome, 'stock' | 'zero'>): MachineZero {
  const { box, bottom } = stock;
  return {
    x: (area.width - box.maxX - box.minX) / 2 + zero.x,
    y: (area.height - box.maxY - box.minY) / 2 + zero.y,
    z: BELOW - travel - bottom + zero.z,
  };
}

const sentenceOf = (error: unknown): string =>
  error instanceof MachineAway ? `The practice machine does not answer: ${error.message}.` : (error as Error).message;

function told({ id, planId, file, sentBy, sentAt, line, end, plan }: MachineRunRow): MachineRun {
  return {
    id,
    planId,
    signId: plan?.signId ?? '',
    title: plan?.sign?.title ?? '',
    file,
    name: plan?.outcome?.files[file]?.name ?? '',
    sentBy,
    sentAt: sentAt.toISOString(),
    line,
    end,
  };
}
