import { parentPort, workerData } from 'node:worker_threads';
import {
  findAcross,
  findDoubles,
  kindOf,
  Matcher,
  tuningOf,
  type DoublesFound,
  type Recognition,
} from '@zusammen/core/recognition';
import { openDatabase, packedAfter, type Database } from '../../store/index.ts';

/** What a thread of a search is started with. */
export interface ThreadData {
  databaseUrl: string;
  /** Whose records are gone through, and among whose they are looked for. */
  scope: number;
  otherScope: number;
  recognition: Recognition;
}

export type Asked = { from: number; to: number };
export type Told = { ready: number } | (DoublesFound & Asked);

const PORTION = 10_000;

/** Every known record of a scope, in the order in which they came to be known. */
async function allPacked(db: Database, scope: number): Promise<{ ids: string[]; packed: string[] }> {
  const all = { ids: [] as string[], packed: [] as string[] };
  for (let after = 0; ; ) {
    const rows = await packedAfter(db, scope, after, PORTION);
    if (rows.length === 0) return all;
    for (const { recordId, packed } of rows) {
      all.ids.push(recordId);
      all.packed.push(packed);
    }
    after = rows.at(-1)!.n;
  }
}

/** Reads what is known once, then compares the portions it is asked for. */
async function main(): Promise<void> {
  const { databaseUrl, scope, otherScope, recognition } = workerData as ThreadData;
  const db = openDatabase(databaseUrl, 2);
  const mine = await allPacked(db, scope);
  const among = scope === otherScope ? mine : await allPacked(db, otherScope);
  await db.$client.end();
  const kind = kindOf(recognition.kind);
  const { thresholds } = recognition;
  const matcher = new Matcher(kind, among, thresholds, tuningOf(recognition));
  const say = (told: Told): void => parentPort!.postMessage(told);
  parentPort!.on('message', ({ from, to }: Asked) => {
    const found =
      scope === otherScope
        ? findDoubles(matcher, from, to, thresholds)
        : findAcross(
            matcher,
            mine.ids.slice(from, to).map((id, at) => kind.unpack(id, mine.packed[from + at]!)),
            thresholds,
          );
    say({ from, to, ...found });
  });
  say({ ready: mine.ids.length });
}

void main();
