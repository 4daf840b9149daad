import { conversionsOn, type Conversions } from '../../testing/conversions.ts';
import { startChild, type Child } from '../../testing/children.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';

/** What is taken in waits for a worker; the record changes meanwhile. */
let stage: Stage;
let converting: Conversions;
let worker: Child;
const ids: Record<string, { record: string; submission: string }> = {};
beforeAll(async () => {
  stage = await openStage({ role: 'web', people: 10 });
  converting = await conversionsOn(stage);
  await converting.published('customer', converting.document());
  for (const name of ['changed', 'touched', 'gone']) {
    const { id } = await converting.enquiry();
    const [done] = (await converting.convert('customer', [id])) as [Json];
    ids[name] = { record: id, submission: done.submission };
  }
  const change = (name: string, values: object): Promise<Json> =>
    stage.crm(`Enquiries('${ids[name]!.record}')`, {
      ...{ method: 'PATCH', headers: { 'If-Match': '*' }, body: JSON.stringify(values) },
    });
  await change('changed', { caller_company: 'Another one', hives_wanted: 77, caller_email: 'another@biene.example' });
  // Of what isn't written, nor read by the plan, it is another version all the same.
  await change('touched', { message: 'They called again.' });
  await stage.crm(`Enquiries('${ids['gone']!.record}')`, { method: 'DELETE' });
  worker = await startChild(stage.databaseUrl, stage.home, 0, 'worker');
  await stage.settled();
});
afterAll(async () => {
  await worker?.kill();
  await stage.close();
});
const told = async (name: string): Promise<Json> =>
  (await stage.api('GET', `/submissions/${ids[name]!.submission}`)).body;

describe('a record that changes before it is converted', () => {
  it('is read again, and decided again with what it holds by then', async () => {
    const { submission, steps } = await told('changed');
    expect(submission).toMatchObject({ state: 'applied', values: { caller_company: 'Another one', hives_wanted: 77 } });
    expect(submission.ofRecord.etag).toBe('W/"2"');
    const at = (step: string): string => steps.find((each: Json) => each.step === step).record.id;
    expect(await stage.crm(`Contracts('${at('contract')}')`)).toMatchObject({ hives: 77 });
    expect(await stage.crm(`People('${at('person')}')`)).toMatchObject({ email: 'another@biene.example' });
  });
  it('is converted where it was only touched', async () => {
    const { submission } = await told('touched');
    expect(submission).toMatchObject({ state: 'applied', values: { message: 'They called again.' } });
  });
  it('that is gone fails in words', async () => {
    const { submission } = await told('gone');
    expect(submission).toMatchObject({
      ...{ state: 'failed', words: `The Enquiry ${ids['gone']!.record} is no longer there.` },
    });
  });
});
