import type { Values } from '../schema/index.ts';
import { sameValue } from '../values/index.ts';

/**
 * What is known of a record without asking its system: the values it had when it was last seen.
 *
 * Invariant: `version` grows with every change of what is kept here, so that whoever has read it, and asked a system
 * meanwhile, notices that something newer was seen in between.
 */
export interface Seen {
  values: Values;
  etag: string | undefined;
  /** When its system says it was changed, by our clock. Milliseconds since 1970, like all moments here. */
  changedAt: number | undefined;
  /** When the page was asked for that brought it last; 0: none did. */
  asked: number;
  /** When our own last reading or writing of it was answered; 0: there was none. */
  touched: number;
  version: number;
  gone: boolean;
}

/** A record as a page of a feed, or a reading of its own, brings it. */
export interface Arrived {
  values: Values;
  etag: string | undefined;
  changedAt: number | undefined;
  /** When it was asked for. */
  asked: number;
}

/** How far the clocks of our own processes may be apart, in milliseconds. */
const CLOCKS_APART_MS = 2_000;

/**
 * What becomes of what is known when a page brings a record.
 *
 * A page may have been read before we last wrote or read the record, and come in after: then it tells of the past, and
 * taking it for news would undo a change. Or it was read after, and holds somebody's change. Which, it doesn't say; so
 * where it differs and may have been asked for before, the record is in doubt and is read by itself.
 */
export function take(held: Seen | undefined, page: Arrived): { seen: Seen; news: boolean; doubt: boolean } {
  const fresh = { ...page, touched: held?.touched ?? 0, version: (held?.version ?? 0) + 1, gone: false };
  if (!held) return { seen: fresh, news: true, doubt: false };
  const isOld = page.asked < held.asked || (held.touched > 0 && page.asked < held.touched + CLOCKS_APART_MS);
  if (isSame(held, page)) {
    // Something that isn't looked at has changed: its version is kept, for the next write to name.
    const isNewer = !isOld && page.etag !== held.etag;
    return { seen: isNewer ? fresh : held, news: false, doubt: false };
  }
  if (isOld) return { seen: { ...held, version: held.version + 1 }, news: true, doubt: true };
  return { seen: fresh, news: true, doubt: false };
}

/** What becomes of what is known when a feed tells that the record is gone. */
export function takeGone(held: Seen, asked: number): { seen: Seen; news: boolean; doubt: boolean } {
  if (held.gone) return { seen: held, news: false, doubt: false };
  const version = held.version + 1;
  if (held.touched > 0 && asked < held.touched + CLOCKS_APART_MS)
    return { seen: { ...held, version }, news: true, doubt: true };
  // What it held is kept no longer than it is there.
  return { seen: { ...held, values: {}, version, gone: true }, news: true, doubt: false };
}

const isSame = (held: Seen, { values }: Arrived): boolean =>
  !held.gone && Object.keys(values).every((name) => sameInOrder(held.values[name], values[name]));

/** Lists are sets to a record, but a list in another order is kept as it is now. */
const sameInOrder = (a: Values[string] | undefined, b: Values[string] | undefined): boolean =>
  sameValue(a, b) && (!Array.isArray(b) || JSON.stringify(a) === JSON.stringify(b));

/**
 * What is known once a write or a reading of ours was answered.
 * @param read the version that was known when the system was asked
 * @returns `doubt`: something else was seen meanwhile, and the record has to be read
 */
export function answered(
  held: Seen | undefined,
  read: number,
  answer: Omit<Arrived, 'asked'>,
  now: number,
): { seen: Seen; doubt: boolean } {
  const version = (held?.version ?? 0) + 1;
  if (held && held.version !== read) return { seen: { ...held, version }, doubt: true };
  const values = { ...held?.values, ...answer.values };
  return { seen: { ...answer, values, asked: held?.asked ?? 0, touched: now, version, gone: false }, doubt: false };
}
