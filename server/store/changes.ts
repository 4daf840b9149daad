import { desc, eq, inArray, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { changes, intakes, pairings, systems, users } from './schema.ts';

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

type Change = typeof changes.$inferSelect;

/** What is on record, newest first, of everything or of one subject. */
export async function changesOf(db: Database, subject: string | undefined, limit = 100): Promise<Change[]> {
  const query = db.select().from(changes).$dynamic();
  if (subject !== undefined) query.where(eq(changes.subject, subject));
  return query.orderBy(desc(changes.id)).limit(limit);
}

/**
 * The same with what each is about by its name of today: an intake, a person, a system, or a system's entity. `null`
 * is what has no name or is gone.
 */
export async function namedChanges(
  db: Database,
  list: readonly Change[],
): Promise<(Change & { about: string | null })[]> {
  // A subject is an id, or an id and an entity's name.
  const partsOf = ({ subject }: Change) => /^([^/]*)(?:\/(.*))?$/su.exec(subject) ?? ['', subject, undefined];
  const ids = [...new Set(list.map((each) => partsOf(each)[1]!))];
  if (ids.length === 0) return [];
  const names = new Map<string, string>();
  for (const [table, name] of [
    [intakes, sql<string>`json_value(${intakes.draft}, '$.name')`],
    [users, users.name],
    [systems, systems.name],
    [pairings, sql<string>`json_value(${pairings.draft}, '$.name')`],
  ] as const)
    for (const row of await db.select({ id: table.id, name }).from(table).where(inArray(table.id, ids)))
      names.set(row.id, row.name);
  return list.map((each) => {
    const [, id, entity] = partsOf(each);
    const name = names.get(id!) ?? null;
    return { ...each, about: name !== null && entity !== undefined ? `${entity}, ${name}` : name };
  });
}
