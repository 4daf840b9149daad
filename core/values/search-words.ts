import { fold } from './text.ts';

/** The longest word kept; what goes on after that is found by its beginning. */
export const WORD_LENGTH = 40;
const SHORTEST = 2;
/** Nobody is found by what stands behind so many characters. */
const MOST_READ = 1000;

/** A text that is a telephone number, as far as its characters tell: its digits. */
function digitsOf(text: string): string | undefined {
  const digits = text.replace(/\D/g, '');
  return digits.length >= 6 && /^[\s\d()+./-]+$/.test(text) ? digits : undefined;
}

const cut = (word: string): string => [...word].slice(0, WORD_LENGTH).join('');

/**
 * The words under which a text is found again: without case and accents, an e-mail address whole and in its parts, a
 * telephone number as its digits however it was spaced.
 */
export function searchWords(whole: string): string[] {
  const text = whole.slice(0, MOST_READ);
  const words = new Set<string>();
  const digits = digitsOf(text.trim());
  if (digits !== undefined) words.add(cut(digits));
  else {
    for (const word of fold(text).split(' ')) if ([...word].length >= SHORTEST) words.add(cut(word));
    for (const piece of text.split(/[\s<>"]+/)) {
      const [local = '', domain = ''] = piece.split('@', 2);
      if (local !== '' && domain !== '') words.add(cut(`${local}@${domain}`.toLowerCase()));
    }
  }
  return [...words];
}

/** What somebody looks for, as beginnings of words that must all be there. */
export function searchTerms(text: string): string[] {
  const trimmed = text.slice(0, MOST_READ).trim();
  const digits = digitsOf(trimmed);
  if (digits !== undefined) return [cut(digits)];
  return [
    ...new Set(
      trimmed.split(/\s+/).flatMap((part) => {
        if (/^[^@<>"]+@[^@<>"]*$/.test(part)) return [cut(part.toLowerCase())];
        return fold(part)
          .split(' ')
          .filter((word) => [...word].length >= SHORTEST)
          .map(cut);
      }),
    ),
  ].slice(0, 6);
}
