import { titleOf } from '@zusammen/core/mapping';
import { valuesOfRecord, type IntakeDocument } from '@zusammen/core/intake';
import { lanesOf } from '@zusammen/core/plans';
import { entityOf, type RecordState } from '@zusammen/core/schema';
import { hashed, renewSubmission, type Database } from '../../store/index.ts';
import { NotUnderstood, type Systems } from '../../systems/index.ts';
import type { Claimed } from '../claim.ts';
import type { LiveView } from '../live.ts';
import { TakenOver } from '../settle.ts';

/** The record is no longer there that was to be converted. */
export class RecordGone extends Error {}

/**
 * Looks at the record of a conversion once more before it is carried out.
 * @param ahead the record where it has just been read
 * @returns the record where it is as it was taken in; undefined where it has changed: its submission has the new values by
 * now, and is decided again
 * @throws RecordGone, TakenOver, SystemTrouble
 */
export async function asTakenIn(
  { db, live, systems }: { db: Database; live: LiveView; systems: Pick<Systems, 'client'> },
  submission: Claimed & { ofRecord: NonNullable<Claimed['ofRecord']> },
  document: IntakeDocument,
  ahead?: RecordState,
): Promise<RecordState | undefined> {
  const { system, entity: name, id, etag } = submission.ofRecord;
  const entity = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, name);
  if (!entity) throw new NotUnderstood(`${name} can't be seen in the system.`);
  const record = ahead ?? (await (await systems.client(system)).read(entity, id));
  if (!record) throw new RecordGone(`The ${entity.label} ${id} is no longer there.`);
  if (etag !== undefined && record.etag === etag) return record;
  const values = valuesOfRecord(document.fields, entity, record);
  if (sameValues(values, submission.values)) return record;
  const lanes = lanesOf(document, values, await live.allSchemas(), await live.known.recognitions()).map(hashed);
  const ofRecord = { system, entity: name, id, ...(record.etag === undefined ? {} : { etag: record.etag }) };
  const label = titleOf(document.fields, values).slice(0, 160);
  if (!(await renewSubmission(db, submission, { values, label, ofRecord, lanes }))) throw new TakenOver();
  return undefined;
}

const sameValues = (one: object, other: object): boolean =>
  JSON.stringify(sorted(one)) === JSON.stringify(sorted(other));

const sorted = (values: object): [string, unknown][] => Object.entries(values).sort(([a], [b]) => (a < b ? -1 : 1));
