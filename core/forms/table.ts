import papaparse from 'papaparse';
import { inferFields } from './infer.ts';
import type { FormField } from './model.ts';
import type { SubmittedValues } from './submission.ts';

/** A file of submissions as rows of texts: one heading row, then a submission a row. */
export interface Table {
  columns: string[];
  rows: string[][];
  /** What is odd about it, in words, each with its row counted as people do (the heading is row 1). */
  oddities: Oddity[];
}

export interface Oddity {
  row: number;
  what: string;
}

export const MOST_COLUMNS = 500;

export type ReadTable = { ok: true; table: Table; delimiter?: string } | { ok: false; reason: string };

/**
 * Reads CSV (RFC 4180): delimiter and line ends are found out, quotes may hold line breaks. Rows with fewer or more
 * cells than the heading are kept and named.
 */
export function readCsv(text: string): ReadTable {
  const bare = text.replace(/^\uFEFF/, '');
  // A first line "sep=;" is a hint to spreadsheets, not data.
  const hint = /^sep=(.)\r?\n/i.exec(bare);
  const parsed = papaparse.parse<string[]>(hint ? bare.slice(hint[0].length) : bare, {
    skipEmptyLines: 'greedy',
    delimiter: hint?.[1] ?? '',
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  const broken = parsed.errors.find(({ type }) => type === 'Quotes');
  if (broken)
    return { ok: false, reason: `In row ${(broken.row ?? 0) + 1} a quotation mark is opened and never closed.` };
  const table = tableOf(parsed.data);
  return table.ok ? { ...table, delimiter: parsed.meta.delimiter } : table;
}

/** Makes a table of rows whose first one is the heading. */
export function tableOf(all: readonly (readonly string[])[]): ReadTable {
  const [heading, ...rows] = all;
  if (!heading || heading.every((cell) => cell.trim() === ''))
    return { ok: false, reason: 'The file has no heading row.' };
  if (heading.length > MOST_COLUMNS) return { ok: false, reason: `The file has more than ${MOST_COLUMNS} columns.` };
  if (rows.length === 0) return { ok: false, reason: 'The file has a heading and no rows.' };
  const oddities: Oddity[] = [];
  let last = heading.length;
  while (last > 1 && heading[last - 1]!.trim() === '' && rows.every((row) => (row[last - 1] ?? '').trim() === ''))
    last -= 1;
  const columns = namesOf(heading.slice(0, last), oddities);
  rows.forEach((row, at) => {
    const cells = row.length > last && row.slice(last).every((cell) => cell.trim() === '') ? last : row.length;
    if (cells !== last) oddities.push({ row: at + 2, what: `has ${cells} cells, the heading has ${last}` });
  });
  return { ok: true, table: { columns, rows: rows.map((row) => [...row]), oddities } };
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

/** A row as a submission; undefined when it can't be told which value belongs to which column. */
export function submissionOf(columns: readonly string[], row: readonly string[]): SubmittedValues | undefined {
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
