import type { Entity } from '@zusammen/core/schema';
import type { FeedRow, Query } from '../../store/index.ts';
import type { Page } from '../../systems/index.ts';

/**
 * Whoever wants to know the records of an entity and what becomes of them.
 *
 * Invariant: a page may come twice (after a crash, or when everything is read again), so taking one in twice is the same
 * as once.
 */
export interface FeedListener {
  /** The fields it needs besides the key. */
  readonly fields: readonly string[];
  /** What it has can't be gone on from: everything has to be read from the start. */
  readonly needsWhole: boolean;
  /** Everything is going to be read from the start. */
  begin(): Promise<void>;
  /** @returns whether anything in it was new */
  take(page: Page, reading: FeedReading): Promise<boolean>;
  /** Kept together with how far the reading is. */
  note(query: Query): Promise<void>;
  /** Everything has been read: what this reading didn't bring is gone from the system. */
  whole(reading: Omit<FeedReading, 'asked'>): Promise<void>;
  /** For now there is nothing more to be told. */
  rest(changed: boolean): Promise<void>;
}

/** One reading of a feed: of everything, or of what has changed. */
export interface FeedReading {
  /** Counts readings of everything. */
  generation: number;
  whole: boolean;
  /** When the page was asked for, in milliseconds since 1970. */
  asked: number;
}

/** Gives the listener to an entity's records, where there is one of its kind. */
export type Listen = (feed: FeedRow, entity: Entity) => Promise<FeedListener | undefined>;
