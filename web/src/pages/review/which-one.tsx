import type { StepReport } from '@zusammen/core/plans';
import type { Entity, RecordState, Value } from '@zusammen/core/schema';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import { useRecognition } from '../../api/recognition.ts';
import type { SubmissionPath } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { Bits, evidenceAt, VerdictTag } from '../../parts/evidence.tsx';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { ValueText } from '../../parts/values.tsx';
import { SetAside } from '../set-aside.tsx';
import { valuesFor } from '../submission-path.tsx';

/** Which of several records is meant: the submission beside each with what speaks for and against, and one key that decides. */
export function WhichOne({ told }: { told: SubmissionPath }) {
  const { submission, steps } = told;
  const me = useMe();
  const [aside, setAside] = useState(false);
  const step = steps.find(({ outcome }) => outcome === 'asked');
  const system = useSystem(step?.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step?.entity);
  const recognition = useRecognition(step?.weighed ? step.system : undefined, step?.entity).data?.recognition;
  const answer = useDo(
    (body: { step: string; row?: number; record?: string; anew?: true }) =>
      call('post /submissions/:id/answers', { params: { id: submission.id }, body }),
    ['submissions', 'submission', 'today', 'intakes', 'recognition'],
  );
  const candidates = step?.candidates ?? [];
  const [looked, setLooked] = useState<string>();
  const [all, setAll] = useState(false);
  const lookedAt = looked ?? candidates[0]?.id;
  const came = step ? valuesFor(told, step) : {};
  const may = me.data !== undefined && me.data.role !== 'viewer' && step !== undefined && !answer.isPending;
  const choose = (record: string): void => {
    if (may && step) answer.mutate({ ...at(step), record });
  };
  const anew = (): void => {
    if (may && step) answer.mutate({ ...at(step), anew: true });
  };
  useKeys({
    n: anew,
    x: () => may && setAside(true),
    ...Object.fromEntries(candidates.slice(0, 9).map((candidate, at) => [String(at + 1), () => choose(candidate.id)])),
  });
  if (!step) return <Empty title="This has just been decided" />;
  const weighed = (id: string) => step.weighed?.find(({ record }) => record === id);
  const parts = recognition?.document.parts ?? [];
  const holding = fieldsShown(entity, step, candidates);
  const telling = holding.filter(
    ({ name }) =>
      parts.some(({ field }) => field === name) ||
      step.sent?.[name] !== undefined ||
      linesOf(told, step.step, name).length > 0,
  );
  const shown = (all || telling.length === 0 ? holding : telling).sort(
    (a, b) => place(parts, a.name) - place(parts, b.name),
  );
  const comes = (name: string): Value | undefined => {
    // What the lines made of it; else, of questions asked before that was kept, what came.
    if (step.sent) return step.sent[name];
    const from = linesOf(told, step.step, name);
    const values = from
      .map((each) => came[each])
      .flat()
      .filter(Boolean);
    return values.length === 0 ? undefined : values.join(' ');
  };
  return (
    <>
      <header className="flex items-center justify-between gap-4 border-b border-hair px-4 py-2.5">
        <h2 className="flex items-center gap-2 font-semibold">
          {step.weighed
            ? `Is this a ${entity?.label ?? step.entity} we know?`
            : `Which ${entity?.label ?? step.entity} is meant?`}{' '}
          <Tag tone="saffron">◆ {step.why}</Tag>
        </h2>
        <p className="shrink-0 text-small text-soft" title="Later submissions about the same record wait behind it.">
          Nothing is written until you decide.
        </p>
      </header>
      <div tabIndex={0} aria-label="Submission and candidates" className="max-h-[calc(100vh-250px)] overflow-auto">
        <table className="w-full">
          <thead>
            <tr>
              <th className={cx(TH, 'pl-4')}>Field</th>
              <th className={TH}>
                <Incoming>Submission</Incoming>
                <span className="block font-normal">
                  {told.intake?.name}, <Moment at={submission.receivedAt} />
                </span>
              </th>
              {candidates.map((candidate, at) => {
                const each = weighed(candidate.id);
                return (
                  <th key={candidate.id} className={cx(TH, candidate.id === lookedAt && 'bg-wash')}>
                    <button
                      type="button"
                      aria-pressed={candidate.id === lookedAt}
                      title="Show what would be written"
                      onClick={() => setLooked(candidate.id)}
                      className="flex items-center gap-1.5"
                    >
                      <Key name={String(at + 1)} /> <Outgoing>{candidate.id}</Outgoing>
                      {each && <VerdictTag verdict={each.verdict} weight={each.weight} />}
                    </button>
                    {each?.why && <span className="block font-normal text-saffron">◆ {each.why}</span>}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {shown.map((field) => {
              const mine = comes(field.name);
              return (
                <tr key={field.name}>
                  <td className={cx(TD, 'pl-4')}>{field.label}</td>
                  <td className={TD}>
                    <ValueText value={mine} />
                  </td>
                  {candidates.map((candidate) => {
                    const evidence = weighed(candidate.id)?.evidence;
                    const found = evidence && evidenceAt(field.name, { parts }, evidence);
                    return (
                      <td key={candidate.id} className={cx(TD, candidate.id === lookedAt && 'bg-wash')}>
                        <span className="flex items-baseline justify-between gap-3">
                          <Differing value={candidate.values[field.name]} other={mine} />
                          {found && <Bits bits={found.bits} title={found.level} />}
                        </span>
                      </td>
                    );
                  })}
                </tr>
              );
            })}
          </tbody>
        </table>
        {!all && telling.length > 0 && telling.length < holding.length && (
          <button
            type="button"
            className="w-full border-t border-hair px-4 py-1.5 text-left text-small text-plum hover:underline"
            onClick={() => setAll(true)}
          >
            Show the other {holding.length - telling.length} fields that hold something
          </button>
        )}
        {may && lookedAt && <WouldWrite submission={submission.id} step={step} record={lookedAt} entity={entity} />}
      </div>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        {candidates.map((candidate, at) => (
          <Button
            key={candidate.id}
            look={at === 0 ? 'moss' : 'plain'}
            hotkey={String(at + 1)}
            disabled={!may}
            onClick={() => choose(candidate.id)}
          >
            It is {candidate.id}
          </Button>
        ))}
        <Button hotkey="N" disabled={!may} onClick={anew}>
          Somebody new
        </Button>
        <Button hotkey="X" disabled={!may} onClick={() => setAside(true)}>
          Set aside…
        </Button>
        {step.weighed && (
          <span className="ml-auto text-small text-soft">
            Your answers sharpen the{' '}
            <Link
              to={`/schema/recognition?system=${step.system}&entity=${step.entity}`}
              className="text-plum underline"
            >
              weights
            </Link>
            .
          </span>
        )}
        {answer.error && (
          <p role="alert" className="w-full text-brick">
            {answer.error.message}
          </p>
        )}
      </footer>
      {aside && <SetAside id={submission.id} close={() => setAside(false)} />}
    </>
  );
}

/** What would be written if it were this one, field by field. */
function WouldWrite({
  submission,
  step,
  record,
  entity,
}: {
  submission: string;
  step: StepReport;
  record: string;
  entity: Entity | undefined;
}) {
  const query = { step: step.step, record, row: step.row };
  const would = useQuery({
    queryKey: ['submission', submission, 'would', query],
    queryFn: async () => (await call('get /submissions/:id/would', { params: { id: submission }, query })).step,
    staleTime: 10_000,
    retry: false,
  });
  const changes = (would.data?.changes ?? []).filter(({ kept }) => kept === undefined);
  const kept = (would.data?.changes ?? []).filter(
    (change) => change.kept === 'kept' || change.kept === 'new records only',
  );
  return (
    <section className="border-t border-hair" aria-label={`If it is ${record}`}>
      <h3 className="px-4 pt-2.5 pb-1 font-semibold">
        If it is <Outgoing>{record}</Outgoing>,{' '}
        {would.data === undefined
          ? would.error
            ? 'what is written can’t be said now'
            : '…'
          : changes.length === 0
            ? 'nothing is written to it'
            : 'this is written'}
      </h3>
      {would.error && <p className="px-4 pb-2 text-small text-soft">{would.error.message}</p>}
      {changes.length > 0 && (
        <table className="w-full table-fixed">
          <tbody>
            {changes.map(({ field, label, before, after }) => (
              <tr key={field}>
                <td className={cx(TD, 'w-[22%] pl-4')}>
                  <Outgoing>{entity?.fields.find(({ name }) => name === field)?.label ?? label}</Outgoing>
                </td>
                <td className={cx(TD, 'w-[36%] truncate', before !== null && 'line-through decoration-soft')}>
                  <ValueText value={before} />
                </td>
                <td className={cx(TD, 'truncate')}>
                  <ValueText value={after} tone="font-bold text-moss" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {kept.length > 0 && (
        <p className="px-4 py-1.5 text-small text-soft">
          Stays as it is, as the lines say: {kept.map(({ label }) => label).join(', ')}.
        </p>
      )}
    </section>
  );
}

function fieldsShown(
  entity: Entity | undefined,
  step: StepReport,
  candidates: readonly RecordState[],
): Entity['fields'] {
  return (entity?.fields ?? []).filter(
    ({ name, rights, type }) =>
      rights !== 'none' &&
      type !== 'id' &&
      type !== 'reference' &&
      (step.changes.some(({ field }) => field === name) ||
        candidates.some(
          (each) =>
            (each.values[name] ?? null) !== null &&
            !(Array.isArray(each.values[name]) && each.values[name].length === 0),
        )),
  );
}

/** What counts as evidence comes first. */
const place = (parts: readonly { field: string }[], name: string): number => {
  const at = parts.findIndex(({ field }) => field === name);
  return at < 0 ? parts.length : at;
};

const at = ({ step, row }: StepReport): { step: string; row?: number } =>
  row === undefined ? { step } : { step, row };

/** Names of the form's fields that a step's lines send to a field. */
export function linesOf(told: SubmissionPath, step: string, field: string): string[] {
  return told.treatments.find((each) => each.step === step && each.field === field)?.from ?? [];
}
