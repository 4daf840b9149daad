import { useId, useState } from 'react';
import { cx } from './cx.ts';

/** Chooses a file, and says which was chosen. */
export function FileInput({
  label,
  accept,
  disabled = false,
  choose,
}: {
  label: string;
  accept: string;
  disabled?: boolean;
  choose: (file: File) => void;
}) {
  const id = useId();
  const [name, setName] = useState('');
  return (
    <span className="inline-flex max-w-full items-center gap-2 text-small">
      <input
        id={id}
        type="file"
        aria-label={label}
        accept={accept}
        disabled={disabled}
        className="peer sr-only"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) {
            setName(file.name);
            choose(file);
          }
          // The same file may be chosen again after it was mended.
          target.value = '';
        }}
      />
      <label
        htmlFor={id}
        className={cx(
          'inline-flex h-[30px] items-center rounded-[7px] border border-line bg-sheet px-3 font-semibold whitespace-nowrap text-ink peer-focus-visible:outline-2 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-plum',
          disabled ? 'opacity-50' : 'cursor-pointer hover:bg-wash',
        )}
      >
        {name === '' ? 'Choose a file' : 'Choose another'}
      </label>
      {name !== '' && (
        <span className="min-w-0 truncate text-soft" role="status">
          {name}
        </span>
      )}
    </span>
  );
}

export const TABLE_FILES = '.csv,.tsv,.txt,.xlsx,text/csv';
