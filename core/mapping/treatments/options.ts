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
  return sent.map(({ value, label }) => {
    const same = taken.find((option) => option.value === value);
    const alike = taken.find((option) =>
      [option.value, option.label].some((text) => fold(text) === fold(value) || fold(text) === fold(label)),
    );
    const meaning = meaningOf({ value, label });
    const meantSame = meaning === undefined ? [] : taken.filter((option) => meaningOf(option) === meaning);
    const near = taken
      .map((option) => ({ option, like: likenessOf(label, option.label) }))
      .sort((a, b) => b.like - a.like)[0];
    const chosen =
      same ??
      alike ??
      (meantSame.length === 1 ? meantSame[0] : undefined) ??
      (near && near.like >= 0.8 ? near.option : undefined);
    return chosen ? { from: value, to: chosen.value } : { from: value };
  });
}

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
