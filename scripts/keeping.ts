import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import mysql from 'mysql2/promise';

/** What a backup says of itself. */
interface Manifest {
  format: 1;
  takenAt: string;
  database: string;
  /** SHA-256 of the packed dump, so that half a file is noticed before anything is touched. */
  sha256: string;
}

const DUMP = 'database.sql.gz';
const MANIFEST = 'manifest.json';
const KEY = 'sealing-key';

/** Why a backup or a restoring can't be done, in words. */
export class NotKept extends Error {}

/**
 * Writes a database down as it is at one moment, while it is in use (mariadb-dump, one transaction).
 * The sealing key is no part of it: whoever finds the one must not have the other.
 * @param databaseUrl with the database's name
 * @param folder is made; nothing in it is replaced
 * @throws NotKept, and leaves no half of a backup
 */
export async function backUp(databaseUrl: string, folder: string, now = new Date()): Promise<Manifest> {
  if (existsSync(join(folder, MANIFEST))) throw new NotKept(`${folder} holds a backup already; name another folder.`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const database = new URL(databaseUrl).pathname.slice(1);
  const part = join(folder, `${DUMP}.part`);
  try {
    await withLogin(databaseUrl, async (login) => {
      const dump = program('mariadb-dump', [
        `--defaults-extra-file=${login}`,
        ...['--single-transaction', '--no-tablespaces', '--skip-lock-tables', '--hex-blob', '--quick'],
        database,
      ]);
      const packed = createWriteStream(part, { mode: 0o600, flags: 'w' });
      await Promise.all([pipeline(dump.child.stdout, createGzip(), packed), dump.ended]);
    });
    const manifest: Manifest = { format: 1, takenAt: now.toISOString(), database, sha256: await hashOf(part) };
    renameSync(part, join(folder, DUMP));
    writeFileSync(join(folder, MANIFEST), `${JSON.stringify(manifest, null, 2)}\n`, { mode: 0o600 });
    return manifest;
  } catch (error) {
    rmSync(part, { force: true });
    throw error;
  }
}

/** Keeps the sealing key apart. @throws NotKept when there is none, or one is there already that is another */
export function backUpKey(home: string, folder: string): void {
  copyKey(join(home, KEY), join(folder, KEY), folder);
}

/** Puts a sealing key back. @throws NotKept when there is one already that is another */
export function restoreKey(folder: string, home: string): void {
  copyKey(join(folder, KEY), join(home, KEY), home);
}

function copyKey(from: string, to: string, folder: string): void {
  if (!existsSync(from)) throw new NotKept(`There is no key at ${from}.`);
  if (existsSync(to) && readFileSync(to, 'utf8').trim() !== readFileSync(from, 'utf8').trim())
    throw new NotKept(`${to} is another key; move it away first, what was sealed with it is lost without it.`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  writeFileSync(to, readFileSync(from), { mode: 0o600 });
}

/**
 * Reads a backup into a database. It is read whole into a database beside it first; only then its tables take the
 * place of those that are there, in one step.
 * @param replace whether tables that are there may go
 * @throws NotKept when the backup is damaged or would replace something; nothing is changed then
 */
export async function restore(databaseUrl: string, folder: string, replace = false): Promise<Manifest> {
  const manifest = readManifest(folder);
  const file = join(folder, DUMP);
  if (!existsSync(file) || (await hashOf(file)) !== manifest.sha256)
    throw new NotKept(`${file} is damaged: it is not what was written when the backup was taken.`);
  const url = new URL(databaseUrl);
  const database = url.pathname.slice(1);
  const beside = `${database}_restoring`;
  url.pathname = '/';
  const connection = await mysql.createConnection({ uri: url.href });
  try {
    const there = await tablesOf(connection, database);
    if (there.length > 0 && !replace)
      throw new NotKept(`The database ${database} holds something already; say --replace to lose it.`);
    await connection.query(`DROP DATABASE IF EXISTS \`${beside}\``);
    await connection.query(`CREATE DATABASE \`${beside}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci`);
    await withLogin(databaseUrl, async (login) => {
      const client = program('mariadb', [`--defaults-extra-file=${login}`, beside]);
      await Promise.all([pipeline(createReadStream(file), createGunzip(), client.child.stdin), client.ended]);
    });
    await connection.query(
      `CREATE DATABASE IF NOT EXISTS \`${database}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci`,
    );
    if (there.length > 0) await connection.query(`DROP TABLE ${named(database, there)}`);
    const tables = await tablesOf(connection, beside);
    await connection.query(
      `RENAME TABLE ${tables.map((table) => `\`${beside}\`.\`${table}\` TO \`${database}\`.\`${table}\``).join(', ')}`,
    );
    await connection.query(`DROP DATABASE \`${beside}\``);
    return manifest;
  } finally {
    await connection.end();
  }
}

const named = (database: string, tables: readonly string[]): string =>
  tables.map((table) => `\`${database}\`.\`${table}\``).join(', ');

async function tablesOf(connection: mysql.Connection, database: string): Promise<string[]> {
  const [rows] = await connection.query(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ?',
    [database],
  );
  return (rows as { name: string }[]).map(({ name }) => name);
}

function readManifest(folder: string): Manifest {
  try {
    const read = JSON.parse(readFileSync(join(folder, MANIFEST), 'utf8')) as Manifest;
    if (read.format !== 1) throw new NotKept(`The backup in ${folder} was made by a newer version.`);
    return read;
  } catch (error) {
    if (error instanceof NotKept) throw error;
    throw new NotKept(`There is no whole backup in ${folder}.`);
  }
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Hands a login to a program in a file that only its owner reads: arguments are seen by everybody on a machine. */
async function withLogin(databaseUrl: string, work: (file: string) => Promise<unknown>): Promise<void> {
  const { hostname, port, username, password } = new URL(databaseUrl);
  const folder = mkdtempSync(join(tmpdir(), 'zusammen-login-'));
  const file = join(folder, 'login.cnf');
  const quoted = (text: string): string => `"${decodeURIComponent(text).replace(/["\\]/g, '\\$&')}"`;
  try {
    writeFileSync(
      file,
      `[client]\nhost=${hostname}\nport=${port || 3306}\nprotocol=tcp\nuser=${quoted(username)}\npassword=${quoted(password)}\n`,
      { mode: 0o600 },
    );
    await work(file);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function program(name: string, args: string[]) {
  const child = spawn(name, args, { stdio: ['pipe', 'pipe', 'pipe'] });
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-2000)));
  const ended = new Promise<void>((resolve, reject) => {
    child.once('error', (error) => reject(new NotKept(`${name} can't be started: ${error.message}`)));
    child.once('close', (code) =>
      code === 0 ? resolve() : reject(new NotKept(`${name} ended with ${code}: ${words}`)),
    );
  });
  return { child, ended };
}
