import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { buildScript } from './build.ts';
import { PROGRAMS } from './testing/setup.ts';

/** The package's folder that a name leads to from a file; undefined for what Node brings itself. */
function packageOf(name: string, from: string): string | undefined {
  const own = name
    .split('/')
    .slice(0, name.startsWith('@') ? 2 : 1)
    .join('/');
  const paths = createRequire(from).resolve.paths(own) ?? [];
  return paths.map((path) => `${path}/${own}`).find((path) => existsSync(`${path}/package.json`));
}

it('programs use the very packages that the server’s sources name, and no other version of them', () => {
  const programs = readdirSync(PROGRAMS).filter((name) => name.endsWith('.mjs') && name !== 'standins.mjs');
  expect(programs).toContain('server.mjs');
  for (const program of programs) {
    const text = readFileSync(`${PROGRAMS}/${program}`, 'utf8');
    const names = new Set(
      [...text.matchAll(/^(?:import|export)\s[^"'\n]*from "([^"./][^"]*)"/gm)].map(([, name]) => name!),
    );
    for (const name of names) {
      if (name.startsWith('node:')) continue;
      const found = packageOf(name, resolve(PROGRAMS, program));
      if (found !== undefined)
        expect([name, found]).toEqual([name, packageOf(name, resolve('server/main.ts')) ?? found]);
    }
  }
});

it('what visitors’ pages carry is small', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'zusammen-scripts-'));
  const sizeOf = async (entry: string): Promise<number> => {
    await buildScript(entry, join(folder, 'out.js'));
    return gzipSync(readFileSync(join(folder, 'out.js'))).length;
  };
  try {
    expect(await sizeOf('visitor/form.ts')).toBeLessThanOrEqual(40 * 1024);
    expect(await sizeOf('visitor/embed.ts')).toBeLessThanOrEqual(2 * 1024);
    expect(await sizeOf('attach/attach.ts')).toBeLessThanOrEqual(10 * 1024);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
