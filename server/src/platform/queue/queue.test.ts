import { connect, createServer, type Server } from 'node:net';
import { setTimeout as wait } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { TestServer } from '../../testing/server.js';
import { openQueue } from './queue.js';

describe('the queue', () => {
  let server: TestServer;
  let gate: Server | undefined;

  beforeAll(async () => {
    server = await TestServer.start();
  });
  afterAll(async () => {
    gate?.close();
    await server.stop();
  });

  it('opens once the database answers, and tells at once what else is wrong', async () => {
    const behind = new URL(server.settings.databaseUrl);
    const before = new URL(behind);
    gate = createServer((socket) => {
      const other = connect(Number(behind.port), behind.hostname);
      for (const end of [socket, other]) end.on('error', () => undefined);
      socket.pipe(other).pipe(socket);
    });
    // A port that nothing listens on yet.
    const port = await new Promise<number>((done) => {
      const probe = createServer().listen(0, '127.0.0.1', () => {
        const address = probe.address();
        probe.close(() => done(typeof address === 'object' ? address!.port : 0));
      });
    });
    before.hostname = '127.0.0.1';
    before.port = String(port);
    let isOpen = false;
    const opening = openQueue(before.href).then((boss) => {
      isOpen = true;
      return boss;
    });
    await wait(600);
    expect(isOpen).toBe(false);
    gate.listen(port, '127.0.0.1');
    const boss = await opening;
    expect(await boss.getQueue('sign-files')).toMatchObject({ name: 'sign-files' });
    await boss.stop({ graceful: false });

    before.pathname = '/there-is-none';
    await expect(openQueue(before.href)).rejects.toThrow('does not exist');
  });
});
