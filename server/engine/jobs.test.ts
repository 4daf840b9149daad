import { randomBytes } from 'node:crypto';
import mysql from 'mysql2/promise';
import {
  addJob,
  createDatabase,
  hastenJob,
  jobById,
  migrateDatabase,
  openDatabase,
  releaseDeadJobs,
  setJobState,
  type Database,
  type JobRow,
} from '../store/index.ts';
import { MIGRATIONS } from '../testing/stage.ts';
import { Jobs, type HeldJob, type JobEnd, type JobSettings, type JobWork } from './jobs.ts';

let db: Database;
const all: Jobs[] = [];
beforeAll(async () => {
  const url = `${process.env['TEST_DATABASE_URL']!}jobs_${randomBytes(4).toString('hex')}`;
  await createDatabase(url);
  await migrateDatabase(url, MIGRATIONS);
  db = openDatabase(url, 8);
});
afterEach(async () => {
  await Promise.all(all.splice(0).map((each) => each.stop()));
  await db.$client.query('DELETE FROM jobs');
});
afterAll(() => db.$client.end());

let named = 0;
/** A process that works on merges, as far as these tests go. */
function worker(work: JobWork, more: Partial<JobSettings> = {}): Jobs {
  const settings = { name: `host/${(named += 1)}`, pollMs: 20, log: () => undefined, ...more };
  const jobs = new Jobs(db, { merge: work }, settings);
  all.push(jobs);
  return jobs;
}
const begin = (total = 10): Promise<JobRow> => addJob(db, { kind: 'merge', subject: 's', by: 'Mara', total });
const state = async ({ id }: JobRow): Promise<JobRow> => (await jobById(db, id))!;
/** Resolves when the job is as it is waited for. */
async function until(job: JobRow, reached: (row: JobRow) => boolean): Promise<JobRow> {
  for (let tries = 0; tries < 2000; tries += 1) {
    const row = await state(job);
    if (reached(row)) return row;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  throw new Error('It never came to that.');
}
/** Counts on, a step a note, until it has come to the end. */
const counting =
  (seen: number[] = [], pause = () => Promise.resolve()): JobWork =>
  async (job: HeldJob): Promise<JobEnd> => {
    for (let done = job.row.done; done < job.row.total; ) {
      if (job.stopping) return 'stopped';
      await pause();
      done += 1;
      await job.note({ done });
      seen.push(done);
    }
    return { state: 'done', words: null };
  };
const aMoment = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 15));
/** Work that never comes to its end, as a process that was killed leaves it. */
const forEver: JobWork = () => new Promise(() => undefined);

it('is worked on once, to its end, however many processes look', async () => {
  const job = await begin(30);
  const seen: number[] = [];
  const processes = [1, 2, 3].map(() => worker(counting(seen, aMoment)));
  for (const each of processes) each.start();
  const ended = await until(job, (row) => row.state === 'done');
  expect(ended).toMatchObject({ done: 30, words: null, claimedBy: null });
  expect(ended.endedAt).not.toBeNull();
  expect(seen).toEqual(Array.from({ length: 30 }, (_, at) => at + 1));
});

it('keeps its lease while it is worked on, however long a step takes', async () => {
  const job = await begin(1);
  const seen: number[] = [];
  const slow = worker(
    counting(seen, () => new Promise((resolve) => setTimeout(resolve, 700))),
    { leaseMs: 200 },
  );
  slow.start();
  await until(job, (row) => row.claimedBy !== null);
  worker(counting(seen), { leaseMs: 200 }).start();
  await until(job, (row) => row.state === 'done');
  expect(seen).toEqual([1]);
});

it('goes on elsewhere, from its last note, when its process is never heard of again', async () => {
  const job = await begin(10);
  const half = worker(async (held) => {
    await held.note({ done: 5 });
    return forEver(held);
  });
  void half.here(job.id, 'merge', 0);
  await until(job, (row) => row.done === 5);
  const seen: number[] = [];
  worker(counting(seen)).start();
  expect(await releaseDeadJobs(db, (name) => name !== `host/${named - 1}`)).toBeUndefined();
  await until(job, (row) => row.state === 'done');
  expect(seen).toEqual([6, 7, 8, 9, 10]);
});

it('whose lease has lapsed keeps nothing more, nor what belonged to it', async () => {
  const job = await begin(1);
  let late: Promise<void> | undefined;
  let wake = (): void => undefined;
  const stuck = worker(async (held) => {
    await new Promise<void>((resolve) => (wake = resolve));
    late = held.note({ done: 99 }, async (query) => {
      await query("UPDATE jobs SET words = 'kept' WHERE id = ?", [job.id]);
    });
    await late;
    return { state: 'done', words: 'by the stuck one' };
  });
  const held = stuck.here(job.id, 'merge', 0);
  await until(job, (row) => row.claimedBy !== null);
  await db.$client.query('UPDATE jobs SET claimed_until = NOW(3) - INTERVAL 1 SECOND');
  await worker(counting()).work();
  wake();
  await held;
  await expect(late).rejects.toThrow();
  expect(await state(job)).toMatchObject({ state: 'done', done: 1, words: null });
});

it('is paused, goes on from there, and is cancelled', async () => {
  const job = await begin(1000);
  const seen: number[] = [];
  worker(counting(seen, aMoment)).start();
  await until(job, (row) => row.done > 2);
  expect(await setJobState(db, job.id, ['running'], 'paused')).toBe(true);
  const paused = await state(job);
  const left = await until(job, (row) => row.claimedBy === null);
  expect(left).toMatchObject({ state: 'paused', done: paused.done });
  expect(await setJobState(db, job.id, ['running'], 'paused')).toBe(false);
  expect(await setJobState(db, job.id, ['paused'], 'running')).toBe(true);
  await until(job, (row) => row.done > paused.done + 2);
  expect(seen).toEqual([...new Set(seen)]);
  expect(await setJobState(db, job.id, ['running', 'paused'], 'cancelled')).toBe(true);
  const { done } = await state(job);
  expect(await until(job, (row) => row.claimedBy === null)).toMatchObject({ state: 'cancelled', done });
});

it('is let go of at once by a process that stops', async () => {
  const job = await begin(1000);
  const one = worker(counting([], aMoment));
  one.start();
  await until(job, (row) => row.done > 1);
  await one.stop();
  const left = await state(job);
  expect(left).toMatchObject({ state: 'running', claimedBy: null });
  worker(counting()).start();
  await until(job, (row) => row.state === 'done');
});

it('that fails says so, is told of without what it held, and is begun again by hand only', async () => {
  const job = await begin();
  const told: unknown[] = [];
  const broken = worker(
    async () => {
      throw new Error('Kathi Brandt could not be read');
    },
    { log: (...said: unknown[]) => void told.push(said) },
  );
  await broken.work();
  expect(await state(job)).toMatchObject({ state: 'failed', words: 'Something went wrong on our side.' });
  expect(JSON.stringify(told)).toContain(job.id);
  await broken.work();
  expect(told).toHaveLength(1);
});

it('whose turn the database breaks off goes on from its last note', async () => {
  const job = await begin();
  let turns = 0;
  const cut = worker(async (held) => {
    turns += 1;
    if (turns > 1) return { state: 'done', words: null };
    await held.note({ done: 4 });
    // As when the database is killed, and is there again by the time that what became of the job is noted.
    const connection = await mysql.createConnection(process.env['TEST_DATABASE_URL']!);
    await connection.query('KILL CONNECTION_ID()').catch(() => undefined);
    await connection.query('SELECT 1');
    throw new Error('It went on without its connection.');
  });
  await cut.work();
  expect(await state(job)).toMatchObject({ state: 'running', done: 4, words: null, claimedBy: null });
  cut.start();
  await until(job, (row) => row.state === 'done');
  expect(turns).toBe(2);
});

it('that never comes to an end is tried again after a mistake of ours, and says so', async () => {
  const job = await begin();
  const broken = worker(
    async () => {
      throw new Error('a bug');
    },
    { standing: ['merge'] },
  );
  await broken.work();
  const after = await state(job);
  expect(after).toMatchObject({ state: 'running', words: 'Something went wrong on our side.', claimedBy: null });
  expect(after.dueAt.getTime()).toBeGreaterThan(Date.now());
});

it('done again and again is due when it says, or when somebody hastens it', async () => {
  const job = await begin();
  let turns = 0;
  const again = worker(async () => {
    turns += 1;
    return { state: 'running', dueAt: new Date(Date.now() + 3_600_000) };
  });
  await again.work();
  await again.work();
  expect(turns).toBe(1);
  await hastenJob(db, 'merge', 's');
  await again.work();
  expect(turns).toBe(2);
  expect(await state(job)).toMatchObject({ state: 'running', claimedBy: null });
});

it('that somebody waits for is worked on where they are, or waited for where it is', async () => {
  const [one, other] = [await begin(3), await begin(3)];
  expect(await worker(counting()).here(one.id, 'merge', 5000)).toMatchObject({ id: one.id, state: 'done' });
  expect(await state(other)).toMatchObject({ state: 'running', done: 0 });
  worker(counting([], aMoment)).start();
  await until(other, (row) => row.claimedBy !== null || row.state === 'done');
  expect(await worker(counting()).here(other.id, 'merge', 5000)).toMatchObject({ state: 'done', done: 3 });
  expect(await worker(counting()).here('0192f0c1-0000-7000-8000-000000000001', 'merge', 0)).toBeUndefined();
});

it('isn’t taken up by a process that was only made to work where somebody waits', async () => {
  const job = await begin();
  const [byIdle, byWorking]: number[][] = [[], []];
  worker(counting(byIdle)).look();
  const working = worker(counting(byWorking, aMoment));
  working.start();
  await until(job, (row) => row.state === 'done');
  expect(byIdle).toEqual([]);
  expect(byWorking).toHaveLength(10);
});
