import { Injectable } from '@angular/core';
import { type Finding, type FindingRemedy, type Limits, type Met } from '@plain-relief/core/inspection';
import { type Side, type Sign } from '@plain-relief/core/sign';
import { type Remote, wrap } from 'comlink';
import type { ReliefCounter } from './relief.worker';
import type { InspectionView } from './views';

/** Measuring a sign that takes longer than this, in ms, is given up. */
const LONGEST_MS = 60_000;
/** What is measured of a sign that is no more is ended when it takes longer than this, in ms. */
const OLD_MS = 1500;

const NO_WORDS: readonly string[] = [];

/** It was ended: a newer sign is there, or it took too long. */
class Ended extends Error {}

/**
 * Measures signs in a worker of its own, so that it never holds up the plan. Of signs that arrive meanwhile the newest is measured next;
 * one that takes long is ended for it.
 */
@Injectable({ providedIn: 'root' })
export class InspectionService {
  private worker: { readonly own: Worker; readonly desk: Remote<ReliefCounter> } | undefined;
  private running: { readonly since: number; readonly done: Promise<unknown>; readonly end: (why: string) => void } | undefined;
  private newest = 0;
  /** What is being measured, or waits for its turn: whoever asks for the same has the same answer. */
  private asked:
    | {
        readonly sign: Sign;
        readonly side: Side;
        readonly limits: Limits;
        readonly words: readonly string[];
        readonly answer: Promise<InspectionView | undefined>;
      }
    | undefined;

  /**
   * What is measured of a sign; nothing where a newer one was asked for meanwhile.
   * @param words that the shop says are right
   * @throws Error with a sentence where it takes too long
   */
  async inspect(
    sign: Sign,
    side: Side,
    limits: Limits,
    words: readonly string[] = NO_WORDS,
  ): Promise<InspectionView | undefined> {
    const { asked } = this;
    if (asked && asked.sign === sign && asked.side === side && asked.limits === limits && asked.words === words)
      return asked.answer;
    const answer = this.inTurn(sign, side, limits, words);
    this.asked = { sign, side, limits, words, answer };
    try {
      return await answer;
    } finally {
      if (this.asked?.answer === answer) this.asked = undefined;
    }
  }

  /** After what is being measured, or instead of it. */
  private async inTurn(sign: Sign, side: Side, limits: Limits, words: readonly string[]): Promise<InspectionView | undefined> {
    const own = ++this.newest;
    while (this.running) {
      const { since, done, end } = this.running;
      const left = since + OLD_MS - performance.now();
      await Promise.race([done.catch(() => undefined), new Promise((wait) => setTimeout(wait, Math.max(0, left)))]);
      if (own !== this.newest) return undefined;
      if (this.running?.since === since && performance.now() - since >= OLD_MS) end('');
    }
    return this.run((desk) => desk.inspect(sign, side, limits, words)).catch((error: unknown) => {
      if (error instanceof Ended && error.message === '') return undefined;
      throw error;
    });
  }

  /** What mends a finding of the sign that was measured last, tried. */
  async remediesOf(finding: Finding, limits: Limits): Promise<readonly FindingRemedy[]> {
    await this.running?.done.catch(() => undefined);
    return this.run((desk) => desk.remediesOf(finding, limits));
  }

  /** The sign that was measured last, changed so that it meets its standard. */
  async madeToMeet(): Promise<Met | undefined> {
    await this.running?.done.catch(() => undefined);
    return this.run((desk) => desk.madeToMeet());
  }

  /** Asks the worker, which is begun where there is none, for as long as it may take. */
  private run<T>(question: (desk: Remote<ReliefCounter>) => Promise<T>): Promise<T> {
    const worker = (this.worker ??= this.begun());
    let end: (why: string) => void = () => undefined;
    const ended = new Promise<never>((_, fail) => {
      end = (why) => {
        worker.own.terminate();
        if (this.worker === worker) this.worker = undefined;
        fail(new Ended(why));
      };
    });
    const late = setTimeout(() => end(`Measuring this sign takes longer than ${LONGEST_MS / 1000} s: it is not checked further.`), LONGEST_MS); // prettier-ignore
    const answer = Promise.race([question(worker.desk) as Promise<T>, ended]).finally(() => {
      clearTimeout(late);
      if (this.running?.done === answer) this.running = undefined;
    });
    this.running = { since: performance.now(), done: answer, end };
    // Whoever asked hears of it.
    answer.catch(() => undefined);
    return answer;
  }

  private begun(): { readonly own: Worker; readonly desk: Remote<ReliefCounter> } {
    const own = this.startWorker();
    return { own, desk: wrap<ReliefCounter>(own) };
  }

  protected startWorker(): Worker {
    return new Worker(new URL('./relief.worker', import.meta.url), { type: 'module' });
  }
}
