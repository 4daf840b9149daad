import { atAGlance, type SubmittedValues } from '@zusammen/core/forms';
import type { Values } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import { nameInRow, type Refusal, type StepReport } from '@zusammen/core/plans';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../../api/client.ts';
import { useAlike, useDo, useIntake, useMe, useSystem } from '../../api/hooks.ts';
import type { SubmissionPath } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { SubmissionStateTag } from '../../parts/state.tsx';
import { ValueText } from '../../parts/values.tsx';
import { SetAside } from '../set-aside.tsx';
import { valuesFor } from '../submission-path.tsx';
import type { Done } from './settled.tsx';

const HELPS: Record<Refusal['kind'], string> = {
  values: 'Put the value right here and send it, or mend its line in the plan and run all alike again.',
  rights: 'The connection may not do this. Once whoever looks after the system has granted it, send it again.',
  missing: 'The record is no longer there. Sent again, it is looked for anew.',
  conflict: 'Another record has this value already. Put it right here, or recognise records by that field in the plan.',
  other: 'Sent again it may pass; else mend the plan, or set it aside with a reason.',
};

const LACKING =
  'It goes on by itself when that person opens a panel again; or the connection acts for them, and the ledger says so.';

/** What a system refused, or what could not go in: the values beside its words, to be put right and sent again. */
export function PutRight({ told, many, done }: { told: SubmissionPath; many: number; done: (done: Done) => void }) {
  const { submission, steps, fields, intake } = told;
  const me = useMe();
  const navigate = useNavigate();
  const step = steps.find(({ outcome }) => outcome === 'refused' || outcome === 'failed' || outcome === 'asked');
  const system = useSystem(step?.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step?.entity);
  const detail = useIntake(submission.intakeId);
  const alike = useAlike(submission.id, many > 1);
  const [changed, setChanged] = useState<Record<string, string>>({});
  const [aside, setAside] = useState(false);
  const first = useRef<HTMLInputElement>(null);
  const send = useDo(
    (body: object) => call('post /submissions/:id/again', { params: { id: submission.id }, body }),
    ['submissions', 'submission', 'review', 'ledger', 'today', 'intakes'],
  );
  const live = detail.data?.intake.liveVersion ?? submission.version;
  const under = live > submission.version ? { under: 'live' as const } : {};
  const came = step ? valuesFor(told, step) : submission.values;
  const labelOf = (name: string): string => entity?.fields.find((field) => field.name === name)?.label ?? name;
  const rows = valuesAtIssue(told, step, came, labelOf);
  const may = me.data !== undefined && me.data.role !== 'viewer' && !send.isPending;
  const lacks = submission.lacks === 'person';
  const dirty = Object.keys(changed).length > 0;
  const putRight = (): void => {
    if (may && dirty) deliver({ values: changed, ...under });
  };
  const again = (): void => {
    if (may) deliver(under);
  };
  const others = (alike.data?.alike ?? []).filter(({ id }) => id !== submission.id);
  /** Those alike that hold what this one held in all that was changed. */
  const mine = atAGlance(submission.values);
  const same = others.filter(({ values }) =>
    Object.keys(changed).every((name) => sameValue(values[name] ?? null, mine[name] ?? null)),
  );
  const allAlike = (which?: 'same' | 'all'): void => {
    if (!may || many < 2) return;
    deliver({ alike: true, ...(dirty ? { values: changed, which: which ?? 'same' } : {}), ...under });
  };
  const deliver = (body: object): void =>
    // By its promise: by then the next one stands here, and what a mutation is told to do afterwards isn't done.
    void send.mutateAsync(body).then(
      ({ again: sent, left }) =>
        done({
          submission: submission.id,
          words:
            (sent === 1 ? `${submission.label || 'It'} was sent again.` : `${sent} were sent again.`) +
            (left > 0
              ? ` ${left} ${left === 1 ? 'holds something else and waits' : 'hold something else and wait'} still.`
              : ''),
        }),
      () => undefined,
    );
  const mend = placeOfMend(told, step, rows);
  useKeys({
    e: () => first.current?.focus(),
    s: () => (lacks ? may && deliver({ as: 'connection' }) : again()),
    l: () => (lacks ? may && many > 1 && deliver({ as: 'connection', alike: true }) : allAlike()),
    x: () => may && setAside(true),
    p: () => void navigate(mend),
  });
  return (
    <>
      <header className="border-b border-hair px-4 py-2.5">
        <h2 className="flex items-center gap-2 font-semibold text-brick">
          <span className="min-w-0">
            {step?.outcome === 'refused' ? `${system.data?.system.name ?? 'The system'} says: ` : ''}
            {submission.words ?? 'It could not be carried out'}
          </span>
          <SubmissionStateTag state={submission.state} />
        </h2>
        <p className="text-small text-soft">
          {lacks ? LACKING : HELPS[step?.refusal?.kind ?? (step ? 'values' : 'other')]}
        </p>
      </header>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          putRight();
        }}
      >
        <div
          tabIndex={0}
          aria-label="Values"
          className={cx(
            'overflow-auto',
            others.length > 0 ? 'max-h-[calc(100vh-480px)] min-h-[120px]' : 'max-h-[calc(100vh-310px)]',
          )}
        >
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th className={cx(TH, 'w-[28%] pl-4')}>Came from</th>
                <th className={cx(TH, 'w-[34%]')}>
                  Value <Key name="E" />
                </th>
                <th className={cx(TH, 'w-[18%]')}>{entity?.label ?? 'Field'}</th>
                <th className={TH}>What is said of it</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ name, source, value, to, words }, at) => (
                <tr key={`${name} ${to.join()}`}>
                  <td className={cx(TD, 'truncate pl-4')}>
                    <Incoming>{fields.find((field) => field.name === name)?.label ?? name}</Incoming>
                  </td>
                  <td className={TD}>
                    <input
                      ref={at === 0 ? first : undefined}
                      aria-label={fields.find((field) => field.name === name)?.label ?? name}
                      disabled={!may}
                      value={changed[source] ?? value}
                      onChange={({ target }) =>
                        setChanged((held) => {
                          const next = { ...held, [source]: target.value };
                          if (target.value === value) delete next[source];
                          return next;
                        })
                      }
                      className={cx(
                        'h-[30px] w-full rounded-[6px] border bg-sheet px-2 font-mono text-[13px]',
                        source in changed ? 'border-plum' : words ? 'border-brick' : 'border-line',
                      )}
                    />
                  </td>
                  <td className={cx(TD, 'truncate')}>
                    {to.map((field) => (
                      <Outgoing key={field}>{labelOf(field)}</Outgoing>
                    ))}
                  </td>
                  <td className={cx(TD, 'text-brick')}>{words}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {others.length > 0 && (
          <Alike
            others={others}
            names={dirty ? Object.keys(changed) : rows.filter(({ words }) => words).map(({ source }) => source)}
            labelOf={(name) => fields.find((field) => field.name === name)?.label ?? name}
          />
        )}
        <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
          <Button type="submit" look="strong" hotkey="Enter" disabled={!may || !dirty} busy={send.isPending && dirty}>
            Put right and send
          </Button>
          {lacks ? (
            <>
              <Button look="moss" hotkey="S" disabled={!may} onClick={() => deliver({ as: 'connection' })}>
                Go on as the connection
              </Button>
              {many > 1 && (
                <Button hotkey="L" disabled={!may} onClick={() => deliver({ as: 'connection', alike: true })}>
                  All {many} go on as the connection
                </Button>
              )}
            </>
          ) : (
            <Button hotkey="S" disabled={!may} onClick={again}>
              Send again as it is
            </Button>
          )}
          {many > 1 && !dirty && !lacks && (
            <Button hotkey="L" disabled={!may} onClick={() => allAlike()}>
              Send all {many} alike again
            </Button>
          )}
          {dirty && same.length > 0 && (
            <Button look="moss" disabled={!may} onClick={() => allAlike('same')}>
              …and the {same.length} that {same.length === 1 ? 'holds' : 'hold'} the same
            </Button>
          )}
          {dirty && others.length > same.length && (
            <Button disabled={!may} onClick={() => allAlike('all')}>
              …and all {others.length} others, whatever they hold
            </Button>
          )}
          <Button hotkey="X" disabled={!may} onClick={() => setAside(true)}>
            Set aside…
          </Button>
          <Link to={mend} className="ml-auto inline-flex items-center gap-1.5 font-semibold text-plum hover:underline">
            <Key name="P" /> mend the plan
          </Link>
          <p className="w-full text-small text-soft">
            {intake?.name}, came in under version {submission.version}
            {under.under && `; sent again by version ${live}, which is live now`}.
            {steps.some(({ outcome }) => ['created', 'updated', 'deleted'].includes(outcome)) &&
              ' What earlier steps have written stays as it is.'}
          </p>
          {send.error && (
            <p role="alert" className="w-full text-brick">
              {send.error.message}
            </p>
          )}
        </footer>
      </form>
      {aside && <SetAside id={submission.id} many={many} close={() => setAside(false)} />}
    </>
  );
}

/** Others that wait for the same, with what they hold in the fields at issue: seen before they are settled together. */
function Alike({
  others,
  names,
  labelOf,
}: {
  others: readonly { id: string; label: string; values: SubmittedValues }[];
  names: readonly string[];
  labelOf: (name: string) => string;
}) {
  return (
    <details open className="border-t border-hair px-4 py-2">
      <summary className="cursor-pointer text-small font-semibold text-soft">
        {others.length === 1 ? 'One other is alike' : `${others.length} others are alike`}
        {names.length > 0 && `: ${names.map(labelOf).join(', ')}`}
      </summary>
      <ul tabIndex={0} aria-label="Others alike" className="mt-1 max-h-[130px] overflow-auto text-small">
        {others.map(({ id, label, values }) => (
          <li key={id} className="grid grid-cols-[minmax(0,1fr)_minmax(0,2fr)] gap-3 py-0.5">
            <span className="truncate">{label || 'without a name'}</span>
            <span className="flex gap-3 truncate">
              {names.map((name) => (
                <ValueText key={name} value={values[name] ?? null} />
              ))}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Where the plan is mended: at the line whose value is at issue, with this submission beside it. */
function placeOfMend(
  { submission, lines }: SubmissionPath,
  step: StepReport | undefined,
  rows: readonly Row[],
): string {
  const at = new URLSearchParams({ sample: submission.id });
  if (step) at.set('step', step.step);
  const wrong = rows.find(({ words }) => words !== undefined);
  const line = wrong && lines.find((each) => each.step === step?.step && wrong.to.includes(each.field));
  if (line) at.set('line', line.id);
  return `/intakes/${submission.intakeId}/plan?${at.toString()}`;
}

interface Row {
  /** The form's field, by its name in the plan and by the name it was sent under. */
  name: string;
  source: string;
  value: string;
  to: string[];
  words: string | undefined;
}

/** The values that the step in trouble takes, those it is about first. */
function valuesAtIssue(
  told: SubmissionPath,
  step: StepReport | undefined,
  came: Values,
  labelOf: (field: string) => string,
): Row[] {
  const said = new Map(step?.refusal?.fields.map(({ field, words }) => [field, words]) ?? []);
  const rows = new Map<string, Row>();
  for (const { step: id, field, from } of told.treatments) {
    if (step && id !== step.step) continue;
    for (const name of from) {
      const row = rows.get(name) ?? {
        name,
        source: sentAs(told, step, name),
        value: [came[name] ?? ''].flat().join(', '),
        to: [],
        words: undefined,
      };
      row.to.push(field);
      row.words ??= said.get(field) ?? (step && whyOf(step, labelOf(field)));
      rows.set(name, row);
    }
  }
  return [...rows.values()].sort((a, b) => Number(b.words !== undefined) - Number(a.words !== undefined));
}

/** What a step that couldn't go in says of a field: it names each by its label. */
function whyOf(step: StepReport, label: string): string | undefined {
  return step.outcome === 'failed' || step.outcome === 'asked'
    ? step.why?.split('; ').find((part) => part.startsWith(`${label}:`))
    : undefined;
}

/** The name a row's value was sent under: lines are made for the first row's names. */
function sentAs({ fields, repeats }: SubmissionPath, step: StepReport | undefined, name: string): string {
  const group = step && repeats[step.step];
  const inGroup = fields.find((each) => each.name === name)?.group === group;
  return step?.row !== undefined && group !== undefined && inGroup ? nameInRow(group, name, step.row) : name;
}
