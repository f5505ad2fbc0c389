// Runs database, server and worker beside each other and starts again what dies.
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { ROOT } from './build.mjs';
import { startPostgres } from './postgres.mjs';
import { say, Stop } from './say.mjs';

const RESTART_MS = 500;
/** It is waited longer and longer for what does not come up, but no longer than this many times. */
const MOST_WAITS = 20;

/** A Node.js process of the application that is started again when it ends unasked. */
class Kept {
  constructor(file, env) {
    this.file = file;
    this.env = env;
    this.isStopping = false;
    this.failures = 0;
  }

  start() {
    // The channel tells the child when this process dies, so that it never outlives it.
    this.child = fork(join(ROOT, this.file), {
      env: { ...process.env, ...this.env },
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    });
    // It speaks when it is up; what was up is started again at once.
    this.child.stdout.on('data', () => (this.failures = -1));
    this.child.on('exit', async () => {
      if (this.isStopping) return;
      this.failures++;
      if (this.failures === MOST_WAITS) say(`${this.file} does not come up: see above. It is tried again every 10 seconds.`);
      await wait(RESTART_MS * Math.min(this.failures, MOST_WAITS));
      if (!this.isStopping) this.start();
    });
    return this;
  }

  async stop() {
    this.isStopping = true;
    if (this.child.exitCode !== null || this.child.signalCode !== null) return;
    const gone = new Promise((done) => this.child.once('exit', done));
    this.child.kill('SIGTERM');
    await Promise.race([gone, wait(8_000)]);
    this.child.kill('SIGKILL');
  }
}

function once(file, env) {
  return new Promise((done, failed) => {
    const child = fork(join(ROOT, file), { env: { ...process.env, ...env }, stdio: 'inherit' });
    child.on('exit', (code) => (code === 0 ? done() : failed(new Stop(`${file} ended with ${code}: see above.`))));
  });
}

/** The practice machine on a port that it finds itself, and comes back to when it is started again. */
async function startMachine() {
  const machine = new Kept('machine/dist/main.js', { MACHINE_PORT: '0' }).start();
  machine.env.MACHINE_PORT = String(await new Promise((done) => machine.child.once('message', ({ port }) => done(port))));
  return machine;
}

/** Starts everything on the given port; gives handles to its pieces and one way to stop them all. */
export async function serve({ home, port, databasePort, workers = 1, env = {} }) {
  const application = {};
  let isStopping = false;
  const startDatabase = async () => {
    // Once chosen the port stays: server and worker know no other.
    application.postgres = await startPostgres(home, { fromPort: application.postgres?.port ?? databasePort });
    void application.postgres.exited.then(async () => {
      if (isStopping) return;
      say('The database ended unasked and is started again.');
      await wait(RESTART_MS);
      if (!isStopping) await restartDatabase();
    });
  };
  /** What the dead server left may take a moment to go. */
  const restartDatabase = async () => {
    for (let tries = 0; !isStopping; tries++) {
      try {
        return await startDatabase();
      } catch (error) {
        if (tries === 30) say(`The database cannot be started again: ${error.message}`);
        await wait(1000);
      }
    }
  };
  await startDatabase();
  application.machine = await startMachine();
  const told = {
    ...env,
    MACHINE_PORT: application.machine.env.MACHINE_PORT,
    DATABASE_URL: application.postgres.url,
    PORT: String(port),
  };
  await once('server/dist/migrate.js', told);
  application.server = new Kept('server/dist/main.js', told).start();
  application.workers = Array.from({ length: workers }, () => new Kept('server/dist/worker.js', told).start());
  application.url = `http://127.0.0.1:${port}`;
  application.stop = async () => {
    isStopping = true;
    await Promise.all([application.server, ...application.workers, application.machine].map((kept) => kept.stop()));
    await application.postgres.stop();
  };
  for (let tries = 0; ; tries++) {
    const answered = await fetch(`${application.url}/api/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (answered) return application;
    if (tries > 150) {
      await application.stop();
      throw new Stop('The server did not answer within 30 seconds: see above.');
    }
    await wait(200);
  }
}
