import { freshLine, freshPairing, type Pairing } from '@zusammen/core/pairing';
import type { Schema } from '@zusammen/core/schema';
import { makeEntity as entity, makeField as field } from '../../../core/testing/world.ts';
import { goesBy } from './view.ts';

const schema: Schema = {
  entities: [
    entity('People', [field('given_name'), field('organisation', { type: 'reference', relation: 'Organisations' })]),
    entity('Organisations', [field('title')]),
  ],
};
const schemas = new Map([['crm', schema]]);
const pairing = (left: Partial<Pairing['lines'][number]['left']>, more: Partial<Pairing> = {}): Pairing => ({
  ...freshPairing('P', { system: 'crm', entity: 'People' }, { system: 'letters', entity: 'subscribers' }),
  lines: [{ ...freshLine('a', [], ['x']), left: { path: [], ...left } }],
  ...more,
});
const by = (document: Pairing, at: string, name: string, system = 'crm'): boolean =>
  goesBy(document, schemas, { system, entity: at, field: name });

it('a pairing goes by a field that is gone where it names it, through relations as well, and by no other of that name', () => {
  expect(by(pairing({ path: ['name'] }), 'People', 'name')).toBe(true);
  expect(by(pairing({ path: ['name'] }), 'Organisations', 'name')).toBe(false);
  expect(by(pairing({ path: ['name'] }), 'People', 'name', 'other')).toBe(false);
  expect(by(pairing({ path: ['organisation', 'name'] }), 'Organisations', 'name')).toBe(true);
  expect(by(pairing({ path: ['organisation', 'name'] }), 'People', 'name')).toBe(false);
  expect(by(pairing({ path: ['lost', 'name'] }), 'People', 'lost')).toBe(true);
});

it('a pairing goes by what its expressions and conditions name, whole names only', () => {
  const computed = pairing({ path: [], compute: 'record.given_name + record.lost + "name"' });
  expect(by(computed, 'People', 'lost')).toBe(true);
  expect(by(computed, 'People', 'given_name')).toBe(true);
  expect(by(computed, 'People', 'name')).toBe(false);
  const matched = pairing({}, { matches: [{ parts: [{ left: ['name'], right: ['y'] }] }], lines: [] });
  expect(by(matched, 'People', 'name')).toBe(true);
  const parts = [{ field: 'name', test: 'is not blank' as const }];
  const alone = {
    left: { what: 'make' as const, condition: { match: 'all' as const, parts } },
    right: { what: 'leave' as const },
  };
  expect(by(pairing({}, { lines: [], alone }), 'People', 'name')).toBe(true);
});
