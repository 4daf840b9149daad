import type { FormField } from '@zusammen/core/forms';
import { effectKey, rowsOf, type StepReport } from '@zusammen/core/plans';
import type { Values } from '@zusammen/core/schema';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.ts';
import { useDo, useMe, useSubmission, useSystem } from '../api/hooks.ts';
import type { LedgerChange, PaymentTold, SubmissionPath } from '@zusammen/core/api';
import { amountText } from '@zusammen/core/forms/hosted';
import { Button } from '../parts/button.tsx';
import { Incoming, Outgoing, Tag } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { Sheet, TD, TH } from '../parts/sheet.tsx';
import { OutcomeTag, SubmissionStateTag } from '../parts/state.tsx';
import { Fetched } from '../parts/states.tsx';
import { Moment, span } from '../parts/time.tsx';
import { ValueText } from '../parts/values.tsx';
import { SetAside } from './set-aside.tsx';
import { Changes } from './submission-changes.tsx';
import { Verdict, WeighedLine } from './submission-verdict.tsx';

/** One submission step by step: what came in, what each step found and wrote, what was sent and answered. */
export function PathOfSubmission({ id }: { id: string }) {
  const path = useSubmission(id);
  return (
    <Sheet>
      <Fetched query={path} rows={9}>
        {(told) => <Path told={told} />}
      </Fetched>
    </Sheet>
  );
}

function Path({ told }: { told: SubmissionPath }) {
  const { submission, intake, steps, changes, fields, paper } = told;
  // With one step it is taken back with the submission.
  const several = submission.state !== 'received' && new Set(steps.map(({ step }) => step)).size > 1;
  const took = submission.settledAt
    ? new Date(submission.settledAt).getTime() - new Date(submission.receivedAt).getTime()
    : undefined;
  return (
    <article>
      <header className="flex items-start justify-between gap-4 border-b border-hair px-4 py-2.5">
        <div className="min-w-0">
          <h2 className="flex items-center gap-2 font-semibold">
            <span className="truncate">{submission.label || 'no name in it'}</span>
            <SubmissionStateTag state={submission.state} />
          </h2>
          <p className="text-small text-soft">
            {intake && (
              <Link to={`/intakes/${intake.id}`} className="hover:underline">
                {intake.name}
              </Link>
            )}
            , version {submission.version}, by {submission.via}
            {submission.acting && ` as ${submission.acting.name}`}
            {submission.acting?.by === 'connection' && ', for whom the connection went on'},{' '}
            <Moment at={submission.receivedAt} />
            {paper && (
              <>
                ,{' '}
                <a href={paper} target="_blank" rel="noreferrer" className="text-plum underline">
                  as PDF
                </a>
              </>
            )}
            {took !== undefined && `, ${submission.state === 'applied' ? 'applied' : 'settled'} after ${span(took)}`}
          </p>
        </div>
        <Actions told={told} />
      </header>
      <div tabIndex={0} className="max-h-[calc(100vh-280px)] overflow-auto">
        {submission.words && (
          <p
            className={cx(
              'border-b border-hair px-4 py-2',
              submission.state === 'received' || submission.state === 'in review' ? 'text-saffron' : 'text-brick',
            )}
          >
            {submission.words}
            {submission.state === 'received' && (
              <span className="text-soft">
                {' '}
                Tried {submission.attempts} {submission.attempts === 1 ? 'time' : 'times'}; it goes on by itself.
              </span>
            )}
          </p>
        )}
        {told.payment && <PaymentLine payment={told.payment} />}
        {submission.forgottenAt && (
          <p className="border-b border-hair px-4 py-2 text-soft">
            What was sent was forgotten <Moment at={submission.forgottenAt} />, as its intake says; what came of it
            stays.
          </p>
        )}
        {submission.amended?.map(({ at, by, before }) => (
          <p key={at} className="border-b border-hair px-4 py-2 text-soft">
            Put right by {by} <Moment at={at} />:{' '}
            {Object.entries(before).map(([name, value], index) => (
              <span key={name}>
                {index > 0 && ', '}
                {fields.find((field) => field.name === name)?.label ?? name} was{' '}
                <ValueText value={value === '' ? null : value} />
              </span>
            ))}
          </p>
        ))}
        {submission.reason && (
          <p className="border-b border-hair px-4 py-2 text-soft">Set aside: {submission.reason}</p>
        )}
        {steps.map((step) => (
          <StepTold
            key={effectKey(step.step, step.row)}
            step={step}
            steps={steps}
            values={valuesFor(told, step)}
            chosen={effectKey(step.step, step.row) in (submission.answers ?? {})}
            aside={
              several && isFirstOf(steps, step) && stands(changes, step.step) ? (
                <TakeStepBack submission={submission.id} step={step.step} />
              ) : undefined
            }
            fields={fields}
            treatments={told.treatments}
          />
        ))}
        {steps.length === 0 && <WhatCame values={submission.values} fields={fields} open />}
        {changes.length > 0 && <Changes changes={changes} />}
        {steps.length > 0 && <WhatCame values={submission.values} fields={fields} />}
      </div>
    </article>
  );
}

const PAYMENT_WORDS: Record<PaymentTold['state'], string> = {
  due: 'is to be paid',
  paid: 'was paid',
  refused: 'is to be paid, after one payment was refused,',
  lapsed: 'wasn’t paid in time',
  differs: 'was asked for, and something else was paid',
  refunded: 'was paid, and paid back',
};

/** What had to be paid for a submission, and how that stands. */
function PaymentLine({ payment }: { payment: PaymentTold }) {
  const { state, minor, currency, test, service, words, begunAt, changedAt, number } = payment;
  const isWell = state === 'paid' || state === 'due';
  return (
    <p className="border-b border-hair px-4 py-2">
      <b className="font-semibold">{amountText(minor, currency, 'en')}</b>{' '}
      <span className={isWell ? undefined : 'text-brick'}>{PAYMENT_WORDS[state]}</span>
      {service !== null && ` through ${service}`}, <Moment at={state === 'due' ? begunAt : changedAt} />
      {words !== null && `: ${words}`}.{' '}
      {(state === 'due' || state === 'refused') && 'It is carried out once it is paid. '}
      {test && <Tag tone="saffron">test mode, no money is moved</Tag>}{' '}
      <span className="font-mono text-[13px] text-soft">{number}</span>
    </p>
  );
}

/** Whether anything that a step wrote still stands. */
const stands = (changes: readonly LedgerChange[], step: string): boolean =>
  changes.some(
    (change) =>
      change.state === 'written' && change.undoes === null && change.undoneBy === null && change.step === step,
  );

const isFirstOf = (steps: SubmissionPath['steps'], step: StepReport): boolean =>
  steps.find((each) => each.step === step.step) === step;

function TakeStepBack({ submission, step }: { submission: string; step: string }) {
  const me = useMe();
  const takeBack = useDo(
    () => call('post /submissions/:id/take-back', { params: { id: submission }, body: { step } }),
    ['submission', 'submissions', 'ledger', 'today'],
  );
  if (!me.data || me.data.role === 'viewer') return null;
  const left = takeBack.data?.results.find(({ done }) => !done);
  return (
    <>
      {(takeBack.error ?? left) && (
        <span role="status" className="text-small text-saffron">
          {takeBack.error?.message ?? left?.words}
        </span>
      )}
      <button
        type="button"
        className="min-h-6 text-small font-semibold text-plum hover:underline"
        disabled={takeBack.isPending}
        onClick={() => takeBack.mutate(undefined)}
      >
        Take this step back
      </button>
    </>
  );
}

/** What came in as a step saw it: a row's values under the names of the first row. */
export function valuesFor({ submission, fields, repeats }: SubmissionPath, step: StepReport): Values {
  const group = repeats[step.step];
  if (step.row === undefined || group === undefined) return submission.values;
  const names = fields.map(({ name }) => name);
  return rowsOf(group, names, submission.values).find(({ index }) => index === step.row)?.values ?? submission.values;
}

function StepTold({
  step,
  steps,
  values,
  chosen,
  aside,
  fields,
  treatments,
}: {
  step: SubmissionPath['steps'][number];
  steps: SubmissionPath['steps'];
  values: Values;
  /** Somebody has said in Review which record it is. */
  chosen: boolean;
  aside: ReactNode;
  fields: FormField[];
  treatments: SubmissionPath['treatments'];
}) {
  const system = useSystem(step.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step.entity);
  const shown = step.changes.filter(({ kept, after }) => kept === undefined || (kept !== 'blank' && after !== null));
  const blank = step.changes.length - shown.length;
  const stands = !['refused', 'failed', 'taken back'].includes(step.outcome);
  const entityLabel = (id: string): string => {
    const earlier = steps.find((each) => each.step === id);
    const among = system.data?.schema.entities.find(({ name }) => name === earlier?.entity);
    return among?.label ?? earlier?.entity ?? 'an earlier step';
  };
  const cameOf = (from: string[]): string =>
    from
      .map((name) => (Array.isArray(values[name]) ? values[name].join(', ') : (values[name] ?? '')))
      .filter(Boolean)
      .join(' · ');
  return (
    <section>
      <h3 className="flex flex-wrap items-center gap-2 border-b border-hair bg-wash px-4 py-2 font-semibold">
        {entity?.label ?? step.entity}
        {step.row !== undefined && <span className="font-normal text-soft">row {step.row + 1}</span>}
        <OutcomeTag outcome={step.outcome} />
        <Verdict
          step={step}
          chosen={chosen}
          labelOf={(name) => entity?.fields.find((field) => field.name === name)?.label ?? name}
        />
        <span className="ml-auto flex items-center gap-3 font-normal">
          {aside}
          {step.record && step.page ? (
            <a href={step.page} target="_blank" rel="noreferrer" className="font-semibold text-plum hover:underline">
              {step.record.id} in {system.data?.system.name ?? 'its system'} ↗
            </a>
          ) : (
            step.record?.id
          )}
        </span>
      </h3>
      {step.why && step.outcome !== 'refused' && (
        <p className={cx('px-4 py-2', step.outcome === 'failed' ? 'text-brick' : 'text-soft')}>{step.why}</p>
      )}
      {step.weighed && step.weighed.length > 0 && <WeighedLine weighed={step.weighed} />}
      {step.refusal && step.refusal.fields.length > 0 && (
        <ul className="px-4 py-2 text-brick">
          {step.refusal.fields.map(({ field, words }) => (
            <li key={field}>
              <Outgoing>{entity?.fields.find(({ name }) => name === field)?.label ?? field}</Outgoing> {words}
            </li>
          ))}
        </ul>
      )}
      {shown.length > 0 && (
        <table className="w-full table-fixed">
          <thead>
            <tr>
              <th className={cx(TH, 'w-[20%] pl-4')}>Came from</th>
              <th className={cx(TH, 'w-[20%]')}>Sent as</th>
              <th className={cx(TH, 'w-[18%]')}>Field</th>
              <th className={cx(TH, 'w-[20%]')}>Before</th>
              <th className={TH}>{stands ? 'After' : 'Was to be'}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((change) => (
              <tr key={change.field}>
                <td className={cx(TD, 'truncate pl-4')}>
                  {change.fromStep !== undefined ? (
                    <Outgoing>the {entityLabel(change.fromStep)}</Outgoing>
                  ) : change.from.length === 0 ? (
                    <Tag>always the same</Tag>
                  ) : (
                    <Incoming>
                      {change.from
                        .map((name) => fields.find((field) => field.name === name)?.label ?? name)
                        .join(' + ')}
                    </Incoming>
                  )}
                </td>
                <td
                  className={cx(TD, 'truncate')}
                  title={treatments
                    .find((each) => each.step === step.step && each.field === change.field)
                    ?.treatments.join(', ')}
                >
                  <ValueText value={change.fromStep === undefined ? cameOf(change.from) : change.after} />
                </td>
                <td className={cx(TD, 'truncate')}>
                  <Outgoing>{change.label}</Outgoing>
                </td>
                <td
                  className={cx(
                    TD,
                    'truncate',
                    stands && change.kept === undefined && change.before !== null && 'line-through decoration-soft',
                  )}
                >
                  <ValueText value={change.before} />
                </td>
                <td className={cx(TD, 'truncate')}>
                  <ValueText
                    value={change.after}
                    tone={change.kept === undefined && stands ? 'font-bold text-moss' : 'text-soft'}
                  />
                  {change.kept && change.kept !== 'same' && <span className="ml-2 text-small text-soft">kept</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {blank > 0 && (
        <p className="border-t border-hair px-4 py-1.5 text-small text-soft">{blank} blank, nothing written</p>
      )}
    </section>
  );
}

function WhatCame({ values, fields, open = false }: { values: Values; fields: FormField[]; open?: boolean }) {
  return (
    <details open={open} className="px-4 py-2">
      <summary className="cursor-pointer font-semibold">What came in</summary>
      <table className="mt-2 w-full table-fixed">
        <tbody>
          {Object.entries(values).map(([name, value]) => (
            <tr key={name}>
              <td className="w-[34%] truncate py-0.5">
                <Incoming>{fields.find((field) => field.name === name)?.label ?? name}</Incoming>
              </td>
              <td className="truncate py-0.5">
                <ValueText value={value} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function Actions({ told }: { told: SubmissionPath }) {
  const { submission, changes } = told;
  const me = useMe();
  const stale = ['submission', 'submissions', 'ledger', 'today', 'intakes'];
  const again = useDo(() => call('post /submissions/:id/again', { params: { id: submission.id } }), stale);
  const takeBack = useDo(() => call('post /submissions/:id/take-back', { params: { id: submission.id } }), stale);
  const [aside, setAside] = useState(false);
  if (!me.data || me.data.role === 'viewer') return null;
  const stands = changes.some(
    ({ state, undoes, undoneBy }) => state === 'written' && undoes === null && undoneBy === null,
  );
  const results = takeBack.data?.results ?? [];
  return (
    <div className="shrink-0 text-right">
      <div className="flex justify-end gap-2">
        {submission.state === 'in review' && (
          <Link
            to={`/review?submission=${submission.id}`}
            className="inline-flex h-[33px] items-center rounded-[7px] border border-plum bg-plum px-3.5 font-semibold text-on-strong"
          >
            Decide
          </Link>
        )}
        {['refused', 'failed'].includes(submission.state) && (
          <Link
            to={`/review?submission=${submission.id}`}
            className="inline-flex h-[33px] items-center rounded-[7px] border border-plum bg-plum px-3.5 font-semibold text-on-strong"
          >
            Put right
          </Link>
        )}
        {['refused', 'failed', 'set aside', 'taken back'].includes(submission.state) && (
          <Button busy={again.isPending} onClick={() => again.mutate(undefined)}>
            {submission.state === 'taken back' ? 'Do it again' : 'Carry out again'}
          </Button>
        )}
        {(['unpaid', 'refused', 'failed', 'in review'].includes(submission.state) ||
          (submission.state === 'received' && submission.attempts > 0)) && (
          <Button onClick={() => setAside(true)}>Set aside…</Button>
        )}
        {stands && submission.state !== 'received' && (
          <Button busy={takeBack.isPending} onClick={() => takeBack.mutate(undefined)}>
            Take back
          </Button>
        )}
      </div>
      {(again.error ?? takeBack.error) && (
        <p role="alert" className="mt-1 text-small text-brick">
          {(again.error ?? takeBack.error)!.message}
        </p>
      )}
      {results.map(({ done, words }) => (
        <p
          key={words}
          role="status"
          className={cx('mt-1 max-w-[320px] text-small', done ? 'text-moss' : 'text-saffron')}
        >
          {words}
        </p>
      ))}
      {aside && <SetAside id={submission.id} close={() => setAside(false)} />}
    </div>
  );
}
