// Brought into a process by NODE_OPTIONS=--import: four times a second it writes down for how long its event loop was blocked at most.
import { writeFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { isMainThread } from 'node:worker_threads';

const file = process.env.LOOP_DELAY_FILE;
if (isMainThread && file && process.argv[1]?.endsWith('server/dist/main.js')) {
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  // What is loaded at the start counts for nothing.
  process.on('SIGUSR2', () => delay.reset());
  setInterval(
    () => writeFileSync(file, JSON.stringify({ maxMs: delay.max / 1e6, p99Ms: delay.percentile(99) / 1e6 })),
    250,
  ).unref();
}
