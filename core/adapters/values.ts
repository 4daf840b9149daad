import { isSafeNumber, LosslessNumber } from 'lossless-json';
import type { Value } from '../schema/index.ts';
import { readDate } from '../values/index.ts';
import type { FieldAdapter, ValueForm } from './document.ts';

/** A field as far as its values are written: in JSON, and in addresses. */
type Written = Pick<FieldAdapter, 'type' | 'form'>;

const ORDERS: Partial<Record<ValueForm, 'day first' | 'month first'>> = {
  'day.month.year': 'day first',
  'day/month/year': 'day first',
  'month/day/year': 'month first',
};
const NUMERIC = new Set<FieldAdapter['type']>(['integer', 'number']);
/** What a text may have to be made something else of. */
const OTHERWISE = new Set<FieldAdapter['type']>([...NUMERIC, 'options', 'yes/no', 'date', 'date and time']);
const DIGITS = /^-?\d{1,400}(?:\.\d{1,400})?(?:[eE][+-]?\d{1,4})?$/;

/** What JSON holds, as a record's value; undefined for what no value can be made of. */
export function valueFrom(json: unknown, { type, form }: Written): Value | undefined {
  if (json === undefined || json === null || (typeof json === 'string' && !OTHERWISE.has(type))) return json;
  if (type === 'options') {
    const list = Array.isArray(json) ? json : typeof json === 'string' && form === 'commas' ? json.split(',') : [json];
    return list
      .filter(isPlain)
      .map((each) => String(each).trim())
      .filter((each) => each !== '');
  }
  if (Array.isArray(json)) return json.flatMap((each) => (isPlain(each) ? [String(each)] : []));
  if (!isPlain(json)) return undefined;
  if (type === 'yes/no') return yesOrNo(json);
  if (type === 'date' || type === 'date and time') return momentFrom(json, type, form);
  if (NUMERIC.has(type)) {
    if (typeof json === 'string' && DIGITS.test(json)) return isSafeNumber(json) ? Number(json) : json;
    return json;
  }
  // An id, an option or a text that comes as a number is named by its digits.
  return String(json);
}

const isPlain = (value: unknown): value is string | number | boolean =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean';

function yesOrNo(json: string | number | boolean): Value {
  const said = String(json).toLowerCase();
  if (['true', '1', 'yes'].includes(said)) return true;
  return ['false', '0', 'no', ''].includes(said) ? false : String(json);
}

function momentFrom(
  json: string | number | boolean,
  type: 'date' | 'date and time',
  form: ValueForm | undefined,
): Value {
  if (form === 'seconds' || form === 'milliseconds') {
    const number = Number(json);
    const moment = new Date(form === 'seconds' ? number * 1000 : number);
    if (json === '' || Number.isNaN(moment.getTime())) return String(json);
    return type === 'date' ? moment.toISOString().slice(0, 10) : moment.toISOString();
  }
  const text = String(json);
  const order = form === undefined ? undefined : ORDERS[form];
  if (order !== undefined) {
    const read = readDate(text, order);
    return read.ok ? read.value : text;
  }
  // A date that comes with a time of day, as many APIs send it.
  if (type === 'date' && /^\d{4}-\d{2}-\d{2}T/.test(text)) return text.slice(0, 10);
  return text;
}

/** A record's value as JSON has it, to be written by lossless-json: digits that a double would lose stay as they are. */
export function jsonFrom(value: Value, { type, form }: Written): unknown {
  if (value === null) return null;
  if (type === 'options') {
    const list = Array.isArray(value) ? value : [String(value)];
    return form === 'commas' ? list.join(',') : form === 'number' ? list.map(numberOf) : list;
  }
  if (Array.isArray(value)) return value;
  if (type === 'yes/no') return yesOrNoAs(value, form);
  if (type === 'date' || type === 'date and time') return momentAs(String(value), type, form);
  if (form === 'text') return String(value);
  if (form === 'number' || NUMERIC.has(type)) return numberOf(value);
  return typeof value === 'boolean' || typeof value === 'number' ? String(value) : value;
}

const numberOf = (value: Exclude<Value, string[] | null>): unknown =>
  typeof value === 'string' && DIGITS.test(value) ? new LosslessNumber(value) : value;

function yesOrNoAs(value: Exclude<Value, string[] | null>, form: ValueForm | undefined): unknown {
  const yes = typeof value === 'string' ? yesOrNo(value) : value === true || value === 1;
  if (typeof yes !== 'boolean') return value;
  if (form === '1/0') return yes ? 1 : 0;
  return form === 'text' ? String(yes) : yes;
}

function momentAs(text: string, type: 'date' | 'date and time', form: ValueForm | undefined): unknown {
  if (form === 'seconds' || form === 'milliseconds') {
    const ms = Date.parse(text);
    return Number.isNaN(ms) ? text : form === 'seconds' ? Math.floor(ms / 1000) : ms;
  }
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})/.exec(text) ?? [];
  if (year === undefined || form === undefined || ORDERS[form] === undefined) return text;
  if (form === 'day.month.year') return `${day}.${month}.${year}`;
  if (form === 'day/month/year') return `${day}/${month}/${year}`;
  return type === 'date' || form === 'month/day/year' ? `${month}/${day}/${year}` : text;
}

/** A value as an address has it, not percent-encoded yet. */
export function textFrom(value: Value, field: Written): string {
  const json = jsonFrom(value, field);
  if (json === null) return '';
  return Array.isArray(json) ? json.join(',') : String(json as string | number | boolean | LosslessNumber);
}
