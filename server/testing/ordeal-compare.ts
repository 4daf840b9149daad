import type { Json, OrdealWorld, Sent } from './ordeal-load.ts';

/** How much was compared. */
export interface Compared {
  records: number;
  values: number;
}

interface Written {
  entity: string;
  record: string;
  after: string | Json;
}

/** Compares what was promised with what is there, value by value. @returns what does not hold, in words */
export async function whatIsBroken(
  world: OrdealWorld,
  sent: readonly Sent[],
  accepted: number,
  compared: Compared,
): Promise<string[]> {
  const broken: string[] = [];
  const states = await world.query<{ state: string; count: number; words: string | null }>(
    "SELECT state, COUNT(*) AS count, MAX(words) AS words FROM submissions WHERE idempotency_key LIKE 'ordeal-%' GROUP BY state",
  );
  if (accepted !== sent.length) broken.push(`${accepted} of ${sent.length} were accepted`);
  const applied = Number(states.find(({ state }) => state === 'applied')?.count ?? 0);
  if (applied !== sent.length)
    broken.push(
      `${applied} of ${sent.length} are applied: ${states.map((s) => `${s.count} ${s.state} (${s.words ?? ''})`).join(', ')}`,
    );
  const [open] = await world.query<{ count: number }>("SELECT COUNT(*) AS count FROM ledger WHERE state = 'intended'");
  if (Number(open!.count) > 0) broken.push(`${open!.count} changes on the ledger are unsettled`);
  const records = await recordsOf(world);
  await onceEach(broken, records, sent);
  await ledgerAgrees(world, broken, records, compared);
  lastOneWins(broken, records, sent);
  readersAgree(broken, records, sent);
  return broken;
}

type Records = Map<string, Json[]>;

async function recordsOf(world: OrdealWorld): Promise<Records> {
  const entities = ['People', 'Organisations', 'Enquiries', 'Bookings'];
  const lists = entities.map(async (name) => [name, await world.crm(name)] as const);
  return new Map([...(await Promise.all(lists)), ['subscribers', await world.subscribers()]]);
}

/** Every person, organisation, enquiry and booking that was sent is there once. */
async function onceEach(broken: string[], records: Records, sent: readonly Sent[]): Promise<void> {
  const count = (entity: string, field: string): Map<string, number> => {
    const counts = new Map<string, number>();
    for (const record of records.get(entity)!) {
      const value = String(record[field] ?? '').toLowerCase();
      counts.set(value, (counts.get(value) ?? 0) + 1);
    }
    return counts;
  };
  const [emails, orchards, messages, remarks] = [
    count('People', 'email'),
    count('Organisations', 'name'),
    count('Enquiries', 'message'),
    count('Bookings', 'remarks'),
  ];
  const families = count('People', 'last_name');
  const once = (counts: Map<string, number>, value: string | undefined, what: string): void => {
    if (!value) return;
    const found = counts.get(value.toLowerCase()) ?? 0;
    if (found !== 1) broken.push(`${what} ${value} is there ${found} times`);
  };
  for (const { intake, values, key } of sent) {
    once(emails, values['contact_email'], 'the person');
    if (intake === 'season-enquiry') {
      once(orchards, values['orchard'], 'the orchard');
      once(messages, key, 'the enquiry');
      for (const [name, value] of Object.entries(values))
        if (/\[email\]$/.test(name)) once(emails, value, 'the contact');
    }
    if (intake === 'beginners-course') {
      once(remarks, key, 'the booking');
      if (values['club']) once(orchards, values['club'], 'the club');
      const family = values['attendees[0][last]']!;
      const heads = families.get(family.toLowerCase()) ?? 0;
      if (heads !== Number(values['heads'])) broken.push(`${family} came ${heads} times instead of ${values['heads']}`);
    }
  }
}

/** What the ledger says was written last is what the record holds. */
async function ledgerAgrees(world: OrdealWorld, broken: string[], records: Records, compared: Compared): Promise<void> {
  const rows = await world.query<Written>(
    "SELECT entity, record_id AS record, after_values AS after FROM ledger WHERE state = 'written' ORDER BY id",
  );
  const last = new Map<string, Json>();
  for (const { entity, record, after } of rows) {
    const at = `${entity} ${record}`;
    last.set(at, { ...last.get(at), ...(typeof after === 'string' ? (JSON.parse(after) as Json) : after) });
  }
  const byId = new Map<string, Json>(
    [...records].flatMap(([entity, list]) => list.map((each) => [`${entity} ${String(each['id'])}`, each] as const)),
  );
  for (const [at, values] of last) {
    const record = byId.get(at);
    compared.records += 1;
    if (!record) broken.push(`${at} is on the ledger and not in the system`);
    for (const [field, value] of Object.entries(record ? values : {})) {
      compared.values += 1;
      const [held, said] = [JSON.stringify(record![field] ?? null), JSON.stringify(value)];
      if (held !== said) broken.push(`${at}: ${field} is ${held}, the ledger says ${said}`);
    }
  }
}

/** Of several submissions about one person the last one sent has the last word. */
function lastOneWins(broken: string[], records: Records, sent: readonly Sent[]): void {
  const last = new Map<string, Sent>();
  for (const each of sent) if (each.values['contact_email']) last.set(each.values['contact_email'], each);
  for (const person of records.get('People')!) {
    const expected = last.get(String(person['email'] ?? ''));
    if (expected && person['last_name'] !== expected.values['contact_last'])
      broken.push(
        `${String(person['email'])} is ${String(person['last_name'])}, sent last: ${expected.values['contact_last']}`,
      );
  }
}

/** Who signed up is once in the CRM and once in the mailing system, as they last said, with where they came from at first. */
function readersAgree(broken: string[], records: Records, sent: readonly Sent[]): void {
  const signUps = sent.filter(({ intake }) => intake === 'letters-sign-up');
  for (const mail of new Set(signUps.map(({ values }) => values['mail']!))) {
    const own = signUps.filter(({ values }) => values['mail'] === mail);
    const last = own.at(-1)!.values['nachname'];
    const people = records.get('People')!.filter((each) => each['email'] === mail);
    const readers = records.get('subscribers')!.filter((each) => each['email'] === mail);
    if (people.length !== 1) broken.push(`the person ${mail} is there ${people.length} times`);
    if (readers.length !== 1) broken.push(`the subscriber ${mail} is there ${readers.length} times`);
    for (const [name, held] of [
      ['the person', people[0]?.['last_name']],
      ['the subscriber', readers[0]?.['family']],
    ] as const)
      if (held !== last) broken.push(`${name} ${mail} is ${String(held)}, sent last: ${last}`);
    const first = own[0]!.values['utm_campaign'];
    if (readers[0]?.['campaign'] !== first)
      broken.push(`${mail} came by ${String(readers[0]?.['campaign'])}, sent first: ${first}`);
  }
}
