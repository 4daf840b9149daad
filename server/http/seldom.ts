/** What a costly question was answered with, and when it may be asked again. */
interface Answered<T> {
  answer: Promise<T>;
  until: number;
}

/**
 * Asks a question whose answer only grows costlier at most a tenth of the time: what was answered serves nine times as
 * long as asking took. Whoever asks meanwhile gets the same answer.
 */
export class Seldom<T> {
  private readonly known = new Map<string, Answered<T>>();

  /** @param most questions remembered @param now milliseconds of a clock that never goes back */
  constructor(
    private readonly most = 100,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** @param key names the question @param ask asks it; what it throws is thrown, and the next one asks again */
  of(key: string, ask: () => Promise<T>): Promise<T> {
    const held = this.known.get(key);
    if (held && this.now() < held.until) return held.answer;
    const began = this.now();
    const asked: Answered<T> = { answer: ask(), until: Infinity };
    this.known.delete(key);
    this.known.set(key, asked);
    if (this.known.size > this.most) this.known.delete(this.known.keys().next().value!);
    asked.answer.then(
      () => (asked.until = this.now() + 9 * (this.now() - began)),
      () => this.known.get(key) === asked && this.known.delete(key),
    );
    return asked.answer;
  }
}
