import type { EntityDefinition, FieldDefinition } from './definition.ts';
import { LettersError } from './errors.ts';

type Values = Record<string, unknown>;
const refuse = (field: string, message: string): never => {
  throw new LettersError(422, 'invalid', message, field);
};

/**
 * Values as the system keeps them; null takes a value away.
 * @throws LettersError 422 for the first that can't be kept
 */
export function checked(entity: EntityDefinition, body: unknown, creating: boolean): Values {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    throw new LettersError(400, 'not_an_object', 'The body must be a JSON object.');
  const values: Values = {};
  for (const [name, value] of Object.entries(body)) {
    if (name === 'version' && !creating) continue;
    const field = entity.fields.find((each) => each.name === name);
    if (!field) {
      refuse(name, `There is no field ${name} that can be written.`);
      continue;
    }
    if (field.readOnly) refuse(name, `${field.label} is set by the system.`);
    if (field.fixed && !creating) refuse(name, `${field.label} can't be changed.`);
    values[name] = value === null ? null : kept(field, value);
    if (values[name] === null && field.required) refuse(name, `${field.label} is needed.`);
  }
  if (creating)
    for (const { name, label, required } of entity.fields)
      if (required && (values[name] ?? null) === null) refuse(name, `${label} is needed.`);
  return values;
}

function kept(field: FieldDefinition, value: unknown): unknown {
  const { name, label, kind, maxBytes, options = [] } = field;
  if (kind === 'text') {
    if (typeof value !== 'string') return refuse(name, `${label} must be a text.`);
    if (value.trim() === '') return null;
    const bytes = Buffer.byteLength(value, 'utf8');
    if (maxBytes !== undefined && bytes > maxBytes)
      return refuse(name, `${label} takes ${maxBytes} bytes, and these are ${bytes}.`);
    if (name === 'email') {
      if (!/^[^\s@]{1,64}@[^\s@]{1,255}$/.test(value)) return refuse(name, 'This is no e-mail address.');
      return value.toLowerCase();
    }
    return value;
  }
  if (kind === 'number')
    return typeof value === 'number' && Number.isFinite(value) ? value : refuse(name, `${label} must be a number.`);
  if (kind === 'yes/no') return typeof value === 'boolean' ? value : refuse(name, `${label} must be true or false.`);
  if (kind === 'date') {
    const real =
      typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value) ? new Date(`${value}T00:00:00Z`) : undefined;
    const ok = real && !Number.isNaN(real.getTime()) && real.toISOString().startsWith(value as string);
    return ok ? value : refuse(name, `${label} must be a date such as 2027-03-31, without a time of day.`);
  }
  const known = (each: unknown): boolean => typeof each === 'string' && options.includes(each);
  if (kind === 'choice')
    return known(value)
      ? value
      : refuse(name, `${label} has no option ${JSON.stringify(value)}; it has ${options.join(', ')}.`);
  if (!Array.isArray(value)) return refuse(name, `${label} must be a list.`);
  const strange = value.find((each) => !known(each));
  if (strange !== undefined)
    return refuse(name, `${label} has no option ${JSON.stringify(strange)}; it has ${options.join(', ')}.`);
  return [...new Set(value as string[])];
}
