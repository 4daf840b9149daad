import { sound } from './names.ts';
import { formsOf } from './short-forms.ts';
import { dayFrom, emailFrom, phoneFrom, wordsIn } from './parts.ts';
import type { Person } from './person.ts';

/** Keys under which a person is found again: several, so that any one corrupted field leaves a way. */
export function keysOfPerson({ given, family, email, phones, address, born }: Person): string[] {
  const keys: string[] = [];
  if (email) {
    keys.push(`e ${email.plain}@${email.domain}`);
    if (email.plain.length > 4 && !email.role) keys.push(`l ${email.plain}`);
  }
  for (const { digits, last } of phones) keys.push(`p ${last}`, `q ${digits.slice(0, -3)} ${digits.slice(-1)}`);
  const day = born && `${born.year}-${born.month}-${born.day}`;
  const initials = new Set(given.map((word) => word[0]!));
  for (const name of family) {
    const heard = sound(name);
    for (const first of initials) {
      keys.push(`n ${heard} ${first}`);
      // Of a common name there are too many: each of these narrows it down by another field.
      if (email) keys.push(`m ${heard} ${first} ${email.plain.slice(0, 3)}`);
      if (address?.city) keys.push(`c ${heard} ${first} ${address.city.slice(0, 6)}`);
    }
    for (const word of given) for (const form of formsOf(word)) keys.push(`f ${heard} ${form}`);
    if (born) keys.push(`y ${heard} ${born.year}`);
    if (address?.postcode) keys.push(`z ${name.slice(0, 3)} ${address.postcode}`);
  }
  // First and family name may have been swapped, and a family name changed.
  for (const word of given) {
    if (word.length > 1) {
      for (const name of family) keys.push(`s ${[sound(word), sound(name)].sort().join(' ')}`);
      if (day) keys.push(`b ${day} ${word[0]}`);
      if (address?.postcode) keys.push(`g ${sound(word)} ${address.postcode}`);
    }
  }
  if (day) for (const name of family) keys.push(`d ${day} ${name.slice(0, 2)}`);
  if (address?.street)
    keys.push(`a ${address.street.slice(0, 7)} ${address.number} ${(address.postcode || address.city).slice(0, 3)}`);
  return [...new Set(keys)];
}

/** Keys that two about the same person share, and strangers seldom do: by these, submissions wait for one another. */
export const closeKeysOfPerson = (person: Person): string[] =>
  keysOfPerson(person).filter((key) => /^[elpsfdb] /.test(key));

const PARTED = '\u001f';

/** A prepared person as one text of a hundred characters or so. */
export function packPerson({ given, family, generation, email, phones, address, born, organisation }: Person): string {
  return [
    given.join(' '),
    family.join(' '),
    generation || '',
    email?.whole ?? '',
    email?.plain ?? '',
    phones.map(({ digits }) => digits).join(' '),
    address?.street ?? '',
    address?.number ?? '',
    address?.postcode ?? '',
    address?.city ?? '',
    born ? String(born.year * 10_000 + born.month * 100 + born.day) : '',
    organisation.join(' '),
  ].join(PARTED);
}

export function unpackPerson(id: string, packed: string): Person {
  const [given, family, generation, email, plain, phones, street, number, postcode, city, born, organisation] =
    packed.split(PARTED) as string[];
  return {
    id,
    given: wordsIn(given),
    family: wordsIn(family),
    generation: Number(generation ?? 0),
    email: email ? emailFrom(email, plain) : undefined,
    phones: wordsIn(phones).map(phoneFrom),
    address:
      street || postcode || city
        ? { street: street!, number: number ?? '', postcode: postcode ?? '', city: city ?? '' }
        : undefined,
    born: born ? dayFrom(born) : undefined,
    organisation: wordsIn(organisation),
  };
}
