import { keysOf, type Match, type Side } from '@zusammen/core/pairing';
import { entityOf, fieldOf, type Schema, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  feedOf,
  hashed,
  heldStill,
  keepKeys,
  keepLinks,
  keyHash,
  leadingTo,
  markDue,
  type Database,
  type FeedRow,
  type Query,
  type SeenLink,
  type SeenRecord,
} from '../../store/index.ts';
import { followedLinks, type Applied, type Looking, type Pairings } from './view.ts';

/** Records of which something is new, or may be. */
export interface News {
  id: string;
  doubt: boolean;
}

/** The sides of pairings that look at an entity's records: at its own, or through relations of others. */
export interface Lookers {
  feed: FeedRow;
  /** The feeds of entities from which relations lead here, by their names. */
  from: ReadonlyMap<string, FeedRow>;
  schema: Schema;
  own: readonly Looking[];
  through: readonly Looking[];
}

/** Those who still look; they aren't removed, and none begins with all of its records, until the transaction ends. */
export interface StillLooking extends Lookers {
  /** Of these all records will be marked as due at once: until then what is new needn't be. */
  unlaid: ReadonlySet<string>;
}

export async function stillLooking(query: Query, lookers: Lookers): Promise<StillLooking> {
  const found = await heldStill(
    query,
    [...lookers.own, ...lookers.through].map(({ pairing }) => pairing.id),
  );
  const isThere = ({ pairing }: Looking): boolean => found.has(pairing.id);
  const unlaid = new Set([...found].flatMap(([id, laid]) => (laid === 0 ? [id] : [])));
  return { ...lookers, own: lookers.own.filter(isThere), through: lookers.through.filter(isThere), unlaid };
}

/** Asked before a transaction begins: whoever holds a connection and waits for another may wait for ever. */
export async function lookersOn(
  { db, pairings }: { db: Database; pairings: Pick<Pairings, 'sidesOn' | 'throughs'> },
  feed: FeedRow,
  schema: Schema,
): Promise<Lookers> {
  const own = await pairings.sidesOn(feed.systemId, feed.entity);
  const through = await pairings.throughs(feed.systemId, feed.entity);
  const ways = through.flatMap((looking) => pathsTo(looking, schema, feed.entity)).flat();
  const from = new Map<string, FeedRow>();
  for (const name of new Set(ways.map(({ entity }) => entity))) {
    const found = await feedOf(db, feed.systemId, name);
    if (found) from.set(name, found);
  }
  return { feed, from, schema, own, through };
}

/** Keeps where records lead to, and the keys that don't depend on other records. @param before what was known of them */
export async function keepWays(
  query: Query,
  lookers: StillLooking,
  records: readonly SeenRecord[],
  before?: ReadonlyMap<string, SeenRecord>,
): Promise<void> {
  await keepLed(query, lookers, records, before);
  for (const { pairing, side } of lookers.own) await keepPlainKeys(query, pairing, side, records, before);
}

/** Keeps where records lead to, as far as pairings follow it. @param before what was known of them */
export async function keepLed(
  query: Query,
  { feed, schema, own, through }: Lookers,
  records: readonly SeenRecord[],
  before?: ReadonlyMap<string, SeenRecord>,
): Promise<void> {
  const fields = followedLinks([...own, ...through], schema, feed.entity);
  const led = fields.length === 0 ? [] : records.map((record) => ledAnew(record, fields, before));
  const anew = led.filter((each) => each !== undefined);
  await keepLinks(
    query,
    feed.id,
    anew.flatMap(({ id, isFresh }) => (isFresh ? [] : [id])),
    anew.flatMap(({ links }) => links),
  );
}

/** Has everybody who looks at records look at what is new. @returns the pairings that have something to do by it */
export async function markLooking(query: Query, lookers: StillLooking, news: readonly News[]): Promise<Set<string>> {
  const told = new Set<string>();
  if (news.length === 0) return told;
  const now = Date.now();
  for (const { pairing, side } of lookers.own) {
    const marks = lookers.unlaid.has(pairing.id) ? news.filter(({ doubt }) => doubt) : news;
    await markDue(query, pairing.id, side, marks, now);
    told.add(pairing.id);
  }
  for (const looking of lookers.through) {
    if (lookers.unlaid.has(looking.pairing.id)) continue;
    const ids = await ledFrom(query, lookers, looking, news);
    await markDue(
      query,
      looking.pairing.id,
      looking.side,
      ids.map((id) => ({ id, doubt: false })),
      now,
    );
    if (ids.length > 0) told.add(looking.pairing.id);
  }
  return told;
}

/** The paired records that are led to these by the relations a pairing follows. */
async function ledFrom(
  query: Query,
  { feed, from, schema }: Lookers,
  looking: Looking,
  news: readonly News[],
): Promise<string[]> {
  const found = new Set<string>();
  for (const path of pathsTo(looking, schema, feed.entity)) {
    let ids = news.map(({ id }) => id);
    for (const { entity, field } of path.toReversed()) {
      const start = from.get(entity);
      ids = start ? await leadingTo(query, start.id, field, ids.map(hashed)) : [];
    }
    for (const id of ids) found.add(id);
  }
  return [...found];
}

/** Where a record leads to; undefined where it led to the same before. */
function ledAnew(
  { recordId: id, values }: SeenRecord,
  fields: readonly string[],
  before?: ReadonlyMap<string, SeenRecord>,
): { id: string; links: SeenLink[]; isFresh: boolean } | undefined {
  const known = before?.get(id);
  if (known && fields.every((field) => known.values[field] === values[field])) return undefined;
  const links = fields.flatMap((field) => {
    const target = values[field];
    return isBlank(target) ? [] : [{ recordId: id, field, target: hashed(String(target)) }];
  });
  return { id, links, isFresh: before !== undefined && !known };
}

/** Whether all keys of a side come from the record itself. */
export const hasPlainKeys = (matches: readonly Match[], side: Side): boolean =>
  matches.every(({ parts }) => parts.every((part) => part[side].length === 1));

/** The keys of a record that come from itself, hashed. */
function keyHashes({ document, ready }: Applied, side: Side, id: string, values: Values): Buffer[] {
  return keysOf(document.matches, side, ready.around, { id, values }, () => undefined).flatMap((key, match) =>
    key === undefined ? [] : [keyHash(match, key)],
  );
}

/** The ways by which a side's record is led to an entity: hop by hop, from its own. */
function pathsTo({ pairing, side }: Looking, schema: Schema, to: string): { entity: string; field: string }[][] {
  const found = new Map<string, { entity: string; field: string }[]>();
  const places = [
    ...pairing.ready.lines.map(({ line }) => line[side].path),
    ...pairing.document.matches.flatMap(({ parts }) => parts.map((part) => part[side])),
  ];
  for (const path of places) {
    let entity = pairing.ready.around[side].entity.name;
    const way: { entity: string; field: string }[] = [];
    for (const field of path.slice(0, -1)) {
      way.push({ entity, field });
      const here = entityOf(schema, entity);
      entity = (here && fieldOf(here, field)?.relation) ?? '';
      if (entity === to) found.set(JSON.stringify(way), [...way]);
    }
  }
  return [...found.values()];
}

/** Keeps the keys of records that come from themselves alone. @param before what was known; others had no keys yet */
export async function keepPlainKeys(
  query: Query,
  pairing: Applied,
  side: Side,
  records: readonly SeenRecord[],
  before?: ReadonlyMap<string, SeenRecord>,
): Promise<void> {
  if (!hasPlainKeys(pairing.document.matches, side)) return;
  const keysOfEach = records.flatMap(({ recordId: id, values, gone }) => {
    const known = before?.get(id);
    const keys = gone ? [] : keyHashes(pairing, side, id, values);
    const had = known && !known.gone ? keyHashes(pairing, side, id, known.values) : [];
    const isSame =
      known !== undefined && !gone && keys.length === had.length && keys.every((key, at) => key.equals(had[at]!));
    return isSame ? [] : [{ id, keys, fresh: before !== undefined && !known }];
  });
  await keepKeys(query, pairing.id, side, keysOfEach);
}
