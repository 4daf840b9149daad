import { makeLine } from '../../core/testing/world.ts';
import { openStage, type Stage } from '../testing/stage.ts';

let stage: Stage;
let system: string;
beforeAll(async () => {
  stage = await openStage({ people: 20 });
  system = (await stage.api('GET', '/systems')).body.systems[0].id;
  await publish('course', [booker, attendees]);
});
afterAll(() => stage.close());
afterEach(() => stage.noFaults());

const line = makeLine;
const step = (id: string, entity: string, lines: object[], more: object = {}) => ({
  id,
  get system() {
    return system;
  },
  entity,
  recognise: [],
  whenNone: 'create',
  whenOne: 'update',
  whenSeveral: 'ask',
  lines,
  ...more,
});
const club = step('club', 'Organisations', [line('club', 'name')], { recognise: [{ fields: ['name'] }] });
const booker = club;
const attendees = step(
  'attendees',
  'People',
  [
    line('attendees[0][first]', 'first_name'),
    line('attendees[0][last]', 'last_name'),
    line('attendees[0][mail]', 'email'),
    { ...line('x', 'organisation_id'), from: [], fromStep: { step: 'club' } },
  ],
  { repeat: 'attendees', recognise: [{ fields: ['email'] }] },
);

async function publish(key: string, steps: object[], more: object = {}): Promise<void> {
  const fields = ['club', ...['first', 'last', 'mail'].map((name) => `attendees[0][${name}]`)].map((name) => ({
    name,
    label: name,
    type: 'text',
    required: false,
    ...(name.startsWith('attendees') ? { group: 'attendees' } : {}),
  }));
  const document = { name: key, source: {}, fields, plan: { steps, ...more }, settings: { perMinute: 6000 } };
  const { status, body } = await stage.api('POST', '/intakes', { key, document });
  expect({ status, body }).toMatchObject({ status: 201 });
  const { intake } = body;
  const published = await stage.api('POST', `/intakes/${intake.id}/publish`, {
    revision: intake.revision,
    accept: true,
  });
  expect({ published }).toMatchObject({ published: { status: 200 } });
}

let made = 0;
/** A sign-up of some people, all new. */
function signUp(count: number): { values: Record<string, string>; mails: string[] } {
  made += 1;
  const values: Record<string, string> = { club: `Imkerverein ${made}` };
  const mails = Array.from({ length: count }, (_, at) => `row${made}.${at}@wabe.example`);
  mails.forEach((mail, at) => {
    values[`attendees[${at}][first]`] = `Row${at}`;
    values[`attendees[${at}][last]`] = `Tester${made}`;
    values[`attendees[${at}][mail]`] = mail;
  });
  return { values, mails };
}
const send = async (intake: string, values: Record<string, string>): Promise<string> => {
  const response = await stage.submit(intake, values);
  expect(response.status).toBe(202);
  return ((await response.json()) as { submission: string }).submission;
};
const path = async (id: string) => (await stage.api('GET', `/submissions/${id}`)).body;

describe('a step once per row', () => {
  it('makes twelve people of twelve rows, more than half of them in batches, each with the club, the same person twice once', async () => {
    const { values, mails } = signUp(12);
    values['attendees[11][mail]'] = mails[0]!.toUpperCase();
    const before = (await stage.seen()).batches.length;
    const id = await send('course', values);
    await stage.settled();
    const told = await path(id);
    expect(told.state).toBe('applied');
    const [clubStep, ...rows] = told.steps;
    expect(rows).toHaveLength(12);
    expect(rows[11].record.id).toBe(rows[0].record.id);
    for (const mail of mails.slice(0, 11))
      expect(await stage.people(mail)).toMatchObject([{ organisation_id: clubStep.record.id }]);
    // What stands ready together goes out together; how much that is depends on how fast the system answers.
    const parts = (await stage.seen()).batches.slice(before).reduce((sum, each) => sum + each, 0);
    expect(parts).toBeGreaterThanOrEqual(6);
  });

  it('answered in part, or broken off after it was done: what is not known is found out, nothing is doubled', async () => {
    for (const kind of ['answer in part', 'break after', 'error inside']) {
      await stage.fault({ kind, times: 2, methods: ['POST'] });
      const { values, mails } = signUp(7);
      const id = await send('course', values);
      await stage.settled(60_000);
      await stage.noFaults();
      expect((await path(id)).state).toBe('applied');
      for (const mail of mails) expect(await stage.people(mail)).toHaveLength(1);
    }
  });

  it('refused in one row: the others are there, and mended it goes on', async () => {
    const { values, mails } = signUp(4);
    values['attendees[2][last]'] = '';
    const id = await send('course', values);
    await stage.settled();
    const told = await path(id);
    expect(told.state).toBe('refused');
    expect(told.steps.map(({ outcome }: { outcome: string }) => outcome)).toEqual([
      'created',
      'created',
      'created',
      'refused',
      'created',
    ]);
    await stage.api('POST', `/submissions/${id}/again`, { values: { 'attendees[2][last]': 'Mended' } });
    await stage.settled();
    expect((await path(id)).state).toBe('applied');
    for (const mail of mails) expect(await stage.people(mail)).toHaveLength(1);
    expect(await stage.people(mails[2]!)).toMatchObject([{ last_name: 'Mended' }]);
  });

  it('refused under “take it all back”: nothing stays, and it is shown as it happened', async () => {
    await publish('course-or-nothing', [club, attendees], { onRefusal: 'take back' });
    const { values, mails } = signUp(3);
    values['attendees[1][last]'] = '';
    const id = await send('course-or-nothing', values);
    await stage.settled();
    const told = await path(id);
    expect(told.state).toBe('refused');
    const [ofClub, ...ofRows] = told.steps as { outcome: string; why?: string }[];
    expect([ofClub!.outcome, ofRows[1]!.outcome]).toEqual(['taken back', 'refused']);
    // In one batch with the one that is refused, the others were not done; one that went out ahead of it is taken back.
    for (const { outcome, why } of [ofRows[0]!, ofRows[2]!])
      if (outcome === 'refused') expect(why).toBe('Not done, since another row was refused.');
      else expect(outcome).toBe('taken back');
    for (const mail of mails) expect(await stage.people(mail)).toEqual([]);
    await stage.api('POST', `/submissions/${id}/again`, { values: { 'attendees[1][last]': 'Mended' } });
    await stage.settled();
    expect((await path(id)).state).toBe('applied');
    for (const mail of mails) expect(await stage.people(mail)).toHaveLength(1);
  });

  it('taken back, what was made and changed once more by the same submission goes too', async () => {
    const again = step(
      'again',
      'Organisations',
      [{ ...line('x', 'main_contact_id'), from: [], fromStep: { step: 'attendees', row: 'first' } }],
      {
        record: { by: 'step', step: 'club' },
        whenNone: 'skip',
      },
    );
    await publish('course-with-contact', [club, attendees, again]);
    const { values, mails } = signUp(2);
    const id = await send('course-with-contact', values);
    await stage.settled();
    const { steps } = await path(id);
    expect(steps.map(({ outcome }: { outcome: string }) => outcome)).toEqual([
      'created',
      'created',
      'created',
      'updated',
    ]);
    const { body } = await stage.api('POST', `/submissions/${id}/take-back`);
    expect(body.results.map(({ done }: { done: boolean }) => done)).toEqual([true, true, true, true]);
    expect((await path(id)).state).toBe('taken back');
    for (const mail of mails) expect(await stage.people(mail)).toEqual([]);
    const left = await stage.crm(`Organisations?$filter=${encodeURIComponent(`name eq '${values['club']}'`)}`);
    expect(left.value).toEqual([]);
  });

  it('with more rows than a form can have is turned away in words, and nothing is half-done', async () => {
    const body = {
      club: 'Flood',
      attendees: Array.from({ length: 10_000 }, (_, at) => ({ first: `F${at}`, last: 'x' })),
    };
    const response = await fetch(`${stage.address}/in/course`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    expect([413, 422]).toContain(response.status);
    expect(((await response.json()) as { detail: string }).detail).toMatch(/fields|rows|values/);
  });
});
