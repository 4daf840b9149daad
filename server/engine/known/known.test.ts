import { openStage, type Json, type Stage } from '../../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 80 });
});
afterAll(() => stage.close());

/** Somebody into the CRM, as its own users would enter them. */
const enter = (person: Record<string, unknown>): Promise<Json> =>
  stage.crm('People', { method: 'POST', body: JSON.stringify(person) });

const report = (reporter: string, phone: string): Promise<Response> =>
  stage.submit('swarm-report', { where: 'Pear tree', reporter, reporter_tel: phone, height: '2' });

const stateOf = async (response: Response): Promise<Json> => {
  const { submission } = (await response.json()) as { submission: string };
  await stage.settled();
  return (await stage.api('GET', `/submissions/${submission}`)).body;
};

/** Resolves when the index holds a record, as the filler's next turn at the system's changes brings it. */
async function known(id: string): Promise<void> {
  for (let tries = 0; tries < 200; tries += 1) {
    await stage.db.$client.query('UPDATE recognitions SET due_at = NOW(3)');
    const [rows] = await stage.db.$client.query('SELECT 1 FROM known_records WHERE record_id = ?', [id]);
    if ((rows as unknown[]).length > 0) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`${id} never came to be known`);
}

describe('the index of known records', () => {
  it('holds all people of the CRM once the demo is loaded', async () => {
    const [rows] = await stage.db.$client.query(
      "SELECT known, filled_at IS NOT NULL AS filled, counted_over FROM recognitions WHERE entity = 'People'",
    );
    const { '@odata.count': count } = await stage.crm('People?$count=true&$top=1');
    expect(rows).toEqual([{ known: count, filled: 1, counted_over: count }]);
  });

  it('hears of who is entered, changed and removed in the CRM itself', async () => {
    const { id } = await enter({ first_name: 'Gesche', last_name: 'Quakenbrück', phone: '+493023125901' });
    await known(id);
    const [rows] = await stage.db.$client.query('SELECT packed FROM known_records WHERE record_id = ?', [id]);
    expect((rows as { packed: string }[])[0]!.packed).toContain('493023125901');
    await stage.crm(`People('${id}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
    for (let tries = 0; tries < 200; tries += 1) {
      await stage.db.$client.query('UPDATE recognitions SET due_at = NOW(3)');
      const [left] = await stage.db.$client.query('SELECT 1 FROM known_records WHERE record_id = ?', [id]);
      if ((left as unknown[]).length === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('it is still known');
  });
});

describe('recognised by evidence', () => {
  it('a known person is found under another spelling, and nobody is made anew', async () => {
    const { id } = await enter({ first_name: 'Wilhelmine', last_name: 'Żurawska', phone: '+493023125902' });
    await known(id);
    const told = await stateOf(await report('Wilhelmine Zurawska', '030 23125 902'));
    expect(told.state).toBe('applied');
    expect(told.steps[0]).toMatchObject({ verdict: 'one', record: { id } });
    expect(told.steps[0].weighed[0].evidence.map(({ about }: Json) => about)).toContain('telephone');
    expect((await stage.crm(`Visits?$filter=person_id eq '${id}'`)).value).toHaveLength(1);
  });

  it('who may be somebody known is asked about, and either answer is carried out', async () => {
    const { id } = await enter({ first_name: 'Gundula', last_name: 'Ostermoor', phone: '+493023125903' });
    await known(id);
    const asked = await stateOf(await report('G. Ostermoor', '030 23125 777'));
    expect(asked.state).toBe('in review');
    expect(asked.steps[0]).toMatchObject({ verdict: 'unsure', outcome: 'asked' });
    expect(asked.steps[0].candidates.map((each: Json) => each.id)).toEqual([id]);
    const answer = (body: object, of: Json) =>
      stage.api('POST', `/submissions/${of.submission.id}/answers`, { step: 'reporter', ...body });
    expect((await answer({ record: id }, asked)).status).toBe(204);
    await stage.settled();
    const again = await stateOf(await report('G. Ostermoor', '030 23125 778'));
    expect(again.state).toBe('in review');
    expect((await answer({ anew: true }, again)).status).toBe(204);
    await stage.settled();
    const people = await stage.crm("People?$filter=last_name eq 'Ostermoor'");
    expect(people.value).toHaveLength(2);
    const [decided] = await stage.db.$client.query('SELECT b, same FROM decided_pairs ORDER BY id');
    expect((decided as Json[]).map(({ same }) => same)).toEqual([1, 0]);
  });

  it('two at the same moment, spelled differently, make one record', async () => {
    await Promise.all([
      report('Friederike Mühlenbrock', '030 23125 904'),
      report('Friederike Muehlenbrock', '+49 30 23125904'),
      report('Rike Mühlenbrock', '030/23125904'),
    ]);
    await stage.settled();
    const people = await stage.crm("People?$filter=phone eq '%2B493023125904'");
    const waiting = await stage.api('GET', '/submissions?state=in review');
    const questions = waiting.body.submissions.filter(({ label }: Json) => /M(ü|ue)hlenbrock/.test(label));
    expect(people.value).toHaveLength(1);
    expect(questions.length).toBeLessThanOrEqual(1);
  });

  it('what the index holds is confirmed by the record as it is now', async () => {
    const { id } = await enter({ first_name: 'Adelheid', last_name: 'Wobbe', phone: '+493023125905' });
    await known(id);
    await stage.crm(`People('${id}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
    const told = await stateOf(await report('Adelheid Wobbe', '030 23125 905'));
    expect(told.steps[0]).toMatchObject({ verdict: 'none', outcome: 'created' });
    expect(told.steps[0].record.id).not.toBe(id);
  });
});
