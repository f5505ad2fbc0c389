import { setTimeout as wait } from 'node:timers/promises';
import { types } from 'node:util';

/** Whether an error says that the database does not answer at the moment, rather than that something asked of it is wrong. */
export function isDatabaseAway(error: unknown): boolean {
  if (!types.isNativeError(error)) return false;
  const { name, message } = error;
  const { original, code } = error as { original?: { code?: string }; code?: string };
  return (
    /^Sequelize(Connection|HostNot|AccessDenied)/u.test(name) ||
    /ECONNREFUSED|ECONNRESET|EPIPE|terminating connection|Connection terminated|the database system is|connection error and is not queryable/u.test(
      message,
    ) ||
    // SQLSTATE: class 08 are connection exceptions, 57P admin_shutdown, crash_shutdown and cannot_connect_now.
    /^(ECONN|EPIPE|08|57P)/u.test(original?.code ?? code ?? '')
  );
}

const AGAIN_MS = 200;

/** What `run` gives once the database answers: a process that starts while it is away waits for it. @throws what else goes wrong */
export async function onceDatabaseAnswers<T>(run: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await run();
    } catch (error) {
      if (!isDatabaseAway(error)) throw error;
      await wait(AGAIN_MS);
    }
  }
}

/**
 * Keeps a process alive while the database is away: what then fails beside every request, as inside the queue, is written down and tried
 * again by whoever tries. Anything else that nobody waits for ends the process, which is started again.
 */
export function outliveDatabase(): void {
  process.on('unhandledRejection', (error) => {
    console.error(error);
    if (!isDatabaseAway(error)) process.exit(1);
  });
}
