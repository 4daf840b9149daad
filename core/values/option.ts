import { read, unreadable, type Reading } from './reading.ts';
import { fold } from './text.ts';

interface Choice {
  value: string;
  label: string;
}

/**
 * Finds the option a text stands for: by value, then by value or label without regard to case, accents and punctuation.
 * Two options that fold to the same text are never told apart by folding.
 */
export function readOption(text: string, options: readonly Choice[]): Reading<string> {
  const exact = options.find((option) => option.value === text);
  if (exact) return read(exact.value);
  const key = fold(text);
  const alike = options.filter((option) => fold(option.value) === key || fold(option.label) === key);
  if (alike.length === 1 && key !== '') return read(alike[0]!.value);
  if (alike.length > 1) return unreadable(`“${text}” fits ${alike.map((option) => `“${option.label}”`).join(' and ')}`);
  return unreadable(`“${text}” is not among the options`);
}
