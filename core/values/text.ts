/** White space at the ends goes, runs inside become one space; characters are brought to one form (Unicode NFC). */
export function tidy(text: string): string {
  return text.normalize('NFC').replace(/\s+/gu, ' ').trim();
}

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
