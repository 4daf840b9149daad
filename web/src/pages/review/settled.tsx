import type { Decided } from '@zusammen/core/api';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';

/** What was done last, and how it is undone. */
export interface Done {
  submission: string;
  /** In words, with whom it was about. */
  words: string;
  /** The questions that were answered; absent where sending again can't be undone but by taking back. */
  answered?: readonly Decided[];
}

const STALE = ['submissions', 'submission', 'review', 'ledger', 'today', 'intakes', 'recognition'];

/** Says what came of the key just pressed; a decision can be undone, and is asked again then. */
export function Settled({ done, close }: { done: Done; close: () => void }) {
  const answered = done.answered ?? [];
  const [undone, setUndone] = useState(0);
  const undo = useDo(async () => {
    const kept: string[] = [];
    // One after the other: each takes back what it wrote. One that can't be undone doesn't keep the others from it.
    for (const [at, { submission, step, row }] of answered.entries()) {
      const body = row === undefined ? { step } : { step, row };
      try {
        const { results } = await call('post /submissions/:id/unanswer', { params: { id: submission }, body });
        kept.push(...results.filter((each) => !each.done).map(({ words }) => words));
      } catch (error) {
        if (answered.length === 1) throw error;
        kept.push(error instanceof Error ? error.message : String(error));
      }
      setUndone(at + 1);
    }
    return kept;
  }, STALE);
  const act = (): void => {
    if (answered.length > 0 && !undo.isPending && !undo.isSuccess) undo.mutate(undefined);
  };
  useKeys({ u: act });
  return (
    <div
      role="status"
      className="mb-3.5 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-[8px] bg-moss-wash px-4 py-2"
    >
      <span className="min-w-0 text-moss">
        {undo.isPending && answered.length > 1
          ? `Undoing, ${undone} of ${answered.length} …`
          : undo.data === undefined
            ? done.words
            : undo.data.length > 0
              ? `Not all could be undone: ${undo.data.slice(0, 3).join(' ')}`
              : answered.length === 1
                ? 'Undone; it is asked again.'
                : `All ${answered.length} undone; they are asked again.`}
      </span>
      {undo.error && <span className="text-brick">{undo.error.message}</span>}
      <span className="ml-auto flex items-center gap-4 text-small">
        {answered.length > 0 && !undo.isSuccess && (
          <button
            type="button"
            disabled={undo.isPending}
            className="inline-flex min-h-6 items-center gap-1.5 font-semibold text-plum hover:underline"
            onClick={act}
          >
            <Key name="U" /> {answered.length > 1 ? `undo all ${answered.length}` : 'undo'}
          </button>
        )}
        <Link className="font-semibold text-plum hover:underline" to={`/ledger?submission=${done.submission}`}>
          what it did
        </Link>
        <button type="button" aria-label="Close" className="min-h-6 px-1 text-soft hover:text-ink" onClick={close}>
          ×
        </button>
      </span>
    </div>
  );
}
