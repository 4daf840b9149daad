import fc from 'fast-check';
import { NotUnderstood } from '../system.ts';
import { began, onwards, positionIn, written } from './pages.ts';

/** Reads a list whose page `at` is followed by `next(at)`, as a reading does that goes on in another process each time. */
function read(next: (at: number) => number | undefined, most: number): { pages: number; words?: string } {
  let link = written(began('https://reed.example/readers?page=0'));
  for (let pages = 1, at = 0; pages <= most; pages += 1) {
    const following = next(at);
    if (following === undefined) return { pages };
    try {
      const url = `https://reed.example/readers?page=${following}`;
      link = written(onwards(positionIn(link), [`r${at}`, `r${at}x`], url));
    } catch (error) {
      if (!(error instanceof NotUnderstood)) throw error;
      return { pages, words: error.message };
    }
    at = following;
  }
  return { pages: most };
}

it('a list that ends is read to its end, however long it is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 400 }), (last) => {
      expect(read((at) => (at < last ? at + 1 : undefined), 1_000)).toEqual({ pages: last + 1 });
    }),
  );
});

it('one that goes round in circles is noticed, wherever the circle begins and however long it is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 120 }), fc.integer({ min: 1, max: 120 }), (tail, circle) => {
      const { pages, words } = read((at) => (at < tail + circle - 1 ? at + 1 : tail), 10_000);
      expect(words).toMatch(/round in circles/);
      // Brent's bound: the circle is seen within a few times what there is to be seen.
      expect(pages).toBeLessThanOrEqual(4 * (tail + circle) + 4);
    }),
  );
});

it('pages of other records under one address are no circle, nor the same records under others', () => {
  let position = began('https://reed.example/readers');
  for (let at = 0; at < 300; at += 1) position = onwards(position, [`r${at}`], 'https://reed.example/readers?more=yes');
  expect(position.pages).toBe(300);
  let other = began('https://reed.example/readers');
  for (let at = 0; at < 300; at += 1) other = onwards(other, [], `https://reed.example/readers?cursor=${at}`);
  expect(other.pages).toBe(300);
});

it('where a reading is survives being written down, whatever the address has in it', () => {
  fc.assert(
    fc.property(fc.webUrl({ withFragments: true, withQueryParameters: true }), fc.nat({ max: 900 }), (url, pages) => {
      const position = { url, pages, mark: 'abc-_DEF', power: 64, since: 7 };
      expect(positionIn(written(position))).toEqual(position);
    }),
  );
});

it('an address alone is where a reading begins', () => {
  expect(positionIn('https://reed.example/readers?page=2')).toEqual(began('https://reed.example/readers?page=2'));
});

it('what never ends is given up at some time', () => {
  const position = { ...began('https://reed.example/readers'), pages: 1_000_000 };
  expect(() => onwards(position, ['r1'], 'https://reed.example/readers?page=9')).toThrow(/never ends/);
});
