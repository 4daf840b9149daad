import { seeded } from '../server/testing/ordeal-load.ts';

/**
 * People and organisations with known truth: seeded, several languages, households, namesakes, shared and role mailboxes,
 * branches, moves and married names; and queries about them with the errors that happen, or about somebody not known.
 */
export interface Made {
  kind: 'person' | 'organisation';
  values: Record<string, string>;
}
export interface Asked extends Made {
  /** The record it is about; undefined: nobody who is known. */
  truth: string | undefined;
  /** The error made, or why nobody is meant. */
  error: string;
}

const GIVEN =
  'Anna Peter Michael Thomas Andreas Wolfgang Klaus Jürgen Günter Stefan Christian Uwe Monika Petra Elisabeth Sabine Renate Ursula Karin Brigitte Helga Heike Jörg Bernd Frank Martin Matthias Claudia Susanne Birgit Katharina Lena Lukas Jonas Leon Mia Emma Hannah Piotr Krzysztof Andrzej Tomasz Paweł Jan Michał Małgorzata Agnieszka Ewa Krystyna Elżbieta Zofia Joanna Magdalena Stanisław Tadeusz Zbigniew James Robert William David Richard Joseph Charles Daniel Matthew Margaret Catherine Jennifer Patricia Barbara Rebecca Rosalind Winifred Édouard François Hélène Jean Pierre Amélie Carmen José Francisco Isabel Giovanni Francesca Sven Telse Hinnerk Bożena Jadwiga Ivo Nell Alistair'.split(
    ' ',
  );
const FAMILY =
  'Müller Schmidt Schneider Fischer Weber Meyer Wagner Becker Schulz Hoffmann Koch Richter Wolf Schröder Neumann Schwarz Braun Krüger Köster Mehrens Osterwisch Brandt Quast Harms Petersen Nowak Kowalski Wiśniewski Wójcik Kamiński Lewandowski Zieliński Szymański Dąbrowski Kozłowski Jankowski Mazur Żuraw Miodek Smith Jones Taylor Brown Williams Wilson Johnson Davies Robinson Wright Thompson Evans Walker Lindley Penhallow Ashdown Radley Okafor Adeyemi Lefèvre Moreau García Rodríguez Rossi Bianchi Sadowska Voss Dreyer Lorenzen Thießen Groß Strauß Böttcher Jäger Lüders'.split(
    ' ',
  );
const STREETS =
  'Deichweg;Am Deich;Obstallee;Birnenweg;Hauptstraße;Bahnhofstraße;Mühlenweg;Kirchgasse;Lindenstraße;Schulstraße;Feldweg;Gartenstraße;Church Lane;Mill Road;High Street;Station Road;ul. Polna;ul. Lipowa;ul. Szkolna;Rue des Lilas'.split(
    ';',
  );
const TOWNS =
  '21635 Jork;21614 Buxtehude;20095 Hamburg;28195 Bremen;30159 Hannover;50667 Köln;80331 München;00-001 Warszawa;30-001 Kraków;61-001 Poznań;CB2 1TN Cambridge;EX1 1AA Exeter;NR1 1AA Norwich;10115 Berlin;01067 Dresden'
    .split(';')
    .map((each) => [each.slice(0, each.lastIndexOf(' ')), each.slice(each.lastIndexOf(' ') + 1)] as const);
const HOSTS = 'post.example wabe.example biene.example mail.example netz.example brief.example'.split(' ');
const TRADES =
  'Obsthof Imkerei Gärtnerei Bäckerei Kellerei Mosterei Baumschule Gestüt Orchards Honey Farm Cider Apiary Nursery Sad Pasieka'.split(
    ' ',
  );
const LEGAL = ['GmbH', 'e.V.', 'KG', 'eG', 'Ltd', 'sp. z o.o.', '', '', ''];
const NICKNAMES: Record<string, string> = {
  Michael: 'Michi',
  Katharina: 'Kathi',
  Elisabeth: 'Lisa',
  Christian: 'Chris',
  Wolfgang: 'Wolf',
  Matthias: 'Matze',
  William: 'Bill',
  Robert: 'Bob',
  Richard: 'Dick',
  Margaret: 'Peggy',
  Catherine: 'Kate',
  Rebecca: 'Becky',
  Małgorzata: 'Gosia',
  Krzysztof: 'Krzyś',
  Joanna: 'Asia',
  Magdalena: 'Magda',
  Stanisław: 'Staszek',
  Tadeusz: 'Tadek',
  Zofia: 'Zosia',
  Francisco: 'Paco',
  Susanne: 'Susi',
  Andreas: 'Andi',
  Joseph: 'Joe',
  Charles: 'Charlie',
};

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/ä/g, 'ae')
    .replace(/ö/g, 'oe')
    .replace(/ü/g, 'ue')
    .replace(/ß/g, 'ss')
    .replace(/ł/g, 'l')
    .normalize('NFKD')
    .replace(/[^a-z0-9]/g, '');

/** A world of so many people, a tenth as many organisations, and queries about them. */
export function makeWorld(
  count: number,
  asked: number,
  seed: number,
): { records: (Made & { id: string })[]; queries: Asked[] } {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() ** 1.4 * list.length)]!;
  const even = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const digits = (n: number): string => Array.from({ length: n }, () => Math.floor(random() * 10)).join('');
  /** A family name of the long tail: most names are rare. */
  const family = (): string => {
    if (random() < 0.5) return pick(FAMILY);
    const start = even('Bar Hol Kal Mar Ned Ost Pel Quan Rad Sel Tor Ul Vel Wen Zar Bru Dre Fri Gro Klo'.split(' '));
    const middle = even('en er in ol am ek il on ar us'.split(' '));
    return `${start}${middle}${even('berg mann sen ski ton ley wicz hof kamp stedt ing ers dorf well by'.split(' '))}`;
  };
  const address = (): Record<string, string> => {
    const [postcode, city] = even(TOWNS);
    const number = `${1 + Math.floor(random() * 120)}${random() < 0.12 ? even(['a', 'b', 'c']) : ''}`;
    const street = even(STREETS);
    const prefix = /^\d{5}$/.test(postcode) ? `${postcode.slice(0, 3)}${digits(2)}` : postcode;
    return {
      street: /Lane|Road|Street/.test(street) ? `${number} ${street}` : `${street} ${number}`,
      postcode: prefix,
      city,
    };
  };
  const birth = (): string =>
    `${1935 + Math.floor(random() * 70)}-${String(1 + Math.floor(random() * 12)).padStart(2, '0')}-${String(1 + Math.floor(random() * 28)).padStart(2, '0')}`;
  const mail = (first: string, last: string): string => {
    const [a, b] = [plain(first), plain(last)];
    const local = even([`${a}.${b}`, `${a[0]}${b}`, `${a}${b}${digits(2)}`, `${b}${digits(3)}`, `${a}_${b}`]);
    return `${local}@${even(HOSTS)}`;
  };
  const phone = (): string => `+49 ${even(['40', '4161', '30', '171', '160'])} ${digits(7)}`;
  const person = (shared: Record<string, string> = {}): Record<string, string> => {
    const [first, last] = [pick(GIVEN), shared['last_name'] ?? family()];
    return {
      first_name: random() < 0.06 ? `${first} ${pick(GIVEN)}` : first,
      last_name: random() < 0.04 ? `${last}-${family()}` : last,
      email: random() < 0.85 ? mail(first, last) : '',
      phone: random() < 0.7 ? phone() : '',
      ...address(),
      birth_date: random() < 0.6 ? birth() : '',
      ...shared,
    };
  };
  const records: (Made & { id: string })[] = [];
  const add = (kind: Made['kind'], values: Record<string, string>): void =>
    void records.push({ id: `${kind === 'person' ? 'P' : 'O'}${records.length}`, kind, values });
  while (records.length < count) {
    const one = person();
    add('person', one);
    // Households share a name, a home, often a telephone and now and then a mailbox.
    for (let more = random() < 0.25 ? 1 + Math.floor(random() * 3) : 0; more > 0; more -= 1) {
      const { last_name: last, street, postcode, city, phone: line, email } = one as Record<string, string>;
      add(
        'person',
        person({
          last_name: last!,
          street: street!,
          postcode: postcode!,
          city: city!,
          ...(random() < 0.6 ? { phone: line! } : {}),
          ...(random() < 0.15 ? { email: email! } : {}),
        }),
      );
    }
    if (random() < 0.02) add('person', { ...person(), first_name: one['first_name']!, last_name: one['last_name']! });
  }
  const organisations = Math.max(20, Math.floor(count / 10));
  for (let at = 0; at < organisations; at += 1) {
    const [name, place] = [
      `${even(TRADES)} ${family()}${random() < 0.3 ? ` & ${even(['Söhne', 'Daughters', 'Partner', family()])}` : ''}`,
      address(),
    ];
    const site = random() < 0.6 ? `https://www.${plain(name)}.example` : '';
    const legal = even(LEGAL);
    const base = {
      website: site,
      phone: random() < 0.7 ? phone() : '',
      email: random() < 0.5 ? `info@${plain(name)}.example` : '',
    };
    add('organisation', { name: `${name} ${legal}`.trim(), ...place, ...base });
    if (random() < 0.12) {
      const other = address();
      add('organisation', {
        name: `${name} ${other['city']} ${legal}`.trim(),
        ...other,
        website: site,
        phone: phone(),
        email: '',
      });
    }
  }
  const people = records.filter(({ kind }) => kind === 'person');
  const firms = records.filter(({ kind }) => kind === 'organisation');
  const typo = (text: string): string => {
    if (text.length < 4) return text;
    const at = 1 + Math.floor(random() * (text.length - 2));
    const letter = 'abcdefghijklmnopqrstuvwxyz'[Math.floor(random() * 26)]!;
    return even([
      text.slice(0, at) + text.slice(at + 1),
      text.slice(0, at) + letter + text.slice(at + 1),
      text.slice(0, at) + text[at + 1]! + text[at]! + text.slice(at + 2),
      text.slice(0, at) + text[at]! + text.slice(at),
    ]);
  };
  const some = (values: Record<string, string>, keep: number): Record<string, string> => {
    const kept = { ...values };
    // What a form asks for is seldom all that is known.
    for (const name of ['phone', 'street', 'birth_date', 'email'])
      if (random() > keep && ['email', 'phone', 'street', 'birth_date'].filter((each) => kept[each]).length > 1) {
        kept[name] = '';
        if (name === 'street') kept['postcode'] = kept['city'] = '';
      }
    return kept;
  };
  type Change = (values: Record<string, string>) => Record<string, string>;
  const personErrors: Record<string, Change> = {
    none: (v) => v,
    'typo in the first name': (v) => ({ ...v, first_name: typo(v['first_name']!) }),
    'typo in the family name': (v) => ({ ...v, last_name: typo(v['last_name']!) }),
    'without accents': (v) => ({
      ...v,
      first_name: v['first_name']!.normalize('NFKD').replace(/\p{M}/gu, ''),
      last_name: v['last_name']!.normalize('NFKD').replace(/\p{M}/gu, '').replace(/ł/g, 'l').replace(/ß/g, 'ss'),
    }),
    'umlauts written out': (v) => ({
      ...v,
      first_name: v['first_name']!.replace(/ü/g, 'ue').replace(/ö/g, 'oe'),
      last_name: v['last_name']!.replace(/ü/g, 'ue').replace(/ö/g, 'oe').replace(/ä/g, 'ae'),
    }),
    nickname: (v) => ({
      ...v,
      first_name: NICKNAMES[v['first_name']!.split(' ')[0]!] ?? v['first_name']!.split(' ')[0]!,
    }),
    initial: (v) => ({ ...v, first_name: `${v['first_name']![0]}.` }),
    swapped: (v) => ({ ...v, first_name: v['last_name']!, last_name: v['first_name']! }),
    'another e-mail': (v) => ({ ...v, email: `${plain(v['first_name']!)}${digits(4)}@${even(HOSTS)}` }),
    'typo in the e-mail': (v) => ({
      ...v,
      email: v['email'] ? v['email'].replace(/^[^@]+/, (local) => typo(local)) : '',
    }),
    'typo in the domain': (v) => ({ ...v, email: v['email']!.replace('.example', '.exmaple') }),
    'e-mail with a tag': (v) => ({ ...v, email: v['email']!.replace('@', '+form@') }),
    'another telephone': (v) => ({ ...v, phone: phone() }),
    'telephone written otherwise': (v) => ({
      ...v,
      phone: v['phone']!.replace('+49 ', '0').replace(/ (\d{3})/, '/$1 '),
    }),
    moved: (v) => ({ ...v, ...address() }),
    'married name': (v) => ({ ...v, last_name: family() }),
    'double name': (v) => ({ ...v, last_name: `${v['last_name']}-${family()}` }),
    'day and month swapped': (v) => ({ ...v, birth_date: v['birth_date']!.replace(/-(\d\d)-(0\d|1[012])$/, '-$2-$1') }),
    'street written otherwise': (v) => ({
      ...v,
      street: v['street']!.replace('straße', 'str.').replace('Road', 'Rd').toUpperCase(),
    }),
    capitals: (v) => ({ ...v, first_name: v['first_name']!.toUpperCase(), last_name: v['last_name']!.toUpperCase() }),
  };
  const firmErrors: Record<string, Change> = {
    none: (v) => v,
    'without legal form': (v) => ({ ...v, name: v['name']!.replace(/ (GmbH|e\.V\.|KG|eG|Ltd|sp\. z o\.o\.)$/, '') }),
    'another legal form': (v) => ({
      ...v,
      name: v['name']!.replace(/ GmbH$/, ' Gesellschaft mit beschränkter Haftung').replace(/ Ltd$/, ' Limited'),
    }),
    'typo in the name': (v) => ({ ...v, name: typo(v['name']!) }),
    'and for &': (v) => ({ ...v, name: v['name']!.replace('&', 'und') }),
    'words in another order': (v) => ({ ...v, name: v['name']!.split(' ').reverse().join(' ') }),
    'without website': (v) => ({ ...v, website: '' }),
    'website without www': (v) => ({ ...v, website: v['website']!.replace('https://www.', '') }),
    'another telephone': (v) => ({ ...v, phone: phone() }),
  };
  const queries: Asked[] = [];
  while (queries.length < asked) {
    const share = random();
    if (share < 0.55) {
      const { id, values } = even(people);
      const errors = Object.entries(personErrors);
      const [error, change] = even(errors);
      const second = random() < 0.25 ? even(errors)[1] : (v: Record<string, string>) => v;
      queries.push({ kind: 'person', truth: id, error, values: second(change(some(values, 0.75))) });
    } else if (share < 0.7) {
      const { id, values } = even(firms);
      const [error, change] = even(Object.entries(firmErrors));
      queries.push({
        kind: 'organisation',
        truth: id,
        error: `organisation: ${error}`,
        values: change(some(values, 0.85)),
      });
    } else if (share < 0.78)
      queries.push({ kind: 'person', truth: undefined, error: 'nobody known', values: some(person(), 0.75) });
    else if (share < 0.86) {
      const { values } = even(people);
      const { last_name: last, street, postcode, city, phone: line } = values as Record<string, string>;
      const other = person({
        last_name: last!,
        street: street!,
        postcode: postcode!,
        city: city!,
        ...(random() < 0.6 ? { phone: line! } : {}),
      });
      // Somebody else of the household: not one who is known already.
      if (
        people.some(
          (each) =>
            each.values['last_name'] === last &&
            each.values['street'] === street &&
            each.values['first_name']!.split(' ')[0] === other['first_name']!.split(' ')[0],
        )
      )
        continue;
      queries.push({ kind: 'person', truth: undefined, error: 'another of the household', values: some(other, 0.8) });
    } else if (share < 0.93) {
      const { values } = even(people);
      const other = { ...person(), first_name: values['first_name']!, last_name: values['last_name']! };
      queries.push({ kind: 'person', truth: undefined, error: 'a namesake', values: some(other, 0.9) });
    } else if (share < 0.965) {
      const name = `${even(TRADES)} ${family()}`;
      queries.push({
        kind: 'organisation',
        truth: undefined,
        error: 'organisation: nobody known',
        values: { name, ...address(), website: `www.${plain(name)}.example`, phone: phone() },
      });
    } else {
      const { values } = even(firms);
      const place = address();
      queries.push({
        kind: 'organisation',
        truth: undefined,
        error: 'organisation: another branch',
        values: { ...values, ...place, name: `${values['name']} ${place['city']}`, phone: phone(), email: '' },
      });
    }
  }
  return { records, queries };
}
