import type { Criterion } from '@zusammen/core/plans';
import { fieldOf, type Entity, type RecordState, type Value, type Values } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import { fingerprintOf } from './fingerprint.ts';
import { isSystemTrouble } from './system.ts';

/** What a record must hold to have all of these values, as far as they can be searched for. */
export const criteriaOf = (entity: Entity, values: Values): Criterion[] =>
  Object.entries(values).flatMap(([name, value]) =>
    value === null || Array.isArray(value) || fieldOf(entity, name)?.rights === 'none'
      ? []
      : [{ field: name, value, folded: false }],
  );

const loose = new Intl.Collator('und', { sensitivity: 'base' });

/**
 * Whether a record is one that was asked for. A system may compare texts more loosely than we would (by a collation
 * without case or accents): what it takes for the same is taken so; what nobody would is not.
 */
export function isWhatWasAsked(record: RecordState, { field, value, folded }: Criterion): boolean {
  const held = record.values[field];
  if (meets(record, { field, value, folded })) return true;
  return typeof held === 'string' && loose.compare(held.trim(), String(value).trim()) === 0;
}

/** Whether a record meets a condition, as we compare it ourselves. */
export function meets(record: RecordState, { field, value, folded }: Criterion): boolean {
  const held = record.values[field] ?? null;
  if (folded) return String(held).toLowerCase() === String(value).toLowerCase();
  return sameValue(held, value) || sameNumber(held, value);
}

const sameNumber = (a: Value, b: Value): boolean =>
  isNumeric(a) && isNumeric(b) && (typeof a === 'number' || typeof b === 'number') && Number(a) === Number(b);
const isNumeric = (value: Value): boolean =>
  typeof value === 'number' || (typeof value === 'string' && /^-?\d{1,300}(?:\.\d{1,300})?$/.test(value));

/** Nothing at all has changed, though something was to. */
export const isIdle = (before: RecordState, after: RecordState, values: Values): boolean =>
  fingerprintOf(before.values) === fingerprintOf(after.values) &&
  Object.entries(values).some(
    ([name, value]) => Object.hasOwn(after.values, name) && !sameValue(after.values[name], value),
  );

/** A look that only tells more: what was written is written, whether or not it can be looked at now. */
export function ignoringTrouble(error: unknown): undefined {
  if (isSystemTrouble(error)) return undefined;
  throw error;
}
