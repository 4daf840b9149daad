/** @jest-environment @happy-dom/jest-environment */
import type { IntakeDocument } from '@zusammen/core/intake';
import { screen, waitFor } from '@testing-library/react';
import { Arrive } from './arrive.tsx';
import { DOCUMENT, showIntake } from './testing.tsx';

jest.mock('../../work/index.ts');

const page = (more: Partial<IntakeDocument> = {}): IntakeDocument =>
  ({ ...DOCUMENT, source: { kind: 'page' }, ...more }) as IntakeDocument;
const open = (document = page(), role?: 'viewer') =>
  showIntake('arrive', <Arrive />, {
    document,
    ...(role ? { role } : {}),
    more: { 'get /payment-services': { services: [] }, 'get /intakes': { intakes: [] } },
  });
const kept = (saidTo: ReturnType<typeof open>['saidTo']): IntakeDocument | undefined =>
  (saidTo('put /intakes/:id/draft').at(-1) as { document: IntakeDocument } | undefined)?.document;

it('says what becomes of a page’s form, and makes it one of ours', async () => {
  const { user, saidTo } = open();
  await user.click(await screen.findByRole('button', { name: 'Make it a form of ours' }));
  expect(screen.getByRole('dialog').textContent).toContain('4 questions, under the same names');
  await user.click(screen.getByRole('button', { name: 'Make it ours' }));
  await screen.findByRole('list', { name: 'Questions' });
  await waitFor(() => expect(kept(saidTo)?.source.kind).toBe('ours'));
  expect(kept(saidTo)!.form!.pages[0]!.items.map(({ name }) => name)).toEqual(['orchard', 'mail', 'bees', 'hello']);
  expect(kept(saidTo)!.plan).toEqual(DOCUMENT.plan);
});

it('names what is sent under another name from then on, with its lines', async () => {
  const fields = DOCUMENT.fields.map((field) => (field.name === 'mail' ? { ...field, name: 'mail[]' } : field));
  const [step] = DOCUMENT.plan.steps;
  const lines = step!.lines.map((line) => (line.from[0] === 'mail' ? { ...line, from: ['mail[]'] } : line));
  const { user, saidTo } = open(page({ fields, plan: { steps: [{ ...step!, lines }] } }));
  await user.click(await screen.findByRole('button', { name: 'Make it a form of ours' }));
  expect(screen.getByRole('dialog').textContent).toContain('mail[] is sent as mail');
  await user.click(screen.getByRole('button', { name: 'Make it ours' }));
  await waitFor(() => expect(kept(saidTo)?.plan.steps[0]!.lines.map(({ from }) => from[0])).toContain('mail'));
});

it('is left on its page, and offered to nobody who may not change it', async () => {
  const { user, saidTo } = open();
  await user.click(await screen.findByRole('button', { name: 'Make it a form of ours' }));
  await user.click(screen.getByRole('button', { name: 'Leave it on its page' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(kept(saidTo)).toBeUndefined();
});

it('is not offered to a viewer', async () => {
  open(page(), 'viewer');
  await screen.findByText('Orchard name');
  expect(screen.queryByRole('button', { name: 'Make it a form of ours' })).toBeNull();
});
