import {
  learnedKey,
  lessonsOf,
  personalKindOf,
  prepareLine,
  suggestLines,
  wordingAgreedTo,
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

/** Where fields go, set or offered. */
const places = (sources: SourceField[], entities: TargetEntity[]): string[] =>
  pairs(sources, entities).map((line) => line.replace(/ (?:set|offered)$/, ''));

describe('suggestions know', () => {
  it('one field that is two in the record, and the other way round', () => {
    expect(places([field('n', 'Vor- und Nachname')], [person])).toEqual(['n→given given', 'n→family family']);
    expect(places([field('name', 'Name')], [person])).toEqual(['name→given given', 'name→family family']);
    const whole = entity('C', 'Contact', field('full', 'Full name'));
    expect(pairs([field('a', 'First name'), field('b', 'Last name')], [whole])).toEqual(['a+b→full set']);
    // A reference takes no text, however it is called.
    const reference = entity('O', 'Organisation', field('c', 'Main contact', 'reference'));
    expect(pairs([field('a', 'First name'), field('b', 'Last name')], [reference])).toEqual([]);
  });

  it('what a bare name is beside the other half of it', () => {
    expect(places([field('nombre', 'Nombre'), field('apellidos', 'Apellidos')], [person])).toContain('nombre→given');
    expect(places([field('vn', 'Vorname'), field('n', 'Name')], [person])).toContain('n→family');
  });

  it('compounds, but finds none where there is none', () => {
    const order = entity(
      'O',
      'Order',
      field('no', 'Order number'),
      field('zip', 'Billing postcode'),
      field('country', 'Country'),
    );
    expect(places([field('b', 'Bestellnummer')], [order])).toContain('b→no');
    expect(places([field('r', 'Rechnungsadresse: PLZ')], [order])).toContain('r→zip');
    expect(pairs([field('d', 'Donation'), field('i', 'Information')], [order])).toEqual([]);
  });

  it('words with points in them, and labels of one word', () => {
    expect(places([field('d', 'D.O.B.')], [person])).toContain('d→born');
    expect(pairs([field('a', 'First'), field('b', 'Last')], [person])).toEqual(['a→given set', 'b→family set']);
    expect(pairs([field('a', 'First visit')], [person])).toEqual([]);
  });

  it('that billing is not delivery, and that another’s telephone is not one’s own', () => {
    const both = entity('O', 'Order', field('s', 'Delivery city'), field('b', 'Billing city'));
    expect(places([field('x', 'Liefer-Ort'), field('y', 'Rechnung: Ort')], [both]).sort()).toEqual(['x→s', 'y→b']);
    expect(pairs([field('x', 'Billing city')], [entity('C', 'Contact', field('city', 'City'))])).not.toContain(
      'x→city set',
    );
    expect(pairs([field('e', 'Notfallkontakt Telefon', 'phone')], [person])).toEqual([]);
  });

  it('that the only work e-mail is worth offering, and is not when there is a plain one', () => {
    expect(places([field('w', 'Business e-mail', 'email')], [person])).toEqual(['w→mail']);
    expect(pairs([field('w', 'Business e-mail', 'email'), field('e', 'E-mail', 'email')], [person])).toEqual([
      'e→mail set',
    ]);
  });

  it('what a bare text is by the shape of its samples', () => {
    const sources = [field('f7', 'Field 7', 'text', { samples: ['ada@hive.example', 'bo@hive.example'] })];
    expect(places(sources, [person])).toEqual(['f7→mail']);
    expect(pairs([field('f7', 'Field 7')], [person])).toEqual([]);
  });

  it('that the only long text of a form is likely the only one of the record', () => {
    expect(pairs([field('q', 'Pourquoi les abeilles ?', 'long text')], [person])).toEqual(['q→notes offered']);
  });
});

describe('parts join', () => {
  it('day, month and year of a birthday into its date, whatever their order, and are read as one', () => {
    const parts = [
      field('m', 'Month', 'option', { section: 'Date of birth' }),
      field('d', 'Day', 'text', { section: 'Date of birth' }),
      field('y', 'Year', 'text', { section: 'Date of birth' }),
    ];
    const [line] = suggestLines(parts, [person]);
    expect(line).toMatchObject({ from: ['y', 'm', 'd'], field: 'born', separator: '/' });
    const born = makeField('born', { type: 'date' });
    const sources = parts.map(({ name, type }) => ({ name, type }));
    expect(prepareLine('1', sources, born, {}, { separator: '/' }).treatments).toEqual([
      { kind: 'join', separator: '/' },
      { kind: 'date', order: 'year first' },
    ]);
  });
  it('but a day that isn’t said to be one is not set as a birthday', () => {
    const parts = [field('a', 'Day'), field('b', 'Month'), field('c', 'Year')];
    expect(pairs(parts, [person]).filter((each) => each.endsWith(' set'))).toEqual([]);
  });
  it('a country’s code before the telephone', () => {
    const parts = [field('code', 'Country calling code'), field('tel', 'Phone number', 'phone')];
    expect(pairs(parts, [person]).map((each) => each.split(' ')[0])).toContain('code+tel→phone');
  });
});

describe('consent', () => {
  const member = entity(
    'M',
    'Member',
    field('mail', 'E-mail', 'email'),
    field('letters', 'Receives the newsletter', 'yes/no'),
  );
  it.each([
    'Subscribe to our newsletter',
    'Newsletter abonnieren',
    'Zapisz mnie do newslettera',
    'I agree to receive the newsletter by e-mail',
  ])('is never set, however sure it is, and has its wording beside it: %s', (wording) => {
    const lines = suggestLines([field('n', wording, 'yes/no')], [member]);
    expect(lines.filter(({ standing }) => standing === 'set')).toEqual([]);
    expect(wordingAgreedTo(lines[0]!)).toBe(`“${wording}”`);
  });
  it.each([
    'I agree to the terms and conditions',
    'Ich akzeptiere die AGB',
    'I have read the privacy policy',
    'Akceptuję regulamin',
  ])('to one thing is none to another: %s', (wording) =>
    expect(pairs([field('t', wording, 'yes/no')], [member])).toEqual([]),
  );
  it('is not learned into being set either', () => {
    const box = field('n', 'Subscribe to our newsletter', 'yes/no');
    const past = [{ from: learnedKey(box), entity: 'M', field: 'letters', accepted: 9, rejected: 0 }];
    expect(pairs([box], [member], past)).toEqual(['n→letters offered']);
  });
});

describe('silence', () => {
  it.each([
    ['somebody else’s', [field('friend_email', 'Your friend’s e-mail', 'email')]],
    ['a recipient’s', [field('to', 'Recipient’s email address', 'email')]],
    ['a user name', [field('user', 'Username')]],
    ['a search', [field('q', 'Search this site')]],
    ['a trap for robots', [field('url2', 'Leave this field empty if you are human')]],
    ['a captcha', [field('captcha', 'Enter the words above')]],
    ['what is not understood', [field('a', '問い合わせ種別'), field('b', 'ご要望'), field('c', 'توضیحات بیشتر')]],
    ['remembering', [field('r', 'Remember me', 'yes/no')]],
  ])('about %s', (_, fields) => {
    expect(pairs(fields, [person]).filter((each) => each.endsWith(' set'))).toEqual([]);
  });
  it('the leaf of a name says more than what it stands in', () => {
    expect(pairs([field('reply[email]', 'reply[email]', 'email')], [person])).toEqual(['reply[email]→mail set']);
    expect(
      pairs([field('invite[email]', 'invite[email]', 'email')], [person]).filter((each) => each.endsWith(' set')),
    ).toEqual([]);
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
  expect(
    prepareLine('1', [{ name: 'n', type: 'text' }], makeField('family'), where, { part: 'family' }).treatments,
  ).toEqual([{ kind: 'name part', take: 'family' }]);
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

it('places by their words what only one business knows, however the form asks for it', () => {
  const orchard = entity('orchards', 'Orchard', field('hives', 'Hives', 'integer'), field('trees', 'Trees', 'integer'));
  expect(pairs([field('bees', 'How many hives?', 'number')], [orchard])).toEqual(['bees→hives set']);
  expect(pairs([field('hive_id', 'What colour are the boxes?')], [orchard])).toEqual([]);
});

it('takes a type it has no name for as a text', () => {
  const contact = entity('contact', 'Contact', field('fn', 'Given name', 'Edm.String'));
  expect(pairs([field('vorname', 'Vorname', 'string')], [contact])).toEqual(['vorname→fn set']);
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
