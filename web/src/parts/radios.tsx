import { RadioGroup } from 'radix-ui';
import type { ReactNode } from 'react';
import { cx } from './cx.ts';

/** A few choices in a row, one of them chosen; the arrows go from one to the next (WAI-ARIA, radio group). */
export function Radios<T extends string>({
  label,
  options,
  chosen,
  choose,
  className,
}: {
  label: string;
  options: readonly { value: T; label: ReactNode }[];
  chosen: T;
  choose: (value: T) => void;
  className?: string;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      value={chosen}
      onValueChange={(value) => choose(value as T)}
      className={cx('flex flex-wrap gap-1', className)}
    >
      {options.map(({ value, label: shown }) => (
        <RadioGroup.Item
          key={value}
          value={value}
          className={cx(
            'min-h-6 rounded-[6px] px-2.5 py-1',
            value === chosen ? 'bg-plum-wash font-semibold text-plum' : 'hover:bg-wash',
          )}
        >
          {shown}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
