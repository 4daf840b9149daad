import papaparse from 'papaparse';
import {
  ANSWER_COLUMNS,
  learn,
  saysNothing,
  listedRecords,
  suggestRecognition,
  troubleWith,
  UnusableList,
} from '@zusammen/core/recognition';
import { entityOf, type Entity, type RecordState, type Values } from '@zusammen/core/schema';
import {
  effectOfChange,
  learningPairs,
  randomPairs,
  readingOf,
  samplePairs,
  type Sampled,
} from '../../engine/index.ts';
import { openFile, UnreadableFile } from '../../files/index.ts';
import {
  addDecided,
  bytesOfFile,
  countGroups,
  decidedOf,
  fileById,
  hastenFeed,
  listIntakes,
  listRecognitions,
  listSystems,
  noteChange,
  recognitionOfEntity,
  recognitionVersionsOf,
  saveRecognition,
  searchesOf,
  versionOf,
  weighedLately,
  type RecognitionRow,
} from '../../store/index.ts';
import {
  DecidePairBody,
  EffectBody,
  MatchFilesBody,
  SaveRecognitionBody,
  TryRecognitionBody,
} from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';
import { orTrouble } from '../trouble.ts';
import { keysByField } from '../facts.ts';

const AT = '/systems/:id/entities/:entity/recognition';

/** How records of an entity are recognised: what counts, where the lines are, what was learned, and what it comes to. */
export const recognitionRoutes = (context: Context): Route[] => {
  const { db, live, systems, heavy, fileReader } = context;
  const { known } = live;
  const sampled = new Map<number, { version: string; found: Promise<Sampled> }>();

  const target = async (params: Record<string, string>): Promise<{ system: string; entity: Entity }> => {
    const schemas = await live.allSchemas();
    const entity = entityOf(schemas.get(params['id']!) ?? { entities: [] }, params['entity']!);
    if (!entity) throw notFound('such entity');
    return { system: params['id']!, entity };
  };
  const existing = async (params: Record<string, string>) => {
    const { system, entity } = await target(params);
    const row = await recognitionOfEntity(db, system, entity.name);
    if (!row) throw new Problem(404, 'Not set up', `Nobody has said yet how a ${entity.label} is recognised.`);
    return { system, entity, row };
  };
  const filled = (row: RecognitionRow): void => {
    if (row.filledAt === null) throw new Problem(409, 'Not yet', 'The records are still being read.');
  };
  const sampleOf = async (row: RecognitionRow): Promise<Sampled> => {
    const version = `${row.generation} ${row.countedAt?.getTime() ?? 0}`;
    const held = sampled.get(row.scope);
    if (held?.version === version) return held.found;
    const found = samplePairs(db, known, row, await known.recogniserOf(row));
    sampled.set(row.scope, { version, found });
    found.catch(() => sampled.delete(row.scope));
    return found;
  };
  /** The intakes whose live plan recognises by it, by name. */
  const usesOf = async (system: string, entity: string): Promise<string[]> => {
    const versions = await Promise.all(
      (await listIntakes(db)).map(({ id, liveVersion }) =>
        liveVersion === null ? undefined : versionOf(db, id, liveVersion),
      ),
    );
    return versions.flatMap((version) =>
      version?.document.plan.steps.some((step) => step.evidence && step.system === system && step.entity === entity)
        ? [version.document.name]
        : [],
    );
  };

  return [
    route({
      method: 'get',
      path: '/recognitions',
      summary: 'The entities whose records are recognised by evidence',
      role: 'viewer',
      work: async () => {
        const names = new Map((await listSystems(db)).map(({ id, name }) => [id, name]));
        const rows = await listRecognitions(db);
        return {
          recognitions: rows.map(
            ({ systemId, entity, document, revision, known: count, filledAt, words, measure }) => ({
              ...{
                system: systemId,
                systemName: names.get(systemId) ?? systemId,
                entity,
                kind: document.kind,
                revision,
              },
              ...{ document, known: count, filledAt, words, keys: keysByField(document, measure?.keys) },
            }),
          ),
        };
      },
    }),
    route({
      method: 'get',
      path: AT,
      summary: 'How records of an entity are recognised, with what was measured on the known ones',
      role: 'viewer',
      work: async ({ params }) => {
        const { system, entity } = await target(params);
        const row = await recognitionOfEntity(db, system, entity.name);
        const suggestion = suggestRecognition(entity) ?? null;
        if (!row) return { recognition: null, suggestion };
        const [decided, uses, searches, groups, versions] = await Promise.all([
          decidedOf(db, row.scope),
          usesOf(system, entity.name),
          searchesOf(db, row.scope),
          countGroups(db, row.scope),
          recognitionVersionsOf(db, row.scope),
        ]);
        const { nextLink: _n, deltaLink: _d, ...shown } = row;
        return {
          recognition: shown,
          suggestion,
          decided: { same: decided.filter(({ same }) => same).length, of: decided.length },
          uses,
          searches,
          groups,
          versions: versions.map(({ number, savedAt, savedBy }) => ({ number, savedAt, savedBy })),
        };
      },
    }),
    route({
      method: 'put',
      path: AT,
      summary: 'Save how records of an entity are recognised, as a new version',
      role: 'specialist',
      body: SaveRecognitionBody,
      work: async ({ params, body, user }) => {
        const { system, entity } = await target(params);
        const trouble = troubleWith(body.document, entity);
        if (trouble) throw badField(`document.${trouble.at}`, trouble.what);
        const revision = await saveRecognition(db, system, entity.name, body.document, body.revision, actorOf(user));
        if (revision === undefined)
          throw new Problem(
            409,
            'Changed meanwhile',
            'Somebody else has saved another version. Load it and look again.',
          );
        known.refresh();
        context.jobs.look();
        return { revision };
      },
    }),
    route({
      method: 'post',
      path: `${AT}/learn` as const,
      summary: 'Learn weights from the known records and from what people decided; nothing is saved',
      role: 'specialist',
      work: async ({ params }) => {
        const { row } = await existing(params);
        filled(row);
        const [sample, decided, recogniser] = await Promise.all([
          sampleOf(row),
          decidedOf(db, row.scope),
          known.recogniserOf(row),
        ]);
        const random = await randomPairs(sample, recogniser);
        const learned = learn(learningPairs(sample, decided), random, row.known);
        // Others are served before what it changes is counted.
        await new Promise(setImmediate);
        const after = recogniser.with({ ...row.document, learned });
        return { learned, effect: effectOfChange(recogniser, after, sample, decided), decided: decided.length };
      },
    }),
    route({
      method: 'post',
      path: `${AT}/effect` as const,
      summary: 'What another version would make of the known records and of what was decided',
      role: 'viewer',
      body: EffectBody,
      work: async ({ params, body }) => {
        const { entity, row } = await existing(params);
        filled(row);
        const trouble = troubleWith(body.document, entity);
        if (trouble) throw badField(`document.${trouble.at}`, trouble.what);
        const recogniser = await known.recogniserOf(row);
        const [sample, decided, weighed] = await Promise.all([
          sampleOf(row),
          decidedOf(db, row.scope),
          weighedLately(db, row.systemId, row.entity),
        ]);
        return { effect: effectOfChange(recogniser, recogniser.with(body.document), sample, decided, weighed) };
      },
    }),
    route({
      method: 'post',
      path: `${AT}/try` as const,
      summary: 'Weigh a typed-in record against the known ones',
      role: 'viewer',
      body: TryRecognitionBody,
      work: async ({ params, body }) => {
        const { system, entity, row } = await existing(params);
        filled(row);
        const values: Values = {};
        for (const [name, value] of Object.entries(body.values)) {
          if (!row.document.parts.some(({ field }) => field === name))
            throw badField(`values.${name}`, 'is no field that counts as evidence');
          if (typeof value !== 'string' || value.length > 1000)
            throw badField(`values.${name}`, 'must be a text of at most 1,000 characters');
          if (value.trim() !== '') values[name] = value;
        }
        if (Object.keys(values).length === 0) throw badField('values', 'must hold a value');
        const reading = readingOf(systems, await live.allSchemas(), known);
        const weighing = await orTrouble(known.weigh(reading, { system, entity: entity.name }, values, 10));
        if (!weighing) throw new Problem(404, 'Not set up', 'Nobody has said yet how these records are recognised.');
        const ignored = row.document.parts
          .filter(({ part, field }) => saysNothing(part, String(values[field] ?? '')))
          .map(({ field }) => field);
        return { ...weighing, ignored };
      },
    }),
    route({
      method: 'get',
      path: `${AT}/records` as const,
      summary: 'Known records as they are in the system now',
      role: 'specialist',
      work: async ({ params, query }) => {
        const { system, entity } = await existing(params);
        const ids = (query['ids'] ?? '').split(',').filter(Boolean).slice(0, 20);
        const client = await systems.client(system);
        const records = await orTrouble(Promise.all(ids.map((id) => client.read(entity, id))));
        return { records: records.filter((record): record is RecordState => record !== undefined) };
      },
    }),
    route({
      method: 'post',
      path: `${AT}/decisions` as const,
      summary: 'Say whether two known records are the same; weights are learned from it',
      role: 'specialist',
      body: DecidePairBody,
      work: async ({ params, body, user }) => {
        const { row } = await existing(params);
        const pair = row.measure?.near.find(({ a, b }) => a === body.a && b === body.b);
        if (!pair) throw badField('a', 'and b must be a pair near the lines');
        const sample = await sampleOf(row);
        const plain = sample.pairs.find(({ a, b }) => a.id === body.a && b.id === body.b);
        const evidence = plain?.compared.evidence ?? pair.evidence;
        await addDecided(
          db,
          row.scope,
          [{ a: body.a, b: body.b, same: body.same, weight: pair.weight, evidence }],
          user.name,
        );
        await noteChange(
          db,
          actorOf(user),
          `decided: ${body.a} and ${body.b} are ${body.same ? 'the same' : 'two'}`,
          `${row.systemId}/${row.entity}`,
        );
      },
    }),
    route({
      method: 'post',
      path: `${AT}/measure` as const,
      summary: 'Look for changes in the system and measure anew',
      role: 'specialist',
      work: async ({ params }) => {
        const { row } = await existing(params);
        await hastenFeed(db, row.systemId, row.entity);
        context.jobs.look();
      },
    }),
    route({
      method: 'post',
      path: '/recognise/files',
      summary: 'Match one uploaded file against another; answers as CSV',
      role: 'specialist',
      body: MatchFilesBody,
      heavy: true,
      work: async ({ body, response, wanted }) => {
        try {
          const [records, asked] = [await rows(body.records, 'records'), await rows(body.queries, 'queries')];
          const answers = await heavy.run('match', { known: records, asked, kind: body.kind ?? 'person' }, wanted);
          response
            .type('text/csv; charset=utf-8')
            .set('Content-Disposition', 'attachment; filename="answers.csv"')
            .send(`${papaparse.unparse({ fields: ANSWER_COLUMNS, data: answers }, { newline: '\n' })}\n`);
        } catch (error) {
          if (error instanceof UnusableList || error instanceof UnreadableFile)
            throw badField('records', error.message);
          throw error;
        }
      },
    }),
  ];

  async function rows(id: string, what: string) {
    const known = await fileById(db, id);
    if (!known || known.removedAt !== null) throw badField(what, 'is no uploaded file');
    const file = await openFile(await bytesOfFile(db, id), fileReader);
    try {
      const rows = await file.take(0, file.rows);
      const cells = rows.map((row) => {
        if ('bad' in row) throw badField(what, `row ${row.line} ${row.bad}`);
        return row.cells;
      });
      return listedRecords(file.columns, cells, what);
    } finally {
      await file.close();
    }
  }
};
