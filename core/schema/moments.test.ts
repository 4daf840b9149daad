import { makeField } from '../testing/world.ts';
import { changedAtField, madeAtField, type Entity, type Field } from './index.ts';

const entity = (...fields: Field[]): Entity => ({
  name: 'Keepers',
  label: 'Keeper',
  key: 'id',
  alternateKeys: [],
  rights: { read: true, create: true, update: true, delete: true },
  fields,
});
const moment = (name: string, more: Partial<Field> = {}) =>
  makeField(name, { label: name, type: 'date and time', computed: true, ...more });

it('finds when a record was made and changed by what the system calls it, in several languages', () => {
  const de = entity(moment('erstellt_am'), moment('geändert_am'), moment('letzter_besuch'));
  expect([madeAtField(de)?.name, changedAtField(de)?.name]).toEqual(['erstellt_am', 'geändert_am']);
  const byLabel = entity(moment('f1', { label: 'Last modified' }), moment('f2', { label: 'Created' }));
  expect([madeAtField(byLabel)?.name, changedAtField(byLabel)?.name]).toEqual(['f2', 'f1']);
});

it('takes no moment that people may write, and no date without a time', () => {
  const open = entity(moment('changed_at', { computed: false }), moment('modified', { type: 'date' }));
  expect(changedAtField(open)).toBeUndefined();
  expect(madeAtField(entity(moment('created', { computed: false })))).toBeUndefined();
  expect(madeAtField(entity(moment('created', { computed: false, defaulted: true })))?.name).toBe('created');
});
