/** Made-up records that count beside the real ones, so that few records don't make everything look common. */
const BESIDE = 1000;

/** How common values are among the records: a shared rare name says more than a shared common one. */
export class Frequency {
  private readonly counts = new Map<string, number>();
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
    this.counts.set(value, (this.counts.get(value) ?? 0) + 1);
  }

  count(value: string): number {
    return this.counts.get(value) ?? 0;
  }

  /** How much it says that two records share a value, in bits: log2 of one over its share. */
  bits(value: string): number {
    const others = this.chance < 0.5 ? Math.max(0, this.count(value) - 1) : this.count(value);
    const share = (others + this.chance) / (this.total + BESIDE);
    return Math.min(Math.log2(this.least), Math.max(0, -Math.log2(share)));
  }
}
