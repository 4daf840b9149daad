import { stringify } from 'lossless-json';
import { makeEntity, makeField } from '../../../core/testing/world.ts';
import { areEmails, namesEmail } from './emails.ts';
import { enumType, jsonOf, literalOf, valueOf } from './edm.ts';
import { addressOf, idFrom, idIn } from './records.ts';

const of = (native: string | undefined, type: 'text' | 'options' | 'yes/no' = 'text') => ({
  type,
  ...(native ? { native } : {}),
});

describe('a value in an address', () => {
  it.each([
    ['Edm.String', "O'Hara", "'O''Hara'"],
    ['Edm.String', '5', "'5'"],
    ['Edm.Int32', '5', '5'],
    ['Edm.Int64', '9007199254740993', '9007199254740993'],
    ['Edm.Int64', 1e21, '1000000000000000000000'],
    ['Edm.Decimal', '2.50', '2.50'],
    ['Edm.Double', 1.5, '1.5'],
    ['Edm.Guid', '6F9619FF-8b86-4011-b42d-00c04fc964ff', '6F9619FF-8b86-4011-b42d-00c04fc964ff'],
    ['Edm.Boolean', true, 'true'],
    ['Edm.Date', '2027-04-20', '2027-04-20'],
    ['Edm.DateTimeOffset', '2027-04-20T06:00:00.000Z', '2027-04-20T06:00:00Z'],
    ['Edm.TimeOfDay', '14:30:00', '14:30:00'],
    ['Edm.Duration', 'PT1H', "duration'PT1H'"],
    [enumType('ns.Colour', false), 'Red', "ns.Colour'Red'"],
    [enumType('ns.Likes', true), 'Pears', "ns.Likes'Pears'"],
    [undefined, '5', "'5'"],
    [undefined, 5, '5'],
  ])('%s %s is %s', (native, value, literal) => expect(literalOf(value, of(native))).toBe(literal));

  it.each([
    ['Edm.Int32', '5 or 1 eq 1'],
    ['Edm.Int32', '5.5'],
    ['Edm.Decimal', '1e'],
    ['Edm.Guid', "' or true"],
    ['Edm.Date', '2027-04-20T00:00:00Z'],
    ['Edm.DateTimeOffset', '2027-04-20T00:00:00'],
    ['Edm.Boolean', 'yes'],
    ['Edm.Duration', 'an hour'],
  ])('%s can’t be %s', (native, value) => expect(literalOf(value, of(native))).toBeUndefined());
});

describe('a value in a body', () => {
  it('keeps its digits, its kind, and its members', () => {
    const written = (value: Parameters<typeof jsonOf>[0], native: string, type?: 'options') =>
      stringify(jsonOf(value, of(native, type)));
    expect(written('9007199254740993', 'Edm.Int64')).toBe('9007199254740993');
    expect(written('5', 'Edm.Int32')).toBe('5');
    expect(written('5', 'Edm.String')).toBe('"5"');
    expect(written('true', 'Edm.Boolean')).toBe('true');
    expect(written(['1', '2'], 'Edm.Int32', 'options')).toBe('[1,2]');
    expect(written(['Pears', 'Plums'], enumType('ns.Likes', true), 'options')).toBe('"Pears,Plums"');
    expect(written(['Red'], enumType('ns.Colour', false), 'options')).toBe('["Red"]');
    expect(written('2027-04-20T06:00:00.250Z', 'Edm.DateTimeOffset')).toBe('"2027-04-20T06:00:00.250Z"');
  });
  it('is read whatever way a system writes it', () => {
    expect(valueOf(1, of('Edm.Boolean', 'yes/no'))).toBe(true);
    expect(valueOf('false', of('Edm.Boolean', 'yes/no'))).toBe(false);
    expect(valueOf('1.50', of('Edm.Decimal'))).toBe(1.5);
    expect(valueOf('9007199254740993', of('Edm.Int64'))).toBe('9007199254740993');
    expect(valueOf('Pears, Plums', of(enumType('ns.Likes', true), 'options'))).toEqual(['Pears', 'Plums']);
    expect(valueOf([1, 'a', null, {}], of('Edm.String', 'options'))).toEqual(['1', 'a']);
    expect(valueOf({ a: 1 }, of('Edm.String'))).toBeUndefined();
  });
});

describe('a record’s address', () => {
  const keyed = (native: string) => makeEntity('People', [makeField('id', { type: 'id', native })]);
  const lines = {
    ...makeEntity('Lines', [makeField('Order', { native: 'Edm.String' }), makeField('No', { native: 'Edm.Int32' })]),
    ...{ key: 'Order', keyParts: ['Order', 'No'] },
  };
  it.each([
    ['Edm.Int32', 'People(5)', '5'],
    ['Edm.Int32', '/odata/People(5)/', '5'],
    ['Edm.Int32', 'https://x.example/odata/People(id=5)?x=1', '5'],
    ['Edm.Int32', 'https://x.example/odata/People/5', '5'],
    ['Edm.String', "People('a(b)''c')", "a(b)'c"],
    ['Edm.String', 'https://x.example/o(1)/People(%27a%2Fb%27)', 'a/b'],
    ['Edm.Guid', 'People(6f9619ff-8b86-4011-b42d-00c04fc964ff)', '6f9619ff-8b86-4011-b42d-00c04fc964ff'],
  ])('of %s: %s names %s, and that leads back', (native, address, id) => {
    expect(idFrom(keyed(native), address)).toBe(id);
    expect(addressOf(keyed(native), id)).toMatch(/^People\(/);
  });
  it.each([undefined, '', 'Elsewhere', 'People()', '%zz', 'Others/'])('%s names none', (address) =>
    expect(idFrom(keyed('Edm.Int32'), address)).toBeUndefined(),
  );
  it('of several parts is one text, and hostile ones lead nowhere', () => {
    const id = idIn(lines, { Order: "A'1", No: 2 });
    expect(id).toBe("Order='A''1',No=2");
    expect(addressOf(lines, id!)).toBe("Lines(Order='A''1',No=2)");
    expect(idFrom(lines, "x/Lines(Order='A''1',No=2)")).toBe(id);
    for (const bad of [
      '',
      '5',
      'Order=1',
      "Order='1',No=x",
      "Order='1',No=2,No=3",
      "Order='1'),Other(1",
      "No=2,Extra=1,Order='1'",
    ])
      expect(addressOf(lines, bad)).toBeUndefined();
    expect(idIn(lines, { Order: 'x' })).toBeUndefined();
  });
});

describe('an e-mail address is known', () => {
  it.each(['Email', 'EMailAddress1', 'contact_mail', 'primaryEmail', 'e-mail', 'WorkEMail', 'Adres e-mail', 'mail2'])(
    'by the name %s',
    (name) => expect(namesEmail(name)).toBe(true),
  );
  it.each(['EmailOptIn', 'mailing_list', 'email_status', 'Remailer', 'Name', 'MailCode5'])('not by %s', (name) =>
    expect(namesEmail(name)).toBe(false),
  );
  it('nor where none would fit; by its values where there are enough', () => {
    expect(namesEmail('email', 10)).toBe(false);
    expect(areEmails(['a@b.example', 'c@d.example', 'e@f.example'])).toBe(true);
    expect(areEmails(['a@b.example', 'c@d.example'])).toBe(false);
    expect(areEmails(['a@b.example', 'c@d.example', 'none'])).toBe(false);
  });
});
