import { TZDate } from '@date-fns/tz';
import { quoted, tooLong } from './bounds.ts';
import { monthNamed } from './month.ts';
import { read, unreadable, type Reading } from './reading.ts';
import { readTime } from './time.ts';

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
  const inWords = /^(\d{4})[./-]([\p{L}.]{2,20})[./-](\d{1,2})$/u.exec(bare);
  const month = inWords ? monthNamed(inWords[2]!) : undefined;
  if (inWords && month !== undefined) return dated(text, Number(inWords[1]), month, Number(inWords[3]));
  const spelt = spelledOut(bare);
  if (spelt) return dated(text, ...spelt);
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

/** `20 April 2027`, `20. Apr 2027`, `April 20, 2027`: as year, month and day; undefined for what is none. */
function spelledOut(bare: string): [year: number, month: number, day: number] | undefined {
  const dayFirst = /^(\d{1,2})\.? ([\p{L}.]{2,20}),? (\d{4})$/u.exec(bare);
  const monthFirst = dayFirst ? null : /^([\p{L}.]{2,20}) (\d{1,2}),? (\d{4})$/u.exec(bare);
  const [name, day, year] = dayFirst
    ? [dayFirst[2], dayFirst[1], dayFirst[3]]
    : [monthFirst?.[1], monthFirst?.[2], monthFirst?.[3]];
  const month = name === undefined ? undefined : monthNamed(name);
  return month === undefined ? undefined : [Number(year), month, Number(day)];
}

/** A day, and the time of day behind it. */
const WITH_TIME = /^(\S{1,40}?)(?:T|,? {1,3})(\d{1,2}(?:[:.h]\d{2}|(?= ?[ap]\.?m)).{0,60})$/i;
const ZONED = /(?:Z|[+-]\d{2}:?\d{2})$/i;

/**
 * Reads a moment into ISO 8601 in UTC. A zone or offset of its own counts.
 * @param zone where a moment without one was meant, by its IANA name; absent: it is taken as UTC, and said to be unclear
 */
export function readDateTime(text: string, zone?: string): Reading<string> {
  const long = tooLong(text, 'date');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim();
  const no = (): Reading<string> => unreadable(`“${quoted(text)}” is not a date with a time`);
  const [, dayText, rest] = WITH_TIME.exec(bare) ?? [];
  const day = readDate(dayText ?? bare);
  if (!day.ok) return no();
  if (rest === undefined) return inZone(text, day, '00:00:00', zone);
  const said = ZONED.exec(rest)?.[0];
  const time = readTime(said === undefined ? rest : rest.slice(0, -said.length));
  if (!time.ok) return no();
  if (said === undefined) return inZone(text, day, time.value, zone);
  const moment = new Date(
    `${day.value}T${time.value}${/^z$/i.test(said) ? 'Z' : said.replace(/(\d{2}):?(\d{2})$/, '$1:$2')}`,
  );
  return Number.isNaN(moment.getTime()) ? no() : { ...day, value: moment.toISOString() };
}

/** A clock's time in a zone; one that a change of clocks leaves out is taken an hour later, one that comes twice as the later. */
function inZone(
  text: string,
  day: { value: string; ambiguous?: string },
  time: string,
  zone?: string,
): Reading<string> {
  const [clock = '', fraction = ''] = time.split('.');
  const [year, month, date] = day.value.split('-').map(Number) as [number, number, number];
  const [hour, minute, second] = clock.split(':').map(Number) as [number, number, number];
  const ms = Number(`${fraction}000`.slice(0, 3));
  if (zone !== undefined) {
    const moment = new TZDate(year, month - 1, date, hour, minute, second, ms, zone);
    const reading = new Date(moment.getTime()).toISOString();
    return day.ambiguous === undefined ? read(reading) : read(reading, day.ambiguous);
  }
  const moment = new Date(Date.UTC(year, month - 1, date, hour, minute, second, ms)).toISOString();
  return read(moment, day.ambiguous ?? `“${quoted(text)}” names no time zone and is taken as UTC`);
}

function iso8601(year: number, month: number, day: number): string {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

function dated(text: string, year: number, month: number, day: number): Reading<string> {
  const date = new Date(Date.UTC(year, month - 1, day));
  const real = date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return real ? read(iso8601(year, month, day)) : unreadable(`“${quoted(text)}” is not a day in the calendar`);
}
