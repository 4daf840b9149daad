import type { OptionsCompared } from '@zusammen/core/api';
import type { OptionChange, OptionRow } from '@zusammen/core/option-sets';
import type { Option } from '@zusammen/core/schema';

export type Column = OptionsCompared['columns'][number];

const sameField = (a: OptionChange['of'], b: OptionChange['of']): boolean =>
  a.system === b.system && a.entity === b.entity && a.field === b.field;

const fieldOf = ({ system, entity, field }: Column): OptionChange['of'] => ({ system, entity, field });

/** What is planned of an option in one column: that it is added, or that it becomes another. */
export function plannedOf(changes: readonly OptionChange[], column: Column, row: OptionRow, at: number) {
  const cell = row.cells[at];
  return changes.find(
    ({ kind, of, from, option }) =>
      sameField(of, column) &&
      (cell ? kind === 'join' && from === cell.option.value : kind === 'add' && option.value === row.option.value),
  );
}

export const without = (changes: readonly OptionChange[], gone: OptionChange | undefined): OptionChange[] =>
  changes.filter((each) => each !== gone);

/** The option as it would be called in a column: as it is there, or as the row has it. */
const there = (row: OptionRow, at: number): Option => row.cells[at]?.option ?? row.option;

/** Options that are made are kept as they are called. */
const named = (label: string): Option => ({ value: label, label });

export const withAdded = (changes: readonly OptionChange[], column: Column, row: OptionRow): OptionChange[] => [
  ...changes,
  { kind: 'add', of: fieldOf(column), option: row.option },
];

/** In one column, or in all that have it and can be changed, an option becomes another. */
export function withJoined(
  changes: readonly OptionChange[],
  columns: readonly Column[],
  row: OptionRow,
  into: OptionRow | string,
  only?: number,
): OptionChange[] {
  let next = [...changes];
  columns.forEach((column, at) => {
    const cell = row.cells[at];
    if (!cell || !column.adds || (only !== undefined && only !== at)) return;
    const option = typeof into === 'string' ? named(into) : into === row ? row.option : there(into, at);
    if (option.value === cell.option.value) return;
    next = next.filter(
      ({ kind, of, from }) => !(kind === 'join' && sameField(of, column) && from === cell.option.value),
    );
    next.push({ kind: 'join', of: fieldOf(column), from: cell.option.value, option });
  });
  return next;
}

/** Everything that a list is lacking or spells otherwise is planned, where nothing is planned yet. */
export function withAllMended(
  changes: readonly OptionChange[],
  columns: readonly Column[],
  rows: readonly OptionRow[],
) {
  let next = [...changes];
  for (const row of rows)
    columns.forEach((column, at) => {
      if (!column.adds || plannedOf(next, column, row, at)) return;
      const cell = row.cells[at];
      if (!cell) next = withAdded(next, column, row);
      else if (cell.how === 'otherwise') next = withJoined(next, columns, row, row, at);
    });
  return next;
}
