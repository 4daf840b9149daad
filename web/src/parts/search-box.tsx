import { cx } from './cx.ts';

/** A search over what a page lists; the page keeps the text, in its address where it can. */
export function SearchBox({
  label,
  placeholder,
  text,
  change,
  width,
}: {
  label: string;
  placeholder: string;
  text: string;
  change: (text: string) => void;
  /** Its width, as a class. */
  width: string;
}) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={text}
      onChange={({ target }) => change(target.value)}
      className={cx('h-[32px] rounded-[7px] border border-line bg-sheet px-3', width)}
    />
  );
}
