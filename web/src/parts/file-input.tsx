import { cx } from './cx.ts';

/** Chooses a file; the browser's own button in the look of ours. */
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
  return (
    <input
      type="file"
      aria-label={label}
      accept={accept}
      disabled={disabled}
      className={cx(
        'max-w-full text-small text-soft file:mr-2 file:h-[30px] file:rounded-[7px] file:border file:border-line file:bg-sheet file:px-3 file:font-semibold file:text-ink',
        disabled ? 'opacity-50' : 'file:cursor-pointer hover:file:bg-wash',
      )}
      onChange={({ target }) => {
        const file = target.files?.[0];
        if (file) choose(file);
        // The same file may be chosen again after it was mended.
        target.value = '';
      }}
    />
  );
}

export const TABLE_FILES = '.csv,.tsv,.txt,.xlsx,text/csv';
