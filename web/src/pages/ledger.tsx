import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useLedger, useMe } from '../api/hooks.ts';
import type { LedgerLine } from '@zusammen/core/api';
import { Outgoing } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { Moment } from '../parts/time.tsx';
import { ValueText } from '../parts/values.tsx';
import { IntakeFilter, SubmissionBrowser } from './submission-browser.tsx';
import { ChangeStateTag } from './submission-changes.tsx';

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
  const [params, setParams] = useSearchParams();
  const [before, setBefore] = useState<number[]>([]);
  const me = useMe();
  const text = params.get('text') ?? '';
  const search = {
    text: text || undefined,
    intake: params.get('intake') ?? undefined,
    state: params.get('state') ?? undefined,
    from: dayStart(params.get('from'), 0),
    to: dayStart(params.get('to'), 1),
  };
  const set = (name: string, value: string): void => {
    setBefore([]);
    setParams(
      (held) => {
        const next = new URLSearchParams(held);
        if (value === '') next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  };
  const found = useLedger({ ...search, before: before.at(-1) });
  const along = (format: 'csv' | 'json'): string =>
    `/api/ledger/export?${new URLSearchParams(
      Object.entries({ ...search, format }).flatMap(([name, value]) => (value === undefined ? [] : [[name, value]])),
    )}`;
  return (
    <Sheet
      title={
        <span className="flex flex-wrap items-center gap-2 font-normal">
          <input
            type="search"
            aria-label="Search changes"
            placeholder="A record’s id, a person, a value"
            value={text}
            onChange={({ target }) => set('text', target.value)}
            className={cx(BOX, 'w-[250px]')}
          />
          <IntakeFilter chosen={search.intake} choose={(id) => set('intake', id ?? '')} />
          <select
            aria-label="State of changes"
            value={search.state ?? ''}
            onChange={({ target }) => set('state', target.value)}
            className={BOX}
          >
            <option value="">all states</option>
            {['written', 'refused', 'overtaken', 'unclear', 'intended'].map((state) => (
              <option key={state} value={state}>
                {state === 'intended' ? 'on its way' : state === 'unclear' ? 'not known' : state}
              </option>
            ))}
          </select>
          <input
            type="date"
            aria-label="From"
            value={params.get('from') ?? ''}
            onChange={({ target }) => set('from', target.value)}
            className={BOX}
          />
          –
          <input
            type="date"
            aria-label="To"
            value={params.get('to') ?? ''}
            onChange={({ target }) => set('to', target.value)}
            className={BOX}
          />
        </span>
      }
      aside={
        <>
          {me.data && me.data.role !== 'viewer' && (
            <span>
              take along as{' '}
              <a className="font-semibold text-plum hover:underline" href={along('csv')}>
                CSV
              </a>{' '}
              <a className="font-semibold text-plum hover:underline" href={along('json')}>
                JSON
              </a>
            </span>
          )}
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
            <Empty
              title={
                Object.values(search).some((each) => each !== undefined)
                  ? 'No change like that'
                  : 'Nothing has been written yet'
              }
            />
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
                      <Link
                        to={change.submissionId ? `/ledger?submission=${change.submissionId}` : mergePath(change)}
                        className="font-semibold hover:underline"
                      >
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

const BOX = 'h-[32px] rounded-[7px] border border-line bg-sheet px-2';

/** The start of a day in the viewer's zone, or of the one after, as an exact moment. */
function dayStart(day: string | null, later: 0 | 1): string | undefined {
  const [year, month, date] = (day ?? '').split('-').map(Number);
  if (!year || !month || !date) return undefined;
  const moment = new Date(year, month - 1, date + later);
  return Number.isNaN(moment.getTime()) ? undefined : moment.toISOString();
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

/** A merge of doubles stands in the ledger without a submission. */
const mergePath = ({ systemId, entity }: LedgerLine): string =>
  `/schema/doubles?system=${systemId}&entity=${entity}&show=merged`;
