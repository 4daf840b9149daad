import papaparse from 'papaparse';
import { quoted } from '../values/index.ts';
import { ColumnReader, inferFields, type ColumnEvidence } from './infer/index.ts';
import { layOut, type Oddity, type TableRow } from './layout.ts';
import type { FormField } from './model.ts';
import type { SubmittedValues } from './submission.ts';

/** A file of submissions as rows of texts: one heading row, then a submission a row. */
export interface Table {
  columns: string[];
  rows: TableRow[];
  /** The line of the heading. */
  heading: number;
  /** What is odd about it, in words, each with its row counted as people do (the heading is row 1). */
  oddities: Oddity[];
}

export const MOST_COLUMNS = 500;

export type ReadTable = { ok: true; table: Table; delimiter?: string } | { ok: false; reason: string };

/** So many lines with quotation marks gone astray may a file have; every one takes another reading of what follows. */
const MOST_ASTRAY = 20;

/**
 * Reads CSV (RFC 4180): delimiter and line ends are found out, quotes may hold line breaks. Rows with fewer or more
 * cells than the heading are kept and named; a line whose quotation marks make no sense is one bad row.
 * @param spoilt the sign that stands for bytes that could not be decoded: rows that hold it are bad
 */
export function readCsv(text: string, spoilt?: string): ReadTable {
  const bare = text.replace(/^\uFEFF/, '');
  // A first line "sep=;" is a hint to spreadsheets, not data.
  const hint = /^sep=(.)\r?\n/i.exec(bare);
  const whole = hint ? bare.slice(hint[0].length) : bare;
  const delimiter = hint?.[1] ?? delimiterOf(whole);
  let from = 0;
  let line = 0;
  const rows: TableRow[] = [];
  const add = (cells: readonly string[][]): void => {
    for (const each of cells) {
      line += 1;
      if (each.some((cell) => cell.trim() !== '')) rows.push({ line, cells: each });
    }
  };
  for (let astray = 0; from < whole.length; astray += 1) {
    if (astray > MOST_ASTRAY)
      return {
        ok: false,
        reason: `More than ${MOST_ASTRAY} rows have quotation marks that are opened and never closed.`,
      };
    const parsed = papaparse.parse<string[]>(from === 0 ? whole : whole.slice(from), { delimiter });
    const broken = parsed.errors.find(({ type }) => type === 'Quotes');
    if (!broken) {
      add(parsed.data);
      break;
    }
    // The line in which the mark was opened is left out, and the reading goes on behind it.
    const opened = from + Math.max(0, (broken.index ?? 1) - 1);
    const spoiltLine = lineAt(whole, opened);
    const before = whole.slice(from, spoiltLine.start);
    // What ends with a line break would be read with a blank row behind it.
    if (before !== '') add(papaparse.parse<string[]>(before.replace(/\r?\n$|\r$/, ''), { delimiter }).data);
    line += 1;
    rows.push({ line, bad: 'has quotation marks that make no sense' });
    from = spoiltLine.end;
  }
  const table = tableOf(spoilt === undefined ? rows : rows.map((row) => withoutSpoilt(row, spoilt)));
  return table.ok ? { ...table, delimiter } : table;
}

const DELIMITERS = [',', ';', '\t', '|'];
/** The beginning of a text by which its delimiter is told, in characters and rows. */
const GLANCE = { characters: 100_000, rows: 60 };

/** What parts the cells: the sign by which most rows come to the same, and to the most, cells. */
function delimiterOf(text: string): string {
  const beginning = text.slice(0, GLANCE.characters);
  const scores = DELIMITERS.map((delimiter) => {
    const { data } = papaparse.parse<string[]>(beginning, {
      delimiter,
      preview: GLANCE.rows,
      skipEmptyLines: 'greedy',
    });
    const counts = new Map<number, number>();
    for (const row of data) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
    const [cells = 1, rows = 0] = [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [];
    return { delimiter, score: cells < 2 ? 0 : (rows / data.length) * cells };
  });
  return scores.reduce((best, each) => (each.score > best.score ? each : best)).delimiter;
}

/** The line that holds a position: where it starts, and where the next one does. */
function lineAt(text: string, at: number): { start: number; end: number } {
  const before = Math.max(text.lastIndexOf('\n', at - 1), text.lastIndexOf('\r', at - 1));
  const breaks = /\r\n|\n|\r/g;
  breaks.lastIndex = at;
  const next = breaks.exec(text);
  return { start: before + 1, end: next ? next.index + next[0].length : text.length };
}

const withoutSpoilt = (row: TableRow, sign: string): TableRow =>
  'bad' in row || !row.cells.some((cell) => cell.includes(sign))
    ? row
    : {
        line: row.line,
        bad: `holds letters that can't be read: ${quoted(row.cells.find((cell) => cell.includes(sign))!, 40)}`,
      };

/** Makes a table of rows, among which its heading is looked for. @param all those that aren't blank, in order */
export function tableOf(all: readonly TableRow[]): ReadTable {
  const { heading: place, end, names, left } = layOut(all);
  const heading = all[place];
  const rows = all.slice(place + 1, end);
  if (heading && 'bad' in heading) return { ok: false, reason: `The heading row ${heading.bad}.` };
  if (!heading || heading.cells.every((cell) => cell.trim() === ''))
    return { ok: false, reason: 'The file has no heading row.' };
  if (heading.cells.length > MOST_COLUMNS)
    return { ok: false, reason: `The file has more than ${MOST_COLUMNS} columns.` };
  if (rows.length === 0) return { ok: false, reason: 'The file has a heading and no rows.' };
  const [first] = rows;
  if (first && 'bad' in first && rows.every((row) => 'bad' in row))
    return { ok: false, reason: `No row of the file can be read; row ${first.line} ${first.bad}.` };
  const oddities: Oddity[] = [...left];
  let last = names.length;
  while (
    last > 1 &&
    names[last - 1] === '' &&
    rows.every((row) => 'bad' in row || (row.cells[last - 1] ?? '').trim() === '')
  )
    last -= 1;
  const columns = namesOf(names.slice(0, last), heading.line, oddities);
  for (const row of rows) {
    if ('bad' in row) {
      oddities.push({ row: row.line, what: row.bad });
      continue;
    }
    const { cells } = row;
    const count = cells.length > last && cells.slice(last).every((cell) => cell.trim() === '') ? last : cells.length;
    if (count !== last) oddities.push({ row: row.line, what: `has ${count} cells, the heading has ${last}` });
  }
  return { ok: true, table: { columns, rows, heading: heading.line, oddities } };
}

/** Headings as names: unnamed ones are numbered, one that comes twice is told apart. */
function namesOf(heading: readonly string[], line: number, oddities: Oddity[]): string[] {
  const taken = new Set<string>();
  return heading.map((cell, at) => {
    const said = cell.slice(0, 500);
    let name = said === '' || said === '__proto__' ? `column ${at + 1}` : said;
    if (said === '') oddities.push({ row: line, what: `column ${at + 1} has no heading` });
    for (let copy = 2; taken.has(name); copy += 1) name = `${said} (${copy})`;
    if (name !== said && said !== '' && said !== '__proto__')
      oddities.push({ row: line, what: `the heading “${said}” comes twice` });
    taken.add(name);
    return name;
  });
}

/** Why a row can't be taken in; undefined when it can. */
export function troubleOf(columns: readonly string[], row: TableRow): string | undefined {
  if ('bad' in row) return row.bad;
  return submissionOf(columns, row) ? undefined : `has ${row.cells.length} cells, the heading has ${columns.length}`;
}

/** A row as a submission; undefined when it is bad, or it can't be told which value belongs to which column. */
export function submissionOf(columns: readonly string[], row: TableRow): SubmittedValues | undefined {
  if ('bad' in row) return undefined;
  const { cells } = row;
  if (cells.length > columns.length && cells.slice(columns.length).some((cell) => cell.trim() !== '')) return undefined;
  return Object.fromEntries(columns.map((name, at) => [name, cells[at] ?? '']));
}

/** The fields of a table, their kinds inferred from its first rows; the label is the heading. */
export function fieldsOfTable({ columns, rows }: Pick<Table, 'columns' | 'rows'>): FormField[] {
  const samples = rows
    .slice(0, 500)
    .map((row) => submissionOf(columns, row))
    .filter((each): each is SubmittedValues => each !== undefined);
  const fields = inferFields(samples.length === 0 ? [submissionOf(columns, { line: 0, cells: [] })!] : samples);
  // A file may have any gaps further down.
  return fields.map((field): FormField => ({ ...field, label: field.name, required: false }));
}

/** A column of a table with what its rows say of it; rows are named by their lines. */
export interface SeenColumn {
  column: string;
  evidence: ColumnEvidence;
}

/** So many rows are looked through between two words of how far it has come. */
const BETWEEN_WORDS = 20_000;

/**
 * Looks through all rows of a table, row by row, and tells what each column's values are.
 * @param told hears how many rows have been looked through
 */
export function seenColumns(
  { columns, rows }: Pick<Table, 'columns' | 'rows'>,
  told: (rows: number) => void = () => undefined,
): SeenColumn[] {
  const readers = columns.map(() => new ColumnReader());
  const lines: number[] = [];
  for (const row of rows) {
    if ('bad' in row) continue;
    lines.push(row.line);
    for (let at = 0; at < readers.length; at += 1) readers[at]!.add(row.cells[at] ?? '');
    if (lines.length % BETWEEN_WORDS === 0) told(lines.length);
  }
  return columns.map((column, at) => ({ column, evidence: byLines(readers[at]!.evidence(), lines) }));
}

function byLines(evidence: ColumnEvidence, lines: readonly number[]): ColumnEvidence {
  const line = (row: number): number => lines[row] ?? row;
  const { misfitting, twice, longest } = evidence;
  return {
    ...evidence,
    misfitting: misfitting.map((each) => ({ ...each, row: line(each.row) })),
    longest: { ...longest, row: line(longest.row) },
    ...(twice ? { twice: { ...twice, rows: [line(twice.rows[0]), line(twice.rows[1])] } } : {}),
  };
}
