import { SUBMISSION_STATES, type ImportLine, type SubmissionState } from '@zusammen/core/api';
import { useState } from 'react';
import { Link } from 'react-router';
import { useImportRows } from '../../../api/hooks.ts';
import { cx } from '../../../parts/cx.ts';
import { Radios } from '../../../parts/radios.tsx';
import { TD } from '../../../parts/sheet.tsx';
import { SubmissionStateTag } from '../../../parts/state.tsx';
import { count } from '../../../parts/time.tsx';

/** One page of rows, as the server sends them. */
const PAGE = 200;

/** What became of a file's rows: how many in which state, each row with its reason, and all of it as a file to take along. */
export function ImportReport({ line }: { line: ImportLine }) {
  const [shown, setShown] = useState<SubmissionState | 'all' | 'not taken in'>('all');
  const [after, setAfter] = useState(0);
  const state = shown === 'all' || shown === 'not taken in' ? undefined : shown;
  const found = useImportRows(line.id, after, state);
  const totals = found.data?.totals ?? {};
  const rows = shown === 'not taken in' ? [] : (found.data?.rows ?? []);
  const problems = state === undefined && after === 0 ? line.problems : [];
  return (
    <div className="mt-2 rounded-[8px] border border-hair">
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-2 py-1 text-small">
        <Radios
          label="Rows shown"
          chosen={shown}
          choose={(next) => {
            setAfter(0);
            setShown(next);
          }}
          options={[
            { value: 'all', label: `all ${count(line.done)}` },
            ...SUBMISSION_STATES.filter((each) => (totals[each] ?? 0) > 0).map((each) => ({
              value: each,
              label: `${each} ${count(totals[each] ?? 0)}`,
            })),
            ...(line.problems.length > 0
              ? [{ value: 'not taken in' as const, label: `not taken in ${count(line.problems.length)}` }]
              : []),
          ]}
        />
        <a
          className="ml-auto font-semibold text-plum hover:underline"
          href={`/api/imports/${line.id}/report`}
          download={`${line.fileName} rows.csv`}
        >
          Take along as CSV
        </a>
      </div>
      <div tabIndex={0} aria-label="What became of the rows" className="max-h-[280px] overflow-auto">
        <table className="w-full">
          <tbody>
            {problems.map(({ row, what }) => (
              <tr key={`p${row}`}>
                <td className={cx(TD, 'w-[70px] font-mono')}>{row}</td>
                <td className={cx(TD, 'text-brick')} colSpan={2}>
                  not taken in: {what}
                </td>
              </tr>
            ))}
            {rows.map(({ row, submission, state: came, label, words }) => (
              <tr key={row}>
                <td className={cx(TD, 'w-[70px] font-mono')}>{row}</td>
                <td className={cx(TD, 'max-w-[200px] truncate')}>
                  <Link className="hover:underline" to={`/ledger?submission=${submission}`}>
                    {label || 'without a name'}
                  </Link>
                </td>
                <td className={TD}>
                  <SubmissionStateTag state={came} /> <span className="text-small text-soft">{words}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {(after > 0 || rows.length === PAGE) && (
        <div className="flex gap-3 px-3 py-1.5 text-small">
          {after > 0 && (
            <button type="button" className="font-semibold text-plum hover:underline" onClick={() => setAfter(0)}>
              from the start
            </button>
          )}
          {rows.length === PAGE && (
            <button
              type="button"
              className="font-semibold text-plum hover:underline"
              onClick={() => setAfter(rows.at(-1)!.row)}
            >
              the next {PAGE}
            </button>
          )}
        </div>
      )}
    </div>
  );
}
