import type { TaskKind } from '@plain-relief/api/states';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type PgBoss from 'pg-boss';
import { literal, Op } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { isDatabaseAway } from '../../platform/database/trouble.js';
import { LimitedThreads, Stopped } from '../../platform/http/limited.js';
import { PlanMaker, PLANS_AT_ONCE } from '../making/plan-maker.js';
import type { FileAnswer, FileOrder, Progress } from '../production/file-thread.js';
import type { ProofSubject } from '../production/sheet.js';
import { EVERYTHING } from '@plain-relief/core/sheet';
import type { Proof, ProofAbout } from '../../platform/database/models/proofs.js';
import { shownSigns } from '../proof-states/shown-signs.js';
import { shopCard } from '../shop/card.js';
import { weighedMaterials } from '../shop/library.js';
import { ShopFonts } from '../fonts/fonts.js';
import { nameOf } from '../signs/pictures.js';
import type { Job } from '../../platform/database/models/jobs.js';
import type { Task } from '../../platform/database/models/tasks.js';
import { LONG_QUEUE, QUEUE, queueOf, type TaskOrder } from '../../platform/queue/queue.js';

/** A running task whose worker gave no sign of life for this long is handed out again. */
const SILENT_MS = 15_000;
/** A task that is stopped ends within a second. */
const BEAT_MS = 500;
/** A task that has waited for this long is ordered once more. */
const LOST_MS = 60_000;

/** How often a task is begun whose worker ends before it does. */
const MOST_TRIES = 5;
const GIVEN_UP = `The work was begun ${MOST_TRIES} times and ended its worker each time: it needs more memory than there is. Make the sign plainer or smaller.`;

/** Long work in threads: what takes longest is the sheet of a proof with many signs. */
const LIMITS = { threads: 3, seconds: 240, megabytes: 3000 };

/** What is to be made, before its fonts are brought. */
type Ordered = Pick<FileOrder, 'documents' | 'what' | 'subject'>;

/** Follows a task while a thread works on it: keeps its row alive and up to date, and hears when it is wanted no longer. */
class Watch {
  readonly port: MessagePort;
  private readonly near: MessagePort;
  private readonly stopper = new AbortController();
  private readonly timer: NodeJS.Timeout;
  private latest: Progress | undefined;

  constructor(
    private readonly db: Database,
    private readonly taskId: string,
  ) {
    const { port1, port2 } = new MessageChannel();
    this.near = port1;
    this.port = port2;
    port1.on('message', (progress: Progress) => this.told(progress));
    // An outage of the database stops nothing: the next beat tells.
    this.timer = setInterval(() => void this.beat().catch(() => {}), BEAT_MS);
  }

  get stop(): AbortSignal {
    return this.stopper.signal;
  }

  told(progress: Progress): void {
    this.latest = progress;
  }

  end(): void {
    clearInterval(this.timer);
    this.near.close();
  }

  private async beat(): Promise<void> {
    const { latest } = this;
    await this.db.Task.update(
      { beatAt: new Date(), ...(latest && { progress: latest.share, step: latest.step }) },
      { where: { id: this.taskId, state: 'running' } },
    );
    const now = await this.db.Task.findByPk(this.taskId, { attributes: ['cancelAsked'] });
    if (!now || now.cancelAsked) this.stopper.abort();
  }
}

/** Makes files from the queue, several at once. */
export class Worker {
  private readonly threads = new LimitedThreads<FileOrder, FileAnswer>('../production/file-thread.js', import.meta.url, LIMITS);
  private readonly shopFonts: ShopFonts;
  private readonly plans: PlanMaker;
  private sweeping: NodeJS.Timeout | undefined;
  private isStopping = false;
  private underWay = 0;

  constructor(
    private readonly db: Database,
    private readonly boss: PgBoss,
    private readonly fontsDir: string,
  ) {
    this.shopFonts = new ShopFonts(db);
    this.plans = new PlanMaker(db, this.shopFonts, fontsDir);
  }

  async start(): Promise<void> {
    for (let i = 0; i < LIMITS.threads; i++) await this.takeFrom(QUEUE);
    for (let i = 0; i < PLANS_AT_ONCE; i++) await this.takeFrom(LONG_QUEUE);
    const sweep = () =>
      void Promise.all([this.takeUpAbandoned(), this.askAgain()]).catch((error: Error) =>
        console.error(`Worker: ${error.message}`),
      );
    sweep();
    this.sweeping = setInterval(sweep, SILENT_MS / 2);
  }

  private takeFrom(queue: string): Promise<string> {
    return this.boss.work<TaskOrder>(queue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, ([job]) => this.run(job.data.taskId));
  }

  /** Whether a file of a sign or a sheet of a proof is being made: somebody waits for it. */
  get isMakingFiles(): boolean {
    return this.underWay > 0;
  }

  /** Takes no more; what is under way may end. */
  stop(): void {
    this.isStopping = true;
    clearInterval(this.sweeping);
  }

  /** Ends what is still under way: another worker takes it up. */
  close(): Promise<void> {
    return Promise.all([this.threads.close(), this.plans.close()]).then(() => undefined);
  }

  /** Tasks that another worker began and will not end, because it was killed. */
  private async takeUpAbandoned(): Promise<void> {
    const silent = new Date(Date.now() - SILENT_MS);
    // What nobody wants any more is not begun again.
    await this.db.Task.update(
      { state: 'cancelled', step: '', finishedAt: new Date() },
      { where: { state: 'running', cancelAsked: true, beatAt: { [Op.lt]: silent } } },
    );
    // What has ended its worker time after time would do so again.
    await this.db.Task.update(
      { state: 'failed', error: GIVEN_UP, finishedAt: new Date() },
      { where: { state: 'running', tries: { [Op.gte]: MOST_TRIES }, beatAt: { [Op.lt]: silent } } },
    );
    const abandoned = await this.db.Task.findAll({
      where: { state: 'running', beatAt: { [Op.lt]: silent } },
      attributes: ['id', 'kind'],
    });
    for (const { id, kind } of abandoned) {
      const [taken] = await this.db.Task.update(
        { state: 'waiting', progress: 0, step: 'taken up again' },
        { where: { id, state: 'running', beatAt: { [Op.lt]: silent } } },
      );
      if (taken === 1) await this.boss.send(queueOf(kind), { taskId: id } satisfies TaskOrder);
    }
  }

  /** Tasks that were written down and whose order got lost, as where a process died between the two. */
  private async askAgain(): Promise<void> {
    const lost = await this.db.Task.findAll({
      where: { state: 'waiting', askedAt: { [Op.lt]: new Date(Date.now() - LOST_MS) } },
      attributes: ['id', 'kind'],
      limit: 100,
    });
    // One that only waits for its turn is ordered twice, and whoever comes second finds it claimed.
    for (const { id, kind } of lost)
      await this.boss.send(queueOf(kind), { taskId: id } satisfies TaskOrder, {
        singletonKey: id,
        singletonSeconds: LOST_MS / 1000,
      });
  }

  private async run(taskId: string): Promise<void> {
    // One worker at most gets the task: the change of state is the claim.
    const [claimed] = await this.db.Task.update(
      { state: 'running', beatAt: new Date(), step: 'reading the sign', tries: literal('tries + 1') },
      { where: { id: taskId, state: 'waiting' } },
    );
    if (claimed !== 1) return;
    const watch = new Watch(this.db, taskId);
    try {
      const task = await this.db.Task.findByPk(taskId);
      if (task?.kind === 'cuts') await this.layPlan(task, watch);
      else if (task) await this.counted(() => this.makeFile(task, watch));
    } catch (error) {
      if (this.isStopping) return;
      if (error instanceof Stopped) await this.finish(taskId, { state: 'cancelled', step: '' });
      else if (isDatabaseAway(error)) throw error;
      else await this.finish(taskId, { state: 'failed', error: (error as Error).message });
    } finally {
      watch.end();
    }
  }

  private async counted(make: () => Promise<void>): Promise<void> {
    this.underWay++;
    try {
      await make();
    } finally {
      this.underWay--;
    }
  }

  private async makeFile(task: Task, watch: Watch): Promise<void> {
    watch.told({ share: 0.02, step: 'working out the relief' });
    const order = task.proofId === null ? await this.ofSign(task) : await this.ofProof(task);
    const fonts = (await Promise.all(order.documents.map((document) => this.shopFonts.usedBy(document)))).flat();
    const answer = await this.threads.run(
      { ...order, fontsDir: this.fontsDir, fonts, port: watch.port },
      order.documents.length === 1 ? nameOf(order.documents[0]) : 'The sheet',
      { transfer: [watch.port], stop: watch.stop },
    );
    if ('refused' in answer) {
      const report = { fileName: `${task.kind}-report.json`, fileType: 'application/json', file: Buffer.from(answer.report) };
      await this.finish(task.id, { state: 'failed', error: answer.refused, ...report });
      return;
    }
    const { name, type, bytes } = answer.made;
    const file = { fileName: name, fileType: type, file: Buffer.from(bytes) };
    await this.finish(task.id, { state: 'done', progress: 1, step: '', ...file });
  }

  private async layPlan(task: Task, watch: Watch): Promise<void> {
    await this.plans.lay(task, { port: watch.port, stop: watch.stop });
    await this.finish(task.id, { state: 'done', progress: 1, step: '' });
  }

  private async ofSign(task: Task): Promise<Ordered> {
    const revision = await this.db.RevisionRow.findOne({
      where: { signId: task.signId!, revision: task.revision, kind: 'saved' },
    });
    const row = await this.db.SignRow.findByPk(task.signId!, {
      include: [{ association: 'job', include: [{ association: 'customer' }] }],
    });
    if (!revision || !row?.job) throw new Error('The sign was removed before its file was made.');
    const option = revision.document.options?.find(({ id }) => id === task.option);
    if (task.option && !option) throw new Error('The sign has no such option any more: ask for one that it has.');
    const subject: ProofSubject = {
      ...subjectOf(row.job),
      shop: await shopCard(this.db),
      revision: String(task.revision),
      date: task.askedAt,
      materials: await weighedMaterials(this.db),
      ...(option && { option: option.name }),
      ...(task.layout && { layout: task.layout }),
    };
    const what = {
      kind: 'file',
      file: task.kind as TaskKind,
      ...(option && { option: option.id }),
      paper: task.paper ?? 'A4',
      process: task.process ?? {},
    } as const;
    return { documents: [revision.document], what, subject };
  }

  /** A sheet of what was frozen; the same bytes whenever it is made. */
  private async ofProof(task: Task): Promise<Ordered> {
    const proof = await this.db.Proof.findByPk(task.proofId!, {
      include: [{ association: 'job', include: [{ association: 'customer' }] }],
    });
    if (!proof?.job) throw new Error('The proof was removed before its sheet was made.');
    const about: ProofAbout = proof.about ?? {
      shop: await shopCard(this.db),
      layout: EVERYTHING,
      brief: { contact: '', quantity: proof.job.quantity, dueOn: null },
      revisions: [],
    };
    const subject: ProofSubject = {
      ...subjectOf(proof.job),
      shop: about.shop,
      layout: about.layout,
      revision: proof.letter,
      date: proof.createdAt,
      ...(about.materials && { materials: about.materials }),
      frozen: {
        digest: proof.digest,
        message: proof.message,
        brief: about.brief,
        revisions: about.revisions,
        ...(task.kind === 'stamped sheet' && { approval: approvalOf(proof) }),
      },
    };
    const rows = await this.db.ProofPlace.findAll({ where: { proofId: proof.id }, order: [['position', 'ASC']] });
    const places = rows.map(({ title, document, signs, photograph }) => ({
      title,
      place: document,
      signs,
      ...(photograph && { photograph }),
    }));
    const frozen = await this.db.FrozenRun.findAll({ where: { proofId: proof.id }, order: [['position', 'ASC']] });
    const runs = frozen.flatMap(({ signId, title, document: run }) => {
      const sign = proof.contents.find((each) => each.signId === signId)?.document;
      return sign ? [{ title, sign, run }] : [];
    });
    const documents = shownSigns({ contents: proof.contents, runs: frozen });
    return { documents, what: { kind: 'sheet', places, runs }, subject };
  }

  private async finish(id: string, end: Partial<Task>): Promise<void> {
    await this.db.Task.update({ ...end, finishedAt: new Date() }, { where: { id, state: 'running' } });
  }
}

const subjectOf = (job: Job | undefined) => ({
  customer: job?.customer?.name ?? '',
  job: job ? `${job.number} ${job.title}` : '',
});

/** Who approved a proof, when, and the options that were chosen. */
function approvalOf({ state, answeredBy, endedAt, choices, contents }: Proof) {
  if (state !== 'approved' || !answeredBy || !endedAt) throw new Error('The proof is not approved, so it gets no stamp.');
  const chosen = contents.flatMap(({ signId, title, document: { options } }) => {
    const option = options?.find(({ id }) => id === choices?.[signId]);
    return option ? [`${title}: ${option.name} was chosen.`] : [];
  });
  return { by: answeredBy, at: endedAt, choices: chosen };
}
