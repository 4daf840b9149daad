import type { ReadForm } from '@zusammen/core/forms';
import { fetch, type Dispatcher } from 'undici';
import { decodedAs, encodingOf } from '../charset.ts';
import type { Heavy, Wanted } from '../heavy/index.ts';
import { NotPublic } from '../systems/index.ts';
import { badField, Problem } from './problem.ts';

const MOST_BYTES = 5 * 1024 * 1024;
const PATIENCE_MS = 10_000;

export interface ReadPage {
  /** Where the page was found in the end. */
  address: string;
  forms: ReadForm[];
  /** Its encoding, where it isn't UTF-8. */
  charset?: string;
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
  patienceMs = PATIENCE_MS,
): Promise<ReadPage> {
  const refused = (reason: string) => badField('address', reason);
  let response: Awaited<ReturnType<typeof fetch>>;
  try {
    response = await fetch(address, {
      headers: { Accept: 'text/html,application/xhtml+xml' },
      signal: AbortSignal.timeout(patienceMs),
      redirect: 'follow',
      dispatcher,
    });
  } catch (error) {
    const late = (error as Error).name === 'TimeoutError';
    const { cause } = error as Error;
    if (cause instanceof NotPublic) throw refused(`leads to ${cause.message}`);
    throw refused(late ? `does not answer within ${patienceMs / 1000} seconds` : 'can not be reached');
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
  const { text, encoding } = decoded(bytes, type);
  return {
    address: response.url || address,
    forms: await heavy.run('readForms', { html: text }, wanted),
    ...(encoding === 'utf-8' ? {} : { charset: encoding }),
  };
}

/** How a browser decodes a page (HTML, 13.2.3): by its byte order mark, its header, its own word, else as old pages are. */
function decoded(bytes: Buffer, type: string): { text: string; encoding: string } {
  const marked = bytes[0] === 0xef && bytes[1] === 0xbb ? 'utf-8' : undefined;
  const own = /<meta[^>]{1,200}charset=["']?([\w-]{1,40})/i.exec(bytes.subarray(0, 2048).toString('latin1'))?.[1];
  const said = marked ?? /charset=["']?([\w-]{1,40})/i.exec(type)?.[1] ?? own;
  const declared = said === undefined ? undefined : decodedAs(bytes, said);
  // A page that says UTF-8 and isn't is read as far as it goes.
  if (said !== undefined && !declared && encodingOf(said) !== undefined)
    return { text: new TextDecoder(said).decode(bytes), encoding: encodingOf(said)! };
  return declared ?? decodedAs(bytes, 'utf-8') ?? decodedAs(bytes, 'windows-1252')!;
}
