import type { AdapterDocument } from '@zusammen/core/adapters';
import type { Entity, RecordState, Values } from '@zusammen/core/schema';
import { send } from '../engine/index.ts';
import type { LedgerRow } from '../store/index.ts';
import { connectJson } from '../testing/json/connect.ts';
import { strictJson, type JsonVariant, type Row, type StrictJson } from '../testing/json/strict.ts';
import { connect, sending } from '../testing/odata/connect.ts';
import { strictService, type StrictService, type Variant } from '../testing/odata/strict.ts';
import type { From, System } from './index.ts';

/**
 * One table: what a system has to do for plans, recognition, rehearsal and ledger, by systems of both kinds, as their
 * APIs differ. A system that can't do one of it says so in its row.
 */
interface Place {
  system: System;
  entity: Entity;
  /** How the fields are called here. */
  names: {
    name: string;
    email: string;
    number: string;
    day: string;
    flag: string;
    option: string;
    several: string;
    text: string;
  };
  options: { option: string; several: string[] };
  /** Records as the service itself holds them. */
  held(): { name: unknown; text: unknown }[];
  cut(when: 'after' | 'before'): void;
  /** A colleague's change, past us. */
  changed(id: string): void;
  close(): Promise<void>;
}

type Lack = 'delete' | 'create again' | 'guards' | 'words' | 'versions';

interface Sort {
  name: string;
  open: () => Promise<Place>;
  lacks?: Lack[];
}

const odata = (name: string, variant: Partial<Variant>): Sort => ({
  name: `OData, ${name}`,
  open: async () => {
    const service: StrictService = await strictService({
      key: 'text',
      relation: 'property',
      email: 'marked',
      ...variant,
    });
    await fetch(`${service.address}People`, {
      method: 'POST',
      headers: { 'OData-MaxVersion': '4.0' },
      body: JSON.stringify({ Name: 'Seed', Adr: 'seed@garten.example' }),
    });
    const { system, entity } = await connect(service.address);
    return {
      system,
      entity: entity('People'),
      names: {
        name: 'Name',
        email: 'Adr',
        number: 'Height',
        day: 'Born',
        flag: 'Member',
        option: 'Favourite',
        several: 'Fruit',
        text: 'Code',
      },
      options: { option: 'Green', several: ['Pears', 'Quinces'] },
      held: () => service.people.map((row) => ({ name: row['Name'], text: row['Code'] })),
      cut: (when) => (service.cut = when),
      changed: (id) => {
        const row = service.people.find((each) => String(each['Id']) === id)!;
        row['Code'] = 'theirs';
        if (row['@version'] !== undefined) row['@version'] = Number(row['@version']) + 1;
      },
      close: () => service.close(),
    };
  },
});

const json = (
  name: string,
  variant: JsonVariant,
  lacks: Lack[] = [],
  correct?: (adapter: AdapterDocument) => void,
): Sort => ({
  name: `JSON, ${name}`,
  lacks,
  open: async () => {
    const service: StrictJson = await strictJson(variant);
    service.add({ name: 'Seed', email: 'seed@garten.example' });
    const { system, entity } = await connectJson(service.description, (adapter) => {
      corrected(adapter, variant);
      correct?.(adapter);
    });
    const idOf = (row: Row): string =>
      row['id'] === undefined
        ? new URLSearchParams({ branch: String(row['branch']), number: String(row['number']) }).toString()
        : String(row['id']);
    return {
      system,
      entity: entity('keepers'),
      names: {
        name: 'name',
        email: 'email',
        number: 'hives',
        day: 'born',
        flag: 'member',
        option: 'kind',
        several: 'likes',
        text: 'note',
      },
      options: { option: 'junior', several: ['apples', 'pears'] },
      held: () => service.rows.map((row) => ({ name: row['name'], text: row['note'] })),
      cut: (when) => (service.cut = when),
      changed: (id) => service.change(service.rows.find((row) => idOf(row) === id)!, { note: 'theirs' }),
      close: () => service.close(),
    };
  },
});

/** What a specialist corrects: what the description can't say, or says wrongly. */
function corrected(adapter: AdapterDocument, variant: JsonVariant): void {
  const [keepers] = adapter.entities;
  const { fields, list } = keepers!;
  const field = (name: string) => fields.find((each) => each.name === name)!;
  if (variant.dates === 'seconds' || variant.dates === 'milliseconds') {
    field('born').type = 'date';
    field('born').form = variant.dates;
    for (const name of ['made_at', 'changed_at'])
      Object.assign(field(name), { type: 'date and time', form: variant.dates });
  }
  if (variant.search === 'ignored') keepers!.find = [];
  if (variant.no === '200') adapter.refusal.inside = '/error';
  if (variant.version === 'query')
    keepers!.version = { by: 'field', field: 'version', sent: 'query', parameter: 'version' };
  if (variant.creates === 'id') {
    delete keepers!.create!.record;
    keepers!.create!.id = '/result/id';
  }
  if (variant.shape === 'list') listOfAttributes(adapter);
  if (variant.lists === 'by id') list!.byId = true;
}

/** Values that stand in a list of names and values: a description says nothing of which names there are. */
function listOfAttributes({ entities: [keepers] }: AdapterDocument): void {
  const at = (name: string): string => `/attributes/{name=${name}}/value`;
  for (const field of keepers!.fields) if (!keepers!.key.includes(field.name)) field.at = at(field.name);
}

const SORTS: Sort[] = [
  odata('the plainest', {}),
  odata('with ETags', { etags: 'required', updates: '200' }),
  odata('without search', { filter: '501', key: 'Int32' }),
  json('the plainest', {}),
  json('ids that are numbers', { key: 'number' }),
  json('ids of two parts', { key: 'composite' }),
  json('values within attributes', { shape: 'attributes' }),
  json('values in a list of names and values', { shape: 'list' }),
  json('a JSON:API document', { shape: 'json:api' }),
  json('an array at the root', { lists: 'root' }),
  json('records by their ids', { lists: 'by id' }),
  json('records deep in the answer', { lists: 'deep' }),
  json('lists that show less', { lists: 'in part' }),
  json('pages', { paging: 'page' }),
  json('pages from 0', { paging: 'page from 0' }),
  json('offsets', { paging: 'offset', lies: true }),
  json('cursors', { paging: 'cursor', lies: true }),
  json('the last record', { paging: 'last record' }),
  json('next links', { paging: 'next link' }),
  json('Link headers', { paging: 'link header' }),
  json('no search', { search: 'none', paging: 'cursor' }),
  json('a search that minds case', { search: 'email, by case' }),
  json('a search that pays no attention', { search: 'ignored' }),
  json('ETags', { version: 'ETag' }),
  json('a version in the body', { version: 'body' }),
  json('a version in If-Match', { version: 'If-Match' }),
  json('a version in the address', { version: 'query' }),
  json('whole records', { updates: 'PUT' }),
  json('whole records with ETags', { updates: 'PUT', version: 'ETag' }),
  json('an id for an answer', { creates: 'id' }),
  json('an address for an answer', { creates: 'Location', changed: 'nothing' }),
  json('no answer at all', { creates: 'nothing', changed: 'nothing' }),
  json('an Idempotency-Key', { repeat: 'key' }),
  json('no deleting', { deletes: false }, ['delete']),
  json('seconds since 1970', { dates: 'seconds' }),
  json('milliseconds since 1970', { dates: 'milliseconds' }),
  json('days as 31.12.2027', { dates: 'day.month.year' }),
  json('errors in a list', { no: 'errors list' }),
  json('errors by field', { no: 'errors by field' }),
  json('problem details', { no: 'problem' }),
  json('words alone', { no: 'text' }, ['words']),
  json('pages of HTML for errors', { no: 'page' }, ['words']),
  json('errors under 200', { no: '200' }),
  json('compressed answers', { gzip: true }),
  json('a clock seven minutes behind', { minutesOff: -7, changes: true }),
  json('a clock nine minutes ahead', { minutesOff: 9, changes: true }),
  json(
    'a poor one',
    { search: 'none', creates: 'nothing', changed: 'nothing', updates: 'PUT', paging: 'page', no: 'text', lies: true },
    ['words'],
  ),
];

describe.each(SORTS)('$name', ({ open, lacks = [] }) => {
  let place: Place;
  beforeAll(async () => {
    place = await open();
  });
  afterAll(() => place.close());

  const values = (name: string): Values => {
    const { names, options } = place;
    const { name: n, email, number, day, flag, option, several, text } = names;
    return {
      ...{ [n]: name, [email]: `${name.toLowerCase()}@garten.example`, [number]: 12, [day]: '1988-04-14' },
      ...{ [flag]: true, [option]: options.option, [several]: options.several, [text]: 'ours' },
    };
  };
  const created = async (name: string): Promise<RecordState> => {
    const answer = await place.system.create(place.entity, values(name), sending());
    if (answer.kind !== 'done') throw new Error(JSON.stringify(answer));
    return answer.record;
  };
  const named = (name: string) => place.held().filter((each) => each.name === name);

  it('keeps every kind of value as it was given', async () => {
    const { id } = await created('Edda');
    const read = await place.system.read(place.entity, id);
    expect(read?.id).toBe(id);
    expect(read?.values).toMatchObject(values('Edda'));
    expect(named('Edda')).toHaveLength(1);
  });

  it('finds by any field, whether it searches or not, and gives nobody else', async () => {
    const { names } = place;
    for (const field of [names.name, names.number, names.day, names.text, names.option]) {
      const found = await place.system.find(
        place.entity,
        [{ field, value: values('Edda')[field]!, folded: false }],
        10,
      );
      expect([field, found.map(({ values }) => values[names.name])]).toEqual([field, ['Edda']]);
    }
    const email = { field: names.email, value: 'EDDA@garten.example'.toLowerCase(), folded: true };
    expect((await place.system.find(place.entity, [email], 10)).map(({ values }) => values[names.name])).toEqual([
      'Edda',
    ]);
    expect(await place.system.find(place.entity, [{ ...email, value: 'nobody@garten.example' }], 10)).toEqual([]);
    const both = [email, { field: names.name, value: 'Seed', folded: false }];
    expect(await place.system.find(place.entity, both, 10)).toEqual([]);
  });

  it('gives all its records page by page, each once', async () => {
    for (const name of ['Fritz', 'Gesa', 'Hauke', 'Imke', 'Jost']) await created(name);
    const ids: string[] = [];
    for (let from: From | undefined, first = true; first || from; first = false) {
      const page = await place.system.page(place.entity, [place.entity.key, place.names.name], from);
      ids.push(...page.records.map(({ id }) => id));
      from = page.next === undefined ? undefined : { link: page.next };
    }
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toHaveLength(place.held().length);
  });

  it('changes what is given, and nothing beside it', async () => {
    const { names, entity, system } = place;
    const { id } = await created('Kai');
    const [found] = await system.find(entity, [{ field: names.name, value: 'Kai', folded: false }], 2);
    expect(found?.id).toBe(id);
    const answer = await system.update(
      entity,
      id,
      { [names.text]: 'new', [names.flag]: false },
      found!.etag,
      sending(),
    );
    expect(answer).toMatchObject({ kind: 'done', record: { id } });
    const now = (await system.read(entity, id))!;
    expect(now.values).toMatchObject({ ...values('Kai'), [names.text]: 'new', [names.flag]: false });
    // What came of it is what the next change goes by.
    const { etag } = (answer as { record: RecordState }).record;
    expect(etag).toBe(now.etag);
    expect(await system.update(entity, id, { [names.text]: 'newer' }, etag, sending())).toMatchObject({ kind: 'done' });
  });

  it('is never overwritten or deleted where somebody else has changed it', async () => {
    const { names, entity, system } = place;
    const { id } = await created('Lene');
    const { etag } = (await system.read(entity, id))!;
    expect(etag).toBeDefined();
    place.changed(id);
    expect(await system.update(entity, id, { [names.text]: 'ours' }, etag, sending())).toEqual({ kind: 'overtaken' });
    if (!lacks.includes('delete'))
      expect(await system.remove(entity, id, etag, sending())).toEqual({ kind: 'overtaken' });
    expect(named('Lene')).toEqual([{ name: 'Lene', text: 'theirs' }]);
  });

  it('deletes, and says what is gone', async () => {
    const { entity, system, names } = place;
    const { id } = await created('Malte');
    const { etag } = (await system.read(entity, id))!;
    const answer = await system.remove(entity, id, etag, sending());
    if (lacks.includes('delete')) {
      expect(answer).toMatchObject({ kind: 'refused', refusal: { words: expect.stringContaining('deletes no') } });
      return;
    }
    expect(answer).toMatchObject({ kind: 'done' });
    expect(await system.read(entity, id)).toBeUndefined();
    expect(await system.remove(entity, id, etag, sending())).toMatchObject({ kind: 'done' });
    expect(await system.update(entity, id, { [names.text]: 'x' }, etag, sending())).toEqual({ kind: 'overtaken' });
  });

  it('a creation that was cut off is made once, whether it had been done or not', async () => {
    const { entity, system } = place;
    for (const cut of ['after', 'before'] as const) {
      const row = intent(values(`Nele${cut}`));
      place.cut(cut);
      await expect(send(system, entity, row, false)).rejects.toThrow(/connection/);
      expect(await send(system, entity, row, true)).toMatchObject({ kind: 'done' });
      expect(named(`Nele${cut}`)).toHaveLength(1);
    }
  });

  it('a no is kept in its words, and nothing is made', async () => {
    const { entity, system, names } = place;
    const before = place.held().length;
    const answer = await system.create(entity, { ...values('Ole'), [names.option]: 'purple' }, sending());
    expect(answer.kind).toBe('refused');
    const { refusal } = answer as Extract<typeof answer, { kind: 'refused' }>;
    expect(refusal.words.length).toBeGreaterThan(3);
    expect(refusal.words).not.toMatch(/</);
    if (!lacks.includes('words') && !place.entity.name.startsWith('People'))
      expect(refusal.fields.map(({ field }) => field)).toEqual([names.option]);
    expect(place.held()).toHaveLength(before);
  });
});

/** A creation that stands on the ledger. */
function intent(after: Values): LedgerRow {
  return {
    ...{ id: 1, turn: 1, step: 's', row: 0, attempt: 1, action: 'create', before: {}, after, etagBefore: null },
    ...{ requestId: sending().requestId, intendedAt: new Date(), recordId: null, systemId: 's', entity: 'x' },
  } as unknown as LedgerRow;
}
