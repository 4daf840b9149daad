/**
 * Some of what a thread is to look at, as JSON in memory that threads share: handing it over costs nothing, and whoever
 * reads much packs it page by page, so that nobody waits while very much is copied at once.
 */
export type Packed = SharedArrayBuffer;

export function pack(value: unknown): Packed {
  const bytes = Buffer.from(JSON.stringify(value));
  const shared = new SharedArrayBuffer(bytes.byteLength);
  bytes.copy(new Uint8Array(shared));
  return shared;
}

export const unpack = <T>(packed: Packed): T => JSON.parse(Buffer.from(packed).toString()) as T;
