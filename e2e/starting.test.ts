import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { ROOT } from './application.js';

/** Starts two databases for the same port, as two runs do that look for a port at the same moment. */
const AT_ONCE = `
  import { rmSync } from 'node:fs';
  import pg from 'pg';
  import { startPostgres } from './ops/postgres.mjs';
  const homes = ['one', 'two'].map((name) => process.env.FOLDER + '/' + name);
  const servers = [];
  const directories = [];
  for (const home of homes) {
    rmSync(home, { recursive: true, force: true });
    servers.push(await startPostgres(home, { fromPort: 54810, choosePort: (from) => from }));
  }
  for (const { url } of servers) {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    directories.push((await client.query('SHOW data_directory')).rows[0].data_directory);
    await client.end();
  }
  await Promise.all(servers.map((server) => server.stop()));
  console.log(JSON.stringify({ homes, directories }));
`;

describe('starting', () => {
  it('takes the next port for a database when another program took the one that seemed free', () => {
    const { stdout, stderr } = spawnSync('node', ['--input-type=module', '-e', AT_ONCE], {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, FOLDER: join(ROOT, '.run', 'test', 'at-once') },
    });
    expect(stderr).toBe('');
    const { homes, directories } = JSON.parse(stdout) as { homes: string[]; directories: string[] };
    expect(directories).toEqual(homes.map((home) => join(home, 'database')));
  });
});
