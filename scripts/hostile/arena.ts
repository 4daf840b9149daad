import type { EvilServer } from './evil-server.ts';

/** What an attack works with. */
export interface Arena {
  address: string;
  /** Where the CRM and the others are that stand in. */
  standins: string;
  /** Signed in with a role; resolves with the status. */
  as(role: 'viewer' | 'specialist' | 'administrator', method: string, path: string, body?: BodyLike): Promise<number>;
  /** Signed in as a specialist; resolves with what was answered, as JSON. */
  ask(method: string, path: string, body?: BodyLike): Promise<{ status: number; body: Answer }>;
  /** Without signing in. */
  post(path: string, body: BodyLike, headers?: Record<string, string>): Promise<number>;
  /** 1 for the trial at length; a fraction of it in the test suite. */
  size: number;
  /** A server of the attacker's, and what it answers. */
  evil: EvilServer;
}
/** The little that an attack needs to read of answers. */
interface Answer {
  intakes?: { id: string; key: string }[];
  systems?: { id: string; kind: string; name: string }[];
  acting?: object;
  /** Conversions of many, newest first. */
  bulks?: { state: string; total: number; ends?: Record<string, number> }[];
  /** Of what was made. */
  id?: string;
  file?: { id: string };
  submissions?: { id: string }[];
  intake?: { id: string; draft: { plan: { steps: { lines: { from: string[] }[] }[] } } };
}
type BodyLike = string | Uint8Array | URLSearchParams | FormData;

export interface Attack {
  name: string;
  /** @returns the statuses that came back */
  run(arena: Arena): Promise<number[]>;
}

export const together = <T>(count: number, work: (at: number) => Promise<T>): Promise<T[]> =>
  Promise.all(Array.from({ length: count }, (_, at) => work(at)));
export const json = (value: unknown): string => JSON.stringify(value);
export const field = (name: string, label: string, more: object = {}) => ({ name, label, type: 'text', ...more });

/** Somebody as the form takes them. */
export const PERSON = {
  contact_first: 'Kathi',
  contact_last: 'Brandt',
  contact_email: 'kathi@biene.example',
  plz: '21614',
};
