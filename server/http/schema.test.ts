import type { SheetEntity } from '@zusammen/core/new-entities';
import { openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

let stage: Stage;
let crm: string;
let letters: string;
beforeAll(async () => {
  stage = await openStage({ people: 40 });
  const { systems } = (await stage.api('GET', '/systems')).body;
  crm = systems.find(({ name }: Json) => name === 'Co-op CRM').id;
  letters = systems.find(({ name }: Json) => name === 'Co-op Letters').id;
}, 120_000);
afterAll(() => stage.close());

const upload = async (name: string, text: string): Promise<string> => {
  const response = await fetch(`${stage.address}/api/files?name=${name}`, {
    method: 'POST',
    headers: { cookie: stage.cookie, 'Content-Type': 'application/octet-stream' },
    body: text,
  });
  return ((await response.json()) as Json).file.id;
};
const changeAtRest = async (id: string): Promise<Json> => {
  let change: Json;
  await until('the change has come to rest, and its rows', async () => {
    change = (await stage.api('GET', `/schema-changes/${id}`)).body.change;
    const rows = change.rows;
    return (
      change.state !== 'running' &&
      (!rows || change.direction === 'back' || (rows.state === 'done' && !rows.totals.received))
    );
  });
  return change;
};
const field = (name: string, more: object = {}) => ({ name, label: name, type: 'text', ...more });
const nest = (fields: object[]) => ({
  format: 1,
  entities: [{ name: 'Nest', label: 'Nest', plural: 'Nests', fields }],
});

describe('a definition document', () => {
  it('makes an entity with a unique field and two relations, on the ledger, and is there once when sent again', async () => {
    const document = nest([
      field('number', { unique: true, required: true, maxLength: 12 }),
      field('keeper', { type: 'reference', relation: 'Person' }),
      field('at', { type: 'reference', relation: 'Organisations' }),
      field('state', { type: 'option', options: [{ value: 'full', label: 'Full' }] }),
    ]);
    const made = await stage.api('POST', `/schema/${crm}/entities`, document);
    expect(made).toMatchObject({ status: 201, body: { entities: ['Nests'] } });
    const { schema } = (await stage.api('GET', `/systems/${crm}`)).body;
    const entity = schema.entities.find(({ name }: Json) => name === 'Nests');
    const known = (name: string) => entity.fields.find((each: Json) => each.name === name);
    expect(known('number')).toMatchObject({ type: 'text', unique: true, required: true, maxLength: 12 });
    expect(known('keeper_id')).toMatchObject({ type: 'reference', relation: 'People' });
    expect(known('at_id')).toMatchObject({ type: 'reference', relation: 'Organisations' });
    expect(known('state').options).toEqual([{ value: 'full', label: 'Full' }]);
    expect(entity.rights).toMatchObject({ create: true, update: true });
    const { changes } = (await stage.api('GET', `/ledger?entity=Nests`)).body;
    expect(changes[0]).toMatchObject({
      ...{ action: 'schema', state: 'written', schemaChange: made.body.change },
      after: { number: 'text, up to 12, required, unique', keeper: 'leads to Person' },
    });
    expect((await stage.api('POST', `/ledger/${changes[0].id}/take-back`)).status).toBe(409);
    const again = await stage.api('POST', `/schema/${crm}/entities`, document);
    expect(again).toMatchObject({ status: 422, body: { errors: [{ field: 'entities.0.name' }] } });
    // As a document for another system it is what it was.
    const told = (await stage.api('GET', `/schema/${crm}/entities/Nests/definition`)).body.document;
    const read = await stage.api('POST', `/schema/${crm}/definitions/read`, { document: told });
    expect(read.body.compared[0].fields.map((each: Json) => each.stands.how)).toEqual(['same', 'same', 'same', 'same']);
  });
  it('is refused with path and reason, also where only the system knows better', async () => {
    const wrong = await stage.api('POST', `/schema/${crm}/entities`, nest([field('a', { type: 'shape' })]));
    expect(wrong).toMatchObject({ status: 422, body: { errors: [{ field: 'entities.0.fields.0.type' }] } });
    const taken = {
      format: 1,
      entities: [{ name: 'Roof', label: 'Roof', plural: 'Roofs', fields: [field('changed_at')] }],
    };
    const refused = await stage.api('POST', `/schema/${crm}/entities`, taken);
    expect(refused).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('Every record has this already') },
    });
    const [change] = (await stage.api('GET', '/schema-changes')).body.changes;
    expect(change).toMatchObject({ state: 'paused', outcomes: [{ state: 'refused' }] });
    expect((await stage.api('GET', '/ledger?entity=Roofs')).body.changes[0]).toMatchObject({ state: 'refused' });
  });
  it('goes on by itself when the system was away', async () => {
    await stage.fault({ kind: 'fail' });
    const document = { format: 1, entities: [{ name: 'Gate', label: 'Gate', plural: 'Gates', fields: [field('a')] }] };
    const begun = stage.api('POST', `/schema/${crm}/entities`, document);
    await until('the first attempt has come to grief', async () =>
      (await stage.api('GET', '/ledger?entity=Gates')).body.changes.some(({ state }: Json) => state === 'intended'),
    );
    await stage.noFaults();
    expect(await begun).toMatchObject({ status: 201, body: { entities: ['Gates'] } });
  });
  it('is stopped by hand while its system is away, and gone on with', async () => {
    await stage.fault({ kind: 'fail' });
    const document = {
      format: 1,
      entities: [{ name: 'Fence', label: 'Fence', plural: 'Fences', fields: [field('a')] }],
    };
    const begun = stage.api('POST', `/schema/${crm}/entities`, document);
    const newest = async (): Promise<Json> => (await stage.api('GET', '/schema-changes')).body.changes[0];
    await until('it is under way', async () =>
      (await stage.api('GET', '/ledger?entity=Fences')).body.changes.some(({ state }: Json) => state === 'intended'),
    );
    const { id } = await newest();
    expect((await stage.api('POST', `/schema-changes/${id}/go-on`)).status).toBe(409);
    expect((await stage.api('POST', `/schema-changes/${id}/pause`)).status).toBe(204);
    expect((await begun).status).toBe(422);
    expect((await stage.api('POST', `/schema-changes/${id}/pause`)).status).toBe(409);
    await stage.noFaults();
    expect((await stage.api('POST', `/schema-changes/${id}/go-on`)).status).toBe(204);
    expect((await changeAtRest(id)).outcomes).toMatchObject([{ state: 'done', made: ['Fences'] }]);
    // What it had begun is the row that came to its end.
    expect((await stage.api('GET', '/ledger?entity=Fences')).body.changes).toMatchObject([{ state: 'written' }]);
  });
  it('is not for a system that makes no entities, nor for those who only look on', async () => {
    expect(await stage.api('POST', `/schema/${letters}/entities`, nest([field('a')]))).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('by hand') },
    });
    expect((await stage.api('GET', `/schema/${letters}/abilities`)).body.abilities).toMatchObject({
      ...{ entities: false, fields: true, options: true },
    });
    expect((await stage.api('GET', `/schema/${crm}/abilities`)).body.abilities).toMatchObject({
      ...{ entities: true, removing: true, roles: ['keeper', 'inspector', 'partner'] },
    });
  });
});

describe('a sheet', () => {
  const look = async (file: string): Promise<{ sheet: SheetEntity; told: Json[] }> => {
    const { body } = await stage.api('POST', `/schema/${crm}/sheets/look`, { file });
    const seen = body.told.find(({ kind }: Json) => kind === 'seen');
    return { sheet: seen.proposal, told: body.told };
  };
  it('becomes an entity whose rows come in, with its references, and all of it is taken back and done again', async () => {
    const people = (await stage.crm('People?$top=20&$select=first_name,last_name')).value as Json[];
    const names = people.map(({ first_name: first, last_name: last }) => `${last}, ${first}`);
    const rows = Array.from({ length: 30 }, (_, at) =>
      [
        `HB-${String(at + 1).padStart(4, '0')}`,
        ['aktiv', 'Aktiv ', 'ruht', 'aktiv', 'aktiv', 'ruht'][at % 6],
        at === 29 ? 'Nobody, Never' : names[at % names.length],
        at % 7 === 0 ? 'n/a' : String(at),
        `${13 + (at % 10)}.04.20${10 + (at % 12)}`,
        ['Linde; Raps', 'Linde', 'Raps'][at % 3],
        '',
      ]
        .map((cell) => `"${cell}"`)
        .join(';'),
    );
    const text = `Registration cards\n\nReg. no.;Status;Keeper;Colonies;First seen;Forage;\n${rows.join('\n')}\n`;
    const file = await upload('apiaries.csv', text);
    const { sheet, told } = await look(file);
    expect(sheet).toMatchObject({ name: 'Apiary', label: 'Apiary', plural: 'Apiaries', namedBy: 'reg_no' });
    expect(sheet.columns.map(({ field }) => field?.type)).toEqual([
      'text',
      'option',
      'text',
      'integer',
      'date',
      'options',
    ]);
    expect(sheet.columns[0]!.field).toMatchObject({ unique: true, required: true, maxLength: 12 });
    expect(sheet.columns[1]).toMatchObject({
      field: {
        options: [
          { value: 'aktiv', label: 'aktiv' },
          { value: 'ruht', label: 'ruht' },
        ],
      },
    });
    expect(sheet.columns[3]!.fillers).toEqual(['n/a']);
    expect(sheet.columns[4]!.order).toBe('day first');
    const reference = told.find(({ kind }) => kind === 'reference')?.seen;
    expect(reference).toMatchObject({
      column: 'Keeper',
      reference: { by: 'name', entity: 'People' },
      nobody: 1,
      of: 30,
    });
    const keeper = sheet.columns[2]!;
    keeper.field = { name: 'keeper', label: 'Keeper', type: 'reference', relation: 'People' };
    keeper.reference = reference.reference;
    const make = async (): Promise<Json> => {
      const begun = await stage.api('POST', `/schema/${crm}/sheets`, { file, sheet });
      expect(begun.status).toBe(202);
      return changeAtRest(begun.body.change);
    };
    const change = await make();
    expect(change).toMatchObject({ state: 'done', outcomes: [{ made: ['Apiaries'] }, { state: 'done' }] });
    const { totals } = change.rows;
    expect(totals.applied + (totals['in review'] ?? 0)).toBe(30);
    expect(totals['in review'] ?? 0).toBe(reference.unsure);
    const made = (await stage.crm('Apiaries?$orderby=reg_no')).value as Json[];
    expect(made).toHaveLength(totals.applied);
    expect(made[1]).toMatchObject({ reg_no: 'HB-0002', status: 'aktiv', colonies: 1, forage: ['linde'] });
    expect(made[0]).toMatchObject({ first_seen: '2010-04-13', forage: ['linde', 'raps'], colonies: null });
    expect(made.filter(({ keeper_id: keeper }) => keeper !== null)).toHaveLength(reference.found);
    // Taken back, nothing is left; done again, all of it is there.
    expect((await stage.api('POST', `/schema-changes/${change.id}/take-back`)).status).toBe(204);
    const back = await changeAtRest(change.id);
    expect(back).toMatchObject({ state: 'done', outcomes: [{ state: 'taken back' }, { state: 'taken back' }] });
    expect((await stage.crm('Apiaries')).error).toBeDefined();
    const { changes } = (await stage.api('GET', '/ledger?entity=Apiaries')).body;
    const ofSchema = changes.filter(({ action }: Json) => action === 'schema');
    expect(ofSchema).toMatchObject([
      { state: 'written', undoes: ofSchema[1].id, schemaChange: change.id, before: { 'Reg. no.': expect.any(String) } },
      { state: 'written', undoneBy: ofSchema[0].id, schemaChange: change.id },
    ]);
    expect((await make()).outcomes).toMatchObject([{ state: 'done' }, { state: 'done' }]);
    expect((await stage.crm('Apiaries/$count')) as number).toBe(totals.applied);
  }, 120_000);
  it('that somebody has worked with since isn’t taken back, and the change says why', async () => {
    const file = await upload(
      'boxes.csv',
      `Number;Size\n${Array.from({ length: 9 }, (_, at) => `B${at};${at}`).join('\n')}`,
    );
    const { sheet } = await look(file);
    const begun = await stage.api('POST', `/schema/${crm}/sheets`, { file, sheet });
    const change = await changeAtRest(begun.body.change);
    const [box] = (await stage.crm('Boxes')).value as Json[];
    await stage.crm(`Boxes('${box.id}')`, { method: 'PATCH', body: JSON.stringify({ size: 77 }) });
    await stage.api('POST', `/schema-changes/${change.id}/take-back`);
    const back = await changeAtRest(change.id);
    expect(back).toMatchObject({ state: 'paused', outcomes: [{ state: 'done' }, { state: 'done' }] });
    expect(back.words).toMatch(/1 rows couldn’t be taken back/);
    expect((await stage.crm('Boxes/$count')) as number).toBe(1);
    await stage.crm(`Boxes('${box.id}')`, { method: 'DELETE' });
  }, 60_000);
  it('is refused where it can’t be, with the field', async () => {
    const file = await upload('odd.csv', 'Name;Town\nA;B\nC;D');
    const { sheet } = await look(file);
    const send = (change: (sheet: Json) => void, of = file) => {
      const other = structuredClone(sheet);
      change(other);
      return stage.api('POST', `/schema/${crm}/sheets`, { file: of, sheet: other });
    };
    expect((await send((each) => (each.name = 'Person'))).body.errors[0].field).toBe('entities.0.name');
    expect((await send((each) => (each.columns[0].column = 'Other'))).body.errors[0].field).toBe('sheet.columns');
    expect((await send((each) => each.columns.forEach((column: Json) => delete column.field))).status).toBe(422);
    expect((await send(() => undefined, '018f0000-0000-7000-8000-000000000000')).body.errors[0].field).toBe('file');
    expect((await stage.api('POST', `/schema/${crm}/sheets/look`, { file: 'x' })).status).toBe(422);
  });
});
