import type { Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { AUTOFILL, meaningsOf, type Meaning } from './lexicon.ts';
import { tellingWords } from './words.ts';

interface Named {
  name: string;
  label: string;
  type: string;
  autocomplete?: string;
  /** It holds an id. */
  record?: object;
}

/** Meanings by which people call a submission, the best first; those of one row are joined. */
const CALLED_BY: Meaning[][] = [
  ['organisation'],
  ['given name', 'family name'],
  ['full name'],
  ['name'],
  ['email'],
  ['phone'],
];

/** Which fields say what, worked out once for each list of fields. */
const calledBy = new WeakMap<readonly Named[], string[][]>();

/** Rows of field names by which submissions with these fields can be called, the best row first. */
function rowsOf(fields: readonly Named[]): string[][] {
  const known = calledBy.get(fields);
  if (known) return known;
  const meanings = fields.map((field) => {
    const spotted = [...meaningsOf(tellingWords(field.label)), ...meaningsOf(tellingWords(field.name))];
    // By its id nobody calls anything.
    if (field.record) return new Set<Meaning>();
    const token = field.autocomplete && AUTOFILL[field.autocomplete];
    return new Set<Meaning>(
      field.type === 'email' ? ['email'] : [...(token ? [token] : []), ...spotted.map(({ meaning }) => meaning)],
    );
  });
  const names = (meaning: Meaning): string[] =>
    fields.flatMap(({ name }, at) => (meanings[at]!.has(meaning) ? [name] : []));
  // Of several fields with one meaning any that is filled will do, so each makes a row of its own.
  const rows = CALLED_BY.flatMap((row) =>
    row.length === 1 ? names(row[0]!).map((name) => [name]) : [row.flatMap((meaning) => names(meaning).slice(0, 1))],
  );
  calledBy.set(fields, rows);
  return rows;
}

/** What a submission is called in lists: the organisation, the person or the address it speaks of; else its first value. */
export function titleOf(fields: readonly Named[], values: Readonly<Values>): string {
  for (const row of rowsOf(fields)) {
    const said = row
      .map((name) => values[name])
      .filter((value) => !isBlank(value))
      .map((value) => String(value).trim());
    if (said.length > 0) return [...new Set(said)].join(' ');
  }
  return String(Object.values(values).find((value) => !isBlank(value)) ?? '').slice(0, 80);
}
