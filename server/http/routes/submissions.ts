import { hashOf } from '../../access/index.ts';
import { describeTreatment } from '@zusammen/core/mapping';
import { atAGlance, isSubmittedValue, type FormField, type SubmittedValue } from '@zusammen/core/forms';
import { beyondBounds, bestOf, type StepReport } from '@zusammen/core/plans';
import { sameValue } from '@zusammen/core/values';
import {
  alikeTo,
  carryOutAgain,
  goOnWithout,
  takeBackChange,
  takeBackSubmission,
  type TakingBack,
  paymentNumber,
} from '../../engine/index.ts';
import {
  countStates,
  intakeById,
  ledgerAround,
  ledgerRow,
  listIntakes,
  listSystems,
  pagesOfRecords,
  noteChange,
  paymentOf,
  paymentServiceById,
  searchLedger,
  searchSubmissions,
  settleByHand,
  type LedgerRow,
  type LedgerSearch,
  type LedgerState,
  type Submission,
  type User,
} from '../../store/index.ts';
import {
  AgainBody,
  SetAsideBody,
  SUBMISSION_STATES,
  TakeBackBody,
  type AlikeLine,
  type PaymentTold,
  type SubmissionState,
} from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { paperAddress } from '../hosted/paper.ts';
import { findByText } from '../find.ts';
import { sendLedger } from '../ledger-export.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { Rested } from '../rested.ts';
import { beforeOf, idOf, limitOf, period } from '../query.ts';
import { route, tokenOf, type Route, type Unsent } from '../route.ts';
import { existingSubmission, FINISHED_LATER, takingBackBy } from '../submission.ts';
import { orTrouble } from '../trouble.ts';

const STATES: readonly SubmissionState[] = SUBMISSION_STATES;
const LEDGER_STATES: LedgerState[] = ['intended', 'written', 'refused', 'overtaken', 'unclear'];

/** What a search of the ledger asks for, without its page. */
function ledgerSearch(query: Record<string, string | undefined>): Omit<LedgerSearch, 'limit' | 'before'> {
  const { text, system, entity, record, state } = query;
  const intake = idOf(query, 'intake');
  if (state !== undefined && !LEDGER_STATES.includes(state as LedgerState))
    throw badField('state', `must be one of ${LEDGER_STATES.join(', ')}`);
  return {
    ...period(query),
    ...(text ? { text: text.slice(0, 200) } : {}),
    ...(intake ? { intake } : {}),
    ...(system ? { system } : {}),
    ...(entity ? { entity } : {}),
    ...(record ? { record } : {}),
    ...(state ? { state: state as LedgerState } : {}),
  };
}

/** @throws Problem naming the field for anything but texts and lists of texts under names that came in or are the form's */
function mendedValues(
  values: Record<string, unknown>,
  submission: Submission,
  fields: readonly FormField[],
): Record<string, SubmittedValue | null> {
  const mended: Record<string, SubmittedValue | null> = {};
  for (const [name, value] of Object.entries(values)) {
    const known = Object.hasOwn(submission.values, name) || fields.some((field) => field.name === name);
    if (!known) throw badField(`values.${name}`, 'is no field of this form');
    if (value !== null && !isSubmittedValue(value))
      throw badField(`values.${name}`, 'must be a text, a list of texts, a number, true or false, or null');
    mended[name] = value;
  }
  if (Object.keys(mended).length === 0) throw badField('values', 'must name what was put right');
  const given = Object.fromEntries(
    Object.entries(mended).filter((entry): entry is [string, SubmittedValue] => entry[1] !== null),
  );
  const beyond = beyondBounds(given, fields, { steps: [] });
  if (beyond) throw badField(`values.${beyond.field}`, beyond.reason);
  return mended;
}

/** So many alike are shown before they are settled together. */
const ALIKE_SHOWN = 200;

function alikeLine({ id, label, values, state, course }: Submission): AlikeLine {
  const line = { id, label, values: atAGlance(values) };
  const step = state === 'in review' ? course?.steps.find(({ outcome }) => outcome === 'asked') : undefined;
  if (!step?.candidates) return line;
  const sent = atAGlance(step.sent ?? {});
  const asked = { sent, candidates: step.candidates.map((each) => each.id) };
  const best = bestOf(step);
  const record = step.candidates.find((each) => each.id === best);
  if (best === undefined || !record) return { ...line, asked };
  const weight = step.weighed!.find((each) => each.record === best)!.weight;
  const held = Object.fromEntries(Object.keys(sent).map((name) => [name, record.values[name] ?? null]));
  return { ...line, asked: { ...asked, best: { id: best, weight, values: atAGlance(held) } } };
}

const holdsTheSame = (a: Submission, b: Submission, names: readonly string[]): boolean =>
  names.every((name) => sameValue(a.values[name] ?? null, b.values[name] ?? null));

/** Where the candidates' pages are in their system, by id. */
const pagesOf = (
  { system, entity, candidates = [] }: StepReport,
  pageOf: (system: string, entity: string, id: string) => string | undefined,
): Record<string, string> =>
  Object.fromEntries(
    candidates.flatMap(({ id }) => {
      const page = pageOf(system, entity, id);
      return page === undefined ? [] : [[id, page]];
    }),
  );

/** How a submission's payment stands, where it has to be paid. */
async function paymentTold(db: Context['db'], submissionId: string): Promise<{ payment?: Unsent<PaymentTold> }> {
  const payment = await paymentOf(db, submissionId);
  if (!payment) return {};
  const { id, state, minor, currency, test, words, begunAt, changedAt, serviceId } = payment;
  const service = (await paymentServiceById(db, serviceId))?.name ?? null;
  return { payment: { number: paymentNumber(id), state, minor, currency, test, service, words, begunAt, changedAt } };
}

export const submissionRoutes = (context: Context): Route[] => {
  const { db, live, queued, feed } = context;
  const counts = new Rested((intake: string) => countStates(db, intake === '' ? undefined : intake));
  const existing = (id: string): Promise<Submission> => existingSubmission(context, id);
  const takingBack = (user: User): Promise<TakingBack> => takingBackBy(context, user);
  const shownChange = (row: LedgerRow, pageOf: Awaited<ReturnType<typeof pagesOfRecords>>) => {
    const { etagBefore: _b, etagAfter: _a, requestId: _r, ...rest } = row;
    return { ...rest, page: pageOf(row.systemId, row.entity, row.recordId) };
  };

  /** What waits for people who act goes on as the connection. */
  const goOnAlone = async (submission: Submission, alike: boolean, user: User) => {
    if (!(await goOnWithout({ db, live }, submission)))
      throw new Problem(409, 'Not now', 'This submission doesn’t wait for the person who acts.');
    let again = 1;
    for (const each of alike ? (await alikeTo(db, submission)).slice(1) : [])
      if (await goOnWithout({ db, live }, each)) again += 1;
    await noteChange(db, actorOf(user), `let ${again === 1 ? 'it' : again} go on as the connection`, submission.id);
    queued();
    return { again, left: 0 };
  };

  return [
    route({
      method: 'get',
      path: '/submissions',
      summary: 'The newest submissions that meet a search',
      role: 'viewer',
      work: async ({ query }) => {
        const { state, text } = query;
        const [intake, before] = [idOf(query, 'intake'), beforeOf(query)];
        const states = state?.split(',') as SubmissionState[] | undefined;
        if (states?.some((each) => !STATES.includes(each)))
          throw badField('state', `must be one of ${STATES.join(', ')}, or several with commas between`);
        const limit = limitOf(query, 100, 500);
        const found = await searchSubmissions(db, {
          limit,
          ...period(query),
          ...(query['cause'] === undefined ? {} : { cause: query['cause'].slice(0, 16) }),
          ...(intake ? { intake } : {}),
          ...(states ? { states } : {}),
          ...(text ? { text: text.slice(0, 200) } : {}),
          ...(before === undefined ? {} : { before }),
        });
        return { submissions: found, counts: await counts.get(intake ?? '') };
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
        const pageOf = await pagesOfRecords(db);
        const steps = (course?.steps ?? []).map((step) => ({
          ...step,
          ...(step.record ? { page: pageOf(step.system, step.entity, step.record.id) } : {}),
          ...(step.candidates ? { pages: pagesOf(step, pageOf) } : {}),
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
          submission: { ...rest, ...(course?.lacks ? { lacks: course.lacks } : {}) },
          intake: intake && { id: intake.id, key: intake.key, name: document.name },
          ...(intake && document.form && submission.forgottenAt === null
            ? { paper: paperAddress(context.sealer, intake.key, submission.id, document.form.languages[0]!) }
            : {}),
          ...(await paymentTold(db, submission.id)),
          state: submission.state,
          fields: document.fields,
          /** The repeating group of each step that is done once per row. */
          repeats: Object.fromEntries(
            document.plan.steps.flatMap(({ id, repeat }) => (repeat === undefined ? [] : [[id, repeat]])),
          ),
          steps,
          treatments,
          lines: document.plan.steps.flatMap((step) =>
            step.lines.map(({ id, field }) => ({ step: step.id, id, field })),
          ),
          changes: (await ledgerAround(db, submission.seq)).map((row) => shownChange(row, pageOf)),
        };
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/again',
      summary: 'Carry a refused or failed submission out again, with values put right, or all alike',
      role: 'specialist',
      body: AgainBody,
      bodyOptional: true,
      work: async ({ params, body, user }) => {
        const submission = await existing(params['id']!);
        if (submission.forgottenAt !== null)
          throw new Problem(409, 'Forgotten', 'What was sent has been forgotten, as its intake says.');
        const underLive = body.under === 'live';
        const { fields } = await live.document(submission.intakeId, submission.version);
        const changed = body.values === undefined ? undefined : mendedValues(body.values, submission, fields);
        const ends: SubmissionState[] = [
          'refused',
          'failed',
          'set aside',
          'taken back',
          ...(changed ? ['in review' as const] : []),
        ];
        if (body.as === 'connection') return goOnAlone(submission, body.alike === true, user);
        const options = { underLive, ...(changed ? { values: { changed, by: user.name } } : {}) };
        const alike = body.alike ? (await alikeTo(db, submission)).slice(1) : [];
        if (!(await carryOutAgain(db, live, submission, ends, options)))
          throw new Problem(409, 'Not now', `This submission is ${submission.state}.`);
        let again = 1;
        let left = 0;
        for (const each of alike) {
          if (changed && body.which !== 'all' && !holdsTheSame(each, submission, Object.keys(changed))) left += 1;
          else if (await carryOutAgain(db, live, each, ends, options)) again += 1;
        }
        const what = changed ? `put right and sent again: ${Object.keys(changed).join(', ')}` : 'sent again';
        await noteChange(
          db,
          actorOf(user),
          (again > 1 ? `${changed ? 'put right and sent' : 'sent'} ${again} alike again` : what).slice(0, 200),
          submission.id,
        );
        queued();
        return { again, left };
      },
    }),
    route({
      method: 'get',
      path: '/submissions/:id/alike',
      summary: 'Those of this intake that wait for the same, with what they brought',
      role: 'viewer',
      work: async ({ params }) => {
        const alike = await alikeTo(db, await existing(params['id']!));
        return {
          count: alike.length,
          labels: alike.slice(0, 10).map(({ label }) => label),
          alike: alike.slice(0, ALIKE_SHOWN).map(alikeLine),
        };
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
        const from: SubmissionState[] = ['unpaid', 'received', 'in review', 'refused', 'failed'];
        const alike = body.alike ? (await alikeTo(db, submission)).slice(1) : [];
        const settled = await settleByHand(db, submission.id, from, 'set aside', body.reason);
        if (settled === 'at work')
          throw new Problem(
            409,
            'Being carried out',
            'It is being carried out at this moment; try again in half a minute.',
          );
        if (settled === 'elsewhere') throw new Problem(409, 'Not now', `This submission is ${submission.state}.`);
        let aside = 1;
        for (const { id } of alike)
          if ((await settleByHand(db, id, [submission.state], 'set aside', body.reason)) === 'settled') aside += 1;
        await noteChange(db, actorOf(user), aside > 1 ? `set ${aside} alike aside` : 'set aside', submission.id);
        queued();
        return { aside };
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/take-back',
      summary: 'Take back everything a submission wrote, or one of its steps',
      role: 'specialist',
      body: TakeBackBody,
      bodyOptional: true,
      work: async ({ params, body, user }) => {
        const submission = await existing(params['id']!);
        if (submission.state === 'received' || submission.state === 'unpaid')
          throw new Problem(409, 'Not now', 'This submission is still on its way.');
        const results = await orTrouble(
          takeBackSubmission(await takingBack(user), submission, body.step === undefined ? {} : { step: body.step }),
          FINISHED_LATER,
        );
        if (results.length === 0)
          throw new Problem(
            409,
            'Nothing to take back',
            `This ${body.step === undefined ? 'submission' : 'step'} has written nothing that still stands.`,
          );
        await noteChange(db, actorOf(user), body.step === undefined ? 'took back' : 'took a step back', submission.id);
        return { results };
      },
    }),
    route({
      method: 'get',
      path: '/ledger',
      summary: 'The newest changes that meet a search',
      role: 'viewer',
      work: async ({ query }) => {
        const before = beforeOf(query);
        const found = await searchLedger(db, {
          ...ledgerSearch(query),
          limit: limitOf(query, 100, 500),
          ...(before === undefined ? {} : { before }),
        });
        const schemas = await live.allSchemas();
        const labelsOf = (row: LedgerRow): Record<string, string> => {
          const fields = schemas.get(row.systemId)?.entities.find(({ name }) => name === row.entity)?.fields ?? [];
          return Object.fromEntries(
            fields.filter(({ name }) => name in row.after).map(({ name, label }) => [name, label]),
          );
        };
        const pageOf = await pagesOfRecords(db);
        const changes = found.map((row) => ({
          ...shownChange(row, pageOf),
          submissionId: row.submissionId,
          label: row.label,
          ...(row.pairing ? { pairing: row.pairing } : {}),
          labels: labelsOf(row),
        }));
        return { changes };
      },
    }),
    route({
      method: 'get',
      path: '/ledger/export',
      summary: 'All changes that meet a search, as CSV or JSON',
      role: 'specialist',
      work: async ({ query, response, user }) => {
        const format = query['format'] ?? 'csv';
        if (format !== 'csv' && format !== 'json') throw badField('format', 'must be csv or json');
        const search = ledgerSearch(query);
        const [intakes, connected] = await Promise.all([listIntakes(db, true), listSystems(db)]);
        const keys = new Map(intakes.map(({ id, key }) => [id, key]));
        const names = new Map(connected.map(({ id, name }) => [id, name]));
        // By what was searched, not for what: that may be somebody's name.
        await noteChange(db, actorOf(user), `took the ledger along as ${format}`, 'ledger', {
          by: Object.keys(search),
        });
        await sendLedger(response, db, search, format, {
          intake: (id) => (id === null ? '' : (keys.get(id) ?? id)),
          system: (id) => names.get(id) ?? id,
        });
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
        const result = await orTrouble(takeBackChange(await takingBack(user), row.id), FINISHED_LATER);
        if (!result.done) throw new Problem(409, 'Not taken back', result.words);
        await noteChange(db, actorOf(user), `took back change ${row.id}`, String(row.turn));
        return { result };
      },
    }),
    route({
      method: 'get',
      path: '/live',
      summary: 'What arrives and what becomes of it, as server-sent events',
      role: 'viewer',
      work: async ({ request, response }) => {
        feed.listen(response, hashOf(tokenOf(request)!));
        return undefined;
      },
    }),
    route({
      method: 'get',
      path: '/find',
      summary: 'Find submissions, records, fields, intakes and systems by a text',
      role: 'viewer',
      work: ({ query, user }) => findByText(context, (query['text'] ?? '').trim().slice(0, 100), user),
    }),
  ];
};
