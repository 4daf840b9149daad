import { ChangeOptionsBody, MendDriftBody, OneFieldBody } from '@zusammen/core/api';
import { fieldTrouble } from '@zusammen/core/definitions';
import { optionTrouble, type OptionMove } from '@zusammen/core/option-sets';
import { membersOf } from '@zusammen/core/one-field';
import { fillingTrouble, type Around } from '@zusammen/core/lost';
import { entityOf, fieldOf, type OpenRename, type Option } from '@zusammen/core/schema';
import type { FieldMove } from '@zusammen/core/renamed-fields';
import { stepInWords, type ChangeStep } from '@zusammen/core/schema-changes';
import { counted, listed } from '@zusammen/core/values';
import type { Wanted } from '../../heavy/index.ts';
import { listRecognitions, type RecognitionRow } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { countValues, lookAtField, planOneField, rehearseField } from '../one-field.ts';
import { fieldsAsked, namingNow, optionsCompared } from '../option-sets.ts';
import { route, type Route } from '../route.ts';
import { beginChange, DEFINITION_LIMIT, readSystem, unacceptable } from '../schema-change.ts';

/** So many renames are told, and mended, at once: as many as a body may name. Others are told once these are mended. */
const MOST_RENAMES = 200;
const renameKey = ({ entity, was, is }: OpenRename): string => JSON.stringify([entity, was, is]);

/** Fields over several entities and systems: one made wherever it is needed, options compared, renames followed. */
export const fieldRoutes = (context: Context): Route[] => {
  const { db, live, heavy, drifts } = context;
  /** All of ours that may name a part of a system, as it is now. */
  const around = async (): Promise<Around> => {
    live.forget();
    const [schemas, naming, recognitions] = await Promise.all([
      live.allSchemas(),
      namingNow(context),
      listRecognitions(db),
    ]);
    return { schemas, naming, recognitions: recognitions.map(documentOf) };
  };
  const stepsToMend = async (
    system: string | undefined,
    { renames, options = [], filled = [], fitted = [] }: MendDriftBody,
    wanted: Wanted,
  ): Promise<ChangeStep[]> => {
    const { row, schema } = await readSystem(db, system);
    const missing = renames.findIndex(({ entity, was, is }) => {
      const known = entityOf(schema, entity);
      return !known || !fieldOf(known, is) || fieldOf(known, was) !== undefined;
    });
    if (missing >= 0)
      throw unacceptable([{ field: `renames.${missing}`, reason: 'isn’t so in the system as it was read last' }]);
    const { lost, otherwise } = await drifts.of(row.id);
    const replaced = options.map(({ entity, field, from, into }, at): OptionMove => {
      const gone = lost.find((each) => each.entity === entity && each.field === field && each.option?.value === from);
      const known = entityOf(schema, entity);
      const next = known && fieldOf(known, field)?.options?.find(({ value }) => value === into);
      if (!gone?.option) throw unacceptable([{ field: `options.${at}.from`, reason: 'is no option that has gone' }]);
      if (!next) throw unacceptable([{ field: `options.${at}.into`, reason: 'is no option that is there' }]);
      const called = `${gone.was.label} of ${known!.label}`;
      return { ...{ system: row.id, entity, field, called }, from: plain(gone.option), into: plain(next) };
    });
    filled.forEach(({ entity, field, value }, at) => {
      const known = entityOf(schema, entity);
      const into = known && fieldOf(known, field);
      const reason = into ? fillingTrouble(into, value) : 'can’t be seen in the system';
      if (reason !== undefined) throw unacceptable([{ field: `filled.${at}.${into ? 'value' : 'field'}`, reason }]);
    });
    const fitting = fitted.map(({ entity, field }, at) => {
      const found = otherwise.find((each) => each.entity === entity && each.field === field);
      if (!found) throw unacceptable([{ field: `fitted.${at}`, reason: 'takes what it took' }]);
      return found;
    });
    const mends = { moves: movesIn(row.id, renames), options: replaced, filled, fitted: fitting };
    return heavy.run('planMend', { system: row.id, ...mends, ...(await around()) }, wanted);
  };
  const movesIn = (system: string, renames: readonly OpenRename[]): FieldMove[] =>
    renames.map((each) => ({ system, ...each }));
  /** What it comes to that everything goes by the new names, as they were found by reading. */
  const stepsToGoBy = async (system: string, renames: readonly OpenRename[], wanted: Wanted): Promise<ChangeStep[]> => {
    const mends = { moves: movesIn(system, renames), options: [], filled: [], fitted: [] };
    return heavy.run('planMend', { system, ...mends, ...(await around()) }, wanted);
  };
  const stepsOf = async ({ changes }: ChangeOptionsBody, wanted: Wanted): Promise<ChangeStep[]> => {
    const [schemas, naming] = await Promise.all([live.allSchemas(), namingNow(context)]);
    const complaints = optionTrouble(changes, schemas);
    if (complaints.length > 0) throw unacceptable(complaints);
    return heavy.run('planOptions', { changes, schemas, naming }, wanted);
  };

  return [
    route({
      method: 'post',
      path: '/schema/one-field/look',
      summary: 'One field, wherever it is needed: where it would be, and what carries it on; nothing is changed',
      role: 'specialist',
      body: OneFieldBody,
      limit: DEFINITION_LIMIT,
      heavy: true,
      work: async ({ body, wanted }) => {
        soundField(body);
        return lookAtField(context, body, wanted);
      },
    }),
    route({
      method: 'post',
      path: '/schema/one-field/rehearse',
      summary: 'Try the lines that would carry a field on with real records; nothing is written',
      role: 'specialist',
      body: OneFieldBody,
      limit: DEFINITION_LIMIT,
      heavy: true,
      work: async ({ body, wanted }) => {
        soundField(body);
        return { rehearsed: await rehearseField(context, body, wanted) };
      },
    }),
    route({
      method: 'post',
      path: '/schema/one-field',
      summary: 'Make one field wherever it is needed, mend those that are there, and make the lines that carry it on',
      role: 'specialist',
      body: OneFieldBody,
      limit: DEFINITION_LIMIT,
      heavy: true,
      work: async ({ body, response, user, wanted }) => {
        soundField(body);
        const plan = await planOneField(context, body, wanted);
        const cannot = plan.places.find((each) => each.wanted && each.cannot !== undefined);
        if (cannot) throw unacceptable([{ field: 'places', reason: `${cannot.label}: ${cannot.cannot}` }]);
        const { steps } = plan;
        if (steps.length === 0) throw unacceptable([{ field: 'places', reason: 'nothing would be changed' }]);
        const members = membersOf(plan);
        const title = `${body.field.label}, in ${counted(members.length, 'place')}`;
        response.status(202);
        return { change: await beginChange(context, user, title, steps, { label: body.field.label, members }) };
      },
    }),
    route({
      method: 'get',
      path: '/schema/:system/drift',
      summary:
        'What was renamed in the system, has gone from it, must be given by now or takes other values, and what that concerns',
      role: 'viewer',
      work: async ({ params, wanted }) => {
        const { row } = await readSystem(db, params['system']);
        const { renames: all, lost, required, otherwise } = await drifts.of(row.id);
        const steps = all.length === 0 ? [] : await stepsToGoBy(row.id, all, wanted);
        const followed = new Set(steps.flatMap((step) => (step.kind === 'rename' ? [renameKey(step)] : [])));
        const renames = all.filter((each) => followed.has(renameKey(each))).slice(0, MOST_RENAMES);
        if (lost.length + required.length + otherwise.length === 0)
          return { renames, steps: steps.map(stepInWords), lost: [], required: [], unfit: [] };
        const task = { system: row.id, lost, needed: required, changed: otherwise, ...(await around()) };
        return { renames, steps: steps.map(stepInWords), ...(await heavy.run('planDrift', task, wanted)) };
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/drift',
      summary:
        'Have everything go by the new names of renamed fields, name something else in the place of what is gone, and bring fields what they take; what waited is carried out',
      role: 'specialist',
      body: MendDriftBody,
      work: async ({ params, body, response, user, wanted }) => {
        const steps = await stepsToMend(params['system'], body, wanted);
        if (steps.length === 0) throw unacceptable([{ field: 'renames', reason: 'nothing of it is named or missed' }]);
        const { renames, options = [], filled = [], fitted = [] } = body;
        const names = [
          ...renames.map(({ was, is }) => `${was} as ${is}`),
          ...options.map(({ from, into }) => `${from} as ${into}`),
          ...filled.map(({ field, value }) => `${field} as ${value}`),
          ...fitted.map(({ field }) => field),
        ];
        response.status(202);
        return { change: await beginChange(context, user, `Mended: ${listed(names, { most: 2 })}`, steps) };
      },
    }),
    route({
      method: 'get',
      path: '/schema/options',
      summary: 'Options of several fields, to be put side by side: what they are, and which are linked by hand',
      role: 'viewer',
      work: async ({ query }) => optionsCompared(context, fieldsAsked(query.of)),
    }),
    route({
      method: 'post',
      path: '/schema/options/look',
      summary: 'What changes of options come to, step by step; nothing is changed',
      role: 'specialist',
      body: ChangeOptionsBody,
      limit: DEFINITION_LIMIT,
      heavy: true,
      work: async ({ body, wanted }) => ({ steps: (await stepsOf(body, wanted)).map(stepInWords) }),
    }),
    route({
      method: 'post',
      path: '/schema/options',
      summary: 'Add options and join them; what names them and the records that hold them follow',
      role: 'specialist',
      body: ChangeOptionsBody,
      limit: DEFINITION_LIMIT,
      heavy: true,
      work: async ({ body, response, user, wanted }) => {
        const steps = await stepsOf(body, wanted);
        const called = [...new Set(steps.flatMap((step) => ('called' in step && step.called ? [step.called] : [])))];
        response.status(202);
        return { change: await beginChange(context, user, `Options of ${listed(called, { most: 2 })}`, steps) };
      },
    }),
    route({
      method: 'get',
      path: '/schema/:system/entities/:entity/fields/:field/counts',
      summary: 'How many records hold a value in a field, and of options how many each',
      role: 'specialist',
      work: async ({ params, wanted }) => {
        const { system = '', entity = '', field = '' } = params;
        return { counts: await countValues(context, { system, entity, field }, wanted) };
      },
    }),
  ];
};

const plain = ({ value, label }: Option): Option => ({ value, label });

/** As much of a recognition as its fields' names stand in; what was counted stays where it is. */
const documentOf = ({ systemId, entity, document }: RecognitionRow) => ({ systemId, entity, document });

/** @throws Problem with path and reason where a field can't be as it is wanted */
function soundField({ field, places }: OneFieldBody): void {
  const complaints = fieldTrouble({ ...field, name: 'wanted' }, { entities: [] }, { entities: [] }).map(
    ({ field: name, reason }) => ({
      field: `field.${name}`,
      reason,
    }),
  );
  const twice = places.findIndex(({ system, entity }, at) =>
    places.slice(0, at).some((each) => each.system === system && each.entity === entity),
  );
  if (twice >= 0) complaints.push({ field: `places.${twice}`, reason: 'comes twice' });
  if (complaints.length > 0) throw unacceptable(complaints);
}
