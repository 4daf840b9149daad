import { allProperties, type EntityType, type Property } from './definition.ts';
import { ODataError } from './errors.ts';
import type { Caller } from './rights.ts';

/** What the CRM insists on when somebody writes. Every broken rule is named at once, each with its property. */
export function checkedValues(
  entity: EntityType,
  body: unknown,
  caller: Caller,
  creating: boolean,
): Map<Property, unknown> {
  if (typeof body !== 'object' || body === null || Array.isArray(body)) {
    throw new ODataError(400, 'BadBody', 'The body must be a JSON object.');
  }
  const details: { code: string; message: string; target: string }[] = [];
  const complain = (code: string, target: string, message: string): void =>
    void details.push({ code, message, target });
  const values = new Map<Property, unknown>();
  for (const [name, value] of Object.entries(body)) {
    if (name.startsWith('@')) continue;
    const property = allProperties(entity).find((each) => each.name === name);
    if (!property || caller.property(entity, name) === 'none')
      complain('UnknownProperty', name, `${entity.type} has no property “${name}”.`);
    else if (caller.property(entity, name) === 'read')
      complain('Forbidden', name, `You may not write ${property.label}.`);
    else if (property.computed) complain('ReadOnly', name, `${property.label} is filled by the system.`);
    else if (property.immutable && !creating)
      complain('Immutable', name, `${property.label} can't be changed after creation.`);
    else {
      const wrong = whatIsWrong(property, value);
      if (wrong) complain('Invalid', name, wrong);
      else values.set(property, stored(property, value));
    }
  }
  for (const property of entity.properties) {
    const given = values.get(property);
    if (creating && given === undefined && property.default !== undefined) values.set(property, property.default);
    const blank = values.get(property) === null || values.get(property) === undefined || values.get(property) === '';
    if (
      property.required &&
      blank &&
      (creating || values.has(property)) &&
      !details.some((each) => each.target === property.name)
    ) {
      complain('Required', property.name, `${property.label} is required.`);
    }
  }
  if (details.length > 0) {
    const status = details.every((each) => each.code === 'Forbidden') ? 403 : 400;
    throw new ODataError(
      status,
      details[0]!.code,
      details.map((each) => each.message).join(' '),
      details,
      details[0]!.target,
    );
  }
  return values;
}

function whatIsWrong(property: Property, value: unknown): string | undefined {
  if (value === null) return property.required ? `${property.label} is required.` : undefined;
  if (property.collection) {
    if (!Array.isArray(value)) return `${property.label} takes a list.`;
    return value.map((each) => wrongOption(property, each)).find((each) => each !== undefined);
  }
  switch (property.type) {
    case 'Edm.String':
      if (typeof value !== 'string') return `${property.label} takes text.`;
      if (property.maxLength !== undefined && [...value].length > property.maxLength) {
        return `${property.label} takes at most ${property.maxLength} characters.`;
      }
      if (property.meaning === 'email' && value !== '' && !/^[^@\s]+@[^@\s.]+(?:\.[^@\s.]+)+$/.test(value))
        return `${property.label} “${value}” is not an address.`;
      return wrongOption(property, value);
    case 'Edm.Int32':
      return Number.isInteger(value) && Math.abs(value as number) < 2 ** 31
        ? undefined
        : `${property.label} takes a whole number.`;
    case 'Edm.Decimal':
      return typeof value === 'number' && Number.isFinite(value) ? undefined : `${property.label} takes a number.`;
    case 'Edm.Boolean':
      return typeof value === 'boolean' ? undefined : `${property.label} takes true or false.`;
    case 'Edm.Date': {
      const day =
        typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value) ? new Date(`${value}T00:00:00Z`) : undefined;
      return day && !Number.isNaN(day.getTime()) && day.toISOString().startsWith(value as string)
        ? undefined
        : `${property.label} takes a date like 2027-04-20.`;
    }
    case 'Edm.DateTimeOffset':
      return typeof value === 'string' && MOMENT.test(value) && !Number.isNaN(Date.parse(value))
        ? undefined
        : `${property.label} takes a moment like 2027-04-20T06:00:00Z.`;
  }
}

/** A moment with its zone (JSON Format 4.01, 7.1): without one it is none. */
const MOMENT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::\d{2}(?:\.\d{1,12})?)?(?:Z|[+-]\d{2}:\d{2})$/;

function wrongOption(property: Property, value: unknown): string | undefined {
  if (!property.options || value === '' || property.options.some(([option]) => option === value)) return undefined;
  return `“${String(value)}” is not an option of ${property.label}.`;
}

function stored(property: Property, value: unknown): unknown {
  if (value === null) return null;
  if (property.collection) return JSON.stringify(value);
  if (property.type === 'Edm.DateTimeOffset') return new Date(value as string);
  return value === '' ? null : value;
}
