import { entityOf, type RecordState } from '@zusammen/core/schema';
import type { Systems } from '../../systems/index.ts';
import type { Claimed } from '../claim.ts';
import type { LiveView } from '../live.ts';

/** Records read at once, those that are due next. */
const AT_ONCE = 20;
/** What was read longer ago, in milliseconds, is read again. */
const GOOD_FOR_MS = 1_000;

type OfOne = Claimed & { ofRecord: NonNullable<Claimed['ofRecord']> };

/**
 * Records of conversions that are carried out next, read together in the place of one by one. What isn't given so is read
 * singly by whoever needs it.
 */
export class ReadAhead {
  /** What is claimed, in the order in which it is carried out, by place in the queue. */
  private readonly expected = new Map<number, OfOne>();
  private readonly found = new Map<number, { at: number; record: Promise<RecordState | undefined> }>();

  constructor(
    private readonly systems: Pick<Systems, 'client'>,
    private readonly live: LiveView,
  ) {}

  /** These are carried out soon. Records of somebody who acts as themselves are read as them, singly. */
  expect(claimed: readonly Claimed[]): void {
    for (const each of claimed)
      if (isOfRecord(each) && (!each.acting || each.acting.by === 'connection')) this.expected.set(each.seq, each);
  }

  /** The record of a submission, as it was a moment ago; undefined where it has to be read. */
  async take(seq: number): Promise<RecordState | undefined> {
    const own = this.expected.get(seq);
    if (!own) return undefined;
    if (!this.isFresh(seq)) this.read(own);
    const known = this.found.get(seq);
    this.forget(seq);
    return known?.record;
  }

  /** It is carried out, or isn't any more. */
  forget(seq: number): void {
    this.expected.delete(seq);
    this.found.delete(seq);
  }

  private isFresh(seq: number): boolean {
    return Date.now() - (this.found.get(seq)?.at ?? 0) < GOOD_FOR_MS;
  }

  /** Reads a record with those of the same entity that are due next. */
  private read(first: OfOne): void {
    const { system, entity: name } = first.ofRecord;
    const group = [first];
    for (const each of this.expected.values()) {
      if (group.length === AT_ONCE) break;
      const { ofRecord } = each;
      if (each === first || ofRecord.system !== system || ofRecord.entity !== name || this.isFresh(each.seq)) continue;
      group.push(each);
    }
    if (group.length < 2) return void this.found.delete(first.seq);
    const reading = this.several(system, name, [...new Set(group.map(({ ofRecord }) => ofRecord.id))]);
    const at = Date.now();
    for (const { seq, ofRecord } of group)
      this.found.set(seq, { at, record: reading.then((records) => records.get(ofRecord.id)) });
  }

  /** Nothing where it is in trouble: whoever reads singly hears of that. */
  private async several(system: string, name: string, ids: readonly string[]): Promise<Map<string, RecordState>> {
    try {
      const entity = entityOf((await this.live.allSchemas()).get(system) ?? { entities: [] }, name);
      const client = await this.systems.client(system);
      const records = entity ? await client.several?.(entity, ids) : undefined;
      return new Map(records?.map((record) => [record.id, record]));
    } catch {
      return new Map();
    }
  }
}

const isOfRecord = (claimed: Claimed): claimed is OfOne => claimed.ofRecord !== undefined;
