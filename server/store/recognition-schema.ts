import type { Measure } from '@zusammen/core/api';
import {
  bigint,
  boolean,
  index,
  int,
  json,
  mysqlTable,
  primaryKey,
  text,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import type { DoublePair, Evidence, Recognition } from '@zusammen/core/recognition';
import type { Values } from '@zusammen/core/schema';
import { exactly, mediumblob, moment, uuid } from './columns.ts';

/** How records of an entity are recognised by evidence, and what is known of them; a feed brings them (feeds). */
export const recognitions = mysqlTable(
  'recognitions',
  {
    /** Names the index's rows. */
    scope: int('scope').primaryKey().autoincrement(),
    systemId: varchar('system_id', { length: 36 }).notNull(),
    entity: exactly('entity', { length: 255 }).notNull(),
    document: json('document').$type<Recognition>().notNull(),
    /** Counts versions; a change names the one it started from. */
    revision: int('revision').notNull(),
    /** How records were packed and found when the reading began (core/recognition, `METHOD`). */
    method: int('method').notNull(),
    known: int('known').notNull().default(0),
    /** How common values are among the known records (core/recognition, `kept`), in one blob. */
    counts: mediumblob('counts'),
    countedAt: moment('counted_at'),
    countedOver: int('counted_over').notNull().default(0),
    measure: json('measure').$type<Measure>(),
    /** Values of the records that only fill a field, and in how many: what recognition pays no heed to. */
    ignored: json('ignored').$type<Ignored[]>(),
  },
  (table) => [uniqueIndex('recognitions_entity').on(table.systemId, table.entity)],
);

export interface Ignored {
  field: string;
  value: string;
  count: number;
}

export const recognitionVersions = mysqlTable(
  'recognition_versions',
  {
    scope: int('scope').notNull(),
    number: int('number').notNull(),
    document: json('document').$type<Recognition>().notNull(),
    savedAt: moment('saved_at').notNull(),
    savedBy: varchar('saved_by', { length: 120 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.scope, table.number] })],
);

/** Known records in the form that comparing needs. */
export const knownRecords = mysqlTable(
  'known_records',
  {
    n: bigint('n', { mode: 'number' }).primaryKey().autoincrement(),
    scope: int('scope').notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
    packed: text('packed').notNull(),
    generation: int('generation').notNull(),
  },
  (table) => [
    uniqueIndex('known_records_id').on(table.scope, table.recordId),
    index('known_records_order').on(table.scope, table.n),
  ],
);

/** Keys under which known records are found, as 52-bit hashes. */
export const knownKeys = mysqlTable(
  'known_keys',
  {
    scope: int('scope').notNull(),
    hash: bigint('hash', { mode: 'number' }).notNull(),
    n: bigint('n', { mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.scope, table.hash, table.n] })],
);

/** What people decided about pairs; weights are learned from it. */
export const decidedPairs = mysqlTable(
  'decided_pairs',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    scope: int('scope').notNull(),
    /** A submission, or a known record. */
    a: exactly('a', { length: 255 }).notNull(),
    b: exactly('b', { length: 255 }).notNull(),
    same: boolean('same').notNull(),
    weight: int('weight_hundredths').notNull(),
    /** By our defaults, so that later weights can be learned from it. */
    evidence: json('evidence').$type<Evidence[]>().notNull(),
    at: moment('at').notNull(),
    by: varchar('decided_by', { length: 120 }).notNull(),
  },
  (table) => [uniqueIndex('decided_pairs_once').on(table.scope, table.a, table.b)],
);

/** A search for doubles among all known records of an entity, or between those of two; its job has the same id. */
export const doubleSearches = mysqlTable(
  'double_searches',
  {
    id: uuid('id').primaryKey(),
    scope: int('scope').notNull(),
    /** The entity whose records are compared with these; the same: doubles within one. */
    otherScope: int('other_scope').notNull(),
    compared: bigint('compared', { mode: 'number' }).notNull().default(0),
    pairs: json('pairs').$type<DoublePair[]>().notNull(),
  },
  (table) => [index('double_searches_scope').on(table.scope)],
);

export type GroupState = 'open' | 'merging' | 'merged' | 'apart' | 'taken back';

/** Records found to be doubles of each other, and what became of them. */
export const doubleGroups = mysqlTable(
  'double_groups',
  {
    id: int('id').primaryKey().autoincrement(),
    searchId: uuid('search_id').notNull(),
    scope: int('scope').notNull(),
    members: json('members').$type<string[]>().notNull(),
    weight: int('weight_hundredths').notNull(),
    verdict: varchar('verdict', { length: 6 }).$type<'same' | 'unsure'>().notNull(),
    state: varchar('state', { length: 10 }).$type<GroupState>().notNull(),
    merge: json('merge_plan').$type<MergePlan>(),
    words: text('words'),
    decidedAt: moment('decided_at'),
    decidedBy: varchar('decided_by', { length: 120 }),
    /** The turn in which it was merged or linked, and the one in which that was taken back. */
    turn: bigint('turn', { mode: 'number' }),
    /** The job that merges it. */
    mergeJob: uuid('merge_job'),
    backTurn: bigint('back_turn', { mode: 'number' }),
  },
  (table) => [index('double_groups_search').on(table.searchId, table.state, table.weight)],
);

/** How a group is merged: into which record, with which values, and which others go. */
export interface MergePlan {
  survivor: string;
  values: Values;
  others: string[];
}
