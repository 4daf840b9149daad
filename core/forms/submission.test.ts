import fc from 'fast-check';
import { collectValues, flattenPayload } from './index.ts';

const LIMITS = { fields: 1000, depth: 8 };

describe('submitted values', () => {
  it('make a list of a name that comes again, in order', () => {
    expect({
      ...collectValues([
        ['a', '1'],
        ['b', 'x'],
        ['a', '2'],
        ['a', '1'],
      ]),
    }).toEqual({ a: ['1', '2', '1'], b: 'x' });
  });
  it('have no prototype to reach', () => {
    const values = collectValues([
      ['__proto__', 'x'],
      ['constructor', 'y'],
    ]);
    expect(Object.getPrototypeOf(values)).toBeNull();
    expect(({} as Record<string, unknown>)['x']).toBeUndefined();
    expect(values['constructor']).toBe('y');
  });
});

describe('payloads', () => {
  it('flatten to the names a form would send, numbers and yes or no as they are', () => {
    const flat = flattenPayload({ a: 1, b: { c: true, d: [1, 2] }, items: [{ qty: 2 }, { qty: null }] }, LIMITS);
    expect(flat.ok && { ...flat.values }).toEqual({
      a: 1,
      'b[c]': true,
      'b[d]': ['1', '2'],
      'items[0][qty]': 2,
      'items[1][qty]': '',
    });
  });
  it('lose no plain value', () => {
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.string({ minLength: 1 }).filter((key) => key !== '__proto__'),
          fc.string(),
        ),
        (payload) => {
          const flat = flattenPayload(payload, LIMITS);
          return flat.ok && Object.entries(payload).every(([key, value]) => flat.values[key] === value);
        },
      ),
    );
  });
  it('are refused by name when they nest too deep, hold too much, or aim at prototypes', () => {
    let deep: unknown = 'x';
    for (let level = 0; level < 20; level += 1) deep = { a: deep };
    expect(flattenPayload(deep, LIMITS)).toMatchObject({ ok: false, reason: expect.stringContaining('deeper than 8') });
    expect(
      flattenPayload(Object.fromEntries(Array.from({ length: 1001 }, (_, at) => [`f${at}`, ''])), LIMITS),
    ).toMatchObject({ ok: false, reason: expect.stringContaining('more than 1000') });
    expect(flattenPayload(JSON.parse('{"__proto__": {"x": 1}}'), LIMITS)).toMatchObject({
      ok: false,
      field: '__proto__',
    });
    expect(flattenPayload([1], LIMITS).ok).toBe(false);
  });
});
