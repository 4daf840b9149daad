import { readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import papaparse from 'papaparse';
import { readPersonName } from '../core/values/index.ts';
import { organisationMatcher, peopleMatcher, type Answer } from '../core/recognition/index.ts';

const USAGE =
  'npm run recognise -- --records a.csv --queries b.csv --out answers.csv [--kind person|organisation]\n' +
  'Columns by name: id, first_name, last_name, email, phone, street, city, postcode, country, birth_date, organisation;\n' +
  'name, website for organisations; a column type (person or organisation) splits a mixed file.';

type Row = Record<string, string> & { id: string };
type KindName = 'person' | 'organisation';

class Refused extends Error {}

/**
 * Matches one file of records against another; writes `query_id,record_id,weight,verdict`, a row per query in its order.
 * @param cwd where relative paths start
 * @returns the exit code: 0 done, 2 not understood
 */
export function recognise(args: string[], cwd: string): number {
  try {
    const { records, queries, out, kind } = optionsOf(args);
    const known = readRows(resolve(cwd, records), 'records');
    const asked = readRows(resolve(cwd, queries), 'queries');
    const started = performance.now();
    const answers = answersTo(known, asked, kind);
    writeFileSync(resolve(cwd, out), written(asked, answers));
    const seconds = ((performance.now() - started) / 1000).toFixed(1);
    const count = (verdict: string): number => answers.filter((answer) => answer.verdict === verdict).length;
    console.log(
      `${asked.length} queries against ${known.length} records in ${seconds} s: ${count('same')} same, ${count('unsure')} unsure, ${count('different')} different.`,
    );
    return 0;
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    console.error(`${error.message}\n\n${USAGE}`);
    return 2;
  }
}

function optionsOf(args: string[]): { records: string; queries: string; out: string; kind: KindName } {
  let values: Record<string, string | undefined>;
  try {
    const text = { type: 'string' } as const;
    ({ values } = parseArgs({ args, options: { records: text, queries: text, out: text, kind: text } }));
  } catch (error) {
    throw new Refused((error as Error).message);
  }
  const { records, queries, out, kind = 'person' } = values;
  if (!records || !queries || !out) throw new Refused('--records, --queries and --out are needed.');
  if (kind !== 'person' && kind !== 'organisation') throw new Refused('--kind is person or organisation.');
  return { records, queries, out, kind };
}

/** @throws Refused when the file can't be read, has no column id, or an id comes twice */
function readRows(path: string, what: string): Row[] {
  let text: string;
  try {
    text = readFileSync(path, 'utf8').replace(/^\uFEFF/, '');
  } catch (error) {
    throw new Refused(`The ${what} can't be read: ${(error as Error).message}`);
  }
  const { data, meta } = papaparse.parse<Row>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) =>
      name
        .trim()
        .toLowerCase()
        .replace(/[\s-]+/g, '_'),
  });
  if (!meta.fields?.includes('id')) throw new Refused(`The ${what} have no column id.`);
  const seen = new Set<string>();
  for (const { id } of data) {
    if (seen.has(id)) throw new Refused(`In the ${what} the id ${id} comes twice.`);
    seen.add(id);
  }
  return data;
}

const kindOf = ({ type }: Row, otherwise: KindName): KindName => {
  const said = (type ?? '').trim().toLowerCase();
  if (said === '') return otherwise;
  return /^org|^compan|^firm/.test(said) ? 'organisation' : 'person';
};

/** A person whose whole name stands in one column. */
const named = (row: Row): Row => {
  if (row['first_name'] || row['last_name'] || !row['name']) return row;
  const reading = readPersonName(row['name']);
  return reading.ok ? { ...row, first_name: reading.value.given, last_name: reading.value.family } : row;
};

function answersTo(known: readonly Row[], asked: readonly Row[], otherwise: KindName): Answer[] {
  const of = (kind: KindName): Row[] => known.filter((row) => kindOf(row, otherwise) === kind);
  const matchers = {
    person: peopleMatcher(of('person').map(named)),
    organisation: organisationMatcher(of('organisation')),
  };
  return asked.map((row) =>
    kindOf(row, otherwise) === 'person' ? matchers.person.match(named(row)) : matchers.organisation.match(row),
  );
}

function written(asked: readonly Row[], answers: readonly Answer[]): string {
  const rows = answers.map(({ record = '', weight, verdict }, at) => [
    asked[at]!.id,
    record,
    weight.toFixed(2),
    verdict,
  ]);
  return `${papaparse.unparse({ fields: ['query_id', 'record_id', 'weight', 'verdict'], data: rows }, { newline: '\n' })}\n`;
}
