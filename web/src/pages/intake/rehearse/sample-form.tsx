import { textsSaid, type FormField, type SubmittedValues } from '@zusammen/core/forms';
import { isBlank, readBoolean } from '@zusammen/core/values';
import { useState } from 'react';

/** So many choices stand open; more are in a list. */
const OPEN_CHOICES = 5;
const BOX = 'min-h-[30px] w-full rounded-[6px] border border-line bg-sheet px-2';

/** A form's fields to be filled in, each with the control that a page would have for it. */
export function SampleForm({
  fields,
  begin,
  changed,
}: {
  fields: readonly FormField[];
  begin: SubmittedValues;
  changed: (values: SubmittedValues) => void;
}) {
  const [values, setValues] = useState(begin);
  const set = (name: string, value: string | string[]): void => {
    const next = { ...values, [name]: value };
    if (isBlank(value)) delete next[name];
    setValues(next);
    changed(next);
  };
  return (
    <div tabIndex={0} aria-label="Values" className="max-h-[50vh] space-y-2 overflow-auto pr-1">
      {fields.map((field) => (
        <Row key={field.name} field={field} held={values[field.name]} set={(value) => set(field.name, value)} />
      ))}
    </div>
  );
}

function Row({
  field,
  held,
  set,
}: {
  field: FormField;
  held: SubmittedValues[string] | undefined;
  set: (value: string | string[]) => void;
}) {
  const { name, label, type, options = [] } = field;
  const texts = textsSaid(held);
  const several = type === 'options' || field.multiple === true;
  const open = options.length > 0 && options.length <= OPEN_CHOICES;
  const caption = (
    <span className="truncate text-small" title={name}>
      {label}
      {field.required && <span className="text-soft"> required</span>}
    </span>
  );
  if (options.length > 0 && (open || several))
    return (
      <fieldset className="grid grid-cols-[190px_1fr] items-start gap-3">
        <legend className="contents">{caption}</legend>
        <span className="flex max-h-[120px] flex-wrap gap-x-4 gap-y-1 overflow-auto">
          {options.map((option) => (
            <label key={option.value} className="inline-flex min-h-6 items-center gap-1.5">
              <input
                type={several ? 'checkbox' : 'radio'}
                name={`sample ${name}`}
                checked={texts.includes(option.value)}
                onChange={({ target }) =>
                  set(
                    !several
                      ? option.value
                      : target.checked
                        ? [...texts, option.value]
                        : texts.filter((each) => each !== option.value),
                  )
                }
              />
              {option.label || 'none of these'}
            </label>
          ))}
        </span>
      </fieldset>
    );
  return (
    <label className="grid grid-cols-[190px_1fr] items-center gap-3">
      {caption}
      {options.length > 0 ? (
        <select className={BOX} value={texts[0] ?? ''} onChange={({ target }) => set(target.value)}>
          <option value="" />
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      ) : type === 'yes/no' ? (
        <input
          type="checkbox"
          className="justify-self-start"
          checked={ticked(texts[0])}
          onChange={({ target }) => set(target.checked ? (field.initial ?? 'on') : '')}
        />
      ) : type === 'long text' ? (
        <textarea className={BOX} rows={2} value={texts[0] ?? ''} onChange={({ target }) => set(target.value)} />
      ) : (
        <input
          className={BOX}
          type={CONTROLS[type] ?? 'text'}
          step={type === 'number' ? 'any' : undefined}
          min={field.minimum}
          max={field.maximum}
          maxLength={field.maxLength}
          value={texts[0] ?? ''}
          onChange={({ target }) => set(target.value)}
        />
      )}
    </label>
  );
}

/** A page sends a ticked box with any value of its own; a program or a file may send a plain no. */
function ticked(said: string | undefined): boolean {
  if (said === undefined || said === '') return false;
  const read = readBoolean(said);
  return !read.ok || read.value;
}

/** What a page has for a kind of field; a number that visitors write freely is a text. */
const CONTROLS: Partial<Record<FormField['type'], string>> = {
  date: 'date',
  'date and time': 'datetime-local',
  time: 'time',
  email: 'email',
  phone: 'tel',
  'web address': 'url',
};
