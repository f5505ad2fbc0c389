import type { MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { threadFile } from './threads.js';

/** Something took longer, or more memory, than anything may. */
export class TooMuchWork extends Error {
  /** @param what took it, as the beginning of a sentence */
  constructor(what: string, limit: string) {
    super(
      `${what} takes more than the ${limit} that are allowed: plainer sides, fewer copies or fewer tiers make it quicker, or part it in two.`,
    );
    this.name = 'TooMuchWork';
  }
}

/** Somebody wanted it no longer. */
export class Stopped extends Error {
  constructor() {
    super('The work was stopped.');
    this.name = 'Stopped';
  }
}

const MOST_WAITING = 500;
/** Room for what is young: outlines die young, and in less room they are copied about (12 % of a plan of 1,400 letters). */
const YOUNG_MB = 192;

export interface Limits {
  /** How many run at once. */
  readonly threads: number;
  readonly seconds: number;
  readonly megabytes: number;
  /** Of them for what is young; less where a process is to stay small. */
  readonly youngMb?: number;
}

/**
 * Work in threads of their own, so that it holds up nobody else: a thread that takes too long, too much memory, or is wanted no longer,
 * is ended and another begun.
 */
export class LimitedThreads<Order, Answer> {
  private readonly threads: Piscina;
  private readonly waiting: (() => void)[] = [];
  private running = 0;

  /** @param file of the thread, beside the module at `beside` */
  constructor(
    file: string,
    beside: string,
    private readonly limits: Limits,
  ) {
    this.threads = new Piscina({
      filename: threadFile(file, beside),
      minThreads: 0,
      maxThreads: limits.threads,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: limits.megabytes, maxYoungGenerationSizeMb: limits.youngMb ?? YOUNG_MB },
    });
  }

  /**
   * @param what is worked on, as the beginning of a sentence
   * @throws TooMuchWork, Stopped, or what the thread threw
   */
  async run(
    order: Order,
    what: string,
    { transfer = [], stop }: { transfer?: readonly MessagePort[]; stop?: AbortSignal } = {},
  ): Promise<Answer> {
    const { seconds, megabytes } = this.limits;
    await this.turn();
    // From here on: what waits for its turn does not take long yet.
    const late = new AbortController();
    const timer = setTimeout(() => late.abort(), 1000 * seconds);
    const signal = stop ? AbortSignal.any([late.signal, stop]) : late.signal;
    try {
      return (await this.threads.run(order, { signal, transferList: [...transfer] })) as Answer;
    } catch (error) {
      if (stop?.aborted) throw new Stopped();
      if (late.signal.aborted) throw new TooMuchWork(what, `${seconds} s`);
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') throw new TooMuchWork(what, `${megabytes} MB`);
      throw error;
    } finally {
      clearTimeout(timer);
      this.running--;
      this.waiting.shift()?.();
    }
  }

  private async turn(): Promise<void> {
    if (this.running >= this.limits.threads) {
      if (this.waiting.length >= MOST_WAITING)
        throw new Error('More is asked for at once than can be made: try again in a minute.');
      await new Promise<void>((begin) => this.waiting.push(begin));
    }
    this.running++;
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
