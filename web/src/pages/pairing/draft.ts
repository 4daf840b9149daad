import { useQueryClient } from '@tanstack/react-query';
import type { PairingDetail } from '@zusammen/core/api';
import type { Pairing } from '@zusammen/core/pairing';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, ApiProblem } from '../../api/client.ts';

/** Milliseconds without a change after which the draft is kept. */
const KEPT_AFTER_MS = 400;

export interface PairingDraft {
  document: Pairing;
  /** As it was kept last: what is looked at. */
  kept: { document: Pairing; revision: number };
  change: (work: (document: Pairing) => Pairing) => void;
  undo: (() => void) | undefined;
  saving: boolean;
  trouble: string | undefined;
  /** Resolves with the revision once everything is kept. */
  settled: () => Promise<number>;
}

/** A pairing's draft: changed at once in the page, and kept a moment later; every change can be undone. */
export function usePairingDraft(pairing: PairingDetail): PairingDraft {
  const client = useQueryClient();
  const [document, setDocument] = useState(pairing.draft);
  const [kept, setKept] = useState({ document: pairing.draft, revision: pairing.revision });
  const [past, setPast] = useState<Pairing[]>([]);
  const [saving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const latest = useRef({ document, revision: pairing.revision, kept: pairing.draft });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const running = useRef<Promise<void>>(Promise.resolve());

  const save = useCallback((): Promise<void> => {
    clearTimeout(timer.current);
    running.current = running.current.then(async () => {
      const { document: now, revision, kept: before } = latest.current;
      if (now === before) return;
      setSaving(true);
      try {
        const body = { document: now, revision };
        const answer = await call('put /pairings/:id/draft', { params: { id: pairing.id }, body });
        latest.current = { ...latest.current, revision: answer.revision, kept: now };
        setKept({ document: now, revision: answer.revision });
        setTrouble(undefined);
        void client.invalidateQueries({ queryKey: ['pairings'], exact: true });
      } catch (error) {
        setTrouble(error instanceof ApiProblem ? error.message : 'It could not be kept.');
      } finally {
        setSaving(latest.current.document !== latest.current.kept);
      }
    });
    return running.current;
  }, [client, pairing.id]);

  const put = useCallback(
    (next: Pairing) => {
      latest.current.document = next;
      setDocument(next);
      setSaving(true);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), KEPT_AFTER_MS);
    },
    [save],
  );
  // What was changed last is kept when the page is left.
  useEffect(() => () => void save(), [save]);

  const change = useCallback(
    (work: (document: Pairing) => Pairing) => {
      const before = latest.current.document;
      const next = work(before);
      if (next === before) return;
      setPast((all) => [...all.slice(-99), before]);
      put(next);
    },
    [put],
  );
  const undo = (): void => {
    const before = past.at(-1);
    if (!before) return;
    setPast(past.slice(0, -1));
    put(before);
  };
  return {
    ...{ document, kept, change, saving, trouble },
    undo: past.length > 0 ? undo : undefined,
    settled: async () => {
      await save();
      return latest.current.revision;
    },
  };
}
