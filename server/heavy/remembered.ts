import type { ReadOnlyWorld } from '@zusammen/core/plans';

/** A reading world that asks each question once, for rehearsals that put the same ones again and again. */
export function remembered(reading: ReadOnlyWorld): ReadOnlyWorld {
  const asked = new Map<string, Promise<unknown>>();
  const once = <T>(key: string, ask: () => Promise<T>): Promise<T> => {
    let answer = asked.get(key) as Promise<T> | undefined;
    if (!answer) {
      answer = ask();
      asked.set(key, answer);
      answer.catch(() => asked.delete(key));
    }
    return answer;
  };
  return {
    find: (target, criteria, limit) =>
      once(JSON.stringify(['find', target, criteria, limit]), () => reading.find(target, criteria, limit)),
    read: (target, id) => once(JSON.stringify(['read', target, id]), () => reading.read(target, id)),
    // Depends on what a rehearsal has written besides.
    weigh: (...asked) => reading.weigh(...asked),
  };
}
