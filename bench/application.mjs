// The application with the demo's data on a database of its own, for benchmarks of the server.
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { HOME } from '../ops/build.mjs';
import { freePort } from '../ops/ports.mjs';
import { serve } from '../ops/serve.mjs';

/** Starts it afresh; `blocked` tells for how long the server's event loop was blocked at most since `begin`. */
export async function application(name, databasePort, workers = 1) {
  const home = join(HOME, `bench-${name}`);
  rmSync(home, { recursive: true, force: true });
  const file = join(HOME, `bench-${name}-delay.json`);
  rmSync(file, { force: true });
  const env = {
    NODE_OPTIONS: `--import ${fileURLToPath(new URL('loop-delay.mjs', import.meta.url))}`,
    LOOP_DELAY_FILE: file,
  };
  const running = await serve({ home, port: await freePort(databasePort - 50_000), databasePort, workers, env });
  return {
    ...running,
    running,
    begin: () => process.kill(running.server.child.pid, 'SIGUSR2'),
    blocked: async () => {
      await wait(600);
      return JSON.parse(readFileSync(file, 'utf8'));
    },
  };
}

/** The value below which a share of others lie. */
export function percentile(values, share) {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
}
