import { RadioGroup } from 'radix-ui';
import { cx } from '../../parts/cx.ts';

/** A few choices in one bar, the chosen one filled: what it means is said by word or arrow, and repeated by colour. */
export function Segments<T extends string>({
  label,
  options,
  chosen,
  choose,
  disabled = false,
  able,
}: {
  label: string;
  options: readonly { value: T; label: string; name: string; tone: string }[];
  chosen: T;
  choose: (value: T) => void;
  disabled?: boolean;
  /** Those that can be chosen; absent: all. */
  able?: readonly T[];
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      value={chosen}
      disabled={disabled}
      onValueChange={(value) => choose(value as T)}
      className="inline-flex gap-0.5 rounded-[7px] bg-sand p-0.5"
    >
      {options.map(({ value, label: shown, name, tone }) => (
        <RadioGroup.Item
          key={value}
          value={value}
          aria-label={name}
          title={name}
          disabled={able !== undefined && !able.includes(value)}
          className={cx(
            'min-h-6 min-w-8 rounded-[5px] px-2 text-[12px] font-semibold',
            value === chosen ? tone : 'text-soft hover:text-ink disabled:opacity-35',
          )}
        >
          {shown}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
