import { makeEntity, makeField } from '../testing/world.ts';
import type { Field, Value, Values } from '../schema/index.ts';
import {
  collected,
  freshLine,
  freshPairing,
  readied,
  settlePair,
  type Pairing,
  type PairLine,
  type ReadyPairing,
  type Sides,
} from './index.ts';

const choices = (...values: string[]) => values.map((value) => ({ value, label: value.toUpperCase() }));

/** A pairing with one line between two fields, ready. */
function between(left: Field, right: Field, more: Partial<PairLine> = {}): ReadyPairing {
  const pairing: Pairing = {
    ...freshPairing('test', { system: 'l', entity: 'L' }, { system: 'r', entity: 'R' }),
    lines: [{ ...freshLine('line', [left.name], [right.name]), ...more }],
  };
  return readied(
    pairing,
    new Map([
      ['l', { entities: [makeEntity('L', [left])] }],
      ['r', { entities: [makeEntity('R', [right])] }],
    ]),
  )!;
}

/** What becomes of one field; `changed` says when each side was, later is higher. */
function settled(
  ready: ReadyPairing,
  base: Sides<Value> | undefined,
  left: Value,
  right: Value,
  changed: Partial<Sides<number>> = {},
) {
  const { key, line } = ready.lines[0]!;
  const values = (side: 'left' | 'right', value: Value): Values => ({ [line[side].path[0]!]: value });
  const [outcome] = settlePair(ready, {
    base: base ? { [key]: base } : {},
    records: { left: { id: 'l1', values: values('left', left) }, right: { id: 'r1', values: values('right', right) } },
    reach: { left: () => undefined, right: () => undefined },
    changedAt: (side) => changed[side],
  }).lines;
  return outcome!;
}

const text = between(makeField('a'), makeField('b'));
const same = (value: Value): Sides<Value> => ({ left: value, right: value });

describe('a field of a pair', () => {
  it('has what one side changed on the other', () => {
    expect(settled(text, same('honey'), 'wax', 'honey')).toMatchObject({ write: { right: 'wax' } });
    expect(settled(text, same('honey'), 'honey', 'queens')).toMatchObject({ write: { left: 'queens' } });
  });

  it('is left alone where both changed alike, and rests on that', () => {
    expect(settled(text, same('honey'), 'wax', 'wax')).toMatchObject({ write: {}, base: same('wax'), agreed: true });
  });

  it('is decided where both changed otherwise', () => {
    const decides = (decides: PairLine['decides']) => between(makeField('a'), makeField('b'), { decides });
    expect(settled(decides('left'), same('honey'), 'wax', 'queens')).toMatchObject({
      write: { right: 'wax' },
      undone: 'right',
    });
    expect(settled(decides('right'), same('honey'), 'wax', 'queens')).toMatchObject({ write: { left: 'queens' } });
    expect(settled(decides('ask'), same('honey'), 'wax', 'queens')).toMatchObject({ write: {}, ask: true });
    const newest = decides('newest');
    expect(settled(newest, same('honey'), 'wax', 'queens', { left: 1, right: 2 }).write).toEqual({ left: 'queens' });
    expect(settled(newest, same('honey'), 'wax', 'queens', { left: 2, right: 2 }).write).toEqual({ right: 'wax' });
    // A system that doesn't tell when it was: nobody guesses.
    expect(settled(newest, same('honey'), 'wax', 'queens', { left: 2 })).toMatchObject({ write: {}, ask: true });
  });

  it('fills what is blank when two meet for the first time, and never erases unasked', () => {
    expect(settled(text, undefined, 'wax', null).write).toEqual({ right: 'wax' });
    expect(settled(text, same('honey'), null, 'honey').write).toEqual({});
    const erasing = between(makeField('a'), makeField('b'), { blankErases: true });
    expect(settled(erasing, same('honey'), null, 'honey').write).toEqual({ right: null });
  });

  it('goes back to what the giving side holds, where values travel one way', () => {
    const oneWay = between(makeField('a'), makeField('b'), { way: 'to right' });
    expect(settled(oneWay, same('honey'), 'honey', 'queens')).toMatchObject({
      write: { right: 'honey' },
      undone: 'right',
    });
  });

  it('fills only what is empty, where that is said', () => {
    const filling = between(makeField('a'), makeField('b'), { onlyEmpty: true });
    expect(settled(filling, same('honey'), 'wax', 'honey').write).toEqual({});
    expect(settled(filling, { left: 'honey', right: null }, 'wax', null).write).toEqual({ right: 'wax' });
  });

  it('is stuck where the other side can’t hold the value, with the reason', () => {
    const short = between(makeField('a'), makeField('b', { maxBytes: 4 }));
    expect(settled(short, same('wax'), 'über', 'wax')).toMatchObject({
      write: {},
      base: same('wax'),
      stuck: { side: 'right', reason: expect.stringContaining('4 bytes') },
    });
    const listed = between(
      makeField('a', { type: 'options', options: choices('x', 'y') }),
      makeField('b', { type: 'options', options: choices('x') }),
    );
    expect(settled(listed, undefined, ['y'], null).stuck?.reason).toContain('“y”');
  });

  it('loses a time of day without the loss coming back', () => {
    const lossy = between(makeField('at', { type: 'date and time' }), makeField('on', { type: 'date' }));
    const moment = '2027-05-01T14:30:00Z';
    expect(settled(lossy, undefined, moment, null).write).toEqual({ right: '2027-05-01' });
    expect(settled(lossy, undefined, moment, '2027-05-01')).toMatchObject({ write: {}, agreed: true });
  });

  it('brings options over by their counterparts, both ways', () => {
    const paired = between(
      makeField('a', { type: 'options', options: choices('hives', 'honey') }),
      makeField('b', { type: 'options', options: choices('pollination', 'honey') }),
      { options: [{ left: 'hives', right: 'pollination' }] },
    );
    expect(settled(paired, undefined, ['hives', 'honey'], []).write).toEqual({ right: ['pollination', 'honey'] });
    expect(settled(paired, undefined, [], ['pollination']).write).toEqual({ left: ['hives'] });
    expect(settled(paired, undefined, ['honey', 'hives'], ['pollination', 'honey']).agreed).toBe(true);
  });

  it('does what somebody has decided, for the two values they decided about and no others', () => {
    const asking = between(makeField('a'), makeField('b'), { decides: 'ask' });
    const { key } = asking.lines[0]!;
    const decided = { [key]: { side: 'right' as const, now: { left: 'wax', right: 'queens' } } };
    const held = (left: Value) => ({
      base: { [key]: same('honey') },
      records: { left: { id: 'l', values: { a: left } }, right: { id: 'r', values: { b: 'queens' } } },
      reach: { left: () => undefined, right: () => undefined },
      changedAt: () => undefined,
      decided,
    });
    expect(settlePair(asking, held('wax')).write.left).toEqual({ a: 'queens' });
    expect(settlePair(asking, held('tallow')).lines[0]).toMatchObject({ ask: true, write: {} });
  });
});

describe('a line between places', () => {
  const owner = makeField('owner_id', { type: 'reference', relation: 'Users' });
  const people = makeEntity('People', [owner, makeField('first'), makeField('last')]);
  const users = makeEntity('Users', [makeField('name', { rights: 'read' })]);
  const letters = makeEntity('Subscribers', [makeField('keeper'), makeField('name')]);
  const schemas = new Map([
    ['l', { entities: [letters] }],
    ['r', { entities: [people, users] }],
  ]);
  const pairing = (lines: PairLine[]): Pairing => ({
    ...freshPairing('p', { system: 'l', entity: 'Subscribers' }, { system: 'r', entity: 'People' }),
    lines,
  });
  const hold = (ready: ReadyPairing, values: Values) =>
    settlePair(ready, {
      base: {},
      records: { left: { id: 'l', values: {} }, right: { id: 'r', values } },
      reach: {
        left: () => undefined,
        right: (entity, id) => (entity === 'Users' && id === 'U1' ? { name: 'Wiebke' } : undefined),
      },
      changedAt: () => undefined,
    });

  it('reads through a relation, and leaves what leads nowhere', () => {
    const ready = readied(pairing([{ ...freshLine('k', ['keeper'], ['owner_id', 'name']), way: 'to left' }]), schemas)!;
    expect(ready.broken).toEqual([]);
    expect(hold(ready, { owner_id: 'U1' }).write.left).toEqual({ keeper: 'Wiebke' });
    expect(hold(ready, { owner_id: 'U9' }).write.left).toEqual({});
  });

  it('works a value out of the record, and is stuck with the reason where that can’t be done', () => {
    const computed = (compute: string) =>
      readied(pairing([{ ...freshLine('n', ['name'], []), right: { path: [], compute }, way: 'to left' }]), schemas)!;
    expect(hold(computed('record.first + " " + record.last'), { first: 'Ada', last: 'Kern' }).write.left).toEqual({
      name: 'Ada Kern',
    });
    const [line] = hold(computed('string(number(record.first))'), { first: 'Ada', last: 'Kern' }).lines;
    expect(line).toMatchObject({ write: {}, stuck: { side: 'left' } });
  });

  it('can’t be applied where a field is gone or can’t be written, and says so', () => {
    const broken = readied(
      pairing([freshLine('x', ['gone'], ['first']), freshLine('y', ['keeper'], ['owner_id', 'name'])]),
      schemas,
    )!.broken;
    expect(broken.map(({ why }) => why)).toEqual([
      expect.stringContaining('has no field “gone”'),
      expect.stringContaining("can't be written"),
    ]);
  });
});

describe('gathering', () => {
  it('keeps every value once, the newest last, and the oldest go when it is full', () => {
    const bounds = { bytes: 20, list: false };
    expect(collected(null, 'honey', bounds)).toEqual({ ok: true, value: 'honey' });
    expect(collected('honey; wax', 'honey', bounds)).toEqual({ ok: true, value: 'wax; honey' });
    expect(collected('honey; wax', 'queens', bounds)).toEqual({ ok: true, value: 'honey; wax; queens' });
    expect(collected('honey; wax; queens', 'swarms', bounds)).toEqual({ ok: true, value: 'wax; queens; swarms' });
    expect(collected('x', 'a value that is far too long', bounds).ok).toBe(false);
    expect(collected(['a'], ['b', 'a'], { list: true })).toEqual({ ok: true, value: ['b', 'a'] });
  });

  it('keeps of a very long list what is newest', () => {
    const long = Array.from({ length: 20_000 }, (_, at) => `value ${at}`).join('; ');
    expect(collected(long, 'one more', { bytes: 24, list: false })).toEqual({
      ok: true,
      value: 'value 19999; one more',
    });
  });
});
