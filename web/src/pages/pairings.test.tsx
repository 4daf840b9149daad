/** @jest-environment @happy-dom/jest-environment */
import type { PairingDetail, PairingListed, PairingLook, PairQuestion, SystemDetail, User } from '@zusammen/core/api';
import { freshLine, freshPairing, type Pairing as PairingDocument } from '@zusammen/core/pairing';
import type { Field } from '@zusammen/core/schema';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { Pairing } from './pairing/pairing.tsx';
import { Pairings } from './pairings.tsx';
import { PairsInReview } from './review/pairs.tsx';

const field = (name: string, label: string, more: Partial<Field> = {}): Field => ({
  ...{ name, label, type: 'text', required: false, unique: false, computed: false, immutable: false },
  ...{ rights: 'read and write', ...more },
});
const entity = (name: string, label: string, fields: Field[]) => ({
  ...{ name, label, key: 'id', alternateKeys: [], fields: [field('id', 'Id', { type: 'id' }), ...fields] },
  rights: { read: true, create: true, update: true, delete: true },
});
const system = (id: string, name: string, each: ReturnType<typeof entity>): SystemDetail =>
  ({ system: { id, name }, schema: { entities: [each] }, differences: [] }) as unknown as SystemDetail;
const SYSTEMS: Record<string, SystemDetail> = {
  post: system(
    'post',
    'Letters',
    entity('subscribers', 'Subscriber', [field('given', 'Given name'), field('keeper', 'Keeper')]),
  ),
  crm: system(
    'crm',
    'Orchard CRM',
    entity('people', 'Person', [field('first', 'First name'), field('last', 'Family name')]),
  ),
};

const document: PairingDocument = {
  ...freshPairing(
    'Readers with people',
    { system: 'post', entity: 'subscribers' },
    { system: 'crm', entity: 'people' },
  ),
  matches: [{ parts: [{ left: ['given'], right: ['first'] }] }],
  lines: [
    { ...freshLine('g', ['given'], ['first']), decides: 'left' },
    { ...freshLine('k', ['keeper'], ['last']), way: 'to left' },
  ],
};
const listed: PairingListed = {
  ...{ id: 'p1', name: document.name, state: 'running', filled: true, behindMs: 4_000, words: null },
  left: { system: 'post', systemName: 'Letters', entity: 'subscribers', entityLabel: 'Subscriber' },
  right: { system: 'crm', systemName: 'Orchard CRM', entity: 'people', entityLabel: 'Person' },
  states: { inStep: 180, onTheWay: 2, asked: 3, refused: 31 },
};
const detail: PairingDetail = {
  ...listed,
  ...{ draft: document, revision: 4, liveVersion: 2, live: document, versions: [], progress: null, beats: [] },
  recognises: { left: false, right: true },
  makesFields: { left: true, right: false },
  causes: [
    {
      ...{ kind: 'refused', cause: 'c1', line: 'g', side: 'left', words: '“Wanderimkerei” is not among the options' },
      ...{ count: 31, pair: 9, now: { left: null, right: 'Wanderimkerei' } },
    },
  ],
};
const look: PairingLook = {
  ...{ by: 'pairs', pairs: 216, measured: null, whole: { left: true, right: true } },
  findings: [{ id: 'K04', severity: 'look', place: { line: 'k' }, sentence: 'Keeper keeps a date only, in 2 pairs.' }],
  lines: [
    {
      ...{ line: 'g', differ: 12, lost: [], stuck: [] },
      counts: { same: 204, 'to right': 11, 'to left': 0, undone: 1, asked: 0, stuck: 0, left: 0 },
      examples: [
        {
          ...{ ids: { left: 's1', right: 'P1' }, outcome: 'undone', base: { left: 'honey', right: 'honey' } },
          ...{ now: { left: 'honey', right: 'queens' }, write: { side: 'right', value: 'honey' } },
        },
      ],
    },
  ],
};
const user = (role: User['role']): { user: User } => ({
  user: { id: 'u', name: 'Mara', email: 'm@x.example', role } as User,
});

function one(answers: Answers = {}, role: User['role'] = 'specialist') {
  return show(<Pairing />, {
    at: '/pairings/p1',
    path: '/pairings/:id',
    answers: {
      'get /session': user(role),
      'get /systems/:id': ({ params }) => SYSTEMS[params['id']!]!,
      'post /pairings/:id/look': look,
      ...answers,
      'get /pairings/:id': answers['get /pairings/:id'] ?? { pairing: detail },
    },
  });
}

describe('the list of pairings', () => {
  it('tells how each stands, and what holds it up', async () => {
    show(<Pairings />, {
      answers: {
        'get /session': user('viewer'),
        'get /pairings': {
          pairings: [listed, { ...listed, id: 'p2', name: 'Lines', words: 'Letters doesn’t answer.' }],
        },
      },
    });
    const row = (await screen.findByRole('link', { name: 'Readers with people' })).closest('tr')!;
    expect(row.textContent).toContain('in step, 4 s behind');
    expect(within(row).getByText('31')).toBeTruthy();
    expect(screen.getByText('Letters doesn’t answer.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /New pairing/ })).toBeNull();
  });

  it('says what a pairing is where there is none', async () => {
    show(<Pairings />, { answers: { 'get /session': user('specialist'), 'get /pairings': { pairings: [] } } });
    expect(await screen.findByText('No pairing yet')).toBeTruthy();
  });
});

describe('a pairing', () => {
  it('shows for a field what would happen, with the values', async () => {
    one();
    expect(await screen.findByText('a change is undone')).toBeTruthy();
    const row = screen.getByText('a change is undone').closest('tr')!;
    expect(row.textContent).toContain('Subscriber decides: Person becomes honey');
    expect(screen.getByText('All 31').closest('li')!.textContent).toContain('“Wanderimkerei” is not among the options');
    expect(screen.getByText('Keeper keeps a date only, in 2 pairs.')).toBeTruthy();
  });

  it('keeps what is changed, and takes it back', async () => {
    const { user: person, saidTo } = one({ 'put /pairings/:id/draft': { revision: 5 } });
    const decides = await screen.findByRole('radiogroup', { name: 'Who decides about Given name' });
    await person.click(within(decides).getByRole('radio', { name: 'Somebody is asked' }));
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(1));
    expect(saidTo('put /pairings/:id/draft')[0]).toMatchObject({
      revision: 4,
      document: { lines: [{ decides: 'ask' }, {}] },
    });
    await person.click(screen.getByRole('button', { name: /Undo/ }));
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(2));
    expect(saidTo('put /pairings/:id/draft')[1]).toMatchObject({
      revision: 5,
      document: { lines: [{ decides: 'left' }, {}] },
    });
  });

  it('says what stops it, instead of starting', async () => {
    const draft = { ...detail, state: 'draft' as const, liveVersion: null, live: null };
    const stops = {
      ...look,
      findings: [{ id: 'K19', severity: 'stops' as const, place: {}, sentence: 'Topic never comes to rest.' }],
    };
    const first = one({ 'get /pairings/:id': { pairing: draft }, 'post /pairings/:id/look': stops });
    await screen.findByText('Topic never comes to rest.');
    await first.user.click(screen.getByRole('button', { name: 'Start' }));
    const dialog = await screen.findByRole('dialog', { name: 'It can’t be started like this' });
    expect(within(dialog).queryByRole('button', { name: 'Start' })).toBeNull();
  });

  it('starts what only wants a look once that was seen', async () => {
    const draft = { ...detail, state: 'draft' as const, liveVersion: null, live: null };
    const { user: person, saidTo } = one({
      'get /pairings/:id': { pairing: draft },
      'post /pairings/:id/start': { version: 1 },
    });
    await screen.findByText('Keeper keeps a date only, in 2 pairs.');
    await person.click(screen.getByRole('button', { name: 'Start' }));
    const dialog = await screen.findByRole('dialog', { name: 'Before it starts' });
    await person.click(within(dialog).getByRole('button', { name: 'Start' }));
    await waitFor(() => expect(saidTo('post /pairings/:id/start')).toEqual([{ revision: 4, accept: true }]));
  });

  it('sends again what was refused for one cause', async () => {
    const { user: person, saidTo } = one({ 'post /pairings/:id/again': { again: 31 } });
    await person.click(await screen.findByRole('button', { name: 'Send them again' }));
    await waitFor(() => expect(saidTo('post /pairings/:id/again')).toEqual([{ cause: 'c1' }]));
  });

  const missing = { side: 'left' as const, options: [{ value: 'wander', label: 'Wanderimkerei' }] };
  const lacking = (canAdd: boolean): PairingDetail => ({
    ...detail,
    causes: [{ ...detail.causes[0]!, missing: { ...missing, canAdd } }],
  });

  it('adds the option that is missing there, and sends again what waited for it', async () => {
    const { user: person, saidTo } = one({
      'get /pairings/:id': { pairing: lacking(true) },
      'post /pairings/:id/again': { again: 31 },
    });
    const mend = 'Add “Wanderimkerei” there and send these 31 again';
    await person.click(await screen.findByRole('button', { name: mend }));
    await waitFor(() => expect(saidTo('post /pairings/:id/again')).toEqual([{ cause: 'c1', add: true }]));
  });

  it('says what is to be done by hand where an option can’t be added from here, and what went wrong', async () => {
    const { user: person } = one({
      'get /pairings/:id': { pairing: lacking(false) },
      'post /pairings/:id/again': () => refusal(502, 'The system did not take it', 'Letters doesn’t answer.'),
    });
    expect((await screen.findByText('All 31')).closest('li')!.textContent).toMatch(
      /“Wanderimkerei” can’t be added to Letters from here: add it there, read its schema, and/,
    );
    await person.click(screen.getByRole('button', { name: 'send these 31 again' }));
    expect((await screen.findByRole('alert')).textContent).toContain('Letters doesn’t answer.');
  });

  it('makes a field that only one side has on the other, and links the two', async () => {
    const housing = field('housing', 'Housing', { type: 'option', options: [{ value: 'wood', label: 'Wood' }] });
    const { user: person, saidTo } = one({
      'get /systems/:id': ({ params }) =>
        params['id'] === 'crm'
          ? system('crm', 'Orchard CRM', entity('people', 'Person', [field('first', 'First name'), housing]))
          : SYSTEMS[params['id']!]!,
      'post /systems/:id/fields': { name: 'housing_2' },
      'put /pairings/:id/draft': { revision: 5 },
    });
    await person.click(await screen.findByRole('button', { name: /Fields in one system only/ }));
    // The CRM takes none from here, so that nothing is offered for what Letters alone has.
    expect(screen.getAllByRole('button', { name: /^Make / })).toHaveLength(1);
    await person.click(screen.getByRole('button', { name: 'Make Housing in Letters' }));
    await waitFor(() => expect(saidTo('post /systems/:id/fields')).toHaveLength(1));
    expect(saidTo('post /systems/:id/fields')[0]).toEqual({
      ...{ entity: 'subscribers', label: 'Housing', type: 'option', options: housing.options },
    });
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(1));
    expect(saidTo('put /pairings/:id/draft')[0]).toMatchObject({
      document: { lines: [{}, {}, { left: { path: ['housing_2'] }, right: { path: ['housing'] }, way: 'to left' }] },
    });
  });

  it('weighs against the known ones of a side that is recognised, and of no other', async () => {
    const { user: person, saidTo } = one({ 'put /pairings/:id/draft': { revision: 5 } });
    await person.click(await screen.findByRole('button', { name: '+ else weigh against known Person' }));
    expect(screen.queryByRole('button', { name: /weigh against known Subscriber/ })).toBeNull();
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(1));
    expect(saidTo('put /pairings/:id/draft')[0]).toMatchObject({ document: { weighed: 'right' } });
    expect(screen.getByText('as Person is recognised')).toBeTruthy();
    await person.click(screen.getByRole('button', { name: 'No longer weighed' }));
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(2));
    expect(saidTo('put /pairings/:id/draft')[1]).not.toHaveProperty('document.weighed');
  });

  it('treats a value on its way, one way and back', async () => {
    const { user: person, saidTo } = one({ 'put /pairings/:id/draft': { revision: 5 } });
    await person.click(await screen.findByRole('button', { name: /How Given name looks on the other side/ }));
    await person.click(await screen.findByRole('button', { name: 'Add a treatment on the way to Subscriber' }));
    await person.type(await screen.findByPlaceholderText('Find a treatment'), 'shorten');
    await person.keyboard('{Enter}');
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(1));
    expect(saidTo('put /pairings/:id/draft')[0]).toMatchObject({
      document: { lines: [{ there: [], back: [{ kind: 'shorten' }] }, {}] },
    });
  });

  it('makes a record there only where a comparison holds', async () => {
    const { user: person, saidTo } = one({ 'put /pairings/:id/draft': { revision: 5 } });
    await person.click(await screen.findByRole('button', { name: 'records without a counterpart …' }));
    await person.click(screen.getByRole('button', { name: 'Person without a counterpart' }));
    await person.click(await screen.findByText('gets one made there'));
    await person.click(await screen.findByRole('button', { name: 'For which Person one is made' }));
    await person.click(await screen.findByRole('button', { name: 'Add a comparison' }));
    await waitFor(() => {
      const last = saidTo('put /pairings/:id/draft').at(-1);
      expect(last).toMatchObject({
        document: {
          alone: {
            right: { what: 'make', condition: { match: 'all', parts: [{ field: 'first', test: 'is not blank' }] } },
          },
        },
      });
    });
  });

  it('links a field with what is worked out from the other side’s record', async () => {
    const { user: person, saidTo } = one({ 'put /pairings/:id/draft': { revision: 5 } });
    await person.click(await screen.findByRole('button', { name: 'Link another field' }));
    await person.click(await screen.findByRole('button', { name: 'work it out from the record …' }));
    const box = await screen.findByLabelText(/Worked out from Subscriber/);
    await person.type(box, 'record.giv');
    expect((screen.getByRole('button', { name: 'Take it' }) as HTMLButtonElement).disabled).toBe(true);
    await person.keyboard('{Tab}');
    expect((box as HTMLTextAreaElement).value).toBe('record.given');
    await person.click(screen.getByRole('button', { name: 'Take it' }));
    await person.type(await screen.findByPlaceholderText('goes with this of Person'), 'family');
    expect(screen.queryByRole('button', { name: 'work it out from the record …' })).toBeNull();
    await person.keyboard('{Enter}');
    await waitFor(() => expect(saidTo('put /pairings/:id/draft')).toHaveLength(1));
    expect(saidTo('put /pairings/:id/draft')[0]).toMatchObject({
      document: {
        lines: [{}, {}, { left: { path: [], compute: 'record.given' }, right: { path: ['last'] }, way: 'to right' }],
      },
    });
  });

  it('lets a viewer see everything and change nothing', async () => {
    one({}, 'viewer');
    await screen.findByText('a change is undone');
    expect(screen.queryByRole('button', { name: 'Pause' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Send them again' })).toBeNull();
    const decides = screen.getByRole('radiogroup', { name: 'Who decides about Given name' });
    expect((within(decides).getAllByRole('radio')[0] as HTMLButtonElement).disabled).toBe(true);
  });
});

describe('pairs in review', () => {
  const question: PairQuestion = {
    ...{ pair: 7, pairing: 'p1', pairingName: 'Readers with people', title: 'Ada Kern', at: '2027-01-01T00:00:00Z' },
    ...{ left: listed.left, right: listed.right, ids: { left: 's1', right: 'P1' } },
    field: {
      ...{ line: 'g', label: { left: 'Given name', right: 'First name' } },
      ...{ base: { left: 'Ada', right: 'Ada' }, now: { left: 'Ida', right: 'Eda' } },
    },
  };
  const review = (questions: PairQuestion[], answers: Answers = {}) =>
    show(<PairsInReview />, {
      answers: {
        'get /session': user('specialist'),
        'get /pairings': { pairings: [listed] },
        'get /submissions': { submissions: [], counts: {} } as never,
        'get /pairings/questions': { questions },
        ...answers,
      },
    });

  it('are decided by one key', async () => {
    const { user: person, saidTo } = review([question], {
      'post /pairings/:id/pairs/:pair/answer': undefined as never,
    });
    expect(await screen.findByText('Ida')).toBeTruthy();
    await person.keyboard('2');
    await waitFor(() =>
      expect(saidTo('post /pairings/:id/pairs/:pair/answer')).toEqual([{ kind: 'field', line: 'g', side: 'right' }]),
    );
  });

  it('offer each record that may go with one, and none of them', async () => {
    const { field: _, ...rest } = question;
    const unsure = {
      side: 'right' as const,
      candidates: [
        { id: 'P1', title: 'Ada Kern' },
        { id: 'P2', title: 'A. Kern' },
      ],
    };
    const { user: person, saidTo } = review([{ ...rest, unsure }], {
      'post /pairings/:id/pairs/:pair/answer': () =>
        refusal(409, 'Not waiting', 'This record goes with another one already.'),
    });
    await person.click(await screen.findByRole('button', { name: /A\. Kern \(P2\)/ }));
    expect(await screen.findByText('This record goes with another one already.')).toBeTruthy();
    expect(saidTo('post /pairings/:id/pairs/:pair/answer')).toEqual([{ kind: 'with', record: 'P2' }]);
    expect(screen.getByRole('button', { name: /None of them/ })).toBeTruthy();
  });

  it('say that nothing waits', async () => {
    review([]);
    expect(await screen.findByText('No pair waits for anybody')).toBeTruthy();
  });
});
