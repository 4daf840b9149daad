import fc from 'fast-check';
import {
  bodyOf,
  compareAdapters,
  errorInside,
  firstPage,
  FORMS,
  idOf,
  jsonFrom,
  lacksOf,
  mended,
  pageOf,
  pathTo,
  put,
  recordFrom,
  refusalFrom,
  schemaFrom,
  troubleWithAdapter,
  valueAt,
  valueFrom,
  type AdapterDocument,
  type EntityAdapter,
  type FieldAdapter,
} from './index.ts';

const field = (name: string, more: Partial<FieldAdapter> = {}): FieldAdapter => ({
  name,
  label: name,
  type: 'text',
  at: `/${name}`,
  ...more,
});
const KEEPERS: EntityAdapter = {
  ...{
    name: 'keepers',
    label: 'Keeper',
    key: ['id'],
    find: [{ field: 'email', parameter: 'email' }],
    repeat: { by: 'key', header: 'Idempotency-Key' },
  },
  fields: [
    field('id', { readOnly: true }),
    field('email', { type: 'email', required: true, maxBytes: 40 }),
    field('town', { at: '/home/town' }),
    field('version', { type: 'integer', readOnly: true }),
  ],
  list: {
    path: '/keepers',
    query: [],
    records: '/items',
    paging: { kind: 'cursor', at: '/next', parameter: 'cursor', sizeParameter: 'limit', size: 100 },
  },
  read: { path: '/keepers/{id}', record: '' },
  create: { method: 'POST', path: '/keepers', body: '', fixed: [], record: '' },
  update: { method: 'PATCH', path: '/keepers/{id}', body: '', fixed: [], record: '' },
  version: { by: 'field', field: 'version', sent: 'body' },
};
const ADAPTER: AdapterDocument = {
  ...{
    format: 1,
    name: 'Keepers',
    address: 'https://api.example',
    signIn: { kind: 'bearer' },
    headers: [],
    refusal: { waits: [] },
    parallel: 8,
  },
  entities: [KEEPERS],
};
const copy = (): AdapterDocument => structuredClone(ADAPTER);

describe('places in JSON', () => {
  it('what is put at a place is found there', () => {
    const token = fc.oneof(fc.constantFrom('a', 'b/c', 'd~e', '', '{name=x}'), fc.string({ maxLength: 6 }));
    fc.assert(
      fc.property(fc.array(token, { minLength: 1, maxLength: 4 }), fc.integer(), (tokens, value) => {
        // The element of a list is an object: it is no value and no list itself, and what names it stays as it is.
        const element = (each: string | undefined): boolean => each?.startsWith('{') === true;
        fc.pre(
          !element(tokens.at(-1)) &&
            !tokens.some((each, at) => element(each) && (element(tokens[at + 1]) || tokens[at + 1] === 'name')) &&
            !tokens.some((each) => ['__proto__', 'constructor', 'prototype'].includes(each)),
        );
        const pointer = tokens.map((each) => `/${each.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');
        expect(valueAt(put({}, pointer, value), pointer)).toBe(value);
      }),
      { numRuns: 2_000 },
    );
  });
  it('nothing reaches a prototype', () => {
    put({}, '/__proto__/polluted', true);
    put({}, '/constructor/prototype/polluted', true);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
    expect(valueAt({}, '/constructor')).toBeUndefined();
  });
});

describe('values', () => {
  it('come back as they were sent, however the API writes them', () => {
    const day = fc.date({ min: new Date('1900-01-01'), max: new Date('2100-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(day, fc.constantFrom(undefined, ...FORMS), (date, form) => {
        const iso = date.toISOString().slice(0, 10);
        const of = { type: 'date' as const, ...(form === undefined ? {} : { form }) };
        expect(valueFrom(jsonFrom(iso, of), of)).toBe(iso);
      }),
    );
    const flag = { type: 'yes/no' as const };
    for (const form of [undefined, '1/0', 'text'] as const)
      for (const yes of [true, false])
        expect(valueFrom(jsonFrom(yes, { ...flag, ...(form ? { form } : {}) }), flag)).toBe(yes);
    expect(
      valueFrom(jsonFrom(['a', 'b'], { type: 'options', form: 'commas' }), { type: 'options', form: 'commas' }),
    ).toEqual(['a', 'b']);
    expect(valueFrom(12, { type: 'text' })).toBe('12');
    expect(String(jsonFrom('9007199254740993', { type: 'integer' }))).toBe('9007199254740993');
    expect(valueFrom('2027-03-04T05:06:07Z', { type: 'date' })).toBe('2027-03-04');
  });
});

describe('records and paths', () => {
  it('what is left out is blank, and an id is needed', () => {
    expect(recordFrom(KEEPERS, { id: 7, email: 'a@x.example' })).toEqual({
      id: '7',
      values: { id: '7', email: 'a@x.example', town: null, version: null },
    });
    expect(recordFrom(KEEPERS, { email: 'a@x.example' })).toBeUndefined();
    expect(recordFrom(KEEPERS, { email: 'a@x.example' }, { under: 'k1' })).toMatchObject({ id: 'k1' });
    expect(recordFrom(KEEPERS, { id: 'k1' }, { whole: false })).toEqual({ id: 'k1', values: { id: 'k1' } });
    expect([recordFrom(KEEPERS, null), recordFrom(KEEPERS, [])]).toEqual([undefined, undefined]);
  });
  it('an id of several parts goes there and back, and none leads elsewhere', () => {
    const lines = { ...KEEPERS, key: ['order', 'line'] };
    const id = idOf(lines, { order: 'a&b=c', line: 2 })!;
    expect(pathTo(lines, '/orders/{order}/lines/{line}', id)).toBe('/orders/a%26b%3Dc/lines/2');
    expect(pathTo(lines, '/x/{order}/{line}', 'order=1')).toBeUndefined();
    expect(pathTo(KEEPERS, '/keepers/{id}', '../secrets?x#y')).toBe('/keepers/..%2Fsecrets%3Fx%23y');
    expect([pathTo(KEEPERS, '/keepers/{id}', '..'), pathTo(KEEPERS, '/keepers/{id}', '')]).toEqual([
      undefined,
      undefined,
    ]);
  });
  it('a whole record is sent with what it holds besides, and what is set by the system is not', () => {
    const whole = { ...KEEPERS.update!, whole: true, body: '/data', fixed: [{ at: '/data/id', value: '{id}' }] };
    const now = { id: 'k1', email: 'a@x.example', town: 'Hollowbrook', version: 3 };
    expect(bodyOf(KEEPERS, whole, { email: 'b@x.example' }, now, 'k1')).toEqual({
      data: { email: 'b@x.example', home: { town: 'Hollowbrook' }, id: 'k1' },
    });
  });
});

describe('pages', () => {
  const list = KEEPERS.list!;
  it('begin with as many as are wanted, and say what comes next', () => {
    expect(firstPage(list)).toBe('/keepers?limit=100');
    expect(firstPage(list, [{ name: 'email', value: 'a b@x.example' }], 5)).toBe(
      '/keepers?email=a%20b%40x.example&limit=5',
    );
    const at = 'https://api.example/keepers?limit=100';
    const page = pageOf(KEEPERS, list, at, { items: [{ id: 'k1' }, {}, 3], next: 'c 2' }, undefined, true);
    expect(page).toMatchObject({
      records: [{ id: 'k1' }],
      strange: 2,
      next: 'https://api.example/keepers?limit=100&cursor=c%202',
    });
    expect(pageOf(KEEPERS, list, at, { items: [], next: null }, undefined, true)).toEqual({ records: [], strange: 0 });
    expect(pageOf(KEEPERS, list, at, { items: 'many' }, undefined, true)).toEqual({
      words: 'Its answer holds no list of records at /items.',
    });
  });
  it('a short page isn’t taken for the last, nor is a total believed', () => {
    const offset = {
      ...list,
      records: '',
      paging: { kind: 'offset' as const, parameter: 'skip', sizeParameter: 'limit' },
    };
    const page = (url: string, body: unknown) => pageOf(KEEPERS, offset, url, body, undefined, true);
    expect(page('https://api.example/keepers?limit=100&skip=0', [{ id: 'k1' }])).toMatchObject({
      next: 'https://api.example/keepers?limit=100&skip=1',
    });
    expect(page('https://api.example/keepers?limit=100&skip=1', [])).not.toHaveProperty('next');
  });
});

describe('a no', () => {
  it.each<[string, unknown, string, [string, string][]]>([
    [
      'problem details',
      { title: 'Bad', detail: 'Too long.', errors: [{ detail: 'is too long', pointer: '/home/town' }] },
      'Too long.',
      [['town', 'is too long']],
    ],
    ['a list', { errors: [{ message: 'No e-mail.', field: 'email' }] }, 'No e-mail.', [['email', 'No e-mail.']]],
    [
      'by field',
      { message: 'Invalid', errors: { email: ['is taken', 'is bad'] } },
      'Invalid',
      [['email', 'is taken is bad']],
    ],
    ['words in words', { error: { error: { message: 'Deep.' } } }, 'Deep.', []],
    [
      'a list within a detail',
      { detail: [{ loc: ['body', 'email'], msg: 'value is not valid' }] },
      'value is not valid',
      [],
    ],
    ['a text', 'Nope.', 'Nope.', []],
    ['nothing', {}, 'It answers 422.', []],
  ])('as %s is understood without being told where its words stand', (_, body, words, fields) => {
    const refusal = refusalFrom({ waits: [] }, 422, JSON.stringify(body), KEEPERS);
    expect(refusal).toMatchObject({
      kind: 'values',
      words,
      fields: fields.map(([name, said]) => ({ field: name, words: said })),
    });
  });
  it('as a page says only its status; one under 200 is seen where that is said', () => {
    expect(refusalFrom({ waits: [] }, 404, '<html>gone</html>').words).toBe('It answers 404.');
    expect(errorInside({ waits: [], inside: '/error' }, { error: { message: 'No.' } })).toBe('No.');
    expect(errorInside({ waits: [], inside: '/error' }, { error: null })).toBeUndefined();
  });
});

describe('an adapter', () => {
  it('gives a schema: what the system sets is never written, and limits in bytes are kept', () => {
    const [keepers] = schemaFrom(ADAPTER).entities;
    expect(keepers).toMatchObject({ rights: { read: true, create: true, update: true, delete: false } });
    expect(keepers!.fields).toContainEqual(expect.objectContaining({ name: 'version', computed: true }));
    expect(keepers!.fields).toContainEqual(expect.objectContaining({ name: 'email', maxBytes: 40, required: true }));
  });
  it.each<[string, (adapter: AdapterDocument) => void]>([
    ['entities.0.key.0 there is no field number', ({ entities }) => (entities[0]!.key = ['number'])],
    ['entities.0.list.paging.at must say where it stands', ({ entities }) => delete entities[0]!.list!.paging.at],
    ['entities.0.read.path must have {id} in it', ({ entities }) => (entities[0]!.read!.path = '/keepers')],
    [
      'entities.0.fields.1.relation there is no entity teams',
      ({ entities }) => (entities[0]!.fields[1]!.relation = 'teams'),
    ],
    [
      'signIn.tokenAddress must say where tokens are fetched',
      (adapter) => (adapter.signIn = { kind: 'client credentials' }),
    ],
    ['entities.0.update needs a way to read the record first', ({ entities }) => delete entities[0]!.read],
  ])('that makes no sense is told where: %s', (said, spoil) => {
    const adapter = copy();
    spoil(adapter);
    expect(troubleWithAdapter(adapter).map(({ field: where, reason }) => `${where} ${reason}`)).toContain(said);
  });
  it('says what its API lacks, and what of that weakens a promise', () => {
    const poor = { ...KEEPERS, repeat: { by: 'none' as const } };
    delete (poor as Partial<EntityAdapter>).version;
    expect(
      lacksOf(poor, 4)
        .filter(({ weak }) => weak)
        .map(({ what }) => what),
    ).toEqual(['No versions', 'No safe repetition, and no way to look', 'No deleting']);
    expect(
      lacksOf(KEEPERS, 4)
        .filter(({ weak }) => weak)
        .map(({ what }) => what),
    ).toEqual(['No deleting']);
  });
});

describe('an API that has changed', () => {
  const after = (change: (entity: EntityAdapter) => void): AdapterDocument => {
    const adapter = copy();
    change(adapter.entities[0]!);
    return adapter;
  };
  it('a renamed field keeps its name here, so that all lines go on', () => {
    const now = after(({ fields }) =>
      Object.assign(fields[2]!, { name: 'home.city', label: 'home city', at: '/home/city', type: 'long text' }),
    );
    const [difference] = compareAdapters(ADAPTER, now, ADAPTER);
    expect(difference).toMatchObject({ breaks: true, what: 'town (home.town) seems to be called home.city now.' });
    const mendedNow = mended(ADAPTER, 'keepers', difference!.mend!);
    expect(mendedNow.entities[0]!.fields[2]).toMatchObject({ name: 'town', at: '/home/city' });
    expect(compareAdapters(ADAPTER, now, mendedNow)).toEqual([]);
  });
  it('from pages to cursors is said with the mend', () => {
    const before = after(({ list }) => (list!.paging = { kind: 'page', parameter: 'page' }));
    const [difference] = compareAdapters(before, ADAPTER, before);
    expect(difference).toMatchObject({ part: 'paging', what: 'Paging was by page, and is by cursor.', breaks: true });
    expect(mended(before, 'keepers', difference!.mend!).entities[0]!.list!.paging).toEqual(KEEPERS.list!.paging);
  });
  it('what people have set otherwise is theirs, and nothing is said of it', () => {
    const mine = after((entity) => {
      entity.list!.paging = { kind: 'none' };
      entity.fields[1]!.maxBytes = 30;
    });
    expect(compareAdapters(ADAPTER, ADAPTER, mine)).toEqual([]);
  });
  it('all differences at once are mended at once, in whatever order', () => {
    const now = after((entity) => {
      entity.fields.push(field('phone', { type: 'phone' }));
      entity.fields.splice(2, 1);
      entity.fields[1]!.maxBytes = 90;
      entity.repeat = { by: 'looking' };
    });
    const differences = compareAdapters(ADAPTER, now, ADAPTER);
    expect(differences.map(({ part }) => part).sort()).toEqual([
      'fields/email',
      'fields/phone',
      'fields/town',
      'repeat',
    ]);
    const all = differences.reduceRight((adapter, { entity, mend }) => mended(adapter, entity, mend!), copy());
    expect(compareAdapters(ADAPTER, now, all)).toEqual([]);
    expect(schemaFrom(all)).toEqual(schemaFrom(now));
  });
});
