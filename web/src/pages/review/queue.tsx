import type { ReviewCause, SubmissionLine } from '@zusammen/core/api';
import { useEffect, useRef } from 'react';
import { useIntakes } from '../../api/hooks.ts';
import { cx } from '../../parts/cx.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { SubmissionStateTag } from '../../parts/state.tsx';
import { count, Moment } from '../../parts/time.tsx';
import { keyOf } from './cause-key.ts';

/** What waits, by cause, the commonest first; of the chosen cause, each submission. */
export function Queue({
  causes,
  group,
  list,
  chosen,
  choose,
  pick,
}: {
  causes: readonly ReviewCause[];
  group: ReviewCause;
  list: readonly SubmissionLine[];
  chosen: string | undefined;
  choose: (cause: ReviewCause) => void;
  pick: (submission: string) => void;
}) {
  const marked = useRef<HTMLButtonElement>(null);
  const intakes = useIntakes();
  const nameOf = ({ intakeId, intakeKey }: ReviewCause): string =>
    intakes.data?.find(({ id }) => id === intakeId)?.name ?? intakeKey;
  useEffect(() => {
    // What it returns, a promise in newer browsers, is no clean-up.
    void marked.current?.scrollIntoView?.({ block: 'nearest' });
  }, [chosen]);
  return (
    <Sheet>
      <ul tabIndex={0} aria-label="What waits" className="max-h-[calc(100vh-150px)] overflow-auto">
        {causes.map((cause) => {
          const open = keyOf(cause) === keyOf(group);
          return (
            <li key={keyOf(cause)} className="border-t border-hair first:border-t-0">
              <button
                type="button"
                onClick={() => choose(cause)}
                aria-expanded={open}
                className={cx(
                  'block w-full px-4 py-2 text-left hover:bg-wash',
                  open && 'shadow-[inset_4px_0_0_var(--color-plum)]',
                )}
              >
                <span className="flex items-start justify-between gap-2">
                  <span className={cx('line-clamp-2', open ? 'font-semibold' : '')}>
                    {cause.words ?? 'Which record is meant?'}
                  </span>
                  <span className="shrink-0 font-mono text-[13px] text-soft">{count(cause.count)}</span>
                </span>
                <span className="flex items-center justify-between gap-2 text-small text-soft">
                  <span className="truncate">{nameOf(cause)}</span>
                  <SubmissionStateTag state={cause.state} />
                </span>
              </button>
              {open && (
                <ul aria-label="Alike">
                  {list.map(({ id, label, receivedAt }) => (
                    <li key={id}>
                      <button
                        ref={id === chosen ? marked : undefined}
                        type="button"
                        aria-current={id === chosen}
                        onClick={() => pick(id)}
                        className={cx(
                          'flex w-full items-baseline justify-between gap-2 py-1 pr-4 pl-7 text-left text-small hover:bg-wash',
                          id === chosen && 'bg-plum-wash/60 font-semibold',
                        )}
                      >
                        <span className="truncate">{label || 'without a name'}</span>
                        <span className="shrink-0 font-normal text-soft">
                          <Moment at={receivedAt} />
                        </span>
                      </button>
                    </li>
                  ))}
                  {cause.count > list.length && list.length > 0 && (
                    <li className="py-1 pl-7 text-small text-soft">
                      and {count(cause.count - list.length)} older ones
                    </li>
                  )}
                </ul>
              )}
            </li>
          );
        })}
      </ul>
    </Sheet>
  );
}
