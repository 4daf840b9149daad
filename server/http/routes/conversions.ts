import {
  BulkStateBody,
  ConvertBody,
  CountRecordsBody,
  type BulkTold,
  type ConvertedTold,
  type RecordTold,
} from '@zusammen/core/api';
import { shownAs } from '@zusammen/core/asking';
import { conversionOf, idFieldOf, valuesOfRecord, type IntakeDocument } from '@zusammen/core/intake';
import { titleOf } from '@zusammen/core/mapping';
import { fieldOf, type Entity, type RecordState } from '@zusammen/core/schema';
import { convertedEntity, convertRecords, countMeeting, findRecords, type LiveIntake } from '../../engine/index.ts';
import { someOf } from '../../systems/index.ts';
import {
  addBulk,
  bulkById,
  bulksOf,
  intakeById,
  intakeByKey,
  jobById,
  noteChange,
  setJobState,
  type BulkLine,
  type Intake,
} from '../../store/index.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId, limitOf } from '../query.ts';
import { route, type Route, type Unsent } from '../route.ts';
import { orTrouble } from '../trouble.ts';

/** Milliseconds for which records are counted before it is said that there are more. */
const COUNT_WITHIN_MS = 5_000;
const SHOWN_FIRST = 20;
/** Fields that tell which record one is. */
const TELLING = 4;

/** Conversions: one record, many by a condition, and what became of them. */
export const conversionRoutes = (context: Context): Route[] => {
  const { db, live, systems, acceptor, jobs, queued } = context;
  const existing = async (name: string): Promise<Intake> => {
    const intake = isId(name) ? await intakeById(db, name) : await intakeByKey(db, name);
    if (!intake || intake.deletedAt !== null) throw notFound('such conversion');
    return intake;
  };
  const open = async (name: string): Promise<LiveIntake> => {
    const found = await live.intake((await existing(name)).key);
    if (typeof found === 'string') throw new Problem(409, 'Not open', 'This conversion takes nothing at present.');
    if (!conversionOf(found.document)) throw new Problem(409, 'No conversion', 'This intake converts no records.');
    return found;
  };
  /** What is converted by a draft, or by what is live: both are looked at before anything is converted. */
  const converted = (document: IntakeDocument) => {
    const conversion = conversionOf(document);
    if (!conversion) throw new Problem(409, 'No conversion', 'This intake converts no records.');
    return conversion;
  };
  return [
    route({
      method: 'post',
      path: '/conversions/:intake',
      summary: 'Convert records by their ids, or all that meet a condition',
      role: 'specialist',
      body: ConvertBody,
      work: async ({ params, body, user, response }) => {
        const found = await open(params.intake);
        if ((body.records === undefined) === (body.where === undefined))
          throw badField('records', 'or where must be given, one of them');
        if (body.where) {
          const id = await addBulk(db, { intakeId: found.intake.id, where: body.where, by: user.name });
          await noteChange(db, actorOf(user), 'began to convert many', found.intake.id, { where: body.where });
          jobs.look();
          response.status(201);
          return { bulk: id };
        }
        const done = await orTrouble(
          convertRecords({ db, systems, live, acceptor }, found, [...new Set(body.records)]),
        );
        await noteChange(db, actorOf(user), `converted ${done.length} by hand`, found.intake.id);
        queued();
        return { converted: done satisfies ConvertedTold[] };
      },
    }),
    route({
      method: 'get',
      path: '/conversions/:intake',
      summary: 'Conversions of many records, newest first, with how far they are',
      role: 'viewer',
      work: async ({ params }) => ({ bulks: (await bulksOf(db, (await existing(params.intake)).id)).map(toldOfBulk) }),
    }),
    route({
      method: 'post',
      path: '/conversions/:intake/count',
      summary: 'How many records meet a condition, with the first of them',
      role: 'viewer',
      body: CountRecordsBody,
      work: async ({ params, body }) => {
        const { draft } = await existing(params.intake);
        const conversion = converted(draft);
        const entity = await orTrouble(convertedEntity(live, conversion));
        const told = await orTrouble(
          countMeeting({ live, systems }, conversion, body.where, {
            ...{ fields: tellingFields(draft, entity), first: SHOWN_FIRST, withinMs: COUNT_WITHIN_MS },
          }),
        );
        const { count, whole, records } = told;
        return { count, whole, records: records.map((record) => recordTold(draft, entity, record)) };
      },
    }),
    route({
      method: 'get',
      path: '/conversions/:intake/records',
      summary: 'Records that could be converted, as samples: the first, or those that a text finds',
      role: 'specialist',
      work: async ({ params, query }) => {
        const { draft } = await existing(params.intake);
        const conversion = converted(draft);
        const entity = await orTrouble(convertedEntity(live, conversion));
        const text = (query['text'] ?? '').trim().slice(0, 200);
        const limit = limitOf(query, 50, 500);
        const target = { system: conversion.system, entity: conversion.entity };
        const fields = draft.fields.map(({ name }) => name);
        const records =
          text === ''
            ? await orTrouble(systems.client(target.system).then((client) => someOf(client, entity, fields, limit)))
            : await orTrouble(findRecords(context, target, text));
        return { records: records.slice(0, limit).map((record) => recordTold(draft, entity, record)) };
      },
    }),
    route({
      method: 'put',
      path: '/bulk-conversions/:id/state',
      summary: 'Pause a conversion of many, let it go on, or end it',
      role: 'specialist',
      body: BulkStateBody,
      work: async ({ params, body, user }) => {
        const bulk = isId(params.id) ? await bulkById(db, params.id) : undefined;
        const job = bulk && (await jobById(db, bulk.id));
        if (!bulk || !job) throw notFound('such conversion of many');
        const from = {
          paused: ['running'],
          running: ['paused', 'failed'],
          cancelled: ['running', 'paused', 'failed'],
        } as const;
        if (!(await setJobState(db, bulk.id, from[body.state], body.state)))
          throw new Problem(409, 'Not possible now', `It is ${job.state}.`);
        const said = { paused: 'paused', running: 'let go on', cancelled: 'ended' }[body.state];
        await noteChange(db, actorOf(user), `${said} a conversion of many`, bulk.intakeId);
        jobs.look();
      },
    }),
  ];
};

const toldOfBulk = ({ intakeId: _, counted, taken, ...bulk }: BulkLine): Unsent<BulkTold> => ({
  ...bulk,
  ...{ counted, taken },
});

/** The fields that tell which record one is, beside its id. */
function tellingFields({ fields }: Pick<IntakeDocument, 'fields'>, entity: Entity): string[] {
  const known = fields.filter(({ name }) => fieldOf(entity, name) !== undefined && name !== idFieldOf(entity));
  return known.map(({ name }) => name);
}

function recordTold(document: Pick<IntakeDocument, 'fields'>, entity: Entity, record: RecordState): RecordTold {
  const values = valuesOfRecord(document.fields, entity, record);
  const shown = tellingFields(document, entity).flatMap((name) => {
    const field = fieldOf(entity, name);
    const said = field?.type === 'reference' ? '' : shownAs(record.values[name] ?? null, field, 'en');
    return said === '' ? [] : [said.slice(0, 80)];
  });
  return {
    id: record.id,
    label: titleOf(document.fields, values).slice(0, 160),
    shown: shown.slice(0, TELLING),
    values,
  };
}
