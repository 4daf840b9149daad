import { describeCondition, expressionOf, outcomesOf, readExpression } from '../expressions/index.ts';
import {
  alwaysNew,
  groupsOf,
  linkLine,
  mayCreate,
  mayUpdate,
  openLinks,
  rowsOf,
  stepName,
  type Step,
} from '../plans/index.ts';
import { fieldOf, mustBeGiven, type Field } from '../schema/index.ts';
import type { Check, Finding, StepInput } from './finding.ts';

/** K09: the step's entity can't be seen, created or changed over this connection. */
export const entityRights: Check = (input) =>
  input.plan.steps.flatMap((step): Finding[] => {
    const schema = input.schemas.get(step.system);
    const stops = (sentence: string): Finding[] => [
      { id: 'K09', severity: 'stops', place: { step: step.id }, sentence },
    ];
    if (!schema) return stops(`The system of this step isn't connected.`);
    const entity = schema.entities.find((each) => each.name === step.entity);
    if (!entity) return stops(`This connection can't see ${step.entity}.`);
    if (mayCreate(step) && !entity.rights.create) return stops(`This connection may not create a ${entity.label}.`);
    if (mayUpdate(step) && !entity.rights.update) return stops(`This connection may not change a ${entity.label}.`);
    if (step.whenOne === 'delete' && !entity.rights.delete)
      return stops(`This connection may not delete a ${entity.label}.`);
    return [];
  });

/** K13, first part: a step recognises by a field that no line fills, so it never finds anything. */
export const keyWithoutLine = ({ step, entity }: StepInput): Finding[] =>
  (step.record ? [] : step.recognise).flatMap((key) =>
    key.fields.flatMap((name): Finding[] => {
      if (step.lines.some((line) => line.field === name)) return [];
      const label = fieldOf(entity, name)?.label ?? name;
      const sentence = `${entity.label} is recognised by ${label}, but no line fills it.`;
      return [{ id: 'K13', severity: 'stops', place: { step: step.id, field: name }, sentence }];
    }),
  );

/** K25: a condition can never be true, or is always true, on its fields' options; or can't be worked out at all. */
export const condition = ({ step, fields }: StepInput): Finding[] => {
  const place = { step: step.id };
  const text = expressionOf(step.condition, fields);
  if (text === undefined || !step.condition) return [];
  const read = readExpression(text, fields);
  if (!read.ok)
    return [{ id: 'K25', severity: 'stops', place, sentence: `The condition can't be worked out: ${read.reason}.` }];
  if (read.type !== 'bool' && read.type !== 'dyn')
    return [{ id: 'K25', severity: 'stops', place, sentence: 'The condition comes to neither yes nor no.' }];
  const outcomes = outcomesOf(step.condition, fields);
  if (!outcomes || (outcomes.ever && !outcomes.always)) return [];
  const said = describeCondition(step.condition, (name) => fields.find((field) => field.name === name)?.label ?? name);
  const sentence = outcomes.ever
    ? `The condition “${said}” always holds, whatever is chosen.`
    : `The condition “${said}” can never hold, so this step is never done.`;
  return [{ id: 'K25', severity: 'look', place, sentence }];
};

/** A computed value that can't be read stops before any sample shows it. */
export const brokenExpression = ({ step, fields }: StepInput): Finding[] =>
  step.lines.flatMap((line) =>
    line.treatments.flatMap((treatment): Finding[] => {
      if (treatment.kind !== 'compute') return [];
      const read = readExpression(treatment.expression ?? '', fields);
      if (read.ok) return [];
      const place = { step: step.id, line: line.id, field: line.field };
      return [
        { id: 'K07', severity: 'stops', place, sentence: `The computed value can't be worked out: ${read.reason}.` },
      ];
    }),
  );

/** A lookup that looks where nothing is stops before it refuses every submission. */
export const brokenLookup = ({ step, schemas }: StepInput): Finding[] =>
  step.lines.flatMap((line) =>
    line.treatments.flatMap((treatment): Finding[] => {
      if (treatment.kind !== 'lookup') return [];
      const among = schemas.get(step.system)?.entities.find(({ name }) => name === treatment.entity);
      if (among && fieldOf(among, treatment.by ?? '')) return [];
      const sentence = among
        ? `${among.label} has no field “${treatment.by ?? ''}” to look in.`
        : `This connection can't see ${treatment.entity ?? 'the entity'} to look in.`;
      return [{ id: 'K27', severity: 'stops', place: { step: step.id, line: line.id, field: line.field }, sentence }];
    }),
  );

/** A line reads a field that the form no longer has among those taken in. */
export const sourceGone = ({ step, fields }: StepInput): Finding[] =>
  step.lines.flatMap((line) =>
    line.from.flatMap((name): Finding[] => {
      if (fields.some((field) => field.name === name)) return [];
      const place = { step: step.id, line: line.id, field: line.field };
      return [
        {
          id: 'K22',
          severity: 'look',
          place,
          sentence: `A line reads “${name}”, which is not among the fields taken in.`,
        },
      ];
    }),
  );

/** K13, K15: references to other steps lead to an earlier one, to the right kind of record, and row by row. */
export const stepReferences = ({ step, entity, plan, schemas }: StepInput): Finding[] => {
  const { steps } = plan;
  const at = steps.findIndex(({ id }) => id === step.id);
  const place = { step: step.id };
  const stops = (sentence: string, line?: string): Finding => ({
    id: 'K13',
    severity: 'stops',
    place: line === undefined ? place : { ...place, line },
    sentence,
  });
  const looked = (id: string, line?: string, row?: 'first'): Finding[] => {
    const earlier = steps.findIndex((each) => each.id === id);
    if (earlier < 0) return [stops('It refers to a step that is no longer there.', line)];
    const other = steps[earlier]!;
    const name = stepName(other, steps, schemas);
    if (earlier >= at) return [stops(`It refers to ${name}, which comes later.`, line)];
    if (other.repeat !== undefined && other.repeat !== step.repeat && row === undefined)
      return [
        stops(`${name} is done once per row of ${other.repeat}; which of its records is meant is not told.`, line),
      ];
    return [];
  };
  const record = step.record?.by === 'step' ? looked(step.record.step ?? '') : [];
  const lines = step.lines.flatMap((line): Finding[] => {
    if (!line.fromStep) return [];
    const broken = looked(line.fromStep.step, line.id, line.fromStep.row);
    if (broken.length > 0) return broken;
    const other = steps.find(({ id }) => id === line.fromStep!.step)!;
    const field = fieldOf(entity, line.field);
    const name = stepName(other, steps, schemas);
    const linked = line.fromStep.field === undefined && field?.type === 'reference';
    if (linked && (other.system !== step.system || (field.relation !== undefined && field.relation !== other.entity))) {
      const sentence = `${field.label} takes a record of ${field.relation ?? 'its system'}, and ${name} is none.`;
      return [{ id: 'K15', severity: 'stops', place: { ...place, line: line.id, field: field.name }, sentence }];
    }
    return field ? [...mayBeMissing(other, name, field, line.id, place)] : [];
  });
  return [...record, ...lines];
};

/** An earlier step that is done under a condition, or skipped when it finds nothing, may have no record to give. */
function mayBeMissing(other: Step, name: string, field: Field, line: string, place: Finding['place']): Finding[] {
  const conditional =
    other.condition !== undefined && (other.condition.parts.length > 0 || other.condition.expression !== undefined);
  const unfound = other.whenNone === 'skip' || other.whenOne === 'delete';
  if (!conditional && !unfound) return [];
  const why = conditional ? 'is done only under a condition' : 'may find nothing';
  const needed = mustBeGiven(field);
  return [
    {
      id: 'K13',
      severity: needed ? 'stops' : 'look',
      place: { ...place, line, field: field.name },
      sentence: `${name} ${why}; ${field.label} ${needed ? 'is required and would stay' : 'then stays'} blank.`,
    },
  ];
}

/** K14: a record is made without the link to an earlier one, although the schema has a relation for it. */
export const missingLink = ({ step, plan, schemas }: StepInput): Finding[] => {
  if (!mayCreate(step)) return [];
  const { steps } = plan;
  const before = steps.slice(
    0,
    steps.findIndex(({ id }) => id === step.id),
  );
  return openLinks(step, before, schemas).map(({ field, earlier }): Finding => {
    const name = stepName(earlier, steps, schemas);
    return {
      id: 'K14',
      severity: 'look',
      place: { step: step.id, field: field.name },
      sentence: `${stepName(step, steps, schemas)} is not linked to the ${name}: nothing fills ${field.label}.`,
      mend: {
        label: `set ${field.label} to the ${name}`,
        kind: 'add line',
        step: step.id,
        added: linkLine(`link-${step.id}-${field.name}`.slice(0, 64), field, earlier.id),
      },
    };
  });
};

/** K26: a record is deleted by a key that others may share. */
export const deletesByWeakKey = ({ step, entity }: StepInput): Finding[] => {
  if (step.whenOne !== 'delete' || step.record) return [];
  const keys = step.recognise.filter(({ fields }) => !fields.some((name) => fieldOf(entity, name)?.unique === true));
  if (step.evidence) {
    const sentence = `A ${entity.label} is deleted that is recognised by evidence, which can be mistaken.`;
    return [{ id: 'K26', severity: 'look', place: { step: step.id }, sentence }];
  }
  if (keys.length === 0) return [];
  const labels = keys.map(({ fields }) => fields.map((name) => fieldOf(entity, name)?.label ?? name).join(' with '));
  return [
    {
      id: 'K26',
      severity: 'look',
      place: { step: step.id },
      sentence: `A ${entity.label} is deleted that is found by ${labels.join(' or ')}, which another may share.`,
    },
  ];
};

/** K06: a step that is done once per row of a group the form doesn't have. */
export const missingGroup = ({ step, fields }: StepInput): Finding[] =>
  step.repeat === undefined || groupsOf(fields).includes(step.repeat)
    ? []
    : [
        {
          id: 'K06',
          severity: 'stops',
          place: { step: step.id },
          sentence: `The form has no rows of “${step.repeat}”, by which this step repeats.`,
        },
      ];

/** K10: a step done once per row recognises by what is the same for every row, so all rows become one record. */
export const keyOfAllRows = ({ step, entity, fields: form, samples }: StepInput): Finding[] => {
  const { repeat } = step;
  if (repeat === undefined || step.record) return [];
  const ofRow = (name: string): boolean =>
    step.lines.some(
      (line) =>
        line.field === name &&
        (line.fromStep !== undefined ||
          line.treatments.some(({ kind }) => kind === 'compute') ||
          line.from.some((source) => form.find((field) => field.name === source)?.group === repeat)),
    );
  const names = form.map(({ name }) => name);
  const which = samples.flatMap((values, at) => (rowsOf(repeat, names, values).length > 1 ? [at] : []));
  return step.recognise.flatMap(({ fields }): Finding[] => {
    if (fields.some(ofRow)) return [];
    const labels = fields.map((name) => fieldOf(entity, name)?.label ?? name).join(' with ');
    return [
      {
        id: 'K10',
        severity: 'look',
        place: { step: step.id },
        sentence: `${labels} is the same for every row of ${repeat}: all rows would be taken for one ${entity.label}.`,
        samples: { hit: which.length, of: samples.length, which },
      },
    ];
  });
};

/** K28: the step's system lacks what keeps a write from happening twice, or unseen changes from being overwritten. */
export const missingCapabilities = ({ step, entity, facts }: StepInput): Finding[] => {
  const able = facts?.abilities?.[`${step.system}/${step.entity}`] ?? facts?.abilities?.[step.system];
  if (!able || !(mayCreate(step) || mayUpdate(step) || step.whenOne === 'delete')) return [];
  const system = facts?.systemNames?.[step.system] ?? 'The system';
  const look = (sentence: string): Finding => ({ id: 'K28', severity: 'look', place: { step: step.id }, sentence });
  return [
    ...(able.repeatability
      ? []
      : [
          look(
            able.untold && mayCreate(step)
              ? `${system} can’t tell a repeated request from a new one, and whether a ${entity.label} was made can’t be looked for: one whose making was cut short may be there twice, and Review asks instead of sending it again.`
              : `${system} can’t tell a repeated request from a new one: a ${entity.label} whose writing was cut short is looked for by its values before it is sent again.`,
          ),
        ]),
    ...(able.etags || !(mayUpdate(step) || step.whenOne === 'delete')
      ? []
      : [
          look(
            `${system} gives no version of its records: each is read once more just before it is changed, and only what somebody changes in that very moment can be overwritten.`,
          ),
        ]),
    ...(able.byKey === false && (mayUpdate(step) || step.whenOne === 'delete')
      ? [
          {
            ...look(`${system} gives no record by its key: this step can’t change or delete any.`),
            severity: 'stops' as const,
          },
        ]
      : []),
    ...(able.filter === false && !alwaysNew(step) && !step.record
      ? [
          look(
            `${system} doesn’t search: all its ${entity.label} records are read for every submission, and compared here.`,
          ),
        ]
      : []),
  ];
};

/** K27: the API of the step's system is no longer as its adapter says. */
export const driftedApi = ({ step, entity, facts }: StepInput): Finding[] => {
  const differences = facts?.drifted?.[`${step.system}/${step.entity}`] ?? [];
  if (differences.length === 0) return [];
  const system = facts?.systemNames?.[step.system] ?? 'The system';
  const sentence = `${system} is no longer spoken to as its adapter says, for ${entity.label}: ${differences.slice(0, 3).join(' ')}`;
  return [{ id: 'K27', severity: 'look', place: { step: step.id }, sentence }];
};
