import { randomBytes } from 'node:crypto';
import type { EntityAdapter, FieldAdapter } from '@zusammen/core/adapters';
import type { Values } from '@zusammen/core/schema';
import { fitted, MOST_MADE_UP } from './trial-parts.ts';

/**
 * Values for a record of our own: what is needed, and a text that tells what it is.
 * @param anyOf gives the id of a record of another entity, for a relation to it
 */
export async function madeUp(
  known: EntityAdapter,
  anyOf: (entity: string) => Promise<string | undefined>,
): Promise<Values> {
  const mark = randomBytes(4).toString('hex');
  const may = new Set(known.create!.fields ?? known.fields.map(({ name }) => name));
  const fields = known.fields.filter(
    ({ name, readOnly, type }) => may.has(name) && !readOnly && (type !== 'id' || !known.key.includes(name)),
  );
  const values: Values = {};
  const none = fields.every(({ required }) => !required);
  for (const field of fields) {
    // Where nothing is said of what is needed, all that is simple is given.
    const given = none && !field.relation && Object.keys(values).length < MOST_MADE_UP;
    if (!field.required && !given) continue;
    values[field.name] = field.relation === undefined ? valueFor(field, mark) : ((await anyOf(field.relation)) ?? mark);
  }
  return values;
}

function valueFor(field: FieldAdapter, mark: string): Values[string] {
  const { type, options } = field;
  if (options?.[0]) return type === 'options' ? [options[0].value] : options[0].value;
  const now = new Date().toISOString();
  const made: Partial<Record<FieldAdapter['type'], Values[string]>> = {
    email: `zusammen-try-${mark}@trial.example`,
    phone: '+493023125000',
    'web address': 'https://trial.example/',
    integer: 1,
    number: 1,
    'yes/no': false,
    date: now.slice(0, 10),
    'date and time': now,
    time: '10:00',
    duration: 'PT1H',
    options: [],
  };
  return made[type] ?? fitted(`Zusammen try ${mark}`, field);
}
