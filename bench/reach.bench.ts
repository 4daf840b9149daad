import { createConnection } from 'mysql2/promise';
import type { Result } from '../scripts/bench.ts';
import { callerOf, openBench, percentile } from './stage.ts';

const INTAKES = 500;
const PAIRINGS = 100;
const ASKED = 300;

/** The reach of a field with many intakes and pairings, against an answer of ours that reads one small table. */
export async function bench(): Promise<Result[]> {
  const stage = await openBench(['web'], 200);
  try {
    const database = await createConnection(stage.databaseUrl);
    const call = await callerOf(stage.address);
    const { systems } = (await call('GET', '/systems')) as { systems: { id: string; kind: string }[] };
    const [crm, letters] = ['odata', 'json'].map((kind) => systems.find((each) => each.kind === kind)!.id);
    // The demo of a benchmark has no pairings of its own.
    const sides = { left: { system: letters, entity: 'subscribers' }, right: { system: crm, entity: 'People' } };
    const { document } = (await call('POST', '/pairings/propose', sides)) as { document: unknown };
    await call('POST', '/pairings', { document });
    for (const [table, most] of [
      ['intakes', INTAKES],
      ['pairings', PAIRINGS],
    ] as const) {
      // Each of the demo's again and again, with its versions, under ids of its own.
      for (let copy = 0; copy < most; copy += 1) {
        const [[counted]] = (await database.query(`SELECT COUNT(*) AS count FROM ${table}`)) as never as [
          [{ count: number }],
        ];
        if (Number(counted.count) >= most) break;
        await copied(database, table, copy);
      }
    }
    const path = `/reach?system=${crm}&entity=People&field=email`;
    const first = await timed(() => call('GET', path));
    const { uses } = (await call('GET', path)) as { uses: unknown[] };
    const [ours, small]: [number[], number[]] = [[], []];
    for (let at = 0; at < ASKED; at += 1) {
      small.push(await timed(() => call('GET', '/systems')));
      ours.push(await timed(() => call('GET', path)));
    }
    await database.end();
    const p95 = (times: number[]): number =>
      percentile(
        times.sort((a, b) => a - b),
        0.95,
      );
    return [
      {
        what: `reach of a field, ${INTAKES} intakes and ${PAIRINGS} pairings`,
        ...{ unit: 'ms, p95', yardstick: p95(small), ours: p95(ours), ratio: p95(ours) / p95(small) },
        ...{ aim: '≤ 50 ms', notes: `${uses.length} uses; asked for the first time ${Math.round(first)} ms` },
      },
    ];
  } finally {
    await stage.close();
  }
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const begun = performance.now();
  await work();
  return performance.now() - begun;
}

/** Copies all that the demo itself has in a table, with all of their versions; ids get the number of the copy in front. */
async function copied(
  database: { query(text: string, values?: unknown[]): Promise<unknown> },
  table: 'intakes' | 'pairings',
  copy: number,
): Promise<void> {
  const mark = copy.toString(16).padStart(4, '0');
  const versions = table === 'intakes' ? 'intake_versions' : 'pairing_versions';
  const owner = table === 'intakes' ? 'intake_id' : 'pairing_id';
  const of = async (name: string): Promise<string[]> => {
    const [rows] = (await database.query(`SHOW COLUMNS FROM ${name}`)) as [{ Field: string }[]];
    return rows.map(({ Field: field }) => `\`${field}\``);
  };
  const changed = (column: string): string =>
    column === '`id`' || column === `\`${owner}\``
      ? `CONCAT('${mark}', SUBSTRING(${column}, 5))`
      : column === '`key`' || column === '`intake_key`'
        ? `CONCAT('c${mark}-', ${column})`
        : column;
  for (const name of [table, versions]) {
    const columns = await of(name);
    const id = name === table ? 'id' : owner;
    await database.query(
      `INSERT IGNORE INTO ${name} (${columns.join(', ')}) SELECT ${columns.map(changed).join(', ')} FROM ${name} WHERE ${id} LIKE '01%'`,
    );
  }
}
