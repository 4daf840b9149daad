import { queryOf } from '../systems/index.ts';
import { flattenPayload, type SubmittedValues } from '@zusammen/core/forms';

/** Submissions of the last sixty days, made up: half from people the CRM knows, some with the flaws that happen. */
export interface PastSubmission {
  intake: string;
  values: [string, string][];
  at: Date;
  via: 'form' | 'program' | 'event';
  /** How its payment stands, where it has to be paid. */
  payment?: 'due' | 'paid' | 'refunded';
}

const FIRST =
  'Kathi Jörn Małgosia Winnie Ulli Tadek Nell Hinnerk Zosia Rosalind Bärbel Ivo Jadzia Barney Telse Gosia'.split(' ');
const LAST =
  'Brandt Wiśniewski Lindley Osterwisch Żuraw Mehrens Penhallow Krüger Dąbek Radley Köster Ashdown Miodek Voss'.split(
    ' ',
  );
const ORCHARDS = [
  'Obsthof Brandt',
  'Kirschgarten Nowak',
  'Hollow Farm Orchards',
  'Sad Wiśniowy Zieliński',
  'Marsh Lane Cider',
  'Altes Land Quitten',
  'Brook End Fruit',
  'Biohof Mehrens',
  'Lindley & Daughters',
  'Gut Osterwisch',
];
const CROPS = ['Apple', 'Pear', 'Cherry', 'Plum', 'Quince'];

const CLUBS = ['Imkerverein Deichhausen', 'Hollowbrook Bee Society', 'Koło Pszczelarzy Kirschfelde'];
const COURSES = ['Beginners’ weekend', 'Beginners’ evening class', 'Queen breeding', 'Honey and hygiene'];
const ARTICLES = [
  { sku: 'SMK-01', name: 'Smoker, stainless', price: 34.9 },
  { sku: 'FRM-10', name: 'Frames, box of ten', price: 18.5 },
  { sku: 'VEI-03', name: 'Veil with hat', price: 22 },
  { sku: 'HNY-500', name: 'Meadow honey, 500 g', price: 7.2 },
];

interface Sender {
  first: string;
  last: string;
  email: string;
  /** As the CRM has it, of those who are known. */
  phone?: string;
}

/** An event as the shop sends it. */
function orderEvent(at: Date, n: number, status: string, sender: Sender, articles: typeof ARTICLES): object {
  const lines = articles.map((article, row) => ({ ...article, quantity: 1 + ((n + row) % 3) }));
  const total = Math.round(lines.reduce((sum, { price, quantity }) => sum + price * quantity, 0) * 100) / 100;
  return {
    type: `order.${status}`,
    timestamp: at.toISOString(),
    data: {
      number: `H-${String(90_000 + n)}`,
      status,
      placed_at: at.toISOString(),
      currency: 'EUR',
      total,
      buyer: { name: `${sender.first} ${sender.last}`, email: sender.email, phone: '' },
      delivery: { street: 'Am Deich 14a', postcode: '21635', city: 'Deichhausen', country: 'Germany' },
      lines,
      note: '',
    },
  };
}

function pairsOf(payload: object): [string, string][] {
  const flat = flattenPayload(payload, { fields: 500, depth: 8 });
  if (!flat.ok) throw new Error(flat.reason);
  return Object.entries(flat.values).flatMap(([name, value]) =>
    [value].flat().map((said): [string, string] => [name, String(said)]),
  );
}

/** Some events of the shop, by which its intake knows their fields. */
export function orderSamples(): SubmittedValues[] {
  const sender = { first: 'Telse', last: 'Voss', email: 'telse.voss@biene.example' };
  return [0, 1, 2].map((n) =>
    Object.fromEntries(pairsOf(orderEvent(new Date(0), n, 'placed', sender, ARTICLES.slice(0, 2)))),
  );
}

interface Known {
  first_name: string | null;
  last_name: string;
  email: string;
  phone: string | null;
}

/** @param standins where the CRM's known people are read from, as anybody with the right may */
export async function pastSubmissions(
  standins: string,
  count: number,
  now: Date,
  seed: number,
): Promise<PastSubmission[]> {
  const known = await knownPeople(standins);
  const organisations = await knownOrganisations(standins);
  let orders = 0;
  const random = repeatable(seed);
  // Drawn apart, so that how names are given moves nothing else.
  const manner = repeatable(seed + 1);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const past: PastSubmission[] = [];
  for (let at = 0; at < count; at += 1) {
    const person = random() < 0.45 ? pick(known) : undefined;
    const first = person?.first_name ?? pick(FIRST);
    const last = person?.last_name ?? pick(LAST);
    const email =
      person?.email ??
      `${plain(first)}.${plain(last)}${Math.floor(random() * 900)}@${pick(['biene.example', 'post.example', 'wabe.example'])}`;
    // More of them lately than two months ago, and by day rather than by night.
    const daysAgo = Math.floor(60 * random() ** 1.7);
    const hour = 7 + Math.floor(random() * 13);
    const day = new Date(now.getTime() - daysAgo * 86_400_000);
    day.setUTCHours(hour, Math.floor(random() * 60), Math.floor(random() * 60), Math.floor(random() * 1000));
    // A time of day that hasn't come yet was yesterday's.
    if (day.getTime() > now.getTime() - 60_000) day.setUTCDate(day.getUTCDate() - 1);
    const make = among(random());
    past.push(make(day, { first, last, email, ...(person?.phone ? { phone: person.phone } : {}) }));
  }
  return past.sort((a, b) => a.at.getTime() - b.at.getTime());

  function among(share: number): (at: Date, sender: Sender) => PastSubmission {
    if (share < 0.42) return pollination;
    if (share < 0.65) return letters;
    if (share < 0.75) return season;
    if (share < 0.85) return course;
    if (share < 0.92) return swarm;
    return order;
  }

  function season(at: Date, sender: Sender): PastSubmission {
    const known = random() < 0.5 && organisations.length > 0 ? pick(organisations) : undefined;
    const more = Array.from({ length: Math.floor(random() * 3) }, () => {
      const [first, last] = [pick(FIRST), pick(LAST)];
      return { first, last, email: `${plain(first)}.${plain(last)}${Math.floor(random() * 900)}@obst.example` };
    });
    return {
      intake: 'season-enquiry',
      at,
      via: 'form',
      values: [
        ['orchard', known?.name ?? pick(ORCHARDS)],
        ['web', random() < 0.4 ? `www.${plain(sender.last)}-obst.example` : ''],
        ['street', pick(['Deichweg', 'Am Deich', 'Obstallee'])],
        ['house_no', pick(['4', '14a', '27'])],
        ['plz', known?.postcode ?? pick(['21614', '21635', '21641'])],
        ['town', pick(['Hollowbrook', 'Kirschfelde', 'Deichhausen'])],
        ...[sender, ...more].flatMap(({ first, last, email }, row): [string, string][] => [
          [`contacts[${row}][first]`, first],
          // Now and then a second contact is a first name only.
          [`contacts[${row}][last]`, row > 0 && random() < 0.05 ? '' : last],
          [`contacts[${row}][email]`, email],
          [
            `contacts[${row}][phone]`,
            row === 0 ? `030 23125 ${String(Math.floor(random() * 1000)).padStart(3, '0')}` : '',
          ],
        ]),
        ['hectares', pick(['2,5', '12', '7,75', ''])],
        ...(random() < 0.8 ? [['crops', pick(CROPS)] as [string, string]] : []),
        ['bloom', `2027-04-${10 + Math.floor(random() * 18)}`],
        ['hives', String(2 + Math.floor(random() * 40))],
        ['message', pick(['', '', 'As last year, please.'])],
        ['utm_source', pick(['', 'letter'])],
      ],
    };
  }

  function course(at: Date, sender: Sender): PastSubmission {
    const club = random() < 0.3;
    const heads = club ? 2 + Math.floor(random() * 4) : 1;
    return {
      intake: 'beginners-course',
      at,
      via: 'form',
      values: [
        ['course', random() < 0.03 ? 'Wax and candles' : pick(COURSES)],
        ['booker.name', `${sender.first} ${sender.last}`],
        ['booker.email', sender.email],
        ['booker.phone', random() < 0.5 ? '030 23125 044' : ''],
        ['club', club ? pick(CLUBS) : ''],
        ...Array.from({ length: heads }, (_, row): [string, string][] => [
          [`attendees[${row}][first]`, row === 0 ? sender.first : pick(FIRST)],
          [`attendees[${row}][last]`, row === 0 ? sender.last : pick(LAST)],
          [
            `attendees[${row}][born]`,
            `${String(1 + Math.floor(random() * 28)).padStart(2, '0')}.${String(1 + Math.floor(random() * 12)).padStart(2, '0')}.${1955 + Math.floor(random() * 50)}`,
          ],
        ]).flat(),
        ['heads', String(heads)],
        ['meal', pick(['everything', 'veggie', 'vegan'])],
        ['remarks', pick(['', '', 'One of us is allergic to wasps.'])],
        ['how', 'book'],
      ],
    };
  }

  function swarm(at: Date, { first, last, phone }: Sender): PastSubmission {
    // Some give an initial only: by it and their telephone they may be somebody known.
    const given = manner() < 0.15 ? `${first.charAt(0)}.` : first;
    const dialled = phone ?? `030 23125 ${String(Math.floor(random() * 1000)).padStart(3, '0')}`;
    return {
      intake: 'swarm-report',
      at,
      via: 'form',
      values: [
        ['where', pick(['Pear tree by the church', 'Gutter of the town hall', 'Playground, Obstallee', 'Bus stop'])],
        ['height', pick(['2', '3,5', '6', ''])],
        ['seen', ''],
        ['reporter', random() < 0.8 ? `${given} ${last}` : ''],
        // Some hang up before the number is whole.
        ['reporter_tel', random() < 0.05 ? '030' : dialled],
        ['notes', pick(['', 'About the size of a football.', 'They are calm.'])],
      ],
    };
  }

  function order(at: Date, sender: Sender): PastSubmission {
    orders += 1;
    const lines = ARTICLES.filter(() => random() < 0.4);
    return {
      intake: 'shop-checkout',
      at,
      via: 'event',
      values: pairsOf(
        orderEvent(at, orders, random() < 0.9 ? 'paid' : 'failed', sender, lines.length > 0 ? lines : [ARTICLES[0]!]),
      ),
    };
  }

  function pollination(at: Date, { first, last, email }: Sender): PastSubmission {
    const phone = `030 23125 ${String(Math.floor(random() * 1000)).padStart(3, '0')}`;
    // Programs that post to the form's address now and then leave out what the page insists on.
    const careless = random() < 0.025;
    return {
      intake: 'pollination-enquiry',
      at,
      via: careless ? 'program' : 'form',
      values: [
        ['orchard', ` ${pick(ORCHARDS)}`],
        ['web', random() < 0.5 ? `www.${plain(last)}-obst.example` : ''],
        ['street', pick(['Deichweg', 'Am Deich', 'Obstallee', 'Birnenweg'])],
        ['house_no', pick(['4', '14a', '27', '3'])],
        ['plz', pick(['21614', '21635', '21641', '21615'])],
        ['town', pick(['Hollowbrook', 'Kirschfelde', 'Osterwisch', 'Deichhausen'])],
        ['contact_first', first],
        ['contact_last', careless ? '' : last],
        ['contact_email', email],
        ['contact_phone', random() < 0.75 ? phone : ''],
        ['lang', pick(['english', 'german', 'german', 'polish', ''])],
        ['hectares', `${Math.floor(random() * 30)},${Math.floor(random() * 10)}`],
        ...CROPS.filter(() => random() < 0.35).map((crop): [string, string] => ['crops', crop]),
        ['bloom', `2027-04-${String(10 + Math.floor(random() * 18))}T06:00`],
        ['hives', String(2 + Math.floor(random() * 40))],
        [
          'message',
          pick(['', '', 'Bitte vor dem Wochenende.', 'Access by the river road only.', 'Prosimy o kontakt po 16.']),
        ],
        ...(random() < 0.4 ? [['letters', 'yes'] as [string, string]] : []),
        ['utm_source', pick(['', '', 'letter-march', 'fair'])],
      ],
    };
  }

  function letters(at: Date, { first, last, email }: Sender): PastSubmission {
    return {
      intake: 'letters-sign-up',
      at,
      via: 'form',
      values: [
        ['vorname', first],
        ['nachname', last],
        ['mail', email],
        ...['Honig', 'Königinnen', 'Kurse']
          .filter(() => random() < 0.5)
          .map((topic): [string, string] => ['thema[]', topic]),
        ['ok', '1'],
        ['utm_source', pick(['', 'fair', 'neighbour'])],
        ['utm_campaign', pick(['', 'spring-2026'])],
      ],
    };
  }
}

async function knownPeople(standins: string): Promise<Known[]> {
  const query = queryOf({
    $filter: 'email ne null',
    $select: 'first_name,last_name,email,phone',
    $top: '400',
    $orderby: 'email',
  });
  const response = await fetch(`${standins}/crm/odata/People?${query}`, {
    headers: { Authorization: 'Bearer demo-integration' },
  });
  if (!response.ok) throw new Error(`The CRM's people could not be read: ${response.status}`);
  return ((await response.json()) as { value: Known[] }).value;
}

async function knownOrganisations(standins: string): Promise<{ name: string; postcode: string }[]> {
  const query = queryOf({
    $filter: 'postcode ne null',
    $select: 'name,postcode',
    $top: '60',
    $orderby: 'name',
  });
  const response = await fetch(`${standins}/crm/odata/Organisations?${query}`, {
    headers: { Authorization: 'Bearer demo-integration' },
  });
  if (!response.ok) throw new Error(`The CRM's organisations could not be read: ${response.status}`);
  return ((await response.json()) as { value: { name: string; postcode: string }[] }).value;
}

const plain = (name: string): string =>
  name
    .replace(/ä/g, 'ae')
    .replace(/ö/g, 'oe')
    .replace(/ü/g, 'ue')
    .replace(/[łŁ]/g, 'l')
    .normalize('NFKD')
    .replace(/[^a-z]/gi, '')
    .toLowerCase();

/** Numbers from 0 to 1, the same for the same seed (linear congruential; Numerical Recipes' constants). */
function repeatable(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
}
