import { describeTreatment } from '@zusammen/core/mapping';
import { carryOutAgain, takeBackChange, takeBackSubmission, countAsTakenBack } from '../../engine/index.ts';
import {
  countStates,
  intakeById,
  ledgerOf,
  ledgerRow,
  listIntakes,
  listSystems,
  noteChange,
  searchLedger,
  searchSubmissions,
  settleByHand,
  submissionById,
  type LedgerRow,
  type LedgerState,
  type Submission,
  type SubmissionState,
} from '../../store/index.ts';
import { SystemUnavailable, TokenRefused } from '../../systems/index.ts';
import { AnswerBody, SetAsideBody } from '../bodies.ts';
import { actorOf, type Context } from '../context.ts';
import { todayFigures, RANGES, type Range } from '../figures.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { route, type Route } from '../route.ts';

const STATES: SubmissionState[] = ['received', 'applied', 'in review', 'refused', 'failed', 'set aside', 'taken back'];
const LEDGER_STATES: LedgerState[] = ['intended', 'written', 'refused', 'overtaken'];

export const submissionRoutes = (context: Context): Route[] => {
  const { db, live, systems, queued } = context;
  const existing = async (id: string): Promise<Submission> => {
    const submission = /^[0-9a-f-]{36}$/.test(id) ? await submissionById(db, id) : undefined;
    if (!submission) throw notFound('such submission');
    return submission;
  };
  /** Where a record's page is in its system, for as many records as an answer holds. */
  const pages = async (): Promise<(systemId: string, entity: string, id: string | null) => string | undefined> => {
    const templates = new Map((await listSystems(db)).map(({ id, recordPage }) => [id, recordPage]));
    return (systemId, entity, id) => {
      const template = templates.get(systemId);
      if (!template || id === null) return undefined;
      return template.replace('{entity}', encodeURIComponent(entity)).replace('{id}', encodeURIComponent(id));
    };
  };
  const shownChange = (row: LedgerRow, pageOf: Awaited<ReturnType<typeof pages>>) => {
    const { etagBefore: _b, etagAfter: _a, requestId: _r, ...rest } = row;
    return { ...rest, page: pageOf(row.systemId, row.entity, row.recordId) };
  };
  /** Trouble with a system in the middle of a request somebody waits for. */
  const orTrouble = async <T>(work: Promise<T>): Promise<T> =>
    work.catch((error: unknown) => {
      if (error instanceof SystemUnavailable || error instanceof TokenRefused)
        throw new Problem(
          503,
          'The system does not answer',
          `${error.message} What was begun is finished as soon as it does.`,
        );
      throw error;
    });

  return [
    route({
      method: 'get',
      path: '/submissions',
      summary: 'The newest submissions that meet a search',
      role: 'viewer',
      work: async ({ query }) => {
        const { intake, state, text, before } = query;
        if (state !== undefined && !STATES.includes(state as SubmissionState))
          throw badField('state', `must be one of ${STATES.join(', ')}`);
        if (before !== undefined && !/^\d{1,15}$/.test(before)) throw badField('before', 'must be a whole number');
        const limit = Math.min(500, Number(query['limit'] ?? 100) || 100);
        const found = await searchSubmissions(db, {
          limit,
          ...(intake ? { intake } : {}),
          ...(state ? { state: state as SubmissionState } : {}),
          ...(text ? { text: text.slice(0, 200) } : {}),
          ...(before ? { before: Number(before) } : {}),
        });
        return { submissions: found, counts: await countStates(db, intake) };
      },
    }),
    route({
      method: 'get',
      path: '/submissions/:id',
      summary: 'A submission: its state, its steps and the records they touched',
      role: 'viewer',
      work: async ({ params }) => {
        const submission = await existing(params['id']!);
        const intake = await intakeById(db, submission.intakeId);
        const document = await live.document(submission.intakeId, submission.version);
        const { course, claimedBy: _, claimedUntil: _u, ...rest } = submission;
        const pageOf = await pages();
        const steps = (course?.steps ?? []).map((step) => ({
          ...step,
          ...(step.record ? { page: pageOf(step.system, step.entity, step.record.id) } : {}),
        }));
        const treatments = document.plan.steps.flatMap((step) =>
          step.lines.map((line) => ({
            step: step.id,
            field: line.field,
            from: line.from,
            treatments: line.treatments.map(describeTreatment),
          })),
        );
        return {
          submission: rest,
          intake: intake && { id: intake.id, key: intake.key, name: document.name },
          state: submission.state,
          fields: document.fields,
          steps,
          treatments,
          changes: (await ledgerOf(db, submission.seq)).map((row) => shownChange(row, pageOf)),
        };
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/answers',
      summary: 'Decide which record a step in review means',
      role: 'specialist',
      body: AnswerBody,
      work: async ({ params, body, user }) => {
        const submission = await existing(params['id']!);
        const step = submission.course?.steps.find((each) => each.step === body.step);
        if (submission.state !== 'in review' || step?.outcome !== 'asked')
          throw new Problem(409, 'Nothing to decide', 'This submission waits for no such decision.');
        if ((body.record === undefined) === (body.anew === undefined))
          throw badField('record', 'or anew must be given, one of them');
        if (body.record !== undefined && !step.candidates?.some(({ id }) => id === body.record))
          throw badField('record', 'is not among the candidates');
        const answer = body.record === undefined ? { anew: true as const } : { record: body.record };
        if (!(await carryOutAgain(db, live, submission, ['in review'], { [body.step]: answer })))
          throw new Problem(409, 'Decided already', 'Somebody else has just decided this.');
        await noteChange(
          db,
          actorOf(user),
          body.record === undefined ? 'decided: somebody new' : `decided: it is ${body.record}`,
          submission.id,
        );
        queued();
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/again',
      summary: 'Carry a refused or failed submission out again',
      role: 'specialist',
      work: async ({ params, user }) => {
        const submission = await existing(params['id']!);
        if (!(await carryOutAgain(db, live, submission, ['refused', 'failed', 'set aside'])))
          throw new Problem(409, 'Not now', `This submission is ${submission.state}.`);
        await noteChange(db, actorOf(user), 'sent again', submission.id);
        queued();
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/set-aside',
      summary: 'Set a submission aside, with a reason',
      role: 'specialist',
      body: SetAsideBody,
      work: async ({ params, body, user }) => {
        const submission = await existing(params['id']!);
        if (!(await settleByHand(db, submission.id, ['in review', 'refused', 'failed'], 'set aside', body.reason)))
          throw new Problem(409, 'Not now', `This submission is ${submission.state}.`);
        await noteChange(db, actorOf(user), 'set aside', submission.id);
        queued();
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/take-back',
      summary: 'Take back everything a submission wrote',
      role: 'specialist',
      work: async ({ params, user }) => {
        const submission = await existing(params['id']!);
        if (submission.state === 'received') throw new Problem(409, 'Not now', 'This submission is still on its way.');
        const results = await orTrouble(
          takeBackSubmission(db, systems, await live.allSchemas(), submission, user.name),
        );
        if (results.length === 0)
          throw new Problem(409, 'Nothing to take back', 'This submission has written nothing that still stands.');
        await noteChange(db, actorOf(user), 'took back', submission.id);
        return { results };
      },
    }),
    route({
      method: 'get',
      path: '/ledger',
      summary: 'The newest changes that meet a search',
      role: 'viewer',
      work: async ({ query }) => {
        const { text, system, entity, record, state, before } = query;
        if (state !== undefined && !LEDGER_STATES.includes(state as LedgerState))
          throw badField('state', `must be one of ${LEDGER_STATES.join(', ')}`);
        if (before !== undefined && !/^\d{1,15}$/.test(before)) throw badField('before', 'must be a whole number');
        const found = await searchLedger(db, {
          limit: Math.min(500, Number(query['limit'] ?? 100) || 100),
          ...(text ? { text: text.slice(0, 200) } : {}),
          ...(system ? { system } : {}),
          ...(entity ? { entity } : {}),
          ...(record ? { record } : {}),
          ...(state ? { state: state as LedgerState } : {}),
          ...(before ? { before: Number(before) } : {}),
        });
        const schemas = await live.allSchemas();
        const labelsOf = (row: LedgerRow): Record<string, string> => {
          const fields = schemas.get(row.systemId)?.entities.find(({ name }) => name === row.entity)?.fields ?? [];
          return Object.fromEntries(
            fields.filter(({ name }) => name in row.after).map(({ name, label }) => [name, label]),
          );
        };
        const pageOf = await pages();
        const changes = found.map((row) => ({
          ...shownChange(row, pageOf),
          submissionId: row.submissionId,
          label: row.label,
          intakeId: row.intakeId,
          labels: labelsOf(row),
        }));
        return { changes };
      },
    }),
    route({
      method: 'post',
      path: '/ledger/:id/take-back',
      summary: 'Take one change back',
      role: 'specialist',
      work: async ({ params, user }) => {
        const row = /^\d{1,15}$/.test(params['id']!) ? await ledgerRow(db, Number(params['id'])) : undefined;
        if (!row) throw notFound('such change');
        const result = await orTrouble(takeBackChange(db, systems, await live.allSchemas(), row.id, user.name));
        if (!result.done) throw new Problem(409, 'Not taken back', result.words);
        await countAsTakenBack(db, row.submissionSeq);
        await noteChange(db, actorOf(user), `took back change ${row.id}`, String(row.submissionSeq));
        return { result };
      },
    }),
    route({
      method: 'get',
      path: '/today',
      summary: 'What arrived, what came of it, and what needs somebody',
      role: 'viewer',
      work: async ({ query }) => {
        const range = (query['range'] ?? '24h') as Range;
        if (!(range in RANGES)) throw badField('range', `must be one of ${Object.keys(RANGES).join(', ')}`);
        return todayFigures(db, range, new Date());
      },
    }),
    route({
      method: 'get',
      path: '/find',
      summary: 'Find submissions, records, fields, intakes and systems by a text',
      role: 'viewer',
      work: async ({ query }) => {
        const text = (query['text'] ?? '').trim().slice(0, 100);
        if (text.length < 2) return { submissions: [], fields: [], intakes: [] };
        const low = text.toLowerCase();
        const [submissions, intakes, connected, schemas] = await Promise.all([
          searchSubmissions(db, { text, limit: 6 }),
          listIntakes(db),
          listSystems(db),
          live.allSchemas(),
        ]);
        const fields = connected.flatMap((system) =>
          (schemas.get(system.id)?.entities ?? []).flatMap((entity) =>
            entity.fields
              .filter((field) => `${entity.label} ${field.label} ${field.name}`.toLowerCase().includes(low))
              .map((field) => ({
                system: system.id,
                systemName: system.name,
                entity: entity.name,
                entityLabel: entity.label,
                field: field.name,
                label: field.label,
              })),
          ),
        );
        return {
          submissions,
          fields: fields.slice(0, 8),
          intakes: intakes
            .filter(({ key, draft }) => `${key} ${draft.name}`.toLowerCase().includes(low))
            .map(({ id, draft }) => ({ id, name: draft.name })),
        };
      },
    }),
  ];
};
