import { and, eq, gt, isNull, or } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { intakeSecrets } from './schema.ts';

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
  await db.transaction(async (tx) => {
    await tx
      .update(intakeSecrets)
      .set({ goodUntil: overlapUntil })
      .where(and(eq(intakeSecrets.intakeId, intakeId), isNull(intakeSecrets.goodUntil)));
    await tx.insert(intakeSecrets).values(row);
  });
  return row;
}

export async function removeSecret(db: Database, intakeId: string, id: string): Promise<boolean> {
  const [result] = await db
    .delete(intakeSecrets)
    .where(and(eq(intakeSecrets.intakeId, intakeId), eq(intakeSecrets.id, id)));
  return result.affectedRows > 0;
}
