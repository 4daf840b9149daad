import { Worker } from 'node:worker_threads';
import type { FormField, Oddity } from '@zusammen/core/forms';
import type { FileFacts } from './read-file.ts';

/** A file that has been read in a thread of its own. */
export interface OpenFile {
  columns: string[];
  rows: number;
  oddities: Oddity[];
  fields: FormField[];
  facts: FileFacts;
  /** Some of its data rows, from a position counted from 0. */
  take(from: number, count: number): Promise<string[][]>;
  close(): Promise<void>;
}

/** What a file can't be read for, in words. */
export class UnreadableFile extends Error {}

/** Where the thread's program is: bundled beside ours, or as source while testing. */
export interface FileThread {
  program: string | URL;
}

const PATIENCE_MS = 60_000;
const MEMORY_MB = 700;

/**
 * Reads a file in a thread with bounded memory and time, so that a hostile one harms nobody.
 * @throws UnreadableFile with the reason
 */
export async function openFile(bytes: Uint8Array, thread: FileThread): Promise<OpenFile> {
  const worker = new Worker(thread.program, {
    workerData: { bytes },
    resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
  });
  const close = async (): Promise<void> => void (await worker.terminate());
  // What the thread says comes one at a time; how it may end is heard once for all.
  let hear: { resolve: (message: unknown) => void; reject: (error: Error) => void } | undefined;
  let ended: Error | undefined;
  const end = (error: Error): void => {
    ended ??= error;
    hear?.reject(ended);
  };
  worker.on('message', (message: unknown) => hear?.resolve(message));
  worker.on('error', (error: Error & { code?: string }) =>
    end(
      new UnreadableFile(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? 'The file is too large to be read.'
          : `The file can't be read: ${error.message}`,
      ),
    ),
  );
  worker.on('exit', () => end(new UnreadableFile('Reading the file was broken off.')));
  const next = async <T>(ask?: unknown): Promise<T> => {
    if (ended) throw ended;
    const timer = setTimeout(() => end(new UnreadableFile('Reading the file takes too long.')), PATIENCE_MS);
    try {
      return await new Promise<T>((resolve, reject) => {
        hear = { resolve: resolve as (message: unknown) => void, reject };
        if (ask !== undefined) worker.postMessage(ask);
      });
    } finally {
      clearTimeout(timer);
      hear = undefined;
    }
  };
  try {
    const read = await next<
      { kind: 'unreadable'; reason: string } | ({ kind: 'read' } & Omit<OpenFile, 'take' | 'close'>)
    >();
    if (read.kind === 'unreadable') throw new UnreadableFile(read.reason);
    const { kind: _, ...facts } = read;
    return {
      ...facts,
      take: async (from, count) => (await next<{ rows: string[][] }>({ from, count })).rows,
      close,
    };
  } catch (error) {
    await close();
    throw error;
  }
}
