import { createHash } from 'node:crypto';
import { v7 as uuid } from 'uuid';
import type { SubmittedValues } from '@zusammen/core/forms';
import { titleOf } from '@zusammen/core/mapping';
import { lanesOf } from '@zusammen/core/plans';
import { Batcher, inTransaction, type Database } from '../store/index.ts';
import type { LiveIntake, LiveView } from './live.ts';

export interface Arrival {
  values: SubmittedValues;
  via: 'form' | 'program' | 'event' | 'page' | 'file' | 'demo';
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
}

/** A moment's wait makes batches larger under load and is not felt by anybody. */
const GATHER_MS = 1;

/** Accepts submissions, many in one transaction. A promise resolves only after its row is committed. */
export class Acceptor {
  private readonly rows: Batcher<Row, Accepted>;

  constructor(
    db: Database,
    private readonly live: LiveView,
    arrived: () => void = () => undefined,
  ) {
    this.rows = new Batcher(async (rows) => {
      const accepted = await commit(db, rows);
      arrived();
      return accepted;
    }, GATHER_MS);
  }

  async accept(
    { intake, version, document }: Pick<LiveIntake, 'intake' | 'version' | 'document'>,
    arrival: Arrival,
  ): Promise<Accepted> {
    const [schemas, recognitions] = await Promise.all([this.live.allSchemas(), this.live.known.recognitions()]);
    return this.rows.add({
      id: uuid(),
      intakeId: intake.id,
      version,
      label: titleOf(document.fields, arrival.values).slice(0, 160),
      arrival,
      lanes: lanesOf(document, arrival.values, schemas, recognitions).map(laneHash),
    });
  }
}

function commit(db: Database, rows: readonly Row[]): Promise<Accepted[]> {
  return inTransaction(db, async (query) => {
    // On a key sent before, the row there stays and is returned; its id tells that it isn't ours.
    const stored = await query<{ seq: number; id: string }>(
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
    const lanes = rows.flatMap((row, at) =>
      stored[at]!.id === row.id ? row.lanes.map((lane) => [lane, stored[at]!.seq]) : [],
    );
    if (lanes.length > 0) await query('INSERT INTO lanes (lane, seq) VALUES ?', [lanes]);
    return rows.map((row, at) => ({ id: stored[at]!.id, again: stored[at]!.id !== row.id }));
  });
}

/** Lanes are kept as hashes: they tell whom a submission is about. */
export function laneHash(lane: string): Buffer {
  return createHash('sha256').update(lane).digest().subarray(0, 16);
}
