// A PostgreSQL of the project's own: its directory inside the project folder, loopback only, a port of its own.
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { isRoot, postgresPrograms } from './debian.mjs';
import { freePort } from './ports.mjs';
import { Stop } from './say.mjs';

const USER = 'plain_relief';
const DATABASE = 'plain_relief';

/**
 * How to run a program of PostgreSQL, which refuses to run as root: as user postgres, who is also given leave to pass
 * through folders such as /root that it could not enter.
 */
function asServerUser(program, args) {
  if (!isRoot) return [program, args];
  const caps = ['--inh-caps=+dac_read_search', '--ambient-caps=+dac_read_search'];
  const canPass = spawnSync('setpriv', [...caps, 'true']).status === 0;
  return ['setpriv', ['--reuid=postgres', '--regid=postgres', '--init-groups', ...(canPass ? caps : []), program, ...args]];
}

function ids() {
  const [uid, gid] = ['-u', '-g'].map((flag) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout));
  return { uid, gid };
}

function runAsServerUser(program, args, cwd) {
  const [command, list] = asServerUser(program, args);
  return spawnSync(command, list, { encoding: 'utf8', cwd });
}

/** What PostgreSQL notes of itself in its directory, one a line: process, directory, start, port …, state in the eighth. */
function noteOf(directory) {
  const pidFile = join(directory, 'postmaster.pid');
  if (!existsSync(pidFile)) return undefined;
  const [pid, , , port, , , , state = ''] = readFileSync(pidFile, 'utf8').split('\n');
  return { pid: Number(pid), port: Number(port), isReady: state.trim() === 'ready' };
}

/** The port of the server that runs in a directory, if one does. */
function portOf(directory) {
  const note = noteOf(directory);
  if (!note) return undefined;
  const { pid, port } = note;
  const command = existsSync(`/proc/${pid}/cmdline`) ? readFileSync(`/proc/${pid}/cmdline`, 'utf8') : '';
  return command.includes('postgres') ? port : undefined;
}

const address = (home, port) =>
  `postgres://${USER}:${readFileSync(join(home, 'database-password'), 'utf8').trim()}@127.0.0.1:${port}/${DATABASE}`;

/** Address of the database that runs in a folder, if one does. */
export function runningPostgres(home) {
  const port = portOf(join(home, 'database'));
  return port === undefined ? undefined : address(home, port);
}

/** Stops a server that an earlier, killed run left behind in this directory. */
function stopLeftover(bin, directory) {
  if (portOf(directory) !== undefined)
    runAsServerUser(join(bin, 'pg_ctl'), ['stop', '-D', directory, '-m', 'fast', '-w'], directory);
}

/**
 * Starts the server, making its directory first where there is none.
 * @param choosePort gives a port, from one on, that seems to be free
 * @returns url of the database, a promise that settles when the server ends, and a way to stop it
 */
export async function startPostgres(home, { fromPort = 54610, choosePort = freePort } = {}) {
  const bin = postgresPrograms();
  const directory = join(home, 'database');
  const secretFile = join(home, 'database-password');
  mkdirSync(home, { recursive: true });
  if (!existsSync(join(directory, 'PG_VERSION'))) makeCluster(bin, directory, secretFile);
  stopLeftover(bin, directory);

  const { child, port, exited, hasEnded } = await listen(bin, directory, fromPort, choosePort);
  const url = address(home, port);
  const password = readFileSync(secretFile, 'utf8').trim();
  const env = { ...process.env, PGPASSWORD: password };
  const there = ['-h', '127.0.0.1', '-p', String(port), '-U', USER];
  const list = spawnSync(
    join(bin, 'psql'),
    [...there, '-d', 'postgres', '-tAc', `SELECT 1 FROM pg_database WHERE datname='${DATABASE}'`],
    { env, encoding: 'utf8' },
  );
  if (list.stdout.trim() !== '1') spawnSync(join(bin, 'createdb'), [...there, DATABASE], { env });

  return {
    url,
    port,
    exited,
    async stop() {
      if (hasEnded()) return;
      // SIGINT is PostgreSQL's fast shutdown.
      process.kill(child.pid, 'SIGINT');
      await Promise.race([exited, wait(10_000, undefined, { ref: false })]);
    },
    kill() {
      process.kill(child.pid, 'SIGQUIT');
    },
  };
}

/**
 * Starts the server on the first port from `fromPort` on that it can have. Another one started at the same moment may
 * take a port between the look at it and the start, and would then answer in this one's place: so the server counts as
 * ready when it says so in its own directory, and one that did not get its port takes the next.
 */
async function listen(bin, directory, fromPort, choosePort) {
  const port = await choosePort(fromPort);
  const settings = {
    listen_addresses: '127.0.0.1',
    unix_socket_directories: '',
    port: String(port),
    max_connections: '60',
    log_min_messages: 'fatal',
  };
  const [command, args] = asServerUser(join(bin, 'postgres'), [
    '-D',
    directory,
    ...Object.entries(settings).flatMap(([name, value]) => ['-c', `${name}=${value}`]),
  ]);
  const log = [];
  const child = spawn(command, args, { cwd: directory, stdio: ['ignore', 'ignore', 'pipe'], detached: true });
  child.stderr.on('data', (chunk) => {
    log.push(String(chunk));
    if (log.length > 50) log.shift();
  });
  let ended = false;
  const exited = new Promise((done) => child.on('close', () => done((ended = true))));
  for (let tries = 0; ; tries++) {
    const note = noteOf(directory);
    if (!ended && note?.pid === child.pid && note.isReady) return { child, port, exited, hasEnded: () => ended };
    if (ended && /could not create any TCP\/IP sockets/u.test(log.join(''))) return listen(bin, directory, port + 1, choosePort);
    if (ended || tries > 300) throw new Stop(`The database did not start: ${explain(log.join(''))}`);
    await wait(100);
  }
}

function makeCluster(bin, directory, secretFile) {
  rmSync(directory, { recursive: true, force: true });
  mkdirSync(directory, { recursive: true });
  writeFileSync(secretFile, `${randomBytes(18).toString('hex')}\n`, { mode: 0o600 });
  if (isRoot) {
    const { uid, gid } = ids();
    chownSync(directory, uid, gid);
    chownSync(secretFile, uid, gid);
    chmodSync(directory, 0o700);
  }
  const made = runAsServerUser(
    join(bin, 'initdb'),
    ['-D', directory, '-U', USER, '--pwfile', secretFile, '--auth=scram-sha-256', '-E', 'UTF8', '--locale=C.UTF-8'],
    dirname(directory),
  );
  if (made.status !== 0) {
    rmSync(directory, { recursive: true, force: true });
    throw new Stop(`The database directory could not be made: ${explain(made.stderr ?? '')}`);
  }
}

function explain(text) {
  if (/No space left/u.test(text)) return 'the disk is full; free some space, then start again.';
  if (/Permission denied/u.test(text))
    return 'its folder may not be written or entered; move the project to a folder such as /srv/plain-relief, then start again.';
  return text.trim().split('\n').at(-1) || 'no reason was given.';
}
