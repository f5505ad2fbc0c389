import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { durationOf, type MotionLimits, trapezoid } from './duration.js';
import { type Motion, motionLength, placeOn, readProgram } from './index.js';

const LIMITS: MotionLimits = { acceleration: 500, rapid: 6000, mostFeed: 4000, deviation: 0.02 };
const timeOf = (lines: readonly string[], limits = LIMITS) => durationOf(readProgram(lines.join('\n')), limits);

describe('how long a program takes', () => {
  it('is that of a trapezoid, or of a triangle where the way is short', () => {
    // 60 mm/s is reached in 0.12 s over 3.6 mm; 92.8 mm are left for 60 mm/s.
    expect(trapezoid(100, 0, 0, 60, 500)).toBeCloseTo(0.24 + 92.8 / 60, 12);
    // 2 mm at 500 mm/s²: √1000 mm/s at its peak.
    expect(trapezoid(2, 0, 0, 60, 500)).toBeCloseTo((2 * Math.sqrt(1000)) / 500, 12);
    expect(trapezoid(10, 60, 60, 60, 500)).toBeCloseTo(10 / 60, 12);
    expect(timeOf(['F3600', 'G1 X100']).seconds).toBeCloseTo(0.24 + 92.8 / 60, 9);
  });

  it('counts rests, rapid moves, tools and the way', () => {
    const { seconds, rapidSeconds, ...rest } = timeOf(['T1 M6', 'G0 X100', 'G4 P2', 'F3600 G1 X0']);
    expect(rest).toEqual({ lengthMm: 200, rapidMm: 100, toolChanges: 1 });
    expect(rapidSeconds).toBeCloseTo(trapezoid(100, 0, 0, 100, 500), 9);
    expect(seconds).toBeCloseTo(rapidSeconds + 2 + trapezoid(100, 0, 0, 60, 500), 9);
  });

  it('passes a right angle at √(a·δ·sin 45°/(1 − sin 45°)), and stands still where the way turns back', () => {
    const corner = Math.sqrt((500 * 0.02 * Math.SQRT1_2) / (1 - Math.SQRT1_2));
    const square = timeOf(['F3600', 'G1 X100', 'Y100']).seconds;
    expect(square).toBeCloseTo(2 * trapezoid(100, 0, corner, 60, 500), 9);
    expect(timeOf(['F3600', 'G1 X100', 'X0']).seconds).toBeCloseTo(2 * trapezoid(100, 0, 0, 60, 500), 9);
  });

  it('goes round an arc no faster than √(a·R), and into it along its tangent without slowing down for a corner', () => {
    const slow = Math.sqrt(500 * 2);
    const { seconds } = timeOf(['F3600', 'G3 X0 Y0 I2 J0']);
    expect(seconds).toBeCloseTo(trapezoid(4 * Math.PI, 0, 0, slow, 500), 9);
    const tangent = timeOf(['F1200', 'G1 X50', 'G3 X50 Y40 I0 J20']).seconds;
    expect(tangent).toBeCloseTo(trapezoid(50 + 20 * Math.PI, 0, 0, 20, 500), 9);
  });

  it('is the same however a straight way is divided', () => {
    const whole = timeOf(['F3600', 'G1 X100']).seconds;
    const parts = ['F3600 G91', ...Array.from({ length: 400 }, () => 'G1 X0.25')];
    expect(timeOf(parts).seconds).toBeCloseTo(whole, 6);
  });

  it('is what speeds found by small steps along the way give, for any way', () => {
    const word = fc.record({
      x: fc.integer({ min: -20, max: 20 }),
      y: fc.integer({ min: -20, max: 20 }),
      f: fc.integer({ min: 5, max: 60 }),
    });
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 6 }), (words) => {
        const lines = ['G91 F600', ...words.map(({ x, y, f }) => `G1 X${x} Y${y} F${f * 60}`)];
        const moves = [...readProgram(lines.join('\n'))].filter(
          (step): step is Motion => step.kind === 'feed' && motionLength(step) > 0,
        );
        expect(timeOf(lines).seconds / Math.max(1e-9, bySmallSteps(moves, LIMITS))).toBeCloseTo(moves.length > 0 ? 1 : 0, 2);
      }),
      { numRuns: 60, seed: 9 },
    );
  });
});

/** Speeds at every 0.01 mm of the way: no faster than the feed there, a corner's speed at a corner, and what can be reached and left. */
function bySmallSteps(moves: readonly Motion[], { acceleration, deviation }: MotionLimits): number {
  const STEP = 0.01;
  const squares: number[] = [0];
  moves.forEach((move, i) => {
    const pieces = Math.max(1, Math.round(motionLength(move) / STEP));
    for (let k = 1; k <= pieces; k++) squares.push((move.feed / 60) ** 2);
    const next = moves[i + 1];
    if (!next) return;
    const [a, b, c] = [placeOn(move, 0.999), move.to, placeOn(next, 0.001)];
    const turn = Math.abs(Math.atan2(c.y - b.y, c.x - b.x) - Math.atan2(b.y - a.y, b.x - a.x));
    const inside = Math.PI - Math.min(turn, 2 * Math.PI - turn);
    const sine = Math.sin(inside / 2);
    const corner = sine > 1 - 1e-9 ? Infinity : (acceleration * deviation * sine) / (1 - sine);
    squares[squares.length - 1] = Math.min(squares[squares.length - 1], corner, (next.feed / 60) ** 2);
  });
  squares[squares.length - 1] = 0;
  const reach = 2 * acceleration * STEP;
  for (let i = 1; i < squares.length; i++) squares[i] = Math.min(squares[i], squares[i - 1] + reach);
  for (let i = squares.length - 2; i >= 0; i--) squares[i] = Math.min(squares[i], squares[i + 1] + reach);
  let seconds = 0;
  for (let i = 1; i < squares.length; i++) seconds += (2 * STEP) / (Math.sqrt(squares[i - 1]) + Math.sqrt(squares[i]));
  return seconds;
}
