import { METHOD, Recogniser, saysNothing } from '@zusammen/core/recognition';
import { changedAtField, entityOf, type Entity, type Values } from '@zusammen/core/schema';
import {
  claimRecognition,
  clearKnown,
  forgetKnown,
  forgetStale,
  hastenRecognition,
  loggable,
  noteReading,
  releaseRecognitions,
  rememberKnown,
  type Database,
  type Ignored,
  type RecognitionRow,
} from '../../store/index.ts';
import {
  NotUnderstood,
  SystemUnavailable,
  TokenRefused,
  type From,
  type Page,
  type Systems,
} from '../../systems/index.ts';
import type { LiveView } from '../live.ts';
import { countsToKeep, keysBy, packedBy, type Known } from './known.ts';
import { countKnownValues, measureOf, samplePairs } from './measure.ts';

export interface FillerSettings {
  /** Names this process among all that fill the index. */
  name: string;
  pollMs: number;
  /** Milliseconds between looks for changes in a system. */
  freshMs?: number;
  log: (message: string, details: Record<string, unknown>) => void;
}

const LEASE_MS = 60_000;
const FRESH_MS = 20_000;
const UNTOLD_MS = 600_000;
const TROUBLE_MS = 5_000;
/** Counted anew when so large a share of the records is new. */
const GROWN = 0.05;
/** A moment's grace where changes are asked for by time: clocks differ. */
const OVERLAP_MS = 60_000;

/** What a turn at an index came to. */
interface Turn {
  known: number;
  /** Something was told that wasn't known. */
  changed: boolean;
}

/**
 * Keeps the index of known records: reads every record of an entity once, page by page, then what changes. It goes on
 * where it stopped, in whichever process; measures what the recognition's screen shows when the records are known.
 */
export class Filler {
  private timer: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private stopping = false;

  constructor(
    private readonly db: Database,
    private readonly systems: Pick<Systems, 'client'>,
    private readonly live: LiveView,
    private readonly known: Known,
    private readonly settings: FillerSettings,
  ) {}

  start(): void {
    this.timer = setInterval(() => this.look(), this.settings.pollMs);
    this.look();
  }

  look(): void {
    if (this.running || this.stopping) return;
    this.running = this.work()
      .catch((error: unknown) => this.settings.log('known records could not be read', loggable(error)))
      .finally(() => (this.running = undefined));
  }

  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.timer);
    await this.running;
    await releaseRecognitions(this.db, this.settings.name).catch(() => undefined);
  }

  /** Reads on all that is due; for tests and the demo's loading. */
  async work(): Promise<void> {
    while (!this.stopping) {
      const row = await claimRecognition(this.db, this.settings.name, LEASE_MS);
      if (!row) return;
      try {
        await this.turn(row);
      } catch (error) {
        const outside =
          error instanceof SystemUnavailable || error instanceof TokenRefused || error instanceof NotUnderstood;
        if (!outside) this.settings.log('known records could not be read', loggable(error));
        const words = outside ? error.message : 'Something went wrong on our side.';
        const waits = error instanceof SystemUnavailable ? (error.waitMs ?? 0) : 0;
        // A link that the system no longer understands: everything is read anew.
        const anew = error instanceof NotUnderstood ? { nextLink: null, deltaLink: null } : {};
        await this.end(row, { words, ...anew, dueAt: new Date(Date.now() + TROUBLE_MS + waits) });
      }
      this.known.refresh();
    }
  }

  private async turn(claimed: RecognitionRow): Promise<void> {
    const schemas = await this.live.allSchemas();
    const entity = entityOf(schemas.get(claimed.systemId) ?? { entities: [] }, claimed.entity);
    if (!entity) throw new NotUnderstood(`${claimed.entity} can't be seen in the system any more.`);
    if (claimed.method !== METHOD) return this.anew(claimed);
    const again = claimed.filledAt !== null && !changesFrom(claimed, entity);
    const row = again ? await this.nextGeneration(claimed) : claimed;
    const started = new Date();
    const { known, changed } = row.filledAt === null ? await this.fill(row, entity) : await this.follow(row, entity);
    if (this.stopping) return;
    const grown = Math.abs(known - row.countedOver) > Math.max(10, row.countedOver * GROWN);
    // Where the system tells changes in no way, everything is read again, and less often.
    const rest = again ? UNTOLD_MS : (this.settings.freshMs ?? FRESH_MS);
    const dueAt = new Date(Date.now() + rest);
    const remeasure = row.filledAt === null || grown || row.measure?.revision !== row.revision;
    const counted = remeasure ? await this.count(row) : { known };
    await this.end(row, {
      ...counted,
      ...(row.filledAt === null ? { filledAt: started } : {}),
      ...(changed || remeasure ? {} : { known: row.known }),
      words: null,
      dueAt,
    });
  }

  /** Everything is read again: what isn't met any more is told by its older generation. */
  private async nextGeneration(row: RecognitionRow): Promise<RecognitionRow> {
    const generation = row.generation + 1;
    if (!(await noteReading(this.db, row, this.settings.name, { generation }, LEASE_MS))) throw new Superseded();
    return { ...row, generation };
  }

  /** What was indexed in another way is of no use; it is read from the start at the next turn. */
  private async anew(row: RecognitionRow): Promise<void> {
    await clearKnown(this.db, row.scope);
    const start = { filledAt: null, nextLink: null, deltaLink: null, known: 0 };
    await this.end(row, { ...start, method: METHOD, generation: row.generation + 1, dueAt: new Date() });
  }

  /** Reads everything, going on where it was. */
  private async fill(row: RecognitionRow, entity: Entity): Promise<Turn> {
    let from: From | undefined = row.nextLink === null ? undefined : { link: row.nextLink };
    let { known } = row;
    // Where the system tells no changes, they are asked for by time later: since before the reading began.
    const since = row.nextLink === null ? new Date(Date.now() - OVERLAP_MS) : (row.changesSince ?? new Date());
    if (from === undefined) known = 0;
    const ignored = new IgnoredValues(from === undefined ? [] : (row.ignored ?? []));
    while (!this.stopping) {
      const page = await this.page(row, entity, from);
      await this.takeIn(row, page);
      for (const { values } of page.records) ignored.add(row.document, values);
      known += page.records.length;
      const next = page.next ?? null;
      const told = {
        nextLink: next,
        deltaLink: page.delta ?? null,
        changesSince: since,
        known,
        words: null,
        ignored: ignored.list(),
      };
      if (!(await noteReading(this.db, row, this.settings.name, told, LEASE_MS))) throw new Superseded();
      this.known.refresh();
      if (next === null) break;
      from = { link: next };
    }
    const keysOf = keysBy(await this.known.recogniserOf(row));
    if (!this.stopping) await forgetStale(this.db, row.scope, row.generation, keysOf);
    return { known, changed: true };
  }

  /** Takes in what has changed since. */
  private async follow(row: RecognitionRow, entity: Entity): Promise<Turn> {
    const now = new Date(Date.now() - OVERLAP_MS);
    let from = changesFrom(row, entity);
    let { known } = row;
    let changed = false;
    // A system that tells changes in no way is read as a whole again.
    if (!from) return this.fill({ ...row, nextLink: null }, entity);
    for (;;) {
      const page: Page = await this.page(row, entity, from);
      const difference = await this.takeIn(row, page);
      changed ||= difference !== 0 || page.records.length > 0;
      known += difference;
      const told = { deltaLink: page.delta ?? row.deltaLink, changesSince: now, known };
      if (!(await noteReading(this.db, row, this.settings.name, told, LEASE_MS))) throw new Superseded();
      if (page.next === undefined || this.stopping) return { known, changed };
      from = { link: page.next };
    }
  }

  private async page(row: RecognitionRow, entity: Entity, from: From | undefined): Promise<Page> {
    const fields = [entity.key, ...row.document.parts.map(({ field }) => field)];
    return (await this.systems.client(row.systemId)).page(entity, [...new Set(fields)], from);
  }

  /** @returns how many more records are known now */
  private async takeIn(row: RecognitionRow, page: Page): Promise<number> {
    const recogniser = await this.known.recogniserOf(row);
    const records = page.records.map(({ id, values }) => packedBy(recogniser, id, values));
    const keysOf = keysBy(recogniser);
    const more = await rememberKnown(this.db, row.scope, row.generation, records, keysOf);
    return more - (await forgetKnown(this.db, row.scope, page.gone, keysOf));
  }

  private async count(row: RecognitionRow) {
    const recogniser = await this.known.recogniserOf(row);
    const { counts, keys, known } = await countKnownValues(this.db, row.scope, recogniser);
    const counted = { known, counts: countsToKeep(counts), countedAt: new Date(), countedOver: known };
    const fresh = new Recogniser(row.document, known, counts);
    const now = { ...row, known };
    const sampled = await samplePairs(this.db, this.known, now, fresh);
    return { ...counted, measure: measureOf(sampled, now, fresh, keys, new Date()) };
  }

  private async end(row: RecognitionRow, change: Parameters<typeof noteReading>[3]): Promise<void> {
    const freed = { claimedBy: null, claimedUntil: null };
    if (!(await noteReading(this.db, row, this.settings.name, { ...change, ...freed }, LEASE_MS))) {
      // Somebody saved another way of recognising meanwhile: the claim is of no use to it.
      await releaseRecognitions(this.db, this.settings.name);
      await hastenRecognition(this.db, row.scope);
    }
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

/** What is compared was changed while it was being read. */
class Superseded extends SystemUnavailable {
  constructor() {
    super('What is compared was changed; the records are read anew.', 0);
  }
}

function changesFrom(row: RecognitionRow, entity: Entity): From | undefined {
  if (row.deltaLink !== null) return { link: row.deltaLink };
  const field = changedAtField(entity);
  return field && row.changesSince ? { changed: field.name, since: row.changesSince.toISOString() } : undefined;
}
