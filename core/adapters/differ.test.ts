import fc from 'fast-check';
import {
  allMended,
  compareAdapters,
  schemaFrom,
  troubleWithAdapter,
  type AdapterDocument,
  type EntityAdapter,
  type FieldAdapter,
  type WriteOperation,
} from './index.ts';

/** What an API's owners may do to it from one day to the next. */
type Change = (api: AdapterDocument, pick: number) => void;

const NAMES = ['town', 'city', 'home_town', 'phone', 'mobile', 'hives', 'count', 'note'];
const field = (name: string, type: FieldAdapter['type'] = 'text', more: Partial<FieldAdapter> = {}): FieldAdapter => ({
  ...{ name, label: name, type, at: `/${name}` },
  ...more,
});
const write = (method: WriteOperation['method'], path: string): WriteOperation => ({
  ...{ method, path, body: '', fixed: [], record: '' },
});
const entity = (name: string): EntityAdapter => ({
  ...{ name, label: name, key: ['id'], repeat: { by: 'key', header: 'Idempotency-Key' } },
  find: [{ field: 'email', parameter: 'email' }],
  fields: [
    field('id', 'text', { readOnly: true }),
    field('email', 'email', { required: true }),
    field('town'),
    field('hives', 'integer'),
  ],
  list: { path: `/${name}`, query: [], records: '/items', paging: { kind: 'page', parameter: 'page' } },
  read: { path: `/${name}/{id}`, record: '' },
  create: { ...write('POST', `/${name}`), fields: ['email', 'town', 'hives'] },
  update: { ...write('PATCH', `/${name}/{id}`), fields: ['email', 'town'] },
  remove: { path: `/${name}/{id}` },
});
const api = (): AdapterDocument => ({
  ...{ format: 1, name: 'Keepers', address: 'https://api.example', signIn: { kind: 'bearer' } },
  ...{ headers: [], refusal: { waits: [] }, parallel: 8 },
  entities: [entity('keepers'), entity('swarms')],
});

const at = <T>(list: readonly T[], pick: number): T => list[pick % list.length]!;
const free = ({ fields }: EntityAdapter, pick: number): string | undefined => {
  const names = NAMES.filter((name) => !fields.some((each) => each.name === name));
  return names.length === 0 ? undefined : at(names, pick);
};
/** Fields that may go without the entity going with them. */
const loose = ({ fields }: EntityAdapter): FieldAdapter[] =>
  fields.filter(({ name }) => name !== 'id' && name !== 'email');

/** Whatever names a field names it as it is called now, or no longer. */
function everywhere(one: EntityAdapter, before: string, now: string | undefined): void {
  const renamed = (names: string[]): string[] =>
    names.flatMap((name) => (name !== before ? [name] : now === undefined ? [] : [now]));
  one.find = one.find.flatMap((each) => renamed([each.field]).map((name) => ({ ...each, field: name })));
  one.create!.fields = renamed(one.create!.fields!);
  one.update!.fields = renamed(one.update!.fields!);
}

const CHANGES: Record<string, Change> = {
  'a field is called otherwise': ({ entities }, pick) => {
    const one = at(entities, pick);
    const [which, name] = [at(loose(one), pick), free(one, pick)];
    if (!which || name === undefined) return;
    everywhere(one, which.name, name);
    Object.assign(which, { name, label: name, at: `/${name}` });
  },
  'a field goes': ({ entities }, pick) => {
    const one = at(entities, pick);
    const which = at(loose(one), pick);
    if (which) everywhere(one, which.name, undefined);
    one.fields = one.fields.filter((each) => each !== which);
  },
  'a field comes': ({ entities }, pick) => {
    const one = at(entities, pick);
    const name = free(one, pick);
    if (name === undefined) return;
    one.fields.push(field(name, at(['text', 'integer', 'phone'] as const, pick)));
    if (pick % 2 === 0) one.create!.fields!.push(name);
  },
  'a field may be changed, or may not': ({ entities }, pick) => {
    const { fields, update } = at(entities, pick);
    const { name } = at(fields, pick);
    const may = update!.fields!.includes(name);
    update!.fields = may ? update!.fields!.filter((each) => each !== name) : [...update!.fields!, name];
  },
  'another field is searched by': ({ entities }, pick) => {
    const one = at(entities, pick);
    const which = at(loose(one), pick);
    if (which) one.find = [...one.find.slice(0, 1), { field: which.name, parameter: `by_${which.name}` }];
  },
  'a field holds something else': ({ entities }, pick) => {
    const which = at(loose(at(entities, pick)), pick);
    if (which) which.type = at(['text', 'integer', 'number', 'date'] as const, pick);
  },
  'a field is bounded otherwise': ({ entities }, pick) => {
    const which = at(loose(at(entities, pick)), pick);
    if (!which) return;
    if (pick % 3 === 0) delete which.maxBytes;
    else which.maxBytes = (pick % 200) + 1;
  },
  'a field is needed': ({ entities }, pick) => {
    const which = at(loose(at(entities, pick)), pick);
    if (which) which.required = true;
  },
  'pages follow otherwise': ({ entities }, pick) => {
    at(entities, pick).list!.paging = at(
      [
        { kind: 'page' as const, parameter: 'page' },
        { kind: 'offset' as const, parameter: 'skip' },
        { kind: 'cursor' as const, parameter: 'cursor', at: '/next' },
        { kind: 'none' as const },
      ],
      pick,
    );
  },
  'records stand elsewhere': ({ entities }, pick) => {
    at(entities, pick).list!.records = at(['/items', '/data', ''], pick);
  },
  'nothing is deleted any more': ({ entities }, pick) => {
    delete at(entities, pick).remove;
  },
  'nothing makes sending again safe': ({ entities }, pick) => {
    at(entities, pick).repeat = { by: 'looking' };
  },
  'nothing is searched by': ({ entities }, pick) => {
    at(entities, pick).find = [];
  },
  'an entity comes': ({ entities }) => {
    if (!entities.some(({ name }) => name === 'queens')) entities.push(entity('queens'));
  },
};

const takenOver = (mine: AdapterDocument, differences: ReturnType<typeof compareAdapters>): AdapterDocument =>
  allMended(mine, [...differences].reverse());

/** What an entity reads, writes and is searched by, by places, so that it is the same whatever fields are called. */
function placesOf({ fields, find, create, update }: EntityAdapter): Record<string, string[]> {
  const place = (name: string): string => fields.find((each) => each.name === name)?.at ?? `nowhere: ${name}`;
  return {
    read: fields.map((each) => each.at).sort(),
    created: create!.fields!.map(place).sort(),
    changed: update!.fields!.map(place).sort(),
    found: find.map((each) => `${place(each.field)} by ${each.parameter}`).sort(),
  };
}

describe('an API changes again and again', () => {
  it('whatever it does, what is taken over makes sense, and nothing is left to say', () => {
    const step = fc.tuple(fc.constantFrom(...Object.keys(CHANGES)), fc.nat({ max: 5_000 }));
    fc.assert(
      fc.property(fc.array(fc.array(step, { maxLength: 4 }), { maxLength: 6 }), (days) => {
        let described = api();
        let mine = api();
        for (const changes of days) {
          const now = structuredClone(described);
          for (const [name, pick] of changes) CHANGES[name]!(now, pick);
          const differences = compareAdapters(described, now, mine);
          mine = takenOver(mine, differences);
          expect(compareAdapters(described, now, mine)).toEqual([]);
          expect(troubleWithAdapter(mine)).toEqual([]);
          described = now;
          // What is read, written and searched by is what the API has, whatever it is called here.
          expect(mine.entities.map(placesOf)).toEqual(described.entities.map(placesOf));
        }
      }),
      { numRuns: 300 },
    );
  });

  it('an API in which everything is called otherwise, as many fields as there may be, is compared and mended all the same', () => {
    const large = (prefix: string): AdapterDocument => ({
      ...api(),
      entities: Array.from({ length: 8 }, (_, which) => {
        const one = entity(`e${which}`);
        const names = Array.from({ length: 990 }, (__, index) => `${prefix}_field_${index}`);
        return { ...one, fields: [...one.fields, ...names.map((name) => field(name))] };
      }),
    });
    const [before, now] = [large('old'), large('new')];
    const differences = compareAdapters(before, now, before);
    // Which has become which can't be told: all share a word, and none is the only one.
    expect(differences).toHaveLength(8 * 990 * 2);
    const mine = allMended(before, [...differences].reverse());
    expect(mine.entities.map(({ fields }) => fields.length)).toEqual(Array(8).fill(994));
    expect(compareAdapters(before, now, mine)).toEqual([]);
  });

  it('a name that is in use here is not given to a field that comes later', () => {
    const called = (name: string): AdapterDocument => {
      const document = api();
      Object.assign(document.entities[0]!.fields[2]!, { name, label: name, at: `/${name}` });
      return document;
    };
    const renamed = called('city');
    // The lines that name it as it was called go on.
    const mine = takenOver(api(), compareAdapters(api(), renamed, api()));
    expect(mine.entities[0]!.fields[2]).toMatchObject({ name: 'town', at: '/city' });
    const later = structuredClone(renamed);
    later.entities[0]!.fields.push(field('town'));
    const both = takenOver(mine, compareAdapters(renamed, later, mine));
    expect(troubleWithAdapter(both)).toEqual([]);
    const places = both.entities[0]!.fields.map((each) => each.at);
    expect(places).toEqual(expect.arrayContaining(['/city', '/town']));
    const names = schemaFrom(both).entities[0]!.fields.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
  });
});
