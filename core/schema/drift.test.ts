import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { drift, renamesOver, type ValuesAlike } from './index.ts';

describe('drift', () => {
  it('is nothing between a schema and itself', () => {
    const schema = { entities: [entity('People', [field('email')])] };
    expect(drift(schema, structuredClone(schema))).toEqual([]);
  });
  it('names every difference with the field and what changed', () => {
    const before = {
      entities: [
        entity('People', [field('email'), field('old'), field('kind', { options: [{ value: 'a', label: 'A' }] })]),
        entity('Gone', []),
      ],
    };
    const after = {
      entities: [
        entity('People', [
          field('email', { required: true, maxLength: 20 }),
          field('fresh'),
          field('kind', { options: [{ value: 'b', label: 'B' }] }),
        ]),
        entity('New', []),
      ],
    };
    const found = drift(before, after).map(
      ({ kind, entity: at, field: name, what }) => `${kind} ${at} ${name ?? ''} ${what}`,
    );
    expect(found).toEqual([
      'entity gone Gone  Gone can no longer be seen',
      'entity new New  New is new',
      'field changed People email email: now required; limit was none, is 20',
      'field gone People old old is gone',
      'field changed People kind kind: options gone: a; options new: b',
      'field new People fresh fresh is new',
    ]);
  });
  const options = (...values: string[]) => ({
    type: 'option' as const,
    options: values.map((value) => ({ value, label: value })),
  });
  it('says what stops whatever uses a field, what wants a look, and what harms nobody', () => {
    const harm = (was: Parameters<typeof field>[1], is: Parameters<typeof field>[1]): string | undefined =>
      drift({ entities: [entity('People', [field('x', was)])] }, { entities: [entity('People', [field('x', is)])] })[0]!
        .harm;
    expect(harm({}, { required: true })).toBe('stops');
    expect(harm({}, { required: true, defaulted: true })).toBeUndefined();
    expect(harm({ required: true }, {})).toBeUndefined();
    expect(harm({}, { computed: true })).toBe('stops');
    expect(harm({}, { rights: 'read' })).toBe('stops');
    expect(harm({ rights: 'none' }, {})).toBeUndefined();
    expect(harm({}, { type: 'integer' })).toBe('look');
    expect(harm({ maxLength: 80 }, { maxLength: 40 })).toBe('look');
    expect(harm({ maxLength: 40 }, {})).toBeUndefined();
    expect(harm(options('a', 'b'), options('a'))).toBe('look');
    expect(harm(options('a'), options('a', 'b'))).toBeUndefined();
    expect(harm({}, { type: 'integer', rights: 'none' })).toBe('stops');
    const many = options(...Array.from({ length: 5_000 }, (_, at) => `o${at}`));
    const [only] = drift(
      { entities: [entity('People', [field('x', many)])] },
      { entities: [entity('People', [field('x', options('a'))])] },
    );
    expect(only!.what).toMatch(/o19 and 4980 more; options new: a$/);
  });
  const renamed = (before: ReturnType<typeof field>[], after: ReturnType<typeof field>[]): string[] =>
    drift({ entities: [entity('People', before)] }, { entities: [entity('People', after)] }).map(
      ({ kind, was, field: is }) => (kind === 'field renamed' ? `${was} is ${is}` : kind),
    );
  it('recognises a field that is there under another name, by label, name or options', () => {
    expect(renamed([field('interests', { label: 'Interests' })], [field('topics', { label: 'Interests' })])).toEqual([
      'interests is topics',
    ]);
    expect(
      renamed(
        [field('topic_kind', { label: 'Kind', ...options('a', 'b') })],
        [field('sort', { label: 'Sort', ...options('a', 'b', 'c') })],
      ),
    ).toEqual(['topic_kind is sort']);
    expect(
      renamed([field('first_name', { label: 'First name' })], [field('name_first', { label: 'Given name' })]),
    ).toEqual(['first_name is name_first']);
  });
  it('takes none where it may be several, the kind is another, or nothing speaks for it', () => {
    const two = [field('a', { label: 'Notes' }), field('b', { label: 'Notes' })];
    expect(renamed([field('notes', { label: 'Notes' })], two)).toEqual(['field gone', 'field new', 'field new']);
    expect(renamed([field('born', { label: 'Born' })], [field('birth', { label: 'Born', type: 'date' })])).toEqual([
      'field gone',
      'field new',
    ]);
    expect(renamed([field('old')], [field('fresh')])).toEqual(['field gone', 'field new']);
    const [kind, other] = [options('a', 'b'), options('x', 'y')];
    expect(renamed([field('k', { label: 'Kind', ...kind })], [field('s', { label: 'Kind', ...other })])).toEqual([
      'field gone',
      'field new',
    ]);
  });
});

describe('a schema that is another one altogether', () => {
  const many = (prefix: string, count: number) =>
    Array.from({ length: count }, (_, at) => field(`${prefix}_${at}`, { label: `${prefix} ${at}` }));
  const renames = (before: ReturnType<typeof field>[], after: ReturnType<typeof field>[], alike: ValuesAlike[] = []) =>
    drift({ entities: [entity('People', before)] }, { entities: [entity('People', after)], alike }).flatMap(
      ({ kind, was, field: is }) => (kind === 'field renamed' ? [`${was} is ${is}`] : []),
    );
  it('is compared in time that grows with it, not with its square', () => {
    // Pair by pair these would be 400 million.
    expect(renames(many('a', 20_000), many('b', 20_000))).toEqual([]);
  });
  it('is followed in such a time where every reading has other names', () => {
    const named = (reading: number) => ({
      entities: [
        entity(
          'People',
          Array.from({ length: 5_000 }, (_, at) => field(`r${reading}f${at}`, { label: `Called ${at}` })),
        ),
      ],
    });
    const found = renamesOver(Array.from({ length: 6 }, (_, at) => named(at)));
    expect(found).toHaveLength(25_000);
    expect(found[0]).toEqual({ entity: 'People', was: 'r5f0', is: 'r0f0' });
  });
  it('shows what was renamed all the same: by label, by name, by options and by values', () => {
    const before = [
      ...many('a', 200),
      field('mobile', { label: 'Mobile number' }),
      field('first_name', { label: 'First name' }),
      field('bees', {
        label: 'Race',
        type: 'option',
        options: ['Carnica', 'Buckfast'].map((value) => ({ value, label: value })),
      }),
      field('q1', { label: 'Old' }),
    ];
    const after = [
      ...many('b', 200),
      field('p9', { label: 'Mobile number' }),
      field('name_first', { label: 'Given name' }),
      field('r2', {
        label: 'Kind',
        type: 'option',
        options: ['carnica', 'Buckfast'].map((value) => ({ value, label: value })),
      }),
      field('w7', { label: 'New' }),
    ];
    const alike = [{ entity: 'People', was: 'q1', is: 'w7', of: 40, equal: 40, beyondChance: 1 }];
    expect(renames(before, after, alike)).toEqual([
      'mobile is p9',
      'first_name is name_first',
      'bees is r2',
      'q1 is w7',
    ]);
  });
});

describe('renames over several readings', () => {
  const reading = (...names: string[]) => ({
    entities: [
      entity(
        'People',
        names.map((name) => field(name, { label: 'Telephone number', unique: true })),
      ),
    ],
  });
  it('lead from every earlier name to the one that is there now', () => {
    const found = renamesOver([reading('mobile'), reading('telephone'), reading('phone')]);
    expect(found).toEqual([
      { entity: 'People', was: 'phone', is: 'mobile' },
      { entity: 'People', was: 'telephone', is: 'mobile' },
    ]);
  });
  it('are none where it is called again as it was, and from there only where it went on', () => {
    expect(renamesOver([reading('phone'), reading('telephone'), reading('phone')])).toEqual([
      { entity: 'People', was: 'telephone', is: 'phone' },
    ]);
    expect(renamesOver([reading('phone')])).toEqual([]);
    expect(renamesOver([])).toEqual([]);
  });
});
