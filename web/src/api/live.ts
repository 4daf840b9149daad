import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';

/** Whether this page is told of changes as they happen; while it isn't, it asks. */
let connected = false;
const heard = new Set<() => void>();
const set = (now: boolean): void => {
  connected = now;
  for (const each of heard) each();
};

/** How often to ask: as given, or seldom while changes are told. */
export const asking = (everyMs: number): (() => number) => {
  return () => (connected ? Math.max(everyMs, 20_000) : everyMs);
};

export const useIsLive = (): boolean =>
  useSyncExternalStore(
    (listener) => {
      heard.add(listener);
      return () => heard.delete(listener);
    },
    () => connected,
  );

/** Changes come in bursts; what they make stale is fetched at most this often. */
const AT_MOST_EVERY_MS = 500;

/** Listens to what arrives and what becomes of it, and lets go of what that makes stale. */
export function useLiveFeed(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource('/api/live');
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stale = (): void => {
      timer ??= setTimeout(() => {
        timer = undefined;
        for (const key of ['submissions', 'submission', 'review', 'ledger', 'today'])
          void client.invalidateQueries({ queryKey: [key] });
        // The list with its figures; an open intake's samples and rehearsal aren't touched by arrivals.
        void client.invalidateQueries({ queryKey: ['intakes'], exact: true });
      }, AT_MOST_EVERY_MS);
    };
    source.addEventListener('open', () => set(true));
    source.addEventListener('error', () => set(false));
    // From here on everything is told; what came while nobody listened is read anew.
    source.addEventListener('ready', stale);
    source.addEventListener('submissions', stale);
    source.addEventListener('imports', () => {
      void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey.includes('imports') });
      void client.invalidateQueries({ queryKey: ['import'] });
    });
    return () => {
      clearTimeout(timer);
      source.close();
      set(false);
    };
  }, [client]);
}
