import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { newSign } from '@plain-relief/core/sign';
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
