import { METHOD, Recogniser, saysNothing } from '@zusammen/core/recognition';
import type { Values } from '@zusammen/core/schema';
import {
  clearKnown,
  forgetKnown,
  forgetStale,
  recognitionOfEntity,
  rememberKnown,
  updateRecognition,
  type Database,
  type Ignored,
  type Query,
  type RecognitionRow,
} from '../../store/index.ts';
import type { Page } from '../../systems/index.ts';
import type { FeedListener, Listen, FeedReading } from '../feeds/index.ts';
import { countsToKeep, keysBy, packedBy, type Known } from './known.ts';
import { countKnownValues, measureOf, samplePairs } from './measure.ts';

/** Counted anew when so large a share of the records is new. */
const GROWN = 0.05;

/** Keeps the index of known records, of entities that are recognised by evidence. */
export const knownListener =
  (db: Database, known: Known): Listen =>
  async (feed, entity) => {
    const row = await recognitionOfEntity(db, feed.systemId, entity.name);
    return row && new KnownListener(db, known, row);
  };

/**
 * Packs each record and keeps its keys, and measures what the recognition's screen shows when all are known. A page's
 * records are known as soon as they are taken in; how many, and what they only fill fields with, is kept with the feed.
 */
class KnownListener implements FeedListener {
  readonly fields: readonly string[];
  private count: number;
  private ignored: IgnoredValues;

  constructor(
    private readonly db: Database,
    private readonly known: Known,
    private readonly row: RecognitionRow,
  ) {
    this.fields = row.document.parts.map(({ field }) => field);
    this.count = row.known;
    this.ignored = new IgnoredValues(row.ignored ?? []);
  }

  get needsWhole(): boolean {
    return this.row.method !== METHOD;
  }

  async begin(): Promise<void> {
    this.count = 0;
    this.ignored = new IgnoredValues([]);
    if (!this.needsWhole) return;
    // What was indexed in another way is of no use.
    await clearKnown(this.db, this.row.scope);
    await updateRecognition(this.db, this.row.scope, { known: 0, method: METHOD });
    this.known.refresh();
  }

  async take(page: Page, { generation, whole }: FeedReading): Promise<boolean> {
    const recogniser = await this.known.recogniserOf(this.row);
    const records = page.records.map(({ id, values }) => packedBy(recogniser, id, values));
    const keysOf = keysBy(recogniser);
    const more = await rememberKnown(this.db, this.row.scope, generation, records, keysOf);
    const difference = more - (await forgetKnown(this.db, this.row.scope, page.gone, keysOf));
    if (whole) for (const { values } of page.records) this.ignored.add(this.row.document, values);
    this.count += whole ? records.length : difference;
    this.known.refresh();
    return difference !== 0 || records.length > 0;
  }

  async note(query: Query): Promise<void> {
    await query('UPDATE recognitions SET known = ?, ignored = ? WHERE scope = ?', [
      this.count,
      JSON.stringify(this.ignored.list()),
      this.row.scope,
    ]);
  }

  async whole({ generation }: FeedReading): Promise<void> {
    await forgetStale(this.db, this.row.scope, generation, keysBy(await this.known.recogniserOf(this.row)));
  }

  async rest(changed: boolean): Promise<void> {
    const { row, count } = this;
    const grown = Math.abs(count - row.countedOver) > Math.max(10, row.countedOver * GROWN);
    // Read from the start for somebody else, it is still the same that was measured.
    if (row.countedAt === null || grown || row.measure?.revision !== row.revision) await this.measure();
    else if (changed) await updateRecognition(this.db, row.scope, { known: count });
    this.known.refresh();
  }

  private async measure(): Promise<void> {
    const { row, db } = this;
    const recogniser = await this.known.recogniserOf(row);
    const { counts, keys, known } = await countKnownValues(db, row.scope, recogniser);
    const counted = { known, counts: countsToKeep(counts), countedAt: new Date(), countedOver: known };
    const fresh = new Recogniser(row.document, known, counts);
    const now = { ...row, known };
    const sampled = await samplePairs(db, this.known, now, fresh);
    await updateRecognition(db, row.scope, { ...counted, measure: measureOf(sampled, now, fresh, keys, new Date()) });
  }
}

/** Values that only fill their fields, counted; the commonest are kept. */
class IgnoredValues {
  private readonly counts = new Map<string, Ignored>();

  constructor(before: readonly Ignored[]) {
    for (const each of before) this.counts.set(`${each.field} ${each.value}`, { ...each });
  }

  add({ parts }: RecognitionRow['document'], values: Values): void {
    for (const { part, field } of parts) {
      const value = values[field];
      if (typeof value !== 'string' || !saysNothing(part, value)) continue;
      const key = `${field} ${value.slice(0, 60)}`;
      const held = this.counts.get(key);
      if (held) held.count += 1;
      else if (this.counts.size < 10_000) this.counts.set(key, { field, value: value.slice(0, 60), count: 1 });
    }
  }

  list(): Ignored[] {
    return [...this.counts.values()].sort((a, b) => b.count - a.count).slice(0, 30);
  }
}
