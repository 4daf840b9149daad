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

/**
 * What this installation signs with, sealed: made by the first process that needs it, the same for all.
 * @param make gives fresh keys, sealed
 */
export async function sealedKeys(db: Database, make: () => Promise<string>): Promise<string> {
  const held = async (): Promise<string | null | undefined> =>
    (await db.select({ sealed: installation.sealedKeys }).from(installation))[0]?.sealed;
  const known = await held();
  if (known) return known;
  const fresh = await make();
  await db.$client.query(
    `INSERT INTO installation (id, demo, sealed_keys) VALUES (1, FALSE, ?)
     ON DUPLICATE KEY UPDATE sealed_keys = COALESCE(sealed_keys, VALUES(sealed_keys))`,
    [fresh],
  );
  return (await held()) ?? fresh;
}
