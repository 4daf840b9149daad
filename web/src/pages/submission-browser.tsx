import { useState } from 'react';
import { useIntakes, useSubmissions } from '../api/hooks.ts';
import { SUBMISSION_STATES, type SubmissionState } from '@zusammen/core/api';
import { useIsLive } from '../api/live.ts';
import { useAddress } from '../parts/address.ts';
import { cx } from '../parts/cx.ts';
import { Key } from '../parts/key.tsx';
import { listKeys, useKeys } from '../parts/keys.ts';
import { SearchBox } from '../parts/search-box.tsx';
import { Sheet, TD } from '../parts/sheet.tsx';
import { SubmissionStateTag } from '../parts/state.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { count, dayStart, Moment } from '../parts/time.tsx';
import { PathOfSubmission } from './submission-path.tsx';

const STATES: readonly SubmissionState[] = SUBMISSION_STATES;
const PAGE = 100;

/**
 * Submissions on the left, newest first and arriving as one looks; on the right the path of the chosen one.
 * @param searched the page around it has the search; else it stands here
 */
export function SubmissionBrowser({ intake, searched = false }: { intake?: string; searched?: boolean }) {
  const [params, change] = useAddress();
  const [before, setBefore] = useState<number[]>([]);
  const set = (name: string, value: string | undefined): void => change({ [name]: value });
  const state = STATES.find((each) => each === params.get('state'));
  const text = params.get('text') ?? '';
  const from = intake ?? params.get('intake') ?? undefined;
  const found = useSubmissions(
    {
      ...{ intake: from, state, text, before: before.at(-1) },
      ...{ from: dayStart(params.get('from'), 0), to: dayStart(params.get('to'), 1) },
    },
    1_000,
  );
  const list = found.data?.submissions ?? [];
  const counts = found.data?.counts ?? {};
  const chosen = params.get('submission') ?? list[0]?.id;
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === chosen),
  );
  useKeys({ ...listKeys(list.length, at, (to) => list[to] && set('submission', list[to].id)) });
  const filter = (name: string, value: string | undefined): void => {
    setBefore([]);
    set(name, value);
  };
  return (
    <div className="grid grid-cols-[minmax(0,4fr)_minmax(0,7fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
      <Sheet>
        <div className="space-y-2 border-b border-hair p-3">
          {!searched && (
            <div className="flex gap-2">
              <SearchBox
                label="Search submissions"
                placeholder="A name, an address, any value"
                text={text}
                change={(text) => filter('text', text)}
                width="min-w-0 flex-1"
              />
              {!intake && <IntakeFilter chosen={from} choose={(id) => filter('intake', id)} />}
            </div>
          )}
          <div role="group" aria-label="State" className="flex flex-wrap gap-1">
            <Filter name="all" active={state === undefined} choose={() => filter('state', undefined)} />
            {STATES.filter((each) => (counts[each] ?? 0) > 0 || each === state).map((each) => (
              <Filter
                key={each}
                name={each}
                many={counts[each] ?? 0}
                active={each === state}
                choose={() => filter('state', each)}
              />
            ))}
          </div>
        </div>
        <Fetched query={found}>
          {() =>
            list.length === 0 ? (
              <Empty title={text || state ? 'No matches' : 'Nothing has arrived yet'}>
                {text || state
                  ? 'Search for less, or in all states.'
                  : 'Submissions appear here within a second of their arrival.'}
              </Empty>
            ) : (
              <div className="max-h-[calc(100vh-330px)] min-h-[240px] overflow-auto">
                <table className="w-full table-fixed">
                  <tbody>
                    {list.map(({ id, label, state: is, receivedAt, intakeKey, outcome }, index) => (
                      <tr
                        key={id}
                        className={cx('cursor-pointer hover:bg-wash', index === at && 'bg-plum-wash/60')}
                        onClick={() => set('submission', id)}
                        aria-selected={index === at}
                      >
                        <td className={cx(TD, 'pl-4', index === at && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
                          <button
                            type="button"
                            className="block max-w-full truncate font-semibold"
                            onClick={() => set('submission', id)}
                          >
                            {label || 'no name in it'}
                          </button>
                          <span className="block truncate text-small text-soft">
                            {!intake && `${intakeKey}, `}
                            <Moment at={receivedAt} />
                          </span>
                        </td>
                        <td className={cx(TD, 'w-[46%] pr-4 text-right')}>
                          <SubmissionStateTag state={is} />
                          {is === 'applied' && outcome && (
                            <span className="ml-2 inline-block w-[64px] text-left text-small text-soft">{outcome}</span>
                          )}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )
          }
        </Fetched>
        <footer className="flex items-center justify-between border-t border-hair px-4 py-2 text-small text-soft">
          <span>
            <Key name="J" /> <Key name="K" /> move <Liveness />
          </span>
          <span className="flex gap-3">
            {before.length > 0 && (
              <button
                type="button"
                className="font-semibold text-plum hover:underline"
                onClick={() => setBefore(before.slice(0, -1))}
              >
                newer
              </button>
            )}
            {list.length === PAGE && (
              <button
                type="button"
                className="font-semibold text-plum hover:underline"
                onClick={() => setBefore([...before, list.at(-1)!.seq])}
              >
                older
              </button>
            )}
          </span>
        </footer>
      </Sheet>
      {chosen ? (
        <PathOfSubmission key={chosen} id={chosen} />
      ) : (
        <Sheet title="Path of a submission">
          <Empty title="Choose a submission" />
        </Sheet>
      )}
    </div>
  );
}

/** Whether what arrives is shown as it arrives. */
function Liveness() {
  const live = useIsLive();
  return (
    <span className={cx('ml-3', live ? 'text-moss' : 'text-saffron')} role="status">
      {live ? '● live' : '◌ looks every 2 seconds'}
    </span>
  );
}

function Filter({ name, many, active, choose }: { name: string; many?: number; active: boolean; choose: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={active}
      onClick={choose}
      className={cx(
        'rounded-[6px] px-2 py-0.5 text-small font-semibold',
        active ? 'bg-sand' : 'text-soft hover:bg-wash',
      )}
    >
      {name}
      {many !== undefined && <span className="ml-1 font-mono font-normal">{count(many)}</span>}
    </button>
  );
}

export function IntakeFilter({
  chosen,
  choose,
}: {
  chosen: string | undefined;
  choose: (id: string | undefined) => void;
}) {
  const intakes = useIntakes();
  return (
    <select
      aria-label="Intake"
      value={chosen ?? ''}
      onChange={({ target }) => choose(target.value || undefined)}
      className="h-[32px] max-w-[150px] rounded-[7px] border border-line bg-sheet px-2"
    >
      <option value="">all intakes</option>
      {intakes.data
        ?.filter(({ id, putAwayAt }) => putAwayAt === null || id === chosen)
        .map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
    </select>
  );
}
