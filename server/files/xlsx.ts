import type { CellValue } from 'exceljs';
import { Unzip, UnzipInflate } from 'fflate';
import { MOST_COLUMNS, tableOf, type Oddity, type ReadTable } from '@zusammen/core/forms';

/** Beyond these a workbook isn't opened: what is small when packed may fill any memory. */
const MOST_UNPACKED = 100 * 1024 * 1024;
const MOST_ENTRIES = 2000;
const MOST_ROWS = 200_000;

/**
 * Reads the first sheet of a workbook (Office Open XML, ECMA-376) that holds anything. Dates come as ISO 8601,
 * formulas as the result that was stored with them, and both are said.
 */
export async function readXlsx(bytes: Uint8Array): Promise<ReadTable & { sheet?: string }> {
  const unpacked = unpackedSize(bytes);
  if (typeof unpacked === 'string') return { ok: false, reason: unpacked };
  // Loaded when it is needed: it is large, and most files are CSV.
  const { default: exceljs } = await import('exceljs');
  const workbook = new exceljs.Workbook();
  try {
    await workbook.xlsx.load(bytes.slice().buffer as ArrayBuffer);
  } catch {
    return {
      ok: false,
      reason: 'The file is no workbook that can be opened; it may be damaged or locked by a password.',
    };
  }
  const sheet = workbook.worksheets.find(({ actualRowCount }) => actualRowCount > 0);
  if (!sheet) return { ok: false, reason: 'The workbook holds no filled-in sheet.' };
  if (sheet.actualRowCount > MOST_ROWS) return { ok: false, reason: `The sheet has more than ${MOST_ROWS} rows.` };
  const rows: string[][] = [];
  const oddities: Oddity[] = [];
  sheet.eachRow({ includeEmpty: false }, (row) => {
    const cells: string[] = [];
    for (let column = 1; column <= Math.min(row.cellCount, MOST_COLUMNS + 1); column += 1) {
      const { text, odd } = cellText(row.getCell(column).value);
      if (odd !== undefined) oddities.push({ row: rows.length + 1, what: `column ${column} ${odd}` });
      cells.push(text);
    }
    if (cells.some((cell) => cell.trim() !== '')) rows.push(cells);
  });
  // A sheet's rows end where their last filled cell does; that is no raggedness.
  const width = rows[0]?.length ?? 0;
  const read = tableOf(
    rows.map((row) => (row.length < width ? [...row, ...new Array<string>(width - row.length).fill('')] : row)),
  );
  if (!read.ok) return read;
  const others = workbook.worksheets.filter((each) => each !== sheet && each.actualRowCount > 0);
  if (others.length > 0)
    oddities.push({
      row: 1,
      what: `only the sheet “${sheet.name}” is read, not ${others.map(({ name }) => `“${name}”`).join(', ')}`,
    });
  return { ...read, table: { ...read.table, oddities: [...oddities, ...read.table.oddities] }, sheet: sheet.name };
}

/** A cell's value as a submission would send it, and what is odd about it. */
function cellText(value: CellValue): { text: string; odd?: string } {
  if (value === null || value === undefined) return { text: '' };
  if (value instanceof Date) {
    const iso = value.toISOString();
    return { text: iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso };
  }
  if (typeof value !== 'object') return { text: String(value) };
  if ('error' in value) return { text: '', odd: `holds the error ${value.error}` };
  if ('richText' in value) return { text: value.richText.map(({ text }) => text).join('') };
  if ('hyperlink' in value)
    return { text: typeof value.text === 'string' ? value.text : cellText(value.text as CellValue).text };
  if ('formula' in value || 'sharedFormula' in value) {
    const result = cellText(value.result as CellValue);
    return { text: result.text, odd: 'holds a formula; its stored result is taken' };
  }
  return { text: '' };
}

/** Bytes a workbook unpacks to, counted by unpacking it in pieces; or why it isn't opened. */
function unpackedSize(bytes: Uint8Array): number | string {
  let size = 0;
  let entries = 0;
  let problem: string | undefined;
  const unzip = new Unzip((file) => {
    entries += 1;
    if (entries > MOST_ENTRIES) problem = 'The workbook has too many parts to be one.';
    file.ondata = (error, chunk) => {
      if (error) problem ??= 'The workbook is damaged.';
      size += chunk?.length ?? 0;
      if (size > MOST_UNPACKED) {
        problem ??= `The workbook unpacks to more than ${MOST_UNPACKED / 1024 / 1024} MB and isn't opened.`;
        file.terminate();
      }
    };
    if (problem === undefined) file.start();
  });
  unzip.register(UnzipInflate);
  try {
    const step = 64 * 1024;
    for (let at = 0; at < bytes.length && problem === undefined; at += step)
      unzip.push(bytes.subarray(at, at + step), at + step >= bytes.length);
  } catch {
    problem ??= 'The workbook is damaged.';
  }
  if (problem === undefined && entries === 0) problem = 'The file is no workbook.';
  return problem ?? size;
}
