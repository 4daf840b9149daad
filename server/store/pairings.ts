import type { Finding } from '@zusammen/core/checks';
import type { Pairing } from '@zusammen/core/pairing';
import { and, desc, eq, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { addJob, removeJobs } from './jobs.ts';
import { jobs, pairings, pairingBeats, pairingVersions, type PairingState } from './schema.ts';
import { atomically, inTransaction, type Drizzled, type Query } from './transaction.ts';
import { fromJson } from './seen.ts';

export type PairingRow = typeof pairings.$inferSelect;
export type PairingVersionRow = typeof pairingVersions.$inferSelect;

const read = (row: PairingRow): PairingRow => ({ ...row, draft: fromJson(row.draft) });

export async function listPairings(db: Database): Promise<PairingRow[]> {
  return (await db.select().from(pairings).orderBy(pairings.createdAt)).map(read);
}

export async function pairingById(db: Pick<Database, 'select'>, id: string): Promise<PairingRow | undefined> {
  const [row] = await db.select().from(pairings).where(eq(pairings.id, id));
  return row && read(row);
}

export async function addPairing(db: Database, draft: Pairing): Promise<PairingRow> {
  const now = new Date();
  const row: PairingRow = {
    ...{
      id: uuid(),
      state: 'draft',
      draft,
      revision: 1,
      liveVersion: null,
      indexed: false,
      laid: 0,
      filled: false,
      shape: null,
    },
    ...{ createdAt: now, changedAt: now },
  };
  await db.insert(pairings).values(row);
  return row;
}

/** Keeps a draft. @returns false when somebody else has changed it since the revision that was named */
export async function changePairing(db: Database, id: string, revision: number, draft: Pairing): Promise<boolean> {
  const [result] = await db
    .update(pairings)
    .set({ draft, revision: revision + 1, changedAt: new Date() })
    .where(and(eq(pairings.id, id), eq(pairings.revision, revision)));
  return result.affectedRows === 1;
}

export async function pairingVersion(
  db: Pick<Database, 'select'>,
  id: string,
  number: number,
): Promise<PairingVersionRow | undefined> {
  const [row] = await db
    .select()
    .from(pairingVersions)
    .where(and(eq(pairingVersions.pairingId, id), eq(pairingVersions.number, number)));
  return row && { ...row, document: fromJson(row.document), accepted: fromJson(row.accepted) };
}

export async function pairingVersionsOf(db: Database, id: string): Promise<Omit<PairingVersionRow, 'document'>[]> {
  const { pairingId, number, accepted, at, by } = pairingVersions;
  const rows = await db
    .select({ pairingId, number, accepted, at, by })
    .from(pairingVersions)
    .where(eq(pairingId, id))
    .orderBy(desc(number));
  return rows.map((row) => ({ ...row, accepted: fromJson(row.accepted) }));
}

/** A pairing that is at work, or was and is paused, as it is applied. */
export interface LivePairing {
  id: string;
  state: Exclude<PairingState, 'draft'>;
  version: number;
  indexed: boolean;
  laid: number;
  filled: boolean;
  shape: Buffer | null;
  document: Pairing;
}

/** All pairings that are applied. */
export async function livePairings(db: Pick<Database, 'select'>): Promise<LivePairing[]> {
  const rows = await db
    .select({ pairing: pairings, version: pairingVersions })
    .from(pairings)
    .innerJoin(
      pairingVersions,
      and(eq(pairingVersions.pairingId, pairings.id), eq(pairingVersions.number, pairings.liveVersion)),
    )
    .where(sql`${pairings.state} <> 'draft'`);
  return rows.map(({ pairing, version }) => ({
    id: pairing.id,
    state: pairing.state as LivePairing['state'],
    version: version.number,
    indexed: pairing.indexed,
    laid: pairing.laid,
    filled: pairing.filled,
    shape: pairing.shape,
    document: fromJson(version.document),
  }));
}

/**
 * Makes a draft the version that is applied, and begins its job where there is none.
 * @param also what belongs to it, in the same transaction: what it looks at has to be followed from now on
 * @param instead this is applied, and not the draft as it stands
 * @returns its number; undefined when somebody else has changed the draft since the revision that was named
 */
export function applyPairing(
  db: Database,
  id: string,
  revision: number,
  accepted: Finding[],
  by: string,
  also: (tx: Drizzled, document: Pairing) => Promise<void>,
  instead?: Pairing,
): Promise<number | undefined> {
  return atomically(db, async (tx) => {
    const [held] = await tx.select().from(pairings).where(eq(pairings.id, id)).for('update');
    if (!held || held.revision !== revision) return undefined;
    const [newest] = await tx
      .select({ number: pairingVersions.number })
      .from(pairingVersions)
      .where(eq(pairingVersions.pairingId, id))
      .orderBy(desc(pairingVersions.number))
      .limit(1);
    const number = (newest?.number ?? 0) + 1;
    const document = instead ?? fromJson(held.draft);
    await tx.insert(pairingVersions).values({ pairingId: id, number, document, accepted, at: new Date(), by });
    await tx
      .update(pairings)
      .set({ liveVersion: number, state: 'running', indexed: false, laid: 0, filled: false })
      .where(eq(pairings.id, id));
    const [job] = await tx
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.kind, 'pairing'), eq(jobs.subject, id)));
    if (job)
      await tx
        .update(jobs)
        .set({ state: 'running', dueAt: new Date(), endedAt: null, words: null, total: 0, done: 0 })
        .where(eq(jobs.id, job.id));
    else await addJob(tx, { kind: 'pairing', subject: id, by });
    await also(tx, document);
    return number;
  });
}

/** Pauses a pairing, or lets it go on. Changes are noticed meanwhile, and nothing is written. */
export function setPairingState(db: Database, id: string, state: 'running' | 'paused'): Promise<boolean> {
  return inTransaction(db, async (query) => {
    const [held] = await query<{ state: PairingState }>('SELECT state FROM pairings WHERE id = ? FOR UPDATE', [id]);
    if (!held || held.state === 'draft') return false;
    await query('UPDATE pairings SET state = ? WHERE id = ?', [state, id]);
    await query(
      `UPDATE jobs SET state = ?, claimed_by = NULL, claimed_until = NULL, due_at = ?, ended_at = NULL${state === 'running' ? ', words = NULL' : ''}
       WHERE kind = 'pairing' AND subject = ?`,
      [state, new Date(), id],
    );
    return true;
  });
}

/** Pairings of which one side is in a system. */
export async function pairingsIn(db: Database, system: string): Promise<PairingRow[]> {
  return (await listPairings(db)).filter(({ draft }) => draft.left.system === system || draft.right.system === system);
}

/**
 * Removes a pairing with all that is known for it; what it has written stays, on the ledger as well.
 * @param unused feeds of which nothing has to be kept any more
 */
export function removePairing(db: Database, id: string, unused: readonly number[]): Promise<void> {
  return atomically(db, async (tx) => {
    // Whoever is putting down what came of it does so first; nobody begins with anything afterwards (`isThere`).
    await tx.execute(sql`SELECT id FROM pairings WHERE id = ${id} FOR UPDATE`);
    await removeJobs(tx, 'pairing', [id]);
    // Nobody may be kept from records by a turn that nobody goes on with.
    await tx.execute(
      sql`DELETE FROM lane_holders WHERE turn IN (SELECT turn FROM pairs WHERE pairing_id = ${id} AND turn IS NOT NULL)`,
    );
    for (const feed of unused) {
      await tx.execute(sql`DELETE FROM seen_records WHERE feed = ${feed}`);
      await tx.execute(sql`DELETE FROM seen_links WHERE feed = ${feed}`);
      await tx.execute(sql`UPDATE feeds SET seen = NULL, seen_at = NULL, look_every = NULL WHERE id = ${feed}`);
    }
    for (const table of ['pairs', 'pair_troubles', 'pair_keys', 'pair_due', 'pairing_beats', 'pairing_versions'])
      await tx.execute(sql`DELETE FROM ${sql.identifier(table)} WHERE pairing_id = ${id}`);
    await tx.delete(pairings).where(eq(pairings.id, id));
  });
}

/** Keeps how far behind a pairing is at present, as the most of this minute. */
export async function noteBeat(query: Query, id: string, behindMs: number, written: number): Promise<void> {
  const minute = Math.floor(Date.now() / 60_000);
  await query(
    `INSERT INTO pairing_beats (pairing_id, minute, behind_ms, written) VALUES (?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE behind_ms = GREATEST(behind_ms, VALUES(behind_ms)), written = written + VALUES(written)`,
    [id, minute, Math.min(behindMs, 2_000_000_000), written],
  );
}

/** How far behind a pairing was in each of the last minutes. */
export async function beatsOf(db: Database, id: string, minutes: number) {
  const since = Math.floor(Date.now() / 60_000) - minutes;
  return db
    .select({ minute: pairingBeats.minute, behindMs: pairingBeats.behindMs, written: pairingBeats.written })
    .from(pairingBeats)
    .where(and(eq(pairingBeats.pairingId, id), sql`${pairingBeats.minute} > ${since}`))
    .orderBy(pairingBeats.minute);
}
