import { type Cut, type CutPlan, type Run, type Stretch } from '../cutting/index.js';
import { degreesOf, rotaryWords } from '../program/index.js';
import { type MachineDialect, type ShopTool } from '../shop/index.js';
import { fitted, type Fitted } from './fitting.js';

/** A program as it is written for a machine. */
export interface Program {
  readonly name: string;
  readonly tool: ShopTool;
  readonly text: string;
  /** Its cuts in their order, each with the lines that it is written in, counted from 1. */
  readonly cuts: readonly WrittenCut[];
}

export interface WrittenCut {
  readonly cut: Cut;
  readonly firstLine: number;
  readonly lastLine: number;
}

/** What of a plan is written. */
export type WritablePlan = Pick<CutPlan, 'choice' | 'zero' | 'safe' | 'cuts'>;

/** Part of the feed across at which a tool ramps down (common practice, no source). */
const RAMP_PART = 0.5;
const MM_PER_INCH = 25.4;
/** mm below which a move that turns the work counts as so long. */
const LEAST_LENGTH = 0.001;

/**
 * The programs of a plan in the order in which they run, one for each tool in turn, in the language RS274/NGC (NISTIR 6556) as the dialect
 * of the machine has it. The same plan gives the same bytes.
 * @param title said in a comment at the beginning
 */
export function programsOf(plan: WritablePlan, title: string): Program[] {
  const groups: Cut[][] = [];
  for (const cut of plan.cuts) {
    const last = groups.at(-1);
    if (last && last[0].tool.id === cut.tool.id) last.push(cut);
    else groups.push([cut]);
  }
  const { extension } = plan.choice.machine.dialect;
  return groups.map((cuts, i) => {
    const { tool } = cuts[0];
    const name = `${String(i + 1).padStart(2, '0')}-${tool.id}.${extension}`;
    return { name, tool, ...new Writer(plan).program(cuts, `${title}, ${name}`) };
  });
}

/** Writes one program, saying nothing twice that holds on. */
class Writer {
  private readonly lines: string[] = [];
  private readonly dialect: MachineDialect;
  private readonly at: Record<'x' | 'y' | 'z', string> = { x: '', y: '', z: '' };
  private code = '';
  private feed = '';
  private number = 0;
  private isInverse = false;
  private here = { x: NaN, y: NaN, z: NaN };

  constructor(private readonly plan: WritablePlan) {
    this.dialect = plan.choice.machine.dialect;
  }

  program(cuts: readonly Cut[], title: string): Pick<Program, 'text' | 'cuts'> {
    const written: WrittenCut[] = [];
    const { dialect, plan } = this;
    const { tool, feeds } = cuts[0];
    this.comment(title);
    const { rotary } = plan.choice;
    if (rotary) this.comment(rotaryWords(rotary));
    this.comment(`zero: ${plan.choice.zero.at}, ${plan.choice.zero.height}`);
    this.fixed(dialect.header, tool, feeds.speed);
    this.line(dialect.units === 'mm' ? 'G21' : 'G20');
    this.fixed(dialect.toolChange, tool, feeds.speed);
    this.fixed(dialect.spindleOn, tool, feeds.speed);
    this.fixed(dialect.coolantOn, tool, feeds.speed);
    this.move('G0', { z: plan.safe });
    for (const cut of cuts) {
      const firstLine = this.lines.length + 1;
      this.comment(
        `${cut.purpose}${cut.of === undefined ? '' : ` of ${cut.of}`} from ${this.shown(cut.from - plan.zero.z)} to ${this.shown(cut.to - plan.zero.z)} with ${tool.name}`,
      );
      for (const run of cut.runs) this.run(run, cut);
      this.move('G0', { z: plan.safe });
      written.push({ cut, firstLine, lastLine: this.lines.length });
    }
    if (rotary && this.isInverse) this.line('G94');
    this.fixed(dialect.coolantOff, tool, feeds.speed);
    this.fixed(dialect.spindleOff, tool, feeds.speed);
    this.fixed(dialect.footer, tool, feeds.speed);
    return { text: `${this.lines.join('\n')}\n`, cuts: written };
  }

  private run({ x, y, airTo, over = this.plan.safe, stretches }: Run, cut: Cut): void {
    this.move('G0', { z: over });
    this.move('G0', { x, y });
    this.move('G0', { z: airTo });
    let from: readonly number[] = [x, y, airTo];
    for (const { points, pace } of stretches) {
      const all = [...from, ...points];
      const isRapid = pace === 'rapid';
      const { machine, rotary } = this.plan.choice;
      for (const move of fitted(all, machine.knowsArcs && !isRapid && !rotary))
        this.cut(move, isRapid ? undefined : paceOf(pace, cut));
      from = all.slice(-3);
    }
  }

  private cut(move: Fitted, feed: number | undefined): void {
    if (move.arc) this.arc(move, move.arc, feed);
    else this.move(feed === undefined ? 'G0' : 'G1', move, feed);
  }

  /** About a centre as far from both ends as these are written. */
  private arc(to: Fitted, { x, y, isClockwise }: NonNullable<Fitted['arc']>, feed?: number): void {
    const { zero } = this.plan;
    const start = [Number(this.at.x), Number(this.at.y)];
    const end = [Number(this.figure(to.x - zero.x)), Number(this.figure(to.y - zero.y))];
    const chord = [end[0] - start[0], end[1] - start[1]];
    const length = Math.hypot(...chord);
    const isShort = length < 20 / 10 ** this.dialect.decimals;
    if (isShort) {
      this.move('G1', to, feed);
      return;
    }
    const scale = this.dialect.units === 'mm' ? 1 : MM_PER_INCH;
    const centre = [(x - zero.x) / scale, (y - zero.y) / scale];
    const middle = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
    const across = [-chord[1] / length, chord[0] / length];
    const off = (centre[0] - middle[0]) * across[0] + (centre[1] - middle[1]) * across[1];
    const [i, j] = [0, 1].map((axis) =>
      trimmed((middle[axis] + off * across[axis] - start[axis]).toFixed(this.dialect.decimals + 1)),
    );
    this.move(isClockwise ? 'G2' : 'G3', to, feed, ` I${i} J${j}`);
  }

  private move(code: string, to: { x?: number; y?: number; z?: number }, feed?: number, more = ''): void {
    let words = '';
    for (const axis of ['x', 'y', 'z'] as const) {
      const value = to[axis];
      if (value === undefined) continue;
      const [letter, figure] = this.word(axis, value - this.plan.zero[axis]);
      if (figure === this.at[axis]) continue;
      this.at[axis] = figure;
      words += ` ${letter}${figure}`;
    }
    const length = this.lengthTo(to);
    if (words === '' && more === '') return;
    if (this.plan.choice.rotary) {
      this.turned(code, words, length, feed);
      return;
    }
    const isSame = code === this.code && more === '';
    this.code = code;
    let speed = '';
    if (feed !== undefined) {
      const written = trimmed((this.dialect.units === 'mm' ? feed : feed / MM_PER_INCH).toFixed(1));
      if (written !== this.feed) speed = ` F${written}`;
      this.feed = written;
    }
    this.line(`${isSame ? '' : code}${words}${more}${speed}`.trim());
  }

  /** A word for a place on an axis, in mm from the zero. */
  private word(axis: 'x' | 'y' | 'z', mm: number): readonly [letter: string, figure: string] {
    const { rotary } = this.plan.choice;
    if (!rotary || axis === 'z') return [axis.toUpperCase(), this.figure(mm)];
    if (axis !== rotary.round) return [rotary.along.toUpperCase(), this.figure(mm)];
    return ['A', trimmed(degreesOf(mm, rotary).toFixed(this.dialect.decimals + 1))];
  }

  /** mm from where the tool is on the face laid flat. */
  private lengthTo(to: { x?: number; y?: number; z?: number }): number {
    const there = { ...this.here, ...to };
    const length = Math.hypot(there.x - this.here.x, there.y - this.here.y, there.z - this.here.z);
    this.here = there;
    return length;
  }

  /** Where the work turns a feed is so many moves a minute (G93), for each by itself: degrees and mm have no common one. */
  private turned(code: string, words: string, length: number, feed: number | undefined): void {
    if (feed !== undefined && !this.isInverse) {
      this.line('G93');
      this.isInverse = true;
    }
    const isSame = code === this.code;
    this.code = code;
    const speed = feed === undefined ? '' : ` F${(feed / Math.max(length, LEAST_LENGTH)).toFixed(3)}`;
    this.line(`${isSame ? '' : code}${words}${speed}`.trim());
  }

  private fixed(lines: readonly string[], tool: ShopTool, speed: number): void {
    for (const line of lines)
      this.line(
        line
          .replaceAll('{tool}', String(tool.number))
          .replaceAll('{name}', plain(tool.name))
          .replaceAll('{speed}', String(speed)),
      );
  }

  private comment(words: string): void {
    this.line(`(${plain(words)})`);
  }

  private line(text: string): void {
    const { lineNumbers } = this.dialect;
    this.number += lineNumbers;
    this.lines.push(lineNumbers > 0 && !text.startsWith('(') ? `N${this.number} ${text}` : text);
  }

  private figure(mm: number): string {
    return trimmed((this.dialect.units === 'mm' ? mm : mm / MM_PER_INCH).toFixed(this.dialect.decimals));
  }

  private shown(mm: number): string {
    return `${this.figure(mm)} ${this.dialect.units}`;
  }
}

/** mm a minute. */
function paceOf(pace: Exclude<Stretch['pace'], 'rapid'>, { feeds }: Cut): number {
  if (pace === 'plunge') return feeds.plunge;
  return pace === 'ramp' ? Math.max(feeds.plunge, feeds.feed * RAMP_PART) : feeds.feed;
}

/** A figure without zeros at its end, and without a sign where it is nothing. */
function trimmed(figure: string): string {
  const short = figure.includes('.') ? figure.replace(/\.?0+$/u, '') : figure;
  return short === '-0' ? '0' : short;
}

/** Words as they may stand in a comment: without parentheses, in ASCII. */
const plain = (words: string): string =>
  words
    .normalize('NFKD')
    .replace(/[()[\]{}]/gu, ' ')
    .replace(/°/gu, ' deg')
    .replace(/[^\x20-\x7e]/gu, '');
