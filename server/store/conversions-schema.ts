import type { RecordPart } from '@zusammen/core/intake';
import { boolean, index, int, json, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';
import { exactly, moment, uuid } from './columns.ts';

/** Many records that are converted by a condition; its job has the same id. */
export const bulkConversions = mysqlTable(
  'bulk_conversions',
  {
    id: uuid('id').primaryKey(),
    intakeId: uuid('intake_id').notNull(),
    /** All have to hold; none: every record. */
    where: json('record_parts').$type<RecordPart[]>().notNull(),
    /** How many there are has been counted. */
    counted: boolean('counted').notNull().default(false),
    /** All of them have been taken in. */
    taken: boolean('taken').notNull().default(false),
    /** Records that had been converted before. */
    before: int('converted_before').notNull().default(0),
    /** How many could not be taken in; of the first of them it is kept why. */
    wrong: int('wrong').notNull().default(0),
    problems: json('problems').$type<{ record: string; what: string }[]>().notNull(),
  },
  (table) => [index('bulk_conversions_intake').on(table.intakeId)],
);

/** Records that meet what a conversion starts by itself at: they are converted when they come to, not while they do. */
export const metRecords = mysqlTable(
  'met_records',
  {
    intakeId: uuid('intake_id').notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.intakeId, table.recordId] })],
);

/** Since when a conversion starts by itself, and under which condition: what met it before is left alone. */
export const conversionStarts = mysqlTable('conversion_starts', {
  intakeId: uuid('intake_id').primaryKey(),
  condition: varchar('condition_hash', { length: 32 }).notNull(),
  since: moment('since').notNull(),
});
