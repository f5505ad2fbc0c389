import { createServer } from 'node:net';

/** Whether nothing listens on the port of the loopback interface. */
export function isFree(port) {
  return new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen({ host: '127.0.0.1', port }, () => probe.close(() => done(true)));
  });
}

/** The first free port from the given one on. */
export async function freePort(from) {
  for (let port = from; port < from + 200; port++) if (await isFree(port)) return port;
  throw new Error(`No free port from ${from} to ${from + 199}.`);
}
