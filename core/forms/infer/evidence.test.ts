import fc from 'fast-check';
import { evidenceOf, type ColumnEvidence } from './index.ts';

const many = (count: number, value: (at: number) => string): string[] =>
  Array.from({ length: count }, (_, at) => value(at));
const seen = (values: readonly string[]): ColumnEvidence => evidenceOf(values);

describe('what the values of a column say', () => {
  it('proves the order of dates by the rows that can only be so', () => {
    const dates = ['03.04.2019', '13.04.2019', '28.02.2020', '01.02.2021'];
    expect(seen(dates)).toMatchObject({
      kind: 'date',
      order: { order: 'day first', proved: 2, against: 0, open: 2 },
      least: '2019-04-03',
      greatest: '2021-02-01',
    });
    expect(seen(['4/20/2019', '12/31/2020', '1/2/2021']).order).toMatchObject({ order: 'month first', proved: 2 });
    expect(seen(['1/2/2021', '3/4/2021']).order).toMatchObject({ proved: 0, open: 2 });
    expect(seen(['13/2/2021', '2/13/2021']).order).toMatchObject({ proved: 1, against: 1 });
  });
  it('sets stand-ins for nothing aside, and shows what is none of the kind', () => {
    const values = [
      ...many(60, (at) => `2021-03-${String((at % 28) + 1).padStart(2, '0')}`),
      'n/a',
      'N/A',
      '–',
      'spring',
    ];
    expect(seen(values)).toMatchObject({
      ...{ of: 64, blank: 3, kind: 'date', misfits: 1 },
      misfitting: [{ value: 'spring', row: 63 }],
      fillers: [
        { value: 'N/A', count: 1 },
        { value: 'n/a', count: 1 },
        { value: '–', count: 1 },
      ],
    });
    expect(seen(['n/a', 'n/a', '-'])).toMatchObject({ kind: 'text', blank: 3, distinct: 0 });
  });
  it('tells options that repeat, spellings that are one, and typing errors that may be', () => {
    const values = [
      ...many(20, () => 'aktiv'),
      'Aktiv ',
      ...many(9, () => 'ruht'),
      ...many(9, () => 'aufgelöst'),
      'aufgelöts',
    ];
    const { kind, options, alike } = seen(values);
    expect(kind).toBe('option');
    expect(options?.map(({ value }) => value)).toEqual(['aktiv', 'aufgelöst', 'ruht', 'Aktiv ', 'aufgelöts']);
    expect(alike).toEqual([
      { value: 'aktiv', others: ['Aktiv '], sure: true },
      { value: 'aufgelöst', others: ['aufgelöts'], sure: false },
    ]);
    // Names of people and towns that hardly repeat are none.
    expect(seen(many(40, (at) => `Town ${'abcdefghijklmnopqrst'[at % 20]}`)).kind).toBe('text');
  });
  it('parts several options in one cell, and leaves names with a comma whole', () => {
    const forage = many(30, (at) => ['Linde; Raps', 'Linde', 'Raps;Klee', ''][at % 4]!);
    expect(seen(forage)).toMatchObject({ kind: 'options', by: ';' });
    expect(seen(forage).options?.map(({ value }) => value)).toEqual(['Linde', 'Raps', 'Klee']);
    expect(seen(many(60, (at) => `Last${at}, First${at}`))).toMatchObject({ kind: 'text', distinct: 60 });
  });
  it('keeps what names things apart from what is counted with', () => {
    expect(seen(['02163', '21614', '21635']).kind).toBe('text');
    expect(seen(['1234567890123456789', '2234567890123456789']).kind).toBe('text');
    expect(seen(['12', '1.234.567', '-3'])).toMatchObject({ kind: 'whole number', least: '-3', greatest: '1234567' });
    expect(seen(['12,50', '1.034,25', '7'])).toMatchObject({ kind: 'decimal', decimals: 2, mark: 'comma' });
    expect(seen(['12,50 €', '€ 7', '1.034,25 EUR'])).toMatchObject({ kind: 'money', currencies: ['EUR'] });
    expect(seen(['43558', '43921', '45012']).dayNumbers).toBe(true);
    expect(seen(['12', '64']).dayNumbers).toBeUndefined();
    expect(seen(['+49 4163 302415', '04163/302416']).kind).toBe('phone');
  });
  it('reads what strangers’ files hold: months by name, moments with slashes, shares, words among options', () => {
    expect(seen(['Jan 1 2000', 'Feb 1 2000', 'Dec 31 2001'])).toMatchObject({ kind: 'date', least: '2000-01-01' });
    expect(seen(['3. April 2019', '12 Mai 2020']).kind).toBe('date');
    expect(seen(['2015/01/01 01:00:00', '2015/01/02 04:00:00']).kind).toBe('date and time');
    expect(seen(['.097', '.12', '0.3'])).toMatchObject({ kind: 'decimal', least: '0.097' });
    expect(seen(['USD 5', '7 EUR']).kind).toBe('money');
    const damage = many(30, (at) => ['None', 'Minor', 'Substantial'][at % 3]!);
    expect(seen(damage)).toMatchObject({ kind: 'option', blank: 0, fillers: [], options: [{}, {}, {}] });
  });
  it('says what comes twice, with both rows, and how long the longest is', () => {
    expect(seen(['HB-1', 'HB-2', 'HB-3', 'HB-2']).twice).toEqual({ value: 'HB-2', rows: [1, 3] });
    expect(seen(['HB-1', 'HB-2', ''])).toMatchObject({ distinct: 2, blank: 1 });
    expect(seen(['ä'.repeat(150)]).longest).toEqual({ characters: 150, bytes: 300, row: 0 });
  });
  it('never counts more or fewer values than there are, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.string(), fc.constantFrom('n/a', '', '1', '1.1.2020', 'x'))), (values) => {
        const { of, blank, misfits, fillers } = seen(values);
        expect(of).toBe(values.length);
        expect(blank).toBeGreaterThanOrEqual(fillers.reduce((sum, { count }) => sum + count, 0));
        expect(blank).toBeLessThanOrEqual(of);
        expect(misfits).toBeLessThanOrEqual(of - blank);
      }),
    );
  });
  it('reads long and hostile values in linear time', () => {
    const hostile = [
      '1'.repeat(100_000),
      '('.repeat(50_000),
      `${'a.'.repeat(30_000)}@b`,
      '\u0000',
      '９'.repeat(40_000),
    ];
    const started = performance.now();
    for (const value of hostile) seen(many(20, (at) => value + at));
    const plain = performance.now();
    for (let at = 0; at < 5; at += 1) seen(many(20, (n) => 'x'.repeat(100_000) + n));
    // Against as much of plain text, in the same run.
    expect(plain - started).toBeLessThan(50 * (performance.now() - plain) + 500);
  });
});
