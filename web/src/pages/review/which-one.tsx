import { plural } from '../../parts/plural.ts';
import { meaningsOf, tellingWords } from '@zusammen/core/mapping';
import type { StepReport } from '@zusammen/core/plans';
import type { Weighed } from '@zusammen/core/recognition';
import type { Entity, RecordState, Value } from '@zusammen/core/schema';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import { useRecognition } from '../../api/recognition.ts';
import type { SubmissionPath } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Incoming, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { Bits, evidenceAt, VerdictTag } from '../../parts/evidence.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { count, Moment } from '../../parts/time.tsx';
import { ValueText } from '../../parts/values.tsx';
import { SetAside } from '../set-aside.tsx';
import { valuesFor } from '../submission-path.tsx';
import { AllAlike } from './all-alike.tsx';
import { AnotherRecord } from './another-record.tsx';
import type { Done } from './settled.tsx';

/** Which of several records is meant: the submission beside each with what speaks for and against, and one key that decides. */
export function WhichOne({ told, many, done }: { told: SubmissionPath; many: number; done: (done: Done) => void }) {
  const { submission, steps } = told;
  const me = useMe();
  const [aside, setAside] = useState(false);
  const [seeing, setSeeing] = useState(false);
  const step = steps.find(({ outcome }) => outcome === 'asked');
  const system = useSystem(step?.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step?.entity);
  const recognition = useRecognition(step?.weighed ? step.system : undefined, step?.entity).data?.recognition;
  const answer = useDo(
    (body: { step: string; row?: number; record?: string; anew?: true; alike?: true }) =>
      call('post /submissions/:id/answers', { params: { id: submission.id }, body }),
    ['submissions', 'submission', 'review', 'today', 'intakes', 'recognition'],
  );
  const [others, setOthers] = useState<RecordState[]>([]);
  const [looking, setLooking] = useState(false);
  const candidates = [...(step?.candidates ?? []), ...others];
  const [all, setAll] = useState(false);
  const came = step ? valuesFor(told, step) : {};
  const may = me.data !== undefined && me.data.role !== 'viewer' && step !== undefined && !answer.isPending;
  const choose = (record: string): void => {
    if (may && step) decide({ ...at(step), record });
  };
  const anew = (alike = false): void => {
    if (may && step) decide({ ...at(step), anew: true, ...(alike ? { alike: true } : {}) });
  };
  const decide = (body: Parameters<typeof answer.mutate>[0]): void =>
    // By its promise: by then the next one stands here, and what a mutation is told to do afterwards isn't done.
    void answer.mutateAsync(body).then(
      ({ decided }) =>
        done({
          submission: submission.id,
          words: `${submission.label || 'It'}${decided > 1 ? ` and ${decided - 1} alike` : ''}: ${
            body.record === undefined ? newOne : `it is ${body.record}`
          }.`,
          answered: at(step!),
        }),
      () => undefined,
    );
  /** "Somebody new" is a person; an organisation or a booking is a new one of its kind. */
  const person = entity?.fields.some(({ label }) =>
    meaningsOf(tellingWords(label)).some(({ meaning }) => meaning === 'family name'),
  );
  const newOne = person ? 'somebody new' : `a new ${entity?.label ?? 'record'}`;
  useKeys({
    n: () => anew(),
    o: () => may && setLooking(true),
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
        <table className="min-w-full">
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
                  <th key={candidate.id} className={cx(TH, 'min-w-[170px] whitespace-normal')}>
                    <span className="flex flex-wrap items-center gap-1.5">
                      <Button
                        look={at === 0 ? 'moss' : 'plain'}
                        hotkey={at < 9 ? String(at + 1) : ''}
                        disabled={!may}
                        onClick={() => choose(candidate.id)}
                      >
                        It is {candidate.id}
                      </Button>
                      {each && <VerdictTag verdict={each.verdict} weight={each.weight} />}
                      {step.pages?.[candidate.id] && (
                        <a
                          className="font-normal text-plum underline"
                          href={step.pages[candidate.id]}
                          target="_blank"
                          rel="noreferrer"
                        >
                          its page
                        </a>
                      )}
                    </span>
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
                      <td key={candidate.id} className={cx(TD, '[overflow-wrap:anywhere]')}>
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
            {step.weighed && (
              <>
                <tr>
                  <td className={cx(TD, 'pl-4 text-soft')} colSpan={2}>
                    Before anything is compared
                    <span className="block text-small">that one record of so many is meant is unlikely</span>
                  </td>
                  {candidates.map(({ id }) => (
                    <td key={id} className={cx(TD, 'text-right')}>
                      {weighed(id) && <Bits bits={priorOf(weighed(id)!)} />}
                    </td>
                  ))}
                </tr>
                <tr>
                  <td className={cx(TD, 'pl-4 font-semibold')} colSpan={2}>
                    Together
                    <span className="block text-small font-normal text-soft">
                      in bits: each one more doubles the odds that both are the same, each one less halves them
                    </span>
                  </td>
                  {candidates.map(({ id }) => (
                    <td key={id} className={cx(TD, 'text-right font-semibold')}>
                      {weighed(id) && <Bits bits={weighed(id)!.weight} />}
                    </td>
                  ))}
                </tr>
              </>
            )}
            {may && (
              <tr>
                <td className={cx(TD, 'pl-4 align-top font-semibold')} colSpan={2}>
                  What would be written
                </td>
                {candidates.map(({ id }) => (
                  <td key={id} className={cx(TD, 'align-top')}>
                    <WouldWrite submission={submission.id} step={step} record={id} entity={entity} />
                  </td>
                ))}
              </tr>
            )}
          </tbody>
        </table>
        {!all && telling.length > 0 && telling.length < holding.length && (
          <button
            type="button"
            className="w-full border-t border-hair px-4 py-1.5 text-left text-small text-plum hover:underline"
            onClick={() => setAll(true)}
          >
            Show the other {plural(holding.length - telling.length, 'field')} that{' '}
            {holding.length - telling.length === 1 ? 'holds' : 'hold'} something
          </button>
        )}
      </div>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        <Button hotkey="N" disabled={!may} onClick={() => anew()}>
          {newOne.charAt(0).toUpperCase() + newOne.slice(1)}
        </Button>
        {many > 1 && (
          <Button disabled={!may} onClick={() => setSeeing(true)}>
            All {count(many)} alike…
          </Button>
        )}
        <Button hotkey="O" disabled={!may} onClick={() => setLooking(true)}>
          Another record…
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
      {aside && <SetAside id={submission.id} many={many} close={() => setAside(false)} />}
      {looking && (
        <AnotherRecord
          submission={submission.id}
          step={step}
          entity={entity}
          take={(record) => {
            setOthers((held) => (candidates.some(({ id }) => id === record.id) ? held : [...held, record]));
            setLooking(false);
          }}
          close={() => setLooking(false)}
        />
      )}
      {seeing && (
        <AllAlike
          submission={submission.id}
          newOne={newOne}
          busy={answer.isPending}
          decide={() => {
            setSeeing(false);
            anew(true);
          }}
          close={() => setSeeing(false)}
        />
      )}
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
  if (would.error) return <span className="text-small text-soft">can’t be said now: {would.error.message}</span>;
  if (would.data === undefined) return <span className="late text-small text-soft">…</span>;
  return (
    <div role="group" aria-label={`If it is ${record}`} className="space-y-1 text-small">
      {changes.length === 0 && <p className="text-soft">nothing</p>}
      {changes.map(({ field, label, before, after }) => (
        <p key={field}>
          <span className="text-soft">{entity?.fields.find(({ name }) => name === field)?.label ?? label}: </span>
          {before !== null && (
            <>
              <span className="line-through decoration-soft">
                <ValueText value={before} />
              </span>{' '}
            </>
          )}
          <ValueText value={after} tone="font-bold text-moss" />
        </p>
      ))}
      {kept.length > 0 && <p className="text-soft">stays as it is: {kept.map(({ label }) => label).join(', ')}</p>}
    </div>
  );
}

/** What a weight has besides its evidence: how likely it is beforehand that one record of so many is meant. */
const priorOf = ({ weight, evidence }: Weighed): number => weight - evidence.reduce((sum, { bits }) => sum + bits, 0);

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
