import { quoted, tooLong } from './bounds.ts';
import { read, unreadable, type Reading } from './reading.ts';
import { fold } from './text.ts';

interface Choice {
  value: string;
  label: string;
}

interface Folded<Of> {
  exact: ReadonlyMap<string, Of>;
  folded: ReadonlyMap<string, readonly Of[]>;
}
const foldedOnce = new WeakMap<object, Folded<unknown>>();

/**
 * A list of choices by the texts each is known by, folded once for the list however many values are looked up in it.
 * @param texts the texts of a choice; the first is the one it is known by exactly
 */
export function byFoldedText<Of>(choices: readonly Of[], texts: (choice: Of) => readonly string[]): Folded<Of> {
  const known = foldedOnce.get(choices);
  if (known) return known as Folded<Of>;
  const exact = new Map<string, Of>();
  const folded = new Map<string, Of[]>();
  for (const choice of choices) {
    const said = texts(choice);
    if (!exact.has(said[0]!)) exact.set(said[0]!, choice);
    for (const key of new Set(said.map(fold))) folded.set(key, [...(folded.get(key) ?? []), choice]);
  }
  foldedOnce.set(choices, { exact, folded });
  return { exact, folded };
}

/**
 * Finds the option a text stands for: by value, then by value or label without regard to case, accents and punctuation.
 * Two options that fold to the same text are never told apart by folding.
 */
export function readOption(text: string, options: readonly Choice[]): Reading<string> {
  const long = tooLong(text, 'option');
  if (long !== undefined) return unreadable(long);
  const { exact, folded } = byFoldedText(options, ({ value, label }) => [value, label]);
  if (exact.has(text)) return read(text);
  const key = fold(text);
  const alike = folded.get(key) ?? [];
  if (alike.length === 1 && key !== '') return read(alike[0]!.value);
  if (alike.length > 1)
    return unreadable(`“${quoted(text)}” fits ${alike.map((option) => `“${option.label}”`).join(' and ')}`);
  return unreadable(`“${quoted(text)}” is not among the options`);
}
