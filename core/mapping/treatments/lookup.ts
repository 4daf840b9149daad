import { quoted, read, readLosing, tooLong, unreadable } from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

/** The reason of a lookup that nobody has carried out yet; the interpreter asks the system and evaluates again. */
export const NOT_ASKED = 'is looked up in the system';

/** Each is a request to the system, so a submission may cause this many at most. */
const MOST_LOOKUPS = 50;

/**
 * Reads `entity`, `by` and `missing`: a name becomes the id of the record that bears it. Several that bear it are
 * refused, since any of them would be a guess.
 */
export const lookup: TreatmentDefinition = {
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
