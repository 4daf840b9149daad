import fc from 'fast-check';
import { validateSync } from 'class-validator';
import { plainToInstance } from 'class-transformer';
import { holds } from '../../expressions/index.ts';
import { TESTS } from '../../expressions/index.ts';
import { fieldsOf } from './fields.ts';
import { HostedForm, type Item } from './model.ts';
import { languageFor, say } from './say.ts';
import { holdsFor } from './shown.ts';
import { troublesOf } from './trouble.ts';
import { formOf, item } from '../../testing/hosted.ts';

it('shows what a step’s condition of the same words would carry out', () => {
  const fields = [{ name: 'a' }, { name: 'list', multiple: true }];
  const texts = fc.constantFrom('', 'x', 'xy', '3', '12', '2.5');
  fc.assert(
    fc.property(
      fc.constantFrom(...TESTS),
      fc.constantFrom('a', 'list'),
      texts,
      texts,
      fc.array(texts, { maxLength: 3 }),
      fc.constantFrom('all', 'any'),
      (test, field, value, a, list, match) => {
        const condition = {
          match,
          parts: [
            { field, test, value },
            { field: 'a', test: 'is not blank' },
          ],
        } as const;
        const answers: Record<string, string | string[]> = { a, list };
        const carried = holds({ ...condition, parts: [...condition.parts] }, answers, fields);
        // Where a plan's condition can't be told, as of “x is more than 3”, a question isn't shown.
        if (carried.ok)
          expect(holdsFor({ ...condition, parts: [...condition.parts] }, (name) => answers[name])).toBe(carried.holds);
      },
    ),
  );
});

it('looks no farther into an answer than is of use, however long somebody makes it', () => {
  const has = (said: string): boolean =>
    holdsFor({ match: 'all', parts: [{ field: 'a', test: 'has', value: 'bees' }] }, () => said);
  expect(has(`${'x'.repeat(900)} bees`)).toBe(true);
  expect(has(`${'x'.repeat(600_000)} bees`)).toBe(false);
});

describe('the language', () => {
  it.each([
    [undefined, 'de-AT,de;q=0.9,en;q=0.8', 'de'],
    [undefined, 'fr;q=0.9, pl;q=0.1', 'en'],
    [undefined, 'en;q=0.2, de;q=0.7', 'de'],
    [undefined, 'de;q=0', 'en'],
    [undefined, '*', 'en'],
    [undefined, ',;;q=,=', 'en'],
    ['de', 'en', 'de'],
    ['xx', 'de', 'de'],
    [undefined, 'pt', 'pt-BR'],
  ])('asked for %s by a browser that says %s is %s', (asked, accepted, expected) => {
    expect(languageFor(['en', 'de', 'pt-BR'], asked, accepted)).toBe(expected);
  });
  it('has a text of another language stand in where it has none', () => {
    expect(say({ en: 'Send', de: '' }, 'de', ['en', 'de'])).toBe('Send');
    expect(say({ de: 'Senden' }, 'en', ['en', 'de'])).toBe('Senden');
    expect(say({}, 'constructor', ['en'])).toBe('');
  });
});

it('sends fields as everything else knows them', () => {
  const form = formOf([
    item('heading', undefined, { label: { en: 'About you' } }),
    item('text', 'name', { required: true, maxLength: 80, autocomplete: 'name' }),
    item('yes/no', 'member'),
    item('text', 'number', {
      required: true,
      shown: { match: 'all', parts: [{ field: 'member', test: 'is', value: 'yes' }] },
    }),
    item('consent', 'news', { required: true }),
    item('group', 'rows', {
      leastRows: 1,
      items: [
        item('several of', 'crops', { required: true, options: [{ value: 'a', label: { en: 'Apple' } }] }),
        item('group', 'more', { items: [item('text', 'x')], mostRows: 2 }),
      ],
    }),
  ]);
  expect(fieldsOf(form)).toEqual([
    {
      name: 'name',
      label: 'name',
      type: 'text',
      required: true,
      maxLength: 80,
      autocomplete: 'name',
      section: 'About you',
    },
    {
      name: 'member',
      label: 'member',
      type: 'yes/no',
      required: false,
      options: [
        { value: 'yes', label: 'yes' },
        { value: 'no', label: 'no' },
      ],
      section: 'About you',
    },
    // What isn't shown to everybody isn't sure to come.
    { name: 'number', label: 'number', type: 'text', required: false, section: 'About you' },
    {
      ...{ name: 'news', label: 'news', type: 'yes/no', required: true, section: 'About you' },
      options: [{ value: 'yes', label: 'yes' }],
    },
    {
      name: 'news_wording',
      label: 'Wording of: news',
      type: 'long text',
      required: true,
      hidden: true,
      section: 'About you',
    },
    {
      name: 'rows[0][crops]',
      label: 'crops',
      type: 'options',
      required: true,
      options: [{ value: 'a', label: 'Apple' }],
      multiple: true,
      group: 'rows',
      section: 'About you',
    },
    { name: 'rows[0][more][0][x]', label: 'x', type: 'text', required: false, group: 'rows', section: 'About you' },
    { name: 'rows[0][more][1][x]', label: 'x', type: 'text', required: false, group: 'rows', section: 'About you' },
  ]);
});

describe('a form as a document', () => {
  const when = (field: string): Item['shown'] => ({ match: 'all', parts: [{ field, test: 'is', value: 'x' }] });
  const reasons = (items: Item[]): string =>
    troublesOf(formOf(items))
      .map(({ reason }) => reason)
      .join('; ');

  it('that is sound has no troubles', () => {
    expect(
      troublesOf(
        formOf([
          item('text', 'a'),
          item('text', 'b', { shown: when('a') }),
          item('group', 'g', { items: [item('text', 'a'), item('text', 'b', { shown: when('g[0][a]') })] }),
        ]),
      ),
    ).toEqual([]);
  });
  it.each<[string, Item[], RegExp]>([
    [
      'conditions in a circle',
      [
        item('text', 'a', { shown: when('b') }),
        item('text', 'b', { shown: when('c') }),
        item('text', 'c', { shown: when('a') }),
      ],
      /depends on itself/,
    ],
    ['a condition on itself', [item('text', 'a', { shown: when('a') })], /depends on itself/],
    [
      'a question shown by one that stands in it',
      [item('group', 'g', { shown: when('g[0][a]'), items: [item('text', 'a')] })],
      /depends on itself/,
    ],
    [
      'a condition over a question that was taken away',
      [item('text', 'a', { shown: when('gone') })],
      /“gone”, which isn't asked/,
    ],
    [
      'a condition over a question of a row from outside',
      [item('group', 'g', { items: [item('text', 'a')] }), item('text', 'b', { shown: when('g[0][a]') })],
      /stands outside those rows/,
    ],
    [
      'options of one value',
      [
        item('one of', 'a', {
          options: [
            { value: 'x', label: { en: '1' } },
            { value: 'x', label: { en: '2' } },
          ],
        }),
      ],
      /sent as “x”/,
    ],
    ['nothing to choose', [item('several of', 'a')], /nothing to choose/],
    ['a name given twice', [item('text', 'a'), item('number', 'a')], /the name of another/],
    ['a name that a consent’s wording has', [item('consent', 'a'), item('text', 'a_wording')], /the name of another/],
    [
      'groups four deep',
      [
        item('group', 'a', {
          items: [item('group', 'b', { items: [item('group', 'c', { items: [item('group', 'd', { items: [] })] })] })],
        }),
      ],
      /no deeper/,
    ],
    [
      'more room than can be sent',
      [item('group', 'g', { mostRows: 50, items: [item('group', 'h', { mostRows: 50, items: [item('text', 'a')] })] })],
      /room for 2500 answers/,
    ],
    ['a least above the most', [item('number', 'a', { least: 3, most: 2 })], /least is more than its most/],
    ['a limit by what isn’t asked', [item('date', 'a', { earliest: { from: 'answer', answer: 'b' } })], /goes by “b”/],
  ])('with %s says so', (_, items, reason) => {
    expect(reasons(items)).toMatch(reason);
  });

  it('is turned away where a part isn’t one', () => {
    const bad = (change: object): string[] =>
      validateSync(plainToInstance(HostedForm, { ...formOf([item('text', 'a')]), ...change }), {
        whitelist: true,
        forbidNonWhitelisted: true,
      }).map(({ property }) => property);
    expect(bad({})).toEqual([]);
    expect(bad({ title: 'A form' })).toEqual(['title']);
    expect(bad({ title: { en: 'x'.repeat(201) } })).toEqual(['title']);
    expect(bad({ languages: [] })).toEqual(['languages']);
    expect(bad({ look: { first: 'red;}' } })).toEqual(['look']);
    expect(bad({ pages: [{ id: 'p', items: [{ ...item('text', 'a b') }] }] })).toEqual(['pages']);
    expect(bad({ pages: [{ id: 'p', items: [{ ...item('text', 'a'), script: 'x' }] }] })).toEqual(['pages']);
  });
});
