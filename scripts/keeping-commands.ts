import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { backUp, backUpKey, NotKept, restore, restoreKey } from './keeping.ts';
import { alive, startMariadb } from './mariadb.ts';

const { env } = process;
const home = resolve(env['ZUSAMMEN_HOME'] ?? '.data');

/** `npm run backup -- --to FOLDER [--key-to FOLDER]`: while Zusammen runs, or not. */
export async function backupCommand(args: string[], from: string): Promise<void> {
  const { to, 'key-to': keyTo } = given(args, ['to', 'key-to']);
  if (!to) return usage('npm run backup -- --to FOLDER [--key-to ANOTHER FOLDER]');
  await done(async () => {
    const { takenAt } = await withDatabase((url) => backUp(url, resolve(from, to)));
    console.log(`The database as of ${takenAt} is in ${resolve(from, to)}.`);
    if (keyTo) backUpKey(home, resolve(from, keyTo));
    console.log(
      keyTo
        ? `The sealing key is in ${resolve(from, keyTo)}; keep the two apart.`
        : `The sealing key (${join(home, 'sealing-key')}) is not in it; keep a copy somewhere else, or say --key-to FOLDER.`,
    );
  });
}

/** `npm run restore -- --from FOLDER [--key-from FOLDER] [--replace]`: while Zusammen is stopped. */
export async function restoreCommand(args: string[], from: string): Promise<void> {
  const { from: folder, 'key-from': keyFrom, replace } = given(args, ['from', 'key-from'], ['replace']);
  if (!folder) return usage('npm run restore -- --from FOLDER [--key-from FOLDER] [--replace]');
  await done(async () => {
    if (alive(join(home, 'run', 'start.pid')) !== undefined) throw new NotKept('Zusammen is running; stop it first.');
    if (keyFrom) restoreKey(resolve(from, keyFrom), home);
    const { takenAt } = await withDatabase((url) => restore(url, resolve(from, folder), replace === true));
    console.log(`The database is as it was at ${takenAt}. npm start brings its tables up to date.`);
  });
}

function given(args: string[], texts: string[], flags: string[] = []): Record<string, string & boolean> {
  try {
    const options = Object.fromEntries([
      ...texts.map((name) => [name, { type: 'string' as const }]),
      ...flags.map((name) => [name, { type: 'boolean' as const }]),
    ]);
    return parseArgs({ args, options }).values as Record<string, string & boolean>;
  } catch (error) {
    console.error((error as Error).message);
    process.exit(2);
  }
}

function usage(words: string): never {
  console.error(words);
  process.exit(2);
}

async function done(work: () => Promise<void>): Promise<never> {
  try {
    await work();
    process.exit(0);
  } catch (error) {
    if (!(error instanceof NotKept)) throw error;
    console.error(error.message);
    process.exit(1);
  }
}

/** The database in use, or the private one, brought up for the while. */
async function withDatabase<T>(work: (url: string) => Promise<T>): Promise<T> {
  if (env['DATABASE_URL']) return work(env['DATABASE_URL']);
  const running = alive(join(home, 'run', 'mariadb.pid')) !== undefined;
  const database = await startMariadb(home, Number(env['DB_PORT'] ?? 4606));
  try {
    return await work(`${database.url}zusammen`);
  } finally {
    if (!running) await database.stop();
  }
}
