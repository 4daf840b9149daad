import { queryOf } from '../server/systems/index.ts';
import { Agent } from 'node:http';
import { readFileSync } from 'node:fs';
import mysql from 'mysql2/promise';
import type { Running } from '../scripts/processes.ts';
import type { Result } from '../scripts/bench.ts';
import { freePort } from '../scripts/testing/setup.ts';
import { formBody, load, openBench, percentile, post, type Bench, settled } from './stage.ts';

const AMOUNT = 1000;
const SENDERS = 32;
const SECONDS = 5;
/** Submissions over which a worker's memory must not grow. */
const MANY = 20_000;

/**
 * Worker processes of their own: how fast 1, 2 and 4 of them carry out what waits, whether a failing system is felt by
 * those who send, whether memory stays flat, and whether 500 changes of one person over 8 of them end in the last one.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench(['web']);
  const database = await mysql.createConnection({ uri: stage.databaseUrl });
  const results: Result[] = [];
  const rates = new Map<number, number[]>();
  // There and back: the CRM's tables grow, and a slow minute of the machine hits all.
  for (const count of [1, 2, 4, 4, 2, 1])
    rates.set(count, [...(rates.get(count) ?? []), await carriedOut(stage, database, count)]);
  const mean = (list: readonly number[]): number => list.reduce((sum, each) => sum + each, 0) / list.length;
  const one = mean(rates.get(1)!);
  for (const [count, measured] of rates) {
    const rate = mean(measured);
    results.push({
      what: `carried out by ${count} ${count === 1 ? 'worker' : 'workers'}`,
      unit: `submissions/s, ${AMOUNT} waiting; yardstick: one worker`,
      yardstick: one,
      ours: rate,
      ratio: rate / one,
      aim: 'no less than with one; two cores',
    });
  }
  results.push(await acceptUnderTrouble(stage));
  results.push(await memory(stage, database));
  results.push(await order(stage, database));
  await database.end();
  await stage.close();
  return results;
}

/** As from many visitors: the rate limit goes by the address, which a proxy on loopback may say. */
function sendFrom(agent: Agent, stage: Bench, at: number, email: string): Promise<number> {
  const visitor = { 'X-Forwarded-For': `10.${(at >> 12) & 255}.${(at >> 4) & 255}.1` };
  return post(agent, `${stage.address}/in/pollination-enquiry`, formBody(at, email), undefined, visitor);
}

async function send(stage: Bench, amount: number, email: (at: number) => string): Promise<void> {
  const agent = new Agent({ keepAlive: true, maxSockets: SENDERS });
  let next = 0;
  await Promise.all(
    Array.from({ length: SENDERS }, async () => {
      for (let at = next++; at < amount; at = next++) {
        const status = await sendFrom(agent, stage, at, email(at));
        if (status !== 202) throw new Error(`answered ${status}`);
      }
    }),
  );
  agent.destroy();
}

async function workers(stage: Bench, count: number): Promise<Running[]> {
  return Promise.all(Array.from({ length: count }, async () => stage.start('worker', await freePort())));
}

let rounds = 0;
async function carriedOut(stage: Bench, database: mysql.Connection, count: number): Promise<number> {
  rounds += 1;
  const round = rounds;
  await send(stage, AMOUNT, (at) => `load${round}-${at}@biene.example`);
  const [last] = (await database.query('SELECT MAX(seq) AS seq FROM submissions'))[0] as { seq: number }[];
  const running = await workers(stage, count);
  await settled(database);
  for (const each of running) await each.stop();
  // From the first to the last that was settled: starting the processes isn't what is measured.
  const [row] = (
    await database.query(
      'SELECT COUNT(*) AS count, TIMESTAMPDIFF(MICROSECOND, MIN(settled_at), MAX(settled_at)) AS span FROM submissions WHERE seq > ? AND seq <= ?',
      [last!.seq - AMOUNT, last!.seq],
    )
  )[0] as { count: number; span: number }[];
  return Number(row!.count) / (Number(row!.span) / 1_000_000);
}

/** The time of those who send, while the system that all of it goes to fails and a worker keeps trying. */
async function acceptUnderTrouble(stage: Bench): Promise<Result> {
  const measure = (mark: string) =>
    load(SENDERS, SECONDS, async (agent, at) => {
      const status = await sendFrom(agent, stage, at, `${mark}${at}@biene.example`);
      if (status !== 202) throw new Error(`answered ${status}`);
    });
  const [worker] = await workers(stage, 1);
  await measure('warm');
  const calm = await measure('calm');
  await fetch(`${stage.standins}/faults`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ system: 'crm', kind: 'fail', share: 1 }),
  });
  const troubled = await measure('troubled');
  await fetch(`${stage.standins}/faults`, { method: 'DELETE' });
  await worker!.stop();
  const [before, after] = [percentile(calm.times, 0.99), percentile(troubled.times, 0.99)];
  return {
    what: 'accept, p99 while the system fails',
    unit: 'ms; yardstick: while it answers',
    yardstick: before,
    ours: after,
    ratio: after / before,
    aim: '≤ 1, within noise',
  };
}

const residentMb = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

/** A worker's memory after a first part of many submissions, and after all of them. */
async function memory(stage: Bench, database: mysql.Connection): Promise<Result> {
  // What was left over from before is carried out first.
  const [worker] = await workers(stage, 1);
  await settled(database);
  await send(stage, MANY / 4, (at) => `memory-a${at}@biene.example`);
  await settled(database);
  const first = residentMb(worker!.pid);
  await send(stage, (MANY * 3) / 4, (at) => `memory-b${at % 4000}@biene.example`);
  await settled(database);
  const last = residentMb(worker!.pid);
  await worker!.stop();
  return {
    what: `memory of a worker after ${MANY.toLocaleString('en')} submissions`,
    unit: `MB resident; yardstick: after the first ${(MANY / 4).toLocaleString('en')}`,
    yardstick: first,
    ours: last,
    ratio: last / first,
    aim: '≤ 1.2',
  };
}

/** 500 changes of one person, over 8 workers: the last one sent has the last word. */
async function order(stage: Bench, database: mysql.Connection): Promise<Result> {
  const running = await workers(stage, 8);
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  let wrong = 0;
  for (const round of [1, 2, 3]) {
    const email = `order${round}@biene.example`;
    for (let at = 0; at < 500; at += 1) await sendFrom(agent, stage, at, email);
    await settled(database);
    const query = queryOf({ $filter: `tolower(email) eq '${email}'` });
    const response = await fetch(`${stage.standins}/crm/odata/People?${query}`, {
      headers: { Authorization: 'Bearer demo-integration' },
    });
    const { value } = (await response.json()) as { value: { last_name: string }[] };
    const expected = new URLSearchParams(formBody(499, email)).get('contact_last');
    if (value.length !== 1 || value[0]!.last_name !== expected) wrong += 1;
  }
  agent.destroy();
  for (const each of running) await each.stop();
  return {
    what: '500 changes of one person over 8 workers, three times',
    unit: 'times the last one sent was not the last',
    yardstick: 0,
    ours: wrong,
    ratio: wrong,
    aim: '= 0',
  };
}
