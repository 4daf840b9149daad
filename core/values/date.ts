import { quoted, tooLong } from './bounds.ts';
import { read, unreadable, type Reading } from './reading.ts';

export type DateOrder = 'day first' | 'month first' | 'year first';

/** The order in which a locale writes day, month and year (Unicode CLDR, from the runtime). */
export function dateOrderOf(locale: string): DateOrder {
  const first = new Intl.DateTimeFormat(locale, { day: '2-digit', month: '2-digit', year: 'numeric' })
    .formatToParts(new Date(0))
    .find((part) => part.type === 'day' || part.type === 'month' || part.type === 'year');
  return first?.type === 'month' ? 'month first' : first?.type === 'year' ? 'year first' : 'day first';
}

/**
 * Reads a calendar date, with or without a time of day, into `YYYY-MM-DD` (ISO 8601).
 * @param order how the parts are ordered; when absent and both readings are dates, day first is taken and said to be ambiguous
 */
export function readDate(text: string, order?: DateOrder): Reading<string> {
  const long = tooLong(text, 'date');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim();
  const iso = /^(\d{4})-(\d{2})-(\d{2})(?:[T ].*)?$/.exec(bare);
  if (iso) return dated(text, Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const yearFirst = /^(\d{4})[./](\d{1,2})[./](\d{1,2})$/.exec(bare);
  if (yearFirst) return dated(text, Number(yearFirst[1]), Number(yearFirst[2]), Number(yearFirst[3]));
  const parts = /^(\d{1,2})[./-]\s?(\d{1,2})[./-]\s?(\d{4})(?:\s.*)?$/.exec(bare);
  if (!parts) return unreadable(`“${quoted(text)}” is not a date`);
  const [a, b, year] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
  if (order === 'month first') return dated(text, year, a, b);
  if (order === 'day first') return dated(text, year, b, a);
  if (a <= 12 && b <= 12 && a !== b && !bare.includes('.')) {
    const reading = dated(text, year, b, a);
    return reading.ok ? read(reading.value, `“${quoted(text)}” may also be ${iso8601(year, a, b)}`) : reading;
  }
  return a > 12 ? dated(text, year, b, a) : b > 12 ? dated(text, year, a, b) : dated(text, year, b, a);
}

/** Reads a moment with a zone or offset into ISO 8601 in UTC; a moment without one is taken as UTC. */
export function readDateTime(text: string): Reading<string> {
  const long = tooLong(text, 'date');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim().replace(' ', 'T');
  if (!/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}/.test(bare)) {
    const day = readDate(text);
    return day.ok
      ? { ...day, value: `${day.value}T00:00:00.000Z` }
      : unreadable(`“${quoted(text)}” is not a date with a time`);
  }
  const zoned = /(Z|[+-]\d{2}:?\d{2})$/.test(bare) ? bare : `${bare}Z`;
  const moment = new Date(zoned);
  return Number.isNaN(moment.getTime())
    ? unreadable(`“${quoted(text)}” is not a date with a time`)
    : read(moment.toISOString());
}

function iso8601(year: number, month: number, day: number): string {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

function dated(text: string, year: number, month: number, day: number): Reading<string> {
  const date = new Date(Date.UTC(year, month - 1, day));
  const real = date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return real ? read(iso8601(year, month, day)) : unreadable(`“${quoted(text)}” is not a day in the calendar`);
}
