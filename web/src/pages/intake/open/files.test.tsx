/** @jest-environment @happy-dom/jest-environment */
import type { FileRehearsal, ImportLine } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { rehearsedAs, showIntake } from '../testing.tsx';
import type { Answers } from '../../../testing/page.tsx';
import { Files } from './files.tsx';

jest.mock('../../../work/index.ts');
// Only the browser itself sends files with their progress.
jest.mock('../../../api/upload.ts', () => ({
  uploadFile: async () => ({ file: FILE, fields: [], oddities: [], facts: { format: 'csv' }, sample: [] }),
}));
const FILE = { id: 'f1', name: 'members.csv', rows: 3, columns: ['orchard'], bytes: 60 };

const REHEARSAL: FileRehearsal = {
  rows: 3,
  version: 2,
  results: [
    { row: 2, label: 'Wren Orchard', ...rehearsedAs('updated') },
    { row: 3, label: 'Hill Farm', ...rehearsedAs('created') },
    { row: 4, label: '', what: 'has 5 cells, the heading has 4' },
  ],
};
const JOB: ImportLine = {
  ...{
    id: 'j1',
    intakeId: 'i1',
    fileId: 'f0',
    fileName: 'old.csv',
    state: 'done',
    rows: 3,
    done: 3,
    accepted: 2,
    again: 0,
  },
  ...{ problems: [{ row: 4, what: 'has 5 cells' }], words: null, startedAt: '2026-11-26T08:00:00Z' },
  ...{ startedBy: 'Mara', endedAt: '2026-11-26T08:00:01Z' },
};

const files = (more: Answers = {}) =>
  showIntake('open', <Files />, {
    state: 'open',
    more: { 'get /intakes/:id/imports': { imports: [JOB] }, ...more },
  });

it('a chosen file is rehearsed row by row, and nothing is taken in until somebody says so', async () => {
  const { user, saidTo } = files({
    'post /intakes/:id/imports/rehearsal': REHEARSAL,
    'post /intakes/:id/imports': { import: JOB },
  });
  const input = await screen.findByLabelText<HTMLInputElement>('A file with submissions');
  await waitFor(() => expect(input.disabled).toBe(false));
  await user.upload(input, new File(['orchard\nA'], 'members.csv', { type: 'text/csv' }));
  const told = await screen.findByRole('region', { name: 'members.csv rehearsed' });
  await waitFor(() => expect(told.textContent).toContain('1 record changed, 1 record new'));
  expect(told.textContent).toContain('nothing is written yet');
  expect(saidTo('post /intakes/:id/imports')).toEqual([]);
  // A row opened shows what the record holds now and what it would hold.
  await user.click(within(told).getByRole('button', { name: 'Wren Orchard', expanded: false }));
  const name = within(told).getByRole('cell', { name: 'Name' }).closest('tr')!;
  expect(
    within(name)
      .getAllByRole('cell')
      .map(({ textContent }) => textContent),
  ).toEqual(['Name', 'Wren', 'Wren Orchard']);
  await user.click(within(told).getByRole('radio', { name: /can’t be taken in 1/ }));
  expect(within(told).getAllByRole('row')).toHaveLength(1);
  await user.click(within(told).getByRole('button', { name: 'Take in the 3 rows' }));
  await waitFor(() => expect(saidTo('post /intakes/:id/imports')).toEqual([{ file: 'f1' }]));
  await waitFor(() => expect(screen.queryByRole('region', { name: /rehearsed/ })).toBeNull());
});

it('one that isn’t taken in after all leaves nothing behind', async () => {
  const { user, saidTo } = files({ 'post /intakes/:id/imports/rehearsal': REHEARSAL });
  const input = await screen.findByLabelText<HTMLInputElement>('A file with submissions');
  await waitFor(() => expect(input.disabled).toBe(false));
  await user.upload(input, new File(['x'], 'members.csv', { type: 'text/csv' }));
  await user.click(await screen.findByRole('button', { name: 'Not now' }));
  expect(saidTo('post /intakes/:id/imports')).toEqual([]);
});

it('a report counts what became of the rows, shows one state, and isn’t green where rows failed', async () => {
  const { user, asked } = files({
    'get /imports/:id/rows': ({ query }) => ({
      import: JOB,
      rows:
        query['state'] === 'refused' ? [] : [{ row: 2, submission: 's', state: 'applied', label: 'Wren', words: null }],
      totals: { applied: 1, refused: 1 },
    }),
  });
  expect((await screen.findByText(/◆ done/)).textContent).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'old.csv' }));
  expect(await screen.findByText('not taken in: has 5 cells')).toBeTruthy();
  await user.click(await screen.findByRole('radio', { name: 'refused 1' }));
  await waitFor(() =>
    expect(asked.some(({ name, query }) => name === 'get /imports/:id/rows' && query['state'] === 'refused')).toBe(
      true,
    ),
  );
  expect(screen.getByRole('link', { name: 'Take along as CSV' }).getAttribute('href')).toBe('/api/imports/j1/report');
});
