import { type Box } from '../geometry/index.js';
import { type Motion, placeOn, type Place, readProgram, timedSteps } from '../program/index.js';
import { begun, moved, type NamedProgram, programTrouble, toolOf, type Workplace } from './dry-run.js';
import { Stock } from './stock.js';

/** A move of a film, with when it begins and ends. */
interface Shot {
  readonly motion: Motion;
  /** Which of the programs it is of. */
  readonly program: number;
  readonly from: number;
  readonly to: number;
}

/** What is to be seen at a moment. */
export interface Scene {
  readonly seconds: number;
  /** Where the tool is in the sign's places, and which of the programs and lines moves it there; undefined before the first move. */
  readonly tool?: { readonly place: Place; readonly number: number; readonly program: number; readonly line: number };
}

/** Where on the film a program begins, and the tool that it takes up. */
export interface Reel {
  readonly name: string;
  readonly tool: number;
  readonly seconds: number;
  /** How long it takes, and how many lines it has that move. */
  readonly lasts: number;
}

/** The block that is filmed. */
export interface FilmedStock {
  readonly box: Box;
  readonly top: number;
}

/** Stocks that are kept along the film, so that going back begins at the last one before. */
const KEPT = 40;

/**
 * Programs as they cut a stock, at any moment: read back as they are written, each move with the time that the machine takes for it and the
 * change of tools between. Going on cuts what lies between; going back begins at the last stock that was kept.
 */
export class Film {
  readonly stock: Stock;
  readonly reels: readonly Reel[];
  /** How long it lasts. */
  readonly seconds: number;
  private readonly shots: Shot[] = [];
  private readonly every: number;
  private readonly keeps: { readonly next: number; readonly stock: ReturnType<Stock['kept']> }[];
  /** How many shots are cut whole. */
  private next = 0;
  /** The moment that the stock is cut to. */
  private cutTo = 0;

  /**
   * @param cell mm between the places that are looked at
   * @param toolChange seconds that changing a tool takes
   * @throws DryRunError where a program cannot be read
   */
  constructor(
    programs: readonly NamedProgram[],
    { box, top }: FilmedStock,
    private readonly workplace: Pick<Workplace, 'tools' | 'limits' | 'zero'>,
    cell: number,
    toolChange = 0,
  ) {
    const { minX, minY, maxX, maxY } = box;
    this.stock = new Stock({ x: minX, y: minY }, maxX - minX, maxY - minY, top, cell, true);
    let now = 0;
    this.reels = programs.map(({ name, text }, program) => {
      const begin = now;
      let tool = 0;
      let isFirst = true;
      try {
        for (const { step, seconds } of timedSteps(readProgram(text), workplace.limits)) {
          const from = now;
          now += step.kind === 'tool' ? toolChange : seconds;
          if (step.kind !== 'rapid' && step.kind !== 'feed') continue;
          tool ||= step.tool;
          toolOf(step, workplace.tools);
          const motion = begun(moved(step, workplace.zero), isFirst, top);
          isFirst = false;
          this.shots.push({ motion, program, from, to: now });
        }
      } catch (error) {
        throw programTrouble(name, error);
      }
      return { name, tool, seconds: begin, lasts: now - begin };
    });
    this.seconds = now;
    this.every = Math.max(1, Math.ceil(this.shots.length / KEPT));
    this.keeps = [{ next: 0, stock: this.stock.kept() }];
  }

  /** Brings the stock to what it is at a moment, and says where the tool is. */
  at(seconds: number): Scene {
    const { shots, keeps, every } = this;
    const done = shotsBefore(shots, seconds);
    if (seconds < this.cutTo) this.goBack(done);
    while (this.next < done) {
      this.cut(shots[this.next].motion);
      this.next++;
      if (this.next % every === 0 && keeps.at(-1)!.next < this.next) keeps.push({ next: this.next, stock: this.stock.kept() });
    }
    this.cutTo = seconds;
    const under = shots.at(done);
    if (done === shots.length || !under || under.from >= seconds) {
      const last = done > 0 ? shots[done - 1] : undefined;
      return { seconds, ...(last && { tool: standing(last, last.motion.to) }) };
    }
    const { motion } = under;
    const share = (seconds - under.from) / (under.to - under.from);
    const place = placeOn(motion, share);
    // A part of it is cut; the whole of it later on takes that along.
    this.cut({ ...motion, to: place, ...(motion.arc && { arc: { ...motion.arc, sweep: motion.arc.sweep * share } }) });
    return { seconds, tool: standing(under, place) };
  }

  /** The moment at which a line of a program is done: of a line without moves that before it. */
  secondsAt(program: number, line: number): number {
    let found = this.reels[program]?.seconds ?? 0;
    for (const { motion, program: of, to } of this.shots) {
      if (of < program) continue;
      if (of > program || motion.line > line) break;
      found = to;
    }
    return found;
  }

  /** Ways of the tool in a program's lines: x, y and z of every point, in the sign's places. */
  ways(
    program: number,
    firstLine: number,
    lastLine: number,
  ): { readonly isRapid: boolean; readonly points: readonly number[] }[] {
    const found: { isRapid: boolean; points: number[] }[] = [];
    for (const { motion, program: of } of this.shots) {
      if (of !== program || motion.line < firstLine || motion.line > lastLine) continue;
      const isRapid = motion.kind === 'rapid';
      const last = found.at(-1);
      const way = last?.isRapid === isRapid ? last : undefined;
      const points = way?.points ?? [motion.from.x, motion.from.y, motion.from.z];
      if (!way) found.push({ isRapid, points });
      const pieces = motion.arc ? Math.max(1, Math.ceil(Math.abs(motion.arc.sweep) / CHORD_ANGLE)) : 1;
      for (let i = 1; i <= pieces; i++) {
        const { x, y, z } = placeOn(motion, i / pieces);
        points.push(x, y, z);
      }
    }
    return found;
  }

  private goBack(done: number): void {
    let at = this.keeps.length - 1;
    while (this.keeps[at].next > done) at--;
    const { next, stock } = this.keeps[at];
    this.stock.restore(stock);
    this.next = next;
  }

  private cut(motion: Motion): void {
    this.stock.takeUp(motion.tool % 256);
    this.stock.cut(motion, toolOf(motion, this.workplace.tools).form);
  }
}

/** Radians that a chord of an arc spans where ways are drawn. */
const CHORD_ANGLE = Math.PI / 18;

const standing = ({ motion, program }: Shot, place: Place): NonNullable<Scene['tool']> => ({
  place,
  number: motion.tool,
  program,
  line: motion.line,
});

/** How many shots end at or before a moment. */
function shotsBefore(shots: readonly Shot[], seconds: number): number {
  let [low, high] = [0, shots.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (shots[middle].to <= seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}
