import type { Value } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { diffChars } from 'diff';
import { ValueText } from './values.tsx';

/** A value beside another: the characters that aren't in the other are marked. */
export function Differing({ value, other }: { value: Value | undefined; other: Value | undefined }) {
  if (value === undefined || isBlank(value) || other === undefined || isBlank(other))
    return <ValueText value={value} />;
  const [mine, theirs] = [textOf(value), textOf(other)];
  if (mine === theirs || mine.length > 200 || theirs.length > 200) return <ValueText value={value} />;
  const parts = diffChars(theirs, mine, { ignoreCase: true }).filter(({ removed }) => !removed);
  const changed = parts.reduce((sum, part) => sum + (part.added ? part.value.length : 0), 0);
  // Where hardly anything agrees, single letters in common would only confuse.
  const shown = changed > mine.length * 0.6 ? [{ value: mine, added: true }] : parts;
  return (
    <span className="font-mono text-[13px] break-words" title={mine}>
      {shown.map((part, at) =>
        part.added ? (
          <mark key={at} className="rounded-[3px] bg-saffron-wash font-bold text-saffron">
            {part.value}
          </mark>
        ) : (
          <span key={at}>{part.value}</span>
        ),
      )}
    </span>
  );
}

const textOf = (value: Value): string => (Array.isArray(value) ? value.join(', ') : String(value));
