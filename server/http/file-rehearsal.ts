import type { FileRehearsal, RehearsedRow } from '@zusammen/core/api';
import { titleOf } from '@zusammen/core/mapping';
import { readRow, rehearse } from '../engine/index.ts';
import { openFile, UnreadableFile } from '../files/index.ts';
import type { Wanted } from '../heavy/index.ts';
import { bytesOfFile, versionOf, type FileRow, type Intake } from '../store/index.ts';
import type { Context } from './context.ts';
import { Problem } from './problem.ts';

/** So many of a file's first rows are rehearsed; the rest is likely to come out as they do. */
const ROWS = 200;

/**
 * What taking a file in would do: its first rows, in their order, by the version that is live; nothing is written.
 * @throws Problem where the file can't be read
 */
export async function rehearseFile(
  context: Context,
  intake: Intake,
  file: FileRow,
  wanted: Wanted,
): Promise<FileRehearsal> {
  const { db, fileReader } = context;
  const version = intake.liveVersion === null ? undefined : await versionOf(db, intake.id, intake.liveVersion);
  const document = version?.document ?? intake.draft;
  const opened = await openFile(await bytesOfFile(db, file.id), fileReader).catch((error: unknown) => {
    throw error instanceof UnreadableFile ? new Problem(422, 'The file could not be read', error.message) : error;
  });
  const cells = await opened.take(0, ROWS).finally(() => opened.close());
  const rows = cells.map((each) => readRow(file.columns, each, document));
  const readable = rows.flatMap((row) => ('values' in row ? [row.values] : []));
  const rehearsed = (await rehearse(context, document, readable, wanted)).values();
  const results = rows.map((row): RehearsedRow => {
    if ('what' in row) return { row: row.row, label: '', what: row.what };
    return { row: row.row, label: titleOf(document.fields, row.values), ...rehearsed.next().value! };
  });
  return { rows: file.rows, ...(version ? { version: version.number } : {}), results };
}
