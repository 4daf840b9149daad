import type { ReadForm } from '@zusammen/core/forms';
import { fetch, type Dispatcher } from 'undici';
import type { Heavy, Wanted } from '../heavy/index.ts';
import { NotPublic } from '../systems/index.ts';
import { badField, Problem } from './problem.ts';

const MOST_BYTES = 5 * 1024 * 1024;
const PATIENCE_MS = 10_000;

export interface ReadPage {
  /** Where the page was found in the end. */
  address: string;
  forms: ReadForm[];
}

/**
 * Fetches a page and reads its forms. Nothing of it is kept or run, and no cookies or sign-ins of ours go along.
 * @throws Problem naming the address and why it could not be read
 */
export async function readPage(
  address: string,
  dispatcher: Dispatcher,
  heavy: Heavy,
  wanted: Wanted,
): Promise<ReadPage> {
  const refused = (reason: string) => badField('address', reason);
  let response: Awaited<ReturnType<typeof fetch>>;
  try {
    response = await fetch(address, {
      headers: { Accept: 'text/html,application/xhtml+xml' },
      signal: AbortSignal.timeout(PATIENCE_MS),
      redirect: 'follow',
      dispatcher,
    });
  } catch (error) {
    const late = (error as Error).name === 'TimeoutError';
    const { cause } = error as Error;
    if (cause instanceof NotPublic) throw refused(`leads to ${cause.message}`);
    throw refused(late ? 'does not answer within 10 seconds' : 'can not be reached');
  }
  if (!response.ok) {
    await response.body?.cancel();
    throw refused(`answers ${response.status}`);
  }
  const type = response.headers.get('content-type') ?? '';
  if (!/html|xml/.test(type)) {
    await response.body?.cancel();
    throw refused(`leads to ${type.split(';')[0] || 'something'}, not to a page`);
  }
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for await (const chunk of response.body ?? []) {
      size += (chunk as Uint8Array).length;
      if (size > MOST_BYTES) throw refused('leads to a page of more than 5 MB');
      chunks.push(chunk as Uint8Array);
    }
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw refused('breaks off while it is read');
  }
  const bytes = Buffer.concat(chunks);
  const charset =
    /charset=["']?([\w-]+)/i.exec(type)?.[1] ??
    /<meta[^>]+charset=["']?([\w-]+)/i.exec(bytes.subarray(0, 2048).toString('latin1'))?.[1];
  const html = decoded(bytes, charset);
  return { address: response.url || address, forms: await heavy.run('readForms', { html }, wanted) };
}

function decoded(bytes: Buffer, charset = 'utf-8'): string {
  try {
    return new TextDecoder(charset).decode(bytes);
  } catch {
    return new TextDecoder().decode(bytes);
  }
}
