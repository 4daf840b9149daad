import fc from 'fast-check';
import { chainsOf } from './chains.ts';

const rows = fc.array(fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 3 }), { maxLength: 12 });

it('rows that share a key stand in one chain, in their order, and every row stands in one', () => {
  fc.assert(
    fc.property(rows, (keys) => {
      const chains = chainsOf(keys);
      expect(chains.flat().sort((a, b) => a - b)).toEqual(keys.map((_, at) => at));
      for (const chain of chains) expect(chain).toEqual([...chain].sort((a, b) => a - b));
      const chainOf = (row: number) => chains.findIndex((chain) => chain.includes(row));
      keys.forEach((mine, a) =>
        keys.forEach((theirs, b) => {
          if (mine.some((key) => theirs.includes(key))) expect(chainOf(a)).toBe(chainOf(b));
        }),
      );
    }),
  );
});

it('rows that share nothing, not even by others, are done side by side', () => {
  expect(chainsOf([['a'], ['b'], ['a', 'c'], ['d'], ['c']])).toEqual([[0, 2, 4], [1], [3]]);
  expect(chainsOf([['x'], ['y'], ['x', 'y']])).toEqual([[0, 1, 2]]);
  expect(chainsOf([[], []])).toEqual([[0], [1]]);
});
