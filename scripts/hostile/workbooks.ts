import { strToU8, zipSync, type Zippable } from 'fflate';

const CONTENT_TYPES = `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`;
const RELS = (type: string, target: string): string =>
  `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/></Relationships>`;
const BOOK = `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Sheet" sheetId="1" r:id="rId1"/></sheets></workbook>`;

const cell = (reference: string, text: string): string =>
  `<c r="${reference}" t="inlineStr"><is><t>${text}</t></is></c>`;
/** A heading of two columns and one row, as any spreadsheet program writes them. */
const ROWS = `<row r="1">${cell('A1', 'name')}${cell('B1', 'mail')}</row><row r="2">${cell('A2', 'Ada')}${cell('B2', 'ada@biene.example')}</row>`;

/** A workbook of one sheet (Office Open XML, ECMA-376), whose inside is given. */
export function workbook(rows: string, behind = '', more: Zippable = {}): Uint8Array {
  const sheet = `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData>${behind}</worksheet>`;
  return zipSync({
    '[Content_Types].xml': strToU8(CONTENT_TYPES),
    '_rels/.rels': strToU8(RELS('officeDocument', 'xl/workbook.xml')),
    'xl/workbook.xml': strToU8(BOOK),
    'xl/_rels/workbook.xml.rels': strToU8(RELS('worksheet', 'worksheets/sheet1.xml')),
    'xl/worksheets/sheet1.xml': strToU8(sheet),
    ...more,
  });
}

export const sound = (): Uint8Array => workbook(ROWS);

/** Ten kilobytes that ask for a validation of every cell there is. */
export const validated = (): Uint8Array =>
  workbook(
    ROWS,
    `<dataValidations count="1"><dataValidation type="list" sqref="A1:XFD1048576"><formula1>"a,b"</formula1></dataValidation></dataValidations><conditionalFormatting sqref="A1:XFD1048576"><cfRule type="expression" priority="1"><formula>1</formula></cfRule></conditionalFormatting>`,
  );

export const merged = (): Uint8Array =>
  workbook(ROWS, '<mergeCells count="1"><mergeCell ref="A3:XFD1048576"/></mergeCells>');

/** A cell where no sheet has one. */
export const farRow = (): Uint8Array => workbook(`${ROWS}<row r="999999999">${cell('A999999999', 'far')}</row>`);
export const farColumn = (): Uint8Array => workbook(`${ROWS}<row r="3">${cell('ZZZZZZ3', 'far')}</row>`);
/** The last cell that a sheet does have. */
export const lastCell = (): Uint8Array => workbook(`${ROWS}<row r="1048576">${cell('XFD1048576', 'last')}</row>`);

/** More than any file may unpack to, in an eighth of a megabyte. */
export const bomb = (): Uint8Array =>
  workbook(ROWS, '', {
    'xl/sharedStrings.xml': [new Uint8Array(130 * 1024 * 1024), { level: 1 }],
  });

/** The same, but its directory says it is a kilobyte. */
export function lying(): Uint8Array {
  const bytes = bomb();
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 0; at + 46 < bytes.length; at += 1) {
    const signature = view.getUint32(at, true);
    // Local and central headers (APPNOTE.TXT 4.3.7 and 4.3.12): the uncompressed size.
    if (signature === 0x04034b50 && view.getUint32(at + 22, true) > 1e8) view.setUint32(at + 22, 1000, true);
    if (signature === 0x02014b50 && view.getUint32(at + 24, true) > 1e8) view.setUint32(at + 24, 1000, true);
  }
  return bytes;
}

/** Entities that grow to billions (XML 1.0, 4.4). */
export const laughing = (): Uint8Array => {
  const layers = Array.from({ length: 9 }, (_, at) => `<!ENTITY l${at + 1} "${`&l${at};`.repeat(10)}">`).join('');
  const sheet = `<?xml version="1.0"?><!DOCTYPE w [<!ENTITY l0 "ha">${layers}]><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1">${cell('A1', '&l9;')}</row></sheetData></worksheet>`;
  return workbook(ROWS, '', { 'xl/worksheets/sheet1.xml': strToU8(sheet) });
};

/** A hundred thousand rows of fifty texts each: within all sizes, and a great deal. */
export const large = (rows = 100_000): Uint8Array =>
  workbook(
    Array.from(
      { length: rows },
      (_, at) => `<row r="${at + 1}">${Array.from({ length: 20 }, () => '<c><v>1</v></c>').join('')}</row>`,
    ).join(''),
  );
