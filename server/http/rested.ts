/** A figure that took longer than this isn't waited for a second time: what was worked out last is shown meanwhile. */
const QUICK_MS = 60;
/** What took long is worked out anew after this many times as long. */
const REST = 20;
const MOST_KEPT = 500;

interface Kept<Value> {
  value: Value;
  at: number;
  took: number;
  running?: Promise<unknown>;
}

/**
 * Figures over all submissions: as of now while that is quick, and among millions as of a few seconds ago, so that a
 * screen that looks again at every arrival costs no more than a share of the database.
 */
export class Rested<Key extends string, Value> {
  private readonly kept = new Map<Key, Kept<Value>>();

  constructor(private readonly work: (key: Key) => Promise<Value>) {}

  async get(key: Key): Promise<Value> {
    const known = this.kept.get(key);
    if (!known || known.took < QUICK_MS) return this.anew(key);
    if (Date.now() - known.at > known.took * REST && !known.running)
      // Where it fails, what was known goes on being shown and the next who asks tries again.
      known.running = this.anew(key).catch(() => delete known.running);
    return known.value;
  }

  private async anew(key: Key): Promise<Value> {
    const started = performance.now();
    const value = await this.work(key);
    if (this.kept.size > MOST_KEPT) this.kept.clear();
    this.kept.set(key, { value, at: Date.now(), took: performance.now() - started });
    return value;
  }
}
