import { fullest, SURVIVOR_RULES, type SurvivorRule } from '@zusammen/core/recognition';
import { entityOf, type Entity } from '@zusammen/core/schema';
import { mayAct } from '../../access/index.ts';
import {
  beginMerge,
  decidedOn,
  link,
  membersNow,
  mergePlan,
  mergeable,
  mergedSoFar,
  mergingOf,
  pairsOf,
  RecordNames,
  takeLinkBack,
  takeMergeBack,
} from '../../engine/index.ts';
import { acrossNow, acrossOf } from '../across.ts';
import {
  addSearch,
  countGroups,
  groupById,
  groupsOfScope,
  noteChange,
  packedOf,
  recognitionByScope,
  recognitionOfEntity,
  searchById,
  searchesOf,
  setGroup,
  setJobState,
  type DoubleGroup,
  type GroupState,
  type RecognitionRow,
  type User,
} from '../../store/index.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { MergeBody, NewSearchBody, SearchStateBody } from '@zusammen/core/api';
import { isId } from '../query.ts';
import { route, type Route } from '../route.ts';
import { isSystemTrouble } from '../../systems/index.ts';
import { orTrouble } from '../trouble.ts';

const AT = '/systems/:id/entities/:entity/doubles';
/** How long a request waits for a merge, in milliseconds. */
const MERGE_PATIENCE_MS = 20_000;
const GOES_ON = 'What was begun goes on when you ask for it again.';
const STATES: GroupState[] = ['open', 'merging', 'merged', 'apart', 'taken back'];

/** Doubles among known records: searched for in bulk, looked at in groups, merged, or kept apart. */
export const doublesRoutes = (context: Context): Route[] => {
  const { db, live, systems } = context;
  const existing = async (params: Record<string, string>): Promise<RecognitionRow> => {
    const row = await recognitionOfEntity(db, params['id']!, params['entity']!);
    if (!row) throw new Problem(404, 'Not set up', 'Nobody has said yet how these records are recognised.');
    return row;
  };
  const groupAt = async (id: string | undefined) => {
    const group = /^\d{1,9}$/.test(id ?? '') ? await groupById(db, Number(id)) : undefined;
    const row = group && (await recognitionByScope(db, group.scope));
    const entity = row && entityOf((await live.allSchemas()).get(row.systemId) ?? { entities: [] }, row.entity);
    if (!group || !row || !entity) throw notFound('such group');
    return { group, row, entity, across: await acrossOf(db, await live.allSchemas(), group, row, entity) };
  };
  const work = { db, systems, live };
  /** Works on a merge here, for as long as somebody waits; what isn't done by then goes on by itself. */
  const carryOn = async (group: DoubleGroup, user: User, plan: NonNullable<DoubleGroup['merge']>) => {
    const id = await beginMerge(db, group, user.name, plan);
    const job = await context.jobs.here(id, 'merge', MERGE_PATIENCE_MS);
    const merged = await mergedSoFar(db, group.id, job);
    if (job?.state === 'failed') throw new Problem(503, 'Broken off', `${merged.words} ${GOES_ON}`);
    return merged;
  };

  const recordNames = new RecordNames();
  /** What records are called in their system; nothing where that can't be reached. */
  const namesOf = async (row: RecognitionRow, ids: readonly string[]): Promise<Map<string, string>> => {
    const schema = (await live.allSchemas()).get(row.systemId);
    const entity = schema && entityOf(schema, row.entity);
    if (!entity || ids.length === 0) return new Map();
    try {
      return await recordNames.of(await systems.client(row.systemId), String(row.scope), entity, ids);
    } catch (error) {
      if (isSystemTrouble(error)) return new Map();
      throw error;
    }
  };

  return [
    route({
      method: 'get',
      path: AT,
      summary: 'Searches for doubles of an entity, and the groups found',
      role: 'viewer',
      work: async ({ params, query, user }) => {
        const row = await existing(params);
        // What records hold is a specialist's to see; a viewer sees how many there are, and which.
        const mayRead = mayAct(user.role, 'specialist');
        const state = (query['state'] ?? 'open,merging').split(',') as GroupState[];
        if (state.some((each) => !STATES.includes(each))) throw badField('state', `must be of ${STATES.join(', ')}`);
        const groups = await groupsOfScope(db, row.scope, state);
        const members = [...new Set(groups.flatMap((group) => group.members))];
        const packed = mayRead ? await packedOf(db, row.scope, members) : [];
        const recogniser = await live.known.recogniserOf(row);
        const told = new Map(packed.map((each) => [each.recordId, recogniser.kind.unpack(each.recordId, each.packed)]));
        const firsts = groups.flatMap((group) => group.members.slice(0, 1));
        const called = mayRead ? await namesOf(row, firsts) : new Map<string, string>();
        return {
          searches: await searchesOf(db, row.scope),
          counts: await countGroups(db, row.scope),
          groups: groups.map((group) => ({
            ...group,
            merge: mayRead ? group.merge : null,
            weight: group.weight / 100,
            names: group.members.map((id) => called.get(id) ?? nameOf(told.get(id)) ?? id),
          })),
        };
      },
    }),
    route({
      method: 'post',
      path: AT,
      summary: 'Search for doubles among all known records',
      role: 'specialist',
      body: NewSearchBody,
      bodyOptional: true,
      work: async ({ params, body, user, response }) => {
        const row = await existing(params);
        const [system, ...entity] = (body.among ?? `${row.systemId}/${row.entity}`).split('/');
        const other = await recognitionOfEntity(db, system!, entity.join('/'));
        if (!other) throw badField('among', 'names no entity whose records are recognised by evidence');
        if (other.document.kind !== row.document.kind)
          throw badField('among', `keeps records of another kind: ${other.document.kind}, not ${row.document.kind}`);
        if (row.filledAt === null || other.filledAt === null)
          throw new Problem(409, 'Not yet', 'The records are still being read.');
        const running = (await searchesOf(db, row.scope)).find(
          ({ state, otherScope }) => otherScope === other.scope && (state === 'running' || state === 'paused'),
        );
        if (running) throw new Problem(409, 'Under way', 'They are being searched for already.');
        const id = await addSearch(db, row.scope, other.scope, user.name);
        await noteChange(db, actorOf(user), 'searched for doubles', `${row.systemId}/${row.entity}`);
        context.jobs.look();
        response.status(201);
        return { search: id };
      },
    }),
    route({
      method: 'post',
      path: '/doubles/searches/:id/state',
      summary: 'Pause a search for doubles, let it go on, or cancel it',
      role: 'specialist',
      body: SearchStateBody,
      work: async ({ params, body }) => {
        const search = isId(params['id']) ? await searchById(db, params['id']) : undefined;
        if (!search) throw notFound('such search');
        const from = { running: ['paused', 'failed'], paused: ['running'], cancelled: ['running', 'paused'] } as const;
        if (!(await setJobState(db, search.id, from[body.state], body.state)))
          throw new Problem(409, 'Not now', `This search is ${search.state}.`);
        context.jobs.look();
      },
    }),
    route({
      method: 'get',
      path: '/doubles/groups/:id',
      summary: 'A group of doubles as it is now, with what merging it would write',
      role: 'specialist',
      work: async ({ params, query }) => {
        const { group, row, entity, across } = await groupAt(params['id']);
        if (across) return orTrouble(acrossNow(context, group, row, entity, across));
        const records = await orTrouble(membersNow({ ...(await mergingOf(work, group, row, '')) }));
        const rule = (query['rule'] ?? SURVIVOR_RULES[0]) as SurvivorRule;
        if (!SURVIVOR_RULES.includes(rule)) throw badField('rule', `must be one of ${SURVIVOR_RULES.join(', ')}`);
        const survivor = query['survivor'] ?? fullest(records)?.id;
        const plan =
          survivor !== undefined && records.some(({ id }) => id === survivor) && records.length > 1
            ? mergePlan(entity, records, survivor, rule, {}, query['trusted'])
            : undefined;
        return {
          group: { ...group, weight: group.weight / 100 },
          system: row.systemId,
          entity: row.entity,
          records,
          fields: mergeable(entity).map(({ name }) => name),
          pairs: (await pairsOf(work, row, group.members)).map(({ plain: _, ...pair }) => pair),
          survivor,
          kept: plan?.kept ?? [],
        };
      },
    }),
    route({
      method: 'post',
      path: '/doubles/groups/:id/merge',
      summary: 'Merge a group into one of its records, through the system',
      role: 'specialist',
      body: MergeBody,
      work: async ({ params, body, user }) => {
        const { group, row, entity, across } = await groupAt(params['id']);
        if (across) throw new Problem(409, 'Not to be merged', 'These are records of two entities.');
        const merging = await mergingOf(work, group, row, user.name);
        const records = await orTrouble(membersNow(merging));
        checkMerge(
          body,
          entity,
          records.map(({ id }) => id),
        );
        const { survivor, values, others } = mergePlan(
          entity,
          records,
          body.survivor,
          body.rule ?? SURVIVOR_RULES[0],
          body.choice ?? {},
          body.trusted,
        );
        const plan = { survivor, values, others };
        const decided = { decidedAt: new Date(), decidedBy: user.name };
        if (!(await setGroup(db, group.id, ['open'], { state: 'merging', merge: plan, words: null, ...decided })))
          throw new Problem(409, 'Not now', `This group is ${group.state}.`);
        await noteChange(
          db,
          actorOf(user),
          `merged ${others.join(', ')} into ${survivor}`,
          `${row.systemId}/${row.entity}`,
        );
        return carryOn(group, user, plan);
      },
    }),
    route({
      method: 'post',
      path: '/doubles/groups/:id/link',
      summary: 'Lead a record to the one of another entity that is the same',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { group, row, across } = await groupAt(params['id']);
        if (!across?.link)
          throw new Problem(409, 'No relation', 'No field of the one entity that may be changed leads to the other.');
        const decided = { decidedAt: new Date(), decidedBy: user.name };
        if (!(await setGroup(db, group.id, ['open', 'taken back'], { state: 'merging', words: null, ...decided })))
          throw new Problem(409, 'Not now', `This group is ${group.state}.`);
        const result = await orTrouble(link(await mergingOf(work, group, row, user.name), across.link)).catch(
          async (error: unknown) => {
            await setGroup(db, group.id, ['merging'], { state: 'open' });
            throw error;
          },
        );
        await setGroup(db, group.id, ['merging'], { state: result.done ? 'merged' : 'open', words: result.words });
        await noteChange(db, actorOf(user), `led ${group.members.join(' to ')}`, `${row.systemId}/${row.entity}`);
        return result;
      },
    }),
    route({
      method: 'post',
      path: '/doubles/groups/:id/go-on',
      summary: 'Go on with a merge that was broken off',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { group } = await groupAt(params['id']);
        if (group.state !== 'merging' || !group.merge)
          throw new Problem(409, 'Not now', `This group is ${group.state}.`);
        return carryOn(group, user, group.merge);
      },
    }),
    route({
      method: 'post',
      path: '/doubles/groups/:id/apart',
      summary: 'Say that the records of a group are not the same',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { group, row, across } = await groupAt(params['id']);
        const decided = { decidedAt: new Date(), decidedBy: user.name };
        if (!(await setGroup(db, group.id, ['open'], { state: 'apart', ...decided })))
          throw new Problem(409, 'Not now', `This group is ${group.state}.`);
        if (!across) await decidedOn(work, row, group, false, user.name);
        await noteChange(db, actorOf(user), `kept apart ${group.members.join(', ')}`, `${row.systemId}/${row.entity}`);
      },
    }),
    route({
      method: 'post',
      path: '/doubles/groups/:id/take-back',
      summary: 'Take a merge back: what was removed is made anew, what led to it leads to it again',
      role: 'specialist',
      work: async ({ params, user }) => {
        const { group, row, across } = await groupAt(params['id']);
        if (group.state === 'apart') {
          if (!(await setGroup(db, group.id, ['apart'], { state: 'open', decidedAt: null, decidedBy: null })))
            throw new Problem(409, 'Not now', 'Somebody else has just done so.');
          return { done: true, moved: 0, removed: 0, words: 'The group is open again.' };
        }
        if (!['merged', 'merging', 'taken back'].includes(group.state))
          throw new Problem(409, 'Not now', `This group is ${group.state}.`);
        const result = await orTrouble(
          across
            ? takeLinkBack(await mergingOf(work, group, row, user.name))
            : takeMergeBack(await mergingOf(work, group, row, user.name)),
          GOES_ON,
        );
        await setGroup(db, group.id, ['merged', 'merging'], { state: 'taken back', words: result.words });
        await noteChange(
          db,
          actorOf(user),
          `took back the merge of ${group.members.join(', ')}`,
          `${row.systemId}/${row.entity}`,
        );
        return result;
      },
    }),
  ];
};

function checkMerge(body: MergeBody, entity: Entity, members: readonly string[]): void {
  if (!members.includes(body.survivor)) throw badField('survivor', 'is not among the records that are still there');
  if (members.length < 2) throw new Problem(409, 'Nothing to merge', 'Only one of these records is still there.');
  const names = new Set(mergeable(entity).map(({ name }) => name));
  for (const [field, id] of Object.entries(body.choice ?? {})) {
    if (!names.has(field)) throw badField(`choice.${field}`, 'can’t be changed in a merge');
    if (!members.includes(id)) throw badField(`choice.${field}`, 'names none of the records');
  }
}

/** What a prepared record is called, as far as it is told. */
function nameOf(record: unknown): string | undefined {
  const { given = [], family = [], words = [] } = (record ?? {}) as Record<string, string[]>;
  const name = [...given, ...family, ...words].map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join(' ');
  return name === '' ? undefined : name;
}
