import { formOf, item } from '../../testing/hosted.ts';
import {
  areStrokes,
  changeNames,
  drawnPicture,
  fieldsOf,
  freeName,
  removeItem,
  strokesOf,
  troublesOf,
  withKind,
  type Fee,
  type HostedForm,
} from './index.ts';

/** A fee within a form's document: it follows its questions; and what goes on beside files and signatures. */
const kinds = ['keeper', 'friend'].map((value) => ({ value, label: { en: value } }));
const KIND = item('one of', 'kind', { options: kinds });
const YEARS = item('number', 'years');
const GIFT = item('money', 'gift', { currency: 'EUR' });
const fee: Fee = {
  ...{ service: 'till', currency: 'EUR' },
  charges: [
    {
      ...{ id: 'a', label: { en: 'A year' }, by: 'option', question: 'kind', times: 'years' },
      prices: [{ value: 'keeper', minor: 4000 }],
      shown: { match: 'all', parts: [{ field: 'gift', test: 'is blank' }] },
    },
    { id: 'b', label: { en: 'A gift' }, by: 'answer', question: 'gift' },
  ],
};
const paid = (): HostedForm => formOf([KIND, YEARS, GIFT], { fee });

it('follows its questions under other names', () => {
  const { fee: now } = changeNames(paid(), (name) => `new_${name}`);
  expect(now!.charges).toMatchObject([
    { question: 'new_kind', times: 'new_years', shown: { parts: [{ field: 'new_gift' }] } },
    { question: 'new_gift' },
  ]);
});

it('charges nothing by what isn’t asked any more, and is gone with its last part', () => {
  const without = removeItem(paid(), KIND.id);
  expect(without.fee!.charges.map(({ id }) => id)).toEqual(['b']);
  expect(removeItem(paid(), YEARS.id).fee!.charges.map(({ id }) => id)).toEqual(['b']);
  expect(removeItem(without, GIFT.id).fee).toBeUndefined();
  // A condition over what isn't asked any more is left out, as it is of questions.
  expect(removeItem(paid(), GIFT.id).fee!.charges).toMatchObject([{ id: 'a' }]);
  expect(removeItem(paid(), GIFT.id).fee!.charges[0]).not.toHaveProperty('shown');
});

it('goes on as fields of its own, under names that no question may have', () => {
  const names = fieldsOf(paid()).map(({ name }) => name);
  expect(names.slice(3)).toEqual(['fee_amount', 'fee_currency', 'fee_payment', 'fee_paid_at']);
  expect(fieldsOf(formOf([KIND])).map(({ name }) => name)).toEqual(['kind']);
  const taken = troublesOf(formOf([KIND, YEARS, GIFT, item('text', 'fee_amount')], { fee }));
  expect(taken).toEqual([expect.objectContaining({ reason: expect.stringContaining('fee_amount') })]);
});

it.each<[string, Partial<Fee['charges'][number]>, RegExp]>([
  ['a price that is missing', { by: 'fixed', question: undefined, times: undefined }, /costs is missing/],
  ['no question', { by: 'option', question: undefined }, /names no question/],
  ['a question that isn’t asked', { question: 'gone' }, /which isn't asked/],
  ['a text as how often', { times: 'kind' }, /has to be a number/],
  ['what isn’t offered', { prices: [{ value: 'lion', minor: 1 }] }, /doesn't offer/],
  ['a number as what is given', { by: 'answer', question: 'years' }, /an amount in EUR/],
])('%s is told', (_, change, reason) => {
  const [first] = fee.charges;
  const charge = JSON.parse(JSON.stringify({ ...first, ...change })) as Fee['charges'][number];
  const troubles = troublesOf(formOf([KIND, YEARS, GIFT], { fee: { ...fee, charges: [charge] } }));
  expect(troubles.map((each) => each.reason).join('; ')).toMatch(reason);
});

it('an amount given in another currency is none of this fee', () => {
  const yen = item('money', 'gift', { currency: 'JPY' });
  expect(troublesOf(formOf([KIND, YEARS, yen], { fee }))).toHaveLength(1);
});

it('a file goes on with its name, a signature with what was drawn, and no question takes those names', () => {
  const form = formOf([item('file', 'photo'), item('signature', 'signed')]);
  expect(fieldsOf(form).map(({ name, type }) => [name, type])).toEqual([
    ['photo', 'web address'],
    ['photo_name', 'text'],
    ['signed', 'text'],
    ['signed_drawn', 'web address'],
  ]);
  expect(freeName(form, 'photo_name')).toBe('photo_name_2');
  const twice = formOf([item('file', 'photo'), item('text', 'photo_name')]);
  expect(troublesOf(twice)).toEqual([expect.objectContaining({ reason: expect.stringContaining('photo_name') })]);
});

it('a file as another kind keeps nothing of what it took, and takes it as a file again', () => {
  const file = item('file', 'photo', { accepts: ['pdf'], mostMebibytes: 2, required: true });
  expect(withKind(file, 'file', 'en')).toMatchObject({ accepts: ['pdf'], mostMebibytes: 2 });
  expect(withKind(file, 'text', 'en')).not.toHaveProperty('accepts');
});

describe('strokes', () => {
  it.each(['M1 1', 'M0 0L600 180', 'M1 1L2 2M3 3L4 4'])(
    '%s are some, and come back out of their picture',
    (strokes) => {
      expect(areStrokes(strokes)).toBe(true);
      expect(strokesOf(drawnPicture(strokes))).toBe(strokes);
    },
  );
  it.each(['', 'L1 1', 'M1', 'M1 1 ', 'M1 1Z', 'M1 1"/>', 'M1.5 1', 'M1000 1', 'm1 1', `M1 1${'L1 1'.repeat(6000)}`])(
    '“%.20s” are none',
    (text) => expect(areStrokes(text)).toBe(false),
  );
  it('of a picture that isn’t ours there are none', () => {
    expect(strokesOf('<svg xmlns="http://www.w3.org/2000/svg"><path d="M1 1"/></svg>')).toBeUndefined();
  });
});
