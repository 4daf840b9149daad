import type { Option } from '../schema/index.ts';

/** The longest option that a definition may have, in characters. */
const LONGEST = 200;
const MOST = 10_000;

/** Options as they were pasted, and what of it is no option of its own. */
export interface PastedOptions {
  options: Option[];
  /** Those that came again. */
  twice: string[];
  tooLong: number;
  /** There were more than a field may have. */
  more: number;
}

/**
 * Reads options out of pasted text: one on each line, or parted by semicolons, tabs or commas where there is one line only.
 * What a spreadsheet adds around a cell's text goes.
 */
export function optionsFrom(text: string): PastedOptions {
  const lines = text.split(/\r\n|\r|\n/).filter((line) => line.trim() !== '');
  const only = lines.length === 1 ? lines[0]! : undefined;
  const mark = only === undefined ? undefined : [';', '\t', ','].find((each) => only.includes(each));
  const cells = only !== undefined && mark !== undefined ? only.split(mark) : lines;
  const found: PastedOptions = { options: [], twice: [], tooLong: 0, more: 0 };
  const seen = new Set<string>();
  for (const cell of cells) {
    const label = bare(cell);
    if (label === '') continue;
    if (seen.has(label)) found.twice.push(label);
    else if (label.length > LONGEST) found.tooLong += 1;
    else if (found.options.length >= MOST) found.more += 1;
    else {
      seen.add(label);
      found.options.push({ value: label, label });
    }
  }
  return found;
}

/** A cell's text: quoted by spreadsheets where it holds a mark, with quotes doubled (RFC 4180). */
function bare(cell: string): string {
  const text = cell.trim().normalize('NFC').replace(/\s+/g, ' ');
  const quoted = text.length > 1 && text.startsWith('"') && text.endsWith('"');
  return (quoted ? text.slice(1, -1).replaceAll('""', '"') : text).trim();
}
