import { randomBytes } from 'node:crypto';
import { MIGRATIONS } from '../testing/stage.ts';
import {
  atomically,
  createDatabase,
  inTransaction,
  migrateDatabase,
  openDatabase,
  turns,
  watchConnections,
  type Database,
} from './index.ts';
import { addTurn } from './turns.ts';

let db: Database;
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}transaction_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 6);
});
afterAll(() => db.$client.end());

const ask = async (text: string): Promise<Record<string, unknown>[]> =>
  (await db.$client.query(text))[0] as Record<string, unknown>[];

/** Two pieces of work that have each locked what the other wants next. */
async function crossed(run: (first: number, second: number, met: () => Promise<void>) => Promise<void>): Promise<void> {
  await ask('CREATE OR REPLACE TABLE jars (id INT PRIMARY KEY, honey INT NOT NULL)');
  await ask('INSERT INTO jars VALUES (1, 0), (2, 0)');
  let here = 0;
  let go: () => void = () => undefined;
  const both = new Promise<void>((resolve) => (go = resolve));
  // Only the first time: what is done again finds the other gone.
  const met = async (): Promise<void> => {
    if ((here += 1) === 2) go();
    await both;
  };
  await Promise.all([run(1, 2, met), run(2, 1, met)]);
}

it('what the database broke off because of a deadlock is done again, whole', async () => {
  let begun = 0;
  await crossed((first, second, met) =>
    inTransaction(db, async (query) => {
      begun += 1;
      await query('UPDATE jars SET honey = honey + 1 WHERE id = ?', [first]);
      await met();
      await query('UPDATE jars SET honey = honey + 1 WHERE id = ?', [second]);
    }),
  );
  expect(begun).toBeGreaterThan(2);
  expect(await ask('SELECT honey FROM jars ORDER BY id')).toEqual([{ honey: 2 }, { honey: 2 }]);
});

it('so is what Drizzle builds', async () => {
  let begun = 0;
  await crossed((first, second, met) =>
    atomically(db, async (tx) => {
      begun += 1;
      await tx.execute(`UPDATE jars SET honey = honey + 1 WHERE id = ${first}`);
      await met();
      await tx.execute(`UPDATE jars SET honey = honey + 1 WHERE id = ${second}`);
    }),
  );
  expect(begun).toBeGreaterThan(2);
  expect(await ask('SELECT honey FROM jars ORDER BY id')).toEqual([{ honey: 2 }, { honey: 2 }]);
});

it('what fails for another reason is told at once and leaves nothing', async () => {
  let begun = 0;
  const turn = { kind: 'merge', subject: 'x', actor: 'test', actingPerson: null } as const;
  await expect(
    atomically(db, async (tx) => {
      begun += 1;
      await addTurn(tx, turn);
      throw new Error('the bees have swarmed');
    }),
  ).rejects.toThrow('the bees have swarmed');
  expect(begun).toBe(1);
  expect(await db.select().from(turns)).toEqual([]);
});

it('turns have ids in the order they were added, and say who acts', async () => {
  const one = await addTurn(db, { kind: 'merge', subject: '7', actor: 'Mara', actingPerson: null });
  const two = await addTurn(db, { kind: 'taking back', subject: String(one), actor: 'Idris', actingPerson: null });
  expect(two).toBeGreaterThan(one);
  expect(await db.select().from(turns)).toMatchObject([
    { id: one, kind: 'merge', actor: 'Mara' },
    { id: two, kind: 'taking back', subject: String(one), actor: 'Idris' },
  ]);
});

it('where it is watched, nobody within a transaction gets a second connection', async () => {
  watchConnections();
  const second = (): Promise<unknown> => ask('SELECT 1');
  await expect(inTransaction(db, second)).rejects.toThrow('second connection');
  await expect(inTransaction(db, () => inTransaction(db, (query) => query('SELECT 1')))).rejects.toThrow(
    'second connection',
  );
  await expect(atomically(db, second)).rejects.toThrow('second connection');
  expect(await second()).toHaveLength(1);
  expect(await inTransaction(db, (query) => query('SELECT 1'))).toHaveLength(1);
});
