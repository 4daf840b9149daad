import { isBlank, readBoolean, readDate, readEmail, readNumber, readWebAddress } from '../values/index.ts';
import type { FormField, InputType } from './model.ts';
import { collectValues, flattenPayload, textsSaid, type SubmittedValue, type SubmittedValues } from './submission.ts';

const NONE: ReadonlySet<string> = new Set();

/** Distinct texts up to which a column of repeating values is taken for a choice. */
const MOST_OPTIONS = 12;
const LEAST_SAMPLES_FOR_OPTIONS = 8;

/**
 * Infers a form's fields from submissions: their names in order of first appearance, each with the narrowest kind that
 * fits every value seen. One sample tells names and rough kinds; several tell choices and what may be blank.
 * @param texts names whose values were said to be texts by whoever sent them: "21614" is no number then
 */
export function inferFields(samples: readonly SubmittedValues[], texts: ReadonlySet<string> = NONE): FormField[] {
  const names: string[] = [];
  const said = new Map<string, SubmittedValue[]>();
  for (const sample of samples) {
    for (const [name, value] of Object.entries(sample)) {
      if (!said.has(name)) {
        said.set(name, []);
        names.push(name);
      }
      said.get(name)!.push(value);
    }
  }
  return names.map((name) => {
    const field = inferField(name, said.get(name)!, samples.length);
    return texts.has(name) && (field.type === 'number' || field.type === 'yes/no') ? { ...field, type: 'text' } : field;
  });
}

function inferField(name: string, values: readonly SubmittedValue[], of: number): FormField {
  const filled = values.filter((value) => !isBlank(value));
  const texts = filled.flatMap(textsSaid);
  const several = values.some(Array.isArray);
  const field: FormField = {
    name,
    label: labelFrom(name),
    type: several ? 'text' : typeOf(texts),
    // Whether a blank is let pass can't be seen in one sample.
    required: of > 1 && filled.length === of,
  };
  const group = groupOf(name);
  if (group !== undefined) field.group = group;
  const distinct = [...new Set(texts)];
  const choice =
    texts.length >= LEAST_SAMPLES_FOR_OPTIONS && distinct.length <= Math.min(MOST_OPTIONS, texts.length / 3);
  if (several) {
    field.type = 'options';
    field.multiple = true;
    if (distinct.length <= 50) field.options = distinct.map((value) => ({ value, label: value }));
    else field.type = 'text';
  } else if (choice && field.type === 'text') {
    field.type = 'option';
    field.options = distinct.map((value) => ({ value, label: value }));
  }
  return field;
}

/** The repeating group a name belongs to: `items` for `items[0][qty]` and `items.0.qty`. */
export function groupOf(name: string): string | undefined {
  return /^(.+?)(?:\[\d*\]|\.\d+)(?:\[|\.)/.exec(name)?.[1];
}

/** A label out of a name: its last telling part, in words. */
export function labelFrom(name: string): string {
  const parts = name.split(/[[\].]+/).filter((part) => part !== '' && !/^\d+$/.test(part));
  // `data` is the envelope of an event, and a last part alone may say too little.
  const telling = parts.length > 1 && parts[0] === 'data' ? parts.slice(1) : parts;
  const words = telling
    .join(' ')
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/[_-]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return words === '' ? name : words.charAt(0).toUpperCase() + words.slice(1);
}

const KINDS: [InputType, (text: string) => boolean][] = [
  ['yes/no', (text) => /^(true|false|yes|no|ja|nein|tak|nie|on|off)$/i.test(text) && readBoolean(text).ok],
  ['date and time', (text) => /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text)],
  ['date', (text) => /\d{4}/.test(text) && readDate(text).ok],
  ['email', (text) => readEmail(text).ok],
  ['web address', (text) => /^(https?:\/\/|www\.)/i.test(text) && readWebAddress(text).ok],
  ['phone', isPhoneShaped],
  // A leading zero or a very long number names something and is not counted with.
  ['number', (text) => readNumber(text).ok && !/^[+-]?0\d/.test(text.trim()) && text.replace(/\D/g, '').length <= 15],
];

/** Looks dialled: a leading plus or zero, enough digits, and nothing but digits and what people put between them. */
function isPhoneShaped(text: string): boolean {
  const digits = text.replace(/\D/g, '');
  return (
    /^(\+|00?[1-9]|\(0)[\d\s()/.-]+$/.test(text.trim()) &&
    digits.length >= 7 &&
    digits.length <= 15 &&
    /[\s()/+-]/.test(text.trim())
  );
}

/** The narrowest kind all texts fit, text when there is none or nothing was seen. */
export function typeOf(texts: readonly string[]): InputType {
  if (texts.length === 0) return 'text';
  const kind = KINDS.find(([, fits]) => texts.every(fits));
  if (kind) return kind[0];
  return texts.some((text) => text.includes('\n') || text.length > 120) ? 'long text' : 'text';
}

export type ReadPayloads =
  | { ok: true; samples: SubmittedValues[]; fields: FormField[] }
  | { ok: false; reason: string };

const LIMITS = { fields: 1000, depth: 8 };
const MOST_SAMPLES = 200;

/**
 * Reads pasted payloads: one JSON object, a list of them, several one after another, or form-encoded lines
 * (`a=1&b=2`); each is a sample. @returns the samples with the fields inferred from all of them
 */
export function readPayloads(text: string): ReadPayloads {
  const bare = text.trim();
  if (bare === '') return { ok: false, reason: 'There is nothing in it.' };
  const samples: SubmittedValues[] = [];
  const texts = new Set<string>();
  if (/^[[{]/.test(bare)) {
    const parsed = parseJson(bare);
    if (!parsed.ok) return parsed;
    for (const [at, payload] of parsed.payloads.entries()) {
      const flat = flattenPayload(payload, LIMITS);
      if (!flat.ok) return { ok: false, reason: `Payload ${at + 1}: ${flat.field || 'it'} ${flat.reason}.` };
      samples.push({ ...flat.values });
      noteTexts(payload, '', texts);
    }
  } else {
    for (const line of bare.split(/\r?\n/).filter((each) => each.trim() !== '')) {
      const broken = line.split('&').find((part) => !part.includes('='));
      if (broken !== undefined)
        return { ok: false, reason: `“${broken.slice(0, 40)}” is neither JSON nor name=value.` };
      samples.push(fromPairs(new URLSearchParams(line.trim())));
    }
    // One name=value a line, none of them twice, is one submission written out.
    if (samples.length > 1 && samples.every((sample) => Object.keys(sample).length === 1)) {
      const whole = fromPairs(
        new URLSearchParams(
          bare
            .split(/\r?\n/)
            .map((line) => line.trim())
            .join('&'),
        ),
      );
      samples.splice(0, samples.length, whole);
    }
  }
  if (samples.length === 0) return { ok: false, reason: 'There is no payload in it.' };
  if (samples.length > MOST_SAMPLES) return { ok: false, reason: `More than ${MOST_SAMPLES} payloads; some will do.` };
  return { ok: true, samples, fields: inferFields(samples, texts) };
}

/** Names under which a payload holds JSON strings, as flattening names them. Its depth has been looked at before. */
function noteTexts(value: unknown, name: string, texts: Set<string>): void {
  if (typeof value === 'string') texts.add(name);
  else if (Array.isArray(value)) {
    const plain = value.every((each) => typeof each !== 'object' || each === null);
    value.forEach((each, at) => noteTexts(each, plain ? name : `${name}[${at}]`, texts));
  } else if (typeof value === 'object' && value !== null)
    for (const [key, below] of Object.entries(value)) noteTexts(below, name === '' ? key : `${name}[${key}]`, texts);
}

const fromPairs = (pairs: Iterable<[string, string]>): SubmittedValues => ({
  ...collectValues([...pairs].filter(([name]) => name !== '__proto__')),
});

function parseJson(text: string): { ok: true; payloads: unknown[] } | { ok: false; reason: string } {
  try {
    const parsed: unknown = JSON.parse(text);
    return { ok: true, payloads: Array.isArray(parsed) ? parsed : [parsed] };
  } catch (error) {
    // One payload a line, as logs have them (JSON Lines).
    const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
    try {
      if (lines.length > 1) return { ok: true, payloads: lines.map((line) => JSON.parse(line) as unknown) };
    } catch {
      // The first message tells more.
    }
    return { ok: false, reason: `This is not valid JSON: ${(error as Error).message.replace(/, ".*$/s, '')}.` };
  }
}
