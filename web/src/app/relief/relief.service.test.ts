import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { newSign, newText, type Sign } from '@plain-relief/core/sign';
import { LONGEST_MS, ReliefService } from './relief.service';

/** A worker that never answers. */
class Silent {
  isEnded = false;
  addEventListener(): void {}
  removeEventListener(): void {}
  postMessage(): void {}
  terminate(): void {
    this.isEnded = true;
  }
}

class WithSilentWorkers extends ReliefService {
  readonly workers: Silent[] = [];
  protected override startWorker(): Worker {
    const worker = new Silent();
    this.workers.push(worker);
    return worker as unknown as Worker;
  }
}

describe('a sign that takes too long', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it('is given up with a sentence that names the part that costs most, and the next one gets a worker of its own', async () => {
    const relief = new WithSilentWorkers();
    const told: string[] = [];
    relief.trouble$.subscribe((sentence) => sentence && told.push(sentence));
    const sign = newSign('Gate', 'mm');
    const part = (id: string, count: number) => ({
      kind: 'shape' as const,
      id,
      name: `Rosette ${id}`,
      shape: { kind: 'circle' as const, diameter: 9 },
      place: { x: 0, y: 0, turn: 0, mirror: false },
      sitsOn: { kind: 'face' as const },
      copies: { kind: 'row' as const, count, stepX: 1, stepY: 0 },
      tiers: [{ id: 't', on: true, area: { kind: 'outline' as const }, action: { kind: 'raise' as const, by: 2 } }],
    });
    sign.parts.push(part('few', 3), part('many', 200));
    relief.show(sign);
    const gaps = relief.gaps('few').catch((error: Error) => error);
    await jest.advanceTimersByTimeAsync(LONGEST_MS - 1);
    expect(told).toEqual([]);
    await jest.advanceTimersByTimeAsync(2);
    expect(told).toHaveLength(1);
    expect(told[0]).toContain('longer than 20 s');
    expect(told[0]).toContain('“Rosette many”');
    expect(relief.workers.map(({ isEnded }) => isEnded)).toEqual([true]);
    // Nobody waits for a worker that is gone.
    expect(await gaps).toBeInstanceOf(Error);
    relief.show(newSign('Next', 'mm'));
    await jest.advanceTimersByTimeAsync(1);
    expect(relief.workers).toHaveLength(2);
  });
});

describe('a sign with many slopes that is opened', () => {
  /** A worker that notes what it is asked to show, and answers. */
  class Noting {
    static readonly shown: Sign[] = [];
    private readonly listeners: ((event: { data: unknown }) => void)[] = [];
    addEventListener(_: string, listener: (event: { data: unknown }) => void): void {
      this.listeners.push(listener);
    }
    removeEventListener(): void {}
    terminate(): void {}
    postMessage(asked: { id: string; argumentList?: { value: Sign }[] }): void {
      // What nobody holds any longer is let go of by a message of its own.
      if (!asked.argumentList) return;
      Noting.shown.push(asked.argumentList[0].value);
      queueMicrotask(() => {
        for (const listener of this.listeners) listener({ data: { id: asked.id, type: 'RAW', value: { took: 0 } } });
      });
    }
  }
  class WithNotingWorkers extends ReliefService {
    protected override startWorker(): Worker {
      return Object.assign(new Noting(), { onmessage: null }) as unknown as Worker;
    }
  }

  it('is shown with upright sides first, and once something is shown as it is', async () => {
    const relief = new WithNotingWorkers();
    const sign = newSign('Gate', 'mm');
    const words = newText(sign, 'barlow-bold');
    words.words = 'A great many letters with slopes';
    words.tiers[0].edge = { kind: 'rounded', radius: 1 };
    sign.parts.push(words);
    const edges = () => Noting.shown.map(({ parts }) => parts[0].tiers[0].edge?.kind);
    relief.show(sign);
    await new Promise((done) => setTimeout(done, 20));
    expect(edges()).toEqual([undefined, 'rounded']);
    relief.show(sign);
    await new Promise((done) => setTimeout(done, 20));
    expect(edges()).toEqual([undefined, 'rounded', 'rounded']);
    // Its levels and outlines are the same.
    expect({ ...Noting.shown[0], parts: [{ ...words, tiers: [{ ...words.tiers[0], edge: undefined }] }] }).toEqual(
      Noting.shown[0],
    );
  });
});
