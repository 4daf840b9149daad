import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { cx } from './cx.ts';

/** A part of a sentence that is edited in place: underlined, opens what it can be. */
export function Editable({
  label,
  shown,
  disabled = false,
  children,
  className,
  wide = false,
  bare = false,
}: {
  label: string;
  shown: ReactNode;
  disabled?: boolean;
  children: (close: () => void) => ReactNode;
  className?: string;
  wide?: boolean;
  /** Without the underline, for what is a chip already. */
  bare?: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        disabled={disabled}
        aria-label={label}
        className={cx('font-semibold', !bare && 'border-b-2 border-moss disabled:border-hair', className)}
      >
        {shown}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          className={cx(
            'sheet z-40 max-h-[420px] overflow-auto border-line p-1.5',
            wide ? 'w-[420px]' : 'min-w-[200px]',
          )}
        >
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A list to choose one from, by arrows and Enter. */
export function Choices<T extends string>({
  options,
  chosen,
  choose,
}: {
  options: readonly { value: T; label: ReactNode; help?: string; disabled?: boolean }[];
  chosen: T | undefined;
  choose: (value: T) => void;
}) {
  return (
    <div role="listbox" aria-label="Choices">
      {options.map(({ value, label, help, disabled }, at) => (
        <button
          key={value}
          type="button"
          role="option"
          aria-selected={value === chosen}
          disabled={disabled}
          autoFocus={value === chosen || (chosen === undefined && at === 0)}
          onClick={() => choose(value)}
          onKeyDown={(event) => {
            const next =
              event.key === 'ArrowDown'
                ? event.currentTarget.nextElementSibling
                : event.key === 'ArrowUp'
                  ? event.currentTarget.previousElementSibling
                  : null;
            if (next instanceof HTMLElement) {
              event.preventDefault();
              next.focus();
            }
          }}
          className={cx(
            'block w-full rounded-[5px] px-3 py-1.5 text-left hover:bg-wash disabled:text-soft',
            value === chosen && 'bg-moss-wash font-semibold',
          )}
        >
          {label}
          {help && <span className="block text-small font-normal text-soft">{help}</span>}
        </button>
      ))}
    </div>
  );
}
