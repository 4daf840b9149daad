import type { Option } from '../schema/index.ts';
import { counterparts, speltAlike } from './counterparts.ts';
import type { LinkedOptions, OptionCell, OptionRow } from './model.ts';

/**
 * Puts the options of several fields side by side: those that are linked by hand first, then those that are spelt alike,
 * mean the same, or nearly look the same. Each option of a field stands in one row.
 * @param list how they should be, if somebody has said so: its options come first
 */
export function compareOptions(
  fields: readonly (readonly Option[])[],
  linked: readonly LinkedOptions[],
  list: readonly Option[] = [],
): OptionRow[] {
  const rows: OptionRow[] = list.map((option) => ({ option, listed: true, cells: fields.map(() => null) }));
  fields.forEach((options, at) => {
    const left = new Map(options.map((option) => [option.value, option]));
    const put = (row: OptionRow, option: Option, why?: string): void => {
      left.delete(option.value);
      row.cells[at] = {
        option,
        how: speltAlike(row.option, option) ? 'same' : 'otherwise',
        ...(why === undefined ? {} : { why }),
      };
    };
    for (const {
      fields: [one, other],
      pairs,
      why,
    } of linked) {
      if (at !== Math.max(one, other)) continue;
      const [mine, theirs] = at === other ? [1, 0] : [0, 1];
      const byValue = new Map(
        rows.flatMap((row) => {
          const cell = row.cells[at === other ? one : other];
          return cell ? [[cell.option.value, row] as const] : [];
        }),
      );
      for (const pair of pairs) {
        const option = left.get(pair[mine]!);
        const row = byValue.get(pair[theirs]!);
        if (option && row && row.cells[at] === null) put(row, option, why);
      }
    }
    const open = rows.filter((row) => row.cells[at] === null);
    counterparts(
      open.map(({ option }) => option),
      [...left.values()],
    ).forEach(({ there }, place) => {
      if (there) put(open[place]!, there, why(open[place]!.option, there));
    });
    for (const option of left.values()) {
      const cells: (OptionCell | null)[] = fields.map(() => null);
      cells[at] = { option, how: 'same' };
      rows.push({ option, listed: false, cells });
    }
  });
  return rows;
}

const why = (a: Option, b: Option): string | undefined =>
  speltAlike(a, b) ? undefined : 'nearly the same, or of the same meaning';
