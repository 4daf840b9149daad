import type { Role } from './roles.ts';

export interface User {
  id: string;
  email: string;
  name: string;
  role: Role;
  active: boolean;
}

export interface Change {
  id: number;
  at: string;
  userName: string;
  what: string;
  details: string | null;
}

/** A change with the name of what it is about, as far as that is still there. */
export type NamedChange = Change & { about: string | null };

export interface SignInLine {
  id: number;
  at: string;
  address: string;
  succeeded: boolean;
  /** Whose account it was; null where there is none of that address. */
  name: string | null;
}
