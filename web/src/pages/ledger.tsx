import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useLedger } from '../api/hooks.ts';
import type { LedgerLine } from '../api/types.ts';
import { Outgoing } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { Moment } from '../parts/time.tsx';
import { ValueText } from '../parts/values.tsx';
import { SubmissionBrowser } from './submission-browser.tsx';
import { ChangeStateTag } from './submission-path.tsx';

/** Everything that arrived and everything that was ever written, by submission or by change. */
export function Ledger() {
  const [params, setParams] = useSearchParams();
  const byChange = params.get('by') === 'change';
  const tab = (name: string, by: string | undefined, active: boolean) => (
    <button
      type="button"
      aria-pressed={active}
      onClick={() => setParams(by ? { by } : {})}
      className={cx('rounded-[6px] px-2 py-1 text-small font-semibold', active ? 'bg-sand' : 'text-soft')}
    >
      {name}
    </button>
  );
  return (
    <>
      <Heading
        title="Ledger"
        actions={
          <div role="group" aria-label="What is listed" className="flex gap-1">
            {tab('Submissions', undefined, !byChange)}
            {tab('Changes', 'change', byChange)}
          </div>
        }
      />
      {byChange ? <Changes /> : <SubmissionBrowser />}
    </>
  );
}

function Changes() {
  const [text, setText] = useState('');
  const [before, setBefore] = useState<number[]>([]);
  const found = useLedger({ text, before: before.at(-1) });
  return (
    <Sheet
      title={
        <input
          type="search"
          aria-label="Search changes"
          placeholder="A record’s id, a person, a value"
          value={text}
          onChange={({ target }) => {
            setBefore([]);
            setText(target.value);
          }}
          className="h-[32px] w-[340px] rounded-[7px] border border-line bg-sheet px-3 font-normal"
        />
      }
      aside={
        <>
          {before.length > 0 && (
            <button
              type="button"
              className="font-semibold text-plum hover:underline"
              onClick={() => setBefore(before.slice(0, -1))}
            >
              newer
            </button>
          )}
          {found.data?.length === 100 && (
            <button
              type="button"
              className="font-semibold text-plum hover:underline"
              onClick={() => setBefore([...before, found.data!.at(-1)!.id])}
            >
              older
            </button>
          )}
        </>
      }
    >
      <Fetched query={found}>
        {(list) =>
          list.length === 0 ? (
            <Empty title={text ? 'No change like that' : 'Nothing has been written yet'} />
          ) : (
            <table className="w-full table-fixed">
              <thead>
                <tr>
                  <th className={cx(TH, 'w-[130px] pl-4')}>When</th>
                  <th className={cx(TH, 'w-[200px]')}>Submission</th>
                  <th className={cx(TH, 'w-[150px]')}>Record</th>
                  <th className={TH}>Values before → after</th>
                  <th className={cx(TH, 'w-[190px]')}>State</th>
                </tr>
              </thead>
              <tbody>
                {list.map((change) => (
                  <tr key={change.id}>
                    <td className={cx(TD, 'pl-4 text-small text-soft')}>
                      <Moment at={change.intendedAt} />
                    </td>
                    <td className={cx(TD, 'truncate')}>
                      <Link to={`/ledger?submission=${change.submissionId}`} className="font-semibold hover:underline">
                        {change.label || 'no name in it'}
                      </Link>
                    </td>
                    <td className={cx(TD, 'truncate')}>
                      {change.page && change.recordId ? (
                        <a href={change.page} target="_blank" rel="noreferrer" className="text-plum hover:underline">
                          {change.recordId} ↗
                        </a>
                      ) : (
                        (change.recordId ?? '–')
                      )}
                    </td>
                    <td className={cx(TD, 'truncate')}>
                      <ValuesOf change={change} />
                    </td>
                    <td className={TD}>
                      <ChangeStateTag change={change} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Fetched>
    </Sheet>
  );
}

const SHOWN = 2;

/** Short values are shown whole: what changed in them must be seen; long ones give way. */
const room = (value: unknown): string => (String(value).length <= 8 ? 'shrink-0' : 'truncate');

function ValuesOf({ change }: { change: LedgerLine }) {
  if (change.action === 'delete') return <span className="text-soft">the record is deleted</span>;
  const names = Object.keys(change.after);
  return (
    <span className="flex items-center gap-3 overflow-hidden">
      {names.slice(0, SHOWN).map((name) => (
        <span key={name} className="inline-flex min-w-0 items-center gap-1.5">
          <span className="shrink-0">
            <Outgoing>{change.labels[name] ?? name}</Outgoing>
          </span>
          {change.before[name] !== null && change.action === 'update' && (
            <>
              <span className={cx('line-through', room(change.before[name]))}>
                <ValueText value={change.before[name]} />
              </span>
              →
            </>
          )}
          <span className={room(change.after[name])}>
            <ValueText value={change.after[name]} />
          </span>
        </span>
      ))}
      {names.length > SHOWN && <span className="shrink-0 text-small text-soft">and {names.length - SHOWN} more</span>}
    </span>
  );
}
