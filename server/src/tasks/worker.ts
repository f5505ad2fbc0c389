import { Evaluator } from '@plain-relief/core/relief';
import type PgBoss from 'pg-boss';
import { Op } from 'sequelize';
import type { Database } from '../database/database.js';
import { openFontBook } from '../fonts/font-files.js';
import { FileMaker, type MadeFile } from '../production/make-file.js';
import type { ProofSubject } from '../production/sheet.js';
import type { Report } from '../production/sign-pages.js';
import { type SignViews, viewsOf } from '../production/sign-views.js';
import { EVERYTHING } from '@plain-relief/core/sheet';
import type { Proof, ProofAbout } from '../proofs/model.js';
import { shopCard } from '../shop/card.js';
import { shopFontId, ShopFonts } from '../shop/fonts.js';
import type { Job } from '../jobs/model.js';
import type { Task, TaskKind } from './model.js';
import { QUEUE, type TaskOrder } from './queue.js';

/** A running task whose worker gave no sign of life for this long is handed out again. */
const SILENT_MS = 15_000;
const BEAT_MS = 3_000;

class Cancelled extends Error {}

/** Makes files from the queue, one at a time. */
export class Worker {
  private readonly maker: FileMaker;
  private readonly evaluator: Evaluator;
  private readonly book;
  private readonly shopFonts: ShopFonts;
  private sweeping: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Database,
    private readonly boss: PgBoss,
    fontsDir: string,
  ) {
    this.shopFonts = new ShopFonts(db);
    this.book = openFontBook(fontsDir, ({ file }) => {
      const id = shopFontId(file);
      return id === undefined ? undefined : this.shopFonts.bytes(id);
    });
    this.maker = new FileMaker(this.book, fontsDir);
    this.evaluator = new Evaluator(this.book);
  }

  async start(): Promise<void> {
    await this.boss.work<TaskOrder>(QUEUE, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([job]) => {
      await this.run(job.data.taskId);
    });
    const sweep = () => void this.takeUpAbandoned().catch((error: Error) => console.error(`Worker: ${error.message}`));
    sweep();
    this.sweeping = setInterval(sweep, SILENT_MS / 2);
  }

  stop(): void {
    clearInterval(this.sweeping);
  }

  /** Tasks that another worker began and will not end, because it was killed. */
  private async takeUpAbandoned(): Promise<void> {
    const silent = new Date(Date.now() - SILENT_MS);
    const abandoned = await this.db.Task.findAll({
      where: { state: 'running', beatAt: { [Op.lt]: silent } },
      attributes: ['id'],
    });
    for (const { id } of abandoned) {
      const [taken] = await this.db.Task.update(
        { state: 'waiting', progress: 0, step: 'taken up again' },
        { where: { id, state: 'running', beatAt: { [Op.lt]: silent } } },
      );
      if (taken === 1) await this.boss.send(QUEUE, { taskId: id } satisfies TaskOrder);
    }
  }

  private async run(taskId: string): Promise<void> {
    // One worker at most gets the task: the change of state is the claim.
    const [claimed] = await this.db.Task.update(
      { state: 'running', beatAt: new Date(), step: 'reading the sign' },
      { where: { id: taskId, state: 'waiting' } },
    );
    if (claimed !== 1) return;
    const beat = setInterval(
      () => void this.db.Task.update({ beatAt: new Date() }, { where: { id: taskId } }).catch(() => {}),
      BEAT_MS,
    );
    try {
      const task = await this.db.Task.findByPk(taskId);
      if (task) await this.makeFile(task);
    } catch (error) {
      if (error instanceof Cancelled) await this.finish(taskId, { state: 'cancelled', step: '' });
      else if (isDatabaseTrouble(error)) throw error;
      else await this.finish(taskId, { state: 'failed', error: (error as Error).message });
    } finally {
      clearInterval(beat);
    }
  }

  private async makeFile(task: Task): Promise<void> {
    const report: Report = async (progress, step) => {
      await this.db.Task.update({ progress, step, beatAt: new Date() }, { where: { id: task.id } });
      const now = await this.db.Task.findByPk(task.id, { attributes: ['cancelAsked'] });
      if (!now || now.cancelAsked) throw new Cancelled();
    };
    await report(0.02, 'working out the relief');
    this.book.learn(await this.shopFonts.entries());
    const made = task.proofId === null ? await this.ofSign(task, report) : await this.ofProof(task, report);
    await this.finish(task.id, {
      state: 'done',
      progress: 1,
      step: '',
      fileName: made.name,
      fileType: made.type,
      file: Buffer.from(made.bytes),
    });
  }

  private async ofSign(task: Task, report: Report): Promise<MadeFile> {
    const revision = await this.db.RevisionRow.findOne({
      where: { signId: task.signId!, revision: task.revision, kind: 'saved' },
    });
    const row = await this.db.SignRow.findByPk(task.signId!, {
      include: [{ association: 'job', include: [{ association: 'customer' }] }],
    });
    if (!revision || !row) throw new Error('The sign was removed before its file was made.');
    const option = revision.document.options?.find(({ id }) => id === task.option);
    if (task.option && !option) throw new Error('The sign has no such option any more: ask for one that it has.');
    const views = await viewsOf(this.evaluator, revision.document, option?.id);
    const subject: ProofSubject = {
      ...subjectOf(row.job),
      shop: await shopCard(this.db),
      revision: String(task.revision),
      date: task.askedAt,
      ...(option && { option: option.name }),
      ...(task.layout && { layout: task.layout }),
    };
    return this.maker.make(task.kind as TaskKind, views, subject, report, task.paper ?? 'A4');
  }

  /** A sheet of what was frozen; the same bytes whenever it is made. */
  private async ofProof(task: Task, report: Report): Promise<MadeFile> {
    const proof = await this.db.Proof.findByPk(task.proofId!, {
      include: [{ association: 'job', include: [{ association: 'customer' }] }],
    });
    if (!proof?.job) throw new Error('The proof was removed before its sheet was made.');
    const views: SignViews[] = [];
    for (const { document } of proof.contents) views.push(await viewsOf(this.evaluator, document));
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
      frozen: {
        digest: proof.digest,
        message: proof.message,
        brief: about.brief,
        revisions: about.revisions,
        ...(task.kind === 'stamped sheet' && { approval: approvalOf(proof) }),
      },
    };
    return this.maker.sheet(views, subject, report);
  }

  private async finish(id: string, end: Partial<Task>): Promise<void> {
    await this.db.Task.update({ ...end, finishedAt: new Date() }, { where: { id, state: 'running' } });
  }
}

const isDatabaseTrouble = (error: unknown): boolean => error instanceof Error && /^Sequelize.*Connection/u.test(error.name);

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
