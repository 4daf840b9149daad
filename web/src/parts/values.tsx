import type { Value } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { cx } from './cx.ts';

/** A value as people compare it: fixed width, white space visible at its ends, blanks as a dash. */
export function ValueText({ value, tone }: { value: Value | undefined; tone?: string | undefined }) {
  if (value === undefined || isBlank(value)) return <span className="text-soft">–</span>;
  const text = Array.isArray(value)
    ? value.join(', ')
    : typeof value === 'boolean'
      ? value
        ? 'yes'
        : 'no'
      : String(value);
  return (
    <span className={cx('font-mono text-[13px]', tone)} title={text}>
      {edgesShown(text)}
    </span>
  );
}

function edgesShown(text: string): string {
  return text
    .replace(/^ +/, (spaces) => '␣'.repeat(spaces.length))
    .replace(/(?<! ) +$/, (spaces) => '␣'.repeat(spaces.length))
    .replace(/\n/g, '⏎');
}
