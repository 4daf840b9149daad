import { useCallback, useRef } from 'react';

/**
 * The same function always, which does what the latest one given does: a part of the page that gets it isn't drawn again
 * for its sake. For what is called by events, not while drawing.
 */
export function useSteady<Args extends unknown[], Result>(work: (...args: Args) => Result): (...args: Args) => Result {
  const latest = useRef(work);
  latest.current = work;
  return useCallback((...args: Args) => latest.current(...args), []);
}
