import type { FieldCounts } from '@zusammen/core/api';
import type { OptionChange, OptionRow } from '@zusammen/core/option-sets';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Choices, Editable } from '../../parts/editable.tsx';
import { TextField } from '../../parts/form.tsx';
import { TD, TH_WRAPS } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import { plannedOf, without, withAdded, withJoined, type Column } from './planned.ts';

interface Props {
  columns: readonly Column[];
  rows: readonly OptionRow[];
  /** All rows, for joining to one that isn't shown. */
  all: readonly OptionRow[];
  counts: readonly (FieldCounts | undefined)[];
  changes: readonly OptionChange[];
  plan: (next: OptionChange[]) => void;
  systems: readonly { id: string; name: string }[];
  drop: ((at: number) => void) | undefined;
  disabled: boolean;
}

/** So many rows are shown at first; a long list is shown in portions. */
const PORTION = 200;

/** Options over several fields: the same, spelt otherwise, missing, unused; each can be mended where it stands. */
export function OptionTable(props: Props) {
  const { columns, rows, systems, drop } = props;
  const [shown, setShown] = useState(PORTION);
  if (rows.length === 0) return <Empty title="No option differs">All of these fields have the same options.</Empty>;
  return (
    <>
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH_WRAPS, 'w-[24%] pl-4')}>Option</th>
            {columns.map((column, at) => {
              const system = systems.find(({ id }) => id === column.system);
              const words = `${column.entityLabel} · ${column.label}`;
              return (
                <th key={at} className={TH_WRAPS}>
                  {systems[0]?.id === column.system ? <Outgoing>{words}</Outgoing> : <Incoming>{words}</Incoming>}
                  <span className="mt-1 block font-normal">
                    {system?.name}
                    {!column.adds && ', can’t be changed from here'}
                    {drop && columns.length > 1 && (
                      <button
                        type="button"
                        className="ml-2 text-plum hover:underline"
                        aria-label={`Leave ${words} out`}
                        onClick={() => drop(at)}
                      >
                        leave out
                      </button>
                    )}
                  </span>
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, shown).map((row, at) => (
            <Row key={`${row.option.value} ${at}`} {...props} row={row} />
          ))}
        </tbody>
      </table>
      {rows.length > shown && (
        <button
          type="button"
          className="w-full border-t border-hair px-4 py-2 text-left font-semibold text-plum hover:underline"
          onClick={() => setShown(shown + PORTION)}
        >
          Show more of {count(rows.length)} options
        </button>
      )}
    </>
  );
}

function Row({ row, ...props }: Props & { row: OptionRow }) {
  const { columns, all, changes, plan, disabled } = props;
  return (
    <tr>
      <td className={cx(TD, 'pl-4')}>
        <Editable
          bare
          wide
          disabled={disabled}
          className="max-w-full truncate text-left hover:underline disabled:no-underline"
          label={`Rename or join ${row.option.label}`}
          shown={row.option.label}
        >
          {(close) => (
            <RenameOrJoin
              row={row}
              others={all.filter((each) => each !== row)}
              rename={(label) => {
                plan(withJoined(changes, columns, row, label));
                close();
              }}
              join={(into) => {
                plan(withJoined(changes, columns, row, into));
                close();
              }}
            />
          )}
        </Editable>
      </td>
      {columns.map((column, at) => (
        <td key={at} className={cx(TD, row.cells[at]?.how !== 'same' && 'bg-saffron-wash/40')}>
          <Cell {...props} row={row} column={column} at={at} />
        </td>
      ))}
    </tr>
  );
}

function Cell({
  row,
  column,
  at,
  columns,
  counts,
  changes,
  plan,
  disabled,
}: Props & { row: OptionRow; column: Column; at: number }) {
  const cell = row.cells[at];
  const planned = plannedOf(changes, column, row, at);
  const known = counts[at];
  const held = cell && known ? (known.values.find(({ value }) => value === cell.option.value)?.count ?? 0) : undefined;
  const may = !disabled && column.adds;
  if (planned)
    return (
      <span className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-semibold text-moss">
          {planned.kind === 'add' ? '+ is added' : `→ ${planned.option.label}`}
        </span>
        {held !== undefined && held > 0 && <span className="font-mono text-[13px] text-soft">{count(held)}</span>}
        <button
          type="button"
          className="text-small text-plum hover:underline"
          aria-label={`Don’t change ${row.option.label} in ${column.label} of ${column.entityLabel}`}
          onClick={() => plan(without(changes, planned))}
        >
          don’t
        </button>
      </span>
    );
  if (!cell)
    return (
      <span className="flex flex-wrap items-baseline gap-x-2 text-saffron">
        <span>○ missing</span>
        {may && (
          <button
            type="button"
            className="font-semibold text-plum hover:underline"
            aria-label={`Add ${row.option.label} to ${column.label} of ${column.entityLabel}`}
            onClick={() => plan(withAdded(changes, column, row))}
          >
            add
          </button>
        )}
      </span>
    );
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      {cell.how === 'same' ? (
        <span className="text-moss">
          ●{columns.length > 1 && ' the same'}
          {cell.option.label !== row.option.label && (
            <span className="text-small text-soft"> as “{cell.option.label}”</span>
          )}
        </span>
      ) : (
        <span className="font-semibold text-saffron" title={cell.why}>
          ◆ “{cell.option.label}”
        </span>
      )}
      {held !== undefined && (
        <span className={held === 0 ? 'text-small text-soft' : 'font-mono text-[13px]'}>
          {held === 0 ? 'unused' : count(held)}
          {known?.more && held > 0 && '+'}
        </span>
      )}
      {cell.how === 'otherwise' && may && (
        <button
          type="button"
          className="font-semibold text-plum hover:underline"
          aria-label={`Spell ${cell.option.label} as ${row.option.label} in ${column.label} of ${column.entityLabel}`}
          onClick={() => plan(withJoined(changes, columns, row, row, at))}
        >
          spell it so
        </button>
      )}
      {cell.how === 'otherwise' && cell.why?.startsWith('paired') && (
        <span className="text-small text-soft">{cell.why}</span>
      )}
    </span>
  );
}

function RenameOrJoin({
  row,
  others,
  rename,
  join,
}: {
  row: OptionRow;
  others: readonly OptionRow[];
  rename: (label: string) => void;
  join: (into: OptionRow) => void;
}) {
  const [label, setLabel] = useState(row.option.label);
  const [search, setSearch] = useState('');
  const wanted = label.trim();
  const low = search.toLowerCase();
  const found = others.filter(({ option }) => option.label.toLowerCase().includes(low)).slice(0, 50);
  return (
    <div className="space-y-3 p-2 font-normal">
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted !== '' && wanted !== row.option.label) rename(wanted);
        }}
      >
        <div className="grow">
          <TextField
            label="Rename it in all of them"
            value={label}
            maxLength={200}
            onChange={({ target }) => setLabel(target.value)}
          />
        </div>
        <Button type="submit" disabled={wanted === '' || wanted === row.option.label}>
          Rename
        </Button>
      </form>
      {others.length > 0 && (
        <div>
          <TextField
            label="Or join it to another"
            placeholder="Search the others"
            value={search}
            help="Records that hold it hold the other then."
            onChange={({ target }) => setSearch(target.value)}
          />
          <div className="mt-1 max-h-[180px] overflow-auto">
            <Choices
              chosen=""
              choose={(value) => {
                const into = others[Number(value)];
                if (into) join(into);
              }}
              options={found.map((each) => ({ value: String(others.indexOf(each)), label: each.option.label }))}
            />
          </div>
        </div>
      )}
    </div>
  );
}
