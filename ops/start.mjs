import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { buildCommandLine, buildWeb, HOME, installPackages, ROOT } from './build.mjs';
import { checkDisk, likeFromDebian, needFromDebian } from './debian.mjs';
import { freePort, isFree } from './ports.mjs';
import { main, say, Stop } from './say.mjs';
import { serve } from './serve.mjs';

const DEFAULT_PORT = 4310;
/** Where database and marks of the running application are kept. */
const home = process.env.PLAIN_RELIEF_HOME ?? HOME;
const MOST_WORKERS = 16;
const USAGE = `./start [--port N] [--workers N] [--fresh]
  --port N     serve on this port of 127.0.0.1 (${DEFAULT_PORT}, or the next free one)
  --workers N  processes that make proofs, files and plans beside the server (1)
  --fresh      begin anew: the database with all jobs is deleted and the demo scenario loaded`;

function options() {
  try {
    return parseArgs({
      options: {
        port: { type: 'string' },
        workers: { type: 'string', default: '1' },
        fresh: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    }).values;
  } catch (error) {
    throw new Stop(`${error.message}\n${USAGE}`);
  }
}

/** The port to serve on: the one asked for, or the first free one from the default. */
async function choosePort(asked) {
  if (asked === undefined) {
    const port = await freePort(DEFAULT_PORT);
    if (port !== DEFAULT_PORT) say(`Port ${DEFAULT_PORT} is taken by another program; serving on ${port}.`);
    return port;
  }
  const port = Number(asked);
  if (!Number.isInteger(port) || port < 1024 || port > 65535)
    throw new Stop(`--port ${asked} is not a port: give a whole number from 1024 to 65535.`);
  if (!(await isFree(port))) throw new Stop(`Port ${port} is taken: stop what uses it, or give another with --port.`);
  return port;
}

/** Refuses a second run in the same folder, which would use the same database directory. */
function checkAlone(pidFile) {
  if (!existsSync(pidFile)) return;
  const [pid, url] = readFileSync(pidFile, 'utf8').split('\n');
  const command = `/proc/${pid}/cmdline`;
  if (existsSync(command) && readFileSync(command, 'utf8').includes('start.mjs'))
    throw new Stop(
      `Plain Relief already runs from this folder${url ? ` at ${url}` : ''}: use that, or stop it with Ctrl-C there.`,
    );
}

main(async () => {
  const asked = options();
  if (asked.help) return say(USAGE);
  const workers = Number(asked.workers);
  if (!Number.isInteger(workers) || workers < 1 || workers > MOST_WORKERS)
    throw new Stop(`--workers ${asked.workers} is no number of processes: give a whole number from 1 to ${MOST_WORKERS}.`);
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Stop(`Node.js ${process.versions.node} is too old: install version 20.19 or newer.`);
  const pidFile = join(home, 'start.pid');
  checkAlone(pidFile);
  // A first run brings packages, the built page and a database; later ones only what the jobs add.
  checkDisk(ROOT, existsSync(join(ROOT, 'node_modules')) ? 100 : 900);
  const port = await choosePort(asked.port);
  needFromDebian('postgres');
  likeFromDebian('words are not translated to braille', 'liblouis');
  installPackages();
  buildCommandLine();
  buildWeb();
  if (asked.fresh) {
    rmSync(join(home, 'database'), { recursive: true, force: true });
    say('Beginning anew.');
  }
  mkdirSync(home, { recursive: true });
  writeFileSync(pidFile, `${process.pid}\n`);
  const application = await serve({ home, port, workers });
  writeFileSync(pidFile, `${process.pid}\n${application.url}`);
  say(`Plain Relief is at ${application.url} (Ctrl-C stops it)`);

  let isStopping = false;
  const stop = async () => {
    if (isStopping) return;
    isStopping = true;
    say('\nStopping …');
    await application.stop();
    rmSync(pidFile, { force: true });
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
});
