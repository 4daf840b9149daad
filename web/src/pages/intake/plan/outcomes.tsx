import { alwaysNew, mayUpdate, type Step } from '@zusammen/core/plans';
import type { ReactNode } from 'react';
import { Choices, Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';

const NONE = [
  { value: 'create', label: 'Create it' },
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;
const ONE = [
  { value: 'update', label: 'Update it' },
  { value: 'leave', label: 'Leave it as it is', help: 'Later steps and lines can still use it.' },
  { value: 'delete', label: 'Delete it', help: 'On the ledger; taken back, it is made anew.' },
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;
const SEVERAL = [
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;

type When = 'whenNone' | 'whenOne' | 'whenSeveral';

/** What happens when none, one or several are found, each with how many samples it concerns. */
export function Outcomes({ step, edit }: { step: Step; edit: (work: (step: Step) => Step) => void }) {
  const { rehearsal, mayEdit } = useDraft();
  const verdicts = (rehearsal.data ?? []).flatMap((result) =>
    (result?.course?.steps ?? []).flatMap((report) => (report.step === step.id ? (report.verdict ?? []) : [])),
  );
  const share = (...which: string[]): string =>
    verdicts.length === 0
      ? ''
      : `${verdicts.filter((verdict) => which.includes(verdict)).length} of ${verdicts.length}`;
  const choice = <W extends When>(
    when: W,
    name: string,
    note: string,
    options: readonly { value: Step[W]; label: string; help?: string }[],
  ) => (
    <Cell name={name} note={note}>
      <Editable
        label={
          name === 'Unsure'
            ? 'When it is unsure'
            : `When ${name.split(' ')[0]!.toLowerCase()} ${when === 'whenSeveral' ? 'are' : 'is'} found`
        }
        disabled={!mayEdit}
        shown={options.find(({ value }) => value === step[when])?.label}
      >
        {(close) => (
          <Choices
            options={options}
            chosen={step[when]}
            choose={(chosen) => (edit((held) => ({ ...held, [when]: chosen })), close())}
          />
        )}
      </Editable>
    </Cell>
  );
  const none = choice('whenNone', 'None found', share('none', 'new'), NONE);
  const one = choice('whenOne', 'One found', share('one'), ONE);
  const several = step.evidence
    ? choice('whenSeveral', 'Unsure', share('unsure', 'several'), SEVERAL)
    : choice('whenSeveral', 'Several found', share('several'), SEVERAL);
  if (step.record?.by === 'step') {
    return (
      <Row columns="grid-cols-2">
        {one}
        <Cell name="If that step has none" note={share('none')}>
          <span className="text-soft">this one is skipped</span>
        </Cell>
      </Row>
    );
  }
  if (step.record?.by === 'field')
    return (
      <Row columns="grid-cols-2">
        {none}
        {one}
      </Row>
    );
  if (alwaysNew(step)) {
    return (
      <Row columns="grid-cols-1">
        <Cell name="Every time" note={share('new')}>
          <span className="font-semibold">Create a new one</span>
        </Cell>
      </Row>
    );
  }
  return (
    <Row columns="grid-cols-3">
      {none}
      {one}
      {several}
    </Row>
  );
}

/** What a step does, in a few words, for the list of steps. */
export function outcomeInWords(step: Step): string {
  if (step.record?.by === 'step') return mayUpdate(step) ? 'once more' : `once more, ${step.whenOne}`;
  if (step.record?.by === 'field') return `the one it names, ${step.whenOne}`;
  if (alwaysNew(step)) return 'always a new one';
  if (step.whenNone === 'create')
    return step.whenOne === 'update' ? 'recognise, else create' : `known: ${step.whenOne}`;
  return `find and ${step.whenOne}`;
}

function Row({ columns, children }: { columns: string; children: ReactNode }) {
  return <div className={`grid ${columns} divide-x divide-hair border-b border-hair`}>{children}</div>;
}

function Cell({ name, note, children }: { name: string; note: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline gap-2 px-4 py-2">
      <span className="text-small text-soft">{name}</span>
      {children}
      <span className="ml-auto font-mono text-[13px] text-soft">{note}</span>
    </div>
  );
}
