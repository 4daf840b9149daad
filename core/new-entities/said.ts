import type { ColumnEvidence } from '../forms/index.ts';
import { counted, listed } from '../values/index.ts';
import type { ReferenceSeen, SheetColumn } from './model.ts';
import { joinedIn } from './propose.ts';

/** One thing that the rows say of a column. `look`: somebody should look at it. */
export interface Said {
  words: string;
  look: boolean;
}

const years = (from: string, to: string): string =>
  from.slice(0, 4) === to.slice(0, 4) ? `${from} to ${to}` : `${from.slice(0, 4)} to ${to.slice(0, 4)}`;

/** What the rows say of a column that becomes a field, in words; what needs a look first. */
export function saidByRows(
  column: SheetColumn,
  evidence: ColumnEvidence,
  reference?: Pick<ReferenceSeen, 'found' | 'unsure' | 'nobody'>,
): Said[] {
  const { field } = column;
  if (!field) return [{ words: whyLeftOut(evidence), look: false }];
  const looks: string[] = [];
  const words: string[] = [];
  const { misfits, misfitting, fillers, blank, of, distinct, twice, longest, order, least, greatest } = evidence;
  const isOwnKind = kindOfField(column) === evidence.kind;
  if (misfits > 0 && isOwnKind)
    looks.push(
      `${misfits} can’t be read: ${listed(
        misfitting.map(({ value }) => value),
        { quoted: true, most: 2 },
      )}`,
    );
  if (fillers.length > 0)
    looks.push(
      `${fillers.reduce((sum, { count }) => sum + count, 0)} fill it with ${listed(
        fillers.map(({ value }) => value),
        { most: 2 },
      )}: left blank`,
    );
  if (evidence.dayNumbers && field.type === 'integer') looks.push('may be days counted as a workbook does');
  if (field.unique) words.push('no two alike, none blank');
  else if (distinct !== null && !twice && distinct > 1 && field.type === 'text') words.push('no two alike');
  if (field.type === 'reference' && reference)
    words.push(`${reference.found} found, ${reference.unsure} unsure, ${reference.nobody} nobody`);
  if (field.type === 'date' && least !== undefined) words.push(years(least, greatest!));
  if (field.type === 'date' && order) {
    if (order.against > 0) looks.push(`${order.against} can only be the other way round`);
    else if (order.proved > 0) words.push(`${order.proved} can only be ${order.order}`);
    else looks.push(`none proves which comes first; ${column.order ?? order.order} is taken`);
  }
  if ((field.type === 'integer' || field.type === 'number') && least !== undefined)
    words.push(`${least} to ${greatest}`);
  if (field.type === 'number' && evidence.currencies?.length) words.push(listed(evidence.currencies));
  if (column.by !== undefined) words.push(`parted by “${column.by === '\n' ? 'line breaks' : column.by}”`);
  if (field.options) {
    const joined = [...joinedIn(column).values()].filter((spellings) => spellings.length > 1);
    for (const spellings of joined.slice(0, 1))
      words.push(
        `${listed(spellings, { quoted: true, most: 2 })} are one${joined.length > 1 ? `, and ${joined.length - 1} more` : ''}`,
      );
  }
  if ((field.type === 'text' && !field.unique) || field.type === 'long text')
    words.push(
      `longest ${counted(longest.characters, 'character')}${longest.bytes === longest.characters ? '' : `, ${longest.bytes} bytes`}`,
    );
  const empty = blank - fillers.reduce((sum, { count }) => sum + count, 0);
  if (empty > 0) words.push(`${empty} of ${of} blank`);
  return [
    ...looks.map((each) => ({ words: each, look: true })),
    ...words.map((each) => ({ words: each, look: false })),
  ];
}

function whyLeftOut({ of, blank }: ColumnEvidence): string {
  return of === blank ? 'blank in every row' : 'left out';
}

/** The kind of value that a column's field takes, as its rows would be told by it. */
function kindOfField({ field, money, by }: SheetColumn): ColumnEvidence['kind'] | undefined {
  switch (field?.type) {
    case 'integer':
      return 'whole number';
    case 'number':
      return money ? 'money' : 'decimal';
    case 'option':
      return by === undefined ? 'option' : 'options';
    case 'reference':
      return undefined;
    default:
      return field?.type as ColumnEvidence['kind'] | undefined;
  }
}

/** What a column becomes, in a few words. */
export function becomesInWords({ field, order, reference }: SheetColumn, entityLabel?: string): string {
  if (!field) return 'left out';
  switch (field.type) {
    case 'text':
      return field.maxLength === undefined ? 'text' : `text, up to ${field.maxLength}`;
    case 'integer':
      return 'whole number';
    case 'number':
      return field.scale === undefined ? 'number' : `number, ${counted(field.scale, 'decimal')}`;
    case 'date':
      return order === undefined ? 'date' : `date, ${order}`;
    case 'option':
    case 'options':
      return `${field.type}, ${field.options?.length ?? 0}`;
    case 'reference':
      return `→ ${entityLabel ?? field.relation ?? '?'} by ${reference?.by === 'field' ? 'key' : 'name'}`;
    default:
      return field.type;
  }
}
