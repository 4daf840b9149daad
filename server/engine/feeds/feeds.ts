import { entityOf, type Entity } from '@zusammen/core/schema';
import { feedById, restartFeed, type Database, type FeedRow, type Query } from '../../store/index.ts';
import {
  isSystemTrouble,
  NotUnderstood,
  SystemUnavailable,
  type Changes,
  type Onwards,
  type Page,
  type Systems,
} from '../../systems/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { LiveView } from '../live.ts';
import type { FeedListener, Listen, FeedReading } from './listener.ts';

export interface FeedSettings {
  /** Milliseconds between looks for changes in a system that tells them. */
  freshMs?: number;
  /** Milliseconds between looks for what was committed late. */
  lateMs?: number;
  /** Reads a system's schema again, where that wasn't done a moment ago: it has refused what should have been right. */
  lookAgain?: (system: string) => Promise<void>;
}

/** When a feed's changes were looked for last, as only this process knows; in milliseconds since 1970. */
interface Lately {
  /** When the newest were, by the system's clock. */
  newest: number;
  /** What the last look for what was committed late has left to go on from, and when that look began. */
  since: number;
  lateAt: number;
}

const FRESH_MS = 20_000;
/** Where a system tells changes in no way, everything is read again, and less often. */
const UNTOLD_MS = 600_000;
/** Nobody may ask for everything more often than this. */
const UNTOLD_LEAST_MS = 60_000;
const TROUBLE_MS = 5_000;
/** What was committed late has an earlier time than what was seen before it: so much is read again, and so often. */
const OVERLAP_MS = 60_000;
const LATE_EVERY_MS = 30_000;
/** At all other looks so much is: with many changes a minute of them is more than can be read in the time between looks. */
const SHORT_OVERLAP_MS = 5_000;
/** Where what is gone isn't told, everything is compared so often. */
const COMPARE_MS = 24 * 3_600_000;

/**
 * The change feed of an entity: reads every record once, page by page, and then what changes, for all who listen. By the
 * system's own delta links (OData Protocol 4.01, 11.3) where it has them, else by the time of change, else by reading
 * everything again, which also tells what is gone; where changes don't tell it, that is done every day besides. It goes on where it stopped, in whichever process.
 */
export class Feeds {
  private readonly lately = new Map<number, Lately>();

  constructor(
    private readonly db: Database,
    private readonly systems: Pick<Systems, 'client'>,
    private readonly live: Pick<LiveView, 'allSchemas'>,
    private readonly kinds: readonly Listen[],
    private readonly settings: FeedSettings = {},
  ) {}

  /** One turn at a feed. */
  readonly work: JobWork = async (job) => {
    const feed = await feedById(this.db, Number(job.row.subject));
    if (!feed) return { state: 'done', words: null };
    try {
      return await this.read(job, feed);
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      const waits = error instanceof SystemUnavailable ? (error.waitMs ?? 0) : 0;
      // A link that the system no longer understands: everything is read anew.
      const anew = error instanceof NotUnderstood ? { nextLink: null, deltaLink: null } : {};
      await job.note({}, keep(feed, { words: error.message, ...anew }));
      if (error instanceof NotUnderstood) await this.settings.lookAgain?.(feed.systemId);
      return { state: 'running', dueAt: new Date(Date.now() + TROUBLE_MS + waits) };
    }
  };

  private async read(job: HeldJob, feed: FeedRow): Promise<JobEnd> {
    const entity = entityOf((await this.live.allSchemas()).get(feed.systemId) ?? { entities: [] }, feed.entity);
    if (!entity) throw new NotUnderstood(`${feed.entity} can't be seen in the system any more.`);
    const heard = await Promise.all(this.kinds.map((listen) => listen(feed, entity)));
    const listeners = heard.filter((each) => each !== undefined);
    if (listeners.length === 0) return { state: 'done', words: null };
    if (listeners.some(({ needsWhole }) => needsWhole)) {
      for (const each of listeners) await each.begin();
      await restartFeed(this.db, feed);
      return 'stopped';
    }
    const told = (await this.systems.client(feed.systemId)).changes(entity);
    const changes = feed.filledAt === null ? undefined : changesFrom(feed, told);
    const isDue = told?.deletions === false && feed.deltaLink === null && isOld(feed.comparedAt ?? feed.filledAt);
    const from = isDue || (feed.filledAt !== null && feed.nextLink !== null) ? undefined : changes;
    const started = new Date();
    const pages = new Pages(this.systems, feed, entity, listeners);
    const changed = from ? await this.changes({ job, pages, feed }, from) : await this.whole(job, pages, feed);
    if (job.stopping) return 'stopped';
    for (const each of listeners) await each.rest(changed);
    const compared = from ? {} : { comparedAt: started };
    await job.note(
      {},
      keep(feed, { words: null, ...compared, ...(feed.filledAt === null ? { filledAt: started } : {}) }),
    );
    const untold = feed.filledAt !== null && !told && feed.deltaLink === null;
    return { state: 'running', dueAt: new Date(started.getTime() + this.pause(feed, untold)) };
  }

  /** Milliseconds until the next look: as somebody asks for, or as suits. */
  private pause({ lookEvery }: FeedRow, untold: boolean): number {
    const usual = untold ? UNTOLD_MS : (this.settings.freshMs ?? FRESH_MS);
    if (lookEvery === null) return usual;
    return Math.min(usual, untold ? Math.max(UNTOLD_LEAST_MS, lookEvery * 1000) : lookEvery * 1000);
  }

  /** Reads everything, going on where it was. */
  private async whole(job: HeldJob, pages: Pages, feed: FeedRow): Promise<boolean> {
    const again = feed.filledAt !== null && feed.nextLink === null;
    const generation = again ? feed.generation + 1 : feed.generation;
    // Where the system tells no changes by links, they are asked for by time later: since before the reading began.
    let since = feed.nextLink === null ? undefined : feed.changesSince;
    const reading: Reading = { generation, whole: true };
    if (again) await job.note({}, keep(feed, { generation }));
    if (feed.nextLink === null) await pages.begin();
    let coming = pages.next(feed.nextLink === null ? undefined : { link: feed.nextLink });
    while (!job.stopping) {
      const page = await coming;
      const link = page.next ?? null;
      // While this one is taken in, the next one is on its way.
      if (link !== null) coming = pages.next({ link });
      coming.catch(() => undefined);
      await pages.take(page, reading);
      since ??= new Date(timeOf(page) - OVERLAP_MS);
      const told = { nextLink: link, deltaLink: page.delta ?? null, changesSince: since, words: null };
      await job.note(
        {},
        keep(feed, told, (query) => pages.note(query)),
      );
      if (link === null) {
        await pages.whole(reading);
        return true;
      }
    }
    return true;
  }

  /** Reads what has changed; asked for by time, most looks go back a little and some of them further. */
  private async changes(turn: Turn, start: Onwards): Promise<boolean> {
    if ('link' in start) return (await this.follow(turn, start, { keeps: true })).changed;
    const { job, feed } = turn;
    const held = this.lately.get(feed.id);
    const isDue = held === undefined || Date.now() - held.lateAt >= (this.settings.lateMs ?? LATE_EVERY_MS);
    if (isDue || held.since !== feed.changesSince?.getTime()) return this.late(turn, start);
    const { changed, at } = await this.newest(turn, start, held.newest);
    if (!job.stopping) held.newest = at;
    return changed;
  }

  /** Reads the newest changes; what is kept stays as it is, so that whoever goes on from there reads them once more. */
  private newest(turn: Turn, start: ByTime, newest: number) {
    const since = new Date(newest - SHORT_OVERLAP_MS).toISOString();
    return this.follow(turn, { changed: start.changed, since }, { keeps: false });
  }

  /** Reads what may have been committed late as well; that may be much, and the newest changes don't wait for it. */
  private async late(turn: Turn, start: ByTime): Promise<boolean> {
    const { job, feed } = turn;
    const lateAt = Date.now();
    let looked = lateAt;
    let newest: number | undefined;
    const between = async (begun: number): Promise<void> => {
      if (Date.now() - looked < this.pause(feed, false)) return;
      looked = Date.now();
      const { at } = await this.newest(turn, start, newest ?? begun);
      newest = at;
    };
    const { changed, at } = await this.follow(turn, start, { keeps: true, between });
    if (!job.stopping) this.lately.set(feed.id, { newest: newest ?? at, since: at - OVERLAP_MS, lateAt });
    return changed;
  }

  /**
   * Reads what has changed since, page by page.
   * @returns whether anything was new, and what time it was in the system when the first page was read
   */
  private async follow(
    { job, pages, feed }: Turn,
    start: Onwards,
    { keeps, between }: { keeps: boolean; between?: (begun: number) => Promise<void> },
  ): Promise<{ changed: boolean; at: number }> {
    const reading: Reading = { generation: feed.generation, whole: false };
    let changed = false;
    let at: number | undefined;
    for (let from: Onwards | undefined = start; from && !job.stopping; ) {
      const page: AskedPage = await pages.next(from);
      changed = (await pages.take(page, reading)) || changed;
      at ??= timeOf(page);
      const isEnd = page.next === undefined;
      // What was asked for is read to its end before the next question begins later.
      const changesSince = keeps && isEnd ? new Date(at - OVERLAP_MS) : feed.changesSince;
      const told = { deltaLink: page.delta ?? feed.deltaLink, changesSince };
      await job.note(
        {},
        keep(feed, told, (query) => pages.note(query)),
      );
      if (!isEnd) await between?.(at);
      from = isEnd ? undefined : { link: page.next! };
    }
    return { changed, at: at ?? Date.now() };
  }
}

/** A turn at a feed. */
interface Turn {
  job: HeldJob;
  pages: Pages;
  feed: FeedRow;
}

type ByTime = Extract<Onwards, { changed: string }>;

type Reading = Omit<FeedReading, 'asked'>;

/** A page, and when it was asked for in milliseconds since 1970: what it tells may be as old. */
type AskedPage = Page & { asked: number };

/** The pages of a feed, and all who listen to them. */
class Pages {
  private readonly fields: string[];

  constructor(
    private readonly systems: Pick<Systems, 'client'>,
    private readonly feed: FeedRow,
    private readonly entity: Entity,
    private readonly listeners: readonly FeedListener[],
  ) {
    this.fields = [...new Set([entity.key, ...listeners.flatMap(({ fields }) => fields)])];
  }

  async next(from: Onwards | undefined): Promise<AskedPage> {
    const asked = Date.now();
    const client = await this.systems.client(this.feed.systemId);
    return { ...(await client.page(this.entity, this.fields, from)), asked };
  }

  async begin(): Promise<void> {
    for (const each of this.listeners) await each.begin();
  }

  async take({ asked, ...page }: AskedPage, reading: Reading): Promise<boolean> {
    let changed = false;
    for (const each of this.listeners) changed = (await each.take(page, { ...reading, asked })) || changed;
    return changed;
  }

  async note(query: Query): Promise<void> {
    for (const each of this.listeners) await each.note(query);
  }

  async whole(reading: Reading): Promise<void> {
    for (const each of this.listeners) await each.whole(reading);
  }
}

const COLUMNS = {
  generation: 'generation',
  filledAt: 'filled_at',
  nextLink: 'next_link',
  deltaLink: 'delta_link',
  changesSince: 'changes_since',
  comparedAt: 'compared_at',
  words: 'words',
} as const;
type Position = Partial<Pick<FeedRow, keyof typeof COLUMNS>>;

/** What is kept of a feed with a note of its job. */
function keep({ id }: FeedRow, position: Position, also?: (query: Query) => Promise<void>) {
  const names = Object.keys(position) as (keyof Position)[];
  return async (query: Query): Promise<void> => {
    await query(`UPDATE feeds SET ${names.map((name) => `${COLUMNS[name]} = ?`).join(', ')} WHERE id = ?`, [
      ...names.map((name) => position[name]),
      id,
    ]);
    await also?.(query);
  };
}

/** Where what has changed since is told, or how it is asked for; undefined where the system tells it in no way. */
function changesFrom({ deltaLink, changesSince }: FeedRow, told: Changes | undefined): Onwards | undefined {
  if (deltaLink !== null) return { link: deltaLink };
  return told && changesSince ? { changed: told.field, since: changesSince.toISOString() } : undefined;
}

/** When a page was read: by the system's own clock, where it tells it. */
const timeOf = ({ clock, asked }: AskedPage): number => clock?.getTime() ?? asked;

const isOld = (at: Date | null): boolean => at !== null && Date.now() - at.getTime() > COMPARE_MS;
