import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { FIRST, LAST, MAIL_HOSTS, plainName } from '../crm/names.ts';
import { seededRandom } from '../random.ts';

/** Somebody the CRM knows too. */
export interface KnownPerson {
  /** Its id there, and the name of who looks after it. */
  id?: string;
  keeper?: string | null;
  interests?: string[] | null;
  first_name: string | null;
  last_name: string | null;
  email: string | null;
  language: string | null;
  letters_allowed: number | null;
}

export interface LettersAmounts {
  seed: number;
  subscribers: number;
}

const DAY = 86_400_000;
const TOPICS = ['honey', 'queens', 'courses', 'hiring hives'];
const BATCH = 500;
const SUBJECTS = [
  'First blossom',
  'A late frost',
  'Swarm season',
  'Honey harvest',
  'Feeding for winter',
  'Queens for sale',
];

/** Fills an empty mailing system: two in three subscribers are people that the CRM knows, some of them written otherwise. */
export async function seedLetters(
  pool: Pool,
  { seed, subscribers }: LettersAmounts,
  known: readonly KnownPerson[],
  now: Date,
): Promise<void> {
  const [counts] = await pool.query<RowDataPacket[]>('SELECT COUNT(*) AS count FROM records');
  if (Number(counts[0]!['count']) > 0) return;
  const random = seededRandom(seed + 77);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  // Drawn apart, so that what else is known stays as it was.
  const linked = seededRandom(seed + 78);
  const emails = new Set<string>();
  const people = known.filter(({ email }) => email !== null);
  const rows: { entity: string; id: string; email: string | null; held: object; days: number }[] = [];
  for (let at = 0; rows.length < subscribers; at += 1) {
    const person = random() < 0.66 && people.length > 0 ? people[Math.floor(random() * people.length)]! : stranger();
    const email = person.email!.toLowerCase();
    // Some know the same person under another address, or with one name only.
    if (emails.has(email)) {
      if (at > subscribers * 20) break;
      continue;
    }
    emails.add(email);
    rows.push({
      entity: 'subscribers',
      id: `s_${(0x10000 + rows.length * 7).toString(16)}`,
      email,
      days: Math.floor(random() * 1500) + 5,
      held: {
        email,
        given: random() < 0.9 ? person.first_name : null,
        family: random() < 0.85 ? person.last_name : null,
        language: person.language ?? 'de',
        interests: TOPICS.filter(() => random() < 0.35),
        wants_letters: person.letters_allowed === 1 || random() < 0.6,
        ...(random() < 0.3
          ? { last_visit: new Date(now.getTime() - random() * 400 * DAY).toISOString().slice(0, 10) }
          : {}),
        ...(person.id !== undefined && linked() < 0.7 ? ofKnown(person, linked) : {}),
        ...(random() < 0.2 ? { came_from: pick(['fair', 'neighbour', 'website']) } : {}),
        letters_opened: Math.floor(random() * 30),
      },
    });
  }
  const letters = Math.max(2, Math.min(24, Math.ceil(subscribers / 150)));
  for (let at = 0; at < letters; at += 1)
    rows.push({
      ...{ entity: 'letters', id: `l_${String(100 + at)}`, email: null, days: (letters - at) * 30 },
      held: {
        subject: pick(SUBJECTS),
        state: at === letters - 1 ? 'draft' : 'sent',
        ...(at === letters - 1
          ? {}
          : { sent_on: new Date(now.getTime() - (letters - at) * 30 * DAY).toISOString().slice(0, 10) }),
      },
    });
  const ids = rows.filter(({ entity }) => entity === 'subscribers').map(({ id }) => id);
  for (let at = 0; at < Math.floor(subscribers / 4); at += 1)
    rows.push({
      ...{ entity: 'answers', id: `a_${(0x5000 + at).toString(16)}`, email: null, days: Math.floor(random() * 300) },
      held: {
        subscriber_id: pick(ids),
        letter_id: `l_${String(100 + Math.floor(random() * letters))}`,
        said: pick(['More of this, please.', 'Zu lang!', 'Dziękuję.', 'When is the next course?']),
        stars: 1 + Math.floor(random() * 5),
      },
    });
  for (let start = 0; start < rows.length; start += BATCH) {
    const values = rows.slice(start, start + BATCH).map(({ entity, id, email, held, days }) => {
      const moment = new Date(now.getTime() - days * DAY);
      return [entity, id, email, JSON.stringify(held), moment, moment];
    });
    await pool.query('INSERT INTO records (entity, id, email, held, created_at, changed_at) VALUES ?', [values]);
  }

  /** What is kept of somebody whose record in the CRM is known: mostly as it is there, some of it out of date. */
  function ofKnown(person: KnownPerson, random: () => number): object {
    const here: Record<string, string> = { pollination: 'hiring hives' };
    const interests = (person.interests ?? [])
      .map((each) => here[each] ?? each)
      .filter((each) => TOPICS.includes(each));
    return {
      crm_id: person.id,
      family: random() < 0.003 ? `${person.last_name}-Ott` : person.last_name,
      given: random() < 0.004 ? `${(person.first_name ?? '').slice(0, 1)}.` : person.first_name,
      wants_letters: person.letters_allowed === 1,
      interests: random() < 0.04 ? ['honey', 'courses'] : interests,
      ...(person.keeper && random() < 0.96 ? { keeper: person.keeper } : {}),
    };
  }

  function stranger(): KnownPerson {
    const language = pick(['de', 'pl', 'en'] as const);
    const [first, last] = [pick(FIRST[language]), pick(LAST[language])];
    const email = `${plainName(first)}.${plainName(last)}${Math.floor(random() * 9000)}@${pick(MAIL_HOSTS)}`;
    return { first_name: first, last_name: last, email, language, letters_allowed: null };
  }
}
