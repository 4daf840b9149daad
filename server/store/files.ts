import { and, desc, eq, gt, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { fileParts, files, imports, submissions, type ImportState } from './schema.ts';

export type FileRow = typeof files.$inferSelect;
export type ImportRow = typeof imports.$inferSelect;

const PART_BYTES = 512 * 1024;

/** Keeps a file whole or not at all. */
export async function addFile(
  db: Database,
  file: Pick<FileRow, 'name' | 'rows' | 'columns' | 'uploadedBy'>,
  bytes: Buffer,
): Promise<FileRow> {
  const row: FileRow = { ...file, id: uuid(), bytes: bytes.length, uploadedAt: new Date(), removedAt: null };
  await atomically(db, async (tx) => {
    await tx.insert(files).values(row);
    for (let part = 0; part * PART_BYTES < bytes.length; part += 1) {
      const piece = bytes.subarray(part * PART_BYTES, (part + 1) * PART_BYTES);
      await tx.insert(fileParts).values({ fileId: row.id, part, bytes: piece });
    }
  });
  return row;
}

export async function fileById(db: Database, id: string): Promise<FileRow | undefined> {
  return (await db.select().from(files).where(eq(files.id, id)))[0];
}

export async function bytesOfFile(db: Database, id: string): Promise<Buffer> {
  const parts = await db
    .select({ bytes: fileParts.bytes })
    .from(fileParts)
    .where(eq(fileParts.fileId, id))
    .orderBy(fileParts.part);
  return Buffer.concat(parts.map(({ bytes }) => bytes));
}

export async function addImport(db: Database, intakeId: string, file: FileRow, by: string): Promise<ImportRow> {
  const row: ImportRow = {
    id: uuid(),
    intakeId,
    fileId: file.id,
    state: 'running',
    rows: file.rows,
    done: 0,
    accepted: 0,
    again: 0,
    problems: [],
    words: null,
    startedAt: new Date(),
    startedBy: by,
    endedAt: null,
    claimedBy: null,
    claimedUntil: null,
  };
  await db.insert(imports).values(row);
  return row;
}

export interface ImportLine extends ImportRow {
  fileName: string;
}

export async function importsOf(db: Database, intakeId: string): Promise<ImportLine[]> {
  const rows = await db
    .select({ row: imports, fileName: files.name })
    .from(imports)
    .innerJoin(files, eq(files.id, imports.fileId))
    .where(eq(imports.intakeId, intakeId))
    .orderBy(desc(imports.startedAt))
    .limit(50);
  return rows.map(({ row, fileName }) => ({ ...row, fileName }));
}

export async function importById(db: Database, id: string): Promise<ImportRow | undefined> {
  return (await db.select().from(imports).where(eq(imports.id, id)))[0];
}

/** Claims one running import that nobody is at, or whose claim has lapsed. */
export async function claimImport(db: Database, worker: string, leaseMs: number): Promise<ImportRow | undefined> {
  const now = new Date();
  return atomically(db, async (tx) => {
    const [row] = await tx
      .select()
      .from(imports)
      .where(and(eq(imports.state, 'running'), or(isNull(imports.claimedUntil), lt(imports.claimedUntil, now))))
      .orderBy(imports.startedAt)
      .limit(1)
      .for('update', { skipLocked: true });
    if (!row) return undefined;
    const claim = { claimedBy: worker, claimedUntil: new Date(now.getTime() + leaseMs) };
    await tx.update(imports).set(claim).where(eq(imports.id, row.id));
    return { ...row, ...claim };
  });
}

/** Notes progress under a claim. @returns false when the claim has gone to somebody else or the import was paused */
export async function noteProgress(
  db: Database,
  id: string,
  worker: string,
  change: Partial<Pick<ImportRow, 'done' | 'accepted' | 'again' | 'problems' | 'state' | 'words' | 'endedAt'>>,
  leaseMs: number,
): Promise<boolean> {
  const [result] = await db
    .update(imports)
    .set({ ...change, claimedUntil: new Date(Date.now() + leaseMs) })
    .where(and(eq(imports.id, id), eq(imports.claimedBy, worker), eq(imports.state, 'running')));
  return result.affectedRows === 1;
}

export async function setImportState(db: Database, id: string, from: ImportState[], to: ImportState): Promise<boolean> {
  const [result] = await db
    .update(imports)
    .set({
      state: to,
      claimedBy: null,
      claimedUntil: null,
      ...(to === 'running' ? { words: null, endedAt: null } : {}),
    })
    .where(and(eq(imports.id, id), inArray(imports.state, from)));
  return result.affectedRows === 1;
}

/** Lets go of what a process holds that is gone or stops. */
export async function releaseImports(db: Database, worker: string): Promise<void> {
  await db.update(imports).set({ claimedBy: null, claimedUntil: null }).where(eq(imports.claimedBy, worker));
}

/** Files that dead processes of this machine were at are let go of, so that nobody waits for their claims to lapse. */
export async function releaseDeadImports(
  db: Database,
  isAlive: (worker: string) => boolean | undefined,
): Promise<void> {
  const held = await db
    .select({ worker: imports.claimedBy })
    .from(imports)
    .where(and(eq(imports.state, 'running'), gt(imports.claimedUntil, new Date())));
  for (const { worker } of held) if (worker !== null && isAlive(worker) === false) await releaseImports(db, worker);
}

/** The key under which a row of a file is accepted once, however often the file is read. */
export const rowKey = (importId: string, row: number): string => `file:${importId}:${row}`;

export interface ReportedRow {
  row: number;
  submission: string;
  state: string;
  label: string;
  words: string | null;
}

/** What became of an import's rows, in their order. */
export async function rowsOfImport(
  db: Database,
  { id, intakeId }: ImportRow,
  limit: number,
  after: number,
): Promise<ReportedRow[]> {
  const prefix = rowKey(id, 0).slice(0, -1);
  const found = await db
    .select({
      submission: submissions.id,
      state: submissions.state,
      label: submissions.label,
      words: submissions.words,
      row: sql<number>`cast(substring(${submissions.idempotencyKey}, ${prefix.length + 1}) as unsigned)`,
    })
    .from(submissions)
    .where(
      and(
        eq(submissions.intakeId, intakeId),
        sql`${submissions.idempotencyKey} like ${`${prefix}%`}`,
        sql`cast(substring(${submissions.idempotencyKey}, ${prefix.length + 1}) as unsigned) > ${after}`,
      ),
    )
    .orderBy(sql`5`)
    .limit(limit);
  return found.map((each) => ({ ...each, row: Number(each.row) }));
}
