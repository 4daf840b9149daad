import { randomBytes } from 'node:crypto';
import { MIGRATIONS } from '../../testing/stage.ts';
import {
  addPairs,
  createDatabase,
  dueNow,
  inTransaction,
  keepSeen,
  layDue,
  markDue,
  heldStill,
  migrateDatabase,
  noteFilled,
  openDatabase,
  type Database,
  type PairRow,
  type SeenRecord,
} from '../../store/index.ts';
import { withoutCutShort, type Working } from './bundle.ts';
import type { Doing } from './decide.ts';
import { markLooking, stillLooking, type Lookers } from './lookers.ts';
import { carryOutWrites, type Writing } from './write.ts';

const pairing = '0192f0c1-0000-7000-8000-00000000000a';
const feeds = { left: { id: 1 }, right: { id: 2 } };
let db: Database;

beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}laid_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 4);
  await db.$client.query(
    "INSERT INTO pairings (id, state, draft, revision, live_version, created_at, changed_at) VALUES (?, 'running', '{}', 1, 1, NOW(3), NOW(3))",
    [pairing],
  );
  const seen = (recordId: string): SeenRecord => ({
    ...{ recordId, values: {}, etag: undefined, changedAt: undefined, asked: 1, touched: 0, version: 1, gone: false },
  });
  await inTransaction(db, async (query) => {
    await keepSeen(query, 1, 1, ['L-1', 'L-2', 'L-3'].map(seen));
    await keepSeen(query, 2, 1, ['R-1', 'R-2', 'R-3', 'R-4'].map(seen));
    const pair = { state: 'in step' as const, base: {}, candidates: null };
    const made = [
      { ...pair, leftId: 'L-1', rightId: 'R-1' },
      // The left one isn't known any more, or there never was one.
      { ...pair, leftId: 'L-9', rightId: 'R-2' },
      { ...pair, leftId: null, rightId: 'R-3', state: 'unsure' as const },
    ];
    await addPairs(query, pairing, made, 1);
  });
});
afterAll(() => db.$client.end());

const due = async (): Promise<string[]> =>
  (await dueNow(db, pairing, 100, Date.now() + 1000))
    .map(({ recordId, doubt, mark }) => `${recordId}${doubt ? ' in doubt' : ''}${mark > 1 ? ` ${mark}` : ''}`)
    .sort();
const laid = async (): Promise<unknown> => [...(await inTransaction(db, (query) => heldStill(query, [pairing])))];
/** Something new of a record, as whoever listens to changes notes it. */
const news = (id: string, doubt: boolean): Promise<unknown> => {
  const own = [{ pairing: { id: pairing, laid: 0 }, side: 'left' }];
  const lookers = { db, own, through: [] } as unknown as Lookers;
  return inTransaction(db, async (query) => markLooking(query, await stillLooking(query, lookers), [{ id, doubt }]));
};

it('until all are marked at once what is new needn’t be, and what is in doubt must', async () => {
  expect(await laid()).toEqual([[pairing, 0]]);
  await news('L-1', false);
  await news('L-2', true);
  expect(await due()).toEqual(['L-2 in doubt']);
});

it('the right ones don’t come first, and before both are marked nothing counts as looked at', async () => {
  await layDue(db, pairing, 'right', feeds);
  await noteFilled(db, pairing);
  expect(await due()).toEqual(['L-2 in doubt']);
  const [rows] = await db.$client.query('SELECT laid, filled FROM pairings WHERE id = ?', [pairing]);
  expect(rows).toEqual([{ laid: 0, filled: 0 }]);
});

it('all left ones are marked, once, and what is in doubt stays so', async () => {
  await layDue(db, pairing, 'left', feeds);
  expect(await due()).toEqual(['L-1', 'L-2 in doubt 2', 'L-3']);
  expect(await laid()).toEqual([[pairing, 1]]);
  await layDue(db, pairing, 'left', feeds);
  expect(await due()).toEqual(['L-1', 'L-2 in doubt 2', 'L-3']);
});

it('from then on what is new is marked, and of a pairing that is gone nothing', async () => {
  await news('L-3', false);
  expect(await due()).toEqual(['L-1', 'L-2 in doubt 2', 'L-3 2']);
  const own = [{ pairing: { id: '0192f0c1-0000-7000-8000-00000000000b', laid: 2 }, side: 'left' }];
  const lookers = { db, own, through: [] } as unknown as Lookers;
  await inTransaction(db, async (query) => {
    const still = await stillLooking(query, lookers);
    expect(await markLooking(query, still, [{ id: 'L-1', doubt: true }])).toEqual(new Set());
  });
  const [rows] = await db.$client.query('SELECT 1 FROM pair_due WHERE pairing_id <> ?', [pairing]);
  expect(rows).toEqual([]);
});

it('of the right ones all are marked that weren’t looked at with a left one', async () => {
  await inTransaction(db, (query) => markDue(query, pairing, 'right', [{ id: 'R-1', doubt: false }], Date.now()));
  await layDue(db, pairing, 'right', feeds);
  expect((await due()).filter((each) => each.startsWith('R'))).toEqual(['R-1', 'R-2', 'R-3', 'R-4']);
});

it('what goes with a turn that was cut short is put back, and nothing else', async () => {
  const now = Date.now();
  const taken = await dueNow(db, pairing, 100, now);
  const pairs = [
    { leftId: 'L-1', rightId: 'R-1', turn: 7 },
    { leftId: 'L-3', rightId: 'R-2', turn: null },
  ] as PairRow[];
  const work = { db, pairing: { id: pairing } } as Working;
  const left = await withoutCutShort(work, { pairs }, taken);
  expect(left.map(({ recordId }) => recordId).sort()).toEqual(['L-2', 'L-3', 'R-2', 'R-3', 'R-4']);
  const later = await db.$client.query('SELECT record_id AS id FROM pair_due WHERE due_at > ? ORDER BY record_id', [
    now,
  ]);
  expect(later[0]).toEqual([{ id: 'L-1' }, { id: 'R-1' }]);
});

it('nothing is begun for one that was paused, whatever was decided a moment ago', async () => {
  await db.$client.query("UPDATE pairings SET state = 'paused'");
  const place = { system: '0192f0c1-0000-7000-8000-00000000000b', entity: 'People' };
  const doing = {
    pair: { id: 1, leftId: 'L-1', rightId: 'R-1', state: 'in step', base: {}, decided: null, candidates: null },
    due: [],
    todo: { kind: 'keep' },
  } as Doing;
  const work = {
    db,
    systems: { client: () => Promise.reject(new Error('It asks the system.')) },
    pairing: { id: pairing, document: { left: place, right: place } },
    group: 'g',
  } as unknown as Writing;
  const write = { doing, side: 'right', action: 'update', values: { a: 'x' }, record: undefined, keys: [] } as const;
  expect((await carryOutWrites(work, [write])).size).toBe(0);
  const [rows] = await db.$client.query('SELECT id FROM ledger');
  expect(rows).toEqual([]);
});
