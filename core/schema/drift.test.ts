import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { drift } from './index.ts';

describe('drift', () => {
  it('is nothing between a schema and itself', () => {
    const schema = { entities: [entity('People', [field('email')])] };
    expect(drift(schema, structuredClone(schema))).toEqual([]);
  });
  it('names every difference with the field and what changed', () => {
    const before = {
      entities: [
        entity('People', [field('email'), field('old'), field('kind', { options: [{ value: 'a', label: 'A' }] })]),
        entity('Gone', []),
      ],
    };
    const after = {
      entities: [
        entity('People', [
          field('email', { required: true, maxLength: 20 }),
          field('fresh'),
          field('kind', { options: [{ value: 'b', label: 'B' }] }),
        ]),
        entity('New', []),
      ],
    };
    const found = drift(before, after).map(
      ({ kind, entity: at, field: name, what }) => `${kind} ${at} ${name ?? ''} ${what}`,
    );
    expect(found).toEqual([
      'entity gone Gone  Gone can no longer be seen',
      'entity new New  New is new',
      'field changed People email email: now required; limit was none, is 20',
      'field gone People old old is gone',
      'field changed People kind kind: options gone: a; options new: b',
      'field new People fresh fresh is new',
    ]);
  });
});
