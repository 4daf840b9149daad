import { isUtf8 } from 'node:buffer';
import { strFromU8, unzipSync } from 'fflate';
import { fileTypeFromBuffer } from 'file-type';

/** What a file is says its beginning. A stranger's file can have the whole of it looked at for long, so no more is. */
const BEGINNING = 64 * 1024;
/** What a package of documents says of itself is short, packed too: a thousandfold of it at most comes out (RFC 1951). */
const MOST_PACKED = 16 * 1024;
const ZIP = Buffer.from('PK\u0003\u0004', 'latin1');

const WITHIN = 'application/vnd.openxmlformats-officedocument.';
const OPEN_XML = [`${WITHIN}wordprocessingml.document`, `${WITHIN}spreadsheetml.sheet`];
const OPEN_DOCUMENT = ['application/vnd.oasis.opendocument.text', 'application/vnd.oasis.opendocument.spreadsheet'];

/**
 * The media type (IANA) of a file by what is in it, whatever it is called; in time that grows with its length only.
 * @returns undefined where it is none that is known; `text/plain` for UTF-8 that is nothing else
 */
export async function typeOfFile(bytes: Uint8Array): Promise<string | undefined> {
  const whole = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (whole.subarray(0, ZIP.length).equals(ZIP)) return packaged(whole);
  const known = await fileTypeFromBuffer(whole.subarray(0, BEGINNING)).catch(() => undefined);
  if (known) return known.mime;
  if (!isUtf8(whole) || whole.includes(0)) return undefined;
  // What a browser would take for a page or a picture with scripts in it isn't text to it.
  return /<(?:!doctype|html|svg|script|\?xml|body|head|iframe)/i.test(whole.toString('utf8'))
    ? undefined
    : 'text/plain';
}

/** What a ZIP package says it is: by `mimetype` (OpenDocument 1.3, part 2, 3.3), or by its content types (ECMA-376, part 2). */
function packaged(bytes: Buffer): string | undefined {
  try {
    const said = unzipSync(bytes, {
      filter: ({ name, size }) => (name === 'mimetype' || name === '[Content_Types].xml') && size <= MOST_PACKED,
    });
    const mimetype = said['mimetype'] ? strFromU8(said['mimetype']).trim() : '';
    if (OPEN_DOCUMENT.includes(mimetype)) return mimetype;
    const types = said['[Content_Types].xml'] ? strFromU8(said['[Content_Types].xml']) : '';
    // With macros it is another type, and isn't taken.
    return OPEN_XML.find((type) => types.includes(`"${type}.main+xml"`));
  } catch {
    return undefined;
  }
}
