import { standingsOf } from '@zusammen/core/forms/hosted';
import {
  alwaysAnew,
  alwaysNew,
  groupsOf,
  recogniseBy,
  recordNamedBy,
  recordOfStep,
  repeatBy,
  stepName,
  weighEvidence,
  type Step,
} from '@zusammen/core/plans';
import type { Entity } from '@zusammen/core/schema';
import { Link } from 'react-router';
import { Choices, Editable } from '../../../parts/editable.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { useDraft } from '../draft.tsx';

type Edit = (work: (step: Step) => Step) => void;

/** Once, or once per row of a repeating group; shown only where a form has one. */
export function HowOften({ step, edit }: { step: Step; edit: Edit }) {
  const { document, mayEdit } = useDraft();
  // Rows of a form of ours are there before anything is asked in them.
  const ours = document.form ? standingsOf(document.form) : [];
  const empty = ours.filter(({ item, groups: around }) => item.kind === 'group' && around.length === 0);
  const groups = [...new Set([...groupsOf(document.fields), ...empty.map(({ name }) => name)])];
  if (groups.length === 0 && step.repeat === undefined) return null;
  const choose = (group: string): void => edit((held) => repeatBy(held, group === '' ? undefined : group));
  return (
    <>
      <Editable
        label="How often"
        disabled={!mayEdit}
        shown={step.repeat === undefined ? 'once' : `for every row of ${step.repeat}`}
      >
        {(close) => (
          <Choices
            options={[
              { value: '', label: 'once' },
              ...groups.map((group) => ({ value: group, label: `for every row of ${group}` })),
            ]}
            chosen={step.repeat ?? ''}
            choose={(group) => (choose(group), close())}
          />
        )}
      </Editable>
      {', '}
    </>
  );
}

/** Which record: recognised by keys, always new, that of an earlier step, or the one the form names. */
export function WhichRecord({ step, entity, edit }: { step: Step; entity: Entity | undefined; edit: Edit }) {
  const { document, schemas, facts, mayEdit } = useDraft();
  const { steps } = document.plan;
  const labelOf = (name: string): string => entity?.fields.find((field) => field.name === name)?.label ?? name;
  const nameOf = (id: string | undefined): string => {
    const earlier = steps.find((each) => each.id === id);
    return earlier ? stepName(earlier, steps, schemas) : 'a step that is gone';
  };
  const fieldLabel = (name: string | undefined): string =>
    document.fields.find((field) => field.name === name)?.label ?? 'a field that is gone';
  const before = steps
    .slice(0, steps.indexOf(step))
    .filter((each) => each.system === step.system && each.entity === step.entity && each.record?.by !== 'step');
  const { record } = step;
  const lead = record || alwaysNew(step) ? 'that is' : 'recognised by';
  const shown =
    record?.by === 'step'
      ? `the one of ${nameOf(record.step)}`
      : record?.by === 'field'
        ? `named by ${fieldLabel(record.field)}`
        : alwaysNew(step)
          ? 'always new'
          : [
              ...step.recognise.map(({ fields }) => fields.map(labelOf).join(' with ')),
              ...(step.evidence ? ['all evidence together'] : []),
            ].join(', or ');
  const mapped = new Set(step.lines.map(({ field }) => field));
  const keyFields = (entity?.fields ?? []).filter(
    ({ name, type }) => mapped.has(name) && type !== 'options' && type !== 'long text',
  );
  /** How well a field alone tells known records apart, where that was measured; seen before it is chosen. */
  const sharedBy = (name: string): string | undefined => {
    const measured = facts?.recognitions?.[`${step.system}/${step.entity}`]?.keys.find(
      ({ fields }) => fields.length === 1 && fields[0] === name,
    );
    if (!measured || measured.filled === 0) return undefined;
    const share = (measured.shared / measured.filled) * 100;
    return `${share > 0 && share < 10 ? share.toFixed(1) : share.toFixed(0)} % share it`;
  };
  const recognised = (work: (keys: Step['recognise']) => Step['recognise']): void =>
    edit((held) => recogniseBy(held, work));
  const weighed = (on: boolean): void => edit((held) => weighEvidence(held, on, entity));
  const alone = (name: string): boolean =>
    step.recognise.some((key) => key.fields.length === 1 && key.fields[0] === name);
  return (
    <>
      {lead}{' '}
      <Editable label="Which record" disabled={!mayEdit} wide shown={shown}>
        {(close) => (
          <div className="p-2">
            {!record && (
              <>
                <p className="mb-2 text-small text-soft">
                  Keys are tried in order; the first that finds something decides. A key compares exactly, e-mail
                  addresses without regard to case.
                </p>
                {step.recognise.map((key, at) => (
                  <div key={key.fields.join()} className="rounded-[6px] px-2 py-1 hover:bg-wash">
                    <div className="flex items-center justify-between">
                      <span className="font-semibold">{key.fields.map(labelOf).join(' with ')}</span>
                      <button
                        type="button"
                        className="min-h-6 text-small text-soft hover:text-brick hover:underline"
                        onClick={() => recognised((keys) => keys.filter((_, index) => index !== at))}
                      >
                        remove
                      </button>
                    </div>
                    <label className="text-small text-soft">
                      together with{' '}
                      <select
                        aria-label={`${key.fields.map(labelOf).join(' with ')} together with`}
                        className="h-6 rounded-[5px] border border-line bg-sheet px-1"
                        value=""
                        onChange={({ target }) =>
                          recognised((keys) =>
                            keys.map((each, index) =>
                              index === at ? { fields: [...each.fields, target.value] } : each,
                            ),
                          )
                        }
                      >
                        <option value="">nothing more</option>
                        {keyFields
                          .filter(({ name }) => !key.fields.includes(name))
                          .map(({ name, label }) => (
                            <option key={name} value={name}>
                              {label}
                            </option>
                          ))}
                      </select>
                    </label>
                  </div>
                ))}
              </>
            )}
            {step.evidence && !record && (
              <div className="mb-2 flex items-start justify-between gap-3 rounded-[6px] px-2 py-1 hover:bg-wash">
                <span>
                  <span className="font-semibold">all evidence together</span>
                  <span className="block text-small text-soft">
                    {step.recognise.length > 0 ? 'Where no key finds anything: spelling' : 'Spelling'}, sound, short
                    forms and rarity of all values, weighed.{' '}
                    <Link
                      to={`/schema/recognition?system=${step.system}&entity=${step.entity}`}
                      className="text-plum underline"
                    >
                      How {entity?.label ?? 'it'} is recognised
                    </Link>
                  </span>
                </span>
                <button
                  type="button"
                  className="min-h-6 text-small text-soft hover:text-brick hover:underline"
                  onClick={() => weighed(false)}
                >
                  remove
                </button>
              </div>
            )}
            <Combobox
              placeholder="Find a field that a line fills, or another way"
              items={[
                ...(step.evidence
                  ? []
                  : [
                      {
                        value: 'evidence',
                        label: 'all evidence together',
                        words: 'all evidence together weighed recognition',
                        note: 'also other spellings',
                        group: 'Recognised by',
                      },
                    ]),
                ...keyFields
                  .filter(({ name }) => !alone(name))
                  .map((field) => ({
                    value: `key ${field.name}`,
                    label: field.label,
                    words: `${field.label} ${field.name}`,
                    note: field.unique ? 'unique' : (sharedBy(field.name) ?? field.type),
                    group: 'Recognised by',
                  })),
                ...before.map((earlier) => ({
                  value: `step ${earlier.id}`,
                  label: `the one of ${nameOf(earlier.id)}`,
                  words: `earlier step same ${nameOf(earlier.id)}`,
                  group: 'Or the record of an earlier step',
                })),
                ...document.fields
                  .filter(({ type }) => type === 'text' || type === 'number' || type === 'option')
                  .map((field) => ({
                    value: `field ${field.name}`,
                    label: field.label,
                    words: `named id ${field.label} ${field.name}`,
                    note: 'holds its id',
                    group: 'Or named by the form',
                  })),
                ...(!alwaysNew(step) ? [{ value: 'new', label: 'always new', words: 'always new', group: 'Or' }] : []),
              ]}
              choose={(chosen) => {
                const [kind, ...rest] = chosen.split(' ');
                const value = rest.join(' ');
                if (kind === 'evidence') weighed(true);
                else if (kind === 'key') recognised((keys) => [...keys, { fields: [value] }]);
                else if (kind === 'new') edit(alwaysAnew);
                else if (kind === 'step') edit((held) => recordOfStep(held, value));
                else edit((held) => recordNamedBy(held, value));
                close();
              }}
            />
          </div>
        )}
      </Editable>
    </>
  );
}
