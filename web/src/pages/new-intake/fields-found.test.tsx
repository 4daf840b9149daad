/** @jest-environment @happy-dom/jest-environment */
import type { FormField } from '@zusammen/core/forms';
import { readForms } from '@zusammen/core/forms';
import { render, screen } from '@testing-library/react';
import { makeFormField } from '../../../../core/testing/world.ts';
import type { Brought } from './brought.ts';
import { FieldsFound } from './fields-found.tsx';

const found = (fields: FormField[], more: Partial<Brought> = {}): HTMLElement => {
  render(
    <FieldsFound
      brought={{ ...{ name: 'x', fields, left: [], source: { kind: 'page' }, settings: {}, samples: [] }, ...more }}
    />,
  );
  return screen.getByLabelText('Fields found');
};

describe('the fields that were found', () => {
  it('are listed as a visitor sees them, with what was left out and why', () => {
    const [form] = readForms(
      '<form><label>E-mail <input name=mail type=email required></label><label>Password <input name=pw type=password></label></form>',
    );
    const told = found(form!.fields, { left: form!.left });
    expect(told.textContent).toContain('E-mailrequiredmailemail');
    expect(told.textContent).toContain('left out: a password is never taken in');
    expect(told.textContent).not.toContain('script');
  });

  it('say which of them only a script sends', () => {
    const [form] = readForms('<form><input name=mail placeholder=E-mail><label>Town <input></label></form>');
    const told = found(form!.fields);
    expect(told.textContent).toContain('1 field without a name: a browser sends nothing of it, the script');
    expect(screen.getAllByText(', sent by script only')).toHaveLength(1);
  });

  it('say that posting straight can’t work where no field has a name', () => {
    const told = found([makeFormField('town', { byScript: true }), makeFormField('street', { byScript: true })]);
    expect(told.textContent).toContain('posting straight can’t work');
  });

  it('have the values of a file or a feed beside them', () => {
    const told = found([makeFormField('town')], { source: { kind: 'file' }, samples: [{ town: 'Hollowbrook' }] });
    expect(told.textContent).toContain('Hollowbrook');
  });
});
