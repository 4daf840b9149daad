import mysql from 'mysql2/promise';

export type Pool = mysql.Pool;
export type Connection = mysql.PoolConnection;

/** Opens (and makes, where absent) a stand-in's own database on the MariaDB at `url`. */
export async function openDatabase(url: string, name: string): Promise<Pool> {
  const base = new URL(url);
  base.pathname = '/';
  const first = await mysql.createConnection({ uri: base.href });
  await first.query(`CREATE DATABASE IF NOT EXISTS \`${name}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_as_ci`);
  await first.end();
  base.pathname = `/${name}`;
  return mysql.createPool({
    uri: base.href,
    connectionLimit: 16,
    timezone: 'Z',
    charset: 'utf8mb4',
    dateStrings: ['DATE'],
    decimalNumbers: true,
    waitForConnections: true,
  });
}

/** Runs work in one transaction; repeats it when the database chose it as a deadlock's victim. */
export async function inTransaction<T>(pool: Pool, work: (connection: Connection) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1) {
    const connection = await pool.getConnection();
    try {
      await connection.query('SET TRANSACTION ISOLATION LEVEL READ COMMITTED');
      await connection.beginTransaction();
      const result = await work(connection);
      await connection.commit();
      return result;
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      if ((error as { code?: string }).code === 'ER_LOCK_DEADLOCK' && attempt < 5) continue;
      throw error;
    } finally {
      connection.release();
    }
  }
}
