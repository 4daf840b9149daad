// Before anything is installed there is only Node: this file uses nothing else.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

/** A program by name in the usual folders, or a file by its path. */
const has = (program) =>
  (program.startsWith('/') && existsSync(program)) ||
  ['/usr/bin', '/usr/sbin', '/usr/local/bin', '/usr/local/sbin'].some((folder) => existsSync(join(folder, program)));

/** Installs the Debian packages whose program is missing, when root; otherwise says which to install, and stops. */
function ensureDebian(packages) {
  const missing = Object.entries(packages)
    .filter(([program]) => !has(program))
    .map(([, name]) => name);
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0) {
    console.error(
      `Zusammen needs these Debian packages: ${missing.join(', ')}.\nAs root: apt-get update && ${command}`,
    );
    process.exit(1);
  }
  console.log(`Installing ${missing.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  execFileSync('apt-get', ['update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'], env });
  withoutServices(() =>
    execFileSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env,
    }),
  );
}

/** While installing, dpkg must not start a database of its own: Zusammen runs a private one. */
function withoutServices(work) {
  const policy = '/usr/sbin/policy-rc.d';
  const ours = !existsSync(policy);
  if (ours) writeFileSync(policy, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  try {
    work();
  } finally {
    if (ours) rmSync(policy, { force: true });
  }
}

/** Installs the npm packages when the lock file isn't what was installed last. */
function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.zusammen-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  console.log('Installing npm packages …');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
  });
  if (result.status !== 0) {
    console.error('npm ci failed; its words stand above.');
    process.exit(1);
  }
  mkdirSync(dirname(mark), { recursive: true });
  writeFileSync(mark, lock);
}

/** Makes sure of everything that `npm start` and `npm test` need, then lets TypeScript files be imported. */
export async function bootstrap({ browser = false, database = true, cluster = false } = {}) {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) {
    console.error(`Zusammen needs Node 20 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  ensureDebian({
    ...(database ? { mariadbd: 'mariadb-server' } : {}),
    ...(browser ? { chromium: 'chromium', openssl: 'openssl' } : {}),
    ...(cluster
      ? { '/usr/lib/galera/libgalera_smm.so': 'galera-4', rsync: 'rsync', lsof: 'lsof', socat: 'socat' }
      : {}),
  });
  ensurePackages();
  process.chdir(root);
  const { register } = await import('tsx/esm/api');
  register();
}
