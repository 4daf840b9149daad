import { Agent } from 'node:http';
import mysql from 'mysql2/promise';
import { schemaFrom } from '@zusammen/core/adapters';
import { entityOf } from '@zusammen/core/schema';
import type { Result } from '../scripts/bench.ts';
import { capabilitiesOf, directly, JsonSystem, lookAt, lookingSend, type From } from '../server/systems/index.ts';
import { callerOf, each, openBench, post, settled, tokenOfLetters } from './stage.ts';

const RECORDS = 100_000;
const AMOUNT = 1000;
const CONCURRENCY = 8;
/** How much later a system answers that is reached over a network. */
const ELSEWHERE_MS = 30;
const SECRETS = { clientId: 'demo', clientSecret: 'demo-secret' };

/**
 * A system with a plain JSON API: all its records read page by page, against a script that reads the same pages; and
 * submissions from end to end into it, against a script that sends the same requests with the same concurrency.
 */
export async function bench(): Promise<Result[]> {
  const many = await openBench(['web'], 400, RECORDS);
  const read = await reading(many.standins).finally(() => many.close());
  // Its lists count their records every time: with many, that would be all that is measured.
  const stage = await openBench(['web', 'worker'], 400, 2000);
  return [read, ...(await endToEnd(stage).finally(() => stage.close()))];
}

async function reading(standins: string): Promise<Result> {
  const via = directly();
  const { adapter } = await lookAt(
    { address: `${standins}/letters/openapi.json`, secrets: SECRETS },
    via.dispatcher,
    via.readDescription,
  );
  const system = new JsonSystem(adapter, capabilitiesOf(adapter), lookingSend(adapter.signIn, SECRETS, via.dispatcher));
  const entity = entityOf(schemaFrom(adapter), 'subscribers')!;
  const ours = async (): Promise<number> => {
    const started = performance.now();
    let count = 0;
    for (let from: From | undefined, first = true; first || from; first = false) {
      const page = await system.page(entity, [], from);
      count += page.records.length;
      from = page.next === undefined ? undefined : { link: page.next };
    }
    return count / ((performance.now() - started) / 1000);
  };
  const headers = { Authorization: `Bearer ${await tokenOfLetters(standins)}` };
  const script = async (): Promise<number> => {
    const started = performance.now();
    let count = 0;
    for (let cursor: string | null = ''; cursor !== null; ) {
      const more: string = cursor === '' ? '' : `&cursor=${cursor}`;
      const response = await fetch(`${standins}/letters/v1/subscribers?limit=500${more}`, { headers });
      const body = (await response.json()) as { items: unknown[]; next: string | null };
      count += body.items.length;
      cursor = body.next;
    }
    return count / ((performance.now() - started) / 1000);
  };
  await script();
  await ours();
  const [a, b] = [await script(), await ours()];
  const [c, d] = [await script(), await ours()];
  return {
    what: `${RECORDS.toLocaleString('en')} records through pages of 500`,
    unit: 'records/s',
    yardstick: (a + c) / 2,
    ours: (b + d) / 2,
    ratio: (b + d) / (a + c),
    aim: '≥ 0.8',
  };
}

async function endToEnd(stage: Awaited<ReturnType<typeof openBench>>): Promise<Result[]> {
  const { address, standins } = stage;
  await subscribersOnly(address);
  const database = await mysql.createConnection({ uri: stage.databaseUrl });
  const token = await tokenOfLetters(standins);
  const script = async (round: string): Promise<number> => {
    const started = performance.now();
    await each(AMOUNT, CONCURRENCY, (at) => byHand(standins, token, `script${round}-${at}@biene.example`));
    return AMOUNT / ((performance.now() - started) / 1000);
  };
  const ours = async (round: string): Promise<number> => {
    const agent = new Agent({ keepAlive: true, maxSockets: CONCURRENCY });
    const started = performance.now();
    await each(AMOUNT, CONCURRENCY, async (at) => {
      const body = new URLSearchParams({
        mail: `ours${round}-${at}@biene.example`,
        vorname: 'Kathi',
        nachname: 'Brandt',
        ok: '1',
        utm_source: 'fair',
      });
      const status = await post(agent, `${address}/in/letters-only`, body.toString());
      if (status !== 202) throw new Error(`answered ${status}`);
    });
    await settled(database);
    const rate = AMOUNT / ((performance.now() - started) / 1000);
    agent.destroy();
    return rate;
  };
  await script('warm');
  await ours('warm');
  const compared = async (where: string, round: string): Promise<Result> => {
    const [a, b] = [await script(`${round}a`), await ours(`${round}a`)];
    const [c, d] = [await script(`${round}b`), await ours(`${round}b`)];
    return {
      what: `submission end to end into a JSON API ${where}, new subscribers`,
      unit: `submissions/s, concurrency ${CONCURRENCY}`,
      yardstick: (a + c) / 2,
      ours: (b + d) / 2,
      ratio: (b + d) / (a + c),
      aim: '≥ 0.8',
    };
  };
  const here = await compared('on these two cores', 'here');
  await fetch(`${standins}/faults`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ system: 'letters', kind: 'slow', share: 1, ms: ELSEWHERE_MS }),
  });
  const elsewhere = await compared(`that answers after ${ELSEWHERE_MS} ms`, 'elsewhere');
  await database.end();
  return [here, elsewhere];
}

/** An intake whose only step is the subscriber. */
async function subscribersOnly(address: string): Promise<void> {
  const call = await callerOf(address);
  const api = async (method: string, path: string, body?: unknown) =>
    (await call(method, path, body)) as {
      intakes: { id: string; key: string }[];
      intake: { id: string; draft: { name: string; plan: { steps: { id: string }[] } } };
    };
  const { intakes } = await api('GET', '/intakes');
  const { intake } = await api('GET', `/intakes/${intakes.find(({ key }) => key === 'letters-sign-up')!.id}`);
  const document = intake.draft;
  document.name = 'Letters only';
  document.plan.steps = document.plan.steps.filter(({ id }) => id === 'subscriber');
  const made = await api('POST', '/intakes', { key: 'letters-only', document });
  await api('POST', `/intakes/${made.intake.id}/publish`, { revision: 1, accept: true });
}

/** What a script written for the purpose would do: look the address up, then make or change the subscriber. */
async function byHand(standins: string, token: string, email: string): Promise<void> {
  const base = `${standins}/letters/v1/subscribers`;
  const headers = { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' };
  const found = (await (await fetch(`${base}?email=${encodeURIComponent(email)}&limit=10`, { headers })).json()) as {
    items: { id: string; version: number }[];
  };
  const values = { email, given: 'Kathi', family: 'Brandt', wants_letters: true, came_from: 'fair' };
  const [known] = found.items;
  const response = known
    ? await fetch(`${base}/${known.id}`, {
        method: 'PATCH',
        headers,
        body: JSON.stringify({ ...values, version: known.version }),
      })
    : await fetch(base, {
        method: 'POST',
        headers: { ...headers, 'Idempotency-Key': crypto.randomUUID() },
        body: JSON.stringify(values),
      });
  if (!response.ok) throw new Error(`${email}: ${response.status} ${await response.text()}`);
  await response.json();
}
