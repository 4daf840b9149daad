import { countStates, type Database, type SubmissionState } from '../store/index.ts';

type States = Partial<Record<SubmissionState, number>>;

/** A count that took longer than this isn't waited for a second time: what was counted last is shown meanwhile. */
const QUICK_MS = 60;
/** What took long is counted anew after this many times as long. */
const REST = 20;

const MOST_KEPT = 1000;

/** How many submissions stand in each state; among millions, as of a few seconds ago. */
export class Counts {
  private readonly known = new Map<string, { counts: States; at: number; took: number; running?: Promise<States> }>();

  constructor(private readonly db: Database) {}

  /** @param intake of one intake; absent: of all */
  async states(intake?: string): Promise<States> {
    const key = intake ?? '';
    const known = this.known.get(key);
    if (!known || known.took < QUICK_MS) return this.count(key);
    if (Date.now() - known.at > known.took * REST) known.running ??= this.count(key);
    return known.counts;
  }

  private async count(key: string): Promise<States> {
    const started = performance.now();
    const counts = await countStates(this.db, key === '' ? undefined : key);
    if (this.known.size > MOST_KEPT) this.known.clear();
    this.known.set(key, { counts, at: Date.now(), took: performance.now() - started });
    return counts;
  }
}
