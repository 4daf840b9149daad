import { connect } from 'node:net';
import { awkwardTexts } from '../../core/testing/awkward.ts';
import type { EvilServer } from './evil-server.ts';
import { many } from './many.ts';
import * as books from './workbooks.ts';

/** What an attack works with. */
export interface Arena {
  address: string;
  /** Signed in with a role; resolves with the status. */
  as(role: 'viewer' | 'specialist' | 'administrator', method: string, path: string, body?: BodyLike): Promise<number>;
  /** Signed in as a specialist; resolves with what was answered, as JSON. */
  ask(method: string, path: string, body?: BodyLike): Promise<{ status: number; body: Answer }>;
  /** Without signing in. */
  post(path: string, body: BodyLike, headers?: Record<string, string>): Promise<number>;
  /** 1 for the trial at length; a fraction of it in the test suite. */
  size: number;
  /** A server of the attacker's, and what it answers. */
  evil: EvilServer;
}
/** The little that an attack needs to read of answers. */
interface Answer {
  intakes?: { id: string; key: string }[];
  file?: { id: string };
  submissions?: { id: string }[];
}
type BodyLike = string | Uint8Array | URLSearchParams | FormData;

export interface Attack {
  name: string;
  /** @returns the statuses that came back */
  run(arena: Arena): Promise<number[]>;
}

const together = <T>(count: number, work: (at: number) => Promise<T>): Promise<T[]> =>
  Promise.all(Array.from({ length: count }, (_, at) => work(at)));
const json = (value: unknown): string => JSON.stringify(value);
const field = (name: string, label: string, more: object = {}) => ({ name, label, type: 'text', ...more });

const PERSON = {
  contact_first: 'Kathi',
  contact_last: 'Brandt',
  contact_email: 'kathi@biene.example',
  plz: '21614',
};

/** Everything a stranger, a viewer or a system can be meant to do harm with, as far as we could think of it. */
export const ATTACKS: Attack[] = [
  {
    name: 'digits without end in a number',
    run: ({ post, size }) =>
      together(6, (at) =>
        post(
          '/in/pollination-enquiry',
          new URLSearchParams({ ...PERSON, hectares: `${'1'.repeat(600_000 * size)}x`, n: String(at) }),
        ),
      ),
  },
  {
    name: 'awkward texts under every name of the form',
    run: async ({ post, size }) => {
      const names = [
        'contact_first',
        'contact_last',
        'contact_email',
        'contact_phone',
        'hectares',
        'blossom',
        'crops',
        'message',
        'plz',
        'town',
        'street',
        'house_no',
      ];
      const statuses: number[] = [];
      for (const [, text] of awkwardTexts(90_000 * size))
        for (const name of names.slice(0, Math.ceil(names.length * size)))
          statuses.push(await post('/in/pollination-enquiry', new URLSearchParams({ ...PERSON, [name]: text })));
      return statuses;
    },
  },
  {
    name: 'texts just short enough to be read',
    run: ({ post }) =>
      Promise.all(
        awkwardTexts(400).flatMap(([, text]) =>
          ['hectares', 'contact_email', 'contact_phone', 'contact_last', 'street'].map((name) =>
            post('/in/pollination-enquiry', new URLSearchParams({ ...PERSON, [name]: text.slice(0, 290) })),
          ),
        ),
      ),
  },
  {
    name: 'JSON that is deep, wide, repeated, or half a character',
    run: ({ post }) =>
      Promise.all(
        [
          `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`,
          `[${'['.repeat(200_000)}`,
          `{${many(80_000, (at) => `"k${at}":1,`)}"z":1}`,
          `{"a":[${many(200_000, () => '1,')}1]}`,
          '{"a":1,"a":2}',
          '{"__proto__":{"x":1},"constructor":{"prototype":{"y":1}}}',
          '{"a":"\\ud800"}',
          `{"a":${'9'.repeat(500_000)}}`,
          `{"a":1e${'9'.repeat(1000)}}`,
          `{"${'n'.repeat(500_000)}":1}`,
          '\u0000\u0001',
        ].map((body) => post('/in/pollination-enquiry', body, { 'Content-Type': 'application/json' })),
      ),
  },
  {
    name: 'forms of many parts, many rows, many files, and broken ones',
    run: ({ post }) => {
      const parts = new FormData();
      for (let at = 0; at < 3000; at += 1) parts.append(`f${at}`, 'x');
      const files = new FormData();
      for (let at = 0; at < 50; at += 1) files.append('photo', new Blob(['x']), `${at}.jpg`);
      const rows = new URLSearchParams(
        Array.from({ length: 900 }, (_, at): [string, string] => [`attendees[${at}][first]`, `A${at}`]),
      );
      const broken = { 'Content-Type': 'multipart/form-data; boundary=x' };
      return Promise.all([
        post('/in/pollination-enquiry', parts),
        post('/in/swarm-report', files),
        post('/in/beginners-course', rows),
        post(
          '/in/beginners-course',
          new URLSearchParams(
            Array.from({ length: 900 }, (_, at): [string, string] => [`x[${10 ** 12 + at}][y]`, '1']),
          ),
        ),
        post('/in/pollination-enquiry', '--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n', broken),
        post('/in/pollination-enquiry', `--x\r\n${'A: b\r\n'.repeat(100_000)}`, broken),
        post('/in/pollination-enquiry', 'a=%E0%A4%A', { 'Content-Type': 'application/x-www-form-urlencoded' }),
        post('/in/pollination-enquiry', '&'.repeat(900_000), { 'Content-Type': 'application/x-www-form-urlencoded' }),
        post('/in/pollination-enquiry', `a=${'%41'.repeat(300_000)}`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        // In an old page's encoding, to the limit: letters, references by number, and half of a name.
        post('/in/pollination-enquiry', `a=${'%fc%26%23322;'.repeat(70_000)}`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        post('/in/pollination-enquiry', `_charset_=${'x'.repeat(900_000)}&a=%ff`, {
          'Content-Type': 'application/x-www-form-urlencoded',
        }),
        post(
          '/in/pollination-enquiry',
          new Uint8Array(
            Buffer.from(
              `--x\r\nContent-Disposition: form-data; name="\xfc"\r\n\r\n${'\xfc'.repeat(900_000)}\r\n--x--\r\n`,
              'latin1',
            ),
          ),
          broken,
        ),
      ]);
    },
  },
  {
    name: 'a flood of posts about one person and about many',
    run: async ({ post, size }) => {
      const statuses: number[] = [];
      let at = 0;
      await together(24, async () => {
        while ((at += 1) < 3000 * size) {
          const email = at % 2 === 0 ? PERSON.contact_email : `flood${at}@biene.example`;
          statuses.push(
            await post(
              '/in/pollination-enquiry',
              new URLSearchParams({ ...PERSON, contact_email: email, message: String(at) }),
            ),
          );
        }
      });
      return statuses;
    },
  },
  {
    name: 'connections that say nothing, or a byte at a time',
    run: async ({ address, size }) => {
      const { hostname, port } = new URL(address);
      const sockets = Array.from({ length: Math.ceil(400 * size) }, (_, at) => {
        const socket = connect(Number(port), hostname);
        socket.on('error', () => undefined);
        if (at % 2 === 0)
          socket.write('POST /in/pollination-enquiry HTTP/1.1\r\nHost: x\r\nContent-Length: 100000\r\n\r\n');
        return socket;
      });
      for (let beat = 0; beat < 20; beat += 1) {
        for (const socket of sockets) if (socket.writable) socket.write('a');
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      for (const socket of sockets) socket.destroy();
      return [];
    },
  },
  {
    name: 'pages made to be read slowly',
    run: async ({ as, size }) => {
      const n = Math.ceil(80_000 * size);
      const pages = [
        `<form>${many(n, (at) => `<input name=f${at}>`)}</form>`,
        `<form><label>${many(n, (at) => `<input name=f${at}>`)}</label></form>`,
        `<form>${many(n, () => '<label>Name <input></label>')}</form>`,
        `<form>${many(n, (at) => `<input name=a-${at + 2}><input id=a>`)}</form>`,
        `<form>${many(n, (at) => `<label>${at} <input name=f></label>`)}</form>`,
        `<form>${many(600, (at) => `<input name=f${at} aria-labelledby="${'long '.repeat(600)}">`)}</form><div id=long>${'word '.repeat(100_000)}</div>`,
        `<form><label for=a>${'*'.repeat(1_000_000 * size)}</label><input id=a name=a></form>`,
        `<form><label for=a>${' '.repeat(1_000_000 * size)}x${'*: '.repeat(100_000)}y</label><input id=a name=a></form>`,
        '<div><p>'.repeat(Math.ceil(500_000 * size)),
        `<table>${'<tr><td>'.repeat(Math.ceil(100_000 * size))}`,
        '<b><i><a href=x>'.repeat(Math.ceil(100_000 * size)),
        `<form><select name=s>${many(n, (at) => `<option>${at}</option>`)}</select></form>`,
      ];
      const statuses: number[] = [];
      for (const html of pages) statuses.push(await as('viewer', 'POST', '/forms/read', json({ html })));
      return statuses;
    },
  },
  {
    name: 'suggestions for fields that are all alike, or called by the strangest texts',
    run: async ({ as, size }) => {
      const n = Math.ceil(700 * size);
      const alike = Array.from({ length: n }, (_, at) => field(`email_${at}`, 'Your e-mail address'));
      const long = Array.from({ length: Math.ceil(200 * size) }, (_, at) =>
        field(
          `f${at}`,
          many(400, (w) => `word${(w * at) % 97} `),
        ),
      );
      const strange = awkwardTexts(1_500).map(([, text], at) =>
        field(`s${at}`, text.toWellFormed().replaceAll('\u0000', ' ')),
      );
      const options = Array.from({ length: 40 }, (_, at) =>
        field(`o${at}`, 'Colour', { options: Array.from({ length: 1000 }, (_each, o) => `o${o}`) }),
      );
      const statuses: number[] = [];
      for (const fields of [alike, long, strange, options])
        statuses.push(
          await as('viewer', 'POST', '/mapping/suggest', json({ fields, entities: [{ name: 'E', fields }] })),
        );
      return statuses;
    },
  },
  {
    name: 'one person asking for more than their share at once',
    run: ({ as, size }) => {
      const fields = Array.from({ length: Math.ceil(500 * size) }, (_, at) =>
        field(`email_${at}`, 'Your e-mail address'),
      );
      return together(20, () =>
        as('viewer', 'POST', '/mapping/suggest', json({ fields, entities: [{ name: 'E', fields }] })),
      );
    },
  },
  {
    name: 'questions without sense or end',
    run: async ({ as }) => {
      const paths = [
        'limit=-1',
        'limit=1.5',
        'limit=1e9',
        'before=-1',
        `text=${'a%20'.repeat(2000)}`,
        `text=${'%25'.repeat(2000)}`,
        'from=nonsense',
        'text=%00',
        'state=%F0%9F%98%80',
      ]
        .flatMap((query) => [`/ledger?${query}`, `/submissions?${query}`, `/find?${query}`])
        .concat(['/today?range=__proto__', '/submissions/%00', '/intakes/%ff', `/files/${'a'.repeat(5000)}`]);
      const statuses: number[] = [];
      for (const path of paths) statuses.push(await as('viewer', 'GET', path));
      return statuses;
    },
  },
  {
    name: 'files made to end their reader',
    run: async ({ as, size }) => {
      const made: [string, () => Uint8Array][] = [
        ['sound', books.sound],
        ['validated', books.validated],
        ['merged', books.merged],
        ['far row', books.farRow],
        ['last cell', books.lastCell],
        ['laughing', books.laughing],
        ['large', () => books.large(Math.ceil(100_000 * size))],
        ...(size === 1
          ? ([
              ['bomb', books.bomb],
              ['lying', books.lying],
            ] as [string, () => Uint8Array][])
          : []),
        ['quotes', () => Buffer.alloc(10_000_000 * size, '"')],
        ['commas', () => Buffer.alloc(10_000_000 * size, ',')],
        ['bytes', () => Buffer.from(Array.from({ length: 50_000 }, (_, at) => (at * 7919) % 256))],
      ];
      const statuses: number[] = [];
      for (const [name, make] of made)
        statuses.push(await as('specialist', 'POST', `/files?name=${encodeURIComponent(name)}`, make()));
      return statuses;
    },
  },
  {
    name: 'a system that answers without end, in drips, enormously, or in riddles',
    run: async ({ as, evil, size }) => {
      const statuses: number[] = [];
      for (const path of [
        'endless',
        ...(size === 1 ? ['drip'] : []),
        'wide',
        'nested',
        'entities',
        'garbage',
        'redirect',
        'page',
      ])
        statuses.push(
          await as(
            'administrator',
            'POST',
            '/systems/try',
            json({ address: `${evil.address}/${path}/`, token: 'evil-token-123' }),
          ),
        );
      for (const path of ['endless', 'nested', 'redirect'])
        statuses.push(await as('specialist', 'POST', '/pages/read', json({ address: `${evil.address}/${path}/` })));
      return statuses;
    },
  },
  {
    name: 'APIs that are described, or answer, to do harm',
    run: async ({ as, evil, size }) => {
      const look = (body: object): Promise<number> => as('administrator', 'POST', '/systems/look', json(body));
      const statuses: number[] = [];
      for (const text of descriptions(size)) statuses.push(await look({ text }));
      for (const path of ['list', 'round', 'endless', 'garbage', 'redirect', 'nested'])
        statuses.push(await look({ address: `${evil.address}/${path}/things` }));
      const fields = Array.from({ length: Math.ceil(900 * size) }, (_, at) => ({
        ...field(`f${at}`, `F ${at}`),
        at: `/f${at}`,
      }));
      const entities = Array.from({ length: 30 }, (_, at) => ({
        name: `e${at}`,
        label: `E ${at}`,
        key: ['f0'],
        fields,
        find: [],
        repeat: { by: 'none' },
        list: { path: `/e${at}`, query: [], records: '', paging: { kind: 'cursor', at: '/next', parameter: 'c' } },
      }));
      const adapter = {
        format: 1,
        name: 'Evil',
        address: `${evil.address}/round`,
        signIn: { kind: 'none' },
        headers: [],
        refusal: { waits: [] },
        parallel: 64,
        entities,
      };
      statuses.push(
        await as(
          'administrator',
          'POST',
          '/systems',
          json({ kind: 'json', name: `Evil ${Math.round(size * 1000)}`, practice: true, adapter }),
        ),
      );
      statuses.push(
        await as(
          'administrator',
          'POST',
          '/systems',
          json({
            kind: 'json',
            name: 'Worse',
            practice: true,
            adapter: { ...adapter, entities: Array(5_000).fill(entities[0]) },
          }),
        ),
      );
      return statuses;
    },
  },
  {
    name: 'wide files rehearsed, many large submissions alike, and searches over all of it',
    run: async ({ ask, as, post, size }) => {
      const { intakes = [] } = (await ask('GET', '/intakes')).body;
      const { id } = intakes.find(({ key }) => key === 'pollination-enquiry')!;
      const texts = awkwardTexts(400).map(([, text]) => text.replace(/["\r\n]/g, ' '));
      const names = ['contact_first', 'contact_last', 'contact_email', 'street', 'town', 'message'];
      const rows = Array.from({ length: Math.ceil(220 * size) }, (_, at) =>
        names.map((name, column) =>
          name === 'message'
            ? `"${'words and '.repeat(1900)}"`
            : `"${texts[(at + column) % texts.length]!.slice(0, 250)}"`,
        ),
      );
      const uploaded = await ask('POST', '/files?name=wide.csv', Buffer.from([names, ...rows].join('\n')));
      const statuses = [uploaded.status];
      const rehearsal = json({ file: uploaded.body.file?.id });
      statuses.push(
        ...(await together(6, () => as('specialist', 'POST', `/intakes/${id}/imports/rehearsal`, rehearsal))),
      );
      // All refused for the same reason: nobody's family name.
      const large = new URLSearchParams({ ...PERSON, contact_last: '', message: 'to and fro '.repeat(1700) });
      const { contact_email: _, ...unknown } = Object.fromEntries(large);
      statuses.push(
        ...(await together(Math.ceil(200 * size), () => post('/in/pollination-enquiry', new URLSearchParams(unknown)))),
      );
      const { submissions = [] } = (await ask('GET', `/submissions?intake=${id}`)).body;
      const paths = [
        `/submissions/${submissions[0]?.id}/alike`,
        '/review',
        ...['to and fro', 'ada 030 23125', 'P-00001', 'x@y.example'].flatMap((text) => [
          `/find?text=${encodeURIComponent(text)}`,
          `/review?text=${encodeURIComponent(text)}`,
          `/ledger?text=${encodeURIComponent(text)}`,
        ]),
      ];
      for (const path of paths) statuses.push(...(await together(4, () => as('specialist', 'GET', path))));
      return statuses;
    },
  },
  {
    name: 'documents and rehearsals as large as they may be',
    run: async ({ as, size }) => {
      const fields = Array.from({ length: Math.ceil(1000 * size) }, (_, at) => ({
        ...field(`f${at}`, `Field ${at}`),
        required: false,
      }));
      const document = {
        name: 'Large',
        source: { kind: 'program' },
        fields,
        plan: { steps: [] },
        settings: { perMinute: 60 },
      };
      const key = `large-${Math.round(size * 1000)}`;
      const options = Array.from({ length: 60 }, (_, at) => ({ value: `v${at}`, label: `Option ${at}` }));
      const chosen = { ...document, fields: fields.map((each) => ({ ...each, type: 'option', options })) };
      const statuses = [await as('specialist', 'POST', '/intakes', json({ key, document }))];
      statuses.push(
        await as(
          'specialist',
          'POST',
          '/intakes/00000000-0000-0000-0000-000000000000/rehearse',
          json({ document: chosen, samples: [] }),
        ),
      );
      const samples = Array.from({ length: Math.ceil(200 * size) }, () =>
        Object.fromEntries(fields.slice(0, 100).map(({ name }) => [name, 'x'.repeat(100)])),
      );
      statuses.push(
        await as(
          'specialist',
          'POST',
          '/intakes/00000000-0000-0000-0000-000000000000/rehearse',
          json({ document, samples }),
        ),
      );
      statuses.push(await as('specialist', 'POST', '/intakes', '{"key":'.repeat(10_000)));
      return statuses;
    },
  },
];

/** Descriptions of APIs (OpenAPI) that are large, lead round in circles, or unfold without end. */
function descriptions(size: number): string[] {
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
