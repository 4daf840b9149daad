/**
 * What of an error may be logged. The database's errors hold the query's values, and so personal ones: of them only the
 * kind and the code are told. Stacks are cut to their frames, since they begin with the message.
 */
export function loggable(error: unknown): { error: string; frames?: string } {
  if (!(error instanceof Error)) return { error: 'something that is no error was thrown' };
  const { code, cause, stack } = error as Error & { code?: string; cause?: { code?: string } };
  const ofDatabase = 'query' in error || 'sqlMessage' in error || 'sqlState' in error || 'sql' in error;
  const frames = (stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
    .join('\n');
  return {
    error: ofDatabase ? `${error.name} ${cause?.code ?? code ?? ''}`.trim() : error.message,
    ...(frames ? { frames } : {}),
  };
}

const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'PROTOCOL_CONNECTION_LOST',
  'EPIPE',
  'ETIMEDOUT',
  'ER_SERVER_SHUTDOWN',
  'ER_CON_COUNT_ERROR',
]);

type Told = Error & { code?: string; errno?: number };

/** “Connection was killed”, as MariaDB says to whoever is asking something then; the package has no name for it. */
const KILLED = 1927;

/** The database can't be reached at present; what wasn't answered isn't done. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, cause, errno, fatal } = error as Told & { cause?: Told; fatal?: boolean };
  return (
    errno === KILLED ||
    cause?.errno === KILLED ||
    AWAY.has(cause?.code ?? '') ||
    // The package gives no code when a connection is asked that has come to its end a moment ago.
    [error, cause].some((each) => each instanceof Error && /in closed state$/.test(each.message)) ||
    (AWAY.has(code ?? '') && fatal !== undefined) ||
    (code === 'ECONNREFUSED' && /sql|3306|connect/i.test(String((error as Error).message)))
  );
}
