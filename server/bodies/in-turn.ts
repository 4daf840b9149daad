/** Bodies of that many bytes take a while to read. */
const LARGE = 64 * 1024;

let last: Promise<void> = Promise.resolve();

/**
 * Waits until it is a large body's turn to be read: one is read in each round of the event loop, so that whoever asks
 * meanwhile is answered in between, however many large ones come at once. Small ones don't wait.
 * @param bytes the body's length
 */
export function inTurn(bytes: number): Promise<void> {
  if (bytes < LARGE) return Promise.resolve();
  last = last.then(() => new Promise((resolve) => setImmediate(resolve)));
  return last;
}
