import type { RowDataPacket } from 'mysql2';
import { repeatedly, type Database } from './database.ts';

/** Asks within a transaction; rows come as plain objects. */
export type Query = <Row = Record<string, unknown>>(text: string, values?: unknown[]) => Promise<Row[]>;

/** Runs work in one transaction, again where the database asks for it (deadlocks, a cluster's races). */
export function inTransaction<T>(db: Database, work: (query: Query) => Promise<T>): Promise<T> {
  return repeatedly(async () => {
    const connection = await db.$client.getConnection();
    const query: Query = async <Row>(text: string, values: unknown[] = []) =>
      (await connection.query<RowDataPacket[]>(text, values))[0] as unknown as Row[];
    try {
      await connection.query('START TRANSACTION');
      const result = await work(query);
      await connection.query('COMMIT');
      return result;
    } catch (error) {
      await connection.query('ROLLBACK').catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  });
}

/** A transaction as Drizzle gives it. */
export type Drizzled = Parameters<Parameters<Database['transaction']>[0]>[0];

/** The same for statements that Drizzle builds. @param work may run more than once: it changes nothing but the database */
export const atomically = <T>(db: Database, work: (tx: Drizzled) => Promise<T>): Promise<T> =>
  repeatedly(() => db.transaction(work));
