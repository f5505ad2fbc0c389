import { Piscina } from 'piscina';
import { threadFile } from '../platform/http/threads.js';
import { CommandError } from './command.js';
import type { MadeRow, RowsOrder } from './run-rows.js';
import type { MadeSheet, SheetOrder } from './run-sheet.js';
import made, { type RunWork } from './run-thread.js';

const MOST = 32;
/** Rows that a thread is given at a time: so few that none waits long for the last. */
const LOT = 12;

/** How many threads make a run. @throws CommandError */
export function workersFrom(text = '1'): number {
  const count = Number(text);
  if (Number.isInteger(count) && count >= 1 && count <= MOST) return count;
  throw new CommandError(`--workers ${text} is no number of 1 to ${MOST}.`);
}

/** Threads that make the parts of a run; this one alone where one is enough. */
export class RunThreads {
  private readonly pool: Piscina | undefined;

  constructor(count: number) {
    if (count > 1) this.pool = new Piscina({ filename: threadFile('./run-thread.js', import.meta.url), minThreads: count, maxThreads: count }); // prettier-ignore
  }

  /** In the order in which they are asked for. */
  async rows(order: Omit<RowsOrder, 'rows'>, rows: RowsOrder['rows']): Promise<MadeRow[]> {
    const lots: RowsOrder[] = [];
    for (let at = 0; at < rows.length; at += LOT) lots.push({ ...order, rows: rows.slice(at, at + LOT) });
    return ((await this.each(lots.map((lot) => ({ kind: 'rows', order: lot })))) as MadeRow[][]).flat();
  }

  sheets(orders: readonly SheetOrder[]): Promise<MadeSheet[]> {
    return this.each(orders.map((order) => ({ kind: 'sheet', order }))) as Promise<MadeSheet[]>;
  }

  async close(): Promise<void> {
    await this.pool?.destroy();
  }

  private async each(works: readonly RunWork[]): Promise<unknown[]> {
    if (this.pool) return Promise.all(works.map((work) => this.pool!.run(work) as Promise<unknown>));
    const all: unknown[] = [];
    for (const work of works) all.push(await made(work));
    return all;
  }
}
