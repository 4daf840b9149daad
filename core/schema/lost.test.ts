import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { lostOver } from './lost.ts';
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
