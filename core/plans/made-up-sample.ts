import type { FormField, SubmittedValues } from '../forms/index.ts';
import { AUTOFILL, meaningsOf, tellingWords, type Meaning } from '../mapping/index.ts';
import { entityOf, fieldOf, type Field, type Schema } from '../schema/index.ts';
import { countryName, dateOrderOf, fold } from '../values/index.ts';
import type { Plan } from './model.ts';
import { rowNamed } from './rows.ts';

/** What a sample is made up from. */
export interface MadeUpFrom {
  fields: readonly FormField[];
  /** Says which record's field a value goes to, and with it which values fit. */
  plan: Plan;
  schemas: ReadonlyMap<string, Schema>;
  settings: { country?: string; locale?: string };
}

/** People of nobody's acquaintance, one for each row of a repeating group. */
const PEOPLE = [
  ['Clara', 'Holm'],
  ['Emil', 'Weide'],
  ['Hanka', 'Olsza'],
  ['Oskar', 'Thal'],
] as const;

/** Numbers set aside for made-up people: Ofcom (GB), Bundesnetzagentur (DE), NANP 555-01xx (US). */
const PHONES: Record<string, string> = { GB: '07700 900123', DE: '030 23125014', US: '202-555-0143' };
const PHONE_ANYWHERE = '+44 7700 900123';
const POSTCODES: Record<string, string> = {
  AT: '1010',
  CH: '8001',
  FR: '75001',
  GB: 'SW1A 1AA',
  NL: '1011 AB',
  PL: '00-001',
};
const DAY = ['2026', '05', '14'] as const;
const BIRTHDAY = ['1988', '04', '12'] as const;

/**
 * One submission that nobody sent, as a visitor may fill the form in: values by the kind and the words of each field, the
 * form's options and limits, and what the record's field takes that it goes to. Two rows of each repeating group.
 */
export function madeUpSample(from: MadeUpFrom): SubmittedValues {
  return Object.fromEntries(
    from.fields.flatMap((field): [string, string | string[]][] => {
      const row = field.group === undefined ? 0 : (rowNamed(field.group, field.name)?.index ?? 0);
      if (field.type === 'file' || row > 1) return [];
      const value = valueFor(field, targetOf(field.name, from), row, from);
      return value === undefined ? [] : [[field.name, value]];
    }),
  );
}

/** The record's field that a form's field alone goes to. */
function targetOf(name: string, { plan, schemas }: MadeUpFrom): Field | undefined {
  for (const step of plan.steps)
    for (const line of step.lines)
      if (line.from.length === 1 && line.from[0] === name) {
        const entity = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
        return entity && fieldOf(entity, line.field);
      }
  return undefined;
}

function valueFor(
  field: FormField,
  target: Field | undefined,
  row: number,
  from: MadeUpFrom,
): string | string[] | undefined {
  if (field.options && field.options.length > 0) return chosen(field, target, from.settings);
  if (field.hidden) return field.initial === '' ? undefined : field.initial;
  if (field.type === 'yes/no') return field.initial ?? 'on';
  const meaning = meaningOf(field);
  const kind = field.type === 'text' || field.type === 'long text' ? KINDS[target?.type ?? 'text'] : field.type;
  const text = written(field, meaning, kind ?? 'text', target, row, from);
  return text === undefined || field.maxLength === undefined ? text : text.slice(0, field.maxLength);
}

/** How a value of a record's field is asked for in a form. */
const KINDS: Partial<Record<Field['type'], FormField['type']>> = {
  email: 'email',
  phone: 'phone',
  'web address': 'web address',
  integer: 'number',
  number: 'number',
  date: 'date',
  'date and time': 'date and time',
  time: 'time',
  'yes/no': 'yes/no',
};

function written(
  field: FormField,
  meaning: Meaning | undefined,
  kind: FormField['type'],
  target: Field | undefined,
  row: number,
  { settings: { country = '', locale }, fields }: MadeUpFrom,
): string | undefined {
  const asksNumber = fields.some((each) => meaningOf(each) === 'house number');
  const [given, family] = PEOPLE[row % PEOPLE.length]!;
  switch (kind) {
    case 'email':
      return `${given}.${family}@meadow.example`.toLowerCase();
    case 'phone':
      return PHONES[country] ?? PHONE_ANYWHERE;
    case 'web address':
      return 'https://meadow.example';
    case 'number':
      return within(field, meaning === 'birth date' ? 1988 : 3 + row);
    case 'date':
    case 'date and time':
      return dated(field, meaning === 'birth date' ? BIRTHDAY : DAY, kind, locale);
    case 'time':
      return '10:30';
    case 'yes/no':
      return 'yes';
    default:
  }
  if (target?.options && target.options.length > 0) return target.options[0]!.label;
  // Which records there are can't be made up.
  if (target?.type === 'reference') return undefined;
  if (field.type === 'long text') return 'Could somebody call me on a weekday morning?';
  switch (meaning) {
    case 'given name':
      return given;
    case 'family name':
      return family;
    case 'full name':
    case 'name':
    case 'owner':
      return `${given} ${family}`;
    case 'organisation':
      return row === 0 ? 'Wren Orchard' : 'Hill Meadow Farm';
    case 'email':
      return `${given}.${family}@meadow.example`.toLowerCase();
    case 'phone':
    case 'mobile':
    case 'fax':
      return PHONES[country] ?? PHONE_ANYWHERE;
    case 'website':
      return 'https://meadow.example';
    case 'street':
    case 'address':
      return asksNumber ? 'Orchard Lane' : 'Orchard Lane 14';
    case 'house number':
      return '14';
    case 'postcode':
      return POSTCODES[country] ?? '10115';
    case 'city':
      return 'Appleford';
    case 'country':
      return countryName(country || 'DE', 'en');
    case 'birth date':
      return dated(field, BIRTHDAY, 'date', locale);
    case 'start':
    case 'end':
    case 'date':
      return dated(field, DAY, 'date', locale);
    case 'amount':
    case 'quantity':
    case 'area':
    case 'price':
    case 'employees':
      return within(field, 3 + row);
    case 'language':
      return 'German';
    case 'job':
      return 'Keeper';
    default:
      return 'example';
  }
}

function meaningOf(field: FormField): Meaning | undefined {
  const token = field.autocomplete?.split(/\s+/).at(-1);
  return (
    (token === undefined ? undefined : AUTOFILL[token]) ??
    meaningsOf(tellingWords(field.label))[0]?.meaning ??
    meaningsOf(tellingWords(field.name))[0]?.meaning
  );
}

/** A choice the record's field knows too, if there is one; of several that may be made, two. */
function chosen(
  field: FormField,
  target: Field | undefined,
  { country }: MadeUpFrom['settings'],
): string | string[] | undefined {
  const options = (field.options ?? []).filter(({ value }) => value !== '');
  const known = new Set((target?.options ?? []).flatMap(({ value, label }) => [fold(value), fold(label)]));
  const fits = options.filter(({ value, label }) => known.has(fold(value)) || known.has(fold(label)));
  const home =
    country === undefined
      ? undefined
      : options.find(({ value, label }) => value === country || fold(label) === fold(countryName(country, 'en')));
  const first = home ?? fits[0] ?? options[0];
  if (field.type !== 'options' && field.multiple !== true) return first?.value;
  return (fits.length > 0 ? fits : options).slice(0, 2).map(({ value }) => value);
}

function within({ minimum, maximum }: FormField, wanted: number): string {
  const [least, most] = [Number(minimum ?? Number.NaN), Number(maximum ?? Number.NaN)];
  const atLeast = Number.isFinite(least) ? Math.max(least, wanted) : wanted;
  return String(Number.isFinite(most) ? Math.min(most, atLeast) : atLeast);
}

/** A date as a control sends it (ISO 8601), or as visitors type it into a field of text. */
function dated(
  { type, minimum, maximum }: FormField,
  [year, month, day]: readonly [string, string, string],
  kind: 'date' | 'date and time',
  locale: string | undefined,
): string {
  const iso = `${year}-${month}-${day}`;
  if (type === 'date' || type === 'date and time') {
    const time = type === 'date and time' ? 'T10:30' : '';
    if (minimum !== undefined && minimum.slice(0, 10) > iso) return minimum;
    return maximum !== undefined && maximum.slice(0, 10) < iso ? maximum : `${iso}${time}`;
  }
  const time = kind === 'date and time' ? ' 10:30' : '';
  const order = locale === undefined ? 'year first' : dateOrderOf(locale);
  if (order === 'day first') return `${day}.${month}.${year}${time}`;
  return order === 'month first' ? `${month}/${day}/${year}${time}` : `${iso}${time}`;
}
