import { createHash, randomBytes } from 'node:crypto';
import {
  addSession,
  endSession,
  sessionUser,
  userByEmail,
  type Database,
  type Role,
  type User,
} from '../store/index.ts';
import { passwordFits } from './passwords.ts';

export const SESSION_HOURS = 12;
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** @returns a new session's token and its person, or undefined when address and password don't fit */
export async function signIn(
  db: Database,
  email: string,
  password: string,
): Promise<{ token: string; user: User } | undefined> {
  const found = await userByEmail(db, email);
  if (!(await passwordFits(found?.passwordHash, password)) || !found?.active) return undefined;
  const token = randomBytes(32).toString('base64url');
  await addSession(db, hashOf(token), found.id, new Date(Date.now() + SESSION_HOURS * 3_600_000));
  const { passwordHash: _, ...user } = found;
  return { token, user };
}

export const userOf = (db: Database, token: string): Promise<User | undefined> => sessionUser(db, hashOf(token));
export const signOut = (db: Database, token: string): Promise<void> => endSession(db, hashOf(token));

const RANK: Record<Role, number> = { viewer: 0, specialist: 1, administrator: 2 };

/** Each role may do what the ones below it may. */
export const mayAct = (role: Role, needed: Role): boolean => RANK[role] >= RANK[needed];
