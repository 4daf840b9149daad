/** Requests under way from which on more of them go out together. */
const CROWDED = 6;
/** The fewest and the most that go out as one; how many more after each that went well. */
const FEWEST = 2;
const MOST = 32;
const MORE = 2;
/** An answer that takes longer, in milliseconds, went badly: those who wait for the others' parts wait for nothing. */
const LONG_MS = 1_500;
/** Milliseconds for which nothing goes out together after even the fewest went badly. */
const REST_MS = 30_000;

/**
 * How many requests to a system go out as one while many are under way. Each that went well lets a few more go along the
 * next time, one that went badly halves them: additive increase and multiplicative decrease, as senders avoid congestion
 * on a network (RFC 5681, 3.1). So a request that a system dwells on soon holds up nobody but itself.
 */
export class Crowd {
  private underWay = 0;
  private size = 8;
  private restsUntil = -Infinity;

  /** @param now milliseconds of a clock that never goes back */
  constructor(private readonly now: () => number = () => performance.now()) {}

  /** How many go out as one now; fewer than two: each goes out by itself. */
  get together(): number {
    return this.underWay < CROWDED || this.now() < this.restsUntil ? 1 : this.size;
  }

  /** Counts a request as long as it is under way. */
  async with<T>(work: () => Promise<T>): Promise<T> {
    this.underWay += 1;
    try {
      return await work();
    } finally {
      this.underWay -= 1;
    }
  }

  /** What became of several that went out as one. @param failed no answer came, or none that says anything */
  went({ failed, ms }: { failed: boolean; ms: number }): void {
    if (!failed && ms <= LONG_MS) this.size = Math.min(MOST, this.size + MORE);
    else if (this.size > FEWEST) this.size = Math.max(FEWEST, Math.floor(this.size / 2));
    else this.restsUntil = this.now() + REST_MS;
  }
}
