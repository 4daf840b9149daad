import {
  fold,
  isBlank,
  read,
  readDate,
  readEmail,
  readNumber,
  readPhone,
  readWebAddress,
  unreadable,
} from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

const COUNTRY_NAMES = new Intl.DisplayNames(['en'], { type: 'region' });

/** Reads `country`: the country a number without `+` is dialled from. */
export const phone: TreatmentDefinition = {
  describe: ({ country }) => (country ? `phone, from ${COUNTRY_NAMES.of(country) ?? country}` : 'phone'),
  treat: eachText((text, { country }) => readPhone(text, country)),
};

export const email: TreatmentDefinition = {
  describe: () => 'e-mail',
  treat: eachText((text) => readEmail(text)),
};

export const webAddress: TreatmentDefinition = {
  describe: () => 'web address',
  treat: eachText((text) => readWebAddress(text)),
};

/** Reads `decimal`: the decimal mark the form's visitors use. */
export const number: TreatmentDefinition = {
  describe: ({ decimal }) => (decimal ? `number, decimal ${decimal}` : 'number'),
  treat: (value, { decimal }) => {
    if (isBlank(value) || typeof value === 'number') return read(value);
    if (Array.isArray(value) && value.length > 1) return unreadable(`${value.join(', ')} is more than one number`);
    return readNumber(String(value), decimal);
  },
};

/** Reads `order`: the order of day, month and year. */
export const date: TreatmentDefinition = {
  describe: ({ order }) => (order ? `date, ${order}` : 'date'),
  treat: eachText((text, { order }) => readDate(text, order)),
};

/**
 * Option pairing. Reads `pairs` and `otherwise`. A value without a pair goes on as it is when it is an option of the
 * field by itself; otherwise it becomes `otherwise`, or is refused in words.
 */
export const options: TreatmentDefinition = {
  describe: ({ pairs = [] }) =>
    `options, ${pairs.filter((pair) => pair.to !== undefined).length} of ${pairs.length} paired`,
  treat: eachText((text, { pairs = [], otherwise }, field) => {
    const pair = pairs.find((each) => each.from === text) ?? pairs.find((each) => fold(each.from) === fold(text));
    if (pair?.to !== undefined) return read(pair.to === '' ? null : pair.to);
    const itself = field.options?.find((option) => option.value === text);
    if (itself) return read(text);
    if (otherwise !== undefined) return read(otherwise === '' ? null : otherwise);
    return unreadable(`“${text}” has no counterpart in the list`);
  }),
};
