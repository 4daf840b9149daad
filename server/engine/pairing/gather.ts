import { across, SIDES, keysOf, type Key, type Reach, type Seen, type Side, type Sides } from '@zusammen/core/pairing';
import { entityOf, fieldOf, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  feedOf,
  inDoubt,
  inTransaction,
  isThere,
  keepKeys,
  keyHash,
  pairsWith,
  recordsByKey,
  seenAfter,
  seenOf,
  idOn,
  type Database,
  type DueRecord,
  type FeedRow,
  type PairRow,
  type Query,
  type SeenRecord,
} from '../../store/index.ts';
import { hasPlainKeys } from './lookers.ts';
import { followedBy, placeOf, placesOf, type Applied } from './view.ts';

/** All that is known of the records a bundle is about, loaded at once. */
export interface Gathered {
  /** When it was, in milliseconds since 1970. */
  at: number;
  seen: Sides<Map<string, SeenRecord>>;
  /** The records that relations lead to, by entity and id. */
  related: Sides<Map<string, Map<string, Seen>>>;
  pairs: PairRow[];
  /** Of records that are in no pair yet, by side and id: what they may go with, way by way. */
  ways: Sides<Map<string, Way[]>>;
  /** Records of which more became known while they were read: what is kept of them may be old. */
  doubt: Sides<ReadonlySet<string>>;
  /** When fields were changed, where a system keeps that: by side, record and field, with spaces between. */
  changed?: ReadonlyMap<string, number>;
}

/** One way in which it is seen what a record goes with: the records of either side that have the key. */
export interface Way {
  match: number;
  key: Key;
  mine: string[];
  others: string[];
  /** Weighed, and not surely the same. */
  unsure?: boolean;
}

type FeedAt = (system: string, entity: string) => FeedRow | undefined;

/** The feeds of both sides, and of what their relations lead to. */
export type FeedsOf = Sides<FeedRow> & { at: FeedAt };

/** The feeds that a pairing looks at; undefined while one of the two sides isn't followed yet. */
export async function feedsOf(db: Database, { document, ready }: Applied): Promise<FeedsOf | undefined> {
  const found = new Map<string, FeedRow>();
  for (const { system, entity } of followedBy(document, ready)) {
    const feed = await feedOf(db, system, entity);
    if (feed) found.set(placeOf(system, entity), feed);
  }
  const at: FeedAt = (system, entity) => found.get(placeOf(system, entity));
  const left = at(document.left.system, document.left.entity);
  const right = at(document.right.system, document.right.entity);
  return left && right && { left, right, at };
}

/** Loads what is known of records that are due, of what they go with, and of what relations lead to. */
export function gather(db: Database, pairing: Applied, feeds: FeedsOf, due: readonly DueRecord[]): Promise<Gathered> {
  const at = Date.now();
  return inTransaction(db, async (query) => {
    const ids = (side: Side): string[] => due.filter((each) => each.side === side).map(({ recordId }) => recordId);
    const seen: Gathered['seen'] = { left: new Map(), right: new Map() };
    const related: Gathered['related'] = { left: new Map(), right: new Map() };
    const load = async (side: Side, wanted: readonly string[]): Promise<void> => {
      const missing = wanted.filter((id) => !seen[side].has(id));
      const found = await seenOf(query, feeds[side].id, missing);
      for (const [id, record] of found) seen[side].set(id, record);
      await loadRelated(query, feeds.at, pairing, side, [...found.values()], related[side]);
    };
    for (const side of SIDES) await load(side, ids(side));

    const pairs = new Map<number, PairRow>();
    // A record is loose while nothing surely goes with it.
    const paired: Sides<Set<string>> = { left: new Set(), right: new Set() };
    const add = (rows: readonly PairRow[]): void => {
      for (const row of rows) {
        pairs.set(row.id, row);
        if (row.leftId === null || row.rightId === null) continue;
        paired.left.add(row.leftId);
        paired.right.add(row.rightId);
      }
    };
    for (const side of SIDES) add(await pairsWith(query, pairing.id, side, ids(side)));

    const ways: Gathered['ways'] = { left: new Map(), right: new Map() };
    for (const side of SIDES) {
      await keepRelatedKeys(query, pairing, side, ids(side), seen[side], related[side]);
      const loose = ids(side).filter((id) => seen[side].get(id)?.gone === false && !paired[side].has(id));
      for (const [id, found] of await waysOf(query, pairing, side, loose, { seen, related }, load))
        ways[side].set(id, found);
    }
    const candidates = (side: Side): string[] =>
      SIDES.flatMap((from) =>
        [...ways[from].values()].flat().flatMap(({ mine, others }) => (from === side ? mine : others)),
      );
    for (const side of SIDES) add(await pairsWith(query, pairing.id, side, [...new Set(candidates(side))]));
    // Both records of every pair, and whatever may become one.
    for (const side of SIDES) {
      const partners = [...pairs.values()].flatMap((pair) => idOn(pair, side) ?? []);
      await load(side, [...partners, ...candidates(side)]);
    }
    const known = SIDES.flatMap((side) => [...seen[side].keys()].map((id): [Side, string] => [side, id]));
    const doubt = await inDoubt(query, pairing.id, known);
    return { at, seen, related, pairs: [...pairs.values()], ways, doubt };
  });
}

/** Loads what is known of further records of a side, and of the pairs they are in. */
export async function loadMore(
  query: Query,
  { pairing, feeds }: { pairing: Applied; feeds: FeedsOf },
  gathered: Gathered,
  side: Side,
  ids: readonly string[],
): Promise<void> {
  const missing = [...new Set(ids)].filter((id) => !gathered.seen[side].has(id));
  const found = await seenOf(query, feeds[side].id, missing);
  for (const [id, record] of found) gathered.seen[side].set(id, record);
  await loadRelated(query, feeds.at, pairing, side, [...found.values()], gathered.related[side]);
  const held = new Set(gathered.pairs.map(({ id }) => id));
  for (const pair of await pairsWith(query, pairing.id, side, [...new Set(ids)]))
    if (!held.has(pair.id)) gathered.pairs.push(pair);
  const doubt = await inDoubt(
    query,
    pairing.id,
    missing.map((id): [Side, string] => [side, id]),
  );
  gathered.doubt = {
    left: new Set([...gathered.doubt.left, ...doubt.left]),
    right: new Set([...gathered.doubt.right, ...doubt.right]),
  };
}

/**
 * Keeps the keys of the next records of a side, whether they run through relations or not.
 * @param after the id of the last one that has been looked at @returns the id of the last one now; undefined after all
 */
export function keepNextKeys(
  db: Database,
  pairing: Applied,
  side: Side,
  { feeds, after, limit }: { feeds: FeedsOf; after: string; limit: number },
): Promise<string | undefined> {
  return inTransaction(db, async (query) => {
    if (!(await isThere(query, pairing.id))) return undefined;
    const records = await seenAfter(query, feeds[side].id, after, limit);
    const related = new Map<string, Map<string, Seen>>();
    await loadRelated(query, feeds.at, pairing, side, records, related);
    await keepKeys(
      query,
      pairing.id,
      side,
      records.map((record) => ({ id: record.recordId, keys: keyHashesOf(pairing, side, record, reachIn(related)) })),
    );
    return records.at(-1)?.recordId;
  });
}

const keyHashesOf = (pairing: Applied, side: Side, record: SeenRecord, reach: Reach): Buffer[] =>
  keysFor(pairing, side, record, reach).flatMap((key, match) => (key === undefined ? [] : [keyHash(match, key)]));

/** Keys that run through relations are known only now; those of the record itself were kept when it came. */
async function keepRelatedKeys(
  query: Query,
  pairing: Applied,
  side: Side,
  ids: readonly string[],
  seen: ReadonlyMap<string, SeenRecord>,
  related: ReadonlyMap<string, ReadonlyMap<string, Seen>>,
): Promise<void> {
  if (hasPlainKeys(pairing.document.matches, side) || !(await isThere(query, pairing.id))) return;
  await keepKeys(
    query,
    pairing.id,
    side,
    ids.flatMap((id) => {
      const record = seen.get(id);
      if (!record) return [];
      return [{ id, keys: record.gone ? [] : keyHashesOf(pairing, side, record, reachIn(related)) }];
    }),
  );
}

const keysFor = ({ document, ready }: Applied, side: Side, record: SeenRecord, reach: Reach): (Key | undefined)[] =>
  keysOf(document.matches, side, ready.around, { id: record.recordId, values: record.values }, reach);

/** Finds what loose records may go with, way by way; candidates are confirmed by what is known of them. */
async function waysOf(
  query: Query,
  pairing: Applied,
  side: Side,
  loose: readonly string[],
  known: Pick<Gathered, 'seen' | 'related'>,
  load: (side: Side, ids: readonly string[]) => Promise<void>,
): Promise<Map<string, Way[]>> {
  const to = across(side);
  // A record is a candidate of many: its keys are worked out once.
  const worked: Sides<Map<string, (Key | undefined)[]>> = { left: new Map(), right: new Map() };
  const keysAt = (at: Side, id: string): (Key | undefined)[] => {
    const record = known.seen[at].get(id);
    if (!record || record.gone) return [];
    let found = worked[at].get(id);
    if (!found) worked[at].set(id, (found = keysFor(pairing, at, record, reachIn(known.related[at]))));
    return found;
  };
  const keys = new Map(loose.map((id) => [id, keysAt(side, id)]));
  const hashes = [...keys.values()].flatMap((list) =>
    list.flatMap((key, match) => (key === undefined ? [] : [keyHash(match, key)])),
  );
  const others = await recordsByKey(query, pairing.id, to, hashes);
  const mine = await recordsByKey(query, pairing.id, side, hashes);
  await load(to, [...others.values()].flat());
  await load(side, [...mine.values()].flat());
  const has = (at: Side, id: string, match: number, key: Key): boolean => keysAt(at, id)[match] === key;
  const isSelf =
    pairing.document.left.system === pairing.document.right.system &&
    pairing.document.left.entity === pairing.document.right.entity;
  return new Map(
    [...keys].map(([id, list]) => [
      id,
      list.flatMap((key, match): Way[] => {
        if (key === undefined) return [];
        const hash = keyHash(match, key).toString('hex');
        const found = (others.get(hash) ?? []).filter((each) => !(isSelf && each === id) && has(to, each, match, key));
        const alike = [...new Set([id, ...(mine.get(hash) ?? []).filter((each) => has(side, each, match, key))])];
        return found.length === 0 ? [] : [{ match, key, mine: alike.sort(), others: found }];
      }),
    ]),
  );
}

/** What relations of records lead to, hop by hop, as far as the pairing looks. */
async function loadRelated(
  query: Query,
  feedAt: FeedAt,
  pairing: Applied,
  side: Side,
  records: readonly SeenRecord[],
  into: Map<string, Map<string, Seen>>,
): Promise<void> {
  const { schema, entity } = pairing.ready.around[side];
  const paths = placesOf(pairing.document, side)
    .map(({ path }) => path)
    .filter((path) => path.length > 1);
  for (const path of paths) {
    let at = entity;
    let values: Values[] = records.map((record) => record.values);
    for (const name of path.slice(0, -1)) {
      const relation = fieldOf(at, name)?.relation;
      const next = relation === undefined ? undefined : entityOf(schema, relation);
      const feed = next && feedAt(pairing.document[side].system, next.name);
      if (!next || !feed) break;
      const known = into.get(next.name) ?? new Map<string, Seen>();
      into.set(next.name, known);
      const ids = [...new Set(values.flatMap((each) => (isBlank(each[name]) ? [] : [String(each[name])])))];
      const missing = ids.filter((id) => !known.has(id));
      for (const [id, record] of await seenOf(query, feed.id, missing)) known.set(id, record);
      values = ids.flatMap((id) => (known.has(id) ? [known.get(id)!.values] : []));
      at = next;
    }
  }
}

/** What relations lead to, as far as it was loaded. */
export const reachIn =
  (related: ReadonlyMap<string, ReadonlyMap<string, Seen>>): Reach =>
  (entity, id) => {
    const record = related.get(entity)?.get(id);
    return record && !record.gone ? record.values : undefined;
  };
