import fc from 'fast-check';
import { readExpression, withNamesIn, withNamesInCondition, type Submitted } from './index.ts';

const moved = (was: string, is: string) => (name: string) => (name === was ? is : name);

it('an expression names fields by what they are called now, and is otherwise as it was written', () => {
  const text = ' form.a  + form [ "b c" ].trim() + ( form . a ) + record["a"] // form.a\n';
  expect(withNamesIn(text, moved('a', 'first'))).toBe(
    ' form.first  + form [ "b c" ].trim() + ( form.first ) + record.first // form.a\n',
  );
  expect(withNamesIn(text, moved('b c', 'd'))).toBe(text.replace('form [ "b c" ]', 'form.d'));
  expect(withNamesIn('form.a == "form.a"', moved('a', 'x[0][y"]'))).toBe('form["x[0][y\\"]"] == "form.a"');
  expect(withNamesIn('form.list.map(a, a + form.a)', moved('a', 'b'))).toBe('form.list.map(a, a + form.b)');
  expect(withNamesIn('form.a ? form.abc : form.b', moved('a', 'in'))).toBe('form["in"] ? form.abc : form.b');
});

it('one that can’t be read, names nothing, or would be too long stays as it is', () => {
  for (const text of ['form.a +', 'x.a', '', '1 + 2', 'form', 'form.a'.repeat(500)])
    expect(withNamesIn(text, () => 'b')).toBe(text);
  const long = `form.a == "${'x'.repeat(1_960)}"`;
  expect(withNamesIn(long, moved('a', 'b'))).toBe(long.replace('form.a', 'form.b'));
  expect(withNamesIn(long, moved('a', 'b'.repeat(100)))).toBe(long);
});

it('a condition’s comparisons and its expression go by the new name', () => {
  const condition = {
    ...{ match: 'all' as const, parts: [{ field: 'a', test: 'is' as const, value: 'a' }] },
    expression: 'form.a == "a"',
  };
  expect(withNamesInCondition(condition, moved('a', 'b'))).toEqual({
    ...{ match: 'all', parts: [{ field: 'b', test: 'is', value: 'a' }] },
    expression: 'form.b == "a"',
  });
});

it('comes to the same as before, whatever a field is called', () => {
  const name = fc.string({ minLength: 1, maxLength: 12 }).filter((each) => each.isWellFormed() && each !== 'other');
  const texts = fc.constantFrom('', 'x', '3', 'other');
  const pattern = fc.constantFrom(
    'A == B ? A : B',
    '[A, B].filter(x, x != "") .map(x, x + A).join("/")',
    'A+"A"+B',
    '!blank(A)',
  );
  fc.assert(
    fc.property(name, name, texts, texts, pattern, (was, is, a, b, how) => {
      const source = (called: string): string => `form[${JSON.stringify(called)}]`;
      const text = how.replaceAll(/\bA\b(?!")/g, source(was)).replaceAll('B', 'form.other');
      const run = (expression: string, called: string): unknown => {
        const read = readExpression(expression, [{ name: called }, { name: 'other' }]);
        if (!read.ok) return read.reason;
        const values: Submitted = Object.fromEntries([
          [called, a],
          ['other', b],
        ]);
        return read.evaluate(values);
      };
      expect(run(withNamesIn(text, moved(was, is)), is)).toEqual(run(text, was));
    }),
  );
});
