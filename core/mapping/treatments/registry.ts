import { compute } from './compute.ts';
import { country, date, email, language, money, number, phone, webAddress } from './kinds.ts';
import { lookup } from './lookup.ts';
import type { TreatmentDefinition } from './model.ts';
import { options } from './options.ts';
import { addressPart, namePart } from './parts.ts';
import { join, letterCase, list, nothing, replace, shorten, split, standIn, trim } from './texts.ts';

/** Every treatment there is: a new one is a definition in a file of its own, and a line here. */
export const TREATMENTS = {
  trim,
  case: letterCase,
  replace,
  shorten,
  default: standIn,
  nothing,
  join,
  split,
  list,
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
} satisfies Record<string, TreatmentDefinition>;

export type TreatmentKind = keyof typeof TREATMENTS;
export const TREATMENT_KINDS = Object.keys(TREATMENTS) as TreatmentKind[];
