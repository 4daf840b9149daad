import { queryOf } from '../server/systems/index.ts';
import { Agent } from 'node:http';
import mysql from 'mysql2/promise';
import type { Result } from '../scripts/bench.ts';
import { each, formBody, openBench, post, settled } from './stage.ts';

const AMOUNT = 1000;
const CONCURRENCY = 16;

/**
 * A submission from end to end (recognise, create or update one person, ledger), against a script that makes the
 * same OData calls with the same concurrency; then a thousand posts about one person, which must end in one record.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench();
  const database = await mysql.createConnection({ uri: stage.databaseUrl });
  const script = async (round: string): Promise<number> => {
    const started = performance.now();
    await each(AMOUNT, CONCURRENCY, (at) => byHand(stage.standins, `script${round}-${at}@biene.example`, at));
    return AMOUNT / ((performance.now() - started) / 1000);
  };
  const ours = async (round: string): Promise<number> => {
    const agent = new Agent({ keepAlive: true, maxSockets: CONCURRENCY });
    const started = performance.now();
    await each(AMOUNT, CONCURRENCY, async (at) => {
      const status = await post(
        agent,
        `${stage.address}/in/pollination-enquiry`,
        formBody(at, `ours${round}-${at}@biene.example`),
      );
      if (status !== 202) throw new Error(`answered ${status}`);
    });
    await settled(database);
    const rate = AMOUNT / ((performance.now() - started) / 1000);
    agent.destroy();
    return rate;
  };
  await script('warm');
  await ours('warm');
  const byScript: number[] = [];
  const byUs: number[] = [];
  for (const round of ['a', 'b']) {
    byScript.push(await script(round));
    byUs.push(await ours(round));
    // A minute's window of the rate limit must not be the measurement.
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const mean = (list: number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;
  const same = await samePerson(stage.address, stage.standins, () => settled(database));
  await database.end();
  await stage.close();
  return [
    {
      what: 'submission end to end, new people',
      unit: `submissions/s, concurrency ${CONCURRENCY}`,
      yardstick: mean(byScript),
      ours: mean(byUs),
      ratio: mean(byUs) / mean(byScript),
      aim: '≥ 0.8',
    },
    {
      what: '1,000 posts about one person',
      unit: 'records made',
      yardstick: 1,
      ours: same.records,
      ratio: same.records,
      aim: '= 1',
      notes: `16 connections, all carried out after ${same.seconds.toFixed(1)} s`,
    },
  ];
}

/** What a script written for the purpose would do: look the address up, then create or change the person. */
async function byHand(standins: string, email: string, at: number): Promise<void> {
  const headers = {
    Authorization: 'Bearer demo-integration',
    'Content-Type': 'application/json',
    Prefer: 'return=representation',
  };
  const query = queryOf({ $filter: `tolower(email) eq '${email}'`, $top: '10', $orderby: 'id' });
  const found = (await (await fetch(`${standins}/crm/odata/People?${query}`, { headers })).json()) as {
    value: { id: string; '@odata.etag': string }[];
  };
  const body = JSON.stringify({
    first_name: 'Kathi',
    last_name: `Brandt${at}`,
    email,
    phone: '+493023125077',
    street: 'Am Deich 14a',
    postcode: '21614',
    city: 'Hollowbrook',
    notes: 'Please call before the weekend.',
  });
  const repeat = {
    'Repeatability-Request-ID': crypto.randomUUID(),
    'Repeatability-First-Sent': new Date().toUTCString(),
  };
  const [person] = found.value;
  const response = person
    ? await fetch(`${standins}/crm/odata/People('${person.id}')`, {
        method: 'PATCH',
        headers: { ...headers, ...repeat, 'If-Match': person['@odata.etag'] },
        body,
      })
    : await fetch(`${standins}/crm/odata/People`, { method: 'POST', headers: { ...headers, ...repeat }, body });
  if (!response.ok) throw new Error(`the CRM answered ${response.status}`);
  await response.text();
}

async function samePerson(
  address: string,
  standins: string,
  done: () => Promise<void>,
): Promise<{ records: number; seconds: number }> {
  const agent = new Agent({ keepAlive: true, maxSockets: 16 });
  const started = performance.now();
  let next = 0;
  await Promise.all(
    Array.from({ length: 16 }, async () => {
      for (let at = next++; at < 1000; at = next++)
        await post(agent, `${address}/in/pollination-enquiry`, formBody(at, 'same@biene.example'));
    }),
  );
  await done();
  const seconds = (performance.now() - started) / 1000;
  agent.destroy();
  const query = queryOf({ $filter: "tolower(email) eq 'same@biene.example'" });
  const response = await fetch(`${standins}/crm/odata/People?${query}`, {
    headers: { Authorization: 'Bearer demo-integration' },
  });
  return { records: ((await response.json()) as { value: unknown[] }).value.length, seconds };
}
