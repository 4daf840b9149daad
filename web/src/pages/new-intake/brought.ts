import type { Started } from '@zusammen/core/asking';
import type { HostedForm } from '@zusammen/core/forms/hosted';
import type { Plan } from '@zusammen/core/plans';
import type { FormField, ReadForm, SubmittedValues } from '@zusammen/core/forms';
import type { IntakeSettings, FormSource } from '@zusammen/core/intake';

/** What was brought in, whatever it came from: all that a new intake is made of. */
export interface Brought {
  name: string;
  fields: FormField[];
  left: ReadForm['left'];
  source: FormSource;
  settings: Partial<IntakeSettings>;
  /** Kept with the intake, so that the plan shows values from the start. */
  samples: SubmittedValues[];
  /** A form of ours, with the plan it gives. */
  ours?: { form: HostedForm; plan: Plan; started?: Started };
  /** A sentence about where it came from. */
  note?: string;
}

/** A name as people write it, out of a form's or a file's. */
export function nameFrom(text: string): string {
  const words = text
    .replace(/\.[a-z0-9]{2,4}$/i, '')
    .replace(/[-_.]+/g, ' ')
    .trim();
  return words === '' ? 'New form' : words.charAt(0).toUpperCase() + words.slice(1);
}

export const keyFrom = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 76);

/** A key that no other intake has. */
export function freeKey(wanted: string, taken: ReadonlySet<string>): string {
  let key = wanted;
  for (let at = 2; taken.has(key); at += 1) key = `${wanted}-${at}`;
  return key;
}
