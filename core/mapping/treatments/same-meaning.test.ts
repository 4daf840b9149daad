import { pairOptions } from './options.ts';

const choices = (...labels: string[]) => labels.map((label) => ({ value: label.toLowerCase(), label }));
const pairs = (sent: string[], taken: { value: string; label: string }[]): Record<string, string | undefined> =>
  Object.fromEntries(
    pairOptions(
      sent.map((label) => ({ value: label, label })),
      taken,
    ).map(({ from, to }) => [from, to]),
  );

describe('options of two lists are paired', () => {
  it('by what a word means, in the languages served', () => {
    const salutations = [
      { value: '1', label: 'Mr' },
      { value: '2', label: 'Ms' },
      { value: '3', label: 'Other' },
    ];
    expect(pairs(['Herr', 'Frau', 'Divers'], salutations)).toEqual({ Herr: '1', Frau: '2', Divers: undefined });
    expect(pairs(['Monsieur', 'Madame', 'Autre'], salutations)).toEqual({ Monsieur: '1', Madame: '2', Autre: '3' });
    expect(pairs(['Tak', 'Nie'], choices('Yes', 'No'))).toEqual({ Tak: 'yes', Nie: 'no' });
  });
  it('by the code of a country, in whichever language either list names it', () => {
    const countries = [
      { value: 'DE', label: 'Germany' },
      { value: 'AT', label: 'Austria' },
      { value: 'PL', label: 'Poland' },
    ];
    expect(pairs(['Deutschland', 'Österreich', 'Schweiz'], countries)).toEqual({
      Deutschland: 'DE',
      Österreich: 'AT',
      Schweiz: undefined,
    });
  });
  it('by the code of a language', () => {
    expect(
      pairs(
        ['Deutsch', 'Polski'],
        [
          { value: 'ger', label: 'German' },
          { value: 'pol', label: 'Polish' },
        ],
      ),
    ).toEqual({
      Deutsch: 'ger',
      Polski: 'pol',
    });
  });
  it('by a near spelling, but not by a near fruit', () => {
    expect(pairs(['Strawbery', 'Peach'], choices('Strawberry', 'Pear'))).toEqual({
      Strawbery: 'strawberry',
      Peach: undefined,
    });
  });
  it('not where two mean the same: which of them is meant can’t be told', () => {
    expect(pairs(['Frau'], choices('Mrs', 'Miss', 'Mr'))).toEqual({ Frau: undefined });
  });
  it('not by a code that a word has only by chance', () => {
    // "No" is a code of a country and of a language; in this list it is neither.
    expect(pairs(['Yes', 'No'], choices('Norway', 'Sweden'))).toEqual({ Yes: undefined, No: undefined });
  });
});
