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

/** The database can't be reached at present; what wasn't answered isn't done. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, cause, fatal } = error as { code?: string; cause?: { code?: string }; fatal?: boolean };
  return (
    AWAY.has(cause?.code ?? '') ||
    (AWAY.has(code ?? '') && fatal !== undefined) ||
    (code === 'ECONNREFUSED' && /sql|3306|connect/i.test(String((error as Error).message)))
  );
}
