/** Why a part of an adapter is as it is. */
export interface Reason {
  why: string;
  /** How sure that is, from 0 to 1; 1 where a person has said it. */
  sure: number;
}

/** Reasons by what they are about: `subscribers/paging`, `subscribers/fields/email`, `sign-in`. */
export type AdapterReasons = Record<string, Reason>;

export const OPERATIONS = [
  'list',
  'next page',
  'read',
  'find',
  'changes',
  'create',
  'repeat',
  'update',
  'delete',
] as const;
export type AdapterOperation = (typeof OPERATIONS)[number];

/** A place in an answer that the adapter makes use of, and what for. */
export interface Mark {
  at: string;
  as: 'records' | 'id' | 'next' | 'changed' | 'version' | 'words';
}

/** What would set an adapter right, by what was seen. */
export interface AdapterMend {
  words: string;
  /** Places within the entity, and what is to stand there; null takes it away. */
  set: { at: string; value: unknown }[];
}

/** What came of trying one operation with the system itself. */
export interface AdapterTrial {
  entity: string;
  operation: AdapterOperation;
  state: 'worked' | 'failed' | 'untried';
  /** What it came to, in words. */
  words: string;
  /** As it was sent, such as `GET /subscribers?limit=2`. */
  request?: string;
  body?: string;
  status?: number;
  /** Milliseconds. */
  ms?: number;
  /** The answer, or the beginning of a long one; lists are shortened. */
  answer?: string;
  marks?: Mark[];
  mend?: AdapterMend;
}
