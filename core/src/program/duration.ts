import { type Motion, motionLength, PLANES, type Step } from './motion.js';

/** What a machine can do, as far as it decides how long a program takes. */
export interface MotionLimits {
  /** mm/s². */
  readonly acceleration: number;
  /** mm a minute, of rapid moves and at most of a feed. */
  readonly rapid: number;
  readonly mostFeed: number;
  /** mm by which a corner may be rounded where the machine does not stop. */
  readonly deviation: number;
}

/** How long a program takes and how far it goes. */
export interface Duration {
  /** Of moves and rests; what a person does comes on top. */
  readonly seconds: number;
  readonly rapidSeconds: number;
  readonly lengthMm: number;
  readonly rapidMm: number;
  readonly toolChanges: number;
}

/** A move, as speeds see it. */
interface Stretch {
  readonly step: Motion;
  readonly length: number;
  /** mm/s, at most. */
  readonly most: number;
  /** mm/s at its beginning, at most: what the corner before it stands. */
  readonly entry: number;
}

/** Moves whose speeds are worked out together: the machine looks no further ahead, and stands still between them. */
const MOST_AHEAD = 100_000;

/** A step with the seconds that it takes; what a person does comes on top. */
export interface TimedStep {
  readonly step: Step;
  readonly seconds: number;
}

/**
 * Every step with how long a machine takes for it that speeds up and slows down evenly (trapezoids), passes corners as fast as rounding
 * them by the allowed deviation lets it, √(a·δ·sin(ψ/2)/(1 − sin(ψ/2))) at an inside angle ψ, and arcs at √(a·R) (junction deviation,
 * common practice).
 */
export function* timedSteps(steps: Iterable<Step>, limits: MotionLimits): Generator<TimedStep> {
  let ahead: Stretch[] = [];
  let before: Motion | undefined;
  for (const step of steps) {
    if (step.kind === 'rapid' || step.kind === 'feed') {
      const length = motionLength(step);
      if (length === 0) continue;
      if (ahead.length >= MOST_AHEAD) {
        yield* timed(ahead, limits.acceleration);
        ahead = [];
        before = undefined;
      }
      const entry = before ? cornerSpeed(before, step, limits) : 0;
      ahead.push({ step, length, most: speedOf(step, limits), entry });
      before = step;
    } else {
      yield* timed(ahead, limits.acceleration);
      ahead = [];
      before = undefined;
      yield { step, seconds: step.kind === 'dwell' ? step.seconds : 0 };
    }
  }
  yield* timed(ahead, limits.acceleration);
}

/** How long a machine takes for all of it, by {@link timedSteps}. */
export function durationOf(steps: Iterable<Step>, limits: MotionLimits): Duration {
  let [seconds, rapidSeconds, lengthMm, rapidMm, toolChanges] = [0, 0, 0, 0, 0];
  for (const timedStep of timedSteps(steps, limits)) {
    const { step } = timedStep;
    seconds += timedStep.seconds;
    if (step.kind === 'tool') toolChanges++;
    if (step.kind !== 'rapid' && step.kind !== 'feed') continue;
    const length = motionLength(step);
    lengthMm += length;
    if (step.kind !== 'rapid') continue;
    rapidMm += length;
    rapidSeconds += timedStep.seconds;
  }
  return { seconds, rapidSeconds, lengthMm, rapidMm, toolChanges };
}

/** mm/s that a move is made at, once it is up to speed. */
function speedOf({ kind, feed, arc }: Motion, { acceleration, rapid, mostFeed }: MotionLimits): number {
  const asked = (kind === 'rapid' ? rapid : Math.min(feed, mostFeed)) / 60;
  return arc ? Math.min(asked, Math.sqrt(acceleration * arc.radius)) : asked;
}

function cornerSpeed(before: Motion, after: Motion, { acceleration, deviation }: MotionLimits): number {
  const [a, b] = [directionOf(before, 'end'), directionOf(after, 'beginning')];
  // The inside angle: π where the way goes straight on, 0 where it turns back.
  const cosine = -(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]);
  const sine = Math.sqrt(Math.max(0, (1 - cosine) / 2));
  return sine > 1 - 1e-9 ? Infinity : Math.sqrt((acceleration * deviation * sine) / (1 - sine));
}

/** Where a move heads at one of its ends, as a vector of length 1. */
function directionOf({ from, to, arc }: Motion, at: 'beginning' | 'end'): readonly [number, number, number] {
  const place = { x: to.x - from.x, y: to.y - from.y, z: to.z - from.z };
  if (arc) {
    const { first, second, across } = PLANES[arc.plane];
    const end = at === 'end' ? to : from;
    [place[first], place[second]] = [-(end[second] - arc.centre[1]) * arc.sweep, (end[first] - arc.centre[0]) * arc.sweep];
    place[across] = to[across] - from[across];
  }
  const length = Math.hypot(place.x, place.y, place.z);
  return [place.x / length, place.y / length, place.z / length];
}

/** Each stretch with its time: as fast as corners, and what lies ahead, let it be; the first begins and the last ends at rest. */
function* timed(stretches: readonly Stretch[], acceleration: number): Generator<TimedStep> {
  const n = stretches.length;
  const entries = new Float64Array(n + 1);
  for (let i = 1; i < n; i++) {
    const { entry, most } = stretches[i];
    entries[i] = Math.min(entry, most, stretches[i - 1].most);
  }
  for (let i = n - 1; i >= 0; i--)
    entries[i] = Math.min(entries[i], Math.sqrt(entries[i + 1] ** 2 + 2 * acceleration * stretches[i].length));
  for (let i = 0; i < n; i++)
    entries[i + 1] = Math.min(entries[i + 1], Math.sqrt(entries[i] ** 2 + 2 * acceleration * stretches[i].length));
  for (let i = 0; i < n; i++) {
    const { step, length, most } = stretches[i];
    yield { step, seconds: trapezoid(length, entries[i], entries[i + 1], most, acceleration) };
  }
}

/** Seconds of a move from one speed to another that goes no faster than `most` (mm, mm/s, mm/s²). */
export function trapezoid(length: number, from: number, to: number, most: number, acceleration: number): number {
  // The speed at which a move that never goes steadily turns from speeding up to slowing down.
  const peak = Math.min(most, Math.sqrt((2 * acceleration * length + from ** 2 + to ** 2) / 2));
  const steady = length - (2 * peak ** 2 - from ** 2 - to ** 2) / (2 * acceleration);
  return (2 * peak - from - to) / acceleration + Math.max(0, steady) / peak;
}
