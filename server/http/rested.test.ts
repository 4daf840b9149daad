import { Rested } from './rested.ts';

const slow = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

it('what is quick is worked out whenever it is asked for', async () => {
  let times = 0;
  const rested = new Rested(async () => (times += 1));
  for (let at = 0; at < 5; at += 1) await rested.get('a');
  expect(times).toBe(5);
});

it('what takes long is shown as it was known, and worked out by one at a time', async () => {
  let times = 0;
  const rested = new Rested(async () => {
    await slow(80);
    return (times += 1);
  });
  expect(await rested.get('a')).toBe(1);
  expect(await Promise.all(Array.from({ length: 50 }, () => rested.get('a')))).toEqual(new Array(50).fill(1));
  expect(times).toBe(1);
});

it('where working it out fails later, what was known is shown, and nothing breaks', async () => {
  const answers = [
    async () => slow(80).then(() => 'first'),
    async () => Promise.reject(new Error('the database is away')),
  ];
  const rested = new Rested(async () => (answers.length > 1 ? answers.shift()!() : answers[0]!()));
  expect(await rested.get('a')).toBe('first');
  jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 3_600_000);
  expect(await rested.get('a')).toBe('first');
  await slow(10);
  expect(await rested.get('a')).toBe('first');
  jest.restoreAllMocks();
});
