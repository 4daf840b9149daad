import busboy from 'busboy';
import type { IncomingHttpHeaders } from 'node:http';
import { decodedAs, encodingOf } from '../charset.ts';
import { badField, Problem } from './problem.ts';

/** Bounds of a form's body. */
export interface FormLimits {
  fields: number;
  files: number;
  /** Bytes of one value. */
  value: number;
}

type Pairs = [string, string][];

/** Names under which a file may come. */
export type FileFields = Pick<ReadonlySet<string>, 'has' | 'size'>;

/** A file as it came: what a browser calls it, and what is in it. */
export interface SentFile {
  name: string;
  bytes: Buffer;
}

/** In this field browsers name the encoding they send a form in (HTML, 4.10.21.4). */
const CHARSET_FIELD = '_charset_';
/** What the web's pages are in that name no encoding (Encoding Standard). */
const USUAL = 'windows-1252';

/**
 * In which encoding a form came: as its header or its own field says, UTF-8 where it is that, else that of its page. Old
 * pages send in their own and say nothing of it.
 */
function encodingFor(raw: Buffer, declared: readonly (string | undefined)[], page: string | undefined): string {
  const said = declared.flatMap((label) => (label === undefined ? [] : (encodingOf(label) ?? [])))[0];
  if (said !== undefined) return said;
  if (decodedAs(raw, 'utf-8')) return 'utf-8';
  return (page === undefined ? undefined : encodingOf(page)) ?? USUAL;
}

function decodedIn(bytes: Buffer, encoding: string): string {
  const decoded = decodedAs(bytes, encoding);
  if (!decoded) throw new Problem(400, 'Not readable', `The form holds bytes that are not valid ${encoding}.`);
  // What an encoding has no letter for, browsers send as a reference by number.
  return encoding === 'utf-8' ? decoded.text : decoded.text.replace(/&#(\d{2,7});/g, asLetter);
}

function asLetter(reference: string, digits: string): string {
  const code = Number(digits);
  return code > 0 && code <= 0x10_ff_ff && (code < 0xd8_00 || code > 0xdf_ff) ? String.fromCodePoint(code) : reference;
}

const charsetIn = (type: string | undefined): string | undefined =>
  /;\s*charset\s*=\s*"?([\w.:-]{1,40})/i.exec(type ?? '')?.[1];

/**
 * application/x-www-form-urlencoded (URL Living Standard, 5.1): a `%` that starts no byte is a percent sign.
 * @param page the encoding of the page the form stands on, as far as it is known
 * @throws Problem for bytes that are no text, and for more fields than may be
 */
export function urlencodedPairs(
  body: Buffer,
  type: string | undefined,
  limits: Pick<FormLimits, 'fields'>,
  page?: string,
): Pairs {
  // Split no farther than is needed to see that there are too many.
  const most = limits.fields * 2;
  const split = body.toString('latin1').split('&', most + 1);
  const parts = split.filter((pair) => pair !== '');
  if (split.length > most || parts.length > limits.fields + 1)
    throw badField('', `has more than ${limits.fields} fields`);
  const raw = parts.map((pair): [Buffer, Buffer] => {
    const at = pair.indexOf('=');
    return at < 0 ? [bytesIn(pair), Buffer.alloc(0)] : [bytesIn(pair.slice(0, at)), bytesIn(pair.slice(at + 1))];
  });
  const named = raw.find(([name]) => name.toString('latin1') === CHARSET_FIELD)?.[1].toString('latin1');
  const encoding = encodingFor(Buffer.concat(raw.flat()), [charsetIn(type), named], page);
  const pairs = raw.map(([name, value]): [string, string] => [decodedIn(name, encoding), decodedIn(value, encoding)]);
  return pairs.filter(([name]) => name !== CHARSET_FIELD);
}

const PLUS = 0x2b;
const PERCENT = 0x25;

/** Percent-decodes to bytes, with a `+` for a space. The text holds a byte a character. */
function bytesIn(text: string): Buffer {
  const bytes = Buffer.from(text, 'latin1');
  if (!/[%+]/.test(text)) return bytes;
  let to = 0;
  for (let at = 0; at < bytes.length; at += 1) {
    const byte = bytes[at]!;
    const high = byte === PERCENT ? hexOf(bytes[at + 1]) : -1;
    const low = high < 0 ? -1 : hexOf(bytes[at + 2]);
    if (low >= 0) at += 2;
    bytes[to++] = low >= 0 ? high * 16 + low : byte === PLUS ? 0x20 : byte;
  }
  return bytes.subarray(0, to);
}

/** What a hexadecimal digit stands for; -1 for what is none. */
function hexOf(byte: number | undefined): number {
  if (byte === undefined) return -1;
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  const letter = byte | 0x20;
  return letter >= 0x61 && letter <= 0x66 ? letter - 0x57 : -1;
}

/**
 * multipart/form-data (RFC 7578, as browsers write it: HTML, 4.10.21.8): names and files' names are in the form's
 * encoding, with `"` and line ends percent-encoded.
 * @param fileFields names under which a file may come; of a file its name is kept
 * @param kept what is in the files as well, by the name it came under; of several under one name the last
 */
export async function multipartPairs(
  headers: IncomingHttpHeaders,
  body: Buffer,
  fileFields: FileFields,
  limits: FormLimits,
  page?: string,
  kept?: Map<string, SentFile>,
): Promise<Pairs> {
  const parts = await partsOf(headers, body, limits, 'utf8', kept);
  const texts = [...parts.fields.flat(), ...parts.files.flat()].join('');
  const named = parts.fields.find(([name]) => name === CHARSET_FIELD)?.[1];
  const encoding = named === undefined ? undefined : encodingOf(named);
  const isUtf8 =
    encoding === 'utf-8' || (encoding === undefined && (!texts.includes('\uFFFD') || decodedAs(body, 'utf-8')));
  const { fields, files } = isUtf8 ? parts : await decodedParts(headers, body, limits, encoding, page);
  for (const [name] of files) if (!fileFields.has(name)) throw badField(name, 'is a file, and this form takes none');
  return [...fields.filter(([name]) => name !== CHARSET_FIELD), ...files].map(([name, value]) => [
    unescaped(name),
    value,
  ]);
}

/** Browsers write `"`, CR and LF in a name so. */
const unescaped = (name: string): string =>
  name
    .replace(/%22/g, '"')
    .replace(/%0D%0A/gi, '\n')
    .replace(/%0A/gi, '\n')
    .replace(/%0D/gi, '\n');

async function decodedParts(
  headers: IncomingHttpHeaders,
  body: Buffer,
  limits: FormLimits,
  said: string | undefined,
  page: string | undefined,
) {
  // A byte a character, to be decoded by us.
  const { fields, files } = await partsOf(headers, body, limits, 'latin1');
  const raw = Buffer.from([...fields.flat(), ...files.flat()].join(''), 'latin1');
  const encoding = encodingFor(raw, [said], page);
  const decode = (pairs: Pairs): Pairs =>
    pairs.map(([name, value]) => [
      decodedIn(Buffer.from(name, 'latin1'), encoding),
      decodedIn(Buffer.from(value, 'latin1'), encoding),
    ]);
  return { fields: decode(fields), files: decode(files) };
}

function partsOf(
  headers: IncomingHttpHeaders,
  body: Buffer,
  limits: FormLimits,
  charset: 'utf8' | 'latin1',
  kept?: Map<string, SentFile>,
): Promise<{ fields: Pairs; files: Pairs }> {
  const fields: Pairs = [];
  const files: Pairs = [];
  return new Promise((resolve, reject) => {
    let parser: busboy.Busboy;
    try {
      parser = busboy({
        headers,
        defCharset: charset,
        defParamCharset: charset,
        limits: { fields: limits.fields + 1, files: limits.files, fieldSize: limits.value, fieldNameSize: 600 },
      });
    } catch {
      reject(new Problem(400, 'Not readable', 'The multipart body names no boundary.'));
      return;
    }
    parser.on('field', (name, value, { nameTruncated, valueTruncated }) => {
      if (nameTruncated) reject(badField(`${name.slice(0, 40)}…`, 'is a name longer than 500 characters'));
      else if (valueTruncated) reject(badField(name, `holds more than ${limits.value / 1024 / 1024} MiB`));
      else fields.push([name, value]);
    });
    parser.on('filesLimit', () => reject(badField('', `holds more than ${limits.files} files`)));
    parser.on('fieldsLimit', () => reject(badField('', `has more than ${limits.fields} fields`)));
    parser.on('file', (name, stream, { filename }) => {
      // A browser sends an empty file for a file input nobody filled in.
      if (filename) files.push([name, filename]);
      if (!filename || !kept) return void stream.resume();
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => kept.set(unescaped(name), { name: unescaped(filename), bytes: Buffer.concat(chunks) }));
    });
    parser.on('error', () =>
      reject(new Problem(400, 'Not readable', 'The multipart body breaks off or is malformed.')),
    );
    parser.on('close', () => resolve({ fields, files }));
    parser.end(body);
  });
}
