import { formOf, item } from '../../testing/hosted.ts';
import { placedIn, placedPages, placedThat } from './placed.ts';

const form = formOf([
  item('text', 'name', { shown: { match: 'all', parts: [{ field: 'kind', test: 'is', value: 'new' }] } }),
  item('one of', 'kind', {
    options: [
      { value: 'new', label: { en: 'x' } },
      { value: 'known', label: {} },
    ],
  }),
  item('group', 'contacts', { items: [item('group', 'phones', { items: [item('phone', 'number')] })] }),
]);

it('tells the rows that say something, of a group in a group as well', () => {
  const placed = placedIn(form, { 'contacts[2][phones][0][number]': '0401', 'contacts[3][phones][0][number]': ' ' });
  const rows = placed.flatMap(({ name, rows = [] }) => rows.map(({ row, says }) => [name, row, says]));
  expect(rows).toEqual([
    ['contacts', 2, true],
    ['contacts', 3, false],
    ['contacts[2][phones]', 0, true],
    ['contacts[3][phones]', 0, false],
  ]);
});

it('looks no deeper into a name than rows can be named', () => {
  const name = `contacts[0]${'[contacts][0]'.repeat(30)}`;
  const cut: string[] = [];
  const { slice } = String.prototype;
  String.prototype.slice = function (...by) {
    if (String(this) === name) cut.push(name);
    return slice.apply(this, by);
  };
  try {
    placedPages(form, { [name]: 'x' });
  } finally {
    String.prototype.slice = slice;
  }
  expect(cut.length).toBeLessThan(12);
});

it('tells once whether a question is shown, however often it is asked', () => {
  const asked: string[] = [];
  const answers = new Proxy({ kind: 'new' } as Record<string, string>, {
    get: (all, name: string) => {
      asked.push(name);
      return all[name];
    },
  });
  const [first] = placedIn(form, answers);
  asked.length = 0;
  expect([first!.shown, first!.shown, first!.shown]).toEqual([true, true, true]);
  expect(asked).toEqual(['kind']);
});

it('doesn’t place a form that has nothing of the sort that is looked for', () => {
  const unread = new Proxy({}, { ownKeys: () => fail('The answers were read.') });
  expect(placedThat(form, unread, ({ kind }) => kind === 'file')).toEqual([]);
  const numbers = placedThat(form, { 'contacts[4][phones][1][number]': '1' }, ({ kind }) => kind === 'phone');
  expect(numbers.map(({ name }) => name)).toEqual(['contacts[4][phones][1][number]']);
});

function fail(words: string): never {
  throw new Error(words);
}
