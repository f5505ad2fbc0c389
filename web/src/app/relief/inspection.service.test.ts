import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { USUAL_LIMITS } from '@plain-relief/core/inspection';
import { newSign } from '@plain-relief/core/sign';
import { InspectionService } from './inspection.service';

interface Asked {
  readonly id: string;
  readonly path?: string[];
  readonly argumentList?: { value: unknown }[];
}

/** A worker that answers what is measured of signs whose title is not “slow”. */
class Answering {
  isEnded = false;
  readonly asked: string[] = [];
  private readonly listeners: ((event: { data: unknown }) => void)[] = [];
  addEventListener(_: string, listener: (event: { data: unknown }) => void): void {
    this.listeners.push(listener);
  }
  removeEventListener(): void {}
  terminate(): void {
    this.isEnded = true;
  }
  postMessage({ id, path, argumentList }: Asked): void {
    if (!argumentList) return;
    const { title } = (argumentList[0]?.value ?? { title: path?.join('.') }) as { title: string };
    this.asked.push(title);
    if (title === 'slow') return;
    setTimeout(() => {
      for (const listener of this.listeners) listener({ data: { id, type: 'RAW', value: { findings: [], off: [], took: title.length } } }); // prettier-ignore
    }, 100);
  }
}

class WithAnswers extends InspectionService {
  readonly workers: Answering[] = [];
  protected override startWorker(): Worker {
    this.workers.push(new Answering());
    return this.workers.at(-1) as unknown as Worker;
  }
}

describe('InspectionService', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const measure = (service: InspectionService, title: string) => service.inspect(newSign(title, 'mm'), 'front', USUAL_LIMITS);

  it('measures the newest of the signs that arrive meanwhile', async () => {
    const service = new WithAnswers();
    const all = ['first', 'second', 'third one'].map((title) => measure(service, title));
    await jest.advanceTimersByTimeAsync(1000);
    expect((await Promise.all(all)).map((view) => view?.took)).toEqual([5, undefined, 9]);
    expect(service.workers.map(({ asked }) => asked)).toEqual([['first', 'third one']]);
  });

  it('answers once where the same sign is asked for again', async () => {
    const service = new WithAnswers();
    const sign = newSign('first', 'mm');
    const both = [1, 2].map(() => service.inspect(sign, 'front', USUAL_LIMITS));
    await jest.advanceTimersByTimeAsync(300);
    expect((await Promise.all(both)).map((view) => view?.took)).toEqual([5, 5]);
    expect(service.workers.map(({ asked }) => asked)).toEqual([['first']]);
  });

  it('ends what takes long for a newer sign, and begins another worker', async () => {
    const service = new WithAnswers();
    const slow = measure(service, 'slow');
    await jest.advanceTimersByTimeAsync(500);
    const next = measure(service, 'next');
    await jest.advanceTimersByTimeAsync(900);
    expect(service.workers).toHaveLength(1);
    await jest.advanceTimersByTimeAsync(700);
    expect([await slow, (await next)?.took]).toEqual([undefined, 4]);
    expect(service.workers.map(({ isEnded }) => isEnded)).toEqual([true, false]);
  });

  it('gives up what takes too long with a sentence, and goes on', async () => {
    const service = new WithAnswers();
    const slow = measure(service, 'slow').catch((error: Error) => error.message);
    await jest.advanceTimersByTimeAsync(60_001);
    expect(await slow).toContain('takes longer than 60 s');
    const next = measure(service, 'next');
    await jest.advanceTimersByTimeAsync(200);
    expect((await next)?.took).toBe(4);
  });

  it('asks for remedies once the sign is measured', async () => {
    const service = new WithAnswers();
    const measured = measure(service, 'sign');
    const met = service.madeToMeet();
    await jest.advanceTimersByTimeAsync(90);
    expect(service.workers[0].asked).toEqual(['sign']);
    await jest.advanceTimersByTimeAsync(400);
    await Promise.all([measured, met]);
    expect(service.workers[0].asked).toEqual(['sign', 'madeToMeet']);
  });
});
