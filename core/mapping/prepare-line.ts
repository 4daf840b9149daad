import type { Field } from '../schema/index.ts';
import { decimalMarkOf, dateOrderOf } from '../values/index.ts';
import type { Line } from './line.ts';
import { meaningsOf } from './lexicon.ts';
import { tellingWords } from './words.ts';
import { pairOptions, type Treatment } from './treatments/index.ts';

interface Source {
  name: string;
  type: string;
  freely?: boolean;
  /** Its values come as a record holds them. */
  typed?: boolean;
  /** It holds the id of a record of this entity. */
  record?: { entity: string };
  options?: readonly { value: string; label: string }[];
}

export interface Where {
  /** ISO 3166-1 alpha-2: where the form's visitors dial from. */
  country?: string;
  /** BCP 47: how they write numbers and dates. */
  locale?: string;
  /** By which field the records of an entity are called, for looking one up by name. */
  calledBy?: (entity: string) => string | undefined;
}

/** Only a part of what comes in goes into the field. */
export type Part = 'given' | 'family' | 'street' | 'number';

/** What a suggestion knows beyond its fields. */
export interface Special {
  part?: Part | undefined;
  /** What stands between the values of several fields. */
  separator?: string | undefined;
}

/** Kinds of field whose texts are read by how people write. */
const READ_ONCE = new Set<Field['type']>(['phone', 'email', 'web address', 'number', 'integer', 'date', 'text']);

/** The treatments a value needs on its way from one kind of field to another. */
export function treatmentsFor(
  sources: readonly Source[],
  field: Field,
  where: Where,
  { part, separator = ' ' }: Special = {},
): Treatment[] {
  const treatments: Treatment[] = [];
  const [source] = sources;
  if (part === 'given' || part === 'family') treatments.push({ kind: 'name part', take: part });
  if (part === 'street' || part === 'number') treatments.push({ kind: 'address part', take: part });
  if (sources.length > 1) treatments.push({ kind: 'join', separator });
  // What a record holds was read once, and is not read again.
  const typed = sources.length === 1 && source?.typed === true && part === undefined;
  if (typed && READ_ONCE.has(field.type)) return treatments;
  if (field.type === 'phone') {
    treatments.push(where.country ? { kind: 'phone', country: where.country } : { kind: 'phone' });
  } else if (field.type === 'email') treatments.push({ kind: 'email' });
  else if (field.type === 'web address') treatments.push({ kind: 'web address' });
  else if (field.type === 'number' || field.type === 'integer') {
    // A browser sends number inputs with a point, whatever the visitor's locale (HTML, 4.10.5.1.12).
    const browsers = source?.type === 'number' && source.freely !== true;
    const decimal = browsers ? 'point' : where.locale ? decimalMarkOf(where.locale) : undefined;
    treatments.push(decimal ? { kind: 'number', decimal } : { kind: 'number' });
  } else if (field.type === 'date' && source?.type !== 'date') {
    // What was joined out of three fields begins with its year, whatever the locale.
    const order = sources.length === 3 ? 'year first' : where.locale && dateOrderOf(where.locale);
    treatments.push(order ? { kind: 'date', order } : { kind: 'date' });
  } else if (field.type === 'option' || field.type === 'options') {
    if (source?.options && field.options)
      treatments.push({ kind: 'options', pairs: pairOptions(source.options, field.options) });
    else {
      // What is typed into a free text may be any of a country's names.
      const means = meaningsOf([...tellingWords(field.label), ...tellingWords(field.name)]).map(
        ({ meaning }) => meaning,
      );
      if (means.includes('country')) treatments.push({ kind: 'country', as: 'code' });
      else if (means.includes('language')) treatments.push({ kind: 'language', as: 'code' });
    }
  } else if (field.type === 'reference' && field.relation !== undefined) {
    // A record that was chosen is named by its id: there is nothing to look up.
    if (source?.record?.entity === field.relation) return treatments;
    const by = where.calledBy?.(field.relation);
    if (by !== undefined) treatments.push({ kind: 'trim' }, { kind: 'lookup', entity: field.relation, by });
  } else if (field.type === 'text' && sources.length === 1 && part === undefined) treatments.push({ kind: 'trim' });
  return treatments;
}

/** A complete line out of sources and a target, with what usually fits. */
export function prepareLine(
  id: string,
  sources: readonly Source[],
  field: Field,
  where: Where,
  special: Special = {},
): Line {
  return {
    id,
    from: sources.map((source) => source.name),
    treatments: treatmentsFor(sources, field, where, special),
    field: field.name,
    // What is said on one occasion doesn't replace what was said on others.
    ifBoth: field.immutable
      ? 'new records only'
      : field.type === 'options' || field.type === 'long text'
        ? 'add to list'
        : 'write',
    blankErases: false,
    origin: 'set',
  };
}
