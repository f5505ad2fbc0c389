import { type Remote, wrap } from 'comlink';

/** What a worker was asked was stopped: by somebody, or with something else that took too long. */
export class Stopped extends Error {}

interface Running<T> {
  readonly own: Worker;
  readonly desk: Remote<T>;
  readonly waiting: Set<(error: Error) => void>;
}

/** A worker that is begun when it is first asked, and ended where an answer takes too long; the next question begins it anew. */
export class LimitedWorker<T> {
  private running: Running<T> | undefined;

  constructor(private readonly start: () => Worker) {}

  /**
   * @param late said where it takes longer than `ms`
   * @throws Error with that sentence, {@link Stopped} where the worker was ended for another question, and what the worker throws
   */
  ask<A>(ms: number, late: string, question: (desk: Remote<T>) => Promise<A>): Promise<A> {
    const worker = (this.running ??= this.begun());
    return new Promise<A>((done, fail) => {
      const timer = setTimeout(() => {
        fail(new Error(late));
        this.endOf(worker);
      }, ms);
      worker.waiting.add(fail);
      question(worker.desk)
        .then(done, fail)
        .finally(() => {
          clearTimeout(timer);
          worker.waiting.delete(fail);
        });
    });
  }

  /** Ends the worker; whoever waits for it is told. */
  end(): void {
    if (this.running) this.endOf(this.running);
  }

  private endOf(worker: Running<T>): void {
    worker.own.terminate();
    if (this.running === worker) this.running = undefined;
    for (const fail of worker.waiting) fail(new Stopped('Stopped.'));
  }

  private begun(): Running<T> {
    const own = this.start();
    return { own, desk: wrap<T>(own), waiting: new Set() };
  }
}
