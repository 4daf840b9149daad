import fc from 'fast-check';
import { searchTerms, searchWords, WORD_LENGTH } from './index.ts';

const found = (text: string, sought: string): boolean => {
  const words = searchWords(text);
  const terms = searchTerms(sought);
  return terms.length > 0 && terms.every((term) => words.some((word) => word.startsWith(term)));
};

describe('words for searching', () => {
  it.each([
    ['Małgosia Wiśniewski', 'wisn malg'],
    ['Jörn Brandt', 'jorn'],
    ['Kathi.Voss@Biene.example', 'kathi.voss@biene.example'],
    ['Kathi.Voss@Biene.example', 'kathi.voss@'],
    ['Kathi.Voss@Biene.example', 'voss'],
    ['030 23125 077', '030-23125077'],
    ['030 23125 077', '030 231'],
    ['Am Deich 14a', '14a'],
    ['Жанна Пчёлова', 'жанна'],
  ])('%s is found by %s', (text, sought) => expect(found(text, sought)).toBe(true));

  it.each([
    ['Kathi Voss', 'kathi brandt'],
    ['Kathi Voss', 'oss'],
    ['x', 'x'],
    ['', ' '],
  ])('%s is not found by %s', (text, sought) => expect(found(text, sought)).toBe(false));

  it('are short enough to be kept, whatever comes in, and find the text they were made of', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 120 }), (said) => {
        // The beginning of an address is sought as it stands, which half an address isn't found by.
        const text = said.replaceAll('@', ' ');
        const words = searchWords(text);
        for (const word of words) expect([...word].length).toBeLessThanOrEqual(WORD_LENGTH);
        for (const term of searchTerms(text)) expect(words.some((word) => word.startsWith(term))).toBe(true);
      }),
    );
  });
});
