/**
 * Texts that send patterns and parsers into more than linear work: long runs that almost fit. In the square of such a
 * length a test never ends, which is how it fails.
 * @param length characters of each, about
 */
export function awkwardTexts(length: number): [string, string][] {
  const run = (piece: string): string => piece.repeat(Math.ceil(length / piece.length));
  return [
    ['digits, then a letter', `${run('1')}x`],
    ['digits and points', `${run('1.')}x`],
    ['points', `${run('.')}x`],
    ['spaces', `a${run(' ')}b`],
    ['spaces of all kinds', `a${run(' \t\n\u00a0\u2003')}b`],
    ['commas', `a${run(', ')}b`],
    ['at signs', `${run('a@')}b`],
    ['one long word before an at sign', `${run('a')}@`],
    ['dots in a domain', `a@${run('a.')}`],
    ['angle brackets', `${run('<')}a@b.example>`],
    ['stars and colons', `${run('*:')}x`],
    ['plus signs', `${run('+1')}x`],
    ['slashes', `https://${run('a/')}`],
    ['a host without end', `https://${run('a')}`],
    ['question marks', `https://a.example/${run('?')}#`],
    ['quotes', `${run('“')}x`],
    ['hyphens', `12${run('-')}x`],
    ['brackets', run('[0]')],
    ['house numbers', `Am Deich ${run('1-2 ')}!`],
    ['postcodes', `Hof, ${run('21614 ')}!`],
    ['characters that grow when normalised', run('\ufdfa')],
    ['combining marks', `a${run('\u0301')}`],
    ['halves of characters', run('\ud83d')],
    ['null characters', run('\u0000')],
    ['capitals after small letters', run('aB')],
    ['one word a character', run('a ')],
    ['extensions', `030 ${run('x 1')}`],
  ];
}
