import { isUtf8 } from 'node:buffer';
import iconv from 'iconv-lite';

/**
 * Decodes bytes by the label that a page, a form or a file gives them (Encoding Standard, 4.2). Node's own decoder takes
 * windows-1252 for Latin-1, so that `’ „ “ – €` come out wrong; iconv-lite knows it as browsers do.
 * @returns undefined when there is no such encoding, or the bytes are none of it
 */
export function decodedAs(bytes: Uint8Array, label: string): { text: string; encoding: string } | undefined {
  const encoding = encodingOf(label);
  if (encoding === undefined) return undefined;
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  // A form has a thousand values, and most of the world's are UTF-8: that is looked at without making a decoder.
  if (encoding === 'utf-8')
    return isUtf8(buffer) ? { text: withoutMark(buffer.toString('utf8')), encoding } : undefined;
  if (LEGACY.has(encoding)) return { text: iconv.decode(buffer, encoding), encoding };
  try {
    return { text: new TextDecoder(encoding, { fatal: true }).decode(bytes), encoding };
  } catch {
    return undefined;
  }
}

const withoutMark = (text: string): string => (text.startsWith('\uFEFF') ? text.slice(1) : text);

/** The encoding that a label stands for (`latin1` is windows-1252 to a browser); undefined where it stands for none. */
export function encodingOf(label: string): string | undefined {
  const bare = label.trim().slice(0, 40).toLowerCase();
  if (known.has(bare)) return known.get(bare);
  let encoding: string | undefined;
  try {
    ({ encoding } = new TextDecoder(bare));
  } catch {
    // There is none of that name.
  }
  // Making a decoder takes longer than using it; there are some two hundred labels, and strangers invent more.
  if (known.size < 300) known.set(bare, encoding);
  return encoding;
}

const known = new Map<string, string | undefined>();

/** Encodings in which every byte is a letter. */
const LEGACY = new Set(
  [
    'windows-1250',
    'windows-1251',
    'windows-1252',
    'windows-1253',
    'windows-1254',
    'windows-1257',
    'iso-8859-2',
    'iso-8859-15',
  ].filter((name) => iconv.encodingExists(name)),
);
