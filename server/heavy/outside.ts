import type { MessagePort } from 'node:worker_threads';
import type { ReadOnlyWorld } from '@zusammen/core/plans';

/** What a system that couldn't be read said; a rehearsal goes on with its next sample. */
export class OutsideTrouble extends Error {}

interface Asked {
  id: number;
  ask: keyof ReadOnlyWorld;
  args: unknown[];
}
/** What stands of the work so far. */
interface Result {
  result: unknown;
  at: number;
}
type Told = { id: number } & ({ value: unknown } | { trouble: string } | { broken: string });

/**
 * Answers a thread's questions to the systems. The connections, their budgets and their patience stay where they are;
 * only the thinking is done elsewhere.
 * @param isTrouble tells what a system said from what went wrong with us
 * @param told hears of what stands of the work so far
 */
export function answerOver(
  port: MessagePort,
  reading: ReadOnlyWorld,
  isTrouble: (error: unknown) => boolean,
  told: (result: unknown, at: number) => void = () => undefined,
): void {
  port.on('message', (message: Asked | Result) => {
    if ('result' in message) return told(message.result, message.at);
    const { id, ask, args } = message;
    const tell = (told: Told): void => port.postMessage(told);
    // The three questions of a reading world, whatever the thread sends.
    const work: Record<keyof ReadOnlyWorld, () => Promise<unknown>> = {
      find: () => reading.find(...(args as Parameters<ReadOnlyWorld['find']>)),
      read: () => reading.read(...(args as Parameters<ReadOnlyWorld['read']>)),
      weigh: () => reading.weigh(...(args as Parameters<ReadOnlyWorld['weigh']>)),
    };
    work[ask]().then(
      (value) => tell({ id, value }),
      (error: Error) => tell(isTrouble(error) ? { id, trouble: error.message } : { id, broken: error.message }),
    );
  });
}

/** A reading world whose questions are answered at the other end of a port. */
export function readingOver(port: MessagePort): ReadOnlyWorld {
  const waiting = new Map<number, { resolve: (value: never) => void; reject: (error: Error) => void }>();
  let asked = 0;
  port.on('message', (told: Told) => {
    const { resolve, reject } = waiting.get(told.id)!;
    waiting.delete(told.id);
    if ('value' in told) resolve(told.value as never);
    else reject('trouble' in told ? new OutsideTrouble(told.trouble) : new Error(told.broken));
  });
  const ask = <T>(which: keyof ReadOnlyWorld, args: unknown[]): Promise<T> =>
    new Promise<T>((resolve, reject) => {
      const id = (asked += 1);
      waiting.set(id, { resolve: resolve as (value: never) => void, reject });
      port.postMessage({ id, ask: which, args } satisfies Asked);
    });
  return {
    find: (...args) => ask('find', args),
    read: (...args) => ask('read', args),
    weigh: (...args) => ask('weigh', args),
  };
}
