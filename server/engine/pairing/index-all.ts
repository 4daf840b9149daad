import { SIDES } from '@zusammen/core/pairing';
import { inTransaction, isThere, seenAfter, type Database } from '../../store/index.ts';
import type { HeldJob } from '../jobs.ts';
import { keepNextKeys, type FeedsOf } from './gather.ts';
import { keepLed, lookersOn } from './lookers.ts';
import { followedBy, followedLinks, type Applied, type Pairings } from './view.ts';

/** Records looked at together. */
const AT_ONCE = 1_000;

/** What was known before a pairing began is indexed for it; what comes from then on is indexed as it comes. */
interface Indexing {
  db: Database;
  pairings: Pairings;
}

/** Keeps the keys of all records of both sides, and where they lead to: whoever isn't found by them is taken for not there. */
export async function indexAll(work: Indexing, job: HeldJob, pairing: Applied, feeds: FeedsOf): Promise<void> {
  await keepAllLed(work, job, pairing, feeds);
  for (const side of SIDES) {
    const next = { feeds, limit: AT_ONCE };
    for (let after: string | undefined = ''; after !== undefined; ) {
      after = await keepNextKeys(work.db, pairing, side, { ...next, after });
      await job.note({});
    }
  }
  await work.db.$client.query('UPDATE pairings SET indexed = TRUE WHERE id = ? AND live_version = ?', [
    pairing.id,
    pairing.version,
  ]);
}

/** A relation that is followed from now on may have been known before only as a value. */
async function keepAllLed({ db, pairings }: Indexing, job: HeldJob, pairing: Applied, feeds: FeedsOf): Promise<void> {
  const { document, ready } = pairing;
  for (const { system, entity } of followedBy(document, ready)) {
    const feed = feeds.at(system, entity);
    const { schema } = ready.around[document.left.system === system ? 'left' : 'right'];
    const lookers = feed && (await lookersOn({ db, pairings }, feed, schema));
    if (!lookers || followedLinks([...lookers.own, ...lookers.through], schema, entity).length === 0) continue;
    for (let after: string | undefined = ''; after !== undefined; ) {
      const from: string = after;
      after = await inTransaction(db, async (query) => {
        if (!(await isThere(query, pairing.id))) return undefined;
        const records = await seenAfter(query, feed.id, from, AT_ONCE);
        await keepLed(query, lookers, records);
        return records.at(-1)?.recordId;
      });
      await job.note({});
    }
  }
}
