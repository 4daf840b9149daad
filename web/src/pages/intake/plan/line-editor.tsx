import {
  evaluateLine,
  freshTreatment,
  IF_BOTH,
  IF_UNREADABLE,
  treatmentGroups,
  decide,
  type IfBoth,
  type IfUnreadable,
  type Line,
  type Treatment,
} from '@zusammen/core/mapping';
import { applyMend, type Finding } from '@zusammen/core/checks';
import { runOf } from '@zusammen/core/intake';
import {
  addTreatment,
  moveTreatment,
  retarget,
  setTreatment,
  takeFields,
  takeFromStep,
  type Step,
} from '@zusammen/core/plans';
import { fieldOf, type Entity, type Schema, type Value } from '@zusammen/core/schema';
import { useEffect, useRef } from 'react';
import { Button } from '../../../parts/button.tsx';
import { Incoming, Outgoing } from '../../../parts/chip.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { Choices, Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';
import { earlierItems, earlierLabel, earlierOf } from './earlier.ts';
import { OtherwiseThanLive } from './otherwise-than-live.tsx';
import type { StepSample } from './step-sample.ts';
import { targetItems } from './target-items.ts';
import { whereOf } from './suggest.ts';
import { TreatmentEditor } from './treatment-editor.tsx';

const IF_BOTH_HELP: Record<IfBoth, string> = {
  write: 'The new value replaces the one there.',
  'fill only': 'Only an empty field is filled.',
  'add to list': 'The new value joins the ones there.',
  'new records only': 'A known record is left alone.',
  'keep the longer': 'The longer of the two texts stays.',
};

const IF_UNREADABLE_HELP: Record<IfUnreadable, [shown: string, help: string]> = {
  refuse: ['is refused', 'The step isn’t done; Review says which value and why.'],
  'leave out': ['is left out', 'The rest goes in without it; the ledger says so.'],
  ask: ['is asked about', 'The step waits in Review until somebody puts the value right.'],
};

const shownValue = (value: Value): string =>
  value === null || value === '' ? 'blank' : Array.isArray(value) ? value.join(', ') : String(value);

interface Props {
  line: Line;
  entity: Entity;
  schema: Schema | undefined;
  step: Step;
  seen: StepSample;
  findings: readonly Finding[];
  taken: ReadonlySet<string>;
  edit: (work: (line: Line) => Line) => void;
  remove: () => void;
  close: () => void;
}

/** One line, all of it: where it comes from, its treatments with their settings, where it goes, and what it may overwrite. */
export function LineEditor({ line, entity, schema, step, seen, findings, taken, edit, remove, close }: Props) {
  const { document, change, mayEdit, schemas } = useDraft();
  const whole = useRef<HTMLFieldSetElement>(null);
  // The focus goes where the eye goes.
  useEffect(() => {
    const within = whole.current;
    if (within && !within.contains(globalThis.document.activeElement))
      (within.querySelector<HTMLElement>('button:enabled, input:enabled') ?? within).focus();
  }, []);
  const { values, present, answers, record } = seen;
  const { steps } = document.plan;
  const where = whereOf(document, schema);
  const computed = line.treatments.some(({ kind }) => kind === 'compute');
  const field = fieldOf(entity, line.field);
  const sources = line.from.flatMap((name) => document.fields.find((each) => each.name === name) ?? []);
  const around = { field, sources, settings: document.settings, schema };
  const setSources = (from: string[]): void => edit((held) => takeFields(held, from, document.fields, field, where));
  const outcome =
    field && values ? evaluateLine(line, values, field, { ...runOf(document), answers, record }) : undefined;
  const current = present?.values[line.field] ?? null;
  const decision = outcome && !outcome.problem ? decide(outcome, current, present === undefined) : undefined;
  return (
    <fieldset
      ref={whole}
      tabIndex={-1}
      disabled={!mayEdit}
      aria-label={`Line to ${field?.label ?? line.field}`}
      className="space-y-3 px-4 py-3 focus:outline-none"
      // Also with the caret in a field of it; what opened over it has taken the key by then.
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || event.defaultPrevented) return;
        event.preventDefault();
        close();
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        <span className="w-[92px] text-small text-soft">Comes from</span>
        {sources.map(({ name, label }) => (
          <span key={name} className="inline-flex items-center">
            <Incoming>{label}</Incoming>
            <button
              type="button"
              aria-label={`Without ${label}`}
              className="grid size-6 place-items-center text-soft hover:text-brick"
              onClick={() => setSources(line.from.filter((each) => each !== name))}
            >
              ×
            </button>
          </span>
        ))}
        {line.fromStep && <Outgoing>{earlierLabel(line.fromStep, steps, schemas)}</Outgoing>}
        {line.from.length === 0 && !line.fromStep && computed && (
          <span className="text-soft">computed from other fields</span>
        )}
        {line.from.length === 0 && !line.fromStep && !computed && (
          <label className="inline-flex items-center gap-2">
            <span className="sr-only">Always</span>
            {field?.options ? (
              <select
                value={line.constant ?? ''}
                onChange={({ target }) => edit((held) => ({ ...held, constant: target.value }))}
                className="h-[30px] rounded-[6px] border border-line bg-sheet px-2"
              >
                <option value="">choose</option>
                {field.options.map(({ value, label }) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              <input
                autoFocus
                value={line.constant ?? ''}
                placeholder="always this value"
                onChange={({ target }) => edit((held) => ({ ...held, constant: target.value }))}
                className="h-[30px] w-[220px] rounded-[6px] border border-line bg-sheet px-2 font-mono text-[13px]"
              />
            )}
          </label>
        )}
        <Editable
          label="Add a source"
          bare
          className="text-plum"
          wide
          shown={line.fromStep || line.from.length === 0 ? 'take it from elsewhere' : '+ join another field'}
        >
          {(closePopover) => (
            <Combobox
              placeholder="Find a field of the form, or of an earlier step"
              items={[
                ...document.fields
                  .filter(({ name }) => !line.from.includes(name))
                  .map((each) => ({
                    value: `form ${each.name}`,
                    label: each.label,
                    words: `${each.label} ${each.name}`,
                    note: each.type,
                    group: 'A field of the form',
                  })),
                ...(line.from.length === 0 ? earlierItems(step, field, steps, schemas) : []),
              ]}
              choose={(chosen) => {
                const fromStep = earlierOf(chosen);
                if (fromStep) edit((held) => takeFromStep(held, fromStep));
                else setSources([...line.from, chosen.slice('form '.length)]);
                closePopover();
              }}
            />
          )}
        </Editable>
      </div>
      <div className="flex flex-wrap items-start gap-2">
        <span className="w-[92px] pt-1 text-small text-soft">Treatment</span>
        {line.treatments.map((treatment, at) => (
          <TreatmentEditor
            key={at}
            treatment={treatment}
            around={around}
            fields={document.fields}
            change={(next) => edit((held) => setTreatment(held, at, next))}
            remove={() => edit((held) => setTreatment(held, at, undefined))}
            earlier={at > 0 ? () => edit((held) => moveTreatment(held, at, at - 1)) : undefined}
            later={at < line.treatments.length - 1 ? () => edit((held) => moveTreatment(held, at, at + 1)) : undefined}
          />
        ))}
        <Editable label="Add a treatment" bare className="pt-1 text-plum" shown="+ treatment">
          {(closePopover) => (
            <Combobox
              placeholder="Find a treatment"
              items={treatmentGroups().flatMap(({ group, kinds }) =>
                kinds.map(({ kind, name }) => ({ value: kind, label: name, words: `${name} ${kind}`, group })),
              )}
              choose={(value) => {
                const kind = value as Treatment['kind'];
                const treatment = freshTreatment(kind, around);
                edit((held) => addTreatment(held, treatment));
                closePopover();
              }}
            />
          )}
        </Editable>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="w-[92px] text-small text-soft">Goes to</span>
        <Editable label="Field" bare wide shown={<Outgoing>{field?.label ?? line.field}</Outgoing>}>
          {(closePopover) => (
            <Combobox
              placeholder="Find a field"
              items={targetItems(entity, taken)}
              choose={(name) => {
                const next = fieldOf(entity, name)!;
                edit((held) => retarget(held, next, sources, where));
                closePopover();
              }}
            />
          )}
        </Editable>
        <span className="text-soft">and if both have a value,</span>
        <Editable label="If both have a value" shown={line.ifBoth}>
          {(closePopover) => (
            <Choices
              options={IF_BOTH.map((value) => ({ value, label: value, help: IF_BOTH_HELP[value] }))}
              chosen={line.ifBoth}
              choose={(ifBoth) => {
                edit((held) => ({ ...held, ifBoth }));
                closePopover();
              }}
            />
          )}
        </Editable>
        <label className="ml-4 inline-flex items-center gap-2">
          <input
            type="checkbox"
            checked={line.blankErases}
            onChange={({ target }) => edit((held) => ({ ...held, blankErases: target.checked }))}
          />
          a blank erases
        </label>
        <span className="ml-4 text-soft">what can’t be read</span>
        <Editable label="What can’t be read" shown={IF_UNREADABLE_HELP[line.unreadable ?? 'refuse'][0]}>
          {(closePopover) => (
            <Choices
              options={IF_UNREADABLE.map((value) => ({
                value,
                label: IF_UNREADABLE_HELP[value][0],
                help: IF_UNREADABLE_HELP[value][1],
              }))}
              chosen={line.unreadable ?? 'refuse'}
              choose={(unreadable) => {
                edit(({ unreadable: _, ...held }) => (unreadable === 'refuse' ? held : { ...held, unreadable }));
                closePopover();
              }}
            />
          )}
        </Editable>
      </div>
      {field && <OtherwiseThanLive step={step} line={line} field={field} />}
      {findings.length > 0 && (
        <ul className="space-y-1">
          {findings.map((finding, at) => (
            <li key={at} className={finding.severity === 'stops' ? 'text-brick' : 'text-saffron'}>
              <span className="font-mono text-[12px]">{finding.id}</span> {finding.sentence}
              {finding.mend && mayEdit && (
                <button
                  type="button"
                  className="ml-2 font-semibold text-plum hover:underline"
                  onClick={() => change((held) => applyMend(held, finding.mend!))}
                >
                  {finding.mend.label}
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="flex items-center justify-between gap-4">
        <p className="min-w-0 text-small text-soft">
          {line.reasons && line.reasons.length > 0 && <>Suggested because {line.reasons.join('; ')}. </>}
          {decision && present && (
            <span className="text-moss">
              {decision.write
                ? `“${shownValue(current)}” becomes “${shownValue(decision.value)}”. `
                : decision.why === 'blank'
                  ? 'Nothing came, so nothing changes. '
                  : `“${shownValue(current)}” stays. `}
            </span>
          )}
          {outcome?.problem && !outcome.asks && findings.length === 0 && (
            <span className="text-brick">{outcome.problem}. </span>
          )}
          {outcome?.losses.map((loss) => (
            <span key={loss} className="text-saffron">
              {loss}.{' '}
            </span>
          ))}
          {outcome?.ambiguous && <span className="text-saffron">{outcome.ambiguous}.</span>}
        </p>
        <div className="flex gap-2">
          {line.origin === 'suggested' && (
            <Button look="moss" hotkey="A" onClick={() => edit((held) => held)}>
              Accept
            </Button>
          )}
          <Button look="danger" hotkey="X" onClick={remove}>
            Remove
          </Button>
          <Button hotkey="Esc" onClick={close}>
            Done
          </Button>
        </div>
      </div>
    </fieldset>
  );
}
