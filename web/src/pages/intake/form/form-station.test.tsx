/** @jest-environment @happy-dom/jest-environment */
import { withForm, type IntakeDocument } from '@zusammen/core/intake';
import type { Item } from '@zusammen/core/forms/hosted';
import { screen, waitFor, within } from '@testing-library/react';
import { formOf, item } from '../../../../../core/testing/hosted.ts';
import { Arrive } from '../arrive.tsx';
import { DOCUMENT, lineTo, showIntake } from '../testing.tsx';
import { ordinal } from './ask-for.tsx';

jest.mock('../../../work/index.ts');

const NAME = item('text', 'name', { label: { en: 'Orchard', de: 'Betrieb' }, required: true });
const KIND = item('one of', 'kind', {
  label: { en: 'Kind' },
  options: ['a', 'b'].map((value) => ({ value, label: { en: value.toUpperCase() } })),
});

const TILL = { id: 'till', name: 'Till', address: 'https://pay.example', test: true, events: 'https://x.example' };

/** The editor of a form of ours whose plan is about an orchard, with the drafts it keeps. */
function edit(items: Item[] = [NAME, KIND], more: { role?: 'viewer' } = {}) {
  const step = { ...DOCUMENT.plan.steps[0]!, lines: [lineTo('name', ['name'])] };
  const document = withForm(
    { ...DOCUMENT, source: { kind: 'ours' }, fields: [], plan: { steps: [step] } } as IntakeDocument,
    formOf(items),
  );
  const shown = showIntake('arrive', <Arrive />, {
    document,
    more: {
      'get /payment-services': { services: [TILL] },
      'get /intakes': { intakes: [] },
    },
    ...more,
  });
  const kept = (): IntakeDocument =>
    (shown.saidTo('put /intakes/:id/draft').at(-1) as { document: IntakeDocument } | undefined)?.document ?? document;
  return { ...shown, kept };
}
const rows = async () => within(await screen.findByRole('list', { name: 'Questions' })).findAllByRole('listitem');

it('shows each question as a visitor sees it, and beside it what it does', async () => {
  edit();
  const [name, kind] = await rows();
  await waitFor(() => expect(name!.textContent).toContain('Fills Orchard · Name, required.'));
  expect(kind!.textContent).toContain('Goes into no record, 2 options.');
  const preview = name!.querySelector('[inert]')!.shadowRoot!;
  expect(preview.querySelector('label')!.textContent).toBe('Orchard required');
  expect(preview.querySelector('link')!.getAttribute('href')).toBe('/form.css');
});

it('asks for a field by one tick, with its line, and takes both away by another', async () => {
  const { user, kept } = edit();
  await user.click(await screen.findByRole('checkbox', { name: 'Ask for Hives' }));
  await waitFor(() => expect(kept().form!.pages[0]!.items).toHaveLength(3));
  expect(kept().form!.pages[0]!.items[1]).toMatchObject({ kind: 'number', decimals: 0, label: { en: 'Hives' } });
  expect(kept().plan.steps[0]!.lines.map(({ field, from }) => [field, from])).toEqual([
    ['name', ['name']],
    ['hives', ['hives']],
  ]);
  await user.click(screen.getByRole('checkbox', { name: 'Ask for Hives' }));
  await waitFor(() => expect(kept().plan.steps[0]!.lines).toHaveLength(1));
  expect(kept().form!.pages[0]!.items).toHaveLength(2);
});

it('changes the chosen question’s sentence where it stands', async () => {
  const { user, kept } = edit();
  await user.click(await screen.findByRole('button', { name: 'Kind, the question' }));
  await user.click(screen.getByRole('button', { name: 'Whether it has to be answered' }));
  await waitFor(() => expect(kept().form!.pages[0]!.items[1]!.required).toBe(true));
  await user.click(screen.getByRole('button', { name: 'Options' }));
  const box = await screen.findByRole('textbox', { name: /One a line/ });
  await user.clear(box);
  await user.type(box, 'plum;Plums{Enter}pear{Enter}plum');
  expect(screen.getByRole('alert').textContent).toBe('“plum” is there twice, again in line 3.');
  await user.type(box, 's');
  await user.click(screen.getByRole('button', { name: 'Take 3 options' }));
  await waitFor(() =>
    expect(kept().form!.pages[0]!.items[1]!.options?.map(({ value }) => value)).toEqual(['plum', 'pear', 'plums']),
  );
});

it('words a question in each language, by keys', async () => {
  const { user, kept } = edit();
  await rows();
  await user.keyboard('j{Enter}');
  const words = await screen.findByRole('textbox', { name: 'Its words in English' });
  await user.clear(words);
  await user.type(words, 'Your orchard{Enter}');
  await waitFor(() => expect(kept().form!.pages[0]!.items[0]!.label).toEqual({ en: 'Your orchard', de: 'Betrieb' }));
  await user.click(screen.getByRole('radio', { name: 'Deutsch' }));
  expect(await screen.findByRole('button', { name: 'Betrieb, the question' })).toBeTruthy();
});

it('moves the chosen question by keys, and undoes it', async () => {
  const { user, kept } = edit();
  await rows();
  const order = (): (string | undefined)[] => kept().form!.pages[0]!.items.map(({ name }) => name);
  await user.keyboard('j{Alt>}{ArrowDown}{/Alt}');
  await waitFor(() => expect(order()).toEqual(['kind', 'name']));
  await user.keyboard('{Control>}z{/Control}');
  await waitFor(() => expect(order()).toEqual(['name', 'kind']));
});

it('a viewer sees all of it, and is offered nothing to change', async () => {
  const { user } = edit(undefined, { role: 'viewer' });
  await user.click(await screen.findByRole('button', { name: 'Kind, the question' }));
  expect((screen.getByRole('checkbox', { name: 'Ask for Name' }) as HTMLInputElement).disabled).toBe(true);
  expect(screen.queryByRole('button', { name: 'Options' })).toBeNull();
  expect(screen.queryByText('+ a question of your own')).toBeNull();
});

it('counts as people do', () => {
  expect([1, 2, 3, 4, 11, 12, 13, 21, 102].map(ordinal)).toEqual([
    ...['1st', '2nd', '3rd', '4th', '11th', '12th', '13th', '21st', '102nd'],
  ]);
});

it('asks for a fee: by an option’s price, so many times, and always', async () => {
  const years = item('number', 'years', { label: { en: 'Years' } });
  const { user, kept } = edit([NAME, KIND, years]);
  await user.click(await screen.findByRole('button', { name: 'What it costs' }));
  await user.click(await screen.findByRole('button', { name: 'Ask for a fee' }));
  await user.selectOptions(await screen.findByLabelText('Priced by'), 'by “Kind”');
  await user.clear(await screen.findByLabelText('Price of A'));
  await user.type(screen.getByLabelText('Price of A'), '12,5');
  await user.selectOptions(screen.getByLabelText('How many times'), '× “Years”');
  await waitFor(() =>
    expect(kept().form!.fee).toMatchObject({
      ...{ service: 'till', currency: 'EUR' },
      charges: [{ by: 'option', question: 'kind', times: 'years', prices: [{ value: 'a', minor: 1250 }] }],
    }),
  );
  // What is no amount is marked, and not kept.
  await user.clear(screen.getByLabelText('Price of B'));
  await user.type(screen.getByLabelText('Price of B'), '1.999');
  expect(screen.getByLabelText('Price of B').getAttribute('aria-invalid')).toBe('true');
  await user.click(screen.getByRole('button', { name: 'leave out' }));
  await waitFor(() => expect(kept().form!.fee).toBeUndefined());
});

it('says which files are taken, and takes others', async () => {
  const { user, kept } = edit([item('file', 'photo', { label: { en: 'A photo' } })]);
  const [row] = await rows();
  await user.click(row!);
  await user.click(await screen.findByRole('button', { name: 'Limits' }));
  expect(screen.getByRole('button', { name: 'Limits' }).textContent).toBe('pictures, PDF of at most 10 MB');
  await user.click(screen.getByRole('checkbox', { name: 'PDF' }));
  await waitFor(() => expect(kept().form!.pages[0]!.items[0]!.accepts).toEqual(['picture']));
});
