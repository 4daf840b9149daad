import { seenColumns, type Table } from '@zusammen/core/forms';
import type { ColumnValues } from './open-file.ts';
import { readFile, type ReadFile } from './read-file.ts';

/** Reads one file in a process of its own and hands its rows out in portions, as they are asked for (open-file.ts). */
type Asked =
  | { bytes: Uint8Array }
  | { from: number; count: number }
  | { kinds: true }
  | { column: string; most: number };

const tell = (message: object): void => void process.send!(message);
let read: ReadFile | undefined;

process.on('message', (asked: Asked) => {
  if ('bytes' in asked) void open(asked.bytes);
  else if (!read?.ok) return;
  else if ('column' in asked) tell({ kind: 'values', ...valuesOf(read.table, asked.column, asked.most) });
  else if ('kinds' in asked)
    tell({ kind: 'kinds', columns: seenColumns(read.table, (rows) => tell({ kind: 'progress', rows })) });
  else tell({ kind: 'rows', rows: read.table.rows.slice(asked.from, asked.from + asked.count) });
});
/** Different values of a column with how often each comes, the commonest first. */
function valuesOf({ columns, rows }: Table, column: string, most: number): ColumnValues {
  const at = columns.indexOf(column);
  const counts = new Map<string, number>();
  for (const row of rows) {
    const value = 'bad' in row ? '' : (row.cells[at] ?? '').trim();
    if (value !== '') counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  const values = [...counts].map(([value, count]) => ({ value, count })).sort((a, b) => b.count - a.count);
  return { values: values.slice(0, most), distinct: values.length };
}

// Whoever asked has gone.
process.on('disconnect', () => process.exit(0));

async function open(bytes: Uint8Array): Promise<void> {
  read = await readFile(bytes);
  if (!read.ok) return tell({ kind: 'unreadable', reason: read.reason });
  const { table, fields, facts } = read;
  tell({
    kind: 'read',
    columns: table.columns,
    rows: table.rows.length,
    heading: table.heading,
    oddities: table.oddities.slice(0, 500),
    fields,
    facts,
  });
}
