import { queryOf } from '../systems/index.ts';

/** What an ordeal sends, and how. */
type Values = Record<string, string>;
export type Json = Record<string, unknown>;

export interface Sent {
  key: string;
  intake: string;
  values: Values;
}

/** What those who send and those who compare see of a running Zusammen. */
export interface OrdealWorld {
  /** Of a server that takes submissions; another each time where there are several. */
  address(): string;
  /** All records of an entity that meet a filter, asked of the system itself. */
  crm(entity: string, filter?: string): Promise<Json[]>;
  /** All subscribers, asked of the mailing system itself. */
  subscribers(): Promise<Json[]>;
  query<T>(text: string, values?: unknown[]): Promise<T[]>;
}

/** All records of an entity of the stand-in CRM that meet a filter, through all pages. */
export async function recordsIn(standins: string, entity: string, filter?: string): Promise<Json[]> {
  const records: Json[] = [];
  let path = `${entity}?${queryOf({ $top: '100000', $filter: filter })}`;
  for (;;) {
    const response = await fetch(`${standins}/crm/odata/${path}`, {
      headers: { Authorization: 'Bearer demo-administrator' },
    });
    const body = (await response.json()) as { value: Json[]; '@odata.nextLink'?: string };
    records.push(...body.value);
    if (!body['@odata.nextLink']) return records;
    path = body['@odata.nextLink'];
  }
}

/** All records of an entity of the stand-in mailing system, through all pages. */
export async function lettersIn(standins: string, entity: string): Promise<Json[]> {
  const client = { grant_type: 'client_credentials', client_id: 'demo', client_secret: 'demo-secret' };
  const granted = await fetch(`${standins}/letters/oauth/token`, { method: 'POST', body: new URLSearchParams(client) });
  const { access_token: token } = (await granted.json()) as { access_token: string };
  const records: Json[] = [];
  for (let cursor: string | null = ''; cursor !== null; ) {
    const more: string = cursor === '' ? '' : `&cursor=${cursor}`;
    const response = await fetch(`${standins}/letters/v1/${entity}?limit=500${more}`, {
      headers: { Authorization: `Bearer ${token}` },
    });
    const body = (await response.json()) as { items: Json[]; next: string | null };
    records.push(...body.items);
    cursor = body.next;
  }
  return records;
}

/** New people, known ones, several submissions of one person, and plans of several records, in seeded order. */
export async function submissionsFor(count: number, random: () => number, world: OrdealWorld): Promise<Sent[]> {
  const people = (await world.crm('People', 'email ne null')).map(({ email }) => String(email));
  const known = people.filter((email) => people.filter((each) => each === email).length === 1);
  return Array.from({ length: count }, (_, at): Sent => {
    const key = `ordeal-${at}`;
    const kind = random();
    const phone = `030 23125 ${String(at % 1000).padStart(3, '0')}`;
    const base = { contact_first: 'Ordal', contact_last: `Tester${at}`, contact_phone: phone, plz: '21614' };
    if (kind < 0.35)
      return {
        key,
        intake: 'pollination-enquiry',
        values: { ...base, contact_email: `new${at}@ordeal.example`, message: key },
      };
    if (kind < 0.5) {
      const email = known[Math.floor(random() * known.length)]!;
      return { key, intake: 'pollination-enquiry', values: { ...base, contact_email: email, message: key } };
    }
    if (kind < 0.65) {
      const email = `again${Math.floor(random() * Math.max(3, count / 60))}@ordeal.example`;
      return { key, intake: 'pollination-enquiry', values: { ...base, contact_email: email, message: key } };
    }
    if (kind < 0.75) return signUp(key, at, `letters${Math.floor(random() * Math.max(4, count / 20))}@ordeal.example`);
    if (kind < 0.88) return season(key, at, phone, 1 + Math.floor(random() * 3));
    return course(key, at, 1 + Math.floor(random() * 4));
  });
}

/** Somebody signs up for the letters, some more than once: in the CRM and in the mailing system. */
function signUp(key: string, at: number, mail: string): Sent {
  const values = { vorname: 'Letta', nachname: `Reader${at}`, mail, ok: '1', utm_source: 'ordeal', utm_campaign: key };
  return {
    key,
    intake: 'letters-sign-up',
    values: { ...values, 'thema[]': ['Honig', 'Königinnen', 'Kurse'][at % 3]! },
  };
}

function season(key: string, at: number, phone: string, contacts: number): Sent {
  const rows = Array.from({ length: contacts }, (_, row) => [
    [`contacts[${row}][first]`, `Row${row}`],
    [`contacts[${row}][last]`, `Season${at}`],
    [`contacts[${row}][email]`, `season${at}.${row}@ordeal.example`],
    [`contacts[${row}][phone]`, row === 0 ? phone : ''],
  ]).flat();
  const values = { orchard: `Ordeal orchard ${at}`, plz: '21635', town: 'Deichhausen', hives: '7', message: key };
  return { key, intake: 'season-enquiry', values: { ...values, ...(Object.fromEntries(rows) as Values) } };
}

function course(key: string, at: number, heads: number): Sent {
  const rows = Array.from({ length: heads }, (_, row) => [
    [`attendees[${row}][first]`, `Head${row}`],
    [`attendees[${row}][last]`, `Course${at}`],
    [`attendees[${row}][born]`, `0${row + 1}.03.1980`],
  ]).flat();
  const values = {
    course: 'Queen breeding',
    'booker.name': `Booker ${at}`,
    'booker.email': `booker${at}@ordeal.example`,
    club: heads > 2 ? `Ordeal club ${at}` : '',
    heads: String(heads),
    meal: 'vegan',
    remarks: key,
  };
  return { key, intake: 'beginners-course', values: { ...values, ...(Object.fromEntries(rows) as Values) } };
}

/** Who it is about: what is sent about one must be accepted in order, so that the last is the last. */
const about = ({ values, key }: Sent): string => values['contact_email'] ?? values['mail'] ?? key;

/** Sends all, a dozen at once; what got no answer is sent again under the same key. @returns how many were accepted */
export async function sendAll(world: OrdealWorld, sent: readonly Sent[], random: () => number): Promise<number> {
  const queues = new Map<string, Sent[]>();
  for (const each of sent) queues.set(about(each), [...(queues.get(about(each)) ?? []), each]);
  const lists = [...queues.values()];
  let next = 0;
  let accepted = 0;
  await Promise.all(
    Array.from({ length: 12 }, async () => {
      for (let at = next++; at < lists.length; at = next++) {
        for (const each of lists[at]!) {
          await sendOne(world, each);
          accepted += 1;
          // Now and then the sender is not sure and sends it once more.
          if (random() < 0.05) await sendOne(world, each);
        }
      }
    }),
  );
  return accepted;
}

async function sendOne(world: OrdealWorld, { intake, values, key }: Sent): Promise<void> {
  for (let attempt = 0; attempt < 1200; attempt += 1) {
    try {
      const response = await fetch(`${world.address()}/in/${intake}`, {
        method: 'POST',
        body: new URLSearchParams(values),
        headers: { 'Idempotency-Key': key },
      });
      if (response.status === 202) return;
      if (response.status < 500 && response.status !== 429)
        throw new Error(`${key} was turned away: ${await response.text()}`);
    } catch (error) {
      if (error instanceof Error && error.message.includes('turned away')) throw error;
      // Nobody answered: the server or its database is down at this moment.
    }
    await pause(100);
  }
  throw new Error(`${key} was never accepted.`);
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Numbers from 0 to 1, the same for the same seed (mulberry32, Tommy Ettinger 2017). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
