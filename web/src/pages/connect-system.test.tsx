/** @jest-environment @happy-dom/jest-environment */
import type { LookedAt } from '@zusammen/core/api';
import { screen, waitFor } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { Connect } from './connect-system.tsx';

const LOOKED: Extract<LookedAt, { kind: 'json' }> = {
  ...{ kind: 'json', by: 'openapi', reasons: {}, unused: [], elsewhere: [] },
  adapter: {
    ...{
      format: 1,
      name: 'Reed post',
      address: 'https://reed.example',
      headers: [],
      refusal: { waits: [] },
      parallel: 8,
    },
    signIn: { kind: 'client credentials', tokenAddress: 'https://reed.example/token' },
    entities: [
      {
        name: 'readers',
        label: 'Reader',
        key: ['id'],
        fields: [{ name: 'id', label: 'Id', type: 'text', at: '/id' }],
        find: [],
        repeat: { by: 'none' },
        list: { path: '/readers', query: [], records: '', paging: { kind: 'none' } },
      },
    ],
  },
};
const MADE = { system: { id: 's1' } } as never;

const dialog = (answers: Answers) => {
  const done: [string, boolean][] = [];
  const shown = show(<Connect close={() => undefined} done={(id, adapter) => done.push([id, adapter])} />, { answers });
  return { ...shown, done };
};
const fill = async (user: ReturnType<typeof dialog>['user'], address: string, token = '') => {
  await user.type(await screen.findByLabelText('Name'), 'Reed');
  await user.type(screen.getByLabelText('Address'), address);
  if (token !== '') await user.type(screen.getByLabelText('Token'), token);
  await user.click(screen.getByRole('button', { name: 'Read and connect' }));
};

it('an API is said to be what it is, and what it takes to sign in is asked for then', async () => {
  const { user, saidTo, done } = dialog({ 'post /systems/look': LOOKED, 'post /systems': MADE });
  await fill(user, 'https://reed.example/openapi.json');
  expect(await screen.findByText(/plain JSON, by its OpenAPI description; 1 entity: Reader\./)).toBeTruthy();
  await user.type(screen.getByLabelText('Client id'), 'me');
  await user.type(screen.getByLabelText('Client secret'), 'hush');
  await user.click(screen.getByRole('button', { name: 'Connect' }));
  await waitFor(() => expect(done).toEqual([['s1', true]]));
  expect(saidTo('post /systems')).toEqual([
    expect.objectContaining({
      kind: 'json',
      name: 'Reed',
      address: 'https://reed.example/openapi.json',
      signIn: LOOKED.adapter.signIn,
      secrets: { clientId: 'me', clientSecret: 'hush' },
      practice: true,
    }),
  ]);
});

it('an OData service is connected at once with its token', async () => {
  const { user, saidTo, done } = dialog({
    'post /systems/look': { kind: 'odata', entities: 4 },
    'post /systems': MADE,
  });
  await fill(user, 'https://wren.example/odata/', 'secret');
  await waitFor(() => expect(done).toEqual([['s1', false]]));
  expect(saidTo('post /systems')).toEqual([
    { name: 'Reed', address: 'https://wren.example/odata/', token: 'secret', practice: true, personal: false },
  ]);
});

it('what can’t be made out is said at the address, and documents elsewhere are fetched only when allowed', async () => {
  const { user, saidTo } = dialog({
    'post /systems/look': ({ body }) =>
      (body as { follow?: boolean }).follow
        ? LOOKED
        : new Response(
            JSON.stringify({
              title: 'No',
              detail: 'It refers to documents elsewhere.',
              errors: [{ field: 'follow', reason: 'It refers to documents elsewhere.' }],
            }),
            { status: 422, headers: { 'Content-Type': 'application/problem+json' } },
          ),
  });
  await fill(user, 'https://reed.example/openapi.json');
  expect(await screen.findByText('It refers to documents elsewhere.')).toBeTruthy();
  await user.click(screen.getByLabelText(/Fetch the documents/));
  await user.click(screen.getByRole('button', { name: 'Read and connect' }));
  expect(await screen.findByLabelText('Client id')).toBeTruthy();
  expect((saidTo('post /systems/look') as { follow?: boolean }[]).map(({ follow }) => follow)).toEqual([
    undefined,
    true,
  ]);
});

it('an adapter as a file needs no address', async () => {
  const { user, saidTo } = dialog({
    'post /systems': () => refusal(422, 'No', 'Its token endpoint doesn’t know this client.'),
  });
  await user.type(await screen.findByLabelText('Name'), 'Reed');
  await user.upload(
    screen.getByLabelText('A description or an adapter as a file'),
    new File([JSON.stringify(LOOKED.adapter)], 'reed.adapter.json'),
  );
  await user.click(screen.getByRole('button', { name: 'Read and connect' }));
  expect(await screen.findByText(/by the adapter in the file/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Connect' }));
  expect(await screen.findByText('Its token endpoint doesn’t know this client.')).toBeTruthy();
  expect(saidTo('post /systems')).toEqual([
    expect.objectContaining({ kind: 'json', adapter: expect.objectContaining({ name: 'Reed post' }) }),
  ]);
});

it('an adapter that makes no sense is told where, and nobody is asked', async () => {
  const { user, asked } = dialog({});
  await user.type(await screen.findByLabelText('Name'), 'Reed');
  const wrong = { ...LOOKED.adapter, entities: [{ ...LOOKED.adapter.entities[0], key: ['nothing'] }] };
  await user.upload(
    screen.getByLabelText('A description or an adapter as a file'),
    new File([JSON.stringify(wrong)], 'reed.adapter.json'),
  );
  await user.click(screen.getByRole('button', { name: 'Read and connect' }));
  expect(await screen.findByText(/entities\.0\.key\.0 there is no field nothing/)).toBeTruthy();
  expect(asked).toEqual([]);
});
