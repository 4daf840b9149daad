import { isUtf8 } from 'node:buffer';
import { fileTypeFromBuffer } from 'file-type';

/**
 * The media type (IANA) of a file by what is in it, whatever it is called.
 * @returns undefined where it is none that is known; `text/plain` for UTF-8 that is nothing else
 */
export async function typeOfFile(bytes: Uint8Array): Promise<string | undefined> {
  const known = await fileTypeFromBuffer(bytes);
  if (known) return known.mime;
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (!isUtf8(text) || text.includes(0)) return undefined;
  // What a browser would take for a page or a picture with scripts in it isn't text to it.
  return /<(?:!doctype|html|svg|script|\?xml|body|head|iframe)/i.test(text.toString('utf8')) ? undefined : 'text/plain';
}
