import { AsyncLocalStorage } from 'node:async_hooks';

/** Knows of what runs at present whether it is within a transaction; only where it is watched, since it costs a little. */
let within: AsyncLocalStorage<true> | undefined;

/**
 * From now on who is within a transaction and asks a pool for a second connection is refused. For tests: when all connections
 * are held by those who wait for another one nobody ever gets on, and with few at work that is never seen to happen.
 */
export function watchConnections(): void {
  within ??= new AsyncLocalStorage<true>();
}

/** Runs what belongs to a transaction. */
export const asTransaction = <T>(work: () => Promise<T>): Promise<T> => (within ? within.run(true, work) : work());

/** Called before a pool gives out a connection. @throws Error within a transaction, where it is watched */
export function refuseASecond(): void {
  if (within?.getStore()) throw new Error('Within a transaction nobody asks for a second connection.');
}
