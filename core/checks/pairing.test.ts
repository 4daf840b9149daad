import { followedFields, freshLine, freshPairing, type Pairing, type PairLine } from '../pairing/index.ts';
import { blankStep } from '../plans/index.ts';
import { makeEntity, makeField, makeFormField, makeLine } from '../testing/world.ts';
import type { Entity } from '../schema/index.ts';
import { check, checkPairing, type PairingInput } from './index.ts';

const id = makeField('id', { type: 'id', computed: true });
const moment = makeField('changed_at', { type: 'date and time', computed: true, label: 'Changed at' });
const choices = (...values: string[]) => values.map((value) => ({ value, label: value }));
const subscribers = (more: Partial<Entity> = {}): Entity =>
  makeEntity(
    'Subscribers',
    [
      id,
      moment,
      makeField('mail'),
      makeField('given'),
      makeField('topic', { type: 'option', options: choices('honey', 'wax') }),
      makeField('opened', { computed: true }),
    ],
    more,
  );
const people = (more: Partial<Entity> = {}): Entity =>
  makeEntity(
    'People',
    [
      id,
      moment,
      makeField('email'),
      makeField('first', { label: 'First name' }),
      makeField('last', { label: 'Family name', required: true }),
      makeField('topic', { type: 'option', options: choices('honey', 'swarms') }),
    ],
    more,
  );

function found(
  lines: PairLine[],
  more: Partial<Pairing> = {},
  input: Partial<PairingInput> = {},
  entities: [Entity, Entity] = [subscribers(), people()],
) {
  const pairing: Pairing = {
    ...freshPairing('Ours', { system: 'l', entity: 'Subscribers' }, { system: 'r', entity: 'People' }),
    matches: [{ parts: [{ left: ['mail'], right: ['email'] }] }],
    lines,
    ...more,
  };
  return checkPairing({
    id: 'ours',
    pairing,
    schemas: new Map([
      ['l', { entities: [entities[0]] }],
      ['r', { entities: [entities[1]] }],
    ]),
    others: [],
    systemNames: { l: 'Letters', r: 'CRM' },
    names: { ours: 'Ours', theirs: 'Theirs' },
    ...input,
  }).map(({ id: check, severity, sentence, place }) => ({ check, severity, sentence, line: place.line }));
}
const given = freshLine('given', ['given'], ['first']);
const checks = (...args: Parameters<typeof found>): string[] =>
  found(...args).map(({ check, severity }) => `${check} ${severity}`);

describe('a pairing', () => {
  it('that is sound yields nothing at all', () => {
    expect(found([given])).toEqual([]);
  });

  it('needs a way to see which goes with which, and a field that travels', () => {
    expect(checks([given], { matches: [] })).toEqual(['K21 stops']);
    expect(checks([])).toEqual(['K21 stops']);
    expect(checks([{ ...given, suggested: ['they look alike'] }])).toEqual(['K21 stops']);
    expect(checks([given], { matches: [{ parts: [{ left: ['gone'], right: ['email'] }] }] })).toEqual(['K27 stops']);
  });

  it('is stopped by a field that is gone or can’t be written, and by an entity that can’t be seen', () => {
    expect(checks([freshLine('x', ['gone'], ['first'])])).toEqual(['K27 stops']);
    expect(checks([{ ...freshLine('x', ['opened'], ['first']), way: 'to left' }])).toEqual(['K08 stops']);
    const [only] = found([given], { left: { system: 'l', entity: 'Nobody' } });
    expect(only).toMatchObject({ check: 'K27', sentence: 'Nobody can’t be seen in Letters any more.' });
  });

  it('is stopped where the connection may not do what it would', () => {
    const readOnly = people({ rights: { read: true, create: false, update: false, delete: false } });
    expect(checks([given], {}, {}, [subscribers(), readOnly])).toEqual(['K09 stops']);
    expect(checks([{ ...given, way: 'to left' }], {}, {}, [subscribers(), readOnly])).toEqual([]);
    const gone = { left: 'undo', right: 'delete' } as const;
    expect(checks([{ ...given, way: 'to left' }], { gone }, {}, [subscribers(), readOnly])).toEqual(['K09 stops']);
  });

  it('says which options have no counterpart, and how many pairs that concerns', () => {
    const topic = freshLine('topic', ['topic'], ['topic']);
    const outcomes = [
      {
        line: 'topic',
        counts: {} as never,
        differ: 3,
        examples: [],
        lost: [],
        stuck: [{ side: 'left' as const, words: '“swarms” is not among the options', count: 3 }],
      },
    ];
    const told = found([topic], {}, { outcomes });
    expect(told.map(({ check }) => check)).toEqual(['K02', 'K02']);
    expect(told[1]!.sentence + told[0]!.sentence).toContain(
      '“swarms” of topic has no counterpart in Letters. 3 pairs can’t',
    );
    expect(told[1]!.sentence + told[0]!.sentence).toContain('“wax” of topic has no counterpart in CRM.');
  });

  it('says what is lost on the way and what doesn’t fit, with counts', () => {
    const outcomes = [
      {
        ...{ line: 'given', counts: {} as never, differ: 1, examples: [] },
        lost: [{ side: 'left' as const, words: 'given keeps a date only', count: 2 }],
        stuck: [{ side: 'right' as const, words: 'First name takes 4 bytes, “Friedrich…” has 9', count: 1 }],
      },
    ];
    const told = found([given], {}, { outcomes });
    expect(told.map(({ check, severity }) => `${check} ${severity}`)).toEqual(['K04 look', 'K05 look']);
    expect(told[0]!.sentence).toBe('given keeps a date only, in 2 pairs.');
    expect(told[1]!.sentence).toContain('one pair can’t be brought into step');
  });

  it('is stopped by a value that never comes to rest, which is shown', () => {
    const options = [
      { left: 'honey', right: 'honey' },
      { left: 'honey', right: 'swarms' },
      { left: 'wax', right: 'swarms' },
    ];
    const [only] = found([{ ...freshLine('topic', ['topic'], ['topic']), options }]);
    expect(only).toMatchObject({ check: 'K19', severity: 'stops', line: 'topic' });
    expect(only!.sentence).toContain('“wax” is “swarms” in CRM, “honey” when it comes back, and then “honey” there');
  });

  it('is stopped by another that decides otherwise, and by two lines that write one field', () => {
    const other: Pairing = {
      ...freshPairing('Theirs', { system: 'l', entity: 'Subscribers' }, { system: 'r', entity: 'People' }),
      lines: [{ ...given, way: 'to right' }],
    };
    const [first] = found([given], {}, { others: [{ id: 'theirs', pairing: other }] });
    expect(first).toMatchObject({ check: 'K20', severity: 'stops', line: 'given' });
    expect(first!.sentence).toContain('written by “Theirs” too');
    const twice = [
      { ...given, way: 'to right' as const },
      { ...freshLine('again', ['mail'], ['first']), way: 'to right' as const },
    ];
    expect(checks(twice)).toEqual(['K20 stops']);
  });

  it('is told of options that are paired and gone from the list', () => {
    const options = [
      { left: 'honey', right: 'honey' },
      { left: 'wax', right: 'comb' },
    ];
    const told = found([{ ...freshLine('topic', ['topic'], ['topic']), way: 'to right', options }]).filter(
      ({ check }) => check === 'K03',
    );
    expect(told).toMatchObject([{ severity: 'look', line: 'topic' }]);
    expect(told[0]!.sentence).toBe('topic in CRM doesn’t offer “comb” any more, and options are paired with it.');
  });

  it('must not undo what another one carries on: one way there and one way back are two masters', () => {
    const back: Pairing = {
      ...freshPairing('Theirs', { system: 'l', entity: 'Subscribers' }, { system: 'r', entity: 'People' }),
      lines: [{ ...given, way: 'to left' }],
    };
    const others = [{ id: 'theirs', pairing: back }];
    const both = found([{ ...given, way: 'to right' }], {}, { others });
    expect(both).toHaveLength(2);
    for (const each of both) expect(each).toMatchObject({ check: 'K20', severity: 'stops', line: 'given' });
    expect(both.map(({ sentence }) => sentence).join()).toMatch(
      /is undone here, since the other side decides, and carried on by “Theirs”/,
    );
    // What only fills blanks undoes nothing, and what leads elsewhere closes no ring.
    expect(checks([{ ...given, way: 'to right', onlyEmpty: true }], {}, { others })).toContain('K20 stops');
    const filling = [
      { id: 'theirs', pairing: { ...back, lines: [{ ...given, way: 'to left' as const, onlyEmpty: true }] } },
    ];
    expect(checks([{ ...given, way: 'to right', onlyEmpty: true }], {}, { others: filling })).toEqual([]);
    const aside = [
      {
        id: 'theirs',
        pairing: { ...back, lines: [{ ...freshLine('x', ['mail'], ['first']), way: 'to left' as const }] },
      },
    ];
    expect(checks([{ ...given, way: 'to right' }], {}, { others: aside })).toEqual([]);
  });

  it('is stopped where a record would be made without what its system needs', () => {
    const alone = { left: { what: 'make' as const }, right: { what: 'leave' as const } };
    const [only] = found([given], { alone });
    expect(only).toMatchObject({ check: 'K01', severity: 'stops' });
    expect(only!.sentence).toContain('without Family name');
    expect(checks([given, freshLine('last', ['mail'], ['last'])], { alone })).toEqual([]);
  });

  it('says where the newest change can’t be told, and what a system without versions can’t promise', () => {
    const untold = makeEntity('Subscribers', [id, makeField('mail'), makeField('given')]);
    expect(checks([given], {}, {}, [untold, people()])).toEqual(['K28 look']);
    expect(checks([{ ...given, decides: 'left' }], {}, {}, [untold, people()])).toEqual([]);
    const abilities = { r: { repeatability: true, batch: true, etags: false } };
    expect(checks([given], {}, { abilities })).toEqual(['K28 look']);
  });
});

describe('an intake', () => {
  it('is told that a pairing brings back what it writes, where the other side decides', () => {
    const entity = people();
    const step = { ...blankStep('s', 'r', 'People'), lines: [makeLine('first', 'first')] };
    const input = {
      fields: [makeFormField('first')],
      plan: { steps: [{ ...step, recognise: [{ fields: ['first'] }] }] },
      schemas: new Map([['r', { entities: [entity] }]]),
      samples: [],
    };
    const pairing: Pairing = {
      ...freshPairing('Ours', { system: 'l', entity: 'Subscribers' }, { system: 'r', entity: 'People' }),
      lines: [{ ...given, way: 'to right' }, { ...freshLine('both', ['mail'], ['email']) }],
    };
    expect(followedFields(pairing)).toEqual([{ side: 'right', field: 'first' }]);
    const k18 = (followed: Record<string, { pairing: string; decides: string }>) =>
      check({ ...input, facts: { followed } }).filter((each) => each.id === 'K18');
    expect(k18({})).toEqual([]);
    const [only] = k18({ 'r/People/first': { pairing: 'Ours', decides: 'Subscribers in Letters' } });
    expect(only).toMatchObject({
      severity: 'look',
      sentence: 'First name goes back to what Subscribers in Letters holds: it decides in the pairing “Ours”.',
    });
  });
});
