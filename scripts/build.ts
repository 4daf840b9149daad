import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join, resolve } from 'node:path';
import { build, type Plugin } from 'esbuild';

const SOURCES = ['core', 'server', 'standins', 'web', 'package-lock.json'];

/** Builds server, stand-ins and interface into `dist/` and `web/dist/`, unless nothing has changed since the last time. */
export async function buildAll(): Promise<void> {
  const mark = 'dist/.built';
  const state = fingerprint(SOURCES);
  if (existsSync(mark) && readFileSync(mark, 'utf8') === state && existsSync('web/dist/index.html')) return;
  console.log('Building …');
  await Promise.all([buildPrograms(), buildWeb()]);
  mkdirSync('dist', { recursive: true });
  writeFileSync(mark, state);
}

/** Bundles the server and the stand-ins as programs of their own. @param outdir inside the repository, where packages are found */
export async function buildPrograms(outdir = 'dist'): Promise<void> {
  await build({
    entryPoints: {
      server: 'server/main.ts',
      'file-reader': 'server/files/reader.ts',
      'doubles-thread': 'server/engine/doubles/thread.ts',
      'heavy-thread': 'server/heavy/thread.ts',
      standins: 'standins/main.ts',
    },
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    plugins: [ownVersions],
    alias: doorsOfCore(),
    sourcemap: true,
    keepNames: true,
    logLevel: 'warning',
  });
}

/** By which file each folder of core is entered, those within others included. */
function doorsOfCore(): Record<string, string> {
  const doors = readdirSync('core', { recursive: true, encoding: 'utf8' }).filter(
    (path) => path.endsWith('/index.ts') && !path.includes('node_modules'),
  );
  return Object.fromEntries(
    doors.map((path) => [`@zusammen/core/${path.slice(0, -'/index.ts'.length)}`, `./core/${path}`]),
  );
}

/**
 * A package that the server has in another version than the rest stands in a folder of its own, where a program outside
 * of it would not find it, but the other version: such a package goes into the program.
 */
const ownVersions: Plugin = {
  name: 'own versions',
  setup(build) {
    const own = existsSync('server/node_modules')
      ? readdirSync('server/node_modules').filter((name) => existsSync(`server/node_modules/${name}/package.json`))
      : [];
    const require = createRequire(resolve('server/package.json'));
    build.onResolve({ filter: /^[^./]/ }, ({ path, importer }) =>
      own.includes(path) && importer.startsWith(resolve('server')) ? { path: require.resolve(path) } : undefined,
    );
  },
};

async function buildWeb(): Promise<void> {
  const vite = await import('vite');
  await vite.build({ root: 'web', configFile: 'web/vite.config.ts', logLevel: 'warn' });
  await Promise.all([
    buildScript('attach/attach.ts', 'web/dist/attach.js'),
    buildScript('visitor/form.ts', 'web/dist/form.js'),
    buildScript('visitor/embed.ts', 'web/dist/embed.js'),
  ]);
  for (const name of FONTS) {
    mkdirSync('web/dist/fonts', { recursive: true });
    copyFileSync(
      join('node_modules/@fontsource-variable/atkinson-hyperlegible-next/files', name),
      join('web/dist/fonts', name),
    );
  }
}

/** The fonts of forms of ours, under names that their style sheet knows. */
const FONTS = [
  'atkinson-hyperlegible-next-latin-wght-normal.woff2',
  'atkinson-hyperlegible-next-latin-ext-wght-normal.woff2',
];

/**
 * A script by itself, that the pages of others, or of visitors, carry: one small file that runs in browsers of the last years.
 * @param entry within web/src
 */
export async function buildScript(entry: string, outfile: string): Promise<void> {
  await build({
    entryPoints: [join('web/src', entry)],
    outfile,
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2018',
    alias: doorsOfCore(),
    logLevel: 'warning',
  });
}

function fingerprint(paths: readonly string[]): string {
  const hash = createHash('sha256');
  const visit = (path: string): void => {
    const stat = statSync(path);
    if (!stat.isDirectory()) {
      hash.update(`${path} ${stat.size} ${Math.floor(stat.mtimeMs)}\n`);
      return;
    }
    for (const name of readdirSync(path).sort())
      if (name !== 'node_modules' && name !== 'dist') visit(join(path, name));
  };
  for (const path of paths) visit(path);
  return hash.digest('hex');
}
