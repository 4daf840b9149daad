import { useState, type ReactNode } from 'react';
import { Button } from '../../parts/button.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';

/** A part of a sentence that is a text: a path, a parameter, a place in an answer. */
export function TextPart({
  label,
  value,
  set,
  help,
  locked,
  blank = '…',
}: {
  label: string;
  value: string | undefined;
  set: (value: string) => void;
  help?: ReactNode;
  locked: boolean;
  /** What is shown while it is empty. */
  blank?: string;
}) {
  const said = value === undefined || value === '' ? blank : value;
  return (
    <Editable
      label={`${label}: ${said}`}
      shown={<span className="font-mono text-[13px] break-all">{said}</span>}
      disabled={locked}
      className="max-w-full text-left leading-[20px]"
      wide
    >
      {(close) => (
        <TextEntry
          label={label}
          value={value ?? ''}
          help={help}
          done={(next) => {
            set(next);
            close();
          }}
        />
      )}
    </Editable>
  );
}

function TextEntry({
  label,
  value,
  help,
  done,
}: {
  label: string;
  value: string;
  help: ReactNode;
  done: (value: string) => void;
}) {
  const [text, setText] = useState(value);
  return (
    <form
      className="space-y-2 p-2"
      onSubmit={(event) => {
        event.preventDefault();
        done(text.trim());
      }}
    >
      <TextField
        label={label}
        value={text}
        help={help}
        autoFocus
        className="font-mono"
        onChange={({ target }) => setText(target.value)}
      />
      <div className="flex justify-end">
        <Button type="submit" look="strong">
          Take it
        </Button>
      </div>
    </form>
  );
}

/** A part of a sentence that is one of a few. */
export function ChoicePart<T extends string>({
  label,
  value,
  options,
  set,
  locked,
}: {
  label: string;
  value: T;
  options: readonly { value: T; label: string; help?: string }[];
  set: (value: T) => void;
  locked: boolean;
}) {
  const shown = options.find((each) => each.value === value)?.label ?? value;
  return (
    <Editable label={`${label}: ${shown}`} shown={shown} disabled={locked} className="leading-[20px]">
      {(close) => (
        <Choices
          options={options}
          chosen={value}
          choose={(next) => {
            set(next);
            close();
          }}
        />
      )}
    </Editable>
  );
}

export const PLACE_HELP = 'A JSON Pointer, such as /data/items; empty: the whole answer.';
