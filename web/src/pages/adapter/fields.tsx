import {
  FORMS,
  type AdapterReasons,
  type EntityAdapter,
  type FieldAdapter,
  type ValueForm,
} from '@zusammen/core/adapters';
import { FIELD_TYPES } from '@zusammen/core/schema';
import { cx } from '../../parts/cx.ts';
import { Editable } from '../../parts/editable.tsx';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { ChoicePart, PLACE_HELP, TextPart } from './parts.tsx';
import { sureness } from './sentence.tsx';

const FORM_WORDS: Record<ValueForm | 'usual', string> = {
  usual: 'as usual in JSON',
  seconds: 'seconds since 1970',
  milliseconds: 'milliseconds since 1970',
  'day.month.year': '31.12.2027',
  'day/month/year': '31/12/2027',
  'month/day/year': '12/31/2027',
  number: 'as a number',
  text: 'as a text',
  '1/0': '1 and 0',
  commas: 'one text with commas',
};

/** An entity's fields: what they hold, where they stand, and how sure that is. */
export function Fields({
  entity,
  reasons,
  change,
  locked,
}: {
  entity: EntityAdapter;
  reasons: AdapterReasons;
  change: (change: (entity: EntityAdapter) => EntityAdapter) => void;
  locked: boolean;
}) {
  const set = (name: string, part: (field: FieldAdapter) => FieldAdapter): void =>
    change((each) => ({ ...each, fields: each.fields.map((field) => (field.name === name ? part(field) : field)) }));
  return (
    <Sheet title="Fields" aside={`named by ${entity.key.join(' and ')}`}>
      <table className="w-full">
        <thead>
          <tr>
            <th className={cx(TH, 'pl-4')}>Field</th>
            <th className={TH}>Kind</th>
            <th className={TH}>Stands at</th>
            <th className={TH}>Rules</th>
          </tr>
        </thead>
        <tbody>
          {entity.fields.map((field) => {
            const reason = reasons[`${entity.name}/fields/${field.name}`];
            return (
              <tr key={field.name}>
                <td className={cx(TD, 'pl-4')}>
                  <TextPart
                    label="Label"
                    value={field.label}
                    set={(label) => label !== '' && set(field.name, (each) => ({ ...each, label }))}
                    locked={locked}
                  />
                </td>
                <td className={TD} title={reason && `${reason.why}. ${sureness(reason.sure)}`}>
                  <ChoicePart
                    label={`Kind of ${field.label}`}
                    value={field.type}
                    options={FIELD_TYPES.map((type) => ({ value: type, label: type }))}
                    set={(type) => set(field.name, (each) => ({ ...each, type }))}
                    locked={locked}
                  />
                  {reason && reason.sure < 0.6 && (
                    <span className="text-saffron" title={reason.why}>
                      {' '}
                      ◆<span className="sr-only">a guess</span>
                    </span>
                  )}
                </td>
                <td className={TD}>
                  <TextPart
                    label={`Where ${field.label} stands`}
                    value={field.at}
                    help={PLACE_HELP}
                    set={(at) => set(field.name, (each) => ({ ...each, at }))}
                    locked={locked}
                  />
                </td>
                <td className={TD}>
                  <Rules field={field} set={(part) => set(field.name, part)} locked={locked} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Sheet>
  );
}

function rulesOf({
  required,
  unique,
  readOnly,
  onCreate,
  maxLength,
  maxBytes,
  options,
  relation,
  form,
}: FieldAdapter): string {
  const said = [
    required && 'needed',
    unique && 'unique',
    readOnly && 'set by the system',
    onCreate && 'fixed once made',
    maxBytes !== undefined ? `${maxBytes} bytes` : maxLength !== undefined && `${maxLength} characters`,
    options && `${options.length} options`,
    relation !== undefined && `of ${relation}`,
    form !== undefined && FORM_WORDS[form],
  ].filter((each): each is string => typeof each === 'string');
  return said.length === 0 ? 'none' : said.join(', ');
}

const FLAGS = [
  ['required', 'Needed to create a record'],
  ['unique', 'No two records have the same'],
  ['readOnly', 'Set by the system, never written'],
  ['onCreate', 'Fixed once the record is made'],
] as const;

function Rules({
  field,
  set,
  locked,
}: {
  field: FieldAdapter;
  set: (part: (field: FieldAdapter) => FieldAdapter) => void;
  locked: boolean;
}) {
  const limit = (name: 'maxLength' | 'maxBytes', text: string): void =>
    set((each) => {
      const { [name]: _, ...rest } = each;
      const value = Math.floor(Number(text));
      return value >= 1 ? { ...rest, [name]: value } : rest;
    });
  return (
    <Editable
      label={`Rules of ${field.label}: ${rulesOf(field)}`}
      shown={rulesOf(field)}
      disabled={locked}
      className="font-normal"
      wide
    >
      {() => (
        <div className="space-y-2 p-2">
          {FLAGS.map(([name, label]) => (
            <label key={name} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={field[name] === true}
                onChange={({ target }) =>
                  set((each) => {
                    const { [name]: _, ...rest } = each;
                    return target.checked ? { ...rest, [name]: true } : rest;
                  })
                }
              />{' '}
              {label}
            </label>
          ))}
          {(['maxLength', 'maxBytes'] as const).map((name) => (
            <label key={name} className="flex items-center justify-between gap-2">
              {name === 'maxLength' ? 'Characters at most' : 'Bytes at most'}
              <input
                type="number"
                min={1}
                value={field[name] ?? ''}
                onChange={({ target }) => limit(name, target.value)}
                className="h-[30px] w-28 rounded-[7px] border border-line bg-sheet px-2 font-mono"
              />
            </label>
          ))}
          <label className="flex items-center justify-between gap-2">
            Written
            <select
              value={field.form ?? 'usual'}
              onChange={({ target }) =>
                set((each) => {
                  const { form: _, ...rest } = each;
                  return target.value === 'usual' ? rest : { ...rest, form: target.value as ValueForm };
                })
              }
              className="h-[30px] rounded-[7px] border border-line bg-sheet px-2"
            >
              {(['usual', ...FORMS] as const).map((form) => (
                <option key={form} value={form}>
                  {FORM_WORDS[form]}
                </option>
              ))}
            </select>
          </label>
          {field.options && (
            <p className="text-small text-soft">
              {field.options
                .slice(0, 12)
                .map(({ label }) => label)
                .join(', ')}
              {field.options.length > 12 && ` and ${field.options.length - 12} more`}
            </p>
          )}
        </div>
      )}
    </Editable>
  );
}
