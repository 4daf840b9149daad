import { awkwardTexts } from '../testing/awkward.ts';
import {
  convert,
  MOST_CHARACTERS,
  quoted,
  readAddress,
  readBoolean,
  readCountry,
  readDate,
  readDateTime,
  readEmail,
  readLanguage,
  readMoney,
  readNumber,
  readOption,
  readPersonName,
  readPhone,
  readWebAddress,
  searchTerms,
  searchWords,
  tidy,
  type BoundedKind,
  type Reading,
} from './index.ts';

const OPTIONS = [{ value: 'a', label: 'A' }];
const READERS: [string, BoundedKind, (text: string) => Reading<unknown>][] = [
  ['readNumber', 'number', (text) => readNumber(text)],
  ['readNumber with a mark', 'number', (text) => readNumber(text, 'comma')],
  ['readMoney', 'amount', (text) => readMoney(text)],
  ['readDate', 'date', (text) => readDate(text)],
  ['readDateTime', 'date', readDateTime],
  ['readBoolean', 'yes/no', readBoolean],
  ['readPhone', 'phone', (text) => readPhone(text, 'DE')],
  ['readEmail', 'email', readEmail],
  ['readWebAddress', 'web address', readWebAddress],
  ['readOption', 'option', (text) => readOption(text, OPTIONS)],
  ['readCountry', 'place', readCountry],
  ['readLanguage', 'place', readLanguage],
  ['readPersonName', 'person name', readPersonName],
  ['readAddress', 'address', readAddress],
];

describe.each(READERS)('%s', (_name, kind, reader) => {
  it.each(awkwardTexts(2_000_000))('turns two megabytes of %s away with a short reason', (_what, text) => {
    const reading = reader(text);
    expect(reading.ok).toBe(false);
    expect(reading.ok || reading.reason.length).toBeLessThan(400);
  });

  it.each(awkwardTexts(MOST_CHARACTERS[kind] - 60))('reads the longest text it takes: %s', (_what, text) => {
    const short = text.slice(0, MOST_CHARACTERS[kind]);
    const reading = reader(short);
    if (!reading.ok) expect(reading.reason.length).toBeLessThan(400);
  });
});

it.each(awkwardTexts(1_000_000))('search and tidying take %s in their stride', (_what, text) => {
  searchWords(text);
  expect(searchTerms(text).length).toBeLessThanOrEqual(6);
  tidy(text);
});

it.each(['text', 'email', 'phone', 'number', 'date', 'date and time', 'yes/no', 'option', 'options', 'web address'])(
  'what goes into a field of the kind %s is converted or refused in short words',
  (type) => {
    for (const [, text] of awkwardTexts(1_000_000)) {
      const field = { label: 'Field', type, maxLength: 100, options: OPTIONS };
      const reading = convert(text, field);
      expect(reading.ok || reading.reason.length).not.toBe(true);
      if (!reading.ok) expect(reading.reason.length).toBeLessThan(500);
    }
  },
);

it('options are found among thousands as fast as among few, by any of their texts', () => {
  const many = Array.from({ length: 5000 }, (_, at) => ({ value: `V${at}`, label: `Läbel ${at}` }));
  for (let time = 0; time < 20_000; time += 1)
    expect(readOption(`label ${time % 5000}`, many)).toEqual({ ok: true, value: `V${time % 5000}` });
});

it('a value is quoted by its beginning, never by half a character', () => {
  expect(quoted('short')).toBe('short');
  expect(quoted(`${'a'.repeat(79)}😀 and more`)).toBe(`${'a'.repeat(79)}…`);
});
