import { useSearchParams } from 'react-router';
import { useSubmission, useSubmissions } from '../../api/hooks.ts';
import type { SubmissionLine } from '@zusammen/core/api';
import { Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Key } from '../../parts/key.tsx';
import { listKeys, useKeys } from '../../parts/keys.ts';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { SubmissionStateTag } from '../../parts/state.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { PutRight } from './put-right.tsx';
import { WhichOne } from './which-one.tsx';

const SHOWN = {
  all: { name: 'All', states: ['in review', 'refused', 'failed'] },
  decide: { name: 'To decide', states: ['in review'] },
  mend: { name: 'To put right', states: ['refused', 'failed'] },
} as const;
type Shown = keyof typeof SHOWN;

/** What waits for somebody: the queue on the left, one decision on the right; a key decides and the next comes up. */
export function Review() {
  const [params, setParams] = useSearchParams();
  const shown: Shown = Object.hasOwn(SHOWN, params.get('show') ?? '') ? (params.get('show') as Shown) : 'all';
  const waiting = useSubmissions({ state: SHOWN[shown].states.join(',') }, 2_000);
  const list = waiting.data?.submissions ?? [];
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === params.get('submission')),
  );
  const set = (changed: Record<string, string>): void =>
    setParams((held) => ({ ...Object.fromEntries(held), ...changed }), { replace: true });
  const go = (to: number): void => list[to] && set({ submission: list[to].id });
  useKeys(listKeys(list.length, at, go));
  const chosen = list[at];
  const counts = waiting.data?.counts ?? {};
  const count = (which: Shown): number => SHOWN[which].states.reduce((sum, state) => sum + (counts[state] ?? 0), 0);
  return (
    <>
      <Heading
        title="Review"
        actions={
          <div role="radiogroup" aria-label="What is shown" className="flex gap-1">
            {(Object.keys(SHOWN) as Shown[]).map((each) => (
              <button
                key={each}
                type="button"
                role="radio"
                aria-checked={each === shown}
                onClick={() => setParams(each === 'all' ? {} : { show: each }, { replace: true })}
                className={cx(
                  'rounded-[6px] px-2.5 py-1 text-small',
                  each === shown ? 'bg-sand font-semibold' : 'text-soft hover:bg-wash',
                )}
              >
                {SHOWN[each].name} <span className="font-mono">{count(each)}</span>
              </button>
            ))}
          </div>
        }
      >
        {count('all') > 0 && <Tag tone="saffron">{count('all') === 1 ? '1 waits' : `${count('all')} wait`}</Tag>}
        {list.length > 0 && (
          <span className="text-soft">
            oldest shown <Moment at={list.at(-1)!.receivedAt} />, <Key name="J" /> <Key name="K" /> move
          </span>
        )}
      </Heading>
      <Fetched query={waiting}>
        {() =>
          !chosen ? (
            <Sheet>
              <Empty title="Nothing waits for anybody">
                Where a plan says “ask”, its questions come here; and what a system refused, to be put right.
              </Empty>
            </Sheet>
          ) : (
            <div className="grid grid-cols-[300px_minmax(0,1fr)] items-start gap-3.5">
              <Queue list={list} at={at} go={go} />
              <Decision key={chosen.id} id={chosen.id} />
            </div>
          )
        }
      </Fetched>
    </>
  );
}

function Queue({ list, at, go }: { list: SubmissionLine[]; at: number; go: (to: number) => void }) {
  return (
    <Sheet>
      <ul tabIndex={0} aria-label="What waits" className="max-h-[calc(100vh-150px)] overflow-auto">
        {list.map(({ id, label, intakeKey, words, receivedAt, state }, index) => (
          <li key={id} className="border-t border-hair first:border-t-0">
            <button
              type="button"
              onClick={() => go(index)}
              aria-current={index === at}
              className={cx(
                'block w-full px-4 py-2.5 text-left hover:bg-wash',
                index === at && 'bg-plum-wash/60 shadow-[inset_4px_0_0_var(--color-plum)]',
              )}
            >
              <span className="line-clamp-2 font-semibold">{words ?? 'Which record is meant?'}</span>
              <span className="block truncate text-small text-soft">
                {label}, {intakeKey}
              </span>
              <span className="flex items-center justify-between text-small text-soft">
                <Moment at={receivedAt} /> <SubmissionStateTag state={state} />
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function Decision({ id }: { id: string }) {
  const path = useSubmission(id);
  return (
    <Sheet>
      <Fetched query={path}>
        {(told) =>
          told.submission.state === 'in review' ? (
            <WhichOne told={told} />
          ) : ['refused', 'failed'].includes(told.submission.state) ? (
            <PutRight told={told} />
          ) : (
            <Empty title="This has just been decided" />
          )
        }
      </Fetched>
    </Sheet>
  );
}
