import { Agent, request } from 'node:http';
import type { Connection } from 'mysql2/promise';
import { startWhole, type Whole } from '../scripts/testing/whole.ts';

export type Bench = Whole;

/**
 * A whole Zusammen from what was built, on a MariaDB as durable as in earnest.
 * @param roles its processes; as `npm start` starts them where nothing is said
 */
export const openBench = (
  roles: readonly ('web' | 'worker' | 'all')[] = ['web', 'worker'],
  people = 2000,
  subscribers = people,
): Promise<Bench> => startWhole({ roles, people, organisations: 50, subscribers });

/** One POST over a kept-open connection. @returns the status */
export function post(
  agent: Agent,
  url: string,
  body: string,
  contentType = 'application/x-www-form-urlencoded',
  headers: Record<string, string> = {},
): Promise<number> {
  return new Promise((resolve, reject) => {
    const sent = request(
      url,
      {
        method: 'POST',
        agent,
        headers: { ...headers, 'Content-Type': contentType, 'Content-Length': Buffer.byteLength(body) },
      },
      (response) => {
        response.resume();
        response.once('end', () => resolve(response.statusCode ?? 0));
      },
    );
    sent.once('error', reject);
    sent.end(body);
  });
}

/** Runs `work` over `connections` at once for `seconds`. @returns how often it was done a second, and the times in ms, sorted */
export async function load(
  connections: number,
  seconds: number,
  work: (agent: Agent, at: number) => Promise<void>,
): Promise<{ rate: number; times: number[] }> {
  const agent = new Agent({ keepAlive: true, maxSockets: connections });
  const end = performance.now() + seconds * 1000;
  const times: number[] = [];
  let at = 0;
  const started = performance.now();
  await Promise.all(
    Array.from({ length: connections }, async () => {
      while (performance.now() < end) {
        const begun = performance.now();
        await work(agent, (at += 1));
        times.push(performance.now() - begun);
      }
    }),
  );
  const rate = times.length / ((performance.now() - started) / 1000);
  agent.destroy();
  return { rate, times: times.sort((a, b) => a - b) };
}

export const percentile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

export function formBody(at: number, email = `bench${at}@biene.example`): string {
  return new URLSearchParams({
    orchard: 'Obsthof Brandt',
    contact_first: 'Kathi',
    contact_last: `Brandt${at}`,
    contact_email: email,
    contact_phone: '030 23125 077',
    street: 'Am Deich',
    house_no: '14a',
    plz: '21614',
    town: 'Hollowbrook',
    message: 'Please call before the weekend.',
  }).toString();
}

/** Resolves when everything that was taken in has been carried out. */
export async function settled(database: Connection): Promise<void> {
  for (;;) {
    const [rows] = await database.query("SELECT COUNT(*) AS count FROM submissions WHERE state = 'received'");
    if (Number((rows as { count: number }[])[0]!.count) === 0) return;
    // Looked at seldom enough that the looking isn't what is measured.
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Does work for each number below `amount`, so many at once. */
export async function each(amount: number, concurrency: number, work: (at: number) => Promise<void>): Promise<void> {
  let next = 0;
  await Promise.all(
    Array.from({ length: concurrency }, async () => {
      for (let at = next++; at < amount; at = next++) await work(at);
    }),
  );
}

/** A token of the mailing system. */
export async function tokenOfLetters(standins: string): Promise<string> {
  const body = new URLSearchParams({
    grant_type: 'client_credentials',
    client_id: 'demo',
    client_secret: 'demo-secret',
  });
  const response = await fetch(`${standins}/letters/oauth/token`, { method: 'POST', body });
  return ((await response.json()) as { access_token: string }).access_token;
}

/** A system elsewhere answers about so much later than our stand-in, which stands beside us; milliseconds. */
export const AWAY_MS = 40;

/** Does something while whatever the CRM is asked takes a while longer, as over a distance. */
export async function away<T>({ standins }: Bench, work: () => Promise<T>): Promise<T> {
  const fault = { system: 'crm', kind: 'slow', ms: AWAY_MS, share: 1 };
  const armed = await fetch(`${standins}/faults`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(fault),
  });
  if (!armed.ok) throw new Error(await armed.text());
  try {
    return await work();
  } finally {
    await fetch(`${standins}/faults`, { method: 'DELETE' });
  }
}

/** Calls our API as the demo's administrator. @throws where it says no */
export async function callerOf(
  address: string,
): Promise<(method: string, path: string, body?: unknown) => Promise<unknown>> {
  const session = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'mara@cloverhollow.example', password: 'clover-hollow' }),
  });
  const cookie = session.headers.get('set-cookie')!.split(';')[0]!;
  return async (method, path, body) => {
    const response = await fetch(`${address}/api${path}`, {
      method,
      headers: { cookie, ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(text);
    return text === '' ? undefined : JSON.parse(text);
  };
}
