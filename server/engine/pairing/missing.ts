import { missingOptions, type MissingOptions } from '@zusammen/core/pairing';
import { heldByCause, type Database } from '../../store/index.ts';
import type { Applied } from './view.ts';

/** Different values looked at, of those that are refused for one reason. */
const MOST_LOOKED_AT = 500;
/** More options at once are nobody's mistake in spelling. */
const MOST_OPTIONS = 50;

/** The options that are missing where fields of pairs are refused for one reason; undefined: it has another cause. */
export async function missingFor(
  db: Database,
  pairing: Pick<Applied, 'id' | 'ready'>,
  lineId: string,
  cause: string,
): Promise<MissingOptions | undefined> {
  const line = pairing.ready.lines.find(({ line: { id } }) => id === lineId);
  if (!line?.fields.left.options && !line?.fields.right.options) return undefined;
  const missing = missingOptions(line, await heldByCause(db, pairing.id, cause, MOST_LOOKED_AT));
  return missing && { ...missing, options: missing.options.slice(0, MOST_OPTIONS) };
}
