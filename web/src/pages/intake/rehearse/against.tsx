import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../../api/client.ts';
import type { Compared } from '@zusammen/core/api';
import { Button } from '../../../parts/button.tsx';
import { Outgoing } from '../../../parts/chip.tsx';
import { cx } from '../../../parts/cx.ts';
import { useKeys } from '../../../parts/keys.ts';
import { Sheet, TD, TH } from '../../../parts/sheet.tsx';
import { Empty, Fetched } from '../../../parts/states.tsx';
import { useDraft } from '../draft.tsx';

const LAST = [20, 50, 100, 200];

/** The draft against what is live: which of the last submissions would come out differently, and in which field. */
export function Against({ back }: { back: () => void }) {
  const { detail, document } = useDraft();
  const [last, setLast] = useState(50);
  const compared = useQuery({
    queryKey: ['compare', detail.intake.id, document, last],
    queryFn: () =>
      call('post /intakes/:id/compare', {
        params: { id: detail.intake.id },
        body: {
          document,
          last,
        },
      }),
    staleTime: 10_000,
  });
  useKeys({ Escape: back });
  return (
    <Sheet
      title={`Draft against live version ${detail.intake.liveVersion}`}
      aside={
        <>
          <label>
            the last{' '}
            <select
              className="rounded-[6px] border border-line bg-sheet px-1"
              value={last}
              onChange={({ target }) => setLast(Number(target.value))}
            >
              {LAST.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>{' '}
            submissions, as if they came now
          </label>
          <Button hotkey="Esc" onClick={back}>
            Back to the samples
          </Button>
        </>
      }
    >
      <Fetched query={compared} rows={8}>
        {({ compared: all }) => <Differences all={all} />}
      </Fetched>
    </Sheet>
  );
}

function Differences({ all }: { all: Compared[] }) {
  const differing = all.filter(({ differences }) => differences.length > 0);
  const trouble = all.filter((each) => each.trouble !== undefined);
  const byField = new Map<string, number>();
  for (const { differences } of differing)
    for (const label of new Set(
      differences.map((each) => (each.field === '' ? `what is done with ${each.label}` : each.label)),
    ))
      byField.set(label, (byField.get(label) ?? 0) + 1);
  if (all.length === 0) return <Empty title="Nothing has arrived yet">There is nothing to compare on.</Empty>;
  return (
    <>
      <p className="border-b border-hair px-4 py-2.5">
        <strong className="font-semibold">
          {differing.length} of {all.length}
        </strong>{' '}
        would come out differently
        {byField.size > 0 && (
          <span className="text-soft">: {[...byField].map(([label, count]) => `${label} in ${count}`).join(', ')}</span>
        )}
        .
        {trouble.length > 0 && (
          <span className="text-brick">
            {' '}
            {trouble.length} could not be rehearsed: {trouble[0]!.trouble}
          </span>
        )}
      </p>
      {differing.length === 0 && trouble.length === 0 && <Empty title="Nothing changes for them" />}
      {differing.length > 0 && (
        <div tabIndex={0} aria-label="Differences" className="max-h-[calc(100vh-320px)] overflow-auto">
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th className={cx(TH, 'w-[24%] pl-4')}>Submission</th>
                <th className={cx(TH, 'w-[20%]')}>Field</th>
                <th className={cx(TH, 'w-[28%]')}>Live</th>
                <th className={TH}>Draft</th>
              </tr>
            </thead>
            <tbody>
              {differing.flatMap(({ id, label, differences }) =>
                differences.map((difference, at) => (
                  <tr key={`${id} ${difference.step} ${difference.field}`}>
                    <td className={cx(TD, 'truncate pl-4')}>
                      {at === 0 && (
                        <Link className="hover:underline" to={`/ledger?submission=${id}`}>
                          {label || 'without a name'}
                        </Link>
                      )}
                    </td>
                    <td className={TD}>
                      {difference.field === '' ? (
                        <span className="text-soft">{difference.label}</span>
                      ) : (
                        <Outgoing>{difference.label}</Outgoing>
                      )}
                    </td>
                    <td className={cx(TD, 'truncate font-mono text-[13px]')} title={difference.live}>
                      {difference.live}
                    </td>
                    <td
                      className={cx(TD, 'truncate font-mono text-[13px] font-bold text-moss')}
                      title={difference.draft}
                    >
                      {difference.draft}
                    </td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
