import { convert, readDateTime, readDigits, readDuration, readTime } from './index.ts';

const target = (type: string, more = {}) => ({ label: 'Field', type, ...more });
const sent = (value: string | number, type: string, zone?: string, more = {}) => {
  const reading = convert(value, target(type, more), zone);
  return reading.ok ? reading.value : reading;
};

describe('a moment', () => {
  it.each([
    ['2027-04-20T14:30', 'Europe/Warsaw', '2027-04-20T12:30:00.000Z'],
    ['2027-01-20T14:30', 'Europe/Warsaw', '2027-01-20T13:30:00.000Z'],
    ['2027-04-20', 'Europe/Warsaw', '2027-04-19T22:00:00.000Z'],
    ['20.04.2027 14:30', 'Europe/Berlin', '2027-04-20T12:30:00.000Z'],
    ['20.04.2027, 2:30 pm', 'America/New_York', '2027-04-20T18:30:00.000Z'],
    ['2027-04-20 14:30:15.250', 'Asia/Kolkata', '2027-04-20T09:00:15.250Z'],
    // Clocks go forward over 02:30: an hour later; and back over it: the later of the two.
    ['2027-03-28T02:30', 'Europe/Berlin', '2027-03-28T01:30:00.000Z'],
    ['2027-10-31T02:30', 'Europe/Berlin', '2027-10-31T01:30:00.000Z'],
    // A zone of its own counts, whatever the intake's is.
    ['2027-04-20T14:30:00Z', 'Europe/Warsaw', '2027-04-20T14:30:00.000Z'],
    ['2027-04-20T14:30+02:00', 'America/New_York', '2027-04-20T12:30:00.000Z'],
    ['2027-04-20T14:30:00.1234567-0500', 'Europe/Warsaw', '2027-04-20T19:30:00.123Z'],
  ])('%s in %s is %s', (text, zone, utc) => {
    expect(readDateTime(text, zone)).toEqual({ ok: true, value: utc });
  });

  it('without a zone anywhere is taken as UTC, and that is said', () => {
    expect(readDateTime('2027-04-20T14:30')).toEqual({
      ok: true,
      value: '2027-04-20T14:30:00.000Z',
      ambiguous: '“2027-04-20T14:30” names no time zone and is taken as UTC',
    });
    expect(sent('2027-04-20T14:30', 'date and time')).toMatchObject({ ambiguous: expect.stringMatching(/time zone/) });
    expect(sent('2027-04-20T14:30', 'date and time', 'Europe/Warsaw')).toEqual({
      value: '2027-04-20T12:30:00.000Z',
      losses: [],
    });
  });

  it.each([
    '2027-02-30T10:00',
    '2027-04-20T25:00',
    '2027-04-20T10:61',
    'tomorrow 10:00',
    'T10:00',
    '2027-04-20T10:00+99:99x',
  ])('%s is none', (text) => expect(readDateTime(text)).toMatchObject({ ok: false }));
});

describe('a time of day', () => {
  it.each([
    ['14:30', '14:30:00'],
    ['14:30:15', '14:30:15'],
    ['2:30 pm', '14:30:00'],
    ['12:05 a.m.', '00:05:00'],
    ['14.30 Uhr', '14:30:00'],
    ['14h30', '14:30:00'],
    ['9 Uhr', '09:00:00'],
    ['7pm', '19:00:00'],
  ])('%s is %s', (text, time) => expect(readTime(text)).toEqual({ ok: true, value: time }));
  it.each(['24:00', '13:00 pm', '14:60', 'noon', '', '14'])('%s is none', (text) =>
    expect(readTime(text)).toMatchObject({ ok: false }),
  );
  it('comes out of a moment', () => {
    expect(sent('2027-04-20T14:30', 'time')).toMatchObject({ value: '14:30:00' });
    expect(sent('2027-04-20T14:30:00Z', 'time')).toMatchObject({ value: '14:30:00' });
  });
});

describe('a length of time', () => {
  it.each([
    ['PT90M', 'PT90M'],
    ['p1dt2h', 'P1DT2H'],
    ['1:30', 'PT1H30M'],
    ['90 min', 'PT1H30M'],
    ['1 h 30 min', 'PT1H30M'],
    ['1.5 hours', 'PT1H30M'],
    ['2 Tage', 'P2D'],
    ['36h', 'P1DT12H'],
    ['45 sek', 'PT45S'],
    ['0 min', 'PT0S'],
  ])('%s is %s', (text, duration) => expect(readDuration(text)).toEqual({ ok: true, value: duration }));
  it.each(['P', 'PT', '1:75', 'long', '3 apples', '5', ''])('%s is none', (text) =>
    expect(readDuration(text)).toMatchObject({ ok: false }),
  );
});

it('a number is rounded as it was written, not as a double holds it', () => {
  const rounded = (text: string, scale: number) => sent(text, 'number', undefined, { scale });
  expect(rounded('1.005', 2)).toMatchObject({
    value: 1.01,
    losses: [expect.stringContaining('keeps 2 decimals; 1.005 becomes 1.01')],
  });
  expect(rounded('-1.005', 2)).toMatchObject({ value: -1.01 });
  expect(rounded('2.675', 2)).toMatchObject({ value: 2.68 });
  expect(rounded('8.345', 2)).toMatchObject({ value: 8.35 });
  expect(rounded('1.10', 2)).toEqual({ value: 1.1, losses: [] });
  expect(sent('-2.5', 'integer')).toMatchObject({ value: -3 });
});

describe('a number with more digits than a double keeps', () => {
  it('loses none of them', () => {
    expect(sent('9007199254740993', 'integer')).toEqual({ value: '9007199254740993', losses: [] });
    expect(sent('12.345.678.901.234.567.890', 'integer')).toEqual({ value: '12345678901234567890', losses: [] });
    expect(sent('1234567890123456.785', 'number', undefined, { scale: 2 })).toMatchObject({
      value: '1234567890123456.79',
      losses: [expect.stringMatching(/keeps/)],
    });
    expect(sent('42', 'integer')).toEqual({ value: 42, losses: [] });
    expect(sent('1.50', 'number')).toMatchObject({ value: 1.5 });
  });
  it('is read as digits', () => {
    expect(readDigits('-1 234,50', 'comma')).toEqual({ ok: true, value: '-1234.50' });
    expect(readDigits('+5')).toEqual({ ok: true, value: '5' });
    expect(readDigits('.5')).toEqual({ ok: true, value: '0.5' });
    expect(readDigits('5.')).toEqual({ ok: true, value: '5' });
  });
});
