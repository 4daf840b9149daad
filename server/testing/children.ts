import { spawn, type ChildProcess } from 'node:child_process';
import { PROGRAMS } from '../../scripts/testing/setup.ts';

export interface Child {
  process: ChildProcess;
  /** As `kill -9`: no handler runs, nothing is finished. */
  kill(): Promise<void>;
}

/** Starts Zusammen as a process of its own, on a database that is there already, and waits until it is ready. */
export async function startChild(
  databaseUrl: string,
  home: string,
  port: number,
  role: 'all' | 'web' | 'worker',
): Promise<Child> {
  const child = spawn(process.execPath, [`${PROGRAMS}/server.mjs`, `--role=${role}`], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      ZUSAMMEN_HOME: home,
      PORT: String(port),

      NODE_OPTIONS: '',
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let words = '';
  await new Promise<void>((resolve, reject) => {
    const hear = (chunk: Buffer): void => {
      words += chunk.toString();
      if (words.includes('ready as')) resolve();
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.once('exit', (code) => reject(new Error(`the process ended with ${code}: ${words.slice(-2000)}`)));
  });
  return {
    process: child,
    kill: () =>
      new Promise((resolve) => {
        child.removeAllListeners('exit');
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', () => resolve());
        child.kill('SIGKILL');
      }),
  };
}
