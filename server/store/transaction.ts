import type { PoolConnection } from 'mysql2/promise';
import { repeatedly, type Database } from './database.ts';
import { asTransaction } from './one-connection.ts';

/** Asks within a transaction; rows come as plain objects. */
export type Query = <Row = Record<string, unknown>>(text: string, values?: unknown[]) => Promise<Row[]>;

/** Runs work in one transaction, again where the database asks for it (deadlocks, a cluster's races). */
export function inTransaction<T>(db: Database, work: (query: Query) => Promise<T>): Promise<T> {
  return repeatedly(async () => {
    const connection = await db.$client.getConnection();
    const query = asking(connection);
    try {
      // What is asked first goes out right behind it.
      const [, result] = await Promise.all([query('START TRANSACTION'), asTransaction(() => work(query))]);
      await query('COMMIT');
      return result;
    } catch (error) {
      await query('ROLLBACK').catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  });
}

/** Asks by callbacks beneath: the package's promises take a stack for every question, which costs more than some answers. */
const asking =
  ({ connection }: PoolConnection): Query =>
  <Row>(text: string, values: unknown[] = []) =>
    new Promise<Row[]>((resolve, reject) => {
      (connection as unknown as Callbacks).query(text, values, (error, rows) =>
        error ? reject(error) : resolve(rows as Row[]),
      );
    });
interface Callbacks {
  query(text: string, values: unknown[], done: (error: Error | null, rows: unknown) => void): void;
}

/** A transaction as Drizzle gives it. */
export type Drizzled = Parameters<Parameters<Database['transaction']>[0]>[0];

/** The same for statements that Drizzle builds. @param work may run more than once: it changes nothing but the database */
export const atomically = <T>(db: Database, work: (tx: Drizzled) => Promise<T>): Promise<T> =>
  repeatedly(() => db.transaction((tx) => asTransaction(() => work(tx))));
