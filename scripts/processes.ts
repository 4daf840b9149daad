import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, createWriteStream, existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pause, stopPid } from './mariadb.ts';

export interface Running {
  pid: number;
  /** Resolves when it says it is ready. Rejects when it ends before, with its last words. */
  ready: Promise<void>;
  /** What stands behind a word in what it has said; undefined where it hasn't said it. */
  said(word: string): string | undefined;
  /** Resolves with the exit code when the process ends by itself. */
  ended: Promise<number | null>;
  stop(): Promise<void>;
}

/** Starts one of our programs. @param log where its output goes */
export function startProcess(
  script: string,
  args: string[],
  env: NodeJS.ProcessEnv,
  log: string,
  readyWord = 'ready',
): Running {
  // It may hold what isn't everybody's business.
  const file = createWriteStream(log, { flags: 'a', mode: 0o600 });
  if (existsSync(log)) chmodSync(log, 0o600);
  const child: ChildProcess = spawn(process.execPath, ['--enable-source-maps', script, ...args], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
    // A group of its own: Ctrl-C reaches us alone, and we stop everything in order.
    detached: true,
  });
  let words = '';
  const hear = (chunk: Buffer): void => {
    file.write(chunk);
    words = (words + chunk.toString()).slice(-4000);
  };
  child.stdout!.on('data', hear);
  child.stderr!.on('data', hear);
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
  const ready = (async () => {
    let over = false;
    void ended.then(() => (over = true));
    while (!words.includes(readyWord)) {
      if (over) throw new Error(`${script} stopped before it was ready:\n${words}`);
      await pause(25);
    }
  })();
  const said = (word: string): string | undefined =>
    words
      .split('\n')
      .find((line) => line.startsWith(word))
      ?.slice(word.length)
      .trim();
  return { pid: child.pid!, ready, ended, said, stop: () => stopPid(child.pid!) };
}

export function writePid(home: string, name: string, pid: number): void {
  const run = join(home, 'run');
  mkdirSync(run, { recursive: true });
  writeFileSync(join(run, `${name}.pid`), String(pid));
}
