import type { Step } from '@zusammen/core/plans';
import type { Entity } from '@zusammen/core/schema';
import type { ReactNode } from 'react';
import type { System } from '../../../api/types.ts';
import { Choices, Editable } from '../../../parts/editable.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { Tag } from '../../../parts/chip.tsx';
import { useDraft } from '../draft.tsx';
import { entityItems, likelyKey } from './choose-entity.tsx';
import { useSuggest } from './suggest.ts';

type Edit = (work: (step: Step) => Step) => void;

/** "Look in Co-op CRM for a Person recognised by E-mail": each underlined part is edited where it stands. */
export function StepSentence({
  step,
  entity,
  system,
  edit,
}: {
  step: Step;
  entity: Entity | undefined;
  system: System | undefined;
  edit: Edit;
}) {
  const { document, systems, schemas, mayEdit } = useDraft();
  const suggest = useSuggest();
  const another = async (chosen: string): Promise<void> => {
    const [systemId, name] = chosen.split(' ') as [string, string];
    const next = schemas.get(systemId)?.entities.find((each) => each.name === name);
    if (!next || (systemId === step.system && name === step.entity)) return;
    const lines = await suggest(document, next, []);
    edit((held) => ({
      ...held,
      system: systemId,
      entity: name,
      recognise: likelyKey(next).map((fields) => ({ fields })),
      lines,
    }));
  };
  return (
    <p className="border-b border-hair px-4 py-3 text-[15px] leading-7">
      Look in <strong className="font-semibold">{system?.name ?? 'a system that is gone'}</strong>{' '}
      {system?.practice && <Tag>practice</Tag>} for a{' '}
      <Editable label="Entity" wide disabled={!mayEdit} shown={entity?.label ?? step.entity}>
        {(close) => (
          <Combobox
            placeholder="Find an entity"
            items={entityItems(systems, schemas)}
            choose={(value) => {
              void another(value);
              close();
            }}
          />
        )}
      </Editable>{' '}
      <RecognisedBy step={step} entity={entity} edit={edit} />, and write as{' '}
      <strong className="font-semibold">the connection</strong>.
    </p>
  );
}

function RecognisedBy({ step, entity, edit }: { step: Step; entity: Entity | undefined; edit: Edit }) {
  const { mayEdit } = useDraft();
  const labelOf = (name: string): string => entity?.fields.find((field) => field.name === name)?.label ?? name;
  const shown = step.recognise.map(({ fields }) => fields.map(labelOf).join(' with ')).join(', or ');
  const mapped = new Set(step.lines.map(({ field }) => field));
  const fields = (entity?.fields ?? []).filter(
    ({ name, type }) => mapped.has(name) && type !== 'options' && type !== 'long text',
  );
  return (
    <>
      {step.recognise.length === 0 ? 'that is' : 'recognised by'}{' '}
      <Editable
        label="Recognised by"
        disabled={!mayEdit}
        wide
        shown={step.recognise.length === 0 ? 'always new' : shown}
      >
        {(close) => (
          <div className="p-2">
            <p className="mb-2 text-small text-soft">
              Keys are tried in order; the first that finds something decides. A key compares exactly, e-mail addresses
              without regard to case.
            </p>
            {step.recognise.map((key, at) => (
              <div
                key={key.fields.join()}
                className="flex items-center justify-between rounded-[6px] px-2 py-1.5 hover:bg-wash"
              >
                <span className="font-semibold">{key.fields.map(labelOf).join(' with ')}</span>
                <button
                  type="button"
                  className="text-small text-soft hover:text-brick hover:underline"
                  onClick={() =>
                    edit((held) => ({ ...held, recognise: held.recognise.filter((_, index) => index !== at) }))
                  }
                >
                  remove
                </button>
              </div>
            ))}
            <p className="mt-2 mb-1 text-small font-semibold">Add a key</p>
            <Combobox
              placeholder="Find a field that a line fills"
              items={fields
                .filter(({ name }) => !step.recognise.some((key) => key.fields.length === 1 && key.fields[0] === name))
                .map((field) => ({
                  value: field.name,
                  label: field.label,
                  words: `${field.label} ${field.name}`,
                  note: field.unique ? 'unique' : field.type,
                }))}
              choose={(name) => {
                edit((held) => ({ ...held, recognise: [...held.recognise, { fields: [name] }] }));
                close();
              }}
            />
          </div>
        )}
      </Editable>
    </>
  );
}

const NONE = [
  { value: 'create', label: 'Create it' },
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;
const ONE = [
  { value: 'update', label: 'Update it' },
  { value: 'leave', label: 'Leave it as it is' },
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;
const SEVERAL = [
  { value: 'ask', label: 'Ask in Review' },
  { value: 'skip', label: 'Skip this step' },
  { value: 'stop', label: 'Stop here' },
] as const;

/** What happens when none, one or several are found, each with how many samples it concerns. */
export function Outcomes({ step, edit }: { step: Step; edit: Edit }) {
  const { rehearsal, mayEdit } = useDraft();
  const verdicts = (rehearsal.data ?? []).flatMap(
    ({ course }) => course?.steps.find((each) => each.step === step.id)?.verdict ?? [],
  );
  const share = (...which: string[]): string =>
    verdicts.length === 0
      ? ''
      : `${verdicts.filter((verdict) => which.includes(verdict)).length} of ${verdicts.length}`;
  return (
    <div className="grid grid-cols-3 divide-x divide-hair border-b border-hair">
      <Cell name="None found" note={share('none', 'new')}>
        <Editable
          label="When none is found"
          disabled={!mayEdit}
          shown={NONE.find(({ value }) => value === step.whenNone)?.label}
        >
          {(close) => (
            <Choices
              options={NONE}
              chosen={step.whenNone}
              choose={(whenNone) => (edit((held) => ({ ...held, whenNone })), close())}
            />
          )}
        </Editable>
      </Cell>
      <Cell name="One found" note={share('one')}>
        <Editable
          label="When one is found"
          disabled={!mayEdit}
          shown={ONE.find(({ value }) => value === step.whenOne)?.label}
        >
          {(close) => (
            <Choices
              options={ONE}
              chosen={step.whenOne}
              choose={(whenOne) => (edit((held) => ({ ...held, whenOne })), close())}
            />
          )}
        </Editable>
      </Cell>
      <Cell name="Several found" note={share('several')}>
        <Editable
          label="When several are found"
          disabled={!mayEdit}
          shown={SEVERAL.find(({ value }) => value === step.whenSeveral)?.label}
        >
          {(close) => (
            <Choices
              options={SEVERAL}
              chosen={step.whenSeveral}
              choose={(whenSeveral) => (edit((held) => ({ ...held, whenSeveral })), close())}
            />
          )}
        </Editable>
      </Cell>
    </div>
  );
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
