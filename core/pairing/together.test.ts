import { makeEntity, makeField } from '../testing/world.ts';
import type { Entity, Field, Schema, Values } from '../schema/index.ts';
import {
  contradictions,
  freshLine,
  freshPairing,
  historyFor,
  joined,
  measured,
  missingOptions,
  proposeLines,
  proposeMatches,
  readied,
  readiedLine,
  restlessness,
  restlessRings,
  settlePair,
  take,
  takeGone,
  answered,
  baseAfter,
  type Around,
  type Known,
  type PairHeld,
  type PairLine,
  type ReadyLine,
  type Sample,
  type Seen,
  type Sides,
} from './index.ts';

const id = makeField('id', { type: 'id', computed: true });
const choices = (...values: string[]) => values.map((value) => ({ value, label: value }));

describe('there and back', () => {
  const ready = (options: PairLine['options'], more: Partial<PairLine> = {}) => {
    const field = (...values: string[]): Field => makeField('topic', { type: 'option', options: choices(...values) });
    return readied(
      {
        ...freshPairing('p', { system: 'l', entity: 'L' }, { system: 'r', entity: 'R' }),
        lines: [{ ...freshLine('t', ['topic'], ['topic']), ...(options ? { options } : {}), ...more }],
      },
      new Map([
        ['l', { entities: [makeEntity('L', [field('honey', 'wax')])] }],
        ['r', { entities: [makeEntity('R', [field('sweet', 'comb')])] }],
      ]),
    )!.lines[0]!;
  };
  const none = { left: [], right: [] };

  it('rests where options are paired one to one, and where two become one', () => {
    expect(
      restlessness(
        ready([
          { left: 'honey', right: 'sweet' },
          { left: 'wax', right: 'comb' },
        ]),
        none,
      ),
    ).toBeUndefined();
    expect(
      restlessness(
        ready([
          { left: 'honey', right: 'sweet' },
          { left: 'wax', right: 'sweet' },
        ]),
        none,
      ),
    ).toBeUndefined();
  });

  it('doesn’t where an option is another one each time, and shows which', () => {
    const pairs = [
      { left: 'honey', right: 'sweet' },
      { left: 'honey', right: 'comb' },
      { left: 'wax', right: 'comb' },
    ];
    expect(restlessness(ready(pairs), none)).toMatchObject({
      from: 'left',
      value: 'wax',
      there: 'comb',
      again: 'sweet',
    });
    expect(restlessness(ready(pairs, { way: 'to right' }), none)).toBeUndefined();
  });

  it('tries the values in use as well', () => {
    const texts = readied(
      {
        ...freshPairing('p', { system: 'l', entity: 'L' }, { system: 'r', entity: 'R' }),
        lines: [{ ...freshLine('t', ['a'], ['b']), there: [{ kind: 'replace', find: 'xq', with: 'xqxq' }] }],
      },
      new Map([
        ['l', { entities: [makeEntity('L', [makeField('a')])] }],
        ['r', { entities: [makeEntity('R', [makeField('b')])] }],
      ]),
    )!.lines[0]!;
    expect(restlessness(texts, none)).toBeUndefined();
    expect(restlessness(texts, { left: ['axqb'], right: [] })?.value).toBe('axqb');
  });
});

describe('several pairings', () => {
  const schemas = new Map<string, Schema>(
    ['a', 'b', 'c'].map((name) => [name, { entities: [makeEntity('E', [id, makeField('f')])] }]),
  );
  const known = (name: string, from: string, to: string, more: Partial<PairLine> = {}): Known => ({
    id: name,
    pairing: {
      ...freshPairing(name, { system: from, entity: 'E' }, { system: to, entity: 'E' }),
      lines: [{ ...freshLine(`${name}-f`, ['f'], ['f']), way: 'to right', ...more }],
    },
  });

  it('may stand in a ring that comes to rest', () => {
    expect(restlessRings([known('1', 'a', 'b'), known('2', 'b', 'c'), known('3', 'c', 'a')], schemas)).toEqual([]);
  });

  it('are named where a value goes round and is another each time', () => {
    const growing = known('3', 'c', 'a', { there: [{ kind: 'replace', find: 'a', with: 'aa' }] });
    const [ring] = restlessRings([known('1', 'a', 'b'), known('2', 'b', 'c'), growing], schemas);
    expect(ring!.way.map(({ pairing }) => pairing).sort()).toEqual(['1', '2', '3']);
    expect(ring!.once).not.toEqual(ring!.twice);
  });

  it('contradict each other where two decide about one field', () => {
    const [found] = contradictions([known('1', 'a', 'c'), known('2', 'b', 'c')], schemas);
    expect(found).toMatchObject({ node: { system: 'c', field: 'f' }, pairings: [{ pairing: '1' }, { pairing: '2' }] });
    expect(contradictions([known('1', 'a', 'c'), known('2', 'b', 'c', { onlyEmpty: true })], schemas)).toEqual([]);
  });

  it('are looked through in bounded time, however many there are', () => {
    const many = Array.from({ length: 60 }, (_, at) =>
      known(String(at), ['a', 'b', 'c'][at % 3]!, ['b', 'c', 'a'][at % 3]!, { way: 'both' }),
    );
    expect(restlessRings(many, schemas)).toEqual([]);
  });
});

describe('which goes with which', () => {
  const keys = (...texts: (string | undefined)[]) => texts.map((text) => [text]);

  it('is sure only where one goes with one', () => {
    const left = keys('a', 'b', 'b', 'c', undefined);
    const right = keys('a', 'b', 'd', 'd');
    expect(joined({ left, right }, 1)).toEqual({
      pairs: [{ left: 0, right: 0, match: 0 }],
      unsure: [{ left: [1, 2], right: [1], match: 0 }],
      alone: { left: [3, 4], right: [2, 3] },
    });
  });

  const person = (name: string, email: string | null): Values => ({ first: name, email, owner: 'U1' });
  const around: Sides<Around> = {
    left: aroundOf(
      makeEntity('Subscribers', [
        id,
        makeField('crm'),
        makeField('mail', { type: 'email', label: 'E-mail' }),
        makeField('given', { label: 'First name' }),
        makeField('keeper', { label: 'Keeper' }),
      ]),
    ),
    right: aroundOf(
      makeEntity('People', [
        id,
        makeField('first', { label: 'First name' }),
        makeField('email', { type: 'email', label: 'E-mail' }),
        makeField('owner', { type: 'reference', relation: 'Users' }),
      ]),
      makeEntity('Users', [id, makeField('name', { rights: 'read' })]),
    ),
  };
  const people = Array.from({ length: 40 }, (_, at) => ({
    id: `P${at}`,
    values: person(`N${at}`, at % 5 === 0 ? null : `n${at}@x.example`),
  }));
  const subscribers = people.map(({ values }, at) => ({
    id: `s${at}`,
    values: {
      crm: at < 25 ? `P${at}` : null,
      mail: (values['email'] as string | null)?.toUpperCase() ?? null,
      given: values['first']!,
      keeper: 'Wiebke',
    },
  }));
  const samples: Sides<Sample> = {
    left: { records: subscribers, reach: () => undefined },
    right: {
      records: people,
      reach: (entity, one) => (entity === 'Users' && one === 'U1' ? { name: 'Wiebke' } : undefined),
    },
  };

  it('is proposed by an id that the other side has, then by what finds more', async () => {
    const proposed = proposeMatches(around, samples);
    expect(proposed.map(({ match }) => match)).toEqual([
      { parts: [{ left: ['crm'], right: ['id'] }] },
      { parts: [{ left: ['mail'], right: ['email'] }] },
    ]);
    expect(proposed[0]!.measured.pairs).toBe(25);
    expect(
      measured(
        proposed.map(({ match }) => match),
        around,
        samples,
      ).pairs,
    ).toBe(37);
  });

  it('proposes fields by their words, and by what a relation leads to', () => {
    const pairs = people.map((one, at) => ({ left: subscribers[at]!, right: one }));
    let made = 0;
    const lines = proposeLines(around, samples, pairs, [], () => String((made += 1)));
    expect(lines.map(({ left, right, way }) => `${left.path.join('.')} ${way} ${right.path.join('.')}`)).toEqual(
      expect.arrayContaining(['given both first', 'keeper to left owner.name']),
    );
  });
});

function aroundOf(entity: Entity, ...others: Entity[]): Around {
  return { entity, schema: { entities: [entity, ...others] } };
}

describe('what is known of a record', () => {
  const page = (value: string, asked: number, etag = value) => ({
    values: { a: value },
    etag,
    changedAt: undefined,
    asked,
  });
  const seen: Seen = {
    values: { a: 'old' },
    etag: 'old',
    changedAt: undefined,
    asked: 1_000,
    touched: 0,
    version: 3,
    gone: false,
  };

  it('takes what is new, and nothing from what is the same', () => {
    expect(take(seen, page('new', 2_000))).toMatchObject({
      news: true,
      doubt: false,
      seen: { values: { a: 'new' }, version: 4 },
    });
    expect(take(seen, page('old', 2_000))).toEqual({ seen, news: false, doubt: false });
    expect(take(seen, page('old', 2_000, 'v2'))).toMatchObject({ news: false, seen: { etag: 'v2' } });
  });

  it('doubts a page that was asked for before we last wrote, and one that comes late', () => {
    const written = { ...seen, touched: 50_000 };
    expect(take(written, page('new', 49_000))).toMatchObject({
      news: true,
      doubt: true,
      seen: { values: { a: 'old' } },
    });
    expect(take(written, page('new', 60_000))).toMatchObject({ doubt: false });
    expect(take(seen, page('new', 500))).toMatchObject({ doubt: true });
    expect(takeGone(written, 49_000)).toMatchObject({ doubt: true, seen: { gone: false } });
    expect(takeGone(written, 60_000)).toMatchObject({ doubt: false, seen: { gone: true } });
  });

  it('doubts an answer when something was seen while it was on its way', () => {
    const answer = { values: { a: 'ours' }, etag: 'e', changedAt: undefined };
    expect(answered(seen, 3, answer, 9_000)).toMatchObject({
      doubt: false,
      seen: { values: { a: 'ours' }, touched: 9_000 },
    });
    expect(answered(seen, 2, answer, 9_000)).toMatchObject({ doubt: true, seen: { values: { a: 'old' } } });
  });
});

describe('a history of fields', () => {
  it('is seen by its shape, where nobody may write it', () => {
    const changes = makeEntity(
      'FieldChanges',
      [
        id,
        makeField('record_id', { label: 'Record' }),
        makeField('field', { label: 'Field' }),
        makeField('at', { label: 'Changed at', type: 'date and time' }),
      ],
      { rights: { read: true, create: false, update: false, delete: false } },
    );
    expect(historyFor({ entities: [changes] })).toEqual({
      entity: 'FieldChanges',
      record: 'record_id',
      field: 'field',
      at: 'at',
    });
    expect(historyFor({ entities: [{ ...changes, rights: { ...changes.rights, create: true } }] })).toBeUndefined();
  });
});

describe('options that are missing', () => {
  const choice = (name: string, values: string[]) =>
    makeField(name, { type: 'options', options: values.map((value) => ({ value, label: value.toUpperCase() })) });
  const left = makeEntity('Subscriber', [id, choice('interests', ['honey', 'hives'])]);
  const right = makeEntity('Person', [id, choice('interests', ['honey', 'pollination', 'swarms', 'wax'])]);
  const around = {
    left: { schema: { entities: [left] }, entity: left },
    right: { schema: { entities: [right] }, entity: right },
  };
  const ready = (more: object) =>
    readiedLine({ ...freshLine('i', ['interests'], ['interests']), ...more }, around) as ReadyLine;

  it('are those of values in use, as the other side would have them', () => {
    const line = ready({
      way: 'to left',
      options: [
        { left: 'hives', right: 'pollination' },
        { left: 'beeswax', right: 'wax' },
      ],
    });
    const held = [['honey', 'swarms'], ['pollination'], ['swarms', 'wax'], null].map((value) => ({
      left: null,
      right: value,
    }));
    expect(missingOptions(line, held)).toEqual({
      side: 'left',
      options: [
        { value: 'swarms', label: 'SWARMS' },
        { value: 'beeswax', label: 'beeswax' },
      ],
    });
  });

  it('are none where all values have a counterpart', () => {
    expect(missingOptions(ready({ way: 'to left' }), [{ left: null, right: ['honey'] }])).toBeUndefined();
    expect(missingOptions(ready({ way: 'to right' }), [{ left: ['honey'], right: null }])).toBeUndefined();
  });
});

it('what was agreed of a line stays agreed while the line can’t be applied', () => {
  const around = (rights: Field['rights']) => {
    const entity = makeEntity('L', [makeField('a', { rights }), makeField('b')]);
    return new Map([
      ['l', { entities: [entity] }],
      ['r', { entities: [makeEntity('R', [makeField('a'), makeField('b')])] }],
    ]);
  };
  const pairing = {
    ...freshPairing('p', { system: 'l', entity: 'L' }, { system: 'r', entity: 'R' }),
    lines: [freshLine('a', ['a'], ['a']), freshLine('b', ['b'], ['b'])],
  };
  const held = (a: string, b: string) => ({ id: '1', values: { a, b } });
  const settled = (rights: Field['rights'], base: PairHeld['base'], right: ReturnType<typeof held>) =>
    settlePair(readied(pairing, around(rights))!, {
      base,
      records: { left: held('old', 'old'), right },
      reach: { left: () => undefined, right: () => undefined },
      // The left one was changed last, by our own write of the other field.
      changedAt: (side) => (side === 'left' ? 2 : 1),
    });
  const none = { left: new Set<string>(), right: new Set<string>() };
  const agreed = baseAfter(
    {},
    settled('read and write', {}, held('old', 'old')),
    { left: undefined, right: undefined },
    none,
  );
  const meanwhile = settled('read', agreed, held('new', 'new'));
  expect(meanwhile.write).toEqual({ left: { b: 'new' }, right: {} });
  const after = baseAfter(agreed, meanwhile, { left: { b: 'new' }, right: undefined }, none);
  expect(Object.keys(after)).toHaveLength(2);
  expect(settled('read and write', after, held('new', 'old')).write.left).toMatchObject({ a: 'new' });
});
