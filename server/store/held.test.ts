import { randomBytes } from 'node:crypto';
import { MIGRATIONS } from '../testing/stage.ts';
import {
  createDatabase,
  heldStateOf,
  heldWhole,
  holdersOf,
  holdFields,
  holdValues,
  letGoOfValues,
  migrateDatabase,
  openDatabase,
  removeHeld,
  type Database,
} from './index.ts';

/** Values by which records are found here, since their system doesn't search by them. */
let db: Database;
let feeds = 0;
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}held_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 8);
});
afterAll(() => db.$client.end());

const feed = (): number => (feeds += 1);
const record = (recordId: string, ...hashes: number[]) => ({ recordId, hashes });

it('records are found by one value, or by all of several', async () => {
  const id = feed();
  await holdValues(db, id, 1, [record('a', 10, 20), record('b', 10, 30), record('c', 30)]);
  expect(await holdersOf(db, id, [10], 9)).toEqual(['a', 'b']);
  expect(await holdersOf(db, id, [10, 30], 9)).toEqual(['b']);
  expect(await holdersOf(db, id, [10, 20, 30], 9)).toEqual([]);
  expect(await holdersOf(db, id, [], 9)).toEqual([]);
  expect(await holdersOf(db, id, [10], 1)).toEqual(['a']);
  // Another entity's are none of them.
  expect(await holdersOf(db, feed(), [10], 9)).toEqual([]);
});

it('a record that is read again holds what it holds now, and each value once', async () => {
  const id = feed();
  await holdValues(db, id, 1, [record('a', 10, 10, 20)]);
  await holdValues(db, id, 2, [record('a', 30)]);
  expect(await holdersOf(db, id, [10], 9)).toEqual([]);
  expect(await holdersOf(db, id, [30], 9)).toEqual(['a']);
  await letGoOfValues(db, id, ['a', 'never there']);
  expect(await holdersOf(db, id, [30], 9)).toEqual([]);
});

it('ids are told apart byte by byte', async () => {
  const id = feed();
  await holdValues(db, id, 1, [record('AbC', 10), record('aBc', 20), record('rené', 30), record('rene', 40)]);
  expect(await holdersOf(db, id, [10], 9)).toEqual(['AbC']);
  await letGoOfValues(db, id, ['AbC', 'rene']);
  expect(await holdersOf(db, id, [20], 9)).toEqual(['aBc']);
  expect(await holdersOf(db, id, [30], 9)).toEqual(['rené']);
});

it('after a whole reading what it did not bring is gone, but for what we wrote ourselves', async () => {
  const id = feed();
  const never = 2_147_483_647;
  await holdValues(db, id, 1, [record('old', 10), record('still', 10)]);
  await holdValues(db, id, never, [record('ours', 10)]);
  await holdValues(db, id, 2, [record('still', 10)]);
  await heldWhole(db, id, 2, []);
  expect(await holdersOf(db, id, [10], 9)).toEqual(['ours', 'still']);
});

it('thousands of records are taken in at once, the largest hashes too', async () => {
  const id = feed();
  const largest = 2 ** 52 - 1;
  await holdValues(
    db,
    id,
    1,
    Array.from({ length: 3_000 }, (_, at) => record(`r${at}`, at, largest - at)),
  );
  expect(await holdersOf(db, id, [2_999], 9)).toEqual(['r2999']);
  expect(await holdersOf(db, id, [largest], 9)).toEqual(['r0']);
  expect(await holdersOf(db, id, [largest - 2_000, 2_000], 9)).toEqual(['r2000']);
});

it('many that take in the same records at once don’t stop one another', async () => {
  const id = feed();
  const records = Array.from({ length: 60 }, (_, at) => record(`r${at}`, at, 1_000));
  await Promise.all(
    Array.from({ length: 10 }, (_, at) => holdValues(db, id, at, at % 2 === 0 ? records : [...records].reverse())),
  );
  expect(await holdersOf(db, id, [1_000], 100)).toHaveLength(60);
});

it('a field is held once all records have been read for it, and a system that goes takes all of it along', async () => {
  await holdFields(db, 'reed', 'readers', ['keeper']);
  // As several processes come to it at the same moment.
  await Promise.all(Array.from({ length: 6 }, () => holdFields(db, 'reed', 'readers', ['keeper', 'town'])));
  const before = (await heldStateOf(db, 'reed', 'readers'))!;
  expect(before.filled.size).toBe(0);
  await db.$client.query('UPDATE feeds SET filled_at = NOW(3) WHERE id = ?', [before.feed]);
  await heldWhole(db, before.feed, 1, ['keeper', 'town']);
  expect((await heldStateOf(db, 'reed', 'readers'))!.filled).toEqual(new Set(['keeper', 'town']));
  // One more field has all of them read once more; what was held is not relied upon meanwhile.
  await holdFields(db, 'reed', 'readers', ['phone']);
  expect((await heldStateOf(db, 'reed', 'readers'))!.filled.size).toBe(0);
  await holdValues(db, before.feed, 1, [record('a', 10)]);
  await removeHeld(db, 'reed');
  expect(await holdersOf(db, before.feed, [10], 9)).toEqual([]);
  expect(await heldStateOf(db, 'nowhere', 'readers')).toBeUndefined();
});
