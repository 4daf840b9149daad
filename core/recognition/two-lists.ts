import { readPersonName } from '../values/index.ts';
import type { KindName } from './document.ts';
import { organisationMatcher, peopleMatcher } from './kinds.ts';
import type { Answer } from './matcher.ts';

/** A record of a list: an id, and values under the names of the parts; `type` says what it is in a mixed list. */
export type ListedRecord = Record<string, string> & { id: string };

/** What keeps a list from being compared, in words. */
export class UnusableList extends Error {}

/** Turns the rows of a table into records, its columns by name. @throws UnusableList without a column id, or with one twice */
export function listedRecords(columns: readonly string[], rows: readonly string[][], what: string): ListedRecord[] {
  const names = columns.map((name) =>
    name
      .trim()
      .toLowerCase()
      .replace(/[\s-]+/g, '_'),
  );
  if (!names.includes('id')) throw new UnusableList(`The ${what} have no column id.`);
  const seen = new Set<string>();
  return rows.map((cells) => {
    const record = Object.fromEntries(names.map((name, at) => [name, cells[at] ?? ''])) as ListedRecord;
    if (seen.has(record.id)) throw new UnusableList(`In the ${what} the id ${record.id} comes twice.`);
    seen.add(record.id);
    return record;
  });
}

const kindOf = ({ type }: ListedRecord, otherwise: KindName): KindName => {
  const said = (type ?? '').trim().toLowerCase();
  if (said === '') return otherwise;
  return /^org|^compan|^firm/.test(said) ? 'organisation' : 'person';
};

/** A person whose whole name stands in one column. */
const named = (record: ListedRecord): ListedRecord => {
  if (record['first_name'] || record['last_name'] || !record['name']) return record;
  const reading = readPersonName(record['name']);
  return reading.ok ? { ...record, first_name: reading.value.given, last_name: reading.value.family } : record;
};

/** Whether each of one list is among another: an answer each, in their order. @param otherwise where no column says what it is */
export function matchLists(
  known: readonly ListedRecord[],
  asked: readonly ListedRecord[],
  otherwise: KindName,
): Answer[] {
  const of = (kind: KindName): ListedRecord[] => known.filter((record) => kindOf(record, otherwise) === kind);
  const people = peopleMatcher(of('person').map(named));
  const organisations = organisationMatcher(of('organisation'));
  return asked.map((record) =>
    kindOf(record, otherwise) === 'person' ? people.match(named(record)) : organisations.match(record),
  );
}

/** The columns of what is written of answers. */
export const ANSWER_COLUMNS = ['query_id', 'record_id', 'weight', 'verdict'];
export const answerRows = (asked: readonly ListedRecord[], answers: readonly Answer[]): string[][] =>
  answers.map(({ record = '', weight, verdict }, at) => [asked[at]!.id, record, weight.toFixed(2), verdict]);
