import { useQuery } from '@tanstack/react-query';
import type { RehearsedRow, UploadedFile } from '@zusammen/core/api';
import { effectKey, type Outcome } from '@zusammen/core/plans';
import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { cx } from '../../../parts/cx.ts';
import { plural } from '../../../parts/plural.ts';
import { Radios } from '../../../parts/radios.tsx';
import { TD } from '../../../parts/sheet.tsx';
import { OutcomeTag } from '../../../parts/state.tsx';
import { count } from '../../../parts/time.tsx';
import { useDraft } from '../draft.tsx';
import { StepOpened } from '../rehearse/step-opened.tsx';

type Fate = 'goes in' | 'asks in Review' | 'is refused' | 'can’t be taken in';

/** In a word what would become of a row. */
function fateOf(row: RehearsedRow): Fate {
  if ('what' in row) return 'can’t be taken in';
  if (row.trouble !== undefined || !row.course) return 'is refused';
  if (row.course.state === 'applied') return 'goes in';
  return row.course.state === 'in review' ? 'asks in Review' : 'is refused';
}

const FATES: Fate[] = ['goes in', 'asks in Review', 'is refused', 'can’t be taken in'];

/** A file before it is taken in: what each of its first rows would do. Nothing is written until somebody says so. */
export function FileRehearsed({
  file,
  open,
  close,
}: {
  file: UploadedFile['file'];
  /** The intake takes submissions. */
  open: boolean;
  close: () => void;
}) {
  const { detail } = useDraft();
  const { id } = detail.intake;
  const [shown, setShown] = useState<Fate | 'all'>('all');
  const rehearsal = useQuery({
    queryKey: ['file rehearsal', id, detail.intake.liveVersion, file.id],
    queryFn: () => call('post /intakes/:id/imports/rehearsal', { params: { id }, body: { file: file.id } }),
    staleTime: 60_000,
  });
  const start = useDo(
    () => call('post /intakes/:id/imports', { params: { id }, body: { file: file.id } }),
    ['intakes'],
  );
  const results = rehearsal.data?.results ?? [];
  const fates = new Map<Fate, number>();
  for (const row of results) fates.set(fateOf(row), (fates.get(fateOf(row)) ?? 0) + 1);
  const done = tally(results);
  const rows = results.filter((row) => shown === 'all' || fateOf(row) === shown);
  return (
    <section aria-label={`${file.name} rehearsed`} className="border-t border-hair bg-wash px-4 py-3">
      <p>
        <strong className="font-semibold">{file.name}</strong>{' '}
        {rehearsal.data ? (
          <>
            rehearsed{rehearsal.data.version === undefined ? ' by the draft' : ` by version ${rehearsal.data.version}`};
            nothing is written yet.{' '}
            {file.rows > results.length && `Its first ${count(results.length)} of ${count(file.rows)} rows: `}
            {done.map(([outcome, many]) => `${plural(many, 'record')} ${WORDS[outcome]}`).join(', ')}
            {done.length > 0 && '.'}
          </>
        ) : (
          !rehearsal.error && <span role="status">is being rehearsed; nothing is written …</span>
        )}
      </p>
      {rehearsal.error && (
        <p role="alert" className="mt-1 text-brick">
          It could not be rehearsed: {rehearsal.error.message}
        </p>
      )}
      {results.length > 0 && (
        <div className="sheet mt-2">
          <Radios
            label="Rows shown"
            className="border-b border-hair p-1 text-small"
            chosen={shown}
            choose={setShown}
            options={[
              { value: 'all', label: `all ${count(results.length)}` },
              ...FATES.filter((fate) => fates.has(fate)).map((fate) => ({
                value: fate,
                label: `${fate} ${count(fates.get(fate)!)}`,
              })),
            ]}
          />
          <div tabIndex={0} aria-label="What the rows would do" className="max-h-[240px] overflow-auto">
            <table className="w-full">
              <tbody>
                {rows.map((row) => (
                  <Row key={row.row} row={row} />
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
      {start.error && (
        <p role="alert" className="mt-2 text-brick">
          {start.error.message}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <Button
          look="strong"
          disabled={!open || !rehearsal.data}
          busy={start.isPending}
          onClick={() => start.mutate(undefined, { onSuccess: close })}
        >
          Take in the {plural(file.rows, 'row')}
        </Button>
        <Button onClick={close}>Not now</Button>
      </div>
    </section>
  );
}

const WORDS: Partial<Record<Outcome, string>> = {
  created: 'new',
  updated: 'changed',
  unchanged: 'unchanged',
  deleted: 'deleted',
};

/** How many records would be made, changed, left as they are and deleted. */
function tally(results: readonly RehearsedRow[]): [Outcome, number][] {
  const counts = new Map<Outcome, number>();
  for (const row of results)
    for (const { outcome } of 'what' in row ? [] : (row.course?.steps ?? []))
      if (WORDS[outcome] !== undefined) counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
  return [...counts];
}

/** One row in a line; opened, each field before and after. */
function Row({ row }: { row: RehearsedRow }) {
  const [opened, setOpened] = useState(false);
  const steps = 'what' in row ? [] : (row.course?.steps ?? []);
  const label = row.label || 'without a name';
  return (
    <>
      <tr>
        <td className={cx(TD, 'w-[60px] pl-3 font-mono')}>{row.row}</td>
        <td className={cx(TD, 'max-w-[180px] truncate')}>
          {steps.length === 0 ? (
            label
          ) : (
            <button
              type="button"
              aria-expanded={opened}
              title="Show each field before and after"
              className="max-w-full truncate font-semibold text-plum hover:underline"
              onClick={() => setOpened(!opened)}
            >
              {label}
            </button>
          )}
        </td>
        <td className={TD}>
          <Doings row={row} />
        </td>
      </tr>
      {opened && (
        <tr>
          <td colSpan={3} className="border-t border-hair p-0">
            {steps.map((step) => (
              <StepOpened key={effectKey(step.step, step.row)} step={step} />
            ))}
          </td>
        </tr>
      )}
    </>
  );
}

function Doings({ row }: { row: RehearsedRow }) {
  if ('what' in row) return <span className="text-brick">{row.what}</span>;
  if (row.trouble !== undefined) return <span className="text-brick">{row.trouble}</span>;
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      {row.course?.steps.map(({ step, row: at, outcome, why }) => (
        <span key={`${step} ${at ?? ''}`} className="inline-flex items-center gap-1.5">
          <OutcomeTag outcome={outcome} />
          {why && <span className="text-small text-soft">{why}</span>}
        </span>
      ))}
    </span>
  );
}
