import { type Place } from '@plain-relief/core/program';
import { type Block, cornerSpeed } from './blocks.js';
import type { Description } from './description.js';

/** Stretches that are looked ahead over. */
const AHEAD = 120;
/** mm before its end where a stretch is done. */
const DONE = 1e-6;

/** What drives along stretches step by step: it speeds up and slows down evenly, and looks ahead for what it has to slow down for. */
export class Drive {
  private readonly queue: Block[] = [];
  /** mm/s at the end of each stretch of the queue, at most; worked out from the last one back. */
  private ends: number[] = [];
  private done = 0;
  private speed = 0;
  private isOld = true;
  /** Where the stretch that was driven last ends. */
  private last: Place | undefined;

  constructor(
    private readonly description: Description,
    /** Brings the next stretch; undefined where the way ends for now. */
    private readonly next: () => Block | undefined,
  ) {}

  /** The stretch that is driven along. */
  get block(): Block | undefined {
    return this.queue[0];
  }

  /** mm/s. */
  get pace(): number {
    return this.speed;
  }

  /** Where it is; undefined before it drove anywhere. */
  get place(): Place | undefined {
    const [block] = this.queue;
    if (!block) return this.last;
    const share = this.done / block.length;
    const along = (axis: keyof Place): number => block.from[axis] + share * (block.to[axis] - block.from[axis]);
    return { x: along('x'), y: along('y'), z: along('z') };
  }

  /** Forgets all that lies ahead. */
  clear(): void {
    this.queue.length = 0;
    this.done = 0;
    this.speed = 0;
    this.isOld = true;
  }

  /**
   * Drives on for so many seconds.
   * @param override part of the feed that is asked for; rapid moves are as fast as ever
   * @param isHeld whether it slows down to a stop
   * @returns seconds that were not needed, since the way ended
   */
  drive(seconds: number, override: number, isHeld: boolean): number {
    if (!this.fill()) return seconds;
    const { acceleration } = this.description;
    const [block] = this.queue;
    const rest = block.length - this.done;
    const most = block.isRapid ? block.most : block.most * override;
    const end = Math.min(this.ends[0], most);
    const allowed = isHeld ? 0 : Math.min(most, Math.sqrt(end ** 2 + 2 * acceleration * rest));
    const before = this.speed;
    if (before < allowed) this.speed = Math.min(allowed, before + acceleration * seconds);
    else this.speed = isHeld ? Math.max(0, before - acceleration * seconds) : allowed;
    this.advance(((before + this.speed) / 2) * seconds);
    return 0;
  }

  private advance(way: number): void {
    let left = way;
    while (this.queue.length > 0) {
      const [block] = this.queue;
      const rest = block.length - this.done;
      if (left < rest - DONE) {
        this.done += left;
        return;
      }
      const end = this.ends[0];
      left = Math.max(0, left - rest);
      this.last = block.to;
      this.queue.shift();
      this.ends.shift();
      this.done = 0;
      this.isOld = true;
      if (!this.fill()) {
        this.speed = 0;
        return;
      }
      // What is left over of a step is driven no faster than the corner was passed.
      this.speed = Math.min(this.speed, Math.max(end, 0));
    }
  }

  private fill(): boolean {
    while (this.queue.length < AHEAD) {
      const block = this.next();
      if (!block) break;
      this.queue.push(block);
      this.isOld = true;
    }
    if (this.queue.length === 0) return false;
    if (this.isOld) this.look();
    return true;
  }

  /** From the last stretch, where it could have to stand, back to the first. */
  private look(): void {
    const { queue, description } = this;
    const ends = new Array<number>(queue.length).fill(0);
    for (let i = queue.length - 2; i >= 0; i--) {
      const corner = cornerSpeed(queue[i], queue[i + 1], description);
      const next = Math.sqrt(ends[i + 1] ** 2 + 2 * description.acceleration * queue[i + 1].length);
      ends[i] = Math.min(corner, next, queue[i].most, queue[i + 1].most);
    }
    this.ends = ends;
    this.isOld = false;
  }
}
