/** @jest-environment @happy-dom/jest-environment */
import type { AdapterDocument, AdapterTrial } from '@zusammen/core/adapters';
import type { AdapterDetail, System } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { Adapter } from './adapter.tsx';
import { SignedIn } from './signed-in.tsx';

const SYSTEM: System = {
  ...{
    id: 'reed',
    name: 'Reed post',
    kind: 'json',
    adapterVersion: 1,
    adapterDrift: null,
    address: 'https://reed.example/v1',
  },
  ...{
    practice: true,
    personal: true,
    recordPage: null,
    state: 'answers',
    stateWords: null,
    latencyMs: 20,
    checkedAt: '2026-11-27T08:00:00Z',
  },
  capabilities: { repeatability: true, batch: false, delta: false, etags: true },
};
const DOCUMENT: AdapterDocument = {
  ...{
    format: 1,
    name: 'Reed post',
    address: 'https://reed.example/v1',
    describedAt: 'https://reed.example/openapi.json',
    signIn: { kind: 'bearer' },
    headers: [],
    refusal: { waits: [] },
    parallel: 8,
  },
  entities: [
    {
      ...{
        name: 'readers',
        label: 'Reader',
        key: ['id'],
        find: [{ field: 'mail', parameter: 'mail' }],
        repeat: { by: 'key', header: 'Idempotency-Key' },
      },
      fields: [
        { name: 'id', label: 'Id', type: 'text', at: '/id', readOnly: true },
        { name: 'mail', label: 'Mail', type: 'email', at: '/mail', required: true, maxBytes: 120 },
        { name: 'seen', label: 'Seen', type: 'date and time', at: '/seen' },
      ],
      list: { path: '/readers', query: [], records: '/items', paging: { kind: 'page', parameter: 'page', first: 1 } },
      read: { path: '/readers/{id}', record: '' },
      create: { method: 'POST', path: '/readers', body: '', fixed: [], record: '' },
      update: { method: 'PATCH', path: '/readers/{id}', body: '', fixed: [] },
    },
    {
      ...{ name: 'issues', label: 'Issue', key: ['id'], find: [], repeat: { by: 'none' } },
      fields: [{ name: 'id', label: 'Id', type: 'integer', at: '/id' }],
      list: { path: '/issues', query: [], records: '', paging: { kind: 'none' } },
    },
  ],
};
const TRIAL: AdapterTrial = {
  ...{
    entity: 'readers',
    operation: 'list',
    state: 'worked',
    words: '2 records on the first page.',
    request: 'GET /readers',
    status: 200,
    ms: 12,
  },
  answer: '{"items":[{"id":"r1","mail":"ida@wren.example"}],"next":null}',
  marks: [
    { at: '/items', as: 'records' },
    { at: '/items/0/id', as: 'id' },
  ],
};
const detail = (more: Partial<AdapterDetail> = {}): AdapterDetail => ({
  ...{
    document: DOCUMENT,
    version: 1,
    trials: [],
    unused: [{ path: '/health', why: 'what it answers is no list of records' }],
  },
  reasons: {
    'readers/records': { why: 'it is the only list of objects in its answer', sure: 0.95 },
    'readers/paging': { why: 'there is a parameter page', sure: 0.55 },
  },
  versions: [{ version: 1, at: '2026-11-27T08:00:00Z', by: 'Mara' }],
  ...more,
});

beforeEach(() => sessionStorage.clear());

const opened = (
  more: Answers = {},
  {
    role = 'administrator',
    system = SYSTEM,
    known = detail(),
  }: { role?: 'administrator' | 'viewer'; system?: System; known?: AdapterDetail } = {},
) =>
  show(<Adapter />, {
    at: '/systems/reed/adapter',
    path: '/systems/:id/adapter',
    answers: {
      'get /session': {
        user: {
          id: 'u1',
          email: 'm@wren.example',
          name: 'Mara',
          role,
          active: true,
          createdAt: '2026-01-01T00:00:00Z',
        },
      } as never,
      'get /systems/:id': { system, schema: { entities: [] }, differences: [] },
      'get /systems/:id/adapter': known,
      ...more,
    },
  });

it('how a system is spoken to stands in sentences, each with its reason and how sure that is', async () => {
  opened();
  expect(await screen.findByText(/there is a parameter page\. A guess: 55 %/)).toBeTruthy();
  expect(screen.getByRole('button', { name: 'How pages follow one another: a page number' })).toBeTruthy();
  expect(screen.getByText(/No versions:/)).toBeTruthy();
  expect(screen.getByText('1 path not used')).toBeTruthy();
  expect(screen.getByText(/Fields and options are added there, not from here/)).toBeTruthy();
  expect(screen.getByRole('button', { name: /Rules of Mail: needed, 120 bytes/ })).toBeTruthy();
});

it('what of its schema can be changed from here is said, or that nothing can', async () => {
  const addOption = { method: 'POST' as const, path: '/fields/{entity}/{field}/options', value: '/option' };
  const addField = {
    ...{ method: 'POST' as const, path: '/fields', name: '/name', kind: '/kind' },
    kinds: [{ type: 'text' as const, value: 'string' }],
  };
  opened({}, { known: { ...detail(), document: { ...DOCUMENT, schemaChanges: { addOption, addField } } } });
  expect(await screen.findByText('POST /fields/{entity}/{field}/options')).toBeTruthy();
  expect(screen.getByText(/of the kinds string/)).toBeTruthy();
  expect(screen.queryByText(/Fields and options are added there/)).toBeNull();
});

it('a part is edited in place, undone, and kept as a new version', async () => {
  const { user, saidTo } = opened({ 'put /systems/:id/adapter': { version: 2, differences: [] } });
  await user.click(await screen.findByRole('button', { name: 'How pages follow one another: a page number' }));
  await user.click(await screen.findByRole('option', { name: 'an offset' }));
  expect(screen.getByRole('button', { name: 'How pages follow one another: an offset' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Undo' }));
  expect(screen.getByRole('button', { name: 'How pages follow one another: a page number' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Where the records stand: /items' }));
  const box = await screen.findByLabelText('Where the records stand');
  await user.clear(box);
  await user.type(box, '/data{Enter}');
  await user.click(screen.getByRole('button', { name: 'Save version 2' }));
  await waitFor(() => expect(saidTo('put /systems/:id/adapter')).toHaveLength(1));
  const [{ document, version }] = saidTo('put /systems/:id/adapter') as [
    { document: AdapterDocument; version: number },
  ];
  expect([version, document.entities[0]!.list!.records]).toEqual([1, '/data']);
});

it('what isn’t saved yet is still there when one comes back', async () => {
  const first = opened();
  await first.user.click(await screen.findByRole('button', { name: 'How pages follow one another: a page number' }));
  await first.user.click(await screen.findByRole('option', { name: 'an offset' }));
  expect(JSON.parse(sessionStorage.getItem('adapter reed 1')!)).toMatchObject({
    entities: [{ list: { paging: { kind: 'offset' } } }, {}],
  });
});

it('all is tried entity by entity, and the answer stands beside with the parts that are used', async () => {
  const { user, saidTo } = opened({
    'post /systems/:id/adapter/try': ({ body }) => ({
      trials: (body as { entities: string[] }).entities[0] === 'readers' ? [TRIAL] : [],
    }),
  });
  await user.click(await screen.findByRole('button', { name: /^Try all/ }));
  expect(await screen.findByText('2 records on the first page.')).toBeTruthy();
  expect(within(screen.getByLabelText('What it answered')).getByText('"items"').tagName).toBe('MARK');
  await waitFor(() =>
    expect(saidTo('post /systems/:id/adapter/try')).toEqual([
      { entities: ['readers'], writes: true },
      { entities: ['issues'], writes: true },
    ]),
  );
});

it('a real system is written to only when that was asked for', async () => {
  const { user, saidTo } = opened(
    { 'post /systems/:id/adapter/try': { trials: [] } },
    { system: { ...SYSTEM, practice: false } },
  );
  await user.click(await screen.findByRole('button', { name: /^Try all/ }));
  expect(saidTo('post /systems/:id/adapter/try')).toEqual([]);
  await user.click(await screen.findByRole('button', { name: 'Try reading only' }));
  await waitFor(() => expect(saidTo('post /systems/:id/adapter/try')).toHaveLength(2));
  expect(saidTo('post /systems/:id/adapter/try')).toEqual(
    expect.arrayContaining([expect.objectContaining({ writes: false })]),
  );
});

it('what fails is said in the system’s words, and what would set it right is one click', async () => {
  const failed: AdapterTrial = {
    ...TRIAL,
    operation: 'find',
    state: 'failed',
    words: 'It pays no attention to mail and gives others too.',
    mend: { words: 'It isn’t searched by then.', set: [{ at: '/find/{parameter=mail}', value: null }] },
  };
  const { user } = opened({}, { known: detail({ trials: [failed] }) });
  expect((await screen.findAllByText(/It pays no attention to mail/)).length).toBeGreaterThan(0);
  expect(screen.getByText(/■ 0 of/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Make use of it' }));
  expect(await screen.findByText(/by no field: all are/)).toBeTruthy();
});

it('an API that has changed says so; all of it is taken over at once, and told to the server as caught up', async () => {
  const difference = {
    entity: 'readers',
    part: 'paging',
    what: 'Paging was by page, and is by cursor.',
    breaks: true,
    mend: {
      words: 'Take it over.',
      set: [{ at: '/list/paging', value: { kind: 'cursor', at: '/next', parameter: 'cursor' } }],
    },
  };
  const { user, saidTo } = opened(
    { 'put /systems/:id/adapter': { version: 2, differences: [] } },
    { system: { ...SYSTEM, adapterDrift: [difference] } },
  );
  expect(await screen.findByText('Paging was by page, and is by cursor.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take all 1 over' }));
  expect(screen.getByRole('button', { name: 'How pages follow one another: a cursor' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Save version 2' }));
  await waitFor(() =>
    expect(saidTo('put /systems/:id/adapter')).toEqual([expect.objectContaining({ caughtUp: true })]),
  );
});

it('as a document it is refused place by place while it makes no sense, and taken when it does', async () => {
  const { user } = opened();
  await user.click(await screen.findByRole('button', { name: 'As a document' }));
  const box = await screen.findByLabelText('The adapter as JSON');
  await user.clear(box);
  await user.click(box);
  await user.paste('{"format": 1');
  await user.click(screen.getByRole('button', { name: 'Take this one' }));
  expect(await screen.findByText(/It isn’t JSON/)).toBeTruthy();
  await user.clear(box);
  await user.paste(JSON.stringify({ ...DOCUMENT, entities: [{ ...DOCUMENT.entities[1], key: ['nothing'] }] }));
  await user.click(screen.getByRole('button', { name: 'Take this one' }));
  expect(await screen.findByText('entities.0.key.0 there is no field nothing')).toBeTruthy();
  await user.clear(box);
  await user.paste(JSON.stringify({ ...DOCUMENT, entities: [DOCUMENT.entities[1]] }));
  await user.click(screen.getByRole('button', { name: 'Take this one' }));
  await waitFor(() => expect(screen.queryByText('Reader')).toBeNull());
});

it('who may only look can change and try nothing', async () => {
  opened({}, { role: 'viewer' });
  const part = await screen.findByRole<HTMLButtonElement>('button', {
    name: 'How pages follow one another: a page number',
  });
  expect(part.disabled).toBe(true);
  expect([screen.queryByRole('button', { name: /^Try all/ }), screen.queryByRole('button', { name: /^Save/ })]).toEqual(
    [null, null],
  );
});

it('a sign-in that nobody asked for is said to be none, with the way back', async () => {
  const { saidTo } = show(<SignedIn />, {
    at: '/systems/signed-in?code=c&state=s',
    path: '/systems/signed-in',
    answers: {
      'post /systems/signed-in': () => refusal(400, 'Not expected', 'Nobody here has asked for this sign-in.'),
    },
  });
  expect(await screen.findByText(/Nobody here has asked for this sign-in/)).toBeTruthy();
  expect(saidTo('post /systems/signed-in')).toEqual([{ query: 'code=c&state=s' }]);
  expect(screen.getByRole('link', { name: 'Back to the systems' })).toBeTruthy();
});
