import { fold } from '../values/index.ts';
import { kindBit, kindsOf, SHAPED, type ShapedKind } from './infer/shapes.ts';

/** A row as it stands in a file: its line, counted as people do, and its cells as texts, or why it can't be read. */
export type TableRow = { line: number } & ({ cells: string[] } | { bad: string });

/** What is told of one line of a file. */
export interface Oddity {
  row: number;
  what: string;
}

/** Where in a sheet its table stands: the place of the heading, of the first row behind the last, and what is left out. */
export interface Layout {
  heading: number;
  end: number;
  /** The heading's cells, told apart by what stands above them where two are called alike. */
  names: string[];
  left: Oddity[];
}

/** A heading stands within the first so many rows; what stands above it are titles. */
const LOOKED_FOR_HEADING = 15;
/** So many rows tell how wide a table is, and what its columns hold. */
const LOOKED_AT = 200;
/** A row with fewer of its columns filled is a title, or a heading over several columns. */
const SPARSE = 0.6;
const LONGEST_NAME = 200;
/** Behind so many blank lines another table is looked for; a table with one after every row is one all the same. */
const MOST_GAPS = 2_000;
/** Rows at the end that may be totals and notes. */
const LOOKED_FOR_END = 5;

const filled = (row: TableRow): number[] =>
  'bad' in row ? [] : row.cells.flatMap((cell, at) => (cell.trim() === '' ? [] : [at]));

/**
 * Finds the table of a sheet: titles above it, headings in two rows, totals and notes below it, and a second table are
 * told from its rows. @param rows those that aren't blank, in order
 */
export function layOut(rows: readonly TableRow[]): Layout {
  const heading = headingIn(rows);
  const left: Oddity[] = rows
    .slice(0, heading)
    .map(({ line }) => ({ row: line, what: 'stands above the heading and is left out' }));
  const columns = shapesIn(rows.slice(heading + 1, heading + 1 + LOOKED_AT));
  const second = secondTable(rows, heading, columns);
  let end = second ?? rows.length;
  if (second !== undefined)
    left.push({ row: rows[second]!.line, what: `begins another table; its ${rows.length - second} rows are left out` });
  for (let looked = 0; looked < LOOKED_FOR_END && end - 1 > heading + 1; looked += 1) {
    const why = whyNoRow(rows, heading, end - 1);
    if (why === undefined) break;
    end -= 1;
    left.push({ row: rows[end]!.line, what: why });
  }
  return { heading, end, names: namesIn(rows, heading), left: left.sort((a, b) => a.row - b.row) };
}

/** How many columns most rows fill. */
function widthOf(rows: readonly TableRow[]): number {
  const widths = rows
    .slice(0, LOOKED_AT)
    .filter((row) => !('bad' in row))
    .map((row) => filled(row).length)
    .sort((a, b) => a - b);
  return widths[Math.floor(widths.length * 0.75)] ?? 0;
}

function headingIn(rows: readonly TableRow[]): number {
  const width = widthOf(rows);
  const isSparse = (row: TableRow): boolean => filled(row).length < width * SPARSE;
  if (!rows[0] || !isSparse(rows[0])) return 0;
  const found = rows
    .slice(0, Math.min(LOOKED_FOR_HEADING, rows.length - 1))
    .findIndex((row) => !isSparse(row) && isHeadingLike(row));
  return Math.max(0, found);
}

/** Whether all that a row says are names: texts, none of them twice. */
function isHeadingLike(row: TableRow): boolean {
  if ('bad' in row) return false;
  const said = row.cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  return said.length > 0 && said.every((cell) => cell.length <= LONGEST_NAME && shapeOf(cell) === undefined);
}

const shapeOf = (text: string): ShapedKind | undefined => {
  const kinds = kindsOf(text.trim());
  return SHAPED.find((kind) => (kinds & kindBit(kind)) !== 0);
};

/** Of each column, what nearly all of its values are by their letters; undefined: texts. */
function shapesIn(rows: readonly TableRow[]): (ShapedKind | undefined)[] {
  const counts: Map<ShapedKind | undefined, number>[] = [];
  for (const row of rows) {
    if ('bad' in row) continue;
    for (const at of filled(row)) {
      const shape = shapeOf(row.cells[at]!);
      const column = (counts[at] ??= new Map());
      column.set(shape, (column.get(shape) ?? 0) + 1);
    }
  }
  return Array.from(counts, (column) => {
    const all = [...(column?.values() ?? [])].reduce((sum, count) => sum + count, 0);
    return [...(column ?? [])].find(([, count]) => count > all * 0.8)?.[0];
  });
}

/** Where, behind a blank line, names stand in place of what the columns hold. */
function secondTable(
  rows: readonly TableRow[],
  heading: number,
  columns: readonly (ShapedKind | undefined)[],
): number | undefined {
  let gaps = 0;
  for (let at = heading + 2; at < rows.length - 1 && gaps < MOST_GAPS; at += 1) {
    const row = rows[at]!;
    if (row.line - rows[at - 1]!.line < 2) continue;
    gaps += 1;
    if (filled(row).length < 2 || !isHeadingLike(row)) continue;
    if (filled(row).some((column) => columns[column] !== undefined)) return at;
  }
  return undefined;
}

const TOTALS = /^(?:grand )?(?:totals?|sum|summe|gesamt(?:summe)?|insgesamt|suma|razem|lacznie)$/;
const isNumeric = (text: string): boolean => /^[\d.,\s+-]+$/.test(text);

/** Why a row at the end is none of the table's. */
function whyNoRow(rows: readonly TableRow[], heading: number, at: number): string | undefined {
  const row = rows[at]!;
  if ('bad' in row) return undefined;
  const said = filled(row);
  const first = said[0];
  if (first === undefined) return undefined;
  const width = widthOf(rows.slice(heading + 1, at));
  const others = said.slice(1);
  if (
    others.length > 0 &&
    TOTALS.test(fold(row.cells[first]!)) &&
    others.every((column) => isNumeric(row.cells[column]!))
  )
    return 'looks like a total and is left out';
  const apart = row.line - rows[at - 1]!.line > 1;
  if (said.length === 1 && width >= 3 && (apart || row.cells[first]!.trim().length > 60))
    return 'looks like a note below the table and is left out';
  if (said.length < width * SPARSE && sumsUp(rows.slice(heading + 1, at), row, said))
    return 'holds the sum of its column and is left out';
  return undefined;
}

/** Whether the numbers of a row are the sums of what stands above them. */
function sumsUp(above: readonly TableRow[], row: TableRow & { cells: string[] }, said: readonly number[]): boolean {
  const numbers = said.filter((at) => isNumeric(row.cells[at]!));
  return (
    numbers.length > 0 &&
    numbers.every((at) => {
      const sum = above.reduce((total, each) => total + ('bad' in each ? 0 : plainNumber(each.cells[at])), 0);
      return sum > 0 && above.length > 2 && Math.abs(sum - plainNumber(row.cells[at])) < 0.005;
    })
  );
}

const plainNumber = (text = ''): number => {
  const value = Number(text.replace(/\s/g, '').replace(',', '.'));
  return Number.isFinite(value) ? value : 0;
};

/** Headings; two that are called alike carry what stands over them, as headings in two rows have it. */
function namesIn(rows: readonly TableRow[], heading: number): string[] {
  const row = rows[heading];
  if (!row || 'bad' in row) return [];
  const names = row.cells.map((cell) => cell.replace(/\s+/gu, ' ').trim());
  const above = rows[heading - 1];
  if (!above || 'bad' in above || filled(above).length < 2) return names;
  const counts = new Map<string, number>();
  for (const name of names) counts.set(name, (counts.get(name) ?? 0) + 1);
  let over = '';
  return names.map((name, at) => {
    over = above.cells[at]?.replace(/\s+/gu, ' ').trim() || over;
    return name !== '' && counts.get(name)! > 1 && over !== '' ? `${over} ${name}` : name;
  });
}
