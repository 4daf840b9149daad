import { isSafeNumber } from 'lossless-json';
import { holds } from '../expressions/index.ts';
import { evaluateLine, questionKey, type LineValue, type Question } from '../mapping/index.ts';
import { entityOf, fieldOf, type Entity, type RecordState } from '../schema/index.ts';
import { chainsOf } from './chains.ts';
import { KnownRecords } from './known-records.ts';
import { standingLines, type Step } from './model.ts';
import { keysOf, lateLanesOf } from './recognise.ts';
import type { Course, Doing, Outcome, PlanRun, StepReport } from './report.ts';
import { resolve, sentOf, weighLines, type Resolved } from './resolve.ts';
import { rowsOf, type Row } from './rows.ts';
import type { Effect, EffectKey, World } from './world.ts';

/** How often a step decides again after being overtaken before it gives up. */
const RETRIES = 8;
/** Rows of a repeating group that are on their way at once; what a system is asked at once is its budget's business. */
const ROWS_AT_ONCE = 16;

/**
 * The one interpreter. It carries out a plan for one submission in whatever world it is given, and reports what it
 * did. It asks the world and decides; it never writes by itself and knows no clock.
 *
 * Carries out all steps in order; after one that asks, is refused or fails, later ones wait. Rows of a repeating
 * group are done side by side, but for those that may be about the same record.
 * @throws whatever the world throws when a system can't be reached: the run may be begun again
 */
export async function carryOut(run: PlanRun, world: World): Promise<Course> {
  const known = new KnownRecords(run.given);
  const steps: StepReport[] = [];
  let state: Course['state'] = 'applied';
  for (const step of run.plan.steps) {
    if (state !== 'applied') {
      steps.push(waiting(step));
      continue;
    }
    const doing = { step, run, world, known, late: new Map<string, Promise<unknown>>() };
    const reports =
      step.repeat === undefined
        ? [await carryOutStep({ ...doing, row: undefined, values: run.values })]
        : await carryOutRows(doing, step.repeat);
    steps.push(...reports);
    state = stateAfter(reports);
    if (reports.some(({ outcome }) => outcome === 'stopped')) break;
  }
  if (state === 'refused' && run.plan.onRefusal === 'take back') await takeAllBack(steps, world);
  return { state, steps };
}

function stateAfter(reports: readonly StepReport[]): Course['state'] {
  const some = (outcome: Outcome): boolean => reports.some((report) => report.outcome === outcome);
  return some('refused') ? 'refused' : some('failed') ? 'failed' : some('asked') ? 'in review' : 'applied';
}

const waiting = (step: Step): StepReport => ({
  step: step.id,
  system: step.system,
  entity: step.entity,
  outcome: 'waits',
  changes: [],
});

/** Undoes what was written, the last first; the report says what could not be. */
async function takeAllBack(steps: StepReport[], world: World): Promise<void> {
  for (const report of steps.toReversed()) {
    if (!['created', 'updated', 'deleted'].includes(report.outcome)) continue;
    const undone = await world.undo(keyOf(report.step, report.row));
    if (undone.done) report.outcome = 'taken back';
    report.why = undone.words;
  }
}

async function carryOutRows(doing: Omit<Doing, 'row' | 'values'>, group: string): Promise<StepReport[]> {
  const { step, run } = doing;
  const rows = rowsOf(
    group,
    run.fields.map(({ name }) => name),
    run.values,
  );
  const reports: StepReport[] = new Array<StepReport>(rows.length);
  const chains = chainsOf(rows.map(({ values }) => keysOf(step, values, run)));
  let next = 0;
  const work = async (): Promise<void> => {
    for (let at = next++; at < chains.length; at = next++) await carryOutChain(doing, rows, chains[at]!, reports);
  };
  // All rows come to rest before a trouble is passed on: nothing may be written after the turn has ended.
  const ends = await Promise.allSettled(Array.from({ length: Math.min(ROWS_AT_ONCE, chains.length) }, work));
  const broken = ends.find((end) => end.status === 'rejected');
  if (broken) throw broken.reason;
  return reports;
}

/**
 * Rows that may be about one record, in their order. When the plan is run again after it was cut short, a row that
 * wrote nothing before a later one did is not asked anew: it would find what the later one made of the record.
 */
async function carryOutChain(
  doing: Omit<Doing, 'row' | 'values'>,
  rows: readonly Row[],
  chain: readonly number[],
  reports: StepReport[],
): Promise<void> {
  const { step, world, known } = doing;
  const rowAt = (index: number): number => rows[index]!.index;
  const done = chain.length > 1 ? await world.settledRows(step.id) : new Set<number>();
  const lastDone = chain.findLastIndex((index) => done.has(rowAt(index)));
  const passedOver = chain.filter((index, at) => at < lastDone && !done.has(rowAt(index)));
  for (const index of chain) {
    if (passedOver.includes(index)) continue;
    const { index: row, values } = rows[index]!;
    reports[index] = await carryOutStep({ ...doing, row, values });
  }
  const record = known.of(step.id, rowAt(chain[Math.max(0, lastDone)]!));
  for (const index of passedOver) {
    const row = rowAt(index);
    if (record) known.set(step.id, row, record);
    const same = record ? { verdict: 'one' as const, record: { id: record.id } } : {};
    const { system, entity } = step;
    reports[index] = { step: step.id, row, system, entity, outcome: 'unchanged', changes: [], ...same };
  }
}

async function carryOutStep(doing: Doing): Promise<StepReport> {
  const { step, row, run } = doing;
  const report: StepReport = {
    step: step.id,
    ...(row === undefined ? {} : { row }),
    system: step.system,
    entity: step.entity,
    outcome: 'failed',
    changes: [],
  };
  const schema = run.schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  if (!entity) return { ...report, why: `${step.entity} can't be seen in the system` };
  const condition = holds(step.condition, doing.values, run.fields);
  if (!condition.ok) return { ...report, why: `The condition of this step: ${condition.reason}` };
  if (!condition.holds) return { ...report, outcome: 'skipped', why: 'its condition does not hold' };
  const { lines, lookups } = await evaluateLines(doing, entity);
  const begun = lookups ? { ...report, lookups } : report;
  const problems = lines.filter(({ problem }) => problem !== undefined);
  if (problems.length > 0) {
    const why = problems.map(({ problem }) => problem).join('; ');
    const asks = problems.every(({ line }) => line.unreadable === 'ask');
    return { ...begun, why, ...(asks ? { outcome: 'asked' as const, sent: sentOf(lines) } : {}) };
  }

  return inTurn(doing, lateLanesOf(step, entity, lines, run.recognitions), () =>
    decideAndWrite(doing, entity, lines, begun),
  );
}

/**
 * Rows that turn out to be about one record only now are done one after another, and nobody else's submission is at
 * work on it meanwhile.
 */
async function inTurn<T>({ world, late }: Doing, lanes: readonly string[], work: () => Promise<T>): Promise<T> {
  if (lanes.length === 0) return work();
  const before = Promise.allSettled(lanes.map((lane) => late.get(lane)));
  const mine = before.then(async () => {
    await world.hold(lanes);
    return work();
  });
  for (const lane of lanes) late.set(lane, mine);
  return mine;
}

async function decideAndWrite(
  doing: Doing,
  entity: Entity,
  lines: readonly LineValue[],
  report: StepReport,
): Promise<StepReport> {
  const { step, row, world, known } = doing;
  let effect: Effect = { state: 'overtaken' };
  let resolved: Resolved | undefined;
  for (let attempt = 0; effect.state === 'overtaken' && attempt < RETRIES; attempt += 1) {
    // Isn't asked when the world has an intent of an earlier attempt; then the report is filled from that.
    resolved = undefined;
    effect = await world.effect(keyOf(step.id, row), async () => {
      resolved = await resolve(doing, entity, lines);
      return resolved.intent;
    });
  }
  if (effect.state === 'overtaken')
    return { ...report, outcome: 'failed', why: 'the record kept changing under our hands' };
  const done = conclude({ ...report, ...resolved?.found }, effect, entity, lines);
  if ('record' in effect && effect.record && done.outcome !== 'deleted') known.set(step.id, row, effect.record);
  return done;
}

const keyOf = (step: string, row: number | undefined): EffectKey => (row === undefined ? { step } : { step, row });

/** Lookups a line may need one after another before its value is known. */
const QUESTIONS = 20;

/**
 * Evaluates all lines that count; what a line looks up in the system is asked, each question once.
 * @returns their values, and what was found by the questions where any was asked
 */
async function evaluateLines(
  doing: Doing,
  entity: Entity,
): Promise<{ lines: LineValue[]; lookups?: Record<string, string[]> }> {
  const { step, run, values, known, row } = doing;
  const answers = new Map<string, string[]>();
  const context = {
    fields: run.fields,
    ...(run.zone === undefined ? {} : { zone: run.zone }),
    answers,
    record: (id: string, of?: 'first') => known.seenFrom(row, id, of),
  };
  const lines: LineValue[] = [];
  for (const line of standingLines(step)) {
    const field = fieldOf(entity, line.field);
    if (!field) {
      const problem = `${entity.label} has no field “${line.field}”`;
      lines.push({ line, came: [], treated: null, sent: null, losses: [], problem });
      continue;
    }
    let value = evaluateLine(line, values, field, context);
    for (let asked = 0; value.asks && asked < QUESTIONS; asked += 1) {
      const found = await lookUp(value.asks, doing);
      if (typeof found === 'string') {
        value = { ...value, problem: `${field.label}: ${found}` };
        break;
      }
      answers.set(
        questionKey(value.asks),
        found.map(({ id }) => id),
      );
      value = evaluateLine(line, values, field, context);
    }
    lines.push(value);
  }
  return answers.size === 0 ? { lines } : { lines, lookups: Object.fromEntries(answers) };
}

/** Asks the system a line's question. @returns at most two records, or why it can't be asked */
async function lookUp({ entity, by, text }: Question, { step, run, world }: Doing): Promise<RecordState[] | string> {
  const { system } = step;
  const among = entityOf(run.schemas.get(system) ?? { entities: [] }, entity);
  const field = among && fieldOf(among, by);
  if (!field) return `${entity} has no field “${by}” to look in`;
  const numeric = field.type === 'integer' || field.type === 'number';
  if (numeric && !Number.isFinite(Number(text))) return [];
  const criterion = numeric
    ? { field: by, value: isSafeNumber(text) ? Number(text) : text, folded: false }
    : { field: by, value: text, folded: field.type !== 'id' && field.type !== 'reference' };
  return world.find({ system, entity }, [criterion], 2);
}

const DONE = { create: 'created', update: 'updated', delete: 'deleted' } as const;

/** What a person is asked about a creation that was cut short. */
function askedWhetherMade(records: readonly RecordState[], lines: readonly LineValue[]): Partial<StepReport> {
  return {
    outcome: 'asked',
    ...(records.length === 0 ? {} : { verdict: 'unsure' as const }),
    candidates: [...records],
    sent: sentOf(lines),
    changes: [],
    why: 'whether the record was created, or which one it is, can’t be told from what the system answered',
  };
}

/** Brings the report in line with what the world did, also when the intent came from an attempt before a crash. */
function conclude(
  report: StepReport,
  effect: Exclude<Effect, { state: 'overtaken' }>,
  entity: Entity,
  lines: readonly LineValue[],
): StepReport {
  const { intent } = effect;
  if (effect.state === 'nothing to write')
    return effect.record ? { ...report, record: { id: effect.record.id } } : report;
  const fromBefore = report.changes.length === 0 && intent.kind !== 'none' && intent.kind !== 'delete';
  const told: StepReport = fromBefore
    ? {
        ...report,
        verdict: intent.kind === 'create' ? 'none' : 'one',
        changes: weighLines(entity, lines, intent.kind === 'update' ? intent.record : undefined).changes,
      }
    : report;
  if (effect.state === 'unclear') return { ...told, ...askedWhetherMade(effect.records, lines) };
  if (effect.state === 'refused')
    return { ...told, outcome: 'refused', refusal: effect.refusal, why: effect.refusal.words };
  const outcome = intent.kind === 'none' ? told.outcome : DONE[intent.kind];
  return { ...told, outcome, record: { id: effect.record.id } };
}
