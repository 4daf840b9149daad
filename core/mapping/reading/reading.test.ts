import fc from 'fast-check';
import { meaningsOf } from '../index.ts';
import { featuresOf, partsOfName, type Seen } from './features.ts';
import { readFields, WHOSE } from './index.ts';
import { packWeights, probabilities, unpackWeights, type Weights } from './softmax.ts';
import { LINE_CURVE, LINE_WEIGHTS, MEANING_WEIGHTS, SET_FROM, WHOSE_WEIGHTS } from './weights.ts';
import { EXPECTED } from '../weigh.ts';

const seen = (label: string, more: Partial<Seen> = {}): Seen => ({ name: 'f', label, type: 'text', ...more });
const likeliest = (fields: Seen[]): string[] =>
  readFields(fields).map(({ meanings, nothing }) => {
    const [best] = [...meanings].sort(([, a], [, b]) => b - a);
    return best && best[1] > nothing ? best[0] : 'nothing';
  });
const whose = (field: Seen): string | undefined =>
  [...readFields([field])[0]!.whose].sort(([, a], [, b]) => b - a)[0]?.[0];

describe('weights', () => {
  const weights = fc
    .record({
      classes: fc.uniqueArray(fc.string({ minLength: 1, maxLength: 6, unit: fc.constantFrom('a', 'b', 'ł', ' ') }), {
        minLength: 2,
        maxLength: 5,
      }),
      lines: fc.array(
        fc.tuple(
          fc.constantFrom('l name', 'n e-mail', 't text', 'p 名'),
          fc.nat(4),
          fc.integer({ min: -900, max: 900 }),
        ),
      ),
    })
    .map(
      ({ classes, lines }): Weights => ({
        classes,
        bias: classes.map((_, at) => at / 100),
        features: new Map(lines.map(([feature, at, hundredths]) => [feature, [at % classes.length, hundredths / 100]])),
      }),
    );
  it('are the same when they are unpacked', () => {
    fc.assert(fc.property(weights, (each) => expect(unpackWeights(packWeights(each))).toEqual(each)));
  });
  it('make probabilities that come to one, whatever is seen', () => {
    fc.assert(
      fc.property(weights, fc.array(fc.constantFrom('l name', 't text', 'never seen')), (each, features) => {
        const shares = [...probabilities(each, features)];
        expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        expect(shares.every((share) => share >= 0)).toBe(true);
      }),
    );
  });
  it('of ours fit what they are for', () => {
    expect(LINE_WEIGHTS).toHaveLength(EXPECTED.length);
    expect(LINE_CURVE.every(([x], at) => at === 0 || x > LINE_CURVE[at - 1]![0])).toBe(true);
    expect(SET_FROM).toBeGreaterThan(0.8);
    expect(unpackWeights(MEANING_WEIGHTS).classes).toContain('nothing');
    expect([...unpackWeights(WHOSE_WEIGHTS).classes].sort()).toEqual([...WHOSE].sort());
  });
});

describe('a field is read', () => {
  it('by the last part of its name sooner than by what that stands in', () => {
    expect(partsOfName('reply[display_name]')).toEqual({ leaf: 'display_name', container: 'reply' });
    expect(partsOfName('items[0].qty')).toEqual({ leaf: 'qty', container: 'items' });
    expect(partsOfName('ctl00$main$txtCity')).toEqual({ leaf: 'txtCity', container: 'ctl00 main' });
    expect(partsOfName('[]')).toEqual({ leaf: '[]', container: '' });
  });
  it.each([
    ['Vorname', 'given name'],
    ['Nazwisko', 'family name'],
    ['Benutzername', 'username'],
    ['Code postal', 'postcode'],
    ['E-mailadres', 'email'],
    ['I agree to the terms and conditions', 'terms'],
    ['I have read the privacy policy', 'privacy'],
    ['Subscribe to our newsletter', 'newsletter'],
  ])('“%s” means %s', (label, meaning) => {
    const beside = ['E-mail', 'Message'].map((each, at) => seen(each, { name: `g${at}` }));
    expect(likeliest([seen(label), ...beside])[0]).toBe(meaning);
  });
  it('by its autofill token before all else, and by what that says of whose it is', () => {
    expect(likeliest([seen('Zzyzx', { autocomplete: 'section-a shipping family-name' })])).toEqual(['family name']);
    expect(whose(seen('Zzyzx', { autocomplete: 'section-a shipping family-name' }))).toBe('the delivery');
    expect(likeliest([seen('E-mail', { autocomplete: 'off' })])).toEqual(['email']);
  });
  it.each([
    ['Your friend’s e-mail', 'somebody else'],
    ['Recipient name', 'somebody else'],
    ['Telefon odbiorcy', 'somebody else'],
    ['Notfallkontakt Telefon', 'somebody else'],
    ['First name', 'the visitor'],
    ['Company name', 'their organisation'],
    ['Billing postcode', 'the bill'],
  ])('“%s” is of %s', (label, who) => expect(whose(seen(label))).toBe(who));
  it('with those whose names begin alike: of a nominee, and of a firm', () => {
    const all = (fields: Seen[]): (string | undefined)[] =>
      readFields(fields).map(({ whose: of }) => [...of].sort(([, a], [, b]) => b - a)[0]?.[0]);
    const nominee = [
      seen('Nominee name', { name: 'nom2_name' }),
      seen('Telephone', { name: 'nom2_tel', type: 'phone' }),
      seen('E-mail', { name: 'nom2_mail', type: 'email' }),
    ];
    expect(all([...nominee, seen('E-mail', { name: 'mail', type: 'email' })])).toEqual([
      'somebody else',
      'somebody else',
      'somebody else',
      'the visitor',
    ]);
    const firm = [
      seen('Company name', { name: 'org_name' }),
      seen('Street', { name: 'org_street' }),
      seen('City', { name: 'org_city' }),
    ];
    expect(all([...firm, seen('First name', { name: 'first' })]).slice(0, 3)).toEqual(
      Array(3).fill('their organisation'),
    );
    // A contact's employer makes the contact no organisation.
    const contact = [
      seen('Company', { name: 'contact_company' }),
      seen('First name', { name: 'contact_first' }),
      seen('City', { name: 'contact_city' }),
    ];
    expect(all(contact)[1]).toBe('the visitor');
  });
  it('a bare name beside the other half of it is the one that is missing', () => {
    expect(likeliest([seen('Nombre'), seen('Apellidos', { name: 'a' })])).toEqual(['given name', 'family name']);
    expect(likeliest([seen('Vorname'), seen('Name', { name: 'n' })])).toEqual(['given name', 'family name']);
  });
  it('the same each time, and whatever it is called', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ name: fc.string(), label: fc.string(), type: fc.constantFrom('text', 'email', 'option') }),
          { maxLength: 8 },
        ),
        (fields) => {
          expect(readFields(fields)).toEqual(readFields(fields));
          expect(featuresOf(fields)).toHaveLength(fields.length);
        },
      ),
      { numRuns: 60 },
    );
  });
});

it('phrases of the lexicon are found in the languages of Europe', () => {
  const found = (words: string): string | undefined => meaningsOf(words.split(' '))[0]?.meaning;
  expect([found('prijmeni'), found('efternamn'), found('iranyitoszam'), found('фамилия'), found('手机号')]).toEqual([
    'family name',
    'family name',
    'postcode',
    'family name',
    'mobile',
  ]);
});
