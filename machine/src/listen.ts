import { createServer, type Server, type Socket } from 'node:net';
import type { Controller } from './controller.js';
import { answerTo, oneLine } from './protocol.js';

const LONGEST_LINE = 100_000;
const TICK_MS = 25;
/** Machine time that is caught up with at once, in seconds of the clock: a process that was asleep does not run ahead. */
const LONGEST_TICK = 0.2;

/** Serves a machine on a port of loopback: a command a line, an answer a line. */
export function listen(controller: Controller, port: number): Promise<{ readonly server: Server; close(): void }> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    socket.on('error', () => socket.destroy());
    serve(controller, socket);
  });
  let before = performance.now();
  const clock = setInterval(() => {
    const now = performance.now();
    controller.pass(Math.min(LONGEST_TICK, (now - before) / 1000));
    before = now;
  }, TICK_MS);
  const close = (): void => {
    clearInterval(clock);
    for (const socket of sockets) socket.destroy();
    server.close();
  };
  return new Promise((done, failed) => {
    server.once('error', failed);
    server.listen({ host: '127.0.0.1', port }, () => done({ server, close }));
  });
}

function serve(controller: Controller, socket: Socket): void {
  let rest: Buffer = Buffer.alloc(0);
  let taking:
    { readonly bytes: number; readonly id: string; readonly name: string; readonly parts: Buffer[]; got: number } | undefined;
  const say = (line: string): void => void socket.write(`${line}\n`);
  socket.on('data', (chunk: Buffer) => {
    let data: Buffer = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
    rest = Buffer.alloc(0);
    while (data.length > 0) {
      if (taking) {
        const part = data.subarray(0, taking.bytes - taking.got);
        taking.parts.push(part);
        taking.got += part.length;
        data = data.subarray(part.length);
        if (taking.got < taking.bytes) return;
        const { id, name, parts } = taking;
        taking = undefined;
        try {
          controller.take(id, name, Buffer.concat(parts).toString('utf8'));
          say('ok');
        } catch (error) {
          say(`no ${oneLine((error as Error).message)}`);
        }
        continue;
      }
      const end = data.indexOf(10);
      if (end < 0) {
        if (data.length > LONGEST_LINE) {
          say('no A line is no longer than 100000 bytes.');
          socket.destroy();
          return;
        }
        rest = data;
        return;
      }
      const line = data.subarray(0, end).toString('utf8');
      data = data.subarray(end + 1);
      if (line.trim() === '') continue;
      const asked = answerTo(controller, line);
      if (asked.kind === 'said') say(asked.answer);
      else taking = { ...asked, parts: [], got: 0 };
    }
  });
}
