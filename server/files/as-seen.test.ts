import { zipSync } from 'fflate';
import iconv from 'iconv-lite';
import { decodedAs } from '../charset.ts';
import { decode } from './decode.ts';
import { readFile } from './read-file.ts';

/** A workbook as its bytes say it, written by hand: as spreadsheet programs write it, and not as a library of ours does. */
function workbook(cells: string[], formats: string[] = [], properties = ''): Uint8Array {
  const rows = cells.map((row, at) => `<row r="${at + 1}">${row}</row>`).join('');
  const xfs = [
    '<xf numFmtId="0"/>',
    ...formats.map((_, at) => `<xf numFmtId="${200 + at}" applyNumberFormat="1"/>`),
  ].join('');
  const numFmts = formats
    .map((format, at) => `<numFmt numFmtId="${200 + at}" formatCode="${format.replace(/"/g, '&quot;')}"/>`)
    .join('');
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const relations = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const parts = {
    '[Content_Types].xml':
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>',
    '_rels/.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${relations}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `<workbook xmlns="${main}" xmlns:r="${relations}">${properties}<sheets><sheet name="S" sheetId="1" r:id="r1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${relations}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="${relations}/styles" Target="styles.xml"/></Relationships>`,
    'xl/styles.xml': `<styleSheet xmlns="${main}"><numFmts count="${formats.length}">${numFmts}</numFmts><fonts count="1"><font/></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="${formats.length + 1}">${xfs}</cellXfs></styleSheet>`,
    'xl/worksheets/sheet1.xml': `<worksheet xmlns="${main}"><sheetData>${rows}</sheetData></worksheet>`,
  };
  const bytes = new TextEncoder();
  return zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, bytes.encode(text)])));
}

const heading = '<c r="A1" t="inlineStr"><is><t>value</t></is></c>';
/** What the one cell under the heading comes to, and what is said of it. */
async function cell(xml: string, format?: string, properties?: string): Promise<unknown[]> {
  const style = format === undefined ? '' : ' s="1"';
  const read = await readFile(
    workbook([heading, xml.replace(/^<c/, `<c r="A2"${style}`)], format === undefined ? [] : [format], properties),
  );
  if (!read.ok) return [read.reason];
  const [row] = read.table.rows;
  return row && 'bad' in row ? [row.bad] : [row?.cells[0], ...read.table.oddities.map(({ what }) => what)];
}

describe('a workbook’s cell is what a person sees in it', () => {
  it.each([
    ['a date', '<c><v>46132</v></c>', 'dd.mm.yyyy', '2026-04-20'],
    ['a date with a time', '<c><v>46132.604166666664</v></c>', 'yyyy-mm-dd hh:mm', '2026-04-20T14:30'],
    ['a time of day', '<c><v>0.5</v></c>', 'hh:mm', '12:00'],
    ['a length of time', '<c><v>1.5</v></c>', '[h]:mm', '36:00'],
    ['a date as ISO 8601', '<c t="d"><v>2026-04-20T00:00:00</v></c>', 'yyyy-mm-dd', '2026-04-20'],
    ['a moment as ISO 8601', '<c t="d"><v>2026-04-20T14:30:00.000</v></c>', 'yyyy-mm-dd hh:mm', '2026-04-20T14:30'],
  ])('%s', async (_, xml, format, text) => {
    expect(await cell(xml, format)).toEqual([text, `column 1 holds dates or times; here ${text}`]);
  });
  it.each([
    ['zeros in front', '<c><v>1067</v></c>', '00000', '01067'],
    ['a mask', '<c><v>5551234</v></c>', '000-0000', '555-1234'],
    ['sums of binary fractions', '<c><v>0.30000000000000004</v></c>', undefined, '0.3'],
    ['decimals that are shown', '<c><v>19.989999999999998</v></c>', '0.00', '19.99'],
    ['thousands and a currency', '<c><v>1234.5</v></c>', '#,##0.00 "€"', '1234.5'],
    ['below nought', '<c><v>-1234.567</v></c>', '#,##0.00;[Red]-#,##0.00', '-1234.57'],
    ['many digits', '<c><v>491234567890123</v></c>', undefined, '491234567890123'],
    ['yes', '<c t="b"><v>1</v></c>', undefined, 'true'],
    ['a text that looks like a number', '<c t="inlineStr"><is><t>007</t></is></c>', undefined, '007'],
  ])('%s', async (_, xml, format, text) => {
    expect((await cell(xml, format))[0]).toBe(text);
  });
  it('says what a percentage shows and holds', async () => {
    expect(await cell('<c><v>0.5</v></c>', '0%')).toEqual(['0.5', 'column 1 shows 50% and holds 0.5']);
  });
  it('counts days from 1904 where the workbook does', async () => {
    const found = await cell('<c><v>44670</v></c>', 'yyyy-mm-dd', '<workbookPr date1904="1"/>');
    expect(found[0]).toBe('2026-04-20');
  });
  it('an error, or a formula whose result nobody stored, makes its row a bad row and not a blank', async () => {
    const sheet = workbook([
      heading,
      '<c r="A2" t="e"><v>#REF!</v></c>',
      '<c r="A3"><f>1+1</f></c>',
      '<c r="A4"><f>1+1</f><v>2</v></c>',
    ]);
    const read = await readFile(sheet);
    expect(read.ok && read.table.rows.map((row) => ('bad' in row ? { bad: row.bad } : row.cells))).toEqual([
      { bad: 'column 1 holds the error #REF!' },
      { bad: 'column 1 holds a formula whose result isn’t stored; save the file once more' },
      ['2'],
    ]);
  });
  it('an OpenDocument spreadsheet is named as such', async () => {
    const bytes = new TextEncoder().encode('x');
    const ods = zipSync({ mimetype: bytes, 'META-INF/manifest.xml': bytes, 'content.xml': bytes });
    expect(await readFile(ods)).toEqual({
      ok: false,
      reason: 'This is an OpenDocument spreadsheet; save it as .xlsx or .csv.',
    });
  });
});

describe('letters', () => {
  it('of windows-1252 are what browsers take them for, under each of its names', () => {
    const bytes = Uint8Array.from([0x93, 0x53, 0x74, 0x72, 0x61, 0xdf, 0x65, 0x94, 0x20, 0x80, 0x20, 0x92]);
    for (const label of ['windows-1252', 'latin1', 'ISO-8859-1', 'ascii'])
      expect(decodedAs(bytes, label)).toEqual({ text: '“Straße” € ’', encoding: 'windows-1252' });
    expect(decodedAs(bytes, 'no-such-thing')).toBeUndefined();
    expect(decodedAs(bytes, 'utf-8')).toBeUndefined();
  });
  it.each(['windows-1252', 'windows-1250', 'iso-8859-2', 'iso-8859-15', 'windows-1251'])(
    'of %s come out as they went in',
    (encoding) => {
      const text =
        { 'windows-1251': 'Яблоко', 'iso-8859-15': 'Straße €' }[encoding] ??
        (encoding === 'windows-1252' ? 'Straße “€”' : 'Żółć ąę');
      expect(decodedAs(iconv.encode(text, encoding), encoding)?.text).toBe(text);
    },
  );
  it('of a western spreadsheet’s CSV', () => {
    const bytes = iconv.encode('name;price\nMüller’s „Hof“;5 €\n', 'windows-1252');
    expect(decode(bytes)).toMatchObject({
      text: 'name;price\nMüller’s „Hof“;5 €\n',
      encoding: 'windows-1252',
      guessed: true,
    });
  });
  it('one bad byte in UTF-8 spoils one row and not the file', async () => {
    const bytes = Buffer.concat([
      Buffer.from('name\nMüller\nŻółć\nB'),
      Buffer.from([0xff]),
      Buffer.from('rt\nJürgen\n'),
    ]);
    const read = await readFile(bytes);
    expect(read.ok && read.table.rows.map((row) => ('bad' in row ? { bad: row.bad } : row.cells))).toEqual([
      ['Müller'],
      ['Żółć'],
      { bad: expect.stringMatching(/letters that can't be read/) },
      ['Jürgen'],
    ]);
  });
});
