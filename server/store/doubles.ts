import { and, desc, eq, getTableColumns, inArray, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Group } from '@zusammen/core/recognition';
import type { Database } from './database.ts';
import { atomically, type Query } from './transaction.ts';
import { addJob, progressColumns, type JobProgress } from './jobs.ts';
import { doubleGroups, doubleSearches, jobs, type GroupState } from './schema.ts';

/** A search, with its job's progress; `total` and `done` are records. */
export type DoubleSearch = typeof doubleSearches.$inferSelect & JobProgress;
export type DoubleGroup = typeof doubleGroups.$inferSelect;

const withProgress = { ...getTableColumns(doubleSearches), ...progressColumns };

export function addSearch(db: Database, scope: number, otherScope: number, by: string): Promise<string> {
  return atomically(db, async (tx) => {
    const id = uuid();
    await tx.insert(doubleSearches).values({ id, scope, otherScope, pairs: [] });
    await addJob(tx, { id, kind: 'doubles', subject: id, by });
    return id;
  });
}

export async function searchById(db: Database, id: string): Promise<DoubleSearch | undefined> {
  const found = await db
    .select(withProgress)
    .from(doubleSearches)
    .innerJoin(jobs, eq(jobs.id, doubleSearches.id))
    .where(eq(doubleSearches.id, id));
  return found[0];
}

/** The searches of an entity, newest first, without their pairs. */
export async function searchesOf(db: Database, scope: number): Promise<Omit<DoubleSearch, 'pairs'>[]> {
  const { pairs: _, ...columns } = withProgress;
  return db
    .select(columns)
    .from(doubleSearches)
    .innerJoin(jobs, eq(jobs.id, doubleSearches.id))
    .where(eq(doubleSearches.scope, scope))
    .orderBy(desc(jobs.startedAt))
    .limit(10);
}

/** Keeps the groups that a search found; open groups of earlier searches of the same entities make way. */
export async function keepGroups(
  query: Query,
  { id, scope, otherScope }: Pick<DoubleSearch, 'id' | 'scope' | 'otherScope'>,
  groups: readonly Group[],
): Promise<void> {
  await query(
    `DELETE g FROM double_groups g JOIN double_searches s ON s.id = g.search_id
     WHERE g.state = 'open' AND s.scope = ? AND s.other_scope = ?`,
    [scope, otherScope],
  );
  for (let at = 0; at < groups.length; at += 500)
    await query('INSERT INTO double_groups (search_id, scope, members, verdict, weight_hundredths, state) VALUES ?', [
      groups
        .slice(at, at + 500)
        .map(({ members, weight, verdict }) => [
          ...[id, scope, JSON.stringify(members), verdict],
          ...[Math.round(Math.min(weight, 1e6) * 100), 'open'],
        ]),
    ]);
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
  change: Partial<Pick<DoubleGroup, 'state' | 'merge' | 'mergeJob' | 'words' | 'decidedAt' | 'decidedBy'>>,
): Promise<boolean> {
  const [result] = await db
    .update(doubleGroups)
    .set(change)
    .where(and(eq(doubleGroups.id, id), inArray(doubleGroups.state, [...from])));
  return result.affectedRows === 1;
}
