import { readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import papaparse from 'papaparse';
import {
  ANSWER_COLUMNS,
  answerRows,
  listedRecords,
  matchLists,
  UnusableList,
  type KindName,
  type ListedRecord,
} from '../core/recognition/index.ts';

const USAGE =
  'npm run recognise -- --records a.csv --queries b.csv --out answers.csv [--kind person|organisation]\n' +
  'Columns by name: id, first_name, last_name, email, phone, street, city, postcode, country, birth_date, organisation;\n' +
  'name, website for organisations; a column type (person or organisation) splits a mixed file.';

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
    const answers = matchLists(known, asked, kind);
    const data = answerRows(asked, answers);
    const text = papaparse.unparse({ fields: ANSWER_COLUMNS, data }, { newline: '\n' });
    writeFileSync(resolve(cwd, out), `${text}\n`);
    const seconds = ((performance.now() - started) / 1000).toFixed(1);
    const count = (verdict: string): number => answers.filter((answer) => answer.verdict === verdict).length;
    console.log(
      `${asked.length} queries against ${known.length} records in ${seconds} s: ${count('same')} same, ${count('unsure')} unsure, ${count('different')} different.`,
    );
    return 0;
  } catch (error) {
    if (!(error instanceof UnusableList)) throw error;
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
    throw new UnusableList((error as Error).message);
  }
  const { records, queries, out, kind = 'person' } = values;
  if (!records || !queries || !out) throw new UnusableList('--records, --queries and --out are needed.');
  if (kind !== 'person' && kind !== 'organisation') throw new UnusableList('--kind is person or organisation.');
  return { records, queries, out, kind };
}

/** @throws UnusableList when the file can't be read, has no column id, or an id comes twice */
function readRows(path: string, what: string): ListedRecord[] {
  let text: string;
  try {
    text = readFileSync(path, 'utf8').replace(/^\uFEFF/, '');
  } catch (error) {
    throw new UnusableList(`The ${what} can't be read: ${(error as Error).message}`);
  }
  const [columns = [], ...rows] = papaparse.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data;
  return listedRecords(columns, rows, what);
}
