import { keysOf, take, takeGone, type Match, type Side } from '@zusammen/core/pairing';
import { changedAtField, entityOf, fieldOf, type Entity, type Schema, type Values } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import {
  feedOf,
  hashed,
  inTransaction,
  isStillKept,
  keepKeys,
  keepLinks,
  keepSeen,
  keyHash,
  leadingTo,
  markDue,
  noteBrought,
  noteSeen,
  notBrought,
  seenOf,
  type Database,
  type FeedRow,
  type Query,
  type SeenLink,
  type SeenRecord,
} from '../../store/index.ts';
import type { LiveView } from '../live.ts';
import type { Systems } from '../../systems/index.ts';
import type { FeedListener, FeedReading, Listen } from '../feeds/index.ts';
import type { Page } from '../../systems/index.ts';
import { followedLinks, type Applied, type Looking, type Pairings } from './view.ts';

/** What listening for pairings works with. */
export interface Listening {
  db: Database;
  live: Pick<LiveView, 'allSchemas'>;
  systems: Pick<Systems, 'client'>;
  pairings: Pairings;
  /** Told when a pairing has something to do. */
  told: (pairings: ReadonlySet<string>) => void;
}

/** Keeps what pairings look at of an entity's records, and has each pairing look at what is new. */
export const pairingListener =
  (work: Listening): Listen =>
  async (feed, entity) => {
    if (feed.seen === null) return undefined;
    const schema = (await work.live.allSchemas()).get(feed.systemId);
    if (!schema) return undefined;
    const own = await work.pairings.sidesOn(feed.systemId, feed.entity);
    const through = await work.pairings.throughs(feed.systemId, feed.entity);
    const client = await work.systems.client(feed.systemId);
    return new PairingListener(work, feed, feed.seen, entity, schema, own, through, client.clockAhead ?? 0);
  };

/** Records of which something is new, or may be. */
type News = { id: string; doubt: boolean };

const GONE_AT_ONCE = 500;

class PairingListener implements FeedListener {
  readonly needsWhole = false;
  private readonly told = new Set<string>();

  constructor(
    private readonly work: Listening,
    private readonly feed: FeedRow,
    readonly fields: readonly string[],
    private readonly entity: Entity,
    private readonly schema: Schema,
    private readonly own: readonly Looking[],
    private readonly through: readonly Looking[],
    private readonly clockAhead: number,
  ) {}

  begin = (): Promise<void> => Promise.resolve();
  note = (): Promise<void> => Promise.resolve();

  async take(page: Page, { generation, whole, asked }: FeedReading): Promise<boolean> {
    const news = await inTransaction(this.work.db, async (query) => {
      await holdStill(query, [...this.own, ...this.through]);
      // The last pairing that looked at it was removed, or another looks at more: this reading is of no use any more.
      if (!(await isStillKept(query, this.feed.id, this.fields))) return 0;
      const ids = [...page.records.map(({ id }) => id), ...page.gone];
      const held = await seenOf(query, this.feed.id, ids, true);
      const fresh: SeenRecord[] = [];
      const found: News[] = [];
      for (const record of page.records) {
        const { values, changedAt } = this.known(record.values);
        const taken = take(held.get(record.id), { values, etag: record.etag, changedAt, asked });
        if (taken.seen !== held.get(record.id)) fresh.push({ recordId: record.id, ...taken.seen });
        if (taken.news) found.push({ id: record.id, doubt: taken.doubt });
      }
      for (const id of page.gone) {
        const before = held.get(id);
        if (!before) continue;
        const taken = takeGone(before, asked);
        fresh.push({ recordId: id, ...taken.seen });
        if (taken.news) found.push({ id, doubt: taken.doubt });
      }
      await keepSeen(query, this.feed.id, generation, fresh);
      const kept = new Set(fresh.map(({ recordId }) => recordId));
      const same = page.records.flatMap(({ id }) => (kept.has(id) ? [] : [id]));
      if (whole) await noteBrought(query, this.feed.id, generation, same);
      const changed = fresh.filter(({ gone }) => !gone);
      await this.keepWays(query, changed, held);
      await this.mark(query, found);
      return found.length;
    });
    // While everything is read the pairings wait for the end of it.
    if (!whole) this.tell();
    return news > 0;
  }

  /** What a whole reading didn't bring is gone; a record that was made meanwhile is read before anybody believes it. */
  async whole({ generation }: Pick<FeedReading, 'generation'>): Promise<void> {
    for (;;) {
      const ids = await notBrought(this.work.db, this.feed.id, generation, GONE_AT_ONCE);
      if (ids.length === 0) break;
      await inTransaction(this.work.db, async (query) => {
        await holdStill(query, [...this.own, ...this.through]);
        const held = await seenOf(query, this.feed.id, ids, true);
        const fresh = [...held.values()].map((each) => ({ ...each, version: each.version + 1 }));
        await keepSeen(query, this.feed.id, generation, fresh);
        await this.mark(
          query,
          fresh.map(({ recordId }) => ({ id: recordId, doubt: true })),
        );
      });
    }
    await noteSeen(this.work.db, this.feed.id, this.fields);
    for (const { pairing } of [...this.own, ...this.through]) this.told.add(pairing.id);
    this.tell();
  }

  rest = (): Promise<void> => Promise.resolve();

  private tell(): void {
    if (this.told.size === 0) return;
    this.work.told(new Set(this.told));
    this.told.clear();
  }

  /** The values that are looked at, and when the record was changed, by our clock. */
  private known(all: Values): { values: Values; changedAt: number | undefined } {
    return knownOf(all, this.fields, this.entity, this.clockAhead);
  }

  /** Keeps where records lead to, and the keys that don't depend on other records. */
  private async keepWays(
    query: Query,
    records: readonly SeenRecord[],
    before: ReadonlyMap<string, SeenRecord>,
  ): Promise<void> {
    const ids = records.map(({ recordId }) => recordId);
    const links = followedLinks([...this.own, ...this.through], this.schema, this.entity.name);
    if (links.length > 0) await keepLinks(query, this.feed.id, ids, linksOf(records, links));
    for (const { pairing, side } of this.own) {
      await keepPlainKeys(query, pairing, side, records, before);
    }
  }

  private async mark(query: Query, news: readonly News[]): Promise<void> {
    if (news.length === 0) return;
    const now = Date.now();
    for (const { pairing, side } of this.own) {
      await markDue(query, pairing.id, side, news, now);
      this.told.add(pairing.id);
    }
    for (const looking of this.through) {
      const ids = await this.ledFrom(query, looking, news);
      await markDue(
        query,
        looking.pairing.id,
        looking.side,
        ids.map((id) => ({ id, doubt: false })),
        now,
      );
      if (ids.length > 0) this.told.add(looking.pairing.id);
    }
  }

  /** The paired records that are led to these by the relations a pairing follows. */
  private async ledFrom(query: Query, looking: Looking, news: readonly News[]): Promise<string[]> {
    const found = new Set<string>();
    for (const path of pathsTo(looking, this.schema, this.entity.name)) {
      let ids = news.map(({ id }) => id);
      for (const { entity, field } of path.toReversed()) {
        const feed = await feedOf(this.work.db, this.feed.systemId, entity);
        ids = feed ? await leadingTo(query, feed.id, field, ids.map(hashed)) : [];
      }
      for (const id of ids) found.add(id);
    }
    return [...found];
  }
}

/** A pairing that is begun or removed waits until what is being noted for it is noted, and the other way round. */
async function holdStill(query: Query, looking: readonly Looking[]): Promise<void> {
  const ids = [...new Set(looking.map(({ pairing }) => pairing.id))].sort();
  if (ids.length > 0) await query('SELECT id FROM pairings WHERE id IN (?) LOCK IN SHARE MODE', [ids]);
}

/** What is kept of a record that was read. */
export function knownOf(
  all: Values,
  fields: readonly string[],
  entity: Entity,
  clockAhead: number,
): { values: Values; changedAt: number | undefined } {
  const moment = changedAtField(entity)?.name;
  const values: Values = {};
  for (const name of fields) if (name !== moment && Object.hasOwn(all, name)) values[name] = all[name]!;
  const said = moment === undefined ? NaN : Date.parse(String(all[moment] ?? ''));
  return { values, changedAt: Number.isNaN(said) ? undefined : said - clockAhead };
}

const linksOf = (records: readonly SeenRecord[], fields: readonly string[]): SeenLink[] =>
  records.flatMap(({ recordId, values }) =>
    fields.flatMap((field) => {
      const target = values[field];
      return isBlank(target) ? [] : [{ recordId, field, target: hashed(String(target)) }];
    }),
  );

/** Whether all keys of a side come from the record itself. */
export const hasPlainKeys = (matches: readonly Match[], side: Side): boolean =>
  matches.every(({ parts }) => parts.every((part) => part[side].length === 1));

/** The keys of a record that come from itself, hashed. */
function keyHashes({ document, ready }: Looking['pairing'], side: Side, id: string, values: Values): Buffer[] {
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
  const keysOfEach = records.map(({ recordId, values, gone }) => ({
    id: recordId,
    keys: gone ? [] : keyHashes(pairing, side, recordId, values),
    fresh: before?.has(recordId) === false,
  }));
  await keepKeys(query, pairing.id, side, keysOfEach);
}
