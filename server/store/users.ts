import { and, eq, gt, lt } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { sessions, users, type Role } from './schema.ts';

export type User = Omit<typeof users.$inferSelect, 'passwordHash'>;

const columns = {
  id: users.id,
  email: users.email,
  name: users.name,
  role: users.role,
  active: users.active,
  createdAt: users.createdAt,
};

export async function userByEmail(db: Database, email: string): Promise<typeof users.$inferSelect | undefined> {
  return (await db.select().from(users).where(eq(users.email, email)))[0];
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
  await db.insert(users).values({ ...user, id, createdAt: new Date() });
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
