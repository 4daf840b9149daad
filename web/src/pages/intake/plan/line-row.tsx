import { useDroppable } from '@dnd-kit/core';
import { decide, describeTreatment, evaluateLine, wordingAgreedTo, type Line } from '@zusammen/core/mapping';
import { fieldOf, mustBeGiven, type Entity } from '@zusammen/core/schema';
import type { Finding } from '@zusammen/core/checks';
import { runOf } from '@zusammen/core/intake';
import { isBlank } from '@zusammen/core/values';
import { memo } from 'react';
import { Incoming, Outgoing, Tag } from '../../../parts/chip.tsx';
import { cx } from '../../../parts/cx.ts';
import { TD } from '../../../parts/sheet.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';
import { earlierLabel } from './earlier.ts';
import type { StepSample } from './step-sample.ts';

interface Props {
  line: Line;
  entity: Entity;
  seen: StepSample;
  findings: readonly Finding[];
  chosen: boolean;
  open: boolean;
  choose: (line: string) => void;
}

/** What becomes of the record's present value, in a word. */
const EFFECT = { blank: '', same: '', kept: 'kept', 'new records only': 'kept' } as const;

/** One line with a sample beside it: came, treated, goes in as, what the record holds now and what becomes of it. */
export const LineRow = memo(function LineRow({ line, entity, seen, findings, chosen, open, choose }: Props) {
  const { document, schemas } = useDraft();
  const { values, present, answers, record } = seen;
  const { setNodeRef, isOver } = useDroppable({ id: `line ${line.id}`, data: { line: line.id } });
  const field = fieldOf(entity, line.field);
  const outcome = field && evaluateLine(line, values ?? {}, field, { ...runOf(document), answers, record });
  const worst = findings.some(({ severity }) => severity === 'stops')
    ? 'brick'
    : findings.length > 0
      ? 'saffron'
      : 'sand';
  const current = present?.values[line.field];
  const decision = outcome && present && !outcome.problem ? decide(outcome, current ?? null, false) : undefined;
  const offered = line.origin === 'suggested';
  const sources = line.from.map((name) => document.fields.find((each) => each.name === name)?.label ?? name);
  const came = outcome?.came ?? [];
  const wording = offered ? wordingAgreedTo(line) : undefined;
  return (
    <tr
      ref={setNodeRef}
      className={cx(
        'cursor-pointer hover:bg-wash',
        chosen && 'bg-plum-wash/60',
        offered && 'italic',
        isOver && 'outline-2 -outline-offset-2 outline-plum',
      )}
      onClick={() => choose(line.id)}
      aria-selected={chosen}
      data-field={line.field}
      data-line={line.id}
    >
      <td className={cx(TD, 'pl-4', chosen && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
        <button
          type="button"
          className="flex max-w-full gap-1"
          aria-expanded={open}
          aria-label={`Edit the line to ${field?.label ?? line.field}`}
          onClick={(event) => (event.stopPropagation(), choose(line.id))}
        >
          {line.fromStep ? (
            <Outgoing muted={offered}>{earlierLabel(line.fromStep, document.plan.steps, schemas)}</Outgoing>
          ) : sources.length === 0 ? (
            <Tag>{line.treatments.some(({ kind }) => kind === 'compute') ? 'computed' : 'always the same'}</Tag>
          ) : (
            sources.map((label, at) => (
              <Incoming key={at} muted={offered}>
                {label}
              </Incoming>
            ))
          )}
        </button>
      </td>
      <td className={cx(TD, 'truncate')}>
        {line.fromStep ? (
          <ValueText value={outcome?.treated ?? null} />
        ) : line.from.length === 0 ? (
          <span className="text-soft">–</span>
        ) : (
          <ValueText
            value={came.length === 1 ? came[0]! : came.map((each) => [each ?? ''].flat().join(', ')).join(' · ')}
          />
        )}
      </td>
      <td className={cx(TD, 'truncate')} title={line.treatments.map(describeTreatment).join(', then ')}>
        {wording !== undefined && (
          // What is agreed to is read whole before it is accepted.
          <span className="line-clamp-6 text-small whitespace-normal text-saffron" title={wording}>
            consent to {wording}
          </span>
        )}
        <span className="flex gap-1">
          {line.treatments.map((treatment, at) => (
            <Tag key={at} tone={at === line.treatments.length - 1 ? worst : 'sand'}>
              <span className="truncate">{describeTreatment(treatment)}</span>
            </Tag>
          ))}
          {line.treatments.length === 0 && findings.length > 0 && <Tag tone={worst}>look</Tag>}
        </span>
      </td>
      <td className={cx(TD, 'truncate')}>
        {outcome?.asks ? (
          <span className="text-small text-soft">looked up when it runs</span>
        ) : outcome?.problem ? (
          <span className="text-small text-brick" title={outcome.problem}>
            ▲ {outcome.problem}
          </span>
        ) : (
          <ValueText value={outcome?.sent} tone={outcome && outcome.losses.length > 0 ? 'text-saffron' : undefined} />
        )}
      </td>
      <td className={TD}>
        <Outgoing muted={offered}>
          {field?.label ?? line.field}
          {field && mustBeGiven(field) && <span className="font-bold"> needed</span>}
        </Outgoing>
      </td>
      <td className={cx(TD, 'truncate')}>
        {present ? (
          <span className={cx(decision?.write && !isBlank(current) && 'line-through')}>
            <ValueText value={current} tone="text-soft" />
          </span>
        ) : (
          <span className="text-small text-soft">{values ? 'no record' : ''}</span>
        )}
      </td>
      <td className={cx(TD, 'truncate text-small text-soft')}>
        {offered ? (
          <span title={`Suggested, ${line.reasons?.join('; ') ?? ''}`}>
            {wording === undefined ? `${Math.round((line.confidence ?? 0) * 100)} % sure` : 'offered'}
          </span>
        ) : (
          line.ifBoth
        )}
        {decision && !decision.write && EFFECT[decision.why] && !isBlank(current) && (
          <span className="text-moss"> {EFFECT[decision.why]}</span>
        )}
      </td>
    </tr>
  );
});
