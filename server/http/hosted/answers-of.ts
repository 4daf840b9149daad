import { readAnswers, type HostedForm, type ReadAnswers } from '@zusammen/core/forms/hosted';
import type { SubmittedValues } from '@zusammen/core/forms';

/** What came as answers: texts, or lists of them. Programs say yes and no as such. */
export const asAnswers = (values: SubmittedValues): Record<string, string | string[]> =>
  Object.fromEntries(
    Object.entries(values).map(([name, said]) => [
      name,
      Array.isArray(said) ? said : typeof said === 'boolean' ? (said ? 'yes' : 'no') : String(said),
    ]),
  );

/** Reads what came for a form, on the day it is where the form is at home. */
export const answersOf = (
  form: HostedForm,
  values: SubmittedValues,
  language: string,
  zone: string | undefined,
): ReadAnswers => readAnswers(form, asAnswers(values), { language, today: todayIn(zone) });

const days = new Map<string, Intl.DateTimeFormat>();

/** Today in a zone (IANA time zone database), as YYYY-MM-DD. */
export function todayIn(zone = 'UTC'): string {
  // Sweden writes its days as ISO 8601 does.
  const format = days.get(zone) ?? new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' });
  days.set(zone, format);
  return format.format(new Date());
}
