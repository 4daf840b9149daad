import { atCrm, formIn, postContext, sendForm, type AtCrm } from '../../testing/panels.ts';
import { until } from '../../testing/until.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';

let stage: Stage;
let inspector: AtCrm;
let partner: AtCrm;
let person: Json;
beforeAll(async () => {
  stage = await openStage({ people: 20 });
  [inspector, partner] = await Promise.all([atCrm(stage, 'inspector'), atCrm(stage, 'partner')]);
  [person] = (await stage.crm('People?$filter=phone ne null and city ne null&$top=1')).value;
});
afterAll(() => stage.close());

const VISIT = { place: 'Behind the mill', seen_at: '2027-05-04T10:30', notes: 'Two boxes moved.' };
const apiary = (row: number, name: string, hives: string) => ({
  [`apiaries[${row}][name]`]: name,
  [`apiaries[${row}][hives]`]: hives,
  [`apiaries[${row}][bees]`]: 'carnica',
  [`apiaries[${row}][health]`]: 'good',
});
const submission = async (id: string): Promise<Json> => (await stage.api('GET', `/submissions/${id}`)).body;

describe('a panel on a record’s page', () => {
  it('begins with the record, and what it makes is made by whoever is signed in there', async () => {
    const { status, html } = await inspector.panel('People', person.id);
    expect(status).toBe(200);
    expect(html).toContain('You act here as Ines Ortmann.');
    expect(formIn(html).values['reporter_phone']).toBe(person.phone);
    const sent = await sendForm(stage, html, { ...VISIT, ...apiary(0, 'Mill', '8'), ...apiary(1, 'Lock', '3') });
    expect(sent.status).toBe(202);
    await stage.settled();
    const { submission: found, steps } = await submission(sent.body.submission!);
    expect(found.state).toBe('applied');
    expect(found.via).toBe('panel');
    const of = (entity: string) => steps.filter((step: Json) => step.entity === entity);
    const visit = await stage.crm(`Visits('${of('Visits')[0].record.id}')`);
    expect(visit).toMatchObject({ person_id: person.id, organisation_id: null, created_by: 'Ines Ortmann' });
    expect(visit).toMatchObject({ place: 'Behind the mill', reporter_phone: person.phone, owner_id: person.owner_id });
    const made = await Promise.all(of('BeeYards').map(({ record }: Json) => stage.crm(`BeeYards('${record.id}')`)));
    expect(made.map(({ name, hives }) => [name, hives])).toEqual([
      ['Mill', 8],
      ['Lock', 3],
    ]);
    // What a child has of its parent is filled in unseen, in every row.
    for (const each of made)
      expect(each).toMatchObject({
        person_id: person.id,
        visit_id: visit.id,
        city: person.city,
        street: person.street,
      });
    const page = await inspector.page('People', person.id);
    expect(page).toContain(`${visit.id}</a> Behind the mill, by Ines Ortmann`);
    expect(page).toContain('Mill, by Ines Ortmann');
    const ledger = (await stage.api('GET', `/ledger?record=${visit.id}`)).body.changes;
    expect(ledger[0]).toMatchObject({ actor: 'connection', actingPerson: 'Ines Ortmann' });
  });
  it('says beforehand what somebody may not do there', async () => {
    const { status, html } = await partner.panel('People', person.id);
    expect(status).toBe(200);
    expect(html).toContain('You may not do there what this form does:');
    expect(html).toContain('create a record of the kind Visit');
    expect(html).not.toContain('<form');
  });
  it('is shown once for one context, however many send it at the same moment', async () => {
    const context = await inspector.context('People', person.id);
    const shown = await Promise.all(Array.from({ length: 20 }, () => postContext(stage, context)));
    expect(shown.filter(({ status }) => status === 200)).toHaveLength(1);
    expect(shown.filter(({ status }) => status === 403)).toHaveLength(19);
  });
  it('is filled in once more on the same page, and begins anew', async () => {
    const { html } = await inspector.panel('People', person.id);
    const sent = await sendForm(stage, html, { ...VISIT, ...apiary(0, 'Once', '1') });
    await stage.settled();
    const thanks = await (await fetch(`${stage.address}${sent.body.thanks}`)).text();
    expect(thanks).toContain('This came of it:');
    const records = JSON.parse(/data-records="([^"]+)"/.exec(thanks)![1]!.replaceAll('&quot;', '"')) as Json[];
    expect(records.map(({ entity }) => entity)).toEqual(['Visits', 'BeeYards']);
    const again = /<a href="([^"]+)" class="more">/.exec(thanks)![1]!.replaceAll('&amp;', '&');
    const more = await (await fetch(`${stage.address}${again}`)).text();
    expect(formIn(more).values['reporter_phone']).toBe(person.phone);
    expect((await sendForm(stage, more, { ...VISIT, ...apiary(0, 'Twice', '1') })).status).toBe(202);
  });
  it('takes nothing of its record, its parent’s values or who acts from whoever sends it', async () => {
    const { html } = await inspector.panel('People', person.id);
    const { body } = await sendForm(stage, html, {
      ...{ ...VISIT, ...apiary(0, 'Mine', '1'), person_of_the_page: 'P-00001', organisation_of_the_page: 'O-00001' },
      ...{ owner_id: 'U-00001', city: 'Elsewhere', _begun: 'x', acting: 'keeper', person: 'keeper' },
    });
    await stage.settled();
    const { steps } = await submission(body.submission!);
    const visit = await stage.crm(`Visits('${steps[0].record.id}')`);
    expect(visit).toMatchObject({ person_id: person.id, organisation_id: null, owner_id: person.owner_id });
    expect(visit.created_by).toBe('Ines Ortmann');
    const made = await stage.crm(`BeeYards('${steps[1].record.id}')`);
    expect(made.city).toBe(person.city);
  });
  it('is refused with a page that says why, and Open says it too', async () => {
    const refusal = async (context: Promise<string> | string, more = {}): Promise<string> => {
      const { status, html } = await postContext(stage, await context, more);
      expect([403, 404]).toContain(status);
      return /role="alert"[^>]*>([^<]+)/.exec(html)![1]!;
    };
    const good = (): Promise<string> => inspector.context('People', person.id);
    const used = await good();
    expect((await postContext(stage, used)).status).toBe(200);
    expect(await refusal(used)).toMatch(/was used before/);
    expect(await refusal(good(), { origin: 'http://elsewhere.example' })).toMatch(/http:\/\/elsewhere.example may not/);
    expect(await refusal(good(), { origin: 'null' })).toMatch(/null may not/);
    expect(await refusal('rubbish')).toMatch(/no signed context/);
    expect(await refusal('')).toMatch(/no signed context/);
    // A page of something that the form isn’t for, and one of a record that is gone.
    const other = (entity: string, id: string): Promise<string> => signedFor(entity, id);
    expect(await refusal(other('Enquiry', 'E-00001'))).toMatch(/isn’t for those/);
    const gone = await stage.crm('People', { method: 'POST', body: JSON.stringify({ last_name: 'Gone' }) });
    const before = await good().then(() => inspector.context('People', gone.id));
    await stage.crm(`People('${gone.id}')`, { method: 'DELETE' });
    expect(await refusal(before)).toMatch(/no longer there/);
    const { body } = await stage.api('GET', '/intakes');
    const { id } = body.intakes.find((each: Json) => each.key === 'apiary-inspection');
    const { panel } = (await stage.api('GET', `/intakes/${id}`)).body;
    // One a second is noted: whichever of them that was.
    expect(panel).toMatchObject({ seenBy: 'Ines Ortmann', refusedFrom: expect.stringMatching(/^(?:http|null)/) });
    expect(panel.line).toContain('/f/apiary-inspection/panel');
    // By its address alone it isn’t opened, nor by a pass of one’s own making.
    expect((await fetch(`${stage.address}/f/apiary-inspection`)).status).toBe(403);
    expect((await fetch(`${stage.address}/f/apiary-inspection?panel=v1.a.b.c`)).status).toBe(403);
    expect((await stage.submit('apiary-inspection', VISIT)).status).toBe(403);
  });
  it('says in the system’s words what somebody may no longer do when it is sent', async () => {
    const { html } = await inspector.panel('People', person.id);
    await withdrawn('inspector', ['Visit']);
    const { body } = await sendForm(stage, html, { ...VISIT, ...apiary(0, 'Lost', '1') });
    await stage.settled();
    await withdrawn('inspector', []);
    const found = await submission(body.submission!);
    expect(found.submission).toMatchObject({ state: 'refused', words: 'You may not create records of Visit.' });
    expect(found.steps[0].refusal.kind).toBe('rights');
    const thanks = await (await fetch(`${stage.address}${body.thanks}`)).text();
    expect(thanks).toContain('You may not create records of Visit.');
  });
});

describe('what waits for somebody who acts', () => {
  /** Sends a panel while the CRM is down; then the inspector’s token is gone, and the CRM is back. */
  const lost = async (name: string): Promise<string> => {
    const { html } = await inspector.panel('People', person.id);
    await stage.fault({ kind: 'fail', status: 503 });
    const { body } = await sendForm(stage, html, { ...VISIT, place: name, ...apiary(0, name, '2') });
    await until('it was tried', async () => (await submission(body.submission!)).submission.attempts > 0);
    await nobodySignedIn();
    await stage.noFaults();
    return body.submission!;
  };
  it('asks, is on record, and goes on by itself when they come again', async () => {
    const id = await lost('Comes back');
    await stage.settled();
    const { submission: waiting } = await submission(id);
    expect(waiting).toMatchObject({ state: 'in review', lacks: 'person', acting: { person: 'inspector' } });
    expect(waiting.words).toBe('Ines Ortmann acts here, and isn’t signed in any more.');
    const { causes } = (await stage.api('GET', '/review?state=in review')).body;
    expect(causes.filter(({ newest }: Json) => newest === id)).toHaveLength(1);
    expect((await stage.api('POST', `/submissions/${id}/again`)).status).toBe(409);
    expect((await inspector.panel('People', person.id)).status).toBe(200);
    await until('it is applied', async () => (await submission(id)).submission.state === 'applied');
    const { steps, changes } = await submission(id);
    expect(await stage.crm(`Visits('${steps[0].record.id}')`)).toMatchObject({ created_by: 'Ines Ortmann' });
    expect(changes.map(({ actingPerson }: Json) => actingPerson)).toEqual(['Ines Ortmann', 'Ines Ortmann']);
  });
  it('goes on as the connection when somebody says so, and the ledger names both', async () => {
    const id = await lost('Goes on');
    await stage.settled();
    expect((await stage.api('POST', `/submissions/${id}/again`, { as: 'connection' })).status).toBe(200);
    await until('it is applied', async () => (await submission(id)).submission.state === 'applied');
    const { submission: done, steps, changes } = await submission(id);
    expect(done.acting).toMatchObject({ name: 'Ines Ortmann', by: 'connection' });
    expect(await stage.crm(`Visits('${steps[0].record.id}')`)).toMatchObject({ created_by: 'Integration' });
    expect(changes[0]).toMatchObject({ actor: 'connection for Ines Ortmann', actingPerson: null });
    expect((await stage.api('POST', `/submissions/${id}/again`, { as: 'connection' })).status).toBe(409);
  });
  it('isn’t kept when it is sent too late, and stays where it was filled in', async () => {
    const { html } = await inspector.panel('People', person.id);
    await nobodySignedIn();
    // What is known here of the token is found to be wrong by the first who uses it.
    const first = await sendForm(stage, html, { ...VISIT, ...apiary(0, 'First', '2') });
    await stage.settled();
    expect((await submission(first.body.submission!)).submission.lacks).toBe('person');
    const late = await sendForm(stage, html, { ...VISIT, ...apiary(0, 'Late', '2') });
    expect(late.status).toBe(403);
    expect(late.body.errors).toEqual([{ field: '_shown', message: expect.stringMatching(/no longer signed in/) }]);
  });
  it('is never done twice, though who acts changes in the middle', async () => {
    const { html } = await inspector.panel('People', person.id);
    // The visit is made, and its answer never comes.
    await stage.fault({ kind: 'break after', methods: ['POST'], share: 1 });
    const { body } = await sendForm(stage, html, { ...VISIT, place: 'Only once', ...apiary(0, 'Twice?', '2') });
    await until('it was tried', async () => (await submission(body.submission!)).submission.attempts > 0);
    await nobodySignedIn();
    await stage.noFaults();
    await stage.settled();
    await stage.api('POST', `/submissions/${body.submission}/again`, { as: 'connection' });
    await stage.settled();
    const found = (await stage.crm("Visits?$filter=place eq 'Only once'")).value;
    expect(found).toHaveLength(1);
    const { submission: ended } = await submission(body.submission!);
    expect(['applied', 'in review']).toContain(ended.state);
  });
});

const administrator = { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' };
/** Takes rights away from somebody: they may only read these types. */
const withdrawn = (login: string, types: string[]) =>
  fetch(`${stage.standins}/crm/withdrawn/${login}`, {
    method: 'PUT',
    headers: administrator,
    body: JSON.stringify(types),
  });
/** All tokens that the CRM gave to people count for nothing any more. */
const nobodySignedIn = () => fetch(`${stage.standins}/crm/withdrawn`, { method: 'DELETE', headers: administrator });
/** What the page of another kind of record would sign, were our line there. */
async function signedFor(type: string, id: string): Promise<string> {
  const keeper = await atCrm(stage, 'keeper');
  const line = `<script src="x" data-panel="http://localhost:${new URL(stage.address).port}/f/apiary-inspection/panel" data-context="SIGNED-CONTEXT"></script>`;
  const form = {
    method: 'POST',
    headers: { cookie: keeper.cookie },
    body: new URLSearchParams({ entity: type, line }),
  };
  await fetch(`${stage.standins}/crm/panels`, form);
  await stage.crm('Enquiries', { method: 'POST', body: JSON.stringify({ subject: 'x', kind: 'other' }) });
  return inspector.context('Enquiries', id);
}
