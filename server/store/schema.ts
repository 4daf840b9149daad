import type { Role, SubmissionState } from '@zusammen/core/api';
import {
  bigint,
  boolean,
  char,
  customType,
  index,
  int,
  json,
  mediumtext,
  mysqlTable,
  primaryKey,
  text,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import { kept, type IntakeDocument } from '@zusammen/core/intake';
import type { Answer, Course, Refusal } from '@zusammen/core/plans';
import type { Finding } from '@zusammen/core/checks';
import type { SubmittedValue, SubmittedValues } from '@zusammen/core/forms';
import type { Values } from '@zusammen/core/schema';
import { exactly, hash, mediumblob, moment, uuid } from './columns.ts';

/** An intake's document: whatever format it was kept in, it is read in the newest. */
const intakeDocument = customType<{ data: IntakeDocument; driverData: unknown }>({
  dataType: () => 'json',
  toDriver: (document) => JSON.stringify(document),
  fromDriver: (held) => kept(typeof held === 'string' ? JSON.parse(held) : held),
});

export const users = mysqlTable('users', {
  id: uuid('id').primaryKey(),
  /** In small letters: by it people sign in. */
  email: exactly('email', { length: 254 }).notNull().unique(),
  name: varchar('name', { length: 120 }).notNull(),
  role: varchar('role', { length: 20 }).$type<Role>().notNull(),
  passwordHash: varchar('password_hash', { length: 200 }).notNull(),
  passwordSetAt: moment('password_set_at'),
  active: boolean('active').notNull().default(true),
  createdAt: moment('created_at').notNull(),
});

export const sessions = mysqlTable(
  'sessions',
  {
    /** SHA-256 of the cookie's token, so that a read of the table lets nobody in. */
    tokenHash: varchar('token_hash', { length: 64 }).primaryKey(),
    userId: uuid('user_id').notNull(),
    createdAt: moment('created_at').notNull(),
    expiresAt: moment('expires_at').notNull(),
  },
  (table) => [index('sessions_user').on(table.userId)],
);

/** One row: what this database is. */
export const installation = mysqlTable('installation', {
  id: int('id').primaryKey(),
  /** It holds the demo, whose systems are on the machine itself. */
  demo: boolean('demo').notNull(),
  /** The keys that it signs with, sealed, the newest first; null before it signed anything. */
  sealedKeys: text('sealed_keys'),
});

/** Every try to sign in: what limits guessing, across all processes, and what is on record. */
export const signIns = mysqlTable(
  'sign_ins',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    at: moment('at').notNull(),
    /** Of the e-mail address that was given, known here or not. */
    account: hash('account').notNull(),
    /** The IP address it came from. */
    address: varchar('address', { length: 45 }).notNull(),
    userId: uuid('user_id'),
    succeeded: boolean('succeeded').notNull(),
  },
  (table) => [
    index('sign_ins_account').on(table.account, table.at),
    index('sign_ins_address').on(table.address, table.at),
    index('sign_ins_time').on(table.at),
  ],
);

/** Links by which somebody sets a password once: the first, or a new one for one that was lost. */
export const passwordLinks = mysqlTable('password_links', {
  /** SHA-256 of the link's token, so that a read of the table lets nobody in. */
  tokenHash: varchar('token_hash', { length: 64 }).primaryKey(),
  userId: uuid('user_id').notNull(),
  createdAt: moment('created_at').notNull(),
  expiresAt: moment('expires_at').notNull(),
});

export type IntakeState = 'draft' | 'open' | 'closed';

export const intakes = mysqlTable('intakes', {
  id: uuid('id').primaryKey(),
  /** Names it in its address: `/in/:key`. */
  key: exactly('key', { length: 80 }).notNull().unique(),
  state: varchar('state', { length: 10 }).$type<IntakeState>().notNull(),
  draft: intakeDocument('draft').notNull(),
  /** Counts changes of the draft; a change names the one it started from. */
  revision: int('revision').notNull(),
  liveVersion: int('live_version'),
  /**
   * What arrives must be signed with a valid key. Set with the first key and never by a key's end: an intake whose keys
   * have all run out refuses everything until somebody says otherwise.
   */
  signed: boolean('signed').notNull().default(false),
  createdAt: moment('created_at').notNull(),
  changedAt: moment('changed_at').notNull(),
  /** Since when lists leave it out; it takes nothing and can be brought back. */
  putAwayAt: moment('put_away_at'),
  /** Since when it is gone for everybody; what its submissions wrote stays on the ledger until it is forgotten. */
  deletedAt: moment('deleted_at'),
});

export const intakeVersions = mysqlTable(
  'intake_versions',
  {
    intakeId: uuid('intake_id').notNull(),
    number: int('number').notNull(),
    document: intakeDocument('document').notNull(),
    /** What still wanted a look when it was published, and was accepted. */
    accepted: json('accepted').$type<Finding[]>().notNull(),
    publishedAt: moment('published_at').notNull(),
    publishedBy: uuid('published_by'),
  },
  (table) => [primaryKey({ columns: [table.intakeId, table.number] })],
);

export const samples = mysqlTable(
  'samples',
  {
    id: uuid('id').primaryKey(),
    intakeId: uuid('intake_id').notNull(),
    values: json('sample_values').$type<SubmittedValues>().notNull(),
    createdAt: moment('created_at').notNull(),
  },
  (table) => [index('samples_intake').on(table.intakeId, table.createdAt)],
);

/** Keys by which what arrives at an intake must be signed; several while one takes over from another. */
export const intakeSecrets = mysqlTable(
  'intake_secrets',
  {
    id: uuid('id').primaryKey(),
    intakeId: uuid('intake_id').notNull(),
    sealed: text('sealed').notNull(),
    /** Its last characters, by which people tell keys apart. */
    ending: varchar('ending', { length: 8 }).notNull(),
    createdAt: moment('created_at').notNull(),
    /** Set when another has taken over: until then it is still good. */
    goodUntil: moment('good_until'),
  },
  (table) => [index('secrets_intake').on(table.intakeId)],
);

/** Uploaded files of old submissions. */
export const files = mysqlTable('files', {
  id: uuid('id').primaryKey(),
  name: varchar('name', { length: 255 }).notNull(),
  bytes: int('bytes').notNull(),
  rows: int('row_count').notNull(),
  columns: json('column_names').$type<string[]>().notNull(),
  uploadedAt: moment('uploaded_at').notNull(),
  uploadedBy: varchar('uploaded_by', { length: 120 }).notNull(),
  /** When its bytes and its name were removed; that it was there, and how many rows it had, stays. */
  removedAt: moment('removed_at'),
});

/** A file's bytes in pieces, so that no statement is larger than a database takes. */
export const fileParts = mysqlTable(
  'file_parts',
  {
    fileId: uuid('file_id').notNull(),
    part: int('part').notNull(),
    bytes: mediumblob('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.fileId, table.part] })],
);

export type JobKind = 'import' | 'feed' | 'doubles' | 'merge' | 'pairing' | 'conversion' | 'schema';
export type JobState = 'running' | 'paused' | 'done' | 'failed' | 'cancelled';

/** Work that takes long: claimed by one process at a time, under a lease that it renews (engine/jobs.ts). */
export const jobs = mysqlTable(
  'jobs',
  {
    id: uuid('id').primaryKey(),
    kind: varchar('kind', { length: 20 }).$type<JobKind>().notNull(),
    /** What is worked on, by the id it has among those of its kind. */
    subject: exactly('subject', { length: 64 }).notNull(),
    state: varchar('state', { length: 10 }).$type<JobState>().notNull(),
    /** How far it is, in whatever its kind counts. */
    total: int('total').notNull().default(0),
    done: int('done').notNull().default(0),
    /** Why it rests, failed, or what came of it. */
    words: text('words'),
    /** When it is to be worked on next. */
    dueAt: moment('due_at').notNull(),
    startedAt: moment('started_at').notNull(),
    startedBy: varchar('started_by', { length: 120 }).notNull(),
    endedAt: moment('ended_at'),
    claimedBy: varchar('claimed_by', { length: 60 }),
    claimedUntil: moment('claimed_until'),
    /** Counts claims: what is noted under an older one counts for nothing (a fencing token). */
    claim: int('claim').notNull().default(0),
  },
  (table) => [
    index('jobs_due').on(table.kind, table.state, table.dueAt),
    index('jobs_subject').on(table.kind, table.subject),
  ],
);

/** A file on its way through an intake, a row a submission; its job has the same id. */
export const imports = mysqlTable(
  'imports',
  {
    id: uuid('id').primaryKey(),
    intakeId: uuid('intake_id').notNull(),
    fileId: uuid('file_id').notNull(),
    /** Rows accepted as submissions, and accepted before. */
    accepted: int('accepted').notNull().default(0),
    again: int('again').notNull().default(0),
    /** Rows that could not be taken in, with the reason; rows as people count them. */
    problems: json('problems').$type<{ row: number; what: string }[]>().notNull(),
  },
  (table) => [index('imports_intake').on(table.intakeId)],
);

/** What specialists made of suggestions: how often a pair of fields was chosen, and how often passed over. */
export const learnedLines = mysqlTable(
  'learned_lines',
  {
    from: varchar('from_words', { length: 200 }).notNull(),
    entity: exactly('entity', { length: 100 }).notNull(),
    field: exactly('field', { length: 100 }).notNull(),
    accepted: int('accepted').notNull().default(0),
    rejected: int('rejected').notNull().default(0),
  },
  (table) => [primaryKey({ columns: [table.from, table.entity, table.field] })],
);

/** Whatever writes to systems. */
export type TurnKind = 'submission' | 'merge' | 'link' | 'pair' | 'schema' | 'taking back';

/**
 * A turn is the cause of changes: whatever writes to systems is one, and what is written refers to it. Their ids are the
 * order of arrival, in which those that share a lane run.
 */
export const turns = mysqlTable('turns', {
  id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
  kind: varchar('kind', { length: 20 }).$type<TurnKind>().notNull(),
  /** The submission, the group of doubles or the pair it is about, or the turn that is taken back, by id. */
  subject: exactly('subject', { length: 64 }).notNull(),
  /** Whose doing it is: a person by name, or the connection to the systems. */
  actor: varchar('actor', { length: 120 }).notNull(),
  /** Whom the systems took for acting, where somebody acts as themselves there. */
  actingPerson: varchar('acting_person', { length: 255 }),
  at: moment('at').notNull(),
});

export const submissions = mysqlTable(
  'submissions',
  {
    /** Its turn: the order of arrival. */
    seq: bigint('seq', { mode: 'number' }).primaryKey(),
    id: uuid('id').notNull().unique(),
    intakeId: uuid('intake_id').notNull(),
    version: int('version').notNull(),
    state: varchar('state', { length: 12 }).$type<SubmissionState>().notNull(),
    label: varchar('label', { length: 160 }).notNull(),
    values: json('submitted').$type<SubmittedValues>().notNull(),
    /** Where it came from: a browser's form, a program. */
    via: varchar('via', { length: 20 }).notNull(),
    idempotencyKey: exactly('idempotency_key', { length: 200 }),
    /** Of what was sent under the key, so that the same key with something else in it is noticed. */
    fingerprint: hash('fingerprint'),
    receivedAt: moment('received_at').notNull(),
    attempts: int('attempts').notNull().default(0),
    dueAt: moment('due_at').notNull(),
    /** Waits behind an earlier one in a lane; taken away when that one leaves. */
    blocked: boolean('blocked').notNull().default(false),
    claimedBy: varchar('claimed_by', { length: 60 }),
    claimedUntil: moment('claimed_until'),
    /** Counts claims. Who settles names the one it holds: a claim that lapsed meanwhile settles nothing (a fencing token). */
    claim: int('claim').notNull().default(0),
    /** Times it was begun and nobody put down what came of it. */
    begun: int('begun').notNull().default(0),
    /** Of the last time: when, whether nothing else was at work beside it, and whether it went on for long. */
    begunAt: moment('begun_at'),
    begunAlone: boolean('begun_alone').notNull().default(false),
    lingered: boolean('lingered').notNull().default(false),
    settledAt: moment('settled_at'),
    /** Who acts as themselves in one of the systems, where somebody does. */
    acting: json('acting').$type<Acting>(),
    /** Of a conversion: the record that it is of, and with many others at once, which of those. */
    ofRecord: json('of_record').$type<OfRecord>(),
    bulkId: varchar('bulk_id', { length: 36 }),
    answers: json('answers').$type<Record<string, Answer>>(),
    course: json('course').$type<Course>(),
    /** Why it waits or failed, in words. */
    words: text('words'),
    /** Of what it waits for or failed over, apart from its own values: the same for all that can be settled alike. */
    cause: char('cause', { length: 16 }),
    reason: varchar('reason', { length: 400 }),
    /** What somebody changed of the submitted values before it was sent again, newest last. */
    amended: json('amended').$type<Amendment[]>(),
    /** When its values were forgotten, as its intake says; what came of it stays. */
    forgottenAt: moment('forgotten_at'),
  },
  (table) => [
    uniqueIndex('submissions_once').on(table.intakeId, table.idempotencyKey),
    // By intake, so that a claim finds who has something due without reading a flood (engine/claim.ts).
    index('submissions_due').on(table.state, table.blocked, table.intakeId, table.dueAt),
    index('submissions_intake').on(table.intakeId, table.seq),
    index('submissions_cause').on(table.state, table.cause, table.seq),
    // So that what is due to be forgotten is found without reading what has been.
    index('submissions_forget').on(table.intakeId, table.forgottenAt, table.settledAt),
    index('submissions_bulk').on(table.bulkId, table.state),
    index('submissions_received').on(table.receivedAt),
    index('submissions_settled').on(table.settledAt),
  ],
);

/** Somebody who acts in a system as themselves, by a token of their own as long as they have one. */
export interface Acting {
  system: string;
  /** How the system names them, and what they are called. */
  person: string;
  name: string;
  /** Their token has run out, and the connection has taken over. */
  by?: 'connection';
}

/** The record that is converted, in the version whose values were taken. */
export interface OfRecord {
  system: string;
  entity: string;
  id: string;
  etag?: string;
}

/** Former values of a submission that somebody changed; null where nothing had come. */
export interface Amendment {
  at: string;
  by: string;
  before: Record<string, SubmittedValue | null>;
}

/**
 * The words by which submissions are found: names, addresses, numbers, ids of records. Filled in a moment later than
 * the submission (engine/indexer.ts); `searchState` says how far.
 */
export const searchWords = mysqlTable(
  'search_words',
  {
    word: varchar('word', { length: 40 }).notNull(),
    seq: bigint('seq', { mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.word, table.seq] }), index('search_words_seq').on(table.seq)],
);

/** One row: everything up to `seq` is found by its words. */
export const searchState = mysqlTable('search_state', {
  id: int('id').primaryKey(),
  seq: bigint('seq', { mode: 'number' }).notNull(),
});

/** Which turns wait in which lane. A row lives until its turn is settled. */
export const lanes = mysqlTable(
  'lanes',
  {
    lane: hash('lane').notNull(),
    turn: bigint('turn', { mode: 'number' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.lane, table.turn] }), index('lanes_turn').on(table.turn)],
);

/** Which turn is at work in which lane: at most one, by primary key, across all processes and nodes. */
export const laneHolders = mysqlTable(
  'lane_holders',
  {
    lane: hash('lane').primaryKey(),
    turn: bigint('turn', { mode: 'number' }).notNull(),
  },
  (table) => [index('holders_turn').on(table.turn)],
);

/** `unclear`: it was cut short, and whether it took place a person was asked. */
export type LedgerState = 'intended' | 'written' | 'refused' | 'overtaken' | 'unclear';
/** What is done to a record; `schema`: to what records of the entity can hold. */
export type LedgerAction = 'create' | 'update' | 'delete' | 'schema';

export const ledger = mysqlTable(
  'ledger',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    /** The turn that caused it. */
    turn: bigint('turn', { mode: 'number' }).notNull(),
    /** The intake whose submission it was, where it was one. */
    intakeId: varchar('intake_id', { length: 36 }),
    /** The effect within its turn: the step of the plan, or the part of a merge. */
    step: exactly('step', { length: 64 }).notNull(),
    /** The row of a step that is done once per row, counted from 1; 0: the step is done once. */
    row: int('step_row').notNull().default(0),
    /** The record that this part of a merge is about, where there are several; blank: there is one. */
    ofEntity: exactly('of_entity', { length: 255 }).notNull().default(''),
    ofRecord: exactly('of_record', { length: 255 }).notNull().default(''),
    attempt: int('attempt').notNull(),
    systemId: varchar('system_id', { length: 36 }).notNull(),
    entity: exactly('entity', { length: 255 }).notNull(),
    recordId: exactly('record_id', { length: 255 }),
    action: varchar('action', { length: 10 }).$type<LedgerAction>().notNull(),
    before: json('before_values').$type<Values>().notNull(),
    after: json('after_values').$type<Values>().notNull(),
    etagBefore: varchar('etag_before', { length: 200 }),
    etagAfter: varchar('etag_after', { length: 200 }),
    /** Repeatability-Request-ID: the same for every time this change is sent. */
    requestId: uuid('request_id').notNull(),
    state: varchar('state', { length: 10 }).$type<LedgerState>().notNull(),
    refusal: json('refusal').$type<Refusal>(),
    intendedAt: moment('intended_at').notNull(),
    settledAt: moment('settled_at'),
    /** The change this one takes back, and the one that took this back. */
    undoes: bigint('undoes', { mode: 'number' }),
    undoneBy: bigint('undone_by', { mode: 'number' }),
  },
  (table) => [
    uniqueIndex('ledger_effect').on(table.turn, table.step, table.row, table.ofEntity, table.ofRecord, table.attempt),
    // At most one taking back of a change is on its way.
    uniqueIndex('ledger_undoes').on(table.undoes, table.attempt),
    index('ledger_record').on(table.systemId, table.entity, table.recordId),
    index('ledger_record_id').on(table.recordId),
    index('ledger_state').on(table.state, table.intendedAt),
    index('ledger_intake').on(table.intakeId),
    index('ledger_time').on(table.intendedAt),
  ],
);

/** Who changed what in Zusammen itself. */
export const changes = mysqlTable(
  'changes',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().autoincrement(),
    at: moment('at').notNull(),
    userId: uuid('user_id'),
    userName: varchar('user_name', { length: 120 }).notNull(),
    what: varchar('what', { length: 200 }).notNull(),
    subject: varchar('subject', { length: 200 }).notNull(),
    details: mediumtext('details'),
  },
  (table) => [index('changes_subject').on(table.subject, table.id)],
);

export * from './pairings-schema.ts';
export * from './recognition-schema.ts';
export * from './systems-schema.ts';
export * from './payments-schema.ts';
export * from './acting-schema.ts';
export * from './conversions-schema.ts';
export * from './schema-changes-schema.ts';
