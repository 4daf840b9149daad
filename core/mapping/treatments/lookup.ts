import { calledBy, isWritable, type Field } from '../../schema/index.ts';
import { quoted, read, readLosing, tooLong, unreadable } from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

/** The reason of a lookup that nobody has carried out yet; the interpreter asks the system and evaluates again. */
export const NOT_ASKED = 'is looked up in the system';

/** Fields whose values may be what somebody calls a record by. */
const isLookedUpBy = (field: Field): boolean =>
  field.rights !== 'none' &&
  (isWritable(field) || field.type === 'text') &&
  !['options', 'long text', 'yes/no'].includes(field.type);

/** Each is a request to the system, so a submission may cause this many at most. */
const MOST_LOOKUPS = 50;

/**
 * Reads `entity`, `by` and `missing`: a name becomes the id of the record that bears it. Several that bear it are
 * refused, since any of them would be a guess.
 */
export const lookup: TreatmentDefinition = {
  group: 'Meaning',
  name: 'look up a record by name',
  settings: [
    {
      control: 'choice',
      name: 'entity',
      label: 'Look in',
      otherwise: '',
      choices: (_, { schema }) => [
        ['', 'choose'],
        ...(schema?.entities ?? []).map(({ name, label }) => [name, label] as const),
      ],
    },
    {
      control: 'choice',
      name: 'by',
      label: 'for the record whose',
      otherwise: '',
      choices: ({ entity }, { schema }) => [
        ['', 'choose'],
        ...(schema?.entities.find(({ name }) => name === entity)?.fields ?? [])
          .filter(isLookedUpBy)
          .map(({ name, label }) => [name, `${label} is the value`] as const),
      ],
    },
    {
      control: 'choice',
      name: 'missing',
      label: 'If there is none',
      otherwise: 'refuse',
      choices: [
        ['refuse', 'the submission fails and says so'],
        ['leave blank', 'the field is left blank'],
      ],
    },
  ],
  fresh: ({ schema, field }) => {
    const related = schema?.entities.find(({ name }) => name === field?.relation);
    const by = related && calledBy(related);
    return { ...(related ? { entity: related.name } : {}), ...(by === undefined ? {} : { by }) };
  },
  describe: ({ entity = '', by = '' }) => `look up in ${entity} by ${by}`,
  treat: (value, settings, field, context) =>
    Array.isArray(value) && value.length > MOST_LOOKUPS
      ? unreadable(`${value.length} values are more than the ${MOST_LOOKUPS} that are looked up for one line`)
      : lookUpEach(value, settings, field, context),
};

const lookUpEach = eachText((text, { entity = '', by = '', missing = 'refuse' }, _field, { answer }) => {
  if (entity === '' || by === '') return unreadable('the lookup names no entity and field to look in');
  const long = tooLong(text, 'option');
  if (long !== undefined) return unreadable(long);
  const found = answer({ entity, by, text: text.trim() });
  if (found === undefined) return unreadable(NOT_ASKED);
  if (found.length > 1) return unreadable(`“${quoted(text)}” fits several records of ${entity}`);
  if (found.length === 1) return read(found[0]!);
  return missing === 'leave blank'
    ? readLosing(null, `“${quoted(text)}” leads to no record of ${entity} and is left blank`)
    : unreadable(`“${quoted(text)}” leads to no record of ${entity}`);
});
