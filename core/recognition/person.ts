import { readCountry } from '../values/index.ts';
import { mistyped } from './distance.ts';
import { agreeing, summed, type Compared, type Evidence, type Lines } from './evidence.ts';
import { Frequency } from './frequency.ts';
import type { Commonness } from './matcher.ts';
import { familyWords, sameButForEnding, sound, spelling } from './names.ts';
import { formsOf, sameByForm, type SameName } from './short-forms.ts';
import {
  addressKey,
  addressOf,
  compareAddresses,
  compareDays,
  compareEmails,
  compareAnyPhones,
  dayOf,
  emailOf,
  nameWordsOf,
  phonesOf,
  told,
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
};

/** Takes titles and generations off the words of a name, unless nothing would be left. */
function bare(words: readonly string[], last: boolean): { words: string[]; generation: number } {
  const generation = words.length > 1 ? (GENERATIONS[words.at(-1)!] ?? 0) : 0;
  const kept = generation > 0 && last ? words.slice(0, -1) : [...words];
  const telling = kept.filter((word) => !TITLES.has(word));
  return { words: telling.length > 0 ? telling : kept, generation: last ? generation : 0 };
}

export function preparePerson(record: PersonRecord): Person {
  const { words: given } = bare(nameWordsOf(record.first_name), false);
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

/** A country as ISO 3166-1 alpha-2, by its name in any of the languages served or its code. */
export function countryCode(text: string | undefined): string | undefined {
  const bare = told(text);
  if (bare === '') return undefined;
  const country = readCountry(bare);
  return country.ok ? country.value : undefined;
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

/** Two names that both are names were not mistyped: Peter is not Petra. */
function isName(word: string, common: Frequency): boolean {
  return formsOf(word).length > 0 || common.count(word) >= 8;
}

const mayBeOff = (one: string, other: string, common: Frequency): boolean =>
  !(isName(one, common) && isName(other, common));

function compareGiven(a: readonly string[], b: readonly string[], common: Frequency): NameLevel | undefined {
  if (a.length === 0 || b.length === 0) return undefined;
  const about = 'first name';
  const [x, y] = [a[0]!, b[0]!];
  if (sameWords(a, b)) return { about, level: 'same', bits: Math.max(common.bits(x), common.bits(y)) - 0.2 };
  if (spelledAlike(a, b))
    return { about, level: 'written otherwise', bits: Math.max(common.bits(x), common.bits(y)) - 1.5 };
  // One of several: Anna Maria is also Maria.
  for (const word of a)
    if (word.length > 1 && b.includes(word))
      return { about, level: 'one of them the same', bits: common.bits(word) - (x === y ? 1 : 2) };
  const form = sameForm(a, b);
  if (form === 'a short form')
    return { about, level: form, bits: Math.max(1.5, Math.min(common.bits(x), common.bits(y)) - 3) };
  if (form) return { about, level: form, bits: 0.5 };
  for (const one of a)
    for (const other of b)
      if (isLong(one, other) && mistyped(one, other) && mayBeOff(one, other, common))
        return {
          about,
          level: 'a letter off',
          bits: Math.max(1.5, Math.min(common.bits(x), common.bits(y), 9) - 3),
        };
  // About one in twelve first names begins with the same letter.
  if (x[0] === y[0] && (x.length === 1 || y.length === 1)) return { about, level: 'an initial', bits: 3 };
  if (isPetName(x, y, common) || isPetName(y, x, common)) return { about, level: 'a short form', bits: 3 };
  if (x.length > 3 && y.length > 3 && sound(x) === sound(y) && sound(x).length > 2 && mayBeOff(x, y, common))
    return { about, level: 'sound alike', bits: 1.5 };
  if ((x.length > 2 && y.startsWith(x)) || (y.length > 2 && x.startsWith(y)))
    return { about, level: 'a beginning', bits: 2 };
  return { about, level: 'different', bits: -8, apart: true };
}

/** A slip of three letters is seen where the other side has more. */
const isLong = (one: string, other: string): boolean =>
  Math.min(one.length, other.length) >= 3 && Math.max(one.length, other.length) >= 4;

const PET = /(?:[iy]|ie|chen|lein|[eu]k|[eiu]?[kc]?[ksc]?a|usia|tje|ke|in[oe]|it[oa]|o)$/;

/** A name that is short for another by its beginning and an ending of affection, though no list has it: Simmi, Simon. */
function isPetName(short: string, long: string, common: Frequency): boolean {
  if (short.length < 3 || short.length > 7 || !PET.test(short) || !mayBeOff(short, long, common)) return false;
  let shared = 0;
  while (shared < short.length && short[shared] === long[shared]) shared += 1;
  return shared >= 3 && shared >= short.length - 3;
}

/** The same but for how they were brought into Latin letters, or for a habit of spelling. */
function spelledAlike(a: readonly string[], b: readonly string[]): boolean {
  const [x, y] = [spelling(a.join('')), spelling(b.join(''))];
  return x.length > 2 && x === y;
}

/** The same letters in the same order, however they are parted into words. */
const sameWords = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === 1 && b.length === 1 ? a[0] === b[0] : a.join('') === b.join('');

function sameForm(a: readonly string[], b: readonly string[]): SameName | undefined {
  let found: SameName | undefined;
  for (const one of a)
    for (const other of b) {
      const form = sameByForm(one, other);
      if (form === 'a short form') return form;
      found ??= form;
    }
  return found;
}

/** The rarest of some words, in bits. */
function rarest(words: readonly string[], common: Frequency): number {
  let most = 0;
  for (const word of words) most = Math.max(most, common.bits(word));
  return most;
}

function compareFamily(a: readonly string[], b: readonly string[], common: Frequency): NameLevel | undefined {
  if (a.length === 0 || b.length === 0) return undefined;
  const about = 'family name';
  if (sameWords(a, b)) return { about, level: 'same', bits: rarest(a, common) - 0.2 };
  if (spelledAlike(a, b))
    return { about, level: 'written otherwise', bits: Math.max(rarest(a, common), rarest(b, common)) - 1.5 };
  if (a.length === 1 && b.length === 1 && sameButForEnding(a[0]!, b[0]!))
    return { about, level: 'same but for its ending', bits: Math.max(rarest(a, common), rarest(b, common)) - 1.5 };
  for (const word of a)
    if (word.length > 2 && b.includes(word))
      return { about, level: 'one of its parts the same', bits: common.bits(word) - 2 };
  const [x, y] = [a.join(''), b.join('')];
  if (someMistyped(a, b) || mistyped(x, y))
    return {
      about,
      level: 'a letter off',
      bits: Math.max(1.5, Math.min(rarest(a, common), rarest(b, common), 11) - 3.5),
    };
  if (sound(x) === sound(y) && sound(x).length > 2) return { about, level: 'sound alike', bits: 3 };
  return { about, level: 'different', bits: -4.5, apart: true };
}

function someMistyped(a: readonly string[], b: readonly string[]): boolean {
  for (const one of a) for (const other of b) if (mistyped(one, other)) return true;
  return false;
}

/** What the names say when one side has them in each other's place; the same from either side. */
function crossed(a: Person, b: Person, { given, family }: PeopleFrequencies): number | undefined {
  // Most pairs share neither: a look at the letters spares the rest.
  if (a.given.length === 0 || b.given.length === 0 || a.family.length === 0 || b.family.length === 0) return undefined;
  const one = compareGiven(a.given, b.family, given);
  if (!one || one.apart) return undefined;
  const other = compareFamily(a.family, b.given, family);
  if (!other || other.apart) return undefined;
  const third = compareFamily(a.given, b.family, family);
  const fourth = compareGiven(a.family, b.given, given);
  if (!third || third.apart || !fourth || fourth.apart) return undefined;
  return Math.min(one.bits + other.bits, third.bits + fourth.bits);
}

function compareNames(a: Person, b: Person, common: PeopleFrequencies): { evidence: NameLevel[]; apart: boolean } {
  const first = compareGiven(a.given, b.given, common.given);
  const last = compareFamily(a.family, b.family, common.family);
  const sum = (first?.bits ?? 0) + (last?.bits ?? 0);
  // Where both agree, they weren't swapped.
  const swapped = first && last && !first.apart && !last.apart ? undefined : crossed(a, b, common);
  if (swapped !== undefined && swapped - 3 > sum) {
    const level = 'first and family name swapped';
    return { evidence: [{ about: 'name', level, bits: Math.min(swapped - 3, 16) }], apart: false };
  }
  const evidence: NameLevel[] = [];
  if (first) evidence.push(first);
  if (last) evidence.push(last);
  return { evidence, apart: first?.apart === true };
}

/**
 * Whether a rule keeps two apart whatever else they share, found out without weighing the rest: born on different days,
 * or of different first names, with nothing in common that would contradict it.
 */
export function peopleApart(a: Person, b: Person, common: PeopleFrequencies): boolean {
  const mailbox = a.email !== undefined && a.email.whole === b.email?.whole;
  const born = compareDays(a.born, b.born);
  if (born?.apart && !mailbox) return true;
  if (a.given.length === 0 || b.given.length === 0) return false;
  if (mailbox || born?.level === 'same' || !compareGiven(a.given, b.given, common.given)?.apart) return false;
  return crossed(a, b, common) === undefined;
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
  if (born?.apart) {
    // A birthday may be mistyped beyond knowing; who has the mailbox and the name is looked at.
    const contradicted = email?.level === 'same' && !names.apart && agreeing(evidence).length >= 2;
    return summed(evidence, { why: 'born on different days', atMost: contradicted ? 'unsure' : 'different' });
  }
  if (names.apart) {
    // Households share home, line and name; what is somebody's own, and contradicts the rule, must be looked at.
    const own = (email?.level === 'same' && common.email.count(a.email?.whole ?? '') <= 1) || born?.level === 'same';
    return summed(
      evidence,
      { why: 'different first names', atMost: own ? 'unsure' : 'different' },
      { same: 0, unsure: 6 },
    );
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
  // One agreement that tells, or several weak ones together.
  const speaksFor =
    besides.some((each) => each!.bits > 2) || besides.reduce((sum, each) => sum + Math.max(0, each!.bits), 0) >= 4;
  const against = besides.filter((each) => each!.bits < -1.5).length;
  // A shared name alone, with all else known to differ, is a namesake.
  if (!speaksFor && against >= 2) return summed(evidence, { why: 'nothing but the name', atMost: 'different' });
  // However rare a name is, another may bear it: something besides must speak for it, or somebody is asked.
  if (!speaksFor) {
    const lines = hasInitial(names.evidence) ? SHORTENED : NAME_ALONE;
    return summed(evidence, { why: 'nothing but the name speaks for it', atMost: 'unsure' }, lines);
  }
  // A brother may be called by the same name in another language; that it is one person must be said by what is theirs alone.
  const translated = names.evidence.some(({ level }) => level === 'one name in two languages');
  if (translated && !/same/.test(email?.level ?? '') && born?.level !== 'same')
    return summed(evidence, { why: 'one name in two languages', atMost: 'unsure' });
  return summed(evidence, undefined, linesFor(names.evidence, agreeing(evidence)));
}

/** Half of those who share no more than a name are others; somebody is asked where it is rare among all that are known. */
const NAME_ALONE: Lines = { same: 0, unsure: 6 };
/** Who gives an initial only may be entered in full. */
const SHORTENED: Lines = { same: 0, unsure: 2 };

const hasInitial = (names: readonly NameLevel[]): boolean =>
  names.some(({ about, level }) => about === 'first name' && level === 'an initial');

/**
 * Where the lines lie for this kind of evidence, by what was measured on made-up people of two sources (docs/recognition.md):
 * two agreements that don't hang together are hardly ever wrong, an initial with one of them is one time in twenty.
 */
function linesFor(names: readonly NameLevel[], agree: readonly Evidence[]): Lines | undefined {
  const renamed = names.some(({ about, level }) => about === 'family name' && level === 'different');
  if (agree.length >= 2) return { same: -3, unsure: 0, why: 'two things agree beside the name' };
  if (agree.length === 0) return { same: 5, unsure: 2, why: 'nothing beside the name agrees in full' };
  if (hasInitial(names)) return { same: 3, unsure: 0, why: 'of the first name an initial only' };
  return renamed ? { same: -4, unsure: 0, why: 'another family name, but something of one’s own agrees' } : undefined;
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
