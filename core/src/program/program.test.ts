import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readBlock } from './block.js';
import { type Motion, motionLength, placeOn, ProgramError, readProgram, rotaryWords, type Step } from './index.js';

const steps = (...lines: readonly string[]): Step[] => [...readProgram(lines.join('\n'))];
const isMotion = (step: Step): step is Motion => step.kind === 'rapid' || step.kind === 'feed';
const motions = (...lines: readonly string[]): Motion[] => steps(...lines).filter(isMotion);
const places = (...lines: readonly string[]): (readonly [string, number, number, number])[] =>
  motions(...lines).map(({ kind, to: { x, y, z } }) => [kind, x, y, z] as const);
const refusal = (...lines: readonly string[]): ProgramError => {
  try {
    steps(...lines);
  } catch (error) {
    if (error instanceof ProgramError) return error;
    throw error;
  }
  throw new Error('It was read.');
};
const valueOf = (expression: string, before: ReadonlyMap<number, number> = new Map()): number =>
  readBlock(`f${expression}`, 1, new Map(before))!.words[0].value;

/** Worked examples of Kramer, Proctor, Messina: The NIST RS274NGC Interpreter, Version 3 (NISTIR 6556, 2000), by their sections; from memory. */
/** The work turns, its face 80 mm from the axis. */
const TURNED = '(A turns the work about Y, X of the plan goes round, the face 80 mm from the axis)';

describe('the examples of RS274/NGC', () => {
  it('values, expressions and functions (3.3.2)', () => {
    expect(valueOf('[1 + acos[0] - [#3 ** [4.0/2]]]', new Map([[3, 3]]))).toBeCloseTo(1 + 90 - 9, 12);
    expect(valueOf('[2.0 / 3 * 1.5 - 5.5 / 11.0]')).toBeCloseTo(0.5, 12);
    expect(valueOf('atan[2]/[-2]')).toBeCloseTo(135, 12);
    expect([valueOf('fix[2.8]'), valueOf('fix[-2.8]'), valueOf('fup[2.8]'), valueOf('fup[-2.8]')]).toEqual([2, -3, 3, -2]);
    expect([valueOf('##2', new Map([[2, 5], [5, 7]])), valueOf('#[1+1]', new Map([[2, 5]]))]).toEqual([7, 5]); // prettier-ignore
    expect(valueOf('[2 ** 3 ** 2]')).toBe(64);
    expect([valueOf('[7 mod 3]'), valueOf('[-7 mod 3]'), valueOf('[1 and 0]'), valueOf('[1 xor 0]')]).toEqual([1, 2, 0, 1]);
  });

  it('a parameter holds from the next line on (3.3.2.2)', () => {
    // “If parameter 3 has been previously set to 15 … #3=6 G1 x#3”: X is 15, and the parameter is 6 afterwards.
    expect(places('#3=15', 'F100', '#3=6 G1 x#3', 'y#3')).toEqual([
      ['feed', 15, 0, 0],
      ['feed', 15, 6, 0],
    ]);
  });

  it('white space and case mean nothing (3.3)', () => {
    // “g0x +0. 12 34y 7” is the same as “g0 x+0.1234 y7”.
    expect(places('g0x +0. 12 34y 7')).toEqual([['rapid', 0.1234, 7, 0]]);
  });

  it('an arc by its radius (3.5.3.1)', () => {
    const [, arc] = motions('G0 X0 Y15 Z5 F100', 'G17 G2 x10 y15 r20 z5');
    expect([arc.to, arc.arc!.radius, arc.arc!.sweep < 0]).toEqual([{ x: 10, y: 15, z: 5 }, expect.closeTo(20, 9), true]);
    expect(Math.abs(arc.arc!.sweep)).toBeLessThan(Math.PI);
    const [, long] = motions('G0 X0 Y15 Z5 F100', 'G2 x10 y15 r-20');
    expect(Math.abs(long.arc!.sweep) + Math.abs(arc.arc!.sweep)).toBeCloseTo(2 * Math.PI, 9);
  });

  it('a helix by its centre (3.5.3.2)', () => {
    // From X7 Y7 the centre of “G17 G2 x10 y16 i3 j4 z9” is at X10 Y11 and the radius 5.
    const [, helix] = motions('G0 X7 Y7 Z0 F100', 'G17 G2 x10 y16 i3 j4 z9');
    expect(helix.arc).toMatchObject({ centre: [10, 11], radius: 5 });
    expect(motionLength(helix)).toBeCloseTo(Math.hypot(5 * helix.arc!.sweep, 9), 12);
  });

  it('drilling, once and three times (3.5.16.2)', () => {
    const start = 'F100 G0 X1 Y2 Z3';
    expect(places(start, 'G90 G81 G98 X4 Y5 Z1.5 R2.8').slice(1)).toEqual([
      ['rapid', 4, 5, 3],
      ['rapid', 4, 5, 2.8],
      ['feed', 4, 5, 1.5],
      ['rapid', 4, 5, 3],
    ]);
    const round = (x: number, y: number) => [
      ['rapid', x, y, 4.8],
      ['feed', x, y, expect.closeTo(4.2, 12)],
      ['rapid', x, y, 4.8],
    ];
    expect(places(start, 'G91 G81 G98 X4 Y5 Z-0.6 R1.8 L3').slice(1)).toEqual([
      ['rapid', 1, 2, 4.8],
      ...round(5, 7),
      ...round(9, 12),
      ...round(13, 17),
    ]);
  });
});

describe('what holds from line to line', () => {
  it('units, distances, feeds, tools, spindle and coolant', () => {
    const [a, b, c] = motions('G20 T2 M6 S9000 M3 M8 F30', 'G1 X1', 'G91 Y1 M9', 'G90 G21 F500 M5 X0');
    expect(a).toMatchObject({ to: { x: 25.4 }, feed: 762, tool: 2, spindle: 'clockwise', speed: 9000, isCooled: true, line: 2 });
    expect(b).toMatchObject({ to: { x: 25.4, y: 25.4 }, isCooled: false });
    expect(c).toMatchObject({ to: { x: 0, y: 25.4 }, feed: 500, spindle: 'still' });
    // A tool is changed with the spindle standing still.
    expect(steps('M3 S1000', 'T3 M6', 'F1 G1 X1').map((step) => ('spindle' in step ? step.spindle : step.kind))).toEqual([
      'tool',
      'still',
    ]);
  });

  it('a feed in moves a minute is that of its line', () => {
    const [move] = motions('G93 G1 X30 Y40 F2');
    expect(move.feed).toBeCloseTo(100, 12);
    expect(refusal('G93 G1 X30 F2', 'X60').message).toContain('every line of a feed needs F');
  });

  it('a shift by G92, and back', () => {
    expect(places('G0 X10', 'G92 X0', 'G0 X5', 'G92.1', 'G0 X5')).toEqual([
      ['rapid', 10, 0, 0],
      ['rapid', 15, 0, 0],
      ['rapid', 5, 0, 0],
    ]);
  });

  it('arcs in the other planes, with centres as places where that is chosen', () => {
    const [, across] = motions('G0 X0 Y0 Z0 F9', 'G18 G3 X10 Z0 I5 K0');
    expect(placeOn(across, 0.5)).toMatchObject({ x: expect.closeTo(5, 9), y: 0, z: expect.closeTo(5, 9) });
    const [, up] = motions('G0 X0 Y0 Z0 F9', 'G19 G90.1 G2 Y10 J5 K0');
    expect(placeOn(up, 0.5)).toMatchObject({ x: 0, y: expect.closeTo(5, 9), z: expect.closeTo(5, 9) });
  });

  it('pecks to the ground, and rests there', () => {
    const drilled = places('F9 G0 Z5', 'G99 G83 X1 Y1 Z-2.5 R0 Q1').filter(([kind]) => kind === 'feed');
    expect(drilled.map(([, , , z]) => z)).toEqual([-1, -2, -2.5]);
    expect(steps('F9 G0 Z5', 'G82 X1 Z-1 R1 P2').some((step) => step.kind === 'dwell' && step.seconds === 2)).toBe(true);
    expect(places('F9 G0 Z5', 'G81 Z-1 R1', 'X3', 'G80', 'G0 X9').filter(([, x]) => x === 3)).toHaveLength(4);
  });

  it('nothing after the end, nor on deleted lines and in comments', () => {
    const all = steps('%', '(G0 X99)', '/G0 X98', 'G0 X1 ; X97', 'M1', 'G4 P1.5', 'M30', 'G0 X96', 'nonsense');
    expect(all.map(({ kind }) => kind)).toEqual(['rapid', 'stop', 'dwell', 'end']);
  });
});

describe('a program that cannot be read', () => {
  it.each([
    [['G1 X1'], 1, 1, 'no feed was set'],
    [['F9', 'X1'], 2, 1, 'no motion is in force'],
    [['G0 X1 X2'], 1, 7, 'X stands on this line twice'],
    [['G0 G1 X1 F9'], 1, 4, 'says the motion twice'],
    [['F9 G2 X10 Y0'], 1, 1, 'needs I and J, its centre, or R'],
    [['F9 G2 X10 Y0 I3 J0'], 1, 14, 'does not close: it begins 3 mm from its centre and ends 7 mm'],
    [['F9 G2 X0 Y0 R5'], 1, 13, 'cannot end where it begins'],
    [['F9 G2 X20 Y0 R5'], 1, 14, 'no arc of radius 5 mm reaches over 20 mm'],
    [['G0 A90'], 1, 4, 'A turns the work, and it is not known how far its face is'],
    [[TURNED, 'G0 X3'], 2, 4, 'X does not move where the work turns about Y'],
    [[TURNED, 'G0 A0 Y0 Z0', 'G2 A10 Y2 I3 J0 F9'], 3, 1, 'arcs are not read where the work turns'],
    [['G41 D1'], 1, 5, '“D” begins no word'],
    [['G0 X1 R5'], 1, 7, 'R means nothing on this line'],
    [['G1 X1 F9 P2'], 1, 10, 'P means nothing on this line'],
    [['M6 T1 H3'], 1, 7, 'H means nothing on this line'],
    [['G41'], 1, 1, 'cutter radius compensation is not read'],
    [['G0 Xsin45'], 1, 5, 'a number is missing'],
    [['G0 X[1+'], 1, 7, 'a number is missing'],
    [['G0 X[1+2'], 1, 5, 'is not closed'],
    [['G0 X1 (open'], 1, 7, 'this comment is not closed'],
    [['G0 X[1/0]'], 1, 9, 'no finite value'],
    [['#6000=1'], 1, 6, 'no parameter'],
    [['G81 X1 Z-1 F9'], 1, 1, 'drilling needs R'],
    [['T1.5'], 1, 1, 'no place in the changer'],
    [['G0 X1', '', 'G1234 X2'], 3, 1, 'G1234: this code is not known'],
    [['G53 G0 Z0'], 1, 1, 'the machine’s own places are not known'],
  ])('%j is refused with its place', (lines, line, column, words) => {
    const error = refusal(...lines);
    expect([error.line, error.column, error.message]).toEqual([line, column, expect.stringContaining(words)]);
  });

  it('is refused with a sentence whatever stands in it', () => {
    const pieces = ['G', 'X', 'I', 'R', 'F', 'M', 'T', '1', '-2.5', '[', ']', '#', '=', '**', 'sin[', 'atan', '(', ')', ';', '/', ' ', '%', '1e9', '\u0000', 'é']; // prettier-ignore
    fc.assert(
      fc.property(fc.array(fc.array(fc.constantFrom(...pieces), { maxLength: 12 }), { maxLength: 4 }), (lines) => {
        try {
          steps(...lines.map((line) => line.join('')));
        } catch (error) {
          expect(error).toBeInstanceOf(ProgramError);
          expect((error as Error).message).not.toMatch(/undefined|NaN|null/u);
        }
      }),
      { numRuns: 3000, seed: 11 },
    );
  });
});

describe('arcs', () => {
  it('pass through their ends, keep their radius, and are as long as their chords in the limit, for any arc', () => {
    const coordinate = fc.integer({ min: -5000, max: 5000 }).map((n) => n / 100);
    const angle = fc.integer({ min: 1, max: 359 });
    fc.assert(
      fc.property(
        coordinate,
        coordinate,
        fc.integer({ min: 10, max: 3000 }),
        angle,
        angle,
        fc.boolean(),
        (cx, cy, r, begins, turns, isClockwise) => {
          const radius = r / 100;
          const at = (degrees: number) => {
            const a = (degrees * Math.PI) / 180;
            return [cx + radius * Math.cos(a), cy + radius * Math.sin(a)] as const;
          };
          const [from, to] = [at(begins), at(begins + (isClockwise ? -turns : turns))];
          const word = (letter: string, value: number) => `${letter}${value.toFixed(9)}`;
          const program = [
            `F9 G0 ${word('X', from[0])} ${word('Y', from[1])}`,
            `G${isClockwise ? 2 : 3} ${word('X', to[0])} ${word('Y', to[1])} ${word('I', cx - from[0])} ${word('J', cy - from[1])} Z1`,
          ];
          const [, motion] = motions(...program);
          expect(Math.abs(motion.arc!.sweep)).toBeCloseTo((turns * Math.PI) / 180, 5);
          let length = 0;
          for (let i = 0; i < 400; i++) {
            const [a, b] = [placeOn(motion, i / 400), placeOn(motion, (i + 1) / 400)];
            expect(Math.hypot(a.x - cx, a.y - cy)).toBeCloseTo(radius, 5);
            length += Math.hypot(b.x - a.x, b.y - a.y, b.z - a.z);
          }
          expect(length / motionLength(motion)).toBeCloseTo(1, 4);
          expect(placeOn(motion, 1)).toEqual(motion.to);
          // By its radius it is the same arc, but for one of very nearly half a circle or a whole one.
          if (Math.abs(turns - 180) < 2 || turns < 2 || turns > 358) return;
          const signed = turns > 180 ? -radius : radius;
          const [, again] = motions(
            program[0],
            `G${isClockwise ? 2 : 3} ${word('X', to[0])} ${word('Y', to[1])} ${word('R', signed)} Z1`,
          );
          expect(again.arc!.sweep).toBeCloseTo(motion.arc!.sweep, 3);
        },
      ),
      { numRuns: 200, seed: 4 },
    );
  });

  it('reads a program that turns its work as lengths on the face, at feeds in moves a minute', () => {
    const text = `${TURNED}\nG21 G90 G93\nG0 A0 Y0 Z5\nG1 A90 Z0 F2\nY10 F3\nG94\nG0 Z5\nM30`;
    const moves = [...readProgram(text)].flatMap((step) => (step.kind === 'feed' || step.kind === 'rapid' ? [step] : []));
    // A quarter round of 80 mm: 40π mm.
    expect(moves[1].to).toEqual({ x: expect.closeTo(40 * Math.PI, 9) as unknown, y: 0, z: 0 });
    expect(moves[1].feed).toBeCloseTo(2 * Math.hypot(40 * Math.PI, 5), 9);
    expect(moves[2]).toMatchObject({ to: { y: 10 }, feed: 30 });
    // About X: what lies up in the plan goes round, or what lies across.
    const about = [
      ...readProgram('(A turns the work about X, X of the plan goes round, the face 80 mm from the axis)\nG0 A180 X7 Z1'),
    ];
    expect(about[0]).toMatchObject({ to: { x: expect.closeTo(80 * Math.PI, 9) as unknown, y: 7, z: 1 } });
    expect(rotaryWords({ radius: 80, along: 'y', round: 'x' })).toBe(TURNED.slice(1, -1));
  });
});
