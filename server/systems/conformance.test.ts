import { stringify } from 'lossless-json';
import { fieldOf, type RecordState, type Values } from '@zusammen/core/schema';
import { send } from '../engine/index.ts';
import type { LedgerRow } from '../store/index.ts';
import { connect, sending, type Connected } from '../testing/odata/connect.ts';
import { strictService, type StrictService, type Variant } from '../testing/odata/strict.ts';

/**
 * The same work with a strict service in many variants: connect, read, find, create, update, cut off, overtaken. What
 * the standard leaves to a service is varied one by one, and some of it together as real services have it.
 */
const PLAIN: Variant = { key: 'text', relation: 'property', email: 'marked' };
const VARIANTS: [name: string, variant: Partial<Variant>][] = [
  ['the plainest service', {}],
  ...(['Int32', 'Int64', 'Guid', 'given', 'composite'] as const).map((key): [string, Partial<Variant>] => [
    `keys: ${key}`,
    { key },
  ]),
  ...(['Int32', 'Int64', 'Guid', 'given', 'composite'] as const).map((key): [string, Partial<Variant>] => [
    `keys: ${key}, answering 204 with an absolute address`,
    { key, creates: '204', location: 'absolute' },
  ]),
  ['a relation that is a link', { relation: 'link' }],
  ['a relation that is a link, by JSON', { relation: 'link', metadata: 'json' }],
  ['a relation that is a link, never shown', { relation: 'link', expand: '501' }],
  ['metadata as JSON with $Alias and annotations elsewhere', { metadata: 'json' }],
  ['aliased annotations', { annotations: 'aliased' }],
  ['annotations elsewhere', { annotations: 'elsewhere' }],
  ['annotations in another document', { annotations: 'external' }],
  ['an e-mail that only its name tells', { email: 'named' }],
  ['an e-mail that only its values tell', { email: 'odd name' }],
  ['a service that refuses 4.01', { version: '4.0, refuses' }],
  ['a service that stumbles over 4.01', { version: '4.0, stumbles' }],
  ['ETags', { etags: 'offered' }],
  ['ETags that are required', { etags: 'required', updates: '200' }],
  ['ETags and nothing shown', { etags: 'offered', creates: '204', updates: '204' }],
  ['an update that shows the record', { updates: '200' }],
  ['an empty 201', { creates: '201 empty' }],
  ['an empty 201, its address in OData-EntityId', { creates: '201 empty', location: 'OData-EntityId' }],
  ['an empty 201 that names nothing', { creates: '201 empty', location: 'none' }],
  ['a 204 that names nothing', { creates: '204', location: 'none', key: 'Int32' }],
  ['a 201 with the half of it', { creates: '201 in part' }],
  ['no search', { filter: '501' }],
  ['a search that is refused', { filter: '400' }],
  ['a search that pays no attention', { filter: 'ignored' }],
  ['a search that pays no attention, number keys', { filter: 'ignored', key: 'Int32' }],
  ['no search without regard to case', { folding: '501' }],
  ['no order', { order: '501' }],
  ['no parts of records', { select: '400' }],
  ['lists that show less', { lists: 'in part' }],
  ['batches in multipart only', { batch: 'declared, multipart only' }],
  ['a poor one', { filter: '501', order: '501', select: '400', creates: '204', key: 'Int32', version: '4.0, refuses' }],
];

const SEEDS = ['Ada', 'Bert', 'Cleo', 'Dora'];
/** A value for every kind of property, some at the edge of what a double keeps. */
const WHOLE: Values = {
  Country: 'PL',
  Born: '1988-04-14',
  SeenAt: '2027-04-20T06:30:00.000Z',
  CallAt: '14:30:00',
  Patience: 'PT1H30M',
  Height: 1.75,
  Weight: 70.5,
  Account: '9007199254740993',
  Member: true,
  Ref: '6f9619ff-8b86-4011-b42d-00c04fc964ff',
  Favourite: 'Green',
  Fruit: ['Pears', 'Quinces'],
  Code: 'A-1',
  'Home/Street': 'Birkenweg 2',
  'Home/Town': 'Hollowbrook',
};

let service: StrictService;
let connected: Connected;

/** The e-mail address's property in this variant. */
const emailOf = (variant: Variant): string => (variant.email === 'named' ? 'ContactEMail' : 'Adr');

/** What creating a person takes in this variant, with a key of one's own where one is given. */
function person(name: string, email: string, more: Values = {}): Values {
  const { key } = service.variant;
  const number = 1000 + service.people.length;
  const own: Values =
    key === 'given' ? { Id: `own ${number}'s` } : key === 'composite' ? { Branch: `North's`, Number: number } : {};
  return { ...own, Name: name, [emailOf(service.variant)]: email, ...more };
}

const link = (): string => (service.variant.relation === 'link' ? 'Company' : 'CompanyId');

async function created(values: Values): Promise<RecordState> {
  const answer = await connected.system.create(connected.entity('People'), values, sending());
  if (answer.kind !== 'done') throw new Error(JSON.stringify(answer));
  return answer.record;
}

/** A colleague's change, past us. */
function changedByAnother(id: string): void {
  const row = rowOf(id);
  row['Code'] = 'theirs';
  if (row['@version'] !== undefined) row['@version'] = Number(row['@version']) + 1;
}

function rowOf(id: string) {
  const entity = connected.entity('People');
  const row = service.people.find((each) => {
    const text = (name: string) => String(each[name]);
    return entity.keyParts
      ? id === `Branch='${text('Branch').replace(/'/g, "''")}',Number=${text('Number')}`
      : text('Id') === id;
  });
  if (!row) throw new Error(`no row ${id} in ${String(stringify(service.people))}`);
  return row;
}

describe.each(VARIANTS)('%s', (_, variant) => {
  beforeAll(async () => {
    service = await strictService({ ...PLAIN, ...variant });
    for (const [at, name] of SEEDS.entries()) {
      const key = service.variant.key;
      const own = key === 'given' ? { Id: `seed ${at}` } : key === 'composite' ? { Branch: 'South', Number: at } : {};
      await fetch(`${service.address}People`, {
        method: 'POST',
        headers: { 'OData-MaxVersion': '4.0' },
        body: JSON.stringify({
          ...own,
          Name: name,
          [emailOf(service.variant)]: `${name}@Garten.example`,
          Code: `c${at}`,
          Born: '1970-02-03',
        }),
      });
    }
    connected = await connect(service.address);
  });
  afterAll(() => service.close());

  it('is read with its types, its options and its limits', () => {
    const people = connected.entity('People');
    const field = (name: string) => fieldOf(people, name);
    expect(connected.schema.unusable ?? []).toEqual([]);
    expect(field(emailOf(service.variant))).toMatchObject({ type: 'email' });
    expect(field('MadeAt')).toMatchObject({ computed: true, type: 'date and time' });
    expect(field('Country')).toMatchObject({ required: true, defaulted: true });
    expect(field('Favourite')).toMatchObject({
      type: 'option',
      options: [{ value: 'Red' }, { value: 'Green' }, { value: 'Blue' }],
    });
    expect(field('Fruit')).toMatchObject({ type: 'options' });
    expect(field('Code')).toMatchObject({ type: 'text', maxLength: 10 });
    expect(field('CallAt')).toMatchObject({ type: 'time' });
    expect(field('Patience')).toMatchObject({ type: 'duration' });
    expect(field('Home/Street')).toMatchObject({ label: 'Home Street' });
    expect(field(link())).toMatchObject({ type: 'reference', relation: 'Companies' });
    if (service.variant.key === 'given') expect(field('Id')).toMatchObject({ given: true, immutable: true });
    if (service.variant.key === 'composite') expect(people.keyParts).toEqual(['Branch', 'Number']);
  });

  it('takes every kind of value, and keeps each as it was given', async () => {
    const record = await created(person('Edda', 'Edda@Garten.example', { ...WHOLE, [link()]: '2' }));
    const read = await connected.system.read(connected.entity('People'), record.id);
    const shown =
      service.variant.expand === '501' ? WHOLE : { ...WHOLE, [link()]: service.variant.relation === 'link' ? '2' : 2 };
    expect(read?.values).toMatchObject({ ...shown, SeenAt: '2027-04-20T06:30:00Z', Name: 'Edda' });
    // Nothing of a long number is lost on the way there.
    expect(stringify(rowOf(record.id)['Account'])).toBe('9007199254740993');
  });

  it('is searched by any kind of value, whether it does so itself or not', async () => {
    const people = connected.entity('People');
    const searched = { ...WHOLE, Fruit: null };
    for (const [field, value] of Object.entries(searched)) {
      if (value === null) continue;
      const found = await connected.system.find(people, [{ field, value, folded: false }], 10);
      expect([field, found.map(({ values }) => values['Name'])]).toEqual([field, ['Edda']]);
    }
    const email = { field: emailOf(service.variant), value: 'edda@garten.EXAMPLE', folded: true };
    expect((await connected.system.find(people, [email], 10)).map(({ values }) => values['Name'])).toEqual(['Edda']);
    expect(await connected.system.find(people, [{ ...email, value: 'nobody@garten.example' }], 10)).toEqual([]);
    // What can be no value of the type is asked nobody.
    expect(await connected.system.find(people, [{ field: 'Ref', value: "x' or 1 eq 1", folded: false }], 10)).toEqual(
      [],
    );
    expect(service.asked.filter((each) => each.includes('+') && !each.includes('%2B'))).toEqual([]);
  });

  it('is read page by page', async () => {
    const people = connected.entity('People');
    const { records } = await connected.system.page(people, [
      ...(people.keyParts ?? [people.key]),
      'Name',
      'Home/Town',
    ]);
    expect(records.map(({ values }) => values['Name']).slice(0, SEEDS.length)).toEqual(SEEDS);
  });

  it('is changed in what is given, and in nothing beside it', async () => {
    const people = connected.entity('People');
    const { id } = await created(
      person('Fred', 'fred@garten.example', { 'Home/Street': 'Am Wehr 1', 'Home/Town': 'Old' }),
    );
    const [found] = await connected.system.find(people, [{ field: 'Name', value: 'Fred', folded: false }], 2);
    expect(found?.id).toBe(id);
    const answer = await connected.system.update(
      people,
      id,
      { 'Home/Town': 'New', Account: 12, Favourite: 'Red' },
      found!.etag,
      sending(),
    );
    expect(answer).toMatchObject({ kind: 'done', record: { id } });
    expect(rowOf(id)).toMatchObject({ Home: { Street: 'Am Wehr 1', Town: 'New' }, Favourite: 'Red', Name: 'Fred' });
    // What came of it is what the next change goes by.
    const { etag } = (answer as { record: RecordState }).record;
    expect(etag).toBe((await connected.system.read(people, id))!.etag);
    expect(await connected.system.update(people, id, { Account: 13 }, etag, sending())).toMatchObject({ kind: 'done' });
  });

  it('never overwrites or deletes what somebody else has changed', async () => {
    const people = connected.entity('People');
    const { id, etag } = await created(person('Gert', 'gert@garten.example'));
    expect(etag).toBeDefined();
    changedByAnother(id);
    expect(await connected.system.update(people, id, { Code: 'ours' }, etag, sending())).toEqual({ kind: 'overtaken' });
    expect(await connected.system.remove(people, id, etag, sending())).toEqual({ kind: 'overtaken' });
    expect(rowOf(id)['Code']).toBe('theirs');
    const now = (await connected.system.read(people, id))!;
    expect(await connected.system.remove(people, id, now.etag, sending())).toMatchObject({ kind: 'done' });
    expect(await connected.system.read(people, id)).toBeUndefined();
    expect(await connected.system.update(people, id, { Code: 'x' }, now.etag, sending())).toEqual({
      kind: 'overtaken',
    });
  });

  it('a creation that was cut off is made once, whether it had been done or not', async () => {
    const people = connected.entity('People');
    for (const cut of ['after', 'before'] as const) {
      const values = person(`Hanna ${cut}`, `hanna.${cut}@garten.example`, { ...WHOLE, Ref: null, Account: 7 });
      service.cut = cut;
      const row = intent(values);
      await expect(send(connected.system, people, row, false)).rejects.toThrow(/connection/);
      expect(await send(connected.system, people, row, true)).toMatchObject({ kind: 'done' });
      expect(service.people.filter((each) => each['Name'] === `Hanna ${cut}`)).toHaveLength(1);
    }
  });

  it('one like it that was there before isn’t taken for the one that was cut off', async () => {
    const people = connected.entity('People');
    const values = person('Ida', 'ida@garten.example');
    const { id } = await created(values);
    rowOf(id)['MadeAt'] = '2020-01-01T00:00:00Z';
    const others = { ...person('Ida', 'ida@garten.example') };
    service.cut = 'before';
    const row = intent(others);
    await expect(send(connected.system, people, row, false)).rejects.toThrow(/connection/);
    const named = service.variant.location !== 'none';
    expect(await send(connected.system, people, row, true)).toMatchObject({ kind: named ? 'done' : 'unclear' });
    expect(service.people.filter((each) => each['Name'] === 'Ida')).toHaveLength(2);
  });

  it('says what it declines, and why, before any submission does', () => {
    const { capabilities } = connected;
    const {
      filter = 'yes',
      folding = 'yes',
      order = 'yes',
      select = 'yes',
      etags = 'none',
      lists,
      expand,
      relation,
    } = service.variant;
    expect(capabilities).toMatchObject({
      filter: filter === 'yes',
      etags: etags !== 'none',
      order: order === 'yes',
      select: select === 'yes',
      byKey: true,
      ...(filter === 'yes' ? { folding: folding === 'yes' } : {}),
      ...(lists === 'in part' ? { listsAlike: false } : {}),
      ...(relation === 'link' ? { links: expand !== '501' } : {}),
    });
    for (const { able, said } of capabilities.tried!.filter(({ what }) => what !== 'etags' && what !== 'listsAlike'))
      if (able === false) expect(said).toMatch(/\w{3}/);
    expect(capabilities.maxVersion).toBe(service.variant.version?.startsWith('4.0') ? '4.0' : undefined);
  });
});

/** A creation that stands on the ledger and was cut short. */
function intent(after: Values): LedgerRow {
  return {
    ...{ id: 1, submissionSeq: 1, effect: 's', attempt: 1, action: 'create', before: {}, after, etagBefore: null },
    ...{ requestId: sending().requestId, intendedAt: new Date(), recordId: null, systemId: 's', entity: 'People' },
  } as unknown as LedgerRow;
}
