import { parentPort, workerData } from 'node:worker_threads';
import { readFile } from './read-file.ts';

/** Reads one file in a thread of its own and hands its rows out in portions, as they are asked for. */
const port = parentPort!;
const read = await readFile((workerData as { bytes: Uint8Array }).bytes);
if (!read.ok) port.postMessage({ kind: 'unreadable', reason: read.reason });
else {
  const { table, fields, facts } = read;
  port.on('message', ({ from, count }: { from: number; count: number }) =>
    port.postMessage({ kind: 'rows', rows: table.rows.slice(from, from + count) }),
  );
  port.postMessage({
    kind: 'read',
    columns: table.columns,
    rows: table.rows.length,
    oddities: table.oddities.slice(0, 500),
    fields,
    facts,
  });
}
