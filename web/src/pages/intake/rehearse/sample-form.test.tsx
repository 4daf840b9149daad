/** @jest-environment @happy-dom/jest-environment */
import type { FormField, SubmittedValues } from '@zusammen/core/forms';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { makeFormField } from '../../../../../core/testing/world.ts';
import { SampleForm } from './sample-form.tsx';

const field = (name: string, type: FormField['type'], more: Partial<FormField> = {}): FormField =>
  makeFormField(name, { type, ...more });
const options = (...values: string[]) => values.map((value) => ({ value, label: value.toUpperCase() }));

/** A form with these fields, and what it says it holds now. */
function filled(fields: FormField[], begin: SubmittedValues = {}) {
  const said: SubmittedValues[] = [];
  render(<SampleForm fields={fields} begin={begin} changed={(values) => said.push(values)} />);
  return { user: userEvent.setup(), now: () => said.at(-1) };
}

describe('a sample filled in', () => {
  it('has for each kind of field the control that a page would have', () => {
    filled([
      field('mail', 'email'),
      field('born', 'date'),
      field('story', 'long text'),
      field('agree', 'yes/no'),
      field('colour', 'option', { options: options('red', 'green') }),
      field('land', 'option', { options: options('de', 'pl', 'at', 'ch', 'cz', 'dk') }),
    ]);
    expect(screen.getByLabelText<HTMLInputElement>('mail').type).toBe('email');
    expect(screen.getByLabelText<HTMLInputElement>('born').type).toBe('date');
    expect(screen.getByLabelText('story').tagName).toBe('TEXTAREA');
    expect(screen.getByLabelText<HTMLInputElement>('agree').type).toBe('checkbox');
    expect(screen.getAllByRole('radio')).toHaveLength(2);
    expect(screen.getByLabelText('land').tagName).toBe('SELECT');
  });

  it('holds what is typed and chosen, and nothing of what is cleared again', async () => {
    const { user, now } = filled(
      [field('name', 'text'), field('crops', 'options', { options: options('pear', 'plum') })],
      { name: 'Orla' },
    );
    await user.click(screen.getByLabelText('PEAR'));
    await user.click(screen.getByLabelText('PLUM'));
    expect(now()).toEqual({ name: 'Orla', crops: ['pear', 'plum'] });
    await user.click(screen.getByLabelText('PEAR'));
    await user.clear(screen.getByLabelText('name'));
    expect(now()).toEqual({ crops: ['plum'] });
  });

  it('a box sends what the page’s box sends, and nothing once it is unticked', async () => {
    const { user, now } = filled([field('agree', 'yes/no', { initial: 'newsletter' })]);
    await user.click(screen.getByLabelText('agree'));
    expect(now()).toEqual({ agree: 'newsletter' });
    await user.click(screen.getByLabelText('agree'));
    expect(now()).toEqual({});
  });

  it.each([
    ['nein', false],
    ['0', false],
    ['', false],
    ['newsletter', true],
    ['on', true],
  ])('a box that came as “%s” is ticked: %s', (said, ticked) => {
    filled([field('agree', 'yes/no')], { agree: said });
    expect(screen.getByLabelText<HTMLInputElement>('agree').checked).toBe(ticked);
  });
});
