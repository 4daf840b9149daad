import { collectValues, flattenPayload, type SubmittedValues } from '../submission.ts';
import type { FormField } from '../model.ts';
import { inferFields } from './fields.ts';

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
