import { organisationMatcher, peopleMatcher, type OrganisationRecord, type PersonRecord } from './index.ts';
import { canonical, sameButForEnding, spelling } from './names.ts';

const person = (first_name: string, last_name: string, more: Partial<PersonRecord> = {}): PersonRecord => ({
  id: 'P1',
  first_name,
  last_name,
  ...more,
});
/** Others, so that how common a name is can be told. */
const CROWD: PersonRecord[] = Array.from({ length: 200 }, (_, at) => ({
  id: `C${at}`,
  first_name: ['Anna', 'Peter', 'Jonas', 'Maria'][at % 4]!,
  last_name: `Muster${String.fromCharCode(97 + (at % 26))}mann`,
  email: `m${at}@netz.example`,
  phone: `+49 30 55${String(at).padStart(5, '0')}`,
}));

const verdictOf = (known: PersonRecord, asked: PersonRecord): string => {
  const { verdict, record } = peopleMatcher([known, ...CROWD]).match({ ...asked, id: 'Q' });
  return record === undefined || record === 'P1' ? verdict : `${verdict} ${record}`;
};

describe('spellings', () => {
  it.each([
    ['Чехов', 'Chekhov', 'Tschechow', 'Czechow', 'Čechov'],
    ['Щербаков', 'Shcherbakov', 'Schtscherbakow', 'Ščerbakov'],
    ['Юлия', 'Yulia', 'Julija', 'Iuliia'],
    ['Weiß', 'Weiss', 'Weis'],
    ['Carl', 'Karl'],
    ['Stephan', 'Stefan'],
    ['Żuk', 'Zuk', 'Zhuk'],
    ['Dijkstra', 'Dykstra'],
    ['Yılmaz', 'Yilmaz'],
  ])('%s is %s', (...forms) => {
    expect(new Set(forms.map((form) => spelling(canonical(form)))).size).toBe(1);
  });
  it.each([
    ['Meier', 'Maurer'],
    ['Anna', 'Hanna'],
    ['Petra', 'Peter'],
    ['Koch', 'Kock'],
  ])('%s is not %s', (a, b) => expect(spelling(canonical(a))).not.toBe(spelling(canonical(b))));
  it('family names are one with and without the ending of a woman’s', () => {
    const same = (a: string, b: string): boolean => sameButForEnding(canonical(a), canonical(b));
    expect([
      same('Kowalski', 'Kowalska'),
      same('Ivanov', 'Ivanova'),
      same('Novák', 'Nováková'),
      same('Hájek', 'Hájková'),
    ]).toEqual([true, true, true, true]);
    expect([same('Nowak', 'Nowacka'), same('Meier', 'Meiera')]).toEqual([false, false]);
  });
});

describe('somebody is found', () => {
  const line = { phone: '+380 44 1234567' };
  const home = { street: 'Am Deich 14', postcode: '21635', city: 'Jork' };
  it.each<[string, PersonRecord, PersonRecord]>([
    ['entered in other letters', person('Сергій', 'Шевченко', line), person('Serhii', 'Schewtschenko', line)],
    [
      'by an initial without a point',
      person('Gian', 'Nauber', { ...line, ...home }),
      person('G', 'Nauber', { ...line, ...home }),
    ],
    [
      'by a former name that is said',
      person('Laura', 'Chudobova', line),
      person('Laura', 'Dobes (geb. Chudobova)', line),
    ],
    ['after marrying, by the telephone', person('Linett', 'Balint', line), person('Linett', 'Vincze', line)],
    ['by a pet name no list has', person('Simon', 'Hassan', line), person('Simmi', 'Hassan', line)],
    [
      'by a slip, and by her husband’s form of the name',
      person('Kornelia', 'Skibicka', line),
      person('Kornlia', 'Skibicki', line),
    ],
  ])('%s', (_, known, asked) => expect(verdictOf(known, asked)).toBe('same'));

  it('is not, of the household, by another first name', () => {
    const known = person('Simon', 'Hassan', { ...line, ...home });
    expect(verdictOf(known, person('Petra', 'Hassan', { ...line, ...home }))).toBe('different');
  });
  it('is asked about by a rare name alone, and not by one that many have', () => {
    expect(verdictOf(person('Ondřejka', 'Vystrčil'), person('Ondřejka', 'Vystrčil'))).toBe('unsure');
    const common = { ...CROWD[0]!, id: 'Q', email: 'other@post.example', phone: '' };
    expect(peopleMatcher(CROWD).match(common).verdict).toBe('different');
  });
});

describe('an organisation is found', () => {
  const firm: OrganisationRecord = {
    id: 'O1',
    name: 'Larson & Crona Brothers Nurseries PLC',
    website: 'https://www.larsoncrona.example',
    email: 'info@larsoncrona.example',
    phone: '+44 20 7946000',
    street: 'Mill Road 4',
    postcode: 'CB1 2AD',
    city: 'Cambridge',
  };
  const others: OrganisationRecord[] = Array.from({ length: 100 }, (_, at) => ({
    id: `F${at}`,
    name: `Firma Nummer ${at} GmbH`,
    phone: `+49 40 66${String(at).padStart(5, '0')}`,
  }));
  const ask = (change: Partial<OrganisationRecord>) =>
    organisationMatcher([firm, ...others]).match({ ...firm, ...change, id: 'Q' }).verdict;
  it('renamed, by its website and address', () => expect(ask({ name: 'Greenways' })).toBe('same'));
  it('by its first letters, those of its legal form with them', () =>
    expect(ask({ name: 'LCBNP', email: '', phone: '' })).toBe('same'));
  it('moved, by name and mailbox', () => {
    expect(ask({ street: 'High Street 1', postcode: 'EX1 1AA', city: 'Exeter', phone: '' })).toBe('same');
  });
  it('and is asked about, moved and known by its website alone', () => {
    expect(ask({ street: 'High Street 1', postcode: 'EX1 1AA', city: 'Exeter', phone: '', email: '' })).toBe('unsure');
  });
  it('but not the next tenant of its house', () => {
    expect(ask({ name: 'Bäckerei Ahrens', website: 'ahrens.example', email: '', phone: '+44 20 1111111' })).toBe(
      'different',
    );
  });
});
