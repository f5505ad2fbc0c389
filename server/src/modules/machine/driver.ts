import type { MachineReport } from '@plain-relief/api';
import type { MachineCommand } from '@plain-relief/api/states';
import type { ShopMachine } from '@plain-relief/core/shop';

/** Where the zero of a program lies on a machine: x and y from the corner of its area, z from the top of its travel, downwards. */
export interface MachineZero {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** A program as it is sent. */
export interface SentProgram {
  /** By which it is known again. */
  readonly id: string;
  readonly name: string;
  readonly text: string;
}

/** The machine would not do it, in its own sentence. */
export class MachineRefusal extends Error {}

/** Nothing answers where the machine should be. */
export class MachineAway extends Error {}

/**
 * How a machine is spoken to. The practice machine has one; another machine gets another, and nothing else changes.
 * Everything throws MachineAway where nothing answers, and MachineRefusal where it would not.
 */
export interface MachineDriver {
  report(): Promise<MachineReport>;
  /** Brings a program in, for a machine that is like this, with its zero there. */
  take(program: SentProgram, machine: ShopMachine, zero: MachineZero): Promise<void>;
  command(command: MachineCommand, value?: number): Promise<void>;
  close(): void;
}
