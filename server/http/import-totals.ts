import type { ImportTotals } from '@zusammen/core/api';
import { totalsOfImport, type Database, type ImportRow } from '../store/index.ts';
import { Seldom } from './seldom.ts';

const asked = new WeakMap<Database, Seldom<ImportTotals>>();

/**
 * How many of an import's rows came to which state. A page that shows them asks every second, and to count hundreds of
 * thousands of rows takes longer than that: they are counted as often as that costs a tenth of the time, and anew when
 * the last row has been taken in.
 */
export function importTotals(db: Database, row: ImportRow): Promise<ImportTotals> {
  let seldom = asked.get(db);
  if (!seldom) asked.set(db, (seldom = new Seldom()));
  return seldom.of(`${row.id} ${row.state}`, () => totalsOfImport(db, row));
}
