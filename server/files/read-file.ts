import { fieldsOfTable, readCsv, type FormField, type ReadTable, type Table } from '@zusammen/core/forms';
import { decode } from './decode.ts';
import { readXlsx } from './xlsx.ts';

export interface FileFacts {
  format: 'csv' | 'xlsx';
  /** What was found out: delimiter and encoding of a CSV file, the sheet of a workbook. */
  delimiter?: string;
  encoding?: string;
  sheet?: string;
}

export type ReadFile =
  | { ok: true; table: Table; fields: FormField[]; facts: FileFacts }
  | { ok: false; reason: string };

/** Reads a file of submissions by what it is, not by its name. @throws nothing; what can't be read is a reason */
export async function readFile(bytes: Uint8Array): Promise<ReadFile> {
  if (bytes.length === 0) return { ok: false, reason: 'The file is empty.' };
  const packed = bytes[0] === 0x50 && bytes[1] === 0x4b;
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    return { ok: false, reason: 'This is a workbook in an old format; save it as .xlsx or .csv.' };
  if (packed) {
    const read = await readXlsx(bytes);
    return finished(read, { format: 'xlsx', ...(read.ok && read.sheet !== undefined ? { sheet: read.sheet } : {}) });
  }
  const { text, encoding, guessed, spoilt } = decode(bytes);
  if (/[\u0000-\u0008\u000e-\u001f]/.test(text.slice(0, 20_000)))
    return { ok: false, reason: 'The file is neither CSV nor a workbook.' };
  const read = readCsv(text, spoilt);
  if (!read.ok) return read;
  if (guessed)
    read.table.oddities.unshift({ row: 1, what: `the letters are taken as ${encoding}; look whether they are right` });
  return finished(read, {
    format: 'csv',
    encoding,
    ...(read.delimiter === undefined ? {} : { delimiter: read.delimiter }),
  });
}

function finished(read: ReadTable, facts: FileFacts): ReadFile {
  return read.ok ? { ok: true, table: read.table, fields: fieldsOfTable(read.table), facts } : read;
}
