import { layOut, MOST_COLUMNS, tableOf, type Oddity, type ReadTable, type TableRow } from '@zusammen/core/forms';
import { readCell } from './cell.ts';
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

/** Oddities that are told of one file; a column of formulas has as many as rows. */
const MOST_ODDITIES = 1_000;

/**
 * Reads the first sheet of a workbook (Office Open XML, ECMA-376) that holds anything, cell by cell as a person sees
 * them. Dates and formulas are said; a row with an error in it is a bad row.
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
  const rows: TableRow[] = [];
  const oddities: Oddity[] = [];
  const dated = new Set<number>();
  sheet.eachRow({ includeEmpty: false }, (row) => {
    const cells: string[] = [];
    let bad: string | undefined;
    for (let column = 1; column <= Math.min(row.cellCount, MOST_COLUMNS + 1); column += 1) {
      const { value, numFmt } = row.getCell(column);
      const cell = readCell(value, numFmt);
      const { odd } = cell;
      if (odd !== undefined && oddities.length < MOST_ODDITIES)
        oddities.push({ row: row.number, what: `column ${column} ${odd}` });
      if (cell.dated && rows.length > 0 && !dated.has(column)) {
        dated.add(column);
        oddities.push({ row: row.number, what: `column ${column} holds dates or times; here ${cell.text}` });
      }
      if (cell.bad !== undefined) bad ??= `column ${column} ${cell.bad}`;
      cells.push(cell.text);
    }
    if (bad !== undefined) rows.push({ line: row.number, bad });
    else if (cells.some((cell) => cell.trim() !== '')) rows.push({ line: row.number, cells });
  });
  // A sheet's rows end where their last filled cell does; that is no raggedness.
  const width = layOut(rows).names.length;
  const read = tableOf(
    rows.map((row) =>
      'bad' in row || row.cells.length >= width
        ? row
        : { ...row, cells: [...row.cells, ...new Array<string>(width - row.cells.length).fill('')] },
    ),
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
