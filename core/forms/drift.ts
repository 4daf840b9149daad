import type { FormField } from './model.ts';
import type { SubmittedValues } from './submission.ts';
import { fold, listed } from '../values/index.ts';

/** How a form, as it stands on its page now, differs from the fields an intake knows. */
export interface FormDifference {
  kind: 'new' | 'gone' | 'renamed' | 'new options' | 'options gone' | 'kind' | 'required' | 'label' | 'details';
  /** The name the intake knows, or the new one. */
  name: string;
  /** One sentence, with the labels a visitor sees. */
  what: string;
  /** For a renamed field: its name now. */
  now?: string;
}

/**
 * Compares the fields of an intake with the form as read anew. A field whose name is gone while its label stands under
 * another name has been renamed.
 */
export function compareForms(known: readonly FormField[], now: readonly FormField[]): FormDifference[] {
  const differences: FormDifference[] = [];
  const before = new Map(known.map((field) => [field.name, field]));
  const after = new Map(now.map((field) => [field.name, field]));
  const fresh = now.filter(({ name }) => !before.has(name));
  const renamed = new Set<string>();
  for (const field of known) {
    const there = after.get(field.name);
    if (there) {
      differences.push(...compareField(field, there));
      continue;
    }
    const other = fresh.filter(
      (each) => fold(each.label) === fold(field.label) && each.type === field.type && !renamed.has(each.name),
    );
    if (other.length === 1) {
      renamed.add(other[0]!.name);
      differences.push({
        kind: 'renamed',
        name: field.name,
        now: other[0]!.name,
        what: `${field.label} is now sent as “${other[0]!.name}”, not “${field.name}”`,
      });
    } else differences.push({ kind: 'gone', name: field.name, what: `${field.label} is no longer on the page` });
  }
  for (const field of fresh)
    if (!renamed.has(field.name))
      differences.push({ kind: 'new', name: field.name, what: `${field.label} is new on the page` });
  return differences;
}

function compareField(known: FormField, now: FormField): FormDifference[] {
  const differences: FormDifference[] = [];
  const add = (kind: FormDifference['kind'], what: string): void =>
    void differences.push({ kind, name: known.name, what });
  if (known.type !== now.type) add('kind', `${known.label} was ${known.type} and is now ${now.type}`);
  if (known.options && now.options) {
    const missing = (from: FormField['options'], among: FormField['options']): string[] =>
      (from ?? [])
        .filter(({ value }) => !among!.some((option) => option.value === value))
        .map(({ label }) => `“${label}”`);
    const more = missing(now.options, known.options);
    const less = missing(known.options, now.options);
    if (more.length > 0) add('new options', `${known.label} offers ${listed(more)}, which the intake doesn't know`);
    if (less.length > 0) add('options gone', `${known.label} no longer offers ${listed(less)}`);
  }
  if (known.required && !now.required) add('required', `${known.label} may now stay blank`);
  if (known.label !== now.label) add('label', `“${known.label}” is now called “${now.label}”`);
  if (differences.length === 0 && JSON.stringify(sorted(known)) !== JSON.stringify(sorted(now)))
    add('details', `${known.label} has other details, such as limits or hints`);
  return differences;
}

const sorted = (field: FormField): unknown => Object.entries(field).sort(([a], [b]) => (a < b ? -1 : 1));

export interface Arrivals {
  /** Names that arrive and are no fields, with how many submissions brought them. */
  unknown: { name: string; count: number }[];
  /** Fields that never arrive, although others of the form do. */
  missing: string[];
}

/** Names under which browsers and forms send what is no field: buttons, honeypots of frameworks, our own key. */
const NOT_FIELDS = new Set(['_key', 'submit', '_csrf', 'csrf_token', '_charset_']);

/**
 * Compares what arrives with the fields an intake knows (K22). Checkboxes and choices that nobody picked send nothing,
 * so only fields a browser always sends can be missing; and a few submissions are needed to tell.
 */
export function compareArrivals(known: readonly FormField[], arrived: readonly SubmittedValues[]): Arrivals {
  const names = new Set(known.map(({ name }) => name));
  const groups = new Set(known.flatMap(({ group }) => group ?? []));
  const counts = new Map<string, number>();
  for (const values of arrived) for (const name of Object.keys(values)) counts.set(name, (counts.get(name) ?? 0) + 1);
  // Rows of a repeating group beyond those on the page belong to it.
  const inGroup = (name: string): boolean =>
    [...groups].some((group) => name.startsWith(`${group}[`) || name.startsWith(`${group}.`));
  const unknown = [...counts]
    .filter(([name]) => !names.has(name) && !NOT_FIELDS.has(name) && !inGroup(name))
    .map(([name, count]) => ({ name, count }))
    .sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1));
  const sentAlways = (field: FormField): boolean =>
    field.group === undefined && !['yes/no', 'options', 'option', 'file'].includes(field.type) && field.hidden !== true;
  const missing =
    arrived.length < 3
      ? []
      : known.filter((field) => sentAlways(field) && !counts.has(field.name)).map(({ name }) => name);
  return { unknown, missing };
}
