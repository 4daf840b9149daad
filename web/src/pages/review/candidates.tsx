import type { SubmissionPath } from '@zusammen/core/api';
import type { StepReport } from '@zusammen/core/plans';
import type { Weighed } from '@zusammen/core/recognition';
import type { Entity, RecordState, Value } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { useState } from 'react';
import { useRecognition } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { Incoming } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { Bits, evidenceAt, VerdictTag } from '../../parts/evidence.tsx';
import { plural } from '../../parts/plural.ts';
import { TD, TH, TH_WRAPS } from '../../parts/sheet.tsx';
import { Moment } from '../../parts/time.tsx';
import { ValueText } from '../../parts/values.tsx';
import { valuesFor } from '../submission-path.tsx';
import { WouldWrite } from './would-write.tsx';

interface Props {
  told: SubmissionPath;
  step: SubmissionPath['steps'][number];
  entity: Entity | undefined;
  candidates: readonly RecordState[];
  /** Whether somebody may decide now. */
  may: boolean;
  choose: (record: string) => void;
}

/** The submission beside each record it may mean: field by field, what speaks for and against, and what would be written. */
export function Candidates({ told, step, entity, candidates, may, choose }: Props) {
  const [all, setAll] = useState(false);
  const recognition = useRecognition(step.weighed ? step.system : undefined, step.entity).data?.recognition;
  const parts = recognition?.document.parts ?? [];
  const weighed = (id: string): Weighed | undefined => step.weighed?.find(({ record }) => record === id);
  const holding = fieldsHeld(entity, step, candidates);
  const telling = holding.filter(
    ({ name }) =>
      parts.some(({ field }) => field === name) ||
      step.sent?.[name] !== undefined ||
      linesOf(told, step.step, name).length > 0,
  );
  const shown = (all || telling.length === 0 ? holding : telling).sort(
    (a, b) => place(parts, a.name) - place(parts, b.name),
  );
  const more = holding.length - shown.length;
  return (
    <div tabIndex={0} aria-label="Submission and candidates" className="max-h-[calc(100vh-250px)] overflow-auto">
      <table className="min-w-full">
        <thead>
          <tr>
            <th className={cx(TH, 'pl-4')}>Field</th>
            <th className={TH}>
              <Incoming>Submission</Incoming>
              <span className="block font-normal">
                {told.intake?.name}, <Moment at={told.submission.receivedAt} />
              </span>
            </th>
            {candidates.map(({ id }, at) => (
              <th key={id} className={cx(TH_WRAPS, 'min-w-[170px]')}>
                <CandidateHead
                  {...{ id, at, may }}
                  weighed={weighed(id)}
                  page={step.pages?.[id]}
                  choose={() => choose(id)}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((field) => {
            const mine = comes(told, step, field.name);
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
          {step.weighed && <Sum of={candidates.map(({ id }) => ({ id, weighed: weighed(id) }))} />}
          {may && (
            <tr>
              <td className={cx(TD, 'pl-4 align-top font-semibold')} colSpan={2}>
                What would be written
              </td>
              {candidates.map(({ id }) => (
                <td key={id} className={cx(TD, 'align-top')}>
                  <WouldWrite submission={told.submission.id} step={step} record={id} entity={entity} />
                </td>
              ))}
            </tr>
          )}
        </tbody>
      </table>
      {more > 0 && (
        <button
          type="button"
          className="w-full border-t border-hair px-4 py-1.5 text-left text-small text-plum hover:underline"
          onClick={() => setAll(true)}
        >
          Show the other {plural(more, 'field that holds', 'fields that hold')} something
        </button>
      )}
    </div>
  );
}

function CandidateHead({
  id,
  at,
  may,
  weighed,
  page,
  choose,
}: {
  id: string;
  at: number;
  may: boolean;
  weighed: Weighed | undefined;
  page: string | undefined;
  choose: () => void;
}) {
  return (
    <>
      <span className="flex flex-wrap items-center gap-1.5">
        <Button
          look={at === 0 ? 'moss' : 'plain'}
          hotkey={at < 9 ? String(at + 1) : ''}
          disabled={!may}
          onClick={choose}
        >
          It is {id}
        </Button>
        {weighed && <VerdictTag verdict={weighed.verdict} weight={weighed.weight} />}
        {page && (
          <a className="font-normal text-plum underline" href={page} target="_blank" rel="noreferrer">
            its page
          </a>
        )}
      </span>
      {weighed?.why && <span className="block font-normal text-saffron">◆ {weighed.why}</span>}
    </>
  );
}

/** The weights added up, so that the sum can be followed. */
function Sum({ of }: { of: readonly { id: string; weighed: Weighed | undefined }[] }) {
  return (
    <>
      <tr>
        <td className={cx(TD, 'pl-4 text-soft')} colSpan={2}>
          Before anything is compared
          <span className="block text-small">that one record of so many is meant is unlikely</span>
        </td>
        {of.map(({ id, weighed }) => (
          <td key={id} className={cx(TD, 'text-right')}>
            {weighed && <Bits bits={priorOf(weighed)} />}
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
        {of.map(({ id, weighed }) => (
          <td key={id} className={cx(TD, 'text-right font-semibold')}>
            {weighed && <Bits bits={weighed.weight} />}
          </td>
        ))}
      </tr>
    </>
  );
}

/** What a weight has besides its evidence: how likely it is beforehand that one record of so many is meant. */
const priorOf = ({ weight, evidence }: Weighed): number => weight - evidence.reduce((sum, { bits }) => sum + bits, 0);

/** The fields that a step would change or that a candidate holds something in. */
function fieldsHeld(
  entity: Entity | undefined,
  { changes }: StepReport,
  candidates: readonly RecordState[],
): Entity['fields'] {
  return (entity?.fields ?? []).filter(
    ({ name, rights, type }) =>
      rights !== 'none' &&
      type !== 'id' &&
      type !== 'reference' &&
      (changes.some(({ field }) => field === name) || candidates.some(({ values }) => !isBlank(values[name]))),
  );
}

/** What the lines made of it; else, of questions asked before that was kept, what came. */
function comes(told: SubmissionPath, step: StepReport, field: string): Value | undefined {
  if (step.sent) return step.sent[field];
  const came = valuesFor(told, step);
  const values = linesOf(told, step.step, field)
    .flatMap((name) => came[name])
    .filter(Boolean);
  return values.length === 0 ? undefined : values.join(' ');
}

/** What counts as evidence comes first. */
const place = (parts: readonly { field: string }[], name: string): number => {
  const at = parts.findIndex(({ field }) => field === name);
  return at < 0 ? parts.length : at;
};

/** Names of the form's fields that a step's lines send to a field. */
const linesOf = (told: SubmissionPath, step: string, field: string): string[] =>
  told.treatments.find((each) => each.step === step && each.field === field)?.from ?? [];
