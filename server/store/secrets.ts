import { and, eq, gt, isNull, or } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { intakes, intakeSecrets } from './schema.ts';

export type SecretRow = typeof intakeSecrets.$inferSelect;

/** The keys of an intake that are good at a moment, newest first. */
export async function secretsOf(db: Database, intakeId: string, at = new Date()): Promise<SecretRow[]> {
  return db
    .select()
    .from(intakeSecrets)
    .where(
      and(eq(intakeSecrets.intakeId, intakeId), or(isNull(intakeSecrets.goodUntil), gt(intakeSecrets.goodUntil, at))),
    )
    .orderBy(intakeSecrets.createdAt);
}

/** Adds a key; those there before stay good until `overlapUntil`, so that the sender can change over. */
export async function addSecret(
  db: Database,
  intakeId: string,
  seal: (id: string) => { sealed: string; ending: string },
  overlapUntil: Date,
): Promise<SecretRow> {
  const id = uuid();
  const row: SecretRow = { id, intakeId, ...seal(id), createdAt: new Date(), goodUntil: null };
  await atomically(db, async (tx) => {
    await tx.update(intakes).set({ signed: true }).where(eq(intakes.id, intakeId));
    await tx
      .update(intakeSecrets)
      .set({ goodUntil: overlapUntil })
      .where(and(eq(intakeSecrets.intakeId, intakeId), isNull(intakeSecrets.goodUntil)));
    await tx.insert(intakeSecrets).values(row);
  });
  return row;
}

/**
 * Takes a key away. Where it was the one that had taken over, the newest of those left that are still good takes over
 * again: it loses its end, or everything would be refused once that has come.
 */
export async function removeSecret(db: Database, intakeId: string, id: string, at = new Date()): Promise<boolean> {
  return atomically(db, async (tx) => {
    const left = await tx
      .select()
      .from(intakeSecrets)
      .where(eq(intakeSecrets.intakeId, intakeId))
      .orderBy(intakeSecrets.createdAt)
      .for('update');
    const removed = left.find((each) => each.id === id);
    if (!removed) return false;
    await tx.delete(intakeSecrets).where(eq(intakeSecrets.id, id));
    const others = left.filter((each) => each.id !== id && (each.goodUntil === null || each.goodUntil > at));
    const heir = others.at(-1);
    if (removed.goodUntil === null && heir && others.every(({ goodUntil }) => goodUntil !== null))
      await tx.update(intakeSecrets).set({ goodUntil: null }).where(eq(intakeSecrets.id, heir.id));
    return true;
  });
}

/** Says whether what arrives at an intake must be signed. */
export async function setSigned(db: Database, intakeId: string, signed: boolean): Promise<void> {
  await db.update(intakes).set({ signed }).where(eq(intakes.id, intakeId));
}

/** Open intakes that refuse everything, because it must be signed and no key is good. */
export async function intakesWithoutKey(db: Database, at = new Date()): Promise<string[]> {
  const [rows] = await db.$client.query(
    `SELECT id FROM intakes i WHERE signed AND state = 'open' AND NOT EXISTS (
       SELECT 1 FROM intake_secrets s WHERE s.intake_id = i.id AND (s.good_until IS NULL OR s.good_until > ?))`,
    [at],
  );
  return (rows as { id: string }[]).map(({ id }) => id);
}
