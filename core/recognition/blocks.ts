import { IN_MEMORY } from './blocking.ts';
import { hash32 } from './hash.ts';

const { small: SMALL, largest: LARGEST, most: MOST } = IN_MEMORY;

/**
 * Blocking: which of the known records share keys with one. Keys are kept as 32-bit hashes sorted into buckets of
 * typed arrays, eight bytes a key; two keys that hash alike only cost a comparison.
 *
 * Invariant: what a large key would have found is found by a finer one (keys of two fields), never dropped for good:
 * every kind gives its records keys of several fields beside the coarse ones.
 */
export class Blocks {
  private readonly starts: Uint32Array;
  private readonly records: Uint32Array;
  private readonly hashes: Uint32Array;
  private readonly mask: number;
  /** Scratch for one question at a time: what each record shares with it. */
  private readonly scores: Uint16Array;
  private readonly shared: Uint8Array;

  /** @param keys the keys of the records, in the order in which they are numbered from 0 */
  constructor(
    readonly size: number,
    keys: Iterable<readonly string[]>,
  ) {
    let hashes = new Uint32Array(Math.max(16, size * 16));
    const ends = new Uint32Array(size);
    let count = 0;
    let record = 0;
    for (const mine of keys) {
      for (const key of mine) {
        if (count === hashes.length) {
          const larger = new Uint32Array(Math.ceil(count * 1.5));
          larger.set(hashes);
          hashes = larger;
        }
        hashes[count++] = hash32(key);
      }
      ends[record++] = count;
    }
    const buckets = 2 ** Math.max(4, Math.ceil(Math.log2(count + 1)));
    this.mask = buckets - 1;
    this.starts = new Uint32Array(buckets + 1);
    for (let at = 0; at < count; at += 1) this.starts[(hashes[at]! & this.mask) + 1]! += 1;
    for (let at = 0; at < buckets; at += 1) this.starts[at + 1]! += this.starts[at]!;
    this.records = new Uint32Array(count);
    this.hashes = new Uint32Array(count);
    const next = this.starts.slice(0, buckets);
    for (let owner = 0, at = 0; owner < size; owner += 1) {
      for (; at < ends[owner]!; at += 1) {
        const to = next[hashes[at]! & this.mask]!++;
        this.records[to] = owner;
        this.hashes[to] = hashes[at]!;
      }
    }
    this.scores = new Uint16Array(size);
    this.shared = new Uint8Array(size);
  }

  /**
   * The records that come into question for one with these keys, at most `IN_MEMORY.most`.
   * @param except a record that isn't to be compared with itself
   */
  candidates(keys: readonly string[], except = -1): number[] {
    const touched: number[] = [];
    const enough: number[] = [];
    for (const key of keys) {
      const hash = hash32(key);
      const bucket = hash & this.mask;
      const [start, end] = [this.starts[bucket]!, this.starts[bucket + 1]!];
      const size = end - start;
      if (size === 0 || size > LARGEST) continue;
      // What few share says more: the bits that a key of so many records narrows down.
      const worth = Math.max(1, Math.round(8 * Math.log2(this.size / size)));
      for (let at = start; at < end; at += 1) {
        const record = this.records[at]!;
        if (this.hashes[at] !== hash || record === except) continue;
        if (this.shared[record] === 0) touched.push(record);
        this.shared[record]! += size <= SMALL ? 2 : 1;
        this.scores[record]! += worth;
      }
    }
    for (const record of touched) if (this.shared[record]! >= 2) enough.push(record);
    if (enough.length > MOST) {
      enough.sort((a, b) => this.scores[b]! - this.scores[a]! || a - b);
      enough.length = MOST;
    }
    for (const record of touched) this.scores[record] = this.shared[record] = 0;
    return enough;
  }
}
