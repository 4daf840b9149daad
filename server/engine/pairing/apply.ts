import { isDeepStrictEqual } from 'node:util';
import type { Pairing } from '@zusammen/core/pairing';
import { lineKey, readied } from '@zusammen/core/pairing';
import type { Schema } from '@zusammen/core/schema';
import type { Finding } from '@zusammen/core/checks';
import {
  applyPairing,
  keepAgreed,
  changePairing,
  feedOf,
  followEntity,
  pairingById,
  pairingVersion,
  restartFeed,
  setPairingState,
  type Database,
  type Drizzled,
} from '../../store/index.ts';
import { sql } from 'drizzle-orm';
import { hasPlainKeys } from './lookers.ts';
import { followedBy } from './view.ts';

/** What begins or goes on with a pairing. */
export interface Applying {
  db: Database;
  schemas: ReadonlyMap<string, Schema>;
}

/**
 * Applies a pairing's draft: from now on what it looks at is followed, and every record is looked at once.
 * @returns the version's number; undefined when somebody else has changed the draft
 */
export function apply(
  { db, schemas }: Applying,
  id: string,
  revision: number,
  accepted: Finding[],
  by: string,
): Promise<number | undefined> {
  return applyPairing(db, id, revision, accepted, by, (tx, document) => follow(tx, schemas, id, document, by));
}

/**
 * Changes a pairing's draft and what is applied of it alike, each on its own. One that is paused stays so.
 * @param edit changes a document; done before, it changes nothing more
 * @param sameFields a line goes by the fields it went by, though they are called otherwise: what is agreed stays agreed
 */
export async function editApplied(
  { db, schemas }: Applying,
  id: string,
  edit: (document: Pairing) => Pairing,
  by: string,
  sameFields = false,
): Promise<void> {
  for (;;) {
    const row = await pairingById(db, id);
    if (!row) return;
    const draft = edit(row.draft);
    let { revision } = row;
    if (!isDeepStrictEqual(draft, row.draft)) {
      if (!(await changePairing(db, id, revision, draft))) continue;
      revision += 1;
    }
    const live = row.liveVersion === null ? undefined : await pairingVersion(db, id, row.liveVersion);
    const next = live && edit(live.document);
    if (!live || isDeepStrictEqual(next, live.document)) return;
    const also = async (tx: Drizzled, document: Pairing): Promise<void> => {
      if (sameFields) await keepAgreed(tx, id, keysCalledOtherwise(live.document, document));
      await follow(tx, schemas, id, document, by);
    };
    if ((await applyPairing(db, id, revision, live.accepted, by, also, next)) === undefined) continue;
    if (row.state === 'paused') await setPairingState(db, id, 'paused');
    return;
  }
}

/** Keys of lines before and after their fields are called otherwise. */
function keysCalledOtherwise(before: Pairing, after: Pairing): Map<string, string> {
  const now = new Map(after.lines.map((line) => [line.id, lineKey(line)]));
  return new Map(
    before.lines.flatMap((line) => {
      const [was, is] = [lineKey(line), now.get(line.id)];
      return is === undefined || is === was ? [] : [[was, is] as const];
    }),
  );
}

/** Sees to it that the entities a pairing looks at are followed with the fields it needs, and has all records looked at. */
async function follow(
  tx: Drizzled,
  schemas: ReadonlyMap<string, Schema>,
  id: string,
  document: Pairing,
  by: string,
): Promise<void> {
  const ready = readied(document, schemas);
  if (!ready) throw new Error('One of the two entities can’t be seen in its system.');
  let isNew = true;
  for (const { system, entity, fields } of followedBy(document, ready)) {
    await followEntity(tx, system, entity, by);
    const feed = (await feedOf(tx, system, entity))!;
    if (feed.seen !== null) isNew = false;
    // What an earlier pairing may have left behind is nothing to go on from.
    else await tx.execute(sql`DELETE FROM seen_records WHERE feed = ${feed.id}`);
    const seen = new Set(feed.seen ?? []);
    const more = fields.filter((field) => !seen.has(field));
    const lookEvery = Math.min(feed.lookEvery ?? Infinity, document.lookEvery);
    if (feed.seen !== null && more.length === 0 && lookEvery === feed.lookEvery) continue;
    const kept = JSON.stringify([...seen, ...more]);
    await tx.execute(sql`UPDATE feeds SET seen = ${kept}, look_every = ${lookEvery} WHERE id = ${feed.id}`);
    if (feed.seen !== null && more.length === 0) continue;
    // What wasn't kept before is only there in a reading of everything. One that has begun already, however short a while
    // ago, goes on for what was kept then: it would come to its end without anything having been seen.
    await tx.execute(sql`UPDATE feeds SET seen_at = NULL WHERE id = ${feed.id}`);
    await restartFeed(tx, feed);
  }
  // Nothing is known of any record yet: their keys are kept as they come, unless they run through others.
  if (isNew && (['left', 'right'] as const).every((side) => hasPlainKeys(document.matches, side)))
    await tx.execute(sql`UPDATE pairings SET indexed = TRUE WHERE id = ${id}`);
  await tx.execute(sql`DELETE FROM pair_keys WHERE pairing_id = ${id}`);
}
