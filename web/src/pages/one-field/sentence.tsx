import { optionsFrom } from '@zusammen/core/definitions';
import { WANTED_TYPES, type WantedField } from '@zusammen/core/one-field';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';
import { plural } from '../../parts/plural.ts';
import { count } from '../../parts/time.tsx';

export const KIND_NAMES: Record<(typeof WANTED_TYPES)[number], string> = {
  text: 'a text',
  'long text': 'a long text',
  email: 'an e-mail address',
  phone: 'a telephone number',
  'web address': 'a web address',
  integer: 'a whole number',
  number: 'a number',
  'yes/no': 'yes or no',
  date: 'a date',
  'date and time': 'a date and time',
  time: 'a time of day',
  duration: 'a length of time',
  option: 'one of several options',
  options: 'several options',
};

/** So many options are shown in the sentence. */
const SHOWN = 8;

/** What the field is to be, as a sentence whose parts are changed in place. */
export function Sentence({
  field,
  change,
  disabled,
}: {
  field: WantedField;
  change: (next: { [Name in keyof WantedField]?: WantedField[Name] | undefined }) => void;
  disabled: boolean;
}) {
  const { label, type, options = [], help } = field;
  const chosen = type === 'option' || type === 'options';
  return (
    <div className="px-4 py-3 text-[15px] leading-8">
      <input
        aria-label="What the field is called"
        placeholder="What it is called"
        autoFocus={label === ''}
        value={label}
        maxLength={60}
        disabled={disabled}
        size={Math.max(label === '' ? 18 : 6, label.length)}
        className="border-b-2 border-moss bg-transparent font-semibold outline-offset-4 placeholder:font-normal placeholder:text-soft"
        onChange={({ target }) => change({ label: target.value })}
      />{' '}
      is{' '}
      <Editable className="leading-[1.4]" label="What kind of field it is" shown={KIND_NAMES[type]} disabled={disabled}>
        {(close) => (
          <Choices
            chosen={type}
            choose={(next) => {
              change({ type: next });
              close();
            }}
            options={WANTED_TYPES.map((value) => ({ value, label: KIND_NAMES[value] }))}
          />
        )}
      </Editable>
      {chosen && (
        <>
          :{' '}
          {options.slice(0, SHOWN).map(({ value, label: name }) => (
            <span key={value} className="mr-1.5 inline-block rounded-[5px] bg-sand px-2 leading-7 text-[14px]">
              {name}
            </span>
          ))}
          {options.length > SHOWN && (
            <span className="mr-1.5 text-soft">and {count(options.length - SHOWN)} more </span>
          )}
          <PasteOptions options={options} change={(next) => change({ options: next })} disabled={disabled} />
        </>
      )}
      {type === 'option' && options.length > 0 && (
        <>
          , usually{' '}
          <Editable
            className="leading-[1.4]"
            label="What it usually is"
            shown={options.find(({ value }) => value === field.default)?.label ?? 'nothing'}
            disabled={disabled}
          >
            {(close) => (
              <Choices
                chosen={field.default ?? ''}
                choose={(next) => {
                  change({ default: next === '' ? undefined : next });
                  close();
                }}
                options={[
                  { value: '', label: 'nothing: it stays blank' },
                  ...options.slice(0, 200).map(({ value, label: name }) => ({ value, label: name })),
                ]}
              />
            )}
          </Editable>
        </>
      )}
      {type === 'text' && (
        <>
          {' '}
          of at most{' '}
          <Editable
            className="leading-[1.4]"
            label="How long it may be"
            shown={plural(field.maxLength ?? 200, 'character')}
            disabled={disabled}
          >
            {() => (
              <div className="w-[220px] p-3">
                <TextField
                  label="Characters at most"
                  type="number"
                  min={1}
                  max={100000}
                  value={field.maxLength ?? 200}
                  onChange={({ target }) => {
                    const most = Math.trunc(Number(target.value));
                    if (most >= 1 && most <= 100_000) change({ maxLength: most });
                  }}
                />
              </div>
            )}
          </Editable>
        </>
      )}
      ,{' '}
      <Editable
        className="leading-[1.4]"
        label="Whether it is required"
        shown={field.required ? 'required' : 'not required'}
        disabled={disabled}
      >
        {(close) => (
          <Choices
            chosen={field.required ? 'required' : 'not required'}
            choose={(next) => {
              change({ required: next === 'required' ? true : undefined });
              close();
            }}
            options={[
              { value: 'not required', label: 'not required' },
              {
                value: 'required',
                label: 'required',
                help: 'Whatever writes such a record has to fill it from then on; a check names what doesn’t.',
              },
            ]}
          />
        )}
      </Editable>
      ,{' '}
      <Editable
        className="leading-[1.4]"
        label="How it is explained"
        shown={help === undefined ? 'not explained' : `explained as “${help}”`}
        disabled={disabled}
      >
        {() => (
          <div className="w-[340px] p-3">
            <TextField
              label="What it is for"
              value={help ?? ''}
              maxLength={400}
              onChange={({ target }) => change({ help: target.value === '' ? undefined : target.value })}
            />
          </div>
        )}
      </Editable>
      .
    </div>
  );
}

/** Options, one on each line: typed, or pasted from anywhere. */
function PasteOptions({
  options,
  change,
  disabled,
}: {
  options: readonly { value: string; label: string }[];
  change: (next: { value: string; label: string }[] | undefined) => void;
  disabled: boolean;
}) {
  return (
    <Editable
      bare
      wide
      className="text-plum hover:underline"
      label="Paste a list of options"
      shown={options.length === 0 ? 'paste a list' : 'change the list'}
      disabled={disabled}
    >
      {(close) => <PasteBox options={options} change={change} close={close} />}
    </Editable>
  );
}

function PasteBox({
  options,
  change,
  close,
}: {
  options: readonly { label: string }[];
  change: (next: { value: string; label: string }[] | undefined) => void;
  close: () => void;
}) {
  const [text, setText] = useState(() => options.map(({ label }) => label).join('\n'));
  const read = optionsFrom(text);
  const odd = [
    ...(read.twice.length > 0
      ? [plural(read.twice.length, 'option came twice and counts once', 'options came twice and count once')]
      : []),
    ...(read.tooLong > 0 ? [`${plural(read.tooLong, 'option')} longer than 200 characters left out`] : []),
    ...(read.more > 0 ? [`${count(read.more)} beyond 10,000 left out`] : []),
  ];
  return (
    <div className="space-y-2 p-2 font-normal">
      <label className="block text-small font-semibold" htmlFor="pasted-options">
        Options, one on each line
      </label>
      <textarea
        id="pasted-options"
        rows={9}
        autoFocus
        value={text}
        className="w-full rounded-[7px] border border-line bg-sheet px-2 py-1 leading-6"
        onChange={({ target }) => setText(target.value)}
      />
      <div className="flex items-center justify-between gap-2">
        <span role="status" className="text-small text-soft">
          {plural(read.options.length, 'option')}
          {odd.length > 0 && `; ${odd.join('; ')}`}
        </span>
        <Button
          look="strong"
          onClick={() => {
            change(read.options.length === 0 ? undefined : read.options);
            close();
          }}
        >
          Take them
        </Button>
      </div>
    </div>
  );
}
