import {
  learnedKey,
  lessonsOf,
  personalKindOf,
  prepareLine,
  suggestLines,
  type Learned,
  type SourceField,
  type TargetEntity,
} from './index.ts';
import { makeField } from '../testing/world.ts';

const field = (name: string, label = name, type = 'text', more: Partial<SourceField> = {}) => ({
  name,
  label,
  type,
  ...more,
});
const entity = (name: string, label: string, ...fields: TargetEntity['fields'][number][]): TargetEntity => ({
  name,
  label,
  fields,
});
const person = entity(
  'People',
  'Person',
  field('given', 'First name'),
  field('family', 'Family name'),
  field('mail', 'E-mail', 'email'),
  field('phone', 'Phone', 'phone'),
  field('born', 'Birth date', 'date'),
  field('notes', 'Notes', 'long text'),
);
const pairs = (sources: SourceField[], entities: TargetEntity[], learned: Learned[] = []) =>
  suggestLines(sources, entities, learned).map(
    ({ from, field: to, standing, part }) => `${from.join('+')}→${to}${part ? ` ${part}` : ''} ${standing}`,
  );

describe('suggestions know', () => {
  it('one field that is two in the record, and the other way round', () => {
    expect(pairs([field('n', 'Vor- und Nachname')], [person])).toEqual(['n→given given set', 'n→family family set']);
    expect(pairs([field('name', 'Name')], [person])).toEqual([
      'name→given given offered',
      'name→family family offered',
    ]);
    const whole = entity('C', 'Contact', field('full', 'Full name'));
    expect(pairs([field('a', 'First name'), field('b', 'Last name')], [whole])).toEqual(['a+b→full set']);
    // A reference takes no text, however it is called.
    const reference = entity('O', 'Organisation', field('c', 'Main contact', 'reference'));
    expect(pairs([field('a', 'First name'), field('b', 'Last name')], [reference])).toEqual([]);
  });

  it('what a bare name is beside the other half of it', () => {
    expect(pairs([field('nombre', 'Nombre'), field('apellidos', 'Apellidos')], [person])).toContain('nombre→given set');
    expect(pairs([field('vn', 'Vorname'), field('n', 'Name')], [person])).toContain('n→family set');
  });

  it('compounds, but finds none where there is none', () => {
    const order = entity(
      'O',
      'Order',
      field('no', 'Order number'),
      field('zip', 'Billing postcode'),
      field('country', 'Country'),
    );
    expect(pairs([field('b', 'Bestellnummer')], [order])).toContain('b→no set');
    expect(pairs([field('r', 'Rechnungsadresse: PLZ')], [order])).toContain('r→zip set');
    expect(pairs([field('d', 'Donation'), field('i', 'Information')], [order])).toEqual([]);
  });

  it('words with points in them, and labels of one word', () => {
    expect(pairs([field('d', 'D.O.B.')], [person])).toContain('d→born set');
    expect(pairs([field('a', 'First'), field('b', 'Last')], [person])).toEqual(['a→given set', 'b→family set']);
    expect(pairs([field('a', 'First visit')], [person])).toEqual([]);
  });

  it('that billing is not delivery, and that another’s telephone is not one’s own', () => {
    const both = entity('O', 'Order', field('s', 'Delivery city'), field('b', 'Billing city'));
    expect(pairs([field('x', 'Liefer-Ort'), field('y', 'Rechnung: Ort')], [both]).sort()).toEqual([
      'x→s set',
      'y→b set',
    ]);
    expect(pairs([field('x', 'Billing city')], [entity('C', 'Contact', field('city', 'City'))])).not.toContain(
      'x→city set',
    );
    expect(pairs([field('e', 'Notfallkontakt Telefon', 'phone')], [person])).toEqual([]);
  });

  it('that the only work e-mail is worth offering, and is not when there is a plain one', () => {
    expect(pairs([field('w', 'Business e-mail', 'email')], [person])).toEqual(['w→mail offered']);
    expect(pairs([field('w', 'Business e-mail', 'email'), field('e', 'E-mail', 'email')], [person])).toEqual([
      'e→mail set',
    ]);
  });

  it('what a bare text is by the shape of its samples', () => {
    const sources = [field('f7', 'Field 7', 'text', { samples: ['ada@hive.example', 'bo@hive.example'] })];
    expect(pairs(sources, [person])).toEqual(['f7→mail set']);
    expect(pairs([field('f7', 'Field 7')], [person])).toEqual([]);
  });

  it('that the only long text of a form is likely the only one of the record', () => {
    expect(pairs([field('q', 'Pourquoi les abeilles ?', 'long text')], [person])).toEqual(['q→notes offered']);
  });
});

describe('what was learned', () => {
  const odd = field('hr', 'Honigrang');
  const past = (accepted: number, rejected: number): Learned[] => [
    { from: learnedKey(odd), entity: 'People', field: 'notes', accepted, rejected },
  ];
  it('offers after one decision, sets after two, and takes back what was passed over', () => {
    expect(pairs([odd], [person])).toEqual([]);
    expect(pairs([odd], [person], past(1, 0))).toEqual(['hr→notes offered']);
    expect(pairs([odd], [person], past(2, 0))).toEqual(['hr→notes set']);
    expect(pairs([odd], [person], past(2, 4))).toEqual([]);
    const mail = [
      { from: learnedKey(field('e', 'E-mail')), entity: 'People', field: 'mail', accepted: 0, rejected: 3 },
    ];
    expect(pairs([field('e', 'E-mail', 'email')], [person], mail)).not.toContain('e→mail set');
  });
  it('says so in its reasons', () => {
    expect(suggestLines([odd], [person], past(2, 0))[0]!.reasons).toContain('chosen here 2 times before');
  });
  it('is told by what stands at publishing and what was passed over, and counts nothing twice', () => {
    const sources = [field('e', 'E-mail', 'email'), odd, field('p', 'Phone', 'phone')];
    const line = (from: string[], to: string, origin: 'set' | 'suggested' = 'set') => ({ from, field: to, origin });
    const steps = [
      { entity: 'People', lines: [line(['e'], 'mail'), line(['hr'], 'notes'), line(['p'], 'phone', 'suggested')] },
    ];
    expect(lessonsOf(sources, [person], steps, undefined)).toEqual([
      { from: 'mail', entity: 'People', field: 'mail', right: true },
      { from: 'honigrang', entity: 'People', field: 'notes', right: true },
      { from: 'phone', entity: 'People', field: 'phone', right: false },
    ]);
    expect(lessonsOf(sources, [person], steps, steps)).toEqual([]);
  });
});

it('a prepared line treats a part, looks a relation up, reads a country, and leaves fixed fields alone', () => {
  const where = { calledBy: (name: string) => (name === 'Courses' ? 'name' : undefined) };
  expect(prepareLine('1', [{ name: 'n', type: 'text' }], makeField('family'), where, 'family').treatments).toEqual([
    { kind: 'name part', take: 'family' },
  ]);
  const course = makeField('course_id', { type: 'reference', relation: 'Courses' });
  expect(prepareLine('1', [{ name: 'c', type: 'text' }], course, where).treatments).toEqual([
    { kind: 'trim' },
    { kind: 'lookup', entity: 'Courses', by: 'name' },
  ]);
  const country = makeField('country', {
    type: 'option',
    label: 'Country',
    options: [{ value: 'DE', label: 'Germany' }],
  });
  expect(prepareLine('1', [{ name: 'land', type: 'text' }], country, where).treatments).toEqual([
    { kind: 'country', as: 'code' },
  ]);
  expect(prepareLine('1', [{ name: 'no', type: 'text' }], makeField('number', { immutable: true }), where).ifBoth).toBe(
    'new records only',
  );
});

it.each([
  ['vorname', 'Vorname', 'text', 'given name'],
  ['x', 'E-mail', 'text', 'email'],
  ['t', 'Rückruf', 'phone', 'phone'],
  ['orchard', 'Orchard name', 'text', undefined],
  ['hives', 'Hives wanted', 'number', undefined],
])('%s tells about a person: %s', (name, label, type, kind) =>
  expect(personalKindOf({ name, label, type })).toBe(kind),
);
