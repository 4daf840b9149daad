import type { SubmittedValues } from '@zusammen/core/forms';

/** What came as answers: texts, or lists of them. Programs say yes and no as such. */
export const asAnswers = (values: SubmittedValues): Record<string, string | string[]> =>
  Object.fromEntries(
    Object.entries(values).map(([name, said]) => [
      name,
      Array.isArray(said) ? said : typeof said === 'boolean' ? (said ? 'yes' : 'no') : String(said),
    ]),
  );

const days = new Map<string, Intl.DateTimeFormat>();

/** Today in a zone (IANA time zone database), as YYYY-MM-DD. */
export function todayIn(zone = 'UTC'): string {
  // Sweden writes its days as ISO 8601 does.
  const format = days.get(zone) ?? new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' });
  days.set(zone, format);
  return format.format(new Date());
}
