import type { Entity, Field, RecordState } from '@zusammen/core/schema';
import { isFingerprint } from '../fingerprint.ts';
import type { HttpResponse } from '../http.ts';
import { NotUnderstood, SystemUnavailable, type Answer } from '../system.ts';
import { idFrom, parsed, recordOf } from './records.ts';

/** What a service's answers come to, beyond what they say by themselves. */

export const UNADDRESSED: Answer = {
  kind: 'refused',
  refusal: {
    kind: 'other',
    words: 'This system gives no record by its key, so none of its records can be changed or deleted.',
    fields: [],
  },
};

/** Some answer that a record isn't there by an empty list under 200, or by 204. */
export function isNothing({ key }: Entity, { status, text }: HttpResponse): boolean {
  if (status === 204) return true;
  if (status !== 200 || text.length > 1_000) return false;
  try {
    const body = JSON.parse(text) as Record<string, unknown> | null;
    return body === null || (Array.isArray(body['value']) && body['value'].length === 0 && !Object.hasOwn(body, key));
  } catch {
    return false;
  }
}

export const keyField = (field: Field): Field => ({ ...field, name: field.linkKey ?? 'id', type: 'id', linked: false });

/** The record that a write's answer shows; undefined where it shows none, or not enough to know it by. */
export function shownIn(entity: Entity, response: HttpResponse, tag: { tag?: string }): RecordState | undefined {
  if (response.status === 204 || response.text.trim() === '') return undefined;
  try {
    return recordOf(entity, parsed(response), tag);
  } catch (error) {
    if (error instanceof NotUnderstood) return undefined;
    throw error;
  }
}

/** Whether an answer shows all of a record; one that shows only what was sent says nothing of how it will be read. */
export const isComplete = (entity: Entity, { values, etag }: RecordState): boolean =>
  !isFingerprint(etag) ||
  entity.fields.every(({ name, rights, linked }) => rights === 'none' || linked || Object.hasOwn(values, name));

/** A second look in another way, which not every system knows: what the first one said holds then. */
export function noneWhereUnable(error: unknown): RecordState[] {
  const declined = error instanceof SystemUnavailable && error.status === 500;
  if (declined || error instanceof NotUnderstood) return [];
  throw error;
}

export const removedOf = (body: Record<string, unknown>): unknown =>
  body['@removed'] ??
  body['@odata.removed'] ??
  (String(body['@odata.context'] ?? '').endsWith('$deletedEntity') || undefined);

/** The id of a record that is no longer there: its address, or its key (JSON Format 4.01, 15.3). */
export const idRemoved = (entity: Entity, body: Record<string, unknown>): string | undefined => {
  const address = String(body['@id'] ?? body['@odata.id'] ?? body['id'] ?? '');
  const key = body[entity.key];
  const isAddress = typeof key === 'string' && key.includes('(') && address === '';
  if ((typeof key === 'string' || typeof key === 'number') && !isAddress && key !== address) return String(key);
  return idFrom(entity, address) ?? (key === undefined ? undefined : String(key));
};
