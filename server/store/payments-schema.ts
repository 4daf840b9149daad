import {
  bigint,
  boolean,
  char,
  index,
  int,
  mysqlTable,
  primaryKey,
  text,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import { exactly, mediumblob, moment, uuid } from './columns.ts';

/** Services that take payments for forms of ours. */
export const paymentServices = mysqlTable('payment_services', {
  id: uuid('id').primaryKey(),
  name: varchar('name', { length: 120 }).notNull(),
  /** Where its API begins. */
  address: varchar('address', { length: 500 }).notNull(),
  /** What speaks for us there, and the key by which its events are signed; both sealed. */
  sealedKey: text('sealed_key').notNull(),
  sealedSigning: text('sealed_signing').notNull(),
  /** No money is moved. */
  test: boolean('test').notNull(),
  createdAt: moment('created_at').notNull(),
});

/**
 * `due`: nobody has paid yet. `refused`: a card was, and it may be tried again. `lapsed`: not paid in time. `differs`:
 * something else was paid than was asked.
 */
export type PaymentState = 'due' | 'paid' | 'refused' | 'lapsed' | 'differs' | 'refunded';

/** What a submission has to be paid for; one at most for each. */
export const payments = mysqlTable(
  'payments',
  {
    id: uuid('id').primaryKey(),
    submissionId: uuid('submission_id').notNull(),
    serviceId: uuid('service_id').notNull(),
    /** Whole numbers of the currency's smallest unit. */
    minor: bigint('minor', { mode: 'number' }).notNull(),
    currency: char('currency', { length: 3 }).notNull(),
    test: boolean('test').notNull(),
    state: varchar('state', { length: 12 }).$type<PaymentState>().notNull(),
    /** What the service calls it, and where it is paid, once that was begun. */
    session: exactly('session', { length: 200 }),
    page: varchar('page', { length: 2000 }),
    /** Why it was refused, or what differs. */
    words: varchar('words', { length: 400 }),
    begunAt: moment('begun_at').notNull(),
    changedAt: moment('changed_at').notNull(),
  },
  (table) => [
    uniqueIndex('payments_submission').on(table.submissionId),
    // So that what isn't paid in time is found.
    index('payments_state').on(table.state, table.begunAt),
  ],
);

/** Files that visitors send with forms of ours. */
export const visitorFiles = mysqlTable(
  'visitor_files',
  {
    /** It can't be guessed: whoever has it, has the file. */
    id: exactly('id', { length: 43 }).primaryKey(),
    intakeId: uuid('intake_id').notNull(),
    name: varchar('name', { length: 200 }).notNull(),
    type: varchar('type', { length: 100 }).notNull(),
    bytes: int('bytes').notNull(),
    /** The last time it was sent here. */
    cameAt: moment('came_at').notNull(),
  },
  (table) => [index('visitor_files_came').on(table.cameAt)],
);

/** A visitor's file in pieces, so that no statement is larger than a database takes. */
export const visitorFileParts = mysqlTable(
  'visitor_file_parts',
  {
    fileId: exactly('file_id', { length: 43 }).notNull(),
    part: int('part').notNull(),
    bytes: mediumblob('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.fileId, table.part] })],
);

/** Which submissions a file belongs to; it is gone with the last of them, and after a day without any. */
export const visitorFileUses = mysqlTable(
  'visitor_file_uses',
  {
    fileId: exactly('file_id', { length: 43 }).notNull(),
    submissionId: uuid('submission_id').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.fileId, table.submissionId] }),
    index('visitor_file_uses_submission').on(table.submissionId),
  ],
);
