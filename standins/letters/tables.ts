import { createHash } from 'node:crypto';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { ENTITIES, type EntityDefinition, type FieldDefinition } from './definition.ts';

/** Makes the tables of the letters where they are absent. */
export async function makeTables(pool: Pool): Promise<void> {
  await pool.query(
    `CREATE TABLE IF NOT EXISTS records (
      n BIGINT AUTO_INCREMENT PRIMARY KEY, entity VARCHAR(40) NOT NULL, id VARCHAR(20) COLLATE utf8mb4_bin NOT NULL UNIQUE,
      email VARCHAR(120) COLLATE utf8mb4_bin NULL, version INT NOT NULL DEFAULT 1, held JSON NOT NULL,
      created_at DATETIME(3) NOT NULL, changed_at DATETIME(3) NOT NULL,
      UNIQUE (entity, email), INDEX (entity, n), INDEX (entity, changed_at))`,
  );
  await pool.query(
    `CREATE TABLE IF NOT EXISTS fields (
      n BIGINT AUTO_INCREMENT PRIMARY KEY, entity VARCHAR(40) NOT NULL, name VARCHAR(60) COLLATE utf8mb4_bin NOT NULL,
      definition JSON NOT NULL, UNIQUE (entity, name))`,
  );
  await pool.query(
    `CREATE TABLE IF NOT EXISTS keys_used (
      idempotency_key VARCHAR(200) COLLATE utf8mb4_bin PRIMARY KEY, fingerprint VARCHAR(64) NOT NULL, status INT NULL,
      body MEDIUMTEXT NULL, first_at DATETIME(3) NOT NULL)`,
  );
  await pool.query(
    `CREATE TABLE IF NOT EXISTS tokens (
      token_hash VARCHAR(64) COLLATE utf8mb4_bin PRIMARY KEY, client VARCHAR(60) NOT NULL, ends DATETIME(3) NOT NULL)`,
  );
}

export interface Row {
  n: number;
  id: string;
  version: number;
  held: Record<string, unknown>;
  created_at: Date;
  changed_at: Date;
}

export const rowOf = (row: RowDataPacket): Row => ({
  ...(row as unknown as Row),
  held: typeof row['held'] === 'string' ? (JSON.parse(row['held']) as Row['held']) : (row['held'] as Row['held']),
});

/** A record as the API shows it: what nobody has said is left out. */
export function shown({ id, version, held, created_at, changed_at }: Row): Record<string, unknown> {
  const said = Object.entries(held).filter(([, value]) => value !== null && value !== undefined);
  return {
    id,
    ...Object.fromEntries(said),
    version,
    created_at: created_at.toISOString(),
    changed_at: changed_at.toISOString(),
  };
}

/** The entities with the fields that were added to them. */
export async function entitiesNow(pool: Pick<Pool, 'query'>): Promise<EntityDefinition[]> {
  const [rows] = await pool.query<RowDataPacket[]>('SELECT entity, definition FROM fields ORDER BY n');
  const changed = rows.map(({ entity, definition }) => ({
    entity: String(entity),
    field: (typeof definition === 'string' ? JSON.parse(definition) : definition) as FieldDefinition,
  }));
  return ENTITIES.map((entity) => {
    const own = changed.filter((each) => each.entity === entity.name).map(({ field }) => field);
    const kept = entity.fields.map((field) => own.find(({ name }) => name === field.name) ?? field);
    const added = own.filter(({ name }) => !entity.fields.some((field) => field.name === name));
    return { ...entity, fields: [...kept, ...added] };
  });
}

export const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');
