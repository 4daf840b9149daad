import type { Claimed } from './claim.ts';

/**
 * What a worker has claimed and not begun, and how many hands are at work for whom. A slow system holds up only what needs
 * it: submissions that need the same systems never take all hands.
 */
export class Hands {
  private claimed: Claimed[] = [];
  /** The systems that an intake's plan needs, as one text; known from its first submission on. */
  private readonly systemsOf = new Map<string, string>();
  /** Submissions at work, by the systems they need, or by their intake as long as nobody knows those. */
  private readonly busy = new Map<string, number>();
  private atWork = 0;

  /** @param each hands for those that need the same systems; half as many more are for those of others */
  constructor(private readonly each: number) {}

  /** Claimed, and not begun. */
  get waiting(): readonly Claimed[] {
    return this.claimed;
  }

  put(claimed: readonly Claimed[]): void {
    this.claimed.push(...claimed);
  }

  /** From now on it is known which systems an intake's submissions need. */
  learn(intakeId: string, systems: string): void {
    this.systemsOf.set(intakeId, systems);
  }

  /** Sets a hand to the next one that there is a hand for. @returns it, and what is called when it is done */
  take(): { submission: Claimed; done: () => void } | undefined {
    if (this.atWork >= Math.ceil(this.each * 1.5)) return undefined;
    const at = this.claimed.findIndex(({ intakeId }) => !this.isFull(this.groupOf(intakeId)));
    if (at < 0) return undefined;
    const [submission] = this.claimed.splice(at, 1) as [Claimed];
    const group = this.groupOf(submission.intakeId);
    this.count(group, 1);
    return { submission, done: () => this.count(group, -1) };
  }

  /** How many more are claimed at once: it costs the same for one as for many. None while there are enough to begin with. */
  room(): number {
    const ready = this.claimed.filter(({ intakeId }) => !this.isFull(this.groupOf(intakeId))).length;
    return ready > this.each / 2 ? 0 : this.each * 2 - ready;
  }

  /** Whether those that need the same as an intake soon run out: of others a claim would bring nothing new. */
  runLow(intakeId: string): boolean {
    return this.waitingLike(this.groupOf(intakeId)) <= this.each / 2;
  }

  /** Intakes for which all hands are at work, and of which enough wait here. */
  served(): Set<string> {
    const seen = new Set([...this.systemsOf.keys(), ...this.claimed.map(({ intakeId }) => intakeId)]);
    return new Set([...seen].filter((intake) => this.isFull(this.groupOf(intake)) && !this.runLow(intake)));
  }

  private waitingLike(group: string): number {
    return this.claimed.filter(({ intakeId }) => this.groupOf(intakeId) === group).length;
  }

  private groupOf(intakeId: string): string {
    return this.systemsOf.get(intakeId) ?? intakeId;
  }

  private isFull(group: string): boolean {
    return (this.busy.get(group) ?? 0) >= this.each;
  }

  private count(group: string, by: 1 | -1): void {
    this.atWork += by;
    this.busy.set(group, (this.busy.get(group) ?? 0) + by);
  }
}
