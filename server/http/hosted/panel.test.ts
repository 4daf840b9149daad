import { atCrm, formIn, sendForm, type AtCrm } from '../../testing/panels.ts';
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
    expect(html).toContain('You send this as Ines Ortmann.');
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
    const made = await Promise.all(of('Apiaries').map(({ record }: Json) => stage.crm(`Apiaries('${record.id}')`)));
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
});
