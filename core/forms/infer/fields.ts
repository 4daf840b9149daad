import { isBlank } from '../../values/index.ts';
import type { FormField, InputType } from '../model.ts';
import { textsSaid, type SubmittedValue, type SubmittedValues } from '../submission.ts';
import { evidenceOf } from './column.ts';
import type { ColumnEvidence, ValueKind } from './evidence.ts';

const NONE: ReadonlySet<string> = new Set();

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
  const evidence = evidenceOf(texts);
  const field: FormField = {
    name,
    label: labelFrom(name),
    type: several ? 'text' : inputFor(evidence, texts),
    // Whether a blank is let pass can't be seen in one sample.
    required: of > 1 && filled.length === of,
  };
  const group = groupOf(name);
  if (group !== undefined) field.group = group;
  // Several options in one text are one text: a form's field sends them apart.
  if (field.type === 'options') field.type = 'text';
  if (several) {
    const distinct = [...new Set(texts)];
    field.type = 'options';
    field.multiple = true;
    if (distinct.length <= 50) field.options = distinct.map((value) => ({ value, label: value }));
    else field.type = 'text';
  } else if (field.type === 'option') {
    const distinct = [...new Set(texts)];
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

/** The kinds of a form's field that values of a kind come in by. */
const INPUTS: Partial<Record<ValueKind, InputType>> = { 'whole number': 'number', decimal: 'number', money: 'text' };

/**
 * The kind that all values fit: what is filled in by people is read by it, so that one stray value makes it text.
 * @param evidence of values that are texts
 */
function inputFor({ kind, misfits, fillers, longest }: ColumnEvidence, texts: readonly string[]): InputType {
  const stray = misfits > 0 || (fillers.length > 0 && kind !== 'option');
  if (!stray) return INPUTS[kind] ?? (kind as InputType);
  return longest.characters > 120 || texts.some((text) => text.includes('\n')) ? 'long text' : 'text';
}

/** The kind of field that texts come from, by their own letters: the narrowest all fit. */
export function typeOf(texts: readonly string[]): InputType {
  const type = inputFor(evidenceOf(texts), texts);
  return type === 'option' || type === 'options' ? 'text' : type;
}
