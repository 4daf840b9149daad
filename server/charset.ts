import iconv from 'iconv-lite';

/**
 * Decodes bytes by the label that a page, a form or a file gives them (Encoding Standard, 4.2). Node's own decoder takes
 * windows-1252 for Latin-1, so that `’ „ “ – €` come out wrong; iconv-lite knows it as browsers do.
 * @returns undefined when there is no such encoding, or the bytes are none of it
 */
export function decodedAs(bytes: Uint8Array, label: string): { text: string; encoding: string } | undefined {
  const encoding = encodingOf(label);
  if (encoding === undefined) return undefined;
  try {
    if (!LEGACY.has(encoding)) return { text: new TextDecoder(encoding, { fatal: true }).decode(bytes), encoding };
  } catch {
    return undefined;
  }
  return { text: iconv.decode(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), encoding), encoding };
}

/** The encoding that a label stands for (`latin1` is windows-1252 to a browser); undefined where it stands for none. */
export function encodingOf(label: string): string | undefined {
  try {
    return new TextDecoder(label.trim().slice(0, 40)).encoding;
  } catch {
    return undefined;
  }
}

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
