/** @jest-environment @happy-dom/jest-environment */
import type { ReachedUse, SystemDetail } from '@zusammen/core/api';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { makeEntity, makeField } from '../../../core/testing/world.ts';
import { show, withHeight, type Answers } from '../testing/page.tsx';
import { Schema } from './schema.tsx';

const KEEPER = makeEntity(
  'keepers',
  [
    makeField('id', { label: 'Number', type: 'id' }),
    makeField('name', { label: 'Name', required: true, maxLength: 120 }),
    makeField('area', { label: 'Area', type: 'number', scale: 1 }),
    makeField('kind', { label: 'Kind', type: 'option', options: [{ value: 'h', label: 'Hobby' }] }),
    makeField('tax', { label: 'Tax number', rights: 'none' }),
  ],
  { label: 'Keeper', key: 'id' },
);
const LOOK = makeEntity('users', [makeField('login', { label: 'Login' })], { label: 'User' });
LOOK.rights = { read: true, create: false, update: false, delete: false };
const WIDE = makeEntity(
  'wide',
  Array.from({ length: 300 }, (_, at) => makeField(`f${at}`, { label: `Field ${at}` })),
  { label: 'Wide' },
);
const SYSTEM = {
  system: { id: 'crm', name: 'Clover Hill', practice: true },
  schema: { entities: [LOOK, KEEPER, WIDE] },
  readAt: '2026-11-26T08:00:00Z',
  differences: [],
} as unknown as SystemDetail;
const use = (field: string, more: Partial<ReachedUse> = {}): ReachedUse => ({
  ...{ by: 'intake', id: 'i1', name: 'Visit us', live: true, system: 'crm', entity: 'keepers', field, how: 'written' },
  ...{ from: ['Orchard name'], treatments: ['trim'], ifBoth: 'fill only' },
  ...more,
});

beforeAll(() => withHeight(600));

const schema = (at = '/schema', more: Answers = {}) =>
  show(<Schema />, {
    at,
    path: '/schema',
    answers: {
      'get /session': {
        user: { id: 'u1', email: 'm@x.example', name: 'Mara', role: 'specialist', active: true } as never,
      },
      'get /systems': { systems: [SYSTEM.system] },
      'get /systems/:id': SYSTEM,
      'get /recognitions': { recognitions: [] },
      'get /reach': { uses: [use('name'), use('name', { id: 'i2', name: 'Old form', live: false })] },
      ...more,
    },
  });
const cells = async (label: string): Promise<(string | null)[]> =>
  within((await screen.findByText(label)).closest('tr')!)
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

describe('the schema', () => {
  it('says who may, where the system does, and takes a sheet that is dropped on it', async () => {
    const { roles: _, ...plain } = KEEPER;
    const told = { ...SYSTEM, schema: { entities: [{ ...plain, roles: { reads: ['a', 'b'], writes: ['a'] } }] } };
    const file = { id: 'f1', name: 'x.csv', rows: 1, columns: ['a'], bytes: 3 };
    const { where } = schema('/schema', { 'get /systems/:id': told as never });
    expect((await screen.findByText('Who may')).closest('section')!.textContent).toContain('a, b read, a changes');
    const sent: string[] = [];
    globalThis.XMLHttpRequest = class {
      upload = {};
      status = 201;
      responseText = JSON.stringify({ file });
      onload = (): void => undefined;
      open = (_method: string, address: string) => sent.push(address);
      send = () => setTimeout(() => this.onload());
    } as never;
    const dropped = { types: ['Files'], files: [new File(['a\n1'], 'x.csv')] };
    fireEvent.drop(screen.getByRole('heading', { name: 'Keeper' }), { dataTransfer: dropped });
    await waitFor(() => expect(where()).toBe('/schema/new?system=crm&file=f1'));
    expect(sent).toEqual(['/api/files?name=x.csv']);
  });
  it('begins with an entity that can be written, and says of each field what holds', async () => {
    schema();
    expect(await screen.findByRole('heading', { name: 'Keeper' })).toBeTruthy();
    expect(await cells('Name')).toEqual(['Name', 'name', 'text', '120 characters', '2 intakes', 'required']);
    expect(await cells('Area')).toEqual(['Area', 'area', 'number', '1 decimal', 'nothing', '']);
    expect((await cells('Kind'))[3]).toBe('Hobby');
    expect((await cells('Tax number')).at(-1)).toBe('hidden from this connection');
    expect((await cells('Number')).at(-1)).toBe('names the record');
  });

  it('shows what reaches a field, through what, and whether it is live', async () => {
    const { user } = schema();
    await user.click(await screen.findByRole('button', { name: 'Reach of Name' }));
    const uses = within(await screen.findByRole('dialog')).getAllByRole('listitem');
    expect(uses.map(({ textContent }) => textContent)).toEqual([
      'Visit us liveOrchard nametrim → fill only',
      'Old form draft onlyOrchard nametrim → fill only',
    ]);
  });

  it('leads from each use to where in the intake it stands', async () => {
    const by = (how: ReachedUse['how']): ReachedUse => use('name', { how, name: how });
    const uses = (['written', 'read by a form', 'begins a question', 'starts a conversion', 'converted'] as const).map(
      by,
    );
    const { user } = schema('/schema', { 'get /reach': { uses } });
    await user.click(await screen.findByRole('button', { name: 'Reach of Name' }));
    const links = within(await screen.findByRole('dialog')).getAllByRole('link');
    expect(links.map((link) => `${link.textContent}: ${link.getAttribute('href')}`)).toEqual([
      'written: /intakes/i1/plan',
      'read by a form: /intakes/i1/arrive',
      'begins a question: /intakes/i1/arrive',
      'starts a conversion: /intakes/i1/open',
      'converted: /intakes/i1/plan',
    ]);
  });

  it('finds a field by its label or its name, and says that none is called so', async () => {
    const { user } = schema();
    await screen.findByText('Area');
    await user.type(screen.getByRole('searchbox'), 'AREA');
    expect(screen.queryByText('Tax number')).toBeNull();
    expect(await screen.findByText('Area')).toBeTruthy();
    await user.type(screen.getByRole('searchbox'), 'x');
    expect(await screen.findByText('No field is called so')).toBeTruthy();
  });

  it('draws of hundreds of fields only those in sight', async () => {
    schema('/schema?system=crm&entity=wide');
    await screen.findByRole('heading', { name: 'Wide' });
    expect(await screen.findByText('Field 0')).toBeTruthy();
    expect(screen.getAllByRole('row').length).toBeLessThan(80);
    expect(screen.queryByText('Field 299')).toBeNull();
  });

  it('doesn’t show another entity for one that isn’t there', async () => {
    schema('/schema?system=crm&entity=ghosts');
    expect(await screen.findByText('There is no such entity')).toBeTruthy();
    expect(screen.queryByText('Tax number')).toBeNull();
  });

  it('says where to begin when no system is connected', async () => {
    schema('/schema', { 'get /systems': { systems: [] } });
    expect((await screen.findByRole('link', { name: 'Connect one' })).getAttribute('href')).toBe('/systems?connect=1');
  });
});
