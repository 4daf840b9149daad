import type { Result } from '../scripts/bench.ts';
import { queryOf } from '../server/systems/index.ts';
import { conversionsOn } from '../server/testing/conversions.ts';
import type { Json, Stage } from '../server/testing/stage.ts';
import { away, AWAY_MS, callerOf, each, openBench, type Bench } from './stage.ts';

const AMOUNT = 5000;
const AMOUNT_AWAY = 1000;
/** So much goes out at once. */
const BATCH = 16;

/**
 * 5,000 enquiries become people with contracts and are marked, by a conversion of many, against a script that makes the
 * same OData requests, a batch at a time.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench();
  try {
    const api = await callerOf(stage.address);
    const crm = crmOf(stage);
    await made(crm, 'warm', 200);
    await byHand(crm, 'warm');
    await published(api, crm);
    const sides = ['script', 'ours', 'script far', 'ours far'] as const;
    for (const source of sides) await made(crm, source, source.endsWith('far') ? AMOUNT_AWAY : AMOUNT);
    const compared = async (amount: number, script: string, ours: string): Promise<Compared> => {
      const theirs = amount / (await byHand(crm, script));
      const own = amount / (await converted(api, ours, amount));
      return { unit: 'records/s', yardstick: theirs, ours: own, ratio: own / theirs, aim: '≥ 0.8', notes: NOTES };
    };
    const beside = await compared(AMOUNT, 'script', 'ours');
    const far = await away(stage, () => compared(AMOUNT_AWAY, 'script far', 'ours far'));
    const { length: contracts } = await listed(crm, 'Contracts', "startswith(number,'E-') and hives eq 7");
    if (contracts !== 2 * AMOUNT + 2 * AMOUNT_AWAY + 200) throw new Error(`There are ${contracts} contracts.`);
    return [
      { what: `${AMOUNT.toLocaleString('en')} enquiries are converted, the system beside us`, ...beside },
      {
        what: `${AMOUNT_AWAY.toLocaleString('en')} enquiries are converted, the system ${AWAY_MS} ms away`,
        ...far,
      },
    ];
  } finally {
    await stage.close();
  }
}

type Compared = Omit<Result, 'what'>;
const NOTES = `a person, a contract and a mark each; the script sends ${BATCH} at once`;

type Crm = (path: string, init?: { method: string; body: object; etag?: string }) => Promise<Json>;

const crmOf =
  ({ standins }: Bench): Crm =>
  async (path, init) => {
    const response = await fetch(`${standins}/crm/odata/${path}`, {
      method: init?.method ?? 'GET',
      headers: {
        Authorization: 'Bearer demo-integration',
        'Content-Type': 'application/json',
        Prefer: init ? 'return=representation' : 'maxpagesize=500',
        ...(init?.etag === undefined ? {} : { 'If-Match': init.etag }),
        ...(init
          ? {
              'Repeatability-Request-ID': crypto.randomUUID(),
              'Repeatability-First-Sent': new Date().toUTCString(),
            }
          : {}),
      },
      ...(init ? { body: JSON.stringify(init.body) } : {}),
    });
    if (!response.ok) throw new Error(`the CRM answered ${response.status}: ${await response.text()}`);
    return response.json();
  };

/** Enquiries of a source. */
const made = (crm: Crm, source: string, amount: number): Promise<void> =>
  each(amount, BATCH, async (at) => {
    const body = {
      ...{ subject: `Bees ${at}`, kind: 'pollination', status: 'open', source, hives_wanted: 7, crops: ['apple'] },
      ...{ caller_name: `Brandt${at}`, caller_email: `${source.replace(' ', '')}${at}@umwandel.example` },
    };
    await crm('Enquiries', { method: 'POST', body });
  });

async function listed(crm: Crm, set: string, filter: string): Promise<Json[]> {
  const all: Json[] = [];
  for (let next: string | undefined = `${set}?${queryOf({ $filter: filter })}`; next; ) {
    const page: Json = await crm(next);
    all.push(...page.value);
    const link: string | undefined = page['@odata.nextLink'];
    next = link?.replace(/^.*\/crm\/odata\//, '');
  }
  return all;
}

/** What a script written for the purpose would do. @returns how long it took, in seconds */
async function byHand(crm: Crm, source: string): Promise<number> {
  const started = performance.now();
  const enquiries = await listed(crm, 'Enquiries', `source eq '${source}'`);
  await each(enquiries.length, BATCH, async (at) => {
    const enquiry = enquiries[at]!;
    const query = queryOf({ $filter: `tolower(email) eq '${enquiry.caller_email}'`, $top: '10' });
    const { value } = await crm(`People?${query}`);
    const person =
      value[0] ??
      (await crm('People', {
        method: 'POST',
        body: { last_name: enquiry.caller_name, email: enquiry.caller_email },
      }));
    await crm('Contracts', {
      method: 'POST',
      body: { number: enquiry.id, hives: enquiry.hives_wanted, crops: enquiry.crops },
    });
    await crm(`Enquiries('${enquiry.id}')`, {
      ...{ method: 'PATCH', etag: enquiry['@odata.etag'] },
      body: { status: 'won', person_id: person.id },
    });
  });
  return (performance.now() - started) / 1000;
}

type Api = Awaited<ReturnType<typeof callerOf>>;

/** The same as a conversion. */
async function published(api: Api, crm: Crm): Promise<void> {
  const stage = { crm, api: async (...asked: Parameters<Api>) => ({ body: await api(...asked) }) };
  const converting = await conversionsOn(stage as unknown as Stage);
  const { line, step } = converting;
  const steps = [
    step(
      'person',
      'People',
      [line('l1', ['caller_name'], 'last_name'), line('l2', ['caller_email'], 'email', { ifBoth: 'fill only' })],
      { recognise: [{ fields: ['email'] }] },
    ),
    step('contract', 'Contracts', [
      line('l3', ['id'], 'number'),
      line('l4', ['hives_wanted'], 'hives'),
      line('l5', ['crops'], 'crops'),
    ]),
    step(
      'mark',
      'Enquiries',
      [line('l6', [], 'status', { constant: 'won' }), line('l7', [], 'person_id', { fromStep: { step: 'person' } })],
      { record: { by: 'field', field: 'id' }, whenNone: 'stop' },
    ),
  ];
  await converting.published('measured', converting.document({}, { steps }));
}

/** @returns how long it took from its being asked for to the last record, in seconds */
async function converted(api: Api, source: string, amount: number): Promise<number> {
  const started = performance.now();
  await api('POST', '/conversions/measured', { where: [{ field: 'source', test: 'is', value: source }] });
  for (;;) {
    const { bulks } = (await api('GET', '/conversions/measured')) as Json;
    if (bulks[0].state === 'done') {
      if (bulks[0].ends.applied !== amount) throw new Error(JSON.stringify(bulks[0]));
      return (performance.now() - started) / 1000;
    }
    // As a page that shows it does.
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
}
