/**
 * A value with what it was and what it would be again. Undoing a change gives the very value there was before, redoing
 * it the very value there was after; a new change leaves nothing to redo.
 */
export interface History<T> {
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
}

/** Changes that can be undone. */
const MOST_STEPS = 100;

export const begun = <T>(now: T): History<T> => ({ past: [], now, future: [] });

/** @param work gives the next value; the same value is no change */
export function changed<T>(history: History<T>, work: (now: T) => T): History<T> {
  const next = work(history.now);
  if (next === history.now) return history;
  return { past: [...history.past, history.now].slice(-MOST_STEPS), now: next, future: [] };
}

export function undone<T>({ past, now, future }: History<T>): History<T> {
  return past.length === 0
    ? { past, now, future }
    : { past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future] };
}

export function redone<T>({ past, now, future }: History<T>): History<T> {
  return future.length === 0
    ? { past, now, future }
    : { past: [...past, now], now: future[0]!, future: future.slice(1) };
}
