import type { Value } from '../../schema/index.ts';
import { isBlank, read, type Reading } from '../../values/index.ts';
import type { Treat, TreatContext } from './model.ts';
import type { Treatment } from './treatment.ts';
import type { Field } from '../../schema/index.ts';

/**
 * Makes a treatment of lists out of one of texts: each entry by itself; blanks pass untouched, and so do numbers, and yes
 * or no, that the treatment has nothing to change about: they are never read as texts again.
 */
export function eachText(
  one: (text: string, settings: Treatment, field: Field, context: TreatContext) => Reading<Value>,
): Treat {
  return (value, settings, field, context) => {
    if (isBlank(value)) return read(value);
    if (!Array.isArray(value)) {
      const reading = one(String(value), settings, field, context);
      return reading.ok && reading.value === String(value) ? { ...reading, value } : reading;
    }
    const treated: string[] = [];
    let ambiguous: string | undefined;
    let lost: string | undefined;
    for (const text of value) {
      const reading = one(text, settings, field, context);
      if (!reading.ok) return reading;
      ambiguous ??= reading.ambiguous;
      lost ??= reading.lost;
      if (!isBlank(reading.value)) treated.push(String(reading.value));
    }
    const all = read<Value>(treated, ambiguous);
    return lost === undefined ? all : { ...all, lost };
  };
}
