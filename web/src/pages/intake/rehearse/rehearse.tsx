import type { SubmittedValues } from '@zusammen/core/forms';
import { effectKey, type Outcome, type StepReport } from '@zusammen/core/plans';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import type { Rehearsed } from '@zusammen/core/api';
import { Button } from '../../../parts/button.tsx';
import { cx } from '../../../parts/cx.ts';
import { Key } from '../../../parts/key.tsx';
import { listKeys, useKeys } from '../../../parts/keys.ts';
import { Sheet, TD, TH } from '../../../parts/sheet.tsx';
import { OutcomeTag } from '../../../parts/state.tsx';
import { Empty, Skeleton, Trouble } from '../../../parts/states.tsx';
import { Moment } from '../../../parts/time.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft, type SampleLine } from '../draft.tsx';
import { AddSample } from './add-sample.tsx';
import { Against } from './against.tsx';
import { MakeUp } from './make-up.tsx';
import { StepName, StepOpened } from './step-opened.tsx';

/** Samples × steps with what would happen; one sample opened, field by field, before and after. Nothing is written. */
export function Rehearse() {
  const { detail, samples, rehearsal, document, mayEdit, changed } = useDraft();
  const [params, setParams] = useSearchParams();
  const [adding, setAdding] = useState<{ begin?: SubmittedValues }>();
  const changeOpened = (): void => setAdding(samples[at] ? { begin: samples[at].values } : {});
  const at = Math.max(
    0,
    samples.findIndex(({ id }) => id === params.get('sample')),
  );
  const go = (to: number): void => samples[to] && setParams({ sample: samples[to].id }, { replace: true });
  const mayCompare = mayEdit && detail.intake.liveVersion !== null && changed;
  useKeys({
    ...listKeys(samples.length, at, go),
    r: rehearsal.again,
    n: () => mayEdit && setAdding({}),
    e: () => mayEdit && changeOpened(),
    l: () => mayCompare && setParams({ against: 'live' }, { replace: true }),
  });
  const results = rehearsal.data;
  const against = params.get('against') === 'live';
  if (against) return <Against back={() => setParams({}, { replace: true })} />;
  return (
    <div
      className={cx(
        'grid items-start gap-3.5 max-[900px]:grid-cols-1',
        // Many steps need the room that one sample opened can spare.
        document.plan.steps.length > 2
          ? 'grid-cols-[minmax(0,5fr)_minmax(0,3fr)]'
          : 'grid-cols-[minmax(0,5fr)_minmax(0,6fr)]',
      )}
    >
      <Sheet
        title={
          samples[0]?.madeUp ? 'A made-up sample' : `${samples.length} ${samples.length === 1 ? 'sample' : 'samples'}`
        }
        aside={
          <>
            {mayEdit && samples.length > 0 && !samples[0]!.madeUp && <MakeUp />}
            {mayCompare && (
              <Button hotkey="L" onClick={() => setParams({ against: 'live' }, { replace: true })}>
                Draft against live
              </Button>
            )}
            {mayEdit && (
              <Button hotkey="N" onClick={() => setAdding({})}>
                Add a sample
              </Button>
            )}
          </>
        }
      >
        {samples.length === 0 ? (
          <Empty title="No samples yet">Paste what a form sends, or wait for the first submissions.</Empty>
        ) : (
          <div tabIndex={0} className="max-h-[calc(100vh-300px)] overflow-auto">
            <table className="w-full">
              <thead>
                <tr>
                  <th className={cx(TH, 'pl-4')}>Sample</th>
                  {document.plan.steps.map((step) => (
                    <th key={step.id} className={TH}>
                      <StepName id={step.id} />
                    </th>
                  ))}
                  {document.plan.steps.length < 4 && <th className={TH}>Fields written</th>}
                </tr>
              </thead>
              <tbody>
                {samples.map((sample, index) => (
                  <SampleRow
                    key={sample.id}
                    sample={sample}
                    result={results?.[index]}
                    chosen={index === at}
                    steps={document.plan.steps.map(({ id }) => id)}
                    choose={() => go(index)}
                  />
                ))}
              </tbody>
            </table>
          </div>
        )}
        {rehearsal.error && <Trouble error={rehearsal.error} retry={rehearsal.again} />}
      </Sheet>
      {samples[at] ? (
        <Opened sample={samples[at]} result={results?.[at]} fetching={rehearsal.isFetching} changeIt={changeOpened} />
      ) : (
        <Sheet title="What would be written">
          <Empty title="Choose a sample" />
        </Sheet>
      )}
      {adding && <AddSample begin={adding.begin} close={() => setAdding(undefined)} />}
    </div>
  );
}

/** What came of a step, or of its rows: each outcome once, with how many rows had it. */
function StepOutcomes({ reports }: { reports: readonly StepReport[] }) {
  const counts = new Map<Outcome, number>();
  for (const { outcome } of reports) counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
  return (
    <span className="flex flex-wrap gap-1">
      {[...counts].map(([outcome, count]) => (
        <span key={outcome} className="inline-flex items-center gap-1">
          <OutcomeTag outcome={outcome} />
          {count > 1 && <span className="font-mono text-[12px] text-soft">×{count}</span>}
        </span>
      ))}
    </span>
  );
}

const written = (step: StepReport): number =>
  ['created', 'updated'].includes(step.outcome) ? step.changes.filter(({ kept }) => kept === undefined).length : 0;

function SampleRow({
  sample,
  result,
  chosen,
  steps,
  choose,
}: {
  sample: SampleLine;
  result: Rehearsed | undefined;
  chosen: boolean;
  /** The plan's steps, by id. */
  steps: readonly string[];
  choose: () => void;
}) {
  return (
    <tr
      className={cx('cursor-pointer hover:bg-wash', chosen && 'bg-plum-wash/60')}
      onClick={choose}
      aria-selected={chosen}
    >
      <td
        className={cx(
          TD,
          'max-w-[190px] truncate pl-4',
          chosen && 'font-semibold shadow-[inset_3px_0_0_var(--color-plum)]',
        )}
        title={sample.title}
      >
        <button type="button" onClick={choose} className="max-w-full truncate">
          {sample.title}
        </button>
      </td>
      {result?.trouble ? (
        <td className={cx(TD, 'text-brick')} colSpan={steps.length + 1}>
          {result.trouble}
        </td>
      ) : (
        <>
          {steps.map((id) => (
            <td key={id} className={TD}>
              {result?.course ? (
                <StepOutcomes reports={result.course.steps.filter(({ step }) => step === id)} />
              ) : (
                <span className="text-soft">…</span>
              )}
            </td>
          ))}
          {steps.length < 4 && (
            <td className={cx(TD, 'font-mono')}>
              {result?.course ? result.course.steps.reduce((sum, step) => sum + written(step), 0) : ''}
            </td>
          )}
        </>
      )}
    </tr>
  );
}

function Opened({
  sample,
  result,
  fetching,
  changeIt,
}: {
  sample: SampleLine;
  result: Rehearsed | undefined;
  fetching: boolean;
  /** Opens the form with this sample's values, to keep them otherwise. */
  changeIt: () => void;
}) {
  const { detail, mayEdit } = useDraft();
  const forget = useDo(
    () => call('delete /intakes/:id/samples/:sample', { params: { id: detail.intake.id, sample: sample.id } }),
    ['intakes'],
  );
  return (
    <Sheet
      title={
        <>
          <span className="truncate">{sample.title}</span>
          <span className="font-normal whitespace-nowrap text-soft">
            {sample.madeUp ? (
              'made up, sent by nobody'
            ) : (
              <>
                {sample.kept ? 'kept' : 'sent'} <Moment at={sample.at} />
              </>
            )}
          </span>
        </>
      }
      aside={
        <>
          {fetching && <span className="late">rehearsing…</span>}
          {sample.kept && mayEdit && (
            <button
              type="button"
              className="font-semibold hover:text-brick hover:underline"
              onClick={() => forget.mutate(undefined)}
            >
              remove it
            </button>
          )}
          {mayEdit && (
            <button
              type="button"
              className="inline-flex items-center gap-1.5 font-semibold text-plum hover:underline"
              onClick={changeIt}
            >
              <Key name="E" /> {sample.madeUp ? 'change it' : 'another like it'}
            </button>
          )}
          {!sample.madeUp && (
            <>
              <Key name="J" />
              <Key name="K" />
            </>
          )}
        </>
      }
    >
      <div tabIndex={0} className="max-h-[calc(100vh-300px)] overflow-auto">
        {result?.trouble && (
          <p role="alert" className="p-4 text-brick">
            {result.trouble}
          </p>
        )}
        {!result && <Skeleton />}
        {result?.course?.steps.map((step) => (
          <StepOpened key={effectKey(step.step, step.row)} step={step} />
        ))}
        <details className="border-t border-hair px-4 py-2">
          <summary className="cursor-pointer text-small font-semibold text-soft">What came in</summary>
          <table className="mt-2">
            <tbody>
              {Object.entries(sample.values).map(([name, value]) => (
                <tr key={name}>
                  <th scope="row" className="pr-6 text-left font-mono text-[13px] font-normal text-soft">
                    {name}
                  </th>
                  <td>
                    <ValueText value={value} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </div>
    </Sheet>
  );
}
