import { read, readLosing, unreadable } from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

/** The reason of a lookup that nobody has carried out yet; the interpreter asks the system and evaluates again. */
export const NOT_ASKED = 'is looked up in the system';

/**
 * Reads `entity`, `by` and `missing`: a name becomes the id of the record that bears it. Several that bear it are
 * refused, since any of them would be a guess.
 */
export const lookup: TreatmentDefinition = {
  describe: ({ entity = '', by = '' }) => `look up in ${entity} by ${by}`,
  treat: eachText((text, { entity = '', by = '', missing = 'refuse' }, _field, { answer }) => {
    if (entity === '' || by === '') return unreadable('the lookup names no entity and field to look in');
    const found = answer({ entity, by, text: text.trim() });
    if (found === undefined) return unreadable(NOT_ASKED);
    if (found.length > 1) return unreadable(`“${text}” fits several records of ${entity}`);
    if (found.length === 1) return read(found[0]!);
    return missing === 'leave blank'
      ? readLosing(null, `“${text}” leads to no record of ${entity} and is left blank`)
      : unreadable(`“${text}” leads to no record of ${entity}`);
  }),
};
