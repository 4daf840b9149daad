import { readOptions, writeOptions, type HostedOption, type Item } from '@zusammen/core/forms/hosted';
import { useState } from 'react';
import { Button } from '../../../parts/button.tsx';
import { plural } from '../../../parts/plural.ts';
import type { Editing } from './editing.tsx';
import { Part } from './part.tsx';

/** The options of a question: pasted as a list, or those of another field. */
export function OptionsPart({ item, edited, editing }: { item: Item; edited: boolean; editing: Editing }) {
  const options = item.options ?? [];
  const take = (next: HostedOption[]): void => editing.change(item.id, (held) => ({ ...held, options: next }));
  return (
    <Part label="Options" shown={plural(options.length, 'option')} edited={edited} wide>
      {(close) => <OptionsBox options={options} editing={editing} take={take} close={close} />}
    </Part>
  );
}

function OptionsBox({
  options,
  editing,
  take,
  close,
}: {
  options: readonly HostedOption[];
  editing: Editing;
  take: (options: HostedOption[]) => void;
  close: () => void;
}) {
  const { language, form, asking } = editing;
  const [text, setText] = useState(() => writeOptions(options, language, form.languages));
  const read = readOptions(text, language, options);
  const fields = [...asking.schemas.values()].flatMap(({ entities }) =>
    entities.flatMap((entity) =>
      entity.fields
        .filter((field) => field.options && field.options.length > 0 && field.rights !== 'none')
        .map((field) => ({ key: `${entity.label}: ${field.label}`, options: field.options! })),
    ),
  );
  return (
    <div className="space-y-2 p-2">
      <label className="block">
        <span className="mb-1 block text-small font-semibold">One a line, or what is sent; what is shown</span>
        <textarea
          autoFocus
          spellCheck={false}
          rows={Math.min(12, Math.max(5, options.length + 1))}
          className="w-full rounded-[6px] border border-line bg-sheet p-2 font-mono text-[13px]"
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      {!read.ok && (
        <p role="alert" className="text-small text-brick">
          {read.reason}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Button
          look="moss"
          disabled={!read.ok}
          onClick={() => {
            if (read.ok) take(read.options);
            close();
          }}
        >
          Take {read.ok ? plural(read.options.length, 'option') : 'these'}
        </Button>
        {fields.length > 0 && (
          <select
            aria-label="Take the options of a field"
            className="h-[33px] max-w-[210px] rounded-[7px] border border-line bg-sheet px-2"
            value=""
            onChange={({ target }) => {
              const from = fields[Number(target.value)];
              if (!from) return;
              const taken = from.options
                .filter(({ value }) => value !== '' && value.length <= 200)
                .slice(0, 1000)
                .map(({ value, label }) => ({ value, label: { [language]: (label || value).slice(0, 400) } }));
              setText(writeOptions(taken, language, form.languages));
            }}
          >
            <option value="">those of a field …</option>
            {fields.map(({ key }, at) => (
              <option key={`${key} ${at}`} value={at}>
                {key}
              </option>
            ))}
          </select>
        )}
      </div>
    </div>
  );
}
