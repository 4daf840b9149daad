import { spawn } from 'node:child_process';

/** Runs a program that is watched over. @returns how it ended and what it said */
function watched(program: string): Promise<{ code: number | null; signal: string | null; words: string }> {
  const source = `const { watchOver } = await import(${JSON.stringify(`${process.cwd()}/server/watchdog.ts`)}); ${program}`;
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', source], { stdio: 'pipe' });
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words += chunk.toString()));
  return new Promise((resolve) => child.once('exit', (code, signal) => resolve({ code, signal, words })));
}

it('ends a process that is stuck, and says so', async () => {
  const { signal, words } = await watched('watchOver(2); setTimeout(() => { for (;;); }, 100);');
  expect(signal).toBe('SIGKILL');
  expect(words).toMatch(/stuck for 2 seconds/);
});

it('leaves alone one that is busy in turns, and one that has ended its work', async () => {
  const busy = await watched(
    'watchOver(2); let n = 0; const t = setInterval(() => { const e = Date.now() + 300; while (Date.now() < e); if (++n > 14) { clearInterval(t); process.exit(7); } }, 320);',
  );
  expect(busy).toMatchObject({ code: 7, signal: null });
  expect(await watched('watchOver(1)();')).toMatchObject({ code: 0, signal: null });
});
