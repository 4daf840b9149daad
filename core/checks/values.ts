import { readExpression } from '../expressions/index.ts';
import { evaluateLine, type Line } from '../mapping/index.ts';
import { mayCreate, mayUpdate, rowNamed } from '../plans/index.ts';
import { calledBy, fieldOf, isWritable, mustBeGiven, type Field } from '../schema/index.ts';
import { convert, isBlank, overLimit } from '../values/index.ts';
import {
  counted,
  eachLine,
  formField,
  placeOf,
  samplesWhere,
  settled,
  type Finding,
  type StepCheck,
  type StepInput,
} from './finding.ts';

/** Checks on the values that lines bring; those on choices stand in `options.ts`. */

const createsRecords = ({ step }: StepInput): boolean => mayCreate(step);

const updatesRecords = ({ step }: StepInput): boolean => mayUpdate(step);

const has = (line: Line, ...kinds: Line['treatments'][number]['kind'][]): boolean =>
  line.treatments.some(({ kind }) => kinds.includes(kind));

/** Adds a treatment at the end of a line, as a mend. */
const withTreatment = (
  input: StepInput,
  line: Line,
  label: string,
  treatment: Line['treatments'][number],
): NonNullable<Finding['mend']> => ({
  label,
  kind: 'change line',
  step: input.step.id,
  line: line.id,
  set: { treatments: [...line.treatments, treatment] },
});

/** K01: a required field of a record to be created gets no value, or may be blank. */
export const requiredField: StepCheck = (input) => {
  if (!createsRecords(input)) return [];
  return input.entity.fields.filter(mustBeGiven).flatMap((field): Finding[] => {
    const lines = input.step.lines.filter((line) => line.field === field.name);
    const place = { step: input.step.id, field: field.name };
    if (lines.length === 0) {
      const sentence = `${field.label} is required for a new ${input.entity.label}, and no line fills it.`;
      return [{ id: 'K01', severity: 'stops', place, sentence }];
    }
    const outcomes = lines.map((line) => input.outcomes(line, field));
    const blank = input.samples.flatMap((_, at) =>
      input.done[at] && outcomes.every((each) => isBlank(each[at]!.sent) && each[at]!.problem === undefined)
        ? [at]
        : [],
    );
    const first = lines[0]!;
    if (blank.length > 0) {
      const sentence = `${field.label} is required, but stays blank in some samples.`;
      const samples = counted(blank, input.samples.length);
      return [{ id: 'K01', severity: 'look', place: { ...place, line: first.id }, sentence, samples }];
    }
    if (input.samples.length > 0 || lines.some((line) => alwaysFilled(line, input))) return [];
    const sentence = `${field.label} is required, but the form lets it stay blank.`;
    return [{ id: 'K01', severity: 'look', place: { ...place, line: first.id }, sentence }];
  });
};

/** The form insists on a value, or the line brings one of its own. */
function alwaysFilled(line: Line, input: StepInput): boolean {
  if (line.fromStep) return true;
  if (line.from.length === 0) return has(line, 'compute') || !isBlank(line.constant);
  if (line.treatments.some((each) => each.kind === 'default' && !isBlank(each.value))) return true;
  return line.from.some((name) => formField(input, name)?.required === true);
}

/** K04: a conversion loses something, on the samples or by its types alone. */
export const losses: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    let example = '';
    const which = samplesWhere(input, line, field, (value) => {
      example ||= value.losses[0] ?? '';
      return value.losses.length > 0;
    });
    const byType = which.length === 0 ? lossByType(line, field, input) : undefined;
    if (which.length === 0 && byType === undefined) return [];
    const finding: Finding = {
      id: 'K04',
      severity: 'look',
      place: placeOf(input, line),
      sentence: byType ?? `${example}.`,
    };
    if (which.length > 0) finding.samples = counted(which, input.samples.length);
    return [finding];
  });

/** What a kind of field can say that the target can't keep, unless a treatment drops it knowingly. */
export function lossByType(line: Line, field: Field, input: Pick<StepInput, 'fields'>): string | undefined {
  const kinds = line.from.map((name) => input.fields.find((each) => each.name === name)?.type);
  if (field.type === 'date' && kinds.includes('date and time') && !has(line, 'date', 'compute'))
    return `${field.label} keeps a date only; the time of day that the form sends is dropped.`;
  if (
    field.type === 'yes/no' &&
    (kinds.includes('option') || kinds.includes('options')) &&
    !has(line, 'options', 'compute', 'list')
  )
    return `${field.label} keeps yes or no only; which choice was made is dropped.`;
  return undefined;
}

/** Text a visitor can type into one line of a form rarely runs on; into a field of several lines it does. */
const RUNS_ON = 2000;

/** K05: a value can exceed the target's limit, counted as its system counts. */
export const overlong: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const limit = field.maxBytes ?? field.maxLength;
    if (limit === undefined || !['text', 'long text', 'id'].includes(field.type)) return [];
    const unit = field.maxBytes === undefined ? 'characters' : 'bytes';
    if (line.treatments.some((each) => each.kind === 'shorten' && covers(each, field))) return [];
    const which = samplesWhere(
      input,
      line,
      field,
      ({ treated }) => treated !== null && overLimit(String(treated), field) !== undefined,
    );
    const sources = line.from.flatMap((name) => formField(input, name) ?? []);
    const plain = !has(line, 'compute', 'options', 'lookup', 'name part', 'address part');
    const most = sources.reduce(
      (sum, { type, maxLength }) => sum + (maxLength ?? (type === 'long text' ? RUNS_ON : 0)),
      0,
    );
    if (which.length === 0 && !(plain && most > limit)) return [];
    return [
      {
        id: 'K05',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `${field.label} takes ${limit} ${unit}, and ${sources.some(({ typed }) => typed) ? 'the record may hold more' : 'the form lets visitors write more'}; what is longer is refused.`,
        samples: counted(which, input.samples.length),
        mend: withTreatment(input, line, `cut at ${limit} ${unit}`, { kind: 'shorten', limit, unit }),
      },
    ];
  });

const covers = ({ limit = 255, unit = 'characters' }: Line['treatments'][number], field: Field): boolean =>
  (field.maxLength === undefined ||
    (unit === 'characters' && limit <= field.maxLength) ||
    (unit === 'bytes' && limit <= field.maxLength)) &&
  (field.maxBytes === undefined || (unit === 'bytes' && limit <= field.maxBytes));

/** K06: several values go to a field that takes one, or rows of a repeating group to a step that runs once. */
export const severalToOne: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const sources = line.from.flatMap((name) => formField(input, name) ?? []);
    const findings: Finding[] = [];
    const several = sources.filter(({ multiple, type }) => multiple === true || type === 'options');
    if (several.length > 0 && field.type !== 'options' && !has(line, 'join', 'list', 'compute')) {
      findings.push({
        id: 'K06',
        severity: 'stops',
        place: placeOf(input, line),
        sentence: `${several[0]!.label} sends several values, ${field.label} takes one.`,
        mend: {
          label: 'join them with commas',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { treatments: [{ kind: 'join', separator: ', ' }, ...line.treatments] },
        },
      });
    }
    const group = sources.find((source) => source.group !== undefined)?.group;
    const rows = group === undefined ? new Set<number>() : rowsOf(group, input);
    if (group !== undefined && input.step.repeat !== group && rows.size > 1 && !has(line, 'compute')) {
      findings.push({
        id: 'K06',
        severity: 'stops',
        place: placeOf(input, line),
        sentence:
          input.step.repeat === undefined
            ? `${group} comes in several rows and this step is done once: all but the row it reads are lost.`
            : `${group} comes in several rows, and this step is done once per row of ${input.step.repeat}.`,
      });
    }
    return findings;
  });

/** The row numbers of a repeating group that the form has or samples brought. */
function rowsOf(group: string, { fields, samples }: StepInput): Set<number> {
  const brought = samples.flatMap((values) =>
    Object.entries(values).flatMap(([name, value]) => (isBlank(value) ? [] : [name])),
  );
  return new Set([...fields.map(({ name }) => name), ...brought].flatMap((name) => rowNamed(group, name)?.index ?? []));
}

/** A computed value that can't be read at all is told once, not sample by sample. */
const unreadableExpression = (line: Line, { fields }: StepInput): boolean =>
  line.treatments.some(({ kind, expression }) => kind === 'compute' && !readExpression(expression ?? '', fields).ok);

/** So many samples, and no other with a value, make it the line's doing that none of them goes in. */
const FAILS_ALWAYS = 3;

/** K07: samples hold values that can't be converted to what the field takes. */
export const unconvertible: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    if (field.options || field.type === 'reference' || unreadableExpression(line, input)) return [];
    let example = '';
    const which = samplesWhere(input, line, field, (value) => {
      // What is only too long is K05's.
      const tooLong =
        value.problem !== undefined && typeof value.treated === 'string' && overLimit(value.treated, field);
      if (value.problem === undefined || tooLong) return false;
      example ||= value.problem;
      return true;
    });
    if (which.length === 0) return [];
    const samples = counted(which, input.samples.length);
    const filled = samplesWhere(
      input,
      line,
      field,
      ({ came, treated }) => !isBlank(came.flat().join('')) || !isBlank(treated),
    );
    // What came once says something about visitors; that nothing ever goes in, about the line.
    const severity = which.length >= FAILS_ALWAYS && which.length === filled.length ? 'stops' : 'look';
    return [
      {
        id: 'K07',
        severity,
        place: placeOf(input, line),
        sentence: `${example}.`,
        samples,
        mend: {
          label: 'leave out what can’t be read',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { unreadable: 'leave out' },
        },
      },
    ];
  });

/** K08 and K09: the target isn't there, is filled by the system, fixed after creation, or out of the connection's reach. */
export const unwritable: StepCheck = (input) =>
  input.step.lines.flatMap((line): Finding[] => {
    const field = fieldOf(input.entity, line.field);
    const place = placeOf(input, line);
    const remove = { label: 'remove the line', kind: 'remove line' as const, step: input.step.id, line: line.id };
    const stops = (id: string, sentence: string, mend?: Finding['mend']): Finding[] => [
      mend ? { id, severity: 'stops', place, sentence, mend } : { id, severity: 'stops', place, sentence },
    ];
    if (!field) return stops('K27', `${input.entity.label} no longer has the field “${line.field}”.`, remove);
    if (field.computed || field.type === 'id')
      return stops('K08', `${field.label} is filled by the system and can't be written.`, remove);
    if (!isWritable(field)) return stops('K09', `This connection may not write ${field.label}.`, remove);
    if (field.immutable && updatesRecords(input) && line.ifBoth !== 'new records only') {
      return stops('K08', `${field.label} can't be changed after creation; let the line write new records only.`, {
        label: 'new records only',
        kind: 'change line',
        step: input.step.id,
        line: line.id,
        set: { ifBoth: 'new records only' },
      });
    }
    return [];
  });

/** Texts that may be ids: a number, a UUID, or letters and digits without a space. */
const looksLikeId = (text: string): boolean => /^[\w-]{1,64}$/.test(text) && /\d/.test(text);

/** K15: a relation's field gets a text where a record's id is needed. */
export const textToReference: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    if (
      field.type !== 'reference' ||
      line.from.length === 0 ||
      line.fromStep ||
      has(line, 'lookup', 'compute', 'options')
    )
      return [];
    // What comes is the id of a record, of this entity or of another.
    const [held] = line.from.length === 1 ? [formField(input, line.from[0]!)?.record] : [];
    if (held && held.system === input.step.system) {
      if (field.relation === undefined || held.entity === field.relation) return [];
      const sentence = `${field.label} takes a record of ${field.relation}, and is given one of ${held.entity}.`;
      return [{ id: 'K15', severity: 'stops', place: placeOf(input, line), sentence }];
    }
    const which = samplesWhere(input, line, field, ({ treated }) => !isBlank(treated) && !looksLikeId(String(treated)));
    const hidden = line.from.every((name) => formField(input, name)?.hidden === true);
    const filled = samplesWhere(input, line, field, ({ treated }) => !isBlank(treated)).length;
    if (which.length === 0 && (hidden || filled > 0)) return [];
    const related = input.schemas.get(input.step.system)?.entities.find(({ name }) => name === field.relation);
    const by = related && calledBy(related);
    const finding: Finding = {
      id: 'K15',
      severity: 'stops',
      place: placeOf(input, line),
      sentence: `${field.label} needs the id of a ${related?.label ?? 'record'}, and the form sends a text.`,
      samples: counted(which, input.samples.length),
    };
    if (related && by !== undefined) {
      const label = `look it up by ${fieldOf(related, by)!.label}`;
      finding.mend = withTreatment(input, line, label, { kind: 'lookup', entity: related.name, by });
    }
    return [finding];
  });

/** K16: two lines of a step write the same field, each over the other. */
export const writtenTwice: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const before = input.step.lines.slice(0, input.step.lines.indexOf(line));
    const overwrites = line.ifBoth === 'write' || line.ifBoth === 'new records only';
    if (!overwrites || !before.some((each) => each.field === line.field)) return [];
    return [
      {
        id: 'K16',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `Two lines write ${field.label}; this one, the later, always wins.`,
        mend: {
          label: 'fill only what is empty',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { ifBoth: 'fill only' },
        },
      },
    ];
  });

/** K17: a blank would erase what a known record holds. */
export const erasingBlank: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    if (!line.blankErases || line.ifBoth !== 'write' || !updatesRecords(input) || alwaysFilled(line, input)) return [];
    const which = samplesWhere(input, line, field, ({ sent, problem }) => isBlank(sent) && problem === undefined);
    return [
      {
        id: 'K17',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `A blank erases ${field.label} of a known ${input.entity.label}.`,
        samples: counted(which, input.samples.length),
        mend: {
          label: 'let a blank change nothing',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { blankErases: false },
        },
      },
    ];
  });

/** K32: what a known record's notes hold gives way to what is said next. */
export const replacedNotes: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const runsOn = line.from.some((name) => formField(input, name)?.type === 'long text');
    if (field.type !== 'long text' || !runsOn || line.ifBoth !== 'write' || !updatesRecords(input)) return [];
    return [
      {
        id: 'K32',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `${field.label} of a known ${input.entity.label} is replaced by the next text that comes; what stood there is gone.`,
        mend: {
          label: 'add it below what is there',
          kind: 'change line',
          step: input.step.id,
          line: line.id,
          set: { ifBoth: 'add to list' },
        },
      },
    ];
  });

/** K23: a number, date or phone in the samples can be read in two ways. */
export const ambiguous: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    if (has(line, 'name part', 'address part')) return [];
    let example = '';
    const which = samplesWhere(input, line, field, (value) => {
      example ||= value.ambiguous ?? '';
      return value.ambiguous !== undefined;
    });
    if (which.length === 0) return [];
    return [
      {
        id: 'K23',
        severity: 'look',
        place: placeOf(input, line),
        sentence: `${field.label}: ${example}. ${/time zone/.test(example) ? 'Say in which time zone visitors are.' : 'Say how visitors write numbers and dates.'}`,
        samples: counted(which, input.samples.length),
      },
    ];
  });

/** K24: a constant or a stand-in for blanks isn't valid for its target. */
export const invalidConstant: StepCheck = (input) =>
  eachLine(input, (line, field) => {
    const fields = input.fields;
    const place = placeOf(input, line);
    const stops = (sentence: string): Finding[] => [{ id: 'K24', severity: 'stops', place, sentence }];
    if (line.from.length === 0 && !line.fromStep && !has(line, 'compute', 'lookup')) {
      const outcome = evaluateLine(line, {}, field, { fields });
      if (outcome.problem !== undefined) return stops(`The constant won't go in. ${outcome.problem}.`);
    }
    const at = line.treatments.findIndex((each) => each.kind === 'default');
    const instead = line.treatments[at]?.value;
    if (instead === undefined) return [];
    const after = line.treatments.slice(at + 1);
    const outcome = settled(
      evaluateLine({ ...line, from: [], constant: instead, treatments: after }, {}, field, { fields }),
    );
    const converted = after.length > 0 ? undefined : convert(instead, field);
    const problem = outcome.problem ?? (converted && !converted.ok ? `${field.label}: ${converted.reason}` : undefined);
    return problem === undefined ? [] : stops(`What stands in for a blank won't go in. ${problem}.`);
  });
