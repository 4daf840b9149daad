import type { Pool } from '../database.ts';
import { allProperties, ENTITY_TYPES, idOf, type EntityType, type Property } from './definition.ts';

const SQL_TYPES: Record<Property['type'], (property: Property) => string> = {
  'Edm.String': ({ maxLength }) => (maxLength && maxLength <= 500 ? `VARCHAR(${maxLength})` : 'TEXT'),
  'Edm.Int32': () => 'INT',
  'Edm.Decimal': ({ scale }) => `DECIMAL(12, ${scale ?? 2})`,
  'Edm.Boolean': () => 'BOOLEAN',
  'Edm.Date': () => 'DATE',
  'Edm.DateTimeOffset': () => 'DATETIME(3)',
};

function columnOf(property: Property): string {
  const type = property.collection ? 'JSON' : SQL_TYPES[property.type](property);
  return `\`${property.name}\` ${type} NULL${property.unique ? ' UNIQUE' : ''}`;
}

/**
 * Makes the table of an entity's records, or adds the columns that it has come to have.
 * @param longer properties that take longer texts from now on
 */
export async function makeTable(pool: Pool, entity: EntityType, longer: readonly Property[] = []): Promise<void> {
  const columns = allProperties(entity).map(columnOf);
  const indexes = allProperties(entity)
    .filter(
      (property) =>
        property.meaning || property.refers || ['last_name', 'changed_at', 'record_id'].includes(property.name),
    )
    .map((property) => `INDEX (\`${property.name}\`)`);
  await pool.query(
    `CREATE TABLE IF NOT EXISTS \`${entity.set}\` (n BIGINT AUTO_INCREMENT PRIMARY KEY, version INT NOT NULL DEFAULT 1, ${[...columns, ...indexes].join(', ')})`,
  );
  for (const column of columns) await pool.query(`ALTER TABLE \`${entity.set}\` ADD COLUMN IF NOT EXISTS ${column}`);
  for (const property of longer)
    await pool.query(
      `ALTER TABLE \`${entity.set}\` MODIFY COLUMN \`${property.name}\` ${SQL_TYPES[property.type](property)} NULL`,
    );
}

/** Makes the tables of all entities, of their history, and of repeated requests, where they are absent. */
export async function makeTables(pool: Pool): Promise<void> {
  for (const entity of ENTITY_TYPES) await makeTable(pool, entity);
  await pool.query(
    `CREATE TABLE IF NOT EXISTS history (
      seq BIGINT AUTO_INCREMENT PRIMARY KEY, entity VARCHAR(60) NOT NULL, n BIGINT NOT NULL, action VARCHAR(10) NOT NULL,
      changes JSON NOT NULL, changed_by VARCHAR(80) NOT NULL, changed_at DATETIME(3) NOT NULL, INDEX (entity, n))`,
  );
  await pool.query(
    `CREATE TABLE IF NOT EXISTS repeated (
      request_id VARCHAR(100) COLLATE utf8mb4_bin PRIMARY KEY, status INT NULL, headers JSON NULL, body MEDIUMTEXT NULL, first_at DATETIME(3) NOT NULL)`,
  );
}

export type Row = Record<string, unknown> & { n: number; version: number };

export const etagOf = (row: Row): string => `W/"${row.version}"`;

/** A table row as OData sends it, restricted to the named properties. */
export function toEntity(entity: EntityType, row: Row, names: readonly string[]): Record<string, unknown> {
  const sent: Record<string, unknown> = { '@odata.etag': etagOf(row), id: idOf(entity, row.n) };
  for (const property of allProperties(entity)) {
    if (names.includes(property.name)) sent[property.name] = toEdm(property, row[property.name]);
  }
  return sent;
}

function toEdm(property: Property, value: unknown): unknown {
  if (property.collection) return typeof value === 'string' ? JSON.parse(value) : (value ?? []);
  if (value === null || value === undefined) return null;
  if (property.type === 'Edm.Boolean') return value === 1 || value === true;
  if (property.type === 'Edm.DateTimeOffset') return value instanceof Date ? value.toISOString() : value;
  return value;
}
