import fc from 'fast-check';
import { describeCondition, expressionOf, holds, outcomesOf, readExpression, type Condition } from './index.ts';

const fields = [
  { name: 'hectares', type: 'number' },
  { name: 'crops', type: 'options', multiple: true, options: [{ value: 'Apple' }, { value: 'Pear' }] },
  { name: 'lang', type: 'option', options: [{ value: 'de' }, { value: 'pl' }] },
  { name: 'items[0][qty]', type: 'text' },
  { name: 'note', type: 'long text' },
];

const compiled = (text: string) => {
  const expression = readExpression(text, fields);
  if (!expression.ok) throw new Error(expression.reason);
  return expression;
};

describe('a computed value', () => {
  it('reads fields by name, also those that are no identifiers', () => {
    const expression = compiled('form.note + "/" + form["items[0][qty]"]');
    expect(expression.reads).toEqual(['note', 'items[0][qty]']);
    expect(expression.evaluate({ note: 'a', 'items[0][qty]': '3' })).toBe('a/3');
  });

  it('reads a field that is called what every object has something of', () => {
    const expression = readExpression('form.constructor + "!"', [{ name: 'constructor' }]);
    if (!expression.ok) throw new Error(expression.reason);
    expect(expression.evaluate({ constructor: 'Zimmermann' } as never)).toBe('Zimmermann!');
    expect(expression.evaluate({})).toBe('!');
  });

  it('takes a blank as an empty text, and a choice of several as a list even when one is sent', () => {
    expect(compiled('blank(form.note) ? "nothing" : form.note').evaluate({})).toBe('nothing');
    expect(compiled('form.crops.join("+")').evaluate({ crops: 'Apple' })).toBe('Apple');
    expect(compiled('size(form.crops)').evaluate({ crops: ['Apple', 'Pear'] })).toBe(2);
  });

  it('reads numbers with the decimal mark it is told', () => {
    expect(compiled('number(form.hectares, "comma") * 2.0').evaluate({ hectares: '1.234,5' })).toBe(2469);
    expect(() => compiled('number(form.hectares)').evaluate({ hectares: 'many' })).toThrow('“many” is not a number');
  });

  it('goes on with the value so far', () => {
    expect(compiled('value + "!"').evaluate({}, 'x')).toBe('x!');
  });
});

describe('an expression that will not do', () => {
  it.each([
    ['form.nope', 'The form has no field “nope”', 'form.nope'],
    ['record.nope', 'The record has no field “nope”', 'record.nope'],
    ['note + "x"', '“note” is not known here; a field is written form.note', 'note'],
    ['1 + "a"', "int + string can't be worked out; convert one side, with number() or string()", '1 + "a"'],
    [
      'form.note.matches("(a+)+$")',
      'Patterns are not offered here; use contains, startsWith or endsWith',
      'form.note.matches("(a+)+$")',
    ],
    ['form', 'Name a field of the form, as in form.name', 'form'],
    ['form[form.note]', 'A field is named by its text, as in form["name"]', 'form[form.note]'],
  ])('%s says why and where', (text, reason, where) => {
    const trouble = readExpression(text, fields);
    expect(trouble.ok).toBe(false);
    if (trouble.ok) return;
    expect(trouble.reason).toBe(reason);
    expect(text.slice(trouble.from, trouble.to)).toBe(where);
  });

  it('is refused when its time could grow without bound', () => {
    const nested = 'form.crops.map(a, form.crops.map(b, form.crops.map(c, a + b + c)))';
    expect(readExpression(nested, fields)).toMatchObject({ ok: false, reason: expect.stringContaining('two inside') });
    const long = Array.from({ length: 400 }, () => '1').join('+');
    expect(readExpression(long, fields).ok).toBe(false);
    expect(readExpression('"x"'.padEnd(2100), fields).ok).toBe(false);
  });

  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const result = readExpression(text, fields);
        if (!result.ok) expect(result.from).toBeLessThanOrEqual(Math.max(result.to, text.length));
      }),
    );
  });
});

describe('a condition', () => {
  const picked = (...parts: Condition['parts']): Condition => ({ match: 'all', parts });

  it('holds as its words say', () => {
    const condition = picked(
      { field: 'hectares', test: 'is more than', value: '5' },
      { field: 'crops', test: 'has', value: 'Apple' },
    );
    expect(describeCondition(condition, (name) => name)).toBe('hectares is more than 5 and crops has Apple');
    expect(holds(condition, { hectares: '6', crops: ['Pear', 'Apple'] }, fields)).toEqual({ ok: true, holds: true });
    expect(holds(condition, { hectares: '6', crops: 'Pear' }, fields)).toEqual({ ok: true, holds: false });
    expect(holds(condition, { crops: 'Apple' }, fields)).toEqual({ ok: true, holds: false });
  });

  it('holds always when nothing is asked, and says so when it comes to neither yes nor no', () => {
    expect(holds(undefined, {}, fields)).toEqual({ ok: true, holds: true });
    expect(holds(picked(), {}, fields)).toEqual({ ok: true, holds: true });
    expect(holds({ match: 'all', parts: [], expression: 'form.note' }, { note: 'x' }, fields)).toMatchObject({
      ok: false,
    });
  });

  it('treats hostile values as texts, never as parts of the expression', () => {
    fc.assert(
      fc.property(fc.string(), (value) => {
        const condition = picked({ field: 'note', test: 'is', value });
        expect(expressionOf(condition, fields)).toContain('form.note ==');
        expect(holds(condition, { note: value }, fields)).toEqual({ ok: true, holds: true });
      }),
      { examples: [[' '], ['\t\n'], ['']] },
    );
  });

  it('is found to hold never or always on its options', () => {
    const never = picked({ field: 'lang', test: 'is', value: 'de' }, { field: 'lang', test: 'is', value: 'pl' });
    expect(outcomesOf(never, fields)).toEqual({ ever: false, always: false });
    const always: Condition = { match: 'any', parts: [{ field: 'lang', test: 'is not', value: 'xx' }] };
    expect(outcomesOf(always, fields)).toEqual({ ever: true, always: true });
    expect(outcomesOf(picked({ field: 'lang', test: 'is', value: 'de' }), fields)).toEqual({
      ever: true,
      always: false,
    });
    expect(outcomesOf(picked({ field: 'note', test: 'is', value: 'de' }), fields)).toBeUndefined();
  });
});

describe('behind an operator with one operand', () => {
  it('fields are read all the same: what is not blank holds', () => {
    const condition = { match: 'all' as const, parts: [{ field: 'note', test: 'is not blank' as const }] };
    expect(holds(condition, { note: 'x' }, fields)).toEqual({ ok: true, holds: true });
    expect(holds(condition, { note: '' }, fields)).toEqual({ ok: true, holds: false });
    expect(holds(condition, {}, fields)).toEqual({ ok: true, holds: false });
  });

  it('what is not offered is found all the same', () => {
    expect(readExpression('!form.note.matches("(a+)+$")', fields)).toMatchObject({ ok: false });
    expect(readExpression('-number(form.nope)', fields)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('“nope”'),
    });
  });
});
