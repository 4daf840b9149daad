import { take, takeGone } from '@zusammen/core/pairing';
import { changedAtField, fieldOf, type Entity, type Values } from '@zusammen/core/schema';
import {
  inTransaction,
  isStillKept,
  keepFewer,
  keepSeen,
  livePairings,
  noteBrought,
  noteSeen,
  notBrought,
  seenOf,
  type Database,
  type FeedRow,
  type Query,
  type SeenRecord,
} from '../../store/index.ts';
import type { LiveView } from '../live.ts';
import type { Systems } from '../../systems/index.ts';
import type { FeedListener, FeedReading, Listen } from '../feeds/index.ts';
import type { Page } from '../../systems/index.ts';
import {
  keepWays,
  lookersOn,
  markLooking,
  stillLooking,
  type Lookers,
  type News,
  type StillLooking,
} from './lookers.ts';
import { goesBy, type Pairings } from './view.ts';

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
    const fields = await fieldsStillThere(work, feed, feed.seen, entity);
    const lookers = await lookersOn(work, feed, schema);
    const client = await work.systems.client(feed.systemId);
    return new PairingListener(work, feed, fields, entity, lookers, client.clockAhead ?? 0);
  };

/**
 * What is kept of an entity's records, without fields that it no longer has and no pairing goes by any more: asked for one of
 * those, the system would refuse the whole reading. As long as a pairing does go by it, nothing is read: what isn't told
 * would look to it like something that somebody has emptied.
 */
async function fieldsStillThere(
  { db, live }: Listening,
  { id, systemId: system }: Pick<FeedRow, 'id' | 'systemId'>,
  kept: readonly string[],
  entity: Entity,
): Promise<readonly string[]> {
  const isThere = (name: string): boolean => (fieldOf(entity, name)?.rights ?? 'none') !== 'none';
  if (kept.every(isThere)) return kept;
  const [pairings, schemas] = [await livePairings(db), await live.allSchemas()];
  const wanted = (field: string): boolean =>
    pairings.some(({ document }) => goesBy(document, schemas, { system, entity: entity.name, field }));
  const fewer = kept.filter((name) => isThere(name) || wanted(name));
  if (fewer.length < kept.length) await keepFewer(db, id, kept, fewer);
  return fewer;
}

const GONE_AT_ONCE = 500;

class PairingListener implements FeedListener {
  readonly needsWhole = false;
  private readonly told = new Set<string>();

  constructor(
    private readonly work: Listening,
    private readonly feed: FeedRow,
    readonly fields: readonly string[],
    private readonly entity: Entity,
    private readonly lookers: Lookers,
    private readonly clockAhead: number,
  ) {}

  begin = (): Promise<void> => Promise.resolve();
  note = (): Promise<void> => Promise.resolve();

  async take(page: Page, { generation, whole, asked }: FeedReading): Promise<boolean> {
    const news = await inTransaction(this.work.db, async (query) => {
      // A pairing that is begun or removed waits until what is being noted for it is noted, and the other way round.
      const lookers = await stillLooking(query, this.lookers);
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
      await keepWays(query, lookers, changed, held);
      await this.mark(query, lookers, found);
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
        const lookers = await stillLooking(query, this.lookers);
        const held = await seenOf(query, this.feed.id, ids, true);
        const fresh = [...held.values()].map((each) => ({ ...each, version: each.version + 1 }));
        await keepSeen(query, this.feed.id, generation, fresh);
        await this.mark(
          query,
          lookers,
          fresh.map(({ recordId }) => ({ id: recordId, doubt: true })),
        );
      });
    }
    await noteSeen(this.work.db, this.feed.id, this.fields);
    for (const { pairing } of [...this.lookers.own, ...this.lookers.through]) this.told.add(pairing.id);
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

  private async mark(query: Query, lookers: StillLooking, news: readonly News[]): Promise<void> {
    for (const id of await markLooking(query, lookers, news)) this.told.add(id);
  }
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
