import { readAnswers, type ReadAnswers } from './answers.ts';
import type { HostedForm, Item } from './model.ts';
import type { Answers } from './shown.ts';
import { formOf, item } from '../../testing/hosted.ts';

const by = { language: 'en', today: '2027-04-20' };
const read = (form: HostedForm, answers: Answers, language = 'en'): ReadAnswers =>
  readAnswers(form, answers, { ...by, language });
const one = (asked: Item, said: string | string[], language = 'en') =>
  read(formOf([asked]), { [asked.name!]: said }, language);
const value = (reading: ReadAnswers, name = 'a') => (reading.ok ? reading.values[name] : reading.errors);
const refused = (reading: ReadAnswers): string[] => (reading.ok ? [] : reading.errors.map(({ field }) => field));

describe('answers are read', () => {
  it.each<[string, Item, string | string[], string | string[], string?]>([
    ['a text as it was typed', item('text', 'a'), ' Ada  L. ', ' Ada  L. '],
    ['lines with one kind of end', item('long text', 'a'), 'x\r\ny\rz', 'x\ny\nz'],
    ['a number with a point', item('number', 'a'), '1234.5', '1234.5'],
    ['a number as Germans write it', item('number', 'a'), '1.234,5', '1234.5', 'de'],
    ['thousands by the language', item('number', 'a'), '1.234', '1234', 'de'],
    ['an amount', item('money', 'a', { currency: 'EUR' }), '12,50', '12.50', 'de'],
    ['a day as browsers send it', item('date', 'a'), '2027-05-14', '2027-05-14'],
    ['a day as it is typed', item('date', 'a'), '14.5.2027', '2027-05-14', 'de'],
    ['a time', item('time', 'a'), '9:30', '09:30:00'],
    ['a date and time', item('date and time', 'a'), '2027-05-14T09:30', '2027-05-14T09:30:00'],
    [
      'an e-mail address with letters of any language',
      item('email', 'a'),
      ' zoë@bienen-köln.example ',
      'zoë@bienen-köln.example',
    ],
    ['a web address without its scheme', item('web address', 'a'), 'hof.example/apfel', 'https://hof.example/apfel'],
    ['a telephone number', item('phone', 'a'), '+49 (30) 123-456', '+49 (30) 123-456'],
    [
      'several choices, each once',
      item('several of', 'a', { options: options('x', 'y') }),
      ['y', 'x', 'y'],
      ['y', 'x'],
    ],
    ['yes', item('yes/no', 'a'), 'yes', 'yes'],
  ])('%s', (...[, asked, said, expected, language]) => {
    expect(value(one(asked, said, language))).toEqual(expected);
  });

  it.each<[string, Item, string | string[]]>([
    ['nothing where something is required', item('text', 'a', { required: true }), '   '],
    ['an option that isn’t offered', item('one of', 'a', { options: options('x') }), 'z'],
    ['two of one', item('one of', 'a', { options: options('x', 'y') }), ['x', 'y']],
    ['one of several that isn’t offered', item('several of', 'a', { options: options('x') }), ['x', 'z']],
    ['two texts for one question', item('text', 'a'), ['x', 'y']],
    ['no number', item('number', 'a'), 'twelve'],
    ['more than the most', item('number', 'a', { most: 400 }), '401'],
    ['less than the least', item('number', 'a', { least: 1 }), '0'],
    ['a negative amount', item('money', 'a', { currency: 'EUR' }), '-1'],
    ['an amount beyond all', item('money', 'a', { currency: 'EUR' }), '1000000000000'],
    ['decimals of yen', item('money', 'a', { currency: 'JPY' }), '100.125'],
    ['three decimals of euros', item('money', 'a', { currency: 'EUR' }), '1.125'],
    ['no day', item('date', 'a'), '2027-02-30'],
    ['yesterday', item('date', 'a', { earliest: { from: 'today' } }), '2027-04-19'],
    ['a day after the last', item('date', 'a', { latest: { from: 'day', day: '2027-12-31' } }), '2028-01-01'],
    ['no e-mail address', item('email', 'a'), 'ada@localhost'],
    ['no web address', item('web address', 'a'), 'javascript:alert(1)'],
    ['no telephone number', item('phone', 'a'), 'call me'],
    ['too many characters', item('text', 'a', { maxLength: 3 }), 'four'],
    ['a consent that isn’t given', item('consent', 'a', { required: true }), ''],
    ['neither yes nor no', item('yes/no', 'a'), 'perhaps'],
  ])('refuses %s', (_, asked, said) => {
    expect(refused(one(asked, said))).toEqual(['a']);
  });

  it('counts characters as people do', () => {
    expect(one(item('text', 'a', { maxLength: 3 }), '🐝🐝🐝').ok).toBe(true);
  });

  it('speaks the visitor’s language', () => {
    expect(value(one(item('text', 'a', { required: true }), '', 'de'))).toEqual([
      { field: 'a', message: 'Bitte ausfüllen.' },
    ]);
    expect(value(one(item('number', 'a', { most: 1234.5 }), '9999', 'de'))).toEqual([
      { field: 'a', message: 'Bitte 1.234,5 oder weniger angeben.' },
    ]);
  });

  it('leaves out what the form doesn’t ask', () => {
    expect(value(read(formOf([item('text', 'a')]), { a: 'x', b: 'y', __proto__: 'z', 'a[0][b]': 'q' }))).toBe('x');
    expect(Object.keys((read(formOf([item('text', 'a')]), { a: 'x', b: 'y' }) as { values: object }).values)).toEqual([
      'a',
    ]);
  });

  it('keeps the wording of a consent with it, in the language it was read in', () => {
    const form = formOf([item('consent', 'news', { label: { en: 'Send me letters', de: 'Schickt mir Briefe' } })]);
    expect(read(form, { news: 'yes' }, 'de')).toEqual({
      ok: true,
      values: { news: 'yes', news_wording: 'Schickt mir Briefe' },
    });
    expect(read(form, {})).toEqual({ ok: true, values: {} });
  });

  it('measures a day by another answer', () => {
    const form = formOf([
      item('date', 'from'),
      item('date', 'to', { earliest: { from: 'answer', answer: 'from', days: 1 } }),
    ]);
    expect(refused(read(form, { from: '2027-05-01', to: '2027-05-01' }))).toEqual(['to']);
    expect(refused(read(form, { from: '2027-05-01', to: '2027-05-02' }))).toEqual([]);
    expect(refused(read(form, { to: '2020-01-01' }))).toEqual([]);
  });
});

describe('what isn’t shown', () => {
  const when = (field: string, value: string): Item['shown'] => ({
    match: 'all',
    parts: [{ field, test: 'is', value }],
  });
  const form = formOf([
    item('yes/no', 'member'),
    item('text', 'number', { required: true, shown: when('member', 'yes') }),
    item('text', 'since', {
      required: true,
      shown: { match: 'all', parts: [{ field: 'number', test: 'is not blank' }] },
    }),
  ]);
  it('isn’t required and isn’t sent, whoever sends it', () => {
    expect(read(form, { member: 'no', number: '17' })).toEqual({ ok: true, values: { member: 'no' } });
    expect(refused(read(form, { member: 'yes' }))).toEqual(['number']);
  });
  it('doesn’t show anything else either, in whatever order they stand', () => {
    expect(read(form, { member: 'no', number: '17', since: '2020' })).toEqual({ ok: true, values: { member: 'no' } });
    const [a, b, c] = form.pages[0]!.items;
    expect(read(formOf([c!, b!, a!]), { member: 'no', number: '17', since: '2020' })).toEqual({
      ok: true,
      values: { member: 'no' },
    });
  });
  it('may be a whole page', () => {
    const paged = {
      ...form,
      pages: [
        ...form.pages,
        { id: 'p2', shown: when('member', 'no'), items: [item('text', 'why', { required: true })] },
      ],
    };
    expect(refused(read(paged, { member: 'no' }))).toEqual(['why']);
    expect(read(paged, { member: 'yes', number: '1', since: '2', why: 'x' })).toMatchObject({
      ok: true,
      values: expect.not.objectContaining({ why: 'x' }),
    });
  });
});

describe('rows of a group', () => {
  const contacts = (more: Partial<Item>): HostedForm =>
    formOf([
      item('group', 'contacts', {
        items: [
          item('text', 'name', { required: true }),
          item('one of', 'kind', { options: options('phone', 'mail') }),
          item('email', 'email', {
            required: true,
            shown: { match: 'all', parts: [{ field: 'contacts[0][kind]', test: 'is', value: 'mail' }] },
          }),
          item('group', 'numbers', { items: [item('phone', 'number')], mostRows: 2 }),
        ],
        ...more,
      }),
    ]);
  it('are read each by itself, under the numbers they came with', () => {
    const answers = {
      'contacts[0][name]': 'Ada',
      'contacts[0][kind]': 'phone',
      'contacts[0][email]': 'left over',
      'contacts[3][name]': 'Bo',
      'contacts[3][kind]': 'mail',
      'contacts[3][email]': 'bo@x.example',
      'contacts[3][numbers][1][number]': '+49 30 123',
    };
    expect(read(contacts({}), answers)).toEqual({
      ok: true,
      values: Object.fromEntries(Object.entries(answers).filter(([, said]) => said !== 'left over')),
    });
    expect(refused(read(contacts({}), { 'contacts[1][kind]': 'mail' }))).toEqual([
      'contacts[1][name]',
      'contacts[1][email]',
    ]);
  });
  it('left blank are none', () => {
    expect(read(contacts({}), { 'contacts[0][name]': ' ', 'contacts[1][name]': 'Bo' })).toEqual({
      ok: true,
      values: { 'contacts[1][name]': 'Bo' },
    });
  });
  it('are as many as there have to be and may be', () => {
    expect(refused(read(contacts({ leastRows: 1 }), {}))).toEqual(['contacts', 'contacts[0][name]']);
    const three = { 'contacts[0][name]': 'a', 'contacts[1][name]': 'b', 'contacts[2][name]': 'c' };
    expect(refused(read(contacts({ mostRows: 2 }), three))).toEqual(['contacts']);
    expect(
      refused(
        read(contacts({}), {
          'contacts[0][name]': 'a',
          ...Object.fromEntries([0, 1, 2].map((row) => [`contacts[0][numbers][${row}][number]`, '+49 30 123'])),
        }),
      ),
    ).toEqual(['contacts[0][numbers]']);
  });
  it('of any number that is sent cost no more than there are', () => {
    const many = Object.fromEntries(Array.from({ length: 5000 }, (_, at) => [`contacts[${at}][name]`, 'x']));
    expect(refused(read(contacts({}), many))).toEqual(['contacts']);
  });
});

function options(...values: string[]): Item['options'] {
  return values.map((each) => ({ value: each, label: { en: each } }));
}
