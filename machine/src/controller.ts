import { type Motion, type Place, ProgramError, readProgram, type Step } from '@plain-relief/core/program';
import { type Block, blocksOf } from './blocks.js';
import { type Description, USUAL, type Zero } from './description.js';
import { Drive } from './drive.js';

export type MachineState = 'idle' | 'running' | 'held' | 'tool' | 'alarm' | 'off';

/** What the machine tells of itself. */
export interface Report {
  readonly state: MachineState;
  /** Why it is held, in alarm, or what it waits for; empty otherwise. */
  readonly why: string;
  readonly machine: string;
  /** The program that lies in it. */
  readonly job?: {
    readonly id: string;
    readonly name: string;
    readonly lines: number;
    readonly line: number;
    readonly isDone: boolean;
  };
  /** Where the tip is, in the places of the program. */
  readonly place: Place;
  readonly tool: number;
  readonly spindle: 'still' | 'turning';
  /** mm a minute at the moment. */
  readonly pace: number;
  /** Percent of the feed. */
  readonly feed: number;
  readonly door: 'closed' | 'open';
  /** Times as fast as a machine. */
  readonly faster: number;
  /** Machine seconds that the program ran, without waiting for people. */
  readonly seconds: number;
}

/** A program in the machine. */
interface Loaded {
  readonly id: string;
  readonly name: string;
  readonly text: string;
  readonly lines: number;
  /** Height above everything, by the program's own rapid moves. */
  readonly safe: number;
}

/** Something cannot be done now, in a sentence. */
export class Refusal extends Error {}

/** Machine seconds of one step. */
const STEP = 0.001;
/** Part of a feed at which the tool comes down where a program goes on in its middle. */
const REENTRY_PART = 1 / 3;
const HOME: Place = { x: 0, y: 0, z: 0 };

/**
 * The practice machine: takes a program of the language RS274/NGC and drives it in small steps of time, so that how long it takes is
 * measured, not worked out. It cuts nothing and says that it is a stand-in.
 */
export class Controller {
  private description: Description = USUAL;
  private zero: Zero = { x: 20, y: 20, z: -60 };
  private state: MachineState = 'idle';
  private why = '';
  private loaded: Loaded | undefined;
  private steps: Iterator<Step> | undefined;
  private drive: Drive | undefined;
  private readonly ready: Block[] = [];
  /** Where what is read so far ends. */
  private ahead: Place = HOME;
  private pending: Step | undefined;
  private dwell = 0;
  private line = 0;
  private isDone = false;
  private place: Place = HOME;
  private tool = 0;
  private isTurning = false;
  private isHeld = false;
  private override = 1;
  private isDoorOpen = false;
  private faster = 1;
  private seconds = 0;
  private stopWhy = '';

  report(): Report {
    const { state, why, description, loaded, place, tool, isTurning, faster, seconds } = this;
    return {
      state,
      why,
      machine: description.name,
      ...(loaded && {
        job: { id: loaded.id, name: loaded.name, lines: loaded.lines, line: this.line, isDone: this.isDone },
      }),
      place,
      tool,
      spindle: isTurning ? 'turning' : 'still',
      pace: Math.round((this.drive?.pace ?? 0) * 60),
      feed: Math.round(this.override * 100),
      door: this.isDoorOpen ? 'open' : 'closed',
      faster,
      seconds,
    };
  }

  /** Is another machine from now on. */
  be(description: Description): void {
    this.mustRest();
    this.description = description;
  }

  /** Lays the zero of programs somewhere else. */
  lay(zero: Zero): void {
    this.mustRest();
    this.zero = zero;
  }

  /** Takes a program in, after reading all of it. @throws Refusal where it cannot be run here */
  take(id: string, name: string, text: string): void {
    this.mustRest();
    let [safe, moves] = [-Infinity, 0];
    const lows = { x: Infinity, y: Infinity, z: Infinity };
    const highs = { x: -Infinity, y: -Infinity, z: -Infinity };
    try {
      for (const step of readProgram(text)) {
        if (step.kind !== 'rapid' && step.kind !== 'feed') continue;
        moves++;
        for (const axis of ['x', 'y', 'z'] as const) {
          lows[axis] = Math.min(lows[axis], step.to[axis]);
          highs[axis] = Math.max(highs[axis], step.to[axis]);
        }
        if (step.kind === 'rapid') safe = Math.max(safe, step.to.z);
      }
    } catch (error) {
      if (error instanceof ProgramError) throw new Refusal(`${name} cannot be read: ${error.message}`);
      throw error;
    }
    if (moves === 0) throw new Refusal(`${name} has no moves: it is no program.`);
    const { area, travel } = this.description;
    const { zero } = this;
    for (const [axis, low, high] of [
      ['x', 0, area.width],
      ['y', 0, area.height],
      ['z', -travel, 0],
    ] as const)
      if (lows[axis] + zero[axis] < low - 1e-6 || highs[axis] + zero[axis] > high + 1e-6)
        throw new Refusal(
          `${name} goes from ${(lows[axis] + zero[axis]).toFixed(1)} to ${(highs[axis] + zero[axis]).toFixed(1)} mm in ${axis}, and the machine reaches from ${low} to ${high}: lay the zero elsewhere.`,
        );
    this.loaded = { id, name, text, lines: text.split('\n').length, safe };
    this.steps = undefined;
    this.line = 0;
    this.isDone = false;
    this.seconds = 0;
    this.why = '';
  }

  /** Runs the program; from a line on where one is named: up, over it, and down again at a third of its feed. */
  run(fromLine = 1): void {
    const { loaded } = this;
    this.mustRest();
    if (!loaded) throw new Refusal('There is no program in the machine: send one first.');
    if (this.isDoorOpen) throw new Refusal('The door is open: close it first.');
    const steps = readProgram(loaded.text)[Symbol.iterator]();
    this.steps = fromLine > 1 ? from(steps, fromLine, loaded, this.place, this.tool) : steps;
    this.ready.length = 0;
    this.ahead = this.place;
    this.pending = undefined;
    this.dwell = 0;
    this.isHeld = false;
    this.isDone = false;
    this.seconds = 0;
    this.line = fromLine > 1 ? fromLine : 0;
    this.drive = new Drive(this.description, () => this.nextBlock());
    this.state = 'running';
    this.why = '';
  }

  /** Slows down to a stop, and waits. */
  hold(why = 'held by hand'): void {
    if (this.state !== 'running') throw new Refusal(`Nothing runs: the machine is ${this.state}.`);
    this.isHeld = true;
    this.stopWhy = why;
  }

  /** Goes on after a hold. */
  go(): void {
    if (this.state !== 'held') throw new Refusal(`It is not held: the machine is ${this.state}.`);
    if (this.isDoorOpen) throw new Refusal('The door is open: close it first.');
    this.isHeld = false;
    this.state = 'running';
    this.why = '';
  }

  /** Ends the program where it is; the line stays known. */
  stop(): void {
    if (this.state === 'idle' || this.state === 'off') throw new Refusal(`Nothing runs: the machine is ${this.state}.`);
    if (this.state === 'alarm') throw new Refusal('The machine is in alarm: home it.');
    this.rest(`stopped at line ${this.line}`);
  }

  /** Says that a tool was changed by hand. */
  changed(tool: number): void {
    if (this.state !== 'tool') throw new Refusal(`No tool is waited for: the machine is ${this.state}.`);
    const wanted = this.pending?.kind === 'tool' ? this.pending.tool : 0;
    if (tool !== wanted) throw new Refusal(`T${wanted} is waited for, not T${tool}.`);
    this.tool = tool;
    this.pending = undefined;
    this.state = this.isDoorOpen ? 'held' : 'running';
    this.why = this.isDoorOpen ? 'the door is open' : '';
  }

  /** @param percent of the feed, 10 to 200 */
  feed(percent: number): void {
    if (!(percent >= 10 && percent <= 200)) throw new Refusal(`The feed is ${percent} % and must be from 10 to 200.`);
    this.override = percent / 100;
  }

  door(isOpen: boolean): void {
    this.isDoorOpen = isOpen;
    if (isOpen && this.state === 'running') this.hold('the door is open');
  }

  /** @param times as fast as a machine, 1 to 10 000 */
  rehearse(times: number): void {
    if (!(times >= 1 && times <= 10_000)) throw new Refusal(`The speed-up is ${times} and must be from 1 to 10000.`);
    this.faster = times;
  }

  /** Cuts the power, or gives it back: what was in the machine is gone then, and where it stands is not known. */
  power(isOn: boolean): void {
    if (!isOn) {
      this.rest('');
      this.loaded = undefined;
      this.state = 'off';
      this.why = 'no power';
      this.isTurning = false;
    } else if (this.state === 'off') {
      this.state = 'alarm';
      this.why = 'the power was cut: where it stands is not known, home it';
    } else throw new Refusal('The power is on.');
  }

  /** Goes to where it knows its place; ends an alarm. */
  home(): void {
    if (this.state !== 'alarm' && this.state !== 'idle') throw new Refusal(`It cannot be homed: the machine is ${this.state}.`);
    this.place = { x: -this.zero.x, y: -this.zero.y, z: -this.zero.z };
    this.tool = 0;
    this.state = 'idle';
    this.why = '';
  }

  /** Lets so many seconds of the clock pass; gives whether there is anything to do. */
  pass(seconds: number): boolean {
    let left = seconds * this.faster;
    while (this.state === 'running' && left > 0) {
      const step = Math.min(STEP, left);
      left -= step;
      this.tick(step);
    }
    return this.state === 'running';
  }

  private tick(seconds: number): void {
    if (this.dwell > 0) {
      this.dwell -= seconds;
      this.seconds += seconds;
      return;
    }
    const drive = this.drive!;
    const unused = drive.drive(seconds, this.override, this.isHeld);
    this.seconds += seconds - unused;
    const { block } = drive;
    if (block) {
      this.line = block.line;
      this.isTurning = block.motion.spindle !== 'still';
    }
    this.place = drive.place ?? this.place;
    if (this.isHeld && drive.pace === 0) {
      this.state = 'held';
      this.why = this.stopWhy;
    } else if (!block) this.between();
  }

  /** What a program does besides moving, once the moves before it are driven. */
  private between(): void {
    const step = this.pending;
    if (!step) {
      // Nothing more comes: the program has no end of its own.
      this.finish();
      return;
    }
    this.line = step.line;
    switch (step.kind) {
      case 'dwell':
        this.dwell = step.seconds;
        break;
      case 'tool':
        if (step.tool === this.tool) break;
        if (!this.description.hasChanger) {
          this.state = 'tool';
          this.why = `waits for T${step.tool}`;
          return;
        }
        this.tool = step.tool;
        this.dwell = this.description.toolChange;
        break;
      case 'stop':
        if (!step.isOptional) {
          this.state = 'held';
          this.why = 'the program asked for it';
        }
        break;
      case 'end':
        this.finish();
        return;
      default:
    }
    this.pending = undefined;
  }

  /** The next stretch to drive; undefined where something else comes first. */
  private nextBlock(): Block | undefined {
    while (this.ready.length === 0) {
      if (this.pending) return undefined;
      const next = this.steps?.next();
      if (!next || next.done) return undefined;
      const step = next.value;
      if (step.kind === 'rapid' || step.kind === 'feed') {
        // Where it stands is where it begins, wherever the program thinks that it does.
        const motion = step.arc ? step : { ...step, from: this.ahead };
        this.ready.push(...blocksOf(motion, this.description));
        this.ahead = step.to;
      } else this.pending = step;
    }
    return this.ready.shift();
  }

  private finish(): void {
    this.isDone = true;
    this.line = this.loaded?.lines ?? 0;
    this.rest('');
  }

  private rest(why: string): void {
    const place = this.drive?.place;
    if (place) this.place = place;
    this.drive?.clear();
    this.drive = undefined;
    this.steps = undefined;
    this.pending = undefined;
    this.ready.length = 0;
    this.isTurning = false;
    this.isHeld = false;
    this.state = 'idle';
    this.why = why;
  }

  private mustRest(): void {
    if (this.state !== 'idle') throw new Refusal(`That waits until nothing runs: the machine is ${this.state}.`);
  }
}

/** The steps of a program from a line on, after coming there safely. */
function* from(steps: Iterator<Step>, line: number, { safe }: Loaded, at: Place, tool: number): Generator<Step> {
  for (let next = steps.next(); !next.done; next = steps.next()) {
    const step = next.value;
    if ((step.kind !== 'rapid' && step.kind !== 'feed') || step.line < line) continue;
    const over: Place = { ...step.from, z: safe };
    const common = { ...step, arc: undefined };
    if (step.tool !== tool) yield { kind: 'tool', line: step.line, tool: step.tool };
    yield { ...common, kind: 'rapid', from: at, to: { ...at, z: safe } };
    yield { ...common, kind: 'rapid', from: { ...at, z: safe }, to: over };
    const down: Motion = { ...common, kind: 'feed', from: over, to: step.from };
    yield { ...down, feed: step.feed > 0 ? step.feed * REENTRY_PART : 300 };
    yield step;
    for (let rest = steps.next(); !rest.done; rest = steps.next()) yield rest.value;
    return;
  }
  throw new Refusal(`The program has no move at line ${line} or after it.`);
}
