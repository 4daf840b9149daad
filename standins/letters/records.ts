import { randomBytes } from 'node:crypto';
import type { ResultSetHeader, RowDataPacket } from 'mysql2';
import type { Connection, Pool } from '../database.ts';
import type { EntityDefinition } from './definition.ts';
import { LettersError } from './errors.ts';
import { checked } from './rules.ts';
import { rowOf, type Row } from './tables.ts';

export interface Listing {
  limit: number;
  /** The place of the last record shown. */
  after?: { at: string; n: number } | undefined;
  email?: string | undefined;
  changedAfter?: Date | undefined;
}

export async function list(
  pool: Pool,
  { name }: EntityDefinition,
  { limit, after, email, changedAfter }: Listing,
): Promise<Row[]> {
  // What changed is told in the order of changing, everything else in that of making.
  const parts: [condition: string, ...values: unknown[]][] = [
    ['entity = ?', name],
    ...(email === undefined ? [] : [['email = ?', email.toLowerCase()] as [string, string]]),
    ...(changedAfter === undefined ? [] : [['changed_at > ?', changedAfter] as [string, Date]]),
    ...(after === undefined ? [] : [beyond(after, changedAfter !== undefined)]),
  ];
  const conditions = parts.map(([condition]) => condition);
  const values = parts.flatMap(([, ...each]) => each);
  const order = changedAfter === undefined ? 'n' : 'changed_at, n';
  // Left to itself the database reads all records of the entity for every page.
  const by = changedAfter === undefined && email === undefined ? 'FORCE INDEX (PRIMARY)' : '';
  const [rows] = await pool.query<RowDataPacket[]>(
    `SELECT * FROM records ${by} WHERE ${conditions.join(' AND ')} ORDER BY ${order} LIMIT ?`,
    [...values, limit],
  );
  return rows.map(rowOf);
}

function beyond({ at, n }: { at: string; n: number }, byChange: boolean): [string, ...unknown[]] {
  return byChange ? ['(changed_at > ? OR (changed_at = ? AND n > ?))', new Date(at), new Date(at), n] : ['n > ?', n];
}

export async function one(pool: Pick<Pool, 'query'>, entity: EntityDefinition, id: string, lock = false): Promise<Row> {
  const [rows] = await pool.query<RowDataPacket[]>(
    `SELECT * FROM records WHERE entity = ? AND id = ?${lock ? ' FOR UPDATE' : ''}`,
    [entity.name, id],
  );
  if (!rows[0]) throw new LettersError(404, 'not_found', `There is no ${entity.label.toLowerCase()} ${id}.`);
  return rowOf(rows[0]);
}

export async function create(connection: Connection, entity: EntityDefinition, body: unknown): Promise<Row> {
  const values = checked(entity, body, true);
  const id = `${entity.prefix}${randomBytes(5).toString('hex')}`;
  const now = new Date();
  const [{ insertId }] = await asConflict(() =>
    connection.query<ResultSetHeader>(
      'INSERT INTO records (entity, id, email, held, created_at, changed_at) VALUES (?, ?, ?, ?, ?, ?)',
      [entity.name, id, values['email'] ?? null, JSON.stringify(values), now, now],
    ),
  );
  return { n: insertId, id, version: 1, held: values, created_at: now, changed_at: now };
}

/** Changes what is named and nothing else, if the record still is in the version that is named. */
export async function change(
  connection: Connection,
  entity: EntityDefinition,
  id: string,
  body: unknown,
): Promise<Row> {
  if (entity.writable !== 'all')
    throw new LettersError(405, 'not_done', `A ${entity.label.toLowerCase()} can't be changed.`);
  const row = await one(connection, entity, id, true);
  const version = (body as { version?: unknown } | null)?.version;
  if (typeof version !== 'number')
    throw new LettersError(422, 'invalid', 'The version that is changed must be said.', 'version');
  if (version !== row.version)
    throw new LettersError(
      409,
      'changed_meanwhile',
      `It is in version ${row.version} by now, not in ${version}.`,
      'version',
    );
  const values = checked(entity, body, false);
  const held = { ...row.held, ...values };
  const same = Object.entries(values).every(
    ([name, value]) => JSON.stringify(row.held[name] ?? null) === JSON.stringify(value),
  );
  if (same) return row;
  const now = new Date();
  await asConflict(() =>
    connection.query('UPDATE records SET held = ?, email = ?, version = version + 1, changed_at = ? WHERE n = ?', [
      JSON.stringify(held),
      held['email'] ?? null,
      now,
      row.n,
    ]),
  );
  return { ...row, held, version: row.version + 1, changed_at: now };
}

export async function remove(connection: Connection, entity: EntityDefinition, id: string): Promise<void> {
  if (entity.writable !== 'all')
    throw new LettersError(405, 'not_done', `A ${entity.label.toLowerCase()} can't be deleted.`);
  const row = await one(connection, entity, id, true);
  await connection.query('DELETE FROM records WHERE n = ?', [row.n]);
}

async function asConflict<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if ((error as { code?: string }).code !== 'ER_DUP_ENTRY') throw error;
    throw new LettersError(409, 'taken', 'Somebody has this e-mail address already.', 'email');
  }
}
