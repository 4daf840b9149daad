import type { Finding } from '@zusammen/core/checks';
import type { Line } from '@zusammen/core/mapping';
import { cx } from '../../../parts/cx.ts';
import { Radios } from '../../../parts/radios.tsx';

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
    <Radios
      label="Which lines are shown"
      className="text-small"
      chosen={shown}
      choose={choose}
      options={SHOWN.map((value) => ({
        value,
        label: (
          <span className={cx(value === 'look' && counts.look > 0 && 'text-saffron')}>
            {NAMES[value]} <span className="font-mono">{counts[value]}</span>
          </span>
        ),
      }))}
    />
  );
}
