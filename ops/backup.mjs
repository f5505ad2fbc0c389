// Everything that was made with the application, in one file: all of it lives in the database, customers' files and fonts too.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { HOME } from './build.mjs';
import { needFromDebian, postgresPrograms } from './debian.mjs';
import { runningPostgres, startPostgres } from './postgres.mjs';
import { main, say, Stop } from './say.mjs';

const home = process.env.PLAIN_RELIEF_HOME ?? HOME;
const USAGE = {
  backup: `./backup [FILE]
  Writes everything into FILE (backups/ with the date and time, if none is named). The application may go on meanwhile.`,
  restore: `./restore FILE [--replace]
  Brings back what a back-up holds. The application must be stopped. Where there is work already, it is only replaced
  with --replace, and backed up before.`,
};

/** Runs a program of PostgreSQL on a database; its password does not show in the list of processes. */
function postgres(program, url, args) {
  const { hostname, port, username, password, pathname } = new URL(url);
  const there = ['-h', hostname, '-p', port, '-U', username, '-d', pathname.slice(1)];
  const env = { ...process.env, PGPASSWORD: decodeURIComponent(password) };
  const ran = spawnSync(join(postgresPrograms(), program), [...there, ...args], { env, encoding: 'utf8', maxBuffer: 1e8 });
  if (ran.status !== 0) throw new Stop(`${program} could not do it: ${ran.stderr.trim().split('\n').at(-1)}`);
  return ran.stdout;
}

const ask = (url, sql) => postgres('psql', url, ['-tAc', sql]).trim();

/** Does something with the database of this folder: the one that runs, or one that runs for as long as it takes. */
async function withDatabase(doIt) {
  const running = runningPostgres(home);
  if (running) return doIt(running);
  const started = await startPostgres(home);
  try {
    return await doIt(started.url);
  } finally {
    await started.stop();
  }
}

/** Tables of what is made again from the others, and is large: pictures of signs, and files of runs that workers made. */
const MADE_AGAIN = ['pictures', 'run_makings', 'run_lots'];

function write(url, file) {
  mkdirSync(dirname(file), { recursive: true });
  // A back-up that was cut off is none: it gets its name when it is whole.
  const unfinished = `${file}.unfinished`;
  try {
    postgres('pg_dump', url, ['-Fc', '--no-owner', ...MADE_AGAIN.map((table) => `--exclude-table-data=${table}`), '-f', unfinished]); // prettier-ignore
    renameSync(unfinished, file);
  } finally {
    rmSync(unfinished, { force: true });
  }
}

const dated = () => resolve('backups', `plain-relief-${new Date().toISOString().slice(0, 19).replace(/[:T]/gu, '-')}.backup`);

async function backup([named]) {
  const file = named ? resolve(named) : dated();
  if (existsSync(file)) throw new Stop(`${file} is there already: name another file, or move that one away.`);
  if (!existsSync(join(home, 'database'))) throw new Stop('There is nothing to back up: the application was never started here.');
  await withDatabase((url) => write(url, file));
  say(`Everything is in ${file}`);
}

async function restore([named], replaces) {
  if (!named) throw new Stop(USAGE.restore);
  const file = resolve(named);
  if (!existsSync(file)) throw new Stop(`There is no file ${file}: give the one that ./backup wrote.`);
  const looked = spawnSync(join(postgresPrograms(), 'pg_restore'), ['--list', file], { encoding: 'utf8' });
  if (looked.status !== 0 || !looked.stdout.includes('TABLE DATA public signs'))
    throw new Stop(`${file} is no back-up of Plain Relief, or is damaged. Nothing was changed.`);
  if (runningPostgres(home)) throw new Stop('Plain Relief runs from this folder: stop it (Ctrl-C there), then restore.');
  await withDatabase((url) => {
    const isUsed = ask(url, "SELECT to_regclass('public.jobs') IS NOT NULL") === 't';
    const jobs = isUsed ? Number(ask(url, 'SELECT count(*) FROM jobs')) : 0;
    if (jobs > 0 && !replaces)
      throw new Stop(`There are ${jobs} jobs here already. To put the back-up in their place, say ./restore ${named} --replace`);
    if (jobs > 0) {
      const before = dated();
      write(url, before);
      say(`What was here is in ${before}`);
    }
    // Beside what is here, which goes only when the back-up has come in whole.
    const name = new URL(url).pathname.slice(1);
    const fresh = `${name}_restored`;
    const at = (database) => Object.assign(new URL(url), { pathname: `/${database}` }).href;
    const upkeep = at('postgres');
    ask(upkeep, `DROP DATABASE IF EXISTS ${fresh}`);
    ask(upkeep, `CREATE DATABASE ${fresh}`);
    try {
      postgres('pg_restore', at(fresh), ['--no-owner', '--exit-on-error', '--single-transaction', file]);
    } catch (error) {
      ask(upkeep, `DROP DATABASE ${fresh}`);
      throw new Stop(`${file} is damaged: ${error.message}. Nothing was changed.`);
    }
    // Who was signed in then signs in anew. Back-ups from before people signed in have no sessions.
    if (ask(at(fresh), "SELECT to_regclass('public.sessions') IS NOT NULL") === 't') ask(at(fresh), 'DELETE FROM sessions');
    ask(upkeep, `DROP DATABASE ${name}`);
    ask(upkeep, `ALTER DATABASE ${fresh} RENAME TO ${name}`);
    say(
      `Restored ${ask(url, 'SELECT count(*) FROM jobs')} jobs with ${ask(url, 'SELECT count(*) FROM signs')} signs from ${file}`,
    );
  });
}

main(async () => {
  const command = process.argv[2];
  let parsed;
  try {
    parsed = parseArgs({
      args: process.argv.slice(3),
      allowPositionals: true,
      options: { help: { type: 'boolean', short: 'h' }, replace: { type: 'boolean' } },
    });
  } catch (error) {
    throw new Stop(`${error.message}\n${USAGE[command]}`);
  }
  const { values, positionals } = parsed;
  if (values.help || positionals.length > 1) return say(USAGE[command]);
  needFromDebian('postgres');
  if (command === 'backup') await backup(positionals);
  else await restore(positionals, values.replace ?? false);
});
