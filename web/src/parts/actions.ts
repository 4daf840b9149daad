import { useEffect, useRef, useSyncExternalStore } from 'react';

/** Something that can be done on the page that is open. */
export interface Action {
  name: string;
  /** The key that does the same. */
  hotkey?: string;
  act: () => void;
}

let offered: readonly (readonly Action[])[] = [];
const hearers = new Set<() => void>();

function change(next: typeof offered): void {
  offered = next;
  for (const hear of hearers) hear();
}

/** Lets *Find or do* offer what the page can do, while it is there. */
export function useActions(actions: readonly Action[]): void {
  const latest = useRef(actions);
  latest.current = actions;
  const named = actions.map(({ name, hotkey }) => `${name}\n${hotkey ?? ''}`).join('\n\n');
  useEffect(() => {
    // The page may have other closures by then; what is done is what it would do now.
    const mine = latest.current.map(({ name, hotkey }, at): Action => {
      const act = (): void => latest.current[at]?.act();
      return hotkey === undefined ? { name, act } : { name, hotkey, act };
    });
    change([...offered, mine]);
    return () => change(offered.filter((each) => each !== mine));
  }, [named]);
}

const listen = (hear: () => void): (() => void) => {
  hearers.add(hear);
  return () => hearers.delete(hear);
};

/** What can be done on the page that is open. */
export const useOffered = (): Action[] => useSyncExternalStore(listen, () => offered).flat();
