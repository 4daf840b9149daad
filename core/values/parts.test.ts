import fc from 'fast-check';
import {
  convert,
  cutTo,
  lengthInBytes,
  lengthInCharacters,
  readAddress,
  readCountry,
  readLanguage,
  readMoney,
  readPersonName,
  type Reading,
} from './index.ts';

const valueOf = <T>(reading: Reading<T>): T | string => (reading.ok ? reading.value : reading.reason);

describe("a person's name", () => {
  it.each([
    ['Anna von der Heide', '', 'Anna', 'von der Heide'],
    ['Dr. Jan Kowalski', 'Dr.', 'Jan', 'Kowalski'],
    ['Prof. Dr. Eva-Maria Müller-Lüders', 'Prof. Dr.', 'Eva-Maria', 'Müller-Lüders'],
    ['García López, María', '', 'María', 'García López'],
    ['Herr Tomasz de la Cruz', 'Herr', 'Tomasz', 'de la Cruz'],
    ['Jan van Dijk', '', 'Jan', 'van Dijk'],
    ["Sean O'Brien", '', 'Sean', "O'Brien"],
    ['John Q. Public', '', 'John Q.', 'Public'],
    ['  Zofia   Nowak ', '', 'Zofia', 'Nowak'],
  ])('%s', (text, title, given, family) => {
    const reading = readPersonName(text);
    expect(reading).toMatchObject({ ok: true, value: { title, given, family } });
    expect(reading).not.toHaveProperty('ambiguous');
  });
  it('says what three bare words leave open', () => {
    expect(readPersonName('María García López')).toMatchObject({
      ok: true,
      ambiguous: expect.stringContaining('“García López”'),
    });
    expect(readPersonName('Ola')).toMatchObject({ ok: true, ambiguous: expect.stringContaining('one name only') });
  });
  it.each(['', '   ', 'info@hive.example', 'call 0301234'])('“%s” is none', (text) => {
    expect(readPersonName(text).ok).toBe(false);
  });
  it('loses no word', () => {
    const word = fc.stringMatching(/^[A-ZŁÖ][a-złö]{1,8}(-[A-Z][a-z]{1,6})?$/);
    fc.assert(
      fc.property(fc.array(word, { minLength: 2, maxLength: 4 }), (words) => {
        const name = readPersonName(words.join(' '));
        expect(name.ok && [name.value.title, name.value.given, name.value.family].filter(Boolean).join(' ')).toBe(
          words.join(' '),
        );
      }),
    );
  });
});

describe('an address', () => {
  it.each([
    ['Am Deich 14a', 'Am Deich', '14a', '', '', ''],
    ['Am Deich 14 a', 'Am Deich', '14 a', '', '', ''],
    ['14a Mill Lane', 'Mill Lane', '14a', '', '', ''],
    ['ul. Kwiatowa 5/7 m. 3', 'ul. Kwiatowa', '5/7', 'm. 3', '', ''],
    ['Straße des 17. Juni 135', 'Straße des 17. Juni', '135', '', '', ''],
    ['12 bis rue de la Paix', 'rue de la Paix', '12 bis', '', '', ''],
    ['Calle Mayor, 5, 2º B', 'Calle Mayor', '5', '2º B', '', ''],
    ['Deichweg 3, 21614 Hollowbrook', 'Deichweg', '3', '', '21614', 'Hollowbrook'],
    ['ul. Lipowa 4\n00-950 Osterwisch', 'ul. Lipowa', '4', '', '00-950', 'Osterwisch'],
    ['Keizerpad 123-II, 1015 CJ Dorp', 'Keizerpad', '123-II', '', '1015 CJ', 'Dorp'],
    ['Via Verde 10/B', 'Via Verde', '10/B', '', '', ''],
    ['10 High Street, Mill OX1 4AA', 'High Street', '10', '', 'OX1 4AA', 'Mill'],
  ])('%s', (text, street, number, more, postcode, city) => {
    expect(readAddress(text)).toMatchObject({ ok: true, value: { street, number, more, postcode, city } });
  });
  it('without a house number is said to have none', () => {
    expect(readAddress('Birnenweg')).toMatchObject({
      ok: true,
      value: { street: 'Birnenweg', number: '' },
      ambiguous: expect.any(String),
    });
  });
  it('takes bounded time on hostile texts', () => {
    for (const text of [
      '1 '.repeat(200),
      'a '.repeat(200),
      `${'a'.repeat(399)}!`,
      'x'.repeat(100_000),
      '1,'.repeat(200),
    ])
      readAddress(text);
    for (const text of [`${'.'.repeat(59)}`, '1 '.repeat(30), 'a1'.repeat(30)]) readMoney(text);
    expect(readAddress('x'.repeat(1000)).ok).toBe(false);
  });
});

it.each([
  ['Niemcy', 'DE'],
  ['Deutschland', 'DE'],
  ['Pays-Bas', 'NL'],
  ['Holland', 'NL'],
  ['pl', 'PL'],
  ['UK', 'GB'],
  ['España', 'ES'],
  ['the Netherlands', 'NL'],
  ['Atlantis', '“Atlantis” is not a country'],
  ['', '“” is not a country'],
])('country %s', (text, code) => expect(valueOf(readCountry(text))).toBe(code));

it.each([
  ['Deutsch', 'de'],
  ['polnisch', 'pl'],
  ['anglais', 'en'],
  ['de-AT', 'de'],
  ['Klingon', '“Klingon” is not a language'],
])('language %s', (text, code) => expect(valueOf(readLanguage(text))).toBe(code));

it.each([
  ['1.234,50 €', 1234.5, 'EUR'],
  ['EUR 20', 20, 'EUR'],
  ['£5', 5, 'GBP'],
  ['12,50 zł', 12.5, 'PLN'],
  ['12,-', 12, undefined],
  ['-3.5', -3.5, undefined],
])('money %s', (text, amount, currency) => {
  const reading = readMoney(text);
  expect(reading.ok && reading.value).toEqual(currency === undefined ? { amount } : { amount, currency });
});
it('refuses what is no amount', () => {
  expect(valueOf(readMoney('5 apples'))).toContain('no currency');
  expect(readMoney('free').ok).toBe(false);
});

describe('cutting to a limit', () => {
  it('never exceeds it, never splits a character, and leaves what fits', () => {
    const text = fc.string({ unit: 'grapheme', maxLength: 40 });
    fc.assert(
      fc.property(
        text,
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom('characters' as const, 'bytes' as const),
        (given, limit, unit) => {
          const measure = unit === 'bytes' ? lengthInBytes : lengthInCharacters;
          const cut = cutTo(given, limit, unit);
          expect(measure(cut)).toBeLessThanOrEqual(Math.max(limit, 0));
          expect(given.startsWith(cut)).toBe(true);
          if (measure(given) <= limit) expect(cut).toBe(given);
        },
      ),
    );
    expect(cutTo('a👨‍👩‍👧b', 10, 'bytes')).toBe('a');
  });
  it('counts bytes as UTF-8 does', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) =>
        expect(lengthInBytes(text)).toBe(encodeURIComponent(text).replace(/%../g, 'x').length),
      ),
    );
  });
  it('is a refusal in the unit the field counts in when nobody cuts', () => {
    expect(convert('Grüße', { label: 'Note', type: 'text', maxBytes: 5 })).toMatchObject({
      ok: false,
      reason: 'Note takes 5 bytes, “Grüße…” has 7',
    });
    expect(convert('Grüße', { label: 'Note', type: 'text', maxLength: 5 })).toMatchObject({ ok: true });
  });
});
