import { join } from 'node:path';
import * as books from '../../scripts/hostile/workbooks.ts';
import { PROGRAMS } from '../../scripts/testing/setup.ts';
import { openFile, UnreadableFile, type FileReader } from './index.ts';

const reader: FileReader = { program: join(process.cwd(), PROGRAMS, 'file-reader.mjs') };

async function read(bytes: Uint8Array, more: Partial<FileReader> = {}) {
  const file = await openFile(bytes, { ...reader, ...more });
  try {
    return { columns: file.columns, rows: (await file.take(0, 3)).map((row) => ('bad' in row ? row.bad : row.cells)) };
  } finally {
    await file.close();
  }
}
const ADA = { columns: ['name', 'mail'], rows: [['Ada', 'ada@biene.example']] };

describe('a workbook', () => {
  it('with nothing wrong about it is read', async () => {
    expect(await read(books.sound())).toEqual(ADA);
  });
  it.each([
    ['validates and formats every cell there is', books.validated],
    ['merges every cell there is', books.merged],
  ])('that %s is read for its values', async (_what, make) => {
    expect(await read(make())).toEqual(ADA);
  });
  it('that has a value in its very last cell is read without taking a sheet full of blanks along', async () => {
    const { columns, rows } = await read(books.lastCell());
    expect(columns).toEqual(ADA.columns);
    expect(rows[0]).toEqual(ADA.rows[0]);
  });
  it.each([
    ['names a row that no sheet has', books.farRow, /row 999999999/],
    ['names a column that no sheet has', books.farColumn, /cell ZZZZZZ3/],
    ['unpacks to more than may be', books.bomb, /unpacks to more than/],
    ['unpacks to more than its directory says', books.lying, /damaged/],
    ['holds entities that grow to billions', books.laughing, /./],
  ])('that %s is refused in words', async (_what, make, words) => {
    const refused = await read(make()).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(UnreadableFile);
    expect((refused as UnreadableFile).message).toMatch(words);
  });
  it('that takes more memory or time than it may is refused in words, and only its own process ends', async () => {
    const large = books.large(40_000);
    await expect(read(large, { memoryMb: 90 })).rejects.toThrow(/more memory/);
    await expect(read(large, { patienceMs: 300 })).rejects.toThrow(/too long/);
  });
});

it.each([
  ['quotation marks', Buffer.alloc(1_000_000, '"')],
  ['commas', Buffer.alloc(1_000_000, ',')],
  ['line breaks', Buffer.alloc(1_000_000, '\n')],
  ['bytes of no text', Buffer.from(Array.from({ length: 100_000 }, (_, at) => (at * 7919) % 256))],
  ['what says it is a workbook and isn’t', Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(100_000, 7)])],
])('a file of %s is refused in words', async (_what, bytes) => {
  await expect(read(bytes)).rejects.toBeInstanceOf(UnreadableFile);
});
