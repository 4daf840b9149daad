import type { Database } from './database.ts';
import { installation } from './schema.ts';

/** Whether this database holds the demo: other processes on it, which nobody tells, go by that. */
export async function isDemo(db: Database): Promise<boolean> {
  const [row] = await db.select({ demo: installation.demo }).from(installation);
  return row?.demo === true;
}

export async function markDemo(db: Database): Promise<void> {
  await db
    .insert(installation)
    .values({ id: 1, demo: true })
    .onDuplicateKeyUpdate({ set: { demo: true } });
}
