import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb, type PrivateDatabase } from '../mariadb.ts';

/** Where the tests' own bundles of our programs are. */
export const PROGRAMS = 'test-results/programs';

export interface TestDatabase {
  database: PrivateDatabase;
  home: string;
}

/** A MariaDB for the tests, on a free port, in a throw-away folder; so tests run beside a started Zusammen. */
export default async function setup(): Promise<void> {
  const home = mkdtempSync(join(tmpdir(), 'zusammen-test-'));
  const { buildPrograms } = await import('../build.ts');
  const [database] = await Promise.all([
    startMariadb(home, await freePort(), { quick: true }),
    buildPrograms(PROGRAMS),
  ]);
  process.env['TEST_DATABASE_URL'] = database.url;
  (globalThis as { zusammenTest?: TestDatabase }).zusammenTest = { database, home };
}

/** Ports that were given out and that somebody may not have begun to listen on yet. */
const given = new Set<number>();
const PORTS_EACH = 3_000;

/**
 * A port that nobody listens on, and that nobody was given before. It lies below those that systems give to outgoing
 * connections (RFC 6056): one of these could take it before it is listened on. Each of several test processes has ports of
 * its own.
 */
export async function freePort(): Promise<number> {
  const first = 20_000 + PORTS_EACH * (Number(process.env['JEST_WORKER_ID'] ?? 0) % 4);
  for (;;) {
    const port = first + Math.floor(Math.random() * PORTS_EACH);
    if (given.has(port)) continue;
    given.add(port);
    const free = await new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (free) return port;
  }
}
