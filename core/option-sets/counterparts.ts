import { pairOptions } from '../mapping/index.ts';
import type { Option } from '../schema/index.ts';
import { fold } from '../values/index.ts';

/** Two options are the same where people see the same, or where what travels between systems is the same. */
export const speltAlike = (a: Option, b: Option): boolean =>
  a.value === b.value || a.label.trim().normalize('NFC') === b.label.trim().normalize('NFC');

/** Comparing every wanted option with every one that is there is left out from so many comparisons on. */
const MOST_COMPARED = 90_000;

/** For each wanted option the one there that means the same; each of those is taken once. */
export function counterparts(
  wanted: readonly Option[],
  there: readonly Option[],
): { wanted: Option; there: Option | undefined }[] {
  const byText = new Map<string, Option>();
  for (const option of there)
    for (const text of [option.label, option.value]) if (!byText.has(fold(text))) byText.set(fold(text), option);
  const taken = new Set<string>();
  const take = (option: Option | undefined): Option | undefined => {
    if (!option || taken.has(option.value)) return undefined;
    taken.add(option.value);
    return option;
  };
  const found = new Map(
    wanted.map((each) => [each, take(byText.get(fold(each.label)) ?? byText.get(fold(each.value)))]),
  );
  const left = wanted.filter((each) => !found.get(each));
  const others = there.filter(({ value }) => !taken.has(value));
  if (left.length > 0 && left.length * others.length <= MOST_COMPARED) {
    const byValue = new Map(others.map((option) => [option.value, option]));
    pairOptions(left, others).forEach(({ to }, at) => found.set(left[at]!, take(byValue.get(to ?? ''))));
  }
  return wanted.map((each) => ({ wanted: each, there: found.get(each) }));
}
