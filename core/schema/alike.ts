import { isBlank, sameValue } from '../values/index.ts';
import type { Value } from './model.ts';

/** What the values of a field that has gone and of one that has come say: whether they are one field under two names. */
export interface ValuesAlike {
  entity: string;
  was: string;
  is: string;
  /** Records in which both are known and something. */
  of: number;
  /** Those of them that hold the same. */
  equal: number;
  /** How far that goes beyond chance: 1 where all are the same, 0 where no more are than chance has it, or fewer. */
  beyondChance: number;
}

/**
 * How far values agree, beyond what chance does where few different ones are held: Cohen's kappa (Cohen 1960, “A coefficient
 * of agreement for nominal scales”).
 * @param pairs what each record held, and holds; where either is blank, it says nothing
 */
export function agreement(pairs: readonly (readonly [Value | undefined, Value | undefined])[]): {
  of: number;
  equal: number;
  beyondChance: number;
} {
  const known = pairs.filter(([was, is]) => !isBlank(was) && !isBlank(is));
  const of = known.length;
  if (of === 0) return { of, equal: 0, beyondChance: 0 };
  const equal = known.filter(([was, is]) => sameValue(was, is)).length;
  const [left, right] = [timesOf(known.map(([was]) => was)), timesOf(known.map(([, is]) => is))];
  let chance = 0;
  for (const [value, times] of left) chance += (times * (right.get(value) ?? 0)) / (of * of);
  // Where all hold one value, nothing can be told by it.
  const beyond = chance === 1 ? 0 : (equal / of - chance) / (1 - chance);
  return { of, equal, beyondChance: Math.max(0, beyond) };
}

/** How often each value is held; a list is the same in any order. */
function timesOf(values: readonly (Value | undefined)[]): Map<string, number> {
  const times = new Map<string, number>();
  for (const value of values) {
    const key = Array.isArray(value) ? JSON.stringify([...value].sort()) : String(value);
    times.set(key, (times.get(key) ?? 0) + 1);
  }
  return times;
}
