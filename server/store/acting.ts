import { and, eq, lt, sql } from 'drizzle-orm';
import { isDuplicate, type Database } from './database.ts';
import { hashed } from './hashed.ts';
import { actingSystems, actingTokens, panelSights, submissions, takenContexts, turns } from './schema.ts';
import { atomically } from './transaction.ts';

export type ActingSystem = typeof actingSystems.$inferSelect;
export type PanelSight = typeof panelSights.$inferSelect;

export async function actingSystemOf(db: Database, systemId: string): Promise<ActingSystem | undefined> {
  return (await db.select().from(actingSystems).where(eq(actingSystems.systemId, systemId)))[0];
}

export const listActingSystems = (db: Database): Promise<ActingSystem[]> => db.select().from(actingSystems);

export async function saveActingSystem(db: Database, row: ActingSystem): Promise<void> {
  const { systemId: _, ...set } = row;
  await db.insert(actingSystems).values(row).onDuplicateKeyUpdate({ set });
}

/** Nobody acts there as themselves any more; tokens that were given are gone with it. */
export async function removeActingSystem(db: Pick<Database, 'delete'>, systemId: string): Promise<void> {
  await db.delete(actingSystems).where(eq(actingSystems.systemId, systemId));
  await db.delete(actingTokens).where(eq(actingTokens.systemId, systemId));
}

/** Notes that a context was taken. @returns false where it was before */
export async function takeContext(db: Database, name: string, until: Date): Promise<boolean> {
  try {
    await db.insert(takenContexts).values({ jti: hashed(name), until });
    return true;
  } catch (error) {
    if (isDuplicate(error)) return false;
    throw error;
  }
}

export async function keepActingToken(db: Database, row: typeof actingTokens.$inferInsert): Promise<void> {
  const { sealed, endsAt } = row;
  await db.insert(actingTokens).values(row).onDuplicateKeyUpdate({ set: { sealed, endsAt } });
}

/** A person's newest token, sealed, where it still holds. */
export async function actingTokenOf(
  db: Database,
  systemId: string,
  person: string,
): Promise<{ sealed: string; endsAt: Date } | undefined> {
  const [row] = await db
    .select()
    .from(actingTokens)
    .where(and(eq(actingTokens.systemId, systemId), eq(actingTokens.person, person)));
  return row && row.endsAt > new Date() ? row : undefined;
}

/** A token that its system doesn't know any more. */
export async function dropActingToken(db: Database, systemId: string, person: string): Promise<void> {
  await db.delete(actingTokens).where(and(eq(actingTokens.systemId, systemId), eq(actingTokens.person, person)));
}

/** What has run out, of tokens and of contexts. */
export async function forgetActing(db: Database, now: Date): Promise<void> {
  await db.delete(actingTokens).where(lt(actingTokens.endsAt, now));
  await db.delete(takenContexts).where(lt(takenContexts.until, now));
}

export async function panelSightOf(db: Database, intakeId: string): Promise<PanelSight | undefined> {
  return (await db.select().from(panelSights).where(eq(panelSights.intakeId, intakeId)))[0];
}

/** Notes where a panel was seen, or why it was refused; the other is kept. */
export async function notePanelSight(
  db: Database,
  intakeId: string,
  change: Partial<Omit<PanelSight, 'intakeId'>>,
): Promise<void> {
  await db
    .insert(panelSights)
    .values({ intakeId, ...change })
    .onDuplicateKeyUpdate({ set: change });
}

/** From now on the connection acts, for a person who can't. The ledger has both. */
export async function actAsConnection(db: Database, seq: number, name: string): Promise<void> {
  await atomically(db, async (tx) => {
    await tx
      .update(turns)
      .set({ actor: `connection for ${name}`.slice(0, 120), actingPerson: null })
      .where(eq(turns.id, seq));
    await tx
      .update(submissions)
      .set({ acting: sql`json_set(${submissions.acting}, '$.by', 'connection')` })
      .where(eq(submissions.seq, seq));
  });
}
