import type { AdapterDocument, EntityAdapter } from '@zusammen/core/adapters';
import { useCallback, useState } from 'react';

/** An adapter as it is being changed, kept in this browser until it is saved or let go of. */
export interface AdapterDraft {
  document: AdapterDocument;
  changed: boolean;
  /** Takes the last change back; absent: there is none. */
  undo?: () => void;
  set: (document: AdapterDocument) => void;
  /** Changes one entity. */
  entity: (name: string, change: (entity: EntityAdapter) => EntityAdapter) => void;
  /** Back to what is kept. */
  drop: () => void;
}

const MOST_STEPS = 50;

/** @param kept what the server has, of this version */
export function useAdapterDraft(system: string, version: number, kept: AdapterDocument): AdapterDraft {
  const place = `adapter ${system} ${version}`;
  const [steps, setSteps] = useState<AdapterDocument[]>(() => {
    const held = sessionStorage.getItem(place);
    return held === null ? [] : [JSON.parse(held) as AdapterDocument];
  });
  const keep = useCallback(
    (next: AdapterDocument[]) => {
      const last = next.at(-1);
      if (last) sessionStorage.setItem(place, JSON.stringify(last));
      else sessionStorage.removeItem(place);
      setSteps(next.slice(-MOST_STEPS));
    },
    [place],
  );
  const document = steps.at(-1) ?? kept;
  const set = (next: AdapterDocument): void => keep([...steps, next]);
  return {
    document,
    changed: steps.length > 0,
    ...(steps.length > 0 ? { undo: () => keep(steps.slice(0, -1)) } : {}),
    set,
    entity: (name, change) =>
      set({ ...document, entities: document.entities.map((each) => (each.name === name ? change(each) : each)) }),
    drop: () => keep([]),
  };
}
