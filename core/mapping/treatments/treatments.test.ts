import fc from 'fast-check';
import type { Field, Value } from '../../schema/index.ts';
import { makeField } from '../../testing/world.ts';
import { describeTreatment, treat, TREATMENT_KINDS, type TreatContext, type Treatment } from './index.ts';

const text = makeField('note', { label: 'Note' });
const nobody: TreatContext = { values: {}, fields: [], answer: () => [] };
const done = (value: Value, treatment: Treatment, field: Field = text, context = nobody) =>
  treat(value, treatment, field, context);
const valueOf = (value: Value, treatment: Treatment, field: Field = text) => {
  const reading = done(value, treatment, field);
  return reading.ok ? reading.value : reading.reason;
};

/** A sensible setting of every kind, for the laws that hold for all of them. */
const SETTINGS: Record<(typeof TREATMENT_KINDS)[number], Omit<Treatment, 'kind'>> = {
  trim: {},
  case: { case: 'title' },
  join: { separator: ' ' },
  split: { separator: ',' },
  list: { take: 'each once' },
  replace: { find: 'a', with: 'b' },
  default: { value: 'x' },
  nothing: { value: 'n/a|–' },
  shorten: { limit: 5, unit: 'bytes' },
  'name part': { take: 'family' },
  'address part': { take: 'street' },
  phone: { country: 'DE' },
  email: {},
  'web address': {},
  country: { as: 'code' },
  language: { as: 'en' },
  number: { decimal: 'comma' },
  money: { decimal: 'comma' },
  date: { order: 'day first' },
  options: { pairs: [{ from: 'a', to: 'b' }] },
  lookup: { entity: 'Keepers', by: 'name' },
  compute: { expression: '"x"' },
};
const all = TREATMENT_KINDS.map((kind): Treatment => ({ kind, ...SETTINGS[kind] }));

describe('every treatment', () => {
  const values = fc.oneof(fc.string({ unit: 'grapheme' }), fc.array(fc.string(), { maxLength: 4 }), fc.constant(null));
  it.each(all)('$kind is pure, never throws, and has words for its chip', (treatment) => {
    fc.assert(
      fc.property(values, (value) => {
        const before = structuredClone(value);
        const first = done(value, treatment);
        expect(done(value, treatment)).toEqual(first);
        expect(value).toEqual(before);
        if (!first.ok) expect(first.reason.length).toBeGreaterThan(5);
      }),
      { numRuns: 60 },
    );
    expect(describeTreatment(treatment)).not.toBe('');
  });

  it.each(all.filter(({ kind }) => !['default', 'list', 'compute'].includes(kind)))(
    '$kind lets a blank pass as a blank',
    (treatment) => {
      for (const blank of [null, '', []] as Value[]) {
        const reading = done(blank, treatment);
        expect(
          reading.ok &&
            (reading.value === null ||
              reading.value === '' ||
              (Array.isArray(reading.value) && reading.value.length === 0)),
        ).toBe(true);
      }
    },
  );

  it.each(
    all.filter(({ kind }) =>
      ['trim', 'case', 'shorten', 'email', 'web address', 'phone', 'country', 'date', 'list'].includes(kind),
    ),
  )('$kind done twice is the same as once', (treatment) => {
    const samples: Value[] = [
      ' a  B ',
      'ada@HIVE.example',
      'www.Hive.example',
      '030 23125 001',
      'Niemcy',
      '3.4.2027',
      'Grüße und mehr',
    ];
    for (const sample of samples) {
      const once = done(sample, treatment);
      if (once.ok) expect(done(once.value, treatment)).toMatchObject({ ok: true, value: once.value });
    }
  });
});

describe('names, addresses and lists', () => {
  it.each([
    ['name part', { take: 'given' }, 'Dr. Anna von der Heide', 'Anna'],
    ['name part', { take: 'family' }, 'Dr. Anna von der Heide', 'von der Heide'],
    ['name part', { take: 'title' }, 'Anna Moor', null],
    ['address part', { take: 'street' }, 'Am Deich 14a', 'Am Deich'],
    ['address part', { take: 'number' }, 'Am Deich 14a', '14a'],
    ['address part', { take: 'street and number' }, '14a Mill Lane', 'Mill Lane 14a'],
    ['address part', { take: 'city' }, 'Deichweg 3, 21614 Hollowbrook', 'Hollowbrook'],
    ['list', { take: 'first' }, ['a', 'b'], 'a'],
    ['list', { take: 'last' }, ['a', 'b'], 'b'],
    ['list', { take: 'count' }, ['a', 'b'], 2],
    ['list', { take: 'count' }, null, 0],
    ['list', { take: 'each once' }, ['a', 'b', 'a'], ['a', 'b']],
    ['country', { as: 'code' }, 'Polska', 'PL'],
    ['country', { as: 'de' }, 'Poland', 'Polen'],
    ['language', { as: 'code' }, 'Deutsch', 'de'],
    ['money', { decimal: 'comma', take: 'amount' }, '1.234,50 €', 1234.5],
    ['money', { take: 'currency' }, '£5', 'GBP'],
    ['shorten', { limit: 7, unit: 'bytes' }, 'Grüße dich', 'Grüße'],
  ] as [Treatment['kind'], Partial<Treatment>, Value, Value][])(
    '%s %j of %j is %j',
    (kind, settings, value, expected) => {
      expect(valueOf(value, { kind, ...settings })).toEqual(expected);
    },
  );

  it('say what they drop', () => {
    expect(done(['a', 'b', 'c'], { kind: 'list', take: 'first' })).toMatchObject({
      lost: 'only the first of 3 is kept, “a”',
    });
    expect(done('Grüße dich', { kind: 'shorten', limit: 7, unit: 'bytes' })).toMatchObject({
      lost: expect.stringContaining('12 bytes'),
    });
    expect(done('5 €', { kind: 'money' })).toMatchObject({ value: 5, lost: expect.stringContaining('EUR') });
    expect(done('ab', { kind: 'shorten', limit: 7 })).not.toHaveProperty('lost');
  });

  it('never convert one currency to another', () => {
    expect(valueOf('£5', { kind: 'money', currency: 'EUR' })).toBe('“£5” is in GBP, not in EUR');
    expect(valueOf('5', { kind: 'money', currency: 'EUR' })).toBe(5);
  });

  it('find the option that a country or language is', () => {
    const field = makeField('c', {
      type: 'option',
      options: [
        { value: 'GERMANY', label: 'Germany' },
        { value: 'PL', label: 'Poland' },
      ],
    });
    expect(valueOf('Niemcy', { kind: 'country' }, field)).toBe('GERMANY');
    expect(valueOf('Polen', { kind: 'country' }, field)).toBe('PL');
    expect(valueOf('France', { kind: 'country' }, field)).toContain('not among the options');
  });
});

describe('option pairing', () => {
  const field = makeField('l', { type: 'option', options: [{ value: 'de', label: 'German' }] });
  const pairs = [{ from: 'deutsch', to: 'de' }, { from: 'nichts', to: '' }, { from: 'offen' }];
  it('pairs, leaves out on purpose, and refuses what has no counterpart', () => {
    expect(valueOf('Deutsch', { kind: 'options', pairs }, field)).toBe('de');
    expect(valueOf('nichts', { kind: 'options', pairs }, field)).toBeNull();
    expect(valueOf('offen', { kind: 'options', pairs }, field)).toContain('no counterpart');
    expect(valueOf('de', { kind: 'options', pairs }, field)).toBe('de');
  });
  it('takes anything else as it is told to', () => {
    expect(valueOf('klingon', { kind: 'options', pairs, otherwise: 'de' }, field)).toBe('de');
    expect(valueOf('klingon', { kind: 'options', pairs, otherwise: '' }, field)).toBeNull();
  });
});

describe('a lookup', () => {
  const lookup: Treatment = { kind: 'lookup', entity: 'Keepers', by: 'name' };
  const knowing = (found: string[] | undefined): TreatContext => ({ ...nobody, answer: () => found });
  it('gives the id of the one record, and never guesses among several', () => {
    expect(done('Ada', lookup, text, knowing(['r1']))).toEqual({ ok: true, value: 'r1' });
    expect(done('Ada', lookup, text, knowing(['r1', 'r2']))).toMatchObject({ ok: false });
    expect(done('Ada', lookup, text, knowing([]))).toMatchObject({ ok: false });
    expect(done('Ada', { ...lookup, missing: 'leave blank' }, text, knowing([]))).toMatchObject({
      ok: true,
      value: null,
      lost: expect.any(String),
    });
    expect(done('Ada', lookup, text, knowing(undefined))).toMatchObject({
      ok: false,
      reason: 'is looked up in the system',
    });
  });
});
