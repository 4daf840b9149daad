import { textsSaid } from '@zusammen/core/forms';
import { pairOptions, type Treatment } from '@zusammen/core/mapping';
import type { Field } from '@zusammen/core/schema';
import { cx } from '../../../parts/cx.ts';
import { useDraft } from '../draft.tsx';

interface Props {
  treatment: Treatment;
  field: Field | undefined;
  sources: readonly { name: string; options?: readonly { value: string; label: string }[] }[];
  change: (treatment: Treatment) => void;
}

/**
 * Each option the form sends with its counterpart, and how many samples it concerns; what has no counterpart is said,
 * never dropped in silence.
 */
export function OptionPairs({ treatment, field, sources, change }: Props) {
  const { samples } = useDraft();
  const pairs = treatment.pairs ?? [];
  const sent = sources.flatMap(({ options }) => options ?? []);
  const counts = new Map<string, number>();
  for (const { values } of samples)
    for (const text of sources.flatMap(({ name }) => textsSaid(values[name])))
      counts.set(text, (counts.get(text) ?? 0) + 1);
  const listed = new Set([...sent.map(({ value }) => value), ...pairs.map(({ from }) => from)]);
  const rows = [
    ...sent.map(({ value, label }) => ({ from: value, label })),
    ...pairs.filter(({ from }) => !sent.some(({ value }) => value === from)).map(({ from }) => ({ from, label: from })),
  ];
  const total = [...counts.values()].reduce((sum, count) => sum + count, 0);
  const others = [...counts].filter(([text]) => !listed.has(text));
  const otherCount = others.reduce((sum, [, count]) => sum + count, 0);
  const set = (from: string, to: string): void => {
    const next = to === '?' ? { from } : { from, to: to === '-' ? '' : to };
    change({
      ...treatment,
      pairs: pairs.some((pair) => pair.from === from)
        ? pairs.map((pair) => (pair.from === from ? next : pair))
        : [...pairs, next],
    });
  };
  const guesses = new Map(
    pairOptions(
      rows.map(({ from, label }) => ({ value: from, label })),
      field?.options ?? [],
    ).map(({ from, to }) => [from, to]),
  );
  const open = rows.filter(({ from }) => pairs.find((pair) => pair.from === from)?.to === undefined);
  const guessable = open.filter(({ from }) => guesses.get(from) !== undefined);
  return (
    <div>
      <table className="w-full">
        <thead>
          <tr className="text-left text-small text-soft">
            <th className="pr-3 font-semibold">The form sends</th>
            <th className="pr-3 text-right font-semibold">samples</th>
            <th className="font-semibold">goes in as</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ from, label }) => (
            <tr key={from}>
              <td className="max-w-[150px] truncate py-0.5 pr-3" title={from}>
                {label}
              </td>
              <td className="py-0.5 pr-3 text-right font-mono text-[13px] text-soft">{counts.get(from) ?? 0}</td>
              <td className="py-0.5">
                <Counterpart
                  label={`${label} becomes`}
                  to={pairs.find((pair) => pair.from === from)?.to}
                  field={field}
                  unset="not paired"
                  choose={(to) => set(from, to)}
                />
              </td>
            </tr>
          ))}
          <tr>
            <td className="border-t border-hair py-1 pr-3" title={others.map(([text]) => text).join(', ')}>
              anything else
            </td>
            <td className="border-t border-hair py-1 pr-3 text-right font-mono text-[13px] text-soft">
              {total === 0 ? 0 : `${otherCount}, ${Math.round((otherCount / total) * 100)} %`}
            </td>
            <td className="border-t border-hair py-1">
              <Counterpart
                label="Anything else becomes"
                to={treatment.otherwise}
                field={field}
                unset="is refused in words"
                calm
                choose={(to) => {
                  const { otherwise: _, ...rest } = treatment;
                  change(to === '?' ? rest : { ...rest, otherwise: to === '-' ? '' : to });
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
      {guessable.length > 0 && (
        <button
          type="button"
          className="mt-2 text-small font-semibold text-plum hover:underline"
          onClick={() =>
            change({
              ...treatment,
              pairs: rows.map(({ from }) => {
                const held = pairs.find((pair) => pair.from === from)?.to ?? guesses.get(from);
                return held === undefined ? { from } : { from, to: held };
              }),
            })
          }
        >
          take the best guess for {guessable.length}
        </button>
      )}
    </div>
  );
}

function Counterpart({
  label,
  to,
  field,
  unset,
  calm = false,
  choose,
}: {
  label: string;
  to: string | undefined;
  field: Field | undefined;
  unset: string;
  calm?: boolean;
  choose: (to: string) => void;
}) {
  const gone = to !== undefined && to !== '' && !field?.options?.some(({ value }) => value === to);
  return (
    <select
      aria-label={label}
      className={cx(
        'h-[28px] w-full max-w-[190px] rounded-[6px] border bg-sheet px-2',
        (to === undefined && !calm) || gone ? 'border-saffron text-saffron' : 'border-line',
      )}
      value={to === undefined ? '?' : to === '' ? '-' : to}
      onChange={({ target }) => choose(target.value)}
    >
      <option value="?">{unset}</option>
      <option value="-">left out on purpose</option>
      {gone && <option value={to}>{to} (no longer there)</option>}
      {(field?.options ?? []).map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}
