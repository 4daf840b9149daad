/** @jest-environment @happy-dom/jest-environment */
import { withForm, type IntakeDocument } from '@zusammen/core/intake';
import { screen, waitFor, within } from '@testing-library/react';
import { formOf, item } from '../../../../../core/testing/hosted.ts';
import { makeEntity, makeField } from '../../../../../core/testing/world.ts';
import { Arrive } from '../arrive.tsx';
import { DOCUMENT, lineTo, ORCHARD, showIntake, SYSTEM } from '../testing.tsx';

jest.mock('../../../work/index.ts');

const HIVE = makeEntity(
  'hives',
  [
    makeField('name', { label: 'Name' }),
    makeField('mail', { label: 'E-mail', type: 'email' }),
    makeField('note', { label: 'Note' }),
    makeField('orchard_id', { label: 'Orchard', type: 'reference', relation: 'orchards' }),
  ],
  { label: 'Hive' },
);

/** A form that asks for a hive by its name, opened by everybody. */
function edit() {
  const step = { ...DOCUMENT.plan.steps[0]!, entity: 'hives', recognise: [], lines: [lineTo('name', ['name'])] };
  const document = withForm(
    { ...DOCUMENT, source: { kind: 'ours' }, fields: [], plan: { steps: [step] } } as IntakeDocument,
    formOf([item('text', 'name', { label: { en: 'Name' } })]),
  );
  const shown = showIntake('arrive', <Arrive />, {
    document,
    more: {
      'get /payment-services': { services: [] },
      'get /intakes': { intakes: [] },
      'get /systems/:id': { ...SYSTEM, schema: { entities: [ORCHARD, HIVE] } },
    },
  });
  return { ...shown, now: (): IntakeDocument => shown.kept.document };
}

async function onOrchards(user: ReturnType<typeof edit>['user']): Promise<void> {
  await user.click(await screen.findByRole('button', { name: 'Who opens it' }));
  await user.type(screen.getByPlaceholderText('On pages of …'), 'Orchard{Enter}');
  expect(await screen.findByRole('button', { name: 'On whose pages' })).toBeTruthy();
}

beforeAll(() => {
  Element.prototype.scrollIntoView = () => undefined;
});

it('a form is put on pages of records; what ties its own to them is set at once', async () => {
  const { user, now } = edit();
  await onOrchards(user);
  await waitFor(() => expect(now().form).toMatchObject({ panel: { whenGone: 'ask' }, link: { entity: 'orchards' } }));
  const lines = now().plan.steps[0]!.lines;
  expect(lines.map(({ field }) => field)).toEqual(['name', 'orchard_id']);
  // The form knows it of the page: nobody is asked for it.
  const [from] = lines[1]!.from;
  expect(from).toBe(now().form!.link!.into);
});

it('what its record can fill in is taken as shown, as unseen, or for what is left blank', async () => {
  const { user, now } = edit();
  await onOrchards(user);
  const offered = within(await screen.findByRole('region', { name: 'From the page’s record' }));
  await user.click(offered.getByRole('button', { name: 'Fill in E-mail' }));
  await user.click(await screen.findByRole('button', { name: 'filled in and shown' }));
  await waitFor(() =>
    expect(now().plan.steps[0]!.lines.map(({ field }) => field)).toEqual(['name', 'orchard_id', 'mail']),
  );
  const question = now().form!.pages[0]!.items.find(({ name }) => name === now().plan.steps[0]!.lines[2]!.from[0])!;
  expect(question).toMatchObject({ begins: { with: 'record', value: 'mail' } });
  expect(question.kind).not.toBe('hidden');
  await user.click(offered.getByRole('button', { name: 'Fill in Note' }));
  await user.click(await screen.findByRole('button', { name: 'filled in' }));
  await waitFor(() => expect(now().plan.steps[0]!.lines).toHaveLength(4));
  const unseen = now().form!.pages[0]!.items.find(({ name }) => name === now().plan.steps[0]!.lines[3]!.from[0])!;
  expect(unseen).toMatchObject({ kind: 'hidden', begins: { with: 'record', value: 'note' } });
});

it('a form is taken off pages of records again', async () => {
  const { user, now } = edit();
  await onOrchards(user);
  await user.click(screen.getByRole('button', { name: 'On whose pages' }));
  await user.click(await screen.findByRole('button', { name: 'not on these' }));
  await waitFor(() => expect(now().form!.panel).toBeUndefined());
  expect(now().form!.link).toBeUndefined();
});
