import type { CellValue } from 'exceljs';
import { MOST_COLUMNS, tableOf, type Oddity, type ReadTable } from '@zusammen/core/forms';
import { unpackWorkbook } from './unpack.ts';

/** Rows a file may bring; what a spreadsheet program writes reaches five times as far. */
const MOST_ROWS = 200_000;

/** Parts of a sheet that say nothing about its values, and may span millions of cells each. */
const UNREAD = [
  'dataValidations',
  'conditionalFormatting',
  'extLst',
  'hyperlinks',
  'mergeCells',
  'cols',
  'tableParts',
  'drawing',
  'legacyDrawing',
  'picture',
  'rowBreaks',
  'colBreaks',
];

/**
 * Reads the first sheet of a workbook (Office Open XML, ECMA-376) that holds anything. Dates come as ISO 8601,
 * formulas as the result that was stored with them, and both are said.
 */
export async function readXlsx(bytes: Uint8Array): Promise<ReadTable & { sheet?: string }> {
  const unpacked = await unpackWorkbook(bytes);
  if (!unpacked.ok) return unpacked;
  // Loaded when it is needed: it is large, and most files are CSV.
  const { default: exceljs } = await import('exceljs');
  const workbook = new exceljs.Workbook();
  try {
    await workbook.xlsx.load(unpacked.archive.buffer as ArrayBuffer, { ignoreNodes: UNREAD });
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
