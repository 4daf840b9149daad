import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import type { Listing } from './records.ts';

/** How many records there are: of all of an entity counted once, and anew after any was made or removed. */
export class Totals {
  private readonly counted = new Map<string, number>();
  private changes = 0;

  constructor(private readonly pool: Pool) {}

  /** To be called when what made or removed one is done. */
  changed(): void {
    this.changes += 1;
    this.counted.clear();
  }

  /** How many of an entity a list would hold from its beginning to its end. */
  async of(entity: string, { email, changedAfter }: Pick<Listing, 'email' | 'changedAfter'> = {}): Promise<number> {
    if (email !== undefined) return this.count('entity = ? AND email = ?', entity, email.toLowerCase());
    if (changedAfter !== undefined) return this.count('entity = ? AND changed_at > ?', entity, changedAfter);
    const known = this.counted.get(entity);
    if (known !== undefined) return known;
    const before = this.changes;
    const count = await this.count('entity = ?', entity);
    // What was made while it was being counted may not be in it.
    if (before === this.changes) this.counted.set(entity, count);
    return count;
  }

  private async count(condition: string, ...values: unknown[]): Promise<number> {
    const [rows] = await this.pool.query<RowDataPacket[]>(
      `SELECT COUNT(*) AS count FROM records WHERE ${condition}`,
      values,
    );
    return Number(rows[0]!['count']);
  }
}
