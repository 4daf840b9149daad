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

/**
 * A port that nobody listens on. It lies below those that systems give to outgoing connections (RFC 6056): one of
 * these could take it before it is listened on.
 */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = 20_000 + Math.floor(Math.random() * 12_000);
    const free = await new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (free) return port;
  }
}
