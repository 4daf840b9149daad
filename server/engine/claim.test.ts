import { randomBytes } from 'node:crypto';
import { v7 as uuid } from 'uuid';
import {
  createDatabase,
  inTransaction,
  leaveLanes,
  migrateDatabase,
  openDatabase,
  type Database,
  hashed,
} from '../store/index.ts';
import { MIGRATIONS } from '../testing/stage.ts';
import { CLAIM_MS, claimDue, holdLanesOf, noteLingering, prolongClaims, releaseDead } from './claim.ts';
import { Settler, TakenOver } from './settle.ts';

let db: Database;
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}claim_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  // Two at once: the second waits and finds the work done.
  await Promise.all([migrateDatabase(url, MIGRATIONS), migrateDatabase(url, MIGRATIONS)]);
  db = openDatabase(url, 12);
});
afterAll(() => db.$client.end());
beforeEach(async () => {
  for (const table of ['submissions', 'lanes', 'lane_holders']) await db.$client.query(`DELETE FROM ${table}`);
});

const now = (): Date => new Date();
const INTAKE = uuid();
/** Puts a submission into the queue, in the lanes named. @returns its place */
const queue = (...lanes: string[]): Promise<number> => queueFor(INTAKE, ...lanes);
const queueFor = (intake: string, ...lanes: string[]): Promise<number> =>
  inTransaction(db, async (query) => {
    await query(
      "INSERT IGNORE INTO intakes (id, `key`, state, draft, revision, created_at, changed_at) VALUES (?, ?, 'open', '{}', 1, ?, ?)",
      [intake, intake, now(), now()],
    );
    const [turn] = await query<{ id: number }>(
      "INSERT INTO turns (kind, subject, actor, at) VALUES ('submission', '', 'test', ?) RETURNING id",
      [now()],
    );
    const [row] = await query<{ seq: number }>(
      "INSERT INTO submissions (seq, id, intake_id, version, state, label, submitted, via, received_at, due_at) VALUES (?, ?, ?, 1, 'received', '', '{}', 'form', ?, ?) RETURNING seq",
      [turn!.id, uuid(), intake, now(), now()],
    );
    if (lanes.length > 0)
      await query('INSERT INTO lanes (lane, turn) VALUES ?', [lanes.map((lane) => [hashed(lane), row!.seq])]);
    return row!.seq;
  });
const claim = async (worker = 'w', limit = 100): Promise<number[]> =>
  (await claimDue(db, worker, limit, now())).claimed.map(({ seq }) => seq);
const leave = (seq: number): Promise<void> =>
  inTransaction(db, async (query) => {
    await query("UPDATE submissions SET state = 'applied' WHERE seq = ?", [seq]);
    await leaveLanes(query, [seq]);
  });

describe('claiming', () => {
  it('takes what is due, each once, in the order of arrival', async () => {
    const all = [await queue('a'), await queue('b'), await queue()];
    expect(await claim('one', 2)).toEqual(all.slice(0, 2));
    expect(await claim('two')).toEqual(all.slice(2));
    expect(await claim('three')).toEqual([]);
  });

  it('serves all intakes that have something due in equal shares, and gives what is left to those with more', async () => {
    const quiet = uuid();
    for (let at = 0; at < 40; at += 1) await queue();
    const few = [await queueFor(quiet), await queueFor(quiet)];
    const claimed = await claim('one', 20);
    expect(claimed).toHaveLength(20);
    expect(claimed).toEqual(expect.arrayContaining(few));
    expect(new Set(claimed).size).toBe(20);
  });

  it('passes over intakes for which there are no hands', async () => {
    const other = uuid();
    await queue();
    const mine = await queueFor(other);
    const { claimed } = await claimDue(db, 'w', 10, now(), new Set([INTAKE]));
    expect(claimed.map(({ seq }) => seq)).toEqual([mine]);
  });

  it('lets one of a lane through at a time, the next when it has left', async () => {
    const [first, second, third] = [await queue('kathi'), await queue('kathi'), await queue('kathi')];
    expect(await claim()).toEqual([first]);
    expect(await claim()).toEqual([]);
    await leave(first!);
    expect(await claim()).toEqual([second]);
    await leave(second!);
    expect(await claim()).toEqual([third]);
  });

  it('holds one that is about two people until both lanes are free', async () => {
    const [kathi, ulli, both] = [await queue('kathi'), await queue('ulli'), await queue('kathi', 'ulli')];
    const after = await queue('ulli');
    expect(await claim()).toEqual([kathi, ulli]);
    await leave(kathi!);
    expect(await claim()).toEqual([]);
    await leave(ulli!);
    expect(await claim()).toEqual([both]);
    await leave(both!);
    expect(await claim()).toEqual([after]);
  });

  it('keeps out one that arrives late with an earlier place, while another is at work in the lane', async () => {
    // Its transaction took the number first and commits last, as two servers may do it.
    const seq = await queue();
    await db.$client.query('UPDATE submissions SET due_at = ? WHERE seq = ?', [new Date(Date.now() + 60_000), seq]);
    const later = await queue('kathi');
    expect(await claim()).toEqual([later]);
    await db.$client.query('INSERT INTO lanes (lane, turn) VALUES (?, ?)', [hashed('kathi'), seq]);
    await db.$client.query('UPDATE submissions SET due_at = ? WHERE seq = ?', [now(), seq]);
    expect(await claim()).toEqual([]);
    await leave(later);
    expect(await claim()).toEqual([seq]);
  });

  it('gives each to one of many workers that ask at once, and never two of a lane', async () => {
    const places = await Promise.all(Array.from({ length: 60 }, (_, at) => queue(`p${at % 12}`)));
    const lane = new Map(places.map((seq, at) => [seq, at % 12]));
    const done: number[] = [];
    for (let round = 0; done.length < 60 && round < 200; round += 1) {
      const claimed = await Promise.all(Array.from({ length: 5 }, (_, worker) => claim(`w${worker}`, 7)));
      const flat = claimed.flat();
      expect(new Set(flat).size).toBe(flat.length);
      expect(new Set(flat.map((seq) => lane.get(seq))).size).toBe(flat.length);
      await Promise.all(flat.map(leave));
      done.push(...flat);
    }
    expect(done).toHaveLength(60);
    for (let each = 0; each < 12; each += 1) {
      const inLane = done.filter((seq) => lane.get(seq) === each);
      expect(inLane).toEqual([...inLane].sort((a, b) => a - b));
    }
  });

  it('gives a lapsed claim to another, and says that somebody has been at it', async () => {
    const seq = await queue('kathi');
    const [fresh] = (await claimDue(db, 'dead', 1, now())).claimed;
    expect(fresh).toMatchObject({ seq, fresh: true });
    expect(await claim('next')).toEqual([]);
    const [again] = (await claimDue(db, 'next', 1, new Date(Date.now() + CLAIM_MS + 1000))).claimed;
    expect(again).toMatchObject({ seq, fresh: false });
  });

  it('keeps a claim that is prolonged', async () => {
    const seq = await queue();
    await claim('alive');
    await prolongClaims(db, 'alive', [seq], new Date(Date.now() + CLAIM_MS));
    expect((await claimDue(db, 'next', 1, new Date(Date.now() + CLAIM_MS + 1000))).claimed).toEqual([]);
  });

  it('lets go at once of what workers left that are known to be dead, and of no other', async () => {
    const [one] = [await queue('a'), await queue('b')];
    await claim('host/1/x', 1);
    await claim('elsewhere/1/x', 1);
    await releaseDead(db, (worker) => (worker.startsWith('host/') ? false : undefined));
    expect(await claim('new')).toEqual([one]);
  });

  it('isn’t slowed for others by a long queue about one person', async () => {
    await Promise.all(Array.from({ length: 80 }, () => queue('kathi')));
    const other = await queue('ulli');
    const seen: number[] = [];
    for (let round = 0; round < 12 && !seen.includes(other); round += 1) seen.push(...(await claim('w', 8)));
    expect(seen).toHaveLength(2);
    const [rows] = await db.$client.query('SELECT COUNT(*) AS count FROM submissions WHERE blocked');
    expect(Number((rows as { count: number }[])[0]!.count)).toBe(79);
  });
});

describe('what a dead process leaves', () => {
  const later = (minutes: number): Date => new Date(Date.now() + minutes * 60_000);
  const inMinutes = async (minutes: number, idle = true) =>
    claimDue(db, `w${minutes}`, 100, later(minutes), new Set(), idle);

  it('is tried apart from all else: together the first time, then one by one', async () => {
    const crowd = [await queue(), await queue(), await queue()];
    expect((await inMinutes(0)).claimed.map(({ seq }) => seq)).toEqual(crowd);
    const fresh = await queue();
    // While others are at work in this process, only what is fresh is begun, and it is said that some wait.
    const busy = await inMinutes(1, false);
    expect(busy).toMatchObject({ claimed: [{ seq: fresh }], suspects: true });
    const together = await inMinutes(1);
    expect(together.claimed.map(({ seq }) => seq)).toEqual(crowd);
    // Died again: each by itself now, and nobody is given up that wasn't alone.
    const alone = await inMinutes(3);
    expect(alone.claimed).toHaveLength(1);
    expect(alone.claimed[0]).toMatchObject({ givenUp: false });
  });

  it('keeps nobody waiting whom it can’t be tried before: a fresh one is begun while its lane is held elsewhere', async () => {
    const suspect = await queue('kathi');
    await inMinutes(0);
    await db.$client.query('UPDATE lane_holders SET turn = turn + 1000000 WHERE turn = ?', [suspect]);
    const fresh = await queue();
    expect(await inMinutes(1)).toMatchObject({ claimed: [{ seq: fresh }], suspects: false });
  });

  it('is given up when it was alone at work for the third time, and no sooner: twice may be chance', async () => {
    const seq = await queue();
    for (const minutes of [0, 1, 2]) {
      expect((await inMinutes(minutes)).claimed).toMatchObject([{ seq, givenUp: false }]);
      await noteLingering(db, `w${minutes}`, seq);
    }
    expect((await inMinutes(3)).claimed).toMatchObject([{ seq, givenUp: true }]);
  });

  it('is given up once more later where nobody noted that it was at work: it may only have waited for a process', async () => {
    const seq = await queue();
    for (const minutes of [0, 1, 2, 3])
      expect((await inMinutes(minutes)).claimed).toMatchObject([{ seq, givenUp: false }]);
    expect((await inMinutes(4)).claimed).toMatchObject([{ seq, givenUp: true }]);
  });

  it('is not given up when it had only just been begun each time, unless that goes on and on', async () => {
    const seq = await queue();
    const blamed: boolean[] = [];
    for (let time = 0; time < 8; time += 1) {
      const at = new Date(Date.now() + time * 2_000);
      await db.$client.query('UPDATE submissions SET claimed_until = ? WHERE seq = ?', [
        new Date(at.getTime() - 1),
        seq,
      ]);
      blamed.push((await claimDue(db, `w${time}`, 1, at)).claimed[0]!.givenUp);
    }
    expect(blamed).toEqual([false, false, false, false, false, false, true, true]);
  });
});

describe('a worker that was stuck, and whose claim has passed to another', () => {
  const applied = { state: 'applied' as const, steps: [] };
  it('settles nothing any more', async () => {
    const seq = await queue('kathi');
    const [stuck] = (await claimDue(db, 'stuck', 1, now())).claimed;
    const [other] = (await claimDue(db, 'other', 1, new Date(Date.now() + CLAIM_MS + 1000))).claimed;
    const settler = new Settler(db);
    const turn = { seq, settlements: [], end: { course: applied, words: 'by the stuck one', at: now() } };
    await expect(settler.settle({ ...turn, claim: stuck!.claim })).rejects.toBeInstanceOf(TakenOver);
    await expect(
      settler.settle({ seq, claim: stuck!.claim, settlements: [], end: { dueAt: now(), attempts: 9, words: 'x' } }),
    ).rejects.toBeInstanceOf(TakenOver);
    const state = async () => {
      const [rows] = await db.$client.query('SELECT state, words, attempts FROM submissions WHERE seq = ?', [seq]);
      return (rows as object[])[0];
    };
    expect(await state()).toEqual({ state: 'received', words: null, attempts: 0 });
    await settler.settle({ ...turn, claim: other!.claim, end: { ...turn.end, words: null } });
    expect(await state()).toEqual({ state: 'applied', words: null, attempts: 0 });
  });

  it('takes hold of no lane any more', async () => {
    const seq = await queue();
    const [stuck] = (await claimDue(db, 'stuck', 1, now())).claimed;
    await claimDue(db, 'other', 1, new Date(Date.now() + CLAIM_MS + 1000));
    expect(await holdLanesOf(db, seq, stuck!.claim, [hashed('x')])).toBe('taken over');
  });
});

describe('lanes that are known only while at work', () => {
  it('are held by one, and waited in by the others in order of arrival', async () => {
    const [first, second] = [await queue(), await queue()];
    const [a, b] = (await claimDue(db, 'w', 2, now())).claimed;
    expect(await holdLanesOf(db, second, b!.claim, [hashed('x'), hashed('y')])).toBe('held');
    expect(await holdLanesOf(db, first, a!.claim, [hashed('x')])).toBe('busy');
    const settler = new Settler(db);
    await settler.settle({
      seq: first,
      claim: a!.claim,
      settlements: [],
      end: { dueAt: now(), attempts: 0, words: null },
    });
    expect(await claim()).toEqual([]);
    await settler.settle({
      ...{ seq: second, claim: b!.claim, settlements: [] },
      end: { course: { state: 'applied', steps: [] }, words: null, at: now() },
    });
    expect(await claim()).toEqual([first]);
  });
});
