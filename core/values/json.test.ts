import fc from 'fast-check';
import { isSafeNumber, parse } from 'lossless-json';
import { parseJsonExactly } from './json.ts';

const carefully = (text: string): unknown =>
  parse(text, undefined, { parseNumber: (digits) => (isSafeNumber(digits) ? Number(digits) : digits) });

describe('JSON is parsed so that no number loses a digit', () => {
  it.each([
    ['12345678901234567890', '12345678901234567890'],
    ['-12345678901234567890', '-12345678901234567890'],
    ['[1,12345678901234567890]', [1, '12345678901234567890']],
    ['{"a":\n\t0.12345678901234567890}', { a: '0.12345678901234567890' }],
    ['{"a":1e400}', { a: '1e400' }],
    ['[1.5e3]', [1500]],
    ['[ -0.1, 9007199254740993 ]', [-0.1, '9007199254740993']],
    ['{"id":"s_12e","mail":"1e5@meadow.example","at":"2026-11-27T03:58:28.825Z"}', expect.anything()],
  ])('%s', (text, parsed) => {
    expect(parseJsonExactly(text)).toEqual(parsed);
  });

  it('whatever stands in it, as one digit after another would be read', () => {
    const digits = fc.stringMatching(/^-?(0|[1-9]\d{0,24})(\.\d{1,24})?([eE][+-]?\d{1,3})?$/);
    const key = fc.string({ maxLength: 8 }).filter((name) => name !== '__proto__');
    const { json } = fc.letrec((tie) => ({
      json: fc.oneof(
        { depthSize: 'small' },
        digits,
        fc.string({ maxLength: 24 }).map((text) => JSON.stringify(text)),
        fc.constantFrom('true', 'false', 'null', '"s_12e"', '"1234567890123456789"', '": 1e5"'),
        fc.array(tie('json'), { maxLength: 4 }).map((items) => `[${items.join(' , ')}]`),
        fc
          .uniqueArray(fc.tuple(key, tie('json')), { maxLength: 4, selector: ([name]) => name })
          .map((pairs) => `{${pairs.map(([name, value]) => `${JSON.stringify(name)}:${String(value)}`).join(',')}}`),
      ),
    }));
    fc.assert(
      fc.property(json, (text) => {
        expect(parseJsonExactly(text as string)).toEqual(carefully(text as string));
      }),
      { numRuns: 2_000 },
    );
  });
});
