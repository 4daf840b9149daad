import type { Response } from 'express';
import { once } from 'node:events';
import { csv } from './csv.ts';
import { searchLedger, type Database, type LedgerLine, type LedgerSearch } from '../store/index.ts';

const PAGE = 1000;
const COLUMNS = [
  'change',
  'at',
  'submission',
  'about',
  'intake',
  'system',
  'entity',
  'record',
  'action',
  'state',
  'by',
  'field',
  'before',
  'after',
  'refusal',
];

/** What names stand for ids in an export. */
export interface Named {
  intake: (id: string | null) => string;
  system: (id: string) => string;
}

/** All changes that meet a search, newest first, in pages, so that millions need no more memory than some. */
async function* pages(db: Database, search: Omit<LedgerSearch, 'limit' | 'before'>): AsyncGenerator<LedgerLine[]> {
  let before: number | undefined;
  for (;;) {
    const page = await searchLedger(db, { ...search, limit: PAGE, ...(before === undefined ? {} : { before }) });
    if (page.length > 0) yield page;
    if (page.length < PAGE) return;
    before = page.at(-1)!.id;
  }
}

const shown = (value: unknown): string =>
  value === null || value === undefined ? '' : Array.isArray(value) ? value.join('; ') : String(value);

/** One row per field that was written; a change without fields is one row. */
function rowsOf(change: LedgerLine, named: Named): string[][] {
  const start = [
    String(change.id),
    change.intendedAt.toISOString(),
    change.submissionId,
    change.label,
    named.intake(change.intakeId),
    named.system(change.systemId),
    change.entity,
    change.recordId ?? '',
    change.action,
    change.undoneBy === null ? change.state : 'taken back',
    change.actor,
  ];
  const names = [...new Set([...Object.keys(change.before), ...Object.keys(change.after)])];
  const refusal = change.refusal?.words ?? '';
  return names.length === 0
    ? [[...start, '', '', '', refusal]]
    : names.map((name) => [...start, name, shown(change.before[name]), shown(change.after[name]), refusal]);
}

/**
 * Sends the changes that meet a search as CSV (RFC 4180; values that a spreadsheet would take for formulas defused, all of them quoted, since some split at other signs than the comma) or
 * as one JSON array. An export that breaks off is cut short on the wire, so that it isn't taken for whole.
 */
export async function sendLedger(
  response: Response,
  db: Database,
  search: Omit<LedgerSearch, 'limit' | 'before'>,
  format: 'csv' | 'json',
  named: Named,
): Promise<void> {
  response.setHeader('Content-Type', format === 'csv' ? 'text/csv; charset=utf-8; header=present' : 'application/json');
  response.setHeader('Content-Disposition', `attachment; filename="ledger.${format}"`);
  try {
    if (format === 'csv') await sendCsv(response, pages(db, search), named);
    else await sendJson(response, pages(db, search), named);
  } catch (error) {
    response.destroy();
    throw error;
  }
}

async function sendCsv(response: Response, found: AsyncGenerator<LedgerLine[]>, named: Named): Promise<void> {
  response.write(csv([COLUMNS]));
  for await (const page of found) {
    if (response.closed) return;
    await write(response, csv(page.flatMap((change) => rowsOf(change, named))));
  }
  response.end();
}

async function sendJson(response: Response, found: AsyncGenerator<LedgerLine[]>, named: Named): Promise<void> {
  let first = true;
  response.write('[');
  for await (const page of found) {
    if (response.closed) return;
    const text = page
      .map(({ etagBefore: _b, etagAfter: _a, requestId: _r, turn: _t, intakeId, systemId, ...change }) =>
        JSON.stringify({ ...change, intake: named.intake(intakeId), system: named.system(systemId) }),
      )
      .join(',\n');
    await write(response, `${first ? '' : ',\n'}${text}`);
    first = false;
  }
  response.end(']\n');
}

/** No faster than it is taken. */
export async function write(response: Response, text: string): Promise<void> {
  if (!response.write(text)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
}
