import fc from 'fast-check';
import {
  collectValues,
  compareArrivals,
  compareForms,
  fieldsOfTable,
  flattenPayload,
  inferFields,
  jsonSchemaOf,
  madeUp,
  readCsv,
  readJsonSchema,
  readPayloads,
  submissionOf,
  type Table,
} from './index.ts';
import { makeFormField } from '../testing/world.ts';

const field = makeFormField;
const kinds = (fields: ReturnType<typeof field>[]) => Object.fromEntries(fields.map(({ name, type }) => [name, type]));

describe('fields out of payloads', () => {
  it('infers kinds from what was sent, nested names as a form would send them', () => {
    const read = readPayloads(
      JSON.stringify({
        buyer: { email: 'ada@hive.example', phone: '+49 30 23125 001' },
        total: 49.5,
        paid: true,
        at: '2027-03-04T10:00:00Z',
        day: '2027-03-04',
        zip: '21614',
        items: [
          { sku: 'A1', qty: 2 },
          { sku: 'B2', qty: 1 },
        ],
      }),
    );
    expect(read.ok && kinds(read.fields)).toEqual({
      'buyer[email]': 'email',
      'buyer[phone]': 'phone',
      total: 'number',
      paid: 'yes/no',
      at: 'date and time',
      day: 'date',
      zip: 'text',
      'items[0][sku]': 'text',
      'items[0][qty]': 'number',
      'items[1][sku]': 'text',
      'items[1][qty]': 'number',
    });
    expect(read.ok && read.fields.find(({ name }) => name === 'items[0][qty]')).toMatchObject({
      group: 'items',
      label: 'Items qty',
    });
  });

  it('takes the kind that fits all samples, and sees choices and blanks only in several', () => {
    const crops = ['apple', 'pear', 'apple', 'plum', 'apple', 'pear', 'plum', 'apple', 'apple', 'pear'];
    const fields = inferFields(crops.map((crop, at) => ({ crop, n: at === 3 ? '' : String(at), always: `x${at}` })));
    expect(fields.find(({ name }) => name === 'crop')).toMatchObject({
      type: 'option',
      required: true,
      options: [{ value: 'apple' }, { value: 'pear' }, { value: 'plum' }],
    });
    expect(fields.find(({ name }) => name === 'n')).toMatchObject({ type: 'number', required: false });
    expect(fields.find(({ name }) => name === 'always')).toMatchObject({ type: 'text', required: true });
    expect(inferFields([{ a: '5' }, { a: 'five' }])[0]).toMatchObject({ type: 'text' });
    expect(inferFields([{ a: 'x' }])[0]).toMatchObject({ required: false });
  });

  it('reads JSON lines, lists, form-encoded lines and one name=value a line', () => {
    const samples = (text: string) => {
      const read = readPayloads(text);
      return read.ok ? read.samples : read.reason;
    };
    expect(samples('{"a":1}\n{"a":2}')).toEqual([{ a: 1 }, { a: 2 }]);
    expect(samples('[{"a":1},{"a":2}]')).toHaveLength(2);
    expect(samples('a=1&b=x+y\na=2&b=z')).toEqual([
      { a: '1', b: 'x y' },
      { a: '2', b: 'z' },
    ]);
    expect(samples('a=1\nb=2')).toEqual([{ a: '1', b: '2' }]);
    expect(samples('c=1&c=2')).toEqual([{ c: ['1', '2'] }]);
  });

  it('says what is wrong with what it can not read', () => {
    const reason = (text: string) => {
      const read = readPayloads(text);
      return read.ok ? '' : read.reason;
    };
    expect(reason('')).toBe('There is nothing in it.');
    expect(reason('{"a":')).toMatch(/^This is not valid JSON/);
    expect(reason('hello')).toBe('“hello” is neither JSON nor name=value.');
    expect(reason('[1]')).toMatch(/^Payload 1: it is no object of fields/);
    expect(reason(JSON.stringify({ a: { b: { c: { d: { e: { f: { g: { h: { i: 1 } } } } } } } } }))).toMatch(/deeper/);
  });
});

describe('a JSON Schema', () => {
  const form = [
    field('name', { label: 'Name', required: true, maxLength: 80 }),
    field('mail', { label: 'E-mail', type: 'email' }),
    field('address[city]', { label: 'City' }),
    field('crops', {
      label: 'Crops',
      type: 'options',
      multiple: true,
      options: [
        { value: 'a', label: 'Apple' },
        { value: 'p', label: 'Pear' },
      ],
    }),
    field('items[0][qty]', { label: 'Quantity', type: 'number', group: 'items', minimum: '1' }),
  ];

  it('goes out and comes in again as the same form', () => {
    const schema = jsonSchemaOf('Order', form);
    expect(schema).toMatchObject({
      required: ['name'],
      properties: { address: { type: 'object' }, items: { type: 'array' } },
    });
    expect(readJsonSchema(JSON.parse(JSON.stringify(schema)))).toEqual({
      ok: true,
      name: 'Order',
      fields: form,
      left: [],
    });
  });

  it('survives any flat form of texts (round trip)', () => {
    const name = fc.stringMatching(/^[a-z][a-z0-9_]{0,12}$/).filter((each) => each !== '__proto__');
    const fields = fc.uniqueArray(
      fc.record({
        name,
        label: fc.stringMatching(/^[A-Za-zäöüł][A-Za-zäöüł ]{0,20}[a-z]$/),
        type: fc.constantFrom('text' as const, 'email' as const, 'number' as const, 'date' as const, 'yes/no' as const),
        required: fc.boolean(),
      }),
      { selector: (each) => each.name, minLength: 1, maxLength: 12 },
    );
    fc.assert(
      fc.property(fields, (given) => {
        const read = readJsonSchema(jsonSchemaOf('F', given));
        expect(read.ok && read.fields).toEqual(given);
      }),
    );
  });

  it('follows $ref inside the document, and names what leads nowhere', () => {
    const read = readJsonSchema({
      type: 'object',
      required: ['to'],
      properties: { to: { $ref: '#/$defs/person' }, from: { $ref: '#/$defs/nobody' } },
      $defs: {
        person: {
          type: 'object',
          required: ['mail'],
          properties: { mail: { type: ['string', 'null'], format: 'email' } },
        },
      },
    });
    expect(read).toMatchObject({
      ok: true,
      fields: [{ name: 'to[mail]', type: 'email', required: true }],
      left: ['from: its $ref leads nowhere'],
    });
  });

  it('is refused in words when it defines no form', () => {
    expect(readJsonSchema('x')).toMatchObject({ ok: false });
    expect(readJsonSchema({ type: 'string' })).toEqual({
      ok: false,
      reason: 'It describes no object with properties.',
    });
    const endless: Record<string, unknown> = { type: 'object', properties: { self: { $ref: '#' } } };
    expect(readJsonSchema(endless)).toEqual({ ok: false, reason: 'It describes no field.' });
  });
});

describe('a CSV file', () => {
  const table = (text: string): Table => {
    const read = readCsv(text);
    if (!read.ok) throw new Error(read.reason);
    return read.table;
  };

  it.each([
    ['comma', 'a,b\n1,2'],
    ['semicolon', 'a;b\r\n1;2'],
    ['tabulator', 'a\tb\n1\t2'],
    ['bar', 'a|b\n1|2'],
    ['a spreadsheet’s hint', 'sep=;\na;b\n1;2'],
    ['byte order mark', '\uFEFFa;b\n1;2'],
  ])('is read whatever its delimiter: %s', (_, text) => {
    expect(table(text)).toMatchObject({ columns: ['a', 'b'], rows: [{ line: 2, cells: ['1', '2'] }], oddities: [] });
  });

  it('keeps quoted delimiters, quotes and line breaks in their cell', () => {
    expect(table('a,b\n"x, ""y""\nz",2').rows).toEqual([{ line: 2, cells: ['x, "y"\nz', '2'] }]);
  });

  it('names ragged rows and unclear headings instead of dropping anything', () => {
    const { columns, rows, oddities } = table('a,a,,b\n1,2,3,4\n5,6\n1,2,3,4,5');
    expect(columns).toEqual(['a', 'a (2)', 'column 3', 'b']);
    expect(rows).toHaveLength(3);
    expect(oddities).toEqual([
      { row: 1, what: 'the heading “a” comes twice' },
      { row: 1, what: 'column 3 has no heading' },
      { row: 3, what: 'has 2 cells, the heading has 4' },
      { row: 4, what: 'has 5 cells, the heading has 4' },
    ]);
    expect(submissionOf(columns, rows[1]!)).toEqual({ a: '5', 'a (2)': '6', 'column 3': '', b: '' });
    expect(submissionOf(columns, rows[2]!)).toBeUndefined();
  });

  it('refuses what is no table, with the row', () => {
    expect(readCsv('')).toEqual({ ok: false, reason: 'The file has no heading row.' });
    expect(readCsv('a,b\n')).toEqual({ ok: false, reason: 'The file has a heading and no rows.' });
    expect(readCsv('a,b\n1,"2')).toMatchObject({ ok: false, reason: expect.stringContaining('quotation mark') });
    expect(readCsv(Array.from({ length: 600 }, (_, at) => `c${at}`).join(',') + '\n1')).toMatchObject({ ok: false });
  });

  it('never evaluates a formula: it stays the text it is', () => {
    expect(table('a\n=1+1').rows).toEqual([{ line: 2, cells: ['=1+1'] }]);
  });

  it('tells kinds of columns by their rows', () => {
    const rows = Array.from(
      { length: 12 },
      (_, at) => `p${at}@hive.example;${at};2027-01-${10 + at};${at % 2 ? 'yes' : 'no'}`,
    );
    expect(kinds(fieldsOfTable(table(`E-mail;Hives;Since;Letters\n${rows.join('\n')}`)))).toEqual({
      'E-mail': 'email',
      Hives: 'number',
      Since: 'date',
      Letters: 'yes/no',
    });
  });
});

describe('a form that changes on its page', () => {
  const known = [
    field('fn', { label: 'First name' }),
    field('mail', { label: 'E-mail', type: 'email', required: true }),
    field('lang', { label: 'Language', type: 'option', options: [{ value: 'de', label: 'Deutsch' }] }),
    field('fax', { label: 'Fax' }),
  ];
  it('is compared field by field: new, gone, renamed, options, kind, required', () => {
    const now = [
      field('first', { label: 'First name' }),
      field('mail', { label: 'E-mail', type: 'text' }),
      field('lang', {
        label: 'Language',
        type: 'option',
        options: [
          { value: 'de', label: 'Deutsch' },
          { value: 'pl', label: 'Polski' },
        ],
      }),
      field('hives', { label: 'Hives' }),
    ];
    expect(compareForms(known, now).map(({ kind, name }) => `${kind} ${name}`)).toEqual([
      'renamed fn',
      'kind mail',
      'required mail',
      'new options lang',
      'gone fax',
      'new hives',
    ]);
    expect(compareForms(known, known)).toEqual([]);
    const relabelled = known.map((each) => (each.name === 'fax' ? { ...each, label: 'Telefax' } : each));
    expect(compareForms(known, relabelled)).toEqual([
      { kind: 'label', name: 'fax', what: '“Fax” is now called “Telefax”' },
    ]);
    const limited = known.map((each) => (each.name === 'fax' ? { ...each, maxLength: 20 } : each));
    expect(compareForms(known, limited)).toMatchObject([{ kind: 'details' }]);
  });

  it('is noticed in what arrives: unknown names with counts, fields that never come', () => {
    const arrived = [1, 2, 3, 4].map((at) => ({
      mail: 'x',
      hives: '3',
      submit: 'Send',
      ...(at > 2 ? { note: 'n' } : {}),
    }));
    expect(compareArrivals(known, arrived)).toEqual({
      unknown: [
        { name: 'hives', count: 4 },
        { name: 'note', count: 2 },
      ],
      missing: ['fn', 'fax'],
    });
    expect(compareArrivals(known, arrived.slice(0, 2)).missing).toEqual([]);
    const grouped = [field('items[0][qty]', { group: 'items' })];
    expect(compareArrivals(grouped, [{ 'items[0][qty]': '1', 'items[1][qty]': '2' }]).unknown).toEqual([]);
  });
});

describe('made-up values', () => {
  const personal = new Map([
    ['name', 'full name'],
    ['mail', 'email'],
    ['tel', 'phone'],
    ['note', 'text'],
  ] as const);
  it('have the shape of the real ones, and the same one everywhere', () => {
    const real = {
      name: ' KATHI MOOR ',
      mail: 'kathi.moor@hive.example',
      tel: '+49 30 23125 001',
      note: 'Gate 4b',
      hives: '3',
    };
    const made = madeUp(real, personal, 's');
    expect(made['name']).toMatch(/^ [\p{Lu} ]+ $/u);
    expect(made['mail']).toMatch(/^[a-z]{5}\.[a-z]{4}@\w+\.example$/);
    expect(made['tel']).toMatch(/^\+49 30 23\d{3} \d{3}$/);
    expect(made['note']).toMatch(/^[A-Z][a-z]{3} \d[a-z]$/);
    expect(made['hives']).toBe('3');
    expect(made).not.toEqual(real);
    expect(madeUp(real, personal, 's')).toEqual(made);
    expect(madeUp(real, personal, 'other seed')).not.toEqual(made);
  });
  it('leave blanks blank and bad values bad', () => {
    expect(madeUp({ mail: '', name: '  ' }, personal, 's')).toEqual({ mail: '', name: '  ' });
    expect(madeUp({ mail: 'nonsense' }, personal, 's')['mail']).not.toContain('@');
  });
});

it('flattening a payload loses no leaf', () => {
  const leaf = fc.oneof(fc.string(), fc.integer(), fc.boolean());
  const key = fc.stringMatching(/^[a-z]{1,6}$/);
  const payload = fc.dictionary(
    key,
    fc.oneof(leaf, fc.dictionary(key, leaf, { maxKeys: 4 }), fc.array(leaf, { maxLength: 4 })),
    { maxKeys: 6 },
  );
  const leaves = (value: unknown): number =>
    typeof value === 'object' && value !== null
      ? Object.values(value).reduce<number>((sum, each) => sum + leaves(each), 0)
      : 1;
  fc.assert(
    fc.property(payload, (given) => {
      const flat = flattenPayload(given, { fields: 1000, depth: 8 });
      expect(flat.ok && Object.values(flat.values).flat().length).toBe(leaves(given));
    }),
  );
  expect(
    collectValues([
      ['a', '1'],
      ['a', '2'],
    ]),
  ).toEqual({ a: ['1', '2'] });
});
