import type { Finding } from '@zusammen/core/checks';
import type { Decision, Pairing, Side, Sides } from '@zusammen/core/pairing';
import type { Value, Values } from '@zusammen/core/schema';
import {
  bigint,
  boolean,
  char,
  index,
  int,
  json,
  mysqlTable,
  primaryKey,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import { exactly, hash, moment, uuid } from './columns.ts';

export type PairingState = 'draft' | 'running' | 'paused';

/** Pairings: two entities whose records are kept in step. */
export const pairings = mysqlTable('pairings', {
  id: uuid('id').primaryKey(),
  state: varchar('state', { length: 10 }).$type<PairingState>().notNull(),
  draft: json('draft').$type<Pairing>().notNull(),
  /** Counts changes of the draft; a change names the one it started from. */
  revision: int('revision').notNull(),
  liveVersion: int('live_version'),
  /** The keys by which records find their counterparts are kept for all of them, under the version that is live. */
  indexed: boolean('indexed').notNull().default(false),
  /** Of how many sides all records have been marked as due under it: of none, of the left one, of both. */
  laid: int('laid').notNull().default(0),
  /** All records of both sides have been looked at under it. */
  filled: boolean('filled').notNull().default(false),
  /** Of how both entities looked when its pairs were last brought into step: what was refused is tried anew under another. */
  shape: hash('shape'),
  createdAt: moment('created_at').notNull(),
  changedAt: moment('changed_at').notNull(),
});

export const pairingVersions = mysqlTable(
  'pairing_versions',
  {
    pairingId: uuid('pairing_id').notNull(),
    number: int('number').notNull(),
    document: json('document').$type<Pairing>().notNull(),
    /** What still wanted a look when it was applied, and was accepted. */
    accepted: json('accepted').$type<Finding[]>().notNull(),
    at: moment('at').notNull(),
    by: varchar('applied_by', { length: 120 }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.pairingId, table.number] })],
);

/** What is known of records without asking their system: the fields that pairings look at (core/pairing/seen.ts). */
export const seenRecords = mysqlTable(
  'seen_records',
  {
    feed: int('feed').notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
    values: json('seen_values').$type<Values>().notNull(),
    etag: varchar('etag', { length: 200 }),
    /** Moments in milliseconds since 1970. */
    changedAt: bigint('changed_at', { mode: 'number' }),
    asked: bigint('asked', { mode: 'number' }).notNull(),
    touched: bigint('touched', { mode: 'number' }).notNull(),
    version: int('version').notNull(),
    gone: boolean('gone').notNull().default(false),
    generation: int('generation').notNull(),
  },
  (table) => [primaryKey({ columns: [table.feed, table.recordId] })],
);

/** Which records lead to which, for fields that pairings follow: what is read through a relation changes with its end. */
export const seenLinks = mysqlTable(
  'seen_links',
  {
    feed: int('feed').notNull(),
    field: exactly('field', { length: 255 }).notNull(),
    /** Of the id of the record it leads to. */
    target: hash('target').notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.feed, table.field, table.target, table.recordId] }),
    index('seen_links_record').on(table.feed, table.recordId),
  ],
);

/**
 * How a pair stands. `unsure`: several records go with one, and somebody has to say which; `lost`: one of the two is gone,
 * and somebody has to say what becomes of the other; `undone`: it was a pair once, and no counterpart is made again.
 */
export type PairState = 'in step' | 'asked' | 'refused' | 'unsure' | 'lost' | 'undone';

/** Two records that go together, and what both held when they were last at rest. */
export const pairs = mysqlTable(
  'pairs',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    pairingId: uuid('pairing_id').notNull(),
    leftId: exactly('left_id', { length: 255 }),
    rightId: exactly('right_id', { length: 255 }),
    state: varchar('state', { length: 10 }).$type<PairState>().notNull(),
    /** By the line's key. */
    base: json('base').$type<Record<string, Sides<Value>>>().notNull(),
    /** What somebody has decided about fields that both sides had changed, by the line's key. */
    decided: json('decided').$type<Record<string, Decision>>(),
    /** Of an unsure one, the records of either side that come into question. */
    candidates: json('candidates').$type<Sides<string[]>>(),
    /** The turn that writes to it at present; what it has sent is on the ledger. */
    turn: bigint('turn', { mode: 'number' }),
    /** What each side holds once that turn's writes have taken place, by the line's key, with the side written to. */
    pending: json('pending').$type<Record<string, { side: Side; base: Sides<Value> }>>(),
    /** When it was last settled, in milliseconds since 1970. */
    settledAt: bigint('settled_at', { mode: 'number' }).notNull(),
  },
  (table) => [
    uniqueIndex('pairs_left').on(table.pairingId, table.leftId),
    uniqueIndex('pairs_right').on(table.pairingId, table.rightId),
    index('pairs_state').on(table.pairingId, table.state),
    index('pairs_turn').on(table.turn),
  ],
);

/** Fields of pairs that wait: for somebody's word, or because a side won't take a value. */
export const pairTroubles = mysqlTable(
  'pair_troubles',
  {
    pair: bigint('pair', { mode: 'number' }).notNull(),
    /** Of the line's key. */
    line: hash('line').notNull(),
    pairingId: uuid('pairing_id').notNull(),
    lineId: varchar('line_id', { length: 64 }).notNull(),
    kind: varchar('kind', { length: 10 }).$type<'asked' | 'refused'>().notNull(),
    /** The side that won't take it. */
    side: varchar('side', { length: 5 }).$type<Side>().notNull(),
    /** The same for all that are refused for the same reason. */
    cause: char('cause', { length: 16 }).notNull(),
    words: varchar('words', { length: 400 }).notNull(),
    /** What both held: last at rest, and now. */
    base: json('base').$type<Sides<Value>>(),
    now: json('now').$type<Sides<Value>>().notNull(),
    at: moment('at').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.pair, table.line] }),
    index('pair_troubles_cause').on(table.pairingId, table.kind, table.cause),
    index('pair_troubles_kind').on(table.kind, table.at),
  ],
);

/** By which records of a side find their counterparts: hashes of their keys, one per way of a pairing. */
export const pairKeys = mysqlTable(
  'pair_keys',
  {
    pairingId: uuid('pairing_id').notNull(),
    side: varchar('side', { length: 5 }).$type<Side>().notNull(),
    hash: hash('hash').notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.pairingId, table.side, table.hash, table.recordId] }),
    index('pair_keys_record').on(table.pairingId, table.side, table.recordId),
  ],
);

/** Records of which something new is known, or may be: each is looked at by its pairing. */
export const pairDue = mysqlTable(
  'pair_due',
  {
    pairingId: uuid('pairing_id').notNull(),
    side: varchar('side', { length: 5 }).$type<Side>().notNull(),
    recordId: exactly('record_id', { length: 255 }).notNull(),
    /** Since when it is known, and when it is looked at; milliseconds since 1970. */
    since: bigint('since', { mode: 'number' }).notNull(),
    dueAt: bigint('due_at', { mode: 'number' }).notNull(),
    /** What is known of it may be old: it is read first. */
    doubt: boolean('doubt').notNull().default(false),
    /** Grows with everything new: what came while it was looked at stays due. */
    mark: int('mark').notNull().default(1),
    attempts: int('attempts').notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.pairingId, table.side, table.recordId] }),
    index('pair_due_at').on(table.pairingId, table.dueAt),
  ],
);

/** How far behind a pairing was, by the minute. */
export const pairingBeats = mysqlTable(
  'pairing_beats',
  {
    pairingId: uuid('pairing_id').notNull(),
    /** Minutes since 1970. */
    minute: int('minute').notNull(),
    behindMs: int('behind_ms').notNull(),
    written: int('written').notNull(),
  },
  (table) => [primaryKey({ columns: [table.pairingId, table.minute] })],
);
