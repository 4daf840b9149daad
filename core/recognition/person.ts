import { mistyped } from './distance.ts';
import { summed, type Compared, type Evidence } from './evidence.ts';
import { Frequency } from './frequency.ts';
import type { Commonness } from './matcher.ts';
import { familyWords, formsOf, sameByForm, sound } from './names.ts';
import {
  addressKey,
  addressOf,
  compareAddresses,
  compareDays,
  compareEmails,
  compareAnyPhones,
  dayFrom,
  dayOf,
  emailFrom,
  emailOf,
  phoneFrom,
  phonesOf,
  told,
  wordsIn,
  wordsOf,
  type Address,
  type Day,
  type Email,
  type Phone,
} from './parts.ts';

/** A person as it comes; blank is the same as absent. */
export interface PersonRecord {
  id: string;
  first_name?: string | undefined;
  last_name?: string | undefined;
  email?: string | undefined;
  phone?: string | undefined;
  /** A second telephone. */
  mobile?: string | undefined;
  street?: string | undefined;
  city?: string | undefined;
  postcode?: string | undefined;
  country?: string | undefined;
  birth_date?: string | undefined;
  organisation?: string | undefined;
}

/** A person with the normal forms that comparisons need, worked out once. */
export interface Person {
  id: string;
  given: string[];
  family: string[];
  /** 1: the elder, 2: the younger; 0: nothing is said. */
  generation: number;
  email: Email | undefined;
  phones: Phone[];
  address: Address | undefined;
  born: Day | undefined;
  organisation: string[];
}

const TITLES = new Set(
  'dr prof professor doktor doctor herr frau mr mrs ms miss mx sir lady dipl ing mag inz mgr pan pani monsieur madame mme mlle sr sra senor senora don dona rev'.split(
    ' ',
  ),
);
/** Words that tell father from son; each with what it says. */
const GENERATIONS: Record<string, number> = {
  jr: 2,
  jun: 2,
  junior: 2,
  ii: 2,
  iii: 3,
  sr: 1,
  sen: 1,
  senior: 1,
}; // prettier-ignore

/** Takes titles and generations off the words of a name, unless nothing would be left. */
function bare(words: readonly string[], last: boolean): { words: string[]; generation: number } {
  const generation = words.length > 1 ? (GENERATIONS[words.at(-1)!] ?? 0) : 0;
  const kept = generation > 0 && last ? words.slice(0, -1) : [...words];
  const telling = kept.filter((word) => !TITLES.has(word));
  return { words: telling.length > 0 ? telling : kept, generation: last ? generation : 0 };
}

export function preparePerson(record: PersonRecord): Person {
  const { words: given } = bare(wordsOf(record.first_name), false);
  const { words: family, generation } = bare(familyWords(told(record.last_name)), true);
  // A whole name in one field: the last word is the family's. Double names are held together by their hyphen.
  const inOne = (text: string | undefined): boolean => /\S\s+\S/.test(told(text)) && !/-/.test(told(text));
  const whole =
    given.length === 0 && family.length > 1 && inOne(record.last_name)
      ? family
      : family.length === 0 && given.length > 1 && inOne(record.first_name)
        ? given
        : undefined;
  return {
    id: record.id,
    given: whole ? whole.slice(0, -1) : given,
    family: whole ? whole.slice(-1) : family,
    generation,
    email: emailOf(record.email),
    phones: phonesOf([record.phone, record.mobile], countryCode(record.country)),
    address: addressOf(record),
    born: dayOf(record.birth_date),
    organisation: wordsOf(record.organisation),
  };
}

const COUNTRIES: Record<string, string> = {
  germany: 'DE',
  deutschland: 'DE',
  niemcy: 'DE',
  poland: 'PL',
  polska: 'PL',
  polen: 'PL',
  'united kingdom': 'GB',
  uk: 'GB',
  england: 'GB',
  'great britain': 'GB',
  netherlands: 'NL',
  nederland: 'NL',
  niederlande: 'NL',
  denmark: 'DK',
  danmark: 'DK',
  austria: 'AT',
  osterreich: 'AT',
  switzerland: 'CH',
  schweiz: 'CH',
  france: 'FR',
  frankreich: 'FR',
  spain: 'ES',
  espana: 'ES',
  spanien: 'ES',
  italy: 'IT',
  italia: 'IT',
  italien: 'IT',
}; // prettier-ignore

export function countryCode(text: string | undefined): string | undefined {
  const bare = told(text);
  if (/^[a-z]{2}$/i.test(bare)) return bare.toUpperCase();
  return COUNTRIES[wordsOf(bare).join(' ')];
}

/** How common what people share is, among the known ones. */
export class PeopleFrequencies implements Commonness<Person> {
  readonly given: Frequency = new Frequency(1500);
  readonly family: Frequency = new Frequency(8000);
  email: Frequency = new Frequency(1 << 24, 0.004);
  phone: Frequency = new Frequency(1 << 20, 0.1);
  address: Frequency = new Frequency(1 << 16);
  readonly postcode: Frequency = new Frequency(1 << 12);

  add(person: Person): void {
    if (person.given[0]) this.given.add(person.given[0]);
    for (const word of person.family) this.family.add(word);
    if (person.email) this.email.add(person.email.whole);
    for (const { digits } of person.phones) this.phone.add(digits);
    if (person.address) {
      this.address.add(addressKey(person.address));
      if (person.address.postcode) this.postcode.add(person.address.postcode);
    }
  }

  kept(): Uint32Array[] {
    const { given, family, postcode, email, phone, address } = this;
    const totals = new Uint32Array([email.size, phone.size, address.size]);
    return [given.kept(), family.kept(), postcode.kept(), totals];
  }

  takeUp([given, family, postcode, totals]: readonly Uint32Array[]): void {
    if (!given || !family || !postcode || !totals) return;
    this.given.takeUp(given);
    this.family.takeUp(family);
    this.postcode.takeUp(postcode);
    this.email = this.email.among(totals[0] ?? 0);
    this.phone = this.phone.among(totals[1] ?? 0);
    this.address = this.address.among(totals[2] ?? 0);
  }

  around(atHand: readonly Person[]): this {
    const here = Object.assign(Object.create(PeopleFrequencies.prototype) as this, this);
    here.email = this.email.among(this.email.size);
    here.phone = this.phone.among(this.phone.size);
    here.address = this.address.among(this.address.size);
    for (const { email, phones, address } of atHand) {
      if (email) here.email.addHere(email.whole);
      for (const { digits } of phones) here.phone.addHere(digits);
      if (address) here.address.addHere(addressKey(address));
    }
    return here;
  }
}

interface NameLevel extends Evidence {
  /** The two can't be forms of one name. */
  apart?: true;
}

function compareGiven(a: readonly string[], b: readonly string[], common: Frequency): NameLevel | undefined {
  if (a.length === 0 || b.length === 0) return undefined;
  const about = 'first name';
  const rare = (word: string): number => common.bits(word);
  const [x, y] = [a[0]!, b[0]!];
  if (a.join('') === b.join('')) return { about, level: 'same', bits: Math.max(rare(x), rare(y)) - 0.2 };
  // One of several: Anna Maria is also Maria.
  const shared = a.find((word) => word.length > 1 && b.includes(word));
  if (shared) return { about, level: 'one of them the same', bits: rare(shared) - (x === y ? 1 : 2) };
  const forms = a.flatMap((one) => b.flatMap((other) => sameByForm(one, other) ?? []));
  if (forms.includes('a short form'))
    return { about, level: 'a short form', bits: Math.max(1.5, Math.min(rare(x), rare(y)) - 3) };
  if (forms.length > 0) return { about, level: 'one name in two languages', bits: 0.5 };
  // Two names that both are names were not mistyped: Peter is not Petra.
  const real = (word: string): boolean => formsOf(word).length > 0 || common.count(word) >= 8;
  const mayBeOff = (one: string, other: string): boolean => !(real(one) && real(other));
  if (a.some((one) => b.some((other) => one.length > 3 && mistyped(one, other) && mayBeOff(one, other))))
    return { about, level: 'a letter off', bits: Math.max(1.5, Math.min(rare(x), rare(y), 9) - 3) };
  if (x[0] === y[0] && (x.length === 1 || y.length === 1)) return { about, level: 'an initial', bits: 1.5 };
  if (x.length > 3 && y.length > 3 && sound(x) === sound(y) && sound(x).length > 2 && mayBeOff(x, y))
    return { about, level: 'sound alike', bits: 1.5 };
  if ((x.length > 2 && y.startsWith(x)) || (y.length > 2 && x.startsWith(y)))
    return { about, level: 'a beginning', bits: 2 };
  return { about, level: 'different', bits: -8, apart: true };
}

function compareFamily(a: readonly string[], b: readonly string[], common: Frequency): NameLevel | undefined {
  if (a.length === 0 || b.length === 0) return undefined;
  const about = 'family name';
  const rare = (word: string): number => common.bits(word);
  const least = (words: readonly string[]): number => Math.max(...words.map(rare));
  const [x, y] = [a.join(''), b.join('')];
  if (x === y) return { about, level: 'same', bits: least(a) - 0.2 };
  const shared = a.find((word) => word.length > 2 && b.includes(word));
  if (shared) return { about, level: 'one of its parts the same', bits: rare(shared) - 2 };
  if (a.some((one) => b.some((other) => mistyped(one, other))) || mistyped(x, y))
    return { about, level: 'a letter off', bits: Math.max(1.5, Math.min(least(a), least(b), 11) - 3.5) };
  if (sound(x) === sound(y) && sound(x).length > 2) return { about, level: 'sound alike', bits: 3 };
  return { about, level: 'different', bits: -4.5, apart: true };
}

/** What the names say when one side has them in each other's place; the same from either side. */
function crossed(a: Person, b: Person, common: PeopleFrequencies): number | undefined {
  const both = (given: Frequency, family: Frequency): number | undefined => {
    const levels = [
      given === common.given ? compareGiven(a.given, b.family, given) : compareFamily(a.given, b.family, given),
      family === common.family ? compareFamily(a.family, b.given, family) : compareGiven(a.family, b.given, family),
    ];
    if (levels.some((level) => level === undefined || level.apart)) return undefined;
    return levels.reduce((total, level) => total + level!.bits, 0);
  };
  const sums = [both(common.given, common.family), both(common.family, common.given)];
  return sums.every((each) => each !== undefined) ? Math.min(...sums) : undefined;
}

function compareNames(a: Person, b: Person, common: PeopleFrequencies): { evidence: NameLevel[]; apart: boolean } {
  const straight = [
    compareGiven(a.given, b.given, common.given),
    compareFamily(a.family, b.family, common.family),
  ].filter((each) => each !== undefined);
  const sum = (levels: readonly NameLevel[]): number => levels.reduce((total, { bits }) => total + bits, 0);
  const swapped = crossed(a, b, common);
  if (swapped !== undefined && swapped - 3 > sum(straight)) {
    const level = 'first and family name swapped';
    return { evidence: [{ about: 'name', level, bits: Math.min(swapped - 3, 16) }], apart: false };
  }
  return { evidence: straight, apart: straight.some(({ about, apart }) => about === 'first name' && apart === true) };
}

/** Whether two people are one, with the weight of every field. Symmetric. */
export function comparePeople(a: Person, b: Person, common: PeopleFrequencies): Compared {
  const names = compareNames(a, b, common);
  const email = emailBeside(names.evidence, compareEmails(a.email, b.email, common.email));
  const born = compareDays(a.born, b.born);
  const evidence = [
    ...names.evidence.map(({ about, level, bits }): Evidence => ({ about, level, bits })),
    email,
    compareAnyPhones(a.phones, b.phones, common.phone),
    compareAddresses(a.address, b.address, { whole: common.address, postcode: common.postcode }, -2.5),
    born && { about: born.about, level: born.level, bits: born.bits },
    organisations(a.organisation, b.organisation),
  ];
  if (born?.apart) return summed(evidence, { why: 'born on different days', atMost: 'different' });
  if (names.apart) {
    // Households share everything but the first name. Only who has the mailbox and the birthday may be somebody renamed.
    const own = email?.level === 'same' && born?.level === 'same';
    return summed(evidence, { why: 'different first names', atMost: own ? 'unsure' : 'different' });
  }
  if (names.evidence.length === 0) return summed(evidence, { why: 'one of them has no name', atMost: 'unsure' });
  if (a.generation > 0 && b.generation > 0 && a.generation !== b.generation)
    return summed(evidence, { why: 'father and son', atMost: 'different' });
  const own = born?.level === 'same' || (email?.level === 'same' && common.email.count(a.email?.whole ?? '') <= 1);
  if (a.generation !== b.generation && born?.level !== 'same')
    return summed(evidence, { why: 'father or son', atMost: 'unsure' });
  // Without a first name it may be anybody of the household, unless something is theirs alone.
  const named = names.evidence.some(({ about }) => about !== 'family name');
  if (!named && !own) return summed(evidence, { why: 'one of them has no first name', atMost: 'unsure' });
  const besides = evidence.filter(
    (each) => each !== undefined && !/name/.test(each.about) && each.about !== 'organisation',
  );
  const speaksFor = besides.some((each) => each!.bits > 2);
  const against = besides.filter((each) => each!.bits < -1.5).length;
  // A shared name alone, with all else known to differ, is a namesake.
  if (!speaksFor && against >= 2) return summed(evidence, { why: 'nothing but the name', atMost: 'different' });
  // A brother may be called by the same name in another language; that it is one person must be said by what is theirs alone.
  const translated = names.evidence.some(({ level }) => level === 'one name in two languages');
  if (translated && !/same/.test(email?.level ?? '') && born?.level !== 'same')
    return summed(evidence, { why: 'one name in two languages', atMost: 'unsure' });
  return summed(evidence);
}

/** An address made of the name is as alike as the names are: that must not count twice. */
function emailBeside(names: readonly NameLevel[], email: Evidence | undefined): Evidence | undefined {
  const named = names.some(({ about, level }) => about === 'family name' && level !== 'same');
  return email && /off$/.test(email.level) && named ? { ...email, bits: Math.min(email.bits, 3) } : email;
}

function organisations(a: readonly string[], b: readonly string[]): Evidence | undefined {
  if (a.length === 0 || b.length === 0) return undefined;
  const shared = a.filter((word) => word.length > 3 && b.includes(word)).length;
  return shared > 0
    ? { about: 'organisation', level: 'alike', bits: 3 }
    : { about: 'organisation', level: 'different', bits: -1 };
}

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
  keysOfPerson(person).filter((key) => /^[elpqsfdb] /.test(key));

const PARTED = '\u001f';

/** A prepared person as one text of a hundred characters or so. */
export function packPerson({ given, family, generation, email, phones, address, born, organisation }: Person): string {
  return [
    given.join(' '),
    family.join(' '),
    generation || '',
    email?.whole ?? '',
    phones.map(({ digits }) => digits).join(' '),
    ...(address ? [address.street, address.number, address.postcode, address.city] : ['', '', '', '']),
    born ? `${born.year}-${born.month}-${born.day}` : '',
    organisation.join(' '),
  ].join(PARTED);
}

export function unpackPerson(id: string, packed: string): Person {
  const [given, family, generation, email, phones, street, number, postcode, city, born, organisation] = packed.split(
    PARTED,
  ) as string[];
  return {
    id,
    given: wordsIn(given),
    family: wordsIn(family),
    generation: Number(generation ?? 0),
    email: email ? emailFrom(email) : undefined,
    phones: wordsIn(phones).map(phoneFrom),
    address:
      street || postcode || city
        ? { street: street!, number: number ?? '', postcode: postcode ?? '', city: city ?? '' }
        : undefined,
    born: born ? dayFrom(born) : undefined,
    organisation: wordsIn(organisation),
  };
}
