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
