import type { DefinedEntity, DefinedField } from '../definitions/index.ts';
import type { Option, Value } from '../schema/index.ts';
import { counted } from '../values/index.ts';
import type { ChangeStep } from './model.ts';

/** A field in a few words: what it is, how long it may be, and what holds of it. */
export function fieldInWords({ type, maxLength, scale, options, relation, required, unique }: DefinedField): string {
  const kind =
    type === 'reference'
      ? `leads to ${relation ?? 'a record'}`
      : options
        ? `${type === 'options' ? 'several of' : 'one of'} ${counted(options.length, 'option')}`
        : type === 'number' && scale !== undefined
          ? `number, ${counted(scale, 'decimal')}`
          : type;
  return [
    maxLength === undefined ? kind : `${kind}, up to ${maxLength}`,
    ...(required ? ['required'] : []),
    ...(unique ? ['unique'] : []),
  ].join(', ');
}

/** What a step does, in a sentence. */
export function stepInWords(step: ChangeStep): string {
  switch (step.kind) {
    case 'entities':
      return `Make ${step.entities.map(({ label, fields }) => `${label} with ${counted(fields.length, 'field')}`).join(', ')}.`;
    case 'field':
      return `Make ${step.field.label} of ${step.called ?? step.entity}: ${fieldInWords(step.field)}.`;
    case 'options':
      return `Add ${counted(step.options.length, 'option')} to ${step.called ?? `${step.field} of ${step.entity}`}.`;
    case 'join':
      return `“${step.from.label}” becomes “${step.into.label}” in ${step.called ?? `${step.field} of ${step.entity}`}: records that hold it follow, then it goes.`;
    case 'rename':
      return `${step.name} goes by ${step.is} of ${step.entity}, which was ${step.was}.`;
    case 'follow':
      return `${step.name} names “${step.into.label}” where it named “${step.from.label}”.`;
    case 'carry':
      return `Carry it on in ${step.name}: ${counted(step.lines.length, 'line')}.`;
    case 'fit':
      return `${step.name} brings ${step.field} of ${step.entity} what it takes by now: ${counted(step.lines.length, 'line')}.`;
    case 'rows':
      return `Take ${counted(step.rows, 'row')} in.`;
  }
}

/** What of an entity can't be changed once it is made: its parts, for a sentence of the screen's. */
export function fixedOnceMade({ name, fields }: Pick<DefinedEntity, 'name' | 'fields'>): {
  entity: string;
  unique: string[];
} {
  return {
    entity: name,
    unique: fields.filter((field) => field.unique).map(({ label }) => label),
  };
}

/** A field's value in which one option has become another: held already, it is held once. */
export function joinedValue(held: Value, from: Pick<Option, 'value'>, into: Pick<Option, 'value'>): Value {
  if (!Array.isArray(held)) return held === from.value ? into.value : held;
  return [...new Set(held.map((each) => (each === from.value ? into.value : each)))];
}
