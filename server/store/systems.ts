import { and, desc, eq, inArray, isNull, lt, max, or, sql } from 'drizzle-orm';
import type { Schema } from '@zusammen/core/schema';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { removeActingSystem } from './acting.ts';
import { forgetTokens, type AdapterRow } from './adapters.ts';
import { removeFeeds } from './feeds.ts';
import { removeHeld } from './held.ts';
import { pairingsIn, removePairing } from './pairings.ts';
import { removeJobs } from './jobs.ts';
import {
  adapterVersions,
  decidedPairs,
  doubleGroups,
  doubleSearches,
  knownKeys,
  knownRecords,
  recognitions,
  recognitionVersions,
  schemaSnapshots,
  systems,
} from './schema.ts';

export type SystemRow = typeof systems.$inferSelect;

export async function listSystems(db: Database): Promise<SystemRow[]> {
  return db.select().from(systems).orderBy(systems.createdAt);
}

/** Where the page of a record is in its system, where that is known of the system. */
export const pageOfRecord = (
  { recordPage }: Pick<SystemRow, 'recordPage'>,
  entity: string,
  id: string,
): string | undefined =>
  recordPage?.replace('{entity}', encodeURIComponent(entity)).replace('{id}', encodeURIComponent(id));

/** Where the pages of records are, for as many as an answer holds. */
export async function pagesOfRecords(
  db: Database,
): Promise<(systemId: string, entity: string, id: string | null) => string | undefined> {
  const known = new Map((await listSystems(db)).map((system) => [system.id, system]));
  return (systemId, entity, id) => {
    const system = known.get(systemId);
    return system && id !== null ? pageOfRecord(system, entity, id) : undefined;
  };
}

export async function systemById(db: Database, id: string): Promise<SystemRow | undefined> {
  return (await db.select().from(systems).where(eq(systems.id, id)))[0];
}

/**
 * @param adapter its first version, for a system that is spoken to by one
 * @throws ER_DUP_ENTRY when the name is taken
 */
export async function addSystem(
  db: Database,
  row: SystemRow,
  schema: Schema,
  adapter?: Omit<AdapterRow, 'systemId' | 'version'>,
): Promise<void> {
  await atomically(db, async (tx) => {
    await tx.insert(systems).values(row);
    if (adapter) await tx.insert(adapterVersions).values({ systemId: row.id, version: 1, ...adapter });
    await tx.insert(schemaSnapshots).values({ systemId: row.id, schema, takenAt: row.checkedAt });
  });
}

export async function changeSystem(
  db: Database,
  id: string,
  change: Partial<Omit<SystemRow, 'revision'>>,
): Promise<void> {
  const reached = ['address', 'sealedToken', 'capabilities', 'adapterVersion'].some((name) =>
    Object.hasOwn(change, name),
  );
  await db
    .update(systems)
    .set({ ...change, ...(reached ? { revision: sql`${systems.revision} + 1` } : {}) })
    .where(eq(systems.id, id));
}

/** Takes the reading of a system's schema upon oneself, where it was last read before a moment; one of several may. */
export async function claimReading(db: Database, id: string, before: Date): Promise<boolean> {
  const due = or(isNull(systems.schemaReadAt), lt(systems.schemaReadAt, before));
  const [result] = await db
    .update(systems)
    .set({ schemaReadAt: new Date() })
    .where(and(eq(systems.id, id), due));
  return result.affectedRows === 1;
}

/** Which systems are connected, each with the number of its last change. */
export async function systemRevisions(db: Database): Promise<Map<string, number>> {
  const rows = await db.select({ id: systems.id, revision: systems.revision }).from(systems);
  return new Map(rows.map(({ id, revision }) => [id, revision]));
}

/** Until when a system has asked to be left alone, in milliseconds since 1970; 0: it hasn't. */
export async function patienceOf(db: Database, id: string): Promise<number> {
  const [row] = await db.select({ until: systems.patienceUntil }).from(systems).where(eq(systems.id, id));
  return row?.until?.getTime() ?? 0;
}

export async function askedForPatience(db: Database, id: string, until: Date): Promise<void> {
  await db
    .update(systems)
    .set({ patienceUntil: until })
    .where(and(eq(systems.id, id), or(isNull(systems.patienceUntil), lt(systems.patienceUntil, until))));
}

export async function removeSystem(db: Database, id: string): Promise<void> {
  // A pairing is nothing without one of its sides.
  for (const pairing of await pairingsIn(db, id)) await removePairing(db, pairing.id, []);
  await atomically(db, async (tx) => {
    await tx.delete(schemaSnapshots).where(eq(schemaSnapshots.systemId, id));
    const scopes = (
      await tx.select({ scope: recognitions.scope }).from(recognitions).where(eq(recognitions.systemId, id))
    ).map(({ scope }) => scope);
    if (scopes.length > 0) {
      const searches = await tx
        .select({ id: doubleSearches.id })
        .from(doubleSearches)
        .where(inArray(doubleSearches.scope, scopes));
      await removeJobs(
        tx,
        'doubles',
        searches.map((each) => each.id),
      );
      // What was known of its people goes with it.
      for (const table of [
        recognitions,
        recognitionVersions,
        knownRecords,
        knownKeys,
        decidedPairs,
        doubleGroups,
        doubleSearches,
      ])
        await tx.delete(table).where(inArray(table.scope, scopes));
    }
    await removeHeld(tx, id);
    await removeFeeds(tx, id);
    await forgetTokens(tx, id);
    await removeActingSystem(tx, id);
    await tx.delete(adapterVersions).where(eq(adapterVersions.systemId, id));
    await tx.delete(systems).where(eq(systems.id, id));
  });
}

export interface Snapshot {
  id: number;
  schema: Schema;
  takenAt: Date;
}

/** The newest readings of a system's schema, newest first. */
export async function snapshotsOf(db: Database, systemId: string, limit = 1): Promise<Snapshot[]> {
  return db
    .select()
    .from(schemaSnapshots)
    .where(eq(schemaSnapshots.systemId, systemId))
    .orderBy(desc(schemaSnapshots.id))
    .limit(limit);
}

/** The newest readings of a system's schema as they are kept, each a JSON text; nobody waits here for their being read. */
export async function snapshotTexts(db: Database, systemId: string, limit: number): Promise<string[]> {
  const [rows] = await db.$client.query(
    'SELECT CAST(`schema` AS CHAR) AS text FROM schema_snapshots WHERE system_id = ? ORDER BY id DESC LIMIT ?',
    [systemId, limit],
  );
  return (rows as { text: string }[]).map(({ text }) => text);
}

export async function addSnapshot(db: Database, systemId: string, schema: Schema): Promise<void> {
  await db.insert(schemaSnapshots).values({ systemId, schema, takenAt: new Date() });
}

/** Which reading of each system's schema is the newest: ids of snapshots, by system id. */
export async function newestSnapshots(db: Database): Promise<Map<string, number>> {
  const newest = await db
    .select({ systemId: schemaSnapshots.systemId, id: max(schemaSnapshots.id) })
    .from(schemaSnapshots)
    .innerJoin(systems, eq(systems.id, schemaSnapshots.systemId))
    .groupBy(schemaSnapshots.systemId);
  return new Map(newest.map(({ systemId, id }) => [systemId, id!]));
}

/** @returns the schemas of these snapshots, by the snapshot's id */
export async function schemasOf(db: Database, snapshots: readonly number[]): Promise<Map<number, Schema>> {
  if (snapshots.length === 0) return new Map();
  const rows = await db
    .select()
    .from(schemaSnapshots)
    .where(inArray(schemaSnapshots.id, [...snapshots]));
  return new Map(rows.map(({ id, schema }) => [id, schema]));
}
