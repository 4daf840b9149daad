import type { FieldFamily } from '@zusammen/core/one-field';
import type { ChangeDirection, ChangeStep, StepOutcome } from '@zusammen/core/schema-changes';
import { bigint, json, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import { moment, uuid } from './columns.ts';

/** A change of systems' schemas, step by step; its newest job of the kind `schema` carries it out, or undoes it. */
export const schemaChanges = mysqlTable('schema_changes', {
  id: uuid('id').primaryKey(),
  turn: bigint('turn', { mode: 'number' }).notNull(),
  title: varchar('title', { length: 200 }).notNull(),
  steps: json('steps').$type<ChangeStep[]>().notNull(),
  outcomes: json('outcomes').$type<StepOutcome[]>().notNull(),
  direction: varchar('direction', { length: 5 }).$type<ChangeDirection>().notNull(),
  /** Of one field in several places: where it is one from then on. */
  oneField: json('one_field').$type<FieldFamily>(),
  at: moment('at').notNull(),
  by: varchar('changed_by', { length: 120 }).notNull(),
});
