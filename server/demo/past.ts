/** Submissions of the last sixty days, made up: half from people the CRM knows, some with the flaws that happen. */
export interface PastSubmission {
  intake: string;
  values: [string, string][];
  at: Date;
  via: 'form' | 'program';
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

interface Known {
  first_name: string | null;
  last_name: string;
  email: string;
}

/** @param standins where the CRM's known people are read from, as anybody with the right may */
export async function pastSubmissions(
  standins: string,
  count: number,
  now: Date,
  seed: number,
): Promise<PastSubmission[]> {
  const known = await knownPeople(standins);
  const random = repeatable(seed);
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
    past.push(random() < 0.68 ? pollination(day, { first, last, email }) : letters(day, { first, last, email }));
  }
  return past.sort((a, b) => a.at.getTime() - b.at.getTime());

  function pollination(
    at: Date,
    { first, last, email }: { first: string; last: string; email: string },
  ): PastSubmission {
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

  function letters(at: Date, { first, last, email }: { first: string; last: string; email: string }): PastSubmission {
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
  const query = new URLSearchParams({
    $filter: 'email ne null',
    $select: 'first_name,last_name,email',
    $top: '400',
    $orderby: 'email',
  });
  const response = await fetch(`${standins}/crm/odata/People?${query}`, {
    headers: { Authorization: 'Bearer demo-integration' },
  });
  if (!response.ok) throw new Error(`The CRM's people could not be read: ${response.status}`);
  return ((await response.json()) as { value: Known[] }).value;
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
