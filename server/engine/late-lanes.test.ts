import { makeLine } from '../../core/testing/world.ts';
import { openStage, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const line = (from: string, field: string, more: object = {}) =>
  makeLine(from, field, { id: `${from} ${field}`, ...more });
const looked = line('course', 'course_id', { treatments: [{ kind: 'lookup', entity: 'Courses', by: 'name' }] });
const text = (name: string) => ({ name, label: name, type: 'text', required: false });

async function openIntake(key: string, fields: Json[], steps: Json[]): Promise<void> {
  const document = {
    ...{ name: key, source: { kind: 'program' }, fields },
    plan: { steps },
    settings: { perMinute: 6000 },
  };
  const made = await stage.api('POST', '/intakes', { key, document });
  expect(made).toMatchObject({ status: 201 });
  const { id, revision } = made.body.intake;
  const published = await stage.api('POST', `/intakes/${id}/publish`, { revision, accept: true });
  expect(published.body).toEqual({ version: 1 });
}

it('submissions at the same moment whose key a lookup fills make one record', async () => {
  const system = (await stage.api('GET', '/systems')).body.systems[0].id as string;
  const [course] = (await stage.crm('Courses?$top=1')).value;
  await openIntake(
    'bookings-by-course',
    [text('course'), text('who')],
    [
      {
        ...{ id: 's1', system, entity: 'Bookings', whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
        recognise: [{ fields: ['course_id', 'contact_name'] }],
        lines: [looked, line('who', 'contact_name')],
      },
    ],
  );
  // Different spellings of the course are different lanes when they arrive, and one record in the end.
  const spellings = [course.name, course.name.toUpperCase(), ` ${course.name} `];
  await Promise.all(
    Array.from({ length: 24 }, (_, at) =>
      stage.submit('bookings-by-course', { course: spellings[at % 3]!, who: 'Telse Ahrens' }),
    ),
  );
  await stage.settled();
  const { value } = await stage.crm(`Bookings?$filter=${encodeURIComponent("contact_name eq 'Telse Ahrens'")}`);
  expect(value).toHaveLength(1);
  const [left] = await stage.db.$client.query(
    'SELECT (SELECT COUNT(*) FROM lanes) + (SELECT COUNT(*) FROM lane_holders) AS count',
  );
  expect(Number((left as { count: number }[])[0]!.count)).toBe(0);
});

it('submissions at the same moment whose key an earlier step fills make one record, though they know the first by other names', async () => {
  const system = (await stage.api('GET', '/systems')).body.systems[0].id as string;
  const [course] = (await stage.crm('Courses?$top=1')).value;
  const person = await stage.crm('People', {
    method: 'POST',
    body: JSON.stringify({
      first_name: 'Wiebke',
      last_name: 'Harms',
      email: 'wiebke@biene.example',
      phone: '+493023125600',
    }),
  });
  const who = { id: 's1', system, entity: 'People', whenNone: 'stop', whenOne: 'leave', whenSeveral: 'stop' };
  const booking = { id: 's2', system, entity: 'Bookings', whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' };
  await openIntake(
    'bookings-by-person',
    [text('mail'), text('tel'), text('course')],
    [
      {
        ...who,
        recognise: [{ fields: ['email'] }, { fields: ['phone'] }],
        lines: [line('mail', 'email'), line('tel', 'phone')],
      },
      {
        ...booking,
        recognise: [{ fields: ['person_id'] }],
        lines: [
          line('', 'person_id', { from: [], fromStep: { step: 's1' } }),
          looked,
          line('', 'contact_name', { id: 'c', from: [], constant: 'Wiebke Harms' }),
        ],
      },
    ],
  );
  await Promise.all(
    Array.from({ length: 20 }, (_, at) =>
      stage.submit('bookings-by-person', {
        ...(at % 2 === 0 ? { mail: 'wiebke@biene.example' } : { tel: '+493023125600' }),
        course: course.name,
      }),
    ),
  );
  await stage.settled();
  const { value } = await stage.crm(`Bookings?$filter=${encodeURIComponent(`person_id eq '${person.id}'`)}`);
  expect(value).toHaveLength(1);
});
