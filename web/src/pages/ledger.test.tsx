/** @jest-environment @happy-dom/jest-environment */
import type { LedgerLine } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { show } from '../testing/page.tsx';
import { Ledger } from './ledger.tsx';

const LONG = 'Landungsbrücke und noch viel mehr davon. '.repeat(8).trim();
const change: LedgerLine = {
  ...{ id: 9, turn: 1, step: 's1', row: 0, attempt: 1, systemId: 'crm', entity: 'people', recordId: 'P-7' },
  ...{ action: 'update', state: 'written', refusal: null, intendedAt: '2026-11-26T08:00:00Z', settledAt: null },
  ...{
    actingPerson: null,
    actor: 'Mara Osterwisch',
    undoes: null,
    undoneBy: null,
    intakeId: 'i1',
    submissionId: 'x1',
    label: 'Orla Wren',
  },
  before: { city: 'Harrow', phone: null, note: 'short', kind: 'keeper' },
  after: { city: 'London', phone: '+44 1', note: LONG, kind: 'guest' },
  labels: { city: 'City', phone: 'Phone', note: 'Notes', kind: 'Kind' },
};

const ledger = (at: string) =>
  show(<Ledger />, {
    at,
    path: '/ledger',
    answers: {
      'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role: 'specialist', active: true } },
      'get /intakes': { intakes: [{ id: 'i1', name: 'Visit us', putAwayAt: null } as never] },
      'get /systems': { systems: [{ id: 'crm', name: 'Clover Hill' } as never] },
      'get /submissions': { submissions: [], counts: {} },
      'get /ledger': { changes: [change] },
    },
  });

describe('the ledger', () => {
  it('says of a change who, what, where, and from which form', async () => {
    ledger('/ledger?by=change');
    const row = (await screen.findByText('Orla Wren')).closest('tr')!;
    for (const said of ['Mara Osterwisch', 'Visit us', 'people, Clover Hill', 'P-7', 'Harrow', 'London'])
      await waitFor(() => expect(row.textContent).toContain(said));
  });

  it('shows whole values, the long ones and the many after asking', async () => {
    const { user } = ledger('/ledger?by=change');
    const row = (await screen.findByText('Orla Wren')).closest('tr')!;
    expect(row.textContent).toContain(LONG);
    expect(row.textContent).not.toContain('guest');
    await user.click(within(row).getByRole('button', { name: 'and 1 more' }));
    expect(row.textContent).toContain('guest');
  });

  it('keeps one search for submissions and changes', async () => {
    const { user, asked, where } = ledger('/ledger');
    await user.type(await screen.findByRole('searchbox'), 'P-7');
    await waitFor(() =>
      expect(asked.some(({ name, query }) => name === 'get /submissions' && query['text'] === 'P-7')).toBe(true),
    );
    await user.click(screen.getByRole('radio', { name: 'Changes' }));
    await waitFor(() =>
      expect(asked.some(({ name, query }) => name === 'get /ledger' && query['text'] === 'P-7')).toBe(true),
    );
    expect(where()).toContain('text=P-7');
  });
});
