import { readFileSync } from 'node:fs';
import mysql from 'mysql2/promise';
import { freshLine, freshPairing, type Pairing } from '@zusammen/core/pairing';
import type { Result } from '../scripts/bench.ts';
import { callerOf, each, openBench, percentile, tokenOfLetters, type Bench } from './stage.ts';

const PEOPLE = Number(process.env['BENCH_PEOPLE'] ?? 100_000);
const SUBSCRIBERS = PEOPLE * 1.5;
/** Changes made a second on each side, and for how long. */
const RATE = 50;
const SECONDS = Number(process.env['BENCH_SECONDS'] ?? 30);
/** What goes out at once, or in one batch. */
const AT_ONCE = 16;
const PAGE = 500;

/**
 * A pairing's first fill, against a script that reads both sides in pages, joins them and writes the differences; then how
 * long a change takes to the other side while fifty a second are made on each.
 */
export async function bench(): Promise<Result[]> {
  const first = await openBench(['web'], PEOPLE, SUBSCRIBERS);
  const script = await byHand(first).finally(() => first.close());
  const stage = await openBench(['web', 'worker'], PEOPLE, SUBSCRIBERS);
  try {
    const { seconds, pairs, written, id, memory } = await filled(stage);
    return [
      {
        what: `first fill of ${pairs.toLocaleString('en')} pairs of ${PEOPLE.toLocaleString('en')} and ${SUBSCRIBERS.toLocaleString('en')} records`,
        unit: 'seconds',
        yardstick: script.seconds,
        ours: seconds,
        ratio: seconds / script.seconds,
        aim: '≤ 1.3',
        notes: `${written} values written, by the script ${script.written}; memory of the worker ${memory}`,
      },
      await changes(stage, id),
    ];
  } finally {
    await stage.close();
  }
}

interface Subscriber {
  id: string;
  version: number;
  email: string;
  given: string | null;
  family: string | null;
  keeper: string | null;
  crm_id: string | null;
}
interface Person {
  id: string;
  email: string | null;
  first_name: string | null;
  last_name: string;
  owner_id: string | null;
}

/** What a script written for the purpose would do. */
async function byHand({ standins }: Bench): Promise<{ seconds: number; written: number }> {
  const started = performance.now();
  const letters = { Authorization: `Bearer ${await tokenOfLetters(standins)}`, 'Content-Type': 'application/json' };
  const crm = { Authorization: 'Bearer demo-integration', Prefer: `maxpagesize=${PAGE}` };
  const owners = new Map<string, string>();
  const byId = new Map<string, Person>();
  const byEmail = new Map<string, Person[]>();
  const read = async <T>(from: string, take: (record: T) => void): Promise<void> => {
    for (let next: string | undefined = from; next; ) {
      const page = (await (await fetch(next, { headers: crm })).json()) as { value: T[]; '@odata.nextLink'?: string };
      page.value.forEach(take);
      next = page['@odata.nextLink'] && new URL(page['@odata.nextLink'], `${standins}/crm/odata/`).href;
    }
  };
  await read<{ id: string; name: string }>(`${standins}/crm/odata/Users?$select=id,name`, ({ id, name }) =>
    owners.set(id, name),
  );
  await read<Person>(`${standins}/crm/odata/People?$select=id,email,first_name,last_name,owner_id`, (person) => {
    byId.set(person.id, person);
    const email = person.email?.toLowerCase();
    if (email) byEmail.set(email, [...(byEmail.get(email) ?? []), person]);
  });
  const due: { subscriber: Subscriber; values: Record<string, string> }[] = [];
  for (let cursor: string | null = ''; cursor !== null; ) {
    const more: string = cursor === '' ? '' : `&cursor=${cursor}`;
    const response = await fetch(`${standins}/letters/v1/subscribers?limit=${PAGE}${more}`, { headers: letters });
    const page = (await response.json()) as { items: Subscriber[]; next: string | null };
    for (const subscriber of page.items) {
      const alike = byEmail.get(subscriber.email) ?? [];
      const person = (subscriber.crm_id && byId.get(subscriber.crm_id)) || (alike.length === 1 ? alike[0] : undefined);
      if (!person) continue;
      const values: Record<string, string> = {};
      if (person.first_name && person.first_name !== subscriber.given) values['given'] = person.first_name;
      if (person.last_name !== subscriber.family) values['family'] = person.last_name;
      const keeper = owners.get(person.owner_id ?? '');
      if (keeper && keeper !== subscriber.keeper) values['keeper'] = keeper;
      if (Object.keys(values).length > 0) due.push({ subscriber, values });
    }
    cursor = page.next;
  }
  let written = 0;
  await each(due.length, AT_ONCE, async (at) => {
    const { subscriber, values } = due[at]!;
    const response = await fetch(`${standins}/letters/v1/subscribers/${subscriber.id}`, {
      method: 'PATCH',
      headers: letters,
      body: JSON.stringify({ ...values, version: subscriber.version }),
    });
    if (response.ok) written += Object.keys(values).length;
    await response.arrayBuffer();
  });
  return { seconds: (performance.now() - started) / 1000, written };
}

/** The same by a pairing. */
async function filled(stage: Bench) {
  const api = await callerOf(stage.address);
  const { systems } = (await api('GET', '/systems')) as { systems: { id: string; name: string }[] };
  const named = (name: string): string => systems.find((system) => system.name === name)!.id;
  const document: Pairing = {
    ...freshPairing(
      'Subscribers with people',
      { system: named('Co-op Letters'), entity: 'subscribers' },
      { system: named('Co-op CRM'), entity: 'People' },
    ),
    matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }, { parts: [{ left: ['email'], right: ['email'] }] }],
    lines: [
      { ...freshLine('given', ['given'], ['first_name']), decides: 'right' },
      { ...freshLine('family', ['family'], ['last_name']), decides: 'right' },
      { ...freshLine('keeper', ['keeper'], ['owner_id', 'name']), way: 'to left' },
    ],
  };
  const { id } = (await api('POST', '/pairings', { document })) as { id: string };
  const database = await mysql.createConnection({ uri: stage.databaseUrl });
  const tell = async (text: string): Promise<Record<string, number>> =>
    ((await database.query(text, [id]))[0] as Record<string, number>[])[0]!;
  // The index of known records is there before anybody makes a pairing.
  while (Number((await tell('SELECT COUNT(*) AS open FROM feeds WHERE filled_at IS NULL AND ? <> ""'))['open']) > 0)
    await new Promise((resolve) => setTimeout(resolve, 200));
  const started = performance.now();
  await api('POST', `/pairings/${id}/start`, { revision: 1, accept: true });
  const sizes: number[] = [];
  for (;;) {
    sizes.push(Math.max(...stage.servers.map(({ pid }) => residentMb(pid))));
    const { filled: done } = await tell('SELECT filled FROM pairings WHERE id = ?');
    if (done === 1) break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const seconds = (performance.now() - started) / 1000;
  const { pairs } = await tell(
    'SELECT COUNT(*) AS pairs FROM pairs WHERE pairing_id = ? AND left_id IS NOT NULL AND right_id IS NOT NULL',
  );
  const { written } = await tell(
    "SELECT SUM(JSON_LENGTH(after_values)) AS written FROM ledger WHERE state = 'written' AND turn IN (SELECT id FROM turns WHERE kind = 'pair') AND ? <> ''",
  );
  await database.end();
  const third = Math.floor(sizes.length / 3);
  const memory = `${Math.round(Math.max(...sizes.slice(third, 2 * third)))} MB in the second third, ${Math.round(Math.max(...sizes.slice(2 * third)))} MB in the last`;
  return { seconds, pairs: Number(pairs), written: Number(written), id, memory };
}

const residentMb = (pid: number): number => {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
};

/** Changes on both sides at a rate; each is on the other side when its write has been answered. */
async function changes(stage: Bench, pairing: string): Promise<Result> {
  const { standins } = stage;
  const database = await mysql.createConnection({ uri: stage.databaseUrl });
  const [rows] = await database.query(
    'SELECT left_id, right_id FROM pairs WHERE pairing_id = ? AND left_id IS NOT NULL AND right_id IS NOT NULL ORDER BY id LIMIT ?',
    [pairing, RATE * SECONDS * 2],
  );
  const pairs = rows as { left_id: string; right_id: string }[];
  const letters = { Authorization: `Bearer ${await tokenOfLetters(standins)}`, 'Content-Type': 'application/json' };
  const crm = { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json', 'If-Match': '*' };
  const made = new Map<string, number>();
  const change = async (at: number): Promise<void> => {
    const { left_id: left, right_id: right } = pairs[at]!;
    if (at % 2 === 0) {
      const url = `${standins}/crm/odata/People('${right}')`;
      const response = await fetch(url, {
        method: 'PATCH',
        headers: crm,
        body: JSON.stringify({ first_name: `Crm${at}` }),
      });
      await response.arrayBuffer();
      made.set(left, Date.now());
      return;
    }
    const url = `${standins}/letters/v1/subscribers/${left}`;
    const { version } = (await (await fetch(url, { headers: letters })).json()) as { version: number };
    const body = JSON.stringify({ given: `Letters${at}`, version });
    const response = await fetch(url, { method: 'PATCH', headers: letters, body });
    await response.arrayBuffer();
    made.set(right, Date.now());
  };
  const started = new Date();
  const begun = performance.now();
  const running: Promise<void>[] = [];
  for (let at = 0; at < RATE * SECONDS * 2; at += 1) {
    const due = begun + (at * 1000) / (RATE * 2);
    const wait = due - performance.now();
    if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait));
    running.push(change(at));
  }
  await Promise.all(running);
  const times: number[] = [];
  for (let looked = 0; times.length < made.size && looked < 300; looked += 1) {
    await new Promise((resolve) => setTimeout(resolve, 200));
    const [settled] = await database.query(
      "SELECT record_id, MAX(settled_at) AS at FROM ledger WHERE state = 'written' AND intended_at >= ? GROUP BY record_id",
      [started],
    );
    times.length = 0;
    for (const { record_id: record, at } of settled as { record_id: string; at: Date }[]) {
      const from = made.get(record);
      if (from !== undefined) times.push(new Date(at).getTime() - from);
    }
  }
  await database.end();
  times.sort((a, b) => a - b);
  const p95 = percentile(times, 0.95);
  return {
    what: `a change to the other side, ${RATE} a second on each`,
    unit: 'ms, p95',
    yardstick: 2_000,
    ours: p95,
    ratio: p95 / 2_000,
    aim: '≤ 1',
    notes: `${times.length} of ${made.size} arrived; median ${Math.round(percentile(times, 0.5))} ms, p99 ${Math.round(percentile(times, 0.99))} ms`,
  };
}
