import { awkwardTexts } from '../../core/testing/awkward.ts';
import { field, json, PERSON, together, type Attack } from './arena.ts';
import { descriptions } from './descriptions.ts';
import { many } from './many.ts';
import * as books from './workbooks.ts';

/** What somebody with access, a page, a file or a system can do. */
export const FROM_WITHIN: Attack[] = [
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
    run: async ({ as, ask, size }) => {
      const { intakes = [] } = (await ask('GET', '/intakes')).body;
      const { id } = intakes.find(({ key: named }) => named === 'pollination-enquiry')!;
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
      statuses.push(await as('specialist', 'POST', `/intakes/${id}/rehearse`, json({ document: chosen, samples: [] })));
      const samples = Array.from({ length: Math.ceil(200 * size) }, () =>
        Object.fromEntries(fields.slice(0, 100).map(({ name }) => [name, 'x'.repeat(100)])),
      );
      statuses.push(await as('specialist', 'POST', `/intakes/${id}/rehearse`, json({ document, samples })));
      statuses.push(await as('specialist', 'POST', '/intakes', '{"key":'.repeat(10_000)));
      return statuses;
    },
  },
];
