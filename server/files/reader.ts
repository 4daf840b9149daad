import { readFile, type ReadFile } from './read-file.ts';

/** Reads one file in a process of its own and hands its rows out in portions, as they are asked for (open-file.ts). */
type Asked = { bytes: Uint8Array } | { from: number; count: number };

const tell = (message: object): void => void process.send!(message);
let read: ReadFile | undefined;

process.on('message', (asked: Asked) => {
  if ('bytes' in asked) void open(asked.bytes);
  else if (read?.ok) tell({ kind: 'rows', rows: read.table.rows.slice(asked.from, asked.from + asked.count) });
});
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
    oddities: table.oddities.slice(0, 500),
    fields,
    facts,
  });
}
