import { formOf, item } from '../../../core/testing/hosted.ts';
import type { Reads } from '@zusammen/core/forms/hosted';
import { intakeLike, openStage, type Json, type Stage } from '../../testing/stage.ts';

let stage: Stage;
let crm: string;
beforeAll(async () => {
  stage = await openStage({ people: 60 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  crm = systems.find(({ name }: Json) => /CRM/.test(name)).id;
  await contractForm('contract');
});
afterAll(() => stage.close());

const shown = ['name', 'city'];
const organisations = (more: Partial<Reads> = {}): Reads => ({
  ...{ system: crm, entity: 'Organisations', shows: shown, letters: 3, order: [{ field: 'name' }] },
  ...more,
});
const of = { entity: 'Contracts', by: 'organisation_id', newest: 'starts_on' };

/** An organisation is looked up; its newest contract is meant, whose values are filled in. */
async function contractForm(key: string, where: Reads['where'] = []): Promise<void> {
  const contract = (await stage.crm('Contracts?$top=1')).value[0] as Json;
  expect(contract).toHaveProperty('starts_on');
  const form = formOf(
    [
      item('record', 'organisation', {
        required: true,
        reads: organisations({
          where,
          fills: [
            { into: 'contract', of },
            { into: 'starts', of, field: 'starts_on' },
            { into: 'phone', field: 'phone' },
          ],
        }),
      }),
      item('hidden', 'contract'),
      item('date', 'starts'),
      item('phone', 'phone'),
      item('one of', 'territory', {
        options: [
          { value: 'north', label: { en: 'North' } },
          { value: 'south', label: { en: 'South' } },
        ],
      }),
      item('one of', 'neighbour', {
        reads: organisations({ where: [{ field: 'territory', test: 'is', answer: 'territory' }], first: 3 }),
      }),
    ],
    { guard: { trap: true, leastSeconds: 0 } },
  );
  await intakeLike(stage, key, (document) => {
    document.source = { kind: 'ours' };
    document.form = form;
    document.fields = [];
    const line = { id: 'l1', from: ['starts'], treatments: [], field: 'starts_on', ifBoth: 'write' };
    document.plan.steps = [
      {
        ...{ id: 's1', system: crm, entity: 'Contracts', recognise: [], record: { by: 'field', field: 'contract' } },
        ...{ whenNone: 'stop', whenOne: 'update', whenSeveral: 'ask' },
        lines: [{ ...line, blankErases: false, origin: 'set' }],
      },
    ];
    delete document.settings.told;
    delete document.settings.allowedOrigins;
  });
}

const read = async (said: Record<string, string>, key = 'contract', headers: Record<string, string> = {}) => {
  const body = new URLSearchParams(said);
  const response = await fetch(`${stage.address}/f/${key}/read`, { method: 'POST', body, headers });
  return { status: response.status, body: (await response.json()) as Json };
};
const lookUp = (text: string, key?: string) => read({ _question: 'organisation', organisation: '', _text: text }, key);
const choose = (id: string, key?: string) => read({ _question: 'organisation', organisation: '', _chosen: id }, key);
const send = async (said: Record<string, string>, key = 'contract') => {
  const response = await fetch(`${stage.address}/f/${key}`, {
    method: 'POST',
    body: new URLSearchParams(said),
    headers: { Accept: 'application/json', 'Idempotency-Key': crypto.randomUUID() },
  });
  return { status: response.status, body: (await response.json()) as Json };
};
const valuesOf = async (id: string): Promise<Json> =>
  (await stage.api('GET', `/submissions/${id}`)).body.submission.values;

/** An organisation that has contracts, with the newest of them. */
async function withContract(): Promise<{ organisation: Json; newest: Json }> {
  const { value } = await stage.crm(
    'Contracts?$filter=organisation_id ne null and starts_on ne null&$orderby=starts_on desc&$top=1',
  );
  const organisation = await stage.crm(`Organisations('${value[0].organisation_id}')`);
  return { organisation, newest: value[0] };
}

describe('looking records up', () => {
  it('finds by letters anywhere in the name, in capitals or not, and tells only what the form shows', async () => {
    const { organisation } = await withContract();
    const { status, body } = await lookUp(organisation.name.slice(1, 5).toUpperCase());
    expect(status).toBe(200);
    expect(body.offered.length).toBeGreaterThan(0);
    expect(body.offered.length).toBeLessThanOrEqual(10);
    for (const each of body.offered) {
      expect(Object.keys(each).sort()).toEqual(['id', 'shown']);
      expect(each.shown).toHaveLength(2);
    }
    expect(body.offered.map(({ id }: Json) => id)).toContain(organisation.id);
  });

  it('finds nothing by too few letters, and takes signs of the query language for letters', async () => {
    expect((await lookUp('Ob')).body).toEqual({ offered: [] });
    for (const text of ["O'Hara') or (1 eq 1", '%%%', '___', "';--", '\u{1f41d}\u{1f41d}\u{1f41d}', 'x'.repeat(255)])
      expect(await lookUp(text)).toEqual({ status: 200, body: { offered: [] } });
    expect((await lookUp('x'.repeat(256))).status).toBe(422);
  });

  it('answers for nothing but questions of the form that offer records', async () => {
    for (const _question of ['starts', 'none', '', 'organisation[0]'])
      expect((await read({ _question, _text: 'abc' })).status).toBe(422);
    expect(
      (await read({ _question: 'organisation', _text: 'abc' }, 'contract', { Origin: 'https://other.example' })).status,
    ).toBe(403);
    expect((await read({ _question: 'organisation', _text: 'abc' }, 'no-such-form')).status).toBe(404);
  });

  it('lists what meets a condition over another answer, and nothing before that is given', async () => {
    const list = (territory: string) => read({ _question: 'neighbour', neighbour: '', territory });
    expect((await list('')).body.offered).toEqual([]);
    const { offered } = (await list('south')).body;
    expect(offered.length).toBeGreaterThan(0);
    expect(offered.length).toBeLessThanOrEqual(3);
    for (const { id } of offered) expect((await stage.crm(`Organisations('${id}')`)).territory).toBe('south');
  });
});

describe('a chosen record', () => {
  it('fills what the form says, out of its newest contract too; which contract that is isn’t told', async () => {
    const { organisation, newest } = await withContract();
    const { status, body } = await choose(organisation.id);
    expect(status).toBe(200);
    expect(body.chosen).toEqual({
      id: organisation.id,
      shown: [organisation.name, organisation.city ?? ''],
      fills: { starts: newest.starts_on, phone: organisation.phone ?? '' },
      offer: expect.any(String),
    });
  });

  it('is read again when it is sent: the contract changed is its newest, whatever the page says', async () => {
    const { organisation, newest } = await withContract();
    const [other] = (await stage.crm(`Contracts?$filter=id ne '${newest.id}'&$top=1`)).value;
    const { status, body } = await send({ organisation: organisation.id, contract: other.id, starts: '2027-06-01' });
    expect(status).toBe(202);
    expect(await valuesOf(body.submission)).toMatchObject({
      contract: newest.id,
      organisation_shown: expect.stringContaining(organisation.name),
    });
    await stage.settled();
    expect((await stage.crm(`Contracts('${newest.id}')`)).starts_on).toBe('2027-06-01');
    expect((await stage.crm(`Contracts('${other.id}')`)).starts_on).toBe(other.starts_on);
  });

  it('that the form couldn’t have offered is refused, by hand and by the programs’ door', async () => {
    await contractForm('south-only', [{ field: 'territory', test: 'is', value: 'south' }]);
    const [north] = (await stage.crm("Organisations?$filter=territory eq 'north'&$top=1")).value;
    expect((await choose(north.id, 'south-only')).status).toBe(404);
    for (const organisation of [north.id, 'O-99999', "' or '1' eq '1", '../People', 'x'.repeat(255)]) {
      const { status, body } = await send({ organisation, starts: '2027-06-01' }, 'south-only');
      expect([status, body.errors[0].field]).toEqual([422, 'organisation']);
      const byProgram = await stage.submit('south-only', { organisation, starts: '2027-06-01' });
      expect(byProgram.status).toBe(422);
    }
  });

  it('without anything to change says so', async () => {
    const contracts = (await stage.crm('Contracts?$top=500')).value.map((each: Json) => each.organisation_id);
    const { value } = await stage.crm('Organisations?$top=200');
    const bare = value.find(({ id }: Json) => !contracts.includes(id));
    expect(await send({ organisation: bare.id, starts: '2027-06-01' })).toMatchObject({
      status: 422,
      body: { errors: [{ field: 'organisation' }] },
    });
  });

  it('speaks for itself by what was sealed while its system is away, altered or not', async () => {
    const { organisation, newest } = await withContract();
    const { chosen } = (await choose(organisation.id)).body;
    await stage.fault({ kind: 'fail', status: 503 });
    try {
      expect((await lookUp('Obsthof away')).status).toBe(503);
      const said = { organisation: organisation.id, contract: 'C-1', starts: '2027-07-01' };
      expect((await send(said)).status).toBe(422);
      expect((await send({ ...said, _offer: `${chosen.offer.slice(0, -4)}AAAA` })).status).toBe(422);
      const { status, body } = await send({ ...said, _offer: chosen.offer });
      expect(status).toBe(202);
      expect((await valuesOf(body.submission)).contract).toBe(newest.id);
      // It speaks for the record that was chosen, and for no other.
      expect((await send({ ...said, organisation: 'O-2', _offer: chosen.offer })).status).toBe(422);
    } finally {
      await stage.noFaults();
    }
    await stage.settled();
    expect((await stage.crm(`Contracts('${newest.id}')`)).starts_on).toBe('2027-07-01');
  });
});

describe('the draft of a form', () => {
  const draftOf = async (): Promise<{ id: string; address: string }> => {
    const { intakes } = (await stage.api('GET', '/intakes')).body;
    const { id } = intakes.find(({ key }: Json) => key === 'contract');
    return { id, address: (await stage.api('POST', `/intakes/${id}/preview`)).body.address };
  };

  it('is filled in, read for and looked at as a live one is, and nothing of it is kept', async () => {
    const { id, address } = await draftOf();
    const { intake } = (await stage.api('GET', `/intakes/${id}`)).body;
    const draft = structuredClone(intake.draft);
    draft.form.title = { en: 'A better title' };
    await stage.api('PUT', `/intakes/${id}/draft`, { revision: intake.revision, document: draft });
    const page = await (await fetch(stage.address + address)).text();
    expect(page).toContain('A better title');
    expect(page).toContain('not kept');
    expect(await (await fetch(`${stage.address}/f/contract`)).text()).not.toContain('A better title');
    const at = (rest: string): string => stage.address + address.replace('/draft', `/draft${rest}`);
    const { organisation } = await withContract();
    const body = new URLSearchParams({ _question: 'organisation', organisation: '', _chosen: organisation.id });
    expect((await fetch(at('/read'), { method: 'POST', body })).status).toBe(200);
    const before = (await stage.api('GET', '/submissions')).body.submissions.length;
    const headers = { Accept: 'application/json' };
    const send = (said: Record<string, string>) =>
      fetch(at(''), { method: 'POST', headers, body: new URLSearchParams(said) });
    expect((await send({ organisation: 'O-99999' })).status).toBe(422);
    const sent = await send({ organisation: organisation.id });
    expect([sent.status, await sent.json()]).toEqual([
      202,
      { thanks: expect.stringContaining('/f/contract/draft/thanks?by=') },
    ]);
    expect((await stage.api('GET', '/submissions')).body.submissions).toHaveLength(before);
  });

  it('is shown to nobody without its address', async () => {
    const { address } = await draftOf();
    for (const by of ['', 'x', 'x'.repeat(500), `${address.split('by=')[1]!.slice(0, -6)}AAAAAA`])
      expect((await fetch(`${stage.address}/f/contract/draft?by=${by}`)).status).toBe(404);
    const elsewhere = address.replace('/f/contract/', '/f/south-only/');
    expect((await fetch(stage.address + elsewhere)).status).toBe(404);
  });
});
