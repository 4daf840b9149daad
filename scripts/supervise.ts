import { pause } from './mariadb.ts';

/** Something that runs until it is stopped. */
export interface Supervised {
  ended: Promise<unknown>;
  stop(): Promise<void>;
}

/** Restarts after this many deaths within a minute are given up. */
const MOST_DEATHS = 6;

/**
 * Keeps something running: where it dies by itself it is started again, at once.
 * @param start starts it and resolves when it is up
 * @param isStopping whether everything is being stopped, so that an end isn't a death
 * @param givenUp told when it keeps dying
 * @returns a way to stop it for good
 */
export async function supervise(
  name: string,
  start: () => Promise<Supervised>,
  isStopping: () => boolean,
  givenUp: () => void,
): Promise<() => Promise<void>> {
  let running = await start();
  const deaths: number[] = [];
  const watch = async (): Promise<void> => {
    await running.ended;
    while (!isStopping()) {
      deaths.push(Date.now());
      if (deaths.filter((at) => at > Date.now() - 60_000).length > MOST_DEATHS) return givenUp();
      console.error(`${name} stopped by itself and is started again.`);
      await pause(300);
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
