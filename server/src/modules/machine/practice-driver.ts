import { connect, type Socket } from 'node:net';
import type { MachineReport } from '@plain-relief/api';
import type { MachineCommand } from '@plain-relief/api/states';
import type { ShopMachine } from '@plain-relief/core/shop';
import type { Settings } from '../../platform/settings.js';
import { MachineAway, type MachineDriver, MachineRefusal, type MachineZero, type SentProgram } from './driver.js';

const PATIENCE_MS = 10_000;

interface Waiting {
  readonly heard: (line: string) => void;
  readonly failed: (error: Error) => void;
}

/** Speaks to the practice machine over its line (docs/machine-protocol.md): one connection, an answer for each command in turn. */
export class PracticeDriver implements MachineDriver {
  private socket: Socket | undefined;
  private readonly waiting: Waiting[] = [];
  private rest = '';

  constructor(private readonly port: number) {}

  async report(): Promise<MachineReport> {
    return JSON.parse(await this.say('state')) as MachineReport;
  }

  async take({ id, name, text }: SentProgram, machine: ShopMachine, { x, y, z }: MachineZero): Promise<void> {
    const { area, travel, rapid, mostFeed, acceleration, deviation, toolChange, hasChanger } = machine;
    const like = { name: machine.name, area, travel, rapid, mostFeed, acceleration, deviation, toolChange, hasChanger };
    await this.say(`be ${JSON.stringify(like)}`);
    await this.say(`zero ${x} ${y} ${z}`);
    await this.say(`take ${Buffer.byteLength(text)} ${id} ${name}`, text);
  }

  async command(command: MachineCommand, value?: number): Promise<void> {
    await this.say(lineOf(command, value));
  }

  close(): void {
    this.socket?.destroy();
  }

  /** @returns what stands after “ok” */
  private async say(line: string, more = ''): Promise<string> {
    const socket = this.socket ?? this.open();
    const answer = await new Promise<string>((heard, failed) => {
      const timer = setTimeout(() => socket.destroy(new Error('it was silent for 10 s')), PATIENCE_MS);
      const done =
        <T>(then: (value: T) => void) =>
        (value: T): void => {
          clearTimeout(timer);
          then(value);
        };
      this.waiting.push({ heard: done(heard), failed: done(failed) });
      socket.write(`${line.replaceAll('\n', ' ')}\n${more}`);
    });
    if (answer.startsWith('no ')) throw new MachineRefusal(answer.slice(3));
    return answer.slice(3);
  }

  private open(): Socket {
    const socket = connect(this.port, '127.0.0.1');
    let why = 'the line was closed';
    socket.setEncoding('utf8');
    socket.on('data', (chunk: string) => {
      const lines = (this.rest + chunk).split('\n');
      this.rest = lines.pop()!;
      for (const line of lines) this.waiting.shift()?.heard(line);
    });
    socket.on('error', (error) => (why = error.message));
    socket.on('close', () => {
      if (this.socket === socket) this.socket = undefined;
      this.rest = '';
      for (const { failed } of this.waiting.splice(0)) failed(new MachineAway(why));
    });
    this.socket = socket;
    return socket;
  }
}

/** A command as the line has it. */
function lineOf(command: MachineCommand, value?: number): string {
  switch (command) {
    case 'run':
      return value === undefined ? 'run' : `run from ${value}`;
    case 'door':
      return `door ${value ? 'open' : 'closed'}`;
    case 'power':
      return `power ${value ? 'on' : 'off'}`;
    case 'tool':
    case 'feed':
    case 'faster':
      return `${command} ${value ?? ''}`;
    default:
      return command;
  }
}

/** The driver of the machine that the settings name; undefined where there is none. */
export const driverFor = ({ machinePort }: Pick<Settings, 'machinePort'>): MachineDriver | undefined =>
  machinePort === undefined ? undefined : new PracticeDriver(machinePort);
