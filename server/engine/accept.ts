import { createHash } from 'node:crypto';
import { v7 as uuid } from 'uuid';
import { valuesApart, type SubmittedValues } from '@zusammen/core/forms';
import { titleOf } from '@zusammen/core/mapping';
import { lanesOf } from '@zusammen/core/plans';
import {
  Batcher,
  BY_CONNECTION,
  hashed,
  inTransaction,
  type Acting,
  type OfRecord,
  type Database,
  type Payment,
  type Query,
} from '../store/index.ts';
import type { LiveIntake, LiveView } from './live.ts';

export interface Arrival {
  values: SubmittedValues;
  via: 'form' | 'panel' | 'record' | 'program' | 'event' | 'page' | 'file' | 'demo';
  idempotencyKey?: string;
  receivedAt: Date;
  /** Files that came with it, by id. */
  files?: readonly string[];
  /** Who acts as themselves in a system. */
  acting?: Acting;
  /** Of a conversion: the record, and the bulk that it is done with. */
  ofRecord?: OfRecord;
  bulkId?: string;
  /** What has to be paid before anything is done with it. */
  payment?: Pick<Payment, 'serviceId' | 'minor' | 'currency' | 'test'>;
}

export interface Accepted {
  id: string;
  /** It had been sent before, under the same key. */
  again: boolean;
}

/** The same idempotency key came with something else in it: neither a repetition nor safe to take for a new one. */
export class KeyUsedOtherwise extends Error {}

interface Row {
  id: string;
  intakeId: string;
  version: number;
  label: string;
  arrival: Arrival;
  /** Of a submission that has a key: what it says. */
  fingerprint: Buffer | null;
  lanes: Buffer[];
}

/** A moment's wait makes batches larger under load and is not felt by anybody. */
const GATHER_MS = 1;

/** Submissions that wait for their transaction; while the disk is slow, those beyond are sent away to come again. */
const MOST_WAITING = 5_000;

/** Accepts submissions, many in one transaction. A promise resolves only after its row is committed. */
export class Acceptor {
  private readonly rows: Batcher<Row, Accepted | 'used otherwise'>;

  constructor(
    db: Database,
    private readonly live: LiveView,
    arrived: () => void = () => undefined,
  ) {
    this.rows = new Batcher(
      async (rows) => {
        const accepted = await commit(db, rows);
        arrived();
        return accepted;
      },
      GATHER_MS,
      100,
      MOST_WAITING,
    );
  }

  /** @throws KeyUsedOtherwise */
  async accept(
    { intake, version, document }: Pick<LiveIntake, 'intake' | 'version' | 'document'>,
    arrival: Arrival,
  ): Promise<Accepted> {
    const [schemas, recognitions] = await Promise.all([this.live.allSchemas(), this.live.known.recognitions()]);
    const values = valuesApart(document.fields, arrival.values);
    const accepted = await this.rows.add({
      id: uuid(),
      intakeId: intake.id,
      version,
      label: titleOf(document.fields, values).slice(0, 160),
      arrival: { ...arrival, values },
      // A record that has changed since is the same record: it is converted once all the same.
      fingerprint: arrival.idempotencyKey === undefined || arrival.ofRecord ? null : fingerprintOf(arrival.values),
      lanes: lanesOf(document, values, schemas, recognitions).map(hashed),
    });
    if (accepted === 'used otherwise')
      throw new KeyUsedOtherwise('This idempotency key has been used before, for a submission with other values.');
    return accepted;
  }
}

/** What came along with new submissions: files, and what has to be paid. */
async function alongWith(query: Query, fresh: readonly Row[]): Promise<void> {
  const files = fresh.flatMap(({ id, arrival }) => [...new Set(arrival.files ?? [])].map((file) => [file, id]));
  if (files.length > 0) await query('INSERT INTO visitor_file_uses (file_id, submission_id) VALUES ?', [files]);
  const due = fresh.flatMap(({ id, arrival: { payment, receivedAt } }) =>
    payment
      ? [[uuid(), id, payment.serviceId, payment.minor, payment.currency, payment.test, 'due', receivedAt, receivedAt]]
      : [],
  );
  if (due.length > 0)
    await query(
      'INSERT INTO payments (id, submission_id, service_id, minor, currency, test, state, begun_at, changed_at) VALUES ?',
      [due],
    );
}

/** What a submission says, as a hash: the same for the same values in whatever order their names came, and whether as numbers or as texts. */
function fingerprintOf(values: SubmittedValues): Buffer {
  const said = Object.entries(values)
    .map(([name, value]) => [name, Array.isArray(value) ? value : String(value)] as const)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return createHash('sha256').update(JSON.stringify(said)).digest().subarray(0, 16);
}

function commit(db: Database, rows: readonly Row[]): Promise<(Accepted | 'used otherwise')[]> {
  return inTransaction(db, async (query) => {
    const begun = await query<{ id: number }>(
      `INSERT INTO turns (kind, subject, actor, acting_person, at)
       VALUES ${rows.map(() => "('submission', ?, ?, ?, ?)").join(', ')} RETURNING id`,
      rows.flatMap(({ id, arrival }) => [id, BY_CONNECTION, arrival.acting?.name ?? null, arrival.receivedAt]),
    );
    // On a key sent before, the row there stays and is returned; its id tells that it isn't ours.
    const stored = await query<{ seq: number; id: string; fingerprint: Buffer | null }>(
      `INSERT INTO submissions (seq, id, intake_id, version, state, label, submitted, via, acting, of_record, bulk_id, idempotency_key, fingerprint, received_at, due_at)
       VALUES ${rows.map(() => '(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').join(', ')}
       ON DUPLICATE KEY UPDATE seq = seq RETURNING seq, id, fingerprint`,
      rows.flatMap(({ id, intakeId, version, label, arrival, fingerprint }, at) => [
        begun[at]!.id,
        id,
        intakeId,
        version,
        arrival.payment ? 'unpaid' : 'received',
        label,
        JSON.stringify(arrival.values),
        arrival.via,
        arrival.acting ? JSON.stringify(arrival.acting) : null,
        arrival.ofRecord ? JSON.stringify(arrival.ofRecord) : null,
        arrival.bulkId ?? null,
        arrival.idempotencyKey ?? null,
        fingerprint,
        arrival.receivedAt,
        arrival.receivedAt,
      ]),
    );
    const fresh = rows.filter((row, at) => stored[at]!.id === row.id);
    // What waits to be paid keeps nobody waiting: it takes its place when it is.
    const lanes = rows.flatMap((row, at) =>
      fresh.includes(row) && !row.arrival.payment ? row.lanes.map((lane) => [lane, stored[at]!.seq]) : [],
    );
    if (lanes.length > 0) await query('INSERT INTO lanes (lane, turn) VALUES ?', [lanes]);
    await alongWith(query, fresh);
    const idle = begun.filter((_, at) => stored[at]!.id !== rows[at]!.id).map(({ id }) => id);
    if (idle.length > 0) await query('DELETE FROM turns WHERE id IN (?)', [idle]);
    return rows.map((row, at) => {
      const { id, fingerprint } = stored[at]!;
      // What came before fingerprints were kept, or has been forgotten, can't be compared.
      const known = id !== row.id && fingerprint !== null && row.fingerprint !== null;
      const otherwise = known && !fingerprint.equals(row.fingerprint!);
      return otherwise ? 'used otherwise' : { id, again: id !== row.id };
    });
  });
}
