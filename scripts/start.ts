import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildAll } from './build.ts';
import { alive, startMariadb, stopPid } from './mariadb.ts';
import { startProcess, writePid, type Running } from './processes.ts';
import { supervise } from './supervise.ts';

/**
 * `npm start`: everything up, in order; Ctrl-C or SIGTERM brings everything down, in the other order. What accepts
 * submissions and what carries them out are processes of their own, so that one that is stuck never holds up the other.
 */
const { env } = process;
const home = resolve(env['ZUSAMMEN_HOME'] ?? '.data');
const port = Number(env['PORT'] ?? 4600);
const standinsPort = Number(env['STANDINS_PORT'] ?? 4610);
const address = env['ZUSAMMEN_ADDRESS'] ?? `http://localhost:${port}`;
const demo = env['ZUSAMMEN_DEMO'] !== 'no';
/** Pid files of the programs that outside checks look for; a worker writes its own. */
const PID_NAMES: Record<string, string> = { 'The server': 'server', 'The stand-ins': 'standins' };
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
  if (env['ZUSAMMEN_DEMO'] !== undefined && !['yes', 'no'].includes(env['ZUSAMMEN_DEMO']))
    throw new Error(`ZUSAMMEN_DEMO is yes or no, not “${env['ZUSAMMEN_DEMO']}”.`);
  mkdirSync(join(home, 'run'), { recursive: true });
  await refuseTwice();
  await buildAll();
  const databases = await startDatabase();
  if (demo)
    await up('The stand-ins', () =>
      startProcess(
        'dist/standins.mjs',
        [],
        { STANDINS_DATABASE_URL: databases, STANDINS_PORT: String(standinsPort), ZUSAMMEN_ADDRESS: address },
        join(home, 'standins.log'),
      ),
    );
  const settings = {
    DATABASE_URL: env['DATABASE_URL'] ?? `${databases}zusammen`,
    ZUSAMMEN_HOME: home,
    ZUSAMMEN_ADDRESS: address,
    PORT: String(port),
    NODE_ENV: 'production',
    ...(demo ? { ZUSAMMEN_DEMO_FROM: `http://localhost:${standinsPort}` } : {}),
  };
  const server = await up('The server', () =>
    startProcess('dist/server.mjs', ['--role=web'], settings, join(home, 'server.log')),
  );
  await up('The worker', () => startProcess('dist/server.mjs', ['--role=worker'], settings, join(home, 'worker.log')));
  console.log(demo ? demoReady() : readyWith(server.said('first administrator:')));
} catch (error) {
  console.error((error as Error).message);
  await stopAll(1);
}

function demoReady(): string {
  return `
Zusammen is ready.

  Address    ${address}
  Sign in    mara@cloverhollow.example  /  clover-hollow   (administrator)
  Website    http://localhost:${standinsPort}/site/   with forms to fill in
  CRM        http://localhost:${standinsPort}/crm/    with the records they become

Ctrl-C stops everything; the data stay in ${home}.`;
}

function readyWith(firstLink: string | undefined): string {
  const first = firstLink
    ? `
Nobody has access yet. The first administrator comes in by this link; it is good once, for two days, and is not shown again:

  ${firstLink}
`
    : '';
  return `
Zusammen is ready.

  Address    ${address}
${first}
Ctrl-C stops everything; the data stay in ${home}.`;
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
  );
  stops.push(stop);
  return url;
}

/** Starts a program and keeps it up. Its pid file tells which process is the present one. @returns its first run */
async function up(name: string, start: () => Running): Promise<Running> {
  const pidName = PID_NAMES[name];
  let first: Running | undefined;
  const launch = async () => {
    const running = start();
    first ??= running;
    // Known at once, so that Ctrl-C in the middle of starting leaves nothing behind.
    stops.push(() => running.stop());
    await running.ready;
    if (pidName !== undefined) writePid(home, pidName, running.pid);
    return running;
  };
  stops.push(await supervise(name, launch, isStopping));
  return first!;
}

/** What an earlier start left behind: a running one is named, killed ones' helpers are cleared away. */
async function refuseTwice(): Promise<void> {
  const run = join(home, 'run');
  const starter = alive(join(run, 'start.pid'));
  if (
    starter !== undefined &&
    starter !== process.pid &&
    readFileSync(`/proc/${starter}/cmdline`, 'utf8').includes('scripts/run.mjs')
  ) {
    console.log(`Zusammen runs already at ${address} (process ${starter}).`);
    process.exit(0);
  }
  writePid(home, 'start', process.pid);
  const workers = readdirSync(run).filter((name) => /^worker-\d+\.pid$/.test(name));
  for (const name of ['server.pid', 'standins.pid', ...workers]) {
    const left = alive(join(run, name));
    if (left !== undefined && isOurProgram(left)) await stopPid(left);
    if (workers.includes(name)) rmSync(join(run, name), { force: true });
  }
}

/** A number in a file of long ago may be another program's by now. */
function isOurProgram(pid: number): boolean {
  try {
    return /dist\/(?:server|standins)\.mjs/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'));
  } catch {
    return false;
  }
}
