import { AnswerBody, UnanswerBody, type Decided, type SubmissionState } from '@zusammen/core/api';
import { bestOf, effectKey, type StepReport } from '@zusammen/core/plans';
import { alikeTo, carryOutAgain, findRecords, rehearseAnswers, takeBackSubmission } from '../../engine/index.ts';
import { causesWaiting, noteCauses, noteChange, WAITING, type Submission, type User } from '../../store/index.ts';
import { actorOf, type Context } from '../context.ts';
import { badField, Problem } from '../problem.ts';
import { idOf, period } from '../query.ts';
import { route, type Route } from '../route.ts';
import { existingSubmission, FINISHED_LATER, takingBackBy } from '../submission.ts';
import { orTrouble } from '../trouble.ts';

const answeredAt = ({ id }: Submission, { step, row }: StepReport): Decided => ({
  submission: id,
  step,
  ...(row === undefined ? {} : { row }),
});

/** What waits for somebody, and which record is meant: decided, undone, looked for among others. */
export const reviewRoutes = (context: Context): Route[] => {
  const { db, live, systems, queued } = context;
  const existing = (id: string): Promise<Submission> => existingSubmission(context, id);
  const takingBack = (user: User) => takingBackBy(context, user);
  const askedStep = (submission: Submission, id: string, row: number | undefined): StepReport => {
    const step = submission.course?.steps.find((each) => each.step === id && each.row === row);
    if (submission.state !== 'in review' || step?.outcome !== 'asked')
      throw new Problem(409, 'Nothing to decide', 'This submission waits for no such decision.');
    return step;
  };
  const isCandidate = (step: StepReport, record: string): boolean =>
    step.candidates?.some(({ id }) => id === record) === true;
  /** A record that isn't among the candidates must be there all the same. @throws Problem */
  const theRecord = async ({ system, entity }: StepReport, record: string): Promise<void> => {
    const [found] = await orTrouble(findRecords(context, { system, entity }, record));
    if (found?.id !== record) throw badField('record', 'is not there');
  };
  /** @returns false when somebody else has decided it meanwhile */
  const decide = async (
    submission: Submission,
    step: StepReport,
    record: string | undefined,
    user: User,
  ): Promise<boolean> => {
    const at = new Date().toISOString();
    const among = step.candidates?.map(({ id }) => id) ?? [];
    const answer = { ...(record === undefined ? { anew: true as const } : { record }), at, among };
    const answers = { [effectKey(step.step, step.row)]: answer };
    if (!(await carryOutAgain(db, live, submission, ['in review'], { answers }))) return false;
    if (step.weighed) await live.known.decided(step, submission.id, record, step.weighed, user.name);
    return true;
  };

  return [
    route({
      method: 'get',
      path: '/review',
      summary: 'What waits for somebody, by intake and cause',
      role: 'viewer',
      work: async ({ query }) => {
        const { system, text } = query;
        const intake = idOf(query, 'intake');
        const states = query['state']?.split(',') as (typeof WAITING)[number][] | undefined;
        if (states?.some((each) => !WAITING.includes(each)))
          throw badField('state', `must be one of ${WAITING.join(', ')}, or several with commas between`);
        await noteCauses(db);
        const causes = await causesWaiting(db, {
          ...period(query),
          ...(intake ? { intake } : {}),
          ...(states ? { states } : {}),
          ...(text ? { text: text.slice(0, 200) } : {}),
        });
        return { causes: system ? causes.filter((each) => each.system === system) : causes };
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
        const step = askedStep(submission, body.step, body.row);
        if ([body.record, body.anew, body.best].filter((each) => each !== undefined).length !== 1)
          throw badField('record', 'or anew or best must be given, one of them');
        if (body.record !== undefined && !isCandidate(step, body.record)) await theRecord(step, body.record);
        const record = body.best ? bestOf(step) : body.record;
        if (body.best && record === undefined)
          throw badField('best', 'can’t be said of this one: the evidence speaks for none of its records most');
        if (!(await decide(submission, step, record, user)))
          throw new Problem(409, 'Decided already', 'Somebody else has just decided this.');
        const decided = [answeredAt(submission, step)];
        if (body.alike)
          for (const each of (await alikeTo(db, submission)).slice(1)) {
            const same = each.course?.steps.find(({ step: id, outcome }) => id === body.step && outcome === 'asked');
            if (!same || (body.record !== undefined && !isCandidate(same, body.record))) continue;
            const meant = body.best ? bestOf(same) : body.record;
            if (body.best && meant === undefined) continue;
            if (await decide(each, same, meant, user)) decided.push(answeredAt(each, same));
          }
        const what = body.best
          ? 'what the evidence speaks for most'
          : record === undefined
            ? 'somebody new'
            : `it is ${record}`;
        const many = decided.length > 1 ? ` ${decided.length} alike` : '';
        await noteChange(db, actorOf(user), `decided${many}: ${what}`, submission.id);
        queued();
        return { decided };
      },
    }),
    route({
      method: 'post',
      path: '/submissions/:id/unanswer',
      summary: 'Undo a decision from Review: what came of it is taken back, and it is asked again',
      role: 'specialist',
      body: UnanswerBody,
      work: async ({ params, body, user }) => {
        const submission = await existing(params['id']!);
        const key = effectKey(body.step, body.row);
        const answer = submission.answers?.[key];
        if (!answer || 'ask' in answer) throw new Problem(409, 'Nothing to undo', 'Nothing has been decided here.');
        if (submission.state === 'received')
          throw new Problem(409, 'Not now', 'It is being carried out at this moment; try again in a moment.');
        const since = new Date(answer.at ?? submission.receivedAt);
        const results = await orTrouble(
          takeBackSubmission(await takingBack(user), submission, { since }),
          FINISHED_LATER,
        );
        if (results.some(({ done }) => !done)) return { results };
        const ends: SubmissionState[] = ['applied', 'in review', 'refused', 'failed', 'taken back'];
        if (!(await carryOutAgain(db, live, submission, ends, { answers: { [key]: { ask: answer.among ?? [] } } })))
          throw new Problem(409, 'Not now', `This submission is ${submission.state}.`);
        await live.known.undecided(submission.id);
        await noteChange(db, actorOf(user), 'undid a decision', submission.id);
        queued();
        return { results };
      },
    }),
    route({
      method: 'get',
      path: '/submissions/:id/records',
      summary: 'Records that a step in review may mean, besides its candidates',
      role: 'specialist',
      work: async ({ params, query }) => {
        const submission = await existing(params['id']!);
        const row = query['row'] === undefined || query['row'] === '' ? undefined : Number(query['row']);
        const { system, entity } = askedStep(submission, query['step'] ?? '', row);
        const text = (query['text'] ?? '').trim().slice(0, 200);
        if (text === '') return { records: [] };
        return { records: await orTrouble(findRecords(context, { system, entity }, text)) };
      },
    }),
    route({
      method: 'get',
      path: '/submissions/:id/would',
      summary: 'What a submission in review would write if a record were chosen',
      role: 'specialist',
      work: async ({ params, query }) => {
        const submission = await existing(params['id']!);
        const step = submission.course?.steps.find(
          (each) => each.step === query['step'] && String(each.row ?? '') === (query['row'] ?? ''),
        );
        if (submission.state !== 'in review' || step?.outcome !== 'asked')
          throw new Problem(409, 'Nothing to decide', 'This submission waits for no such decision.');
        const { record } = query;
        if (record === undefined) throw badField('record', 'is missing');
        if (!isCandidate(step, record)) await theRecord(step, record);
        const key = effectKey(step.step, step.row);
        const document = await live.document(submission.intakeId, submission.version);
        const answers = { ...submission.answers, [key]: { record } };
        const course = await orTrouble(rehearseAnswers(document, submission.values, answers, systems, live));
        return { step: course.steps.find((each) => effectKey(each.step, each.row) === key) ?? null };
      },
    }),
  ];
};
