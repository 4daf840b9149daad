import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { groupsOf, type DoublePair } from '@zusammen/core/recognition';
import {
  decidedOf,
  keepGroups,
  recognitionByScope,
  searchById,
  type Database,
  type DoubleSearch,
} from '../../store/index.ts';
import type { HeldJob, JobEnd, JobWork } from '../jobs.ts';
import type { Asked, ThreadData, Told } from './thread.ts';

export interface SearcherSettings {
  databaseUrl: string;
  /** The threads' program: bundled beside ours. */
  thread: string | URL;
}

/** Records a thread compares before it tells what it found. */
const PORTION = 1000;
/** Pairs kept of a search; who has more has another trouble than doubles. */
export const MOST_PAIRS = 50_000;

/** Searches for doubles among all known records, in threads of its own; from the record where its job has come to. */
export class Searcher {
  constructor(
    private readonly db: Database,
    private readonly settings: SearcherSettings,
  ) {}

  readonly work: JobWork = async (job) => {
    const search = await searchById(this.db, job.row.subject);
    const row = search && (await recognitionByScope(this.db, search.scope));
    if (!search || !row) return { state: 'failed', words: 'Its recognition is gone.' };
    const { scope, otherScope } = search;
    const data: ThreadData = {
      ...{ scope, otherScope },
      databaseUrl: this.settings.databaseUrl,
      recognition: row.document,
    };
    const { thread } = this.settings;
    const threads = Math.max(1, Math.min(2, availableParallelism()));
    const pool = new Piscina({
      filename: typeof thread === 'string' ? thread : thread.href,
      workerData: data,
      ...{ minThreads: threads, maxThreads: threads },
    });
    try {
      return await this.search(job, search, pool, threads);
    } finally {
      await pool.destroy();
    }
  };

  private async search(job: HeldJob, search: DoubleSearch, pool: Piscina, threads: number): Promise<JobEnd> {
    const ask = (asked: Asked | null): Promise<Told> => pool.run(asked) as Promise<Told>;
    const { total } = await ask(null);
    const pairs: DoublePair[] = [...search.pairs];
    let { compared } = search;
    const portions = new Portions(search.done, total);
    await job.note({ total });
    await Promise.all(
      Array.from({ length: threads }, async () => {
        for (let next = portions.next(); next && !job.stopping; next = portions.next()) {
          const told = await ask(next);
          pairs.push(...told.pairs);
          compared += told.compared;
          portions.done(next);
          const kept = pairs.slice(0, MOST_PAIRS);
          // Only what is done without a gap counts: what another thread still compares is compared again after a crash.
          await job.note({ done: portions.reached }, async (query) => {
            await query('UPDATE double_searches SET compared = ?, pairs = ? WHERE id = ?', [
              ...[compared, JSON.stringify(kept), search.id],
            ]);
          });
        }
      }),
    );
    if (portions.reached < total) return 'stopped';
    const groups = await this.groups(search, pairs);
    await job.note({}, (query) => keepGroups(query, search, groups));
    const words = pairs.length > MOST_PAIRS ? `Only the first ${MOST_PAIRS} pairs are kept.` : null;
    return { state: 'done', words };
  }

  private async groups(search: DoubleSearch, pairs: readonly DoublePair[]) {
    // A portion that was compared twice says the same twice.
    const once = new Map(pairs.map((pair) => [`${pair.a}\u001f${pair.b}`, pair]));
    const apart = new Set(
      (await decidedOf(this.db, search.scope)).flatMap(({ a, b, same }) => (same ? [] : [`${a} ${b}`])),
    );
    const open = [...once.values()].filter(({ a, b }) => !apart.has(a < b ? `${a} ${b}` : `${b} ${a}`));
    return search.scope === search.otherScope
      ? groupsOf(open)
      : open
          .sort((x, y) => y.weight - x.weight)
          .map(({ a, b, weight, verdict }) => ({ members: [a, b], weight, verdict }));
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
