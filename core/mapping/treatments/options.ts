import { byFoldedText, fold, quoted, read, readLosing, tooLong, unreadable } from '../../values/index.ts';
import { jaroWinkler, likeness, tellingWords } from '../words.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';
import { meaningOfChoices } from './same-meaning.ts';
import type { OptionPair } from './treatment.ts';

/** So near are two spellings of one word; "Pear" and "Peach" are not. */
const SAME_SPELT = 0.94;

/**
 * Pairs each option sent with its likeliest counterpart: the same value, the same word, the same meaning in the languages
 * served, a near spelling; unpaired where none is likely.
 */
export function pairOptions(
  sent: readonly { value: string; label: string }[],
  taken: readonly { value: string; label: string }[],
): OptionPair[] {
  const meaningOf = meaningOfChoices([sent, taken]);
  // Lists may be long: what is found by a look isn't looked for among all of them.
  const byValue = new Map<string, number>();
  const byText = new Map<string, number>();
  const byMeaning = new Map<string, number[]>();
  taken.forEach((option, at) => {
    if (!byValue.has(option.value)) byValue.set(option.value, at);
    for (const text of [fold(option.value), fold(option.label)]) if (!byText.has(text)) byText.set(text, at);
    const meaning = meaningOf(option);
    if (meaning === undefined) return;
    const same = byMeaning.get(meaning);
    if (same) same.push(at);
    else byMeaning.set(meaning, [at]);
  });
  const firstOf = (...places: (number | undefined)[]): number | undefined => {
    const known = places.filter((at) => at !== undefined);
    return known.length === 0 ? undefined : Math.min(...known);
  };
  let compared = 0;
  return sent.map(({ value, label }) => {
    const meaning = meaningOf({ value, label });
    const meant = meaning === undefined ? [] : (byMeaning.get(meaning) ?? []);
    let chosen =
      byValue.get(value) ??
      firstOf(byText.get(fold(value)), byText.get(fold(label))) ??
      (meant.length === 1 ? meant[0] : undefined);
    if (chosen === undefined && compared + taken.length <= MOST_COMPARED) {
      compared += taken.length;
      const near = taken
        .map((option, at) => ({ at, like: likenessOf(label, option.label) }))
        .sort((x, y) => y.like - x.like)[0];
      if (near && near.like >= 0.8) chosen = near.at;
    }
    return chosen === undefined ? { from: value } : { from: value, to: taken[chosen]!.value };
  });
}

/** Labels are held beside one another at most so often: of two lists of thousands, only what is plainly the same is paired. */
const MOST_COMPARED = 50_000;

/** How alike two labels are, by their words or, where each is one word, by its letters. */
function likenessOf(a: string, b: string): number {
  const [left, right] = [tellingWords(a), tellingWords(b)];
  const spelt = left.length === 1 && right.length === 1 && jaroWinkler(left[0]!, right[0]!) >= SAME_SPELT ? 0.9 : 0;
  return Math.max(spelt, likeness(left, right));
}

/**
 * Option pairing. Reads `pairs` and `otherwise`. A value without a pair goes on as it is when it is an option of the
 * field by itself; otherwise it becomes `otherwise`, or is refused in words.
 */
export const options: TreatmentDefinition = {
  group: 'Meaning',
  name: 'pair options',
  settings: [{ control: 'option pairs' }],
  fresh: ({ sources, field }) => ({
    pairs: pairOptions(
      sources.flatMap((source) => source.options ?? []),
      field?.options ?? [],
    ),
  }),
  describe: ({ pairs = [] }) =>
    `options, ${pairs.filter((pair) => pair.to !== undefined).length} of ${pairs.length} paired`,
  treat: eachText((text, { pairs = [], otherwise }, field) => {
    const long = tooLong(text, 'option');
    if (long !== undefined) return unreadable(long);
    const { exact, folded } = byFoldedText(pairs, ({ from }) => [from]);
    const pair = exact.get(text) ?? folded.get(fold(text))?.[0];
    if (pair?.to !== undefined) return read(pair.to === '' ? null : pair.to);
    const itself = field.options?.find((option) => option.value === text);
    if (itself) return read(text);
    if (otherwise === '') return readLosing(null, `“${quoted(text)}” has no counterpart in the list and is left out`);
    if (otherwise !== undefined) return read(otherwise);
    return unreadable(`“${quoted(text)}” has no counterpart in the list`);
  }),
};
