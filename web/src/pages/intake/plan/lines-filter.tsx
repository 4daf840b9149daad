import type { Finding } from '@zusammen/core/checks';
import type { Line } from '@zusammen/core/mapping';
import { cx } from '../../../parts/cx.ts';

export const SHOWN = ['all', 'look', 'suggested', 'set', 'unused'] as const;
export type Shown = (typeof SHOWN)[number];

const NAMES: Record<Shown, string> = {
  all: 'All lines',
  look: 'Need a look',
  suggested: 'Suggested',
  set: 'Set',
  unused: 'Not used',
};

/** The lines in a state; `findings` are the checks' by line. */
export function linesIn(
  shown: Shown,
  lines: readonly Line[],
  findings: ReadonlyMap<string, readonly Finding[]>,
): Line[] {
  if (shown === 'unused') return [];
  if (shown === 'look') return lines.filter(({ id }) => findings.has(id));
  if (shown === 'suggested' || shown === 'set') return lines.filter(({ origin }) => origin === shown);
  return [...lines];
}

/** Which lines are shown, each choice with how many there are. */
export function LinesFilter({
  shown,
  counts,
  choose,
}: {
  shown: Shown;
  counts: Record<Shown, number>;
  choose: (shown: Shown) => void;
}) {
  return (
    <div role="radiogroup" aria-label="Which lines are shown" className="flex gap-1">
      {SHOWN.map((each) => (
        <button
          key={each}
          type="button"
          role="radio"
          aria-checked={each === shown}
          onClick={() => choose(each)}
          className={cx(
            'rounded-[6px] px-2.5 py-1 text-small',
            each === shown ? 'bg-sand font-semibold' : 'text-soft hover:bg-wash',
            each === 'look' && counts.look > 0 && 'text-saffron',
          )}
        >
          {NAMES[each]} <span className="font-mono">{counts[each]}</span>
        </button>
      ))}
    </div>
  );
}
