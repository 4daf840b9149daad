import { enquiry, openStage, type Stage } from '../testing/stage.ts';

/** A system that can't repeat requests: what was cut short is looked for before it is sent again. */
let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  await stage.db.$client.query("UPDATE systems SET capabilities = JSON_SET(capabilities, '$.repeatability', FALSE)");
});
afterAll(() => stage.close());
afterEach(() => stage.noFaults());

const send = async (values: Record<string, string>): Promise<string> =>
  ((await (await stage.submit('pollination-enquiry', values)).json()) as { submission: string }).submission;

it('a creation whose answer was lost is found and not made again', async () => {
  await stage.fault({ kind: 'break after', methods: ['POST'], times: 1 });
  const values = enquiry();
  const id = await send(values);
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toHaveLength(1);
  const { body } = await stage.api('GET', `/submissions/${id}`);
  expect(body).toMatchObject({ state: 'applied', changes: [{ state: 'written', attempt: 1 }] });
});

it('a creation that never took place is made', async () => {
  await stage.fault({ kind: 'break before', methods: ['POST'], times: 1 });
  const values = enquiry();
  await send(values);
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toHaveLength(1);
});

it('a change whose answer was lost is recognised as done', async () => {
  const values = enquiry();
  await send(values);
  await stage.settled();
  await stage.fault({ kind: 'break after', methods: ['PATCH'], times: 1 });
  const id = await send({ ...values, contact_phone: '030 23125 321' });
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toMatchObject([{ phone: '+493023125321' }]);
  expect((await stage.api('GET', `/submissions/${id}`)).body.changes).toMatchObject([{ state: 'written' }]);
});

it('a change that never took place, and was overtaken meanwhile, is decided again', async () => {
  const values = enquiry();
  await send(values);
  await stage.settled();
  const [person] = await stage.people(values['contact_email']!);
  await stage.fault({ kind: 'break before', methods: ['PATCH'], times: 1 });
  const id = await send({ ...values, contact_phone: '030 23125 322' });
  await new Promise((resolve) => setTimeout(resolve, 120));
  await stage.crm(`People('${person.id}')`, {
    method: 'PATCH',
    body: JSON.stringify({ notes: 'somebody else was here' }),
  });
  await stage.settled();
  expect(await stage.people(values['contact_email']!)).toMatchObject([
    { phone: '+493023125322', notes: 'somebody else was here' },
  ]);
  expect((await stage.api('GET', `/submissions/${id}`)).body.state).toBe('applied');
});
