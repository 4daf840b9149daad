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
  const [database] = await Promise.all([startMariadb(home, await freePort(), true), buildPrograms(PROGRAMS)]);
  process.env['TEST_DATABASE_URL'] = database.url;
  (globalThis as { zusammenTest?: TestDatabase }).zusammenTest = { database, home };
}

export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}
