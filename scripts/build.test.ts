import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { resolve } from 'node:path';
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
