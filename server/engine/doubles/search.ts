import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { groupsOf, type DoublePair } from '@zusammen/core/recognition';
import {
  claimSearch,
  decidedOf,
  endSearch,
  loggable,
  noteSearch,
  recognitionByScope,
  releaseSearches,
  type Database,
  type DoubleSearch,
} from '../../store/index.ts';
import type { Asked, ThreadData, Told } from './thread.ts';

export interface SearcherSettings {
  /** Names this process among all that search. */
  name: string;
  databaseUrl: string;
  /** The thread's program: bundled beside ours, or as source while testing. */
  thread: string | URL;
  pollMs: number;
  log: (message: string, details: Record<string, unknown>) => void;
}

const LEASE_MS = 60_000;
/** Records a thread compares before it tells what it found. */
const PORTION = 1000;
/** Pairs kept of a search; who has more has another trouble than doubles. */
export const MOST_PAIRS = 50_000;

/**
 * Searches for doubles among all known records, in threads of its own. Progress is noted after every portion; after a
 * pause, a stop or a crash it goes on there, in whichever process.
 */
export class Searcher {
  private timer: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private stopping = false;

  constructor(
    private readonly db: Database,
    private readonly settings: SearcherSettings,
  ) {}

  start(): void {
    this.timer = setInterval(() => this.look(), this.settings.pollMs);
  }

  look(): void {
    if (this.running || this.stopping) return;
    this.running = this.work()
      .catch((error: unknown) => this.settings.log('doubles could not be searched for', loggable(error)))
      .finally(() => (this.running = undefined));
  }

  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.timer);
    await this.running;
    await releaseSearches(this.db, this.settings.name).catch(() => undefined);
  }

  private async work(): Promise<void> {
    while (!this.stopping) {
      const search = await claimSearch(this.db, this.settings.name, LEASE_MS);
      if (!search) return;
      try {
        await this.search(search);
      } catch (error) {
        this.settings.log('doubles could not be searched for', loggable(error));
        await noteSearch(this.db, search.id, this.settings.name, {
          state: 'failed',
          words: 'Something went wrong on our side.',
          endedAt: new Date(),
        });
      }
    }
  }

  private async search(search: DoubleSearch): Promise<void> {
    const row = await recognitionByScope(this.db, search.scope);
    if (!row) throw new Error('Its recognition is gone.');
    const data: ThreadData = {
      databaseUrl: this.settings.databaseUrl,
      scope: search.scope,
      otherScope: search.otherScope,
      recognition: row.document,
    };
    const threads = await Promise.all(
      Array.from({ length: Math.max(1, Math.min(2, availableParallelism())) }, () => this.thread(data)),
    );
    try {
      const total = threads[0]!.ready;
      const pairs: DoublePair[] = [...search.pairs];
      let { compared } = search;
      const portions = new Portions(search.done, total);
      let going = await noteSearch(this.db, search.id, this.settings.name, { total });
      await Promise.all(
        threads.map(async ({ ask }) => {
          for (let next = portions.next(); next && going && !this.stopping; next = portions.next()) {
            const told = await ask(next);
            pairs.push(...told.pairs);
            compared += told.compared;
            portions.done(next);
            // Only what is done without a gap counts: what another thread still compares is compared again after a crash.
            const { reached } = portions;
            const kept = pairs.slice(0, MOST_PAIRS);
            going &&= await noteSearch(this.db, search.id, this.settings.name, {
              done: reached,
              compared,
              pairs: kept,
            });
          }
        }),
      );
      if (!going || portions.reached < total) return;
      await this.end(search, pairs);
    } finally {
      await Promise.all(threads.map(({ close }) => close()));
    }
  }

  private async end(search: DoubleSearch, pairs: readonly DoublePair[]): Promise<void> {
    // A portion that was compared twice says the same twice.
    const once = new Map(pairs.map((pair) => [`${pair.a}\u001f${pair.b}`, pair]));
    const apart = new Set(
      (await decidedOf(this.db, search.scope)).flatMap(({ a, b, same }) => (same ? [] : [`${a} ${b}`])),
    );
    const open = [...once.values()].filter(({ a, b }) => !apart.has(a < b ? `${a} ${b}` : `${b} ${a}`));
    const groups =
      search.scope === search.otherScope
        ? groupsOf(open)
        : open
            .sort((x, y) => y.weight - x.weight)
            .map(({ a, b, weight, verdict }) => ({ members: [a, b], weight, verdict }));
    const words = pairs.length > MOST_PAIRS ? `Only the first ${MOST_PAIRS} pairs are kept.` : null;
    await endSearch(this.db, search, this.settings.name, groups, words);
  }

  private async thread(data: ThreadData) {
    const worker = new Worker(this.settings.thread, { workerData: data });
    let hear: { resolve: (told: Told) => void; reject: (error: Error) => void } | undefined;
    let ended: Error | undefined;
    const end = (error: Error): void => {
      ended ??= error;
      hear?.reject(ended);
    };
    worker.on('message', (told: Told) => hear?.resolve(told));
    worker.on('error', end);
    worker.on('exit', () => end(new Error('The thread has ended.')));
    const next = (asked?: Asked): Promise<Told> =>
      new Promise((resolve, reject) => {
        if (ended) return reject(ended);
        hear = { resolve, reject };
        if (asked) worker.postMessage(asked);
      });
    const first = await next();
    return {
      ready: 'ready' in first ? first.ready : 0,
      ask: async (asked: Asked) => (await next(asked)) as Extract<Told, Asked>,
      close: async () => void (await worker.terminate()),
    };
  }
}

/** Portions of a row of records, handed out in order; knows up to where all of them are done. */
class Portions {
  private at: number;
  private readonly open = new Set<number>();

  constructor(
    start: number,
    private readonly total: number,
  ) {
    this.at = start;
  }

  next(): Asked | undefined {
    if (this.at >= this.total) return undefined;
    const portion = { from: this.at, to: Math.min(this.total, this.at + PORTION) };
    this.at = portion.to;
    this.open.add(portion.from);
    return portion;
  }

  done({ from }: Asked): void {
    this.open.delete(from);
  }

  get reached(): number {
    return this.open.size === 0 ? this.at : Math.min(...this.open);
  }
}
