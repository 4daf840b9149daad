import type { AdapterDifference, AdapterDocument, AdapterReasons, AdapterTrial } from '@zusammen/core/adapters';
import type { SystemKind, SystemState } from '@zusammen/core/api';
import type { Schema } from '@zusammen/core/schema';
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
import { exactly, moment } from './columns.ts';

/** What a system is able to do besides reading and writing records: as it says, and as was tried when it was read. */
export interface Capabilities {
  /** A request sent twice is done once (OASIS Repeatable Requests 1.0). */
  repeatability: boolean;
  batch: boolean;
  delta: boolean;
  /** Its records carry versions (ETag, RFC 9110). */
  etags: boolean;
  /** Searches by the values of fields; absent: not known. So are the others. */
  filter?: boolean;
  /** Types, as the system calls them, by whose values it doesn't find what it holds. */
  unsearchable?: string[];
  /** Compares without regard to case where it is asked to. */
  folding?: boolean;
  order?: boolean;
  select?: boolean;
  /** Shows relations that are links of their own. */
  links?: boolean;
  /** Gives one record by its key. */
  byKey?: boolean;
  /** Shows the same of a record in a list as alone. */
  listsAlike?: boolean;
  /** The newest version of the protocol it knows, where it isn't 4.01. */
  maxVersion?: '4.0';
  /** Where its schema is changed, in full; absent: it can't be from here. */
  schemaAt?: string;
  /** What was tried, in the order of trying. */
  tried?: Tried[];
}

/** What came of trying one ability. */
export interface Tried {
  what: 'filter' | 'types' | 'folding' | 'order' | 'select' | 'links' | 'byKey' | 'listsAlike' | 'etags' | 'batch';
  /** Null: it couldn't be tried. */
  able: boolean | null;
  /** The system's own words where it declined, or why nothing could be tried. */
  said?: string;
}

export const systems = mysqlTable('systems', {
  id: varchar('id', { length: 36 }).primaryKey(),
  name: varchar('name', { length: 120 }).notNull().unique(),
  kind: varchar('kind', { length: 10 }).$type<SystemKind>().notNull().default('odata'),
  /** The version of the adapter by which it is spoken to, where it needs one. */
  adapterVersion: int('adapter_version'),
  /** In what its API is no longer as the adapter says, as of the last look. */
  adapterDrift: json('adapter_drift').$type<AdapterDifference[]>(),
  address: varchar('address', { length: 500 }).notNull(),
  /** A token, or as JSON what an adapter's way of signing in needs. */
  sealedToken: text('sealed_token').notNull(),
  /** Counts changes of how it is reached: address, token, abilities. */
  revision: int('revision').notNull().default(1),
  practice: boolean('practice').notNull(),
  /** Marked for keeping values about people. */
  personal: boolean('personal').notNull().default(false),
  /** A URI template (RFC 6570, level 1) of a record's page, where the system tells one. */
  recordPage: varchar('record_page', { length: 500 }),
  state: varchar('state', { length: 20 }).$type<SystemState>().notNull(),
  stateWords: text('state_words'),
  latencyMs: int('latency_ms'),
  capabilities: json('capabilities').$type<Capabilities>().notNull(),
  checkedAt: moment('checked_at').notNull(),
  /** When its schema was read last, or begun to be: every so often it is read by itself. */
  schemaReadAt: moment('schema_read_at'),
  /** Until when it has asked to be left alone; all processes keep to it. */
  patienceUntil: moment('patience_until'),
  createdAt: moment('created_at').notNull(),
});

/** Every version of how a system with a plain JSON API is spoken to. */
export const adapterVersions = mysqlTable(
  'adapter_versions',
  {
    systemId: varchar('system_id', { length: 36 }).notNull(),
    version: int('version').notNull(),
    document: json('document').$type<AdapterDocument>().notNull(),
    /** Why each part is as it is, by its place in the document. */
    reasons: json('reasons').$type<AdapterReasons>().notNull(),
    /** What was inferred of the API when it was described last: what changes from there on is told. */
    described: json('described').$type<AdapterDocument>(),
    /** Paths that nothing was made of, and why. */
    unused: json('unused').$type<{ path: string; why: string }[]>().notNull(),
    /** What came of trying it, newest; without what was answered. */
    trials: json('trials').$type<AdapterTrial[]>(),
    at: moment('at').notNull(),
    by: varchar('changed_by', { length: 120 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.systemId, table.version] })],
);

/** Tokens that were fetched (OAuth 2.0), for all processes: one renews them at a time. */
export const systemTokens = mysqlTable('system_tokens', {
  systemId: varchar('system_id', { length: 36 }).primaryKey(),
  /** Access token, and refresh token where there is one, as JSON; null before the first. */
  sealed: text('sealed'),
  /** Counts tokens: who finds one refused says which. */
  issue: int('issue').notNull().default(0),
  endsAt: moment('ends_at'),
  renewingUntil: moment('renewing_until'),
});

/** Fields by whose values records of an entity are looked for here, since its system doesn't search by them. */
export const heldFields = mysqlTable(
  'held_fields',
  {
    feed: int('feed').notNull(),
    field: exactly('field', { length: 255 }).notNull(),
    /** The values of all records are held. */
    filled: boolean('filled').notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.feed, table.field] })],
);

/** Which records may have a value, by its 52-bit hash: what is found is always confirmed in the system. */
export const heldValues = mysqlTable(
  'held_values',
  {
    feed: int('feed').notNull(),
    hash: bigint('hash', { mode: 'number' }).notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
    generation: int('generation').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.feed, table.hash, table.recordId] }),
    index('held_values_record').on(table.feed, table.recordId),
  ],
);

export const schemaSnapshots = mysqlTable(
  'schema_snapshots',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    systemId: varchar('system_id', { length: 36 }).notNull(),
    schema: json('schema').$type<Schema>().notNull(),
    takenAt: moment('taken_at').notNull(),
  },
  (table) => [index('snapshots_system').on(table.systemId, table.id)],
);

/** How far the reading of an entity's records and their changes is, for all who listen (engine/feeds). */
export const feeds = mysqlTable(
  'feeds',
  {
    id: int('id').primaryKey().autoincrement(),
    systemId: varchar('system_id', { length: 36 }).notNull(),
    entity: exactly('entity', { length: 255 }).notNull(),
    /** Readings of everything so far; what an earlier one brought and this one didn't is gone. */
    generation: int('generation').notNull().default(1),
    /** When everything had been read; null while the first reading goes on. */
    filledAt: moment('filled_at'),
    /** Where the reading of everything goes on. */
    nextLink: text('next_link'),
    /** Where changes are told, or since when they are asked for. */
    deltaLink: text('delta_link'),
    changesSince: moment('changes_since'),
    /** When everything was read last, where changes alone don't tell what is gone. */
    comparedAt: moment('compared_at'),
    /** Why reading doesn't get on, in words. */
    words: text('words'),
    /** Fields whose values pairings have kept from the newest reading of everything on. */
    seen: json('seen').$type<string[]>(),
    /** When the first reading of everything with these fields had come to its end. */
    seenAt: moment('seen_at'),
    /** Seconds between looks that somebody asks for; absent: as often as suits. */
    lookEvery: int('look_every'),
  },
  (table) => [uniqueIndex('feeds_entity').on(table.systemId, table.entity)],
);
