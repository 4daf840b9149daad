import { decide, type LineValue } from '../mapping/index.ts';
import { fieldOf, type Entity, type RecordState, type Value, type Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { alwaysNew, type Step } from './model.ts';
import { criteriaOf } from './recognise.ts';
import { CANDIDATES, effectKey, recordFor, type FieldChange, type StepReport, type Turn } from './report.ts';
import type { Intent } from './world.ts';

/** Answers the three questions; notes verdict, candidates and outcome in the report and returns the intent. */
export async function resolve(turn: Turn, entity: Entity, lines: LineValue[], report: StepReport): Promise<Intent> {
  const { step, run, world } = turn;
  const target = { system: step.system, entity: step.entity };
  const answer = run.answers?.[effectKey(step.id, turn.row)];
  delete report.candidates;
  delete report.recognisedBy;
  delete report.weighed;
  delete report.sent;
  if (answer && 'record' in answer) {
    const record = await world.read(target, answer.record);
    report.verdict = 'one';
    if (record) return update(step, entity, lines, record, report);
    report.outcome = 'asked';
    report.why = 'the record that was chosen is no longer there';
    return { kind: 'none' };
  }
  if (step.record) return givenRecord(turn, entity, lines, report);
  if (alwaysNew(step) || (answer && 'anew' in answer)) {
    report.verdict = 'new';
    return create(step, entity, lines, report);
  }
  const found = await recognise(turn, entity, lines, report);
  report.verdict = found.length === 0 ? 'none' : found.length === 1 ? 'one' : 'several';
  const [only] = found;
  if (found.length > 1) {
    report.candidates = found;
    report.sent = sentOf(lines);
    const many = found.length === CANDIDATES ? 'many' : found.length;
    return withoutWriting(report, step.whenSeveral, `${many} records fit`);
  }
  if (only) return oneFound(step, entity, lines, only, report);
  return step.evidence ? byEvidence(turn, entity, lines, report) : noneFound(step, entity, lines, report);
}

/** No exact key has found anything: what the values say together decides, or somebody is asked. */
async function byEvidence(turn: Turn, entity: Entity, lines: LineValue[], report: StepReport): Promise<Intent> {
  const { step, world } = turn;
  const values = sentOf(lines);
  const weighing = await world.weigh({ system: step.system, entity: step.entity }, values, CANDIDATES);
  if (!weighing) {
    report.outcome = 'failed';
    report.why = `it isn't set up yet how a ${entity.label} is recognised by evidence`;
    return { kind: 'none' };
  }
  const { verdict, records, weighed } = weighing;
  if (weighed.length > 0) report.weighed = weighed;
  const [likeliest] = records;
  if (verdict === 'same' && likeliest) {
    report.verdict = 'one';
    return oneFound(step, entity, lines, likeliest, report);
  }
  if (verdict === 'different') {
    report.verdict = 'none';
    return noneFound(step, entity, lines, report);
  }
  report.verdict = 'unsure';
  report.candidates = records;
  report.sent = values;
  const why = records.length === 1 ? 'it may be somebody known' : `it may be one of ${records.length} known ones`;
  return withoutWriting(report, step.whenSeveral, why);
}

/** The values that the lines come to, by field. */
export function sentOf(lines: readonly LineValue[]): Values {
  const values: Values = {};
  for (const { line, sent } of lines) if (!isBlank(sent)) values[line.field] ??= sent;
  return values;
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
export function weighLines(
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
