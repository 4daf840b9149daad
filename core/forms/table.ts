import papaparse from 'papaparse';
import { quoted } from '../values/index.ts';
import { inferFields } from './infer.ts';
import type { FormField } from './model.ts';
import type { SubmittedValues } from './submission.ts';

/** A row of a file: its cells as texts, or why it can't be read; the rows around it can. */
export type TableRow = string[] | { bad: string };

/** A file of submissions as rows of texts: one heading row, then a submission a row. */
export interface Table {
  columns: string[];
  rows: TableRow[];
  /** What is odd about it, in words, each with its row counted as people do (the heading is row 1). */
  oddities: Oddity[];
}

export interface Oddity {
  row: number;
  what: string;
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
  let delimiter = hint?.[1] ?? '';
  let from = 0;
  const rows: TableRow[] = [];
  for (let astray = 0; from < whole.length; astray += 1) {
    if (astray > MOST_ASTRAY)
      return {
        ok: false,
        reason: `More than ${MOST_ASTRAY} rows have quotation marks that are opened and never closed.`,
      };
    const parsed = papaparse.parse<string[]>(from === 0 ? whole : whole.slice(from), {
      skipEmptyLines: 'greedy',
      delimiter,
      delimitersToGuess: [',', ';', '\t', '|'],
    });
    delimiter = parsed.meta.delimiter;
    const broken = parsed.errors.find(({ type }) => type === 'Quotes');
    if (!broken) {
      rows.push(...parsed.data);
      break;
    }
    // The line in which the mark was opened is left out, and the reading goes on behind it.
    const opened = from + Math.max(0, (broken.index ?? 1) - 1);
    const line = lineAt(whole, opened);
    const before = papaparse.parse<string[]>(whole.slice(from, line.start), { skipEmptyLines: 'greedy', delimiter });
    rows.push(...before.data, { bad: 'has quotation marks that make no sense' });
    from = line.end;
  }
  const table = tableOf(spoilt === undefined ? rows : rows.map((row) => withoutSpoilt(row, spoilt)));
  return table.ok ? { ...table, delimiter } : table;
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
  'bad' in row || !row.some((cell) => cell.includes(sign))
    ? row
    : { bad: `holds letters that can't be read: ${quoted(row.find((cell) => cell.includes(sign))!, 40)}` };

/** Makes a table of rows whose first one is the heading. */
export function tableOf(all: readonly (readonly string[] | { bad: string })[]): ReadTable {
  const [heading, ...rows] = all;
  if (heading && 'bad' in heading) return { ok: false, reason: `The heading row ${heading.bad}.` };
  if (!heading || heading.every((cell) => cell.trim() === ''))
    return { ok: false, reason: 'The file has no heading row.' };
  if (heading.length > MOST_COLUMNS) return { ok: false, reason: `The file has more than ${MOST_COLUMNS} columns.` };
  if (rows.length === 0) return { ok: false, reason: 'The file has a heading and no rows.' };
  const [first] = rows;
  if (first && 'bad' in first && rows.every((row) => 'bad' in row))
    return { ok: false, reason: `No row of the file can be read; row 2 ${first.bad}.` };
  const oddities: Oddity[] = [];
  let last = heading.length;
  while (
    last > 1 &&
    heading[last - 1]!.trim() === '' &&
    rows.every((row) => 'bad' in row || (row[last - 1] ?? '').trim() === '')
  )
    last -= 1;
  const columns = namesOf(heading.slice(0, last), oddities);
  rows.forEach((row, at) => {
    if ('bad' in row) return void oddities.push({ row: at + 2, what: row.bad });
    const cells = row.length > last && row.slice(last).every((cell) => cell.trim() === '') ? last : row.length;
    if (cells !== last) oddities.push({ row: at + 2, what: `has ${cells} cells, the heading has ${last}` });
  });
  return { ok: true, table: { columns, rows: rows.map((row) => ('bad' in row ? row : [...row])), oddities } };
}

/** Headings as names: unnamed ones are numbered, one that comes twice is told apart. */
function namesOf(heading: readonly string[], oddities: Oddity[]): string[] {
  const taken = new Set<string>();
  return heading.map((cell, at) => {
    const said = cell.replace(/\s+/gu, ' ').trim().slice(0, 500);
    let name = said === '' || said === '__proto__' ? `column ${at + 1}` : said;
    if (said === '') oddities.push({ row: 1, what: `column ${at + 1} has no heading` });
    for (let copy = 2; taken.has(name); copy += 1) name = `${said} (${copy})`;
    if (name !== said && said !== '' && said !== '__proto__')
      oddities.push({ row: 1, what: `the heading “${said}” comes twice` });
    taken.add(name);
    return name;
  });
}

/** Why a row can't be taken in; undefined when it can. */
export function troubleOf(columns: readonly string[], row: TableRow): string | undefined {
  if ('bad' in row) return row.bad;
  return submissionOf(columns, row) ? undefined : `has ${row.length} cells, the heading has ${columns.length}`;
}

/** A row as a submission; undefined when it is bad, or it can't be told which value belongs to which column. */
export function submissionOf(columns: readonly string[], row: TableRow): SubmittedValues | undefined {
  if ('bad' in row) return undefined;
  if (row.length > columns.length && row.slice(columns.length).some((cell) => cell.trim() !== '')) return undefined;
  return Object.fromEntries(columns.map((name, at) => [name, row[at] ?? '']));
}

/** The fields of a table, their kinds inferred from its first rows; the label is the heading. */
export function fieldsOfTable({ columns, rows }: Pick<Table, 'columns' | 'rows'>): FormField[] {
  const samples = rows
    .slice(0, 500)
    .map((row) => submissionOf(columns, row))
    .filter((each): each is SubmittedValues => each !== undefined);
  const fields = inferFields(samples.length === 0 ? [submissionOf(columns, [])!] : samples);
  // A file may have any gaps further down.
  return fields.map((field): FormField => ({ ...field, label: field.name, required: false }));
}
