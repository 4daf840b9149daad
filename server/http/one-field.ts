import { setImmediate } from 'node:timers/promises';
import type { FieldCounts, FieldGives, FieldPlanTold, FieldRehearsed, PlaceTold } from '@zusammen/core/api';
import type { SubmittedValues } from '@zusammen/core/forms';
import { conversionOf, valuesOfRecord, type IntakeDocument } from '@zusammen/core/intake';
import {
  assumedValue,
  givenByLine,
  givenByPair,
  withCarried,
  type CarriedLine,
  type FieldPlan,
  type FoundLine,
  type OneField,
  type PlaceStands,
  type Standing,
} from '@zusammen/core/one-field';
import type { Pairing } from '@zusammen/core/pairing';
import { entityOf, fieldOf, type Entity, type RecordState, type Schema, type Value } from '@zusammen/core/schema';
import { stepInWords, type ChangeStep } from '@zusammen/core/schema-changes';
import { isBlank } from '@zusammen/core/values';
import { namingNow } from './option-sets.ts';
import { compareDocuments } from '../engine/index.ts';
import type { Makes, Wanted } from '../heavy/index.ts';
import { adapterOf, listIntakes, listPairings, listSystems, pastValues, versionOf } from '../store/index.ts';
import { isSystemTrouble, type From, type System } from '../systems/index.ts';
import type { Context } from './context.ts';
import { notFound } from './problem.ts';

/** Records looked at for one that has a value, and submissions. */
const LOOKED_AT = 200;
/** What a rehearsal is tried with, of each intake. */
const TRIED = 50;
/** Records counted at most; a specialist who waits is told that there are more. */
const MOST_COUNTED = 200_000;
const MOST_VALUES = 500;

/** A plan with all that it was made of. */
interface Planned extends FieldPlan {
  /** What making it comes to. */
  steps: ChangeStep[];
  intakes: Map<string, IntakeDocument>;
  pairings: Map<string, Pairing>;
  /** What the systems keep now. */
  known: ReadonlyMap<string, Schema>;
}

/** Plans one field by what is there now; nothing is changed. */
export async function planOneField(context: Context, wanted: OneField, by: Wanted): Promise<Planned> {
  const { db, live, heavy } = context;
  const [known, listed, intakes, pairings, naming] = await Promise.all([
    live.allSchemas(),
    listSystems(db),
    listIntakes(db),
    listPairings(db),
    namingNow(context),
  ]);
  const systems: { id: string; schema: Schema; makes: Makes }[] = [];
  for (const { id, adapterVersion } of listed) {
    const schema = known.get(id);
    if (schema) systems.push({ id, schema, makes: await makesOf(context, id, adapterVersion) });
  }
  const standing: Standing = {
    intakes: intakes.filter(({ putAwayAt }) => putAwayAt === null).map(({ id, draft }) => ({ id, document: draft })),
    pairings: pairings.map(({ id, draft }) => ({ id, document: draft })),
  };
  // A list of ten thousand options is compared with every other, away from whoever else is answered.
  const plan = await heavy.run('planOneField', { wanted, systems, standing, naming }, by);
  return {
    ...{ ...plan, known },
    intakes: new Map(standing.intakes.map(({ id, document }) => [id, document])),
    pairings: new Map(standing.pairings.map(({ id, document }) => [id, document])),
  };
}

/** What a system makes of fields; one that can't be reached makes none. */
async function makesOf({ db, systems }: Context, id: string, adapterVersion: number | null): Promise<Makes> {
  const client = await clientOf(systems, id);
  if (!client?.schemaChanges?.addField) return 'none';
  return adapterVersion === null ? 'all' : ((await adapterOf(db, id, adapterVersion))?.document ?? 'none');
}

async function clientOf(systems: Context['systems'], id: string): Promise<System | undefined> {
  return systems.client(id).catch((error: unknown) => {
    if (isSystemTrouble(error)) return undefined;
    throw error;
  });
}

/** One field as it would be everywhere, each line with what a real record would give by it. */
export async function lookAtField(context: Context, wanted: OneField, by: Wanted): Promise<FieldPlanTold> {
  const plan = await planOneField(context, wanted, by);
  const holding = new Map<string, Promise<Held | undefined>>();
  const lines: FieldPlanTold['lines'] = [];
  for (const line of plan.lines) {
    const gives = line.carried && (await givesOf(context, plan, wanted, line, line.carried, holding));
    lines.push(gives ? { ...line, gives } : line);
    // With ten thousand options one line takes a while: others are answered in between.
    await setImmediate();
  }
  return { places: plan.places.map(placeTold), lines, steps: plan.steps.map(stepInWords) };
}

function placeTold({ made, ...stands }: PlaceStands): PlaceTold {
  if (!made) return stands;
  const { options: _, ...told } = made;
  return { ...stands, made: told };
}

/** A value, and whose it is. */
interface Held {
  of: string;
  value: Value;
}

async function givesOf(
  context: Context,
  plan: Planned,
  { field }: OneField,
  { id }: FoundLine,
  carried: CarriedLine,
  holding: Map<string, Promise<Held | undefined>>,
): Promise<FieldGives | undefined> {
  const document = plan.intakes.get(id);
  const pairing = plan.pairings.get(id);
  const source = sourceOf(carried, document, pairing);
  const known = source && fieldIn(plan.known, source);
  const key = source ? JSON.stringify(source) : id;
  // What holds a value is looked for once, however many lines read it.
  const looked = holding.get(key) ?? heldBy(context, source && known ? source : undefined, document, carried, id);
  holding.set(key, looked);
  const held = await looked;
  const came = held?.value ?? assumedValue(field);
  if (came === undefined) return undefined;
  const given = document
    ? givenByLine(carried, came, document, plan.schemas)
    : pairing && givenByPair(carried, came, pairing, plan.schemas);
  return given && { came, ...(held ? { of: held.of } : {}), ...given };
}

interface Source {
  system: string;
  entity: string;
  field: string;
}

/** The records' field that a carried line reads; undefined: it reads a form. */
function sourceOf(carried: CarriedLine, document?: IntakeDocument, pairing?: Pairing): Source | undefined {
  if (carried.kind === 'pair' && pairing) {
    const side = carried.line.way === 'to left' ? 'right' : 'left';
    return { ...pairing[side], field: carried.line[side].path[0]! };
  }
  const conversion = document && conversionOf(document);
  if (!conversion || carried.kind !== 'line') return undefined;
  return { system: conversion.system, entity: conversion.entity, field: carried.line.from[0] ?? '' };
}

const fieldIn = (schemas: ReadonlyMap<string, Schema>, { system, entity, field }: Source) => {
  const known = entityOf(schemas.get(system) ?? { entities: [] }, entity);
  return known && fieldOf(known, field);
};

/** A record, or what was sent, that holds a value; undefined: none of those looked at does. */
async function heldBy(
  context: Context,
  source: Source | undefined,
  document: IntakeDocument | undefined,
  carried: CarriedLine,
  intake: string,
): Promise<Held | undefined> {
  if (source) {
    const { entity, records } = await firstRecords(context, source, [source.field]);
    const found = records.find(({ values }) => !isBlank(values[source.field]));
    return entity && found && { of: `${entity.label} ${found.id}`, value: found.values[source.field]! };
  }
  const name = carried.kind === 'line' && document && !conversionOf(document) ? carried.line.from[0] : undefined;
  if (name === undefined) return undefined;
  const found = (await pastValues(context.db, intake, LOOKED_AT)).find(({ values }) => !isBlank(values[name]));
  return found && { of: found.label, value: found.values[name]! };
}

/** The first records of an entity as its system gives them; none where it can't be asked. */
async function firstRecords(
  { systems, live }: Context,
  { system, entity: name }: Pick<Source, 'system' | 'entity'>,
  fields: readonly string[],
): Promise<{ entity: Entity | undefined; records: RecordState[] }> {
  const entity = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, name);
  const client = entity && (await clientOf(systems, system));
  if (!entity || !client) return { entity, records: [] };
  try {
    return { entity, records: (await client.page(entity, fields)).records.slice(0, LOOKED_AT) };
  } catch (error) {
    if (isSystemTrouble(error)) return { entity, records: [] };
    throw error;
  }
}

/** Tries the lines with real records and submissions, beside what is live: what they give, and what else would change. */
export async function rehearseField(context: Context, wanted: OneField, by: Wanted): Promise<FieldRehearsed[]> {
  const plan = await planOneField(context, wanted, by);
  const rehearsed: FieldRehearsed[] = [];
  for (const step of plan.steps) {
    if (step.kind !== 'carry' || step.at !== 'intake') continue;
    const before = await liveOf(context, step.id, plan.intakes.get(step.id)!);
    const after = withCarried(before, step.lines, plan.schemas);
    const samples = await samplesOf(context, plan, wanted, step.id, after, step.lines);
    const values = samples.map((each) => each.values);
    const compared = await compareDocuments(context, before, after, values, by, plan.schemas);
    const fields = new Set(
      step.lines.map((each) =>
        each.kind === 'line'
          ? `${each.step} ${each.line.field}`
          : each.kind === 'question'
            ? `${each.step} ${each.field}`
            : '',
      ),
    );
    const told: FieldRehearsed = {
      ...{ id: step.id, name: step.name, of: samples.length, carried: 0, otherwise: 0 },
      assumed: samples.some(({ assumed }) => assumed),
      troubles: [],
    };
    compared.forEach(({ differences, trouble }, at) => {
      const { of } = samples[at]!;
      if (trouble !== undefined) return void told.troubles.push({ of, words: trouble });
      const own = differences.filter(({ step: id, field }) => fields.has(`${id} ${field}`));
      const others = differences.filter((each) => !own.includes(each));
      const written = own.find(({ draft }) => draft !== 'not written');
      if (written) {
        told.carried += 1;
        told.example ??= { of, field: written.label, value: written.draft };
      }
      if (others.length === 0) return;
      told.otherwise += 1;
      told.troubles.push({ of, words: `${others[0]!.label}: ${others[0]!.live}, then ${others[0]!.draft}` });
    });
    rehearsed.push({ ...told, troubles: told.troubles.slice(0, 20) });
  }
  return rehearsed;
}

async function liveOf({ db }: Context, id: string, draft: IntakeDocument): Promise<IntakeDocument> {
  const intake = (await listIntakes(db)).find((each) => each.id === id);
  const version = intake?.liveVersion == null ? undefined : await versionOf(db, id, intake.liveVersion);
  return version?.document ?? draft;
}

/** Records of a conversion, or what was sent to a form; where nothing of it has a value of the field yet, one is assumed. */
async function samplesOf(
  context: Context,
  { known }: Planned,
  { field }: OneField,
  id: string,
  document: IntakeDocument,
  lines: readonly CarriedLine[],
): Promise<{ of: string; values: SubmittedValues; assumed: boolean }[]> {
  const names = new Set(lines.flatMap((each) => (each.kind === 'line' ? each.line.from : [])));
  for (const each of lines)
    if (each.kind === 'question') {
      const line = document.plan.steps
        .find((step) => step.id === each.step)
        ?.lines.find((line) => line.field === each.field);
      for (const name of line?.from ?? []) names.add(name);
    }
  const filled = (values: SubmittedValues, at: number): { values: SubmittedValues; assumed: boolean } => {
    const lacking = [...names].filter((name) => isBlank(values[name] ?? null));
    const value = assumedValue(field, at);
    if (lacking.length === 0 || value === undefined) return { values, assumed: false };
    const assumed = Object.fromEntries(lacking.map((name) => [name, value as SubmittedValues[string]]));
    return { values: { ...values, ...assumed }, assumed: true };
  };
  const conversion = conversionOf(document);
  if (!conversion) {
    const past = await pastValues(context.db, id, TRIED);
    return past.map(({ label, values }, at) => ({ of: label, ...filled(values, at) }));
  }
  const entity = entityOf(known.get(conversion.system) ?? { entities: [] }, conversion.entity);
  const there = document.fields.filter(({ name }) => entity && fieldOf(entity, name));
  const { records } = await firstRecords(
    context,
    conversion,
    there.map(({ name }) => name),
  );
  return records.slice(0, TRIED).map((record, at) => ({
    of: `${entity?.label ?? ''} ${record.id}`,
    ...filled(valuesOfRecord(there, entity!, record), at),
  }));
}

/** How many records of an entity hold a value in a field, and of options how many each. */
export async function countValues(
  { systems, live }: Context,
  { system, entity: name, field: fieldName }: Source,
  wanted: Wanted,
): Promise<FieldCounts> {
  const entity = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, name);
  const field = entity && fieldOf(entity, fieldName);
  if (!entity || !field || field.rights === 'none') throw notFound('such field');
  const client = await systems.client(system);
  const counts: FieldCounts = { of: 0, filled: 0, values: [], more: false };
  const byValue = new Map<string, number>();
  for (let from: From | undefined; !counts.more; ) {
    const page = await client.page(entity, [field.name], from);
    for (const { values } of page.records) {
      const value = values[field.name] ?? null;
      counts.of += 1;
      if (isBlank(value)) continue;
      counts.filled += 1;
      if (!field.options) continue;
      for (const each of Array.isArray(value) ? value : [String(value)])
        byValue.set(each, (byValue.get(each) ?? 0) + 1);
    }
    if (!page.next || wanted.gone?.aborted) break;
    from = { link: page.next };
    counts.more = counts.of >= MOST_COUNTED;
  }
  counts.values = [...byValue]
    .map(([value, count]) => ({ value, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_VALUES);
  return counts;
}
