import type { ResultSetHeader, RowDataPacket } from 'mysql2';
import type { Connection } from '../database.ts';
import { ENTITY_TYPES, idOf, numberOf, type EntityType, type Property } from './definition.ts';
import { ODataError } from './errors.ts';
import type { Caller } from './rights.ts';
import { checkedValues } from './rules.ts';
import { etagOf, type Row } from './tables.ts';

/** Writing records, always within a transaction: values, references, history and version move together. */
export async function createRecord(
  connection: Connection,
  entity: EntityType,
  body: unknown,
  caller: Caller,
  assignOwner: boolean,
): Promise<Row> {
  const values = checkedValues(entity, body, caller, true);
  await checkReferences(connection, values);
  if (assignOwner) await assignByTerritory(connection, entity, values);
  const now = new Date();
  const columns = [...values.keys()].map((property) => `\`${property.name}\``);
  const marks = [...columns.map(() => '?'), '?', '?', '?', '?'].join(', ');
  const [result] = await asConflict(
    () =>
      connection.query<ResultSetHeader>(
        `INSERT INTO \`${entity.set}\` (${[...columns, 'created_by', 'created_at', 'changed_by', 'changed_at'].join(', ')}) VALUES (${marks})`,
        [...values.values(), caller.name, now, caller.name, now],
      ),
    values,
  );
  await note(
    connection,
    entity,
    result.insertId,
    'created',
    Object.fromEntries([...values].map(([property, value]) => [property.name, { after: plain(property, value) }])),
    caller,
    now,
  );
  return (await rowOf(connection, entity, result.insertId))!;
}

export async function updateRecord(
  connection: Connection,
  entity: EntityType,
  id: string,
  body: unknown,
  caller: Caller,
  ifMatch: string | undefined,
): Promise<Row> {
  const row = await lockedRow(connection, entity, id, ifMatch);
  const values = checkedValues(entity, body, caller, false);
  await checkReferences(connection, values);
  const changed = [...values].filter(([property, value]) => !same(row[property.name], value));
  if (changed.length === 0) return row;
  const now = new Date();
  const sets = changed.map(([property]) => `\`${property.name}\` = ?`).join(', ');
  await asConflict(
    () =>
      connection.query(
        `UPDATE \`${entity.set}\` SET ${sets}, version = version + 1, changed_by = ?, changed_at = ? WHERE n = ?`,
        [...changed.map(([, value]) => value), caller.name, now, row.n],
      ),
    values,
  );
  const changes = changed.map(([property, value]) => [
    property.name,
    { before: plain(property, row[property.name]), after: plain(property, value) },
  ]);
  await note(connection, entity, row.n, 'changed', Object.fromEntries(changes), caller, now);
  if (changed.length > 0)
    await connection.query(
      'INSERT INTO FieldChanges (entity, record_id, field, created_by, created_at, changed_by, changed_at) VALUES ?',
      [changed.map(([{ name }]) => [entity.type, idOf(entity, row.n), name, caller.name, now, caller.name, now])],
    );
  return (await rowOf(connection, entity, row.n))!;
}

export async function deleteRecord(
  connection: Connection,
  entity: EntityType,
  id: string,
  caller: Caller,
  ifMatch: string | undefined,
): Promise<void> {
  const row = await lockedRow(connection, entity, id, ifMatch);
  await connection.query(`DELETE FROM \`${entity.set}\` WHERE n = ?`, [row.n]);
  await note(connection, entity, row.n, 'deleted', {}, caller, new Date());
}

async function lockedRow(
  connection: Connection,
  entity: EntityType,
  id: string,
  ifMatch: string | undefined,
): Promise<Row> {
  const n = numberOf(entity, id);
  const [rows] = await connection.query<(RowDataPacket & Row)[]>(
    `SELECT * FROM \`${entity.set}\` WHERE n = ? FOR UPDATE`,
    [n ?? 0],
  );
  const row = rows[0];
  if (!row) throw new ODataError(404, 'NotFound', `There is no ${entity.type} ${id}.`);
  if (ifMatch !== undefined && ifMatch !== '*' && ifMatch !== etagOf(row)) {
    throw new ODataError(412, 'Changed', `${entity.type} ${id} has been changed since you read it.`);
  }
  return row;
}

export async function rowOf(
  connection: Pick<Connection, 'query'>,
  entity: EntityType,
  n: number,
): Promise<Row | undefined> {
  const [rows] = await connection.query<(RowDataPacket & Row)[]>(`SELECT * FROM \`${entity.set}\` WHERE n = ?`, [n]);
  return rows[0];
}

async function checkReferences(connection: Connection, values: Map<Property, unknown>): Promise<void> {
  for (const [property, value] of values) {
    if (!property.refers || value === null || value === undefined) continue;
    const target = ENTITY_TYPES.find((each) => each.type === property.refers!.type)!;
    const n = numberOf(target, String(value));
    if (n === undefined || !(await rowOf(connection, target, n))) {
      const message = `${property.label}: there is no ${target.type} “${String(value)}”.`;
      throw new ODataError(
        400,
        'Reference',
        message,
        [{ code: 'Reference', message, target: property.name }],
        property.name,
      );
    }
  }
}

/** Whoever looks after a territory owns what is created in it. */
async function assignByTerritory(
  connection: Connection,
  entity: EntityType,
  values: Map<Property, unknown>,
): Promise<void> {
  const owner = entity.properties.find((each) => each.name === 'owner_id');
  const territory = entity.properties.find((each) => each.name === 'territory');
  if (!owner || !territory || values.get(owner)) return;
  const at = values.get(territory) ?? 'north';
  const [users] = await connection.query<RowDataPacket[]>(
    'SELECT n FROM Users WHERE territory = ? ORDER BY n LIMIT 1',
    [at],
  );
  const user = users[0] as { n: number } | undefined;
  if (user) values.set(owner, idOf(ENTITY_TYPES.find((each) => each.type === 'User')!, user.n));
}

async function asConflict<T>(write: () => Promise<T>, values: Map<Property, unknown>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    const { code, sqlMessage = '' } = error as { code?: string; sqlMessage?: string };
    if (code !== 'ER_DUP_ENTRY') throw error;
    const property = [...values.keys()].find((each) => each.unique && sqlMessage.includes(`'${each.name}'`));
    const message = property
      ? `${property.label} “${String(values.get(property))}” is taken.`
      : 'A unique value is taken.';
    throw new ODataError(
      409,
      'Taken',
      message,
      [{ code: 'Taken', message, target: property?.name ?? '' }],
      property?.name,
    );
  }
}

async function note(
  connection: Connection,
  entity: EntityType,
  n: number,
  action: string,
  changes: object,
  caller: Caller,
  at: Date,
): Promise<void> {
  await connection.query(
    'INSERT INTO history (entity, n, action, changes, changed_by, changed_at) VALUES (?, ?, ?, ?, ?, ?)',
    [entity.type, n, action, JSON.stringify(changes), caller.name, at],
  );
}

const plain = (property: Property, value: unknown): unknown =>
  property.collection && typeof value === 'string'
    ? JSON.parse(value)
    : value instanceof Date
      ? value.toISOString()
      : (value ?? null);

function same(held: unknown, given: unknown): boolean {
  const comparable = (value: unknown): string => {
    if (value === null || value === undefined) return '';
    if (value instanceof Date) return value.toISOString();
    return typeof value === 'boolean'
      ? String(Number(value))
      : typeof value === 'object'
        ? JSON.stringify(value)
        : String(value);
  };
  return comparable(held) === comparable(given);
}
