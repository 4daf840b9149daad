import exceljs from 'exceljs';
import { seededRandom } from '../standins/random.ts';

/** So many cards there are; so many name a keeper whom several people are called like. */
export const CARDS = 412;
const UNSURE = 9;
const UNKNOWN = [
  'Krähenbühl, Lys',
  'Obermoser, Quirin',
  'Tschudi, Reto',
  'Wąsowska, Ludmiła',
  'Featherstonehaugh, Ptolemy',
];
const FORAGE = [
  'Linde',
  'Raps',
  'Klee',
  'Robinie',
  'Heide',
  'Obst',
  'Ahorn',
  'Kastanie',
  'Löwenzahn',
  'Phacelia',
  'Brombeere',
];
const NOTES = [
  'Zufahrt über den Deich, Schlüssel beim Nachbarn.',
  'Two colonies without a queen in May.',
  'Dojazd tylko od strony rzeki.',
  'Stand am Waldrand, im Winter schlecht zu erreichen. ',
];

export interface Person {
  first_name: string | null;
  last_name: string | null;
}

/** Everybody whom a CRM knows. @param service where its OData service is, with a slash at the end */
export async function peopleOf(service: string): Promise<Person[]> {
  const found: Person[] = [];
  for (let url: string | undefined = `${service}People?$select=first_name,last_name`; url; ) {
    const response: Response = await fetch(url, { headers: { Authorization: 'Bearer demo-administrator' } });
    const page = (await response.json()) as { value: Person[]; '@odata.nextLink'?: string };
    found.push(...page.value);
    const next = page['@odata.nextLink'];
    url = next === undefined ? undefined : new URL(next, service).href;
  }
  return found;
}

/**
 * Registration cards in a spreadsheet, as somebody at the co-operative would have kept them: with a title above the table,
 * spellings that differ, stand-ins for nothing, dates of both kinds, totals and a note below. Keepers are people whom the
 * CRM knows, some of whom it can't tell apart by name, and a few strangers; the same people give the same cards.
 */
export async function apiaryCards(people: readonly Person[]): Promise<Buffer> {
  const counts = new Map<string, number>();
  for (const { first_name: first, last_name: last } of people)
    if (first && last && !first.endsWith('.'))
      counts.set(`${last}, ${first}`, (counts.get(`${last}, ${first}`) ?? 0) + 1);
  const named = [...counts].sort((a, b) => (a[0] < b[0] ? -1 : 1));
  const once = named.filter(([, count]) => count === 1).map(([name]) => name);
  const often = named.filter(([, count]) => count > 1).map(([name]) => name);

  const random = seededRandom(1871);
  const below = (most: number): number => Math.floor(random() * most);
  const pick = <T>(from: readonly T[]): T => from[below(from.length)]!;
  const two = (n: number): string => String(n).padStart(2, '0');

  const workbook = new exceljs.Workbook();
  const sheet = workbook.addWorksheet('Karten');
  sheet.addRow(['Registration cards of the co-operative, as of November']);
  sheet.mergeCells('A1:I1');
  sheet.addRow([]);
  sheet.addRow(['Reg. no.', 'Status', 'Keeper', 'Colonies', 'First seen', 'Forage', 'Last insp.', 'Notes', 'Office']);
  let sum = 0;
  for (let card = 1; card <= CARDS; card += 1) {
    const unsure = card % 45 === 0 && card / 45 <= UNSURE;
    const unknown = card % 80 === 7 ? UNKNOWN[Math.floor(card / 80)] : undefined;
    const keeper = unknown ?? (unsure ? pick(often) : once[(card * 7) % Math.min(once.length, 190)]!);
    const colonies = below(65);
    sum += colonies;
    const forage = [...new Set(Array.from({ length: 1 + below(3) }, () => pick(FORAGE)))];
    const inspected = new Date(Date.UTC(2024, below(24), 1 + below(28)));
    const status =
      card % 41 === 0
        ? 'Aktiv '
        : card % 137 === 0
          ? 'aufgelösst'
          : pick(['aktiv', 'aktiv', 'ruht', 'neu', 'aufgelöst']);
    const note = card % 5 === 0 ? pick(NOTES) : card === 18 ? pick(NOTES).repeat(12).slice(0, 611) : null;
    const row = sheet.addRow([
      ...[`HB-${String(card).padStart(4, '0')}`, status, keeper, colonies],
      `${two(1 + below(28))}.${two(1 + below(12))}.${2011 + below(15)}`,
      ...[forage.join('; '), card % 24 === 0 ? 'n/a' : inspected, note],
    ]);
    row.getCell(7).numFmt = 'dd.mm.yyyy';
  }
  sheet.addRow(['Summe', null, null, sum]);
  sheet.addRow([]);
  sheet.addRow(['Written down from the cards by the office; the paper ones are in the blue folder.']);
  sheet.getRow(3).font = { bold: true };
  return Buffer.from(await workbook.xlsx.writeBuffer());
}
