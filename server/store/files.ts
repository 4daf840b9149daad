import type { ImportTotals, SubmissionState } from '@zusammen/core/api';
import { and, desc, eq, getTableColumns, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Database } from './database.ts';
import { atomically } from './transaction.ts';
import { addJob, progressColumns, type JobProgress } from './jobs.ts';
import { fileParts, files, imports, jobs, submissions } from './schema.ts';

export type FileRow = typeof files.$inferSelect;
/** A file on its way, with its job's progress; `rows` are data rows in all. */
export type ImportRow = typeof imports.$inferSelect & Omit<JobProgress, 'total'> & { rows: number };

const { total, ...progress } = progressColumns;
const withProgress = { ...getTableColumns(imports), ...progress, rows: total };

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

export function addImport(db: Database, intakeId: string, file: FileRow, by: string): Promise<ImportRow> {
  return atomically(db, async (tx) => {
    const id = uuid();
    const { state, done, words, startedAt, startedBy, endedAt } = await addJob(tx, {
      ...{ id, kind: 'import', subject: id, by },
      total: file.rows,
    });
    const row = { id, intakeId, fileId: file.id, accepted: 0, again: 0, problems: [] };
    await tx.insert(imports).values(row);
    return { ...row, state, done, words, startedAt, startedBy, endedAt, rows: file.rows };
  });
}

export interface ImportLine extends ImportRow {
  fileName: string;
}

export async function importsOf(db: Database, intakeId: string): Promise<ImportLine[]> {
  return db
    .select({ ...withProgress, fileName: files.name })
    .from(imports)
    .innerJoin(jobs, eq(jobs.id, imports.id))
    .innerJoin(files, eq(files.id, imports.fileId))
    .where(eq(imports.intakeId, intakeId))
    .orderBy(desc(jobs.startedAt))
    .limit(50);
}

export async function importById(db: Database, id: string): Promise<ImportRow | undefined> {
  const found = await db
    .select(withProgress)
    .from(imports)
    .innerJoin(jobs, eq(jobs.id, imports.id))
    .where(eq(imports.id, id));
  return found[0];
}

/** The key under which a row of a file is accepted once, however often the file is read. */
export const rowKey = (importId: string, row: number): string => `file:${importId}:${row}`;

export interface ReportedRow {
  row: number;
  submission: string;
  state: SubmissionState;
  label: string;
  words: string | null;
}

/** What became of an import's rows, in their order. */
export async function rowsOfImport(
  db: Database,
  { id, intakeId }: ImportRow,
  { limit, after, state }: { limit: number; after: number; state?: SubmissionState | undefined },
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
        ...(state === undefined ? [] : [eq(submissions.state, state)]),
      ),
    )
    .orderBy(sql`5`)
    .limit(limit);
  return found.map((each) => ({ ...each, row: Number(each.row) }));
}

/** How many of an import's rows came to which state. */
export async function totalsOfImport(db: Database, { id, intakeId }: ImportRow): Promise<ImportTotals> {
  const prefix = rowKey(id, 0).slice(0, -1);
  const found = await db
    .select({ state: submissions.state, many: sql<number>`count(*)` })
    .from(submissions)
    .where(and(eq(submissions.intakeId, intakeId), sql`${submissions.idempotencyKey} like ${`${prefix}%`}`))
    .groupBy(submissions.state);
  return Object.fromEntries(found.map(({ state, many }) => [state, Number(many)]));
}
