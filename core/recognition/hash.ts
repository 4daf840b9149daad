/**
 * A 32-bit hash of a text: FNV-1a (Fowler, Noll, Vo) over its UTF-16 units, with a closing mix so that every bit
 * depends on every letter.
 * @param seed another one gives an independent hash
 */
export function hash32(text: string, seed = 0x811c9dc5): number {
  let hash = seed;
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
  hash = Math.imul(hash ^ (hash >>> 12), 0x297a2d39);
  return (hash ^ (hash >>> 15)) >>> 0;
}

/** A 52-bit hash, exact as a number and as a database's BIGINT. */
export const hash52 = (text: string): number => (hash32(text, 0x9e3779b9) & 0xfffff) * 0x100000000 + hash32(text);

/** Counts of hashed values in typed arrays: a few bytes a value, where a Map of texts takes a hundred. */
export class Counter {
  private slots: Uint32Array;
  private counts: Uint32Array;
  private used = 0;

  constructor(expected = 64) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(64, expected * 2)));
    this.slots = new Uint32Array(size);
    this.counts = new Uint32Array(size);
  }

  /** @param hash of the value; 0 counts as 1 */
  add(hash: number, by = 1): void {
    if (this.used * 3 > this.slots.length * 2) this.grow();
    const at = this.slotOf(hash);
    if (this.counts[at] === 0) {
      this.slots[at] = hash || 1;
      this.used += 1;
    }
    this.counts[at] = this.counts[at]! + by;
  }

  get(hash: number): number {
    return this.counts[this.slotOf(hash)]!;
  }

  /** Values and counts in turn, to be kept and read again by {@link Counter.from}. */
  pairs(): Uint32Array {
    const pairs = new Uint32Array(this.used * 2);
    let to = 0;
    for (let at = 0; at < this.slots.length; at += 1) {
      if (this.counts[at] === 0) continue;
      pairs[to++] = this.slots[at]!;
      pairs[to++] = this.counts[at]!;
    }
    return pairs;
  }

  static from(pairs: Uint32Array): Counter {
    const counter = new Counter(pairs.length / 2);
    for (let at = 0; at + 1 < pairs.length; at += 2) counter.add(pairs[at]!, pairs[at + 1]!);
    return counter;
  }

  private slotOf(hash: number): number {
    const wanted = hash || 1;
    const mask = this.slots.length - 1;
    let at = Math.imul(wanted, 0x9e3779b1) >>> 0;
    for (at &= mask; this.counts[at] !== 0 && this.slots[at] !== wanted; ) at = (at + 1) & mask;
    return at;
  }

  private grow(): void {
    const { slots, counts } = this;
    this.slots = new Uint32Array(slots.length * 2);
    this.counts = new Uint32Array(slots.length * 2);
    this.used = 0;
    for (let at = 0; at < slots.length; at += 1) if (counts[at]! > 0) this.add(slots[at]!, counts[at]);
  }
}
