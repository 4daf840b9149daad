/** @jest-environment @happy-dom/jest-environment */
import type { Measure } from '@zusammen/core/api';
import { makeEntity, makeField } from '../../../../core/testing/world.ts';
import type { Recognition } from '@zusammen/core/recognition';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../../testing/page.tsx';
import { EvidenceLines, KeysTable } from './evidence-lines.tsx';
import { TryIt } from './try-it.tsx';

const PERSON = makeEntity(
  'people',
  [
    makeField('given', { label: 'Given name' }),
    makeField('family', { label: 'Family name' }),
    makeField('mail', { label: 'E-mail', type: 'email' }),
    makeField('cell', { label: 'Mobile', type: 'phone' }),
  ],
  { label: 'Person' },
);

const RECOGNITION = {
  kind: 'person',
  parts: [
    { part: 'first_name', field: 'given' },
    { part: 'last_name', field: 'family' },
    { part: 'email', field: 'mail' },
  ],
  learned: [],
} as unknown as Recognition;

const MEASURE = {
  levels: [
    { about: 'e-mail', level: 'same', count: 40, bits: 12.3 },
    { about: 'e-mail', level: 'different', count: 900, bits: -3.1 },
    { about: 'name', level: 'same', count: 70, bits: 7 },
  ],
  keys: [
    { parts: ['email'], filled: 90, of: 100, shared: 1, apart: 0, looked: 1 },
    { parts: ['last_name'], filled: 100, of: 100, shared: 60, apart: 30, looked: 40 },
  ],
} as unknown as Measure;

describe('a typed-in record', () => {
  const tryIt = (answers: Answers) =>
    show(<TryIt system="crm" entity={PERSON} recognition={RECOGNITION} close={() => undefined} />, { answers });

  it('is weighed against the known ones, with what each value weighs beside it', async () => {
    const { user, saidTo } = tryIt({
      'post /systems/:id/entities/:entity/recognition/try': {
        verdict: 'same',
        records: [{ id: 'P-9', values: { given: 'Orla', family: 'Wren', mail: 'orla@wren.example' } }],
        weighed: [
          {
            record: 'P-9',
            weight: 14.2,
            verdict: 'same',
            evidence: [
              { about: 'name', level: 'same', bits: 6.1 },
              { about: 'e-mail', level: 'differs', bits: -2.4 },
            ],
          },
        ],
        ignored: [],
      },
    });
    await user.type(await screen.findByLabelText('Family name'), 'Wren');
    await user.click(screen.getByRole('button', { name: 'Weigh it' }));
    expect(await screen.findByText(/would be taken for P-9/)).toBeTruthy();
    expect(saidTo('post /systems/:id/entities/:entity/recognition/try')).toEqual([{ values: { family: 'Wren' } }]);
    const row = (label: string): string => screen.getByLabelText(label).closest('tr')!.textContent!;
    expect(row('E-mail')).toContain('−2.4');
    // What was compared together stands once: beside the family name.
    expect(row('Family name')).toContain('+6.1');
    expect(row('Given name')).not.toContain('6.1');
  });

  it('that holds nothing isn’t weighed', async () => {
    const { user } = tryIt({});
    await user.type(await screen.findByLabelText('E-mail'), '   ');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Weigh it' }).disabled).toBe(true);
  });

  it('says when nobody comes near, when a value says nothing, and what went wrong', async () => {
    let times = 0;
    const { user } = tryIt({
      'post /systems/:id/entities/:entity/recognition/try': () =>
        (times += 1) === 1
          ? { verdict: 'different', records: [], weighed: [], ignored: ['mail'] }
          : refusal(502, 'Silent', 'Clover Hill does not answer.'),
    });
    await user.type(await screen.findByLabelText('E-mail'), 'none@none.example{Enter}');
    expect(await screen.findByText(/nobody known comes near it/)).toBeTruthy();
    expect(screen.getByLabelText('E-mail').closest('td')!.textContent).toContain('says nothing');
    await user.keyboard('{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('Clover Hill does not answer.');
  });
});

describe('what counts as evidence', () => {
  const shown = (change: (next: Recognition) => void, may = true) =>
    show(
      <EvidenceLines
        entity={PERSON}
        recognition={RECOGNITION}
        measure={MEASURE}
        ignored={[{ field: 'mail', value: 'none@none.example', count: 1200 }]}
        change={change}
        may={may}
      />,
    );

  it('says of each comparison what agreeing weighs, by the field’s own name', () => {
    shown(() => undefined);
    const items = screen.getAllByRole('listitem').map((item) => item.textContent);
    expect(items).toEqual(['E-mail same+12.3', 'Name same+7.0']);
    expect(screen.getByText('none@none.example').closest('p')!.textContent).toContain('1,200');
  });

  it('reads a part from another field, or leaves it out', async () => {
    const change = jest.fn();
    const { user } = shown(change);
    await user.click(screen.getByRole('button', { name: 'Field for email' }));
    await user.type(await screen.findByPlaceholderText('Which field holds the email?'), 'leave');
    await user.keyboard('{Enter}');
    expect(change).toHaveBeenCalledTimes(1);
    expect((change.mock.calls as [Recognition][])[0]![0].parts).toEqual(RECOGNITION.parts.slice(0, 2));
  });

  it('takes in another field as what it holds', async () => {
    const change = jest.fn();
    const { user } = shown(change);
    await user.click(screen.getByRole('button', { name: 'Another field' }));
    await user.type(await screen.findByPlaceholderText('What else says something?'), 'mobile mobile');
    await user.keyboard('{Enter}');
    await waitFor(() => expect(change).toHaveBeenCalledTimes(1));
    expect((change.mock.calls as [Recognition][])[0]![0].parts.at(-1)).toEqual({ part: 'mobile', field: 'cell' });
  });

  it('is only looked at by those who may not change it', () => {
    shown(() => undefined, false);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Field for email' }).disabled).toBe(true);
    expect(screen.queryByRole('button', { name: 'Another field' })).toBeNull();
  });
});

it('keys that tell records apart come before those that mix them up', () => {
  show(<KeysTable entity={PERSON} recognition={RECOGNITION} measure={MEASURE} />);
  const rows = screen.getAllByRole('row').slice(1);
  expect(
    rows.map((row) =>
      within(row)
        .getAllByRole('cell')
        .map((cell) => cell.textContent),
    ),
  ).toEqual([
    ['E-mail', '90 %', '1.1 %', 'good key'],
    ['Family name', '100 %', '60 %', 'mixes them up'],
  ]);
});
