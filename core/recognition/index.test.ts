import fc from 'fast-check';
import {
  Blocks,
  Counter,
  fullest,
  groupsOf,
  hash32,
  hash52,
  judge,
  KeyMeter,
  learn,
  levelKey,
  Matcher,
  ORGANISATIONS,
  PEOPLE,
  peopleApart,
  PeopleFrequencies,
  comparePeople,
  findDoubles,
  preparePerson,
  Recogniser,
  suggestRecognition,
  survivorsOf,
  THRESHOLDS,
  whyOf,
  troubleWith,
  tuned,
  typingErrors,
  type About,
  type Compared,
  type DoublePair,
  type LearningPair,
  type Recognition,
} from './index.ts';
import { makeEntity, makeField } from '../testing/world.ts';

const word = fc.string({ minLength: 0, maxLength: 12, unit: fc.constantFrom(...'abcdeüß ') });
const person = fc.record({
  id: fc.constant('x'),
  first_name: word,
  last_name: word,
  email: fc.constantFrom('', 'a.b@c.example', 'info@c.example', 'test@', 'ab+x@c.example'),
  phone: fc.constantFrom('', '+493012345678', '030 12345678', '0000000', '12'),
  street: fc.constantFrom('', 'Am Deich 14a', 'Deichstr. 3', '12 High Street'),
  city: word,
  postcode: fc.constantFrom('', '21635', 'CB2 1TN'),
  birth_date: fc.constantFrom('', '1981-04-03', '3.4.1981', '1900-01-01', '1981-03-04', '1955-11-20'),
  organisation: word,
});

/** Optimal string alignment as the textbook has it, for comparing with. */
function plainly(a: string, b: string): number {
  const table = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (__, j) => i + j));
  for (let i = 1; i <= a.length; i += 1)
    for (let j = 1; j <= b.length; j += 1) {
      table[i]![j] = Math.min(
        table[i - 1]![j]! + 1,
        table[i]![j - 1]! + 1,
        table[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1),
      );
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        table[i]![j] = Math.min(table[i]![j]!, table[i - 2]![j - 2]! + 1);
    }
  return table[a.length]![b.length]!;
}

describe('what makes it fast changes nothing', () => {
  it('typing errors are those of the textbook, up to the bound', () => {
    const letters = fc.string({ maxLength: 9, unit: fc.constantFrom('a', 'b', 'c') });
    fc.assert(
      fc.property(letters, letters, fc.constantFrom(1, 2, 3), (a, b, most) => {
        expect(typingErrors(a, b, most)).toBe(Math.min(plainly(a, b), most + 1));
      }),
      { numRuns: 1000 },
    );
  });
  it('a packed record is the same when it is unpacked', () => {
    fc.assert(
      fc.property(person, (raw) => {
        const prepared = PEOPLE.prepare(raw);
        expect(PEOPLE.unpack('x', PEOPLE.pack(prepared))).toEqual(prepared);
      }),
      { numRuns: 500 },
    );
    const organisation = ORGANISATIONS.prepare({
      id: 'o',
      name: 'Obsthof Brandt & Söhne GmbH',
      website: 'https://www.brandt.example/a',
      email: 'post@brandt.example',
      phone: '040 2312507',
      street: 'Am Deich 14a',
      postcode: '21635',
    });
    expect(ORGANISATIONS.unpack('o', ORGANISATIONS.pack(organisation))).toEqual(organisation);
  });
  it('who is quickly seen to be apart is kept apart by the whole comparison too', () => {
    const common = new PeopleFrequencies();
    fc.assert(
      fc.property(person, person, (one, other) => {
        const [a, b] = [preparePerson(one), preparePerson(other)];
        if (peopleApart(a, b, common)) expect(comparePeople(a, b, common).veto?.atMost).toBe('different');
        if (PEOPLE.marksApart!(PEOPLE.mark!(a), PEOPLE.mark!(b)))
          expect(comparePeople(a, b, common).veto?.why).toBe('born on different days');
      }),
      { numRuns: 800 },
    );
  });
  it('counts are those of a map, and are read back', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(200), { maxLength: 600 }), (values) => {
        const counter = new Counter();
        const map = new Map<number, number>();
        for (const value of values) {
          counter.add(hash32(String(value)));
          map.set(value, (map.get(value) ?? 0) + 1);
        }
        const again = Counter.from(counter.pairs());
        for (let value = 0; value <= 200; value += 1) {
          expect(counter.get(hash32(String(value)))).toBe(map.get(value) ?? 0);
          expect(again.get(hash32(String(value)))).toBe(map.get(value) ?? 0);
        }
      }),
      { numRuns: 50 },
    );
  });
  it('hashes are whole numbers that a database keeps exactly, and differ', () => {
    const seen = new Set<number>();
    for (let at = 0; at < 20_000; at += 1) {
      const hash = hash52(`n key ${at}`);
      expect(Number.isSafeInteger(hash)).toBe(true);
      seen.add(hash);
    }
    expect(seen.size).toBe(20_000);
  });
});

describe('blocks', () => {
  it('find those that share a small key, or two large ones, and never the record itself', () => {
    const keys = Array.from({ length: 2000 }, (_, at) => [
      `small ${at % 500}`,
      `large ${at % 3}`,
      `wide ${at % 5}`,
      'all',
    ]);
    const blocks = new Blocks(2000, keys);
    expect(blocks.candidates(keys[7]!, 7).sort((a, b) => a - b)).toEqual(expect.arrayContaining([507, 1007, 1507]));
    expect(blocks.candidates(keys[7]!, 7)).not.toContain(7);
    // Those that share both larger keys come into question as well, those that share one don't.
    expect(blocks.candidates(['large 1', 'wide 2']).every((at) => at % 3 === 1 && at % 5 === 2)).toBe(true);
    expect(blocks.candidates(['large 1'])).toEqual([]);
    // Nothing of an earlier question is left.
    expect(blocks.candidates(keys[7]!, 7)).toEqual(blocks.candidates(keys[7]!, 7));
  });
});

describe('groups of doubles', () => {
  const pair = (a: string, b: string, weight: number): DoublePair => ({
    a,
    b,
    weight,
    verdict: weight >= 7 ? 'same' : 'unsure',
  });
  it('never chain strangers together', () => {
    expect(groupsOf([pair('a', 'b', 20), pair('b', 'c', 12)]).map(({ members }) => members)).toEqual([['a', 'b']]);
    const whole = groupsOf([pair('a', 'b', 20), pair('b', 'c', 12), pair('a', 'c', 3)]);
    expect(whole).toEqual([{ members: ['a', 'b', 'c'], weight: 12, verdict: 'same' }]);
  });
  it('don’t depend on the order of the pairs; each record is in one group at most', () => {
    const pairs = fc.uniqueArray(
      fc.tuple(fc.nat(7), fc.nat(7), fc.integer({ min: 0, max: 40 })).filter(([a, b]) => a < b),
      { selector: ([a, b]) => `${a} ${b}`, maxLength: 20 },
    );
    fc.assert(
      fc.property(pairs, fc.infiniteStream(fc.nat()), (list, shuffle) => {
        const made = list.map(([a, b, weight]) => pair(`p${a}`, `p${b}`, weight));
        const other = made
          .map((each) => ({ each, at: shuffle.next().value }))
          .sort((x, y) => x.at - y.at)
          .map(({ each }) => each);
        const groups = groupsOf(made);
        expect(groupsOf(other)).toEqual(groups);
        const members = groups.flatMap((group) => group.members);
        expect(new Set(members).size).toBe(members.length);
      }),
    );
  });
});

describe('survivors', () => {
  const records = [
    { id: 'P-1', values: { name: 'Kathi', phone: null, notes: 'short', changed: '2026-01-01' } },
    { id: 'P-2', values: { name: 'Katharina', phone: '+4930', notes: 'a longer note', changed: '2025-01-01' } },
  ];
  const kept = (rule: Parameters<typeof survivorsOf>[3], choice = {}) =>
    Object.fromEntries(
      survivorsOf(records, 'P-1', ['name', 'phone', 'notes'], rule, choice, {
        newest: ['P-1', 'P-2'],
        trusted: 'P-2',
      }).map(({ field, value }) => [field, value]),
    );
  it('a blank never wins over a value, whatever the rule', () => {
    expect(kept('the survivor’s own')).toEqual({ name: 'Kathi', phone: '+4930', notes: 'short' });
    expect(kept('newest')).toEqual({ name: 'Kathi', phone: '+4930', notes: 'short' });
    expect(kept('longest')).toEqual({ name: 'Katharina', phone: '+4930', notes: 'a longer note' });
    expect(kept('from a trusted record')).toEqual({ name: 'Katharina', phone: '+4930', notes: 'a longer note' });
    expect(kept('the survivor’s own', { notes: 'P-2' }).notes).toBe('a longer note');
  });
  it('the record that says most stays', () => expect(fullest(records)?.id).toBe('P-2'));
});

describe('weights are learned', () => {
  const compared = (levels: [About, string, number][]): Compared => ({
    evidence: levels.map(([about, level, bits]) => ({ about, level, bits })),
    weight: levels.reduce((sum, [, , bits]) => sum + bits, 0),
  });
  const match = (phone: [string, number]): Compared =>
    compared([
      ['family name', 'same', 12],
      ['e-mail', 'same', 15],
      ['telephone', ...phone],
    ]);
  const random = Array.from({ length: 400 }, (_, at) =>
    compared([
      ['family name', 'different', -4.5],
      ['e-mail', 'different', -2.5],
      ['telephone', at % 40 === 0 ? 'a digit off' : 'different', at % 40 === 0 ? 6 : -2],
    ]),
  );
  const pairs = (off: number): LearningPair[] =>
    Array.from({ length: 300 }, (_, at) => ({
      compared: match(at < off ? ['a digit off', 6] : ['same', 12]),
    }));
  const shiftOf = (learned: ReturnType<typeof learn>, level: string): number =>
    learned.find((each) => each.about === 'telephone' && each.level === level)?.shift ?? 0;

  it('from how often a level comes up among records of the same', () => {
    expect(shiftOf(learn(pairs(3), random, 1000), 'a digit off')).toBeLessThan(-1);
    expect(shiftOf(learn(pairs(200), random, 1000), 'a digit off')).toBeGreaterThan(
      shiftOf(learn(pairs(20), random, 1000), 'a digit off'),
    );
  });
  it('few pairs leave the defaults nearly as they are, and none moves a weight beyond three bits', () => {
    for (const { shift } of learn(pairs(1).slice(0, 3), random, 1000)) expect(Math.abs(shift)).toBeLessThan(1);
    for (const { shift } of learn(pairs(300), random, 1000)) expect(Math.abs(shift)).toBeLessThanOrEqual(3);
    expect(learn([], [], 0)).toEqual([]);
  });
  it('what people decide pulls the weights towards it', () => {
    const unsure = compared([
      ['family name', 'same', 8],
      ['telephone', 'a digit off', 6],
    ]);
    const decided = (answer: 'same' | 'different') =>
      learn([...pairs(30), ...Array.from({ length: 12 }, () => ({ compared: unsure, decided: answer }))], random, 1000);
    const weightBy = (learned: ReturnType<typeof learn>): number =>
      tuned(unsure, new Map(learned.map(({ about, level, shift }) => [levelKey(about, level), shift]))).weight;
    expect(weightBy(decided('same'))).toBeGreaterThan(weightBy(decided('different')) + 1);
  });
});

describe('how an entity is recognised', () => {
  const people = makeEntity('Contacts', [
    makeField('vorname', { label: 'Vorname' }),
    makeField('nachname', { label: 'Nachname' }),
    makeField('mail', { label: 'Adresse', type: 'email' }),
    makeField('handy', { label: 'Handy', type: 'phone' }),
    makeField('tel', { label: 'Telefon', type: 'phone' }),
    makeField('hidden', { label: 'Geburtsdatum', type: 'date', rights: 'none' }),
  ]);
  it('is suggested by names and types in several languages, without what can’t be seen', () => {
    expect(suggestRecognition(people)).toMatchObject({
      kind: 'person',
      parts: [
        { part: 'first_name', field: 'vorname' },
        { part: 'last_name', field: 'nachname' },
        { part: 'email', field: 'mail' },
        { part: 'phone', field: 'tel' },
        { part: 'mobile', field: 'handy' },
      ],
    });
    expect(suggestRecognition(makeEntity('Orders', [makeField('number'), makeField('total')]))).toBeUndefined();
  });
  it('is checked beyond its shape', () => {
    const sound = suggestRecognition(people)!;
    expect(troubleWith(sound, people)).toBeUndefined();
    const trouble = (change: Partial<Recognition>) => troubleWith({ ...sound, ...change }, people)?.at;
    expect(trouble({ thresholds: { same: 1, unsure: 2 } })).toBe('thresholds.unsure');
    expect(trouble({ parts: [{ part: 'last_name', field: 'hidden' }] })).toBe('parts.0.field');
    expect(trouble({ parts: [{ part: 'email', field: 'mail' }] })).toBe('parts');
  });
  it('other thresholds give other verdicts, and every one is explained', () => {
    const recognition = suggestRecognition(people)!;
    const verdict = (same: number, unsure: number) => {
      const recogniser = new Recogniser({ ...recognition, thresholds: { same, unsure } }, 500);
      const known = recogniser.prepare('P-1', { vorname: 'Gesche', nachname: 'Quakenbrück', tel: '+493023125901' });
      const query = recogniser.prepare('', { vorname: 'G.', nachname: 'Quakenbrueck', tel: '030 23125901' });
      return recogniser.weigh(query, [known]);
    };
    const { ranked } = verdict(7, 0);
    expect(verdict(7, 0).verdict).toBe('same');
    expect(verdict(60, 0).verdict).toBe('unsure');
    expect(verdict(60, 59).verdict).toBe('different');
    expect(ranked[0]!.evidence.map(({ about }) => about)).toEqual(['first name', 'family name', 'telephone']);
    const sum = ranked[0]!.evidence.reduce((total, { bits }) => total + bits, 0);
    expect(ranked[0]!.weight).toBeCloseTo(sum - Math.log2(501), 6);
  });
  it('a verdict that the weight alone wouldn’t give says why, and where its line lies', () => {
    const lines = (same: number, unsure: number) => ({ same, unsure, why: 'an initial only' });
    const told = (weight: number, by?: ReturnType<typeof lines>) =>
      whyOf({ weight, compared: { evidence: [], weight, ...(by ? { lines: by } : {}) } }, { same: 7, unsure: 0 });
    expect(told(8)).toBeUndefined();
    expect(told(8, lines(3, 0))).toBe('an initial only: the same from +10.0 bits');
    expect(told(12, lines(3, 0))).toBeUndefined();
    expect(told(5, lines(-3, 0))).toBe('an initial only: the same from +4.0 bits');
    expect(told(1, lines(5, 2))).toBe('an initial only: asked about from +2.0 bits');
    expect(told(-4, lines(-7, -6))).toBe('an initial only: asked about from −6.0 bits');
    const veto = { why: 'father and son', atMost: 'different' as const };
    expect(whyOf({ weight: 20, compared: { evidence: [], weight: 20, veto } }, THRESHOLDS)).toBe('father and son');
  });
  it('several that fit alike are unsure; what a rule forbids comes last', () => {
    const each = (record: string, weight: number, veto = false) => ({
      record,
      weight,
      compared: { evidence: [], weight, ...(veto ? { veto: { why: 'x', atMost: 'different' as const } } : {}) },
    });
    expect(judge([each('a', 20), each('b', 18)], THRESHOLDS).verdict).toBe('unsure');
    expect(judge([each('a', 20), each('b', 14)], THRESHOLDS).verdict).toBe('same');
    expect(judge([each('a', 9), each('b', 30, true)], THRESHOLDS)).toMatchObject({
      verdict: 'same',
      ranked: [{ record: 'a' }, {}],
    });
    expect(judge([], THRESHOLDS).verdict).toBe('different');
  });
});

describe('many records', () => {
  const crowd = Array.from({ length: 1600 }, (_, at) => ({
    id: `P${at}`,
    first_name: ['Ewa', 'Jan', 'Nell', 'Ivo'][at % 4]!,
    last_name: `Nach${['berg', 'mann', 'ski', 'ton', 'ley'][at % 5]}${at % 100}`,
    email: at % 9 === 0 ? '' : `someone${at}@post.example`,
    phone: '000000',
    birth_date: `19${50 + (at % 40)}-0${1 + (at % 9)}-1${at % 9}`,
  }));
  it('doubles are found once, whichever of the two comes first', () => {
    const doubles = [
      { ...crowd[10]!, id: 'D1', last_name: `${crowd[10]!.last_name}e` },
      { ...crowd[900]!, id: 'D2', email: '' },
    ];
    const matcher = Matcher.of(PEOPLE, [doubles[0]!, ...crowd, doubles[1]!]);
    const { pairs, compared } = findDoubles(matcher, 0, matcher.size, THRESHOLDS);
    const found = pairs.map(({ a, b }) => [a, b].sort().join());
    expect(new Set(found).size).toBe(found.length);
    expect(found).toEqual(expect.arrayContaining(['D1,P10', 'D2,P900']));
    expect(compared).toBeLessThan(1600 * 160);
  });
  it('keys are measured: what is blank or a placeholder is not filled, what others have is shared', () => {
    const meter = new KeyMeter('person', ['first_name', 'last_name', 'email', 'phone']);
    for (const raw of crowd) meter.add(preparePerson(raw));
    const of = (...parts: string[]) => meter.measures().find((each) => each.parts.join() === parts.join())!;
    expect(of('phone').filled).toBe(0);
    expect(of('email').filled).toBe(crowd.filter(({ email }) => email !== '').length);
    expect(of('email').shared).toBe(0);
    expect(of('first_name').shared).toBe(1600);
  });
});
