import type { SchemaAbilities, SchemaChangeDetail, SchemaChangeTold, SheetTold } from '@zusammen/core/api';
import {
  LookAtSheetBody,
  MeasureReferenceBody,
  NewEntitiesBody,
  NewSheetBody,
  ReadDefinitionBody,
} from '@zusammen/core/api';
import { compareDefinition, definitionOf, readDefinition, troubleIn } from '@zusammen/core/definitions';
import { definitionOfSheet } from '@zusammen/core/new-entities';
import { entityOf, type Schema } from '@zusammen/core/schema';
import { counted } from '@zusammen/core/values';
import {
  importById,
  listSchemaChanges,
  moveSchemaChange,
  noteChange,
  schemaChangeById,
  setJobState,
  type SchemaChangeLine,
  type SystemRow,
  type User,
} from '../../store/index.ts';
import { isSystemTrouble } from '../../systems/index.ts';
import { actorOf, type Context } from '../context.ts';
import { importTotals } from '../import-totals.ts';
import { inLines, LINES } from '../lines.ts';
import { notFound, Problem } from '../problem.ts';
import { isId } from '../query.ts';
import { route, type Route, type Unsent } from '../route.ts';
import { beginChange, DEFINITION_LIMIT, readSystem, unacceptable } from '../schema-change.ts';
import { knownFile, lookAtSheet, measureReference, withFile } from '../sheets.ts';

/** How long a change that somebody waits for is waited for. */
const PATIENCE_MS = 60_000;

/** What systems keep, and changing it: new entities, out of sheets and documents, and what was changed so far. */
export const schemaRoutes = (context: Context): Route[] => {
  const { db, systems, jobs, reach } = context;
  const existing = (id: string | undefined) => readSystem(db, id);
  const existingChange = async (id: string | undefined): Promise<SchemaChangeLine> => {
    const found = isId(id) ? await schemaChangeById(db, id) : undefined;
    if (!found) throw notFound('such change');
    return found;
  };
  /** @throws Problem when the system makes no entities */
  const ableToMake = async ({ row, schema }: { row: SystemRow; schema: Schema }): Promise<void> => {
    if (!(await abilitiesOf(context, row.id, schema)).entities)
      throw new Problem(
        409,
        'Not from here',
        `${row.name} doesn’t let this connection make entities. Make it there by hand, then read the schema again.`,
      );
  };
  /** Waits for a change to come to rest, here or wherever it is carried out. */
  const atRest = async (id: string): Promise<SchemaChangeLine> => {
    for (const until = Date.now() + PATIENCE_MS; ; ) {
      const change = await existingChange(id);
      if (change.job.state !== 'running' || Date.now() > until) return change;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };

  return [
    route({
      method: 'get',
      path: '/reach',
      summary: "What the intakes do with a system's fields",
      role: 'viewer',
      work: async ({ query }) => ({ uses: await reach.of(query) }),
    }),
    route({
      method: 'get',
      path: '/schema/:system/abilities',
      summary: 'What of a system’s schema can be changed from here',
      role: 'viewer',
      work: async ({ params }) => {
        const { row, schema } = await existing(params['system']);
        return { abilities: await abilitiesOf(context, row.id, schema) };
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/entities',
      summary: 'Make the entities of a definition document, all of them or none',
      role: 'specialist',
      body: NewEntitiesBody,
      limit: DEFINITION_LIMIT,
      work: async ({ params, body, response, user }) => {
        const place = await existing(params['system']);
        await ableToMake(place);
        sound(body, place.schema);
        const { entities } = body;
        const title = `${entities.map(({ label }) => label).join(', ')} in ${place.row.name}`;
        const id = await beginChange(context, user, title, [{ kind: 'entities', system: place.row.id, entities }]);
        const { job, outcomes } = await atRest(id);
        if (job.state !== 'done')
          throw new Problem(
            job.state === 'running' ? 504 : 422,
            'Not done',
            job.words ?? outcomes[0]?.words ?? 'The system hasn’t answered yet; it goes on by itself.',
          );
        response.status(201);
        return { change: id, entities: outcomes[0]?.made ?? [] };
      },
    }),
    route({
      method: 'get',
      path: '/schema/:system/entities/:entity/definition',
      summary: 'An entity as a definition document, from which another system may have the same',
      role: 'viewer',
      work: async ({ params }) => {
        const { schema } = await existing(params['system']);
        const entity = entityOf(schema, params['entity'] ?? '');
        if (!entity) throw notFound('such entity');
        return { document: definitionOf(entity, schema) };
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/definitions/read',
      summary: 'Read a definition document, or a JSON Schema of an object, and compare it with what the system has',
      role: 'specialist',
      body: ReadDefinitionBody,
      limit: DEFINITION_LIMIT,
      work: async ({ params, body }) => {
        const { schema } = await existing(params['system']);
        const read = readDefinition(body.document, body.called);
        if (!read.ok) throw unacceptable(read.complaints);
        const { document, left } = read;
        // What is there already is compared; only what would be new has to be sound by itself.
        const compared = compareDefinition(document, schema);
        const fresh = compared.flatMap(({ entity, wanted }) => (entity === undefined ? [wanted] : []));
        const known = { entities: schema.entities };
        const complaints = troubleIn(document, known).filter(
          ({ field }) => !isTaken(field) || fresh.includes(document.entities[Number(field.split('.')[1])]!),
        );
        if (complaints.length > 0) throw unacceptable(complaints);
        return { document, left, compared };
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/sheets/look',
      summary: 'What an uploaded sheet would be as an entity, with what its rows say; as lines where that is asked for',
      role: 'specialist',
      body: LookAtSheetBody,
      heavy: true,
      work: async ({ params, body, request, response, wanted }) => {
        const { row } = await existing(params['system']);
        const file = await knownFile(context, body.file);
        if (request.accepts(['application/json', LINES]) !== LINES) {
          const told: SheetTold[] = [];
          await lookAtSheet(context, row.id, file, wanted, (each) => void told.push(each));
          return { told };
        }
        const lines = inLines(response);
        await lines.with(lookAtSheet(context, row.id, file, wanted, lines.write));
        return undefined;
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/sheets/reference',
      summary: 'How many rows of a column lead to records; nothing is written',
      role: 'specialist',
      body: MeasureReferenceBody,
      heavy: true,
      work: async ({ params, body, wanted }) => {
        const { row, schema } = await existing(params['system']);
        const { reference } = body.column;
        if (!reference) throw unacceptable([{ field: 'column.reference', reason: 'is missing' }]);
        const { id } = await knownFile(context, body.file);
        return withFile(context, id, async (opened) => ({
          seen: await measureReference(context, { system: row.id, schema, opened, wanted }, body.column, reference),
        }));
      },
    }),
    route({
      method: 'post',
      path: '/schema/:system/sheets',
      summary: 'Make an entity of a sheet and take its rows in',
      role: 'specialist',
      body: NewSheetBody,
      limit: DEFINITION_LIMIT,
      work: async ({ params, body, response, user }) => {
        const place = await existing(params['system']);
        await ableToMake(place);
        const { sheet } = body;
        const file = await knownFile(context, body.file);
        const definition = definitionOfSheet(sheet);
        if (definition.entities[0]!.fields.length === 0)
          throw unacceptable([{ field: 'sheet.columns', reason: 'become no field at all' }]);
        sound(definition, place.schema);
        const strange = sheet.columns.find(({ column }) => !file.columns.includes(column));
        if (strange)
          throw unacceptable([{ field: 'sheet.columns', reason: `“${strange.column}” is none of the file’s` }]);
        const system = place.row.id;
        const title = `${sheet.label} with ${counted(file.rows, 'row')} in ${place.row.name}`;
        const change = await beginChange(context, user, title, [
          { kind: 'entities', system, entities: definition.entities },
          { kind: 'rows', system, sheet, file: file.id, rows: file.rows },
        ]);
        response.status(202);
        return { change };
      },
    }),
    route({
      method: 'get',
      path: '/schema-changes',
      summary: 'What was changed of schemas, the newest first',
      role: 'viewer',
      work: async () => ({ changes: (await listSchemaChanges(db)).map(told) }),
    }),
    route({
      method: 'get',
      path: '/schema-changes/:id',
      summary: 'A change of schemas, step by step, with what has become of its rows',
      role: 'viewer',
      work: async ({ params }) => {
        const change = await existingChange(params['id']);
        const rows = await rowsOf(context, change);
        return { change: { ...told(change), ...(rows ? { rows } : {}) } };
      },
    }),
    route({
      method: 'post',
      path: '/schema-changes/:id/go-on',
      summary: 'Go on with a change that a system didn’t take, or that was taken back',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { id } = await existingChange(params['id']);
        await moved(id, 'forth', user);
      },
    }),
    route({
      method: 'post',
      path: '/schema-changes/:id/pause',
      summary: 'Stop a change that is under way, such as one whose system doesn’t answer; it can be gone on with',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { id, job } = await existingChange(params['id']);
        if (!(await setJobState(db, job.id, ['running'], 'paused')))
          throw new Problem(409, 'Not under way', 'It has come to rest already.');
        await noteChange(db, actorOf(user), 'stopped a change of a schema', id);
      },
    }),
    route({
      method: 'post',
      path: '/schema-changes/:id/take-back',
      summary: 'Take a change back: its rows first, then what was made, as far as nothing else uses it',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { id } = await existingChange(params['id']);
        await moved(id, 'back', user);
      },
    }),
  ];

  async function moved(id: string, direction: 'forth' | 'back', user: User): Promise<void> {
    if (!(await moveSchemaChange(db, id, direction, user.name)))
      throw new Problem(409, 'Under way', 'It is under way at the moment.');
    const what = direction === 'forth' ? 'let a change of a schema go on' : 'took a change of a schema back';
    await noteChange(db, actorOf(user), what, id);
    systems.forget();
    jobs.look();
  }
};

const isTaken = (field: string): boolean => /^entities\.\d+\.name$/.test(field);

/** @throws Problem with path and reason where it can't be made as it says */
function sound(definition: NewEntitiesBody, schema: Schema): void {
  const complaints = troubleIn(definition, schema);
  if (complaints.length > 0) throw unacceptable(complaints);
}

async function abilitiesOf({ systems }: Context, id: string, schema: Schema): Promise<SchemaAbilities> {
  const client = await systems.client(id).catch((error: unknown) => {
    if (isSystemTrouble(error)) return undefined;
    throw error;
  });
  const can = client?.schemaChanges;
  const roles = schema.entities.flatMap((entity) => [...(entity.roles?.reads ?? []), ...(entity.roles?.writes ?? [])]);
  return {
    entities: can?.makeEntities !== undefined,
    fields: can?.addField !== undefined,
    options: (can?.addOptions ?? can?.addOption) !== undefined,
    removing: can?.removeEntity !== undefined,
    roles: [...new Set(roles)],
  };
}

const told = ({ job, oneField: _, ...change }: SchemaChangeLine): Unsent<SchemaChangeTold> => ({
  ...change,
  state: job.state,
  words: job.words,
});

async function rowsOf({ db }: Context, change: SchemaChangeLine): Promise<SchemaChangeDetail['rows']> {
  const outcome = change.outcomes.find((each) => each.import !== undefined);
  const found = outcome?.import === undefined ? undefined : await importById(db, outcome.import);
  if (!found) return undefined;
  const { id, intakeId, state, rows: total, done, problems } = found;
  const totals = await importTotals(db, found);
  return { import: id, intake: intakeId, state, total, done, totals, problems: problems.slice(0, 100) };
}
