import { readCsv } from './table.ts';

const read = (text: string) => {
  const found = readCsv(text);
  if (!found.ok) throw new Error(found.reason);
  const { columns, rows, heading, oddities } = found.table;
  return {
    columns,
    heading,
    oddities,
    rows: rows.map((row) => ('bad' in row ? row.bad : row.cells)),
    lines: rows.map(({ line }) => line),
  };
};
const BODY = 'HB-1;4;03.04.2019\nHB-2;6;04.04.2019\nHB-3;8;13.04.2019\n';

describe('the table of a sheet', () => {
  it('is found below titles, with the lines as people count them', () => {
    const { columns, heading, lines, oddities } = read(`Apiaries, as of spring\n\nNumber;Colonies;Seen\n${BODY}`);
    expect(columns).toEqual(['Number', 'Colonies', 'Seen']);
    expect(heading).toBe(3);
    expect(lines).toEqual([4, 5, 6]);
    expect(oddities).toEqual([{ row: 1, what: 'stands above the heading and is left out' }]);
  });
  it('takes headings over several columns along where two are called alike', () => {
    const { columns } = read(`Keeper;;Owner;;\nName;Town;Name;Town;Since\nA;B;C;D;1.2.2020\nE;F;G;H;3.2.2020\n`);
    expect(columns).toEqual(['Keeper Name', 'Keeper Town', 'Owner Name', 'Owner Town', 'Since']);
  });
  it('ends before totals, notes and another table, and says so', () => {
    const { rows, oddities } = read(`Number;Colonies;Seen\n${BODY}Total;18;\n\nWritten down by the secretary\n`);
    expect(rows).toHaveLength(3);
    expect(oddities.map(({ row, what }) => [row, what])).toEqual([
      [5, 'looks like a total and is left out'],
      [7, 'looks like a note below the table and is left out'],
    ]);
    const second = read(`Number;Colonies;Seen\n${BODY}\nName;Hives;Bought\nA;3;1.2.2020\nB;4;2.2.2020\n`);
    expect(second.rows).toHaveLength(3);
    expect(second.oddities).toEqual([{ row: 6, what: 'begins another table; its 3 rows are left out' }]);
    expect(read(`Number;Colonies;Seen\n${BODY};18;\n`).oddities[0]?.what).toBe(
      'holds the sum of its column and is left out',
    );
  });
  it('keeps every row of a table with gaps, and one whose rows are texts', () => {
    expect(read(`Number;Colonies;Seen\n${BODY}\nHB-4;;\n\nHB-5;7;1.2.2020\n`).rows).toHaveLength(5);
    expect(read('Name;Town\nA;B\n\nC;D\nE;F\n').rows).toHaveLength(3);
    expect(read('Name;Town\nTotal Care;B\nSum;C\n').rows).toHaveLength(2);
    expect(read('only\na\nb\n').rows).toEqual([['a'], ['b']]);
  });
  it('is parted by what most rows agree on, whatever stands in the cells', () => {
    expect(read('Keeper;Hives\n"Nowak, Ola";3\nKowal, Jan;4\n').columns).toEqual(['Keeper', 'Hives']);
    expect(read('Amount\tTown\n1,5\tA\n2,5\tB\n').columns).toEqual(['Amount', 'Town']);
    expect(read('Title of it; with a sign\n\na,b,c\n1,2,3\n4,5,6\n').columns).toEqual(['a', 'b', 'c']);
  });
  it('of 200,000 rows is read without running out of room', () => {
    const rows = Array.from({ length: 200_000 }, (_, at) => `HB-${at};${at}`).join('\n');
    expect(read(`Number;Colonies\n${rows}`).rows).toHaveLength(200_000);
  });
});
