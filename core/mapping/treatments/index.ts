import type { Field, Value } from '../../schema/index.ts';
import { tooLong, unreadable, type Reading } from '../../values/index.ts';
import { compute } from './compute.ts';
import { country, date, email, language, money, number, options, phone, webAddress } from './kinds.ts';
import { lookup } from './lookup.ts';
import type { TreatContext, Treatment, TreatmentDefinition, TreatmentKind } from './model.ts';
import { addressPart, namePart } from './parts.ts';
import { join, letterCase, list, replace, shorten, split, standIn, trim } from './texts.ts';

/** Every treatment there is: a new one is a function and a line here. */
const TREATMENTS: Record<TreatmentKind, TreatmentDefinition> = {
  trim,
  case: letterCase,
  join,
  split,
  list,
  replace,
  default: standIn,
  shorten,
  'name part': namePart,
  'address part': addressPart,
  phone,
  email,
  'web address': webAddress,
  country,
  language,
  number,
  money,
  date,
  options,
  lookup,
  compute,
};

/** The short text on a treatment's chip, e.g. "phone, from Germany". */
export function describeTreatment(treatment: Treatment): string {
  return TREATMENTS[treatment.kind].describe(treatment);
}

/** Treats one value; a value that can't be read comes back with the reason. */
export function treat(value: Value, treatment: Treatment, field: Field, context: TreatContext): Reading<Value> {
  const reading = TREATMENTS[treatment.kind].treat(value, treatment, field, context);
  const long = reading.ok && typeof reading.value === 'string' ? tooLong(reading.value, 'text') : undefined;
  return long === undefined ? reading : unreadable(long);
}

export * from './model.ts';
