import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import mysql from 'mysql2/promise';

export interface PrivateDatabase {
  /** Address without a database name. */
  url: string;
  pid: number;
  /** Resolves when it ends by itself. */
  ended: Promise<unknown>;
  stop(): Promise<void>;
}

/**
 * Starts a MariaDB of our own on loopback with its data in `home`; makes the data folder the first time.
 * A server that an earlier, killed start left running on the same data is used on.
 * @param quick for tests: less durable, faster
 * @throws when MariaDB doesn't come up within a minute, with its last words
 */
export async function startMariadb(home: string, port: number, quick = false): Promise<PrivateDatabase> {
  const data = join(home, 'mariadb');
  const run = join(home, 'run');
  const pidFile = join(run, 'mariadb.pid');
  mkdirSync(run, { recursive: true });
  const url = `mysql://root@127.0.0.1:${port}/`;
  const left = alive(pidFile);
  if (left !== undefined && (await answers(url, data)))
    return { url, pid: left, ended: gone(left), stop: () => stopPid(left) };
  if (!existsSync(join(data, 'mysql'))) initialise(data);
  const log = join(home, 'mariadb.log');
  const child = spawn(
    '/usr/sbin/mariadbd',
    [
      '--no-defaults',
      '--user=root',
      `--datadir=${data}`,
      `--socket=${join(run, 'mariadb.sock')}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      `--pid-file=${pidFile}`,
      `--log-error=${log}`,
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_uca1400_ai_ci',
      '--default-time-zone=+00:00',
      '--skip-name-resolve',
      '--max-connections=300',
      '--innodb-buffer-pool-size=512M',
      '--innodb-log-file-size=256M',
      ...(quick ? ['--innodb-flush-log-at-trx-commit=2', '--skip-innodb-doublewrite'] : []),
    ],
    // Its own process group: Ctrl-C in the terminal reaches us alone, and we stop it last.
    { stdio: 'ignore', detached: true },
  );
  child.unref();
  const ended = new Promise((resolve) => child.once('exit', resolve));
  for (let waited = 0; waited < 600 && child.exitCode === null; waited += 1) {
    if (await answers(url, data)) {
      writeFileSync(pidFile, String(child.pid));
      return { url, pid: child.pid!, ended, stop: () => stopPid(child.pid!) };
    }
    await pause(100);
  }
  const words = existsSync(log) ? readFileSync(log, 'utf8').split('\n').slice(-12).join('\n') : '';
  throw new Error(`MariaDB did not start on port ${port}.\n${words}`);
}

function initialise(data: string): void {
  rmSync(data, { recursive: true, force: true });
  mkdirSync(data, { recursive: true });
  const args = [
    '--no-defaults',
    '--user=root',
    `--datadir=${data}`,
    '--auth-root-authentication-method=normal',
    '--skip-test-db',
  ];
  const made = spawnSync('mariadb-install-db', args, { encoding: 'utf8' });
  if (made.status !== 0) throw new Error(`MariaDB's data folder could not be made: ${made.stderr}`);
}

/** Whether the server at `url` answers. @throws when another one, with other data, sits on the port */
async function answers(url: string, data: string): Promise<boolean> {
  let folder: string;
  try {
    const connection = await mysql.createConnection({ uri: url, connectTimeout: 1000 });
    const [rows] = await connection.query('SELECT @@datadir AS folder');
    folder = (rows as { folder: string }[])[0]!.folder;
    await connection.end();
  } catch {
    return false;
  }
  if (resolve(folder) !== resolve(data))
    throw new Error(`Another database server is on that port, with its data in ${folder}; set DB_PORT.`);
  return true;
}

/** The process a pid file names, when it runs. */
export function alive(pidFile: string): number | undefined {
  if (!existsSync(pidFile)) return undefined;
  const pid = Number(readFileSync(pidFile, 'utf8'));
  try {
    process.kill(pid, 0);
    return pid;
  } catch {
    return undefined;
  }
}

const isGone = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return false;
  } catch {
    return true;
  }
};

async function gone(pid: number): Promise<void> {
  while (!isGone(pid)) await pause(500);
}

/** Asks a process to stop and waits until it is gone; after `patience` milliseconds it is killed. */
export async function stopPid(pid: number, patience = 20_000): Promise<void> {
  if (isGone(pid)) return;
  process.kill(pid, 'SIGTERM');
  for (let waited = 0; waited < patience; waited += 50) {
    if (isGone(pid)) return;
    await pause(50);
  }
  if (!isGone(pid)) process.kill(pid, 'SIGKILL');
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
