import { evaluateLine, type Line } from '../mapping/index.ts';
import { fieldOf, isWritable, mustBeGiven, type Field } from '../schema/index.ts';
import { convert, isBlank } from '../values/index.ts';
import { counted, onSteps, type Finding, type StepInput } from './finding.ts';

const createsRecords = ({ step }: StepInput): boolean => step.whenNone === 'create' || step.recognise.length === 0;

function eachLine(input: StepInput, look: (line: Line, field: Field) => Finding[]): Finding[] {
  return input.step.lines.flatMap((line) => {
    const field = fieldOf(input.entity, line.field);
    return field ? look(line, field) : [];
  });
}

/** The samples whose outcome on a line meets a condition, by position. */
function samplesWhere(
  input: StepInput,
  line: Line,
  field: Field,
  meets: (value: ReturnType<typeof evaluateLine>) => boolean,
): number[] {
  return input.samples.flatMap((values, at) => (meets(evaluateLine(line, values, field)) ? [at] : []));
}

/** K01: a required field of a record to be created gets no value, or may be blank. */
export const requiredField = onSteps((input) => {
  if (!createsRecords(input)) return [];
  return input.entity.fields.filter(mustBeGiven).flatMap((field): Finding[] => {
    const lines = input.step.lines.filter((line) => line.field === field.name);
    const place = { step: input.step.id, field: field.name };
    if (lines.length === 0) {
      return [
        {
          id: 'K01',
          severity: 'stops',
          place,
          sentence: `${field.label} is required for a new ${input.entity.label}, and no line fills it.`,
        },
      ];
    }
    const blank = input.samples.flatMap((values, at) => {
      const outcomes = lines.map((line) => evaluateLine(line, values, field));
      return outcomes.every((each) => isBlank(each.sent) && each.problem === undefined) ? [at] : [];
    });
    if (blank.length > 0) {
      return [
        {
          id: 'K01',
          severity: 'look',
          place: { ...place, line: lines[0]!.id },
          sentence: `${field.label} is required, but stays blank in some samples.`,
          samples: counted(blank, input.samples.length),
        },
      ];
    }
    return lines.some((line) => alwaysFilled(line, input)) || input.samples.length > 0
      ? []
      : [
          {
            id: 'K01',
            severity: 'look',
            place: { ...place, line: lines[0]!.id },
            sentence: `${field.label} is required, but the form lets it stay blank.`,
          },
        ];
  });
});

/** The form insists on a value, or the line brings one of its own. */
function alwaysFilled(line: Line, { document }: StepInput): boolean {
  if (line.from.length === 0) return !isBlank(line.constant);
  if (line.treatments.some((each) => each.kind === 'default' && !isBlank(each.value))) return true;
  return line.from.some((name) => document.fields.some((field) => field.name === name && field.required));
}

/** K02: an option sent has no counterpart in the target's list. */
export const unpairedOption = onSteps((input) =>
  eachLine(input, (line, field) => {
    if (!field.options) return [];
    const sent = line.from.flatMap((name) => document(input, name)?.options ?? []);
    const missing = new Map<string, string>();
    for (const option of sent) {
      const outcome = evaluateLine(line, Object.fromEntries(line.from.map((name) => [name, option.value])), field);
      if (outcome.problem !== undefined) missing.set(option.value, option.label);
    }
    if (missing.size === 0) return [];
    const which = samplesWhere(input, line, field, (value) =>
      value.came.flat().some((each) => each !== null && missing.has(each)),
    );
    const named = [...missing.values()]
      .slice(0, 3)
      .map((label) => `“${label}”`)
      .join(', ');
    const more = missing.size > 3 ? ` and ${missing.size - 3} more` : '';
    return [
      {
        id: 'K02',
        severity: 'look',
        place: { step: input.step.id, line: line.id, field: field.name },
        sentence: `${field.label}: ${named}${more} ${missing.size === 1 ? 'has' : 'have'} no counterpart in the list.`,
        samples: counted(which, input.samples.length),
      },
    ];
  }),
);

const document = (input: StepInput, name: string) => input.document.fields.find((field) => field.name === name);

/** K04: a conversion loses something on the samples. */
export const losses = onSteps((input) =>
  eachLine(input, (line, field) => {
    let example = '';
    const which = samplesWhere(input, line, field, (value) => {
      example ||= value.losses[0] ?? '';
      return value.losses.length > 0;
    });
    if (which.length === 0) return [];
    return [
      {
        id: 'K04',
        severity: 'look',
        place: { step: input.step.id, line: line.id, field: field.name },
        sentence: `${example}.`,
        samples: counted(which, input.samples.length),
      },
    ];
  }),
);

/** K07: samples hold values that can't be converted to what the field takes. */
export const unconvertible = onSteps((input) =>
  eachLine(input, (line, field) => {
    if (field.options) return [];
    let example = '';
    const which = samplesWhere(input, line, field, (value) => {
      example ||= value.problem ?? '';
      return value.problem !== undefined;
    });
    if (which.length === 0) return [];
    return [
      {
        id: 'K07',
        severity: 'stops',
        place: { step: input.step.id, line: line.id, field: field.name },
        sentence: `${example}.`,
        samples: counted(which, input.samples.length),
      },
    ];
  }),
);

/** K08 and K09: the target isn't there, is filled by the system, fixed after creation, or out of the connection's reach. */
export const unwritable = onSteps((input) =>
  input.step.lines.flatMap((line): Finding[] => {
    const field = fieldOf(input.entity, line.field);
    const place = { step: input.step.id, line: line.id, field: line.field };
    if (!field)
      return [
        {
          id: 'K27',
          severity: 'stops',
          place,
          sentence: `${input.entity.label} no longer has the field “${line.field}”.`,
        },
      ];
    if (field.computed || field.type === 'id') {
      return [
        {
          id: 'K08',
          severity: 'stops',
          place,
          sentence: `${field.label} is filled by the system and can't be written.`,
        },
      ];
    }
    if (!isWritable(field)) {
      return [{ id: 'K09', severity: 'stops', place, sentence: `This connection may not write ${field.label}.` }];
    }
    const updates = input.step.recognise.length > 0 && input.step.whenOne === 'update';
    if (field.immutable && updates && line.ifBoth !== 'new records only') {
      return [
        {
          id: 'K08',
          severity: 'stops',
          place,
          sentence: `${field.label} can't be changed after creation; let the line write new records only.`,
        },
      ];
    }
    return [];
  }),
);

/** K24: a constant or a stand-in for blanks isn't valid for its target. */
export const invalidConstant = onSteps((input) =>
  eachLine(input, (line, field) => {
    const place = { step: input.step.id, line: line.id, field: field.name };
    if (line.from.length === 0) {
      const outcome = evaluateLine(line, {}, field);
      if (outcome.problem !== undefined)
        return [{ id: 'K24', severity: 'stops', place, sentence: `The constant won't go in. ${outcome.problem}.` }];
    }
    const instead = line.treatments.find((each) => each.kind === 'default')?.value;
    if (instead === undefined) return [];
    const after = line.treatments.slice(line.treatments.findIndex((each) => each.kind === 'default'));
    const outcome =
      after.length > 1
        ? evaluateLine({ ...line, from: [], constant: instead, treatments: after.slice(1) }, {}, field)
        : undefined;
    const converted = outcome ? undefined : convert(instead, field);
    const problem =
      outcome?.problem ?? (converted && !converted.ok ? `${field.label}: ${converted.reason}` : undefined);
    return problem === undefined
      ? []
      : [{ id: 'K24', severity: 'stops', place, sentence: `What stands in for a blank won't go in. ${problem}.` }];
  }),
);
