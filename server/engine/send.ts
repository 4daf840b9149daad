import type { Criterion } from '@zusammen/core/plans';
import { madeAtField, type Entity, type RecordState } from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import type { LedgerRow } from '../store/index.ts';
import { criteriaOf, type Answer, type System } from '../systems/index.ts';

/**
 * Sends a change; one sent before, to a system that can't repeat requests, is looked for first.
 * @param again 'by another': it may have been sent before by somebody else, whose repetitions a system tells apart
 * @param together changes of the same group may go out in one batch, and all or none of them may be wanted
 */
export async function send(
  system: System,
  entity: Entity,
  row: LedgerRow,
  again: boolean | 'by another',
  together?: { group: string; atomic: boolean },
): Promise<Answer> {
  if (row.action === 'schema') throw new Error('A change of a schema is no change of a record.');
  const repetition = again ? system.repetition(entity, row.action) : 'safe';
  if (repetition === 'unknown') return { kind: 'unclear', records: [] };
  if (repetition === 'looking' || again === 'by another') {
    const done =
      row.action === 'create' ? await madeBefore(system, entity, row) : await changedBefore(system, entity, row);
    if (done) return done;
  }
  const sending = { requestId: row.requestId, firstSent: row.intendedAt, again: again !== false, ...together };
  if (row.action === 'create') return system.create(entity, row.after, sending);
  if (row.action === 'delete') return system.remove(entity, row.recordId!, row.etagBefore ?? undefined, sending);
  return system.update(entity, row.recordId!, row.after, row.etagBefore ?? undefined, sending);
}

/** Whether a change that was cut short took place, judged by what the system holds now; undefined when it didn't. */
async function changedBefore(system: System, entity: Entity, row: LedgerRow): Promise<Answer | undefined> {
  const record = await system.read(entity, row.recordId!);
  if (row.action === 'delete' && !record) return { kind: 'done', record: { id: row.recordId!, values: {} } };
  if (!record) return { kind: 'overtaken' };
  const there =
    row.action === 'update' &&
    Object.entries(row.after).every(([name, value]) => sameValue(record.values[name], value));
  if (there) return { kind: 'done', record };
  // Without versions, what it held before tells whether somebody else was there meanwhile.
  const isAsBefore =
    row.etagBefore === null
      ? Object.entries(row.before).every(([name, value]) => sameValue(record.values[name], value))
      : record.etag === row.etagBefore;
  return isAsBefore ? undefined : { kind: 'overtaken' };
}

/** How many records alike are looked at; where there are more, a person has to. */
const MOST_ALIKE = 20;
/** How far another system's clock may be off ours before its moments say nothing about ours, in milliseconds. */
const CLOCKS_APART_MS = 120_000;
/** How far what an answer says of its clock may be off, in milliseconds: it tells whole seconds. */
const CLOCK_SAID_MS = 1_500;

/**
 * Whether a creation that was cut short took place. Ours is only a record made since we meant to, with all values
 * alike, and only if there is just one: an older one is somebody else's, and about any other a person decides.
 * @returns undefined when there is none that could be ours
 */
async function madeBefore(system: System, entity: Entity, row: LedgerRow): Promise<Answer | undefined> {
  const criteria = criteriaOf(entity, row.after);
  if (criteria.length === 0) return { kind: 'unclear', records: [] };
  const found = await system.find(entity, criteria, MOST_ALIKE, true);
  const alike = found.filter(({ values }) =>
    Object.entries(row.after).every(([name, value]) => !Array.isArray(value) || sameValue(values[name], value)),
  );
  // By the system's own clock, where its answers tell how far that is from ours.
  const since = row.intendedAt.getTime() + (system.clockAhead ?? 0) - (system.clockAhead ? CLOCK_SAID_MS : 0);
  const latest = Date.now() + (system.clockAhead ?? 0) + CLOCKS_APART_MS;
  const { ours, maybe } = byMaking(entity, alike, since, latest);
  const [only, ...more] = ours;
  if (only && more.length === 0 && maybe.length === 0) return { kind: 'done', record: only };
  const unclear = [...ours, ...maybe];
  if (unclear.length > 0) return { kind: 'unclear', records: unclear };
  // A system may keep a value otherwise than it was sent; what surely names somebody finds the record all the same.
  const telling = tellingOf(entity, criteria);
  if (!telling) return undefined;
  const near = byMaking(entity, await system.find(entity, [telling], MOST_ALIKE, true), since, latest);
  const others = [...near.ours, ...near.maybe];
  return others.length === 0 ? undefined : { kind: 'unclear', records: others };
}

/** Which records were made since a moment, and of which that can't be told. @param latest what is later says nothing */
function byMaking(entity: Entity, records: readonly RecordState[], since: number, latest: number) {
  const field = madeAtField(entity)?.name;
  const ours: RecordState[] = [];
  const maybe: RecordState[] = [];
  for (const record of records) {
    const said = field === undefined ? undefined : record.values[field];
    const whole = typeof said === 'string' && !/\.\d*[1-9]/.test(said);
    // A moment in whole seconds may be anywhere within its second.
    const made = typeof said === 'string' ? Date.parse(said) + (whole ? 999 : 0) : NaN;
    if (Number.isNaN(made) || made > latest) maybe.push(record);
    else if (made >= since) ours.push(record);
    else if (made > since - CLOCKS_APART_MS) maybe.push(record);
  }
  return { ours, maybe };
}

/** The value by which a record is found however the rest of it is kept: an e-mail address, or what is unique. */
function tellingOf({ fields }: Entity, criteria: readonly Criterion[]): Criterion | undefined {
  const of = (fits: (field: Entity['fields'][number]) => boolean): Criterion | undefined =>
    criteria.find(({ field, value }) => !isBlank(value) && fields.some((each) => each.name === field && fits(each)));
  const unique = of((field) => field.unique);
  const email = of(({ type }) => type === 'email');
  return unique ?? (email && { ...email, value: String(email.value).toLowerCase(), folded: true });
}
