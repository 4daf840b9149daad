import { and, desc, eq, isNull, lte, or, sql } from 'drizzle-orm';
import type { AdapterTrial } from '@zusammen/core/adapters';
import type { Schema } from '@zusammen/core/schema';
import { repeatedly, type Database } from './database.ts';
import { adapterVersions, schemaSnapshots, systems, systemTokens } from './schema.ts';
import { atomically } from './transaction.ts';

export type AdapterRow = typeof adapterVersions.$inferSelect;

export async function adapterOf(
  db: Pick<Database, 'select'>,
  systemId: string,
  version: number,
): Promise<AdapterRow | undefined> {
  const [row] = await db
    .select()
    .from(adapterVersions)
    .where(and(eq(adapterVersions.systemId, systemId), eq(adapterVersions.version, version)));
  return row;
}

/** The versions of a system's adapter without the documents, newest first. */
export async function adapterHistory(
  db: Database,
  systemId: string,
): Promise<{ version: number; at: Date; by: string }[]> {
  const { version, at, by } = adapterVersions;
  return db
    .select({ version, at, by })
    .from(adapterVersions)
    .where(eq(adapterVersions.systemId, systemId))
    .orderBy(desc(version));
}

/** A new version of an adapter, before it is kept. */
export interface FreshAdapter extends Pick<AdapterRow, 'document' | 'reasons' | 'described' | 'unused' | 'by'> {
  /** What had changed in the API is taken over. */
  caughtUp: boolean;
  /** The schema it gives, where that is another. */
  schema: Schema | undefined;
}

/**
 * Keeps a new version of an adapter, which holds from now on, with the schema it gives.
 * @param before the version it was made from
 * @returns the new version; undefined when somebody else was faster
 */
export async function saveAdapter(
  db: Database,
  systemId: string,
  before: number,
  { document, reasons, described, unused, caughtUp, by, schema }: FreshAdapter,
): Promise<number | undefined> {
  return atomically(db, async (tx) => {
    const [result] = await tx
      .update(systems)
      .set({
        adapterVersion: before + 1,
        ...(caughtUp ? { adapterDrift: null } : {}),
        address: document.address,
        revision: sql`${systems.revision} + 1`,
      })
      .where(and(eq(systems.id, systemId), eq(systems.adapterVersion, before)));
    if (result.affectedRows === 0) return undefined;
    const at = new Date();
    await tx
      .insert(adapterVersions)
      .values({ systemId, version: before + 1, document, reasons, described, unused, at, by, trials: null });
    if (schema) await tx.insert(schemaSnapshots).values({ systemId, schema, takenAt: at });
    return before + 1;
  });
}

export async function saveTrials(
  db: Database,
  systemId: string,
  version: number,
  trials: AdapterTrial[],
): Promise<void> {
  await db
    .update(adapterVersions)
    .set({ trials })
    .where(and(eq(adapterVersions.systemId, systemId), eq(adapterVersions.version, version)));
}

/** A token as it is kept for all processes. */
export interface KeptToken {
  sealed: string | null;
  issue: number;
  endsAt: Date | null;
}

export async function tokenOf(db: Database, systemId: string): Promise<KeptToken | undefined> {
  const { sealed, issue, endsAt } = systemTokens;
  return (await db.select({ sealed, issue, endsAt }).from(systemTokens).where(eq(systemTokens.systemId, systemId)))[0];
}

/**
 * Takes it upon this process to renew a token; nobody else does until it is done, or the lease has run out.
 * @param issue the token that is to be replaced, as it was seen
 */
export async function claimRenewal(db: Database, systemId: string, issue: number, leaseMs: number): Promise<boolean> {
  const now = new Date();
  const free = or(isNull(systemTokens.renewingUntil), lte(systemTokens.renewingUntil, now));
  // Each statement on its own: whoever waits for a token asks again and again, and holds no lock meanwhile.
  if (issue === 0) await repeatedly(async () => db.insert(systemTokens).ignore().values({ systemId }));
  const [result] = await repeatedly(async () =>
    db
      .update(systemTokens)
      .set({ renewingUntil: new Date(now.getTime() + leaseMs) })
      .where(and(eq(systemTokens.systemId, systemId), eq(systemTokens.issue, issue), free)),
  );
  return result.affectedRows > 0;
}

/** Keeps a fetched token, or says that none could be had; then the next may try. */
export async function settleRenewal(
  db: Database,
  systemId: string,
  token: { sealed: string; endsAt: Date | null; issue: number } | undefined,
): Promise<void> {
  const { sealed, endsAt, issue } = token ?? {};
  await repeatedly(async () =>
    db
      .update(systemTokens)
      .set({ renewingUntil: null, ...(token ? { sealed, endsAt, issue } : {}) })
      .where(eq(systemTokens.systemId, systemId)),
  );
}

/** Forgets the tokens of a system: its secrets were changed. */
export async function forgetTokens(db: Pick<Database, 'delete'>, systemId: string): Promise<void> {
  await db.delete(systemTokens).where(eq(systemTokens.systemId, systemId));
}
