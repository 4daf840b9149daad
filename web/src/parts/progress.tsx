import { cx } from './cx.ts';

/** How far something is. @param done undefined: that isn't known yet */
export function Progress({
  label,
  done,
  of,
  className,
}: {
  label: string;
  done: number | undefined;
  of: number;
  className?: string;
}) {
  return (
    <progress
      aria-label={label}
      className={cx(
        'h-1.5 w-full appearance-none overflow-hidden rounded-full bg-wash [&::-moz-progress-bar]:bg-moss',
        '[&::-webkit-progress-bar]:bg-wash [&::-webkit-progress-value]:bg-moss',
        className,
      )}
      value={done}
      max={Math.max(1, of)}
    />
  );
}
