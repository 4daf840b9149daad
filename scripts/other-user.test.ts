import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './testing/setup.ts';

// All of it is started once; on a busy machine that takes its time.
jest.setTimeout(300_000);

const NOBODY = 65_534;
const isRoot = process.getuid?.() === 0;

/** Led to where others may read them; else as links to the same files, which cost nothing, or as copies. */
function provideModules(folder: string): void {
  const modules = join(process.cwd(), 'node_modules');
  const readable = spawnSync('test', ['-r', join(modules, 'tsx', 'package.json')], { uid: NOBODY, gid: NOBODY });
  if (readable.status === 0) return symlinkSync(modules, join(folder, 'node_modules'));
  if (spawnSync('cp', ['-al', modules, folder]).status !== 0) spawnSync('cp', ['-a', modules, folder]);
}

/** The folder it is started in: as anybody may clone it. Nothing is installed there, what has been installed is used. */
function clone(): string {
  const folder = mkdtempSync(join(tmpdir(), 'zusammen-other-'));
  for (const name of [
    'package.json',
    'package-lock.json',
    'tsconfig.json',
    'tsconfig.base.json',
    'core',
    'server',
    'standins',
    'web',
    'scripts',
    'dist',
  ])
    if (existsSync(name)) cpSync(name, join(folder, name), { recursive: true, preserveTimestamps: true });
  chmodSync(folder, 0o755);
  spawnSync('chown', ['-R', `${NOBODY}:${NOBODY}`, folder]);
  provideModules(folder);
  return folder;
}

(isRoot ? it : it.skip)(
  'npm start works as an ordinary user: it comes up without the demo, prints the first link once, and stops',
  async () => {
    const folder = clone();
    const home = join(folder, '.data');
    const [port, databasePort] = [await freePort(), await freePort()];
    const start = () => {
      const child = spawn(process.execPath, ['scripts/run.mjs', 'start'], {
        cwd: folder,
        uid: NOBODY,
        gid: NOBODY,
        env: {
          PATH: process.env['PATH'],
          HOME: folder,
          TMPDIR: folder,
          PORT: String(port),
          DB_PORT: String(databasePort),
          ZUSAMMEN_HOME: home,
          ZUSAMMEN_DEMO: 'no',
        },
        stdio: ['ignore', 'pipe', 'pipe'],
      });
      let words = '';
      child.stdout.on('data', (chunk: Buffer) => (words += chunk.toString()));
      child.stderr.on('data', (chunk: Buffer) => (words += chunk.toString()));
      const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
      const ready = async (): Promise<string> => {
        for (;;) {
          if (words.includes('Ctrl-C stops everything')) return words;
          const over = await Promise.race([ended, new Promise((resolve) => setTimeout(() => resolve('on'), 100))]);
          if (over !== 'on') throw new Error(`npm start ended with ${String(over)}:\n${words}`);
        }
      };
      return { child, ended, ready };
    };
    try {
      const first = start();
      const link = /http\S+\/set-password#first\.(\S+)/.exec(await first.ready());
      expect(link).not.toBeNull();
      expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
      const made = await fetch(`http://127.0.0.1:${port}/api/session/first-administrator`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          token: link![1],
          name: 'First',
          email: 'first@example.org',
          password: 'a field of clover in june',
        }),
      });
      expect(made.status).toBe(200);
      const uid = /^Uid:\s+(\d+)/m.exec(
        readFileSync(`/proc/${readFileSync(join(home, 'run', 'mariadb.pid'), 'utf8')}/status`, 'utf8'),
      )![1];
      expect(Number(uid)).toBe(NOBODY);
      first.child.kill('SIGTERM');
      expect(await first.ended).toBe(0);
      const second = start();
      expect(await second.ready()).not.toContain('set-password');
      second.child.kill('SIGTERM');
      expect(await second.ended).toBe(0);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  },
);

it('without Debian’s packages it names them and stops, whoever starts it', () => {
  // A Node that finds no program anywhere, as an ordinary user.
  const script = `
    Object.defineProperty(process, 'getuid', { value: () => 1000 });
    const fs = require('node:fs');
    const there = fs.existsSync;
    require('node:module').syncBuiltinESMExports();
    fs.existsSync = (path) => (/mariadbd$/.test(String(path)) ? false : there(path));
    require('node:module').syncBuiltinESMExports();
    import(${JSON.stringify(`file://${process.cwd()}/scripts/bootstrap.mjs`)}).then(({ bootstrap }) => bootstrap());`;
  const { status, stderr } = spawnSync(process.execPath, ['-e', script], { encoding: 'utf8' });
  expect(status).toBe(1);
  expect(stderr).toContain('mariadb-server');
  expect(stderr).toContain('apt-get install');
});
