import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { lostOver, newlyRequiredOver } from './lost.ts';
import type { Option, Schema } from './model.ts';

const options = (...values: string[]): Option[] => values.map((value) => ({ value, label: value.toUpperCase() }));
const people = (...fields: Schema['entities'][number]['fields']): Schema => ({ entities: [entity('People', fields)] });
const chosen = (...values: string[]) => field('interests', { type: 'options', options: options(...values) });

it('is what earlier readings had and the newest has not: options and fields', () => {
  const lost = lostOver([
    people(chosen('b')),
    people(chosen('a', 'b'), field('fax', { type: 'phone' })),
    people(chosen('a', 'b', 'c')),
  ]);
  expect(lost.map(({ entity: at, field: name, option }) => [at, name, option?.value])).toEqual([
    ['People', 'interests', 'a'],
    ['People', 'fax', undefined],
    ['People', 'interests', 'c'],
  ]);
  expect(lost[0]!.option).toEqual({ value: 'a', label: 'A' });
});

it('isn’t what came back, what has another name now, or what nobody has read before', () => {
  expect(lostOver([people(chosen('a')), people(chosen()), people(chosen('a'))])).toEqual([]);
  const phone = (name: string) => field(name, { type: 'phone', label: 'Telephone' });
  expect(lostOver([people(phone('telephone')), people(phone('phone'))])).toEqual([]);
  expect(lostOver([people(chosen('a'))])).toEqual([]);
  expect(lostOver([])).toEqual([]);
});

it('isn’t told of an entity that is gone as a whole, nor of a field that is of another kind now', () => {
  expect(lostOver([{ entities: [] }, people(chosen('a'))])).toEqual([]);
  expect(lostOver([people(field('interests')), people(chosen('a'))])).toEqual([]);
});

it('is bounded where a long list is another with every reading', () => {
  const list = (at: number) => people(chosen(...Array.from({ length: 6_000 }, (_, each) => `${at}-${each}`)));
  const lost = lostOver([list(0), list(1), list(2)]);
  expect(lost).toHaveLength(5_000);
  expect(lost[0]!.was).not.toHaveProperty('options');
});

describe('what must be given by now', () => {
  const kind = (required: boolean) => field('kind', { required });
  it('is what needn’t be given once, and what is new in an entity that was there', () => {
    const fresh = field('origin', { required: true });
    expect(newlyRequiredOver([people(kind(true), fresh), people(kind(false))])).toEqual([
      { entity: 'People', field: 'kind' },
      { entity: 'People', field: 'origin' },
    ]);
  });
  it('isn’t what had to be given all along, what the system fills, or what is of a new entity', () => {
    expect(newlyRequiredOver([people(kind(true)), people(kind(true))])).toEqual([]);
    const filled = field('origin', { required: true, computed: true });
    expect(newlyRequiredOver([people(kind(false), filled), people(kind(true))])).toEqual([]);
    expect(newlyRequiredOver([people(kind(true)), { entities: [] }])).toEqual([]);
    expect(newlyRequiredOver([])).toEqual([]);
  });
  it('isn’t one that was required under the name it had, and is one that wasn’t', () => {
    const named = (name: string, required: boolean) => field(name, { type: 'phone', label: 'Telephone', required });
    expect(newlyRequiredOver([people(named('c', true)), people(named('b', true)), people(named('a', true))])).toEqual(
      [],
    );
    expect(newlyRequiredOver([people(named('b', true)), people(named('a', false))])).toEqual([
      { entity: 'People', field: 'b' },
    ]);
  });
});
