import { decide, evaluateLine, type LineValue } from '../mapping/index.ts';
import { entityOf, fieldOf, type Entity, type RecordState, type Schema, type Value } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { standingLines, type Plan, type Step } from './model.ts';
import { criteriaOf } from './recognise.ts';
import type { Effect, Intent, Refusal, World } from './world.ts';

/**
 * The one interpreter. It carries out a plan for one submission in whatever world it is given, and reports what it
 * did. It asks the world and decides; it never writes by itself and knows no clock.
 */
export interface PlanRun {
  plan: Plan;
  values: Record<string, string | string[]>;
  /** A person's answers from Review, by step id. */
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
  | 'left'
  | 'skipped'
  | 'asked'
  | 'stopped'
  | 'refused'
  | 'failed'
  | 'waits';

export interface FieldChange {
  field: string;
  label: string;
  from: string[];
  before: Value;
  after: Value;
  losses: string[];
  ambiguous?: string;
  /** Why the value isn't written; absent when it is. */
  kept?: 'blank' | 'same' | 'kept' | 'new records only';
}

export interface StepReport {
  step: string;
  system: string;
  entity: string;
  verdict?: Verdict;
  /** The fields of the key that found it. */
  recognisedBy?: string[];
  outcome: Outcome;
  record?: { id: string; label?: string };
  candidates?: RecordState[];
  changes: FieldChange[];
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

/**
 * Carries out all steps in order and stops at the first that asks, is refused or fails; later ones wait.
 * @throws whatever the world throws when a system can't be reached: the run may be begun again
 */
export async function carryOut(run: PlanRun, world: World): Promise<Course> {
  const steps: StepReport[] = [];
  let state: Course['state'] = 'applied';
  for (const step of run.plan.steps) {
    if (state !== 'applied') {
      steps.push(waiting(step));
      continue;
    }
    const report = await carryOutStep(step, run, world);
    steps.push(report);
    if (report.outcome === 'asked') state = 'in review';
    else if (report.outcome === 'refused') state = 'refused';
    else if (report.outcome === 'failed') state = 'failed';
    else if (report.outcome === 'stopped') break;
  }
  return { state, steps };
}

const waiting = (step: Step): StepReport => ({
  step: step.id,
  system: step.system,
  entity: step.entity,
  outcome: 'waits',
  changes: [],
});

async function carryOutStep(step: Step, run: PlanRun, world: World): Promise<StepReport> {
  const report: StepReport = {
    step: step.id,
    system: step.system,
    entity: step.entity,
    outcome: 'failed',
    changes: [],
  };
  const schema = run.schemas.get(step.system);
  const entity = schema && entityOf(schema, step.entity);
  if (!entity) return { ...report, why: `${step.entity} can't be seen in the system` };
  const lines = evaluateLines(step, run, entity);
  const problems = lines.flatMap((line) => line.problem ?? []);
  if (problems.length > 0) return { ...report, why: problems.join('; ') };

  let effect: Effect = { state: 'overtaken' };
  for (let attempt = 0; effect.state === 'overtaken' && attempt < RETRIES; attempt += 1) {
    // `decide` isn't called when the world has an intent of an earlier attempt; then the report is filled from it.
    effect = await world.effect(step.id, () => resolve(step, run, entity, lines, world, report));
  }
  if (effect.state === 'overtaken')
    return { ...report, outcome: 'failed', why: 'the record kept changing under our hands' };
  return conclude(report, effect, entity, lines);
}

function evaluateLines(step: Step, run: PlanRun, entity: Entity): LineValue[] {
  return standingLines(step).map((line) => {
    const field = fieldOf(entity, line.field);
    if (field) return evaluateLine(line, run.values, field);
    return {
      line,
      came: [],
      treated: null,
      sent: null,
      losses: [],
      problem: `${entity.label} has no field “${line.field}”`,
    };
  });
}

/** Answers the three questions; notes verdict, candidates and outcome in the report and returns the intent. */
async function resolve(
  step: Step,
  run: PlanRun,
  entity: Entity,
  lines: LineValue[],
  world: World,
  report: StepReport,
): Promise<Intent> {
  const target = { system: step.system, entity: step.entity };
  const answer = run.answers?.[step.id];
  delete report.candidates;
  delete report.recognisedBy;
  if (step.recognise.length === 0 || (answer && 'anew' in answer)) {
    report.verdict = 'new';
    return create(step, entity, lines, report);
  }
  if (answer && 'record' in answer) {
    const record = await world.read(target, answer.record);
    report.verdict = 'one';
    if (record) return update(step, entity, lines, record, report);
    report.outcome = 'asked';
    report.why = 'the record that was chosen is no longer there';
    return { kind: 'none' };
  }
  const found = await recognise(step, entity, lines, world, report);
  report.verdict = found.length === 0 ? 'none' : found.length === 1 ? 'one' : 'several';
  const [only] = found;
  if (found.length > 1) {
    report.candidates = found;
    return withoutWriting(
      report,
      step.whenSeveral,
      `${found.length === CANDIDATES ? 'many' : found.length} records fit`,
    );
  }
  if (only) {
    if (step.whenOne === 'update') return update(step, entity, lines, only, report);
    if (step.whenOne === 'ask') report.candidates = [only];
    return withoutWriting(report, step.whenOne, 'a record fits', only);
  }
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
  step: Step,
  entity: Entity,
  lines: LineValue[],
  world: World,
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
  if (value.ambiguous !== undefined) change.ambiguous = value.ambiguous;
  if (!decision.write) change.kept = decision.why;
  return change;
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
  if (report.changes.length === 0 && intent.kind !== 'none') {
    report.verdict = intent.kind === 'create' ? 'none' : 'one';
    weighLines(entity, lines, intent.kind === 'update' ? intent.record : undefined, report);
  }
  if (effect.state === 'refused')
    return { ...report, outcome: 'refused', refusal: effect.refusal, why: effect.refusal.words };
  report.outcome = intent.kind === 'create' ? 'created' : 'updated';
  report.record = { id: effect.record.id };
  return report;
}
