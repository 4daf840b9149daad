import { inOrder, meetsAll, says } from '@zusammen/core/asking';
import type { Comparison, ReadOrder } from '@zusammen/core/forms/hosted';
import type { Entity, RecordState } from '@zusammen/core/schema';
import type { From, Page, System } from './system.ts';

/** What records are looked for by, where some are offered to be chosen among. */
export interface Wanted {
  /** All have to hold. */
  where: readonly Comparison[];
  /** A field has this somewhere in it, in capitals or not. */
  text?: { field: string; says: string } | undefined;
  order: readonly ReadOrder[];
  /** The fields that are read; no others are. */
  fields: readonly string[];
  limit: number;
}

/** Records looked through where a system can't be asked; those behind them aren't offered. */
export const MOST_LOOKED_THROUGH = 2_000;

/**
 * Looks for records to be offered: the system is asked as far as it can be, and what it gives is looked at once more, so
 * that nothing is offered that doesn't meet what was asked for.
 * @throws SystemTrouble
 */
export async function lookFor(system: System, entity: Entity, look: Wanted): Promise<RecordState[]> {
  // What they are looked at by is read as well, and what names them.
  const fields = [
    ...new Set([
      ...(entity.keyParts ?? [entity.key]),
      ...look.fields,
      ...look.where.map(({ field }) => field),
      ...look.order.map(({ field }) => field),
      ...(look.text ? [look.text.field] : []),
    ]),
  ];
  const found = (await system.look?.(entity, { ...look, fields })) ?? (await lookThrough(system, entity, fields));
  const fit = found.filter(
    ({ values }) =>
      meetsAll(values, look.where, entity) && (!look.text || says(values, look.text.field, look.text.says)),
  );
  // Some don't order as they are asked to: what came is in order all the same.
  return inOrder(fit, look.order).slice(0, look.limit);
}

/**
 * All records that meet conditions, page by page: the system is asked as far as it can be, and others are left out here.
 * @throws SystemTrouble
 */
export async function* pagesMeeting(
  system: System,
  entity: Entity,
  where: readonly Comparison[],
  fields: readonly string[],
): AsyncGenerator<Page> {
  const known = new Set(entity.fields.map(({ name }) => name));
  const asked = [...(entity.keyParts ?? [entity.key]), ...fields, ...where.map(({ field }) => field)];
  const wanted = [...new Set(asked)].filter((name) => known.has(name));
  let from: From = { where };
  for (;;) {
    const page = await system.page(entity, wanted, from);
    yield { ...page, records: page.records.filter(({ values }) => meetsAll(values, where, entity)) };
    if (page.next === undefined) return;
    from = { link: page.next };
  }
}

/** Ids asked for by one request: their conditions have to fit into an address. */
const IDS_AT_ONCE = 40;
const SINGLY_AT_ONCE = 16;

/** Records by their ids, several by one request where the system gives them so; those that aren't there are left out. @throws SystemTrouble */
export async function readEach(
  system: System,
  entity: Entity,
  ids: readonly string[],
): Promise<Map<string, RecordState>> {
  const found = new Map<string, RecordState>();
  for (let at = 0; at < ids.length && system.several; at += IDS_AT_ONCE)
    for (const record of await system.several(entity, ids.slice(at, at + IDS_AT_ONCE))) found.set(record.id, record);
  const missing = [...new Set(ids)].filter((id) => !found.has(id));
  for (let at = 0; at < missing.length; at += SINGLY_AT_ONCE) {
    const some = missing.slice(at, at + SINGLY_AT_ONCE);
    const read = await Promise.all(some.map((id) => system.read(entity, id)));
    some.forEach((id, index) => read[index] && found.set(id, read[index]));
  }
  return found;
}

/** So many records of an entity, whichever the system gives first. @throws SystemTrouble */
export async function someOf(
  system: System,
  entity: Entity,
  fields: readonly string[],
  limit: number,
): Promise<RecordState[]> {
  const wanted = [...new Set([...(entity.keyParts ?? [entity.key]), ...fields])];
  const asked = await system.look?.(entity, { where: [], order: [], fields: wanted, limit });
  return (asked ?? (await system.page(entity, wanted)).records).slice(0, limit);
}

/** The first records of an entity, page by page. */
async function lookThrough(system: System, entity: Entity, fields: readonly string[]): Promise<RecordState[]> {
  const records: RecordState[] = [];
  let from: From | undefined;
  do {
    const page: Page = await system.page(entity, fields, from);
    records.push(...page.records);
    from = page.next === undefined ? undefined : { link: page.next };
  } while (from && records.length < MOST_LOOKED_THROUGH);
  return records.slice(0, MOST_LOOKED_THROUGH);
}
