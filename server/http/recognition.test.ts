import { openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

let stage: Stage;
let at: string;
let doubles: string;
beforeAll(async () => {
  stage = await openStage({ people: 250 });
  const { body } = await stage.api('GET', '/systems');
  at = `/systems/${body.systems[0].id}/entities/People/recognition`;
  doubles = at.replace(/recognition$/, 'doubles');
});
afterAll(() => stage.close());

const load = async (): Promise<Json> => (await stage.api('GET', at)).body;
describe('the recognition of an entity', () => {
  it('is suggested from its fields, measured on its records, and says who uses it', async () => {
    const { recognition, uses, suggestion } = await load();
    expect(recognition.document).toEqual(suggestion);
    expect(recognition.document.parts).toContainEqual({ part: 'mobile', field: 'mobile' });
    expect(uses).toEqual(['Swarm report']);
    const { measure } = recognition;
    expect(measure.pairs).toBeGreaterThan(100);
    expect(measure.bins.counts.reduce((sum: number, each: number) => sum + each, 0) + measure.vetoed).toBe(
      measure.pairs,
    );
    const key = (...parts: string[]): Json => measure.keys.find((each: Json) => each.parts.join() === parts.join());
    const share = ({ shared, filled }: Json): number => shared / filled;
    expect(share(key('first_name'))).toBeGreaterThan(0.9);
    expect(share(key('email'))).toBeLessThan(0.2);
    expect(key('first_name').apart).toBeGreaterThan(0);
  });

  it('is saved as a version, and refused in words where it makes no sense', async () => {
    const { recognition } = await load();
    const { document, revision } = recognition;
    const put = (changed: object, from = revision) =>
      stage.api('PUT', at, { document: { ...document, ...changed }, revision: from });
    const upside = await put({ thresholds: { same: 2, unsure: 5 } });
    expect(upside.status).toBe(422);
    expect(upside.body.errors[0]).toEqual({
      field: 'document.thresholds.unsure',
      reason: 'must not lie above the line from which two are the same',
    });
    for (const [parts, field] of [
      [[...document.parts, { part: 'email', field: 'notes' }], `document.parts.${document.parts.length}.part`],
      [[{ part: 'last_name', field: 'ghost' }], 'document.parts.0.field'],
      [[{ part: 'email', field: 'email' }], 'document.parts'],
      [[{ part: 'website', field: 'email' }], 'document.parts.0.part'],
    ])
      expect((await put({ parts })).body.errors[0].field).toBe(field);
    expect((await put({ thresholds: { same: 'high', unsure: 0 } })).status).toBe(422);
    expect((await put({ thresholds: { same: 8, unsure: 1 } })).body).toEqual({ revision: revision + 1 });
    expect((await put({}, revision)).status).toBe(409);
    await until('measured anew', async () => (await load()).recognition.measure.revision === revision + 1);
    expect((await load()).versions.map(({ number }: Json) => number)).toEqual([revision + 1, revision]);
  });

  it('learns from what people decide, and shows what that would change before it is saved', async () => {
    const { recognition } = await load();
    const pair = recognition.measure.near[0];
    expect((await stage.api('POST', `${at}/decisions`, { a: pair.a, b: pair.b, same: true })).status).toBe(204);
    expect((await stage.api('POST', `${at}/decisions`, { a: pair.b, b: 'P-99999', same: true })).status).toBe(422);
    const { body } = await stage.api('POST', `${at}/learn`);
    expect(body.decided).toBe(1);
    expect(body.effect.decided.of).toBe(1);
    expect(body.learned.every(({ shift }: Json) => Math.abs(shift) <= 3)).toBe(true);
    const { document } = recognition;
    const strict = { ...document, thresholds: { same: 30, unsure: 0 } };
    const { body: told } = await stage.api('POST', `${at}/effect`, { document: strict });
    expect(told.effect.pairs.moves['same to unsure']).toBeGreaterThan(0);
    expect((await load()).recognition.document).toEqual(document);
  });

  it('weighs a typed-in record, and says what it ignores', async () => {
    const { value } = await stage.crm('People?$top=1&$filter=email ne null and phone ne null');
    const [someone] = value;
    const values = { last_name: someone.last_name, first_name: 'n/a', email: someone.email, phone: '000000' };
    const { body } = await stage.api('POST', `${at}/try`, { values });
    expect(body.ignored.sort()).toEqual(['first_name', 'phone']);
    expect(body.weighed.map(({ record }: Json) => record)).toContain(someone.id);
    expect((await stage.api('POST', `${at}/try`, { values: { notes: 'x' } })).body.errors[0].field).toBe(
      'values.notes',
    );
    expect((await stage.api('POST', `${at}/try`, { values: {} })).status).toBe(422);
    const { body: nobody } = await stage.api('POST', `${at}/try`, { values: { last_name: 'Ὀδυσσεύς Яковлев 山田' } });
    expect(nobody).toMatchObject({ verdict: 'different', records: [] });
  });
});

describe('doubles', () => {
  it('are searched for, grouped, merged with their children and taken back', async () => {
    expect((await stage.api('POST', doubles)).status).toBe(201);
    await until('the search ends', async () => (await stage.api('GET', doubles)).body.searches[0].state === 'done');
    const { groups, searches } = (await stage.api('GET', doubles)).body;
    expect(searches[0].done).toBe(searches[0].total);
    expect(groups.length).toBeGreaterThan(2);
    const [group] = groups;
    const [keep, other] = group.members;
    const visit = await stage.crm('Visits', {
      method: 'POST',
      body: JSON.stringify({ kind: 'advice', place: 'Here', reporter_phone: '+493023125000', person_id: other }),
    });
    const before = await stage.crm(`People('${other}')`);
    const path = `/doubles/groups/${group.id}`;
    expect((await stage.api('POST', `${path}/merge`, { survivor: 'P-77777' })).body.errors[0].field).toBe('survivor');
    const merged = await stage.api('POST', `${path}/merge`, { survivor: keep, choice: { first_name: other } });
    expect(merged.body).toMatchObject({ done: true, moved: 1, removed: group.members.length - 1 });
    expect((await stage.crm(`Visits('${visit.id}')`)).person_id).toBe(keep);
    expect((await stage.crm(`People('${keep}')`)).first_name).toBe(before.first_name);
    expect((await stage.crm(`People('${other}')`)).error).toBeDefined();
    expect((await stage.api('POST', `${path}/merge`, { survivor: keep })).status).toBe(409);
    const { changes } = (await stage.api('GET', `/ledger?record=${keep}`)).body;
    expect(changes[0]).toMatchObject({ label: 'Merging of doubles', state: 'written' });

    const back = await stage.api('POST', `${path}/take-back`);
    expect(back.body).toMatchObject({ done: true, moved: 1 });
    const again = (await stage.crm(`Visits('${visit.id}')`)).person_id;
    expect(again).not.toBe(keep);
    const restored = await stage.crm(`People('${again}')`);
    expect(restored).toMatchObject({ last_name: before.last_name, email: before.email, phone: before.phone });
  });

  it('kept apart, they don’t come up again', async () => {
    const [group] = (await stage.api('GET', doubles)).body.groups;
    expect((await stage.api('POST', `/doubles/groups/${group.id}/apart`)).status).toBe(204);
    await stage.api('POST', doubles);
    await until('the search ends', async () => (await stage.api('GET', doubles)).body.searches[0].state === 'done');
    const { groups } = (await stage.api('GET', doubles)).body;
    expect(groups.map(({ members }: Json) => members.join())).not.toContain(group.members.join());
  });

  it('a broken-off merge goes on where it stopped', async () => {
    const [group] = (await stage.api('GET', doubles)).body.groups;
    const [keep] = group.members;
    await stage.fault({ kind: 'break after', methods: ['DELETE'] });
    const path = `/doubles/groups/${group.id}`;
    const { struck } = await stage.seen();
    const broken = await stage.api('POST', `${path}/merge`, { survivor: keep });
    expect((await stage.seen()).struck).toBeGreaterThan(struck);
    await stage.noFaults();
    expect(broken.body).toMatchObject({ done: false, removed: 0 });
    expect((await stage.api('POST', `${path}/go-on`)).body.done).toBe(true);
    const { body } = await stage.api('GET', `${doubles}?state=merged`);
    expect(body.groups.map(({ id }: Json) => id)).toContain(group.id);
  });
});

describe('between two entities', () => {
  it('a visit is led to the person who reported it, and back', async () => {
    const system = at.split('/')[2]!;
    const visits = `/systems/${system}/entities/Visits`;
    const person = await stage.crm('People', {
      method: 'POST',
      body: JSON.stringify({ first_name: 'Gesine', last_name: 'Wackerbarth', phone: '+493023125944' }),
    });
    const visit = await stage.crm('Visits', {
      method: 'POST',
      body: JSON.stringify({
        kind: 'swarm',
        place: 'Pear tree',
        reporter_name: 'Gesine Wakkerbarth',
        reporter_phone: '+493023125944',
      }),
    });
    await until('both are known', async () => {
      await stage.db.$client.query("UPDATE jobs SET due_at = NOW(3) WHERE kind = 'feed'");
      const [rows] = await stage.db.$client.query('SELECT 1 FROM known_records WHERE record_id IN (?)', [
        [person.id, visit.id],
      ]);
      return (rows as unknown[]).length === 2;
    });
    const refused = await stage.api('POST', `${visits}/doubles`, { among: `${system}/Organisations` });
    expect(refused.body.detail).toBe('among keeps records of another kind: organisation, not person.');
    expect((await stage.api('POST', `${visits}/doubles`, { among: `${system}/People` })).status).toBe(201);
    const list = async (state: string): Promise<Json> =>
      (await stage.api('GET', `${visits}/doubles?state=${state}`)).body;
    await until('the search ends', async () => (await list('open')).searches[0].state === 'done');
    const group = (await list('open')).groups.find(({ members }: Json) => members[0] === visit.id);
    expect(group.members).toEqual([visit.id, person.id]);
    const path = `/doubles/groups/${group.id}`;
    const { body } = await stage.api('GET', path);
    expect(body.across).toMatchObject({ link: 'person_id', label: 'Person' });
    expect(body.across.rows).toContainEqual({
      part: 'last_name',
      labels: ['Reporter', 'Family name'],
      values: ['Gesine Wakkerbarth', 'Wackerbarth'],
    });
    expect((await stage.api('POST', `${path}/merge`, { survivor: visit.id })).status).toBe(409);
    expect((await stage.api('POST', `${path}/link`)).body).toMatchObject({ done: true });
    expect((await stage.crm(`Visits('${visit.id}')`)).person_id).toBe(person.id);
    expect((await stage.api('POST', `${path}/take-back`)).body).toMatchObject({ done: true });
    expect((await stage.crm(`Visits('${visit.id}')`)).person_id).toBeNull();
  });
});

describe('two uploaded files', () => {
  const upload = async (name: string, text: string): Promise<string> => {
    const response = await fetch(`${stage.address}/api/files?name=${name}`, {
      method: 'POST',
      headers: { Cookie: stage.cookie, 'Content-Type': 'text/csv', Origin: stage.address },
      body: text,
    });
    return ((await response.json()) as Json).file.id;
  };
  it('are matched with the same engine; a file without ids is refused in words', async () => {
    const records = await upload(
      'a.csv',
      'id,first_name,last_name,email\n1,Ewa,Żuraw,ewa.zuraw@wabe.example\n2,Jan,Nowak,\n',
    );
    const queries = await upload('b.csv', 'id,first_name,last_name,email\nq,Ewa,Zuraw,ewa.zuraw+x@wabe.example\n');
    const nameless = await upload('c.csv', 'first_name,last_name\nEwa,Zuraw\n');
    const { body } = await stage.api('POST', '/recognise/files', { records, queries });
    expect(body).toMatch(/^query_id,record_id,weight,verdict\nq,1,[\d.]+,same\n$/);
    const refused = await stage.api('POST', '/recognise/files', { records, queries: nameless });
    expect(refused.body.detail).toContain('have no column id');
  });
});
