import type { ButtonHTMLAttributes, Ref } from 'react';
import { cx } from './cx.ts';
import { Key } from './key.tsx';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: 'strong' | 'plain' | 'quiet' | 'moss' | 'danger';
  /** The key that does the same, shown beside the words. */
  hotkey?: string;
  busy?: boolean;
  ref?: Ref<HTMLButtonElement>;
}

const LOOKS = {
  strong: 'bg-plum text-on-strong border-plum hover:opacity-90',
  moss: 'bg-moss text-on-strong border-moss hover:opacity-90',
  plain: 'bg-sheet border-line hover:bg-wash',
  quiet: 'border-transparent text-plum hover:underline px-1',
  danger: 'bg-sheet border-brick text-brick hover:bg-brick-wash',
};

export function Button({
  look = 'plain',
  hotkey,
  busy = false,
  children,
  className,
  disabled,
  type = 'button',
  ...rest
}: Props) {
  return (
    <button
      type={type}
      aria-busy={busy}
      disabled={disabled || busy}
      className={cx(
        'inline-flex h-[33px] items-center gap-2 rounded-[7px] border px-3.5 font-semibold whitespace-nowrap disabled:cursor-default disabled:opacity-50',
        LOOKS[look],
        className,
      )}
      {...rest}
    >
      {children}
      {hotkey && <Key name={hotkey} />}
    </button>
  );
}
