import type { AddressInfo } from 'node:net';
import { Controller } from './controller.js';
import { listen } from './listen.js';

/** The practice machine as a process of its own: a stand-in on loopback that runs programs and cuts nothing. */
const port = Number(process.env.MACHINE_PORT ?? 4311);
const { server, close } = await listen(new Controller(), port);
const bound = (server.address() as AddressInfo).port;
console.log(`Practice machine on port ${bound}`);
process.send?.({ port: bound });

function stop(): void {
  close();
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// The starting process has died: nothing of it stays behind.
process.on('disconnect', stop);
