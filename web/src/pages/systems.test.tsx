/** @jest-environment @happy-dom/jest-environment */
import type { System, SystemDetail } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { makeEntity, makeField } from '../../../core/testing/world.ts';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { Systems } from './systems.tsx';

const system = (id: string, name: string, more: Partial<System> = {}): System => ({
  ...{ id, name, kind: 'odata', adapterVersion: null, adapterDrift: null },
  ...{ address: `https://${id}.example/odata/`, practice: true, personal: false, recordPage: null },
  ...{ state: 'answers', stateWords: null, latencyMs: 40, checkedAt: '2026-11-26T08:00:00Z' },
  capabilities: {
    ...{ repeatability: true, batch: false, delta: false, etags: true },
    tried: [
      { what: 'filter', able: true },
      { what: 'etags', able: false, said: 'no ETag came' },
    ],
  },
  ...more,
});
/** Nothing of what has changed in the system concerns anything here. */
const NOTHING = { renames: [], steps: [], lost: [], required: [], unfit: [] };
const CRM = system('crm', 'Clover Hill');
const OTHER = system('shop', 'Shop', { state: 'silent', stateWords: 'It doesn’t answer.' });
const detail = (of: System): SystemDetail => ({
  system: of,
  schema: {
    entities: [makeEntity('keepers', [makeField('name'), makeField('tax', { rights: 'none' })], { label: 'Keeper' })],
  },
  readAt: '2026-11-26T08:00:00Z',
  differences: [],
});

const systems = (
  more: Answers = {},
  role: 'administrator' | 'specialist' | 'viewer' = 'administrator',
  at = '/systems',
) =>
  show(<Systems />, {
    at,
    path: '/systems',
    answers: {
      'get /payment-services': { services: [] },
      'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role, active: true } },
      'get /systems': { systems: [CRM, OTHER] },
      'get /systems/:id/acting': { acting: null, audience: 'https://zusammen.example/context' },
      'get /schema/:system/drift': NOTHING,
      'get /systems/:id': ({ params }) => detail(params['id'] === 'crm' ? CRM : OTHER),
      ...more,
    },
  });

describe('the systems', () => {
  it('are listed, and one says what it can do, what it can’t, and what is hidden', async () => {
    systems();
    expect(await screen.findByText(/1 entity, read/)).toBeTruthy();
    expect(screen.getByText('1 field is hidden from this connection.')).toBeTruthy();
    const row = (await screen.findByRole('link', { name: 'Keeper' })).closest('tr')!;
    expect(
      within(row)
        .getAllByRole('cell')
        .map(({ textContent }) => textContent),
    ).toEqual(['Keeper', '1', '1', 'read, create, update and delete']);
    expect(screen.getByText(/no ETag came/)).toBeTruthy();
  });

  it('are gone through by key; what one says of its trouble stands there', async () => {
    const { user, where } = systems();
    await screen.findByRole('link', { name: 'Keeper' });
    await user.keyboard('j');
    await waitFor(() => expect(where()).toBe('/systems?system=shop'));
    expect(await screen.findByText('It doesn’t answer.')).toBeTruthy();
  });

  it('one read again says what has changed since, and what of ours that concerns', async () => {
    const visit = { by: 'intake' as const, id: 'i1', name: 'Visit', how: 'writes' as const };
    const step = { by: 'pairing' as const, id: 'p1', name: 'In step', how: 'reads' as const };
    const differences: SystemDetail['differences'] = [
      ...Array.from({ length: 8 }, (_, at) => ({
        ...{ kind: 'field gone' as const, entity: 'Keeper', field: `f${at}`, what: `Field ${at} is gone` },
        ...{ harm: 'stops' as const, uses: [visit, step] },
      })),
      { kind: 'field new', entity: 'Keeper', field: 'hives', what: 'Hives is new', uses: [] },
      { kind: 'field gone', entity: 'Keeper', field: 'fax', what: 'Fax is gone', harm: 'stops', uses: [] },
    ];
    let isRead = false;
    const { user } = systems({
      'get /systems/:id': () => ({ ...detail(CRM), differences: isRead ? differences : [] }),
      'post /systems/:id/read': () => {
        isRead = true;
        return { system: CRM, differences };
      },
    });
    await user.click(await screen.findByRole('button', { name: 'Read its schema again' }));
    const found = within(await screen.findByRole('region', { name: 'What the last reading found' }));
    expect(found.getByText(/10 things are otherwise than before\.$/)).toBeTruthy();
    expect(found.getAllByRole('img', { name: 'stops' })).toHaveLength(8);
    expect(found.getByText('Keeper: Field 0 is gone; written by “Visit”; read by “In step”')).toBeTruthy();
    expect(found.queryByText(/Hives is new/)).toBeNull();
    await user.click(found.getByRole('button', { name: 'Show 2 more' }));
    expect(found.getByText('Keeper: Hives is new')).toBeTruthy();
    expect(found.getByText(/Fax is gone/).textContent).toBe('Keeper: Fax is gone; nothing here uses it');
    expect(found.getAllByRole('img', { name: 'stops' })).toHaveLength(8);
  });

  it('one read again in which nothing has changed says so', async () => {
    const { user } = systems({ 'post /systems/:id/read': { system: CRM, differences: [] } });
    await user.click(await screen.findByRole('button', { name: 'Read its schema again' }));
    expect(await screen.findByText(/nothing has changed since the reading before/)).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'What the last reading found' })).toBeNull();
  });

  it('what goes by an old name in it goes by the new one everywhere, at one press', async () => {
    const renames = [{ entity: 'Keeper', was: 'phone', is: 'telephone' }];
    const { user, saidTo, where } = systems({
      'get /schema/:system/drift': {
        renames,
        steps: ['Visit goes by telephone of Keeper, which was phone.'],
        ...{ lost: [], required: [], unfit: [] },
      },
      'post /schema/:system/drift': { change: 'c9' },
    });
    expect(await screen.findByText(/1 place goes by an old name; what arrives for them waits/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Have all of them go by the new name' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c9'));
    expect(saidTo('post /schema/:system/drift')).toEqual([{ renames }]);
  });

  it('what has gone from it is named, and what is chosen in its place is named everywhere at one press', async () => {
    const lost = [
      {
        ...{ entity: 'keepers', field: 'interests', called: 'Interests of Keeper', places: ['Visit', 'Letters'] },
        option: { value: 'swarms', label: 'Swarms' },
        choices: [
          { value: 'bees', label: 'Bees' },
          { value: 'honey', label: 'Honey' },
        ],
      },
      {
        ...{ entity: 'keepers', field: 'fax', called: 'Fax of Keeper', places: ['Visit'] },
        choices: [{ value: 'phone', label: 'Telephone' }],
      },
    ];
    const { user, saidTo, where } = systems({
      'get /schema/:system/drift': { ...NOTHING, lost },
      'post /schema/:system/drift': { change: 'c10' },
    });
    expect(await screen.findByText(/2 things that are named here have gone from the system/)).toBeTruthy();
    expect(screen.getByText(/named by “Visit”, “Letters”/)).toBeTruthy();
    const button = screen.getByRole('button', { name: 'Choose what is named in its place' });
    expect((button as HTMLButtonElement).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'What is named in the place of Swarms' }));
    await user.click(await screen.findByText('Honey'));
    await user.click(screen.getByRole('button', { name: 'Have 2 places name what was chosen' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c10'));
    expect(saidTo('post /schema/:system/drift')).toEqual([
      { renames: [], options: [{ entity: 'keepers', field: 'interests', from: 'swarms', into: 'honey' }] },
    ]);
  });

  it('what must be given by now is told with what gives nothing, and is given from there on at one press', async () => {
    const required = [
      {
        ...{ entity: 'keepers', field: 'kind', called: 'Kind of Keeper', places: ['Visit', 'Shop'] },
        choices: [{ value: 'x', label: 'Guild' }],
      },
      { entity: 'keepers', field: 'origin', called: 'Origin of Keeper', places: ['Visit'] },
    ];
    const { user, saidTo, where } = systems({
      'get /schema/:system/drift': { ...NOTHING, required },
      'post /schema/:system/drift': { change: 'c11' },
    });
    expect(await screen.findByText(/2 fields must be given by now, and not everything gives them/)).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'What Origin of Keeper is given' }), ' web ');
    await user.click(screen.getByRole('button', { name: 'What Kind of Keeper is given' }));
    await user.click(await screen.findByText('Guild'));
    await user.click(screen.getByRole('button', { name: 'Have 2 places give it' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c11'));
    expect(saidTo('post /schema/:system/drift')).toEqual([
      {
        renames: [],
        filled: [
          { entity: 'keepers', field: 'kind', value: 'x' },
          { entity: 'keepers', field: 'origin', value: 'web' },
        ],
      },
    ]);
  });

  it('what takes other values is brought what fits by all that is chosen, at one press', async () => {
    const unfit = [
      {
        ...{ entity: 'keepers', field: 'hives', called: 'Hives of Keeper', what: 'was text, is integer' },
        ...{ places: ['Visit', 'Letters'], treated: ['number'] },
      },
      {
        ...{ entity: 'keepers', field: 'note', called: 'Note of Keeper', what: 'took any length, takes 80 characters' },
        ...{ places: ['Visit'], treated: ['cut at 80 characters'] },
      },
    ];
    const { user, saidTo, where } = systems({
      'get /schema/:system/drift': { ...NOTHING, unfit },
      'post /schema/:system/drift': { change: 'c12' },
    });
    expect(await screen.findByText(/2 fields take other values than before/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Have 2 places bring what fits' })).toBeTruthy();
    await user.click(
      screen.getByRole('checkbox', { name: /Hives of Keeper was text, is integer; brought by “Visit”/ }),
    );
    await user.click(screen.getByRole('checkbox', { name: /Note of Keeper/ }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Choose what is treated' }).disabled).toBe(true);
    await user.click(screen.getByRole('checkbox', { name: /Note of Keeper/ }));
    await user.click(screen.getByRole('button', { name: 'Have 1 place bring what fits' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c12'));
    expect(saidTo('post /schema/:system/drift')).toEqual([
      { renames: [], fitted: [{ entity: 'keepers', field: 'note' }] },
    ]);
  });

  it('one connected is told what is wrong with its address before anything is sent, and after', async () => {
    const { user, saidTo } = systems(
      {
        'post /systems/look': { kind: 'odata', entities: 3 },
        'post /systems': () => refusal(502, 'No answer', 'Nothing answers at this address.'),
      },
      'administrator',
      '/systems?connect=1',
    );
    const dialog = await screen.findByRole('dialog', { name: 'Connect a system' });
    await user.type(within(dialog).getByLabelText('Name'), 'New');
    await user.type(within(dialog).getByLabelText(/Address/), 'ftp://x');
    await user.type(within(dialog).getByLabelText('Token'), 'secret');
    await user.click(within(dialog).getByRole('button', { name: 'Read and connect' }));
    expect(await screen.findByText('must start with http:// or https://')).toBeTruthy();
    expect(saidTo('post /systems')).toEqual([]);
    await user.clear(within(dialog).getByLabelText(/Address/));
    await user.type(within(dialog).getByLabelText(/Address/), 'https://new.example/');
    await user.click(within(dialog).getByRole('button', { name: 'Read and connect' }));
    expect(await screen.findByText('Nothing answers at this address.')).toBeTruthy();
    expect(saidTo('post /systems')).toEqual([
      { name: 'New', address: 'https://new.example/', token: 'secret', practice: true, personal: false },
    ]);
  });

  it('one is disconnected only after what that forgets was said', async () => {
    const { user, asked } = systems({ 'delete /systems/:id': {} as never });
    await user.click(await screen.findByRole('button', { name: 'Change…' }));
    await user.click(await screen.findByRole('button', { name: 'Disconnect…' }));
    expect(
      screen.getByText(/Its token, what is known of its records, and the pairings it is a side of are forgotten here/),
    ).toBeTruthy();
    expect(asked.some(({ name }) => name === 'delete /systems/:id')).toBe(false);
    await user.click(screen.getByRole('button', { name: 'Disconnect Clover Hill' }));
    await waitFor(() => expect(asked.some(({ name }) => name === 'delete /systems/:id')).toBe(true));
  });

  it('are looked at by others, who connect and change nothing', async () => {
    systems({}, 'viewer');
    await screen.findByRole('link', { name: 'Keeper' });
    expect(screen.queryByRole('button', { name: /Connect|Change|Read its schema/ })).toBeNull();
  });

  it('none yet: says what is needed', async () => {
    systems({ 'get /systems': { systems: [] } });
    expect(await screen.findByText('No system is connected')).toBeTruthy();
  });
});
