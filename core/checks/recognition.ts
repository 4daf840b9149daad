import { alwaysNew, mayCreate, type RecognitionKey, type WeakKey } from '../plans/index.ts';
import { fieldOf } from '../schema/index.ts';
import { isBlank, quoted } from '../values/index.ts';
import { counted, type Facts, type Finding, type KeyFacts, type StepInput } from './finding.ts';

/** A key that so large a share of the records has in common with others is worth a look. */
const MUCH_SHARED = 0.05;
/** And only where so many of those that share it are different ones. */
const OFTEN_OTHERS = 0.2;
/** A key that is blank in so many of the samples finds nothing in them. */
const OFTEN_BLANK = 0.2;

/** K10: a key is weak: on the real records it is shared by different ones. */
export const weakKey = ({ step, entity, facts }: StepInput): Finding[] => {
  const known = facts?.recognitions?.[`${step.system}/${step.entity}`];
  if (!known || step.record) return [];
  return step.recognise.flatMap((key): Finding[] => {
    if (key.fields.some((name) => fieldOf(entity, name)?.unique === true)) return [];
    const measured = measureOf(key, known.keys);
    if (!measured || !mixesUp(measured)) return [];
    const [shared, others] = [measured.shared / measured.filled, measured.apart / measured.looked];
    const labels = key.fields.map((name) => fieldOf(entity, name)?.label ?? name).join(' with ');
    const sentence =
      `${labels}${key.fields.length === 1 ? ' alone' : ''} mixes up different records: of ${measured.of.toLocaleString('en')} records looked at, ` +
      `${percent(shared)} share it with another, and most often that is somebody else (${percent(others)} of those looked at).`;
    return [{ id: 'K10', severity: 'look', place: { step: step.id, field: key.fields[0]! }, sentence }];
  });
};

/** Different records share it often. */
function mixesUp({ filled, looked, shared, apart }: KeyFacts): boolean {
  return filled > 0 && looked > 0 && shared / filled >= MUCH_SHARED && apart / looked >= OFTEN_OTHERS;
}

/** The keys that were measured on the records and found to mix up different ones; no suggestion should take them. */
export const weakKeysOf = ({ recognitions = {} }: Facts): WeakKey[] =>
  Object.entries(recognitions).flatMap(([place, { keys }]) => {
    const at = place.indexOf('/');
    return keys
      .filter(mixesUp)
      .map(({ fields }) => ({ system: place.slice(0, at), entity: place.slice(at + 1), fields }));
  });

/** What was measured of a key, or of a part of it that is as telling: more fields can only tell apart better. */
const measureOf = (key: RecognitionKey, measures: readonly KeyFacts[]): KeyFacts | undefined =>
  measures.find(({ fields }) => [...fields].sort().join() === [...key.fields].sort().join());

const percent = (share: number): string => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;

/** So many samples with a value say something about a key; fewer may be alike by chance. */
const ENOUGH_SAMPLES = 5;

/** K10, of the samples: different submissions mostly bring the same, so that they would all change one record. */
export const sameInSamples = (input: StepInput): Finding[] => {
  const { step, entity, samples } = input;
  if (step.record) return [];
  return step.recognise.flatMap((key): Finding[] => {
    const lines = key.fields.map((name) => step.lines.find(({ field }) => field === name));
    const fields = key.fields.map((name) => fieldOf(entity, name));
    if (!lines.every((line) => line && line.from.length > 0) || !fields.every((field) => field)) return [];
    const said = samples.map((_, at) =>
      lines.map((line, index) => input.outcomes(line!, fields[index]!)[at]!.sent).map((value) => String(value ?? '')),
    );
    const filled = said.flatMap((values, at) => (values.includes('') ? [] : [at]));
    const times = new Map<string, number[]>();
    for (const at of filled) times.set(said[at]!.join('\n'), [...(times.get(said[at]!.join('\n')) ?? []), at]);
    const [most = []] = [...times.values()].sort((a, b) => b.length - a.length);
    if (filled.length < ENOUGH_SAMPLES || most.length <= filled.length / 2) return [];
    const labels = fields.map((field) => field!.label).join(' with ');
    const sentence = `${labels} is the same in most samples: they would all find or change one ${entity.label}.`;
    return [
      {
        id: 'K10',
        severity: 'look',
        place: { step: step.id, field: key.fields[0]! },
        sentence,
        samples: counted(most, samples.length),
      },
    ];
  });
};

/** K10, second part: evidence that is hardly any, since next to nothing that counts is filled by a line. */
export const thinEvidence = ({ step, entity, facts }: StepInput): Finding[] => {
  if (step.evidence !== true || step.record || !facts?.recognitions) return [];
  const place = { step: step.id };
  const known = facts.recognitions[`${step.system}/${step.entity}`];
  if (!known) {
    const sentence = `It isn't set up yet how a ${entity.label} is recognised by evidence (Schema, ${entity.label}, Recognition).`;
    return [{ id: 'K10', severity: 'stops', place, sentence }];
  }
  const filled = known.document.parts.filter(({ field }) => step.lines.some((line) => line.field === field));
  const telling = filled.filter(({ part }) => !NAMES.has(part) && !PLACES.has(part));
  if (telling.length > 0 || filled.some(({ part }) => part === 'street')) return [];
  const said = filled.map(({ field }) => fieldOf(entity, field)?.label ?? field).join(' and ') || 'nothing';
  const sentence = `Only ${said} would count as evidence: namesakes can't be told apart by that.`;
  return [{ id: 'K10', severity: 'look', place, sentence }];
};

const NAMES = new Set(['first_name', 'last_name', 'name', 'organisation']);
const PLACES = new Set(['street', 'city', 'postcode', 'country']);

/** K31: a key of text is compared letter by letter: the same written in other letters, large or small, is another. */
export const comparedByCase = (input: StepInput): Finding[] => {
  const { step, entity } = input;
  if (step.record) return [];
  return step.recognise.flatMap((key) =>
    key.fields.flatMap((name): Finding[] => {
      const field = fieldOf(entity, name);
      const line = step.lines.find((each) => each.field === name);
      if (!field || !line || field.unique || !TEXTS.has(field.type)) return [];
      const sent = input.outcomes(line, field).map((value) => value.sent);
      const example = sent.find(
        (value): value is string => typeof value === 'string' && /\p{Lu}/u.test(value) && /\p{Ll}/u.test(value),
      );
      if (example === undefined) return [];
      const shown = quoted(example, 40);
      const sentence = `${field.label} is compared letter by letter: “${shown}” does not find “${shown.toUpperCase()}”.`;
      return [{ id: 'K31', severity: 'look', place: { step: step.id, field: name }, sentence }];
    }),
  );
};

const TEXTS = new Set(['text', 'long text', 'id']);

/** K11: in many of the samples, every key has a blank field, so that nothing is found in them. */
export const blankKey = (input: StepInput): Finding[] => {
  const { step, entity, samples } = input;
  if (step.record || step.recognise.length === 0 || step.evidence) return [];
  const blankIn = (key: RecognitionKey, at: number): boolean =>
    key.fields.some((name) => {
      const field = fieldOf(entity, name);
      const lines = step.lines.filter((line) => line.field === name);
      // Without a line it is another check's business.
      if (!field || lines.length === 0) return false;
      return lines.every((line) => {
        const value = input.outcomes(line, field)[at];
        return value !== undefined && value.problem === undefined && isBlank(value.sent);
      });
    });
  const which = samples.flatMap((_, at) =>
    input.done[at] && step.recognise.every((key) => blankIn(key, at)) ? [at] : [],
  );
  if (which.length < 2 || which.length < samples.length * OFTEN_BLANK) return [];
  const labels = step.recognise.map(({ fields }) =>
    fields.map((name) => fieldOf(entity, name)?.label ?? name).join(' with '),
  );
  const sentence = `${labels.join(' and ')} ${labels.length === 1 ? 'is' : 'are'} blank in many samples: nobody is recognised in those.`;
  return [
    { id: 'K11', severity: 'look', place: { step: step.id }, sentence, samples: counted(which, samples.length)! },
  ];
};

/** K12: a unique field is written on creation without being used for recognition: the second time it is refused. */
export const uniqueUnused = ({ step, entity }: StepInput): Finding[] => {
  if (step.record || !mayCreate(step)) return [];
  return step.lines.flatMap((line): Finding[] => {
    const field = fieldOf(entity, line.field);
    if (!field?.unique || step.recognise.some(({ fields }) => fields.includes(field.name))) return [];
    const how = alwaysNew(step) ? 'a new record is always made' : 'records are not recognised by it';
    const sentence = `${field.label} must be unique, and ${how}: a value that another has is refused.`;
    return [{ id: 'K12', severity: 'look', place: { step: step.id, line: line.id, field: field.name }, sentence }];
  });
};
