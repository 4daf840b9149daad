import { and, desc, eq, getTableColumns, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Group } from '@zusammen/core/recognition';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { doubleGroups, doubleSearches, type GroupState, type SearchState } from './schema.ts';

export type DoubleSearch = typeof doubleSearches.$inferSelect;
export type DoubleGroup = typeof doubleGroups.$inferSelect;

export async function addSearch(db: Database, scope: number, otherScope: number, by: string): Promise<string> {
  const id = uuid();
  await db
    .insert(doubleSearches)
    .values({ id, scope, otherScope, state: 'running', pairs: [], startedAt: new Date(), startedBy: by });
  return id;
}

export async function searchById(db: Database, id: string): Promise<DoubleSearch | undefined> {
  return (await db.select().from(doubleSearches).where(eq(doubleSearches.id, id)))[0];
}

/** The searches of an entity, newest first, without their pairs. */
export async function searchesOf(db: Database, scope: number): Promise<Omit<DoubleSearch, 'pairs'>[]> {
  const { pairs: _, ...columns } = getTableColumns(doubleSearches);
  return db
    .select(columns)
    .from(doubleSearches)
    .where(eq(doubleSearches.scope, scope))
    .orderBy(desc(doubleSearches.startedAt))
    .limit(10);
}

/** Claims one running search that nobody is at, or whose claim has lapsed. */
export async function claimSearch(db: Database, worker: string, leaseMs: number): Promise<DoubleSearch | undefined> {
  const now = new Date();
  return atomically(db, async (tx) => {
    const [row] = await tx
      .select()
      .from(doubleSearches)
      .where(
        and(
          eq(doubleSearches.state, 'running'),
          or(isNull(doubleSearches.claimedUntil), lt(doubleSearches.claimedUntil, now)),
        ),
      )
      .orderBy(doubleSearches.startedAt)
      .limit(1)
      .for('update', { skipLocked: true });
    if (!row) return undefined;
    const claim = { claimedBy: worker, claimedUntil: new Date(now.getTime() + leaseMs) };
    await tx.update(doubleSearches).set(claim).where(eq(doubleSearches.id, row.id));
    return row;
  });
}

/** Notes progress under a claim. @returns false when it was paused, cancelled or taken over */
export async function noteSearch(
  db: Database,
  id: string,
  worker: string,
  change: Partial<Pick<DoubleSearch, 'total' | 'done' | 'compared' | 'pairs' | 'state' | 'words' | 'endedAt'>>,
  leaseMs = 60_000,
): Promise<boolean> {
  const [result] = await db
    .update(doubleSearches)
    .set({ ...change, claimedUntil: new Date(Date.now() + leaseMs) })
    .where(and(eq(doubleSearches.id, id), eq(doubleSearches.claimedBy, worker), eq(doubleSearches.state, 'running')));
  return result.affectedRows === 1;
}

export async function setSearchState(db: Database, id: string, from: SearchState[], to: SearchState): Promise<boolean> {
  const [result] = await db
    .update(doubleSearches)
    .set({
      state: to,
      claimedBy: null,
      claimedUntil: null,
      ...(to === 'cancelled' ? { endedAt: new Date() } : to === 'running' ? { words: null, endedAt: null } : {}),
    })
    .where(and(eq(doubleSearches.id, id), inArray(doubleSearches.state, from)));
  return result.affectedRows === 1;
}

export async function releaseSearches(db: Database, worker: string): Promise<void> {
  await db
    .update(doubleSearches)
    .set({ claimedBy: null, claimedUntil: null })
    .where(eq(doubleSearches.claimedBy, worker));
}

/** Ends a search with the groups it found; open groups of earlier searches of the same entity make way. */
export async function endSearch(
  db: Database,
  search: DoubleSearch,
  worker: string,
  groups: readonly Group[],
  words: string | null,
): Promise<void> {
  await atomically(db, async (tx) => {
    const [result] = await tx
      .update(doubleSearches)
      .set({ state: 'done', words, endedAt: new Date(), claimedBy: null, claimedUntil: null })
      .where(
        and(
          eq(doubleSearches.id, search.id),
          eq(doubleSearches.claimedBy, worker),
          eq(doubleSearches.state, 'running'),
        ),
      );
    if (result.affectedRows !== 1) return;
    const earlier = tx
      .select({ id: doubleSearches.id })
      .from(doubleSearches)
      .where(and(eq(doubleSearches.scope, search.scope), eq(doubleSearches.otherScope, search.otherScope)));
    await tx.delete(doubleGroups).where(and(inArray(doubleGroups.searchId, earlier), eq(doubleGroups.state, 'open')));
    for (let at = 0; at < groups.length; at += 500)
      await tx.insert(doubleGroups).values(
        groups.slice(at, at + 500).map(({ members, weight, verdict }) => ({
          ...{ searchId: search.id, scope: search.scope, members, verdict },
          weight: Math.round(Math.min(weight, 1e6) * 100),
          state: 'open' as const,
        })),
      );
  });
}

export async function groupById(db: Database, id: number): Promise<DoubleGroup | undefined> {
  return (await db.select().from(doubleGroups).where(eq(doubleGroups.id, id)))[0];
}

/** Groups of an entity, the surest first. */
export async function groupsOfScope(
  db: Database,
  scope: number,
  states: readonly GroupState[],
  limit = 200,
): Promise<DoubleGroup[]> {
  return db
    .select()
    .from(doubleGroups)
    .where(and(eq(doubleGroups.scope, scope), inArray(doubleGroups.state, [...states])))
    .orderBy(desc(doubleGroups.decidedAt), doubleGroups.verdict, desc(doubleGroups.weight), doubleGroups.id)
    .limit(limit);
}

export async function countGroups(db: Database, scope: number): Promise<Record<string, number>> {
  const rows = await db
    .select({ state: doubleGroups.state, count: sql<number>`count(*)` })
    .from(doubleGroups)
    .where(eq(doubleGroups.scope, scope))
    .groupBy(doubleGroups.state);
  return Object.fromEntries(rows.map(({ state, count }) => [state, Number(count)]));
}

/** Moves a group on. @returns false when somebody else has done so already */
export async function setGroup(
  db: Database,
  id: number,
  from: readonly GroupState[],
  change: Partial<Pick<DoubleGroup, 'state' | 'merge' | 'words' | 'decidedAt' | 'decidedBy'>>,
): Promise<boolean> {
  const [result] = await db
    .update(doubleGroups)
    .set(change)
    .where(and(eq(doubleGroups.id, id), inArray(doubleGroups.state, [...from])));
  return result.affectedRows === 1;
}
