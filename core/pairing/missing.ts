import type { Option, Value } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { receivers, type ReadyLine } from './pair.ts';
import { across, type Side, type Sides } from './settle.ts';

/** Options that a side would need for some values to come into step. */
export interface MissingOptions {
  side: Side;
  options: Option[];
}

/**
 * The options that the receiving side of a line lacks for values the other side holds; undefined: it lacks none, or its
 * field has no options to be chosen from.
 * @param held what both sides hold, of some pairs
 */
export function missingOptions(
  { line, fields, rule }: ReadyLine,
  held: readonly Sides<Value>[],
): MissingOptions | undefined {
  for (const side of receivers(line)) {
    const from = across(side);
    if (!fields[side].options) continue;
    const found = new Map<string, Option>();
    for (const now of held) {
      const value = now[from];
      if (isBlank(value)) continue;
      for (const each of Array.isArray(value) ? value : [String(value)]) {
        const carried = rule.carry[from](fields[from].type === 'options' ? [each] : each);
        if (carried.ok) continue;
        const wanted = line.options?.find((pair) => pair[from] === each)?.[side] ?? each;
        const label = fields[from].options?.find((option) => option.value === each)?.label;
        if (!fields[side].options.some((option) => option.value === wanted))
          found.set(wanted, { value: wanted, label: wanted === each ? (label ?? wanted) : wanted });
      }
    }
    if (found.size > 0) return { side, options: [...found.values()] };
  }
  return undefined;
}
