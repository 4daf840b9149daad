import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useIntakes, useLedger, useMe, useSystems } from '../api/hooks.ts';
import type { LedgerLine } from '@zusammen/core/api';
import { actorsOf } from '../parts/actors.ts';
import { useAddress } from '../parts/address.ts';
import { Outgoing } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { SearchBox } from '../parts/search-box.tsx';
import { Radios } from '../parts/radios.tsx';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { dayStart, Moment } from '../parts/time.tsx';
import { ValueText } from '../parts/values.tsx';
import { IntakeFilter, SubmissionBrowser } from './submission-browser.tsx';
import { ChangeStateTag } from './submission-changes.tsx';

/** Everything that arrived and everything that was ever written: one search, by submission or by change. */
export function Ledger() {
  const [params, change] = useAddress();
  const byChange = params.get('by') === 'change';
  // What is looked for stays; what stood open of the former result doesn't.
  const set = (name: string, value: string): void =>
    change({ submission: undefined, ...(name === 'by' ? { state: undefined } : {}), [name]: value });
  return (
    <>
      <Heading
        title="Ledger"
        actions={
          <span className="flex flex-wrap items-center gap-2">
            <SearchBox
              label="Search the ledger"
              placeholder="A person, a value, an id of a record"
              text={params.get('text') ?? ''}
              change={(text) => set('text', text)}
              width="w-[250px]"
            />
            <IntakeFilter chosen={params.get('intake') ?? undefined} choose={(id) => set('intake', id ?? '')} />
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
            <Radios
              label="What is listed"
              chosen={byChange ? 'change' : 'submission'}
              choose={(by) => set('by', by === 'change' ? by : '')}
              options={[
                { value: 'submission', label: 'Submissions' },
                { value: 'change', label: 'Changes' },
              ]}
            />
          </span>
        }
      />
      {byChange ? <Changes /> : <SubmissionBrowser searched />}
    </>
  );
}

function Changes() {
  const [params, change] = useAddress();
  const [before, setBefore] = useState<number[]>([]);
  const me = useMe();
  const systems = useSystems();
  const intakes = useIntakes();
  const search = {
    text: params.get('text') || undefined,
    intake: params.get('intake') ?? undefined,
    state: params.get('state') ?? undefined,
    from: dayStart(params.get('from'), 0),
    to: dayStart(params.get('to'), 1),
  };
  // Another search begins at its newest.
  const asked = JSON.stringify(search);
  useEffect(() => setBefore([]), [asked]);
  const found = useLedger({ ...search, before: before.at(-1) });
  const nameOf = (list: readonly { id: string; name: string }[] | undefined, id: string | null): string =>
    list?.find((each) => each.id === id)?.name ?? '';
  const along = (format: 'csv' | 'json'): string =>
    `/api/ledger/export?${new URLSearchParams(
      Object.entries({ ...search, format }).flatMap(([name, value]) => (value === undefined ? [] : [[name, value]])),
    )}`;
  return (
    <Sheet
      title={
        <select
          aria-label="State of changes"
          value={search.state ?? ''}
          onChange={({ target }) => change({ state: target.value })}
          className={cx(BOX, 'font-normal')}
        >
          <option value="">all states</option>
          {['written', 'refused', 'overtaken', 'unclear', 'intended'].map((state) => (
            <option key={state} value={state}>
              {state === 'intended' ? 'on its way' : state === 'unclear' ? 'not known' : state}
            </option>
          ))}
        </select>
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
            <table className="w-full min-w-[720px] table-fixed">
              <thead>
                <tr>
                  <th className={cx(TH, 'w-[120px] pl-4')}>When, by whom</th>
                  <th className={cx(TH, 'w-[180px]')}>Submission, from</th>
                  <th className={cx(TH, 'w-[150px]')}>Record, where</th>
                  <th className={TH}>Values before → after</th>
                  <th className={cx(TH, 'w-[130px]')}>State</th>
                </tr>
              </thead>
              <tbody>
                {list.map((change) => (
                  <tr key={change.id}>
                    <td className={cx(TD, 'pl-4 align-top text-small text-soft')}>
                      <Moment at={change.intendedAt} />
                      <span className="block truncate" title={actorsOf(change)}>
                        {actorsOf(change)}
                      </span>
                    </td>
                    <td className={cx(TD, 'align-top')}>
                      <Link to={causePath(change)} className="font-semibold break-words hover:underline">
                        {change.label || 'no name in it'}
                      </Link>
                      <span className="block truncate text-small text-soft">
                        {change.pairing
                          ? change.pairing.from !== null && `came from ${change.pairing.from}`
                          : nameOf(intakes.data, change.intakeId)}
                      </span>
                    </td>
                    <td className={cx(TD, 'align-top')}>
                      {change.page && change.recordId ? (
                        <a href={change.page} target="_blank" rel="noreferrer" className="text-plum hover:underline">
                          {change.recordId} ↗
                        </a>
                      ) : (
                        (change.recordId ?? '–')
                      )}
                      <span className="block truncate text-small text-soft">
                        {change.entity}, {nameOf(systems.data, change.systemId)}
                      </span>
                    </td>
                    <td className={cx(TD, 'align-top')}>
                      <ValuesOf change={change} />
                    </td>
                    <td className={cx(TD, 'align-top')}>
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

/** So many fields are shown before the rest is asked for. */
const SHOWN = 3;
/** Longer values are folded; they are there whole when unfolded. */
const LONG = 160;

/** What was written, field by field, in whole values; many fields and long values unfold. */
function ValuesOf({ change }: { change: LedgerLine }) {
  const [whole, setWhole] = useState(false);
  if (change.action === 'delete') return <span className="text-soft">the record is deleted</span>;
  if (change.action === 'schema' && change.undoes !== null)
    return <span className="text-soft">taken away: {Object.keys(change.before).join(', ')}</span>;
  const names = Object.keys(change.after);
  const folded = (value: unknown): boolean => !whole && String(value ?? '').length > LONG;
  const shown = whole ? names : names.slice(0, SHOWN);
  const more = names.length - shown.length;
  const hides = more > 0 || shown.some((name) => folded(change.before[name]) || folded(change.after[name]));
  return (
    <ul className="flex flex-wrap gap-x-5 gap-y-1">
      {shown.map((name) => (
        <li key={name} className="flex flex-wrap items-baseline gap-x-1.5">
          <Outgoing>{change.labels[name] ?? name}</Outgoing>
          {change.before[name] !== null && change.action === 'update' && (
            <>
              <span className={cx('min-w-0 break-words line-through', folded(change.before[name]) && 'line-clamp-2')}>
                <ValueText value={change.before[name]} />
              </span>
              →
            </>
          )}
          <span className={cx('min-w-0 break-words', folded(change.after[name]) && 'line-clamp-2')}>
            <ValueText value={change.after[name]} />
          </span>
        </li>
      ))}
      {(hides || (whole && names.length > 0)) && (
        <li>
          <button
            type="button"
            aria-expanded={whole}
            className="min-h-6 text-small font-semibold text-plum hover:underline"
            onClick={() => setWhole(!whole)}
          >
            {whole ? 'fold' : more > 0 ? `and ${more} more` : 'whole values'}
          </button>
        </li>
      )}
    </ul>
  );
}

/** Where the cause of a change is shown: its submission, its pairing, or a merge of doubles. */
function causePath({ submissionId, schemaChange, pairing, systemId, entity }: LedgerLine): string {
  if (schemaChange !== undefined) return `/schema/changes/${schemaChange}`;
  if (submissionId) return `/ledger?submission=${submissionId}`;
  return pairing ? `/pairings/${pairing.id}` : `/schema/doubles?system=${systemId}&entity=${entity}&show=merged`;
}
