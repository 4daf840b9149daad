import type { Schema } from '@zusammen/core/schema';
import { readied } from '@zusammen/core/pairing';
import { feedOf, livePairings, removePairing, type Database, type PairingRow } from '../../store/index.ts';
import { followedBy, placeOf } from './view.ts';

/** Removes a pairing, and what was kept of records for it alone. */
export async function remove(
  db: Database,
  schemas: ReadonlyMap<string, Schema>,
  { id, draft }: Pick<PairingRow, 'id' | 'draft'>,
): Promise<void> {
  const all = await livePairings(db);
  const looksAt = (document: PairingRow['draft']) => {
    const ready = readied(document, schemas);
    return ready ? followedBy(document, ready) : [];
  };
  const own = all.find((each) => each.id === id)?.document ?? draft;
  const others = new Set(
    all
      .filter((each) => each.id !== id)
      .flatMap((each) => looksAt(each.document).map((at) => placeOf(at.system, at.entity))),
  );
  const unused: number[] = [];
  for (const { system, entity } of looksAt(own)) {
    const feed = others.has(placeOf(system, entity)) ? undefined : await feedOf(db, system, entity);
    if (feed && feed.seen !== null) unused.push(feed.id);
  }
  await removePairing(db, id, unused);
}
