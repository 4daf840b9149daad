import { askByLink, askWhich, canBeAsked, chooserOf, filledBy, isLinked, type Filled } from '@zusammen/core/asking';
import { say, standingsOf } from '@zusammen/core/forms/hosted';
import { changePlan } from '@zusammen/core/intake';
import { blankStep, mayCreate, stepName, type Step } from '@zusammen/core/plans';
import { isWritable, mustBeGiven, type Entity, type Field } from '@zusammen/core/schema';
import { useState, type ReactNode } from 'react';
import { Outgoing } from '../../../parts/chip.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { cx } from '../../../parts/cx.ts';
import { Editable } from '../../../parts/editable.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { useDraft } from '../draft.tsx';
import { EntityPicker } from '../plan/entity-picker.tsx';
import { useSuggest } from '../plan/suggest.ts';
import { newId, type Editing } from './editing.tsx';
import { FromTheParent } from './from-parent.tsx';
import { KINDS } from './kinds.ts';

/** So many fields of a record are shown before somebody asks for the rest. */
const FEW = 6;

/** The fields of the records that the plan is about: ticking one asks for it and fills it. */
export function AskFor({ editing }: { editing: Editing }) {
  const { document, change, mayEdit } = useDraft();
  const suggest = useSuggest();
  const { steps } = document.plan;
  const own = editing.standings.filter(
    ({ item, name }) => name !== '' && item.kind !== 'group' && !steps.some((step) => reads(step, name)),
  );
  const addRecord = async (chosen: string): Promise<void> => {
    const [system, name] = chosen.split(' ') as [string, string];
    const next = await suggest.withStep(steps, blankStep(newId(), system, name));
    change((held) => changePlan(held, (plan) => ({ ...plan, steps: next })));
  };
  return (
    <Sheet title="Ask for" aside={mayEdit && <AskMore editing={editing} />}>
      <div className="space-y-3 px-4 py-3">
        {steps
          .filter(({ record }) => record?.by !== 'step')
          .map((step) => (
            <OfStep key={step.id} step={step} editing={editing} />
          ))}
        {own.length > 0 && (
          <section aria-label="Goes into no record">
            <h3 className="mb-1 text-small font-semibold text-soft">Goes into no record</h3>
            <ul>
              {own.map(({ item, name }) => (
                <Ticked
                  key={name}
                  label={item.label[editing.language] ?? name}
                  ticked
                  disabled={!mayEdit}
                  flip={() => editing.remove(item.id)}
                  note={ordinal(questionNumber(editing, item.id))}
                  choose={() => editing.choose(item.id)}
                >
                  <span className="px-2">{item.label[editing.language] ?? name}</span>
                </Ticked>
              ))}
            </ul>
          </section>
        )}
        {mayEdit && (
          <div className="flex flex-col items-start gap-1 pt-1">
            <Editable bare wide label="Another record" className="text-plum hover:underline" shown="+ another record">
              {(close) => (
                <EntityPicker
                  choose={(value) => {
                    void addRecord(value);
                    close();
                  }}
                />
              )}
            </Editable>
            <Editable
              bare
              wide
              label="A question of your own"
              className="text-plum hover:underline"
              shown="+ a question of your own"
            >
              {(close) => (
                <Combobox
                  placeholder="What is asked, or put in?"
                  items={KINDS.map(({ kind, words, note, group }) => ({
                    value: kind,
                    label: words,
                    words,
                    note,
                    group,
                  }))}
                  choose={(kind) => {
                    editing.add(KINDS.find((each) => each.kind === kind)!.kind);
                    close();
                  }}
                />
              )}
            </Editable>
          </div>
        )}
      </div>
    </Sheet>
  );
}

const reads = (step: Step, name: string): boolean =>
  step.lines.some(({ from }) => from.includes(name)) || (step.record?.by === 'field' && step.record.field === name);

const questionNumber = ({ form }: Editing, id: string): number =>
  standingsOf(form)
    .filter(({ name }) => name !== '')
    .findIndex(({ item }) => item.id === id) + 1;

/** 1st, 2nd, 3rd, 11th. */
export function ordinal(number: number): string {
  const ending = { one: 'st', two: 'nd', few: 'rd' } as Record<string, string>;
  return `${number}${ending[new Intl.PluralRules('en', { type: 'ordinal' }).select(number)] ?? 'th'}`;
}

function OfStep({ step, editing }: { step: Step; editing: Editing }) {
  const { document, schemas, mayEdit, change } = useDraft();
  const [whole, setWhole] = useState(false);
  const entity = schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
  if (!entity) return null;
  const filled = filledBy(editing.form, step);
  const fields = offered(entity, filled, step);
  const asked = fields.filter((field) => filled.get(field.name)?.by === 'question').length;
  const shown = whole ? fields : fields.filter((field, at) => at < FEW || filled.has(field.name));
  const rest = fields.length - shown.length;
  const mayChoose = mayEdit && !step.record && step.repeat === undefined && entity.rights.read;
  return (
    <section aria-label={stepName(step, document.plan.steps, schemas)}>
      <h3 className="mb-1 flex justify-between gap-2 text-small font-semibold text-soft">
        <span className="min-w-0">
          {stepName(step, document.plan.steps, schemas)}, {foundBy(step, entity, editing)}
        </span>
        <span className="shrink-0">
          {asked} of {fields.length}
        </span>
      </h3>
      <ul>
        {shown.map((field) => {
          const how = filled.get(field.name);
          const question = how?.by === 'question' ? how : undefined;
          return (
            <Ticked
              key={field.name}
              label={field.label}
              ticked={how !== undefined}
              disabled={!mayEdit || (how !== undefined && !question)}
              flip={() => (question ? editing.remove(question.item.id) : editing.ask(step.id, field.name))}
              note={noteOf(field, how, step)}
              warns={!how && isNeeded(field, step)}
              {...(question ? { choose: () => editing.choose(question.item.id) } : {})}
            >
              <Outgoing muted={!how}>{field.label}</Outgoing>
            </Ticked>
          );
        })}
      </ul>
      <p className="flex flex-wrap gap-x-3 text-small">
        {(rest > 0 || whole) && fields.length > FEW && (
          <button type="button" className="min-h-6 text-soft hover:underline" onClick={() => setWhole(!whole)}>
            {whole ? 'fewer' : `and ${rest} more`}
          </button>
        )}
        {mayChoose && (
          <button
            type="button"
            className="min-h-6 text-plum hover:underline"
            onClick={() => change((held) => askWhich(held, step.id, editing.asking))}
          >
            let visitors choose which
          </button>
        )}
        {mayChoose && !editing.form.link && (
          <button
            type="button"
            className="min-h-6 text-plum hover:underline"
            onClick={() => change((held) => askByLink(held, step.id, editing.asking))}
          >
            by a signed link
          </button>
        )}
      </p>
      <FromTheParent step={step} editing={editing} />
    </section>
  );
}

/** A record's fields that can be asked for: those that are asked, needed or recognised by first. */
function offered(entity: Entity, filled: ReadonlyMap<string, Filled>, step: Step): Field[] {
  const keys = new Set(step.recognise.flatMap(({ fields }) => fields));
  const weight = (field: Field): number =>
    filled.has(field.name) ? 0 : isNeeded(field, step) ? 1 : keys.has(field.name) ? 2 : 3;
  return entity.fields
    .filter((field) => isWritable(field) && (canBeAsked(field) || filled.has(field.name)))
    .sort((a, b) => weight(a) - weight(b));
}

/** A record that is only ever changed has all it needs. */
const isNeeded = (field: Field, step: Step): boolean => mayCreate(step) && mustBeGiven(field);

function foundBy(step: Step, entity: Entity, { form, language }: Editing): string {
  const label = (name: string): string => entity.fields.find((field) => field.name === name)?.label ?? name;
  if (isLinked(form, step)) return 'the one that the link names';
  if (step.record?.by === 'field') {
    const chooser = chooserOf(form, step);
    const asked = chooser?.item ?? standingsOf(form).find(({ name }) => name === step.record!.field)?.item;
    const said = asked ? say(asked.label, language, form.languages) : step.record.field;
    return chooser?.of ? `the newest of “${said}”` : `the one that “${said}” says`;
  }
  const [key] = step.recognise;
  const rows = step.repeat === undefined ? '' : `one a row of ${step.repeat}, `;
  if (key) return `${rows}found by its ${key.fields.map(label).join(' and ')}`;
  return step.evidence ? `${rows}weighed` : `${rows}always a new one`;
}

function noteOf(field: Field, how: Filled | undefined, step: Step): string {
  if (how?.by === 'question') return ordinal(how.at);
  if (how) return how.by === 'questions' ? 'of several' : 'by the plan';
  if (isNeeded(field, step)) return 'needed';
  return step.recognise.some(({ fields }) => fields.includes(field.name)) ? 'recognises' : '';
}

function Ticked({
  label,
  ticked,
  disabled,
  flip,
  note,
  warns = false,
  choose,
  children,
}: {
  label: string;
  ticked: boolean;
  disabled: boolean;
  flip: () => void;
  note: string;
  warns?: boolean;
  choose?: () => void;
  children: ReactNode;
}) {
  return (
    <li className="grid grid-cols-[24px_minmax(0,1fr)_auto] items-center gap-1.5 py-0.5">
      <input
        type="checkbox"
        aria-label={`Ask for ${label}`}
        className="size-4 accent-moss"
        checked={ticked}
        disabled={disabled}
        onChange={flip}
      />
      {choose ? (
        <button type="button" className="min-h-6 min-w-0 text-left" onClick={choose} aria-label={`Go to ${label}`}>
          {children}
        </button>
      ) : (
        <span className="min-w-0">{children}</span>
      )}
      <span className={cx('text-small', warns ? 'font-semibold text-saffron' : 'text-soft')}>{note}</span>
    </li>
  );
}

/** Finds a field among those of all records that the plan is about, by typing. */
function AskMore({ editing }: { editing: Editing }) {
  const { document, schemas } = useDraft();
  return (
    <Editable
      bare
      wide
      label="Ask for more"
      className="text-plum hover:underline"
      shown={<span id="ask-more">ask for more</span>}
    >
      {(close) => (
        <Combobox
          placeholder="Ask for a field, or a kind of question"
          items={[
            ...document.plan.steps.flatMap((step) => {
              const entity = schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
              if (!entity || step.record?.by === 'step') return [];
              const filled = filledBy(editing.form, step);
              return offered(entity, filled, step)
                .filter(({ name }) => !filled.has(name))
                .map((field) => ({
                  value: `field ${step.id} ${field.name}`,
                  label: field.label,
                  words: `${field.label} ${field.name}`,
                  note: isNeeded(field, step) ? 'needed' : field.type,
                  group: stepName(step, document.plan.steps, schemas),
                }));
            }),
            ...KINDS.map(({ kind, words, note }) => ({
              value: `kind ${kind}`,
              label: words,
              words,
              note,
              group: 'A question of your own',
            })),
          ]}
          choose={(value) => {
            const [what, first = '', ...more] = value.split(' ');
            if (what === 'field') editing.ask(first, more.join(' '));
            else editing.add(KINDS.find(({ kind }) => value === `kind ${kind}`)!.kind);
            close();
          }}
        />
      )}
    </Editable>
  );
}
