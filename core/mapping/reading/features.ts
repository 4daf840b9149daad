import { fold } from '../../values/index.ts';
import { meaningAlone, meaningsOf, qualifiersOf, withoutCompounds, type Meaning } from '../lexicon.ts';
import type { SourceField } from '../suggestion.ts';
import { tellingWords, wordsOf } from '../words.ts';

/** What is seen of a field when it is asked what it means; a record's field says less of itself than a form's. */
export type Seen = Pick<SourceField, 'name' | 'label' | 'type'> & Partial<SourceField>;

/** A text taken apart once: its words, and the meanings that the lexicon sees in them. */
interface Told {
  words: string[];
  meanings: Meaning[];
  /** The meaning that stands last. */
  last: Meaning | undefined;
  /** The one meaning that all of its words say together. */
  whole: Meaning | undefined;
}

const MOST_KEPT = 20_000;
const kept = new Map<string, Told>();

/** Texts come again and again; each is taken apart once. Bounded, since anybody may send anything. */
function toldBy(text: string): Told {
  const known = kept.get(text);
  if (known) return known;
  const words = withoutCompounds(tellingWords(text));
  const spotted = meaningsOf(words);
  const alone = meaningAlone(words);
  const meanings = [...new Set([...spotted.map(({ meaning }) => meaning), ...(alone ? [alone] : [])])];
  // Two phrases of one meaning are it twice: area in hectares.
  const covered = spotted.map(({ phrase }) => phrase).join(' ') === words.join(' ');
  const whole = alone ?? (covered && meanings.length === 1 ? meanings[0] : undefined);
  const told = { words, meanings, last: spotted.at(-1)?.meaning, whole };
  if (kept.size >= MOST_KEPT) kept.clear();
  if (text.length <= 200) kept.set(text, told);
  return told;
}

/**
 * A name's last part, and what it stands in: `reply[display_name]` is a display name, in a reply. Numbers and brackets
 * that only count are no part.
 */
export function partsOfName(name: string): { leaf: string; container: string } {
  const parts = name
    .slice(0, 200)
    .split(/[[\].$:#]+/)
    .filter((part) => part !== '' && !/^\d+$/.test(part));
  return { leaf: parts.at(-1) ?? name, container: parts.slice(0, -1).join(' ') };
}

/** What all fields of a form say together, by which each of them is read. */
interface Around {
  /** Meanings that fields of the form have by their own words, with how many have them. */
  present: Map<Meaning, number>;
  own: (Meaning | undefined)[];
}

function lookAround(fields: readonly Seen[]): Around {
  const own = fields.map((field) => ownMeaning(field));
  const present = new Map<Meaning, number>();
  for (const meaning of own) if (meaning) present.set(meaning, (present.get(meaning) ?? 0) + 1);
  return { present, own };
}

/** What a field means by itself: label before name. */
function ownMeaning(field: Seen): Meaning | undefined {
  const label = toldBy(field.label);
  const name = toldBy(partsOfName(field.name).leaf);
  return label.whole ?? name.whole ?? label.meanings[0] ?? name.meanings[0];
}

const TELLING_NEIGHBOURS: readonly Meaning[] = [
  'given name',
  'family name',
  'full name',
  'organisation',
  'email',
  'username',
  'message',
  'street',
  'city',
  'birth date',
  'job',
  'website',
  'subject',
  'day',
  'month',
  'year',
];

/** Small words that say from whom something goes to whom. */
const TOWARDS = new Set('to from cc an von do od a de para by per'.split(' '));

/** More words of one text say no more. */
const LONGEST_LIST = 12;

/**
 * What is seen of each field of a form (or of a record), as names of things that are there or not: words and meanings of
 * its label, of its name's last part and of what that stands in, of its placeholder and heading; its token, type and
 * options; and what stands beside it.
 */
export function featuresOf(fields: readonly Seen[]): string[][] {
  const around = lookAround(fields);
  return fields.map((field, at) => featuresOfOne(field, at, fields.length, around));
}

function featuresOfOne(field: Seen, at: number, count: number, around: Around): string[] {
  const seen = new Set<string>();
  const add = (feature: string): unknown => seen.add(feature);
  const label = toldBy(field.label === field.name ? '' : field.label);
  const { leaf, container } = partsOfName(field.name);
  const name = toldBy(leaf);
  describe('l', label, add);
  describe('n', name, add);
  if (container) describe('c', toldBy(container), add);
  for (const word of wordsOf(leaf.slice(0, 100))) if (TOWARDS.has(word)) add(`n~ ${word}`);
  for (const word of wordsOf(field.label.slice(0, 100))) if (TOWARDS.has(word)) add(`l~ ${word}`);
  if (label.words.length === 0) add('no label');
  if (label.words.length > 0 && label.meanings.length === 0) add('strange label');
  if (name.meanings.length === 0) add('strange name');
  add(`length ${label.words.length > 8 ? 'sentence' : label.words.length > 3 ? 'phrase' : label.words.length}`);
  for (const meaning of label.meanings) if (name.meanings.includes(meaning)) add(`both ${meaning}`);
  const placeholder = (field.placeholder ?? '').slice(0, 100);
  if (placeholder !== '' && placeholder !== field.label) {
    describe('p', toldBy(placeholder), add);
    if (/\S@\S/.test(placeholder)) add('p like an e-mail');
    else if (/https?:|www\./.test(placeholder)) add('p like an address');
    else if (/\d[\s)/-]\d/.test(placeholder)) add('p like a number');
  }
  const section = toldBy(field.section ?? '');
  for (const word of section.words.slice(0, LONGEST_LIST)) add(`s ${word}`);
  for (const meaning of section.meanings) add(`sm ${meaning}`);
  const tokens = field.autocomplete?.slice(0, 200).split(/\s+/).filter(Boolean) ?? [];
  if (tokens.length > 0) add(`a ${tokens.at(-1)}`);
  for (const each of tokens.slice(0, -1)) add(`aq ${each}`);
  const type = field.type.toLowerCase();
  add(`t ${type}`);
  if (field.hidden) add('hidden');
  if (field.multiple) add('several');
  if (field.maxLength !== undefined) add(`max ${field.maxLength <= 2 ? 2 : field.maxLength <= 5 ? 5 : 'more'}`);
  describeOptions(field, add);
  const main = label.whole ?? name.whole ?? label.meanings[0] ?? name.meanings[0];
  if (main) {
    add(`m ${main} t ${type}`);
    for (const meaning of section.meanings.slice(0, 4)) add(`m ${main} sm ${meaning}`);
    if (label.words.length > 8) add(`m ${main} in a sentence`);
    if (field.hidden) add(`m ${main} hidden`);
    if ((around.present.get(main) ?? 0) > 1) add(`m ${main} again`);
    for (const meaning of TELLING_NEIGHBOURS)
      if (meaning !== main && around.present.has(meaning)) add(`m ${main} with ${meaning}`);
  }
  for (const meaning of TELLING_NEIGHBOURS) if (around.present.has(meaning)) add(`with ${meaning}`);
  const [before, after] = [around.own[at - 1], around.own[at + 1]];
  if (before) add(`after ${before}`);
  if (after) add(`before ${after}`);
  // Of one or two fields, where they stand says nothing.
  if (count > 2 && at === 0) add('first');
  if (count > 2 && at === count - 1) add('last');
  const qualifiers = qualifiersOf([...label.words, ...name.words, ...toldBy(container).words]);
  for (const each of qualifiers) add(`q ${each}`);
  for (const each of qualifiersOf(section.words)) add(`qs ${each}`);
  add(`script ${scriptOf(field.label || field.name)}`);
  return [...seen];
}

function describe(where: string, told: Told, add: (feature: string) => unknown): void {
  for (const word of told.words.slice(0, LONGEST_LIST)) {
    add(`${where} ${word}`);
    // Endings change with the language's grammar, beginnings seldom.
    if (word.length > 6) add(`${where}< ${word.slice(0, 5)}`);
  }
  for (const meaning of told.meanings) add(`${where}m ${meaning}`);
  // What comes last is what is asked for: billing address: postcode.
  if (told.meanings.length > 1) add(`${where}e ${told.last}`);
  if (told.whole) add(`${where}w ${told.whole}`);
}

const COUNTRIES = new Set('germany deutschland poland polska france austria spain espana italy netherlands'.split(' '));
const MONTHS = new Set(
  'january february march januar februar marz styczen luty janvier fevrier enero febrero'.split(' '),
);

/** What the options of a choice look like: countries, months, days, years, salutations. */
function describeOptions(field: Seen, add: (feature: string) => unknown): void {
  const options = field.options ?? [];
  if (options.length === 0) return;
  const labels = options.slice(0, 300).map((option) => fold(typeof option === 'string' ? option : option.label));
  add(`options ${labels.length > 100 ? 'many' : labels.length > 12 ? 'dozens' : labels.length > 2 ? 'some' : 'few'}`);
  const having = (known: ReadonlySet<string>): number => labels.filter((label) => known.has(label)).length;
  if (having(COUNTRIES) > 0) add('options countries');
  if (having(MONTHS) > 0) add('options months');
  const numbers = labels.map(Number).filter((number) => Number.isInteger(number) && number > 0);
  if (numbers.length >= 12 && Math.max(...numbers) <= 31) add('options days');
  if (numbers.length >= 5 && Math.min(...numbers) >= 1890 && Math.max(...numbers) <= 2100) add('options years');
  if (labels.some((label) => /^(?:mr|mrs|ms|herr|frau|pan|pani|m|mme|sr|sra|dr)$/.test(label))) add('options titles');
  if (labels.some((label) => /^(?:male|female|mannlich|weiblich|kobieta|femme|homme|mujer|donna)$/.test(label)))
    add('options genders');
  if (labels.some((label) => /^(?:english|deutsch|polski|francais|espanol|nederlands|italiano)$/.test(label)))
    add('options languages');
  if (labels.length <= 2 && labels.every((label) => /^(?:yes|no|ja|nein|tak|nie|oui|non|si|on|1|0)$/.test(label)))
    add('options yes or no');
}

function scriptOf(text: string): string {
  if (/\p{Script=Han}|\p{Script=Hiragana}|\p{Script=Katakana}|\p{Script=Hangul}/u.test(text)) return 'east asian';
  if (/\p{Script=Arabic}|\p{Script=Hebrew}/u.test(text)) return 'right to left';
  if (/\p{Script=Cyrillic}/u.test(text)) return 'cyrillic';
  return 'other';
}
