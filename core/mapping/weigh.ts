import { nearness, type Meaning } from './lexicon.ts';
import { familyOf, ORGANISATION, PERSON, type Side } from './sides.ts';
import type { Learned } from './suggestion.ts';
import { likeness } from './words.ts';

/** How likely a pair of fields belongs together, and why. */
export interface Evidence {
  confidence: number;
  reasons: string[];
}

/** The weights of evidence, in log-odds. Where they come from stands in docs/mapping.md. */
const WEIGHTS = {
  bias: -4.2,
  meaning: 6.0,
  contrary: -3.0,
  words: 5.0,
  sameName: 1.5,
  type: 0.8,
  wrongType: -2.5,
  options: 3.0,
  noOptions: -2.0,
  qualifier: -3.5,
  mildQualifier: -1.2,
  only: 4,
  about: 0.5,
  experience: 5,
  mostExperience: 8,
};

/** What of all fields bears on one pair: which kinds stand alone on both sides, and which meanings come unqualified. */
export interface Surroundings {
  onlyOf: (side: Side) => boolean;
  plainMeanings: ReadonlySet<Meaning>;
}

export function surroundingsOf(from: readonly Side[], to: readonly Side[]): Surroundings {
  const count = (sides: readonly Side[], type: string): number => sides.filter((side) => side.type === type).length;
  const only = new Set(['long text', 'date'].filter((type) => count(from, type) === 1 && count(to, type) === 1));
  return {
    onlyOf: ({ type }) => only.has(type),
    plainMeanings: new Set(
      from.filter(({ qualifiers }) => qualifiers.size === 0).flatMap(({ meanings }) => [...meanings.keys()]),
    ),
  };
}

/** Where somebody works or lives is often said of the only address or telephone there is. */
const MILD = new Set(['work', 'home']);

/** Weighs one pair. @param past what was made of it before */
export function weigh(source: Side, target: Side, around: Surroundings, past?: Learned): Evidence {
  const reasons: string[] = [];
  let logOdds = WEIGHTS.bias;
  let best = 0;
  let why = '';
  for (const [a, phrase] of source.meanings) {
    for (const b of target.meanings.keys()) {
      const near = nearness(a, b);
      if (near > best) {
        best = near;
        why = near === 1 ? `“${phrase}” means ${a}` : `${a} is close to ${b}`;
      }
    }
  }
  const words = Math.max(
    likeness(source.labelWords, target.labelWords),
    likeness(source.nameWords, target.nameWords),
    likeness(source.labelWords, target.nameWords),
    likeness(source.nameWords, target.labelWords),
  );
  const alone = around.onlyOf(source) && source.type === target.type && source.meanings.size === 0;
  if (best === 0 && words < 0.5 && !past && !alone) return { confidence: 0, reasons };
  if (alone && best === 0) {
    logOdds += WEIGHTS.only;
    reasons.push(`the only ${source.type} on both sides`);
  }
  if (best > 0) {
    logOdds += WEIGHTS.meaning * best;
    reasons.push(why);
  } else if (source.meanings.size > 0 && target.meanings.size > 0) logOdds += WEIGHTS.contrary;
  if (words > 0) {
    logOdds += WEIGHTS.words * words * (best > 0 ? 0.4 : 1);
    if (words === 1) logOdds += WEIGHTS.sameName;
    if (words >= 0.6) reasons.push(words === 1 ? 'same words' : 'similar words');
  }
  logOdds += typeEvidence(source, target, reasons);
  const onlyHere = [...source.qualifiers].filter((each) => !target.qualifiers.has(each));
  const onlyThere = [...target.qualifiers].filter((each) => !source.qualifiers.has(each));
  const others = [...source.meanings.keys()].some((meaning) => around.plainMeanings.has(meaning));
  if (onlyThere.length === 0 && onlyHere.length > 0 && onlyHere.every((each) => MILD.has(each)) && !others)
    logOdds += WEIGHTS.mildQualifier;
  else if (onlyHere.length + onlyThere.length > 0) logOdds += WEIGHTS.qualifier;
  else if (source.qualifiers.size > 0) reasons.push(`both say ${[...source.qualifiers].join(', ')}`);
  if (target.about !== '') logOdds += belongs(source, target.about);
  if (past) logOdds += experience(past, reasons);
  return { confidence: Math.round((1 / (1 + Math.exp(-logOdds))) * 1000) / 1000, reasons };
}

/**
 * Past decisions as log-odds with one made-up decision each way (Laplace). Passing a suggestion over says less than
 * choosing: the plan may just not have needed it.
 */
function experience({ accepted, rejected }: Learned, reasons: string[]): number {
  const odds = Math.log((accepted + 1) / (rejected / 2 + 1)) * WEIGHTS.experience;
  if (odds > 0) reasons.push(accepted === 1 ? 'chosen here before' : `chosen here ${accepted} times before`);
  if (odds < 0) reasons.push('not chosen here before');
  return Math.max(-WEIGHTS.mostExperience, Math.min(WEIGHTS.mostExperience, odds));
}

/** Telephone and e-mail fields that speak of a company belong to it rather than to a person. */
function belongs(source: Side, about: 'person' | 'organisation'): number {
  const words = [...source.labelWords, ...source.nameWords];
  const speaks = words.some((word) => ORGANISATION.has(word))
    ? 'organisation'
    : words.some((word) => PERSON.has(word))
      ? 'person'
      : '';
  if (speaks === '') return 0;
  return speaks === about ? WEIGHTS.about : -WEIGHTS.about * 4;
}

function typeEvidence(source: Side, target: Side, reasons: string[]): number {
  if (source.options && target.options) {
    const shared = [...source.options].filter((option) => target.options!.has(option)).length;
    const share = shared / Math.max(1, Math.min(source.options.size, target.options.size));
    if (share === 0) return WEIGHTS.noOptions;
    reasons.push(share >= 0.99 ? 'same options' : 'shares options');
    return WEIGHTS.options * share;
  }
  const a = familyOf(source);
  const b = familyOf(target);
  if (a === b) {
    if (a !== 'text') reasons.push(`both ${source.type === target.type ? source.type : a}`);
    return WEIGHTS.type;
  }
  if (a === 'text' || b === 'text') {
    // Anything can be typed into a text; a choice or a file in a text field is less likely meant.
    const other = a === 'text' ? b : a;
    return other === 'reference' || other === 'file'
      ? WEIGHTS.wrongType
      : other === 'choice' || other === 'yes/no'
        ? -0.8
        : 0;
  }
  return WEIGHTS.wrongType;
}
