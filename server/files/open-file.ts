import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Counted, FormField, Oddity, SeenColumn, TableRow } from '@zusammen/core/forms';
import type { FileFacts } from './read-file.ts';

/** A file that has been read in a process of its own. */
export interface OpenFile {
  columns: string[];
  rows: number;
  /** The line of its heading. */
  heading: number;
  oddities: Oddity[];
  fields: FormField[];
  facts: FileFacts;
  /** Some of its data rows, from a position counted from 0. */
  take(from: number, count: number): Promise<TableRow[]>;
  /** What the values of each column are, by all rows. @param told hears how many rows have been looked through */
  look(told?: (rows: number) => void): Promise<SeenColumn[]>;
  /** Different values of a column with their counts, the commonest first; and how many there are in all. */
  values(column: string, most: number): Promise<ColumnValues>;
  close(): Promise<void>;
}

export interface ColumnValues {
  values: Counted[];
  distinct: number;
}

/** What a file can't be read for, in words. */
export class UnreadableFile extends Error {}

/** Where the reading process's program is: bundled beside ours. */
export interface FileReader {
  program: string | URL;
  /** Milliseconds a file may take, and megabytes of memory; what is usual where nothing is said. */
  patienceMs?: number;
  memoryMb?: number;
}

/** Who waits for what the process says. */
interface Hearing {
  resolve: (message: unknown) => void;
  reject: (error: Error) => void;
  told: (rows: number) => void;
}

const PATIENCE_MS = 60_000;
const MEMORY_MB = 900;
const LOOK_EVERY_MS = 100;

/**
 * Reads a file in a process that may die: its memory, whatever it is used for, and its time are bounded, and it knows
 * none of our secrets. A thread would not do: what overruns the memory of one can end the whole process.
 * @throws UnreadableFile with the reason
 */
export async function openFile(bytes: Uint8Array, reader: FileReader): Promise<OpenFile> {
  const { program, patienceMs = PATIENCE_MS, memoryMb = MEMORY_MB } = reader;
  const child = fork(typeof program === 'string' ? program : fileURLToPath(program), [], {
    execArgv: [`--max-old-space-size=${Math.round(memoryMb * 0.7)}`],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    env: {},
  });
  // What the process says comes one at a time; how it may end is heard once for all.
  let hear: Hearing | undefined;
  let ended: Error | undefined;
  const end = (error: Error): void => {
    ended ??= error;
    child.kill('SIGKILL');
    hear?.reject(ended);
  };
  child.on('message', (message: { kind: string; rows?: number }) => {
    if (message.kind === 'progress') hear?.told(message.rows ?? 0);
    else hear?.resolve(message);
  });
  child.on('error', () => end(new UnreadableFile('Reading the file was broken off.')));
  child.on('exit', (_code, signal) =>
    end(new UnreadableFile(signal === 'SIGABRT' ? TOO_LARGE : 'Reading the file was broken off.')),
  );
  const guard = setInterval(() => {
    if (residentMb(child) > memoryMb) end(new UnreadableFile(TOO_LARGE));
  }, LOOK_EVERY_MS);
  const close = async (): Promise<void> => {
    clearInterval(guard);
    child.removeAllListeners('exit');
    child.kill('SIGKILL');
  };
  const next = async <T>(ask: unknown, told: (rows: number) => void = () => undefined): Promise<T> => {
    if (ended) throw ended;
    const timer = setTimeout(() => end(new UnreadableFile('Reading the file takes too long.')), patienceMs);
    try {
      return await new Promise<T>((resolve, reject) => {
        hear = { resolve: resolve as (message: unknown) => void, reject, told };
        child.send(ask as object, (error) => {
          if (error) end(new UnreadableFile('Reading the file was broken off.'));
        });
      });
    } finally {
      clearTimeout(timer);
      hear = undefined;
    }
  };
  try {
    const read = await next<
      { kind: 'unreadable'; reason: string } | ({ kind: 'read' } & Omit<OpenFile, 'take' | 'look' | 'values' | 'close'>)
    >({ bytes });
    if (read.kind === 'unreadable') throw new UnreadableFile(read.reason);
    const { kind: _, ...facts } = read;
    return {
      ...facts,
      take: async (from, count) => (await next<{ rows: TableRow[] }>({ from, count })).rows,
      look: async (told) => (await next<{ columns: SeenColumn[] }>({ kinds: true }, told)).columns,
      values: (column, most) => next<ColumnValues>({ column, most }),
      close,
    };
  } catch (error) {
    await close();
    throw error;
  }
}

const TOO_LARGE = 'The file takes more memory than a file may; nothing of it was read.';

/** Megabytes a process holds in memory (proc(5), statm: pages of 4 KiB); 0 where that can't be told. */
function residentMb({ pid }: ChildProcess): number {
  try {
    return (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1024 / 1024;
  } catch {
    return 0;
  }
}
