/** @jest-environment @happy-dom/jest-environment */
import type { StepReport } from '@zusammen/core/plans';
import { makeEntity, makeField } from '../../../../core/testing/world.ts';
import type { ReviewCause, SubmissionLine, SubmissionPath, SubmissionState, SystemDetail } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { Review } from './review.tsx';

const PERSON = makeEntity('people', [
  makeField('first', { label: 'First name' }),
  makeField('mail', { label: 'E-mail', type: 'email' }),
  makeField('city', { label: 'City' }),
]);

const SYSTEM = {
  system: { id: 'crm', name: 'Clover Hill', state: 'answers', capabilities: {} },
  schema: { entities: [PERSON] },
  differences: [],
} as unknown as SystemDetail;

const lineOf = (id: string, state: SubmissionState, words: string | null): SubmissionLine => ({
  seq: 1,
  id,
  intakeId: 'i1',
  intakeKey: 'visit',
  version: 3,
  state,
  label: `Sender of ${id}`,
  via: 'form',
  receivedAt: '2026-11-26T08:00:00Z',
  settledAt: null,
  attempts: 1,
  words,
  outcome: null,
});

const asked: StepReport = {
  step: 's1',
  system: 'crm',
  entity: 'people',
  outcome: 'asked',
  why: 'two records have this e-mail',
  changes: [],
  sent: { first: 'Orla', mail: 'orla@wren.example' },
  candidates: [
    { id: 'P-1', values: { first: 'Orla', mail: 'orla@wren.example', city: 'Harrow' } },
    { id: 'P-2', values: { first: 'Orna', mail: 'orla@wren.example', city: null } },
  ],
};

const refused: StepReport = {
  step: 's1',
  system: 'crm',
  entity: 'people',
  outcome: 'refused',
  changes: [],
  refusal: { kind: 'values', words: 'City is too long', fields: [{ field: 'city', words: 'at most 10 characters' }] },
} as unknown as StepReport;

const pathOf = (line: SubmissionLine, step: StepReport): SubmissionPath =>
  ({
    submission: {
      ...line,
      values: { first: 'Orla', mail: 'orla@wren.example', city: 'Harrow on the Hill' },
      answers: null,
      amended: null,
      forgottenAt: null,
      reason: null,
      dueAt: line.receivedAt,
      cause: line.words,
    },
    intake: { id: 'i1', key: 'visit', name: 'Visit us' },
    fields: [
      { name: 'first', label: 'Given name', type: 'text', required: false },
      { name: 'mail', label: 'Your e-mail', type: 'email', required: false },
      { name: 'city', label: 'Town', type: 'text', required: false },
    ],
    repeats: {},
    steps: [step],
    lines: [],
    treatments: [
      { step: 's1', field: 'first', from: ['first'], treatments: [] },
      { step: 's1', field: 'city', from: ['city'], treatments: [] },
    ],
    changes: [],
  }) as unknown as SubmissionPath;

/** What waits, by what is said of it. */
function causesOf(waiting: readonly [SubmissionLine, StepReport][], states: readonly string[]): ReviewCause[] {
  const lines = waiting.map(([line]) => line).filter(({ state }) => states.includes(state));
  return [...new Set(lines.map(({ words }) => words))].map((words) => {
    const alike = lines.filter((line) => line.words === words);
    const [first] = alike;
    return {
      ...{ intakeId: 'i1', intakeKey: 'visit', cause: words ?? '', state: first!.state as ReviewCause['state'] },
      ...{ count: alike.length, oldest: first!.receivedAt, newest: first!.id, label: first!.label, words },
    };
  });
}

/** A Review with these submissions waiting, each with the step that stopped it. */
function review(
  waiting: [SubmissionLine, StepReport][],
  more: Answers = {},
  role: 'specialist' | 'viewer' = 'specialist',
) {
  const byId = new Map(waiting.map(([line, step]) => [line.id, pathOf(line, step)]));
  const counts: Partial<Record<SubmissionState, number>> = {};
  for (const [{ state }] of waiting) counts[state] = (counts[state] ?? 0) + 1;
  return show(<Review />, {
    answers: {
      'get /session': { user: { id: 'u1', email: 'm@wren.example', name: 'Mara', role, active: true } },
      'get /pairings': { pairings: [] },
      'get /review': ({ query }) => ({ causes: causesOf(waiting, query['state']!.split(',')) }),
      'get /submissions': ({ query }) => ({
        submissions: waiting
          .map(([line]) => line)
          .filter(({ state, words }) => state === query['state'] && words === query['cause']),
        counts,
      }),
      'get /intakes': { intakes: [] },
      'get /systems': { systems: [SYSTEM.system] },
      'get /submissions/:id': ({ params }) => byId.get(params['id']!)!,
      'get /submissions/:id/would': { step: { ...asked, outcome: 'updated', changes: [] } },
      'get /submissions/:id/alike': { count: 1, labels: [], alike: [] },
      'get /systems/:id': SYSTEM,
      'get /intakes/:id': { intake: { id: 'i1', liveVersion: 3 }, versions: [], changes: [] } as never,
      ...more,
    },
  });
}

describe('what waits for the person who acts', () => {
  const words = 'The token of Wanda Wren has run out.';
  const stopped = {
    step: 's1',
    system: 'crm',
    entity: 'people',
    outcome: 'waits',
    changes: [],
  } as unknown as StepReport;
  const line = lineOf('w', 'in review', words);
  const path = pathOf(line, stopped);
  const lacking = (role: 'specialist' | 'viewer' = 'specialist') =>
    review(
      [[line, stopped]],
      {
        'get /submissions/:id': {
          ...path,
          submission: {
            ...path.submission,
            lacks: 'person',
            acting: { system: 'crm', person: 'u7', name: 'Wanda Wren' },
          },
        },
        'post /submissions/:id/again': {} as never,
      },
      role,
    );

  it('says what it waits for, and goes on as the connection where somebody says so', async () => {
    const { user, saidTo } = lacking();
    expect(await screen.findByText(/goes on by itself when that person opens a panel again/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send again as it is/ })).toBeNull();
    await user.click(screen.getByRole('button', { name: /^Go on as the connection/ }));
    await waitFor(() => expect(saidTo('post /submissions/:id/again')).toEqual([{ as: 'connection' }]));
  });

  it('is let go on by nobody who only looks', async () => {
    lacking('viewer');
    const button = await screen.findByRole('button', { name: /^Go on as the connection/ });
    expect((button as HTMLButtonElement).disabled).toBe(true);
  });
});

describe('Review', () => {
  it('says that nothing waits, and what would come here', async () => {
    review([]);
    expect(await screen.findByText('Nothing waits for anybody')).toBeTruthy();
  });

  it('says what went wrong when the queue can’t be read, instead of that nothing waits', async () => {
    review([], {
      'get /pairings': { pairings: [] },
      'get /review': () => refusal(500, 'Trouble', 'The database is away.'),
    });
    expect((await screen.findByRole('alert')).textContent).toContain('The database is away.');
    expect(screen.queryByText('Nothing waits for anybody')).toBeNull();
  });

  it('counts what waits by what is to be done, and shows only that kind', async () => {
    const { user, asked: calls } = review([
      [lineOf('a', 'in review', 'two records have this e-mail'), asked],
      [lineOf('b', 'refused', 'City is too long'), refused],
    ]);
    expect(await screen.findByText('2 wait')).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: /To put right/ }));
    await waitFor(() => expect(calls.at(-1)).toBeDefined());
    await waitFor(() => {
      const queue = screen.getByRole('list', { name: 'What waits' });
      expect(within(queue).getAllByRole('button', { expanded: true })).toHaveLength(1);
      expect(queue.textContent).not.toContain('two records');
      expect(queue.textContent).toContain('City is too long');
    });
  });
});

describe('which record is meant', () => {
  const waiting: [SubmissionLine, StepReport][] = [[lineOf('a', 'in review', 'two records have this e-mail'), asked]];

  it('shows what was sent beside each candidate, what differs marked', async () => {
    review(waiting);
    const row = (await screen.findByRole('cell', { name: 'First name' })).closest('tr')!;
    expect(
      within(row)
        .getAllByRole('cell')
        .map((cell) => cell.textContent),
    ).toEqual(['First name', 'Orla', 'Orla', 'Orna']);
    expect(row.querySelector('mark')?.textContent).toBe('n');
  });

  it('takes the key of a candidate for the answer, once, however often it is pressed', async () => {
    const underWay = new Promise<Response>(() => undefined);
    const { user, saidTo } = review(waiting, { 'post /submissions/:id/answers': () => underWay });
    await screen.findByRole('button', { name: /It is P-2/ });
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>('button', { name: /It is P-2/ }).disabled).toBe(false),
    );
    await user.keyboard('22');
    await waitFor(() => expect(saidTo('post /submissions/:id/answers')).toEqual([{ step: 's1', record: 'P-2' }]));
  });

  it('says what the server says when the answer can’t be taken', async () => {
    const { user } = review(waiting, {
      'post /submissions/:id/answers': () => refusal(409, 'Overtaken', 'Somebody else has just decided this.'),
    });
    await user.click(await screen.findByRole('button', { name: /^A new people/ }));
    expect((await screen.findByRole('alert')).textContent).toContain('Somebody else has just decided this.');
  });

  it('lets those who only look see everything and decide nothing', async () => {
    const { user, saidTo } = review(waiting, { 'post /submissions/:id/answers': {} as never }, 'viewer');
    const button = await screen.findByRole<HTMLButtonElement>('button', { name: /It is P-1/ });
    expect(button.disabled).toBe(true);
    await user.keyboard('1n');
    expect(saidTo('post /submissions/:id/answers')).toEqual([]);
  });
});

describe('after a decision', () => {
  const three: [SubmissionLine, StepReport][] = ['a', 'b', 'c'].map((id) => [
    lineOf(id, 'in review', 'two records have this e-mail'),
    asked,
  ]);

  it('the next one comes up in the same place, what was done is said, and a key undoes it', async () => {
    const left = [...three];
    const { user, saidTo, where } = review(left, {
      'post /submissions/:id/answers': ({ params }) => {
        left.splice(
          left.findIndex(([{ id }]) => id === params['id']),
          1,
        );
        return { decided: [{ submission: params['id']!, step: 's1' }] };
      },
      'post /submissions/:id/unanswer': { results: [] },
    });
    await user.click(await screen.findByRole('button', { name: /Sender of b/ }));
    await waitFor(() => expect(where()).toContain('submission=b'));
    const first = await screen.findByRole<HTMLButtonElement>('button', { name: /It is P-1/ });
    await waitFor(() => expect(first.disabled).toBe(false));
    await user.keyboard('1');
    expect(await screen.findByText('Sender of b: it is P-1.')).toBeTruthy();
    await waitFor(() =>
      expect(screen.getByRole('button', { name: /Sender of c/ }).getAttribute('aria-current')).toBe('true'),
    );
    await user.keyboard('u');
    expect(await screen.findByText('Undone; it is asked again.')).toBeTruthy();
    expect(saidTo('post /submissions/:id/unanswer')).toEqual([{ step: 's1' }]);
    // The next decision is told of by itself, and can be undone like the first.
    const next = await screen.findByRole<HTMLButtonElement>('button', { name: /It is P-1/ });
    await waitFor(() => expect(next.disabled).toBe(false));
    await user.keyboard('1');
    expect(await screen.findByText('Sender of c: it is P-1.')).toBeTruthy();
    expect(screen.queryByText('Undone; it is asked again.')).toBeNull();
    expect(screen.getByRole('button', { name: /undo/ })).toBeTruthy();
  });

  const byId = (id: string, best?: string) => ({
    ...{ id, label: `Sender of ${id}`, values: { mail: `${id}@wren.example` } },
    asked: {
      ...{ sent: { first: 'Orla', city: id }, candidates: ['P-1', `P-${id}`] },
      ...(best ? { best: { id: best, weight: 3.5, values: { first: 'Orna', city: `${id} on the Hill` } } } : {}),
    },
  });
  const allAlike = async (more: Answers = {}) => {
    const shown = review(three, {
      'get /submissions/:id/alike': {
        count: 3,
        labels: [],
        alike: [byId('a', 'P-a'), byId('b'), byId('c', 'P-c')],
      },
      'post /submissions/:id/answers': {
        decided: ['a', 'c'].map((submission) => ({ submission, step: 's1' })),
      },
      ...more,
    });
    const open = await screen.findByRole<HTMLButtonElement>('button', { name: 'All 3 alike…' });
    await waitFor(() => expect(open.disabled).toBe(false));
    await shown.user.click(open);
    return { ...shown, seen: await screen.findByRole('list', { name: 'All alike' }) };
  };

  it('all alike get one answer, after they were seen', async () => {
    const { user, saidTo, seen } = await allAlike();
    await waitFor(() => expect(seen.textContent).toContain('Sender of c'));
    await user.click(screen.getByRole('button', { name: /^All 3: a new/ }));
    await waitFor(() =>
      expect(saidTo('post /submissions/:id/answers')).toEqual([{ step: 's1', anew: true, alike: true }]),
    );
  });

  it('the answer may be of each what fits best; what has nothing that fits is left, and said so', async () => {
    const { user, saidTo, seen } = await allAlike();
    await user.click(await screen.findByRole('radio', { name: 'the one that fits best' }));
    expect(seen.textContent).toContain('P-c');
    expect(seen.textContent).toContain('+3.5');
    expect(within(seen).getAllByText('none fits best: it waits still')).toHaveLength(1);
    expect(screen.getByText(/1 of them doesn’t fit and waits still/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'The 2 that fit: the one that fits best' }));
    await waitFor(() =>
      expect(saidTo('post /submissions/:id/answers')).toEqual([{ step: 's1', best: true, alike: true }]),
    );
  });

  it('of more than are listed it doesn’t say how many fit', async () => {
    const { user } = await allAlike({
      'get /submissions/:id/alike': { count: 300, labels: [], alike: [byId('a', 'P-a'), byId('b', 'P-b')] },
    });
    expect(await screen.findByRole('button', { name: /^All 300: a new/ })).toBeTruthy();
    await user.click(await screen.findByRole('radio', { name: 'the one that fits best' }));
    expect(screen.getByRole('button', { name: /^Those of the 300 that fit/ })).toBeTruthy();
  });

  it('the answer may be one record that several of them may mean; no other is offered', async () => {
    const { user, saidTo } = await allAlike();
    await user.click(await screen.findByRole('radio', { name: 'it is P-1' }));
    expect(screen.queryByRole('radio', { name: 'it is P-2' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'All 3: it is P-1' }));
    await waitFor(() =>
      expect(saidTo('post /submissions/:id/answers')).toEqual([{ step: 's1', record: 'P-1', alike: true }]),
    );
  });

  it('what was decided for many is undone for all of them, and what couldn’t be is said', async () => {
    const { user, asked: calls } = await allAlike({
      'post /submissions/:id/unanswer': ({ params }) =>
        params['id'] === 'a' ? { results: [] } : refusal(409, 'Not now', 'It is being carried out at this moment.'),
    });
    await user.click(screen.getByRole('button', { name: /^All 3: a new/ }));
    await user.click(await screen.findByRole('button', { name: /undo all 2/ }));
    expect(await screen.findByText(/Not all could be undone: It is being carried out/)).toBeTruthy();
    const undone = calls.filter(({ name }) => name === 'post /submissions/:id/unanswer');
    expect(undone.map(({ params }) => params['id'])).toEqual(['a', 'c']);
  });

  it('a record that is no candidate is looked for, and stands beside them', async () => {
    const { user } = review(three, {
      'get /submissions/:id/records': {
        records: [{ id: 'P-9', values: { first: 'Orlagh', mail: 'o@wren.example', city: 'Hill' } }],
      },
    });
    const open = await screen.findByRole<HTMLButtonElement>('button', { name: /Another record/ });
    await waitFor(() => expect(open.disabled).toBe(false));
    await user.click(open);
    await user.type(await screen.findByLabelText(/Its id/), 'P-9');
    await user.click(await screen.findByRole('button', { name: /P-9/ }));
    expect(await screen.findByRole('button', { name: /It is P-9/ })).toBeTruthy();
  });
});

describe('the weight of a candidate', () => {
  it('adds up on the screen, with what it is beforehand', async () => {
    const weighed: StepReport = {
      ...asked,
      weighed: [
        {
          record: 'P-1',
          weight: 4.6,
          verdict: 'unsure',
          evidence: [
            { about: 'email', level: 'same', bits: 12.8 },
            { about: 'given', level: 'different', bits: -2 },
          ] as never,
        },
      ],
    };
    review([[lineOf('a', 'in review', 'it may be somebody known'), weighed]], {
      'get /systems/:id/entities/:entity/recognition': { recognition: { document: { parts: [] } } } as never,
    });
    const before = (await screen.findByText('Before anything is compared')).closest('tr')!;
    expect(before.textContent).toContain('−6.2');
    const together = screen.getByText('Together').closest('tr')!;
    expect(together.textContent).toContain('+4.6');
    expect(together.textContent).toContain('in bits');
  });
});

describe('what is to be put right', () => {
  const waiting: [SubmissionLine, StepReport][] = [[lineOf('b', 'refused', 'City is too long'), refused]];

  it('puts the value that was refused first, with what is said of it', async () => {
    review(waiting);
    await screen.findByText('at most 10 characters');
    const inputs = screen.getAllByRole<HTMLInputElement>('textbox');
    expect(inputs.map(({ value }) => value)).toEqual(['Harrow on the Hill', 'Orla']);
  });

  it('sends only what was changed, under the name it came in by', async () => {
    const { user, saidTo } = review(waiting, { 'post /submissions/:id/again': { again: 1, left: 0 } });
    const town = await screen.findByRole('textbox', { name: 'Town' });
    const send = screen.getByRole<HTMLButtonElement>('button', { name: /Put right and send/ });
    expect(send.disabled).toBe(true);
    await waitFor(() => expect((town as HTMLInputElement).disabled).toBe(false));
    await user.clear(town);
    await user.type(town, 'Harrow{Enter}');
    await waitFor(() => expect(saidTo('post /submissions/:id/again')).toEqual([{ values: { city: 'Harrow' } }]));
  });

  it('has nothing to send once a change is taken back by hand', async () => {
    const { user } = review(waiting);
    const town = await screen.findByRole('textbox', { name: 'Town' });
    await waitFor(() => expect((town as HTMLInputElement).disabled).toBe(false));
    await user.type(town, 's');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Put right and send/ }).disabled).toBe(false);
    await user.type(town, '{Backspace}');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Put right and send/ }).disabled).toBe(true);
  });

  it('is carried out by the version that is live, where that is newer, and says so', async () => {
    const { user, saidTo } = review(waiting, {
      'get /intakes/:id': { intake: { id: 'i1', liveVersion: 5 }, versions: [], changes: [] } as never,
      'get /pairings': { pairings: [] },
      'get /review': { causes: [{ ...causesOf(waiting, ['refused'])[0]!, count: 12 }] },
      'get /submissions/:id/alike': { count: 12, labels: [], alike: [] },
      'post /submissions/:id/again': { again: 12, left: 0 },
    });
    await screen.findByText(/sent again by version 5, which is live now/);
    await user.click(await screen.findByRole('button', { name: /Send all 12 alike again/ }));
    await waitFor(() => expect(saidTo('post /submissions/:id/again')).toEqual([{ alike: true, under: 'live' }]));
  });

  it('a correction goes to those alike that hold the same, and to no others unless asked', async () => {
    const { user, saidTo } = review([...waiting, [lineOf('c', 'refused', 'City is too long'), refused]], {
      'get /submissions/:id/alike': {
        count: 3,
        labels: [],
        alike: [
          { id: 'b', label: 'Sender of b', values: { city: 'Harrow on the Hill' } },
          { id: 'c', label: 'Sender of c', values: { city: 'Harrow on the Hill' } },
          { id: 'd', label: 'Sender of d', values: { city: 'Somewhere Else Altogether' } },
        ],
      },
      'post /submissions/:id/again': { again: 2, left: 1 },
    });
    const town = await screen.findByRole<HTMLInputElement>('textbox', { name: 'Town' });
    await waitFor(() => expect(town.disabled).toBe(false));
    await user.clear(town);
    await user.type(town, 'Harrow');
    expect((await screen.findByRole('list', { name: 'Others alike' })).textContent).toContain('Somewhere');
    await user.click(await screen.findByRole('button', { name: '…and the 1 that holds the same' }));
    await waitFor(() =>
      expect(saidTo('post /submissions/:id/again')).toEqual([
        { alike: true, values: { city: 'Harrow' }, which: 'same' },
      ]),
    );
    expect(await screen.findByText('2 were sent again. 1 holds something else and waits still.')).toBeTruthy();
  });

  it('is set aside only with a reason', async () => {
    const { user, saidTo } = review(waiting, { 'post /submissions/:id/set-aside': {} as never });
    const aside = await screen.findByRole<HTMLButtonElement>('button', { name: /Set aside…/ });
    await waitFor(() => expect(aside.disabled).toBe(false));
    await user.click(aside);
    const dialog = await screen.findByRole('dialog');
    const confirm = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Set aside' });
    expect(confirm.disabled).toBe(true);
    await user.type(within(dialog).getByLabelText('Reason'), 'a test of ours');
    await user.click(confirm);
    await waitFor(() => expect(saidTo('post /submissions/:id/set-aside')).toEqual([{ reason: 'a test of ours' }]));
  });
});
