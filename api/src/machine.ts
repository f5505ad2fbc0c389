import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, Moment, oneOf, orNull, Uuid } from './schema.js';
import { MACHINE_COMMANDS, MACHINE_STATES } from './states.js';

const Place = Type.Object({ x: Type.Number(), y: Type.Number(), z: Type.Number() });

/** What a machine tells of itself. */
export const MachineReport = Type.Object({
  state: oneOf(MACHINE_STATES),
  /** Why it is held, in alarm, or what it waits for; empty otherwise. */
  why: Type.String(),
  machine: Type.String(),
  job: Type.Optional(
    Type.Object({ id: Type.String(), name: Type.String(), lines: Type.Integer(), line: Type.Integer(), isDone: Type.Boolean() }),
  ),
  /** In the places of the program, mm. */
  place: Place,
  tool: Type.Integer(),
  spindle: oneOf(['still', 'turning'] as const),
  /** mm a minute at the moment. */
  pace: Type.Number(),
  /** Percent of the feed. */
  feed: Type.Number(),
  door: oneOf(['closed', 'open'] as const),
  /** Times as fast as a machine. */
  faster: Type.Number(),
  /** Machine seconds that the program ran. */
  seconds: Type.Number(),
});
export type MachineReport = Static<typeof MachineReport>;

/** A program that was sent to the machine. */
export const MachineRun = Type.Object({
  id: Type.String(),
  planId: Type.String(),
  signId: Type.String(),
  title: Type.String(),
  /** Which of the plan's files. */
  file: Type.Integer(),
  name: Type.String(),
  sentBy: Type.String(),
  sentAt: Moment,
  /** The line that it was last heard to be at. */
  line: Type.Integer(),
  /** How it ended; null while it is in the machine. */
  end: orNull(oneOf(['done', 'stopped', 'lost', 'replaced'] as const)),
});
export type MachineRun = Static<typeof MachineRun>;

/** The machine as it is seen at a moment. */
export const MachineView = Type.Object({
  /** Undefined where it does not answer. */
  report: Type.Optional(MachineReport),
  /** Why it does not answer; empty where it does. */
  trouble: Type.String(),
  /** The program that was sent last. */
  run: orNull(MachineRun),
});
export type MachineView = Static<typeof MachineView>;

export const machineEndpoints = {
  'GET /machine': { answer: MachineView },
  'POST /machine/programs': {
    body: Type.Object(
      {
        plan: Uuid,
        file: Type.Integer({ minimum: 0, maximum: 1000 }),
        /** Whether a program that somebody else sent and has not run is taken out for it. */
        instead: Type.Optional(Type.Boolean()),
      },
      closed,
    ),
    answer: MachineView,
  },
  'POST /machine/commands': {
    body: Type.Object(
      {
        command: oneOf(MACHINE_COMMANDS),
        /** A line to run from, a tool, percent of the feed, times as fast, or 1 and 0 for on and off, open and closed. */
        value: Type.Optional(Type.Number({ minimum: 0, maximum: 10_000_000 })),
      },
      closed,
    ),
    answer: MachineView,
  },
} as const satisfies EndpointTable;
