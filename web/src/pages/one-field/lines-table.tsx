import type { FieldPlanTold, System } from '@zusammen/core/api';
import type { LineChoice, LineEnd } from '@zusammen/core/one-field';
import type { Value } from '@zusammen/core/schema';
import { listed } from '@zusammen/core/values';
import { Link } from 'react-router';
import { Incoming, Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Choices, Editable } from '../../parts/editable.tsx';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';

type Line = FieldPlanTold['lines'][number];

interface Props {
  label: string;
  lines: readonly Line[];
  /** What was chosen of them, also where nobody has looked yet what follows from it. */
  choices: readonly LineChoice[];
  systems: readonly System[];
  choose: (choice: LineChoice) => void;
  disabled: boolean;
}

/** The lines that carry the field on, each with what it would give; each can be left out. */
export function CarryTable({ label, lines: all, choices, systems, choose, disabled }: Props) {
  // Lines first, then what could be asked for; where nothing can be done it is only said.
  const rank = ({ carried }: Line): number => (carried?.kind === 'question' ? 1 : 0);
  const lines = all.filter(({ carried }) => carried).sort((a, b) => rank(a) - rank(b));
  const silent = [...new Set(all.flatMap(({ carried, cannot, name }) => (carried || !cannot ? [] : [name])))];
  return (
    <Sheet title="Lines that carry it on" aside="each can be left out; a line left out is named by a check later">
      {lines.length === 0 ? (
        <Empty title="Nothing would carry it on">
          No conversion or pairing stands between these entities, and no intake fills one of them.
        </Empty>
      ) : (
        <table className="w-full table-fixed">
          <thead>
            <tr>
              <th className={cx(TH, 'w-[26%] pl-4')}>Where</th>
              <th className={cx(TH, 'w-[19%]')}>From</th>
              <th className={cx(TH, 'w-[20%]')}>To</th>
              <th className={cx(TH, 'w-[14%]')}>If both have a value</th>
              <th className={cx(TH, 'pr-4')}>Would give</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <Row
                key={line.key}
                {...{ label, line, systems, choose, disabled }}
                chosen={choices.find(({ key }) => key === line.key)}
              />
            ))}
          </tbody>
        </table>
      )}
      {silent.length > 0 && (
        <p className="border-t border-hair px-4 py-2 text-small text-soft">
          {listed(silent, { most: 12 })} {silent.length === 1 ? 'has' : 'have'} no question for it.
        </p>
      )}
    </Sheet>
  );
}

const DECIDES: Record<string, string> = { newest: 'the newest decides', ask: 'somebody is asked' };

function Row({
  label,
  line,
  chosen,
  systems,
  choose,
  disabled,
}: Pick<Props, 'label' | 'systems' | 'choose' | 'disabled'> & { line: Line; chosen: LineChoice | undefined }) {
  const { key, at, id, name, conversion, from, to, taken, carried, rule, rules } = line;
  const question = carried?.kind === 'question';
  const ruleName = (each: string): string =>
    at === 'pairing' ? (DECIDES[each] ?? `${(each === 'left' ? from : to)?.entity ?? each} decides`) : each;
  return (
    <tr className={cx(!taken && 'text-soft')}>
      <td className={cx(TD, 'pl-4')}>
        <span className="flex items-start gap-2.5 py-1">
          <input
            type="checkbox"
            className="mt-1 size-[15px] accent-plum"
            checked={chosen?.taken ?? taken}
            disabled={disabled || !carried}
            aria-label={`${name} carries it to ${to.entity ?? to.label}`}
            onChange={({ target }) => choose({ key, taken: target.checked })}
          />
          <span className="min-w-0">
            <Link
              to={at === 'pairing' ? `/pairings/${id}` : `/intakes/${id}/plan`}
              className="hover:underline"
              title="Open it"
            >
              {name}
            </Link>
            {conversion && <span className="block text-small text-soft">when a record is converted</span>}
          </span>
        </span>
      </td>
      <td className={TD}>
        {from ? (
          <End end={from} systems={systems} muted={!taken} />
        ) : question && taken ? (
          <Incoming>a question, {label}</Incoming>
        ) : (
          <span className="text-small">no question for it yet</span>
        )}
      </td>
      <td className={TD}>
        <End end={to} systems={systems} muted={!taken} />
      </td>
      <td className={TD}>
        {question ? (
          taken ? (
            <span className="text-small text-soft">as its field is usually filled</span>
          ) : (
            <button
              type="button"
              disabled={disabled}
              className="text-left font-semibold text-plum hover:underline"
              onClick={() => choose({ key, taken: true })}
            >
              ask for it there too
            </button>
          )
        ) : (
          rule !== undefined && (
            <Editable label={`If both have a value, in ${name}`} shown={ruleName(rule)} disabled={disabled || !taken}>
              {(close) => (
                <Choices
                  chosen={rule}
                  choose={(next) => {
                    choose({ key, rule: next });
                    close();
                  }}
                  options={(rules ?? []).map((value) => ({ value, label: ruleName(value) }))}
                />
              )}
            </Editable>
          )
        )}
      </td>
      <td className={cx(TD, 'pr-4')}>{line.gives && taken && <Gives gives={line.gives} />}</td>
    </tr>
  );
}

/** A field at one end of a line, in the colour of its side. */
function End({ end, systems, muted }: { end: LineEnd; systems: readonly System[]; muted: boolean }) {
  const words = end.entity === undefined ? end.label : `${end.entity} · ${end.label}`;
  const first = end.system !== undefined && systems.findIndex(({ id }) => id === end.system) === 0;
  return first ? <Outgoing muted={muted}>{words}</Outgoing> : <Incoming muted={muted}>{words}</Incoming>;
}

const said = (value: Value | undefined): string =>
  value === null || value === undefined ? 'blank' : Array.isArray(value) ? value.join(', ') : String(value);

function Gives({ gives: { of, came, value, problem } }: { gives: NonNullable<Line['gives']> }) {
  return (
    <>
      <span className={cx('block truncate', problem === undefined ? 'font-mono text-[13px]' : 'text-brick')}>
        {problem ?? said(value)}
      </span>
      <span className="block truncate text-small text-soft">
        {of === undefined ? `of ${said(came)}; none has one yet` : `of ${of}`}
      </span>
    </>
  );
}
