import { createHash } from 'node:crypto';
import { v7 as uuid } from 'uuid';
import type { SubmittedValues } from '@zusammen/core/forms';
import { titleOf } from '@zusammen/core/mapping';
import { lanesOf } from '@zusammen/core/plans';
import { repeatedly, type Database } from '../store/index.ts';
import type { LiveIntake, LiveView } from './live.ts';

export interface Arrival {
  values: SubmittedValues;
  via: 'form' | 'program' | 'demo';
  idempotencyKey?: string;
  receivedAt: Date;
}

export interface Accepted {
  id: string;
  /** It had been sent before, under the same key. */
  again: boolean;
}

interface Row {
  id: string;
  intakeId: string;
  version: number;
  label: string;
  arrival: Arrival;
  lanes: Buffer[];
  done: (accepted: Accepted) => void;
  failed: (error: unknown) => void;
}

const MOST_AT_ONCE = 100;

/**
 * Accepts submissions. What arrives while a transaction is on its way to the disk goes into the next one together
 * (group commit), so that durability costs one flush for many. A promise resolves only after its row is committed.
 */
export class Acceptor {
  private waiting: Row[] = [];
  private running = 0;

  constructor(
    private readonly db: Database,
    private readonly live: LiveView,
    private readonly arrived: () => void = () => undefined,
    private readonly writers = 2,
  ) {}

  async accept({ intake, version, document }: LiveIntake, arrival: Arrival): Promise<Accepted> {
    const schemas = await this.live.allSchemas();
    const row = {
      id: uuid(),
      intakeId: intake.id,
      version,
      label: titleOf(document.fields, arrival.values).slice(0, 160),
      arrival,
      lanes: lanesOf(document.plan, arrival.values, schemas).map(laneHash),
    };
    return new Promise<Accepted>((done, failed) => {
      this.waiting.push({ ...row, done, failed });
      this.next();
    });
  }

  private next(): void {
    if (this.running >= this.writers || this.waiting.length === 0) return;
    const rows = this.waiting.splice(0, MOST_AT_ONCE);
    this.running += 1;
    void repeatedly(() => this.commit(rows))
      .then((accepted) => {
        rows.forEach((row, at) => row.done(accepted[at]!));
        this.arrived();
      })
      // One row that can't be stored must not take the others with it.
      .catch((error: unknown) => (rows.length === 1 ? rows[0]!.failed(error) : this.oneByOne(rows)))
      .finally(() => {
        this.running -= 1;
        this.next();
      });
  }

  private async oneByOne(rows: Row[]): Promise<void> {
    for (const row of rows) {
      await repeatedly(() => this.commit([row])).then(([accepted]) => row.done(accepted!), row.failed);
    }
  }

  private async commit(rows: Row[]): Promise<Accepted[]> {
    const connection = await this.db.$client.getConnection();
    try {
      await connection.beginTransaction();
      // On a key sent before, the row there stays and is returned; its id tells that it isn't ours.
      const [stored] = await connection.query(
        `INSERT INTO submissions (id, intake_id, version, state, label, submitted, via, idempotency_key, received_at, due_at)
         VALUES ${rows.map(() => "(?, ?, ?, 'received', ?, ?, ?, ?, ?, ?)").join(', ')}
         ON DUPLICATE KEY UPDATE seq = seq RETURNING seq, id`,
        rows.flatMap(({ id, intakeId, version, label, arrival }) => [
          id,
          intakeId,
          version,
          label,
          JSON.stringify(arrival.values),
          arrival.via,
          arrival.idempotencyKey ?? null,
          arrival.receivedAt,
          arrival.receivedAt,
        ]),
      );
      const found = stored as unknown as { seq: number; id: string }[];
      const lanes = rows.flatMap((row, at) =>
        found[at]!.id === row.id ? row.lanes.map((lane) => [lane, found[at]!.seq]) : [],
      );
      if (lanes.length > 0) await connection.query('INSERT INTO lanes (lane, seq) VALUES ?', [lanes]);
      await connection.commit();
      return rows.map((row, at) => ({ id: found[at]!.id, again: found[at]!.id !== row.id }));
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  }
}

/** Lanes are kept as hashes: they tell whom a submission is about. */
export function laneHash(lane: string): Buffer {
  return createHash('sha256').update(lane).digest().subarray(0, 16);
}
