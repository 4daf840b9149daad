import { Decimal } from 'decimal.js';
import { isSafeNumber } from 'lossless-json';
import { readBoolean } from './boolean.ts';
import { quoted } from './bounds.ts';
import { isBlank } from './compare.ts';
import { readDate, readDateTime } from './date.ts';
import { readEmail } from './email.ts';
import { readDigits } from './number.ts';
import { readOption } from './option.ts';
import { readPhone } from './phone.ts';
import { read, unreadable, type Reading } from './reading.ts';
import { readDuration, readTime } from './time.ts';
import { lengthInBytes, lengthInCharacters } from './text.ts';
import { readWebAddress } from './web-address.ts';

type Converted = string | number | boolean | null | string[];

/** As much of a field as a conversion has to know. */
export interface TargetField {
  label: string;
  type: string;
  maxLength?: number;
  maxBytes?: number;
  scale?: number;
  options?: readonly { value: string; label: string }[];
}

/** A value ready to be sent, with everything that was lost on the way in words. */
export interface Conversion {
  value: Converted;
  losses: string[];
  ambiguous?: string;
}

/**
 * Converts a value to what a record's field takes. A blank becomes null.
 * @param zone where moments without a zone of their own were meant (IANA time zone database)
 * Values that can't be converted are unreadable with a reason; what a conversion drops stands in `losses`.
 */
export function convert(value: Converted | undefined, field: TargetField, zone?: string): Reading<Conversion> {
  if (value === undefined || isBlank(value)) return read({ value: null, losses: [] });
  if (field.type === 'options') return toOptions(value, field);
  const losses: string[] = [];
  let single: string | number | boolean;
  if (Array.isArray(value)) {
    if (value.length > 1) {
      return unreadable(
        `${field.label} takes one value, not ${value.length}: ${quoted(value.slice(0, 20).join(', '))}`,
      );
    }
    single = value[0]!;
  } else {
    single = value!;
  }
  const reading = toSingle(single, field, losses, zone);
  if (!reading.ok) return reading;
  const converted: Conversion = { value: reading.value, losses };
  if (reading.ambiguous !== undefined) converted.ambiguous = reading.ambiguous;
  return read(converted);
}

function toSingle(
  value: string | number | boolean,
  field: TargetField,
  losses: string[],
  zone: string | undefined,
): Reading<Converted> {
  const text = String(value);
  switch (field.type) {
    case 'email':
      return limited(readEmail(text), field);
    case 'phone':
      // A phone is brought to E.164 only by a treatment that knows the country; here it is taken as it stands.
      return /^\+/.test(text.trim()) ? limited(readPhone(text), field) : limited(read(text), field);
    case 'web address':
      return limited(readWebAddress(text), field);
    case 'number':
    case 'integer':
      return toNumber(value, field, losses);
    case 'yes/no':
      return typeof value === 'boolean' ? read(value) : readBoolean(text);
    case 'date': {
      if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text) && !/[T ]00:00(:00(\.0+)?)?/.test(text)) {
        losses.push(`${field.label} keeps a date only; the time of day in “${quoted(text)}” is dropped`);
      }
      return readDate(text);
    }
    case 'date and time':
      return readDateTime(text, zone);
    case 'time':
      return readTime(
        /^\d{4}-\d{2}-\d{2}[T ]/.test(text) ? text.slice(11).replace(/(?:Z|[+-]\d{2}:?\d{2})$/, '') : text,
      );
    case 'duration':
      return readDuration(text);
    case 'option':
      return field.options ? readOption(text, field.options) : read(text);
    default:
      return limited(read(text), field);
  }
}

function toNumber(given: string | number | boolean, field: TargetField, losses: string[]): Reading<number | string> {
  if (typeof given === 'boolean') return unreadable(`${field.label} takes a number, not yes or no`);
  const digits = typeof given === 'number' ? read(String(given)) : readDigits(given);
  if (!digits.ok) return digits;
  const scale = field.type === 'integer' ? 0 : field.scale;
  const exact = new Decimal(digits.value);
  const rounded = scale === undefined ? exact : exact.toDecimalPlaces(scale, Decimal.ROUND_HALF_UP);
  // A number with more digits than a double keeps stays text.
  const plain = rounded.toFixed();
  const value = typeof given === 'number' || isSafeNumber(plain) ? Number(plain) : plain;
  if (!rounded.eq(exact))
    losses.push(
      `${field.label} keeps ${scale === 0 ? 'whole numbers' : `${scale} ${scale === 1 ? 'decimal' : 'decimals'}`}; ${quoted(digits.value)} becomes ${quoted(plain)}`,
    );
  return digits.ambiguous === undefined ? read(value) : read(value, digits.ambiguous);
}

function limited(reading: Reading<string>, field: TargetField): Reading<string> {
  if (!reading.ok) return reading;
  const over = overLimit(reading.value, field);
  return over === undefined ? reading : unreadable(over);
}

/** Why a text is too long for a field, in the unit its system counts in; undefined when it fits. */
export function overLimit(text: string, field: TargetField): string | undefined {
  const limits = [
    { limit: field.maxLength, length: lengthInCharacters, unit: 'characters' },
    { limit: field.maxBytes, length: lengthInBytes, unit: 'bytes' },
  ];
  for (const { limit, length, unit } of limits) {
    if (limit === undefined || length(text) <= limit) continue;
    return `${field.label} takes ${limit} ${unit}, “${text.slice(0, 24)}…” has ${length(text)}`;
  }
  return undefined;
}

function toOptions(value: Converted, field: TargetField): Reading<Conversion> {
  const each = Array.isArray(value) ? value : [String(value)];
  const taken: string[] = [];
  for (const text of each) {
    const reading = field.options ? readOption(text, field.options) : read(text);
    if (!reading.ok) return reading;
    if (!taken.includes(reading.value)) taken.push(reading.value);
  }
  return read({ value: taken, losses: [] });
}
