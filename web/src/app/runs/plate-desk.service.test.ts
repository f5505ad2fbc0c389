import { MessageChannel } from 'node:worker_threads';
import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { newRun } from '@plain-relief/core/runs';
import { newSign } from '@plain-relief/core/sign';
import type { AskedRow, ToldRow } from './run-desk';
import { Stopped } from '../platform/limited-worker';
import { type LaidOut, PlateDesk } from './plate-desk.service';

const sign = newSign('Labels', 'mm');
const rowsOf = (...words: string[]) => words.map((each, i) => ({ id: i + 1, values: new Map([['name', each]]) }));
const told = ({ id, pairs }: AskedRow): ToldRow => ({ id, state: 'fits', title: pairs[0][1], told: [] });

/** What comlink sends: the function called and what it is given. */
interface Message {
  readonly id: string;
  readonly path?: readonly string[];
  readonly argumentList?: readonly { readonly value: unknown }[];
}

/** A desk whose worker answers by functions of the test. */
class FakeDesk extends PlateDesk {
  workers = 0;
  readonly lots: number[] = [];
  /** Where the worker tells how far it has laid plates on sheets. */
  progress: MessagePort | undefined;
  answer: (rows: readonly AskedRow[]) => Promise<ToldRow[]> = (rows) => Promise.resolve(rows.map(told));

  protected override startWorker(): Worker {
    this.workers++;
    // What comlink speaks over: each question is answered by the function of its name.
    const listeners = new Set<(event: { data: unknown }) => void>();
    let isOver = false;
    return {
      addEventListener: (_: string, listener: (event: { data: unknown }) => void) => listeners.add(listener),
      removeEventListener: (_: string, listener: (event: { data: unknown }) => void) => listeners.delete(listener),
      terminate: () => (isOver = true),
      // A proxy that is collected says so, without path and arguments: even after its test, if it must.
      postMessage: ({ id, path = [], argumentList = [] }: Message) => {
        const rows = argumentList[1]?.value as readonly AskedRow[] | undefined;
        if (path[0] === 'told') this.lots.push(rows!.length);
        if (path[0] === 'lay') {
          this.progress = argumentList[3]?.value as MessagePort;
          return;
        }
        const value = path[0] === 'told' ? this.answer(rows!) : Promise.resolve(path[0] === 'add' ? [] : undefined);
        void value.then((answer) => {
          if (!isOver) for (const listener of listeners) listener({ data: { id, type: 'RAW', value: answer } });
        });
      },
    } as unknown as Worker;
  }
}

let desk: FakeDesk;
const state = (): LaidOut => {
  let last: LaidOut | undefined;
  desk.laidOut$.subscribe((each) => (last = each)).unsubscribe();
  return last!;
};
const settled = async (): Promise<void> => {
  for (let i = 0; i < 400; i++) await Promise.resolve();
};

afterEach(() => {
  desk.ngOnDestroy();
  jest.useRealTimers();
});

describe('plates of a run', () => {
  it('are laid out a lot after the other, those that are seen first, and what says the same once', async () => {
    desk = new FakeDesk();
    const order: string[] = [];
    desk.answer = (rows) => {
      order.push(...rows.map(({ pairs }) => pairs[0][1]));
      return Promise.resolve(rows.map(told));
    };
    desk.see([20, 21]);
    desk.lay({ sign, rows: rowsOf(...Array.from({ length: 21 }, (_, i) => (i === 3 ? 'name 0' : `name ${i}`))) });
    await settled();
    expect(order.slice(0, 3)).toEqual(['name 19', 'name 20', 'name 0']);
    expect([order.length, desk.lots]).toEqual([20, [8, 8, 4]]);
    expect([state().done, state().of, state().byId.get(4)]).toEqual([
      21,
      21,
      { id: 4, state: 'fits', title: 'name 0', told: [] },
    ]);
    // A changed row alone is laid out anew.
    desk.lay({ sign, rows: rowsOf('name 0', 'other') });
    await settled();
    expect(order.slice(20)).toEqual(['other']);
  });

  it('wait while they are paused', async () => {
    desk = new FakeDesk();
    desk.pause();
    desk.lay({ sign, rows: rowsOf('a', 'b') });
    await settled();
    expect([state().done, desk.lots]).toEqual([0, []]);
    desk.resume();
    await settled();
    expect(state().done).toBe(2);
  });

  it('of which one takes too long are laid out but for that one', async () => {
    jest.useFakeTimers();
    desk = new FakeDesk();
    desk.answer = (rows) => (rows.some(({ pairs }) => pairs[0][1] === 'endless') ? new Promise(() => undefined) : Promise.resolve(rows.map(told))); // prettier-ignore
    desk.lay({ sign, rows: rowsOf('a', 'endless', 'b') });
    await settled();
    await jest.advanceTimersByTimeAsync(30_001);
    await settled();
    await jest.advanceTimersByTimeAsync(30_001);
    await settled();
    const { byId } = state();
    expect([byId.get(1)?.state, byId.get(2)?.state, byId.get(3)?.state]).toEqual(['fits', 'refused', 'fits']);
    expect(byId.get(2)?.told[0]).toContain('takes longer than 30 s and was given up');
    // One worker for each that was given up, and one after.
    expect(desk.workers).toBe(3);
  });

  it('that are being made into sheets can be stopped, and are laid out further', async () => {
    desk = new FakeDesk();
    const made = desk.sheets(sign, rowsOf('a').map((row) => ({ ...row, row: 0 })), newRun('s').sheet, () => undefined); // prettier-ignore
    desk.stop();
    await expect(made).rejects.toBeInstanceOf(Stopped);
    desk.lay({ sign, rows: rowsOf('a') });
    await settled();
    expect(state().done).toBe(1);
  });

  it('tell how far they are laid on sheets, and nothing more once that was stopped', async () => {
    Object.assign(globalThis, { MessageChannel });
    desk = new FakeDesk();
    const heard: number[] = [];
    const made = desk.sheets(sign, rowsOf('a').map((row) => ({ ...row, row: 0 })), newRun('s').sheet, (done) => heard.push(done)); // prettier-ignore
    await settled();
    const tell = async (done: number): Promise<void> => {
      desk.progress!.postMessage({ id: `told ${done}`, type: 'APPLY', path: [], argumentList: [{ type: 'RAW', value: done }] });
      await new Promise((heardOf) => setTimeout(heardOf, 20));
    };
    await tell(0.5);
    expect(heard.at(-1)).toBeCloseTo(0.65, 9);
    const before = heard.length;
    desk.stop();
    await expect(made).rejects.toBeInstanceOf(Stopped);
    await tell(0.9);
    expect(heard).toHaveLength(before);
    desk.progress!.close();
  });
});
