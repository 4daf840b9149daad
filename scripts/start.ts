import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildAll } from './build.ts';
import { alive, startMariadb, stopPid } from './mariadb.ts';
import { startProcess, writePid } from './processes.ts';
import { supervise } from './supervise.ts';

/** `npm start`: everything up, in order; Ctrl-C or SIGTERM brings everything down, in the other order. */
const { env } = process;
const home = resolve(env['ZUSAMMEN_HOME'] ?? '.data');
const port = Number(env['PORT'] ?? 4600);
const standinsPort = Number(env['STANDINS_PORT'] ?? 4610);
const address = env['ZUSAMMEN_ADDRESS'] ?? `http://localhost:${port}`;
const stops: (() => Promise<void>)[] = [];
let stopping: Promise<void> | undefined;
const isStopping = (): boolean => stopping !== undefined;

function stopAll(code: number): Promise<void> {
  stopping ??= (async () => {
    for (const stop of stops.reverse()) await stop().catch((error: Error) => console.error(error.message));
    for (const name of ['server', 'standins', 'mariadb', 'start'])
      rmSync(join(home, 'run', `${name}.pid`), { force: true });
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
  await up('The stand-ins', () =>
    startProcess(
      'dist/standins.mjs',
      [],
      { STANDINS_DATABASE_URL: databases, STANDINS_PORT: String(standinsPort), ZUSAMMEN_ADDRESS: address },
      join(home, 'standins.log'),
    ),
  );
  await up('The server', () =>
    startProcess(
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
    ),
  );
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
  let url = '';
  const stop = await supervise(
    'MariaDB',
    async () => {
      const database = await startMariadb(home, Number(env['DB_PORT'] ?? 4606));
      url = database.url;
      return database;
    },
    isStopping,
    () => void stopAll(1),
  );
  stops.push(stop);
  return url;
}

/** Starts a program and keeps it up. Its pid file tells which process is the present one. */
async function up(name: string, start: () => ReturnType<typeof startProcess>): Promise<void> {
  const pidName = name === 'The server' ? 'server' : 'standins';
  const launch = async () => {
    const running = start();
    // Known at once, so that Ctrl-C in the middle of starting leaves nothing behind.
    stops.push(() => running.stop());
    await running.ready;
    writePid(home, pidName, running.pid);
    return running;
  };
  const stop = await supervise(name, launch, isStopping, () => {
    console.error(`${name} keeps stopping; its last words are in ${home}.`);
    void stopAll(1);
  });
  stops.push(stop);
}

/** What an earlier start left behind: a running one is named, killed ones' helpers are cleared away. */
async function refuseTwice(): Promise<void> {
  const starter = alive(join(home, 'run', 'start.pid'));
  if (
    starter !== undefined &&
    starter !== process.pid &&
    readFileSync(`/proc/${starter}/cmdline`, 'utf8').includes('start.mjs')
  ) {
    console.log(`Zusammen runs already at ${address} (process ${starter}).`);
    process.exit(0);
  }
  writePid(home, 'start', process.pid);
  for (const name of ['server', 'standins']) {
    const left = alive(join(home, 'run', `${name}.pid`));
    if (left !== undefined) await stopPid(left);
  }
}
