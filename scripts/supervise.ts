import { pause } from './mariadb.ts';

/** Something that runs until it is stopped. */
export interface Supervised {
  ended: Promise<unknown>;
  stop(): Promise<void>;
}

/** Milliseconds until the first start after a death, doubled with every further one within a minute, up to the last. */
const FIRST_MS = 300;
const LONGEST_MS = 10_000;

/**
 * Keeps something running: where it dies by itself it is started again, at once, and more slowly where it keeps dying.
 * It is never given up: what makes one part die again and again must not take the others down.
 * @param start starts it and resolves when it is up; where the first start fails, so does this
 * @param isStopping whether everything is being stopped, so that an end isn't a death
 * @returns a way to stop it for good
 */
export async function supervise(
  name: string,
  start: () => Promise<Supervised>,
  isStopping: () => boolean,
  { firstMs = FIRST_MS, longestMs = LONGEST_MS } = {},
): Promise<() => Promise<void>> {
  let running = await start();
  const deaths: number[] = [];
  const watch = async (): Promise<void> => {
    await running.ended;
    while (!isStopping()) {
      deaths.push(Date.now());
      const lately = deaths.filter((at) => at > Date.now() - 60_000).length;
      const wait = Math.min(longestMs, firstMs * 2 ** (lately - 1));
      console.error(`${name} stopped by itself and is started again${wait > 2000 ? ` in ${wait / 1000} s` : ''}.`);
      await pause(wait);
      if (isStopping()) return;
      try {
        running = await start();
        await running.ended;
      } catch (error) {
        console.error((error as Error).message);
      }
    }
  };
  void watch();
  return () => running.stop();
}
