import { json, together, type Attack } from './arena.ts';

const listOf = <T>(count: number, each: (at: number) => T): T[] => Array.from({ length: count }, (_, at) => each(at));

/** What somebody who works on schemas can ask for. */
export const schemas: Attack = {
  name: 'fields of ten thousand options in every entity, options joined by the thousand, renames that never were',
  run: async ({ as, ask, size }) => {
    const { systems = [] } = (await ask('GET', '/systems')).body;
    const crm = systems.find(({ kind }) => kind === 'odata')!.id;
    const letters = systems.find(({ kind }) => kind === 'json')!.id;
    const most = Math.ceil(10_000 * size);
    const option = (text: string) => ({ value: text, label: text });
    const options = listOf(most, (at) => option(`Option ${at} ${'ä'.repeat(at % 40)}`));
    const alike = listOf(most, (at) => option(`${'a'.repeat(60)}${at}`));
    const people = { system: crm, entity: 'People' };
    const field = (more: object) => ({ label: 'Evil', type: 'options', options, ...more });
    const wanted = (more: object, around: object = {}) => ({
      field: field(more),
      places: [people],
      lines: [],
      ...around,
    });
    const fields = [
      wanted({}),
      wanted({ label: 'Interests', options: alike }),
      wanted({ label: '__proto__' }, { places: listOf(50, (at) => ({ system: crm, entity: `E${at}` })) }),
      wanted(
        { label: '🐝'.repeat(30) },
        {
          places: [
            { ...people, field: 'constructor' },
            { system: letters, entity: 'subscribers' },
          ],
        },
      ),
      wanted(
        { type: 'text', options: undefined, label: 'x'.repeat(60) },
        { lines: listOf(500, (at) => ({ key: `k${at}`.repeat(50) })) },
      ),
      wanted({ type: 'shape' }),
      wanted({ options: listOf(most * 2, (at) => option(`${at}`)) }),
      { field: null, places: 'all', lines: {} },
    ];
    const of = { ...people, field: 'interests' };
    const changes = (count: number, more: (at: number) => object) => ({
      changes: listOf(Math.ceil(count * size), (at) => ({
        kind: 'join',
        of,
        from: 'honey',
        option: option(`o${at}`),
        ...more(at),
      })),
    });
    const renames = listOf(200, (at) => ({ entity: 'People', was: `was${at}`, is: 'email' }));
    const replaced = listOf(200, (at) => ({ entity: 'People', field: '__proto__', from: `o${at}`, into: 'honey' }));
    const filled = listOf(200, (at) => ({
      entity: 'People',
      field: at === 199 ? 'x' : 'notes',
      value: '9'.repeat(4_000),
    }));
    const keys = listOf(40, () => [crm, 'People', 'interests']);
    const statuses = await together(4, () => as('specialist', 'POST', '/schema/one-field/look', json(fields[0])));
    for (const each of fields) {
      statuses.push(
        ...(await together(3, () => as('specialist', 'POST', '/schema/one-field/look', json(each)))),
        await as('specialist', 'POST', '/schema/one-field/rehearse', json(each)),
        await as('viewer', 'POST', '/schema/one-field', json(each)),
      );
    }
    const added = changes(2_000, (at) => ({ kind: 'add', from: undefined, option: option(`${at}`.repeat(40)) }));
    statuses.push(
      ...(await together(4, () => as('specialist', 'POST', '/schema/options/look', json(added)))),
      await as('specialist', 'POST', '/schema/options', json(changes(2_000, () => ({})))),
      await as('specialist', 'POST', '/schema/options', json(changes(20_000, () => ({})))),
      await as('viewer', 'GET', `/schema/options?of=${encodeURIComponent(json(keys))}`),
      await as('viewer', 'GET', `/schema/options?of=${encodeURIComponent('['.repeat(4_000))}`),
      await as('specialist', 'POST', `/schema/${crm}/drift`, json({ renames })),
      await as('specialist', 'POST', `/schema/${crm}/drift`, json({ renames: [], options: replaced, filled })),
      ...(await together(3, () => as('specialist', 'POST', `/schema/${crm}/drift`, json({ renames: [], filled })))),
      await as('specialist', 'POST', `/schema/${crm}/drift`, '['.repeat(100_000)),
      ...(await together(6, () => as('specialist', 'GET', `/schema/${crm}/entities/People/fields/interests/counts`))),
      await as('specialist', 'GET', `/schema/${crm}/entities/People/fields/__proto__/counts`),
    );
    return statuses;
  },
};

/** A system that calls every one of its many fields otherwise each time that it is read. */
export const renaming: Attack = {
  name: 'a system of fifteen thousand fields that are all called otherwise at every reading',
  run: async ({ as, ask, evil, size }) => {
    const system = {
      name: 'Otherwise',
      address: `${evil.address}/otherwise/${Math.ceil(15_000 * size)}/`,
      token: 't',
      practice: true,
      personal: false,
    };
    const statuses = [await as('administrator', 'POST', '/systems', json(system))];
    const { systems = [] } = (await ask('GET', '/systems')).body;
    const made = systems.find(({ name }) => name === system.name);
    if (!made) return statuses;
    const path = `/systems/${made.id}`;
    for (let reading = 0; reading < 4; reading += 1)
      statuses.push(
        await as('specialist', 'POST', `${path}/read`),
        ...(await together(3, () => as('viewer', 'GET', `/schema/${made.id}/drift`))),
        ...(await together(3, () => as('viewer', 'GET', path))),
      );
    statuses.push(await as('administrator', 'DELETE', path));
    return statuses;
  },
};
