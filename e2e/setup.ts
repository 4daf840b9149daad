import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../scripts/mariadb.ts';
import { startProcess } from '../scripts/processes.ts';
import { freePort } from '../scripts/testing/setup.ts';

/** Starts everything that `npm start` does, on free ports with throw-away data, from what was built. */
export default async function setup(): Promise<() => Promise<void>> {
  const home = mkdtempSync(join(tmpdir(), 'zusammen-e2e-'));
  const [databasePort, standinsPort, port] = [await freePort(), await freePort(), await freePort()];
  const address = `http://localhost:${port}`;
  const database = await startMariadb(home, databasePort, { quick: true });
  const standins = startProcess(
    'dist/standins.mjs',
    [],
    {
      STANDINS_DATABASE_URL: database.url,
      STANDINS_PORT: String(standinsPort),
      ZUSAMMEN_ADDRESS: address,
      STANDINS_PEOPLE: '400',
      STANDINS_ORGANISATIONS: '60',
    },
    join(home, 'standins.log'),
  );
  await standins.ready;
  const server = startProcess(
    'dist/server.mjs',
    ['--role=all'],
    {
      DATABASE_URL: `${database.url}zusammen`,
      ZUSAMMEN_HOME: home,
      PORT: String(port),
      ZUSAMMEN_DEMO_FROM: `http://localhost:${standinsPort}`,
      ZUSAMMEN_DEMO_PAST: '120',
      NODE_ENV: 'production',
    },
    join(home, 'server.log'),
  );
  await server.ready;
  process.env['E2E_ADDRESS'] = address;
  process.env['E2E_STANDINS'] = `http://localhost:${standinsPort}`;
  return async () => {
    await server.stop();
    await standins.stop();
    await database.stop();
    rmSync(home, { recursive: true, force: true });
  };
}
