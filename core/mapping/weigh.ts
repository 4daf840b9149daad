import { BOTH_HAVE, meaningsOf, nearness, type Meaning } from './lexicon.ts';
import { readFields, type Reader, type Whose } from './reading/index.ts';
import { LINE_CURVE, LINE_WEIGHTS } from './reading/weights.ts';
import { familyOf, type Side } from './sides.ts';
import type { Learned } from './suggestion.ts';
import { likeness } from './words.ts';

/** How likely a pair of fields belongs together, and why. */
export interface Evidence {
  confidence: number;
  reasons: string[];
}

/** What of all fields bears on one pair. */
export interface Surroundings {
  /** Which kinds stand alone on both sides. */
  onlyOf: (side: Side) => boolean;
  /** What only the person's record, or only the organisation's, has a place for, on a form that names both. */
  onlyOne: ReadonlySet<Meaning>;
}

export function surroundingsOf(from: readonly Side[], to: readonly Side[]): Surroundings {
  const count = (sides: readonly Side[], type: string): number => sides.filter((side) => side.type === type).length;
  const only = new Set(['long text', 'date'].filter((type) => count(from, type) === 1 && count(to, type) === 1));
  const named = from.some(({ meaning }) => meaning === 'organisation');
  const homesOf = (theirs: boolean): Set<Meaning> =>
    new Set(
      to.flatMap(({ meaning, reading }) =>
        meaning && (reading.whose.get('their organisation') ?? 0) > 0.5 === theirs ? [meaning] : [],
      ),
    );
  const [own, their] = [homesOf(false), homesOf(true)];
  return {
    onlyOf: ({ type }) => only.has(type),
    onlyOne: new Set([
      ...(named ? BOTH_HAVE.filter((meaning) => own.has(meaning) !== their.has(meaning)) : []),
      // Who gives one mailbox, at work, is reached there.
      ...(from.filter(({ meaning }) => meaning === 'email').length === 1 ? (['email'] as const) : []),
    ]),
  };
}

/**
 * What speaks for a pair and against it, in the order of `LINE_WEIGHTS`, and how much one expects it to count, in
 * log-odds: learning begins there, and stays there for what pages seldom show.
 */
export const EXPECTED: readonly (readonly [what: string, weight: number])[] = [
  ['always', 0],
  ['they mean the same', 1.4],
  ['what they mean is near', 1],
  ['it is of the same one', 1.5],
  ['both are all but certain', 1],
  ['their words are alike', 1],
  ['they have the same words', 0.5],
  ['words of what only this system knows are alike', 3],
  ['the same words of what only this system knows', 2.5],
  ['neither means what is commonly known', 2],
  ['the field means nothing', -1],
  ['same kind', 0.8],
  ['kinds that exclude each other', -2],
  ['a choice against a text', -0.8],
  ['shared options', 2.5],
  ['no shared options', -1.5],
  ['the only one of its kind on both sides', 2.5],
  ['hidden', -1.5],
  ['said only of the one', -2.5],
];

const placeOf = (wanted: string): number => EXPECTED.findIndex(([what]) => what === wanted);
const CERTAIN = placeOf('both are all but certain');
const APART = placeOf('kinds that exclude each other');
/** Where a meaning, or whose it is, begins to be certain, and where it is. */
const SURELY = { from: 0.5, to: 0.8 };
const surely = (share: number): number => Math.max(0, Math.min(1, (share - SURELY.from) / (SURELY.to - SURELY.from)));

const ALONE = placeOf('the only one of its kind on both sides');
const SAME_MEANING = placeOf('they mean the same');
const SAME_ONE = placeOf('it is of the same one');

/** Work or home is often said of the only address or telephone there is. */
const MILD = new Set(['work', 'home']);
/** Below it neither meaning nor words say enough to look at the rest. */
const WORTH_A_LOOK = { meaning: 0.04, words: 0.5 };

/**
 * What speaks for a pair; undefined where nothing does. Each entry is weighed by the one of `LINE_WEIGHTS` in its place.
 */
export function evidenceOf(source: Side, target: Side, around: Surroundings): number[] | undefined {
  let same = 0;
  let near = 0;
  for (const [a, share] of source.reading.meanings)
    for (const [b, other] of target.reading.meanings) {
      if (a === b) same += share * other;
      else near += nearness(a, b) * share * other;
    }
  const words = Math.max(
    likeness(source.labelWords, target.labelWords),
    likeness(source.nameWords, target.nameWords),
    likeness(source.labelWords, target.nameWords),
    likeness(source.nameWords, target.labelWords),
  );
  const alone = around.onlyOf(source) && source.type === target.type && source.meaning === undefined;
  if (same + near < WORTH_A_LOOK.meaning && words < WORTH_A_LOOK.words && !alone) return undefined;
  const onlyOne = source.meaning !== undefined && around.onlyOne.has(source.meaning);
  const bothStrange = source.reading.nothing * target.reading.nothing;
  // Whose a field is follows from what it means; of what isn't known, the words that both sides use say more.
  const whose = Math.max(sameOne(source.reading.whose, target.reading.whose, onlyOne), words * bothStrange);
  const [kind, shared] = [kindEvidence(source, target), sharedOptions(source, target)];
  const differing =
    [...source.qualifiers].filter((each) => !target.qualifiers.has(each) && !MILD.has(each)).length +
    [...target.qualifiers].filter((each) => !source.qualifiers.has(each) && !MILD.has(each)).length;
  return [
    1,
    Math.log(0.01 + same),
    Math.min(1, near),
    Math.log(0.02 + whose),
    surely(Math.min(same, whose)),
    words,
    words === 1 ? 1 : 0,
    words * target.reading.nothing,
    words === 1 ? target.reading.nothing : 0,
    bothStrange,
    source.reading.nothing,
    kind === 'same' ? 1 : 0,
    kind === 'apart' ? 1 : 0,
    kind === 'choice' ? 1 : 0,
    shared ?? 0,
    shared === 0 ? 1 : 0,
    alone ? 1 : 0,
    source.hidden ? 1 : 0,
    Math.min(2, differing),
  ];
}

/** Who may stand for whom: somebody's bill goes to somebody's own address, a firm's telephone seldom to a person. */
const STANDS_FOR: readonly [Whose, Whose, number][] = [
  ['the visitor', 'the bill', 0.5],
  ['the visitor', 'the delivery', 0.4],
  ['the visitor', 'their organisation', 0.1],
  ['the matter', 'the visitor', 0.15],
  ['the bill', 'their organisation', 0.2],
  ['nobody', 'the matter', 0.1],
];
const standing = new Map(
  STANDS_FOR.flatMap(([a, b, share]) => [[`${a}|${b}`, share] as const, [`${b}|${a}`, share] as const]),
);

const BOTH = new Set<Whose>(['the visitor', 'their organisation']);

/** How likely both speak of the same one, from 0 to 1. @param only whether nobody else's record has a place for it */
function sameOne(a: ReadonlyMap<Whose, number>, b: ReadonlyMap<Whose, number>, only: boolean): number {
  let sum = 0;
  for (const [one, share] of a)
    for (const [other, also] of b) {
      const theirs = only && BOTH.has(one) && BOTH.has(other);
      sum += share * also * (one === other ? 1 : theirs ? 0.5 : (standing.get(`${one}|${other}`) ?? 0));
    }
  return sum;
}

/** How fields are read and pairs weighed; another judgement than ours only while it is learned. */
export interface Judgement {
  read: Reader;
  /** What each of `EXPECTED` counts, in log-odds. */
  line: readonly number[];
  /** What was said, and how often it was right, in rising order. */
  curve: readonly (readonly [number, number])[];
}

export const OURS: Judgement = { read: readFields, line: LINE_WEIGHTS, curve: LINE_CURVE };

/** Weighs one pair. @param past what was made of it before */
export function weigh(
  source: Side,
  target: Side,
  around: Surroundings,
  past?: Learned,
  by: Judgement = OURS,
): Evidence {
  const reasons: string[] = [];
  const evidence = evidenceOf(source, target, around);
  if (!evidence && !past) return { confidence: 0, reasons };
  let confidence = UNSAID;
  if (evidence) {
    const leads = familyOf(target) === 'reference' && familyOf(source) !== 'reference';
    const called = isCalledTheSame(source, target);
    const led = leads && !called ? LOOKED_UP : 0;
    const logOdds = evidence.reduce((sum, each, at) => sum + each * by.line[at]!, led);
    confidence = calibrated(likelihood(logOdds), by.curve);
    const worthIt = evidence[ALONE] === 1 || namesItsOwn(source, target, evidence) || (leads && called);
    if (worthIt) confidence = Math.max(confidence, WORTH_OFFERING);
    if (saysTheSame(source, target, evidence) || isStated(source, evidence))
      confidence = Math.max(confidence, SAID_PLAINLY);
    sayWhy(source, target, evidence, reasons);
  }
  // What was chosen here before outweighs what is usual elsewhere.
  if (past) {
    const sure = Math.min(confidence, MOST_SURE);
    confidence = likelihood(Math.log(sure / (1 - sure)) + experience(past, reasons));
  }
  return { confidence: Math.round(confidence * 1000) / 1000, reasons };
}

/** An autofill token says what the field means, and the record's field is all but certain to mean it. */
const isStated = ({ reading }: Side, evidence: readonly number[]): boolean =>
  reading.stated === true && evidence[CERTAIN] === 1 && evidence[APART] === 0;

const ELSEWHERE: readonly Whose[] = ['somebody else', 'the bill', 'the delivery'];

/** What the form calls a field, is called so in the record. */
function isCalledTheSame(source: Side, target: Side): boolean {
  const label = source.labelWords.length > 0 ? source.labelWords : source.nameWords;
  return label.length > 0 && label.join(' ') === target.labelWords.join(' ');
}

/**
 * Called the same on both sides, and not somebody else's: two words or more mean the same whatever they mean; a single
 * one does where both are read alike.
 */
function saysTheSame(source: Side, target: Side, evidence: readonly number[]): boolean {
  if (evidence[APART] === 1 || !isCalledTheSame(source, target)) return false;
  const elsewhere = ELSEWHERE.reduce(
    (sum, each) => sum + (target.reading.whose.has(each) ? 0 : (source.reading.whose.get(each) ?? 0)),
    0,
  );
  const alike = evidence[SAME_MEANING]! > Math.log(0.6) && evidence[SAME_ONE]! > Math.log(0.6);
  return elsewhere < 0.4 && (alike || target.labelWords.length >= 2);
}

/** The form asks, in the record's own word, for something that is none of what is commonly known: hives, say. */
const namesItsOwn = (source: Side, target: Side, evidence: readonly number[]): boolean =>
  evidence[APART] === 0 && isCalledTheSame(source, target) && meaningsOf(target.labelWords).length === 0;

const likelihood = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));
/** A pair for which nothing speaks but that it was chosen. */
const UNSAID = 0.045;
/** What is said in so many words, or by the page's author, needs no guess. */
const SAID_PLAINLY = 0.95;
/** A field that leads to another record holds its id; what a visitor types has to be looked up, and seldom is meant to. */
const LOOKED_UP = -5;
/** However sure words make it, decisions that say otherwise change it. */
const MOST_SURE = 0.98;
/** The only long text, or date, on both sides is worth an offer, whatever it is about; so is a word of the record's own. */
const WORTH_OFFERING = 0.55;

/** What is said of a line, by how often lines of which it was said were right (isotonic regression: Zadrozny, Elkan 2002). */
function calibrated(said: number, curve: Judgement['curve']): number {
  let before: readonly [number, number] = [0, 0];
  for (const step of [...curve, [1, 1] as const]) {
    if (said <= step[0]) {
      const share = step[0] === before[0] ? 1 : (said - before[0]) / (step[0] - before[0]);
      return Math.round((before[1] + share * (step[1] - before[1])) * 1000) / 1000;
    }
    before = step;
  }
  return 1;
}

function sayWhy(source: Side, target: Side, evidence: readonly number[], reasons: string[]): void {
  const [, , near, , , words, , , , , , kind, , , shared, , alone] = evidence;
  const meaning = sharedMeaning(source, target);
  if (meaning) reasons.push(`means ${meaning}`);
  else if (near! > 0.2) reasons.push('means something near');
  if (words! >= 0.6) reasons.push(words === 1 ? 'same words' : 'similar words');
  if (shared! > 0) reasons.push(shared! >= 0.99 ? 'same options' : 'shares options');
  else if (kind === 1 && familyOf(source) !== 'text')
    reasons.push(`both ${source.type === target.type ? source.type : familyOf(source)}`);
  if (alone === 1) reasons.push(`the only ${source.type} on both sides`);
  const both = [...source.qualifiers].filter((each) => target.qualifiers.has(each));
  if (both.length > 0) reasons.push(`both say ${both.join(', ')}`);
}

function sharedMeaning(source: Side, target: Side): Meaning | undefined {
  let best: { meaning: Meaning; share: number } | undefined;
  for (const [meaning, share] of source.reading.meanings) {
    const both = share * (target.reading.meanings.get(meaning) ?? 0);
    if (both > 0.1 && both > (best?.share ?? 0)) best = { meaning, share: both };
  }
  return best?.meaning;
}

/**
 * Past decisions as log-odds with one made-up decision each way (Laplace). Passing a suggestion over says less than
 * choosing: the plan may just not have needed it.
 */
const EXPERIENCE = { each: 5, most: 8 };

function experience({ accepted, rejected }: Learned, reasons: string[]): number {
  const odds = Math.log((accepted + 1) / (rejected / 2 + 1)) * EXPERIENCE.each;
  if (odds > 0) reasons.push(accepted === 1 ? 'chosen here before' : `chosen here ${accepted} times before`);
  if (odds < 0) reasons.push('not chosen here before');
  return Math.max(-EXPERIENCE.most, Math.min(EXPERIENCE.most, odds));
}

/** The share of options that are on both sides, of the fewer; undefined where one has none. */
function sharedOptions(source: Side, target: Side): number | undefined {
  if (!source.options || !target.options) return undefined;
  const shared = [...source.options].filter((option) => target.options!.has(option)).length;
  return shared / Math.max(1, Math.min(source.options.size, target.options.size));
}

function kindEvidence(source: Side, target: Side): 'same' | 'apart' | 'choice' | 'any' {
  const [a, b] = [familyOf(source), familyOf(target)];
  if (a === b) return a === 'text' ? 'any' : 'same';
  if (a !== 'text' && b !== 'text') return 'apart';
  // Anything can be typed into a text; a choice or a file in a text field is less likely meant.
  const other = a === 'text' ? b : a;
  if (other === 'reference' || other === 'file') return 'apart';
  return other === 'choice' || other === 'yes/no' ? 'choice' : 'any';
}
