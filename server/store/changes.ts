import { desc, eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { changes } from './schema.ts';

export interface Actor {
  id: string | null;
  name: string;
}

/** Puts on record what somebody changed in Zusammen. `details` never holds secrets or personal values of visitors. */
export async function noteChange(
  db: Pick<Database, 'insert'>,
  actor: Actor,
  what: string,
  subject: string,
  details?: unknown,
): Promise<void> {
  await db.insert(changes).values({
    at: new Date(),
    userId: actor.id,
    userName: actor.name,
    what,
    subject,
    details: details === undefined ? null : JSON.stringify(details),
  });
}

export async function changesOf(
  db: Database,
  subject: string | undefined,
  limit = 100,
): Promise<(typeof changes.$inferSelect)[]> {
  const query = db.select().from(changes).$dynamic();
  if (subject !== undefined) query.where(eq(changes.subject, subject));
  return query.orderBy(desc(changes.id)).limit(limit);
}
