import { and, eq, inArray, lt, notExists, sql } from 'drizzle-orm';
import type { Database } from './database.ts';
import { visitorFileParts, visitorFiles, visitorFileUses } from './schema.ts';
import { atomically, inTransaction, type Query } from './transaction.ts';

export type VisitorFile = typeof visitorFiles.$inferSelect;

const PART_BYTES = 512 * 1024;

/** Keeps a visitor's file whole or not at all; one that is here already stays, and counts as having come just now. */
export async function addVisitorFile(db: Database, file: Omit<VisitorFile, 'bytes'>, bytes: Buffer): Promise<void> {
  await atomically(db, async (tx) => {
    await tx
      .insert(visitorFiles)
      .values({ ...file, bytes: bytes.length })
      .onDuplicateKeyUpdate({ set: { cameAt: file.cameAt, name: file.name } });
    for (let part = 0; part * PART_BYTES < bytes.length; part += 1)
      await tx
        .insert(visitorFileParts)
        .values({ fileId: file.id, part, bytes: bytes.subarray(part * PART_BYTES, (part + 1) * PART_BYTES) })
        .onDuplicateKeyUpdate({ set: { part } });
  });
}

/** Of files that are here, by id, what is known of them. */
export async function visitorFilesBy(db: Database, ids: readonly string[]): Promise<Map<string, VisitorFile>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select()
    .from(visitorFiles)
    .where(inArray(visitorFiles.id, [...ids]));
  return new Map(rows.map((row) => [row.id, row]));
}

/** A file that belongs to a submission, with its bytes; undefined where there is none, or no more. */
export async function visitorFileSent(
  db: Database,
  id: string,
): Promise<{ file: VisitorFile; bytes: Buffer } | undefined> {
  const [used] = await db
    .select({ file: visitorFiles })
    .from(visitorFiles)
    .innerJoin(visitorFileUses, eq(visitorFileUses.fileId, visitorFiles.id))
    .where(eq(visitorFiles.id, id))
    .limit(1);
  if (!used) return undefined;
  const parts = await db
    .select({ bytes: visitorFileParts.bytes })
    .from(visitorFileParts)
    .where(eq(visitorFileParts.fileId, id))
    .orderBy(visitorFileParts.part);
  return { file: used.file, bytes: Buffer.concat(parts.map(({ bytes }) => bytes)) };
}

/** Bytes of an intake's files that belong to no submission. */
export async function looseBytesOf(db: Database, intakeId: string): Promise<number> {
  const [row] = await db
    .select({ sum: sql<string | null>`SUM(${visitorFiles.bytes})` })
    .from(visitorFiles)
    .where(and(eq(visitorFiles.intakeId, intakeId), unused(db)));
  return Number(row?.sum ?? 0);
}

const unused = (db: Database) =>
  notExists(db.select({ one: sql`1` }).from(visitorFileUses).where(eq(visitorFileUses.fileId, visitorFiles.id)));

const AT_ONCE = 200;

/** Removes files that came before a moment and belong to no submission. */
export async function forgetLooseFiles(db: Database, before: Date): Promise<void> {
  for (;;) {
    const rows = await db
      .select({ id: visitorFiles.id })
      .from(visitorFiles)
      .where(and(lt(visitorFiles.cameAt, before), unused(db)))
      .limit(AT_ONCE);
    if (rows.length === 0) return;
    await inTransaction(db, (query) =>
      removeUnused(
        query,
        rows.map(({ id }) => id),
      ),
    );
    if (rows.length < AT_ONCE) return;
  }
}

/** Lets go of the files of submissions that are forgotten; those that no other has are removed. */
export async function leaveFiles(query: Query, submissionIds: readonly string[]): Promise<void> {
  const held = await query<{ file_id: string }>(
    'SELECT DISTINCT file_id FROM visitor_file_uses WHERE submission_id IN (?)',
    [submissionIds],
  );
  if (held.length === 0) return;
  await query('DELETE FROM visitor_file_uses WHERE submission_id IN (?)', [submissionIds]);
  await removeUnused(
    query,
    held.map(({ file_id: id }) => id),
  );
}

async function removeUnused(query: Query, ids: readonly string[]): Promise<void> {
  const used = await query<{ file_id: string }>(
    'SELECT DISTINCT file_id FROM visitor_file_uses WHERE file_id IN (?) LOCK IN SHARE MODE',
    [ids],
  );
  const free = ids.filter((id) => !used.some(({ file_id: held }) => held === id));
  if (free.length === 0) return;
  await query('DELETE FROM visitor_file_parts WHERE file_id IN (?)', [free]);
  await query('DELETE FROM visitor_files WHERE id IN (?)', [free]);
}
