import { randomUUID } from 'node:crypto';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type PgBoss from 'pg-boss';
import { literal, Op, QueryTypes, type Transaction } from 'sequelize';
import { nestChoiceOf } from '@plain-relief/core/runs';
import type { Database } from '../../platform/database/database.js';
import type { MadeRow, OrderedRow, RunLot, RunMaking } from '../../platform/database/models/lots.js';
import { isDatabaseAway } from '../../platform/database/trouble.js';
import { LimitedThreads, type Limits, Stopped } from '../../platform/http/limited.js';
import { LOT_QUEUE, type LotOrder } from '../../platform/queue/queue.js';
import type { ShopFonts } from '../fonts/fonts.js';
import { CONTACTS_OF_PAGE } from '../production/run-pdf.js';
import { joined } from './laid-aside.js';
import type { LotAnswer, LotOrder as ThreadOrder, LotWork } from './lot-thread.js';

/** Of a thread that makes a few plates; it clears its memory away before it comes near to this. */
const LIMITS = { threads: 1, seconds: 120, megabytes: 360, youngMb: 48 };
/** Of one that has a row which the first could not make, and the laying of thousands of letters on sheets. */
const LARGE = { threads: 1, seconds: 240, megabytes: 1500, youngMb: 48 };
/** Of the programs of a sheet: laid, written and cut in a dry run. */
const LONG = { threads: 1, seconds: 900, megabytes: 1500, youngMb: 96 };
const BEAT_MS = 500;
/** How long the queue is left alone where it was empty. */
const EMPTY_MS = 400;
/** How long a lot stands back behind files of single signs at most. */
const LONGEST_BACK_MS = 30_000;
const MOST_TRIES = 5;
const GIVEN_UP = `Not made: it was begun ${MOST_TRIES} times and ended its worker each time, so it needs more memory than there is.`;
/** Plates of one file of the contact sheet: pictures of more are not held at once. */
const CONTACTS_OF_FILE = 10 * CONTACTS_OF_PAGE;

export interface LotSettings {
  /** ms without a sign of life after which a lot is handed out again. */
  readonly silentMs: number;
  /** Whether something else is under way that goes first. */
  readonly isBusy: () => boolean;
}

/** Keeps in the database what came of a lot. */
type Keep = () => Promise<void>;

const threadsOf = (limits: Limits) => new LimitedThreads<ThreadOrder, LotAnswer>('./lot-thread.js', import.meta.url, limits);

const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/**
 * Makes files of runs in lots, one after the other: as many processes of this as one likes, on any machines. A lot is claimed by one
 * statement, and counted by the transaction that keeps what was made of it, so that every row is made once in what is kept.
 */
export class LotMaker {
  private readonly threads = threadsOf(LIMITS);
  private readonly large = threadsOf(LARGE);
  private readonly long = threadsOf(LONG);
  private isStopping = false;
  private loop: Promise<void> = Promise.resolve();
  private sweeping: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Database,
    private readonly boss: PgBoss,
    private readonly fonts: ShopFonts,
    private readonly fontsDir: string,
    private readonly settings: LotSettings,
  ) {}

  start(): void {
    this.loop = this.work();
    const sweep = () => void this.takeUpAbandoned().catch((error: Error) => console.error(`Lots: ${error.message}`));
    sweep();
    this.sweeping = setInterval(sweep, this.settings.silentMs / 2);
  }

  /** Begins no more. */
  stop(): void {
    this.isStopping = true;
    clearInterval(this.sweeping);
  }

  /** Ends what is under way: another worker takes it up. */
  async close(): Promise<void> {
    this.stop();
    await Promise.all([this.threads.close(), this.large.close(), this.long.close()]);
    await this.loop;
  }

  /**
   * The queue is asked as soon as a lot is made: lots are shorter than the time between two questions of `boss.work`. While what came of
   * one is kept, the next is begun.
   */
  private async work(): Promise<void> {
    let keeping: Promise<void> | undefined;
    const told = (error: Error) => console.error(`Lots: ${error.message}`);
    while (!this.isStopping) {
      try {
        await this.standBack();
        const [order] = await this.boss.fetch<LotOrder>(LOT_QUEUE, { batchSize: 1 });
        const keep = order && (await this.carryOut(order.data));
        // Of one that is kept there may come others.
        if (!order && !keeping) await wait(EMPTY_MS);
        await keeping;
        keeping = order && this.kept(order.id, keep).catch(told);
      } catch (error) {
        if (!this.isStopping) told(error as Error);
        await wait(4 * EMPTY_MS);
      }
    }
    await keeping;
  }

  private async kept(orderId: string, keep: Keep | undefined): Promise<void> {
    await keep?.();
    await this.boss.complete(LOT_QUEUE, orderId);
  }

  private async standBack(): Promise<void> {
    const began = Date.now();
    while (this.settings.isBusy() && !this.isStopping && Date.now() - began < LONGEST_BACK_MS) await wait(100);
  }

  /** @returns what keeps what came of it, where something did */
  private async carryOut({ makingId, position }: LotOrder): Promise<Keep | undefined> {
    if (position !== undefined) return this.make(makingId, position);
    await this.orderWaiting(makingId);
    return undefined;
  }

  /** Orders all lots that wait. Later lots of a run come after earlier ones of others: runs take turns, and a short one is done soon. */
  private async orderWaiting(makingId: string): Promise<void> {
    const lots = await this.db.RunLot.findAll({ where: { makingId, state: 'waiting' }, attributes: ['position'] });
    const orders = lots.map(({ position }) => ({ name: LOT_QUEUE, data: { makingId, position }, priority: -position }));
    if (orders.length > 0) await this.boss.insert(orders);
  }

  private async make(makingId: string, position: number): Promise<Keep | undefined> {
    const making = await this.db.RunMaking.findByPk(makingId);
    if (making?.state !== 'running') return undefined;
    const claim = randomUUID();
    const [claimed] = await this.db.RunLot.update(
      { state: 'running', claim, part: 0, beatAt: new Date(), tries: literal('tries + 1') },
      { where: { makingId, position, state: 'waiting' } },
    );
    if (claimed !== 1) return undefined;
    await this.db.RunMaking.update({ beatAt: new Date() }, { where: { id: makingId } });
    const lot = await this.db.RunLot.findOne({ where: { makingId, position }, attributes: ['makingId', 'position', 'kind', 'number', 'rows', 'tries'] }); // prettier-ignore
    if (!lot) return undefined;
    const stopper = new AbortController();
    let part = 0;
    const beat = setInterval(() => void this.beat(lot, claim, part, stopper).catch(() => undefined), BEAT_MS);
    const tell = (now: number) => void (part = now);
    const [answer] = await Promise.allSettled([this.answered(making, lot, stopper.signal, tell)]);
    return async () => {
      try {
        if (answer.status === 'rejected') throw answer.reason;
        await this.keep(makingId, lot, claim, answer.value);
      } catch (error) {
        // Whoever stopped it has said what becomes of it; what the database did not hear is handed out again.
        if (this.isStopping || error instanceof Stopped || isDatabaseAway(error)) return;
        await this.keepTrouble(makingId, lot, claim, (error as Error).message);
      } finally {
        clearInterval(beat);
      }
    };
  }

  private async beat({ makingId, position }: RunLot, claim: string, part: number, stopper: AbortController): Promise<void> {
    const [kept] = await this.db.RunLot.update(
      { beatAt: new Date(), part },
      { where: { makingId, position, claim, state: 'running' } },
    );
    const making = await this.db.RunMaking.findByPk(makingId, { attributes: ['state'] });
    if (kept !== 1 || !making || making.state === 'cancelled') stopper.abort();
  }

  /** @param tell which part of it is done, where that is known before all is */
  private async answered(
    making: RunMaking,
    { kind, rows, number }: RunLot,
    stop: AbortSignal,
    tell: (part: number) => void,
  ): Promise<LotAnswer> {
    const run = (work: LotWork, what: string, threads = this.threads, transfer: readonly MessagePort[] = []) =>
      threads.run({ fontsDir: this.fontsDir, work }, what, { stop, transfer });
    const { id, sign, title, sheet, kinds, cutting, askedAt } = making;
    // To the day, as people date a sheet.
    const date = new Date(askedAt.toISOString().slice(0, 10));
    const choice = sheet && nestChoiceOf({ sheet });
    switch (kind) {
      case 'rows': {
        const fonts = await this.fonts.usedBy(sign);
        const work = { kind, sign, fonts, kinds, forSheets: sheet !== null, forContact: making.hasContact } as const;
        return this.rowsMade(rows!, (own) => own.length === 1 ? run({ ...work, rows: own }, `Row ${own[0].row + 1}`, this.large) : run({ ...work, rows: own }, 'A lot')); // prettier-ignore
      }
      case 'nest': {
        const lots = await this.db.RunLot.findAll({ where: { makingId: id, kind: 'rows' }, attributes: ['edges'], order: [['position', 'ASC']] }); // prettier-ignore
        return run({ kind, title, sheet: sheet!, edges: lots.flatMap(({ edges }) => edges ?? []), date }, 'Laying the plates on sheets', this.large); // prettier-ignore
      }
      case 'sheet': {
        const laid = making.laid!.laid.filter((each) => each.sheet === number);
        const { lots } = await this.lotsOf(id, new Set(laid.map(({ row }) => row)));
        return run({ kind, sign: { title, unit: sign.unit }, choice: choice!, sheet: number, laid, kinds, lots }, `Sheet ${number + 1}`); // prettier-ignore
      }
      case 'programs': {
        const laid = making.laid!.laid.filter((each) => each.sheet === number);
        const { lots, rows: own } = await this.lotsOf(id, new Set(laid.map(({ row }) => row)));
        const fonts = await this.fonts.usedBy(sign);
        // Those that were put there by hand may be too near to something.
        const onSheet = nestChoiceOf({ sheet: sheet! }, laid.map(({ row }) => row)); // prettier-ignore
        const work = { kind, sign, fonts, rows: own, choice: onSheet, sheet: number, laid, cutting: cutting!, edges: lots.map(({ edges }) => edges) } as const; // prettier-ignore
        const { port1: near, port2: port } = new MessageChannel();
        near.on('message', tell);
        return run({ ...work, port }, `Planning sheet ${number + 1}`, this.long, [port]).finally(() => near.close());
      }
      case 'contact': {
        const all = await this.db.RunLot.findAll({ where: { makingId: id, kind: 'rows' }, attributes: ['position', 'made'], order: [['position', 'ASC']] }); // prettier-ignore
        const [from, to] = [number * CONTACTS_OF_FILE, (number + 1) * CONTACTS_OF_FILE];
        const lots: { made: readonly MadeRow[]; pictures: Uint8Array }[] = [];
        let before = 0;
        for (const { position, made } of all) {
          const own = made!.filter((_, i) => before + i >= from && before + i < to);
          before += made!.length;
          if (own.length === 0) continue;
          const kept = await this.db.RunLot.findOne({ where: { makingId: id, position }, attributes: ['pictures'] });
          if (kept?.pictures) lots.push({ made: own, pictures: kept.pictures });
        }
        return run({ kind, title, number, lots, date }, 'The contact sheet');
      }
    }
  }

  /** Rows by themselves where they cannot be made together: what is wrong with one keeps no other from being made. */
  private async rowsMade(
    rows: readonly OrderedRow[],
    make: (rows: readonly OrderedRow[]) => Promise<LotAnswer>,
  ): Promise<LotAnswer> {
    try {
      return await make(rows);
    } catch (error) {
      if (error instanceof Stopped || isDatabaseAway(error) || this.isStopping) throw error;
      if (rows.length === 1) return notMade(rows, `Not made: ${(error as Error).message}`);
      const alone: LotAnswer[] = [];
      for (const row of rows) alone.push(await this.rowsMade([row], make));
      return {
        files: alone.flatMap(({ files }) => files),
        data: Buffer.concat(alone.map(({ data }) => data)),
        made: alone.flatMap(({ made = [] }) => made),
        edges: joined(alone.map(({ edges }) => edges)),
        drawings: joined(alone.map(({ drawings }) => drawings)),
        pictures: joined(alone.map(({ pictures }) => pictures)),
      };
    }
  }

  /** Some rows as they were ordered, and edges and drawings of the lots that have them. */
  private async lotsOf(makingId: string, rows: ReadonlySet<number>) {
    const all = await this.db.RunLot.findAll({ where: { makingId, kind: 'rows' }, attributes: ['position', 'made'], order: [['position', 'ASC']] }); // prettier-ignore
    const positions = all.filter(({ made }) => made!.some(({ row }) => rows.has(row))).map(({ position }) => position);
    const kept = await this.db.RunLot.findAll({ where: { makingId, position: positions }, attributes: ['rows', 'edges', 'drawings'], order: [['position', 'ASC']] }); // prettier-ignore
    const own = kept.flatMap((lot) => lot.rows ?? []).filter(({ row }) => rows.has(row));
    return { rows: own, lots: kept.flatMap(({ edges, drawings }) => (edges && drawings ? [{ edges, drawings }] : [])) };
  }

  /** Keeps what came of a lot, counts it, and adds the lots that can be made from now on; nothing where another worker has it. */
  private async keep(makingId: string, lot: RunLot, claim: string, answer: LotAnswer, trouble?: string): Promise<void> {
    const { position } = lot;
    const { files, data, made, edges, drawings, pictures, laid, minutes, wrong } = answer;
    const bytes = (own?: Uint8Array): Buffer | null => (own ? Buffer.from(own.buffer, own.byteOffset, own.byteLength) : null);
    const added = await this.db.sequelize.transaction(async (transaction) => {
      const [kept] = await this.db.RunLot.update(
        { state: 'done', claim: null, made: made ?? null, files, data: bytes(data), edges: bytes(edges), drawings: bytes(drawings), pictures: bytes(pictures) },
        { where: { makingId, position, claim, state: 'running' }, transaction },
      ); // prettier-ignore
      if (kept !== 1) return false;
      const making = await this.db.RunMaking.findByPk(makingId, { transaction, lock: true });
      if (!making || making.state === 'cancelled') return false;
      return this.counted(making, lot, made?.length ?? 0, { laid, minutes, wrong, trouble }, transaction);
    });
    if (added) await this.orderWaiting(makingId);
  }

  /** Keeps why nothing came of a lot. */
  private keepTrouble(makingId: string, lot: RunLot, claim: string, reason: string): Promise<void> {
    const nothing: LotAnswer = lot.rows ? notMade(lot.rows, reason) : { files: [], data: new Uint8Array() };
    return this.keep(makingId, lot, claim, nothing, reason);
  }

  /** @returns whether there are new lots */
  private async counted(
    making: RunMaking,
    { kind, number }: RunLot,
    rows: number,
    { laid, minutes = 0, wrong, trouble }: Pick<LotAnswer, 'laid' | 'minutes' | 'wrong'> & { readonly trouble?: string },
    transaction: Transaction,
  ): Promise<boolean> {
    const { id, sheet, hasContact, cutting } = making;
    const next: Pick<RunLot, 'kind' | 'number'>[] = [];
    making.lotsMade += 1;
    making.made += rows;
    making.beatAt = new Date();
    making.minutes += minutes;
    const text = kind === 'programs' ? (trouble ?? wrong) : undefined;
    if (text !== undefined) making.troubles = [...making.troubles, { sheet: number, text }];
    else if (kind !== 'rows' && trouble !== undefined) making.error = [making.error, trouble].filter(Boolean).join(' ');
    if (kind === 'rows' && making.made === making.rows) {
      if (sheet) next.push({ kind: 'nest', number: 0 });
      if (hasContact) for (let i = 0; i * CONTACTS_OF_FILE < making.rows; i++) next.push({ kind: 'contact', number: i });
    }
    if (kind === 'nest' && laid) {
      making.laid = laid;
      for (const own of cutting ? (['sheet', 'programs'] as const) : (['sheet'] as const))
        for (let i = 0; i < laid.count; i++) next.push({ kind: own, number: i });
    }
    const blank = { makingId: id, state: 'waiting', tries: 0 } as const;
    await this.db.RunLot.bulkCreate(
      next.map((each, i) => ({ ...blank, ...each, position: making.lots + i })),
      { transaction },
    );
    making.lots += next.length;
    if (making.lotsMade === making.lots) {
      making.state = 'done';
      making.finishedAt = new Date();
      // What only later lots needed.
      await this.db.RunLot.update({ edges: null, drawings: null, pictures: null }, { where: { makingId: id }, transaction });
    }
    await making.save({ transaction });
    return next.length > 0;
  }

  /** Lots whose worker was killed are handed out again, and ordered anew where an order got lost. */
  private async takeUpAbandoned(): Promise<void> {
    const silent = new Date(Date.now() - this.settings.silentMs);
    const left = await this.db.RunLot.findAll({
      where: { state: 'running', beatAt: { [Op.lt]: silent } },
      attributes: ['makingId', 'position', 'claim', 'tries', 'kind', 'rows'],
    });
    for (const lot of left) {
      const { makingId, position, claim, tries } = lot;
      if (tries >= MOST_TRIES) {
        await this.keepTrouble(makingId, lot, claim!, GIVEN_UP);
        continue;
      }
      const [freed] = await this.db.RunLot.update({ state: 'waiting', claim: null }, { where: { makingId, position, claim, state: 'running' } }); // prettier-ignore
      if (freed === 1) await this.boss.insert([{ name: LOT_QUEUE, data: { makingId, position }, priority: -position }]);
    }
    await this.orderLost(silent);
  }

  /** Of what nothing has happened for a while although lots of it wait, and none is under way: whoever fetched their orders was killed. */
  private async orderLost(since: Date): Promise<void> {
    const rows = await this.db.sequelize.query<{ id: string }>(
      `UPDATE run_makings SET beat_at = now() WHERE state = 'running' AND beat_at < :since
         AND EXISTS (SELECT 1 FROM run_lots WHERE making_id = id AND run_lots.state = 'waiting')
         AND NOT EXISTS (SELECT 1 FROM run_lots WHERE making_id = id AND run_lots.state = 'running')
       RETURNING id`,
      { replacements: { since }, type: QueryTypes.SELECT },
    );
    for (const { id } of rows) await this.orderWaiting(id);
  }
}

/** Rows that could not be made, and why. */
const notMade = (rows: readonly OrderedRow[], reason: string): LotAnswer => ({
  files: [],
  data: new Uint8Array(),
  made: rows.map(({ row }) => ({ row, state: 'refused', title: '', told: [reason] })),
});
