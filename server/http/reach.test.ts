import { openStage, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 12 });
}, 120_000);
afterAll(() => stage.close());

const uses = async (query = ''): Promise<Json[]> => (await stage.api('GET', `/reach${query}`)).body.uses;

it('who reaches a field is known by intakes and pairings, and follows what is changed, published and deleted', async () => {
  const crm = (await stage.api('GET', '/systems')).body.systems.find(({ name }: Json) => name === 'Co-op CRM').id;
  const of = (field: string) => uses(`?system=${crm}&entity=People&field=${field}`);
  const letters = (await stage.api('GET', '/systems')).body.systems.find(
    ({ name }: Json) => name === 'Co-op Letters',
  ).id;
  const sides = { left: { system: letters, entity: 'subscribers' }, right: { system: crm, entity: 'People' } };
  const { document } = (await stage.api('POST', '/pairings/propose', sides)).body;
  expect((await stage.api('POST', '/pairings', { document })).status).toBe(201);
  const before = await of('email');
  expect(new Set(before.map(({ by }) => by))).toEqual(new Set(['intake', 'pairing']));
  expect(await of('email')).toEqual(before);
  expect((await uses(`?system=${crm}`)).length).toBeGreaterThan((await uses(`?system=${crm}&entity=People`)).length);
  // A line more in a draft is planned at once, and does so once it is published.
  const { intakes } = (await stage.api('GET', '/intakes')).body;
  const { id } = intakes.find(({ key }: Json) => key === 'pollination-enquiry');
  const { intake } = (await stage.api('GET', `/intakes/${id}`)).body;
  const draft = structuredClone(intake.draft);
  const step = draft.plan.steps.find(({ entity }: Json) => entity === 'People');
  const line = {
    id: 'more',
    from: ['contact_phone'],
    treatments: [],
    ifBoth: 'write',
    blankErases: false,
    origin: 'set',
  };
  step.lines.push({ ...line, field: 'mobile' });
  const saved = await stage.api('PUT', `/intakes/${id}/draft`, { document: draft, revision: intake.revision });
  const mine = async () => (await of('mobile')).filter((use) => use.id === id);
  expect(await mine()).toMatchObject([{ how: 'written', live: false }]);
  const { revision } = saved.body;
  expect((await stage.api('POST', `/intakes/${id}/publish`, { revision, accept: true })).status).toBe(200);
  expect(await mine()).toMatchObject([{ how: 'written', live: true }]);
  await stage.api('DELETE', `/intakes/${id}`);
  expect(await mine()).toEqual([]);
  expect((await of('email')).some((use) => use.id === id)).toBe(false);
});

it('what counts as evidence follows how an entity is recognised', async () => {
  const crm = (await stage.api('GET', '/systems')).body.systems.find(({ name }: Json) => name === 'Co-op CRM').id;
  const path = `/systems/${crm}/entities/People/recognition`;
  const evidence = async (): Promise<string[]> =>
    (await uses(`?system=${crm}&entity=People`)).flatMap(({ how, field }) => (how === 'evidence' ? [field] : []));
  expect(await evidence()).toContain('birth_date');
  const { document, revision } = (await stage.api('GET', path)).body.recognition;
  const parts = document.parts.filter(({ part }: Json) => part !== 'birth_date');
  expect((await stage.api('PUT', path, { document: { ...document, parts }, revision })).status).toBe(200);
  expect(await evidence()).not.toContain('birth_date');
});
