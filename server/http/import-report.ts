import type { Response } from 'express';
import { rowsOfImport, type Database, type ImportRow, type ReportedRow } from '../store/index.ts';
import { csv } from './csv.ts';
import { write } from './ledger-export.ts';

const PAGE = 1000;

/**
 * Sends what became of every row of a file as CSV, in the order of the rows; those that were not taken in stand among
 * them. A report that breaks off is cut short on the wire, so that it isn't taken for whole.
 */
export async function sendImportReport(response: Response, db: Database, job: ImportRow): Promise<void> {
  response.setHeader('Content-Type', 'text/csv; charset=utf-8; header=present');
  response.setHeader('Content-Disposition', 'attachment; filename="rows.csv"');
  const bad = [...job.problems].sort((a, b) => a.row - b.row);
  try {
    response.write(csv([['row', 'state', 'who', 'what', 'submission']]));
    for (let after = 0; !response.closed; ) {
      const page = await rowsOfImport(db, job, { limit: PAGE, after });
      const last = page.length < PAGE ? Infinity : page.at(-1)!.row;
      const among = bad.filter(({ row }) => row > after && row <= last).map(notTakenIn);
      const lines = [...page.map(lineOf), ...among].sort((a, b) => Number(a[0]) - Number(b[0]));
      if (lines.length > 0) await write(response, csv(lines));
      if (last === Infinity) break;
      after = last;
    }
    response.end();
  } catch (error) {
    response.destroy();
    throw error;
  }
}

const lineOf = ({ row, state, label, words, submission }: ReportedRow): string[] => [
  ...[String(row), state, label, words ?? '', submission],
];
const notTakenIn = ({ row, what }: ImportRow['problems'][number]): string[] => [
  ...[String(row), 'not taken in', '', what, ''],
];
