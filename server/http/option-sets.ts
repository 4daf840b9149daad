import type { OptionsCompared } from '@zusammen/core/api';
import { conversionOf } from '@zusammen/core/intake';
import {
  MOST_FIELDS_COMPARED,
  optionFieldOf,
  type ComparedOptions,
  type LinkedOptions,
  type Naming,
} from '@zusammen/core/option-sets';
import { standing } from '@zusammen/core/pairing';
import { standingLines } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import { fieldFamilies, intakeDocuments, pairingDocuments, standingDocuments, type Database } from '../store/index.ts';
import { isSystemTrouble } from '../systems/index.ts';
import type { Context } from './context.ts';
import { badField } from './problem.ts';

/** Everything that may name an option: drafts, and what is live of them. */
export async function namingNow({ db }: { db: Database }): Promise<Naming> {
  const known = await standingDocuments(db);
  const [intakes, pairings] = await Promise.all([
    intakeDocuments(db, known.intakes),
    pairingDocuments(db, known.pairings),
  ]);
  const told = <D>({ id, draft, live }: { id: string; draft: D; live: D | undefined }) => ({
    ...{ id, document: draft },
    ...(live === undefined ? {} : { live }),
  });
  return { intakes: intakes.map(told), pairings: pairings.map(told) };
}

const same = (a: ComparedOptions, b: ComparedOptions): boolean =>
  a.system === b.system && a.entity === b.entity && a.field === b.field;

/** Fields whose values go from one to the other, by which line; options that it pairs are the same. */
interface Link {
  one: ComparedOptions;
  other: ComparedOptions;
  pairs: [string, string][];
  name: string;
}

/** Which fields are asked for, out of a query. @throws Problem when it says none, or too many */
export function fieldsAsked(of: string | undefined): ComparedOptions[] {
  let read: unknown;
  try {
    read = JSON.parse(of ?? '');
  } catch {
    read = undefined;
  }
  const isField = (each: unknown): each is [string, string, string] =>
    Array.isArray(each) && each.length === 3 && each.every((part) => typeof part === 'string' && part.length <= 255);
  if (!Array.isArray(read) || read.length === 0 || read.length > MOST_FIELDS_COMPARED || !read.every(isField))
    throw badField('of', `must be a JSON list of 1 to ${MOST_FIELDS_COMPARED} fields, each [system, entity, field]`);
  return read.map(([system, entity, field]) => ({ system, entity, field }));
}

/** Options of several fields, with what of them is linked by hand, and with the fields that are in line with them. @throws Problem naming a field that has none */
export async function optionsCompared(context: Context, fields: readonly ComparedOptions[]): Promise<OptionsCompared> {
  const { db, live } = context;
  const [schemas, naming, families] = await Promise.all([live.allSchemas(), namingNow(context), fieldFamilies(db)]);
  const known = fields.map((each, at) => {
    const found = optionFieldOf(each, schemas);
    if (!found) throw badField(`fields.${at}`, 'is no field with options that can be seen');
    return found;
  });
  const links = linksOf(naming);
  const linked = links.flatMap(({ one, other, pairs, name }): LinkedOptions[] => {
    const [a, b] = [fields.findIndex((each) => same(each, one)), fields.findIndex((each) => same(each, other))];
    if (a < 0 || b < 0 || a === b || pairs.length === 0) return [];
    return [{ fields: [a, b], pairs, why: `paired in ${name}` }];
  });
  const columns = await Promise.all(
    fields.map(async (each, at) => ({
      ...each,
      label: known[at]!.field.label,
      entityLabel: known[at]!.entity,
      options: known[at]!.field.options ?? [],
      ...(await changeable(context, each.system)),
    })),
  );
  return {
    columns,
    linked,
    related: relatedTo(
      fields,
      links,
      families.map(({ members }) => members),
      schemas,
    ),
  };
}

/** What of a system's options can be changed from here. */
async function changeable({ systems }: Context, system: string): Promise<{ adds: boolean; removes: boolean }> {
  try {
    const { schemaChanges } = await systems.client(system);
    const adds = (schemaChanges?.addOptions ?? schemaChanges?.addOption) !== undefined;
    return { adds, removes: schemaChanges?.removeOptions !== undefined };
  } catch (error) {
    if (!isSystemTrouble(error)) throw error;
    return { adds: false, removes: false };
  }
}

/** Lines of pairings and conversions between fields with options. */
function linksOf({ intakes, pairings }: Naming): Link[] {
  const ofPairings = pairings.flatMap(({ document }) =>
    standing(document).flatMap((line): Link[] => {
      const [left, right] = [line.left.path, line.right.path];
      if (left.length !== 1 || right.length !== 1) return [];
      return [
        {
          one: { ...document.left, field: left[0]! },
          other: { ...document.right, field: right[0]! },
          pairs: (line.options ?? []).map((pair) => [pair.left, pair.right]),
          name: document.name,
        },
      ];
    }),
  );
  const ofConversions = intakes.flatMap(({ document }) => {
    const conversion = conversionOf(document);
    if (!conversion) return [];
    const { system, entity } = conversion;
    return document.plan.steps.flatMap((step) =>
      standingLines(step).flatMap((line): Link[] => {
        const [field, ...more] = line.from;
        if (field === undefined || more.length > 0) return [];
        const pairs = line.treatments.flatMap((each) => (each.kind === 'options' ? (each.pairs ?? []) : []));
        return [
          {
            one: { system, entity, field },
            other: { system: step.system, entity: step.entity, field: line.field },
            pairs: pairs.flatMap(({ from, to }): [string, string][] => (to === undefined ? [] : [[from, to]])),
            name: document.name,
          },
        ];
      }),
    );
  });
  return [...ofPairings, ...ofConversions];
}

/** Fields that get their values from those that are compared, or give them theirs, or were made one with them. */
function relatedTo(
  fields: readonly ComparedOptions[],
  links: readonly Link[],
  families: readonly (readonly ComparedOptions[])[],
  schemas: ReadonlyMap<string, Schema>,
): OptionsCompared['related'] {
  const found: ComparedOptions[] = [];
  const add = (each: ComparedOptions): void => {
    if (![...fields, ...found].some((known) => same(known, each)) && optionFieldOf(each, schemas)) found.push(each);
  };
  for (const { one, other } of links) {
    if (fields.some((each) => same(each, one))) add(other);
    if (fields.some((each) => same(each, other))) add(one);
  }
  for (const members of families)
    if (members.some((each) => fields.some((known) => same(known, each)))) members.forEach(add);
  return found.map((each) => {
    const { field, entity } = optionFieldOf(each, schemas)!;
    return { system: each.system, entity: each.entity, field: each.field, label: field.label, entityLabel: entity };
  });
}
