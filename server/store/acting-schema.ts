import { mysqlTable, primaryKey, text, varchar } from 'drizzle-orm/mysql-core';
import { exactly, hash, moment, uuid } from './columns.ts';

/** Systems in which people act as themselves: who signs what they say of a person, and where that is exchanged. */
export const actingSystems = mysqlTable('acting_systems', {
  systemId: varchar('system_id', { length: 36 }).primaryKey(),
  issuer: varchar('issuer', { length: 500 }).notNull(),
  /** Where the issuer's keys are (JWK Set, RFC 7517), and where contexts are exchanged for tokens (RFC 8693). */
  keysAddress: varchar('keys_address', { length: 500 }).notNull(),
  tokenAddress: varchar('token_address', { length: 500 }).notNull(),
  clientId: varchar('client_id', { length: 200 }).notNull(),
  sealedSecret: text('sealed_secret').notNull(),
  /** Where the client's secret goes along: in the header (Basic), or in the body. */
  clientBy: varchar('client_by', { length: 6 }).$type<'header' | 'body'>().notNull(),
});

/** The newest token of each person, for all processes; gone soon after it has run out. */
export const actingTokens = mysqlTable(
  'acting_tokens',
  {
    systemId: varchar('system_id', { length: 36 }).notNull(),
    person: exactly('person', { length: 255 }).notNull(),
    sealed: text('sealed').notNull(),
    endsAt: moment('ends_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.systemId, table.person] })],
);

/** Signed contexts that were taken, by what names them: none is taken twice. */
export const takenContexts = mysqlTable('taken_contexts', {
  jti: hash('jti').primaryKey(),
  until: moment('good_until').notNull(),
});

/** Where a panel was seen last, by whom; and why it was last refused. */
export const panelSights = mysqlTable('panel_sights', {
  intakeId: uuid('intake_id').primaryKey(),
  seenAt: moment('seen_at'),
  seenBy: varchar('seen_by', { length: 255 }),
  seenOn: varchar('seen_on', { length: 255 }),
  refusedAt: moment('refused_at'),
  refusedWhy: varchar('refused_why', { length: 400 }),
  refusedFrom: varchar('refused_from', { length: 300 }),
});
