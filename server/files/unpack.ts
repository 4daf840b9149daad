import { zipSync } from 'fflate';
import yauzl, { type Entry, type ZipFile } from 'yauzl';

/** Beyond these a workbook isn't opened: what is small when packed may fill any memory. */
const MOST_UNPACKED = 100 * 1024 * 1024;
const MOST_ENTRIES = 2000;
/** The last row and column a sheet can have (ECMA-376, 18.3.1.73): what lies farther out is no sheet's. */
const LAST_ROW = 1_048_576;
const LAST_COLUMN = 16_384;

/** The parts that hold values; pictures, charts, macros and the rest stay packed. */
const NEEDED =
  /^(?:\[Content_Types\]\.xml|_rels\/\.rels|xl\/(?:workbook|sharedStrings|styles)\.xml|xl\/_rels\/workbook\.xml\.rels|xl\/worksheets\/[^/]+\.xml)$/i;

export type Unpacked = { ok: true; archive: Uint8Array } | { ok: false; reason: string };

/**
 * Unpacks the parts of a workbook that are read, counting what really comes out of them and not what the archive says
 * of itself, and packs them again as they are, so that whoever reads them next meets the same bytes.
 */
export async function unpackWorkbook(bytes: Uint8Array): Promise<Unpacked> {
  const parts: Record<string, Uint8Array> = {};
  let isOpenDocument = false;
  try {
    const zip = await open(bytes);
    if (zip.entryCount > MOST_ENTRIES) return { ok: false, reason: 'The workbook has too many parts to be one.' };
    let size = 0;
    for await (const entry of entriesOf(zip)) {
      const name = entry.fileName.replace(/^\//, '');
      isOpenDocument ||= name === 'META-INF/manifest.xml';
      if (!NEEDED.test(name)) continue;
      if (Object.hasOwn(parts, name)) return { ok: false, reason: 'The workbook holds a part twice.' };
      const unpacked = await inflate(zip, entry, MOST_UNPACKED - size);
      if (!unpacked)
        return {
          ok: false,
          reason: `The workbook unpacks to more than ${MOST_UNPACKED / 1024 / 1024} MB and isn't opened.`,
        };
      size += unpacked.length;
      parts[name] = unpacked;
    }
  } catch {
    return { ok: false, reason: 'The file is no workbook that can be opened; it may be damaged.' };
  }
  if (isOpenDocument && Object.keys(parts).length === 0)
    return { ok: false, reason: 'This is an OpenDocument spreadsheet; save it as .xlsx or .csv.' };
  for (const [name, part] of Object.entries(parts)) {
    if (name.startsWith('xl/worksheets/')) parts[name] = withDatesAsText(part);
    const far = name.startsWith('xl/worksheets/') ? farCell(part) : undefined;
    if (far !== undefined) return { ok: false, reason: `The workbook names ${far}, which no sheet can have.` };
  }
  return { ok: true, archive: zipSync(parts, { level: 0 }) };
}

const open = (bytes: Uint8Array): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    yauzl.fromBuffer(
      Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
      { lazyEntries: true },
      (error, zip) => (error ? reject(error) : resolve(zip)),
    ),
  );

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | undefined>((resolve, reject) => {
      zip
        .once('entry', resolve)
        .once('end', () => resolve(undefined))
        .once('error', reject);
      zip.readEntry();
    });
    zip.removeAllListeners();
    if (!entry) return;
    yield entry;
  }
}

/** @returns undefined as soon as more comes out than may */
async function inflate(zip: ZipFile, entry: Entry, most: number): Promise<Uint8Array | undefined> {
  const stream = await new Promise<NodeJS.ReadableStream & { destroy(): void }>((resolve, reject) =>
    zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
  );
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > most) {
      stream.destroy();
      return undefined;
    }
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** Cells that hold a date as ISO 8601 (`t="d"`): whoever reads them next would take the year for a number of days. */
function withDatesAsText(part: Uint8Array): Uint8Array {
  const text = Buffer.from(part.buffer, part.byteOffset, part.byteLength).toString('latin1');
  if (!text.includes('t="d"')) return part;
  return Buffer.from(text.replace(/(<(?:\w{1,20}:)?c\s[^<>]{0,200}?\bt=)"d"/g, '$1"str"'), 'latin1');
}

/** The first row or cell of a sheet that lies beyond its last row or column; undefined where there is none. */
function farCell(part: Uint8Array): string | undefined {
  const text = Buffer.from(part.buffer, part.byteOffset, part.byteLength).toString('latin1');
  for (const [, row] of text.matchAll(/<(?:\w+:)?row\s[^>]{0,200}?\br="(\d{1,30})"/g))
    if (Number(row) > LAST_ROW) return `row ${row}`;
  for (const [, column, row] of text.matchAll(/<(?:\w+:)?c\s[^>]{0,200}?\br="([A-Z]{1,30})(\d{1,30})"/g))
    if (Number(row) > LAST_ROW || numberOf(column!) > LAST_COLUMN) return `cell ${column}${row}`;
  return undefined;
}

const numberOf = (letters: string): number =>
  letters.length > 4 ? Infinity : [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);
