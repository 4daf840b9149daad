import type { IntakeDocument } from '@zusammen/core/intake';
import { forgetBulksBefore } from '../../store/index.ts';
import { conversionsOn, type Conversions } from '../../testing/conversions.ts';
import { atCrm } from '../../testing/panels.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';

let stage: Stage;
let converting: Conversions;
beforeAll(async () => {
  stage = await openStage({ people: 10 });
  converting = await conversionsOn(stage);
});
afterAll(() => stage.close());
const enquiry = (more?: object): Promise<Json> => converting.enquiry(more);
const document = (source?: object, more?: object): Json => converting.document(source, more);
const published = (key: string, wanted: Json): Promise<string> => converting.published(key, wanted);
const convert = (key: string, records: string[]): Promise<Json[]> => converting.convert(key, records);

const told = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body;
describe('a conversion', () => {
  beforeAll(async () => void (await published('customer', document())));

  it('makes of one record several others, with its values as it holds them, and marks it', async () => {
    const one = await enquiry();
    const [done] = await convert('customer', [one.id]);
    await stage.settled();
    const { submission, steps } = await told(done.submission);
    expect(submission).toMatchObject({
      state: 'applied',
      via: 'record',
      ofRecord: { entity: 'Enquiries', id: one.id },
    });
    // Typed: a number is a number, several are a list, and nothing is read by how somebody writes.
    expect(submission.values).toMatchObject({
      id: one.id,
      hives_wanted: one.hives_wanted,
      crops: ['apple', 'pear'],
      area_ha: 2.5,
    });
    const at = (name: string): string => steps.find((each: Json) => each.step === name).record.id;
    const [firm, person, contract, marked] = await Promise.all([
      stage.crm(`Organisations('${at('firm')}')`),
      stage.crm(`People('${at('person')}')`),
      stage.crm(`Contracts('${at('contract')}')`),
      stage.crm(`Enquiries('${one.id}')`),
    ]);
    expect(firm).toMatchObject({ name: one.caller_company, crops: ['apple', 'pear'] });
    expect(person).toMatchObject({ email: one.caller_email, organisation_id: firm.id });
    expect(contract).toMatchObject({
      number: one.id,
      hives: one.hives_wanted,
      crops: ['apple', 'pear'],
      organisation_id: firm.id,
    });
    expect(marked).toMatchObject({ status: 'won', organisation_id: firm.id, person_id: person.id });
  });
  it('done twice, by two at once or later, gives the same records', async () => {
    const one = await enquiry();
    const both = await Promise.all([convert('customer', [one.id, one.id]), convert('customer', [one.id])]);
    await stage.settled();
    const [later] = await convert('customer', [one.id]);
    await stage.settled();
    expect(new Set([...both.flat(), later].map(({ submission }) => submission)).size).toBe(1);
    expect(later.again).toBe(true);
    expect((await stage.crm(`Contracts?$filter=number eq '${one.id}'`)).value).toHaveLength(1);
    // Through the door of an intake none comes in.
    expect((await stage.submit('customer', { id: one.id })).status).toBe(403);
    expect((await convert('customer', ['E-99999']))[0]).toEqual({ record: 'E-99999', why: 'There is no such record.' });
  });
  it('is taken back, and can be done again', async () => {
    const one = await enquiry();
    const [{ submission }] = (await convert('customer', [one.id])) as [Json];
    await stage.settled();
    expect((await stage.api('POST', `/submissions/${submission}/take-back`, {})).status).toBe(200);
    expect(await stage.crm(`Enquiries('${one.id}')`)).toMatchObject({ status: 'open', organisation_id: null });
    expect((await stage.crm(`Contracts?$filter=number eq '${one.id}'`)).value).toEqual([]);
    const [again] = await convert('customer', [one.id]);
    expect(again.submission).toBe(submission);
    await stage.settled();
    expect((await told(submission)).submission.state).toBe('applied');
    expect((await stage.crm(`Contracts?$filter=number eq '${one.id}'`)).value).toHaveLength(1);
  });
  it('names a value that would be lost on the way: an option spelt otherwise', async () => {
    await enquiry({ crops: ['currant', 'apple'] });
    const { body } = await stage.api('GET', '/conversions/customer/records?limit=50');
    expect(body.records.length).toBeGreaterThan(0);
    const { body: intakes } = await stage.api('GET', '/intakes');
    const { id } = intakes.intakes.find(({ key }: Json) => key === 'customer');
    for (const { values } of body.records) await stage.api('POST', `/intakes/${id}/samples`, { values });
    const { revision } = (await stage.api('GET', `/intakes/${id}`)).body.intake;
    const { body: problem } = await stage.api('POST', `/intakes/${id}/publish`, { revision });
    expect(JSON.stringify(problem)).toMatch(/Crops: “Currant” has no counterpart/);
  });
});

describe('the demo’s conversion', () => {
  it('makes a customer of an enquiry that was taken down on the telephone, each crop as it is called there', async () => {
    const one = await enquiry({ crops: ['currant', 'apple'], caller_name: 'Wanda Tannicht' });
    const [{ submission }] = (await convert('enquiry-to-contract', [one.id])) as [Json];
    await stage.settled();
    expect((await told(submission)).submission.state).toBe('applied');
    const [contract] = (await stage.crm(`Contracts?$filter=number eq '${one.id}'`)).value;
    expect(contract).toMatchObject({ crops: ['blackcurrant', 'apple'], hives: one.hives_wanted });
    const now = await stage.crm(`Enquiries('${one.id}')`);
    expect(now).toMatchObject({ status: 'won', organisation_id: contract.organisation_id });
    const person = await stage.crm(`People('${now.person_id}')`);
    expect(person).toMatchObject({ first_name: 'Wanda', last_name: 'Tannicht', email: one.caller_email });
  });
});

describe('many at once', () => {
  it('are counted, taken in in order, and done once; what had been converted is not done again', async () => {
    await published('many', document());
    const some = [];
    for (let at = 0; at < 30; at += 1) some.push(await enquiry({ source: 'fair', caller_company: 'One hof' }));
    await convert('many', [some[3]!.id]);
    await stage.settled();
    const where = [{ field: 'source', test: 'is', value: 'fair' }];
    const count = (await stage.api('POST', '/conversions/many/count', { where })).body;
    expect(count).toMatchObject({ count: 30, whole: true });
    expect(count.records[0]).toMatchObject({ id: some[0]!.id, shown: expect.arrayContaining([some[0]!.subject]) });
    const { status, body } = await stage.api('POST', '/conversions/many', { where });
    expect([status, typeof body.bulk]).toEqual([201, 'string']);
    const bulk = async (): Promise<Json> => (await stage.api('GET', '/conversions/many')).body.bulks[0];
    await until('all are converted', async () => (await bulk()).state === 'done');
    expect(await bulk()).toMatchObject({
      total: 30,
      done: 30,
      before: 1,
      ends: { applied: 29 },
      wrong: 0,
      problems: [],
    });
    // All about the same company run one after another, and made it once.
    expect((await stage.crm("Organisations?$filter=name eq 'One hof'")).value).toHaveLength(1);
    expect((await stage.crm("Enquiries?$filter=source eq 'fair' and status eq 'won'")).value).toHaveLength(30);
    const numbers = await Promise.all(some.map(({ id }) => stage.crm(`Contracts?$filter=number eq '${id}'`)));
    expect(numbers.map(({ value }) => value.length)).toEqual(some.map(() => 1));
  });
  it('miss none where converting changes what the condition looks at', async () => {
    await published('open-ones', document());
    const { length: open } = (await stage.crm("Enquiries?$filter=status eq 'open'")).value;
    await Promise.all(Array.from({ length: 60 }, () => enquiry()));
    const where = [{ field: 'status', test: 'is', value: 'open' }];
    await stage.api('POST', '/conversions/open-ones', { where });
    const bulk = async (): Promise<Json> => (await stage.api('GET', '/conversions/open-ones')).body.bulks[0];
    await until('all are converted', async () => (await bulk()).state === 'done');
    const told = await bulk();
    expect([told.total, told.done]).toEqual([open + 60, open + 60]);
    // One of before has a crop that nobody knows.
    expect((await stage.crm("Enquiries?$filter=status eq 'open'")).value).toHaveLength(told.ends.failed ?? 0);
  });
  it('tell of one that is refused, which keeps nobody else; what is done isn’t paused, and a closed intake takes none', async () => {
    await published('refused', {
      ...document(),
      plan: {
        steps: [converting.step('contract', 'Contracts', [converting.line('l1', ['caller_company'], 'number')])],
      },
    });
    for (let at = 0; at < 4; at += 1)
      await enquiry({ source: 'twice', caller_company: at < 2 ? 'The same' : `Other ${at}` });
    const where = [{ field: 'source', test: 'is', value: 'twice' }];
    const { body } = await stage.api('POST', '/conversions/refused', { where });
    const bulk = async (): Promise<Json> => (await stage.api('GET', '/conversions/refused')).body.bulks[0];
    await until('it is done', async () => (await bulk()).state === 'done');
    expect((await bulk()).ends).toEqual({ applied: 3, refused: 1 });
    expect((await stage.api('PUT', `/bulk-conversions/${body.bulk}/state`, { state: 'paused' })).status).toBe(409);
    const { body: intakes } = await stage.api('GET', '/intakes');
    const { id } = intakes.intakes.find(({ key }: Json) => key === 'refused');
    await stage.api('PUT', `/intakes/${id}/state`, { state: 'closed' });
    await until(
      'it is closed',
      async () => (await stage.api('POST', '/conversions/refused', { where })).status === 409,
    );
  });
  it('are paused and go on, or are ended where they are; after its days nothing is known of by what they were chosen', async () => {
    const id = await published('halted', document());
    await Promise.all(Array.from({ length: 40 }, (_, at) => enquiry({ source: at % 2 ? 'odd' : 'even' })));
    const begin = async (value: string): Promise<string> => {
      const where = [{ field: 'source', test: 'is', value }];
      return (await stage.api('POST', '/conversions/halted', { where })).body.bulk;
    };
    const move = async (bulk: string, state: string): Promise<number> =>
      (await stage.api('PUT', `/bulk-conversions/${bulk}/state`, { state })).status;
    const told = async (bulk: string): Promise<Json> =>
      (await stage.api('GET', '/conversions/halted')).body.bulks.find((each: Json) => each.id === bulk);
    const first = await begin('odd');
    expect(await move(first, 'paused')).toBe(204);
    expect((await told(first)).state).toBe('paused');
    expect(await move(first, 'running')).toBe(204);
    await until('it is done after all', async () => (await told(first)).state === 'done');
    expect(await told(first)).toMatchObject({ total: 20, done: 20, ends: { applied: 20 } });

    const second = await begin('even');
    expect(await move(second, 'cancelled')).toBe(204);
    expect((await told(second)).state).toBe('cancelled');
    expect(await move(second, 'running')).toBe(409);

    await forgetBulksBefore(stage.db, id, new Date(Date.now() + 1000));
    expect(await told(first)).toBeUndefined();
  });
  it.each([
    ['neither', {}, 'records'],
    ['both', { records: ['E-1'], where: [] }, 'records'],
    ['none', { records: [] }, 'records'],
    ['more than can be', { records: Array.from({ length: 501 }, (_, at) => `E-${at}`) }, 'records'],
    ['a test nobody knows', { where: [{ field: 'x', test: 'smells of' }] }, 'where.0.test'],
  ])('with %s of records and a condition are not taken', async (_what, body, field) => {
    const answer = await stage.api('POST', '/conversions/customer', body);
    expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([422, field]);
  });
});

describe('a conversion that starts by itself', () => {
  it('converts what comes to meet its condition, and nothing that met it before', async () => {
    const before = await enquiry({ status: 'agreed' });
    const open = await enquiry();
    const starts = [{ field: 'status', test: 'is', value: 'agreed' }];
    const id = await published('agreed', document({ starts }));
    await until('it has begun', async () => {
      const [rows] = await stage.db.$client.query('SELECT * FROM conversion_starts WHERE intake_id = ?', [id]);
      return (rows as Json[]).length === 1;
    });
    await stage.crm(`Enquiries('${open.id}')`, {
      ...{ method: 'PATCH', headers: { 'If-Match': '*' }, body: JSON.stringify({ status: 'agreed' }) },
    });
    const fresh = await enquiry({ status: 'agreed' });
    await hastened();
    await until('both are converted', async () => {
      const found = (await stage.crm(`Enquiries?$filter=status eq 'won'`)).value.map(
        (each: Json) => each.id,
      ) as string[];
      return found.includes(open.id) && found.includes(fresh.id);
    });
    expect(await stage.crm(`Enquiries('${before.id}')`)).toMatchObject({ status: 'agreed' });
    // What it has made of them is told by changes too, and starts nothing.
    await hastened();
    await stage.settled();
    const [rows] = await stage.db.$client.query('SELECT COUNT(*) AS count FROM submissions WHERE intake_id = ?', [id]);
    expect(Number((rows as Json[])[0].count)).toBe(2);
  });
});

describe('a conversion on its record’s page', () => {
  it('shows what would come of it, and is done as whoever is signed in there', async () => {
    const origin = new URL(stage.standins).origin;
    const wanted = document({ panel: { whenGone: 'ask' } }) as IntakeDocument;
    await published('in-panel', { ...wanted, settings: { perMinute: 600, allowedOrigins: [origin] } });
    const keeper = await atCrm(stage, 'keeper');
    const own = `http://localhost:${new URL(stage.address).port}`;
    const tag = `<script src="x" data-panel="${own}/f/in-panel/panel" data-context="SIGNED-CONTEXT"></script>`;
    await fetch(`${stage.standins}/crm/panels`, {
      ...{
        method: 'POST',
        headers: { cookie: keeper.cookie },
        body: new URLSearchParams({ entity: 'Enquiry', line: tag }),
      },
    });
    const one = await enquiry();
    const { status, html } = await keeper.panel('Enquiries', one.id, 'in-panel');
    expect(status).toBe(200);
    expect(html).toContain('You act here as Karla Winter.');
    // Once as what would be made, and where a Person, a Contract and the Enquiry would name it.
    expect(html.split('A new Organisation')).toHaveLength(5);
    expect(html).not.toMatch(/>new \d/);
    expect(html).toContain(`Enquiry, changed (${one.id})`);
    const action = /<form[^>]+action="([^"]+)"/.exec(html)![1]!.replaceAll('&amp;', '&');
    const sent = await fetch(`${stage.address}${action}`, {
      method: 'POST',
      redirect: 'manual',
      body: new URLSearchParams(),
    });
    expect(sent.status).toBe(303);
    await stage.settled();
    const thanks = await (await fetch(`${stage.address}${sent.headers.get('location')}`)).text();
    expect(thanks).toContain('Contract ');
    expect((await stage.crm(`Contracts?$filter=number eq '${one.id}'`)).value[0]).toMatchObject({
      created_by: 'Karla Winter',
    });
    // An inspector may make no contract: that is said before.
    const inspector = await atCrm(stage, 'inspector');
    const refused = (await inspector.panel('Enquiries', (await enquiry()).id, 'in-panel')).html;
    expect(refused).toContain('create a record of the kind Contract');
    expect(refused).not.toContain('<form');
  });
});

/** Changes are looked for now rather than when it suits. */
async function hastened(): Promise<void> {
  await stage.db.$client.query("UPDATE jobs SET due_at = UTC_TIMESTAMP(3) WHERE kind = 'feed' AND state = 'running'");
}
