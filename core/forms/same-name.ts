import type { FormField } from './model.ts';
import type { SubmittedValues } from './submission.ts';

/** The name of the field at a place among several inputs that are sent under one name: `phone`, `phone#2`, `phone#3`. */
export const placeName = (name: string, place: number): string => (place === 1 ? name : `${name}#${place}`);

/**
 * Values as sent, with those of inputs that share a name each under its own field's. A browser sends such inputs in
 * their order on the page, blank or not. Where another number of values came than the form has inputs, nobody can tell
 * which is which, and they stay together.
 */
export function valuesApart(fields: readonly FormField[], values: SubmittedValues): SubmittedValues {
  const places = new Map<string, number>();
  for (const { name, place } of fields) {
    const shared = place === undefined ? undefined : nameShared(name, place);
    if (shared !== undefined) places.set(shared, Math.max(places.get(shared) ?? 0, place!));
  }
  const apart: SubmittedValues = Object.assign(Object.create(null) as SubmittedValues, values);
  for (const [name, count] of places) {
    const sent = values[name];
    if (!Array.isArray(sent) || sent.length !== count) continue;
    sent.forEach((value, at) => (apart[placeName(name, at + 1)] = value));
  }
  return apart;
}

const nameShared = (name: string, place: number): string =>
  place === 1 ? name : name.endsWith(`#${place}`) ? name.slice(0, -`#${place}`.length) : name;
