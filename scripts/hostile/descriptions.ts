import { json } from './arena.ts';

/** Descriptions of APIs (OpenAPI) that are large, lead round in circles, or unfold without end. */
export function descriptions(size: number): string[] {
  const count = Math.ceil(6_000 * size);
  const ref = (at: number): object => ({ $ref: `#/components/schemas/S${at % count}` });
  const linked = Object.fromEntries(
    Array.from({ length: count }, (_, at) => [
      `S${at}`,
      {
        type: 'object',
        properties: {
          id: { type: 'string' },
          a: ref(at + 1),
          b: ref(at * 7 + 1),
          c: { type: 'array', items: ref(at * 3) },
        },
        description: 'x'.repeat(400),
      },
    ]),
  );
  const every = Object.fromEntries(
    Array.from({ length: count }, (_, at) => [
      `S${at}`,
      { allOf: [ref(at + 1), ref(at + 2)], oneOf: Array(40).fill(ref(at + 3)) },
    ]),
  );
  const wide = {
    S0: {
      type: 'object',
      properties: Object.fromEntries(Array.from({ length: count * 15 }, (_, at) => [`p${at}`, { type: 'string' }])),
    },
  };
  const paths = Object.fromEntries(
    Array.from({ length: Math.ceil(500 * size) }, (_, at) => [
      `/s${at}`,
      {
        get: { responses: { 200: { content: { 'application/json': { schema: { type: 'array', items: ref(at) } } } } } },
      },
    ]),
  );
  const document = (schemas: object): string =>
    json({ openapi: '3.1.0', servers: [{ url: 'https://evil.example' }], paths, components: { schemas } });
  const names = 'abcdefghij'.split('');
  const bomb = names.map(
    (name, at) =>
      `${name}: &${name} [${Array(9)
        .fill(at === 0 ? 'x' : `*${names[at - 1]}`)
        .join(',')}]`,
  );
  return [
    document(linked),
    document(every),
    document(wide),
    `openapi: 3.1.0\n${bomb.join('\n')}\npaths: {/a: {get: *j}}`,
    `openapi: 3.1.0\npaths: ${'{a: '.repeat(3_000)}`,
    `${' '.repeat(1_000_000 * size)}openapi`,
  ];
}
