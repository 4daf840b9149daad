import { Counter, hash32 } from './hash.ts';

/** Made-up records that count beside the real ones, so that few records don't make everything look common. */
const BESIDE = 1000;

/** How common values are among the records: a shared rare name says more than a shared common one. */
export class Frequency {
  private counts = new Counter();
  private total = 0;

  /**
   * @param least no value counts as rarer than one in so many
   * @param chance how many others may have a value that only one of the records has: half a one for names, which many
   * bear (Krichevsky, Trofimov); next to none for what belongs to one, such as a mailbox
   */
  constructor(
    private readonly least: number,
    private readonly chance = 0.5,
  ) {}

  add(value: string): void {
    this.total += 1;
    this.counts.add(hash32(value));
  }

  count(value: string): number {
    return this.counts.get(hash32(value));
  }

  /** How much it says that two records share a value, in bits: log2 of one over its share. */
  bits(value: string): number {
    const counted = this.count(value);
    const others = this.chance < 0.5 ? Math.max(0, counted - 1) : counted;
    const share = (others + this.chance) / (this.total + BESIDE);
    return Math.min(Math.log2(this.least), Math.max(0, -Math.log2(share)));
  }

  /** What was counted, as numbers to be kept: the total, then hashes and counts in turn. */
  kept(): Uint32Array {
    const pairs = this.counts.pairs();
    const kept = new Uint32Array(pairs.length + 1);
    kept[0] = this.total;
    kept.set(pairs, 1);
    return kept;
  }

  /** Takes up what {@link kept} gave, in place of what was counted here. */
  takeUp(kept: Uint32Array): void {
    this.total = kept[0] ?? 0;
    this.counts = Counter.from(kept.subarray(1));
  }

  /**
   * The same where only some of the records are at hand, and among them all that have the value in question: of so
   * many records that have a value at all.
   */
  among(total: number): Frequency {
    const other = new Frequency(this.least, this.chance);
    other.total = total;
    return other;
  }

  /** Counts a value of one of those at hand, the total being known. */
  addHere(value: string): void {
    this.counts.add(hash32(value));
  }

  get size(): number {
    return this.total;
  }
}
