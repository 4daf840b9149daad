/** @jest-environment @happy-dom/jest-environment */
import type { SheetTold } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { evidenceOf } from '../../../../core/forms/index.ts';
import { proposeSheet } from '../../../../core/new-entities/index.ts';
import { makeEntity, makeField } from '../../../../core/testing/world.ts';
import { lines, refusal, show, withHeight, type Answers } from '../../testing/page.tsx';
import { NewEntity } from './new-entity.tsx';

const PEOPLE = makeEntity('People', [makeField('name', { label: 'Name' })], { label: 'Person' });
const SYSTEM = { id: 'crm', name: 'Clover Hill', kind: 'odata', practice: true };
const ABLE = { entities: true, fields: true, options: true, removing: true, roles: ['keeper', 'guest'] };
const MARA = { id: 'u1', email: 'mara@x.example', name: 'Mara', role: 'specialist', active: true };
const ROWS = Array.from({ length: 20 }, (_, at) => ({
  line: at + 4,
  cells: [`HB-${at}`, at === 3 ? 'Aktiv ' : at % 2 ? 'aktiv' : 'ruht', `Nowak, Ola ${'abcdefghijklmnopqrst'[at]}`, ''],
}));
const COLUMNS = ['Reg. no.', 'Status', 'Keeper', 'Office'];
const SEEN = COLUMNS.map((column, at) => ({ column, evidence: evidenceOf(ROWS.map(({ cells }) => cells[at]!)) }));
const TOLD: SheetTold[] = [
  {
    ...{ kind: 'read', name: 'apiaries.xlsx', columns: COLUMNS, rows: 20, heading: 3, sheet: 'Cards' },
    ...{ oddities: [{ row: 30, what: 'looks like a total and is left out' }], sample: ROWS },
  },
  { kind: 'progress', rows: 10 },
  { kind: 'seen', columns: SEEN, proposal: proposeSheet('apiaries.xlsx', SEEN, { entities: [PEOPLE] }) },
  {
    kind: 'reference',
    seen: {
      ...{ column: 'Keeper', reference: { by: 'name', entity: 'People' }, found: 17, unsure: 2, nobody: 1, of: 20 },
      ...{ unsureOnes: [], nobodies: [] },
    },
  },
];

beforeAll(() => withHeight(600));
beforeEach(() => localStorage.clear());

const page = (at: string, more: Answers = {}) =>
  show(<NewEntity />, {
    at,
    path: '/schema/new',
    answers: {
      'get /session': { user: MARA as never },
      'get /systems': { systems: [SYSTEM as never] },
      'get /systems/:id': { system: SYSTEM, schema: { entities: [PEOPLE] }, differences: [] } as never,
      'get /schema/:system/abilities': { abilities: ABLE },
      'post /schema/:system/sheets/look': () => lines(...TOLD),
      'post /schema/:system/sheets': { change: 'c1' },
      ...more,
    },
  });
const rowOf = async (column: string): Promise<HTMLElement> =>
  (await screen.findByRole('button', { name: `What ${column} becomes` })).closest('tr')!;
const cellsOf = async (column: string) =>
  within(await rowOf(column))
    .getAllByRole('cell')
    .map((each) => each.textContent);

describe('a new entity out of a sheet', () => {
  it('shows each column with a value, what it becomes and what its rows say', async () => {
    const { user } = page('/schema/new?system=crm&file=f1');
    expect(await screen.findByRole('heading', { name: 'A new entity from apiaries.xlsx' })).toBeTruthy();
    expect(await cellsOf('Reg. no.')).toEqual([
      'Reg. no.',
      'HB-0',
      'text, up to 8',
      'Reg. no.',
      'uniqueno two alike, none blank',
    ]);
    expect((await cellsOf('Status')).slice(1)).toEqual(['ruht', 'option, 2', 'Status', '“aktiv”, “Aktiv ” are one']);
    expect((await cellsOf('Office')).slice(2)).toEqual(['left out', '', 'blank in every row']);
    expect(screen.getByText(/sheet “Cards”, from line 3/)).toBeTruthy();
    expect(screen.getByText('Line 30 looks like a total and is left out')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'The next row' }));
    expect((await cellsOf('Reg. no.'))[1]).toBe('HB-1');
    expect(screen.getByText('Row 2 of 20')).toBeTruthy();
  });
  it('says what can’t be changed later, makes a reference, lets options apart, and makes all of it', async () => {
    const { user, saidTo, where } = page('/schema/new?system=crm&file=f1');
    const fixed = (await screen.findByText('Can’t be changed once it is made')).closest('section')!;
    expect(fixed.textContent).toContain('Reg. no.');
    await user.click(await screen.findByRole('button', { name: 'make it a reference' }));
    expect((await cellsOf('Keeper')).slice(2)).toEqual(['→ Person by name', 'Keeper', '17 found, 2 unsure, 1 nobody']);
    expect(screen.getByText(/to decide in Review/).textContent).toContain(
      '17 rows whole, 2 to decide in Review, 1 without',
    );
    await user.click(screen.getByRole('button', { name: 'What Status becomes' }));
    await user.click(await screen.findByRole('button', { name: 'apart' }));
    await user.keyboard('{Escape}');
    expect((await cellsOf('Status'))[2]).toBe('option, 3');
    await user.click(screen.getByRole('button', { name: 'Make Apiary and take in 20 rows' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c1'));
    const [{ file, sheet }] = saidTo('post /schema/:system/sheets') as [{ file: string; sheet: Record<string, never> }];
    expect(file).toBe('f1');
    expect(sheet).toMatchObject({
      ...{ name: 'Apiary', plural: 'Apiaries', namedBy: 'reg_no' },
      columns: [
        { field: { unique: true, required: true } },
        { field: { options: [{ label: 'ruht' }, { label: 'aktiv' }, { label: 'Aktiv' }] } },
        { field: { type: 'reference', relation: 'People' }, reference: { by: 'name', entity: 'People' } },
        { column: 'Office' },
      ],
    });
  });
  it('keeps what was made of it when the page is left, and goes back to the proposal', async () => {
    const { user } = page('/schema/new?system=crm&file=f1');
    await user.click(await screen.findByRole('button', { name: 'What Status becomes' }));
    await user.click(await screen.findByRole('option', { name: 'left out' }));
    expect((await cellsOf('Status'))[2]).toBe('left out');
    expect(Object.keys(localStorage)).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'Back to the proposal' }));
    expect((await cellsOf('Status'))[2]).toBe('option, 2');
    expect(Object.keys(localStorage)).toHaveLength(0);
  });
  it('names what the server won’t take, with its path, and stays', async () => {
    const { user, where } = page('/schema/new?system=crm&file=f1', {
      'post /schema/:system/sheets': () =>
        refusal(422, 'Not acceptable as it is', 'No.', [
          { field: 'entities.0.name', reason: 'is taken: there is Apiary already' },
        ]),
    });
    await user.click(await screen.findByRole('button', { name: /^Make Apiary/ }));
    expect((await screen.findByRole('alert')).textContent).toContain('entities.0.name is taken');
    expect(where()).toContain('/schema/new');
  });
  it('can’t be made where the system makes none, and is taken along as a document instead', async () => {
    const { user } = page('/schema/new?system=crm&file=f1', {
      'get /schema/:system/abilities': { abilities: { ...ABLE, entities: false, removing: false, roles: [] } },
    });
    expect(await screen.findByText(/doesn’t let this connection make entities/)).toBeTruthy();
    expect((await screen.findByRole('button', { name: /^Make Apiary/ })).hasAttribute('disabled')).toBe(true);
    expect(screen.getByText(/the system removes none/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'As a document' }));
    const text = (await screen.findByRole('dialog')).querySelector('pre')!.textContent!;
    expect(JSON.parse(text).entities[0]).toMatchObject({ name: 'Apiary', fields: [{ name: 'reg_no' }, {}, {}] });
  });
  it('says why a sheet can’t be read', async () => {
    page('/schema/new?system=crm&file=f1', {
      'post /schema/:system/sheets/look': () =>
        refusal(422, 'The file could not be read', 'The file has no heading row.'),
    });
    expect((await screen.findByRole('alert')).textContent).toContain('no heading row');
  });
});

describe('a new entity out of a document', () => {
  const type = async (user: ReturnType<typeof page>['user'], text: string): Promise<void> => {
    await user.click(await screen.findByLabelText(/A definition document, or/));
    await user.paste(text);
    await user.click(screen.getByRole('button', { name: 'Read it' }));
  };
  const field = { name: 'number', label: 'Number', type: 'text' as const, unique: true };
  const document = {
    format: 1 as const,
    entities: [{ name: 'Nest', label: 'Nest', plural: 'Nests', fields: [field] }],
  };
  it('is compared with what is there, and what isn’t is made', async () => {
    const kind = { name: 'kind', label: 'Kind', type: 'option' as const };
    const { user, saidTo, where } = page('/schema/new?system=crm&from=document', {
      'post /schema/:system/definitions/read': {
        document,
        left: ['tags: holds anything'],
        compared: [
          { wanted: document.entities[0]!, fields: [{ wanted: field, stands: { how: 'missing' } }], more: [] },
          {
            ...{
              wanted: { name: 'Person', label: 'Person', plural: 'People', fields: [] },
              entity: 'People',
              more: ['Age'],
            },
            fields: [
              { wanted: field, stands: { how: 'same' } },
              {
                wanted: kind,
                stands: {
                  ...{ how: 'differs', field: 'kind', differences: ['lacks 1 of 3 options'] },
                  lacks: [{ value: 'c', label: 'C' }],
                },
              },
            ],
          },
        ],
      },
      'post /schema/:system/entities': { change: 'c2', entities: ['Nests'] },
    });
    await type(user, JSON.stringify(document));
    expect(await screen.findByText('new in Clover Hill')).toBeTruthy();
    expect(screen.getByText('+ will be made')).toBeTruthy();
    expect(screen.getByText('● the same')).toBeTruthy();
    expect(screen.getByText(/lacks 1 of 3 options/).textContent).toContain('(C)');
    expect(screen.getByText('There, and not in the document: Age')).toBeTruthy();
    expect(screen.getByText('◆ tags: holds anything')).toBeTruthy();
    expect(screen.getByText(/that Number is unique/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Make Nest' }));
    await waitFor(() => expect(where()).toBe('/schema/changes/c2'));
    expect(saidTo('post /schema/:system/entities')).toEqual([document]);
  });
  it('is refused with path and reason, or because it is no JSON', async () => {
    const { user } = page('/schema/new?system=crm&from=document', {
      'post /schema/:system/definitions/read': () =>
        refusal(422, 'Not acceptable as it is', 'No.', [
          { field: 'entities.0.fields.0.type', reason: 'must be one of …' },
        ]),
    });
    await type(user, '{"entities":');
    expect((await screen.findByRole('alert')).textContent).toMatch(/This is no JSON/);
    await user.clear(screen.getByLabelText(/A definition document, or/));
    await type(user, '{"entities":[]}');
    await waitFor(() =>
      expect(screen.getByRole('alert').textContent).toBe('entities.0.fields.0.type must be one of …'),
    );
  });
});
