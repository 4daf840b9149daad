import fc from 'fast-check';
import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { agreement, drift, type Schema, type ValuesAlike } from './index.ts';

const times = <T>(count: number, each: T): T[] => Array.from({ length: count }, () => each);

describe('agreement of values', () => {
  it('is what statistics books work out for two who say yes or no to fifty', () => {
    const pairs = [
      ...times(20, ['yes', 'yes'] as const),
      ...times(5, ['yes', 'no'] as const),
      ...times(10, ['no', 'yes'] as const),
      ...times(15, ['no', 'no'] as const),
    ];
    const { of, equal, beyondChance } = agreement(pairs);
    expect([of, equal]).toEqual([50, 35]);
    expect(beyondChance).toBeCloseTo(0.4, 10);
  });
  it('passes over what is blank before or after, and can’t tell where all hold one value', () => {
    expect(
      agreement([
        ['', 'a'],
        ['a', null],
        [undefined, undefined],
      ]),
    ).toEqual({ of: 0, equal: 0, beyondChance: 0 });
    expect(agreement(times(9, ['DE', 'DE'] as const))).toEqual({ of: 9, equal: 9, beyondChance: 0 });
  });
  it('takes lists for sets, and moments for moments', () => {
    const pairs = [
      [
        ['a', 'b'],
        ['b', 'a'],
      ],
      ['2026-05-01T10:00:00Z', '2026-05-01T12:00:00+02:00'],
      [3, '3'],
    ] as const;
    expect(agreement(pairs.map(([was, is]) => [was as never, is as never]))).toMatchObject({ of: 3, equal: 3 });
  });
  it('is never less than none nor more than whole, and whole only where all are the same', () => {
    const values = fc.constantFrom('a', 'b', 'c', '', null);
    fc.assert(
      fc.property(fc.array(fc.tuple(values, values), { maxLength: 30 }), (pairs) => {
        const { of, equal, beyondChance } = agreement(pairs);
        expect(beyondChance).toBeGreaterThanOrEqual(0);
        expect(beyondChance).toBeLessThanOrEqual(1);
        if (beyondChance > 1 - 1e-9) expect(equal).toBe(of);
      }),
    );
  });
});

describe('a renamed field', () => {
  const renamed = (was: string[], is: string[], alike: Omit<ValuesAlike, 'entity'>[]): string[] => {
    const reading = (names: string[]): Schema => ({
      entities: [
        entity(
          'People',
          names.map((each) => field(each.split('|')[0]!, { label: each.split('|')[1]! })),
        ),
      ],
    });
    const after = { ...reading(is), alike: alike.map((each) => ({ entity: 'People', ...each })) };
    return drift(reading(was), after).map(({ kind, what }) => (kind === 'field renamed' ? what : kind));
  };
  const same = { of: 40, equal: 38, beyondChance: 0.95 };

  it('is recognised by its values alone, where nothing else speaks for it', () => {
    const all = { ...same, was: 'mob', is: 'x_17' };
    expect(renamed(['mob|Mobile'], ['x_17|Reached at'], [])).toEqual(['field gone', 'field new']);
    expect(renamed(['mob|Mobile'], ['x_17|Reached at'], [all])).toEqual([
      'Mobile (mob) is called Reached at (x_17) now: the same in 38 of 40 records',
    ]);
    const two = { of: 2, equal: 2, beyondChance: 1, was: 'mob', is: 'x_17' };
    expect(renamed(['mob|Mobile'], ['x_17|Reached at'], [two])).toEqual(['field gone', 'field new']);
    expect(renamed(['mob|Mobile'], ['x_17|Reached at'], [{ ...all, beyondChance: 0.1 }])).toEqual([
      'field gone',
      'field new',
    ]);
  });
  it('is told by its values from another that is called alike', () => {
    const fresh = ['mobile_a|Mobile', 'mobile_b|Mobile'];
    const others = { of: 40, equal: 1, beyondChance: 0 };
    expect(renamed(['mobile|Mobile'], fresh, [])).toEqual(['field gone', 'field new', 'field new']);
    expect(
      renamed(['mobile|Mobile'], fresh, [
        { ...others, was: 'mobile', is: 'mobile_a' },
        { ...same, was: 'mobile', is: 'mobile_b' },
      ]),
    ).toEqual([expect.stringContaining('called Mobile (mobile_b) now'), 'field new']);
  });
  it('is doubted where its values are others, and believed all the same where its label is kept', () => {
    const others = { of: 40, equal: 1, beyondChance: 0, was: 'first_name', is: 'name_first' };
    expect(renamed(['first_name|First name'], ['name_first|Given name'], [others])).toEqual([
      'field gone',
      'field new',
    ]);
    expect(renamed(['first_name|First name'], ['name_first|First name'], [others])).toEqual([
      expect.stringContaining('the same label'),
    ]);
  });
});
