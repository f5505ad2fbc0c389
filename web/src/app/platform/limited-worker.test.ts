import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { LimitedWorker, Stopped } from './limited-worker';

interface Desk {
  double(of: number): number;
}

/** A worker that is not one: questions are answered by the test. */
class FakeWorker extends EventTarget {
  static readonly all: FakeWorker[] = [];
  isEnded = false;

  constructor() {
    super();
    FakeWorker.all.push(this);
  }

  postMessage(): void {
    // Answered by nobody.
  }

  terminate(): void {
    this.isEnded = true;
  }
}

describe('a worker with a limit', () => {
  let worker: LimitedWorker<Desk>;
  const forEver = (): Promise<number> => new Promise(() => undefined);

  beforeEach(() => {
    jest.useFakeTimers();
    FakeWorker.all.length = 0;
    worker = new LimitedWorker<Desk>(() => new FakeWorker() as unknown as Worker);
  });
  afterEach(() => {
    jest.useRealTimers();
  });

  it('is begun when it is first asked, once, and answers', async () => {
    expect(FakeWorker.all).toEqual([]);
    await expect(worker.ask(100, 'late', () => Promise.resolve(4))).resolves.toBe(4);
    await expect(worker.ask(100, 'late', () => Promise.reject(new Error('no such plate')))).rejects.toThrow('no such plate');
    // What was answered in time is not given up later.
    jest.advanceTimersByTime(1000);
    expect(FakeWorker.all.map(({ isEnded }) => isEnded)).toEqual([false]);
  });

  it('is ended where an answer takes too long: that question hears its sentence, others that they were stopped', async () => {
    const late = worker.ask(100, 'Laying out takes too long.', forEver);
    const other = worker.ask(1000, 'late', forEver);
    const answers = Promise.allSettled([late, other]);
    jest.advanceTimersByTime(150);
    const [first, second] = (await answers) as PromiseRejectedResult[];
    expect((first.reason as Error).message).toBe('Laying out takes too long.');
    expect(first.reason).not.toBeInstanceOf(Stopped);
    expect(second.reason).toBeInstanceOf(Stopped);
    // The next question begins another.
    await expect(worker.ask(100, 'late', () => Promise.resolve(1))).resolves.toBe(1);
    expect(FakeWorker.all.map(({ isEnded }) => isEnded)).toEqual([true, false]);
  });

  it('tells whoever waits when somebody ends it, and nobody where it never began', async () => {
    worker.end();
    expect(FakeWorker.all).toEqual([]);
    const asked = worker.ask(100, 'late', forEver);
    worker.end();
    await expect(asked).rejects.toBeInstanceOf(Stopped);
    expect(FakeWorker.all[0].isEnded).toBe(true);
  });
});
