import fc from 'fast-check';
import {
  convert,
  decimalMarkOf,
  fold,
  isBlank,
  readBoolean,
  readDate,
  readDateTime,
  readEmail,
  readNumber,
  readOption,
  readPhone,
  readWebAddress,
  sameValue,
  tidy,
  type TargetField,
} from './index.ts';

const field = (type: string, more: Partial<TargetField> = {}): TargetField => ({ label: 'Field', type, ...more });
const value = <T>(reading: { ok: true; value: T } | { ok: false; reason: string }): T => {
  if (!reading.ok) throw new Error(reading.reason);
  return reading.value;
};

describe('texts', () => {
  it('are tidied once and for all', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => tidy(tidy(text)) === tidy(text)));
  });
  it('fold to the same key whatever their case and accents', () => {
    expect(fold('  Königin-NEN! ')).toBe('konigin nen');
    expect(fold('Łąkowski')).toBe('lakowski');
    fc.assert(fc.property(fc.string(), (text) => fold(fold(text)) === fold(text)));
  });
});

describe('e-mail addresses', () => {
  it('keep their local part and lower-case their domain', () => {
    expect(value(readEmail(' Kathi.B@Biene.EXAMPLE '))).toBe('Kathi.B@biene.example');
    expect(value(readEmail('mailto:a@b.example'))).toBe('a@b.example');
    expect(value(readEmail('Kathi Brandt <kathi@biene.example>'))).toBe('kathi@biene.example');
  });
  it.each(['kathi', 'kathi@', '@biene.example', 'a b@c.example', 'a@b'])(
    'refuses %s with the value in the reason',
    (text) => {
      expect(readEmail(text)).toEqual({ ok: false, reason: expect.stringContaining(text) });
    },
  );
});

describe('telephone numbers', () => {
  it.each([
    ['030 23125 077', 'DE', '+493023125077'],
    ['+49 (0)30 23125-077', undefined, '+493023125077'],
    ['0049 30 23125077', 'PL', '+493023125077'],
    ['07700 900 355', 'GB', '+447700900355'],
    ['tel:+44-7700-900355', undefined, '+447700900355'],
  ])('reads %s from %s', (text, country, e164) => expect(value(readPhone(text, country))).toBe(e164));
  it('never guesses a country', () => expect(readPhone('030 23125077')).toMatchObject({ ok: false }));
  it.each(['12', 'call me', '+49 1', '0'.repeat(40)])('refuses %s', (text) =>
    expect(readPhone(text, 'DE').ok).toBe(false),
  );
});

describe('numbers', () => {
  it('read back whatever a locale writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -10_000_000, max: 10_000_000 }),
        fc.constantFrom('de-DE', 'en-GB', 'pl-PL'),
        (cents, locale) => {
          const text = new Intl.NumberFormat(locale, { minimumFractionDigits: 2 }).format(cents / 100);
          return value(readNumber(text, decimalMarkOf(locale))) === cents / 100;
        },
      ),
    );
  });
  it('say when a point may group or divide', () => {
    expect(readNumber('1.234')).toEqual({ ok: true, value: 1.234, ambiguous: '“1.234” may also be 1234' });
    expect(readNumber('1,234')).toMatchObject({ value: 1.234, ambiguous: expect.any(String) });
    expect(readNumber('1.234', 'comma')).toEqual({ ok: true, value: 1234 });
    expect(readNumber('1.234,5')).toEqual({ ok: true, value: 1234.5 });
    expect(readNumber('12,5')).toEqual({ ok: true, value: 12.5 });
  });
  it.each(['twelve', '1,2,3', '12.5.', '', '1.23,4'])('refuse %s', (text) =>
    expect(readNumber(text, 'comma').ok).toBe(false),
  );
});

describe('dates', () => {
  it('read ISO 8601 as it is', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1900-01-01'), max: new Date('2100-01-01'), noInvalidDate: true }),
        (date) => {
          const day = date.toISOString().slice(0, 10);
          return value(readDate(day)) === day && value(readDate(date.toISOString())) === day;
        },
      ),
    );
  });
  it('say when day and month may be swapped, and never where the order is known', () => {
    expect(readDate('03/04/2027')).toEqual({
      ok: true,
      value: '2027-04-03',
      ambiguous: '“03/04/2027” may also be 2027-03-04',
    });
    expect(readDate('03/04/2027', 'month first')).toEqual({ ok: true, value: '2027-03-04' });
    expect(readDate('3.4.2027')).toEqual({ ok: true, value: '2027-04-03' });
    expect(readDate('13/04/2027')).toEqual({ ok: true, value: '2027-04-13' });
    // As three fields of a form are put together, whose month may be a name.
    for (const text of ['1984/4/3', '1984/April/3', '1984/kwietnia/3', '1984/avril/03', '1984/квітень/3'])
      expect(readDate(text)).toEqual({ ok: true, value: '1984-04-03' });
    expect(readDate('1984/Aprilmond/3').ok).toBe(false);
    for (const text of ['3 April 1984', '3. Apr. 1984', 'April 3, 1984', 'Apr 3 1984', '3 kwietnia 1984'])
      expect(readDate(text)).toEqual({ ok: true, value: '1984-04-03' });
    expect(readDate('Smarch 3 1984').ok).toBe(false);
    expect(readDate('31 April 1984').ok).toBe(false);
  });
  it.each(['2027-02-30', '31.04.2027', 'soon', '2027', '00/00/2027'])('refuse %s', (text) =>
    expect(readDate(text).ok).toBe(false),
  );
  it('keep the moment of a time with a zone', () => {
    expect(value(readDateTime('2027-04-20T06:00:00+02:00'))).toBe('2027-04-20T04:00:00.000Z');
    expect(value(readDateTime('2027-04-20T06:00'))).toBe('2027-04-20T06:00:00.000Z');
    expect(readDateTime('tomorrow').ok).toBe(false);
  });
});

describe('yes and no', () => {
  it.each([
    ['on', true],
    ['Ja', true],
    ['0', false],
    ['nie', false],
  ])('reads %s', (text, is) => expect(value(readBoolean(text))).toBe(is));
  it('refuses perhaps', () => expect(readBoolean('perhaps').ok).toBe(false));
});

describe('options', () => {
  const options = [
    { value: 'honey', label: 'Honig' },
    { value: 'queens', label: 'Königinnen' },
  ];
  it('are found by value, label, and without case and accents', () => {
    expect(value(readOption('honey', options))).toBe('honey');
    expect(value(readOption('koniginnen', options))).toBe('queens');
  });
  it('are never guessed', () => {
    expect(readOption('wax', options).ok).toBe(false);
    expect(
      readOption('a', [
        { value: '1', label: 'A' },
        { value: '2', label: 'Ä' },
      ]),
    ).toMatchObject({ ok: false, reason: expect.stringContaining('“A” and “Ä”') });
  });
});

describe('web addresses', () => {
  it('get a scheme and a lower-case host', () =>
    expect(value(readWebAddress('WWW.Brandt-Obst.example/'))).toBe('https://www.brandt-obst.example'));
  it.each(['not one', 'javascript:alert(1)', 'ftp://x.example'])('refuse %s', (text) =>
    expect(readWebAddress(text).ok).toBe(false),
  );
});

describe('comparing values', () => {
  const any = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null), fc.array(fc.string()));
  it('is symmetric and holds of a value with itself', () => {
    fc.assert(fc.property(any, any, (a, b) => sameValue(a, b) === sameValue(b, a) && sameValue(a, a)));
  });
  it('takes blanks as alike, lists as sets, moments as moments', () => {
    expect(sameValue('', null)).toBe(true);
    expect(sameValue([], '  ')).toBe(true);
    expect(sameValue(['a', 'b'], ['b', 'a'])).toBe(true);
    expect(sameValue('2027-04-20T06:00:00Z', '2027-04-20T08:00:00+02:00')).toBe(true);
    expect(sameValue(0, '')).toBe(false);
    expect(isBlank(false)).toBe(false);
  });
});

describe('conversion to a field', () => {
  it('names what is dropped before it is dropped', () => {
    expect(value(convert('2027-04-20T06:00', field('date')))).toMatchObject({
      value: '2027-04-20',
      losses: [expect.stringContaining('time of day')],
    });
    expect(value(convert('12,57', field('number', { scale: 1 })))).toMatchObject({
      value: 12.6,
      losses: [expect.stringContaining('12.57 becomes 12.6')],
    });
    expect(value(convert('2027-04-20', field('date'))).losses).toEqual([]);
  });
  it('refuses what does not fit, with the field and the value', () => {
    expect(convert('ab', field('text', { maxLength: 1 }))).toMatchObject({
      ok: false,
      reason: expect.stringContaining('takes 1 characters'),
    });
    expect(convert(['a', 'b'], field('text'))).toMatchObject({
      ok: false,
      reason: expect.stringContaining('one value, not 2'),
    });
    expect(convert('many', field('integer')).ok).toBe(false);
    expect(convert('😀😀', field('text', { maxLength: 2 })).ok).toBe(true);
  });
  it('is at rest after once', () => {
    const types = fc.constantFrom(
      'text',
      'number',
      'integer',
      'date',
      'yes/no',
      'email',
      'web address',
      'date and time',
      'options',
    );
    fc.assert(
      fc.property(
        types,
        fc.oneof(
          fc.string(),
          fc.integer().map(String),
          fc.constantFrom('2027-04-20T06:00', 'a@B.example', 'yes', '12,5'),
        ),
        (type, text) => {
          const once = convert(text, field(type));
          if (!once.ok) return true;
          const twice = convert(once.value.value, field(type));
          return twice.ok && sameValue(twice.value.value, once.value.value) && twice.value.losses.length === 0;
        },
      ),
    );
  });
});
