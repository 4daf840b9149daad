import type { Entity } from '@zusammen/core/schema';
import { heldFieldsOf, heldWhole, holdValues, letGoOfValues, type Database } from '../../store/index.ts';
import { heldRecord, type Page } from '../../systems/index.ts';
import type { FeedListener, FeedReading, Listen } from '../feeds/index.ts';

/** Keeps the values by which records are found here, since their system doesn't search by them. */
export const heldListener =
  (db: Database): Listen =>
  async (feed) => {
    const fields = await heldFieldsOf(db, feed.id);
    return fields.length === 0
      ? undefined
      : new HeldListener(
          db,
          feed.id,
          fields.map(({ field }) => field),
        );
  };

class HeldListener implements FeedListener {
  readonly needsWhole = false;

  constructor(
    private readonly db: Database,
    private readonly feed: number,
    readonly fields: readonly Entity['name'][],
  ) {}

  begin = (): Promise<void> => Promise.resolve();

  async take({ records, gone }: Page, { generation }: FeedReading): Promise<boolean> {
    const held = records.map(({ id, values }) => heldRecord(this.fields, id, values));
    await holdValues(this.db, this.feed, generation, held);
    await letGoOfValues(this.db, this.feed, gone);
    return records.length > 0 || gone.length > 0;
  }

  note = (): Promise<void> => Promise.resolve();

  whole({ generation }: FeedReading): Promise<void> {
    return heldWhole(this.db, this.feed, generation, this.fields);
  }

  rest = (): Promise<void> => Promise.resolve();
}
