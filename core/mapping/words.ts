import { fold } from '../values/index.ts';

/** Splits a field's name or label into folded words: `firstName`, `first_name`, `contacts[0][first-name]` → first, name. */
export function wordsOf(text: string): string[] {
  const spaced = text
    // D.O.B. is one word.
    .replace(/(?<!\p{L})(?:\p{L}\.){2,}/gu, (letters) => letters.replaceAll('.', ''))
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2');
  return fold(spaced)
    .split(' ')
    .filter((word) => word !== '' && !/^\d+$/.test(word));
}

/** Words that carry no meaning of their own in a form's names and labels. */
const EMPTY = new Set(
  (
    'your my our the a an of for to and or if any please enter in on with is are you we this ' +
    'ihr ihre ihren dein deine bitte angeben der die das den des fur zum zur und oder mit von wenn sie ' +
    'twoj twoje prosze podaj i lub do na z w ' +
    'votre vos veuillez le la les de du des et ou ' +
    'su tu por favor el los las y o ' +
    'uw je jouw het een en van ' +
    'il lo gli tuo vostro di e ' +
    'field input form txt fld frm value id c'
  ).split(/\s+/),
);

/** What a field is called says what it means in its first words; every pair of fields compares them all. */
const MOST_READ = 400;
const MOST_WORDS = 24;
const MOST_LETTERS = 40;

/** The words that tell something. */
export function tellingWords(text: string): string[] {
  return wordsOf(text.slice(0, MOST_READ))
    .filter((word) => !EMPTY.has(word))
    .slice(0, MOST_WORDS)
    .map((word) => word.slice(0, MOST_LETTERS));
}

/** Jaro-Winkler similarity of two short words, from 0 to 1 (Winkler 1990). */
export function jaroWinkler(a: string, b: string): number {
  if (a === b) return 1;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const taken = new Array<boolean>(b.length).fill(false);
  const matched: string[] = [];
  for (let i = 0; i < a.length; i += 1) {
    for (let j = Math.max(0, i - reach); j < Math.min(b.length, i + reach + 1); j += 1) {
      if (taken[j] || a[i] !== b[j]) continue;
      taken[j] = true;
      matched.push(a[i]!);
      break;
    }
  }
  if (matched.length === 0) return 0;
  let transposed = 0;
  let at = 0;
  for (let j = 0; j < b.length; j += 1) if (taken[j] && b[j] !== matched[at++]) transposed += 1;
  const m = matched.length;
  const jaro = (m / a.length + m / b.length + (m - transposed / 2) / m) / 3;
  let prefix = 0;
  while (prefix < 4 && prefix < a.length && prefix < b.length && a[prefix] === b[prefix]) prefix += 1;
  return jaro + prefix * 0.1 * (1 - jaro);
}

/** Similarities of words seen before: a few hundred words make up thousands of names and labels. */
const seen = new Map<string, Map<string, number>>();
const MOST_SEEN = 500_000;
let pairsSeen = 0;

/** How alike two words are, from 0 to 1; short ones must be equal, and what is less than close counts as nothing. */
function alike(a: string, b: string): number {
  if (a === b) return 1;
  if (a.length < 4 || b.length < 4) return 0;
  let row = seen.get(a);
  if (!row) {
    row = new Map();
    seen.set(a, row);
  }
  let similar = row.get(b);
  if (similar === undefined) {
    similar = jaroWinkler(a, b);
    if (similar < 0.88) similar = 0;
    if (pairsSeen > MOST_SEEN) {
      seen.clear();
      pairsSeen = 0;
      seen.set(a, (row = new Map()));
    }
    row.set(b, similar);
    pairsSeen += 1;
  }
  return similar;
}

/** How far two lists of words say the same, from 0 to 1: each word counts with its closest on the other side (soft Dice). */
export function likeness(a: readonly string[], b: readonly string[]): number {
  if (a.length === 0 || b.length === 0) return 0;
  let sum = 0;
  for (const word of a) sum += closest(word, b);
  for (const word of b) sum += closest(word, a);
  return sum / (a.length + b.length);
}

function closest(word: string, others: readonly string[]): number {
  let top = 0;
  for (const other of others) {
    const similar = alike(word, other);
    if (similar > top) top = similar;
  }
  return top;
}
