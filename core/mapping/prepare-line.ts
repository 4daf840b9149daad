import type { Field } from '../schema/index.ts';
import { fold, decimalMarkOf, dateOrderOf } from '../values/index.ts';
import type { Line } from './line.ts';
import { likeness, tellingWords } from './words.ts';
import type { OptionPair, Treatment } from './treatments/index.ts';

interface Source {
  name: string;
  type: string;
  options?: readonly { value: string; label: string }[];
}

export interface Where {
  /** ISO 3166-1 alpha-2: where the form's visitors dial from. */
  country?: string;
  /** BCP 47: how they write numbers and dates. */
  locale?: string;
}

/** The treatments a value needs on its way from one kind of field to another. */
export function treatmentsFor(sources: readonly Source[], field: Field, where: Where): Treatment[] {
  const treatments: Treatment[] = [];
  const [source] = sources;
  if (sources.length > 1) treatments.push({ kind: 'join', separator: ' ' });
  if (field.type === 'phone') {
    treatments.push(where.country ? { kind: 'phone', country: where.country } : { kind: 'phone' });
  } else if (field.type === 'email') treatments.push({ kind: 'email' });
  else if (field.type === 'web address') treatments.push({ kind: 'web address' });
  else if (field.type === 'number' || field.type === 'integer') {
    // A browser sends number inputs with a point, whatever the visitor's locale (HTML, 4.10.5.1.12).
    const decimal = source?.type === 'number' ? 'point' : where.locale ? decimalMarkOf(where.locale) : undefined;
    treatments.push(decimal ? { kind: 'number', decimal } : { kind: 'number' });
  } else if (field.type === 'date' && source?.type !== 'date') {
    treatments.push(where.locale ? { kind: 'date', order: dateOrderOf(where.locale) } : { kind: 'date' });
  } else if (field.type === 'option' || field.type === 'options') {
    if (source?.options && field.options)
      treatments.push({ kind: 'options', pairs: pairOptions(source.options, field.options) });
  } else if (field.type === 'text' && sources.length === 1) treatments.push({ kind: 'trim' });
  return treatments;
}

/** Pairs each option sent with its likeliest counterpart; unpaired where none is likely. */
export function pairOptions(
  sent: readonly { value: string; label: string }[],
  taken: readonly { value: string; label: string }[],
): OptionPair[] {
  return sent.map(({ value, label }) => {
    const same = taken.find((option) => option.value === value);
    const alike = taken.find((option) =>
      [option.value, option.label].some((text) => fold(text) === fold(value) || fold(text) === fold(label)),
    );
    const near = taken
      .map((option) => ({ option, like: likeness(tellingWords(label), tellingWords(option.label)) }))
      .sort((a, b) => b.like - a.like)[0];
    const chosen = same ?? alike ?? (near && near.like >= 0.8 ? near.option : undefined);
    return chosen ? { from: value, to: chosen.value } : { from: value };
  });
}

/** A complete line out of sources and a target, with what usually fits. */
export function prepareLine(id: string, sources: readonly Source[], field: Field, where: Where): Line {
  return {
    id,
    from: sources.map((source) => source.name),
    treatments: treatmentsFor(sources, field, where),
    field: field.name,
    ifBoth: field.type === 'options' ? 'add to list' : 'write',
    blankErases: false,
    origin: 'set',
  };
}
