import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import Interpreter from 'gcode-interpreter';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Random } from '../../testing/random.js';
import { Workshop } from '../../testing/workshop.js';
import { type CutPlan, cutPlan, USUAL } from '../cutting/index.js';
import { type DryRun, dryRun, isProven } from '../dry-run/index.js';
import { stageOf, turningTools } from '../making/index.js';
import { type Motion, motionLength, readProgram, rotaryWords } from '../program/index.js';
import { readShop, rotaryOf, type Shop } from '../shop/index.js';
import { type Sign } from '../sign/index.js';
import { solidOf } from '../solid/index.js';
import { fitted, FIT_TOLERANCE, type Program, programsOf } from './index.js';

/** Programs that are changed to see whether it is noticed; 500 were once (docs/performance.md). */
const CHANGED = Number(process.env.CHANGED_PROGRAMS ?? 60);

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));

function label(): Sign {
  const sign = bareSign(60, 30, 4);
  addShape(sign, [50, 20], { kind: 'carve', by: 1.5 });
  addText(sign, 'OAK', 'barlow-semibold', 11, { kind: 'set', to: 0 });
  return sign;
}

function planOf(sign: Sign, machine: Shop['machines'][number] = shop.machines[0], tools = ['end-3', 'end-1-5']): CutPlan {
  const material = shop.materials.find(({ id }) => id === 'urethane')!;
  return cutPlan(workshop.evaluate(sign), {
    ...USUAL,
    machine,
    material,
    tools: shop.tools.filter(({ id }) => tools.includes(id)),
  });
}

const motionsOf = ({ text }: Pick<Program, 'text'>): Motion[] =>
  [...readProgram(text)].filter((step): step is Motion => step.kind === 'rapid' || step.kind === 'feed');

describe('moves fitted to a way', () => {
  it('are arcs where it is round, and lines where it is straight, within 0.005 mm of its points', () => {
    const points: number[] = [];
    for (let i = 0; i <= 40; i++) points.push(10 * Math.cos((i * Math.PI) / 40), 10 * Math.sin((i * Math.PI) / 40), -1);
    for (let i = 1; i <= 20; i++) points.push(-10, -i, -1);
    const moves = fitted(points, true);
    expect(moves.map(({ arc }) => arc !== undefined)).toEqual([true, false]);
    expect(moves[0].arc).toMatchObject({ isClockwise: false });
    expect(Math.hypot(moves[0].arc!.x, moves[0].arc!.y)).toBeLessThan(FIT_TOLERANCE);
    expect(fitted(points, false).length).toBeGreaterThan(20);
  });
});

describe('programs', () => {
  it.each(['x', 'y'] as const)('turn the work of a post about %s, and are the same moves when they are read back', (along) => {
    const sign = label();
    sign.support = { kind: 'cylinder', radius: 25, facing: 'outside' };
    const machine = { ...shop.machines[0], rotary: along, knowsArcs: false };
    const plan = planOf(sign, machine);
    const rotary = rotaryOf(sign, machine)!;
    const turned = programsOf({ ...plan, choice: { ...plan.choice, rotary } }, 'Post');
    const flat = programsOf(plan, 'Post');
    turned.forEach((program, k) => {
      const own = program.text.split('\n').filter((line) => !line.startsWith('('));
      expect(program.text).toContain(`(${rotaryWords(rotary)})`);
      // No word of the axis that stands still, arcs neither.
      expect(own.some((line) => (along === 'x' ? /Y/u : /X/u).test(line) || /G[23]\b/u.test(line))).toBe(false);
      const [ours, theirs] = [motionsOf(program), motionsOf(flat[k])];
      expect(ours).toHaveLength(theirs.length);
      ours.forEach((motion, i) => {
        for (const axis of ['x', 'y', 'z'] as const) expect(Math.abs(motion.to[axis] - theirs[i].to[axis])).toBeLessThan(0.0006);
        // Of moves as short as figures are fine a feed is what it can be.
        const length = motionLength(theirs[i]);
        if (theirs[i].kind === 'feed' && length > 0.2) expect(Math.abs(motion.feed / theirs[i].feed - 1)).toBeLessThan(0.01);
      });
    });
    const stage = stageOf({ ...plan, choice: { ...plan.choice, rotary } });
    const run = dryRun(turned.map(({ name, text }) => ({ name, text })), stage.target, stage.workplace, { cell: 0.2 }); // prettier-ignore
    expect(isProven(run)).toBe(true);
    // A machine that cannot, what is inside, and what is no cylinder.
    expect(rotaryOf(sign, { rotary: 'none' })).toBeUndefined();
    expect(rotaryOf({ support: { kind: 'cylinder', radius: 25, facing: 'inside' } }, machine)).toBeUndefined();
    expect(rotaryOf({ support: { kind: 'cylinder', radius: 25, facing: 'outside', axis: 'level' } }, machine)).toMatchObject({
      round: 'y',
    });
  });

  it('are the same bytes for the same plan, a file for each tool in turn', () => {
    const [first, second] = [0, 1].map(() => programsOf(planOf(label()), 'Oak'));
    expect(first).toEqual(second);
    expect(first.map(({ name }) => name)).toEqual(['01-end-3.ngc', '02-end-1-5.ngc', '03-end-3.ngc']);
    expect(first[0].text.split('\n').slice(0, 8)).toEqual([
      '(Oak, 01-end-3.ngc)',
      '(zero: lower left, face of the stock)',
      'G17 G40 G49 G54 G80 G90 G94',
      'G91.1',
      'G21',
      'T2 M6',
      'S24000 M3',
      'M7',
    ]);
    expect(first[0].text).toMatch(/\nM9\nM5\nM30\n$/u);
  });

  it('go the same ways as a general interpreter of G-code reads, and within the same bounds', () => {
    const [program] = programsOf(planOf(label()), 'Oak');
    const motions = motionsOf(program);
    const at: Record<string, number> = { X: 0, Y: 0, Z: 0 };
    let [length, code] = [0, 'G0'];
    const highs = { X: -Infinity, Y: -Infinity };
    const go = (kind: string) => (words: Record<string, number>) => {
      code = kind;
      const to = {
        ...at,
        ...Object.fromEntries(['X', 'Y', 'Z'].flatMap((axis) => (axis in words ? [[axis, words[axis]]] : []))),
      };
      let across = Math.hypot(to.X - at.X, to.Y - at.Y);
      if (code === 'G2' || code === 'G3') {
        const [cx, cy] = [at.X + (words.I ?? 0), at.Y + (words.J ?? 0)];
        const turn = (code === 'G3' ? 1 : -1) * (Math.atan2(to.Y - cy, to.X - cx) - Math.atan2(at.Y - cy, at.X - cx));
        across = Math.hypot(words.I ?? 0, words.J ?? 0) * (turn - 2 * Math.PI * Math.floor(turn / (2 * Math.PI)));
      }
      length += Math.hypot(across, to.Z - at.Z);
      Object.assign(at, to);
      for (const axis of ['X', 'Y'] as const) highs[axis] = Math.max(highs[axis], at[axis]);
    };
    const handlers = Object.fromEntries(['G0', 'G1', 'G2', 'G3'].map((kind) => [kind, go(kind)]));
    new Interpreter({ handlers }).loadFromStringSync(program.text);
    expect(length / motions.reduce((sum, motion) => sum + motionLength(motion), 0)).toBeCloseTo(1, 4);
    expect(highs.X).toBeCloseTo(Math.max(...motions.map(({ to }) => to.x)), 6);
    expect(highs.Y).toBeCloseTo(Math.max(...motions.map(({ to }) => to.y)), 6);
  });

  it('are written as a machine wants them: in inches, numbered, without arcs', () => {
    const [machine] = shop.machines;
    const own = {
      ...machine,
      knowsArcs: false,
      dialect: { ...machine.dialect, units: 'in' as const, decimals: 4, lineNumbers: 10, extension: 'nc' },
    };
    const [inches] = programsOf(planOf(label(), own), 'Oak');
    const [mm] = programsOf(planOf(label()), 'Oak');
    expect(inches.name).toBe('01-end-3.nc');
    expect(inches.text).toMatch(/^N\d+0 G20$/mu);
    expect(inches.text).not.toMatch(/G[23] /u);
    const [a, b] = [inches, mm].map((each) => motionsOf(each).reduce((sum, motion) => sum + motionLength(motion), 0));
    expect(a / b).toBeCloseTo(1, 3);
  });

  it('have a third of the lines where arcs are known, of round work', () => {
    const sign = bareSign(120, 120, 6);
    addShape(sign, 100, { kind: 'carve', by: 2 });
    const [machine] = shop.machines;
    const [arcs, lines] = [true, false].map(
      (knowsArcs) => programsOf(planOf(sign, { ...machine, knowsArcs }, ['end-3']), 'Round')[0].text.length,
    );
    expect(arcs).toBeLessThan(lines / 3);
  });

  it('say nothing in a comment that would end it', () => {
    const [{ text }] = programsOf(planOf(label()), 'Café (old) “Öl”');
    expect(text.split('\n')[0]).toBe('(Cafe  old  Ol, 01-end-3.ngc)');
  });
});

/** Whether the way goes elsewhere without the end of a move. */
function turnsAt(move: Motion, next: Motion | undefined): boolean {
  if (move.kind !== 'feed' || !next) return false;
  if (move.arc || next.arc) return true;
  const straight = Math.hypot(next.to.x - move.from.x, next.to.y - move.from.y, next.to.z - move.from.z);
  return motionLength(move) + motionLength(next) > straight + 1e-6;
}

describe('a dry run', () => {
  it('catches programs that were changed: too deep, aside, another tool, arcs the other way, a line dropped', () => {
    const sign = label();
    const evaluation = workshop.evaluate(sign);
    const plan = planOf(sign);
    const programs = programsOf(plan, 'Oak');
    const target = { mesh: solidOf(evaluation), blank: evaluation.blank, top: plan.stock.top, floor: plan.stock.bottom };
    const place = { tools: turningTools(shop.tools), limits: shop.machines[0], zero: plan.zero };
    const run = (list: readonly Program[]): DryRun | undefined => {
      try {
        return dryRun(list, target, place, { cell: 0.15 });
      } catch {
        // It could not even be read.
        return undefined;
      }
    };
    const right = run(programs)!;
    expect(isProven(right)).toBe(true);
    const random = new Random(15);
    const some = <T>(list: readonly T[]): T => list[Math.floor(random.between(0, 1) * list.length)];
    const changes: Record<string, (lines: string[]) => string[] | undefined> = {
      deeper: (lines) => lines.map((line) => line.replace(/Z(-[\d.]+)/u, (_, z: string) => `Z${Number(z) - 0.1}`)),
      aside: (lines) => lines.map((line) => line.replace(/X(-?[\d.]+)/u, (_, x: string) => `X${Number(x) + 0.1}`)),
      'another tool': (lines) => lines.map((line) => line.replace(/^T\d+ M6$/u, 'T1 M6')),
      'arcs the other way': (lines) =>
        lines.map((line) => line.replace(/^G([23]) /u, (_, code: string) => `G${5 - Number(code)} `)),
      'a line less': (lines) => {
        // One that the way turns at: without a place on a straight way it would be the same program.
        const moves = motionsOf({ text: lines.join('\n') });
        const at = some(moves.flatMap((move, i) => (turnsAt(move, moves[i + 1]) ? [move.line - 1] : [])));
        return lines.filter((_, i) => i !== at);
      },
    };
    const missed: string[] = [];
    for (let i = 0; i < CHANGED; i++) {
      const [name, change] = some(Object.entries(changes));
      const which = Math.floor(random.between(0, 1) * programs.length);
      const lines = programs[which].text.split('\n');
      const changed = change(lines)!;
      if (changed.join() === lines.join()) continue;
      const wrong = run(programs.map((each, at) => (at === which ? { ...each, text: changed.join('\n') } : each)));
      const isCaught = !wrong || !isProven(wrong) || Math.abs(wrong.leftVolumeMm3 - right.leftVolumeMm3) > 1e-6 || Math.abs(wrong.duration.lengthMm - right.duration.lengthMm) > 1e-6; // prettier-ignore
      if (!isCaught) missed.push(`${i} ${name}`);
    }
    expect(missed).toEqual([]);
  });
});
