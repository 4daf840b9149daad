import { readdirSync, readFileSync } from 'node:fs';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import mysql, { type Pool } from 'mysql2/promise';
import { refuseASecond } from './one-connection.ts';

export type Database = MySql2Database & { $client: Pool };

/**
 * How the database at a URL is connected to. In its query `tls=required` has the connection encrypted and the server's
 * certificate checked, against the authority in the file `ca` where it names one.
 * @throws when `tls` is anything else, or the file can't be read
 */
export function connectionOf(url: string): mysql.ConnectionOptions {
  const address = new URL(url);
  const [tls, ca] = [address.searchParams.get('tls') ?? 'off', address.searchParams.get('ca')];
  if (tls !== 'off' && tls !== 'required') throw new Error(`The database's tls is “required” or “off”, not “${tls}”.`);
  if (tls === 'off' && ca !== null) throw new Error("The database's address names a ca, but not tls=required.");
  address.searchParams.delete('tls');
  address.searchParams.delete('ca');
  return {
    uri: address.href,
    ...(tls === 'required'
      ? {
          ssl: {
            rejectUnauthorized: true,
            minVersion: 'TLSv1.2',
            ...(ca === null ? {} : { ca: readFileSync(ca, 'utf8') }),
          },
        }
      : {}),
  };
}

/** A pool on the database at `url`, in UTC, read committed: what the claims and lanes are written for. */
export function openDatabase(url: string, connections = 24): Database {
  const pool = mysql.createPool({
    ...connectionOf(url),
    connectionLimit: connections,
    timezone: 'Z',
    charset: 'utf8mb4',
    maxIdle: connections,
    waitForConnections: true,
  });
  const { pool: core } = pool;
  const given = core.getConnection.bind(core);
  core.getConnection = (done) => {
    refuseASecond();
    given(done);
  };
  core.on('connection', (connection) => {
    connection.query("SET SESSION tx_isolation = 'READ-COMMITTED', time_zone = '+00:00'");
  });
  return drizzle(pool) as unknown as Database;
}

/** Makes the database when it is absent. The collation is named: the server's default isn't relied upon. */
export async function createDatabase(url: string): Promise<void> {
  const address = new URL(url);
  const name = address.pathname.slice(1);
  address.pathname = '/';
  const connection = await mysql.createConnection(connectionOf(address.href));
  // An account of somebody else's server may use the one database it was given, and make none.
  const [there] = await connection.query('SELECT 1 FROM information_schema.schemata WHERE schema_name = ?', [name]);
  if ((there as unknown[]).length === 0)
    await connection.query(
      `CREATE DATABASE IF NOT EXISTS \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci`,
    );
  await connection.end();
}

/**
 * Brings the tables up to date. Migrating isn't transactional in MariaDB, so a row lock keeps other processes out
 * meanwhile; they find the work done. (No GET_LOCK: it doesn't reach across the nodes of a cluster.)
 */
export async function migrateDatabase(url: string, folder: string): Promise<void> {
  if (!readdirSync(folder).some((name) => name.endsWith('.sql'))) throw new Error(`No migrations in ${folder}`);
  const guard = await mysql.createConnection(connectionOf(url));
  const worker = await mysql.createConnection(connectionOf(url));
  try {
    await guard.query('CREATE TABLE IF NOT EXISTS migration_guard (id INT PRIMARY KEY)');
    await guard.query('INSERT IGNORE INTO migration_guard VALUES (1)');
    await guard.query('SET innodb_lock_wait_timeout = 300');
    await guard.beginTransaction();
    await guard.query('SELECT id FROM migration_guard WHERE id = 1 FOR UPDATE');
    await migrate(drizzle(worker), { migrationsFolder: folder });
    await guard.commit();
  } finally {
    await guard.end();
    await worker.end();
  }
}

/** True when the database chose this transaction as a deadlock's victim, or a cluster's node lost a race: run it again. */
export function mustRepeat(error: unknown): boolean {
  const code = codeOf(error);
  return code === 'ER_LOCK_DEADLOCK' || code === 'ER_LOCK_WAIT_TIMEOUT' || code === 'ER_CHECKREAD';
}

export function isDuplicate(error: unknown): boolean {
  return codeOf(error) === 'ER_DUP_ENTRY';
}

function codeOf(error: unknown): string | undefined {
  const { code, cause } = error as { code?: string; cause?: { code?: string } };
  return cause?.code ?? code;
}

/** Runs work again, a few times, while the database asks for it. */
export async function repeatedly<T>(work: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await work();
    } catch (error) {
      if (!mustRepeat(error) || attempt === 8) throw error;
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 10 * attempt));
    }
  }
}
