import { holds } from '../expressions/index.ts';
import {
  decide,
  evaluateLine,
  questionKey,
  type LineContext,
  type LineValue,
  type Question,
} from '../mapping/index.ts';
import { entityOf, fieldOf, type Entity, type RecordState, type Schema, type Value } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { standingLines, type Plan, type Step } from './model.ts';
import { criteriaOf, keysOf } from './recognise.ts';
import { rowsOf, type Row } from './rows.ts';
import type { Effect, Intent, Refusal, World } from './world.ts';

/**
 * The one interpreter. It carries out a plan for one submission in whatever world it is given, and reports what it
 * did. It asks the world and decides; it never writes by itself and knows no clock.
 */
export interface PlanRun {
  plan: Plan;
  /** The form's fields, which conditions, computed values and repeating groups read. */
  fields: LineContext['fields'];
  values: Record<string, string | string[]>;
  /** A person's answers from Review, by effect: the step's id, with `#row` where it repeats. */
  answers?: Record<string, Answer>;
  /** Schemas by system id. */
  schemas: ReadonlyMap<string, Schema>;
}

export type Answer = { record: string } | { anew: true };

export type Verdict = 'none' | 'one' | 'several' | 'new';
export type Outcome =
  | 'created'
  | 'updated'
  | 'unchanged'
  | 'deleted'
  | 'left'
  | 'skipped'
  | 'asked'
  | 'stopped'
  | 'refused'
  | 'failed'
  | 'waits'
  | 'taken back';

export interface FieldChange {
  field: string;
  label: string;
  from: string[];
  /** The earlier step the value comes from. */
  fromStep?: string;
  before: Value;
  after: Value;
  losses: string[];
  ambiguous?: string;
  /** Why the value isn't written; absent when it is. */
  kept?: 'blank' | 'same' | 'kept' | 'new records only';
}

export interface StepReport {
  step: string;
  /** The row of the repeating group, counted from 0, where the step is done once per row. */
  row?: number;
  system: string;
  entity: string;
  verdict?: Verdict;
  /** The fields of the key that found it. */
  recognisedBy?: string[];
  outcome: Outcome;
  record?: { id: string; label?: string };
  candidates?: RecordState[];
  changes: FieldChange[];
  /** What lookups found, by their question: ids of at most two records. */
  lookups?: Record<string, string[]>;
  /** Why it failed, was stopped or asks; in words. */
  why?: string;
  refusal?: Refusal;
}

export interface Course {
  state: 'applied' | 'in review' | 'refused' | 'failed';
  steps: StepReport[];
}

/** How many records a question shows at most. */
export const CANDIDATES = 10;
/** How often a step decides again after being overtaken before it gives up. */
const RETRIES = 8;
/** Rows of a repeating group that are on their way at once; what a system is asked at once is its budget's business. */
const ROWS_AT_ONCE = 16;

/** The effect of a step, or of one of its rows, within a submission: stable over every time the plan is run. */
export const effectKey = (step: string, row?: number): string => (row === undefined ? step : `${step}#${row}`);

/** One doing of a step: the whole of it, or one row. */
interface Turn {
  step: Step;
  row: number | undefined;
  values: PlanRun['values'];
  run: PlanRun;
  world: World;
  /** What earlier steps found or made, by effect. */
  known: Map<string, RecordState>;
}

/**
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
    const turn = { step, run, world, known };
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
  const chains = chained(rows.map(({ values }) => keysOf(step, values, run.fields, run.schemas)));
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
  const { step, row, run, world, known } = turn;
  const key = effectKey(step.id, row);
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

/**
 * What an earlier step found or made, seen from a turn: the same row's where that step repeats too, or that of its
 * first row that has one.
 */
function recordFor({ known, row }: Turn, step: string, of?: 'first'): RecordState | undefined {
  if (of === 'first') return firstRowOf(known, step);
  return (row === undefined ? undefined : known.get(effectKey(step, row))) ?? known.get(step);
}

function firstRowOf(known: ReadonlyMap<string, RecordState>, step: string): RecordState | undefined {
  const rows = [...known.keys()].flatMap((key) => {
    const row = key.startsWith(`${step}#`) ? Number(key.slice(step.length + 1)) : NaN;
    return Number.isInteger(row) ? [row] : [];
  });
  return rows.length === 0 ? undefined : known.get(effectKey(step, Math.min(...rows)));
}

/** Lookups a line may need one after another before its value is known. */
const QUESTIONS = 20;

/** Evaluates all lines that count; what a line looks up in the system is asked, each question once. */
async function evaluateLines(turn: Turn, entity: Entity, report: StepReport): Promise<LineValue[]> {
  const { step, run, values } = turn;
  const answers = new Map<string, string[]>();
  const context = { fields: run.fields, answers, record: (id: string, of?: 'first') => recordFor(turn, id, of) };
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
    ? { field: by, value: Number(text), folded: false }
    : { field: by, value: text, folded: field.type !== 'id' && field.type !== 'reference' };
  return turn.world.find({ system, entity }, [criterion], 2);
}

/** Answers the three questions; notes verdict, candidates and outcome in the report and returns the intent. */
async function resolve(turn: Turn, entity: Entity, lines: LineValue[], report: StepReport): Promise<Intent> {
  const { step, run, world } = turn;
  const target = { system: step.system, entity: step.entity };
  const answer = run.answers?.[effectKey(step.id, turn.row)];
  delete report.candidates;
  delete report.recognisedBy;
  if (answer && 'record' in answer) {
    const record = await world.read(target, answer.record);
    report.verdict = 'one';
    if (record) return update(step, entity, lines, record, report);
    report.outcome = 'asked';
    report.why = 'the record that was chosen is no longer there';
    return { kind: 'none' };
  }
  if (step.record) return givenRecord(turn, entity, lines, report);
  if (step.recognise.length === 0 || (answer && 'anew' in answer)) {
    report.verdict = 'new';
    return create(step, entity, lines, report);
  }
  const found = await recognise(turn, entity, lines, report);
  report.verdict = found.length === 0 ? 'none' : found.length === 1 ? 'one' : 'several';
  const [only] = found;
  if (found.length > 1) {
    report.candidates = found;
    const many = found.length === CANDIDATES ? 'many' : found.length;
    return withoutWriting(report, step.whenSeveral, `${many} records fit`);
  }
  return only ? oneFound(step, entity, lines, only, report) : noneFound(step, entity, lines, report);
}

/** The record is that of an earlier step, or the one whose id the submission names. */
async function givenRecord(turn: Turn, entity: Entity, lines: LineValue[], report: StepReport): Promise<Intent> {
  const { step, values, world } = turn;
  const { by, step: earlier = '', field = '' } = step.record!;
  const said = values[field];
  const id = by === 'step' ? recordFor(turn, earlier)?.id : isBlank(said) ? undefined : String(said).trim();
  const record = id === undefined ? undefined : await world.read({ system: step.system, entity: step.entity }, id);
  report.verdict = record ? 'one' : 'none';
  if (record) return oneFound(step, entity, lines, record, report);
  if (by === 'step') {
    const why =
      id === undefined ? 'the earlier step has no record' : 'the record of the earlier step is no longer there';
    return withoutWriting(report, 'skip', why);
  }
  return noneFound(step, entity, lines, report);
}

function oneFound(step: Step, entity: Entity, lines: LineValue[], record: RecordState, report: StepReport): Intent {
  if (step.whenOne === 'update') return update(step, entity, lines, record, report);
  if (step.whenOne === 'delete') {
    report.outcome = 'deleted';
    report.record = { id: record.id };
    return { kind: 'delete', target: { system: step.system, entity: step.entity }, record };
  }
  if (step.whenOne === 'ask') report.candidates = [record];
  return withoutWriting(report, step.whenOne, 'a record fits', record);
}

function noneFound(step: Step, entity: Entity, lines: LineValue[], report: StepReport): Intent {
  if (step.whenNone === 'create') return create(step, entity, lines, report);
  return withoutWriting(report, step.whenNone, 'no record fits');
}

function withoutWriting(
  report: StepReport,
  what: 'ask' | 'skip' | 'stop' | 'leave',
  why: string,
  record?: RecordState,
): Intent {
  report.outcome = ({ ask: 'asked', skip: 'skipped', stop: 'stopped', leave: 'left' } as const)[what];
  report.why = why;
  return record && what === 'leave' ? { kind: 'none', record } : { kind: 'none' };
}

async function recognise(
  { step, world }: Turn,
  entity: Entity,
  lines: LineValue[],
  report: StepReport,
): Promise<RecordState[]> {
  for (const key of step.recognise) {
    const criteria = criteriaOf(key, entity, lines);
    if (!criteria) continue;
    const found = await world.find({ system: step.system, entity: step.entity }, criteria, CANDIDATES);
    if (found.length > 0) {
      report.recognisedBy = key.fields;
      return found;
    }
  }
  return [];
}

function create(step: Step, entity: Entity, lines: LineValue[], report: StepReport): Intent {
  const values = weighLines(entity, lines, undefined, report);
  report.outcome = 'created';
  return { kind: 'create', target: { system: step.system, entity: step.entity }, values };
}

function update(step: Step, entity: Entity, lines: LineValue[], record: RecordState, report: StepReport): Intent {
  const values = weighLines(entity, lines, record, report);
  report.record = { id: record.id };
  if (Object.keys(values).length === 0) {
    report.outcome = 'unchanged';
    return { kind: 'none', record };
  }
  report.outcome = 'updated';
  return { kind: 'update', target: { system: step.system, entity: step.entity }, record, values };
}

/** The values to write; every line, written or not, leaves its mark in the report. */
function weighLines(
  entity: Entity,
  lines: LineValue[],
  record: RecordState | undefined,
  report: StepReport,
): Record<string, Value> {
  const values: Record<string, Value> = {};
  report.changes = lines.map((value) => {
    const field = fieldOf(entity, value.line.field)!;
    // A later line of the same step sees what an earlier one is about to write.
    const current = Object.hasOwn(values, field.name) ? values[field.name]! : record?.values[field.name];
    const decision = decide(value, current, record === undefined && !Object.hasOwn(values, field.name));
    if (decision.write) values[field.name] = decision.value;
    return changeOf(value, field.label, record?.values[field.name] ?? null, decision);
  });
  return values;
}

function changeOf(value: LineValue, label: string, before: Value, decision: ReturnType<typeof decide>): FieldChange {
  const change: FieldChange = {
    field: value.line.field,
    label,
    from: value.line.from,
    before,
    after: decision.write ? decision.value : before,
    losses: isBlank(value.sent) ? [] : value.losses,
  };
  if (value.line.fromStep) change.fromStep = value.line.fromStep.step;
  if (value.ambiguous !== undefined) change.ambiguous = value.ambiguous;
  if (!decision.write) change.kept = decision.why;
  return change;
}

const DONE = { create: 'created', update: 'updated', delete: 'deleted' } as const;

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
  if (effect.state === 'refused')
    return { ...report, outcome: 'refused', refusal: effect.refusal, why: effect.refusal.words };
  if (intent.kind !== 'none') report.outcome = DONE[intent.kind];
  report.record = { id: effect.record.id };
  return report;
}
