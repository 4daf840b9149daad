import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { GOODS } from '../shop/goods.ts';
import { seededRandom } from '../random.ts';
import { allProperties, ENTITY_TYPES, type EntityType } from './definition.ts';
import { SIGN_INS } from './people.ts';
import { FIRST, LAST, MAIL_HOSTS, ORCHARD, plainName, STREETS, TOWNS } from './names.ts';

export interface Amounts {
  seed: number;
  organisations: number;
  people: number;
}

type Values = Record<string, unknown>;
type Random = () => number;
const BATCH = 500;
const DAY = 86_400_000;

/** Fills an empty CRM. The same seed and amounts give the same records; the moments end at `now`. */
export async function seedCrm(pool: Pool, { seed, organisations, people }: Amounts, now: Date): Promise<void> {
  const [counts] = await pool.query<RowDataPacket[]>('SELECT COUNT(*) AS count FROM Users');
  if ((counts[0] as { count: number }).count > 0) return;
  const random = seededRandom(seed);
  await insert(pool, 'User', users(), now, random);
  await insert(
    pool,
    'Organisation',
    Array.from({ length: organisations }, (_, at) => organisation(random, at)),
    now,
    random,
  );
  const made: Values[] = [];
  const also = seededRandom(seed + 3);
  for (let at = 0; at < people; at += 1) {
    // A few are entered twice, as happens: same mailbox, other spelling of the rest.
    const before = made[made.length - 1];
    made.push(
      before && random() < 0.004
        ? { ...before, first_name: String(before['first_name']).slice(0, 1) + '.', phone: null, member_number: null }
        : person(random, at, organisations),
    );
    // A topic that the letters don't have.
    if (also() < 0.012) made.at(-1)!['interests'] = JSON.stringify(['swarms']);
  }
  await insert(pool, 'Person', [...made, ...enteredTwice(made, seededRandom(seed + 1))], now, random);
  await insert(pool, 'Course', courses(now), now, random);
  await seedQuotes(pool, organisations, now, seededRandom(seed + 2));
  await insert(
    pool,
    'Enquiry',
    calls(now, Math.min(60, Math.floor(organisations / 25)), organisations),
    now,
    seededRandom(seed + 4),
  );
  await insert(pool, 'Product', products(), now, seededRandom(seed + 3));
}

/** Quotes with their lines, and for two in three of them a contract whose lines follow those of the quote. */
async function seedQuotes(pool: Pool, organisations: number, now: Date, random: Random): Promise<void> {
  const quotes: Values[] = [];
  const quoteLines: Values[] = [];
  const contracts: Values[] = [];
  const contractLines: Values[] = [];
  const ofContract: Record<string, string> = { strong: 'strong', medium: 'middling', starter: 'starter' };
  const idAt = (prefix: string, n: number): string => `${prefix}-${String(n).padStart(5, '0')}`;
  for (let at = 1; at <= Math.max(6, Math.ceil(organisations / 5)); at += 1) {
    const accepted = random() < 0.67;
    const organisation_id = idAt('O', 1 + Math.floor(random() * organisations));
    const owned = {
      organisation_id,
      territory: territoryOf(random),
      owner_id: idAt('U', 1 + Math.floor(random() * 4)),
    };
    quotes.push({ number: `Q${10_000 + at}`, status: accepted ? 'accepted' : 'open', ...owned });
    if (accepted) {
      const day = (after: number): string => new Date(now.getTime() + after * DAY).toISOString().slice(0, 10);
      const starts = 30 + ((at * 7) % 90);
      const term = { starts_on: day(starts), ends_on: day(starts + 40), hives: 4 + ((at * 5) % 60) };
      const bees = ['carnica', 'dark', 'hybrid', 'any'][at % 4]!;
      // Noted on one contract in six.
      const housed =
        contracts.length % 6 === 0
          ? { hive_housing: JSON.stringify([['Frame hive', 'Top bar', 'Log hive'][(contracts.length / 6) % 3]]) }
          : {};
      contracts.push({ number: `V${20_000 + at}`, quote_id: idAt('Q', at), ...owned, ...term, bees, ...housed });
    }
    for (let position = 1; position <= 2 + Math.floor(random() * 5); position += 1) {
      const week = new Date(now.getTime() + (30 + Math.floor(random() * 120)) * DAY).toISOString().slice(0, 10);
      const hive_strength = pick(random, Object.keys(ofContract));
      const hives = 2 + Math.floor(random() * 30);
      const keeper_id = random() < 0.9 ? idAt('U', 1 + Math.floor(random() * 4)) : null;
      quoteLines.push({ quote_id: idAt('Q', at), position, placement_week: week, hive_strength, hives, keeper_id });
      if (!accepted) continue;
      // Some have drifted apart since.
      const strength = random() < 0.93 ? ofContract[hive_strength] : 'strong';
      const placement_at = random() < 0.9 ? new Date(`${week}T00:00:00Z`) : null;
      const contract_id = idAt('C', contracts.length);
      contractLines.push({ contract_id, position, placement_at, strength, hives, beekeeper_id: keeper_id });
    }
  }
  await insert(pool, 'Quote', quotes, now, random);
  await insert(pool, 'QuoteLine', quoteLines, now, random);
  await insert(pool, 'Contract', contracts, now, random);
  await insert(pool, 'ContractLine', contractLines, now, random);
}

/** One in eighty is entered again by somebody who didn't find them: misspelled, called otherwise, moved, married. */
function enteredTwice(people: readonly Values[], random: Random): Values[] {
  const text = (value: unknown): string => String(value ?? '');
  const swapped = (word: string): string =>
    word.length < 4 ? word : word.slice(0, 2) + word[3]! + word[2]! + word.slice(4);
  const ways: ((one: Values) => Values)[] = [
    (one) => ({ ...one, last_name: swapped(text(one['last_name'])), email: null }),
    (one) => ({ ...one, first_name: `${text(one['first_name']).slice(0, 1)}.`, mobile: null, birth_date: null }),
    (one) => ({ ...one, ...place(random), email: null }),
    (one) => ({ ...one, last_name: pick(random, LAST.de), phone: null }),
    (one) => ({ ...one, first_name: one['last_name'], last_name: one['first_name'], birth_date: null }),
    (one) => ({
      ...one,
      email: text(one['email']).replace('@', '+old@') || null,
      street: null,
      postcode: null,
      city: null,
    }),
  ];
  return people
    .filter((_, at) => at % 80 === 40)
    .map((one, at) => ({
      ...ways[at % ways.length]!(one),
      // What somebody typed to get past a field that insists.
      ...(at % 9 === 0 ? { street: 'n/a' } : at % 9 === 4 ? { mobile: '000000' } : {}),
      member_number: null,
      letters_sent: 0,
      notes: null,
    }));
}

/** Enquiries that came by telephone or at a fair: who asks has no record of their own yet, but for every fifth company. */
function calls(now: Date, count: number, organisations: number): Values[] {
  const random = seededRandom(count);
  const known = seededRandom(1871);
  // The first companies' names, as they were made from the same seed.
  const names = Array.from({ length: Math.min(organisations, count) }, (_, at) => organisation(known, at)['name']);
  return Array.from({ length: count }, (_, at) => {
    const first = pick(random, FIRST.de);
    const last = pick(random, LAST.de);
    const company = at % 5 === 0 ? names[at] : pick(random, ORCHARD).replace('{}', `${last}-${pick(random, LAST.pl)}`);
    const blossom = new Date(now.getTime() + (90 + (at % 40)) * DAY).toISOString().slice(0, 10);
    const crops = ['apple', 'pear', 'cherry', 'currant', 'quince'].filter(() => random() < 0.4);
    return {
      ...{ subject: `Hives for ${String(company)}`, kind: 'pollination', status: 'open' },
      ...{ blossom_start: blossom, hives_wanted: 4 + (at % 30), crops: JSON.stringify(crops) },
      ...{ source: at % 3 === 2 ? 'fair' : 'telephone', territory: territoryOf(random) },
      ...{ caller_company: company, caller_name: `${first} ${last}`, caller_phone: phoneOf(random, 'DE') },
      caller_email: `${plainName(first)}.${plainName(last)}${at}@${pick(random, MAIL_HOSTS)}`,
    };
  });
}

/** What the shop sells, as the CRM keeps it. */
const products = (): Values[] => GOODS.map(({ sku, name, price }) => ({ sku, name, price, for_sale: true }));

/** Courses that can be booked, in the spring after `now`. */
function courses(now: Date): Values[] {
  const year = now.getUTCFullYear() + 1;
  return [
    ['Beginners’ weekend', '04-10', 24],
    ['Beginners’ evening class', '03-02', 16],
    ['Queen breeding', '05-15', 10],
    ['Honey and hygiene', '06-05', 20],
  ].map(([name, day, places]) => ({ name, starts_on: `${year}-${String(day)}`, places }));
}

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
const territoryOf = (random: Random): string => pick(random, ['north', 'south', 'hills', 'delta']);

/** Those who look after a territory, and those who sign in to the record pages. */
function users(): Values[] {
  const owners = ['north', 'south', 'hills', 'delta'].map((territory, at) => ({
    name: ['Wiebke Harms', 'Paweł Nowak', 'Maud Radley', 'Tadeusz Żuraw'][at],
    login: ['wiebke', 'pawel', 'maud', 'tadeusz'][at],
    email: `${['wiebke', 'pawel', 'maud', 'tadeusz'][at]}@cloverhollow.example`,
    territory,
  }));
  return [...owners, ...SIGN_INS.map(({ login, name }) => ({ login, name, email: `${login}@cloverhollow.example` }))];
}

function phoneOf(random: Random, country: string): string {
  const digits = (count: number): string => Array.from({ length: count }, () => Math.floor(random() * 10)).join('');
  if (country === 'DE') return `+4930 23125${digits(3)}`.replace(' ', '');
  if (country === 'GB') return `+447700900${digits(3)}`;
  return `+48 22 555 ${digits(2)} ${digits(2)}`.replace(/ /g, '');
}

function place(random: Random): Values {
  const [city, postcode, country] = pick(random, TOWNS);
  return { street: `${pick(random, STREETS)} ${1 + Math.floor(random() * 90)}`, postcode, city, country };
}

function organisation(random: Random, at: number): Values {
  const name = pick(random, ORCHARD).replace('{}', pick(random, [...LAST.de, ...LAST.pl, ...LAST.en]));
  const address = place(random);
  const host = `${plainName(name)}${at % 7 === 0 ? '' : at}.example`;
  return {
    name,
    kind: random() < 0.8 ? 'orchard' : pick(random, ['club', 'shop', 'public']),
    website: random() < 0.6 ? `https://${host}` : null,
    email: random() < 0.7 ? `post@${host}` : null,
    phone: random() < 0.7 ? phoneOf(random, String(address['country'])) : null,
    ...address,
    area_ha: Math.round(random() * 400) / 10,
    crops: JSON.stringify(['apple', 'pear', 'cherry', 'plum'].filter(() => random() < 0.4)),
    customer_number: `C${String(10_000 + at)}`,
    territory: territoryOf(random),
    owner_id: `U-0000${1 + Math.floor(random() * 4)}`,
  };
}

function person(random: Random, at: number, organisations: number): Values {
  const language = pick(random, ['de', 'de', 'pl', 'en'] as const);
  const first = pick(random, FIRST[language]);
  const last = pick(random, LAST[random() < 0.15 ? pick(random, ['de', 'pl', 'en'] as const) : language]);
  const address = place(random);
  const local =
    random() < 0.7 ? `${plainName(first)}.${plainName(last)}` : `${plainName(first).slice(0, 1)}${plainName(last)}`;
  return {
    first_name: first,
    last_name: last,
    email: random() < 0.91 ? `${local}${at % 5 === 0 ? '' : at}@${pick(random, MAIL_HOSTS)}` : null,
    phone: random() < 0.64 ? phoneOf(random, String(address['country'])) : null,
    mobile: random() < 0.2 ? phoneOf(random, String(address['country'])) : null,
    ...address,
    birth_date:
      random() < 0.4
        ? new Date(Date.UTC(1940 + random() * 65, random() * 12, 1 + random() * 27)).toISOString().slice(0, 10)
        : null,
    language,
    interests: JSON.stringify(['pollination', 'honey', 'queens', 'courses'].filter(() => random() < 0.3)),
    letters_allowed: random() < 0.5 ? 1 : 0,
    member_number: random() < 0.1 ? `M${String(1000 + at)}` : null,
    organisation_id:
      organisations > 0 && random() < 0.5
        ? `O-${String(1 + Math.floor(random() * organisations)).padStart(5, '0')}`
        : null,
    letters_sent: Math.floor(random() * 40),
    territory: territoryOf(random),
    owner_id: `U-0000${1 + Math.floor(random() * 4)}`,
  };
}

async function insert(pool: Pool, type: string, records: Values[], now: Date, random: Random): Promise<void> {
  const entity: EntityType = ENTITY_TYPES.find((each) => each.type === type)!;
  const names = allProperties(entity).map((property) => property.name);
  for (let start = 0; start < records.length; start += BATCH) {
    const rows = records.slice(start, start + BATCH).map((record) => {
      const at = new Date(now.getTime() - Math.floor(random() * 2000 + 60) * DAY);
      const filled: Values = { ...record, created_by: 'Import', created_at: at, changed_by: 'Import', changed_at: at };
      return names.map((name) => filled[name] ?? null);
    });
    await pool.query(`INSERT INTO \`${entity.set}\` (${names.map((name) => `\`${name}\``).join(', ')}) VALUES ?`, [
      rows,
    ]);
    const history = rows.map((_, index) => [
      entity.type,
      start + index + 1,
      'created',
      '{}',
      'Import',
      rows[index]![names.indexOf('created_at')],
    ]);
    await pool.query('INSERT INTO history (entity, n, action, changes, changed_by, changed_at) VALUES ?', [history]);
  }
}
