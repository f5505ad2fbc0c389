/** Whether an error says that the database does not answer at the moment, rather than that something asked of it is wrong. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
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
