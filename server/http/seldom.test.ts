import { Seldom } from './seldom.ts';

/** A question whose asking takes as long as said, on a clock that stands still otherwise. */
function costly() {
  const clock = { at: 0, asked: 0 };
  const seldom = new Seldom<number>(2, () => clock.at);
  const ask = (key: string, ms: number): Promise<number> =>
    seldom.of(key, async () => {
      clock.at += ms;
      return (clock.asked += 1);
    });
  return { clock, ask };
}

it('asks again only after nine times what asking took', async () => {
  const { clock, ask } = costly();
  expect(await ask('a', 100)).toBe(1);
  clock.at += 899;
  expect(await ask('a', 100)).toBe(1);
  clock.at += 1;
  expect(await ask('a', 100)).toBe(2);
});

it('asks what costs nothing every time', async () => {
  const { ask } = costly();
  expect([await ask('a', 0), await ask('a', 0)]).toEqual([1, 2]);
});

it('gives those who ask at once the same answer', async () => {
  const { ask } = costly();
  expect(await Promise.all([ask('a', 5), ask('a', 5)])).toEqual([1, 1]);
});

it('forgets what it was asked long ago, and what failed', async () => {
  const { clock, ask } = costly();
  for (const key of ['a', 'b', 'c', 'a']) await ask(key, 10);
  expect(clock.asked).toBe(4);
  const failing = new Seldom<string>();
  await expect(failing.of('a', () => Promise.reject(new Error('away')))).rejects.toThrow('away');
  await expect(failing.of('a', async () => 'there')).resolves.toBe('there');
});
