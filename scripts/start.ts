import { mkdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildAll } from './build.ts';
import { alive, startMariadb, stopPid } from './mariadb.ts';
import { startProcess, writePid, type Running } from './processes.ts';

/** `npm start`: everything up, in order; Ctrl-C or SIGTERM brings everything down, in the other order. */
const { env } = process;
const home = resolve(env['ZUSAMMEN_HOME'] ?? '.data');
const port = Number(env['PORT'] ?? 4600);
const standinsPort = Number(env['STANDINS_PORT'] ?? 4610);
const address = env['ZUSAMMEN_ADDRESS'] ?? `http://localhost:${port}`;
const stops: (() => Promise<void>)[] = [];
let stopping: Promise<void> | undefined;

function stopAll(code: number): Promise<void> {
  stopping ??= (async () => {
    for (const stop of stops.reverse()) await stop().catch((error: Error) => console.error(error.message));
    for (const name of ['server', 'standins', 'mariadb']) rmSync(join(home, 'run', `${name}.pid`), { force: true });
    process.exit(code);
  })();
  return stopping;
}
process.on('SIGINT', () => void stopAll(0));
process.on('SIGTERM', () => void stopAll(0));

try {
  mkdirSync(join(home, 'run'), { recursive: true });
  await refuseTwice();
  await buildAll();
  const databases = await startDatabase();
  const standins = startProcess(
    'dist/standins.mjs',
    [],
    {
      STANDINS_DATABASE_URL: databases,
      STANDINS_PORT: String(standinsPort),
      ZUSAMMEN_ADDRESS: address,
    },
    join(home, 'standins.log'),
  );
  writePid(home, 'standins', standins.pid);
  await up(standins, 'The stand-ins');
  const server = startProcess(
    'dist/server.mjs',
    ['--role=all'],
    {
      DATABASE_URL: env['DATABASE_URL'] ?? `${databases}zusammen`,
      ZUSAMMEN_HOME: home,
      PORT: String(port),
      ZUSAMMEN_DEMO_FROM: `http://localhost:${standinsPort}`,
      NODE_ENV: 'production',
    },
    join(home, 'server.log'),
  );
  await up(server, 'The server');
  console.log(`
Zusammen is ready.

  Address    ${address}
  Sign in    mara@cloverhollow.example  /  clover-hollow   (administrator)
  Website    http://localhost:${standinsPort}/site/   with forms to fill in
  CRM        http://localhost:${standinsPort}/crm/    with the records they become

Ctrl-C stops everything; the data stay in ${home}.`);
} catch (error) {
  console.error((error as Error).message);
  await stopAll(1);
}

async function startDatabase(): Promise<string> {
  if (env['DATABASE_URL']) {
    const url = new URL(env['DATABASE_URL']);
    url.pathname = '/';
    return url.href;
  }
  const database = await startMariadb(home, Number(env['DB_PORT'] ?? 4606));
  stops.push(() => database.stop());
  return database.url;
}

/** Waits until a program is up. Where one ends by itself later, the others don't go on half. */
async function up(running: Running, name: string): Promise<void> {
  stops.push(() => running.stop());
  await running.ready;
  void running.ended.then((code) => {
    if (stopping) return;
    console.error(`${name} stopped by itself (${code ?? 'killed'}); its last words are in ${home}.`);
    void stopAll(1);
  });
}

/** What an earlier start left behind: a running one is named, killed ones' helpers are cleared away. */
async function refuseTwice(): Promise<void> {
  const server = alive(join(home, 'run', 'server.pid'));
  if (
    server !== undefined &&
    (await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (each) => each.ok,
      () => false,
    ))
  ) {
    throw new Error(`Zusammen runs already at ${address} (process ${server}).`);
  }
  for (const name of ['server', 'standins']) {
    const left = alive(join(home, 'run', `${name}.pid`));
    if (left !== undefined) await stopPid(left);
  }
}
