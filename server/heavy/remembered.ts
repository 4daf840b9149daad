import type { ReadOnlyWorld } from '@zusammen/core/plans';

/** Answers kept of one reading; those beyond make way, the oldest first. */
const MOST_ANSWERS = 20_000;

/**
 * A reading world that asks each question once, for rehearsals that put the same ones again and again.
 * @param forMs how long an answer is good, in milliseconds; absent: as long as this world is used
 */
export function remembered(reading: ReadOnlyWorld, forMs = Infinity, now: () => number = Date.now): ReadOnlyWorld {
  const asked = new Map<string, { answer: Promise<unknown>; at: number }>();
  const once = <T>(question: readonly unknown[], ask: () => Promise<T>): Promise<T> => {
    const key = JSON.stringify(question);
    const held = asked.get(key);
    if (held && now() - held.at < forMs) return held.answer as Promise<T>;
    const answer = ask();
    asked.delete(key);
    asked.set(key, { answer, at: now() });
    if (asked.size > MOST_ANSWERS) asked.delete(asked.keys().next().value!);
    answer.catch(() => asked.delete(key));
    return answer;
  };
  return {
    find: (...question) => once(['find', ...question], () => reading.find(...question)),
    read: (...question) => once(['read', ...question], () => reading.read(...question)),
    // What a rehearsal has written besides is part of the question.
    weigh: (target, values, limit, besides = [], gone = new Set()) =>
      once(['weigh', target, values, limit, besides, [...gone]], () =>
        reading.weigh(target, values, limit, besides, gone),
      ),
  };
}

/** Readings that rehearsals of the same draft share for a while, so that an edit asks only for what it changes. */
export class Readings {
  private readonly kept = new Map<string, ReadOnlyWorld>();

  /** @param forMs how long an answer is good @param most drafts whose answers are kept */
  constructor(
    private readonly forMs = 60_000,
    private readonly most = 20,
  ) {}

  /** @param of the draft @param anew forgets what was read for it before @param reading where nothing is kept */
  of(of: string, anew: boolean, reading: ReadOnlyWorld): ReadOnlyWorld {
    const held = anew ? undefined : this.kept.get(of);
    const world = held ?? remembered(reading, this.forMs);
    this.kept.delete(of);
    this.kept.set(of, world);
    if (this.kept.size > this.most) this.kept.delete(this.kept.keys().next().value!);
    return world;
  }
}
