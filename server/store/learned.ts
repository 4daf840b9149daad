import type { Learned, Lesson } from '@zusammen/core/mapping';
import { desc, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { learnedLines } from './schema.ts';

/** What specialists chose before, the most certain first. */
export async function learnedOf(db: Database, limit = 5000): Promise<Learned[]> {
  return db
    .select()
    .from(learnedLines)
    .orderBy(desc(sql`${learnedLines.accepted} + ${learnedLines.rejected}`))
    .limit(limit);
}

/** Counts decisions. */
export async function learn(db: Database, lessons: readonly Lesson[]): Promise<void> {
  const rows = lessons.filter(
    ({ from, entity, field }) => from.length <= 200 && entity.length <= 100 && field.length <= 100,
  );
  if (rows.length === 0) return;
  await db
    .insert(learnedLines)
    .values(rows.map(({ right, ...pair }) => ({ ...pair, accepted: right ? 1 : 0, rejected: right ? 0 : 1 })))
    .onDuplicateKeyUpdate({
      set: { accepted: sql`accepted + values(accepted)`, rejected: sql`rejected + values(rejected)` },
    });
}
