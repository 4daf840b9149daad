import type { Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import type { Match } from './model.ts';
import type { ReadyPairing } from './pair.ts';
import { valueAt, valueOf, type Reach } from './places.ts';
import { across, type Side } from './settle.ts';

/**
 * A record as it would look on the other side, by the fields of that side: what lines and ways have in common, whichever
 * way they go, and as far as it can be had there.
 */
export function acrossValues(
  { around, lines }: ReadyPairing,
  matches: readonly Match[],
  side: Side,
  record: { id: string; values: Values },
  reach: Reach,
): Values {
  const to = across(side);
  const values: Values = {};
  for (const { parts } of matches)
    for (const part of parts) {
      const [field, ...more] = part[to];
      const value = valueOf(part[side], around[side], record.id, record.values, reach);
      if (more.length === 0 && field !== around[to].entity.key && !isBlank(value)) values[field!] = value;
    }
  for (const { line, rule } of lines) {
    const { path, compute } = line[to];
    if (compute !== undefined || path.length !== 1) continue;
    const reading = valueAt(line[side], around[side], record.id, record.values, reach);
    const carried = reading.ok && !isBlank(reading.value) ? rule.carry[side](reading.value) : undefined;
    if (carried?.ok && !isBlank(carried.value)) values[path[0]!] = carried.value;
  }
  return values;
}
