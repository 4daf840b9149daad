import { seenColumns } from '../core/forms/index.ts';
import type { Result } from '../scripts/bench.ts';
import { readFile } from '../server/files/read-file.ts';
import { seededRandom } from '../standins/random.ts';

const ROWS = 200_000;
const COLUMNS = 40;
const ROUNDS = 2;

/** Kinds of all columns of a large file, against reading that file; both in one process, as where files are read. */
export async function bench(): Promise<Result[]> {
  const bytes = Buffer.from(text());
  const times: { reading: number[]; kinds: number[] } = { reading: [], kinds: [] };
  let found = '';
  for (let round = 0; round < ROUNDS; round += 1) {
    const started = performance.now();
    const read = await readFile(bytes);
    times.reading.push(performance.now() - started);
    if (!read.ok) throw new Error(read.reason);
    const from = performance.now();
    const columns = seenColumns(read.table);
    times.kinds.push(performance.now() - from);
    found = columns
      .slice(0, 10)
      .map(({ evidence }) => evidence.kind)
      .join(', ');
  }
  const [reading, kinds] = [Math.min(...times.reading), Math.min(...times.kinds)];
  return [
    {
      what: `kinds of ${ROWS.toLocaleString()} × ${COLUMNS} cells, ${Math.round(bytes.length / 1e6)} MB`,
      ...{ unit: 'ms, best of two rounds', yardstick: reading, ours: kinds, ratio: kinds / reading },
      ...{ aim: '≤ 3 × reading the file', notes: found },
    },
  ];
}

/** A file of everything: ids, options, numbers, dates, mailboxes, amounts, yes or no, texts, telephones, several options. */
function text(): string {
  const random = seededRandom(7);
  const below = (most: number): number => Math.floor(random() * most);
  const pick = (from: readonly string[]): string => from[below(from.length)]!;
  const cells: ((row: number) => string)[] = [
    (row) => `HB-${row}`,
    () => pick(['aktiv', 'ruht', 'aufgelöst', 'neu']),
    () => String(below(1_000)),
    () => `${1 + below(28)}.${1 + below(12)}.${2010 + below(15)}`,
    (row) => `anna.${row}@post.example`,
    () => (random() * 1_000).toFixed(2).replace('.', ','),
    () => pick(['ja', 'nein']),
    () => `Anna Text ${below(1_000_000)}`,
    () => `+49 4163 ${below(1_000_000)}`,
    () => pick(['', 'Linde; Raps', 'Linde', 'Raps; Klee']),
  ];
  const lines = [Array.from({ length: COLUMNS }, (_, at) => `Column ${at}`).join('|')];
  for (let row = 0; row < ROWS; row += 1)
    lines.push(Array.from({ length: COLUMNS }, (_, at) => cells[at % cells.length]!(row * COLUMNS + at)).join('|'));
  return lines.join('\n');
}
