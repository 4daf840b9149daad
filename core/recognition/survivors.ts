import { isBlank } from '../values/index.ts';
import type { RecordState, Value } from '../schema/index.ts';

export const SURVIVOR_RULES = ['the survivor’s own', 'newest', 'longest', 'from a trusted record'] as const;
export type SurvivorRule = (typeof SURVIVOR_RULES)[number];

/** The value that a merged record keeps in a field, and whose it was. */
export interface Survivor {
  field: string;
  value: Value;
  from: string;
  /** The records don't agree: somebody may want to choose. */
  differs: boolean;
}

/** The record that says most; of several the one with the smallest id, which is likely the oldest. */
export function fullest(records: readonly RecordState[]): RecordState | undefined {
  const filled = ({ values }: RecordState): number => Object.values(values).filter((value) => !isBlank(value)).length;
  return [...records].sort((a, b) => filled(b) - filled(a) || (a.id < b.id ? -1 : 1))[0];
}

/**
 * What becomes of each field when records are merged. A blank never wins over a value; what the survivor holds stays,
 * unless the rule prefers another's.
 * @param choice by field, the id of the record whose value is wanted by hand
 * @param newest ids with the one changed last first, for the rule that asks for it
 */
export function survivorsOf(
  records: readonly RecordState[],
  survivor: string,
  fields: readonly string[],
  rule: SurvivorRule,
  choice: Readonly<Record<string, string>> = {},
  { newest = [], trusted }: { newest?: readonly string[]; trusted?: string } = {},
): Survivor[] {
  return fields.map((field): Survivor => {
    const held = records.filter(({ values }) => !isBlank(values[field]));
    const said = new Set(held.map(({ values }) => JSON.stringify(values[field])));
    const own = held.find(({ id }) => id === survivor) ?? held[0];
    const chosen = records.find(({ id }) => id === choice[field]);
    const longest = [...held].sort((a, b) => textOf(b.values[field]) - textOf(a.values[field]))[0];
    const byRule = {
      'the survivor’s own': own,
      newest: held.find(({ id }) => id === newest.find((each) => held.some((record) => record.id === each))),
      longest: longest && own && textOf(longest.values[field]) > textOf(own.values[field]) ? longest : own,
      'from a trusted record': held.find(({ id }) => id === trusted),
    }[rule];
    const from = chosen ?? byRule ?? own;
    return { field, value: from?.values[field] ?? null, from: from?.id ?? survivor, differs: said.size > 1 };
  });
}

const textOf = (value: Value | undefined): number => String(value ?? '').length;
