import { isSafeNumber, LosslessNumber } from 'lossless-json';
import type { Field, Value } from '@zusammen/core/schema';

/**
 * Values as OData's primitive types write them: in addresses (URL Conventions 4.01, 5.1.1.14) and in bodies (JSON
 * Format 4.01, 7.1). What a value is written as depends on the property's type alone, never on how the value looks.
 */
const WHOLE = new Set(['Edm.Byte', 'Edm.SByte', 'Edm.Int16', 'Edm.Int32', 'Edm.Int64']);
const FRACTION = new Set(['Edm.Decimal', 'Edm.Double', 'Edm.Single']);

const FORMS: Record<string, RegExp> = {
  'Edm.Guid': /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i,
  'Edm.Date': /^\d{4}-\d{2}-\d{2}$/,
  'Edm.DateTimeOffset': /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::\d{2}(?:\.\d{1,12})?)?(?:Z|[+-]\d{2}:\d{2})$/,
  'Edm.TimeOfDay': /^\d{2}:\d{2}(?::\d{2}(?:\.\d{1,12})?)?$/,
  'Edm.Duration': /^-?P(?=\d|T\d)(?:\d+D)?(?:T(?=\d)(?:\d+H)?(?:\d+M)?(?:\d+(?:\.\d+)?S)?)?$/,
};

/** Numbers as digits: as many as there are, none lost. */
const INTEGER = /^-?\d{1,40}$/;
const DECIMAL = /^-?\d{1,400}(?:\.\d{1,400})?(?:[eE][+-]?\d{1,4})?$/;

/** An enumeration's type in {@link Field.native}; with the suffix, its members may be chosen together. */
const ENUM = 'enum ';
const FLAGS = ' flags';
export const enumType = (qualified: string, flags: boolean): string => `${ENUM}${qualified}${flags ? FLAGS : ''}`;

/**
 * A value in an address, not percent-encoded yet.
 * @returns undefined where the text is no value of the type: no record can have it
 */
export function literalOf(value: Value, { native, type }: Pick<Field, 'native' | 'type'>): string | undefined {
  if (value === null) return 'null';
  if (Array.isArray(value)) return undefined;
  const text = typeof value === 'number' ? plainNumber(value) : String(value);
  // Read before types were kept: by what Zusammen makes of it.
  if (native === undefined) return typeof value === 'string' && type !== 'yes/no' ? quotedText(value) : text;
  if (WHOLE.has(native)) return INTEGER.test(text) ? text : undefined;
  if (FRACTION.has(native)) return DECIMAL.test(text) ? text : undefined;
  if (native === 'Edm.Boolean') return text === 'true' || text === 'false' ? text : undefined;
  if (native === 'Edm.Duration') return FORMS[native]!.test(text) ? `duration'${text}'` : undefined;
  if (native in FORMS) return FORMS[native]!.test(text) ? withoutIdleFraction(text) : undefined;
  return native.startsWith(ENUM) ? `${enumName(native)}${quotedText(text)}` : quotedText(text);
}

const enumName = (native: string): string => native.slice(ENUM.length).replace(FLAGS, '');

const quotedText = (text: string): string => `'${text.replace(/'/g, "''")}'`;

/** A double without an exponent where it is a whole number: `1e21` is no integer to a server. */
const plainNumber = (value: number): string =>
  Number.isInteger(value) && Math.abs(value) >= 1e21 ? BigInt(value).toString() : String(value);

/** A value in a JSON body, to be written by lossless-json: digits that a double would lose stay as they are. */
export function jsonOf(value: Value, field: Pick<Field, 'native' | 'type'>): unknown {
  const { native = '' } = field;
  if (Array.isArray(value)) {
    const each = value.map((one) => jsonOf(one, field));
    // A choice of several flags is one text (JSON Format 4.01, 7.1).
    return native.startsWith(ENUM) && field.type === 'options' && native.endsWith(FLAGS) ? each.join(',') : each;
  }
  if (typeof value !== 'string') return value;
  if (isNumeric(native) && (WHOLE.has(native) ? INTEGER : DECIMAL).test(value)) return new LosslessNumber(value);
  if (native === 'Edm.Boolean' && (value === 'true' || value === 'false')) return value === 'true';
  return native === 'Edm.DateTimeOffset' ? withoutIdleFraction(value) : value;
}

/** A property without a precision takes none at all (CSDL 4.01, 7.2.3): `.000` says nothing. */
const withoutIdleFraction = (moment: string): string => moment.replace(/\.0{1,12}(?=Z|[+-]\d{2}:\d{2}$)/, '');

/** What a body says of a property, as a record's value; undefined for what no value can be made of. */
export function valueOf(json: unknown, field: Pick<Field, 'native' | 'type'>): Value | undefined {
  if (json === null || typeof json === 'boolean') return json;
  const { native = '' } = field;
  // Some send 1 for true, and numbers as text (IEEE754Compatible, JSON Format 4.01, 3.2).
  if (native === 'Edm.Boolean' && ['0', '1', 'true', 'false'].includes(String(json)))
    return json === 1 || json === '1' || json === 'true';
  if (typeof json === 'number') return json;
  if (typeof json === 'string' && isNumeric(native) && DECIMAL.test(json))
    return isSafeNumber(json) ? Number(json) : json;
  if (typeof json === 'string')
    return field.type === 'options' && field.native?.endsWith(FLAGS)
      ? json.split(',').flatMap((each) => each.trim() || [])
      : json;
  if (Array.isArray(json)) return json.flatMap((each) => (isPlain(each) ? [String(each)] : []));
  return undefined;
}

const isNumeric = (native: string): boolean => WHOLE.has(native) || FRACTION.has(native);

const isPlain = (value: unknown): value is string | number | boolean =>
  ['string', 'number', 'boolean'].includes(typeof value);
