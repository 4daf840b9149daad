import { eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { doubleGroups, turns } from './schema.ts';
import { atomically } from './transaction.ts';

export type TurnRow = typeof turns.$inferSelect;

/** Who acts where nobody does: what arrives is carried out by the connection to the systems. */
export const BY_CONNECTION = 'connection';

/** Begins a turn. @returns its place in the order of all turns */
export async function addTurn(db: Pick<Database, 'insert'>, turn: Omit<TurnRow, 'id' | 'at'>): Promise<number> {
  const [result] = await db.insert(turns).values({ ...turn, at: new Date() });
  return result.insertId;
}

/** What may become of a group of doubles, and where its turn is kept. */
const OF_GROUP = { merge: 'turn', link: 'turn', 'taking back': 'backTurn' } as const;

/**
 * The turn of a group's merge, link or taking back: begun once, so that one that was broken off goes on in the same.
 * @param actor who acts, where it begins now
 */
export function turnOfGroup(db: Database, group: number, kind: keyof typeof OF_GROUP, actor: string): Promise<number> {
  return atomically(db, async (tx) => {
    const column = OF_GROUP[kind];
    const [held] = await tx.select().from(doubleGroups).where(eq(doubleGroups.id, group)).for('update');
    const begun = held?.[column];
    if (begun) return begun;
    const subject = kind === 'taking back' ? String(held?.turn ?? '') : String(group);
    const turn = await addTurn(tx, { kind, subject, actor, actingPerson: null });
    await tx
      .update(doubleGroups)
      .set({ [column]: turn })
      .where(eq(doubleGroups.id, group));
    return turn;
  });
}
