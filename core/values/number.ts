import { quoted, tooLong } from './bounds.ts';
import { read, unreadable, type Reading } from './reading.ts';

export type DecimalMark = 'comma' | 'point';

/** The decimal mark of a locale, from the runtime's own data (Unicode CLDR). */
export function decimalMarkOf(locale: string): DecimalMark {
  const part = new Intl.NumberFormat(locale).formatToParts(1.5).find((each) => each.type === 'decimal');
  return part?.value === ',' ? 'comma' : 'point';
}

/**
 * Reads a number written by a person.
 * @param mark the decimal mark; when absent, `1.234` and `1,234` are read as decimals and said to be ambiguous
 */
export function readNumber(text: string, mark?: DecimalMark): Reading<number> {
  const digits = readDigits(text, mark);
  return digits.ok ? { ...digits, value: Number(digits.value) } : digits;
}

/** Reads a number as its digits, such as `-1234.5`: as many as were written, also where a double keeps fewer. */
export function readDigits(text: string, mark?: DecimalMark): Reading<string> {
  const long = tooLong(text, 'number');
  if (long !== undefined) return unreadable(long);
  const bare = text
    .normalize('NFKC')
    .replace(/[\s'’_]/gu, '')
    .replace(/−/g, '-');
  if (!/^[+-]?[\d.,]+$/.test(bare) || !/\d/.test(bare)) return unreadable(`“${quoted(text)}” is not a number`);
  const decimal = mark ?? guessMark(bare);
  const groups = decimal === 'comma' ? '.' : ',';
  const point = decimal === 'comma' ? ',' : '.';
  const [whole = '', fraction, ...more] = bare.split(point);
  if (more.length > 0 || fraction?.includes(groups)) return unreadable(`“${quoted(text)}” is not a number`);
  if (whole.includes(groups) && !new RegExp(`^[+-]?\\d{1,3}(\\${groups}\\d{3})+$`).test(whole)) {
    return unreadable(`“${quoted(text)}” is not a number with a decimal ${decimal}`);
  }
  const joined = whole.split(groups).join('').replace(/^\+/, '');
  const value = `${/\d/.test(joined) ? joined : `${joined}0`}${fraction ? `.${fraction}` : ''}`;
  if (!Number.isFinite(Number(value))) return unreadable(`“${quoted(text)}” is not a number`);
  const unclear = mark === undefined && /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/.test(bare);
  return unclear ? read(value, `“${quoted(text)}” may also be ${bare.replace(/[.,]/, '')}`) : read(value);
}

function guessMark(bare: string): DecimalMark {
  const comma = bare.lastIndexOf(',');
  const point = bare.lastIndexOf('.');
  if (comma >= 0 && point >= 0) return comma > point ? 'comma' : 'point';
  const only = comma >= 0 ? ',' : '.';
  const repeated = bare.split(only).length > 2;
  if (repeated) return only === ',' ? 'point' : 'comma';
  return comma >= 0 ? 'comma' : 'point';
}
