import { formOf, item } from '../../testing/hosted.ts';
import { amountOf, amountText, toPay, type Charge, type Fee } from './index.ts';

/** What a sending comes to, reckoned in the smallest unit. */
const feeOf = (charges: Partial<Charge>[], currency = 'EUR'): Fee => ({
  service: 'till',
  currency,
  charges: charges.map((charge, at) => ({
    id: `c${at}`,
    label: { en: `Part ${at}` },
    by: 'fixed',
    ...charge,
  })) as Charge[],
});
const form = formOf([
  item('one of', 'member', {
    options: ['keeper', 'young', 'friend'].map((value) => ({ value, label: { en: value } })),
  }),
  item('number', 'years', { decimals: 0 }),
  item('several of', 'extras', { options: ['book', 'pin'].map((value) => ({ value, label: { en: value } })) }),
  item('money', 'gift', { currency: 'EUR' }),
  item('yes/no', 'abroad'),
  item('number', 'hectares'),
  item('group', 'guests', {
    mostRows: 5,
    items: [
      item('one of', 'meal', { options: ['soup', 'roast'].map((value) => ({ value, label: { en: value } })) }),
      item('number', 'portions', { decimals: 0 }),
    ],
  }),
]);
const sum = (fee: Fee, answers: Record<string, string | string[]>, language = 'en') => {
  const come = toPay(fee, form, answers, { language });
  return come.ok ? come.minor : come.errors;
};

const member: Partial<Charge> = {
  by: 'option',
  question: 'member',
  prices: [
    { value: 'keeper', minor: 4000 },
    { value: 'young', minor: 1250 },
  ],
  times: 'years',
};

it('is a price by option, as often as a number says', () => {
  expect(sum(feeOf([member]), { member: 'keeper', years: '3' })).toBe(12_000);
  expect(sum(feeOf([member]), { member: 'friend', years: '3' })).toBe(0);
  expect(sum(feeOf([member]), { member: 'keeper' })).toBe(0);
  expect(sum(feeOf([member]), { years: '3' })).toBe(0);
});

it('is summed over what was chosen, over rows, and over its parts', () => {
  const extras: Partial<Charge> = {
    by: 'option',
    question: 'extras',
    prices: [
      { value: 'book', minor: 999 },
      { value: 'pin', minor: 1 },
    ],
  };
  const meals: Partial<Charge> = {
    by: 'option',
    question: 'guests[0][meal]',
    times: 'guests[0][portions]',
    prices: [
      { value: 'soup', minor: 500 },
      { value: 'roast', minor: 1500 },
    ],
  };
  const answers = {
    extras: ['book', 'pin'],
    'guests[0][meal]': 'soup',
    'guests[0][portions]': '2',
    'guests[3][meal]': 'roast',
    'guests[3][portions]': '1',
  };
  expect(sum(feeOf([extras]), answers)).toBe(1000);
  expect(sum(feeOf([meals]), answers)).toBe(2500);
  expect(sum(feeOf([extras, meals, { minor: 1 }]), answers)).toBe(3501);
});

it('counts what the visitor gives, in their own writing, and says where it is too little', () => {
  const gift: Partial<Charge> = { by: 'answer', question: 'gift', least: 500 };
  expect(sum(feeOf([gift]), { gift: '12,5' }, 'de')).toBe(1250);
  expect(sum(feeOf([gift]), { gift: '1.234,50' }, 'de')).toBe(123_450);
  expect(sum(feeOf([gift]), { gift: '12.50' })).toBe(1250);
  expect(sum(feeOf([gift]), {})).toBe(0);
  expect(sum(feeOf([gift]), { gift: '4.99' })).toEqual([{ field: 'gift', message: expect.stringContaining('€5.00') }]);
});

it('is charged only when its condition holds', () => {
  const postage: Partial<Charge> = {
    minor: 700,
    shown: { match: 'all', parts: [{ field: 'abroad', test: 'is', value: 'yes' }] },
  };
  expect(sum(feeOf([postage]), { abroad: 'yes' })).toBe(700);
  expect(sum(feeOf([postage]), { abroad: 'no' })).toBe(0);
  expect(sum(feeOf([postage]), {})).toBe(0);
});

it('reckons exactly, rounding half up, where doubles would not', () => {
  const byArea: Partial<Charge> = { minor: 115, times: 'hectares' };
  expect(sum(feeOf([byArea]), { hectares: '1.1' })).toBe(127);
  expect(sum(feeOf([{ minor: 1005, times: 'hectares' }]), { hectares: '0.1' })).toBe(101);
  expect(sum(feeOf([{ minor: 3, times: 'hectares' }]), { hectares: '0.5' })).toBe(2);
});

it.each(['-1', '1e9', 'x', '', '9'.repeat(500), '0x10', 'Infinity', '１２'])(
  'takes “%s” times for none, or for what it is',
  (years) => {
    const come = sum(feeOf([member]), { member: 'keeper', years });
    expect(come).toBe(years === '１２' ? 48_000 : 0);
  },
);

it('is never more than can be asked for', () => {
  const errors = [{ field: '', message: expect.stringContaining('100,000,000') }];
  expect(sum(feeOf([{ minor: 1_000_000_000, times: 'years' }]), { years: '999999999999' })).toEqual(errors);
  expect(sum(feeOf([{ by: 'answer', question: 'gift' }]), { gift: '999999999999' })).toEqual(errors);
});

it('knows how many digits a currency has', () => {
  expect(amountOf(5, 'EUR')).toBe('0.05');
  expect(amountOf(1234, 'JPY')).toBe('1234');
  expect(amountOf(1234, 'BHD')).toBe('1.234');
  expect(amountText(4000, 'EUR', 'de')).toMatch(/^40,00.€$/);
});
