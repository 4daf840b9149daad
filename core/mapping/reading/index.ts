import { AUTOFILL, BOTH_HAVE, type Meaning } from '../lexicon.ts';
import { wordsOf } from '../words.ts';
import { featuresOf, type Seen } from './features.ts';
import { probabilities, unpackWeights, type Weights } from './softmax.ts';
import { MEANING_WEIGHTS, WHOSE_WEIGHTS } from './weights.ts';

export type { Seen } from './features.ts';

/** Whose data a field holds. */
export const WHOSE = [
  'the visitor',
  'their organisation',
  'the matter',
  'somebody else',
  'the bill',
  'the delivery',
  'nobody',
] as const;
export type Whose = (typeof WHOSE)[number];

/** What a field is taken to mean and whose it is, each with its probability; what is hardly likely is left out. */
export interface Reading {
  meanings: Map<Meaning, number>;
  /** That it means nothing a record would hold. */
  nothing: number;
  whose: Map<Whose, number>;
  /** The page's author says so, by an autofill token. */
  stated?: true;
}

/** Less likely is not worth a comparison. */
const LEAST = 0.02;

let weights: { meaning: Weights; whose: Weights } | undefined;

export type Reader = (fields: readonly Seen[]) => Reading[];

/** Reads the fields of a form, or of one kind of record, together: what each means depends on what stands beside it. */
export const readFields: Reader = (fields) => {
  weights ??= { meaning: unpackWeights(MEANING_WEIGHTS), whose: unpackWeights(WHOSE_WEIGHTS) };
  return readBy(weights)(fields);
};

/** A reader by other weights than ours, for learning them. */
export const readBy =
  (by: { meaning: Weights; whose: Weights }): Reader =>
  (fields) =>
    namesApart(
      together(
        fields,
        featuresOf(fields).map((seen, at) => told(fields[at]!, readingOf(seen, by))),
      ),
    );

/** What is the organisation's where it stands beside its name. */
const SHARED: readonly Meaning[] = [...BOTH_HAVE, 'mobile', 'fax', 'email'];
const NAMES: readonly Meaning[] = ['given name', 'family name', 'full name', 'birth date'];
/** So sure is one field of a group whose it is, that the others follow it. */
const LEADS = 0.65;

/**
 * Fields whose names begin alike are of one subject: where one of them is somebody else's (`nom2_name`, a nominee's), the
 * others are too (`nom2_email`); what is beside an organisation's name, and beside no person's, is the organisation's.
 */
function together(fields: readonly Seen[], readings: Reading[]): Reading[] {
  const groups = new Map<string, Reading[]>();
  fields.forEach(({ name }, at) => {
    const [first, ...more] = wordsOf(name.slice(0, 200));
    if (first === undefined || more.length === 0 || first.length < 2) return;
    const group = groups.get(first);
    if (group) group.push(readings[at]!);
    else groups.set(first, [readings[at]!]);
  });
  const share = ({ meanings }: Reading, of: readonly Meaning[]): number =>
    of.reduce((sum, meaning) => sum + (meanings.get(meaning) ?? 0), 0);
  for (const group of groups.values()) {
    if (group.length < 2) continue;
    const led = (whose: Whose): boolean => group.some((each) => !each.stated && (each.whose.get(whose) ?? 0) > LEADS);
    if (led('somebody else')) {
      for (const each of group) if (!each.stated && each.nothing < 0.5) each.whose = new Map([['somebody else', 0.9]]);
    } else if (led('their organisation') && !group.some((each) => share(each, NAMES) > 0.5)) {
      for (const each of group)
        if (!each.stated && share(each, SHARED) > 0.5) each.whose = new Map([['their organisation', 0.9]]);
    }
  }
  return readings;
}

const QUALIFIED: Record<string, Whose> = { shipping: 'the delivery', billing: 'the bill' };

/** What the page's author says by an autofill token is no guess (HTML Living Standard, 4.10.18.7). */
function told({ autocomplete }: Seen, reading: Reading): Reading {
  const tokens = autocomplete?.slice(0, 200).toLowerCase().trim().split(/\s+/) ?? [];
  const meaning = AUTOFILL[tokens.at(-1) ?? ''];
  if (!meaning) return reading;
  const qualified = tokens.map((token) => QUALIFIED[token]).find((each) => each !== undefined);
  // It says what, and whose only where it is of a bill or a parcel.
  const said: Whose | undefined = qualified ?? (meaning === 'organisation' ? 'their organisation' : undefined);
  const somebodys = [...reading.whose].filter(([whose]) => whose !== 'nobody');
  const all = somebodys.reduce((sum, [, share]) => sum + share, 0);
  const whose: [Whose, number][] = said
    ? [[said, 0.95]]
    : all < LEAST
      ? [['the visitor', 0.9]]
      : somebodys.map(([each, share]) => [each, share / all]);
  return { meanings: new Map([[meaning, 0.98]]), nothing: 0.01, whose: new Map(whose), stated: true };
}

function readingOf(seen: readonly string[], { meaning, whose }: { meaning: Weights; whose: Weights }): Reading {
  const meanings = new Map<Meaning, number>();
  let nothing = 0;
  probabilities(meaning, seen).forEach((share, at) => {
    if (meaning.classes[at] === 'nothing') nothing = share;
    else if (share >= LEAST) meanings.set(meaning.classes[at] as Meaning, share);
  });
  const subjects = new Map<Whose, number>();
  probabilities(whose, seen).forEach((share, at) => {
    if (share >= LEAST) subjects.set(whose.classes[at] as Whose, share);
  });
  return { meanings, nothing, whose: subjects };
}

const BARE: readonly Meaning[] = ['full name', 'name', 'given name', 'family name'];

/**
 * A bare "name" beside a family name is the given name (nombre, apellidos), beside a given name the family name
 * (Vorname, Name).
 */
function namesApart(readings: Reading[]): Reading[] {
  const share = ({ meanings }: Reading, ...of: readonly Meaning[]): number =>
    of.reduce((sum, meaning) => sum + (meanings.get(meaning) ?? 0), 0);
  const given = readings.filter((each) => share(each, 'given name') > 0.7);
  const family = readings.filter((each) => share(each, 'family name') > 0.7);
  if (given.length + family.length !== 1) return readings;
  const bare = readings.filter((each) => !given.includes(each) && !family.includes(each) && share(each, ...BARE) > 0.5);
  const [name] = bare;
  if (!name || bare.length > 1) return readings;
  const all = share(name, ...BARE);
  for (const meaning of BARE) name.meanings.delete(meaning);
  name.meanings.set(given.length === 1 ? 'family name' : 'given name', all);
  return readings;
}
