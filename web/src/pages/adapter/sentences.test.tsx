/** @jest-environment @happy-dom/jest-environment */
import type { AdapterDocument, AdapterTrial, EntityAdapter } from '@zusammen/core/adapters';
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { show } from '../../testing/page.tsx';
import { Around, Lacks, SignsIn } from './around.tsx';
import { Fields } from './fields.tsx';
import { Sentences } from './sentences.tsx';

/** Every part of every sentence can be corrected, and says what it then is. */
const READERS: EntityAdapter = {
  ...{ name: 'readers', label: 'Reader', key: ['id'], repeat: { by: 'key', header: 'Idempotency-Key' } },
  find: [{ field: 'mail', parameter: 'mail' }],
  fields: [
    { name: 'id', label: 'Id', type: 'text', at: '/id', readOnly: true },
    { name: 'mail', label: 'Mail', type: 'email', at: '/mail', required: true, maxLength: 120 },
    { name: 'note', label: 'Note', type: 'text', at: '/note' },
    { name: 'rev', label: 'Rev', type: 'integer', at: '/rev', readOnly: true },
    { name: 'seen', label: 'Seen', type: 'date and time', at: '/seen' },
    {
      ...{ name: 'kind', label: 'Kind', type: 'option', at: '/kind' },
      options: Array.from({ length: 14 }, (_, at) => ({ value: `k${at}`, label: `Kind ${at}` })),
    },
  ],
  list: {
    ...{ path: '/readers', query: [], records: '/items' },
    paging: { kind: 'page', parameter: 'page', first: 1, sizeParameter: 'limit', size: 100 },
  },
  read: { path: '/readers/{id}', record: '' },
  create: { method: 'POST', path: '/readers', body: '', fixed: [], record: '' },
  update: { method: 'PATCH', path: '/readers/{id}', body: '', fixed: [] },
  remove: { path: '/readers/{id}' },
};
const ABOUT: AdapterDocument = {
  ...{ format: 1, name: 'Reed post', address: 'https://reed.example/v1', headers: [], parallel: 8 },
  signIn: { kind: 'bearer' },
  refusal: { waits: [503], each: '/errors', words: '/message' },
  entities: [READERS],
};

type User = ReturnType<typeof show>['user'];

function edited(entity: EntityAdapter = READERS, trials: AdapterTrial[] = [], locked = false) {
  const seen = { entity };
  function Held() {
    const [now, set] = useState(entity);
    seen.entity = now;
    const props = {
      entity: now,
      reasons: {},
      change: (how: (each: EntityAdapter) => EntityAdapter) => set(how),
      locked,
    };
    return (
      <>
        <Sentences {...props} trials={trials} shown={undefined} show={() => undefined} />
        <Fields {...props} />
      </>
    );
  }
  const { user } = show(<Held />, { at: '/' });
  return { user, now: () => seen.entity };
}

const choose = async (user: User, part: string, option: string): Promise<void> => {
  await user.click(screen.getByRole('button', { name: part }));
  await user.click(await screen.findByRole('option', { name: new RegExp(`^${option}`) }));
};
const write = async (user: User, part: string, text: string): Promise<void> => {
  await user.click(screen.getByRole('button', { name: part }));
  const box = await screen.findByRole('textbox');
  await user.clear(box);
  if (text !== '') await user.type(box, text.replaceAll('{', '{{'));
  await user.click(screen.getByRole('button', { name: 'Take it' }));
};

it.each<[part: string, option: string, becomes: Partial<EntityAdapter>]>([
  [
    'How pages follow one another: a page number',
    'a cursor',
    { list: { ...READERS.list!, paging: { ...READERS.list!.paging, kind: 'cursor' } } },
  ],
  ['What names a record: id', 'mail', { key: ['mail'] }],
  ['Field that is searched by: Mail', 'Note', { find: [{ field: 'note', parameter: 'mail' }] }],
  ['Field that is searched by: Mail', 'not by this', { find: [] }],
  ['Search by another field: add one', 'Note', { find: [...READERS.find, { field: 'note', parameter: 'note' }] }],
  ['Method of creating: POST', 'PUT', { create: { ...READERS.create!, method: 'PUT' } }],
  [
    'What makes sending again safe: a header makes it done once',
    'a mark of ours',
    { repeat: { by: 'marker', field: 'note' } },
  ],
  ['What makes sending again safe: a header makes it done once', 'it is looked for', { repeat: { by: 'looking' } }],
  ['What makes sending again safe: a header makes it done once', 'Review asks', { repeat: { by: 'none' } }],
  ['Method of changing: PATCH', 'PUT', { update: { ...READERS.update!, method: 'PUT' } }],
  ['What is sent: only what changed', 'the whole record', { update: { ...READERS.update!, whole: true } }],
  [
    'How a change by somebody else is noticed: it is as it was read just before',
    'If-Match: its ETag',
    { version: { by: 'ETag', sent: 'If-Match' } },
  ],
  [
    'How a change by somebody else is noticed: it is as it was read just before',
    'a field sent with it',
    { version: { by: 'field', field: 'rev', sent: 'body' } },
  ],
  [
    'How a change by somebody else is noticed: it is as it was read just before',
    'a parameter says',
    { version: { by: 'field', field: 'rev', sent: 'query', parameter: 'rev' } },
  ],
  [
    'Kind of Note: text',
    'long text',
    { fields: READERS.fields.map((each) => (each.name === 'note' ? { ...each, type: 'long text' as const } : each)) },
  ],
])('“%s” can be “%s”', async (part, option, becomes) => {
  const { user, now } = edited();
  await choose(user, part, option);
  expect(now()).toEqual({ ...READERS, ...becomes });
});

const withField = (name: string, more: object): Partial<EntityAdapter> => ({
  fields: READERS.fields.map((each) => (each.name === name ? { ...each, ...more } : each)),
});
const withPaging = (more: object): Partial<EntityAdapter> => ({
  list: { ...READERS.list!, paging: { ...READERS.list!.paging, ...more } },
});

it.each<[part: string, text: string, becomes: Partial<EntityAdapter>]>([
  ['Path of the list: /readers', '/people', { list: { ...READERS.list!, path: '/people' } }],
  ['Where the records stand: /items', '', { list: { ...READERS.list!, records: '' } }],
  ['Parameter of the next page: page', 'p', withPaging({ parameter: 'p' })],
  ['Records at a time: 100', '250.7', withPaging({ size: 250 })],
  ['Records at a time: 100', 'many', {}],
  ['Records at a time: 100', '0', {}],
  ['Parameter of the page size: limit', 'size', withPaging({ sizeParameter: 'size' })],
  ['Path of a single record: /readers/{id}', '/reader/{id}', { read: { path: '/reader/{id}', record: '' } }],
  ['Where the record stands: the root', '/data', { read: { path: '/readers/{id}', record: '/data' } }],
  ['Parameter: mail', 'q=mail:{value}', { find: [{ field: 'mail', parameter: 'q', template: 'mail:{value}' }] }],
  ['Parameter: mail', 'address', { find: [{ field: 'mail', parameter: 'address' }] }],
  ['Parameter: mail', '', {}],
  ['Path of creating: /readers', '/people', { create: { ...READERS.create!, path: '/people' } }],
  ['Where the record stands in what is sent: the root', '/data', { create: { ...READERS.create!, body: '/data' } }],
  ['Header of the idempotency key: Idempotency-Key', 'X-Once', { repeat: { by: 'key', header: 'X-Once' } }],
  ['Path of changing: /readers/{id}', '/people/{id}', { update: { ...READERS.update!, path: '/people/{id}' } }],
  ['Path of deleting: /readers/{id}', '/people/{id}', { remove: { path: '/people/{id}' } }],
  ['Parameter of changes: there is a parameter', 'since', { changes: { parameter: 'since', field: 'seen' } }],
  ['Label: Note', 'Remark', withField('note', { label: 'Remark' })],
  ['Label: Note', '', {}],
  ['Where Note stands: /note', '/more/note', withField('note', { at: '/more/note' })],
])('“%s” can be written “%s”', async (part, text, becomes) => {
  const { user, now } = edited();
  await write(user, part, text);
  expect(now()).toEqual({ ...READERS, ...becomes });
});

it('a parameter of changes that is taken away leaves all to be compared', async () => {
  const { user, now } = edited({ ...READERS, changes: { parameter: 'since', field: 'seen' } });
  expect(screen.getByText(/deletions are not told/)).toBeTruthy();
  await write(user, 'Parameter of changes: since', '');
  expect(now()).toEqual(READERS);
  expect(screen.getByText(/all is compared every ten minutes/)).toBeTruthy();
});

it('a field’s rules are ticked, bounded, and written as the API writes it', async () => {
  const { user, now } = edited();
  const mail = () => now().fields.find(({ name }) => name === 'mail')!;
  await user.click(screen.getByRole('button', { name: 'Rules of Mail: needed, 120 characters' }));
  await user.click(await screen.findByLabelText('No two records have the same'));
  await user.click(screen.getByLabelText('Needed to create a record'));
  expect(mail()).toMatchObject({ unique: true });
  expect(mail()).not.toHaveProperty('required');
  await user.clear(screen.getByLabelText('Characters at most'));
  expect(mail()).not.toHaveProperty('maxLength');
  await user.type(screen.getByLabelText('Bytes at most'), '80');
  await user.selectOptions(screen.getByLabelText('Written'), 'one text with commas');
  expect(mail()).toMatchObject({ maxBytes: 80, form: 'commas' });
  await user.selectOptions(screen.getByLabelText('Written'), 'as usual in JSON');
  expect(mail()).not.toHaveProperty('form');
  await user.keyboard('{Escape}');
  await user.click(screen.getByRole('button', { name: 'Rules of Kind: 14 options' }));
  expect(await screen.findByText(/Kind 11 and 2 more$/)).toBeTruthy();
});

it('what failed says why under its sentence, and what can’t be changed has nothing to click', () => {
  const trial: AdapterTrial = { entity: 'readers', operation: 'read', state: 'failed', words: 'It answers 500.' };
  edited(READERS, [trial, { ...trial, operation: 'delete', state: 'untried', words: 'Not asked for.' }], true);
  expect(screen.getByRole('button', { name: 'read: It answers 500. Show its answer' }).textContent).toBe(
    '■ read fails',
  );
  expect(screen.getByText('It answers 500.')).toBeTruthy();
  expect(screen.getByText('○ delete not tried')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Path of the list: /readers' })).toHaveProperty('disabled', true);
  expect(screen.queryByRole('button', { name: /Search by another field/ })).toBeNull();
});

describe('around the entities', () => {
  function around() {
    const seen = { document: ABOUT };
    function Held() {
      const [document, set] = useState(ABOUT);
      seen.document = document;
      const props = { document, set, locked: false };
      return (
        <>
          <SignsIn {...props} />
          <Around {...props} />
          <Lacks entity={READERS} parallel={document.parallel} />
        </>
      );
    }
    const { user } = show(<Held />, { at: '/' });
    return { user, now: () => seen.document };
  }

  it('how it is signed in asks for what that way needs', async () => {
    const { user, now } = around();
    await choose(user, 'How it is signed in: a token', 'a key in a header');
    await write(user, 'Its name: …', 'X-Key');
    expect(now().signIn).toEqual({ kind: 'header', name: 'X-Key' });
    await choose(user, 'How it is signed in: a key in a header', 'somebody signing in there');
    await write(user, 'Where tokens are fetched: …', 'https://reed.example/token');
    await write(user, 'Where people sign in: …', 'https://reed.example/authorize');
    expect(now().signIn).toMatchObject({
      kind: 'authorization code',
      tokenAddress: 'https://reed.example/token',
      authorizeAddress: 'https://reed.example/authorize',
    });
  });

  it('where it is, how much at once it takes, and what a no looks like', async () => {
    const { user, now } = around();
    expect(screen.getByText(/429 and 503 means to wait/)).toBeTruthy();
    await write(user, 'Address: https://reed.example/v1', 'https://reed.example/v2');
    await write(user, 'Requests at a time: 8', '900');
    await write(user, 'Where the words stand: /message', '');
    await write(user, 'Where the list of complaints stands: /errors', '/problems');
    expect(now()).toMatchObject({
      address: 'https://reed.example/v2',
      parallel: 64,
      refusal: { waits: [503], each: '/problems' },
    });
    expect(now().refusal).not.toHaveProperty('words');
    expect(screen.getByText(/64 at a time/)).toBeTruthy();
  });
});
