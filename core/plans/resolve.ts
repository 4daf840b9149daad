import { decide, type LineValue } from '../mapping/index.ts';
import { fieldOf, type Entity, type RecordState, type Value, type Values } from '../schema/index.ts';
import { isBlank } from '../values/index.ts';
import { alwaysNew, type Step } from './model.ts';
import { criteriaOf } from './recognise.ts';
import { CANDIDATES, effectKey, type Doing, type FieldChange, type StepReport } from './report.ts';
import type { Intent } from './world.ts';

/** What a step has made up its mind to do, and what its report tells of how it came to that. */
export interface Resolved {
  intent: Intent;
  found: Partial<StepReport>;
}

type Lines = readonly LineValue[];

/** Answers the three questions: which record, what if none, one or several are found, and which values. */
export async function resolve(doing: Doing, entity: Entity, lines: Lines): Promise<Resolved> {
  const { step, row, run, world } = doing;
  const answer = run.answers?.[effectKey(step.id, row)];
  if (answer && 'record' in answer) {
    const record = await world.read({ system: step.system, entity: step.entity }, answer.record);
    if (record) return telling({ verdict: 'one' }, update(step, entity, lines, record));
    const why = 'the record that was chosen is no longer there';
    return { intent: { kind: 'none' }, found: { verdict: 'one', outcome: 'asked', why } };
  }
  if (answer && 'ask' in answer) return askedAgain(doing, lines, answer.ask, await recognise(doing, entity, lines));
  if (step.record) return givenRecord(doing, entity, lines);
  if (alwaysNew(step) || (answer && 'anew' in answer)) return telling({ verdict: 'new' }, create(step, entity, lines));
  return recognise(doing, entity, lines);
}

/**
 * A decision was undone. What speaks for and against may have changed since it was asked for; somebody who has undone a
 * decision is asked all the same, among the records of then.
 */
async function askedAgain({ step, world }: Doing, lines: Lines, among: string[], now: Resolved): Promise<Resolved> {
  if (now.found.outcome === 'asked' || now.found.outcome === 'failed') return now;
  const target = { system: step.system, entity: step.entity };
  const records = await Promise.all(among.slice(0, CANDIDATES).map((id) => world.read(target, id)));
  const candidates = records.flatMap((record) => record ?? []);
  const weighed = now.found.weighed ? { weighed: now.found.weighed } : {};
  const told = { verdict: 'unsure' as const, ...weighed, candidates, sent: sentOf(lines) };
  return telling(told, withoutWriting('ask', 'the decision was undone'));
}

/** Adds to what is told of a resolution; what it says itself stands. */
const telling = (more: Partial<StepReport>, { intent, found }: Resolved): Resolved => ({
  intent,
  found: { ...more, ...found },
});

/** The first key that finds something decides; where none does, the evidence of all values together. */
async function recognise(doing: Doing, entity: Entity, lines: Lines): Promise<Resolved> {
  const { step, world } = doing;
  for (const key of step.recognise) {
    const criteria = criteriaOf(key, entity, lines);
    if (!criteria) continue;
    const records = await world.find({ system: step.system, entity: step.entity }, criteria, CANDIDATES);
    const [first] = records;
    if (!first) continue;
    const recognisedBy = key.fields;
    if (records.length === 1) return telling({ verdict: 'one', recognisedBy }, oneFound(step, entity, lines, first));
    const many = records.length === CANDIDATES ? 'many' : records.length;
    return telling(
      { verdict: 'several', recognisedBy, candidates: records, sent: sentOf(lines) },
      withoutWriting(step.whenSeveral, `${many} records fit`),
    );
  }
  return step.evidence
    ? byEvidence(doing, entity, lines)
    : telling({ verdict: 'none' }, noneFound(step, entity, lines));
}

/** No exact key has found anything: what the values say together decides, or somebody is asked. */
async function byEvidence({ step, world }: Doing, entity: Entity, lines: Lines): Promise<Resolved> {
  const sent = sentOf(lines);
  const weighing = await world.weigh({ system: step.system, entity: step.entity }, sent, CANDIDATES);
  if (!weighing) {
    const why = `it isn't set up yet how a ${entity.label} is recognised by evidence`;
    return { intent: { kind: 'none' }, found: { verdict: 'none', outcome: 'failed', why } };
  }
  const { verdict, records } = weighing;
  const weighed = weighing.weighed.length > 0 ? { weighed: weighing.weighed } : {};
  const [likeliest] = records;
  if (verdict === 'same' && likeliest)
    return telling({ verdict: 'one', ...weighed }, oneFound(step, entity, lines, likeliest));
  if (verdict === 'different') return telling({ verdict: 'none', ...weighed }, noneFound(step, entity, lines));
  const why = records.length === 1 ? 'it may be somebody known' : `it may be one of ${records.length} known ones`;
  return telling({ verdict: 'unsure', ...weighed, candidates: records, sent }, withoutWriting(step.whenSeveral, why));
}

/** The values that the lines come to, by field. */
export function sentOf(lines: Lines): Values {
  const values: Values = {};
  for (const { line, sent } of lines) if (!isBlank(sent)) values[line.field] ??= sent;
  return values;
}

/** The record is that of an earlier step, or the one whose id the submission names. */
async function givenRecord(
  { step, row, values, known, world }: Doing,
  entity: Entity,
  lines: Lines,
): Promise<Resolved> {
  const { by, step: earlier = '', field = '' } = step.record!;
  const said = values[field];
  const id = by === 'step' ? known.seenFrom(row, earlier)?.id : isBlank(said) ? undefined : String(said).trim();
  const record = id === undefined ? undefined : await world.read({ system: step.system, entity: step.entity }, id);
  if (record) return telling({ verdict: 'one' }, oneFound(step, entity, lines, record));
  if (by === 'field') return telling({ verdict: 'none' }, noneFound(step, entity, lines));
  const why = id === undefined ? 'the earlier step has no record' : 'the record of the earlier step is no longer there';
  return telling({ verdict: 'none' }, withoutWriting('skip', why));
}

function oneFound(step: Step, entity: Entity, lines: Lines, record: RecordState): Resolved {
  if (step.whenOne === 'update') return update(step, entity, lines, record);
  if (step.whenOne === 'delete')
    return {
      intent: { kind: 'delete', target: { system: step.system, entity: step.entity }, record },
      found: { outcome: 'deleted', record: { id: record.id } },
    };
  const { intent, found } = withoutWriting(step.whenOne, 'a record fits');
  if (step.whenOne === 'ask') return { intent, found: { ...found, candidates: [record] } };
  return step.whenOne === 'leave' ? { intent: { kind: 'none', record }, found } : { intent, found };
}

function noneFound(step: Step, entity: Entity, lines: Lines): Resolved {
  if (step.whenNone === 'create') return create(step, entity, lines);
  return withoutWriting(step.whenNone, 'no record fits');
}

function withoutWriting(what: 'ask' | 'skip' | 'stop' | 'leave', why: string): Resolved {
  const outcome = ({ ask: 'asked', skip: 'skipped', stop: 'stopped', leave: 'left' } as const)[what];
  return { intent: { kind: 'none' }, found: { outcome, why } };
}

function create(step: Step, entity: Entity, lines: Lines): Resolved {
  const { values, changes } = weighLines(entity, lines, undefined);
  const target = { system: step.system, entity: step.entity };
  return { intent: { kind: 'create', target, values }, found: { outcome: 'created', changes } };
}

function update(step: Step, entity: Entity, lines: Lines, record: RecordState): Resolved {
  const { values, changes } = weighLines(entity, lines, record);
  const told = { changes, record: { id: record.id } };
  if (Object.keys(values).length === 0)
    return { intent: { kind: 'none', record }, found: { ...told, outcome: 'unchanged' } };
  const target = { system: step.system, entity: step.entity };
  return { intent: { kind: 'update', target, record, values }, found: { ...told, outcome: 'updated' } };
}

/** The values to write, and what is told of every line, written or not. @param record undefined for a new one */
export function weighLines(
  entity: Entity,
  lines: Lines,
  record: RecordState | undefined,
): { values: Values; changes: FieldChange[] } {
  const values: Record<string, Value> = {};
  const changes = lines.map((value) => {
    const field = fieldOf(entity, value.line.field)!;
    // A later line of the same step sees what an earlier one is about to write.
    const current = Object.hasOwn(values, field.name) ? values[field.name]! : record?.values[field.name];
    const decision = decide(value, current, record === undefined && !Object.hasOwn(values, field.name));
    if (decision.write) values[field.name] = decision.value;
    return changeOf(value, field.label, record?.values[field.name] ?? null, decision);
  });
  return { values, changes };
}

function changeOf(value: LineValue, label: string, before: Value, decision: ReturnType<typeof decide>): FieldChange {
  const change: FieldChange = {
    field: value.line.field,
    label,
    from: value.line.from,
    before,
    after: decision.write ? decision.value : before,
    losses: value.losses,
  };
  if (value.line.fromStep) change.fromStep = value.line.fromStep.step;
  if (value.ambiguous !== undefined) change.ambiguous = value.ambiguous;
  if (!decision.write) change.kept = decision.why;
  return change;
}
