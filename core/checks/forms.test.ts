import { withForm } from '../intake/index.ts';
import type { HostedForm, Item } from '../forms/hosted/index.ts';
import { formOf, item } from '../testing/hosted.ts';
import { check, inputOf } from './index.ts';

const about = (form: HostedForm, facts = {}) => {
  const document = withForm(
    {
      ...{ format: 1, name: 'A form', source: { kind: 'ours' }, fields: [], plan: { steps: [] } },
      settings: { perMinute: 10 },
    },
    form,
  );
  return check({ ...inputOf(document), schemas: new Map(), samples: [], facts });
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
