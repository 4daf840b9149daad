import { workerData } from 'piscina';
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

/** Records to be compared, by their places. */
export type Asked = { from: number; to: number };
/** What was found among them, and how many records there are in all. */
export type Told = DoublesFound & { total: number };

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

/** Reads what is known once, then compares the portions it is asked for; asked for none, it tells how many there are. */
async function prepared(): Promise<(asked: Asked | null) => Told> {
  const { databaseUrl, scope, otherScope, recognition } = workerData as ThreadData;
  const db = openDatabase(databaseUrl, 2);
  const mine = await allPacked(db, scope);
  const among = scope === otherScope ? mine : await allPacked(db, otherScope);
  await db.$client.end();
  const kind = kindOf(recognition.kind);
  const { thresholds } = recognition;
  const matcher = new Matcher(kind, among, thresholds, tuningOf(recognition));
  const total = mine.ids.length;
  return (asked) => {
    if (!asked) return { total, pairs: [], compared: 0 };
    const { from, to } = asked;
    const found =
      scope === otherScope
        ? findDoubles(matcher, from, to, thresholds)
        : findAcross(
            matcher,
            mine.ids.slice(from, to).map((id, at) => kind.unpack(id, mine.packed[from + at]!)),
            thresholds,
          );
    return { total, ...found };
  };
}

export default prepared();
