import { conversionOf, valuesOfRecord, type Converted } from '@zusammen/core/intake';
import { beyondBounds } from '@zusammen/core/plans';
import { entityOf, type Entity, type RecordState } from '@zusammen/core/schema';
import { conversionUnder, type Acting, type Database, type Submission } from '../../store/index.ts';
import { NotUnderstood, readEach, type ActingPerson, type Systems } from '../../systems/index.ts';
import type { Acceptor } from '../accept.ts';
import { carryOutAgain } from '../again.ts';
import type { LiveIntake, LiveView } from '../live.ts';

/** What converting works with. */
export interface Converting {
  db: Database;
  systems: Pick<Systems, 'client'>;
  live: LiveView;
  acceptor: Acceptor;
}

/** What became of one record that was to be converted. */
export type OneConverted =
  /** @member again it had been taken in before, by another bulk or singly */
  | { record: string; submission: string; again: boolean }
  /** Why it can't be, in words. */
  | { record: string; why: string };

/** By whom, and with which others. */
export interface ConvertedBy {
  acting?: Acting & { token: ActingPerson };
  bulkId?: string;
}

/** So many records are read, and become submissions, before the next are. */
const AT_ONCE = 50;
/** What came to nothing, or was undone, is done again when somebody converts the record once more. */
const DONE_AGAIN = ['taken back', 'set aside', 'refused', 'failed'] as const satisfies Submission['state'][];

/** The entity whose records are converted. @throws NotUnderstood where it can't be seen */
export async function convertedEntity(live: LiveView, { system, entity: name }: Converted): Promise<Entity> {
  const entity = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, name);
  if (!entity?.rights.read) throw new NotUnderstood(`${name} can’t be read in its system.`);
  return entity;
}

/** Under which key a record is converted once, or once a version. */
export function conversionKey({ system, entity, converted }: Converted, { id, etag }: RecordState): string {
  const version = converted === 'each version' ? ` ${etag ?? ''}` : '';
  return `record ${entity.slice(0, 60)} ${id}${version}`.slice(0, 160) + ` ${system.slice(-12)}`;
}

/** Converts records by their ids: each is read, and becomes a submission of its own. @throws SystemTrouble */
export async function convertRecords(
  converting: Converting,
  found: LiveIntake,
  ids: readonly string[],
  by: ConvertedBy = {},
): Promise<OneConverted[]> {
  const conversion = conversionOf(found.document)!;
  const entity = await convertedEntity(converting.live, conversion);
  const client = await converting.systems.client(conversion.system, by.acting?.token);
  const all: OneConverted[] = [];
  for (let at = 0; at < ids.length; at += AT_ONCE) {
    const some = ids.slice(at, at + AT_ONCE);
    const records = await readEach(client, entity, some);
    all.push(
      ...(await Promise.all(
        some.map((id) => {
          const record = records.get(id);
          return record
            ? convertRecord(converting, found, entity, record, by)
            : { record: id, why: 'There is no such record.' };
        }),
      )),
    );
  }
  return all;
}

/** Converts one record as it was read. */
export async function convertRecord(
  { db, live, acceptor }: Converting,
  found: Pick<LiveIntake, 'intake' | 'version' | 'document'>,
  entity: Entity,
  record: RecordState,
  { acting, bulkId }: ConvertedBy = {},
): Promise<OneConverted> {
  const { document, intake } = found;
  const conversion = conversionOf(document)!;
  const values = valuesOfRecord(document.fields, entity, record);
  const beyond = beyondBounds(values, document.fields, document.plan);
  if (beyond) return { record: record.id, why: `${beyond.field} ${beyond.reason}`.slice(0, 400) };
  const key = conversionKey(conversion, record);
  const { id, again } = await acceptor.accept(found, {
    ...{ values, via: acting ? 'panel' : 'record', receivedAt: new Date(), idempotencyKey: key },
    ofRecord: {
      ...{ system: conversion.system, entity: conversion.entity, id: record.id },
      ...(record.etag === undefined ? {} : { etag: record.etag }),
    },
    ...(acting ? { acting: { system: acting.system, person: acting.person, name: acting.name } } : {}),
    ...(bulkId === undefined ? {} : { bulkId }),
  });
  if (!again) return { record: record.id, submission: id, again };
  const before = await conversionUnder(db, intake.id, key);
  if (before && DONE_AGAIN.some((each) => each === before.state))
    await carryOutAgain(db, live, before, [...DONE_AGAIN], { underLive: true });
  // What this very bulk took in before it was cut short isn't counted twice.
  return { record: record.id, submission: id, again: bulkId === undefined || before?.bulkId !== bulkId };
}
