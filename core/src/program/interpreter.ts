import { arcBetween } from './arcs.js';
import { type Block, type Word } from './block.js';
import { groupOf } from './codes.js';
import { type Parameters } from './expression.js';
import {
  type Arc,
  type ArcPlane,
  type Axis,
  type Motion,
  motionLength,
  type Place,
  PLANES,
  type SpindleTurn,
  type Step,
} from './motion.js';
import { ProgramError } from './program-error.js';
import { type Rotary, rotaryWords, roundOf } from './rotary.js';

const INCH = 25.4;
const AXES: readonly Axis[] = ['x', 'y', 'z'];
const CENTRES = { x: 'i', y: 'j', z: 'k' } as const;
/** mm above the ground of a hole to which a pecking drill comes back at once (RS274/NGC, section 3.5.16.3: 0.010 in). */
const PECK_CLEARANCE = 0.254;

const DRILLING: ReadonlySet<number> = new Set([81, 82, 83, 85, 89]);

/** The words of a line, each letter once; its codes by their groups. */
class Line {
  readonly values = new Map<string, number>();
  readonly codes = new Map<string, number>();

  constructor(readonly block: Block) {
    for (const word of block.words) {
      if (word.letter === 'g' || word.letter === 'm') this.addCode(word.letter, word);
      else if (this.values.has(word.letter)) throw this.fault(word, `${word.letter.toUpperCase()} stands on this line twice.`);
      else this.values.set(word.letter, word.value);
    }
  }

  private addCode(letter: 'g' | 'm', word: Word): void {
    const found = groupOf(letter, word.value);
    if ('refusal' in found) throw this.fault(word, found.refusal);
    // Both coolants may be switched on together.
    const group = found.group === 'the coolant' ? `${found.group} ${word.value}` : found.group;
    if (this.codes.has(group)) throw this.fault(word, `this line says ${found.group} twice.`);
    this.codes.set(group, Number(word.value.toFixed(1)));
  }

  has(...letters: readonly string[]): boolean {
    return letters.some((letter) => this.values.has(letter));
  }

  fault(at: Word | undefined, reason: string): ProgramError {
    return new ProgramError(this.block.line, at?.column ?? 1, reason);
  }

  /** The place of a word, to point at it. */
  word(letter: string): Word | undefined {
    return this.block.words.find((word) => word.letter === letter);
  }
}

/**
 * Carries out the lines of a program after RS274/NGC, Version 3 (NISTIR 6556), in the order of its table 8. Places are those of the tool's
 * tip in the coordinate system of the program, in mm; offsets of coordinate systems and tools are the machine's own.
 */
export class Interpreter {
  readonly parameters: Parameters = new Map();
  /** How the work is turned, where the program has said so. */
  rotary: Rotary | undefined;
  private at: Place = { x: 0, y: 0, z: 0 };
  /** What G92 added to places. */
  private shift: Place = { x: 0, y: 0, z: 0 };
  private unit = 1;
  private isInverseTime = false;
  private isRelative = false;
  private areCentresAbsolute = false;
  private plane: ArcPlane = 'xy';
  private motion = -1;
  private isRetreatToR = false;
  private feed = 0;
  private speed = 0;
  private tool = 0;
  private nextTool = 0;
  private spindle: SpindleTurn = 'still';
  private isCooled = false;
  /** What a drilling cycle keeps from line to line. */
  private cycle: ReadonlyMap<string, number> = new Map();

  /** What a line does. @throws ProgramError */
  *run(block: Block): Generator<Step> {
    const line = new Line(block);
    this.setUp(line);
    yield* this.change(line);
    if (line.codes.get('what is done once') === 4) {
      const seconds = line.values.get('p');
      if (seconds === undefined || seconds < 0) throw line.fault(line.word('p'), 'G4 needs P, the seconds of rest.');
      yield { kind: 'dwell', line: block.line, seconds };
    }
    this.setModes(line);
    this.refuseIdle(line);
    yield* this.move(line);
    for (const [parameter, value] of block.settings) this.parameters.set(parameter, value);
    const stop = line.codes.get('the stop');
    if (stop === undefined) return;
    if (stop === 2 || stop === 30) yield { kind: 'end', line: block.line };
    else yield { kind: 'stop', line: block.line, isOptional: stop === 1 };
  }

  private setUp(line: Line): void {
    const { codes, values } = line;
    // Units hold for everything on their line, the feed among it.
    const unit = codes.get('the unit');
    if (unit !== undefined) this.unit = unit === 20 ? INCH : 1;
    const feedMode = codes.get('the feed');
    if (feedMode !== undefined) this.isInverseTime = feedMode === 93;
    const feed = values.get('f');
    if (feed !== undefined) {
      if (feed < 0) throw line.fault(line.word('f'), 'the feed cannot be below 0.');
      this.feed = this.isInverseTime ? feed : feed * this.unit;
    } else if (feedMode !== undefined) this.feed = 0;
    const speed = values.get('s');
    if (speed !== undefined) {
      if (speed < 0) throw line.fault(line.word('s'), 'the spindle speed cannot be below 0.');
      this.speed = speed;
    }
    const tool = values.get('t');
    if (tool !== undefined) {
      if (!Number.isInteger(tool) || tool < 0) throw line.fault(line.word('t'), `T${tool} is no place in the changer.`);
      this.nextTool = tool;
    }
  }

  private *change(line: Line): Generator<Step> {
    const { codes, block } = line;
    if (codes.has('the tool change')) {
      this.tool = this.nextTool;
      this.spindle = 'still';
      yield { kind: 'tool', line: block.line, tool: this.tool };
    }
    const spindle = codes.get('the spindle');
    if (spindle !== undefined) this.spindle = spindle === 3 ? 'clockwise' : spindle === 4 ? 'anticlockwise' : 'still';
    if (codes.has('the coolant 9')) this.isCooled = false;
    if (codes.has('the coolant 7') || codes.has('the coolant 8')) this.isCooled = true;
  }

  private setModes({ codes }: Line): void {
    const plane = codes.get('the plane');
    if (plane !== undefined) this.plane = plane === 17 ? 'xy' : plane === 18 ? 'zx' : 'yz';
    const distances = codes.get('the distances');
    if (distances !== undefined) this.isRelative = distances === 91;
    const centres = codes.get('the distances of arc centres');
    if (centres !== undefined) this.areCentresAbsolute = centres === 90.1;
    const retreat = codes.get('the retreat of drilling');
    if (retreat !== undefined) this.isRetreatToR = retreat === 99;
    const motion = codes.get('the motion');
    if (motion === undefined) return;
    if (motion !== this.motion) this.cycle = new Map();
    this.motion = motion;
  }

  /** Words that nothing on their line asks for: what they were meant for does not happen. */
  private refuseIdle(line: Line): void {
    const { codes } = line;
    const once = codes.get('what is done once');
    const isArc = this.motion === 2 || this.motion === 3;
    const isDrilling = DRILLING.has(this.motion);
    const uses: readonly (readonly [string, boolean])[] = [
      ['ijk', isArc],
      ['r', isArc || isDrilling],
      ['q', this.motion === 83],
      ['l', isDrilling],
      ['p', isDrilling || once === 4],
      ['h', codes.get('the tool length') === 43],
    ];
    for (const [letters, isUsed] of uses)
      for (const letter of letters)
        if (!isUsed && line.has(letter))
          throw line.fault(line.word(letter), `${letter.toUpperCase()} means nothing on this line.`);
  }

  private *move(line: Line): Generator<Step> {
    const once = line.codes.get('what is done once');
    if (once === 92) return this.shiftTo(line);
    if (once === 92.1 || once === 92.2) {
      this.shiftBy({ x: -this.shift.x, y: -this.shift.y, z: -this.shift.z });
      return;
    }
    if (once === 92.3) throw line.fault(undefined, 'G92.3: an earlier shift is not taken up again.');
    if (once === 53) throw line.fault(undefined, 'G53: the machine’s own places are not known here; retreat by G0 instead.');
    if (DRILLING.has(this.motion)) {
      if (line.has(...this.letters) || line.codes.has('the motion')) yield* this.drill(line);
      return;
    }
    this.refuseAxes(line);
    if (!line.has(...this.letters, 'i', 'j', 'k', 'r')) return;
    if (this.motion === -1 || this.motion === 80)
      throw line.fault(line.word('x') ?? line.word('y') ?? line.word('z'), 'places stand here, and no motion is in force.');
    const to = this.target(line);
    if (this.motion === 0) yield this.go('rapid', line, to);
    else if (this.motion === 1) yield this.go('feed', line, to);
    else yield this.go('feed', line, to, this.arcTo(line, to));
  }

  /** Where the places on a line lie, in mm. */
  private target({ values }: Line): Place {
    const to = { ...this.at };
    for (const axis of AXES) {
      const value = values.get(this.letterOf(axis));
      if (value !== undefined) to[axis] = this.lengthOf(axis, value) + (this.isRelative ? this.at[axis] : this.shift[axis]);
    }
    return to;
  }

  /** The letter that says where the tool is along an axis of the plan. */
  private letterOf(axis: Axis): string {
    if (!this.rotary || axis === 'z') return axis;
    return axis === this.rotary.round ? 'a' : this.rotary.along;
  }

  private get letters(): readonly string[] {
    return AXES.map((axis) => this.letterOf(axis));
  }

  /** mm of the plan. */
  private lengthOf(axis: Axis, value: number): number {
    return this.rotary?.round === axis ? roundOf(value, this.rotary) : value * this.unit;
  }

  /** Words of axes that do not move here. */
  private refuseAxes(line: Line): void {
    const { letters } = this;
    if (!this.rotary && line.has('a'))
      throw line.fault(line.word('a'), `A turns the work, and it is not known how far its face is from the axis: say so before, as in “(${rotaryWords({ along: 'y', round: 'x', radius: 90 })})”.`); // prettier-ignore
    for (const letter of ['x', 'y', 'a'])
      if (this.rotary && line.has(letter) && !letters.includes(letter))
        throw line.fault(
          line.word(letter),
          `${letter.toUpperCase()} does not move where the work turns about ${this.rotary.along.toUpperCase()}.`,
        );
    if (this.rotary && (this.motion === 2 || this.motion === 3))
      throw line.fault(undefined, 'arcs are not read where the work turns: write them in short straight moves.');
  }

  private arcTo(line: Line, to: Place): Arc {
    const { first, second } = PLANES[this.plane];
    const radius = line.values.get('r');
    const isClockwise = this.motion === 2;
    const centreOf = (axis: Axis): number => {
      const value = (line.values.get(CENTRES[axis]) ?? 0) * this.unit;
      return this.areCentresAbsolute ? value + this.shift[axis] : this.at[axis] + value;
    };
    if (radius === undefined && !line.has(CENTRES[first], CENTRES[second]))
      throw line.fault(
        undefined,
        `an arc needs ${CENTRES[first].toUpperCase()} and ${CENTRES[second].toUpperCase()}, its centre, or R, its radius.`,
      );
    const by = radius === undefined ? { centre: [centreOf(first), centreOf(second)] as const } : { radius: radius * this.unit };
    const arc = arcBetween(this.at, to, { plane: this.plane, isClockwise, by });
    if (typeof arc === 'string') throw line.fault(line.word('r') ?? line.word(CENTRES[first]) ?? line.word(CENTRES[second]), arc);
    return arc;
  }

  private go(kind: Motion['kind'], line: Line, to: Place, arc?: Arc): Motion {
    const { at: from, tool, spindle, speed, isCooled } = this;
    const bare = { kind, line: line.block.line, from, to, tool, spindle, speed, isCooled, ...(arc && { arc }) };
    this.at = to;
    if (kind === 'rapid') return { ...bare, feed: 0 };
    if (this.feed === 0)
      throw line.fault(
        line.word('f'),
        this.isInverseTime ? 'with G93 every line of a feed needs F.' : 'no feed was set: F is missing.',
      );
    if (!this.isInverseTime) return { ...bare, feed: this.feed };
    // F moves a minute, on this line alone.
    const perMinute = this.feed;
    this.feed = 0;
    return { ...bare, feed: motionLength({ ...bare, feed: 0 }) * perMinute };
  }

  /** What G92 says of where the tool is now. */
  private shiftTo(line: Line): void {
    if (!line.has(...this.letters)) throw line.fault(undefined, 'G92 needs a place of at least one axis.');
    const by = { x: 0, y: 0, z: 0 };
    for (const axis of AXES) {
      const value = line.values.get(this.letterOf(axis));
      if (value !== undefined) by[axis] = this.at[axis] - this.shift[axis] - this.lengthOf(axis, value);
    }
    this.shiftBy(by);
  }

  private shiftBy(by: Place): void {
    this.shift = { x: this.shift.x + by.x, y: this.shift.y + by.y, z: this.shift.z + by.z };
  }

  /** A drilling cycle across the XY plane (RS274/NGC, section 3.5.16). */
  private *drill(line: Line): Generator<Step> {
    if (this.plane !== 'xy') throw line.fault(undefined, 'holes are drilled along Z alone: choose G17.');
    if (this.isInverseTime) throw line.fault(undefined, 'holes are drilled at a feed a minute: choose G94.');
    this.cycle = new Map([...this.cycle, ...[...line.values].filter(([letter]) => 'zrpq'.includes(letter))]);
    const needed = (letter: string, what: string): number => {
      const value = this.cycle.get(letter);
      if (value === undefined) throw line.fault(undefined, `drilling needs ${letter.toUpperCase()}, ${what}.`);
      return value;
    };
    const [z, r] = [needed('z', 'how deep the hole is') * this.unit, needed('r', 'where the feed begins') * this.unit];
    const before = this.at.z;
    const clear = this.isRelative ? before + r : r + this.shift.z;
    const bottom = this.isRelative ? clear + z : z + this.shift.z;
    if (bottom > clear) throw line.fault(line.word('z'), 'the ground of this hole lies above R, where the feed begins.');
    const times = line.values.get('l') ?? 1;
    if (!Number.isInteger(times) || times < 1 || times > 10_000)
      throw line.fault(line.word('l'), 'L says how often, from 1 to 10000.');
    const old = Math.max(before, clear);
    if (before < clear) yield this.go('rapid', line, { ...this.at, z: clear });
    for (let n = 0; n < times; n++) {
      const over = { ...this.target(line), z: this.at.z };
      yield this.go('rapid', line, over);
      if (this.at.z !== clear) yield this.go('rapid', line, { ...this.at, z: clear });
      yield* this.hole(line, clear, bottom, needed);
      const top = this.isRetreatToR ? clear : old;
      if (this.at.z !== top) yield this.go('rapid', line, { ...this.at, z: top });
    }
  }

  private *hole(line: Line, clear: number, bottom: number, needed: (letter: string, what: string) => number): Generator<Step> {
    if (this.motion === 83) {
      const peck = needed('q', 'how deep it pecks') * this.unit;
      if (!(peck > 0) || (clear - bottom) / peck > 10_000)
        throw line.fault(line.word('q'), 'Q is a depth above 0, of 10000 pecks at most.');
      for (let depth = clear - peck; depth > bottom; depth -= peck) {
        yield this.go('feed', line, { ...this.at, z: depth });
        yield this.go('rapid', line, { ...this.at, z: clear });
        yield this.go('rapid', line, { ...this.at, z: Math.min(clear, depth + PECK_CLEARANCE) });
      }
    }
    yield this.go('feed', line, { ...this.at, z: bottom });
    if (this.motion === 82 || this.motion === 89)
      yield { kind: 'dwell', line: line.block.line, seconds: needed('p', 'the seconds of rest at the ground') };
    if (this.motion === 85 || this.motion === 89) yield this.go('feed', line, { ...this.at, z: clear });
  }
}
