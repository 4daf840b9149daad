/** @jest-environment @happy-dom/jest-environment */
import type { SystemDetail } from '@zusammen/core/api';
import { screen } from '@testing-library/react';
import { makeEntity, makeField } from '../../../../core/testing/world.ts';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { Doubles } from './doubles.tsx';

const SYSTEM = {
  system: { id: 'crm', name: 'Clover Hill' },
  schema: { entities: [makeEntity('keepers', [makeField('name')], { label: 'Keeper' })] },
  differences: [],
} as unknown as SystemDetail;

const doubles = (at: string, more: Answers = {}) =>
  show(<Doubles />, {
    at,
    path: '/schema/doubles',
    answers: {
      'get /session': { user: { id: 'u', email: 'm@wren.example', name: 'Mara', role: 'specialist', active: true } },
      'get /systems/:id': SYSTEM,
      'get /recognitions': { recognitions: [] },
      'get /systems/:id/entities/:entity/doubles': () => refusal(404, 'Not set up', 'Nobody has said yet …'),
      ...more,
    },
  });

it('leads to where recognition is set up, where it isn’t yet, rather than failing', async () => {
  doubles('/schema/doubles?system=crm&entity=keepers');
  expect(await screen.findByText('It isn’t set up yet how a Keeper is recognised')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Set it up' }).getAttribute('href')).toBe(
    '/schema/recognition?system=crm&entity=keepers',
  );
  expect(screen.queryByRole('alert')).toBeNull();
});

it('says that there is no such entity, and where the others are', async () => {
  doubles('/schema/doubles?system=crm&entity=ghosts');
  expect(await screen.findByText('There is no such entity')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Go to Schema' }).getAttribute('href')).toBe('/schema');
});

it('says what failed where something did', async () => {
  doubles('/schema/doubles?system=crm&entity=keepers', {
    'get /systems/:id/entities/:entity/doubles': () => refusal(503, 'Away', 'The database doesn’t answer.'),
  });
  expect((await screen.findByRole('alert')).textContent).toContain('The database doesn’t answer.');
});

it('nobody has looked yet: says so, and offers to', async () => {
  doubles('/schema/doubles?system=crm&entity=keepers', {
    'get /systems/:id/entities/:entity/doubles': { searches: [], groups: [], counts: {} } as never,
  });
  expect(await screen.findByText('Nobody has looked for doubles among these records yet.')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Look for doubles' })).toBeTruthy();
});
