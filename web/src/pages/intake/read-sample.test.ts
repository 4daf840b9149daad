import { readSample } from './read-sample.ts';

describe('a pasted sample', () => {
  it.each([
    ['{"a": 1, "b": ["x", "y"], "c": {"d": true}}', { a: '1', b: ['x', 'y'], 'c[d]': 'true' }],
    ['a=1&b=x%20y&b=z', { a: '1', b: ['x y', 'z'] }],
    ['a=1\nb=two words\n\n', { a: '1', b: 'two words' }],
    ['  mail=k%40b.example  ', { mail: 'k@b.example' }],
    ['a=', { a: '' }],
  ])('%s', (text, values) => expect(readSample(text)).toEqual({ ok: true, values }));

  it.each([
    ['{"a": ', /not valid JSON/],
    ['[1, 2]', /object of fields/],
    ['just words', /“just words” has no “=”/],
    [`${'{"a":'.repeat(12)}1${'}'.repeat(12)}`, /deeper than 8/],
  ])('%s is refused in words', (text, words) => {
    const read = readSample(text);
    expect(read.ok ? '' : read.reason).toMatch(words);
  });
});
