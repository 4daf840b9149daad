import fc from 'fast-check';
import type { Field, Value } from '../schema/index.ts';
import { makeField as field, makeLine } from '../testing/world.ts';
import {
  decide,
  describeTreatment,
  evaluateLine,
  IF_BOTH,
  jaroWinkler,
  pairOptions,
  prepareLine,
  suggestLines,
  titleOf,
  type Line,
  type LineValue,
  type TargetEntity,
} from './index.ts';
import { likeness, wordsOf } from './words.ts';

const line = (more: Partial<Line>): Line => makeLine('x', 'f', more);
const sent = (value: Value, more: Partial<Line> = {}): LineValue => ({
  line: line(more),
  came: [],
  treated: value,
  sent: value,
  losses: [],
});

describe('a line', () => {
  it('joins what comes from several fields, without a trace of blank ones', () => {
    const joined = line({ from: ['street', 'no'], treatments: [{ kind: 'join', separator: ' ' }] });
    expect(evaluateLine(joined, { street: ' Am Deich', no: '14a' }, field('street')).sent).toBe('Am Deich 14a');
    expect(evaluateLine(joined, { street: 'Am Deich', no: ' ' }, field('street')).sent).toBe('Am Deich');
    expect(evaluateLine(joined, {}, field('street')).sent).toBeNull();
  });
  it('treats a phone with its country and says why it can’t', () => {
    const phone = line({ treatments: [{ kind: 'phone', country: 'DE' }] });
    expect(evaluateLine(phone, { x: '030 23125 077' }, field('phone', { type: 'phone' })).sent).toBe('+493023125077');
    expect(evaluateLine(phone, { x: 'soon' }, field('phone', { type: 'phone', label: 'Phone' })).problem).toBe(
      'Phone: “soon” is not a telephone number of Germany',
    );
  });
  it('pairs options, leaves one out on purpose, and refuses an unpaired one by name', () => {
    const options = [{ value: 'honey', label: 'Honey' }];
    const paired = line({
      treatments: [
        { kind: 'options', pairs: [{ from: 'Honig', to: 'honey' }, { from: 'Keins', to: '' }, { from: 'Wachs' }] },
      ],
    });
    const target = field('interests', { type: 'options', options, label: 'Interests' });
    expect(evaluateLine(paired, { x: ['Honig', 'Keins'] }, target).sent).toEqual(['honey']);
    expect(evaluateLine(paired, { x: 'Wachs' }, target).problem).toBe(
      'Interests: “Wachs” has no counterpart in the list',
    );
    expect(describeTreatment(paired.treatments[0]!)).toBe('options, 2 of 3 paired');
  });
  it('writes a constant, and a stand-in for a blank', () => {
    expect(evaluateLine(line({ from: [], constant: 'north' }), {}, field('t')).sent).toBe('north');
    expect(evaluateLine(line({ treatments: [{ kind: 'default', value: 'web' }] }), { x: '' }, field('t')).sent).toBe(
      'web',
    );
  });
  it.each([
    [{ kind: 'case', case: 'title' } as const, "MC BRIDE O'HARA VON DER HEIDE", "Mc Bride O'Hara von der Heide"],
    [{ kind: 'split', separator: ',', part: 2 } as const, 'a, b ,c', 'b'],
    [{ kind: 'replace', find: 'GmbH', with: '' } as const, 'Brandt GmbH', 'Brandt '],
    [{ kind: 'trim' } as const, '  a   b ', 'a b'],
    [{ kind: 'number', decimal: 'comma' } as const, '12,5', '12.5'],
    [{ kind: 'date', order: 'day first' } as const, '03/04/2027', '2027-04-03'],
  ])('treats %j', (treatment, text, becomes) => {
    expect(evaluateLine(line({ treatments: [treatment] }), { x: text }, field('f')).sent).toEqual(becomes);
  });
  it('never evaluates names of the prototype', () => {
    expect(evaluateLine(line({ from: ['constructor'] }), {}, field('f')).sent).toBeNull();
  });
  it('never throws on any text and any treatment', () => {
    const treatment = fc
      .constantFrom(
        ...(['trim', 'join', 'split', 'phone', 'email', 'number', 'date', 'options', 'web address', 'case'] as const),
      )
      .map((kind) => ({ kind }));
    fc.assert(
      fc.property(
        fc.array(treatment, { maxLength: 3 }),
        fc.oneof(fc.string(), fc.array(fc.string())),
        (treatments, x) => {
          const outcome = evaluateLine(line({ treatments }), { x }, field('f'));
          return outcome.problem === undefined || outcome.sent === null;
        },
      ),
    );
  });
});

describe('if both sides have a value', () => {
  const values = fc.oneof(fc.string(), fc.constant(null), fc.array(fc.string({ minLength: 1 })));
  it('a blank never erases unless the line says so', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...IF_BOTH),
        values,
        (ifBoth, current) => !decide(sent(null, { ifBoth }), current, false).write,
      ),
    );
    expect(decide(sent(null, { blankErases: true }), 'held', false)).toEqual({ write: true, value: null });
    expect(decide(sent(null, { blankErases: true, ifBoth: 'fill only' }), 'held', false).write).toBe(false);
  });
  it('what was written isn’t written again', () => {
    fc.assert(
      fc.property(fc.constantFrom(...IF_BOTH), values, values, (ifBoth, came, current) => {
        const first = decide(sent(came, { ifBoth }), current, false);
        return !first.write || !decide(sent(came, { ifBoth }), first.value, false).write;
      }),
    );
  });
  it('keeps to what the line says', () => {
    expect(decide(sent('new', { ifBoth: 'fill only' }), 'old', false)).toEqual({ write: false, why: 'kept' });
    expect(decide(sent('new', { ifBoth: 'fill only' }), '', false)).toEqual({ write: true, value: 'new' });
    expect(decide(sent('new', { ifBoth: 'new records only' }), null, false).write).toBe(false);
    expect(decide(sent('new', { ifBoth: 'new records only' }), undefined, true).write).toBe(true);
    expect(decide(sent('longer', { ifBoth: 'keep the longer' }), 'long', false).write).toBe(true);
    expect(decide(sent('so', { ifBoth: 'keep the longer' }), 'long', false).write).toBe(false);
    expect(decide(sent(['b', 'a'], { ifBoth: 'add to list' }), ['a'], false)).toEqual({
      write: true,
      value: ['a', 'b'],
    });
    expect(decide(sent('two', { ifBoth: 'add to list' }), 'one', false)).toEqual({ write: true, value: 'one\ntwo' });
  });
});

describe('words', () => {
  it('are split wherever names run together', () => {
    expect(wordsOf('firstName')).toEqual(['first', 'name']);
    expect(wordsOf('contacts[0][e-mail]')).toEqual(['contacts', 'e', 'mail']);
    expect(wordsOf('HTMLForm2Name')).toEqual(['html', 'form', 'name']);
  });
  it('compare alike in both directions, from 0 to 1', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string()),
        fc.array(fc.string()),
        (a, b) => Math.abs(likeness(a, b) - likeness(b, a)) < 1e-9,
      ),
    );
    fc.assert(
      fc.property(
        fc.string(),
        fc.string(),
        (a, b) => jaroWinkler(a, b) >= 0 && jaroWinkler(a, b) <= 1 && (a !== b || jaroWinkler(a, b) === 1),
      ),
    );
    expect(jaroWinkler('martha', 'marhta')).toBeCloseTo(0.9611, 4);
    expect(jaroWinkler('dixon', 'dicksonx')).toBeCloseTo(0.8133, 4);
  });
});

const person: TargetEntity = {
  name: 'People',
  label: 'Person',
  fields: [
    { name: 'first_name', label: 'First name', type: 'text' },
    { name: 'last_name', label: 'Family name', type: 'text', required: true },
    { name: 'email', label: 'E-mail', type: 'email' },
    { name: 'phone', label: 'Phone', type: 'phone' },
    { name: 'mobile', label: 'Mobile', type: 'phone' },
    { name: 'street', label: 'Street', type: 'text' },
    { name: 'postcode', label: 'Postcode', type: 'text' },
    { name: 'city', label: 'City', type: 'text' },
    { name: 'birth_date', label: 'Birth date', type: 'date' },
    { name: 'notes', label: 'Notes', type: 'long text' },
  ],
};
const input = (name: string, label: string, type = 'text') => ({ name, label, type });
const pairs = (sources: Parameters<typeof suggestLines>[0], entities = [person]): string[] =>
  suggestLines(sources, entities)
    .map(({ from, field: to, standing }) => `${from.join('+')}>${to} ${standing}`)
    .sort();

const withoutStanding = (line: string): string => line.split(' ')[0]!;

describe('suggestions', () => {
  it('find the usual fields in several languages', () => {
    for (const [first, last, mail, phone, code, town] of [
      ['First name', 'Surname', 'E-mail address', 'Telephone number', 'Post code', 'Town'],
      ['Vorname', 'Nachname', 'E-Mail-Adresse', 'Telefon', 'PLZ', 'Ort'],
      ['Imię', 'Nazwisko', 'Adres e-mail', 'Telefon', 'Kod pocztowy', 'Miejscowość'],
      ['Prénom', 'Nom de famille', 'Courriel', 'Téléphone', 'Code postal', 'Ville'],
    ]) {
      const sources = [first, last, mail, phone, code, town].map((label, at) => input(`f${at}`, label!));
      expect(pairs(sources)).toEqual([
        'f0>first_name set',
        'f1>last_name set',
        'f2>email set',
        'f3>phone set',
        'f4>postcode set',
        'f5>city set',
      ]);
    }
  });
  it('go by autofill tokens where labels say nothing', () => {
    expect(
      pairs([
        { ...input('q1', 'q1'), autocomplete: 'family-name' },
        { ...input('q2', 'q2'), autocomplete: 'section-a email' },
      ]),
    ).toEqual(['q1>last_name set', 'q2>email set']);
  });
  it('take a bare name for what its entity is', () => {
    const organisation: TargetEntity = {
      name: 'Orgs',
      label: 'Organisation',
      fields: [{ name: 'name', label: 'Name', type: 'text' }],
    };
    for (const label of ['Company', 'Firma', 'Nazwa firmy', 'Société', 'Empresa', 'Orchard name'])
      expect(pairs([input('c', label)], [organisation]).map(withoutStanding)).toEqual(['c>name']);
    expect(pairs([input('c', 'First name')], [organisation]).filter((each) => each.endsWith(' set'))).toEqual([]);
  });
  it('tell a mobile from a phone, and give each its own', () => {
    expect(pairs([input('m', 'Handy', 'phone'), input('t', 'Telefon', 'phone')])).toEqual([
      'm>mobile set',
      't>phone set',
    ]);
  });
  it('don’t set what is qualified on one side only', () => {
    expect(pairs([input('billing_city', 'Billing city')]).filter((each) => each.endsWith(' set'))).toEqual([]);
  });
  it('join parts into the one field there is', () => {
    const whole: TargetEntity = {
      name: 'C',
      label: 'Contact',
      fields: [
        { name: 'full_name', label: 'Full name', type: 'text' },
        { name: 'street', label: 'Street', type: 'text' },
      ],
    };
    expect(
      pairs(
        [input('a', 'First name'), input('b', 'Last name'), input('s', 'Street'), input('n', 'House number')],
        [whole],
      ),
    ).toEqual(['a+b>full_name set', 's+n>street set']);
  });
  it('have a reason each and never use a field twice', () => {
    const lines = suggestLines(
      [input('a', 'E-mail', 'email'), input('b', 'E-mail', 'email'), input('c', 'Phone', 'phone')],
      [person],
    );
    expect(lines.every(({ reasons }) => reasons.length > 0)).toBe(true);
    expect(new Set(lines.map(({ field: to }) => to)).size).toBe(lines.length);
  });
  it('are the same lines in whatever order the fields come; how sure they are may change with it', () => {
    const sources = [
      input('v', 'Vorname'),
      input('n', 'Nachname'),
      input('m', 'Mail', 'email'),
      input('x', 'Nachricht', 'long text'),
      input('g', 'Geburtsdatum', 'date'),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(sources, { minLength: sources.length }), (shuffled) =>
        expect(pairs(shuffled).map(withoutStanding)).toEqual(pairs(sources).map(withoutStanding)),
      ),
    );
  });
  it('offer nothing for what they don’t know', () => expect(pairs([input('zzz', 'Qwxyz')])).toEqual([]));
});

describe('preparing a line', () => {
  it('brings the treatments its field needs', () => {
    const kinds = (to: Partial<Field>, source = input('x', 'X')) =>
      prepareLine('l', [source], field('f', to), { country: 'DE', locale: 'de-DE' }).treatments;
    expect(kinds({ type: 'phone' })).toEqual([{ kind: 'phone', country: 'DE' }]);
    expect(kinds({ type: 'number' })).toEqual([{ kind: 'number', decimal: 'comma' }]);
    expect(kinds({ type: 'number' }, input('x', 'X', 'number'))).toEqual([{ kind: 'number', decimal: 'point' }]);
    expect(kinds({ type: 'date' })).toEqual([{ kind: 'date', order: 'day first' }]);
    expect(kinds({ type: 'text' })).toEqual([{ kind: 'trim' }]);
  });
  it('pairs options that are alike and leaves the others open', () => {
    expect(
      pairOptions(
        [
          { value: '1', label: 'Königin' },
          { value: 'honey', label: 'Honig' },
          { value: 'wax', label: 'Wachs' },
        ],
        [
          { value: 'queen', label: 'konigin' },
          { value: 'honey', label: 'Honey' },
        ],
      ),
    ).toEqual([{ from: '1', to: 'queen' }, { from: 'honey', to: 'honey' }, { from: 'wax' }]);
  });
});

describe('what a submission is called', () => {
  const fields = [
    input('org', 'Orchard name'),
    input('fn', 'First name'),
    input('ln', 'Last name'),
    input('em', 'E-mail', 'email'),
  ];
  it.each([
    [{ org: ' Obsthof ', fn: 'Kathi', em: 'k@b.example' }, 'Obsthof'],
    [{ org: '', fn: 'Kathi', ln: 'Brandt' }, 'Kathi Brandt'],
    [{ em: 'k@b.example' }, 'k@b.example'],
    [{ other: 'x' }, 'x'],
    [{}, ''],
  ])('%j', (values: Record<string, string>, title) => expect(titleOf(fields, values)).toBe(title));
});
