import { readCsv, submissionOf, troubleOf } from './index.ts';

/** A file's rows as submissions, or why each is none. */
function rows(text: string, spoilt?: string) {
  const read = readCsv(text, spoilt);
  if (!read.ok) throw new Error(read.reason);
  const { columns } = read.table;
  return read.table.rows.map((row) => submissionOf(columns, row) ?? troubleOf(columns, row));
}

describe('one bad row is one bad row', () => {
  it('a quotation mark that is never closed', () => {
    expect(rows('name,town\nAda,Here\n"Bert,There\nCleo,Where\nDora,Then\n')).toEqual([
      { name: 'Ada', town: 'Here' },
      'has quotation marks that make no sense',
      { name: 'Cleo', town: 'Where' },
      { name: 'Dora', town: 'Then' },
    ]);
  });
  it('one that is closed by another row’s, which would swallow the rows between', () => {
    expect(rows('name;town\n"Ada;Here\nBert;There\n"Cleo";Where\nDora;Then')).toEqual([
      'has quotation marks that make no sense',
      { name: 'Bert', town: 'There' },
      { name: 'Cleo', town: 'Where' },
      { name: 'Dora', town: 'Then' },
    ]);
  });
  it('inches within quotation marks', () => {
    expect(rows('name,size\r\n"Pipe 5" wide",1\r\n"Pipe ""6""",2\r\n')).toEqual([
      'has quotation marks that make no sense',
      { name: 'Pipe "6"', size: '2' },
    ]);
  });
  it('keeps line breaks within quotation marks, before and behind a bad row', () => {
    expect(rows('name,note\nAda,"two\nlines"\n"Bert,x\nCleo,"three\n\nlines"\n')).toEqual([
      { name: 'Ada', note: 'two\nlines' },
      'has quotation marks that make no sense',
      { name: 'Cleo', note: 'three\n\nlines' },
    ]);
  });
  it('letters that could not be decoded', () => {
    expect(rows('name\nÄda\nB\uFFFDrt\nCleo', '\uFFFD')).toEqual([
      { name: 'Äda' },
      "holds letters that can't be read: B\uFFFDrt",
      { name: 'Cleo' },
    ]);
    expect(rows('name\nB\uFFFDrt')).toEqual([{ name: 'B\uFFFDrt' }]);
  });
  it('but a file that is full of them is none', () => {
    const text = `name,x\n${'"Bert,1\n'.repeat(60)}`;
    expect(readCsv(text)).toMatchObject({ ok: false, reason: expect.stringMatching(/quotation marks/) });
  });
});
