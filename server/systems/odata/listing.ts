import type { Entity } from '@zusammen/core/schema';
import type { HttpResponse } from '../http.ts';
import { clockIn, NotUnderstood, type Page } from '../system.ts';
import { idRemoved, removedOf } from './answers.ts';
import { parsed, recordOf } from './records.ts';
import { refusalOf } from './refusal.ts';

/**
 * A page out of an answer: records, ids of those that are gone, and where the rest is (OData JSON Format 4.01, 12 and 15).
 * @param base the service's root, ending with a slash @param whole the records were read with all of their fields
 * @throws NotUnderstood
 */
export function pageIn(entity: Entity, response: HttpResponse, base: string, whole: boolean): Page {
  if (response.status !== 200)
    throw new NotUnderstood(`Reading ${entity.name} it answers ${response.status}: ${refusalOf(response).words}`);
  const body = parsed(response) as Record<string, unknown>;
  if (!Array.isArray(body['value'])) throw new NotUnderstood(`Its answer to reading ${entity.name} holds no list.`);
  const all = body['value'] as Record<string, unknown>[];
  const link = (name: string): string | undefined => {
    const said = body[`@odata.${name}`] ?? body[`@${name}`];
    return typeof said === 'string' ? ownLink(said, base) : undefined;
  };
  const [next, delta] = [link('nextLink'), link('deltaLink')];
  return {
    records: all.filter((each) => removedOf(each) === undefined).map((each) => recordOf(entity, each, { whole })),
    gone: all.filter((each) => removedOf(each) !== undefined).flatMap((each) => idRemoved(entity, each) ?? []),
    ...(next === undefined ? {} : { next }),
    ...(delta === undefined ? {} : { delta }),
    ...clockIn(response),
  };
}

/** A link the system gave, absolute. Our token goes nowhere else. @throws NotUnderstood for one that leads elsewhere */
export function ownLink(link: string, base: string): string {
  const url = new URL(link, base);
  if (!url.href.startsWith(base)) throw new NotUnderstood('It gave a link that leads out of its service.');
  return url.href;
}
