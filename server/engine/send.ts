import type { Entity, Value } from '@zusammen/core/schema';
import { sameValue } from '@zusammen/core/values';
import type { LedgerRow } from '../store/index.ts';
import type { Answer, System } from '../systems/index.ts';

/**
 * Sends a change; one sent before, to a system that can't repeat requests, is looked for first.
 * @param together changes of the same group may go out in one batch, and all or none of them may be wanted
 */
export async function send(
  system: System,
  entity: Entity,
  row: LedgerRow,
  again: boolean,
  together?: { group: string; atomic: boolean },
): Promise<Answer> {
  if (again && !system.capabilities.repeatability) {
    const done = await lookedUp(system, entity, row);
    if (done) return done;
  }
  const sending = { requestId: row.requestId, firstSent: row.intendedAt, ...together };
  if (row.action === 'create') return system.create(entity, row.after, sending);
  if (row.action === 'delete') return system.remove(entity, row.recordId!, row.etagBefore ?? undefined, sending);
  return system.update(entity, row.recordId!, row.after, row.etagBefore ?? undefined, sending);
}

/** Whether a change that was cut short took place, judged by what the system holds now; undefined when it didn't. */
async function lookedUp(system: System, entity: Entity, row: LedgerRow): Promise<Answer | undefined> {
  if (row.action === 'create') {
    const criteria = Object.entries(row.after)
      .filter(
        (entry): entry is [string, Exclude<Value, null | string[]>] => entry[1] !== null && !Array.isArray(entry[1]),
      )
      .map(([field, value]) => ({ field, value, folded: false }));
    const [found, ...more] = criteria.length === 0 ? [] : await system.find(entity, criteria, 2);
    return found && more.length === 0 ? { kind: 'done', record: found } : undefined;
  }
  const record = await system.read(entity, row.recordId!);
  if (row.action === 'delete') return record ? undefined : { kind: 'done', record: { id: row.recordId!, values: {} } };
  if (!record) return { kind: 'overtaken' };
  const there = Object.entries(row.after).every(([name, value]) => sameValue(record.values[name], value));
  if (there) return { kind: 'done', record };
  return row.etagBefore !== null && record.etag !== row.etagBefore ? { kind: 'overtaken' } : undefined;
}
