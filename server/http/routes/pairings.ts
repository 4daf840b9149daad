import {
  AnswerPairBody,
  ChangePairingBody,
  LookAtPairingBody,
  NewPairingBody,
  ProposePairingBody,
  RehearsePairingBody,
  SendAgainBody,
  StartPairingBody,
} from '@zusammen/core/api';
import { freshPairing, type Side } from '@zusammen/core/pairing';
import {
  allFields,
  answerPair,
  apply,
  compareAnew,
  missingFor,
  removePairingWhole,
  type PairAnswer,
} from '../../engine/index.ts';
import {
  addPairing,
  changePairing,
  hastenJob,
  learnedOf,
  lookAgain,
  noteChange,
  pairingById,
  noneAtWork,
  setPairingState,
  troublesOf,
  type PairingRow,
  type User,
} from '../../store/index.ts';
import { addOptions } from '../../systems/index.ts';
import { changedSchema } from '../changed-schema.ts';
import { actorOf, type Context } from '../context.ts';
import {
  findingsOf,
  lookAtPairing,
  pairingDetail,
  pairingsListed,
  pairQuestions,
  rehearsePairing,
  Samples,
} from '../pairings.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

const REHEARSED = 200;
/** Milliseconds until every process knows a schema that has just changed. */
const SCHEMAS_KNOWN_MS = 2_500;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Pairings: two entities kept in step. */
/** Milliseconds that whoever pauses a pairing waits at most for what is on its way; a system in trouble takes longer. */
const LONGEST_ON_THE_WAY_MS = 3_000;

export const pairingRoutes = (context: Context): Route[] => {
  const { db, live, jobs, pairings, heavy } = context;
  const samples = new Samples(context);
  const existing = async (id: string | undefined): Promise<PairingRow> => {
    const row = UUID.test(id ?? '') ? await pairingById(db, id!) : undefined;
    if (!row) throw notFound('such pairing');
    return row;
  };
  /** Both of its entities have to be there, and be told apart. */
  const checkedSides = async (document: Pick<PairingRow['draft'], Side>): Promise<void> => {
    const schemas = await live.allSchemas();
    for (const side of ['left', 'right'] as const) {
      const { system, entity } = document[side];
      if (!schemas.has(system)) throw badField(`${side}.system`, 'is no connected system');
      if (!schemas.get(system)!.entities.some(({ name }) => name === entity))
        throw badField(`${side}.entity`, 'can’t be seen in this system');
    }
  };
  /** Adds the options for want of which values are refused. */
  const addMissing = async (row: PairingRow, cause: string | undefined, user: User): Promise<void> => {
    if (cause === undefined) throw badField('cause', 'is needed: options are added for one cause');
    const pairing = await pairings.byId(row.id);
    const [trouble] = await troublesOf(db, { pairing: row.id, cause, kind: 'refused', limit: 1 });
    const missing = pairing && trouble && (await missingFor(db, pairing, trouble.lineId, cause));
    const line = pairing?.document.lines.find(({ id }) => id === trouble?.lineId);
    if (!missing || !line) throw new Problem(409, 'Nothing missing', 'No options are missing there any more.');
    const { system, entity } = row.draft[missing.side];
    const field = line[missing.side].path[0]!;
    await changedSchema(() => addOptions(context, system, [entity, field], missing.options, user.name));
    const added = missing.options.map(({ value }) => value);
    await noteChange(db, actorOf(user), 'added options to a field', system, { entity, field, added });
    live.forget();
  };
  const hasten = async (id: string): Promise<void> => {
    pairings.forget();
    await hastenJob(db, 'pairing', id);
    jobs.look();
  };

  return [
    route({
      method: 'get',
      path: '/pairings',
      summary: 'All pairings, with how their pairs stand',
      role: 'viewer',
      work: async () => ({ pairings: await pairingsListed(context) }),
    }),
    route({
      method: 'post',
      path: '/pairings',
      summary: 'Make a pairing; nothing is written until it is started',
      role: 'specialist',
      body: NewPairingBody,
      work: async ({ body, user, response }) => {
        await checkedSides(body.document);
        const row = await addPairing(db, body.document);
        await noteChange(db, actorOf(user), 'made a pairing', row.id);
        response.status(201);
        return { id: row.id };
      },
    }),
    route({
      method: 'post',
      path: '/pairings/propose',
      summary: 'What goes with what, measured on the records, and which fields are linked',
      role: 'specialist',
      body: ProposePairingBody,
      heavy: true,
      work: async ({ body, wanted }) => {
        await checkedSides(body);
        const schemas = await live.allSchemas();
        const places = await pairingsListed(context, rowLike(freshPairing('', body.left, body.right)));
        const { left, right } = places[0]!;
        const document = freshPairing(
          `${left.entityLabel} with ${right.entityLabel}`.slice(0, 120),
          body.left,
          body.right,
        );
        const sampled = await samples.of(document, allFields, 'all');
        const task = { document, schemas, sample: sampled, learned: await learnedOf(db) };
        return heavy.run('proposePairing', task, wanted);
      },
    }),
    route({
      method: 'get',
      path: '/pairings/questions',
      summary: 'Pairs that wait for somebody: both sides changed, several go with one, one is gone',
      role: 'specialist',
      work: async () => ({ questions: await pairQuestions(context) }),
    }),
    route({
      method: 'get',
      path: '/pairings/:id',
      summary: 'A pairing, how its pairs stand, and what waits',
      role: 'viewer',
      work: async ({ params }) => ({ pairing: await pairingDetail(context, await existing(params['id'])) }),
    }),
    route({
      method: 'put',
      path: '/pairings/:id/draft',
      summary: 'Change the draft; what is applied stays as it is until it is started',
      role: 'specialist',
      body: ChangePairingBody,
      work: async ({ params, body }) => {
        const row = await existing(params['id']);
        await checkedSides(body.document);
        if (row.liveVersion !== null && !sameSides(row.draft, body.document))
          throw badField('document.left', 'can’t be another entity once a pairing has been started');
        if (!(await changePairing(db, row.id, body.revision, body.document)))
          throw new Problem(409, 'Changed meanwhile', 'Somebody else has changed this pairing; load it again.');
        return { revision: body.revision + 1 };
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/look',
      summary: 'What would happen to each field over real pairs, and what the checks find',
      role: 'specialist',
      body: LookAtPairingBody,
      heavy: true,
      work: async ({ params, body, wanted }) => {
        const row = await existing(params['id']);
        await checkedSides(body.document);
        return lookAtPairing(context, samples, row, body.document, wanted);
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/rehearse',
      summary: 'What would be written to some pairs; nothing is',
      role: 'specialist',
      body: RehearsePairingBody,
      bodyOptional: true,
      heavy: true,
      work: async ({ params, body, wanted }) =>
        rehearsePairing(context, samples, await existing(params['id']), body.pairs ?? REHEARSED, wanted),
    }),
    route({
      method: 'post',
      path: '/pairings/:id/start',
      summary: 'Apply the draft, or let a paused pairing go on',
      role: 'specialist',
      body: StartPairingBody,
      bodyOptional: true,
      work: async ({ params, body, user, wanted }) => {
        const row = await existing(params['id']);
        const isAsLive = row.liveVersion !== null && body.revision === undefined;
        if (isAsLive) {
          await setPairingState(db, row.id, 'running');
          await noteChange(db, actorOf(user), 'let a pairing go on', row.id);
          await hasten(row.id);
          return { version: row.liveVersion! };
        }
        const findings = await findingsOf(context, row, wanted);
        const [stops] = findings.filter(({ severity }) => severity === 'stops');
        if (stops)
          throw new Problem(
            422,
            'Can’t be started',
            stops.sentence,
            findings.map(({ id, sentence }) => ({ field: id, reason: sentence })),
          );
        if (findings.length > 0 && body.accept !== true)
          throw new Problem(
            409,
            'Wants a look',
            findings[0]!.sentence,
            findings.map(({ id, sentence }) => ({ field: id, reason: sentence })),
          );
        const work = { db, schemas: await live.allSchemas() };
        const version = await apply(work, row.id, body.revision ?? row.revision, findings, user.name);
        if (version === undefined)
          throw new Problem(409, 'Changed meanwhile', 'Somebody else has changed this pairing; load it again.');
        await noteChange(db, actorOf(user), `started version ${version} of a pairing`, row.id);
        await hasten(row.id);
        return { version };
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/pause',
      summary: 'Write nothing for now; changes are noticed meanwhile',
      role: 'specialist',
      work: async ({ params, user }) => {
        const row = await existing(params['id']);
        if (!(await setPairingState(db, row.id, 'paused')))
          throw new Problem(409, 'Not started', 'This pairing has never been started.');
        // What is on its way comes to its end; nothing more is begun.
        await noneAtWork(db, row.id, LONGEST_ON_THE_WAY_MS);
        await noteChange(db, actorOf(user), 'paused a pairing', row.id);
        pairings.forget();
        return undefined;
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/compare',
      summary: 'Read all records of both sides anew, and look at every pair',
      role: 'specialist',
      work: async ({ params, user }) => {
        const row = await existing(params['id']);
        if (!(await compareAnew(db, row.id)))
          throw new Problem(409, 'Not started', 'This pairing has never been started.');
        await noteChange(db, actorOf(user), 'had a pairing compared anew', row.id);
        await hasten(row.id);
        return undefined;
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/again',
      summary:
        'Send again what was refused, all of it or what waits for one cause; options missing there can be added first',
      role: 'specialist',
      body: SendAgainBody,
      bodyOptional: true,
      work: async ({ params, body, user }) => {
        const row = await existing(params['id']);
        if (body.add) await addMissing(row, body.cause, user);
        const dueAt = Date.now() + (body.add ? SCHEMAS_KNOWN_MS : 0);
        const again = await lookAgain(db, row.id, body.cause, dueAt);
        await hasten(row.id);
        return { again };
      },
    }),
    route({
      method: 'post',
      path: '/pairings/:id/pairs/:pair/answer',
      summary: 'Say whose value counts, which record goes with which, or what becomes of the one that is left',
      role: 'specialist',
      body: AnswerPairBody,
      work: async ({ params, body, user }) => {
        const row = await existing(params['id']);
        const pairing = await pairings.byId(row.id);
        if (!pairing || !/^\d{1,15}$/.test(params['pair']!)) throw notFound('such pair');
        const why = await answerPair(db, pairing, Number(params['pair']), answerOf(body));
        if (why !== undefined) throw new Problem(409, 'Not waiting', why);
        await noteChange(db, actorOf(user), 'decided about a pair', row.id, { pair: params['pair'], kind: body.kind });
        await hasten(row.id);
        return undefined;
      },
    }),
    route({
      method: 'delete',
      path: '/pairings/:id',
      summary: 'Remove a pairing; what it has written stays',
      role: 'specialist',
      work: async ({ params, user }) => {
        const row = await existing(params['id']);
        await removePairingWhole(db, await live.allSchemas(), row);
        await noteChange(db, actorOf(user), `removed the pairing “${row.draft.name}”`, row.id);
        pairings.forget();
        return undefined;
      },
    }),
  ];
};

const sameSides = (a: PairingRow['draft'], b: PairingRow['draft']): boolean =>
  (['left', 'right'] as const).every((side) => a[side].system === b[side].system && a[side].entity === b[side].entity);

const rowLike = (draft: PairingRow['draft']): PairingRow => ({
  ...{
    id: '',
    state: 'draft',
    draft,
    revision: 0,
    liveVersion: null,
    indexed: false,
    laid: 0,
    filled: false,
    shape: null,
  },
  ...{ createdAt: new Date(), changedAt: new Date() },
});

function answerOf({ kind, line, side, record }: AnswerPairBody): PairAnswer {
  if (kind === 'field') {
    if (line === undefined || side === undefined) throw badField('line', 'and side are needed');
    return { kind, line, side };
  }
  if (kind === 'with') {
    if (record === undefined) throw badField('record', 'is needed');
    return { kind, record };
  }
  return { kind };
}
