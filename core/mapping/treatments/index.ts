import type { Field, Value } from '../../schema/index.ts';
import type { Reading } from '../../values/index.ts';
import { date, email, number, options, phone, webAddress } from './kinds.ts';
import type { Treatment, TreatmentDefinition, TreatmentKind } from './model.ts';
import { join, letterCase, replace, split, standIn, trim } from './texts.ts';

/** Every treatment there is: a new one is a function and a line here. */
const TREATMENTS: Record<TreatmentKind, TreatmentDefinition> = {
  trim,
  case: letterCase,
  join,
  split,
  replace,
  default: standIn,
  phone,
  email,
  'web address': webAddress,
  number,
  date,
  options,
};

/** The short text on a treatment's chip, e.g. "phone, from Germany". */
export function describeTreatment(treatment: Treatment): string {
  return TREATMENTS[treatment.kind].describe(treatment);
}

/** Treats one value; a value that can't be read comes back with the reason. */
export function treat(value: Value, treatment: Treatment, field: Field): Reading<Value> {
  return TREATMENTS[treatment.kind].treat(value, treatment, field);
}

export * from './model.ts';
