import type { ReadOnlyWorld } from '@zusammen/core/plans';
import { Readings, remembered } from './remembered.ts';

const target = { system: 's', entity: 'People' };
const by = (value: string) => [{ field: 'email', value, folded: true }];
/** A system that counts what it is asked, and answers something else each time. */
function counting() {
  const asked: string[] = [];
  const world: ReadOnlyWorld = {
    find: async (_target, criteria) => {
      asked.push(`find ${String(criteria[0]!.value)}`);
      return [{ id: `r${asked.length}`, values: {} }];
    },
    read: async (_target, id) => {
      asked.push(`read ${id}`);
      return { id, values: {} };
    },
    weigh: async (_target, values, _limit, besides = []) => {
      asked.push(`weigh ${String(values['name'])} ${besides.length}`);
      return { verdict: 'different', records: [], weighed: [] };
    },
  };
  return { asked, world };
}

it('the same is asked once, another thing is asked', async () => {
  const { asked, world } = counting();
  const reading = remembered(world);
  const first = await reading.find(target, by('a'), 10);
  expect(await reading.find(target, by('a'), 10)).toEqual(first);
  await reading.find(target, by('b'), 10);
  await reading.find({ ...target, entity: 'Clubs' }, by('a'), 10);
  await reading.read(target, 'a');
  await reading.read(target, 'a');
  await reading.weigh(target, { name: 'x' }, 5);
  await reading.weigh(target, { name: 'x' }, 5);
  // What a rehearsal has written besides changes the question.
  await reading.weigh(target, { name: 'x' }, 5, [{ id: 'new 1', values: {} }]);
  expect(asked).toEqual(['find a', 'find b', 'find a', 'read a', 'weigh x 0', 'weigh x 1']);
});

it('asked at the same time, it is one question; one that failed is asked again', async () => {
  const { asked, world } = counting();
  let broken = true;
  const reading = remembered({
    ...world,
    find: async (...question) => {
      if (broken) throw new Error('no answer');
      return world.find(...question);
    },
  });
  await expect(reading.find(target, by('a'), 10)).rejects.toThrow('no answer');
  broken = false;
  await Promise.all([reading.find(target, by('a'), 10), reading.find(target, by('a'), 10)]);
  expect(asked).toEqual(['find a']);
});

it('an answer is good for a while, and no longer', async () => {
  const { asked, world } = counting();
  let now = 0;
  const reading = remembered(world, 1000, () => now);
  await reading.find(target, by('a'), 10);
  now = 999;
  await reading.find(target, by('a'), 10);
  expect(asked).toHaveLength(1);
  now = 1000;
  await reading.find(target, by('a'), 10);
  expect(asked).toHaveLength(2);
});

it('an edit of one draft asks what it asked before of nobody; another draft, or somebody who wants it anew, asks', async () => {
  const { asked, world } = counting();
  const readings = new Readings(60_000, 2);
  const ask = (draft: string, anew = false) => readings.of(draft, anew, world).find(target, by('a'), 10);
  await ask('one');
  await ask('one');
  expect(asked).toHaveLength(1);
  await ask('two');
  await ask('one', true);
  await ask('one');
  expect(asked).toHaveLength(3);
  // The drafts that were looked at longest ago make way.
  await ask('three');
  await ask('two');
  expect(asked).toHaveLength(5);
});
