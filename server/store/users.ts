import { and, desc, eq, gt, inArray, lt, ne } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { atomically, inTransaction } from './transaction.ts';
import type { Role } from '@zusammen/core/api';
import { passwordLinks, sessions, signIns, users } from './schema.ts';

export type User = Omit<typeof users.$inferSelect, 'passwordHash' | 'passwordSetAt'>;

const columns = {
  id: users.id,
  email: users.email,
  name: users.name,
  role: users.role,
  active: users.active,
  createdAt: users.createdAt,
};

export async function userByEmail(db: Database, email: string): Promise<typeof users.$inferSelect | undefined> {
  return (await db.select().from(users).where(eq(users.email, email.toLowerCase())))[0];
}

export async function listUsers(db: Database): Promise<User[]> {
  return db.select(columns).from(users).orderBy(users.name);
}

/** @throws ER_DUP_ENTRY when the address is taken */
export async function addUser(
  db: Database,
  user: { email: string; name: string; role: Role; passwordHash: string },
): Promise<string> {
  const id = uuid();
  await db.insert(users).values({ ...user, email: user.email.toLowerCase(), id, createdAt: new Date() });
  return id;
}

export async function changeUser(
  db: Database,
  id: string,
  change: { role?: Role; active?: boolean; name?: string },
): Promise<boolean> {
  const [result] = await db.update(users).set(change).where(eq(users.id, id));
  if (change.active === false) await db.delete(sessions).where(eq(sessions.userId, id));
  return result.affectedRows > 0;
}

export async function addSession(db: Database, tokenHash: string, userId: string, expiresAt: Date): Promise<void> {
  await db.delete(sessions).where(lt(sessions.expiresAt, new Date()));
  await db.insert(sessions).values({ tokenHash, userId, createdAt: new Date(), expiresAt });
}

export async function sessionUser(db: Database, tokenHash: string): Promise<User | undefined> {
  const found = await db
    .select(columns)
    .from(sessions)
    .innerJoin(users, eq(users.id, sessions.userId))
    .where(and(eq(sessions.tokenHash, tokenHash), gt(sessions.expiresAt, new Date()), eq(users.active, true)));
  return found[0];
}

export async function endSession(db: Database, tokenHash: string): Promise<void> {
  await db.delete(sessions).where(eq(sessions.tokenHash, tokenHash));
}

/** Of these sessions those that still hold: neither ended nor run out, and their people still have access. */
export async function sessionsThatHold(db: Database, tokenHashes: readonly string[]): Promise<Set<string>> {
  if (tokenHashes.length === 0) return new Set();
  const rows = await db
    .select({ tokenHash: sessions.tokenHash })
    .from(sessions)
    .innerJoin(users, eq(users.id, sessions.userId))
    .where(
      and(inArray(sessions.tokenHash, [...tokenHashes]), gt(sessions.expiresAt, new Date()), eq(users.active, true)),
    );
  return new Set(rows.map(({ tokenHash }) => tokenHash));
}

export async function userById(db: Database, id: string): Promise<typeof users.$inferSelect | undefined> {
  return (await db.select().from(users).where(eq(users.id, id)))[0];
}

/** Sets a password; every session but the one named ends, and no link to set one is good any more. */
export async function setPassword(
  db: Database,
  userId: string,
  passwordHash: string,
  keptSession: string | undefined,
): Promise<void> {
  await atomically(db, async (tx) => {
    await tx.update(users).set({ passwordHash, passwordSetAt: new Date() }).where(eq(users.id, userId));
    await tx
      .delete(sessions)
      .where(and(eq(sessions.userId, userId), ...(keptSession ? [ne(sessions.tokenHash, keptSession)] : [])));
    await tx.delete(passwordLinks).where(eq(passwordLinks.userId, userId));
  });
}

/** Keeps a link by which somebody sets a password; an earlier one of theirs is good no longer. */
export async function addPasswordLink(db: Database, userId: string, tokenHash: string, expiresAt: Date): Promise<void> {
  await atomically(db, async (tx) => {
    await tx.delete(passwordLinks).where(eq(passwordLinks.userId, userId));
    await tx.insert(passwordLinks).values({ tokenHash, userId, createdAt: new Date(), expiresAt });
  });
}

/** Whose password a link sets, while it is good. */
export async function linkedUser(db: Database, tokenHash: string): Promise<User | undefined> {
  const found = await db
    .select(columns)
    .from(passwordLinks)
    .innerJoin(users, eq(users.id, passwordLinks.userId))
    .where(
      and(eq(passwordLinks.tokenHash, tokenHash), gt(passwordLinks.expiresAt, new Date()), eq(users.active, true)),
    );
  return found[0];
}

export interface Try {
  id: number;
  /** Failed tries in the time looked at, this one among them. */
  ofAccount: number;
  ofAddress: number;
}

/**
 * Puts a try to sign in on record before anything else is done about it, so that a thousand at once are counted too.
 * @param since failures before it don't count
 */
export function noteTry(db: Database, account: Buffer, address: string, at: Date, since: Date): Promise<Try> {
  return inTransaction(db, async (query) => {
    const [row] = await query<{ id: number }>(
      'INSERT INTO sign_ins (at, account, address, succeeded) VALUES (?, ?, ?, FALSE) RETURNING id',
      [at, account, address],
    );
    const [counts] = await query<{ ofAccount: number; ofAddress: number }>(
      `SELECT (SELECT COUNT(*) FROM sign_ins WHERE account = ? AND at >= ? AND NOT succeeded) AS ofAccount,
         (SELECT COUNT(*) FROM sign_ins WHERE address = ? AND at >= ? AND NOT succeeded) AS ofAddress`,
      [account, since, address, since],
    );
    return { id: row!.id, ofAccount: Number(counts!.ofAccount), ofAddress: Number(counts!.ofAddress) };
  });
}

/** A try came from somebody known here, and whether it let them in. */
export async function noteOutcome(db: Database, id: number, userId: string, succeeded: boolean): Promise<void> {
  await db.update(signIns).set({ userId, succeeded }).where(eq(signIns.id, id));
}

export interface SignInLine {
  id: number;
  at: Date;
  address: string;
  succeeded: boolean;
  /** Null for an address that nobody here has. */
  name: string | null;
}

/** The newest tries to sign in. */
export async function newestSignIns(db: Database, limit: number): Promise<SignInLine[]> {
  return db
    .select({
      id: signIns.id,
      at: signIns.at,
      address: signIns.address,
      succeeded: signIns.succeeded,
      name: users.name,
    })
    .from(signIns)
    .leftJoin(users, eq(users.id, signIns.userId))
    .orderBy(desc(signIns.id))
    .limit(limit);
}

export async function forgetSignIns(db: Database, before: Date): Promise<void> {
  await db.delete(signIns).where(lt(signIns.at, before));
}

/** Stands where a link's person would: the link makes the first administrator of an installation that has nobody. */
const NOBODY = '00000000-0000-0000-0000-000000000000';

/** Keeps a link that makes the first administrator. @returns false when somebody has access, or such a link is good already */
export function addFirstLink(db: Database, tokenHash: string, now: Date, expiresAt: Date): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [there] = await query<{ people: number; links: number }>(
      'SELECT (SELECT COUNT(*) FROM users) AS people, (SELECT COUNT(*) FROM password_links WHERE user_id = ? AND expires_at > ?) AS links',
      [NOBODY, now],
    );
    if (Number(there!.people) > 0 || Number(there!.links) > 0) return false;
    await query('DELETE FROM password_links WHERE user_id = ?', [NOBODY]);
    await query('INSERT INTO password_links (token_hash, user_id, created_at, expires_at) VALUES (?, ?, ?, ?)', [
      tokenHash,
      NOBODY,
      now,
      expiresAt,
    ]);
    return true;
  });
}

/** Whether a link that makes the first administrator is good. */
export async function isFirstLink(db: Database, tokenHash: string): Promise<boolean> {
  const found = await db
    .select({ userId: passwordLinks.userId })
    .from(passwordLinks)
    .where(
      and(
        eq(passwordLinks.tokenHash, tokenHash),
        eq(passwordLinks.userId, NOBODY),
        gt(passwordLinks.expiresAt, new Date()),
      ),
    );
  return found.length > 0;
}

/** Makes the first administrator by a link. @returns undefined when the link isn't good, or somebody has access already */
export function addFirstUser(
  db: Database,
  tokenHash: string,
  user: { email: string; name: string; passwordHash: string },
): Promise<string | undefined> {
  return inTransaction(db, async (query) => {
    const links = await query(
      'SELECT 1 FROM password_links WHERE token_hash = ? AND user_id = ? AND expires_at > ? FOR UPDATE',
      [tokenHash, NOBODY, new Date()],
    );
    const people = await query('SELECT 1 FROM users LIMIT 1');
    if (links.length === 0 || people.length > 0) return undefined;
    const id = uuid();
    await query(
      'INSERT INTO users (id, email, name, role, password_hash, password_set_at, active, created_at) VALUES (?, ?, ?, ?, ?, ?, TRUE, ?)',
      [...[id, user.email.toLowerCase(), user.name, 'administrator', user.passwordHash], ...[new Date(), new Date()]],
    );
    await query('DELETE FROM password_links WHERE user_id = ?', [NOBODY]);
    return id;
  });
}
