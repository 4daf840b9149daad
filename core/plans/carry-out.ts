import { isSafeNumber } from 'lossless-json';
import { holds } from '../expressions/index.ts';
import { evaluateLine, questionKey, type LineValue, type Question } from '../mapping/index.ts';
import { entityOf, fieldOf, type Entity, type RecordState } from '../schema/index.ts';
import { standingLines, type Step } from './model.ts';
import { keysOf, lateLanesOf } from './recognise.ts';
import { effectKey, recordFor, type Course, type Outcome, type PlanRun, type StepReport, type Turn } from './report.ts';
import { resolve, sentOf, weighLines } from './resolve.ts';
import { rowsOf, type Row } from './rows.ts';
import type { Effect, World } from './world.ts';

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
  const known = new Map<string, RecordState>();
  const steps: StepReport[] = [];
  let state: Course['state'] = 'applied';
  for (const step of run.plan.steps) {
    if (state !== 'applied') {
      steps.push(waiting(step));
      continue;
    }
    const turn = { step, run, world, known, late: new Map<string, Promise<unknown>>() };
    const reports =
      step.repeat === undefined
        ? [await carryOutStep({ ...turn, row: undefined, values: run.values })]
        : await carryOutRows(turn, step.repeat);
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
    const undone = await world.undo(effectKey(report.step, report.row));
    if (undone.done) report.outcome = 'taken back';
    report.why = undone.words;
  }
}

async function carryOutRows(turn: Omit<Turn, 'row' | 'values'>, group: string): Promise<StepReport[]> {
  const { step, run } = turn;
  const rows = rowsOf(
    group,
    run.fields.map(({ name }) => name),
    run.values,
  );
  const reports: StepReport[] = new Array<StepReport>(rows.length);
  const chains = chained(rows.map(({ values }) => keysOf(step, values, run)));
  let next = 0;
  const work = async (): Promise<void> => {
    for (let at = next++; at < chains.length; at = next++) await carryOutChain(turn, rows, chains[at]!, reports);
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
  turn: Omit<Turn, 'row' | 'values'>,
  rows: readonly Row[],
  chain: readonly number[],
  reports: StepReport[],
): Promise<void> {
  const { step, world, known } = turn;
  const keyAt = (index: number): string => effectKey(step.id, rows[index]!.index);
  const done = chain.length > 1 ? await world.settled(chain.map(keyAt)) : new Set<string>();
  const lastDone = chain.findLastIndex((index) => done.has(keyAt(index)));
  const passedOver = chain.filter((index, at) => at < lastDone && !done.has(keyAt(index)));
  for (const index of chain) {
    if (passedOver.includes(index)) continue;
    const { index: row, values } = rows[index]!;
    reports[index] = await carryOutStep({ ...turn, row, values });
  }
  const record = known.get(keyAt(chain[Math.max(0, lastDone)]!));
  for (const index of passedOver) {
    const { index: row } = rows[index]!;
    if (record) known.set(keyAt(index), record);
    const same = record ? { verdict: 'one' as const, record: { id: record.id } } : {};
    reports[index] = {
      step: step.id,
      row,
      system: step.system,
      entity: step.entity,
      outcome: 'unchanged',
      changes: [],
      ...same,
    };
  }
}

/** Groups rows that share a key into chains, each in order; the same person twice in one submission is one record. */
function chained(keys: readonly string[][]): number[][] {
  const chainOf = new Map<string, number[]>();
  const chains = new Set<number[]>();
  keys.forEach((mine, index) => {
    const shared = [...new Set(mine.flatMap((key) => chainOf.get(key) ?? []))].length > 0;
    const joined = shared ? [...new Set(mine.flatMap((key) => (chainOf.has(key) ? [chainOf.get(key)!] : [])))] : [];
    const chain = [...joined.flat(), index].sort((a, b) => a - b);
    for (const old of joined) chains.delete(old);
    chains.add(chain);
    for (const key of mine) chainOf.set(key, chain);
    // Keys of rows that came along lead to the joined chain from now on.
    for (const [key, held] of chainOf) if (joined.includes(held)) chainOf.set(key, chain);
  });
  return [...chains];
}

async function carryOutStep(turn: Turn): Promise<StepReport> {
  const { step, row, run } = turn;
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
  const condition = holds(step.condition, turn.values, run.fields);
  if (!condition.ok) return { ...report, why: `The condition of this step: ${condition.reason}` };
  if (!condition.holds) return { ...report, outcome: 'skipped', why: 'its condition does not hold' };
  const lines = await evaluateLines(turn, entity, report);
  const problems = lines.flatMap((line) => line.problem ?? []);
  if (problems.length > 0) return { ...report, why: problems.join('; ') };

  return inTurn(turn, lateLanesOf(step, entity, lines, run.recognitions), () =>
    decideAndWrite(turn, entity, lines, report),
  );
}

/**
 * Rows that turn out to be about one record only now are done one after another, and nobody else's submission is at
 * work on it meanwhile.
 */
async function inTurn<T>({ world, late }: Turn, lanes: readonly string[], work: () => Promise<T>): Promise<T> {
  if (lanes.length === 0) return work();
  const before = Promise.allSettled(lanes.map((lane) => late.get(lane)));
  const mine = before.then(async () => {
    await world.hold(lanes);
    return work();
  });
  for (const lane of lanes) late.set(lane, mine);
  return mine;
}

async function decideAndWrite(turn: Turn, entity: Entity, lines: LineValue[], report: StepReport): Promise<StepReport> {
  const { step, row, world, known } = turn;
  const key = effectKey(step.id, row);
  let effect: Effect = { state: 'overtaken' };
  for (let attempt = 0; effect.state === 'overtaken' && attempt < RETRIES; attempt += 1) {
    // `decide` isn't called when the world has an intent of an earlier attempt; then the report is filled from it.
    effect = await world.effect(key, () => resolve(turn, entity, lines, report));
  }
  if (effect.state === 'overtaken')
    return { ...report, outcome: 'failed', why: 'the record kept changing under our hands' };
  const done = conclude(report, effect, entity, lines);
  if ('record' in effect && effect.record && done.outcome !== 'deleted') known.set(key, effect.record);
  return done;
}

/** Lookups a line may need one after another before its value is known. */
const QUESTIONS = 20;

/** Evaluates all lines that count; what a line looks up in the system is asked, each question once. */
async function evaluateLines(turn: Turn, entity: Entity, report: StepReport): Promise<LineValue[]> {
  const { step, run, values } = turn;
  const answers = new Map<string, string[]>();
  const context = {
    fields: run.fields,
    ...(run.zone === undefined ? {} : { zone: run.zone }),
    answers,
    record: (id: string, of?: 'first') => recordFor(turn, id, of),
  };
  const evaluated: LineValue[] = [];
  for (const line of standingLines(step)) {
    const field = fieldOf(entity, line.field);
    if (!field) {
      const problem = `${entity.label} has no field “${line.field}”`;
      evaluated.push({ line, came: [], treated: null, sent: null, losses: [], problem });
      continue;
    }
    let value = evaluateLine(line, values, field, context);
    for (let asked = 0; value.asks && asked < QUESTIONS; asked += 1) {
      const found = await lookUp(value.asks, turn);
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
    evaluated.push(value);
  }
  if (answers.size > 0) report.lookups = Object.fromEntries(answers);
  return evaluated;
}

/** Asks the system a line's question. @returns at most two records, or why it can't be asked */
async function lookUp({ entity, by, text }: Question, turn: Turn): Promise<RecordState[] | string> {
  const { system } = turn.step;
  const among = entityOf(turn.run.schemas.get(system) ?? { entities: [] }, entity);
  const field = among && fieldOf(among, by);
  if (!field) return `${entity} has no field “${by}” to look in`;
  const numeric = field.type === 'integer' || field.type === 'number';
  if (numeric && !Number.isFinite(Number(text))) return [];
  const criterion = numeric
    ? { field: by, value: isSafeNumber(text) ? Number(text) : text, folded: false }
    : { field: by, value: text, folded: field.type !== 'id' && field.type !== 'reference' };
  return turn.world.find({ system, entity }, [criterion], 2);
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
  lines: LineValue[],
): StepReport {
  const { intent } = effect;
  if (effect.state === 'nothing to write') {
    if (effect.record) report.record = { id: effect.record.id };
    return report;
  }
  if (report.changes.length === 0 && intent.kind !== 'none' && intent.kind !== 'delete') {
    report.verdict = intent.kind === 'create' ? 'none' : 'one';
    weighLines(entity, lines, intent.kind === 'update' ? intent.record : undefined, report);
  }
  if (effect.state === 'unclear') return { ...report, ...askedWhetherMade(effect.records, lines) };
  if (effect.state === 'refused')
    return { ...report, outcome: 'refused', refusal: effect.refusal, why: effect.refusal.words };
  if (intent.kind !== 'none') report.outcome = DONE[intent.kind];
  report.record = { id: effect.record.id };
  return report;
}
