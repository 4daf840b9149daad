import { read, readAddress, readPersonName } from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

/** Reads `take`: title, given or family. What the name leaves open is said, not guessed in silence. */
export const namePart: TreatmentDefinition = {
  group: 'Parts',
  name: 'part of a full name',
  settings: [
    {
      control: 'choice',
      name: 'take',
      label: 'Of the full name',
      otherwise: 'family',
      choices: [
        ['given', 'the given name'],
        ['family', 'the family name'],
        ['title', 'the title'],
      ],
    },
  ],
  fresh: () => ({ take: 'family' }),
  describe: ({ take = 'family' }) =>
    take === 'given' ? 'given name of it' : take === 'title' ? 'title of it' : 'family name of it',
  treat: eachText((text, { take = 'family' }) => {
    const name = readPersonName(text);
    if (!name.ok) return name;
    const part = take === 'given' ? name.value.given : take === 'title' ? name.value.title : name.value.family;
    return read(part === '' ? null : part, name.ambiguous);
  }),
};

/** Reads `take`: street, number, both, more, postcode or city of an address in one text. */
export const addressPart: TreatmentDefinition = {
  group: 'Parts',
  name: 'part of an address',
  settings: [
    {
      control: 'choice',
      name: 'take',
      label: 'Of the address',
      otherwise: 'street',
      choices: [
        ['street', 'street'],
        ['number', 'house number'],
        ['street and number', 'street and number'],
        ['more', 'what follows the number'],
        ['postcode', 'postcode'],
        ['city', 'city'],
      ],
    },
  ],
  fresh: () => ({ take: 'street' }),
  describe: ({ take = 'street' }) =>
    `${take === 'number' ? 'house number' : take === 'more' ? 'addition' : take} of it`,
  treat: eachText((text, { take = 'street' }) => {
    const address = readAddress(text);
    if (!address.ok) return address;
    const { street, number, more, postcode, city } = address.value;
    const part =
      take === 'number'
        ? number
        : take === 'street and number'
          ? [street, number].filter(Boolean).join(' ')
          : take === 'more'
            ? more
            : take === 'postcode'
              ? postcode
              : take === 'city'
                ? city
                : street;
    return read(part === '' ? null : part, take === 'number' ? address.ambiguous : undefined);
  }),
};
