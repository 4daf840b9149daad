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
  /** The question that was answered; absent where sending again can't be undone but by taking back. */
  answered?: { step: string; row?: number };
}

/** Says what came of the key just pressed; a decision can be undone, and is asked again then. */
export function Settled({ done, close }: { done: Done; close: () => void }) {
  const undo = useDo(
    () =>
      call('post /submissions/:id/unanswer', { params: { id: done.submission }, body: done.answered ?? { step: '' } }),
    ['submissions', 'submission', 'review', 'ledger', 'today', 'intakes', 'recognition'],
  );
  const act = (): void => {
    if (done.answered && !undo.isPending && !undo.isSuccess) undo.mutate(undefined);
  };
  useKeys({ u: act });
  const kept = undo.data?.results.filter((each) => !each.done) ?? [];
  return (
    <div
      role="status"
      className="mb-3.5 flex flex-wrap items-center gap-x-4 gap-y-1 rounded-[8px] bg-moss-wash px-4 py-2"
    >
      <span className="min-w-0 text-moss">
        {undo.isSuccess
          ? kept.length === 0
            ? 'Undone; it is asked again.'
            : `Not all could be undone: ${kept.map(({ words }) => words).join(' ')}`
          : done.words}
      </span>
      {undo.error && <span className="text-brick">{undo.error.message}</span>}
      <span className="ml-auto flex items-center gap-4 text-small">
        {done.answered && !undo.isSuccess && (
          <button
            type="button"
            disabled={undo.isPending}
            className="inline-flex min-h-6 items-center gap-1.5 font-semibold text-plum hover:underline"
            onClick={act}
          >
            <Key name="U" /> undo
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
