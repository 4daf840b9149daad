import type { Result } from '../scripts/bench.ts';
import type { Json } from '../server/testing/stage.ts';
import { callerOf, each, openBench, type Bench } from './stage.ts';

const ROWS = 5000;
/** Requests that the script sends in one batch, and batches at once. */
const BATCH = 50;
const AT_ONCE = 4;

/**
 * The rows of a sheet come into the entity that is made of it, looked for by its unique column first, against a script
 * that makes the same OData requests in batches.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench();
  try {
    const api = await callerOf(stage.address);
    const theirs = ROWS / (await byScript(stage));
    const own = ROWS / (await takenIn(stage, api));
    return [
      {
        what: `${ROWS.toLocaleString('en')} rows come in with their entity`,
        ...{ unit: 'rows/s', yardstick: theirs, ours: own, ratio: own / theirs, aim: '≥ 0.8' },
        notes: `looked for by a unique column, then made; the script sends ${BATCH} requests a batch, ${AT_ONCE} batches at once, and keeps no ledger`,
      },
    ];
  } finally {
    await stage.close();
  }
}

const row = (at: number) => ({
  reg_no: `R-${String(at).padStart(6, '0')}`,
  place: `Meadow ${at % 400}`,
  hives: 3 + (at % 40),
  state: ['full', 'half', 'empty'][at % 3]!,
  seen: `2026-0${1 + (at % 9)}-${String(1 + (at % 28)).padStart(2, '0')}`,
});

async function crm({ standins }: Bench, path: string, body: object, token: string): Promise<Json> {
  const response = await fetch(`${standins}/crm/${path}`, {
    method: 'POST',
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`the CRM answered ${response.status}: ${await response.text()}`);
  return response.json();
}

/** What a script written for the purpose would do, its entity made beforehand. @returns how long it took, in seconds */
async function byScript(stage: Bench): Promise<number> {
  const text = (length: number) => ({ $Type: 'Edm.String', $MaxLength: length, $Nullable: true });
  await crm(
    stage,
    'schema/',
    {
      $Version: '4.01',
      coop: {
        Script: {
          $Kind: 'EntityType',
          ...{ $Key: ['id'], id: { '@Org.OData.Core.V1.Computed': true } },
          ...{ reg_no: text(20), place: text(40), hives: { $Type: 'Edm.Int32', $Nullable: true }, state: text(20) },
          seen: { $Type: 'Edm.Date', $Nullable: true },
        },
        Container: {
          $Kind: 'EntityContainer',
          Scripts: {
            ...{ $Collection: true, $Type: 'coop.Script' },
            '@Org.OData.Core.V1.AlternateKeys': [{ Key: [{ Name: 'reg_no', Alias: 'reg_no' }] }],
          },
        },
      },
    },
    'demo-administrator',
  );
  const batch = (requests: object[]): Promise<Json> => crm(stage, 'odata/$batch', { requests }, 'demo-administrator');
  const started = performance.now();
  await each(ROWS / BATCH, AT_ONCE, async (at) => {
    const rows = Array.from({ length: BATCH }, (_, place) => row(at * BATCH + place));
    const found: Json = await batch(
      rows.map(({ reg_no }, id) => ({
        ...{ id: String(id), method: 'GET' },
        url: `Scripts?$filter=${encodeURIComponent(`reg_no eq '${reg_no}'`)}&$top=2`,
      })),
    );
    const fresh = rows.filter((_, id) => {
      const answer = found.responses.find((each: Json) => each.id === String(id));
      return answer.body.value.length === 0;
    });
    const made: Json = await batch(
      fresh.map((body, id) => ({
        ...{ id: String(id), method: 'POST', url: 'Scripts', body },
        headers: { 'Content-Type': 'application/json' },
      })),
    );
    const bad = made.responses.find(({ status }: Json) => status !== 201);
    if (bad) throw new Error(JSON.stringify(bad));
  });
  return (performance.now() - started) / 1000;
}

/** A sheet as a browser sends it. @returns its id */
async function uploaded(address: string, text: string): Promise<string> {
  const session = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'mara@cloverhollow.example', password: 'clover-hollow' }),
  });
  const cookie = session.headers.get('set-cookie')!.split(';')[0]!;
  const response = await fetch(`${address}/api/files?name=nests.csv`, {
    method: 'POST',
    headers: { cookie, 'Content-Type': 'application/octet-stream' },
    body: text,
  });
  return ((await response.json()) as Json).file.id;
}

/** The same out of a sheet: from the press of the button until the last row is carried out. */
async function takenIn(stage: Bench, api: Awaited<ReturnType<typeof callerOf>>): Promise<number> {
  const { systems }: Json = await api('GET', '/systems');
  const system: string = systems.find(({ kind }: Json) => kind === 'odata').id;
  const heading = Object.keys(row(0)).join(';');
  const lines = Array.from({ length: ROWS }, (_, at) => Object.values(row(at)).join(';'));
  const file = await uploaded(stage.address, `${heading}\n${lines.join('\n')}`);
  const { told }: Json = await api('POST', `/schema/${system}/sheets/look`, { file });
  const sheet: Json = told.find(({ kind }: Json) => kind === 'seen').proposal;
  const started = performance.now();
  const { change }: Json = await api('POST', `/schema/${system}/sheets`, { file, sheet });
  for (;;) {
    const { change: now }: Json = await api('GET', `/schema-changes/${change}`);
    if (now.state === 'paused') throw new Error(now.words);
    const { rows } = now;
    if (rows?.state === 'done' && rows.done === ROWS && !rows.totals.received) {
      if (rows.totals.applied !== ROWS) throw new Error(JSON.stringify(rows));
      return (performance.now() - started) / 1000;
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
