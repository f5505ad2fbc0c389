import { circle } from '../geometry/index.js';
import { type Mesh, meshBounds } from '../mesh/index.js';
import { PegRoom } from './peg-room.js';
import { cutByPlane, planeSection, type Socket } from '../solid/index.js';

/** Where a solid is cut by upright planes, in mm. */
export interface SplitLines {
  /** x of lines that stand upright in the plan, and y of those that lie level. */
  readonly upright: readonly number[];
  readonly level: readonly number[];
}

/** Loose pegs that hold pieces to each other. Lengths in mm. */
export interface PegChoice {
  /** 0: none. */
  readonly diameter: number;
  /** How far one goes into either piece. */
  readonly deep: number;
  /** By which a socket is wider all round than the peg, and deeper. */
  readonly play: number;
}

/** Usual pegs of printed pieces (common practice, no source). */
export const USUAL_PEGS: PegChoice = { diameter: 4, deep: 10, play: 0.2 };

/** A part of a solid. */
interface Part {
  readonly mesh: Mesh;
  /** Triangles of the whole that its own come from, −1 on cut faces. */
  readonly from: Int32Array;
}

/** A piece of a solid that was split. */
export interface SplitPiece extends Part {
  /** Column from the left and row from below: A1, B1. */
  readonly name: string;
}

/** Where a peg lies in the sign. */
export interface PegPlace {
  readonly axis: 'x' | 'y';
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** A line beside which fewer than two pegs have room. */
export interface LooseLine {
  readonly axis: 'x' | 'y';
  readonly at: number;
  readonly pegs: number;
}

export interface Split {
  readonly pieces: readonly SplitPiece[];
  /** Middles of pegs, each between two pieces, along x or y. */
  readonly pegs: readonly PegPlace[];
  readonly loose: readonly LooseLine[];
}

/** A solid that cannot be split there, in a sentence. */
export class SplitError extends Error {}

/** mm of material that stay around a peg, and from peg to peg along a cut. */
const WALL = 1;
const APART = 80;
/** mm between places that are tried for a peg. */
const STEP = 0.5;
/** mm by which a plane that meets the solid badly is moved, again and again. */
const ASIDE = 0.013;
const TRIES = 12;
/** mm that a piece is wide, at least. */
const LEAST_PIECE = 1;

/**
 * Cuts a solid by planes that stand on its back, with sockets for pegs wherever material is around them on both sides.
 * @throws SplitError where a line misses the solid, or it cannot be cut there
 */
export function split(solid: Mesh, { upright, level }: SplitLines, pegs: PegChoice): Split {
  const { min, max } = meshBounds(solid);
  for (const [axis, lines] of [[0, upright], [1, level]] as const) // prettier-ignore
    for (const at of lines)
      if (!isWithin(at, min[axis], max[axis]))
        throw new SplitError(`The line at ${'xy'[axis]} = ${at} mm cuts nothing off: the sign lies between ${min[axis].toFixed(1)} and ${max[axis].toFixed(1)} mm, and a piece is at least ${LEAST_PIECE} mm wide.`); // prettier-ignore
  const splitter = new Splitter(pegs);
  const whole = { mesh: solid, from: Int32Array.from({ length: solid.triangles.length / 3 }, (_, t) => t) };
  const pieces = splitter.along(whole, 0, upright).flatMap((column, i) => {
    const bounds = meshBounds(column.mesh);
    const lines = level.filter((at) => isWithin(at, bounds.min[1], bounds.max[1]));
    return splitter.along(column, 1, lines).map((part, j): SplitPiece => ({ ...part, name: `${letters(i)}${j + 1}` }));
  });
  return { pieces, pegs: splitter.pegs, loose: splitter.loose };
}

/** A peg, standing: round, as long as two sockets less their play. */
export function pegMesh({ diameter, deep }: PegChoice): Mesh {
  const rim = circle(0, 0, diameter / 2);
  const n = rim.length / 2;
  const positions = [0, 2 * deep].flatMap((z) => Array.from({ length: n }, (_, i) => [rim[2 * i], rim[2 * i + 1], z]).flat());
  const triangles: number[] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    triangles.push(i, j, n + j, i, n + j, n + i);
    if (i > 0 && j > 0) triangles.push(0, j, i, n, n + i, n + j);
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/**
 * Lines that make a sign into pieces no larger than a bed: evenly spread, each moved to where the fewest outlines cross it.
 * @param from and to what lies along the direction that is cut
 * @param crossed ranges of things that are better not cut: letters
 */
export function proposedLines(from: number, to: number, bed: number, crossed: readonly (readonly [number, number])[]): number[] {
  const count = Math.ceil((to - from) / bed - 1e-9) - 1;
  if (!(count > 0) || !Number.isFinite(count)) return [];
  const spare = (bed - (to - from) / (count + 1)) / 2;
  return Array.from({ length: count }, (_, i) => {
    const even = from + ((i + 1) * (to - from)) / (count + 1);
    const tries = [0, ...Array.from({ length: 40 }, (__, k) => (Math.ceil((k + 1) / 2) * (k % 2 === 0 ? 1 : -1) * spare) / 20)];
    const cuts = tries.map((aside) => crossed.filter(([low, high]) => low < even + aside && high > even + aside).length);
    return Math.round((even + tries[cuts.indexOf(Math.min(...cuts))]) * 10) / 10;
  });
}

class Splitter {
  readonly pegs: PegPlace[] = [];
  readonly loose: LooseLine[] = [];

  constructor(private readonly choice: PegChoice) {}

  along(part: Part, axis: 0 | 1, lines: readonly number[]): Part[] {
    const parts: Part[] = [];
    let rest = part;
    for (const at of [...lines].sort((a, b) => a - b)) {
      const sockets = this.choice.diameter > 0 ? this.socketsAt(rest.mesh, axis, at) : [];
      for (const { u, v } of sockets)
        this.pegs.push(axis === 0 ? { axis: 'x', x: at, y: u, z: v } : { axis: 'y', x: v, y: at, z: u });
      if (this.choice.diameter > 0 && sockets.length < 2)
        this.loose.push({ axis: axis === 0 ? 'x' : 'y', at, pegs: sockets.length });
      const [low, high] = cutNear(rest.mesh, axis, at, sockets).map(({ mesh, from }): Part => ({
        mesh,
        from: from.map((triangle) => (triangle < 0 ? -1 : rest.from[triangle])),
      }));
      parts.push(low);
      rest = high;
    }
    return [...parts, rest];
  }

  /** Two sockets at least where they fit, and one more every {@link APART} mm, each where there is room near its even place. */
  private socketsAt(mesh: Mesh, axis: 0 | 1, at: number): Socket[] {
    const { diameter, deep, play } = this.choice;
    const radius = diameter / 2 + play;
    const around = radius + WALL;
    const room = new PegRoom(mesh, axis, at, deep + play + WALL);
    // On the plane of x it is y, z that follow; on that of y z, x.
    const alongs = planeSection(mesh, axis, at).flatMap((ring) => [...ring].filter((_, i) => i % 2 === axis));
    if (alongs.length === 0) return [];
    const [from, to] = [Math.min(...alongs), Math.max(...alongs)];
    const free: { readonly along: number; readonly z: number }[] = [];
    for (let along = from + around; along <= to - around; along += STEP) {
      const { low, high } = room.between(along - around, along + around);
      if (high - low >= 2 * around) free.push({ along, z: (low + high) / 2 });
    }
    const chosen: typeof free = [];
    const count = Math.max(2, Math.round((to - from) / APART) + 1);
    for (let i = 0; i < count; i++) {
      const even = from + ((i + 0.5) * (to - from)) / count;
      const [best] = free
        .filter(({ along }) => chosen.every((other) => Math.abs(other.along - along) >= 2 * around))
        .sort((a, b) => Math.abs(a.along - even) - Math.abs(b.along - even));
      if (best) chosen.push(best);
    }
    return chosen.map(({ along, z }) => ({
      ...(axis === 0 ? { u: along, v: z } : { u: z, v: along }),
      radius,
      deep: deep + play,
    }));
  }
}

function cutNear(mesh: Mesh, axis: 0 | 1, at: number, sockets: readonly Socket[]): NonNullable<ReturnType<typeof cutByPlane>> {
  for (let i = 0; i < TRIES; i++) {
    const parts = cutByPlane(mesh, axis, at + i * ASIDE, sockets);
    if (parts) return parts;
  }
  throw new SplitError(`The sign cannot be cut at ${'xy'[axis]} = ${at} mm: too much of it lies along that line. Move it by a millimetre.`); // prettier-ignore
}

const isWithin = (at: number, from: number, to: number): boolean => at > from + LEAST_PIECE && at < to - LEAST_PIECE;

/** A, B … Z, AA, AB … */
const letters = (i: number): string => (i < 26 ? '' : letters(Math.floor(i / 26) - 1)) + String.fromCharCode(65 + (i % 26));
