import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';

/** How many records there are of each entity: counted once, and anew after any was made or removed. */
export class Totals {
  private readonly counted = new Map<string, number>();
  private changes = 0;

  constructor(private readonly pool: Pool) {}

  /** To be called when what made or removed one is done. */
  changed(): void {
    this.changes += 1;
    this.counted.clear();
  }

  async of(entity: string): Promise<number> {
    const known = this.counted.get(entity);
    if (known !== undefined) return known;
    const before = this.changes;
    const [rows] = await this.pool.query<RowDataPacket[]>('SELECT COUNT(*) AS count FROM records WHERE entity = ?', [
      entity,
    ]);
    const count = Number(rows[0]!['count']);
    // What was made while it was being counted may not be in it.
    if (before === this.changes) this.counted.set(entity, count);
    return count;
  }
}
