import { allFakers, type Faker } from '@faker-js/faker';
import anyAscii from 'any-ascii';
import { transliterate } from 'transliteration';
import { seeded } from '../server/testing/ordeal-load.ts';
import type { Asked, Made } from './people.ts';

/**
 * People and organisations whose names and places nobody here chose, with the errors that happen in them made by rules of
 * other people where there are any: names, streets and firms of seventeen countries out of a package of made-up data,
 * other spellings out of two packages that write any script in Latin letters, each by its own tables.
 */
const COUNTRIES = {
  de: '+49',
  de_AT: '+43',
  pl: '+48',
  en_GB: '+44',
  fr: '+33',
  es: '+34',
  it: '+39',
  nl: '+31',
  sv: '+46',
  nb_NO: '+47',
  da: '+45',
  cs_CZ: '+420',
  hu: '+36',
  ro: '+40',
  tr: '+90',
  ru: '+7',
  uk: '+380',
  el: '+30',
} as const;
type Country = keyof typeof COUNTRIES;
/** Shares of the records: half German and Polish, the rest of all others. */
const SHARES: readonly Country[] = [
  'de',
  'de',
  'de',
  'de',
  'de',
  'de',
  'de',
  'pl',
  'pl',
  'pl',
  'pl',
  'pl',
  'de_AT',
  'en_GB',
  'en_GB',
  'fr',
  'es',
  'it',
  'nl',
  'sv',
  'nb_NO',
  'da',
  'cs_CZ',
  'hu',
  'ro',
  'tr',
  'ru',
  'uk',
  'uk',
  'el',
];

/** What people are called by, beside what is in their papers. */
const CALLED = new Map(
  'Alexander:Alex Sascha,Andreas:Andi Andy,Anna:Anni Ania,Barbara:Basia Babsi,Benjamin:Ben Benni,Christian:Chris,Christina:Tina Chrissi,Christoph:Chris Stoffel,Daniel:Dani Dan,David:Dave,Dominik:Nik Dom,Dorothea:Doro Thea,Elisabeth:Lisa Sissi Betty,Elżbieta:Ela,Emilia:Emmi Mila,Ewa:Ewka,Felix:Fe,Florian:Flo Flori,Franziska:Franzi Ziska,Friedrich:Fritz Fred,Gabriele:Gabi,Georg:Schorsch,Gregor:Greg,Grzegorz:Grzesiek,Günther:Günni,Hannah:Hanni,Heinrich:Heiner Heinz,Helena:Lena Hela,Jakub:Kuba,Jan:Janek,Joachim:Jochen Achim,Joanna:Asia,Johannes:Hannes Jo Hans,Jonathan:Jonny,Josef:Sepp Jupp,Julia:Jule Julka,Justyna:Justysia,Karl:Kalle,Karolina:Karo,Katarzyna:Kasia,Katharina:Kathi Kati Käthe,Klaus:Klausi,Krystyna:Krysia,Krzysztof:Krzysiek,Leonhard:Leo,Leonie:Leo,Lucas:Luke,Ludwig:Lutz,Maciej:Maciek,Magdalena:Magda Leni,Małgorzata:Gosia Małgosia,Manfred:Manni,Marcin:Marcinek,Margarete:Grete Gretel,Maria:Mia Marysia,Matthias:Matze Hias,Maximilian:Max,Melanie:Mel,Michael:Michi Micha,Michał:Michałek,Monika:Moni,Natalia:Natalka,Nicole:Niki,Nikolaus:Klaus Niko,Oliver:Olli,Patrick:Pat,Paulina:Paula,Peter:Pit,Philipp:Phil,Piotr:Piotrek,Rainer:Rainer,Rebecca:Becky Becci,Robert:Rob Robbie,Rosemarie:Rosi,Rudolf:Rudi,Samuel:Sam Sami,Sebastian:Basti Wastl,Simon:Simmi,Sophia:Sophie Zosia,Stanisław:Staszek Stasiek,Stefan:Steff,Stephanie:Steffi,Susanne:Susi Sanne,Szymon:Szymek,Tadeusz:Tadek,Theodor:Theo,Theresa:Resi Tess,Thomas:Tom Tommi,Tobias:Tobi,Tomasz:Tomek,Ulrich:Uli,Ursula:Uschi Ulla,Valentin:Vali,Veronika:Vroni,Viktoria:Vicky,Walter:Walt,Wilhelm:Willi Wim,William:Bill Will,Wojciech:Wojtek,Wolfgang:Wolfi,Zbigniew:Zbyszek,Zofia:Zosia,Catherine:Cathy Kate,Charles:Charlie,Edward:Ed Ted,James:Jim Jimmy,Margaret:Peggy Maggie,Matthew:Matt,Richard:Rick Dick,Steven:Steve,Timothy:Tim,Antonio:Toni,Francisco:Paco,Giuseppe:Beppe,José:Pepe,Manuel:Manolo,Jacques:Jacky,Pieter:Piet,Hendrik:Henk Rik,Johanna:Hanna Anneke,Cornelis:Kees Cor,Александр:Саша,Алексей:Алёша Лёша,Анастасия:Настя,Дмитрий:Дима,Екатерина:Катя,Евгений:Женя,Иван:Ваня,Мария:Маша,Михаил:Миша,Наталья:Наташа,Николай:Коля,Ольга:Оля,Сергей:Серёжа,Татьяна:Таня,Юлия:Юля'
    .split(',')
    .map((each) => {
      const [name = '', short = ''] = each.split(':');
      return [name, short.split(' ')] as const;
    }),
);

type Values = Record<string, string>;
type Known = Made & { id: string; country: Country };

const LEGAL: Partial<Record<Country, readonly string[]>> = {
  de: ['GmbH', 'GmbH & Co. KG', 'AG', 'e.V.', 'eG', 'UG (haftungsbeschränkt)'],
  de_AT: ['GmbH', 'Ges.m.b.H.', 'OG'],
  pl: ['sp. z o.o.', 'S.A.', 'sp. j.', 'sp. k.'],
  en_GB: ['Ltd', 'PLC', 'LLP'],
  fr: ['SARL', 'SAS', 'SA'],
  es: ['S.L.', 'S.A.'],
  it: ['S.r.l.', 'S.p.A.'],
  nl: ['B.V.', 'N.V.'],
  sv: ['AB'],
  nb_NO: ['AS'],
  da: ['A/S', 'ApS'],
  cs_CZ: ['s.r.o.', 'a.s.'],
};
/** Words that firms put before or behind a name, so that there is something to shorten. */
const TRADES: Partial<Record<Country, readonly string[]>> = {
  de: [
    'Obstbau',
    'Imkereibedarf',
    'Gärtnerei',
    'Landhandel',
    'Baumschule',
    'Metallbau',
    'Bäckerei',
    'Spedition',
    'Elektrotechnik',
    'Verein für Heimatpflege',
    'Gesellschaft für Umwelttechnik',
    'Verband der Kleingärtner',
  ],
  pl: [
    'Gospodarstwo Ogrodnicze',
    'Zakład Stolarski',
    'Stowarzyszenie Pszczelarzy',
    'Przedsiębiorstwo Handlowe',
    'Hurtownia',
    'Piekarnia',
    'Spółdzielnia Ogrodnicza',
  ],
  en_GB: ['Orchards', 'Garden Centre', 'Engineering', 'Society of Gardeners', 'Brothers Nurseries', 'Manufacturing'],
};

/** A world of so many people, a tenth as many organisations, and queries about them. */
export function strangersWorld(count: number, asked: number, seed: number): { records: Known[]; queries: Asked[] } {
  const random = seeded(seed);
  const even = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const chance = (share: number): boolean => random() < share;
  const fakers = allFakers as unknown as Record<Country, Faker>;
  for (const country of Object.keys(COUNTRIES) as Country[]) fakers[country].seed(seed);
  const digits = (n: number): string => Array.from({ length: n }, () => Math.floor(random() * 10)).join('');

  const phone = (country: Country): string =>
    `${COUNTRIES[country]} ${2 + Math.floor(random() * 8)}${digits(2)} ${digits(6 + Math.floor(random() * 2))}`;
  const address = (country: Country): Values => {
    const { location } = fakers[country];
    return { street: location.streetAddress(), postcode: location.zipCode(), city: location.city() };
  };
  const latin = (text: string): string =>
    anyAscii(text)
      .toLowerCase()
      .replace(/[^a-z]/g, '');
  const mail = (first: string, last: string, country: Country): string => {
    const [a, b] = [latin(first), latin(last)];
    const host = even(['gmx.example', 'mail.example', 'poczta.example', 'web.example', 'box.example', `${b}.example`]);
    const local = even([
      `${a}.${b}`,
      `${a}${b}`,
      `${a[0]}.${b}`,
      `${b}.${a}`,
      `${a}${digits(3)}`,
      `${b}${digits(2)}`,
      latin(fakers[country].word.noun?.() ?? a) + digits(2),
    ]);
    return `${local}@${host}`;
  };
  const birth = (): string =>
    `${1938 + Math.floor(random() * 66)}-${String(1 + Math.floor(random() * 12)).padStart(2, '0')}-${String(1 + Math.floor(random() * 28)).padStart(2, '0')}`;

  const person = (country: Country, given: Values = {}): Values => {
    const sex = chance(0.5) ? 'female' : 'male';
    const { person: made } = fakers[country];
    const first = made.firstName(sex);
    const last = given['last_name'] ?? made.lastName(sex);
    // Of those who write in other letters, half are entered in Latin ones.
    const written = ['ru', 'uk', 'el'].includes(country) && chance(0.5) ? anyAscii : (text: string) => text;
    return {
      first_name: written(first),
      last_name: written(last),
      email: chance(0.85) ? mail(first, last, country) : '',
      phone: chance(0.7) ? phone(country) : '',
      ...address(country),
      birth_date: chance(0.55) ? birth() : '',
      ...given,
    };
  };
  const firm = (country: Country): Values => {
    const made = fakers[country];
    const trade = TRADES[country] ? even(TRADES[country]) : '';
    const last = made.person.lastName();
    const core = even([
      made.company.name().replace(/ (?:GmbH|AG|KG|Ltd|S\.?A\.?|LLC|Inc).*$/, ''),
      `${trade} ${last}`.trim(),
      `${last} ${trade}`.trim(),
      `${last} & ${made.person.lastName()} ${trade}`.trim(),
    ]);
    const legal = LEGAL[country] && chance(0.7) ? even(LEGAL[country]) : '';
    const host = `${latin(core).slice(0, 18)}${chance(0.2) ? digits(2) : ''}.example`;
    return {
      name: `${core} ${legal}`.trim(),
      website: chance(0.65) ? `https://www.${host}/` : '',
      email: chance(0.55) ? `${even(['info', 'kontakt', 'office', 'biuro', latin(last)])}@${host}` : '',
      phone: chance(0.75) ? phone(country) : '',
      ...address(country),
    };
  };

  const records: Known[] = [];
  const add = (kind: Made['kind'], country: Country, values: Values): void =>
    void records.push({ id: `${kind === 'person' ? 'P' : 'O'}${records.length}`, kind, country, values });
  const household = (country: Country, one: Values): Values =>
    person(country, {
      last_name: one['last_name']!,
      street: one['street']!,
      postcode: one['postcode']!,
      city: one['city']!,
      ...(chance(0.5) && one['phone'] ? { phone: one['phone'] } : {}),
      ...(chance(0.12) && one['email'] ? { email: one['email'] } : {}),
    });
  while (records.length < count) {
    const country = even(SHARES);
    const one = person(country);
    add('person', country, one);
    for (let more = chance(0.25) ? 1 + Math.floor(random() * 2) : 0; more > 0; more -= 1)
      add('person', country, household(country, one));
  }
  for (let at = 0; at < Math.max(30, count / 10); at += 1) {
    const country = even(SHARES);
    const one = firm(country);
    add('organisation', country, one);
    if (chance(0.1)) {
      const place = address(country);
      add('organisation', country, {
        ...one,
        ...place,
        name: `${one['name']} ${place['city']}`,
        phone: phone(country),
        email: '',
      });
    }
  }
  const people = records.filter(({ kind }) => kind === 'person');
  const firms = records.filter(({ kind }) => kind === 'organisation');

  const BESIDE: Record<string, string> = {
    a: 's',
    e: 'r',
    i: 'o',
    o: 'p',
    u: 'i',
    n: 'm',
    m: 'n',
    r: 't',
    t: 'r',
    s: 'd',
    l: 'k',
    k: 'l',
    z: 'u',
    c: 'v',
    b: 'v',
    d: 'f',
    g: 'h',
    h: 'j',
  };
  const slip = (text: string): string => {
    if (text.length < 4) return text;
    const at = 1 + Math.floor(random() * (text.length - 2));
    const letter = text[at]!;
    return even([
      text.slice(0, at) + (BESIDE[letter.toLowerCase()] ?? 'e') + text.slice(at + 1),
      text.slice(0, at) + text.slice(at + 1),
      text.slice(0, at) + letter + text.slice(at),
      text.slice(0, at) + text[at + 1]! + letter + text.slice(at + 2),
    ]);
  };
  const first = (v: Values): string => v['first_name']!;
  const last = (v: Values): string => v['last_name']!;
  const bare = (text: string): string =>
    text
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .replace(/ł/g, 'l')
      .replace(/Ł/g, 'L')
      .replace(/ø/g, 'o')
      .replace(/ß/g, 'ss');
  type Change = (v: Values, country: Country) => Values;
  const CHANGES: Record<string, Change> = {
    none: (v) => v,
    transliterated: (v) => {
      const write = /[^\u0000-\u024f]/.test(first(v) + last(v))
        ? even([anyAscii, (text: string) => transliterate(text)])
        : (text: string) =>
            text
              .replace(/ä/g, 'ae')
              .replace(/ö/g, 'oe')
              .replace(/ü/g, 'ue')
              .replace(/ø/g, 'oe')
              .replace(/å/g, 'aa')
              .replace(/ß/g, 'ss')
              .replace(/ý|y$/g, 'i')
              .replace(/ž|ż|ź/g, 'zh')
              .replace(/š/g, 'sh')
              .replace(/č/g, 'ch')
              .replace(/ş/g, 's')
              .replace(/ı/g, 'i')
              .replace(/ł/g, 'l')
              .replace(/ij/g, 'y');
      return { ...v, first_name: write(first(v)), last_name: write(last(v)) };
    },
    'lost accents': (v) => ({ ...v, first_name: bare(first(v)), last_name: bare(last(v)) }),
    initial: (v) => ({ ...v, first_name: chance(0.5) ? `${[...first(v)][0]!}.` : [...first(v)][0]! }),
    'short form': (v) => {
      const short = CALLED.get(first(v).split(/[ -]/)[0]!);
      return { ...v, first_name: short ? even(short) : first(v).split(/[ -]/)[0]! };
    },
    swapped: (v) => ({ ...v, first_name: last(v), last_name: first(v) }),
    married: (v, country) => ({ ...v, last_name: fakers[country].person.lastName('female') }),
    'double name': (v, country) => ({
      ...v,
      last_name: even([
        `${last(v)}-${fakers[country].person.lastName('female')}`,
        `${fakers[country].person.lastName('female')}-${last(v)}`,
        `${fakers[country].person.lastName('female')} (geb. ${last(v)})`,
        `${fakers[country].person.lastName('female')} née ${last(v)}`,
      ]),
    }),
    moved: (v, country) => ({ ...v, ...address(country), phone: chance(0.4) ? phone(country) : v['phone']! }),
    'another e-mail and telephone': (v, country) => ({
      ...v,
      email: mail(`${first(v)}x`, last(v), country),
      phone: phone(country),
    }),
    'slip in a name': (v) => (chance(0.5) ? { ...v, first_name: slip(first(v)) } : { ...v, last_name: slip(last(v)) }),
    'slip in the e-mail': (v) => ({
      ...v,
      email: v['email'] ? slip(v['email'].split('@')[0]!) + '@' + v['email'].split('@')[1]! : '',
    }),
    'day and month swapped': (v) => ({
      ...v,
      birth_date: v['birth_date'] ? v['birth_date'].replace(/-(\d\d)-(0[1-9]|1[0-2])$/, '-$2-$1') : '',
    }),
    'few fields': (v) => {
      const reached = ['email', 'phone', 'birth_date'].filter((name) => v[name]);
      const kept = reached.length > 0 ? even(reached) : 'street';
      const only: Values = {
        first_name: first(v),
        last_name: last(v),
        email: '',
        phone: '',
        birth_date: '',
        street: '',
        postcode: '',
        city: '',
      };
      return kept === 'street'
        ? { ...only, street: v['street']!, postcode: v['postcode']!, city: v['city']! }
        : { ...only, [kept]: v[kept]! };
    },
    'one name more': (v, country) => ({ ...v, first_name: `${first(v)} ${fakers[country].person.firstName()}` }),
  };
  const several: Change = (v, country) => {
    const kinds = Object.keys(CHANGES).filter((name) => !['none', 'few fields', 'swapped', 'married'].includes(name));
    return [even(kinds), even(kinds)].reduce((held, name) => CHANGES[name]!(held, country), v);
  };
  const FIRMS: Record<string, Change> = {
    none: (v) => v,
    renamed: (v, country) => ({ ...v, name: firm(country)['name']! }),
    moved: (v, country) => ({ ...v, ...address(country), phone: chance(0.5) ? phone(country) : v['phone']! }),
    abbreviated: (v) => {
      const words = v['name']!.split(' ');
      const short = words
        .map((word) =>
          word.length > 8 && /^\p{Lu}/u.test(word) ? `${word.slice(0, 3 + Math.floor(random() * 2))}.` : word,
        )
        .join(' ');
      const letters = words
        .filter((word) => /^\p{Lu}/u.test(word))
        .map((word) => word[0])
        .join('');
      return { ...v, name: letters.length >= 3 && chance(0.4) ? letters : short };
    },
    'without its legal form': (v) => ({
      ...v,
      name: v['name']!.split(' ')
        .slice(0, v['name']!.split(' ').length > 2 ? -1 : undefined)
        .join(' '),
    }),
    'slip in the name': (v) => ({ ...v, name: slip(v['name']!) }),
    'few fields': (v) => ({
      name: v['name']!,
      ...(v['website']
        ? { website: v['website'] }
        : v['email']
          ? { email: v['email'] }
          : { postcode: v['postcode']!, street: v['street']!, city: v['city']! }),
    }),
    'lost accents': (v) => ({ ...v, name: bare(v['name']!) }),
  };
  /** A form asks for less than is known, and people have more than one mailbox and number. */
  const lessOf = (v: Values, country?: Country): Values => {
    const left = { ...v };
    if (country && chance(0.2))
      left['email'] = mail(latin(left['first_name'] ?? 'x') || 'x', left['last_name'] ?? 'x', country);
    if (country && chance(0.12)) left['phone'] = phone(country);
    for (const name of ['phone', 'birth_date', 'street', 'email']) {
      if (chance(0.55) || ['email', 'phone', 'street', 'birth_date'].filter((each) => left[each]).length < 2) continue;
      left[name] = '';
      if (name === 'street') left['postcode'] = left['city'] = '';
    }
    return left;
  };
  const lessOfFirm = (v: Values): Values => {
    const left = { ...v };
    for (const name of ['phone', 'website', 'email'])
      if (chance(0.5) && ['phone', 'website', 'email', 'street'].filter((each) => left[each]).length > 2)
        left[name] = '';
    return left;
  };
  const queries: Asked[] = [];
  const kinds = [...Object.keys(CHANGES), 'several errors'];
  while (queries.length < asked) {
    const share = random();
    if (share < 0.6) {
      const { id, values, country } = even(people);
      const error = even(kinds);
      const change = CHANGES[error] ?? several;
      queries.push({ kind: 'person', truth: id, error, values: change(lessOf(values, country), country) });
    } else if (share < 0.76) {
      const { id, values, country } = even(firms);
      const error = even(Object.keys(FIRMS));
      queries.push({
        kind: 'organisation',
        truth: id,
        error: `organisation: ${error}`,
        values: FIRMS[error]!(chance(0.5) ? values : lessOfFirm(values), country),
      });
    } else if (share < 0.86)
      queries.push({ kind: 'person', truth: undefined, error: 'nobody known', values: lessOf(person(even(SHARES))) });
    else if (share < 0.92) {
      const { values, country } = even(people);
      const other = household(country, values);
      const known = people.some(
        (each) => each.values['street'] === other['street'] && each.values['first_name'] === other['first_name'],
      );
      if (!known)
        queries.push({ kind: 'person', truth: undefined, error: 'another of the household', values: lessOf(other) });
    } else if (share < 0.96) {
      const { values, country } = even(people);
      queries.push({
        kind: 'person',
        truth: undefined,
        error: 'a namesake',
        values: lessOf({ ...person(country), first_name: first(values), last_name: last(values) }),
      });
    } else
      queries.push({
        kind: 'organisation',
        truth: undefined,
        error: 'organisation: nobody known',
        values: firm(even(SHARES)),
      });
  }
  return { records, queries };
}
