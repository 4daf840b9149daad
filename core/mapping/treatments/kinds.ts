import { isSafeNumber } from 'lossless-json';
import {
  byFoldedText,
  countryName,
  fold,
  isBlank,
  languageName,
  quoted,
  read,
  readCountry,
  readDate,
  readEmail,
  readLanguage,
  readLosing,
  readMoney,
  readDigits,
  readOption,
  readPhone,
  readWebAddress,
  unreadable,
} from '../../values/index.ts';
import { eachText } from './each.ts';
import type { Setting, TreatmentDefinition } from './model.ts';

const DECIMAL: Setting = {
  control: 'choice',
  name: 'decimal',
  label: 'Visitors write decimals with a',
  otherwise: '',
  choices: [
    ['', 'not known'],
    ['comma', 'comma: 12,5'],
    ['point', 'point: 12.5'],
  ],
};

/** Reads `country`: the country a number without `+` is dialled from. */
export const phone: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'phone',
  settings: [
    {
      control: 'choice',
      name: 'country',
      label: 'Numbers without a country code are dialled from',
      otherwise: '',
      choices: 'countries',
    },
  ],
  fresh: ({ settings: { country } }) => (country ? { country } : {}),
  describe: ({ country }) => (country ? `phone, from ${countryName(country, 'en')}` : 'phone'),
  treat: eachText((text, { country }) => readPhone(text, country)),
};

export const email: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'e-mail',
  settings: [],
  describe: () => 'e-mail',
  treat: eachText((text) => readEmail(text)),
};

export const webAddress: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'web address',
  settings: [],
  describe: () => 'web address',
  treat: eachText((text) => readWebAddress(text)),
};

const written = (as: string): string => (as === 'code' ? 'code' : `name in ${languageName(as, 'en')}`);

/** Reads `as`: a code (ISO 3166-1 alpha-2) or the name in a language. An option of the field goes in as that option. */
export const country: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'country',
  settings: [{ control: 'choice', name: 'as', label: 'Goes in as', otherwise: 'code', choices: 'languages' }],
  fresh: () => ({ as: 'code' }),
  describe: ({ as = 'code' }) => `country, ${written(as)}`,
  treat: eachText((text, { as = 'code' }, field) => {
    const code = readCountry(text);
    if (!code.ok) return code;
    if (field.options)
      return readOption(optionFor(code.value, countryName(code.value, 'en'), field.options), field.options);
    return read(as === 'code' ? code.value : countryName(code.value, as));
  }),
};

/** Reads `as`: a code (ISO 639-1) or the name in a language. An option of the field goes in as that option. */
export const language: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'language',
  settings: [{ control: 'choice', name: 'as', label: 'Goes in as', otherwise: 'code', choices: 'languages' }],
  fresh: () => ({ as: 'code' }),
  describe: ({ as = 'code' }) => `language, ${written(as)}`,
  treat: eachText((text, { as = 'code' }, field) => {
    const code = readLanguage(text);
    if (!code.ok) return code;
    if (field.options)
      return readOption(optionFor(code.value, languageName(code.value, 'en'), field.options), field.options);
    return read(as === 'code' ? code.value : languageName(code.value, as));
  }),
};

/** The text by which a list of options is likeliest to know a code: itself, or its English name. */
function optionFor(code: string, name: string, among: readonly { value: string; label: string }[]): string {
  return byFoldedText(among, ({ value, label }) => [value, label]).folded.has(fold(code)) ? code : name;
}

/** Reads `decimal`, `take` (amount or currency) and `currency`: an amount in another one is refused, not converted. */
export const money: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'money',
  settings: [
    {
      control: 'choice',
      name: 'take',
      label: 'Take',
      otherwise: 'amount',
      choices: [
        ['amount', 'the amount'],
        ['currency', 'the currency'],
      ],
    },
    { control: 'text', name: 'currency', label: 'Only in this currency (blank takes any)', form: 'currency' },
    DECIMAL,
  ],
  fresh: () => ({ take: 'amount' }),
  describe: ({ take = 'amount', currency }) =>
    take === 'currency' ? 'the currency' : `amount${currency ? ` in ${currency}` : ''}`,
  treat: (value, { decimal, take = 'amount', currency }) => {
    if (isBlank(value)) return read(value);
    if (typeof value === 'number') return read(take === 'currency' ? (currency ?? null) : value);
    if (Array.isArray(value) && value.length > 1)
      return unreadable(`“${quoted(value.join(', '))}” is more than one amount`);
    const reading = readMoney(String(value), decimal);
    if (!reading.ok) return reading;
    const { amount, currency: named } = reading.value;
    if (currency && named && named !== currency)
      return unreadable(`“${quoted(String(value))}” is in ${named}, not in ${currency}`);
    if (take === 'currency') return read(named ?? currency ?? null);
    if (named && !currency)
      return {
        ...readLosing(amount, `the currency ${named} of “${quoted(String(value))}” is dropped`),
        ...ambiguityOf(reading),
      };
    return read(amount, reading.ambiguous);
  },
};

const ambiguityOf = (reading: { ambiguous?: string }): { ambiguous?: string } =>
  reading.ambiguous === undefined ? {} : { ambiguous: reading.ambiguous };

/** A number with more digits than a double keeps, as JSON and systems write it: nobody's decimal mark is in it. */
const isExact = (text: string): boolean => /^-?\d+\.\d+$/.test(text) && !isSafeNumber(text);

/** Reads `decimal`: the decimal mark the form's visitors use. */
export const number: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'number',
  settings: [DECIMAL],
  describe: ({ decimal }) => (decimal ? `number, decimal ${decimal}` : 'number'),
  treat: (value, { decimal }) => {
    if (isBlank(value) || typeof value === 'number') return read(value);
    if (Array.isArray(value) && value.length > 1)
      return unreadable(`“${quoted(value.join(', '))}” is more than one number`);
    const text = String(value);
    const digits = readDigits(text, isExact(text) ? 'point' : decimal);
    // As many digits as were written: an account's number may have more than a double keeps.
    return digits.ok && isSafeNumber(digits.value) ? { ...digits, value: Number(digits.value) } : digits;
  },
};

/** Reads `order`: the order of day, month and year. */
export const date: TreatmentDefinition = {
  group: 'Kinds of value',
  name: 'date',
  settings: [
    {
      control: 'choice',
      name: 'order',
      label: 'Visitors write',
      otherwise: '',
      choices: [
        ['', 'not known'],
        ['day first', 'day first: 20.4.2027'],
        ['month first', 'month first: 4/20/2027'],
        ['year first', 'year first: 2027-04-20'],
      ],
    },
  ],
  describe: ({ order }) => (order ? `date, ${order}` : 'date'),
  treat: eachText((text, { order }) => readDate(text, order)),
};
