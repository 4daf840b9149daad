import { createHash, randomBytes } from 'node:crypto';
import type { Role } from '@zusammen/core/api';
import {
  addFirstLink,
  addFirstUser,
  addPasswordLink,
  addSession,
  endSession,
  isFirstLink,
  linkedUser,
  noteOutcome,
  noteTry,
  sessionUser,
  setPassword,
  userByEmail,
  type Database,
  type User,
} from '../store/index.ts';
import { hashPassword, passwordFits } from './passwords.ts';

export const SESSION_HOURS = 12;
const LINK_HOURS = 48;
/** Failed tries in this time after which no more are looked at, from an address and for an account. */
export const TRIES = { minutes: 10, ofAddress: 30, ofAccount: 12 };

/** What of a session's or a link's token is kept. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

export type SignedIn =
  | { outcome: 'in'; token: string; user: User }
  | { outcome: 'no' }
  /** Too many have failed lately; whether this one would fit isn't looked at. */
  | { outcome: 'wait'; of: 'account' | 'address' };

/** @param address the IP address the try comes from */
export async function signIn(db: Database, email: string, password: string, address: string): Promise<SignedIn> {
  const now = new Date();
  const account = createHash('sha256').update(email.trim().toLowerCase()).digest().subarray(0, 16);
  const since = new Date(now.getTime() - TRIES.minutes * 60_000);
  const tried = await noteTry(db, account, address.slice(0, 45), now, since);
  if (tried.ofAddress > TRIES.ofAddress) return { outcome: 'wait', of: 'address' };
  if (tried.ofAccount > TRIES.ofAccount) return { outcome: 'wait', of: 'account' };
  const found = await userByEmail(db, email.trim());
  const fits = await passwordFits(found?.passwordHash, password);
  const succeeded = fits && found?.active === true;
  if (found) await noteOutcome(db, tried.id, found.id, succeeded);
  if (!succeeded || !found) return { outcome: 'no' };
  const token = randomBytes(32).toString('base64url');
  await addSession(db, hashOf(token), found.id, new Date(now.getTime() + SESSION_HOURS * 3_600_000));
  const { passwordHash: _, passwordSetAt: _at, ...user } = found;
  return { outcome: 'in', token, user };
}

export const userOf = (db: Database, token: string): Promise<User | undefined> => sessionUser(db, hashOf(token));
export const signOut = (db: Database, token: string): Promise<void> => endSession(db, hashOf(token));

/** Makes the one link by which somebody may set their password now. @returns its token, shown this once */
export async function makePasswordLink(db: Database, userId: string): Promise<{ token: string; expiresAt: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expiresAt = new Date(Date.now() + LINK_HOURS * 3_600_000);
  await addPasswordLink(db, userId, hashOf(token), expiresAt);
  return { token, expiresAt };
}

/** Makes the link by which an empty installation gets its first administrator. @returns undefined when it needs none */
export async function makeFirstLink(db: Database): Promise<string | undefined> {
  const token = randomBytes(32).toString('base64url');
  const now = new Date();
  const made = await addFirstLink(db, hashOf(token), now, new Date(now.getTime() + LINK_HOURS * 3_600_000));
  return made ? token : undefined;
}

export const isGoodFirstLink = (db: Database, token: string): Promise<boolean> => isFirstLink(db, hashOf(token));

/** @returns undefined when the link is not good any more */
export async function makeFirstAdministrator(
  db: Database,
  token: string,
  { email, name, password }: { email: string; name: string; password: string },
): Promise<string | undefined> {
  return addFirstUser(db, hashOf(token), { email, name, passwordHash: await hashPassword(password) });
}

export const linked = (db: Database, token: string): Promise<User | undefined> => linkedUser(db, hashOf(token));

/** Sets somebody's password. @param session the token of the session that goes on; all others end */
export async function changePassword(db: Database, userId: string, password: string, session?: string): Promise<void> {
  await setPassword(db, userId, await hashPassword(password), session === undefined ? undefined : hashOf(session));
}

const RANK: Record<Role, number> = { viewer: 0, specialist: 1, administrator: 2 };

/** Each role may do what the ones below it may. */
export const mayAct = (role: Role, needed: Role): boolean => RANK[role] >= RANK[needed];
