import { withForm } from '../intake/index.ts';
import type { HostedForm, Item } from '../forms/hosted/index.ts';
import { blankStep, recordNamedBy, type Plan } from '../plans/index.ts';
import type { Schema } from '../schema/index.ts';
import { makeEntity, makeField, schemasOf } from '../testing/world.ts';
import { formOf, item } from '../testing/hosted.ts';
import { check, inputOf } from './index.ts';

const about = (form: HostedForm, facts = {}, schemas = new Map<string, Schema>(), plan: Plan = { steps: [] }) => {
  const document = withForm(
    {
      ...{ format: 1, name: 'A form', source: { kind: 'ours' }, fields: [], plan },
      settings: { perMinute: 10 },
    },
    form,
  );
  return check({ ...inputOf(document), schemas, samples: [], facts });
};
const kind = item('one of', 'kind', {
  required: true,
  options: ['new', 'old'].map((value) => ({ value, label: { en: value } })),
});
const when = (...values: string[]): Item['shown'] => ({
  match: 'any',
  parts: values.map((value) => ({ field: 'kind', test: 'is' as const, value })),
});

it('K25: names a question that is never shown, and one that always is', () => {
  const sentences = (shown: Item['shown']) =>
    about(formOf([kind, item('text', 'number', { shown: shown! })]))
      .filter(({ id }) => id === 'K25')
      .map(({ sentence, place }) => [place.field, sentence]);
  expect(sentences(when('old'))).toEqual([]);
  expect(sentences(when('older'))).toEqual([['number', '“number” is never shown: “kind is older” can never hold.']]);
  expect(sentences(when('old', 'new'))).toEqual([['number', expect.stringContaining('always shown')]]);
});

it('K29: a form that programs can fill in as well as people', () => {
  const open = about(formOf([kind], { guard: { trap: false, leastSeconds: 0 } }), { secrets: 0 });
  expect(open.filter(({ id }) => id === 'K29')).toHaveLength(1);
  expect(about(formOf([kind]), { secrets: 0 }).filter(({ id }) => id === 'K29')).toEqual([]);
});

it('K22: what a form of ours doesn’t ask of everybody is no drift', () => {
  const form = formOf([kind, item('text', 'number', { shown: when('old')! }), item('consent', 'news')]);
  const arrived = Array.from({ length: 20 }, () => ({ kind: 'new' }));
  expect(about(form, { secrets: 0, arrived }).filter(({ id }) => id === 'K22')).toEqual([]);
});

describe('questions that offer records', () => {
  const schemas = schemasOf(
    makeEntity('Organisations', [makeField('name'), makeField('phone'), makeField('secret', { rights: 'none' })]),
    makeEntity('Contracts', [makeField('org'), makeField('starts')]),
  );
  const of = { entity: 'Contracts', by: 'org', newest: 'starts' };
  const asking = (more: Partial<Item['reads']> = {}) =>
    formOf([
      item('record', 'org', { reads: { system: 'crm', entity: 'Organisations', shows: ['name'], ...more } }),
      item('text', 'phone'),
    ]);
  const found = (form: HostedForm, id: string, plan?: Plan) =>
    about(form, { secrets: 0 }, schemas, plan).filter((each) => each.id === id);

  it('K29: says what anybody is told by them, and whether they can change what they choose', () => {
    const form = asking({ fills: [{ into: 'phone', field: 'phone' }] });
    expect(found(form, 'K29')[0]!.sentence).toMatch(/is told name, phone\.$/);
    const link = { system: 'crm', entity: 'Organisations', into: 'phone', required: true };
    expect(found({ ...form, link }, 'K29')).toEqual([]);
    const step = recordNamedBy(blankStep('s', 'crm', 'Organisations'), 'org');
    expect(found(form, 'K29', { steps: [step] })[0]!.sentence).toMatch(/can be changed by whoever chooses it\.$/);
  });

  it('K27: what they name is gone, or can’t be read', () => {
    const sentence = (more: Partial<Item['reads']>) => found(asking(more), 'K27')[0]?.sentence;
    expect(sentence({})).toBeUndefined();
    expect(sentence({ fills: [{ into: 'phone', field: 'starts', of }] })).toBeUndefined();
    expect(sentence({ entity: 'Clubs' })).toMatch(/Clubs can’t be seen/);
    expect(sentence({ shows: ['name', 'town'] })).toMatch(/has no field “town”/);
    expect(sentence({ where: [{ field: 'secret', test: 'is not blank' }] })).toMatch(/secret can’t be read/);
    expect(sentence({ order: [{ field: 'age' }] })).toMatch(/“age”/);
    expect(sentence({ fills: [{ into: 'phone', of: { ...of, newest: 'age' } }] })).toMatch(/“age”/);
  });
});

it('K24: names a question that begins with what is no answer to it', () => {
  const begun = (more: Partial<Item>) =>
    about(formOf([{ ...kind, ...more } as Item]))
      .filter(({ id }) => id === 'K24')
      .map(({ sentence }) => sentence);
  const begins = (value: string) => ({ begins: { with: 'constant' as const, value } });
  expect(begun(begins('new'))).toEqual([]);
  expect(begun(begins('newer'))).toEqual(['“kind” begins with “newer”, which is no answer to it.']);
  expect(begun({ kind: 'date', options: undefined as never, ...begins('tomorrow') })).toHaveLength(1);
  expect(begun({ kind: 'number', options: undefined as never, most: 5, ...begins('6') })).toHaveLength(1);
});
