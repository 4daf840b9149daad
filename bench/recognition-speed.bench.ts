import { createReadStream, createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';

import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Piscina } from 'piscina';
import { jaroWinkler } from '../core/mapping/index.ts';
import {
  hash52,
  Matcher,
  PEOPLE,
  preparePerson,
  Recogniser,
  THRESHOLDS,
  type Person,
  type PersonRecord,
  type Recognition,
} from '../core/recognition/index.ts';
import type { Result } from '../scripts/bench.ts';
import { startMariadb } from '../scripts/mariadb.ts';
import { freePort } from '../scripts/testing/setup.ts';
import { candidatesOf, createDatabase, migrateDatabase, openDatabase, type Database } from '../server/store/index.ts';
import { makeWorld } from './people.ts';
import { percentile } from './stage.ts';

const SIZES = (process.env['RECOGNITION_SIZES'] ?? '10000,100000,1000000').split(',').map(Number);
/** The search for doubles takes most of the time; `RECOGNITION_BULK=no` leaves it out. */
const BULK = process.env['RECOGNITION_BULK'] !== 'no';
const VERDICTS = 1500;
const PAIRS = 200_000;
/** What a database with a million known people is given: the keys should fit. */
const POOL_BYTES = 3 * 1024 ** 3;

const PARTS = ['first_name', 'last_name', 'email', 'phone', 'street', 'city', 'postcode', 'birth_date'] as const;
const RECOGNITION: Recognition = {
  kind: 'person',
  parts: PARTS.map((part) => ({ part, field: part })),
  thresholds: { ...THRESHOLDS },
  learned: [],
};

/** One verdict among so many known people beside one SELECT by primary key; and all doubles beside a Jaro-Winkler loop. */
export async function bench(): Promise<Result[]> {
  const results: Result[] = [];
  const p99: Record<number, number> = {};
  for (const size of SIZES) {
    const home = mkdtempSync(join(tmpdir(), 'zusammen-bench-'));
    const database = await startMariadb(home, await freePort(), {
      more: [`--innodb-buffer-pool-size=${POOL_BYTES}`, '--local-infile=1'],
    });
    try {
      const url = `${database.url}bench`;
      await createDatabase(url);
      await migrateDatabase(url, 'server/store/migrations');
      const db = openDatabase(url, 4);
      const verdict = await oneVerdict(db, home, size);
      p99[size] = verdict.ours;
      results.push(verdict);
      if (BULK) results.push(await allDoubles(url, size, verdict.packed));
      await db.$client.end();
    } finally {
      await database.stop();
      rmSync(home, { recursive: true, force: true });
    }
  }
  const [smallest, largest] = [Math.min(...SIZES), Math.max(...SIZES)];
  results.push({
    what: `one verdict: p99 among ${say(largest)} over p99 among ${say(smallest)}`,
    unit: 'ms',
    yardstick: p99[smallest]!,
    ours: p99[largest]!,
    ratio: p99[largest]! / p99[smallest]!,
    aim: '≤ 2',
  });
  return results;
}

const say = (count: number): string => count.toLocaleString('en');

/** People and queries about them, prepared; the generator's objects are let go of. */
function made(size: number): { ids: string[]; packed: string[]; queries: Record<string, string>[] } {
  const { records, queries } = makeWorld(size, VERDICTS * 2, 99);
  const ids: string[] = [];
  const packed: string[] = [];
  for (const { id, kind, values } of records) {
    if (kind !== 'person') continue;
    ids.push(id);
    packed.push(PEOPLE.pack(preparePerson({ ...values, id } as PersonRecord)));
  }
  const asked = queries.filter(({ kind }) => kind === 'person').slice(0, VERDICTS);
  return { ids, packed, queries: asked.map(({ values }) => values) };
}

async function oneVerdict(db: Database, home: string, size: number): Promise<Result & { packed: string[] }> {
  const { ids, packed, queries } = made(size);
  const started = performance.now();
  const kept = await fillIndex(db, home, ids, packed);
  const seconds = (performance.now() - started) / 1000;
  const recogniser = new Recogniser(RECOGNITION, ids.length, kept);
  const { kind } = recogniser;
  const [ours, theirs, counts]: [number[], number[], number[]] = [[], [], []];
  const verdict = async (values: Record<string, string>): Promise<number> => {
    const query = recogniser.prepare('', values);
    const rows = await candidatesOf(db, 1, kind.keys(query).map(hash52), ids.length);
    recogniser.weigh(
      query,
      rows.map(({ recordId, packed: text }) => kind.unpack(recordId, text)),
    );
    return rows.length;
  };
  const select = (n: number) => db.$client.query('SELECT n, record_id, packed FROM known_records WHERE n = ?', [n]);
  // Both are warmed up by the first few hundred; then each in turn, so that neither has the quieter machine.
  for (const [at, values] of queries.entries()) {
    let before = performance.now();
    const candidates = await verdict(values);
    const mine = performance.now() - before;
    before = performance.now();
    await select(1 + ((at * 7919) % ids.length));
    const other = performance.now() - before;
    if (at < 300) continue;
    ours.push(mine);
    theirs.push(other);
    counts.push(candidates);
  }
  for (const list of [ours, theirs, counts]) list.sort((a, b) => a - b);
  return {
    what: `one verdict among ${say(ids.length)} known people`,
    unit: 'ms, p99; yardstick: one SELECT by primary key',
    yardstick: percentile(theirs, 0.99),
    ours: percentile(ours, 0.99),
    ratio: percentile(ours, 0.99) / percentile(theirs, 0.99),
    aim: '≤ 10',
    notes: `p50 ${percentile(ours, 0.5).toFixed(2)} against ${percentile(theirs, 0.5).toFixed(2)} ms; candidates p50 ${percentile(counts, 0.5)}, p99 ${percentile(counts, 0.99)}; index filled in ${seconds.toFixed(0)} s`,
    packed,
  };
}

/** The index as the filler makes it, but loaded at once. @returns how common values are */
async function fillIndex(db: Database, home: string, ids: string[], packed: string[]): Promise<Uint32Array[]> {
  const recordFile = resolve(home, 'records.tsv');
  const keyFile = resolve(home, 'keys.tsv');
  const records = createWriteStream(recordFile);
  const common = PEOPLE.frequencies();
  const hashes = new Float64Array(packed.length * 40);
  const owners = new Uint32Array(packed.length * 40);
  let count = 0;
  for (const [at, text] of packed.entries()) {
    const person = PEOPLE.unpack(ids[at]!, text);
    common.add(person);
    for (const key of PEOPLE.keys(person)) {
      hashes[count] = hash52(key);
      owners[count++] = at + 1;
    }
    const line = `${at + 1}\t1\t${ids[at]}\t${text.replaceAll('\\', '\\\\')}\t1\n`;
    if (!records.write(line)) await once(records, 'drain');
  }
  records.end();
  await once(records, 'close');
  const order = new Uint32Array(count)
    .map((_, at) => at)
    .sort((a, b) => hashes[a]! - hashes[b]! || owners[a]! - owners[b]!);
  const out = createWriteStream(keyFile);
  for (let at = 0; at < count; at += 5000) {
    const lines = [...order.subarray(at, at + 5000)].map((each) => `1\t${hashes[each]}\t${owners[each]}`);
    if (!out.write(`${lines.join('\n')}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
  // Our account may read no files of the server, so they are sent.
  const sent = (file: string, sql: string) =>
    db.$client.query({ sql, infileStreamFactory: () => createReadStream(file) });
  await sent(
    recordFile,
    "LOAD DATA LOCAL INFILE 'records' INTO TABLE known_records CHARACTER SET utf8mb4 (n, scope, record_id, packed, generation)",
  );
  await sent(keyFile, "LOAD DATA LOCAL INFILE 'keys' IGNORE INTO TABLE known_keys (scope, hash, n)");
  writeFileSync(recordFile, '');
  writeFileSync(keyFile, '');
  return common.kept();
}

/** All doubles, in two threads as the server's search has them, beside a loop over the same pairs in two threads. */
async function allDoubles(url: string, size: number, packed: string[]): Promise<Result> {
  const data = { databaseUrl: url, scope: 1, otherScope: 1, recognition: RECOGNITION };
  const started = performance.now();
  const pool = new Piscina({
    filename: resolve('dist/doubles-thread.mjs'),
    workerData: data,
    ...{ minThreads: 2, maxThreads: 2, concurrentTasksPerWorker: 1 },
  });
  // Each thread reads all that is known before it answers anything.
  const [{ total }] = (await Promise.all([pool.run(null), pool.run(null)])) as [{ total: number }, unknown];
  const ready = performance.now();
  let next = 0;
  let compared = 0;
  let pairs = 0;
  let rss = 0;
  await Promise.all(
    [0, 1].map(async () => {
      while (next < total) {
        const from = next;
        next += 2000;
        const portion = { from, to: Math.min(total, from + 2000) };
        const found = (await pool.run(portion)) as { compared: number; pairs: unknown[] };
        compared += found.compared;
        pairs += found.pairs.length;
        rss = Math.max(rss, process.memoryUsage().rss);
      }
    }),
  );
  const seconds = (performance.now() - ready) / 1000;
  await pool.destroy();
  const perPair = jaroWinklerPerPair(packed);
  const yardstick = (compared * perPair) / 2 / 1e6;
  return {
    what: `all doubles among ${say(total)} people, two threads`,
    unit: 's; yardstick: the same number of pairs by a plain Jaro-Winkler loop in two threads',
    yardstick,
    ours: seconds,
    ratio: seconds / yardstick,
    aim: size >= 1_000_000 ? '≤ 1.5, ≤ 3 GB' : '≤ 1.5',
    notes: `${say(compared)} pairs compared (${(compared / total).toFixed(1)} a record), ${say(pairs)} found, index in memory in ${((ready - started) / 1000).toFixed(0)} s, ${(rss / 1024 ** 3).toFixed(2)} GB with the benchmark’s own data; a pair ${((seconds * 2e6) / compared).toFixed(1)} µs against ${perPair.toFixed(1)} µs`,
  };
}

/** Microseconds that a loop takes a pair that compares every field of both with Jaro-Winkler, on candidate pairs of the same people. */
function jaroWinklerPerPair(packed: string[]): number {
  const some = packed.slice(0, 20_000);
  const matcher = new Matcher(PEOPLE, { ids: some.map((_, at) => String(at)), packed: some });
  const fields = some.map((text, at) => valuesOf(PEOPLE.unpack(String(at), text)));
  const pairs: [number, number][] = [];
  for (let at = 0; pairs.length < PAIRS && at < some.length; at += 1)
    for (const other of matcher.candidates(matcher.at(at), at)) if (other > at) pairs.push([at, other]);
  let sum = 0;
  const started = performance.now();
  for (const [a, b] of pairs) {
    const [mine, theirs] = [fields[a]!, fields[b]!];
    for (let field = 0; field < mine.length; field += 1)
      if (mine[field] && theirs[field]) sum += jaroWinkler(mine[field]!, theirs[field]!);
  }
  const micros = (performance.now() - started) * 1000;
  if (!Number.isFinite(sum)) throw new Error('The yardstick computed nothing.');
  return micros / pairs.length;
}

const valuesOf = ({ given, family, email, phones, address, born }: Person): string[] => [
  given.join(' '),
  family.join(' '),
  email?.whole ?? '',
  phones[0]?.digits ?? '',
  address ? `${address.street} ${address.number}` : '',
  address?.city ?? '',
  address?.postcode ?? '',
  born ? `${born.year}-${born.month}-${born.day}` : '',
];
