/** White space at the ends goes, runs inside become one space; characters are brought to one form (Unicode NFC). */
export function tidy(text: string): string {
  return text.normalize('NFC').replace(/\s+/gu, ' ').trim();
}

/** The first few of several, in words: “a, b, c and 4 more”. @param quoted each in quotation marks */
export function listed(texts: readonly string[], { most = 3, quoted = false } = {}): string {
  const shown = texts.slice(0, most).map((text) => (quoted ? `“${text}”` : text));
  return `${shown.join(', ')}${texts.length > most ? ` and ${texts.length - most} more` : ''}`;
}

/** A number with its noun, which agrees with it. */
export const counted = (many: number, one: string, several = `${one}s`): string =>
  `${many} ${many === 1 ? one : several}`;

/** Words without the values they quote: the same for all that goes wrong alike. */
export const withoutQuoted = (words: string): string => words.replace(/[“"][^“”"]*[”"]/g, '“…”');

/** The same without their numbers too. */
export const withoutValues = (words: string): string => withoutQuoted(words).replace(/\d+/g, '0');

/** A key for comparing labels and options: no case, no accents, no punctuation. */
export function fold(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/[łŁ]/g, 'l')
    .replace(/[øØ]/g, 'o')
    .replace(/[æÆ]/g, 'ae')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** Counts characters as people see code points, not UTF-16 units. */
export function lengthInCharacters(text: string): number {
  let length = 0;
  for (const _ of text) length += 1;
  return length;
}

/** Bytes a text takes in UTF-8 (RFC 3629). */
export function lengthInBytes(text: string): number {
  let bytes = 0;
  for (const character of text) {
    const code = character.codePointAt(0)!;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return bytes;
}

const GRAPHEMES = new Intl.Segmenter('und', { granularity: 'grapheme' });

/**
 * Cuts a text to a limit, never inside a character as people see it (Unicode UAX #29: a letter with its accents, an
 * emoji with its parts), so it may come out a little shorter.
 */
export function cutTo(text: string, limit: number, unit: 'characters' | 'bytes'): string {
  const measure = unit === 'bytes' ? lengthInBytes : lengthInCharacters;
  if (measure(text) <= limit) return text;
  let length = 0;
  let end = 0;
  for (const { segment, index } of GRAPHEMES.segment(text)) {
    length += measure(segment);
    if (length > limit) break;
    end = index + segment.length;
  }
  return text.slice(0, end);
}
