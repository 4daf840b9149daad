import type { SheetTold } from '@zusammen/core/api';
import type { ColumnEvidence } from '@zusammen/core/forms';
import type { ReferenceSeen, SheetEntity } from '@zusammen/core/new-entities';
import { useEffect, useState } from 'react';
import { apiLines } from '../../api/client.ts';

/** What is known of a sheet so far, and what somebody has made of it. */
export interface SheetState {
  read: (SheetTold & { kind: 'read' }) | undefined;
  /** Rows looked through, while that goes on. */
  progress: number;
  evidence: ReadonlyMap<string, ColumnEvidence>;
  references: ReadonlyMap<string, ReferenceSeen>;
  /** All has been looked at. */
  whole: boolean;
  error: unknown;
  sheet: SheetEntity | undefined;
  /** A reference that was measured for what somebody has chosen. */
  measured: (seen: ReferenceSeen) => void;
  change: (next: SheetEntity) => void;
  /** Back to what was proposed. */
  afresh: () => void;
  changed: boolean;
}

const heldUnder = (system: string, file: string): string => `new entity ${system} ${file}`;

function held(key: string): SheetEntity | undefined {
  try {
    const kept = localStorage.getItem(key);
    return kept === null ? undefined : (JSON.parse(kept) as SheetEntity);
  } catch {
    return undefined;
  }
}

/** Looks an uploaded sheet through, and keeps what somebody makes of it until the entity is made. */
export function useSheet(system: string, file: string): SheetState {
  const key = heldUnder(system, file);
  const [read, setRead] = useState<SheetState['read']>();
  const [progress, setProgress] = useState(0);
  const [evidence, setEvidence] = useState<ReadonlyMap<string, ColumnEvidence>>(new Map());
  const [references, setReferences] = useState<ReadonlyMap<string, ReferenceSeen>>(new Map());
  const [proposal, setProposal] = useState<SheetEntity>();
  const [own, setOwn] = useState<SheetEntity | undefined>(() => held(key));
  const [whole, setWhole] = useState(false);
  const [error, setError] = useState<unknown>();
  const measured = (seen: ReferenceSeen): void => setReferences((before) => new Map(before).set(seen.column, seen));
  useEffect(() => {
    const leave = new AbortController();
    const hear = (told: SheetTold): void => {
      if (told.kind === 'read') setRead(told);
      else if (told.kind === 'progress') setProgress(told.rows);
      else if (told.kind === 'seen') {
        setEvidence(new Map(told.columns.map(({ column, evidence }) => [column, evidence])));
        setProposal(told.proposal);
      } else measured(told.seen);
    };
    apiLines(`/schema/${system}/sheets/look`, { file }, hear, leave.signal).then(
      () => setWhole(true),
      (trouble: unknown) => {
        if (!leave.signal.aborted) setError(trouble);
      },
    );
    return () => leave.abort();
  }, [system, file]);
  return {
    ...{ read, progress, evidence, references, whole, error, measured },
    sheet: own ?? proposal,
    changed: own !== undefined,
    change: (next) => {
      setOwn(next);
      localStorage.setItem(key, JSON.stringify(next));
    },
    afresh: () => {
      setOwn(undefined);
      localStorage.removeItem(key);
    },
  };
}

/** What was made of a sheet is of no more use once its entity is there. */
export const forgetSheet = (system: string, file: string): void => localStorage.removeItem(heldUnder(system, file));
